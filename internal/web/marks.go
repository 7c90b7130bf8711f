package web

import (
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// markOf is a kept mark as the core wants it.
func markOf(m store.Mark) marks.Mark {
	return marks.Mark{Kind: marks.Kind(m.Kind), X: m.XMM, Y: m.YMM, Length: m.LengthMM, Width: m.WidthMM, Angle: m.AngleDeg,
		Class: marks.Class(m.Class), Size: m.SizeUM, Crest: m.CrestUM, Beside: m.BesideUM, Grade: m.Grade, Density: m.DensityDM2}
}

// rowOf puts what the core says of a mark into its row.
func rowOf(m marks.Mark, row *store.Mark) {
	row.Kind, row.XMM, row.YMM = string(m.Kind), m.X, m.Y
	row.LengthMM, row.WidthMM, row.AngleDeg = m.Length, m.Width, m.Angle
	row.Class, row.SizeUM, row.CrestUM, row.BesideUM = string(m.Class), m.Size, m.Crest, m.Beside
	row.Grade, row.DensityDM2 = m.Grade, m.Density
}

// MarkRow is the row of a new mark, without its panel and person.
func MarkRow(m marks.Mark) store.Mark {
	var row store.Mark
	rowOf(m, &row)
	return row
}

func live(m store.Mark) bool { return m.StruckAt == nil }
func openMark(m store.Mark) bool {
	return m.StruckAt == nil && m.Outcome == store.OutcomeOpen
}

// spotted is the most film, µm, that closed marks took at a place of a section.
func (b *bench) spotted(section string) float64 {
	most := 0.0
	for _, m := range b.marks {
		if live(m) && m.SpentUM > most && flatlay.SectionAt(b.sections, flatlay.Point{X: m.XMM, Y: m.YMM}) == section {
			most = m.SpentUM
		}
	}
	return most
}

// judged are marks with their verdicts, in their order.
type judged struct {
	row     store.Mark
	section string
	plastic bool
	place   marks.Place
	marks.Judged
}

// judge has the core judge marks of the panel, all at once.
func (b *bench) judge(rows []store.Mark, now time.Time) ([]judged, error) {
	out := make([]judged, len(rows))
	places, err := b.places(rows)
	if err != nil {
		return nil, err
	}
	for i, row := range rows {
		m := markOf(row)
		out[i].row, out[i].place, out[i].plastic = row, places[i], b.row.Substrate == string(api.Plastic)
		out[i].section = flatlay.SectionAt(b.sections, flatlay.Point{X: row.XMM, Y: row.YMM})
		out[i].Judged = marks.Judged{Mark: m, Verdict: marks.Judge(m, places[i], b.work(out[i].section, now))}
	}
	return out, nil
}

// places says what is known of the film where marks lie.
func (b *bench) places(rows []store.Mark) ([]marks.Place, error) {
	out := make([]marks.Place, len(rows))
	st := b.opened.Study
	if st == nil || len(rows) == 0 {
		return out, nil
	}
	spots := make([]film.Spot, len(rows))
	for i, m := range rows {
		spots[i] = film.SpotOf(b.shape, m.XMM, m.YMM)
	}
	totals, err := st.Map.At(spots)
	if err != nil {
		return nil, err
	}
	for i, m := range rows {
		gone := film.Estimate{}
		at := flatlay.Point{X: m.XMM, Y: m.YMM}
		section := flatlay.SectionAt(b.sections, at)
		if b.opened.Work != nil && section != "" {
			gone = b.opened.Work.Taken(b.passes(section))
		}
		out[i] = marks.At(st.PolicyAt(at), totals[i], st.ClearAt(at, totals[i]), gone)
	}
	return out, nil
}

// work is what is planned where a mark of that section lies.
func (b *bench) work(section string, now time.Time) marks.Work {
	w := marks.Work{Aim: b.aim(), Colour: plan.Colour(b.car.Colour), Spot: plan.SpotFinish(plan.Colour(b.car.Colour)), Now: now}
	if b.options != nil && b.aim().Levels() {
		l := b.ladderInHand()
		w.Levelled, w.PanelFilm = l.Levelled(), l.FilmOn(section)
		if b.opened.Work != nil && section != "" { // what passes took is off the headroom already
			w.PanelFilm = b.remaining(section)
		}
	}
	if st := b.opened.Study; st != nil {
		w.Clear = st.Clear.Mean
		if s, ok := st.Section(section); ok {
			w.Fits = b.standing(s).State != film.Shut
		}
	} else if f := b.facts(); f.Finish == film.Refinished && f.Coats > 0 {
		w.Clear = f.Ratio.Of(film.Coats(f.Coats, f.Coat)).Mean
	}
	if b.row.SprayedAt != nil {
		w.Sprayed, w.Baked = *b.row.SprayedAt, b.row.Cure == string(api.CureBaked)
	}
	return w
}

// liveMarks are the marks that were not struck out, judged once.
func (b *bench) liveMarks(now time.Time) ([]judged, error) {
	if b.verdicts != nil {
		return b.verdicts, nil
	}
	var rows []store.Mark
	for _, m := range b.marks {
		if live(m) {
			rows = append(rows, m)
		}
	}
	var err error
	b.verdicts, err = b.judge(rows, now)
	return b.verdicts, err
}

// sum holds spotting the open marks against working the whole panel.
func (b *bench) sum(all []judged) marks.Sum {
	var open []marks.Judged
	for _, j := range all {
		if openMark(j.row) {
			open = append(open, j.Judged)
		}
	}
	whole := marks.Way{}
	if b.options != nil {
		l := b.panelLadder()
		whole = marks.Way{Seconds: 60 * l.Minutes, Film: l.Film}
	}
	return marks.SumUp(open, b.shape.Area()/1e6, whole, b.car.Colour)
}

func (b *bench) tally(all []judged) api.Tally {
	s := b.sum(all)
	t := api.Tally{Nibs: s.Nibs, NibsPerM2: s.PerM2, Counts: countsOf(all), SpotMinutes: s.Spot.Seconds / 60, SpotFilmUm: s.Spot.Film,
		PanelMinutes: s.Panel.Seconds / 60, PanelFilmUm: s.Panel.Film, EvenNibs: s.Even, Quicker: api.TallyQuicker(s.Quicker),
		FeatherMm: s.Feather, Known: b.opened.Study != nil}
	t.Text = tallyText(s, b.aim(), t.Known)
	return t
}

// countsOf counts marks by kind, in the order of the kinds.
func countsOf(all []judged) []api.MarkCount {
	out := []api.MarkCount{}
	for _, k := range marks.Kinds() {
		c := api.MarkCount{Kind: api.MarkKind(k), Name: k.Name()}
		var verdicts []judged
		for _, j := range all {
			if j.Kind != k {
				continue
			}
			c.Count++
			if openMark(j.row) {
				c.Open++
				verdicts = append(verdicts, j)
			}
		}
		if c.Count > 0 {
			c.Text = countText(verdicts)
			out = append(out, c)
		}
	}
	return out
}

// numbers counts the marks of each kind in the order in which they were placed.
func numbers(rows []store.Mark) map[string]int {
	n, out := map[string]int{}, map[string]int{}
	for _, m := range rows {
		n[m.Kind]++
		out[m.ID] = n[m.Kind]
	}
	return out
}

func (b *bench) markView(j judged, no int) api.Mark {
	r := j.row
	out := api.Mark{
		Id: r.ID, PanelId: r.PanelID, No: no, Kind: api.MarkKind(r.Kind), Name: j.Kind.Name(), Shape: api.MarkShape(j.Kind.Shape()),
		XMm: r.XMM, YMm: r.YMM, LengthMm: r.LengthMM, WidthMm: r.WidthMM, AngleDeg: r.AngleDeg, Class: r.Class, SizeUm: r.SizeUM,
		CrestUm: r.CrestUM, BesideUm: r.BesideUM, Grade: r.Grade, DensityDm2: r.DensityDM2, Note: r.Note, Found: api.Found(r.Found),
		Person: r.Person, At: r.At, Outcome: api.Outcome(r.Outcome), Do: api.Do(j.Do), Text: markText(j, b.aim()),
		ReliefUm: estimate(j.Verdict.Relief), FilmUm: j.Film, Tell: j.Do.Tell(), Photo: r.HasPhoto,
	}
	if r.ClosedAt != nil {
		out.ClosedAt, out.ClosedBy, out.OutcomeReason = r.ClosedAt, &r.ClosedBy, &r.OutcomeReason
	}
	if r.StruckAt != nil {
		out.StruckAt, out.StruckReason = r.StruckAt, &r.StruckReason
	}
	if !j.Ready.IsZero() {
		out.ReadyAt = ptr(j.Ready)
	}
	if j.place.Known {
		out.HeadroomUm = ptr(j.place.Headroom)
	}
	if j.section != "" {
		out.Section = &j.section
	}
	return out
}

func (b *bench) markViews(all []judged, keep func(judged) bool) []api.Mark {
	no := numbers(b.marks)
	out := []api.Mark{}
	for _, j := range all {
		if keep(j) {
			out = append(out, b.markView(j, no[j.row.ID]))
		}
	}
	return out
}

func dots(rows []store.Mark) []api.MarkDot {
	out := []api.MarkDot{}
	for _, m := range rows {
		if openMark(m) {
			out = append(out, api.MarkDot{Kind: api.MarkKind(m.Kind), XMm: m.XMM, YMm: m.YMM})
		}
	}
	return out
}
