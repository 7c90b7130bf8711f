package plan

import (
	"fmt"
	"math"
	"slices"
	"waxplanus/core/film"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// StepKind is what a step is for.
type StepKind string

// The kinds of step in their order.
const (
	FileStep     StepKind = "file" // nibs, one by one
	LevelStep    StepKind = "level"
	RefineStep   StepKind = "refine"
	CompoundStep StepKind = "compound"
	PolishStep   StepKind = "polish"
)

// Step is one step of a ladder.
type Step struct {
	Choice
	Kind    StepKind
	Title   string // grit, or what the compound is called at the car
	What    string // sheet and backing, or compound and pad
	Tool    shelf.Tool
	Stroke  int     // degrees from the panel's length; -1 crosses, -2 rounded
	Rate    float64 // mean removal of a pass, µm
	Film    float64 // crest film, µm
	Gauge   float64 // what the gauge reads less after it, µm
	Minutes float64 // with its share of rinsing, washing, looking and breaks
	Once    float64 // of them, before the first pass and between this step and the next
	Machine float64 // of them, that a machine runs
	Lane    Lane    // how it is led over a section
	Pieces  float64 // sheets, discs; parts of one where used pieces serve again
	Money   float64
	Scratch float64       // depth it leaves, µm
	Buries  float64       // depth of scratch it takes out, 0 for the first on gloss
	Removed float64       // mean removal of it and all before it, µm
	Gone    float64       // share of the swirls gone after it
	Needs   int           // passes that take the last scratch out
	Dead    surface.Depth // of the dead layer that it meets
	Soft    float64       // times as fast it cuts that
	Backing surface.Backing
	Piece   shelf.Backing // empty for compounds
	D50     float64       // µm, 0 for compounds
	Sheet   float64       // mm² of sheet in contact
	Area    string        // key of the section that it is for, empty for all others
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
	WhyLevels  WhyCode = "levels"           // reaches the texture that is wanted
	WhyPartly  WhyCode = "levels_partly"    // takes some of the texture
	WhyFlat    WhyCode = "flat_enough"      // one pass to dull the gloss evenly
	WhyScratch WhyCode = "reaches_scratch"  // as deep as the scratches that must go
	WhyFiles   WhyCode = "files_nibs"       // nibs, one by one
	WhyBury    WhyCode = "buries_scratch"   // takes the last scratch out
	WhyClears  WhyCode = "clears_scratch"   // compound within its reach
	WhyHaze    WhyCode = "takes_haze"       // last step, under the haze limit
	WhyShort   WhyCode = "stops_too_early"  // old scratch still shows
	WhyTooDeep WhyCode = "beyond_its_reach" // the scratch before it is too deep
	WhySwirls  WhyCode = "takes_swirls"     // share of them that is gone after it
	WhyDead    WhyCode = "takes_dead_layer" // and with it what shares of the swirls go
)

// Ladder is a whole sequence, worked through the quantile model.
type Ladder struct {
	Start   surface.Surface
	Steps   []Step
	Film    float64 // crest film of all steps, µm
	FilmSD  float64 // its doubt when passes are counted and nothing is read
	Minutes float64 // all of it, with what comes before the first step and after the last
	Before  float64 // minutes before the first step: washing, masking, taping
	// Afterwards are the minutes after the last step: compound out of gaps, washing.
	Afterwards float64
	Wait       float64 // minutes in which nobody works, such as soaking
	Tried      float64 // µm that finer grits took before, by the school that starts with the finest
	Money      float64
	Warnings   []Warning
	// Corrects is the condition that it corrects, and Target the share of the swirls that was
	// asked for; zero for a ladder of another aim.
	Corrects surface.Condition
	Target   float64
	// MinutesSD is the doubt of the time: the passes needed follow the cut.
	MinutesSD float64
	// Rests are the steps, by index, of sections whose rest was planned anew while they were
	// worked.
	Rests map[string][]int
}

// Spreads of the cut rate as logarithms: what person and paint share over all
// steps, and what each step has of its own (judgement).
const (
	SharedSpread = 0.283 // √(0.20² + 0.20²)
	OwnSpread    = 0.180 // √(0.15² + 0.10²)
)

// DeadScratch is the depth in µm of scratches that look as dull as dead paint (judgement).
const DeadScratch = 1.0

// Work works a sequence through the model: what each step takes and leaves, what
// it costs, and what is wrong with it. It fails on a job that is not one, or a
// step that is not on the job's shelf.
func (j Job) Work(choices []Choice) (Ladder, error) {
	if err := j.check(); err != nil {
		return Ladder{}, err
	}
	if len(choices) == 0 || len(choices) > MostSteps {
		return Ladder{}, fmt.Errorf("a sequence has 1 to %d steps", MostSteps)
	}
	l := Ladder{Start: j.Surface()}
	if j.aim() == PolishOnly && !j.Corrects() {
		l.Start.Scratch = j.Scratch
	}
	if j.Corrects() {
		l.Corrects, l.Target = j.Condition, j.Gone
	}
	l.Before, l.Afterwards, l.Wait = j.around()
	l.Minutes = l.Before + l.Afterwards
	l.Money = j.Shelf.Law.Labour*l.Minutes/60 + j.Shelf.Law.Tape*j.Tape()
	at, sheets, removed := l.Start, 0, 0.0
	if j.Condition.Dead.Median > 0 {
		l.Start.Scratch = DeadScratch // no gloss before the dead layer is off
	}
	for i, c := range choices {
		s, err := j.work(c, at, i, sheets, removed)
		if err != nil {
			return Ladder{}, fmt.Errorf("step %d: %w", i+1, err)
		}
		if s.D50 > 0 {
			sheets++
		}
		if i > 0 && s.D50 == 0 && l.Steps[i-1].D50 == 0 && j.Rules.Pads == OnePad {
			s.Minutes += j.Shelf.Law.PadChange / 60
		}
		s.Money = j.material(s) + j.Shelf.Law.Labour*s.Minutes/60
		l.Steps = append(l.Steps, s)
		l.Film, l.Minutes, l.Money = l.Film+s.Film, l.Minutes+s.Minutes, l.Money+s.Money
		at, removed = s.After, s.Removed
	}
	if j.Rules.Begin == FinestFirst {
		j.tried(&l)
	}
	if n := len(l.Steps); l.Steps[n-1].Kind == CompoundStep && l.Steps[n-1].Scratch <= j.Colour.Haze(j.Shelf.Law) {
		l.Steps[n-1].Kind = PolishStep
		if l.Steps[n-1].Why.Code == WhyClears {
			l.Steps[n-1].Why.Code = WhyHaze
		}
	}
	own := 0.0
	for _, s := range l.Steps {
		own += OwnSpread * s.Film * OwnSpread * s.Film
	}
	l.FilmSD = math.Sqrt(SharedSpread*l.Film*SharedSpread*l.Film + own)
	l.MinutesSD = SharedSpread * l.Minutes
	l.Warnings = j.warn(l)
	return l, nil
}

// tried adds what trying the finer grits first takes.
func (j Job) tried(l *Ladder) {
	_, short := j.rms()
	s := search{job: j, nodes: j.nodes(short)}
	var spent label
	s.tries(&spent, &node{d50: l.Steps[0].D50})
	l.Tried = spent.film
	l.Film += spent.film
	l.Minutes += spent.minutes
	l.Money += j.Shelf.Law.Labour * spent.minutes / 60
}

// work is one step from a surface on, with what is gone already (µm); sheets counts the
// abrasives before it.
func (j Job) work(c Choice, from surface.Surface, i, sheets int, gone float64) (Step, error) {
	law := &j.Shelf.Law
	s := Step{Choice: c, Before: from, Buries: from.Scratch, Stroke: -1}
	var once, pass, machine float64
	if c.Backing == "" {
		k, ok := j.Shelf.Compound(c.Item)
		if !ok {
			return s, fmt.Errorf("there is no compound %q on the shelf", c.Item)
		}
		s.Kind, s.Title, s.What, s.Tool = CompoundStep, k.Title, k.Name+", "+k.Pad, k.Tool
		s.Rate, s.Scratch, s.Backing = k.Rate(j.hardness())*j.dwell(), k.Scratch, shelf.PolishPad
		once, pass, machine = j.times(nil, k.Tool)
		s.Lane = j.lane(nil, k.Tool)
	} else {
		a, ok := j.Shelf.Abrasive(c.Item)
		b, there := j.Shelf.Backing(c.Backing)
		if !ok || !there {
			return s, fmt.Errorf("%s on %s is not on the shelf", c.Item, c.Backing)
		}
		s.Kind, s.Title, s.What, s.Tool = RefineStep, a.Grit, sheetOf(a, b), b.Tool
		s.Rate, s.Scratch, s.Backing, s.Piece, s.D50, s.Sheet = law.Rate(a, b, j.hardness()), a.Scratch(b), b.Backing, b, a.D50, b.Area
		s.Stroke = j.Rules.stroke(sheets)
		if i == 0 {
			s.Kind = LevelStep
		}
		once, pass, machine = j.times(&b, b.Tool)
		s.Lane = j.lane(&b, b.Tool)
	}
	if j.aim() == NibsOnly && i == 0 && s.D50 > 0 {
		j.fileNibs(&s)
		return s, nil
	}
	s.Dead, s.Soft = j.dead(gone)
	r := s.Removes(c.Passes, s.Rate)
	s.Removed = gone + r
	s.Gone = j.Condition.Gone(s.Removed)
	s.After = from.Cut(s.Backing, s.D50, r, s.Scratch)
	s.Film, s.Gauge = from.CrestLoss(s.After), from.GaugeLoss(s.After)
	if s.Film < r { // what crests lose is never less
		s.Gauge += r - s.Film
		s.Film = r
	}
	s.Once, s.Minutes, s.Machine = once, once+pass*float64(c.Passes), machine*float64(c.Passes)
	if s.D50 > 0 {
		s.Pieces = j.Rules.pieces(j.worn(s.D50, s.Sheet, s.Removes(s.Passes, s.Rate)))
	}
	s.Needs = j.buries(from.Scratch, s.Scratch, s.Rate)
	if i == 0 && j.Corrects() { // swirls are not buried: their share is what is wanted
		s.Needs = c.Passes
	}
	s.Why = j.why(s, i == 0)
	return s, nil
}

// fileNibs is the filing of all nibs as a step of its own.
func (j Job) fileNibs(s *Step) {
	law := j.Shelf.Law
	s.Kind, s.Passes = FileStep, 1
	s.Film, s.Gauge = law.NibRest, law.NibRest-surface.Void*s.Scratch
	s.After = s.Before
	s.After.Scratch = s.Scratch
	s.Minutes = j.filing()
	s.Pieces, s.Needs = 1, 1
	s.Why = Why{WhyFiles, map[string]float64{"nibs": float64(j.Nibs), "seconds": law.NibEach, "rest": law.NibRest}}
}

func sheetOf(a shelf.Abrasive, b shelf.Backing) string {
	switch a.Body {
	case shelf.Paper:
		return "wet paper, " + b.Name
	case shelf.Film:
		return "film disc, " + b.Name
	}
	return "damp " + b.Name
}

// stroke is the direction of the nth abrasive: turned with each grit, or crossed
// or rounded by the other schools.
func (r Rules) stroke(n int) int {
	switch r.Stroke {
	case Crossed:
		return -1
	case Rounded:
		return -2
	}
	return 45 + 90*(n%2)
}

// worn is how many pieces of that grain (µm) and area (mm²) are due when µm are
// taken off all that is worked.
func (j Job) worn(d50, area, um float64) float64 {
	left, _ := surface.DiscWear(d50, area, j.worked()/1e6, um)
	return math.Log(left) / math.Log(j.Shelf.Law.DueAt)
}

// pieces is how many sheets or discs are taken: whole ones, new for each panel, or
// by the other school what they are worn.
func (r Rules) pieces(worn float64) float64 {
	if r.Paper == UsedAgain {
		return worn
	}
	return math.Max(1, math.Ceil(worn-1e-9))
}

// material is what a step costs beside its time, in money.
func (j Job) material(s Step) float64 {
	if s.D50 == 0 {
		c, _ := j.Shelf.Compound(s.Item)
		return float64(s.Passes) * j.worked() / 1e6 * c.Cycle()
	}
	a, _ := j.Shelf.Abrasive(s.Item)
	return s.Pieces * a.Price
}

// why is the reason for a step that has been worked.
func (j Job) why(s Step, first bool) Why {
	t := j.target()
	v := map[string]float64{"passes": float64(s.Passes), "leaves": s.Scratch, "scratch": s.Buries, "film": s.Film,
		"grade": s.After.Grade(), "haze": t.scratch, "reach": j.Shelf.Law.Reach * s.Scratch, "needs": float64(s.Needs)}
	switch {
	case first && j.Corrects():
		v["gone"], v["dead"] = s.Gone, j.Condition.Dead.Median
		if j.Condition.Dead.Median > 0 {
			return Why{WhyDead, v}
		}
		return Why{WhySwirls, v}
	case s.D50 == 0 && s.Buries > v["reach"]*(1+1e-9):
		return Why{WhyTooDeep, v}
	case s.Kind != LevelStep && s.Passes < s.Needs:
		return Why{WhyShort, v}
	case s.Kind == CompoundStep:
		return Why{WhyClears, v}
	case s.Kind == RefineStep:
		return Why{WhyBury, v}
	case j.aim() == Scratches:
		return Why{WhyScratch, v}
	case s.Before.SqLong() <= t.high:
		return Why{WhyFlat, v}
	case s.After.SqLong() <= t.high:
		return Why{WhyLevels, v}
	}
	return Why{WhyPartly, v}
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

// WornOut says whether a sheet or disc has to be changed, or a pad cleaned, after so
// many passes over area mm² that took rate µm each: a pad that has taken much up is due
// ahead of its cycles.
func (s Step) WornOut(law shelf.Law, passes int, area, rate float64) bool {
	if s.D50 == 0 {
		return float64(passes) >= law.PadClean || area*1e-3*rate >= law.PadHolds
	}
	return s.CutLeft(area, rate) <= law.DueAt
}

// Shared is a film (µm) with the doubt that all steps of it share.
func Shared(um float64) film.Estimate { return film.Estimate{Mean: um, SD: SharedSpread * um} }

// Hours is the time of a ladder and its doubt.
func (l Ladder) Hours() (mean, sd float64) { return l.Minutes / 60, l.MinutesSD / 60 }

// Spread is the ladder with each step's time, pieces and money for the part of the panel that
// works it: areas are those of its sections by key. Sections with steps of their own, and those
// that are left, do not work the panel's.
func (l Ladder) Spread(areas map[string]float64) Ladder {
	all := 0.0
	share := make([]float64, len(l.Steps))
	for key, area := range areas {
		all += area
		for _, i := range l.StepsOf(key) {
			share[i] += area
		}
	}
	if all == 0 {
		return l
	}
	for _, i := range l.StepsOf("") {
		l.Minutes, l.Money = l.Minutes-l.Steps[i].Minutes, l.Money-l.Steps[i].Money
	}
	l.Steps = slices.Clone(l.Steps)
	for i := range l.Steps {
		s, part := &l.Steps[i], share[i]/all
		s.Minutes, s.Machine, s.Pieces, s.Money = s.Minutes*part, s.Machine*part, s.Pieces*part, s.Money*part
		l.Minutes, l.Money = l.Minutes+s.Minutes, l.Money+s.Money
	}
	l.MinutesSD = SharedSpread * l.Minutes
	return l
}

// Paper counts the sheets worked by hand and the discs.
func (l Ladder) Paper() (sheets, discs float64) {
	for _, i := range l.StepsOf("") {
		if s := l.Steps[i]; s.Tool == shelf.Hand {
			sheets += s.Pieces
		} else {
			discs += s.Pieces
		}
	}
	return sheets, discs
}

// Reserve is the crest film in µm that the steps after step i still need where
// step i is worked.
func (l Ladder) Reserve(i int) float64 {
	r := 0.0
	for _, s := range l.Steps[i+1:] {
		if s.Area == l.Steps[i].Area {
			r += s.Film
		}
	}
	return r
}

// Gone is the share of the swirls that is gone after the panel's steps.
func (l Ladder) Gone() float64 {
	at := l.StepsOf("")
	return l.Steps[at[len(at)-1]].Gone
}

// DeadUpTo has the film of a ladder that corrects counted as where a dead layer is that deep:
// a section may be worse than its panel.
func (l *Ladder) DeadUpTo(d surface.Depth, law shelf.Law, hardness float64) {
	gone, soft := 0.0, hardness/law.Oxidised
	if soft <= 1 || d.Median <= l.Corrects.Dead.Median {
		return
	}
	for i := range l.Steps {
		s := &l.Steps[i]
		if left := d.Median - gone; left > 0 {
			s.Dead, s.Soft = surface.Depth{Median: left, Spread: d.Spread}, soft
		}
		gone = s.Removed
	}
}

// GoneOn is the share of the swirls that is gone after the panel's steps where they lie in
// another condition.
func (l Ladder) GoneOn(c surface.Condition) float64 {
	at := l.StepsOf("")
	return c.Gone(l.Steps[at[len(at)-1]].Removed)
}

// Choices are the panel's steps of a ladder as they were chosen.
func (l Ladder) Choices() []Choice {
	var out []Choice
	for _, s := range l.Steps {
		if s.Area == "" {
			out = append(out, s.Choice)
		}
	}
	return out
}

// End is the surface that the panel's steps end with.
func (l Ladder) End() surface.Surface {
	at := l.StepsOf("")
	return l.Steps[at[len(at)-1]].After
}

// Removes is the mean removal (µm) of so many of the step's passes at a rate.
func (s Step) Removes(passes int, rate float64) float64 {
	return removal(s.Dead.Median, s.Soft, rate, passes)
}

// DeadSD is the doubt (µm) of what so many passes at a rate remove that comes from that of
// the dead layer.
func (s Step) DeadSD(passes int, rate float64) float64 {
	low, high := s.Dead.Median*math.Exp(-s.Dead.Spread), s.Dead.Median*math.Exp(s.Dead.Spread)
	return (removal(high, s.Soft, rate, passes) - removal(low, s.Soft, rate, passes)) / 2
}

// Curve is the crest film that step s takes as a function of its mean removal,
// followed to three times its passes.
func (s Step) Curve() surface.Curve {
	return s.Before.CrestCurve(s.Backing, s.D50, 3*s.Removes(s.Passes, s.Rate))
}

// GaugeOffset is what scratches change in the gauge's reading during the step,
// in µm: the fresh scratch holds the foot up where the old one did not.
func (s Step) GaugeOffset() float64 { return surface.Void * (s.Before.Scratch - s.Scratch) }

// Levelled is the mean removal in µm of the steps with an abrasive: what every
// place of the panel loses before the pads.
func (l Ladder) Levelled() float64 {
	sum := 0.0
	for _, i := range l.StepsOf("") {
		if s := l.Steps[i]; s.Kind == LevelStep || s.Kind == RefineStep {
			sum += s.Removes(s.Passes, s.Rate)
		}
	}
	return sum
}

// Ends is what is left of a clear (µm) after each step of a ladder, never below zero.
func (l Ladder) Ends(clear float64) []float64 {
	out := make([]float64, len(l.Steps))
	for i, s := range l.Steps {
		clear -= s.Film
		out[i] = math.Max(clear, 0)
	}
	return out
}
