package surface

import (
	"fmt"
	"math"
)

// Depth is a depth as it is known: log-normal about Median (µm), with Spread as the standard
// deviation of its logarithm. The zero value is no depth at all.
type Depth struct{ Median, Spread float64 }

// Range is what a depth is expected to be at 1 in 20, µm.
func (d Depth) Range() (low, high float64) {
	f := math.Exp(2 * d.Spread)
	return d.Median / f, d.Median * f
}

// Condition is what washing and sun left on a panel, beside its texture: swirls, whose depths
// are exponential about a mean that is itself a Depth, and a dead layer over them.
type Condition struct{ Swirls, Dead Depth }

// What swirls and dead layers are said to be by comparison (judgement).
var (
	SwirlsLight  = Depth{0.3, 0.5}
	SwirlsMedium = Depth{0.8, 0.5}
	SwirlsHeavy  = Depth{1.6, 0.5}
	DeadLight    = Depth{2, 0.6}
	DeadHeavy    = Depth{5, 0.6}
)

// SwirlsLeft is the share, 0 to 1, of swirls of mean depth m (µm) that is still to be seen
// after so much even removal (µm): exponential depths have no memory.
func SwirlsLeft(removal, m float64) float64 {
	if m <= 0 {
		return 0
	}
	return math.Exp(-math.Max(removal, 0) / m)
}

// Gone is the share, 0 to 1, of the swirls that so much even removal (µm) takes: none before
// the dead layer is off.
func (c Condition) Gone(removal float64) float64 {
	if removal < c.Dead.Median*(1-1e-9) {
		return 0
	}
	return 1 - SwirlsLeft(removal-c.Dead.Median, c.Swirls.Median)
}

// Removal is the even removal (µm) after which a share of the swirls, 0 to below 1, is gone.
func (c Condition) Removal(gone float64) float64 {
	return c.Dead.Median - c.Swirls.Median*math.Log1p(-gone)
}

// After is what is left of a condition once so much was removed (µm), and the share of the
// swirls that are left of which gone of all of them are short: swirls have no memory.
func (c Condition) After(removed, gone float64) (Condition, float64) {
	swirls := math.Max(removed-c.Dead.Median, 0)
	if c.Dead.Median -= removed; c.Dead.Median <= 0 {
		c.Dead = Depth{}
	}
	left := SwirlsLeft(swirls, c.Swirls.Median)
	return c, math.Max(1-(1-gone)/math.Max(left, 1e-9), 0)
}

// Said reports whether there is anything to correct.
func (c Condition) Said() bool { return c.Swirls.Median > 0 || c.Dead.Median > 0 }

// EyeShare is how far off an eye is that says which share of the swirls is left.
const EyeShare = 0.05

// Tried is what a try showed of swirls: the share of them left (0 to 1, with the standard
// deviation of whoever said so) after that even removal (µm).
type Tried struct{ Removal, Left, SD float64 }

// Learned is the mean depth of swirls after tries, each from what was before. Tries of one
// product share how far its cut is from what is thought: the depth is in its terms, so that
// the cycles that follow from it are right though both are off. It fails on a share that
// there cannot be.
func (d Depth) Learned(tries ...Tried) (Depth, error) {
	for _, t := range tries {
		switch {
		case math.IsNaN(t.Left) || t.Left < 0 || t.Left > 1:
			return d, fmt.Errorf("a share of %.0f %% does not exist: of the swirls 0 to 100 %% can be left", 100*t.Left)
		case !(t.Removal > 0):
			return d, fmt.Errorf("nothing was taken off, so nothing is learned")
		}
	}
	return d.given(func(m float64) float64 {
		log := 0.0
		for _, t := range tries {
			z := (t.Left - SwirlsLeft(t.Removal, m)) / t.SD
			log -= z * z / 2
		}
		return log
	}), nil
}

// Between is the depth of a dead layer after a try whose cloth and wet look stopped changing
// with the pass from low to high, both µm of removal, each with this spread.
func (d Depth) Between(low, high, spread float64) (Depth, error) {
	if !(low >= 0 && high > low) {
		return d, fmt.Errorf("a layer that is off after %.1f µm cannot be there after %.1f µm", high, low)
	}
	return d.given(func(depth float64) float64 {
		inside := normal.CDF(math.Log(high/depth) / spread)
		if low > 0 {
			inside -= normal.CDF(math.Log(low/depth) / spread)
		}
		return math.Log(math.Max(inside, 1e-12))
	}), nil
}

// given is a depth with a likelihood of its values (as a logarithm), on a grid of six
// spreads to both sides.
func (d Depth) given(likelihood func(depth float64) float64) Depth {
	const points, reach = 241, 6.0
	logs, best := make([]float64, points), math.Inf(-1)
	z := func(i int) float64 { return reach * (2*float64(i)/(points-1) - 1) }
	at := func(i int) float64 { return math.Log(d.Median) + d.Spread*z(i) }
	for i := range logs {
		logs[i] = likelihood(math.Exp(at(i))) - z(i)*z(i)/2
		best = math.Max(best, logs[i])
	}
	sum, mean, square := 0.0, 0.0, 0.0
	for i, l := range logs {
		w := math.Exp(l - best)
		sum, mean, square = sum+w, mean+w*at(i), square+w*at(i)*at(i)
	}
	mean /= sum
	return Depth{math.Exp(mean), math.Sqrt(math.Max(square/sum-mean*mean, 0))}
}
