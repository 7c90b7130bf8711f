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
)

// Way is one of them: the passes that the film allows by it, what they take (µm of
// crest film) and the peel grade that they reach.
type Way struct {
	Code     WayCode
	Abrasive shelf.Abrasive
	Backing  shelf.Backing
	Passes   int
	Film     float64
	Grade    float64
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

// Ways lists what may be done where above µm of crest film are left to a levelling
// step that stands so: stop at the peel reached, go on as far as it goes, take a finer
// grit, or a softer backing. Paint has that hardness.
func (w *Work) Ways(s shelf.Shelf, hardness float64, step int, c Cutting, above float64) []Way {
	st, now := w.ladder.Steps[step], c.Now
	a, ok := s.Abrasive(st.Item)
	b, known := s.Backing(st.Choice.Backing)
	if st.Kind != plan.LevelStep || !ok || !known {
		return nil
	}
	try := func(code WayCode, a shelf.Abrasive, b shelf.Backing) Way {
		rate := s.Law.Rate(a, b, hardness) * c.Times
		curve := now.CrestCurve(b.Backing, a.D50, rate*mostWay)
		out := Way{Code: code, Abrasive: a, Backing: b}
		for out.Passes < mostWay && curve.At(float64(out.Passes+1)*rate) <= above {
			out.Passes++
		}
		out.Film = curve.At(float64(out.Passes) * rate)
		out.Grade = now.Cut(b.Backing, a.D50, float64(out.Passes)*rate, a.Scratch(b)).Grade()
		return out
	}
	out := []Way{{Code: WayStop, Abrasive: a, Backing: b, Grade: now.Grade()}}
	add := func(w Way) {
		if w.Passes > 0 {
			out = append(out, w)
		}
	}
	add(try(WayOn, a, b))
	finer := slices.DeleteFunc(slices.Clone(s.Abrasives), func(o shelf.Abrasive) bool { return !o.Have || o.D50 >= a.D50 || !o.Fits(b) })
	if len(finer) > 0 {
		add(try(WayFiner, slices.MaxFunc(finer, func(x, y shelf.Abrasive) int { return cmp.Compare(x.D50, y.D50) }), b))
	}
	softer := slices.DeleteFunc(slices.Clone(s.Backings), func(o shelf.Backing) bool { return !o.Have || o.E >= b.E || !a.Fits(o) })
	if len(softer) > 0 {
		add(try(WaySofter, a, slices.MaxFunc(softer, func(x, y shelf.Backing) int { return cmp.Compare(x.E, y.E) })))
	}
	return out
}

// mostWay bounds the passes that a way is followed for.
const mostWay = 12

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
