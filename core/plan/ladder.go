// Package plan makes the sequence of grits for a panel: level, refine, refine,
// compound, polish, each with its passes, film and minutes, by the contact
// model of package surface.
//
// Film is crest film in µm, what a gauge loses; removal is mean removal in µm.
package plan

import (
	"fmt"
	"math"
	"slices"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// Colour is how much of haze and scratch a colour shows.
type Colour string

// The colours.
const (
	Light  Colour = "light"
	Medium Colour = "medium"
	Dark   Colour = "dark"
)

// deep is how much deeper than usual the scratches are that must go (judgement).
func (c Colour) deep() float64 {
	switch c {
	case Light:
		return 1.1
	case Dark:
		return 1.6
	}
	return 1.3
}

// Haze is the depth of scratch in µm above which the colour shows haze
// (judgement).
func (c Colour) Haze() float64 {
	switch c {
	case Light:
		return 0.25
	case Dark:
		return 0.06
	}
	return 0.15
}

// Job is what a sequence is wanted for.
type Job struct {
	Grade    float64 // peel grade of the panel, 0 to 10
	Colour   Colour
	Hardness float64 // of the paint: 0.7 soft, 1 medium, 1.5 hard
	Sections []Rect
	Area     float64 // mm², for paper and discs
	Start    string  // key of the abrasive to start with, "" for the finest that levels
}

// StepKind is what a step is for.
type StepKind string

// The kinds of step in their order.
const (
	LevelStep    StepKind = "level"
	RefineStep   StepKind = "refine"
	CompoundStep StepKind = "compound"
	PolishStep   StepKind = "polish"
)

// Step is one step of a ladder.
type Step struct {
	Kind    StepKind
	Item    string // key of the abrasive or compound
	Title   string // grit, or what the compound is called at the car
	What    string // sheet and backing, or compound and pad
	Tool    shelf.Tool
	Stroke  int // degrees from the panel's length; -1 crosses
	Passes  int
	Rate    float64 // mean removal of a pass, µm
	Film    float64 // crest film, µm
	Gauge   float64 // what the gauge reads less after it, µm
	Minutes float64
	Sheets  int
	Scratch float64 // depth it leaves, µm
	Buries  float64 // depth of scratch it takes out, 0 for the first
	Backing surface.Backing
	D50     float64 // µm, 0 for compounds
	Sheet   float64 // mm² of sheet in contact
	Before  surface.Surface
	After   surface.Surface
	Why     Why
}

// Why is the reason for a step as a code with its values.
type Why struct {
	Code   WhyCode
	Values map[string]float64
}

// WhyCode names a reason.
type WhyCode string

// The reasons for a step.
const (
	WhyFinest  WhyCode = "finest_that_levels"  // finest start within eight passes
	WhyCoarser WhyCode = "peel_too_heavy"      // no start levels within eight passes
	WhyBury    WhyCode = "buries_scratch"      // takes the last scratch out
	WhyClears  WhyCode = "clears_scratch"      // compound within its reach
	WhyHaze    WhyCode = "takes_haze"          // last step, under the haze limit
	WhyFlat    WhyCode = "already_flat_enough" // one pass to dull the gloss evenly
)

// Ladder is a whole sequence.
type Ladder struct {
	Start   surface.Surface
	Steps   []Step
	Film    float64 // crest film of all steps, µm
	FilmSD  float64 // its doubt when passes are counted and nothing is read
	Minutes float64
	// MinutesSD is the doubt of the time: the passes needed follow the cut.
	MinutesSD float64
}

// Spreads of the cut rate as logarithms: what person and paint share over all
// steps, and what each step has of its own (judgement).
const (
	SharedSpread = 0.283 // √(0.20² + 0.20²)
	OwnSpread    = 0.180 // √(0.15² + 0.10²)
)

// MostLevelPasses is how many passes a levelling step may need before a coarser
// grit is taken.
const MostLevelPasses = 8

var starts = []shelf.Abrasive{shelf.P2000, shelf.P1500, shelf.P1200}

// next is the grit that refines after each start, before 3000.
var next = map[string]shelf.Abrasive{
	shelf.P2000.Key: shelf.P2500,
	shelf.P1500.Key: {Key: "p2000-foam", Grit: "P2000", D50: shelf.P2000.D50, Body: "foam"},
	shelf.P1200.Key: {Key: "p2000-foam", Grit: "P2000", D50: shelf.P2000.D50, Body: "foam"},
}

// Flat makes the sequence that levels the job's peel to flat and refines it to
// a gloss without haze. It fails on a job that is not one.
func Flat(j Job) (Ladder, error) {
	if err := j.check(); err != nil {
		return Ladder{}, err
	}
	l := Ladder{Start: surface.OfGrade(j.Grade)}
	first := j.level(l.Start)
	l.add(first)
	for i, a := range []shelf.Abrasive{next[first.Item], shelf.G3000} {
		l.add(j.refine(l.last(), a, 135-90*i))
	}
	l.add(j.polish(l.last(), shelf.WoolMedium, CompoundStep, "cut"))
	l.add(j.polish(l.last(), shelf.FoamFine, PolishStep, "fine"))
	for _, s := range l.Steps {
		l.Film += s.Film
		l.Minutes += s.Minutes
	}
	own := 0.0
	for _, s := range l.Steps {
		own += OwnSpread * s.Film * OwnSpread * s.Film
	}
	l.FilmSD = math.Sqrt(SharedSpread*l.Film*SharedSpread*l.Film + own)
	l.MinutesSD = SharedSpread * l.Minutes
	return l, nil
}

func (j Job) check() error {
	switch {
	case math.IsNaN(j.Grade) || j.Grade < 0 || j.Grade > 10:
		return fmt.Errorf("peel grade %v does not exist: it goes from 0, a mirror, to 10, very heavy", j.Grade)
	case math.IsNaN(j.Hardness) || j.Hardness < 0.3 || j.Hardness > 3:
		return fmt.Errorf("paint hardness %v does not exist: 0.7 is soft, 1 medium, 1.5 hard", j.Hardness)
	case j.Start != "" && !slices.ContainsFunc(starts, func(a shelf.Abrasive) bool { return a.Key == j.Start }):
		return fmt.Errorf("no sequence starts with %q: it may start with p2000, p1500 or p1200", j.Start)
	case len(j.Sections) == 0:
		return fmt.Errorf("the panel has no section wide enough to work: it needs a place %d mm off its edges", 25)
	}
	return nil
}

func (l *Ladder) add(s Step) { l.Steps = append(l.Steps, s) }

func (l *Ladder) last() Step { return l.Steps[len(l.Steps)-1] }

// level takes the finest start that reaches flat within MostLevelPasses, and
// the coarsest where none does.
func (j Job) level(start surface.Surface) Step {
	b := shelf.RubberBlock
	for i, a := range starts {
		if j.Start != "" && j.Start != a.Key {
			continue
		}
		rate := a.Rate(b, j.Hardness)
		n, after := passesToFlat(start, b, a, rate)
		if n <= MostLevelPasses || i == len(starts)-1 || j.Start != "" {
			s := Step{
				Kind: LevelStep, Item: a.Key, Title: a.Grit, What: "wet paper, " + b.Name, Tool: b.Tool,
				Stroke: 45, Passes: n, Rate: rate, Scratch: a.Scratch(b), Backing: b.Backing, D50: a.D50,
				Before: start, After: after,
				Why: Why{WhyFinest, map[string]float64{"passes": float64(n), "most": MostLevelPasses}},
			}
			if i > 0 {
				finer, _ := passesToFlat(start, b, starts[i-1], starts[i-1].Rate(b, j.Hardness))
				s.Why.Values["finer_passes"] = float64(finer)
			}
			switch {
			case n > MostLevelPasses:
				s.Why.Code = WhyCoarser
			case start.SqLong() <= surface.FlatSq:
				s.Why.Code = WhyFlat
			}
			j.finish(&s, b, false)
			return s
		}
	}
	panic("unreachable: the last start is always taken")
}

// mostPasses bounds the search; the heaviest peel on the hardest paint needs
// fewer.
const mostPasses = 60

func passesToFlat(start surface.Surface, b shelf.Backing, a shelf.Abrasive, rate float64) (int, surface.Surface) {
	after := start
	for n := 1; ; n++ {
		after = start.Cut(b.Backing, a.D50, rate*float64(n), a.Scratch(b))
		if after.SqLong() <= surface.FlatSq || n == mostPasses {
			return n, after
		}
	}
}

func (j Job) refine(last Step, a shelf.Abrasive, stroke int) Step {
	b := shelf.FoamDisc
	rate := a.Rate(b, j.Hardness)
	bury := surface.BuryScratch(last.Scratch, a.Scratch(b), j.Colour.deep(), rate)
	s := Step{
		Kind: RefineStep, Item: a.Key, Title: a.Grit, What: "damp " + b.Name, Tool: b.Tool,
		Stroke: stroke, Passes: bury.Passes, Rate: rate, Scratch: a.Scratch(b), Buries: last.Scratch,
		Backing: b.Backing, D50: a.D50, Before: last.After,
		After: last.After.Cut(b.Backing, a.D50, rate*float64(bury.Passes), a.Scratch(b)),
		Why:   Why{WhyBury, map[string]float64{"scratch": last.Scratch, "film": bury.Film, "leaves": a.Scratch(b)}},
	}
	j.finish(&s, b, false)
	return s
}

func (j Job) polish(last Step, c shelf.Compound, kind StepKind, title string) Step {
	b := shelf.PolishPad
	rate := c.Removal / j.Hardness
	bury := surface.BuryScratch(last.Scratch, c.Scratch, j.Colour.deep(), rate)
	cycles := min(bury.Passes, shelf.MostCycles)
	s := Step{
		Kind: kind, Item: c.Key, Title: title, What: c.Name + ", " + c.Pad, Tool: c.Tool,
		Stroke: -1, Passes: cycles, Rate: rate, Scratch: c.Scratch, Buries: last.Scratch,
		Backing: b.Backing, Before: last.After,
		After: last.After.Cut(b.Backing, 0, rate*float64(cycles), c.Scratch),
		Why: Why{WhyClears, map[string]float64{"scratch": last.Scratch, "reach": shelf.Reach * c.Scratch,
			"leaves": c.Scratch, "haze": j.Colour.Haze()}},
	}
	if kind == PolishStep {
		s.Why.Code = WhyHaze
	}
	j.finish(&s, b, true)
	return s
}

// finish fills what follows from the surfaces before and after a step.
func (j Job) finish(s *Step, b shelf.Backing, polishing bool) {
	s.Sheet = b.Area
	s.Film = s.Before.CrestLoss(s.After)
	s.Gauge = s.Before.GaugeLoss(s.After)
	s.Minutes = minutes(b, polishing, s.Passes, j.Sections)
	if !polishing {
		_, due := surface.DiscWear(s.D50, b.Area, j.Area*1e-6, s.Rate*float64(s.Passes))
		s.Sheets = max(int(math.Ceil(due)), 1)
	}
}

// FilmSD is the doubt of the step's film in µm when its passes are counted and
// nothing is read.
func (s Step) FilmSD() float64 { return s.Film * math.Hypot(SharedSpread, OwnSpread) }

// CutLeft is the cut left, 0 to 1, of a sheet or disc after area mm² of passes
// that took rate µm each; a pad keeps all of it.
func (s Step) CutLeft(area, rate float64) float64 {
	if s.D50 == 0 {
		return 1
	}
	left, _ := surface.DiscWear(s.D50, s.Sheet, area*1e-6, rate)
	return left
}

// Hours is the time of a ladder and its doubt.
func (l Ladder) Hours() (mean, sd float64) { return l.Minutes / 60, l.MinutesSD / 60 }

// Paper counts the sheets worked by hand and the discs.
func (l Ladder) Paper() (sheets, discs int) {
	for _, s := range l.Steps {
		if s.Tool == shelf.Hand {
			sheets += s.Sheets
		} else {
			discs += s.Sheets
		}
	}
	return sheets, discs
}

// Reserve is the crest film in µm that the steps after step i still need.
func (l Ladder) Reserve(i int) float64 {
	r := 0.0
	for _, s := range l.Steps[i+1:] {
		r += s.Film
	}
	return r
}

// Curve is the crest film that step s takes as a function of its mean removal,
// followed to three times its passes.
func (s Step) Curve() surface.Curve {
	return s.Before.CrestCurve(s.Backing, s.D50, 3*s.Rate*float64(s.Passes))
}

// GaugeOffset is what scratches change in the gauge's reading during the step,
// in µm: the fresh scratch holds the foot up where the old one did not.
func (s Step) GaugeOffset() float64 { return surface.Void * (s.Before.Scratch - s.Scratch) }

// Levelled is the mean removal in µm of the steps with an abrasive: what every
// place of the panel loses before the pads.
func (l Ladder) Levelled() float64 {
	sum := 0.0
	for _, s := range l.Steps {
		if s.Kind == LevelStep || s.Kind == RefineStep {
			sum += s.Rate * float64(s.Passes)
		}
	}
	return sum
}
