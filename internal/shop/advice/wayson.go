package advice

import (
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/panel"
)

// WayOnCode names what can be done where nothing reaches the aim of a panel.
type WayOnCode string

// The ways on: those that keep the aim, questions whose answers may open it, and less than
// the aim.
const (
	OnFloor    WayOnCode = "agreed_floor" // the owner agrees that less stays
	OnCoat     WayOnCode = "coat"         // one more coat of clear first
	OnQuestion WayOnCode = "question"     // see Help
	OnAim      WayOnCode = "aim"          // a milder aim
	OnSofter   WayOnCode = "softer_aim"   // as flat as the film allows
	OnLeave    WayOnCode = "leave"
	OnShelf    WayOnCode = "shelf" // nothing on the shelf leads there
)

// WayOn is one of them: what it takes (µm, minutes), the floor that it needs (0 for the one
// that holds) and the highest that would do, and the verdict that it brings; a question has
// its Help with the floor that holds, and With where a lower one could be agreed.
type WayOn struct {
	Code          WayOnCode
	Aim           plan.Aim
	Floor, Exact  float64
	Film, Minutes float64
	Grade         float64 // peel that it ends with
	Verdict       *film.Verdict
	Help, With    *film.Help
	WithFloor     float64
}

// usualAgreed is a floor that owners agree to, µm (judgement).
const usualAgreed = 25.0

// WaysOn is a panel whose aim nothing reaches: what the aim takes at the section that
// decides, how that stands, and all ways on.
type WaysOn struct {
	Film, Minutes float64 // of the mildest way to the aim, µm; 0 where nothing leads there
	Section       film.SectionFilm
	Standing      level.Standing
	Offered       float64 // floor that the owner may be asked for, µm; 0 for none
	Locks         float64 // film from which it is too likely to go through, µm
	Bars          []FloorBar
	Ways          []WayOn
}

// FloorBar says what a floor makes of films: up to Open µm a spend is open, up to Tight
// tight.
type FloorBar struct{ Floor, Open, Tight float64 }

func bar(sec film.SectionFilm, spots bool) FloorBar {
	open, most := sec.Policy.Rooms(sec.Least, sec.Film.Mean, spots)
	return FloorBar{sec.Policy.Floor, math.Max(open, 0), math.Max(most, 0)}
}

// OfferedFloor is the floor that an owner is asked for where the highest that would do is
// exact, µm: an owner keeps 25 in mind, not 29.
func OfferedFloor(exact float64) float64 {
	const fives = 5.0
	return math.Max(math.Floor(exact/fives)*fives, film.LeastFloor)
}

// FindWaysOn of a panel that was read.
func FindWaysOn(p *panel.Panel) (WaysOn, error) {
	need, reachable := p.Options.Need()
	out := WaysOn{}
	if reachable {
		ways, _, err := p.Options.Offers(math.Inf(1))
		if err != nil {
			return out, err
		}
		if len(ways) > 0 {
			out.Film, out.Minutes = ways[0].Ladder.Film, ways[0].Ladder.Minutes
		}
	}
	var all []level.Standing
	for _, s := range p.Study.Sections {
		all = append(all, p.StandingFor(s, need))
	}
	i := level.Deciding(all)
	out.Section, out.Standing = p.SectionFilm(p.Study.Sections[i]), all[i]
	if !reachable {
		out.Ways = append(out.Ways, WayOn{Code: OnShelf})
	} else if err := keepTheAim(p, &out); err != nil {
		return out, err
	}
	out.Locks = bar(WithFloor(out.Section, 0), true).Tight
	out.Bars = []FloorBar{bar(out.Section, p.Aim.SpotsOnly())}
	if out.Offered > 0 {
		out.Bars = append(out.Bars, bar(WithFloor(out.Section, out.Offered), p.Aim.SpotsOnly()))
	}
	return out, lessThanTheAim(p, &out, i)
}

// keepTheAim adds the ways that reach the aim after all, and what could be asked.
func keepTheAim(p *panel.Panel, out *WaysOn) error {
	sec, spend, spots := out.Section, film.SpendDoubt(out.Film), p.Aim.SpotsOnly()
	exact, err := agreeable(p, sec)
	if err != nil {
		return err
	}
	if exact > 0 {
		offered := OfferedFloor(exact)
		way, a, err := mildest(asIf(p, p.Options, offered))
		if err != nil {
			return err
		}
		if way != nil {
			out.Offered = offered
			out.Ways = append(out.Ways, WayOn{Code: OnFloor, Floor: offered, Exact: exact, Film: way.Ladder.Film, Minutes: way.Ladder.Minutes, Verdict: &a.Verdict})
		}
	}
	if p.Finish() != film.SingleStaged && p.Finish() != film.FactoryFinish {
		v := sec.Policy.Judge(sec.Least.Raised(oneCoat), sec.Film.Mean+oneCoat.Mean, spend, spots)
		out.Ways = append(out.Ways, WayOn{Code: OnCoat, Film: out.Film, Minutes: out.Minutes, Verdict: &v})
	}
	if p.Worked() {
		return nil
	}
	const most = 3
	with := map[film.HelpCode]film.Help{}
	lower := out.Offered
	if lower == 0 { // shut by the way through: knowing more may open it with a lower floor
		lower = usualAgreed
	}
	if lower < sec.Policy.Floor {
		for _, h := range helps(p, WithFloor(sec, lower), spend) {
			with[h.Code] = h
		}
	}
	helps := helps(p, sec, spend)
	helps = slices.DeleteFunc(helps, func(h film.Help) bool { return math.Max(h.Fits, with[h.Code].Fits) < faintHelp })
	for _, h := range helps[:min(len(helps), most)] {
		way := WayOn{Code: OnQuestion, Help: &h, Film: out.Film}
		if w, ok := with[h.Code]; ok {
			way.With, way.WithFloor = &w, lower
		}
		out.Ways = append(out.Ways, way)
	}
	return nil
}

// faintHelp is the chance from which on a question is worth asking.
const faintHelp = 0.03

// oneCoat is what one more coat of clear adds, µm.
var oneCoat = film.Estimate{Mean: film.CoatFilm, SD: film.CoatFilm * film.CoatSpread}

func WithFloor(sec film.SectionFilm, um float64) film.SectionFilm {
	sec.Policy.Floor = math.Min(sec.Policy.Floor, um)
	return sec
}

// asIf is the panel with other sequences, those of a milder aim, and with no more than so
// much clear to stay where that is agreed (µm, 0 for the floor that holds).
func asIf(p *panel.Panel, o *plan.Options, floor float64) *panel.Panel {
	q, study := *p, *p.Study
	if floor > 0 {
		study.Sections = slices.Clone(study.Sections)
		for i, s := range study.Sections {
			study.Sections[i] = WithFloor(s, floor)
		}
	}
	q.Aim, q.Options, q.Study, q.Answers, q.Judged = o.Job.Aim, o, &study, &panel.Answers{}, nil
	q.Opened = &panel.Studied{Panel: p.Film()}
	return &q
}

// mildest is the way to the aim that takes the least film, and what accepting it comes to where
// that decides; nil where nothing reaches it.
func mildest(p *panel.Panel) (*plan.Way, level.Acceptance, error) {
	of, err := p.Offers()
	if err != nil || of.Refusal != nil || len(of.Ways) == 0 {
		return nil, level.Acceptance{}, err
	}
	_, a := p.DecidesFor(of.Ways[0].Ladder)
	return &of.Ways[0], a, nil
}

// agreeable is the highest floor (whole µm) with which something reaches the aim, below the
// one that holds; 0 where none is. sec decides.
func agreeable(p *panel.Panel, sec film.SectionFilm) (float64, error) {
	most := math.Min(math.Ceil(sec.Policy.Floor)-1, math.Floor(sec.Least.Estimate().Mean))
	for um := most; um >= film.LeastFloor; um-- {
		if way, _, err := mildest(asIf(p, p.Options, um)); err != nil || way != nil {
			return um, err
		}
	}
	return 0, nil
}

// lessThanTheAim adds the milder aims that are not shut, alone or with the floor that the
// owner may be asked for, and leaving it. i is the section that decides.
func lessThanTheAim(p *panel.Panel, out *WaysOn, i int) error {
	milder, err := MilderThan(p, out.Offered)
	if err != nil {
		return err
	}
	for _, m := range milder {
		out.Ways = append(out.Ways, WayOn{Code: OnAim, Aim: m.Aim, Floor: m.Agree, Film: m.Film, Minutes: m.Minutes, Grade: m.Grade, Verdict: &m.Verdict})
	}
	of, err := p.Offers()
	if err != nil {
		return err
	}
	if of.Refusal != nil && len(of.Ways) > 0 && p.Aim.Levels() {
		end := of.Ways[0].Ladder
		if end.End().Grade() < p.PeelGrade()-worthGrade {
			_, a := p.DecidesFor(end)
			out.Ways = append(out.Ways, WayOn{Code: OnSofter, Film: end.Film, Minutes: end.Minutes, Grade: end.End().Grade(), Verdict: &a.Verdict})
		}
	}
	now := p.StandingFor(p.Study.Sections[i], 0).Verdict
	out.Ways = append(out.Ways, WayOn{Code: OnLeave, Grade: p.PeelGrade(), Verdict: &now})
	return nil
}

// worthGrade is from how many grades of peel on a softer aim is one.
const worthGrade = 0.3

// Milder is an aim that asks less than the panel's: what its mildest way takes (µm and
// minutes), the peel that it leaves and the verdict on it at the section that decides, with
// the floor that the owner has to agree to, 0 for none.
type Milder struct {
	Aim                  plan.Aim
	Film, Minutes, Grade float64
	film.Verdict
	Agree float64
}

// MilderThan are the milder aims that are not shut, or would not be if the owner agreed to that
// floor (µm, 0 for none).
func MilderThan(p *panel.Panel, offered float64) ([]Milder, error) {
	if p.Study == nil || p.Options == nil || p.Aim == plan.PolishOnly {
		return nil, nil
	}
	var out []Milder
	for _, aim := range []plan.Aim{plan.Match, plan.NibsOnly, plan.PolishOnly} {
		if aim == p.Aim || p.Aim == plan.NibsOnly && aim == plan.Match {
			continue
		}
		q := *p
		q.Aim = aim
		j := q.Job()
		j.Nibs = max(j.Nibs, 1)
		o, err := plan.Find(j)
		if err != nil {
			return nil, err
		}
		for _, floor := range []float64{0, offered} {
			way, a, err := mildest(asIf(p, o, floor))
			if err != nil {
				return nil, err
			}
			if way != nil {
				l := way.Ladder
				out = append(out, Milder{aim, l.Film, l.Minutes, l.End().Grade(), a.Verdict, floor})
				break
			}
			if offered == 0 {
				break
			}
		}
	}
	return out, nil
}
