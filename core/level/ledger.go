package level

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// PassScatter is how differently one pass cuts from the next, as a logarithm (judgement).
const PassScatter = 0.15

// Measure is one reading of a spot that had been read before any work: by how
// much less it reads now (µm), and the passes that each step had made there.
type Measure struct {
	Passes []int // by step of the ladder
	Loss   float64
	Spot   int // which opening reading, from 0
}

// Work is a ladder being worked on one panel, with the cut rates as far as the
// readings of all its sections tell.
type Work struct {
	ladder plan.Ladder
	curves []surface.Curve
	enough []float64 // removal (µm) with which each step has done what it is for
	post   Posterior // persons, paint, classes, each step's own, then spots
	who    []int     // of the persons, by step
	paint  int       // where the paint stands
	reads  int
	taught []bool // by step, whether a reading after passes of it teaches the cut
	most   []int  // passes with which each step has done what it is for even where it cuts little
}

// NewWork learns the cut rates of a ladder from measures. spots is the number
// of opening readings that the measures refer to; their own error is shared by
// all measures of the same spot.
func NewWork(l plan.Ladder, measures []Measure, spots int, g film.Gauge) (*Work, error) {
	return NewWorkBy(Crew{}, l, measures, spots, g)
}

// Classes names the abrasive and backing, or compound, of each step of a ladder.
func Classes(l plan.Ladder) []string {
	out := make([]string, len(l.Steps))
	for i, s := range l.Steps {
		out[i] = s.Item
		if s.Choice.Backing != "" {
			out[i] += "@" + s.Choice.Backing
		}
	}
	return out
}

// NewWorkBy is NewWork for a crew, from what the shop's history tells of it and of the
// ladder's abrasives.
func NewWorkBy(crew Crew, l plan.Ladder, measures []Measure, spots int, g film.Gauge) (*Work, error) {
	w := unread(crew, l, measures, spots, g)
	own, noise := len(w.post.Mean)-len(l.Steps)-spots, reread(g)
	obs := make([]Observation, len(measures))
	for i, m := range measures {
		obs[i] = Observation{Measured: m.Loss, SD: noise, Predict: func(x []float64) float64 {
			return w.loss(m.Passes, x, nil) + w.scratched(m.Passes) + x[own+len(l.Steps)+m.Spot]
		}}
	}
	var err error
	w.post, err = LearnFrom(w.post, obs)
	w.count()
	return w, err
}

// unread is a ladder being worked as it is known before the measures teach it.
func unread(crew Crew, l plan.Ladder, measures []Measure, spots int, g film.Gauge) *Work {
	w := &Work{ladder: l, curves: make([]surface.Curve, len(l.Steps)), enough: make([]float64, len(l.Steps)), reads: len(measures), taught: make([]bool, len(l.Steps))}
	for _, m := range measures {
		for i, n := range m.Passes {
			w.taught[i] = w.taught[i] || n > 0
		}
	}
	for i, s := range l.Steps {
		w.curves[i], w.enough[i] = s.Curve(), enough(s)
	}
	n := len(l.Steps)
	noise := reread(g)
	persons := make([]string, n)
	copy(persons, crew.Persons)
	var known Posterior
	known, w.who = crew.Hands.Prior(persons, crew.Paint, Classes(l))
	own := len(known.Mean)
	w.paint = own - n - 1
	prior := Posterior{make([]float64, own+n+spots), mat.NewSymDense(own+n+spots, nil)}
	for i := range own {
		prior.Mean[i] = known.Mean[i]
		for j := i; j < own; j++ {
			prior.Cov.SetSym(i, j, known.Cov.At(i, j))
		}
	}
	for i := range n {
		prior.Cov.SetSym(own+i, own+i, StepSpread*StepSpread)
	}
	for i := range spots {
		prior.Cov.SetSym(own+n+i, own+n+i, noise*noise)
	}
	w.post = prior
	w.count()
	return w
}

// slowest is how slow a cut is, in standard deviations, that takes as many passes as a step is
// granted to do what it is for: 1 in 20 is slower (judgement; waxplanus bench level was the
// measure).
const slowest = 1.645

// count finds how many passes each step may want by the cut as learned.
func (w *Work) count() {
	w.most = make([]int, len(w.ladder.Steps))
	for i := range w.most {
		if w.most[i] = w.Passes(i); !w.finishing(i) || math.IsInf(w.enough[i], 1) {
			continue
		}
		rate := w.Rate(i)
		slow := rate.Mean * math.Exp(-slowest*rate.SD/rate.Mean)
		w.most[i] = max(w.most[i], int(math.Ceil(w.enough[i]/slow)))
	}
}

// reread is what a later reading of a spot differs by from an earlier one, of each
// of them, µm.
func reread(g film.Gauge) float64 { return math.Hypot(g.A, g.Replace) }

// unknowns are where the effects of a step stand: person, paint, class, its own.
func (w *Work) unknowns(step int) [4]int {
	class := w.paint + 1 + step
	return [4]int{w.who[step], w.paint, class, class + len(w.curves)}
}

// effect is ln(rate/nominal) of a step for the unknowns x.
func (w *Work) effect(x []float64, step int) float64 {
	sum := 0.0
	for _, i := range w.unknowns(step) {
		sum += x[i]
	}
	return sum
}

// ends says where passes stop ahead of their number.
type ends int

const (
	made       ends = iota // nowhere: they were made
	whenOut                // a finishing step ends once no old scratch shows
	whenFlatTo             // and a levelling step once a dry wipe shows it flat
)

// How far, as a logarithm, what ends a step differs from what is thought (judgement): that
// a panel is flat, and that a scratch is out.
const (
	flatDiffers = 0.15
	outDiffers  = 0.10
)

// enough is the removal (µm) with which a step has done what it is for, on a panel where
// that takes more than usual; math.Inf(1) where nothing shows that it has.
func enough(s plan.Step) float64 {
	switch {
	case s.Kind != plan.LevelStep && s.Buries > 0 && s.Needs > 0:
		return s.Rate * float64(s.Needs) * math.Exp(outDiffers)
	case s.Kind == plan.LevelStep && Look{Backing: s.Backing}.Informative():
		return s.Rate * float64(s.Passes) * math.Exp(flatDiffers)
	}
	return math.Inf(1)
}

// loss is the crest film in µm that passes have taken. uneven, when there is
// one, is a further ln(rate) for each step.
func (w *Work) loss(passes []int, x, uneven []float64) float64 {
	return w.lossUntil(Progress{Passes: passes}, passes, x, uneven, made)
}

// lossUntil is the crest film in µm that passes will have taken of a section that is so far
// by now, where those to come stop ahead of their number. What was tapped counts in full,
// and what goes past the count of its step does too.
func (w *Work) lossUntil(at Progress, passes []int, x, uneven []float64, until ends) float64 {
	sum := 0.0
	for i, n := range passes {
		if n == 0 {
			continue
		}
		e := w.effect(x, i)
		if uneven != nil {
			e += uneven[i]
		}
		s := &w.ladder.Steps[i]
		rate := s.Rate * math.Exp(e)
		removal := s.Removes(n, rate)
		stops := w.finishing(i) && until >= whenOut || !w.finishing(i) && until == whenFlatTo
		if logged, before := at.made(i), at.before(i); stops && n > logged && n-before <= w.most[i] {
			least := s.Removes(before, rate) + w.enough[i] + rate // found out after the pass
			removal = math.Max(s.Removes(logged, rate), math.Min(removal, least))
		}
		sum += w.curves[i].At(removal)
	}
	return sum
}

// scratched is what the scratches of the last step begun change in the gauge's
// reading, in µm.
func (w *Work) scratched(passes []int) float64 {
	sum := 0.0
	for i, n := range passes {
		if n > 0 {
			sum += w.ladder.Steps[i].GaugeOffset()
		}
	}
	return sum
}

// Rate is the mean removal of one pass of a step in µm as learned so far, with
// its doubt.
func (w *Work) Rate(step int) film.Estimate {
	at := w.unknowns(step)
	mean, v := 0.0, 0.0
	for _, i := range at {
		mean += w.post.Mean[i]
		for _, j := range at {
			v += w.post.Cov.At(i, j)
		}
	}
	r := w.ladder.Steps[step].Rate * math.Exp(mean)
	return film.Estimate{Mean: r, SD: r * math.Sqrt(v)}
}

// Readings is how many readings taught the rates.
func (w *Work) Readings() int { return w.reads }

// spread is how the film taken by passes varies: its value for each number of
// standard deviations of the cut, along the direction of the unknowns that
// matters most.
type spread struct {
	w      *Work
	from   Progress // what of the passes was made
	passes []int
	dx, du []float64 // one standard deviation
	sd     float64   // µm
}

// spread is that of passes that were made.
func (w *Work) spread(passes []int) spread { return w.spreadFrom(Progress{Passes: passes}, passes) }

// spreadFrom is that of passes of which some were made by now.
func (w *Work) spreadFrom(from Progress, passes []int) spread {
	nx := len(w.post.Mean)
	s := spread{w: w, from: from, passes: passes, dx: make([]float64, nx), du: make([]float64, len(passes))}
	flat := make([]float64, len(passes))
	at := w.loss(passes, w.post.Mean, flat)
	gx := gradient(func(x []float64) float64 { return w.loss(passes, x, flat) }, w.post.Mean, at)
	gu := gradient(func(u []float64) float64 { return w.loss(passes, w.post.Mean, u) }, flat, at)
	v := 0.0
	for i := range nx {
		for j := range nx {
			s.dx[i] += w.post.Cov.At(i, j) * gx[j]
		}
		v += s.dx[i] * gx[i]
	}
	for i, n := range passes {
		if n > 0 {
			own := film.Unevenness*film.Unevenness + PassScatter*PassScatter/float64(n)
			if st := w.ladder.Steps[i]; st.Dead.Median > 0 {
				rate := w.Rate(i).Mean
				dead := st.DeadSD(n, rate) / st.Removes(n, rate)
				own += dead * dead
			}
			s.du[i] = own * gu[i]
			v += s.du[i] * gu[i]
		}
	}
	s.sd = math.Sqrt(v)
	if s.sd > 0 {
		for i := range s.dx {
			s.dx[i] /= s.sd
		}
		for i := range s.du {
			s.du[i] /= s.sd
		}
	}
	return s
}

// at is the film taken (µm) when the cut is z standard deviations off.
func (s spread) at(z float64, until ends) float64 {
	x, u := make([]float64, len(s.dx)), make([]float64, len(s.du))
	for i := range x {
		x[i] = s.w.post.Mean[i] + z*s.dx[i]
	}
	for i := range u {
		u[i] = z * s.du[i]
	}
	return s.w.lossUntil(s.from, s.passes, x, u, until)
}

// usual is the film taken (µm) where a twentieth of the area ends thinner, when the cut is
// z standard deviations off.
func (s spread) usual(z float64) float64 {
	return (1 + film.ThinPart*film.Unevenness) * s.at(z, whenFlatTo)
}

// worst is the film taken when the cut is z standard deviations off, for the place that
// ends thinnest. It does not count on a levelling step that ends when it is flat.
func (s spread) worst(z float64) float64 { return s.at(z, whenOut) }

// Taken is the crest film in µm that passes have taken by now, with its doubt.
func (w *Work) Taken(passes []int) film.Estimate {
	s := w.spread(passes)
	return film.Estimate{Mean: s.at(0, made), SD: s.sd}
}

// Ledger is the film ledger of one section, µm of clear at its thinnest place.
// Opening = Gone + Next + Free + Doubt + Reserve + Floor, where Free may be
// negative: then so much is missing.
type Ledger struct {
	Opening film.Estimate
	Floor   float64
	Gone    film.Estimate
	Next    float64 // what the passes left of this step would take
	Reserve float64 // what the finer steps still need
	Doubt   float64 // kept back so that the chance of going under the floor is not passed
	Chance  float64 // that one
	Free    float64
	Balance film.Estimate // clear there now
}

// Above is how far the clear stands above the floor once the doubt and the finer
// steps are counted, in µm; below zero it is short of it.
func (l Ledger) Above() float64 { return l.Free + l.Next }

// Advice is what may be done next on a section.
type Advice struct {
	Ledger  Ledger
	Rate    film.Estimate // µm a pass, mean removal, at this step
	Takes   film.Estimate // µm of crest film that the next pass takes
	Granted int           // passes that the film allows
	Needed  int           // passes that the plan still has for this step
	Left    int           // the lesser of both
	Read    int           // read again after so many passes; 0: now
	Room    float64       // µm that this step may still take, by the floor and by what may be spent in all
	// Over says that somebody may answer for one pass although none is granted: it stays clear
	// of the way through.
	Over bool
}

// After is the advice once n more passes were made and nothing was read: the
// posterior of the cut stays, so each pass is one of those that were granted. Its
// ledger is left as it was.
func (a Advice) After(n int) Advice {
	a.Granted, a.Needed = max(a.Granted-n, 0), max(a.Needed-n, 0)
	a.Left, a.Read = min(a.Granted, a.Needed), max(a.Read-n, 0)
	return a
}

// Progress is how far a section is: the steps that it has, by index, the passes that each
// step of the ladder has done there, the step in hand, how many of its passes came after
// the last reading, and how many are still wanted. Before are the passes of each step from
// before the section went back to a coarser one: the scratches of that are to be taken out
// once more; nil for none. Where all steps are done Step is the number of the ladder's.
type Progress struct {
	Own, Passes, Before []int
	Step, Since, Need   int
}

// made is how many passes of a step were made, before how many of them before going back.
func (at Progress) made(step int) int   { return countAt(at.Passes, step) }
func (at Progress) before(step int) int { return countAt(at.Before, step) }

func countAt(passes []int, step int) int {
	if step < len(passes) {
		return passes[step]
	}
	return 0
}

// Advise says what may be done next at a step of the panel's own ladder on a section:
// least is its clear before any work, passes what each step has done, since how many of
// this step's passes came after the last reading.
func (w *Work) Advise(least film.Least, policy film.Policy, passes []int, step, since int) Advice {
	sec := film.SectionFilm{Film: film.Estimate{Mean: amplyFilmed}, Least: least, Policy: policy}
	return w.AdviseFor(sec, Progress{Own: w.ladder.StepsOf(""), Passes: passes, Step: step, Since: since, Need: max(w.Passes(step)-passes[step], 0)})
}

// amplyFilmed is a total (µm) at which no gate binds.
const amplyFilmed = 200.0

// AdviseFor is Advise for any section, where so many passes are needed as it says. The
// section's policy is that which its plan was accepted with.
func (w *Work) AdviseFor(sec film.SectionFilm, at Progress) Advice {
	passes, step := at.Passes, at.Step
	a := Advice{Rate: w.Rate(step), Needed: at.Need}
	p := w.prospect(sec, at)
	reserve := w.Taken(w.toTheEnd(at, 0)).Mean - p.gone.Mean
	a.Granted = most(p.grants)
	a.Over = a.Granted == 0 && p.holds(1)
	a.Left = min(a.Granted, a.Needed)
	next := w.Taken(p.at.with(a.Left))
	one := w.Taken(p.at.with(1))
	a.Takes = film.Estimate{Mean: one.Mean - p.gone.Mean, SD: (one.Mean - p.gone.Mean) * a.Rate.SD / a.Rate.Mean}
	open := sec.Least.Estimate()
	l := Ledger{Opening: open, Floor: sec.Policy.Floor, Gone: p.gone, Reserve: reserve, Next: next.Mean - p.gone.Mean}
	l.Balance = film.Estimate{Mean: open.Mean - p.gone.Mean, SD: math.Hypot(open.SD, p.gone.SD)}
	l.Chance = sec.Policy.Next()
	l.Doubt = l.Balance.Mean - w.bound(sec.Least, passes, l.Chance)
	l.Free = l.Balance.Mean - l.Doubt - l.Next - l.Reserve - l.Floor
	a.Ledger = l
	a.Room = math.Min(l.Above(), p.spendable-p.gone.Mean-reserve)
	unread := next.Mean - w.Taken(at.with(-min(at.Since, passes[step]))).Mean // from the last reading to the end of the step
	takes := film.Estimate{Mean: unread, SD: unread * a.Rate.SD / a.Rate.Mean}
	a.Read = ReadAfter(a.Left, at.Since, !w.taught[step] && passes[step] == at.Since, takes, open.SD)
	if w.TakesSwirls(step) && (a.Granted < a.Needed || 2*next.SD > w.bound(sec.Least, at.with(a.Left), l.Chance)-reserve-l.Floor) {
		a.Read = min(a.Read, max(fewPasses-at.Since, 0))
	}
	return a
}

// toTheEnd are the passes of each step once n more of the step in hand and all later steps
// of the section were made, by the cut as learned.
func (w *Work) toTheEnd(at Progress, n int) []int {
	out := slices.Clone(at.Passes)
	for _, i := range at.Own {
		switch {
		case i == at.Step:
			out[i] += n
		case i > at.Step:
			out[i] += w.Passes(i)
		}
	}
	return out
}

// finishing says whether a step takes out the scratches of the step before it: such a
// step is granted ahead of more levelling, or the section would be left with them.
func (w *Work) finishing(step int) bool {
	s := w.ladder.Steps[step]
	return s.Kind != plan.LevelStep && s.Buries > 0
}

// bound is the clear (µm) that a twentieth of the area is below with chance p after
// passes.
func (w *Work) bound(least film.Least, passes []int, p float64) float64 {
	s := w.spread(passes)
	e := least.Estimate()
	lo, hi := e.Mean-s.at(0, made)-12*(e.SD+s.sd)-1, e.Mean+1
	for hi-lo > 1e-4 {
		mid := (lo + hi) / 2
		if Risk(least, mid, s.usual) < p {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}
