package prove

import (
	"cmp"
	"math"
	"slices"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// What a meter reads.
type Quantity string

// The quantities.
const (
	Gloss   Quantity = "gloss"
	Clarity Quantity = "clarity"
)

// Meter is one instrument at one angle (degrees from the normal; 0 where it has none): readings
// of another are never held against its own.
type Meter struct {
	Quantity
	Instrument string
	Angle      float64
}

// Read is one reading of a meter at a place, before any work or after it.
type Read struct {
	Meter
	X, Y, Value float64
	After       bool
}

// samePlace is how near two readings are of one place, mm.
const samePlace = 20.0

// usualWeight is how many repeated readings what is usually said of an instrument counts for
// (judgement).
const usualWeight = 4.0

func (q Quantity) usualNoise() float64 {
	if q == Clarity {
		return plan.ClarityNoise
	}
	return plan.GlossNoise
}

// Most is the highest value that a meter shows: a gloss meter goes beyond a perfect mirror of
// black glass.
func (q Quantity) Most() float64 {
	if q == Gloss {
		return 120
	}
	return 100
}

// spot is the readings of one place in one state.
type spot struct {
	x, y, sum, squares float64
	n                  int
}

func (s spot) mean() float64 { return s.sum / float64(s.n) }

func spots(all []Read) []spot {
	var out []spot
	for _, r := range all {
		i := slices.IndexFunc(out, func(s spot) bool { return math.Hypot(s.x-r.X, s.y-r.Y) <= samePlace })
		if i < 0 {
			out = append(out, spot{x: r.X, y: r.Y})
			i = len(out) - 1
		}
		out[i].sum, out[i].squares, out[i].n = out[i].sum+r.Value, out[i].squares+r.Value*r.Value, out[i].n+1
	}
	return out
}

// noise of a meter: what repeats at one place scatter by, together with what is usual, and how
// many repeats taught it.
func noise(q Quantity, sets ...[]spot) (sd float64, repeats int) {
	usual := q.usualNoise()
	sum := usualWeight * usual * usual
	for _, set := range sets {
		for _, s := range set {
			if s.n > 1 {
				sum += math.Max(s.squares-s.sum*s.mean(), 0)
				repeats += s.n - 1
			}
		}
	}
	return math.Sqrt(sum / (usualWeight + float64(repeats))), repeats
}

// Change is what one meter says of a panel before and after: nil where it was not read then.
// Places counts those that were read both times; where there are any only they are compared.
type Change struct {
	Meter
	Before, After *plan.Measured
	Change        plan.Measured
	plan.Verdict
	Noise   float64 // of one reading
	Repeats int     // that it was learned from
	Places  int
}

// Changes are what each meter says, gloss first, then clarity, the most read first.
func Changes(all []Read) []Change {
	by := map[Meter][]Read{}
	for _, r := range all {
		by[r.Meter] = append(by[r.Meter], r)
	}
	var out []Change
	for m, rs := range by {
		out = append(out, changeOf(m, rs))
	}
	slices.SortFunc(out, func(a, b Change) int {
		return cmp.Or(-cmp.Compare(a.Quantity, b.Quantity), cmp.Compare(both(b), both(a)), cmp.Compare(len(by[b.Meter]), len(by[a.Meter])),
			cmp.Compare(a.Instrument, b.Instrument), cmp.Compare(a.Angle, b.Angle))
	})
	return out
}

// both counts the states in which a panel was read.
func both(c Change) int {
	n := 0
	for _, m := range []*plan.Measured{c.Before, c.After} {
		if m != nil {
			n++
		}
	}
	return n
}

func changeOf(m Meter, all []Read) Change {
	was := spots(slices.DeleteFunc(slices.Clone(all), func(r Read) bool { return r.After }))
	is := spots(slices.DeleteFunc(slices.Clone(all), func(r Read) bool { return !r.After }))
	out := Change{Meter: m}
	out.Noise, out.Repeats = noise(m.Quantity, was, is)
	out.Before, out.After = meanOf(was, out.Noise), meanOf(is, out.Noise)
	if out.Before == nil || out.After == nil {
		return out
	}
	var apart []float64
	doubt := 0.0 // variance
	for _, b := range is {
		i := slices.IndexFunc(was, func(a spot) bool { return math.Hypot(a.x-b.x, a.y-b.y) <= samePlace })
		if i >= 0 {
			apart = append(apart, b.mean()-was[i].mean())
			doubt += out.Noise * out.Noise * (1/float64(was[i].n) + 1/float64(b.n))
		}
	}
	out.Change, out.Verdict = plan.Difference(*out.Before, *out.After)
	if out.Places = len(apart); out.Places > 0 {
		n := float64(out.Places)
		mean, sd := meanSD(apart)
		out.Change = plan.Measured{Value: mean, SD: math.Max(math.Sqrt(doubt)/n, sd/math.Sqrt(n))}
		_, out.Verdict = plan.Difference(plan.Measured{}, out.Change)
	}
	return out
}

// meanOf is the mean over places, with what the meter and the places differ by.
func meanOf(all []spot, noise float64) *plan.Measured {
	if len(all) == 0 {
		return nil
	}
	means, doubt := make([]float64, len(all)), 0.0
	for i, s := range all {
		means[i] = s.mean()
		doubt += noise * noise / float64(s.n)
	}
	mean, sd := meanSD(means)
	n := float64(len(all))
	return &plan.Measured{Value: mean, SD: math.Max(math.Sqrt(doubt)/n, sd/math.Sqrt(n))}
}

// meanSD are the mean and the standard deviation of values; 0 of one alone.
func meanSD(v []float64) (mean, sd float64) {
	for _, x := range v {
		mean += x / float64(len(v))
	}
	if len(v) < 2 {
		return mean, 0
	}
	for _, x := range v {
		sd += (x - mean) * (x - mean)
	}
	return mean, math.Sqrt(sd / float64(len(v)-1))
}

// Why says why a meter for gloss and one for clarity do not say the same of one panel.
type Why string

// The reasons.
const (
	TheySaySame Why = ""
	ByWaves     Why = "waves" // the peel differs, which gloss does not see
	ByHaze      Why = "haze"  // the waves do not explain it: haze, fine scratches, oil
)

// waveShare is the share of a change of clarity that waves have to explain before they are its
// reason (judgement).
const waveShare = 0.5

// Apart says why clarity changed where gloss did not, with the clarity that the textures of
// before and after explain by themselves.
func Apart(gloss, clarity Change, before, after Texture) (why Why, was, is float64) {
	if gloss.Before == nil || clarity.Before == nil || gloss.Verdict != plan.NoDifference || clarity.Verdict == plan.NoDifference || clarity.Verdict == "" {
		return TheySaySame, 0, 0
	}
	was = surface.Clarity(before.Peel.Median, before.Pebble.Median, gloss.Before.Value/100)
	is = surface.Clarity(after.Peel.Median, after.Pebble.Median, gloss.Before.Value/100)
	if (is-was)/clarity.Change.Value >= waveShare {
		return ByWaves, was, is
	}
	return ByHaze, was, is
}
