package web

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// sequences has the core look at the sequences for the facts as they are, and
// work the one of the record.
func (s *Server) sequences(b *bench) error {
	var err error
	if len(b.sections) > 0 {
		j := b.job()
		if b.options, err = s.optionsFor(b.house, j); err != nil {
			return err
		}
		if b.whole = b.options; !j.Aim.Levels() {
			j.Aim = plan.Flat
			if b.whole, err = s.optionsFor(b.house, j); err != nil {
				return err
			}
		}
	}
	b.ladder = nil
	if b.record != nil && (b.worked() || b.record.Basis == b.basis()) {
		l, err := b.recordLadder()
		if err != nil {
			return err
		}
		b.freeze(&l)
		b.ladder = &l
	}
	return nil
}

// made is what the plan of record was made from. Those of the first shop kept
// their steps only.
func (b *bench) made() (plan.Made, error) {
	var m plan.Made
	if b.record.Made != "" {
		return m, json.Unmarshal([]byte(b.record.Made), &m)
	}
	j := b.job()
	j.Grade, j.Colour, j.Rules, j.Shelf = b.record.PeelGrade, plan.Colour(b.record.Colour), plan.Rules{}, shelf.Usual()
	var choices []plan.Choice
	for _, s := range b.record.Steps {
		choices = append(choices, plan.Choice{Item: s.Item, Backing: s.Backing, Passes: s.Passes})
	}
	return plan.Make(j, choices), nil
}

func (b *bench) recordLadder() (plan.Ladder, error) {
	m, err := b.made()
	if err != nil {
		return plan.Ladder{}, fmt.Errorf("plan of record %s: %w", b.record.ID, err)
	}
	return m.Ladder()
}

// freeze gives a ladder the passes, rates and film that were accepted, should the
// program's constants have changed since.
func (b *bench) freeze(l *plan.Ladder) {
	for i := range min(len(l.Steps), len(b.record.Steps)) {
		kept, s := b.record.Steps[i], &l.Steps[i]
		s.Passes, s.Rate, s.Film = kept.Passes, kept.RateUM, kept.FilmUM
	}
	l.Film = l.FilmOn("")
}

// besideGrade is the peel grade of the factory panels beside a panel, or of a
// good factory finish where nobody looked at one.
func besideGrade(car store.Car, shape flatlay.Panel) float64 {
	sum, n := 0.0, 0.0
	for _, p := range car.Panels {
		beside := slices.ContainsFunc(shape.Neighbours, func(n flatlay.Neighbour) bool { return n.Key == p.Key })
		if beside && film.Origin(p.Origin) == film.AtFactory {
			sum, n = sum+p.PeelGrade, n+1
		}
	}
	if n == 0 {
		return plan.FactoryGrade
	}
	return sum / n
}

// job is what a sequence for this panel is wanted for.
func (b *bench) job() plan.Job {
	j := plan.Job{
		Aim: b.aim(), Grade: b.row.PeelGrade, Reference: b.beside, Colour: plan.Colour(b.car.Colour), Single: b.row.Layers == string(api.LayersSingle),
		Hardness: b.house.shelf.Law.Hardness(b.row.Hardness), Scratch: plan.UsualSwirl, Area: b.shape.Area(), Perimeter: b.shape.Around(),
		Panels: b.together(), Shelf: b.house.shelf, Rules: b.house.rules,
	}
	for _, m := range b.marks {
		if openMark(m) && m.Kind == string(marks.Nib) {
			j.Nibs++
		}
	}
	for _, s := range b.sections {
		j.Sections = append(j.Sections, plan.Rect{W: s.W, H: s.H})
	}
	return j
}

// together says whether two panels carry a finish of one spraying.
func together(a, b store.Panel) bool {
	const within = time.Hour
	switch {
	case a.SprayedAt == nil || b.SprayedAt == nil:
		if a.SprayedAt != b.SprayedAt {
			return false
		}
	case a.SprayedAt.Sub(*b.SprayedAt).Abs() > within:
		return false
	}
	return a.Origin == b.Origin && a.Layers == b.Layers && a.Coats == b.Coats && a.WetUM == b.WetUM && a.Solids == b.Solids && a.DryUM == b.DryUM
}

func sideOf(key string) string {
	side, _, cut := strings.Cut(key, "-")
	if !cut {
		return ""
	}
	return side
}

// optionsFor are all sequences for a job, remembered.
func (s *Server) optionsFor(h house, j plan.Job) (*plan.Options, error) {
	k := j
	k.Shelf = shelf.Shelf{}
	return s.found.get(fmt.Sprintf("%s|%+v", h.key, k), func() (*plan.Options, error) { return plan.Find(j) })
}

// room is what a plan may take, µm: what the tightest section has of those where
// the least that leads to the aim fits, or where none does, the roomiest one.
// Before any reading it is what the history alone allows.
func (b *bench) room() float64 {
	if b.opened.Study == nil {
		g := film.GuessOf(b.history())
		return g.Policy.Headroom(g.Least)
	}
	need, leads := b.options.Need()
	fits, most := math.Inf(1), math.Inf(-1)
	for _, s := range b.opened.Study.Sections {
		h := b.headroomOf(s)
		if leads && h >= need {
			fits = math.Min(fits, h)
		}
		most = math.Max(most, h)
	}
	if math.IsInf(fits, 1) {
		return most
	}
	return fits
}

// roomDoubt is the room with the doubt of the clear that it rests on, µm.
func (b *bench) roomDoubt() film.Estimate {
	out := film.Estimate{Mean: b.room()}
	if b.opened.Study == nil {
		out.SD = film.GuessOf(b.history()).Least.Estimate().SD
		return out
	}
	for _, s := range b.opened.Study.Sections {
		if b.headroomOf(s) == out.Mean {
			out.SD = s.Least.Estimate().SD
		}
	}
	return out
}

// headroomOf is the headroom of a section after what its closed marks and its
// passes took; no more than a fine polish where the total forbids sanding.
func (b *bench) headroomOf(s film.SectionFilm) float64 {
	var passes []int
	if b.ladder != nil {
		passes = b.passes(s.Key)
	}
	s.Least = s.Least.Less(b.spotted(s.Key))
	h := b.opened.Standing(s, passes, 0).Headroom
	if s.Film.Mean <= film.GateShut {
		h = math.Min(h, film.FinePolish)
	}
	return h
}

// bestWay is the balanced way within the film, or the one that goes furthest.
func (b *bench) bestWay() (plan.Result, error) { return b.options.Best(b.room()) }

// wants is the film that the aim of the panel asks for before a plan is of
// record, µm: the least that any sequence takes to it. And what it is for.
func (b *bench) wants() (um float64, what string) {
	what = map[plan.Aim]string{plan.PolishOnly: "the mildest polish", plan.NibsOnly: "spotting a nib, with its finish",
		plan.Match: "the mildest way to the texture beside it", plan.Flat: "the mildest way to flat"}[b.aim()]
	if b.options == nil {
		return plan.SpotFinish(plan.Colour(b.car.Colour)).Film, what
	}
	need, leads := b.options.Need()
	if !leads {
		return plan.MostFilm, "an aim that nothing on the shelf leads to"
	}
	return need, what
}
