package shop

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/internal/store"
)

// JudgedMark is a mark with what will be done about it.
type JudgedMark struct {
	Mark
	Section string // that it lies in; empty off all sections
	Plastic bool
	Place   marks.Place
	marks.Verdict
}

// spotted is the most film, µm, that closed marks took at a place of a section.
func (p *Panel) spotted(section string) float64 {
	most := 0.0
	for _, m := range p.Marks {
		if m.Struck == nil && p.sectionAt(flatlay.Point{X: m.X, Y: m.Y}) == section {
			most = max(most, m.Spent)
		}
	}
	return most
}

// judge has the core judge marks of the panel, all at once.
func (p *Panel) judge(all []Mark, now time.Time) ([]JudgedMark, error) {
	by := marks.Panel{Shape: p.Shape, History: p.History(), Study: p.Study, Aim: p.Aim, Colour: p.colour(), Now: now}
	by.Spray, by.Climate = p.spray(), p.House.Climate
	if p.Options != nil && p.Aim.Levels() {
		l, err := p.ladderInHand()
		if err != nil {
			return nil, err
		}
		by.Ladder = &l
	}
	plain, sites := make([]marks.Mark, len(all)), make([]marks.Site, len(all))
	for i, m := range all {
		plain[i], sites[i] = m.Mark, p.site(p.sectionAt(flatlay.Point{X: m.X, Y: m.Y}))
	}
	judged := by.Judge(plain, sites)
	out := make([]JudgedMark, len(all))
	for i, m := range all {
		out[i] = JudgedMark{Mark: m, Section: sites[i].Key, Plastic: p.Substrate == Plastic, Place: judged[i].Place, Verdict: judged[i].Verdict}
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
		out.Begun, out.Gone = true, p.Work.Taken(p.log.Passes(section))
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
	if p.judged != nil {
		return p.judged, nil
	}
	var err error
	p.judged, err = p.judge(slices.DeleteFunc(slices.Clone(p.Marks), func(m Mark) bool { return m.Struck != nil }), now)
	return p.judged, err
}

// Tally holds spotting the open marks of a panel against working all of it.
type Tally struct {
	marks.Sum
	All   []JudgedMark
	Known bool // the film was read
}

// Tally of the panel's marks.
func (p *Panel) Tally(all []JudgedMark) (Tally, error) {
	var open []marks.Judged
	for _, m := range all {
		if m.Open() {
			open = append(open, marks.Judged{Mark: m.Mark.Mark, Place: m.Place, Verdict: m.Verdict})
		}
	}
	whole := marks.Way{}
	if p.Options != nil {
		l, err := p.panelLadder()
		if err != nil {
			return Tally{}, err
		}
		whole = marks.Way{Seconds: 60 * l.Minutes, Film: l.Film}
	}
	return Tally{marks.SumUp(open, p.Shape.Area()/1e6, whole, p.Car.Colour), all, p.Study != nil}, nil
}

// MarkCount is how many marks of a kind there are, with those that are open.
type MarkCount struct {
	Kind  marks.Kind
	Count int
	Open  []JudgedMark
}

// CountMarks counts marks by kind, in the order of the kinds.
func CountMarks(all []JudgedMark) []MarkCount {
	var out []MarkCount
	for _, k := range marks.Kinds() {
		c := MarkCount{Kind: k}
		for _, m := range all {
			if m.Kind != k {
				continue
			}
			c.Count++
			if m.Open() {
				c.Open = append(c.Open, m)
			}
		}
		if c.Count > 0 {
			out = append(out, c)
		}
	}
	return out
}

// Sizes of a mark that were given; nil says nothing. Film in µm, lengths in mm.
type Sizes struct {
	Length, Width, Angle, Size, Crest, Beside, Grade, Density *float64
	Class                                                     *marks.Class
	Note                                                      *string
}

func (in Sizes) put(m *marks.Mark, row *store.Mark) {
	for _, n := range []struct{ from, to *float64 }{
		{in.Length, &m.Length}, {in.Width, &m.Width}, {in.Angle, &m.Angle}, {in.Size, &m.Size},
		{in.Crest, &m.Crest}, {in.Beside, &m.Beside}, {in.Grade, &m.Grade}, {in.Density, &m.Density},
	} {
		if n.from != nil {
			*n.to = *n.from
		}
	}
	if in.Class != nil {
		m.Class = *in.Class
	}
	if in.Note != nil {
		row.Note = strings.TrimSpace(*in.Note)
	}
}

// Where a mark is found.
const (
	FoundInBooth    = "booth"
	FoundInWorkshop = "workshop"
)

var places = []string{FoundInBooth, FoundInWorkshop, "sun", "hand"}

// NewMark is a mark as it was placed. Empty Person and Found are the car's painter and
// the workshop.
type NewMark struct {
	ID, Person, Found string
	Kind              marks.Kind
	X, Y              float64
	Sizes             Sizes
}

// mostMarks is how many marks a panel may have, and mostNote how many letters a note.
const (
	mostMarks = 2000
	mostNote  = 500
)

// checkMark says what is wrong with a mark on a panel.
func checkMark(row store.Mark, shape flatlay.Panel) error {
	m := coreMark(row)
	var f marks.Fault
	if err := m.Check(); errors.As(err, &f) {
		return Refuse(BadValue, f.Field, f)
	}
	if err := checkPlace(shape, flatlay.Point{X: m.X, Y: m.Y}); err != nil {
		return err
	}
	if n := len([]rune(row.Note)); n > mostNote {
		return Refuse(LongNote, "note", mostNote, n)
	}
	if !slices.Contains(places, row.Found) {
		return Refuse(BadFound, "found", row.Found)
	}
	return nil
}

// PanelMark is a mark as it is now, with the tally of its panel.
type PanelMark struct {
	*Panel
	Mark  JudgedMark
	Tally Tally
}

func (s *Shop) panelMark(ctx context.Context, row store.Mark) (PanelMark, error) {
	p, err := s.Panel(ctx, row.PanelID)
	if err != nil {
		return PanelMark{}, err
	}
	all, err := p.JudgedMarks(s.now())
	if err != nil {
		return PanelMark{}, err
	}
	out := PanelMark{Panel: p}
	if j := find(all, func(j JudgedMark) bool { return j.ID == row.ID }); j != nil {
		out.Mark = *j
	} else if m := find(p.Marks, func(m Mark) bool { return m.ID == row.ID }); m != nil { // struck out
		one, err := p.judge([]Mark{*m}, s.now())
		if err != nil {
			return out, err
		}
		out.Mark = one[0]
	}
	out.Tally, err = p.Tally(all)
	return out, err
}

// AddMark keeps one mark.
func (s *Shop) AddMark(ctx context.Context, panelID string, in NewMark) (PanelMark, error) {
	p, err := s.panel(ctx, panelID)
	if err != nil {
		return PanelMark{}, err
	}
	if err := checkID(in.ID, OfMark); err != nil {
		return PanelMark{}, err
	}
	if len(p.Marks) >= mostMarks {
		return PanelMark{}, conflict(TooManyMarks, p.Name, len(p.Marks))
	}
	row := store.Mark{ID: in.ID, PanelID: p.ID, Found: in.Found, Person: p.Car.Painter, At: s.now(), Outcome: store.OutcomeOpen}
	if row.Found == "" {
		row.Found = FoundInWorkshop
	}
	if strings.TrimSpace(in.Person) != "" {
		if row.Person, err = personName(in.Person); err != nil {
			return PanelMark{}, err
		}
	}
	m := marks.Placed(in.Kind, in.X, in.Y, p.PeelGrade())
	in.Sizes.put(&m, &row)
	putMark(m, &row)
	if err := checkMark(row, p.Shape); err != nil {
		return PanelMark{}, err
	}
	if err := s.store.AddMark(ctx, &row); err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// MarkChange moves or sizes a mark; nil says nothing.
type MarkChange struct {
	X, Y  *float64
	Found *string
	Sizes Sizes
}

// ChangeMark moves or sizes a mark.
func (s *Shop) ChangeMark(ctx context.Context, id string, in MarkChange) (PanelMark, error) {
	old, err := s.store.Mark(ctx, id)
	if err != nil {
		return PanelMark{}, err
	}
	p, err := s.panel(ctx, old.PanelID)
	if err != nil {
		return PanelMark{}, err
	}
	return s.changeMark(ctx, id, func(row *store.Mark) error {
		m := coreMark(*row)
		if in.X != nil {
			m.X = *in.X
		}
		if in.Y != nil {
			m.Y = *in.Y
		}
		if in.Found != nil {
			row.Found = *in.Found
		}
		in.Sizes.put(&m, row)
		putMark(m, row)
		return checkMark(*row, p.Shape)
	})
}

func (s *Shop) changeMark(ctx context.Context, id string, change func(*store.Mark) error) (PanelMark, error) {
	row, err := s.store.ChangeMark(ctx, id, change)
	if err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// StrikeMark strikes a mark out.
func (s *Shop) StrikeMark(ctx context.Context, id, reason string) (PanelMark, error) {
	reason, err := strikeReason(reason)
	if err != nil {
		return PanelMark{}, err
	}
	return s.changeMark(ctx, id, func(m *store.Mark) error {
		m.Strike(reason, s.now())
		return nil
	})
}

// RestoreMark takes a strike back.
func (s *Shop) RestoreMark(ctx context.Context, id string) (PanelMark, error) {
	return s.changeMark(ctx, id, func(m *store.Mark) error {
		m.StruckAt, m.StruckReason = nil, ""
		return nil
	})
}

// MirrorMark copies a mark to the other side of the car, under an id of its own.
func (s *Shop) MirrorMark(ctx context.Context, id, newID string) (PanelMark, error) {
	m, err := s.store.Mark(ctx, id)
	if err != nil {
		return PanelMark{}, err
	}
	p, err := s.panel(ctx, m.PanelID)
	if err != nil {
		return PanelMark{}, err
	}
	to := p
	if key := p.Shape.Mirror; key != "" {
		row := find(p.siblings, func(o sibling) bool { return o.Key == key })
		if row == nil {
			return PanelMark{}, conflict(NoMirror, p.Name)
		}
		if to, err = s.panel(ctx, row.ID); err != nil {
			return PanelMark{}, err
		}
	} else if p.Shape.Side != "middle" {
		return PanelMark{}, conflict(OwnPart, p.Name)
	}
	if err := checkID(newID, OfMark); err != nil {
		return PanelMark{}, err
	}
	at := p.Shape.Reflect(flatlay.Point{X: m.XMM, Y: m.YMM}, to.Shape)
	m.ID, m.PanelID, m.XMM, m.YMM, m.AngleDeg = newID, to.ID, at.X, at.Y, -m.AngleDeg
	m.At, m.Outcome, m.OutcomeReason, m.SpentUM = s.now(), store.OutcomeOpen, "", 0
	m.ClosedAt, m.ClosedBy, m.StruckAt, m.StruckReason, m.HasPhoto = nil, "", nil, "", false
	if err := checkMark(m, to.Shape); err != nil {
		return PanelMark{}, err
	}
	if err := s.store.AddMark(ctx, &m); err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, m)
}
