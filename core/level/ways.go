package level

import (
	"cmp"
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// unworthy is the part of a pass that is not worth making.
const unworthy = 0.25

// Passes is how many passes a step wants by its cut as learned: the film to take
// depends on texture and scratch and not on the rate, so a slower cut wants more.
func (w *Work) Passes(step int) int {
	s := w.ladder.Steps[step]
	return max(int(math.Ceil(float64(s.Passes)*s.Rate/w.Rate(step).Mean-unworthy)), 1)
}

// Scratches is what is left of the scratch that a step has to take out: its depth in
// µm, the share of it that still shows (0 to 1) and the passes that bury it.
type Scratches struct {
	Old, Showing float64
	Passes       int
}

// Scratches left after so many passes of a step, by its cut as learned. Old is 0
// where there is none to take out.
func (w *Work) Scratches(step, done int) Scratches {
	s := w.ladder.Steps[step]
	out := Scratches{Old: s.Buries}
	if s.Buries <= 0 {
		return out
	}
	rate := w.Rate(step).Mean
	gone := 0.0
	if done > 0 {
		gone = w.curves[step].At(float64(done)*rate) + surface.Void*math.Max(0, s.Buries-s.Scratch)
	}
	out.Showing = surface.StillShowing(gone, s.Buries)
	out.Passes = max(int(math.Ceil(float64(s.Needs)*s.Rate/rate-unworthy))-done, 0)
	return out
}

// WayCode names a way to go on where the film does not allow what a step needs.
type WayCode string

// The ways.
const (
	WayOn     WayCode = "on"     // what the film allows, with the sheet in hand
	WayFiner  WayCode = "finer"  // a finer grit on the same backing
	WaySofter WayCode = "softer" // the same grit on a softer backing
	WayStop   WayCode = "stop"   // the peel as it is
	WayShort  WayCode = "short"  // the rest anew, with the least film that leaves no scratch
)

// Way is one of them: the passes of its first step, what it takes to the end (µm of crest
// film), the peel grade that it reaches, and the steps that replace the rest of the
// section's, the first of them Levels where it does; without Rest the step in hand goes on.
type Way struct {
	Code     WayCode
	Abrasive shelf.Abrasive
	Backing  shelf.Backing
	Passes   int
	Film     float64
	Grade    float64
	Rest     []plan.Choice
	Levels   bool
}

// Cutting is a levelling step as it stands: the surface that was reached, and how many
// times the shelf's rate the hand in it cuts.
type Cutting struct {
	Now   surface.Surface
	Times float64
}

// Cutting of a step after passes of it, by the cut as learned.
func (w *Work) Cutting(step, done int) Cutting {
	st, rate := w.ladder.Steps[step], w.Rate(step).Mean
	return Cutting{st.Before.Cut(st.Backing, st.D50, float64(done)*rate, st.Scratch), rate / st.Rate}
}

// CuttingSeen is Cutting with the surface as the last look at what still shines
// explains it. Film is never counted at less than the cut as learned: a look may be
// taken for a slow cut that was a rough panel.
func (w *Work) CuttingSeen(step, done int, s Seen) Cutting {
	st := w.ladder.Steps[step]
	return Cutting{surface.OfGrade(s.Grade).Cut(st.Backing, st.D50, float64(done)*s.Rate, st.Scratch), math.Max(s.Rate, w.Rate(step).Mean) / st.Rate}
}

// Ways lists what could be done in place of the rest of a levelling step that stands so,
// with above µm of crest film for it: stop at the peel reached, take a finer grit, or a
// softer backing. Paint has that hardness.
func (w *Work) Ways(s shelf.Shelf, hardness float64, step int, c Cutting, above float64) []Way {
	st, now := w.ladder.Steps[step], c.Now
	a, ok := s.Abrasive(st.Item)
	b, known := s.Backing(st.Choice.Backing)
	if st.Kind != plan.LevelStep || !ok || !known {
		return nil
	}
	out := []Way{{Code: WayStop, Abrasive: a, Backing: b, Grade: now.Grade()}}
	try := func(code WayCode, a shelf.Abrasive, b shelf.Backing) {
		rate := s.Law.Rate(a, b, hardness) * c.Times
		curve := now.CrestCurve(b.Backing, a.D50, rate*mostWay)
		way := Way{Code: code, Abrasive: a, Backing: b, Levels: true}
		for way.Passes < mostWay && curve.At(float64(way.Passes+1)*rate) <= above {
			way.Passes++
		}
		if way.Passes == 0 {
			return
		}
		way.Film = curve.At(float64(way.Passes) * rate)
		way.Grade = now.Cut(b.Backing, a.D50, float64(way.Passes)*rate, a.Scratch(b)).Grade()
		way.Rest = []plan.Choice{{Item: a.Key, Backing: b.Key, Passes: way.Passes}}
		out = append(out, way)
	}
	finer := slices.DeleteFunc(slices.Clone(s.Abrasives), func(o shelf.Abrasive) bool { return !o.Have || o.D50 >= a.D50 || !o.Fits(b) })
	if len(finer) > 0 {
		try(WayFiner, slices.MaxFunc(finer, func(x, y shelf.Abrasive) int { return cmp.Compare(x.D50, y.D50) }), b)
	}
	softer := slices.DeleteFunc(slices.Clone(s.Backings), func(o shelf.Backing) bool { return !o.Have || o.E >= b.E || !a.Fits(o) })
	if len(softer) > 0 {
		try(WaySofter, a, slices.MaxFunc(softer, func(x, y shelf.Backing) int { return cmp.Compare(x.E, y.E) }))
	}
	return out
}

// mostWay bounds the passes that a way is followed for.
const mostWay = 12

// Standing is the surface of a section at its step in hand with the scratch that is to be
// taken out: what the step leaves once the one before it is out, or else that.
func (w *Work) Standing(at Progress) surface.Surface {
	st, made := w.ladder.Steps[at.Step], at.Passes[at.Step]
	now := w.Cutting(at.Step, made).Now
	if made == 0 || w.finishing(at.Step) && w.Scratches(at.Step, made).Passes > 0 {
		now.Scratch = st.Before.Scratch
	}
	return now
}

// Done are the steps of a section that stand when it goes on from its step in hand with
// others, as the choices that they were: those with passes, without one that is not
// through with the scratch before it. Upto counts the section's steps that they were.
func (w *Work) Done(at Progress) (done []plan.Choice, upto int) {
	for _, i := range at.Own {
		if i > at.Step {
			break
		}
		upto++
		c := w.ladder.Steps[i].Choice
		if c.Passes = at.Passes[i]; c.Passes > 0 && !(i == at.Step && w.finishing(i) && w.Scratches(i, at.Passes[i]).Passes > 0) {
			done = append(done, c)
		}
	}
	return done, upto
}

// Again is what so many passes of an earlier step cost, and all its finer steps once
// more after them: crest film in µm with its doubt. steps are the section's own.
func (w *Work) Again(passes, steps []int, step, n int) film.Estimate {
	rest := slices.Clone(passes)
	for _, i := range steps {
		switch {
		case i == step:
			rest[i] += n
		case i > step:
			rest[i] += w.Passes(i)
		}
	}
	took, takes := w.spread(passes), w.spread(rest)
	return film.Estimate{Mean: takes.at(0, made) - took.at(0, made), SD: math.Max(takes.sd-took.sd, 0)}
}

// CuttingBy is Cutting as the last look explains it where there was one.
func (w *Work) CuttingBy(step, done int, look *Looked) Cutting {
	if look != nil {
		return w.CuttingSeen(step, done, look.Seen)
	}
	return w.Cutting(step, done)
}

// Anew lists the ways on from a section that is so far, each with what it takes to the end
// and granted when taken: the ways of a levelling step with the finer steps after them, and
// where scratches stand the rest planned anew. job has the things that lie on the shelf.
func (p Panel) Anew(sec film.SectionFilm, at Progress, job plan.Job, look *Looked) ([]Way, error) {
	w := p.Work
	a := w.AdviseFor(sec, at)
	done, upto := w.Done(at)
	var later []plan.Choice
	for _, i := range at.Own[upto:] {
		later = append(later, w.ladder.Steps[i].Choice)
	}
	var out []Way
	if a.Granted > 0 {
		out = append(out, w.goOn(at, min(a.Granted, max(at.Need, 1))))
	}
	for _, way := range w.Ways(job.Shelf, job.Hardness, at.Step, w.CuttingBy(at.Step, at.Passes[at.Step], look), math.Max(a.Room, 0)) {
		if way.Rest == nil {
			out = append(out, way)
			continue
		}
		rest, ends, err := job.Instead(done, way.Rest[0], later)
		if err != nil {
			return nil, err
		}
		if way.Rest = rest; !ends {
			continue
		}
		if granted, err := p.granted(&way, sec, at, job, done, upto); err != nil {
			return nil, err
		} else if granted {
			out = append(out, way)
		}
	}
	if len(done) == 0 {
		if w.ladder.Steps[at.Step].Kind != plan.LevelStep { // nothing was begun: it can be left
			out = append(out, Way{Code: WayStop, Grade: w.Standing(at).Grade()})
		}
		return out, nil
	}
	rest, ends, err := job.Shortest(w.Standing(at))
	if err != nil || !ends {
		return out, err
	}
	way := Way{Code: WayShort, Passes: rest[0].Passes, Grade: w.Standing(at).Grade(), Rest: rest}
	present := w.Taken(w.toTheEnd(at, at.Need)).Mean - w.Taken(at.Passes).Mean
	granted, err := p.granted(&way, sec, at, job, done, upto)
	if granted && way.Film < present-worthFilm {
		out = append(out, way)
	}
	return out, err
}

// worthFilm is what another rest has to save at least, µm.
const worthFilm = 0.2

// goOn is the way of n more passes with what is in hand.
func (w *Work) goOn(at Progress, n int) Way {
	to := slices.Clone(at.Passes)
	to[at.Step] += n
	return Way{Code: WayOn, Passes: n, Film: w.Taken(to).Mean - w.Taken(at.Passes).Mean, Grade: w.Cutting(at.Step, to[at.Step]).Now.Grade()}
}

// granted says whether a way is granted when it is taken, with as many passes of its first
// step as are, and counts what it takes to the end.
func (p Panel) granted(way *Way, sec film.SectionFilm, at Progress, job plan.Job, done []plan.Choice, upto int) (bool, error) {
	steps, err := job.Continued(done, way.Rest, way.Levels)
	if err != nil {
		return false, err
	}
	l := p.Work.ladder
	l.Rest(sec.Key, upto, steps, true)
	as, err := p.Under(l)
	if err != nil {
		return false, err
	}
	to := Progress{Own: l.StepsOf(sec.Key), Passes: append(slices.Clone(at.Passes), make([]int, len(steps))...), Step: len(p.Work.ladder.Steps)}
	to.Need = as.Work.Passes(to.Step)
	a := as.Work.AdviseFor(sec, to)
	way.Film = as.Work.Taken(as.Work.toTheEnd(to, to.Need)).Mean - as.Work.Taken(to.Passes).Mean
	if way.Levels && a.Granted > 0 && a.Granted < way.Passes {
		way.Passes, way.Rest[0].Passes = a.Granted, a.Granted
		return p.granted(way, sec, at, job, done, upto)
	}
	return a.Granted >= way.Passes, nil
}
