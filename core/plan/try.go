package plan

import (
	"math"
	"slices"
)

// Measured is a value with its doubt as one standard deviation.
type Measured struct{ Value, SD float64 }

// Try is a process that was tried on a taped square: what was read on it before
// and after, half of it left untouched. Film is in µm, gloss at 20 degrees and
// clarity from 0 to 100.
type Try struct {
	FilmBefore, FilmAfter       Measured
	GlossBefore, GlossAfter     Measured
	ClarityBefore, ClarityAfter Measured
}

// Noise of what a try is read with (judgement): a gloss meter, and clarity from
// the sharpness of a lamp's edge, each of one look.
const (
	GlossNoise   = 1.0
	ClarityNoise = 2.0
)

// Verdict is an honest comparison of two looks.
type Verdict string

// The verdicts.
const (
	NoDifference Verdict = "no_real_difference"
	Better       Verdict = "better"
	Worse        Verdict = "worse"
)

// sure is how many standard deviations of its own noise a difference has to
// measure before it is one: 1 in 20 by chance.
const sure = 1.96

// Difference is after less before with the doubt of both, and whether it is more
// than the instrument's noise. Higher is better.
func Difference(before, after Measured) (d Measured, v Verdict) {
	d = Measured{after.Value - before.Value, math.Hypot(before.SD, after.SD)}
	switch {
	case math.Abs(d.Value) <= sure*d.SD:
		return d, NoDifference
	case d.Value > 0:
		return d, Better
	}
	return d, Worse
}

// Gain is what a try gained and what it cost.
type Gain struct {
	Film    Measured // µm taken
	Gloss   Measured
	Clarity Measured
	// Looks is the verdict on what the eye gets: clarity first, gloss where
	// clarity shows no difference.
	Looks Verdict
	// PerClarity is the film in µm for ten of clarity gained, 0 where none was.
	PerClarity Measured
}

// Gain compares a try's square before and after.
func (t Try) Gain() Gain {
	var g Gain
	g.Film = Measured{t.FilmBefore.Value - t.FilmAfter.Value, math.Hypot(t.FilmBefore.SD, t.FilmAfter.SD)}
	var gloss Verdict
	g.Gloss, gloss = Difference(t.GlossBefore, t.GlossAfter)
	g.Clarity, g.Looks = Difference(t.ClarityBefore, t.ClarityAfter)
	if g.Looks == NoDifference {
		g.Looks = gloss
	}
	if g.Clarity.Value > sure*g.Clarity.SD {
		per := 10 / g.Clarity.Value
		g.PerClarity.Value = math.Max(g.Film.Value, 0) * per
		g.PerClarity.SD = math.Hypot(g.Film.SD*per, g.PerClarity.Value*g.Clarity.SD/g.Clarity.Value)
	}
	return g
}

// Mildest lists the processes that are worth trying on a square, the mildest
// first: of all ways to finish that take no more than room µm, those that take
// more film than the one before only to end clearer by at least a step the eye
// can tell. A job that levels is tried as a polish first.
func Mildest(j Job, room float64) ([]Point, error) {
	var all []Point
	for _, aim := range []Aim{PolishOnly, j.Aim} {
		k := j
		k.Aim = aim
		if aim == PolishOnly && k.Scratch == 0 {
			k.Scratch = UsualSwirl
		}
		o, err := Find(k)
		if err != nil {
			return nil, err
		}
		all = append(all, o.points...)
	}
	slices.SortStableFunc(all, func(a, b Point) int { return sign(a.Film - b.Film) })
	var out []Point
	as := j.Surface()
	as.Scratch = UsualSwirl
	clearest := as.Clarity() - 2*ClarityNoise // nothing that ends duller than it is
	for _, p := range all {
		if p.Film > room || p.Clarity < clearest+2*ClarityNoise {
			continue
		}
		clearest = p.Clarity
		out = append(out, p)
	}
	return out, nil
}

// tryShare is the least share of the swirls that a stronger process to try has to take more.
const tryShare = 0.15

// Trying lists the processes that are worth trying on a square of swirled paint, of those that
// end finished with at most two steps and take no more than room µm: each takes more film than the one before, and
// more of the swirls. By the school of 3000 they begin with the mildest that starts with a
// fine grit; where there is none, with the mildest of all, as by the other school.
func (o *Options) Trying(room float64) []Point {
	fine := func(p Point) bool {
		a, ok := o.Job.Shelf.Abrasive(p.Choices[0].Item)
		return p.Choices[0].Backing != "" && ok && a.D50 <= fineTo
	}
	all := slices.DeleteFunc(slices.Clone(o.points), func(p Point) bool { return !p.finished || p.Film > room || len(p.Choices) > 2 })
	if o.Job.Rules.Squares == FineFirst && slices.ContainsFunc(all, fine) {
		all = slices.DeleteFunc(all, func(p Point) bool { return !fine(p) })
	}
	slices.SortStableFunc(all, func(a, b Point) int { return sign(a.Film - b.Film) })
	var out []Point
	for _, p := range all {
		if p.Gone > 0 && (len(out) == 0 || p.Gone >= out[len(out)-1].Gone+tryShare) {
			out = append(out, p)
		}
	}
	return out
}
