package panel

import (
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/internal/shop/facts"
)

// InTheWay counts the marks that are cut at their place before anything goes over them.
func InTheWay(all []JudgedMark) int {
	n := 0
	for _, m := range all {
		if m.Open() && m.Do.AtItsPlace() {
			n++
		}
	}
	return n
}

// JudgedMark is a mark with what will be done about it.
type JudgedMark struct {
	facts.Mark
	Section string // that it lies in; empty off all sections
	Plastic bool
	Place   marks.Place
	marks.Verdict
}

// Spotted is the most film, µm, that closed marks took at a place of a section.
func (p *Panel) Spotted(section string) float64 {
	most := 0.0
	for _, m := range p.Marks {
		if m.Struck == nil && p.SectionAt(flatlay.Point{X: m.X, Y: m.Y}) == section {
			most = max(most, m.Spent)
		}
	}
	return most
}

// Judge has the core judge marks of the panel, all at once.
func (p *Panel) Judge(all []facts.Mark, now time.Time) ([]JudgedMark, error) {
	by := marks.Panel{Shape: p.Shape, History: p.History(), Study: p.Study, Aim: p.Aim, Colour: p.Colour(), Now: now}
	by.Spray, by.Climate = p.spray(), p.House.Climate
	if p.Options != nil && p.Aim.Levels() {
		l, err := p.LadderInHand()
		if err != nil {
			return nil, err
		}
		by.Ladder = &l
	}
	plain, sites := make([]marks.Mark, len(all)), make([]marks.Site, len(all))
	for i, m := range all {
		plain[i], sites[i] = m.Mark, p.site(p.SectionAt(flatlay.Point{X: m.X, Y: m.Y}))
	}
	judged := by.Judge(plain, sites)
	out := make([]JudgedMark, len(all))
	for i, m := range all {
		out[i] = JudgedMark{Mark: m, Section: sites[i].Key, Plastic: p.Substrate == facts.Plastic, Place: judged[i].Place, Verdict: judged[i].Verdict}
	}
	return out, nil
}

// site is a section as it stands for the marks that lie in it.
func (p *Panel) site(section string) marks.Site {
	out := marks.Site{Key: section}
	if section == "" {
		return out
	}
	if p.Work != nil {
		out.Begun, out.Gone = true, p.Work.Taken(p.Log.Passes(section))
	}
	if p.Study != nil {
		if s, ok := p.Study.Section(section); ok {
			st := p.Standing(s)
			out.Fits = st.State != film.Shut
			if out.Begun {
				out.Wanted = st.Spend
			}
		}
	}
	return out
}

// JudgedMarks are the marks that were not struck out, judged once.
func (p *Panel) JudgedMarks(now time.Time) ([]JudgedMark, error) {
	if p.Judged != nil {
		return p.Judged, nil
	}
	var err error
	p.Judged, err = p.Judge(slices.DeleteFunc(slices.Clone(p.Marks), func(m facts.Mark) bool { return m.Struck != nil }), now)
	return p.Judged, err
}
