package clearcoat

import (
	"cmp"
	"math"
	"slices"
)

// The grid that a clear is spread over: from 0 to Most µm in steps of Step.
const (
	Step  = 0.5
	Most  = 250.0
	cells = int(Most/Step) + 1
)

// Dist is what is known of the clear of a panel far from its edges and creases: the
// chance of each clear on the grid, sum 1. A Dist of nothing known is empty.
type Dist struct {
	p   []float64
	sum []float64 // of the cells before
}

// at is the clear of a cell, µm.
func at(i int) float64 { return float64(i) * Step }

// from makes a distribution of weights on the grid. It is empty where they are all 0.
func from(weight func(c float64) float64) Dist {
	p, sum := make([]float64, cells), 0.0
	for i := range p {
		p[i] = weight(at(i))
		sum += p[i]
	}
	if !(sum > 0) || math.IsInf(sum, 1) {
		return Dist{}
	}
	before, run := make([]float64, cells), 0.0
	for i := range p {
		p[i] /= sum
		before[i] = run
		run += p[i]
	}
	return Dist{p, before}
}

// Normal is a clear that is known as one value with its doubt, µm.
func Normal(v Value) Dist {
	sd := math.Max(v.SD, Step) // less than that the grid cannot hold
	return from(func(c float64) float64 { return normal(c, v.Mean, sd) })
}

// Known says whether anything is known.
func (d Dist) Known() bool { return len(d.p) > 0 }

// Mean is the mean clear, µm.
func (d Dist) Mean() float64 { return d.Over(func(c float64) float64 { return c }) }

// SD is the standard deviation, µm.
func (d Dist) SD() float64 {
	m := d.Mean()
	return math.Sqrt(d.Over(func(c float64) float64 { return (c - m) * (c - m) }))
}

// Under is the chance of a clear under x µm. The chance of a cell is spread evenly over
// its step, so that it rises with x without a jump.
func (d Dist) Under(x float64) float64 {
	if !d.Known() {
		return 1
	}
	at := x/Step + 0.5
	switch i := int(math.Floor(at)); {
	case i < 0:
		return 0
	case i >= cells:
		return 1
	default:
		return d.sum[i] + (at-float64(i))*d.p[i]
	}
}

// UnderShares is the sum of the chances that a clear times each of some shares is under
// x µm.
func (d Dist) UnderShares(x float64, shares []float64) float64 {
	if !d.Known() {
		return float64(len(shares))
	}
	p, sum := d.p[:cells], d.sum[:cells]
	out, k := 0.0, x/Step
	for _, share := range shares {
		at := k/share + 0.5
		if at < 0 {
			continue
		}
		if at >= float64(cells) {
			out++
			continue
		}
		i := int(at)
		out += sum[i] + (at-float64(i))*p[i]
	}
	return out
}

// Over is the mean of f over the distribution.
func (d Dist) Over(f func(c float64) float64) float64 {
	sum := 0.0
	for i, p := range d.p {
		if p > 0 {
			sum += p * f(at(i))
		}
	}
	return sum
}

// Quantile is the clear (µm) that is not reached with chance q.
func (d Dist) Quantile(q float64) float64 {
	for i, p := range d.p {
		if p > 0 && d.sum[i]+p >= q {
			return math.Max(at(i)-Step/2+Step*(q-d.sum[i])/p, 0)
		}
	}
	return Most
}

// Humps are the clears (µm) at which the distribution has its separate tops, the highest
// first: more than one where its sources tell different stories. A top counts where it
// has a fifth of the highest and the dip before it goes down to 0.7 of the lower one.
func (d Dist) Humps() []float64 {
	const counts, dips = 0.2, 0.7
	type top struct{ at, p float64 }
	var tops []top
	low := 0.0
	for i := 1; i+1 < len(d.p); i++ {
		p := d.p[i]
		low = math.Min(low, p)
		if p <= d.p[i-1] || p < d.p[i+1] {
			continue
		}
		t := top{at(i), p}
		if n := len(tops); n > 0 && low > dips*math.Min(p, tops[n-1].p) {
			if p > tops[n-1].p {
				tops[n-1] = t
			}
		} else {
			tops = append(tops, t)
		}
		low = p
	}
	slices.SortFunc(tops, func(a, b top) int { return cmp.Compare(b.p, a.p) })
	var out []float64
	for _, t := range tops {
		if t.p >= counts*tops[0].p {
			out = append(out, t.at)
		}
	}
	return out
}

// Shape is how likely the clear is from 0 µm on in steps of that many µm up to where it
// no longer is, the likeliest 1.
func (d Dist) Shape(step float64) []float64 {
	const faint = 1e-3
	most := 0.0
	for _, p := range d.p {
		most = math.Max(most, p)
	}
	out := []float64{}
	last := 0
	for x := 0.0; x <= Most && d.Known(); x += step {
		p := d.p[int(x/Step)] / most
		out = append(out, p)
		if p > faint {
			last = len(out)
		}
	}
	return out[:last]
}

// Plus is the clear with another film (µm, with its doubt) on top of it.
func (d Dist) Plus(v Value) Dist {
	return from(func(c float64) float64 {
		return d.Over(func(under float64) float64 { return normal(c-under, v.Mean, math.Max(v.SD, Step)) })
	})
}

// far is from how many standard deviations on a normal is as good as certain.
const far = 5.5

// UnderLog is the chance that the clear is less than a value whose ln is normal, µm.
func (d Dist) UnderLog(mean, sd float64) float64 {
	first := min(max(int(math.Exp(mean-far*sd)/Step), 1), len(d.p))
	last := min(int(math.Exp(mean+far*sd)/Step)+1, len(d.p))
	sum := 0.0
	for _, p := range d.p[:first] {
		sum += p
	}
	for i := first; i < last; i++ {
		if d.p[i] > 0 {
			sum += d.p[i] * 0.5 * math.Erfc((math.Log(at(i))-mean)/(sd*math.Sqrt2))
		}
	}
	return sum
}
