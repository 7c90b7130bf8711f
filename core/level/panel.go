package level

import (
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
)

// Reading is one reading of the total film (µm) at a place (mm) of a panel that
// may have been worked by then: Passes is what each step of the ladder had done
// on its section, nil or all zero for a reading from before any work.
type Reading struct {
	X, Y, Film float64
	Passes     []int
	// Restored is what passes of an earlier plan had taken there by then (µm of crest
	// film): it is put back, with its doubt.
	Restored film.Estimate
	Sure     bool // somebody stands for it although it does not fit the others
}

func (r Reading) opening() bool {
	for _, n := range r.Passes {
		if n > 0 {
			return false
		}
	}
	return true
}

// Panel is a panel with all that was read and done on it. Study is its film as
// it was before any work; Work, nil without a ladder, what has been learned of
// the cut.
type Panel struct {
	Study *film.Study
	Work  *Work

	gauge    film.Gauge
	crew     Crew
	measures []Measure
	spots    int
}

// Under is the panel as it would be worked with another ladder whose first steps are those
// of the present one: what the readings taught of the cut stays.
func (p Panel) Under(l plan.Ladder) (Panel, error) {
	crew := p.crew.over(len(l.Steps))
	measures := make([]Measure, len(p.measures))
	for i, m := range p.measures {
		m.Passes = append(slices.Clone(m.Passes), make([]int, len(l.Steps)-len(m.Passes))...)
		measures[i] = m
	}
	var err error
	p.Work, err = NewWorkBy(crew, l, measures, p.spots, p.gauge)
	return p, err
}

// By is the panel as a crew would work it with a ladder from its first step on: of the cut
// it knows what the shop's history tells.
func (p Panel) By(crew Crew, l plan.Ladder) Panel {
	p.measures, p.spots = nil, 0
	p.crew = crew.over(len(l.Steps))
	p.Work = unread(p.crew, l, nil, 0, p.gauge)
	return p
}

// over is the crew for so many steps: whoever works the last works those after it.
func (c Crew) over(steps int) Crew {
	c.Persons = slices.Clone(c.Persons[:min(len(c.Persons), steps)])
	for len(c.Persons) < steps && len(c.Persons) > 0 {
		c.Persons = append(c.Persons, c.Persons[len(c.Persons)-1])
	}
	return c
}

// pairNear is how near, in mm, a reading must be to an opening reading to be
// one of the same spot.
const pairNear = 15.0

// OpenPanel makes the film of a panel from all its readings. A reading after
// passes teaches the cut when its spot was read before any work. At a new spot
// it corrects the film map instead: what the passes have taken is put back,
// with its doubt. It returns film.ErrReadings without a reading.
func OpenPanel(ground *film.Ground, facts film.Facts, readings []Reading, ladder *plan.Ladder, g film.Gauge) (Panel, error) {
	return OpenPanelBy(Crew{}, ground, facts, readings, ladder, g)
}

// Crew is who works a panel and what the shop knows of their cut on this paint.
type Crew struct {
	Hands   Hands
	Persons []string // by step of the ladder
	Paint   string
}

// OpenPanelBy is OpenPanel for somebody whose cut the shop's history tells of.
func OpenPanelBy(crew Crew, ground *film.Ground, facts film.Facts, readings []Reading, ladder *plan.Ladder, g film.Gauge) (Panel, error) {
	opening, later := parted(readings, ladder != nil)
	if len(readings) == 0 && facts.Borrowed == nil {
		return Panel{}, film.ErrReadings
	}
	out := Panel{gauge: g, crew: crew}
	if ladder != nil {
		measures, rest := pair(opening, later)
		w, err := NewWorkBy(crew, *ladder, measures, len(opening), g)
		if err != nil {
			return Panel{}, err
		}
		out.Work, out.measures, out.spots = w, measures, len(opening)
		for _, r := range rest {
			taken := w.Taken(r.Passes)
			opening = append(opening, film.Place{X: r.X, Y: r.Y,
				Film: r.Film + taken.Mean + w.scratched(r.Passes), Var: taken.SD*taken.SD + r.Restored.SD*r.Restored.SD})
		}
	}
	study, err := film.NewStudy(ground, facts, opening, g)
	if err != nil {
		return Panel{}, err
	}
	out.Study = study
	return out, nil
}

// parted tells the readings from before any work from the later ones.
func parted(readings []Reading, worked bool) (opening []film.Place, later []Reading) {
	for _, r := range readings {
		r.Film += r.Restored.Mean
		if r.opening() || !worked {
			opening = append(opening, film.Place{X: r.X, Y: r.Y, Film: r.Film, Var: r.Restored.SD * r.Restored.SD, Sure: r.Sure})
		} else {
			later = append(later, r)
		}
	}
	return opening, later
}

// History is what a worked panel tells of the cut: every spot of it that was read
// before any work and again after passes. id names the panel, persons who worked each
// step.
func History(id string, persons []string, paint string, readings []Reading, l plan.Ladder) []WorkedSpot {
	opening, later := parted(readings, true)
	measures, _ := pair(opening, later)
	classes := Classes(l)
	var out []WorkedSpot
	for _, m := range measures {
		p := WorkedSpot{Loss: m.Loss, Panel: id, Spot: m.Spot}
		for i, n := range m.Passes {
			if n == 0 {
				continue
			}
			p.Cuts = append(p.Cuts, Cut{persons[i], paint, classes[i]})
			p.Curves = append(p.Curves, l.Steps[i].Curve())
			p.Moved = append(p.Moved, l.Steps[i].Removes(n, l.Steps[i].Rate))
			p.Step = append(p.Step, i)
			p.Offset += l.Steps[i].GaugeOffset()
		}
		out = append(out, p)
	}
	return out
}

// pair finds the later readings of spots that had been read before any work.
func pair(opening []film.Place, later []Reading) (measures []Measure, rest []Reading) {
	for _, r := range later {
		best := film.Nearest(len(opening), func(i int) (x, y float64) { return opening[i].X, opening[i].Y }, r.X, r.Y, pairNear)
		if best < 0 {
			rest = append(rest, r)
			continue
		}
		measures = append(measures, Measure{Passes: r.Passes, Loss: opening[best].Film - r.Film, Spot: best})
	}
	return measures, rest
}

// Expected is what the gauge should show at a place (mm) on which each step has done so
// many passes, µm; nil for none. Its doubt is that of one reading.
func (p Panel) Expected(q flatlay.Point, passes []int) film.Estimate {
	e := p.Study.At(q.X, q.Y)
	noise := reread(p.gauge)
	if p.Work == nil || passes == nil {
		return film.Estimate{Mean: e.Mean, SD: math.Hypot(e.SD, noise)}
	}
	taken := p.Work.Taken(passes)
	return film.Estimate{Mean: e.Mean - taken.Mean - p.Work.scratched(passes), SD: math.Hypot(math.Hypot(e.SD, taken.SD), noise)}
}

// Standing is how a section stands now: its film at a usual place, the clear at its thin
// end; what may be spent without asking anybody (Headroom) and what a plan may use at
// most (Room), µm; what is still to be spent, and the verdict on that.
type Standing struct {
	Film, Clear    film.Estimate
	Headroom, Room float64
	Spend          float64
	film.Verdict
}

// CanGo is what may go without asking anybody, µm, whatever the state is: never below zero.
// It falls when film falls.
func (s Standing) CanGo() float64 { return math.Max(s.Headroom, 0) }

// Keeps is the clear that stays at the thinnest place once the spend is made,
// when the spend has that doubt (µm).
func (s Standing) Keeps(doubt float64) film.Estimate {
	return film.Estimate{Mean: s.Clear.Mean - s.Spend, SD: math.Hypot(s.Clear.SD, doubt)}
}

// Standing of a section before any work for a spend that is to come, on spots only or all
// over.
func (p Panel) Standing(s film.SectionFilm, spend film.Spend, spots bool) Standing {
	open, most := s.Policy.Rooms(s.Least, s.Film.Mean, spots)
	return Standing{s.Film, s.Least.Estimate(), open, most, spend.Mean, s.Policy.Judge(s.Least, s.Film.Mean, spend, spots)}
}

// StandingAt is the standing of a section that is so far, for what is left of its steps.
func (p Panel) StandingAt(s film.SectionFilm, at Progress, spots bool) Standing {
	from := p.Work.prospect(s, at)
	now := s.Least.Minus(from.gone)
	out := Standing{
		Film:  film.Estimate{Mean: s.Film.Mean - from.gone.Mean, SD: math.Hypot(s.Film.SD, from.gone.SD)},
		Clear: now.Estimate(),
	}
	spendable := from.spendable - from.gone.Mean
	open, most := s.Policy.Rooms(now, out.Film.Mean, spots)
	out.Headroom, out.Room = math.Min(open, spendable), math.Min(most, spendable)
	var o film.Outlook
	o, out.Verdict = from.verdict(spots)
	out.Spend = o.Spend
	return out
}
