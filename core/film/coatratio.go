package film

import (
	"math"

	"waxplanus/core/flatlay"
)

// CoatBias is the doubt, as ln, of how much thicker or thinner all coats of one shop
// are than is said of them (judgement). CoatSpread comes on top from panel to panel.
const CoatBias = 0.13

// CoatRatio is how much thicker than said the coats of a shop turned out: ln of the
// ratio with its doubt, from so many panels. Its zero value knows of none.
type CoatRatio struct {
	ln, sd float64
	Panels int
}

// Coated is a panel whose coats were said to make Said µm of clear and were measured,
// by readings before and after the clear, as Measured.
type Coated struct {
	Said     float64
	Measured Estimate
}

// LearnCoats tells from the panels that were read before clear how thick a shop's
// coats are. Ratio and panels are normal in ln, so it is exact and in no order.
func LearnCoats(panels []Coated) CoatRatio {
	weight := 1 / (CoatBias * CoatBias)
	sum, n := 0.0, 0
	for _, p := range panels {
		if p.Said <= 0 || p.Measured.Mean < leastClear {
			continue
		}
		doubt := math.Hypot(CoatSpread, p.Measured.SD/p.Measured.Mean)
		w := 1 / (doubt * doubt)
		sum += w * math.Log(p.Measured.Mean/p.Said)
		weight += w
		n++
	}
	if n == 0 {
		return CoatRatio{}
	}
	return CoatRatio{sum / weight, math.Sqrt(1 / weight), n}
}

// Ratio of the film of a coat to what is said of it, 1 where nobody knows, with its
// doubt.
func (r CoatRatio) Ratio() Estimate {
	if r.Panels == 0 {
		return Estimate{1, CoatBias}
	}
	m := math.Exp(r.ln)
	return Estimate{m, m * r.sd}
}

// Of is what coats are, that were said to make s: corrected by what the shop's panels
// showed, and with the doubt that all of its coats share.
func (r CoatRatio) Of(s Source) Source {
	by := r.Ratio()
	s.SD = s.Mean * math.Hypot(by.Mean*s.SD/s.Mean, by.SD)
	s.Mean *= by.Mean
	return s
}

// Nearest is the index of the nearest of n places that lies within so many mm of x, y;
// -1 for none.
func Nearest(n int, at func(i int) (x, y float64), x, y, within float64) int {
	best, near := -1, within
	for i := range n {
		px, py := at(i)
		if d := math.Hypot(px-x, py-y); d <= near {
			best, near = i, d
		}
	}
	return best
}

// MeasuredClear is the clear (µm, far from edges and creases) of a panel by its spots
// that were read both before and after the clear; false without one.
func MeasuredClear(p flatlay.Panel, before, total []Place, g Gauge) (Estimate, bool) {
	under, _ := gather(p, before, g)
	over, _ := gather(p, total, g)
	sum, off, n, shots := 0.0, 0.0, 0, math.MaxInt
	for _, u := range under {
		best := Nearest(len(over), func(i int) (x, y float64) { return over[i].X, over[i].Y }, u.X, u.Y, samePlace)
		if best < 0 {
			continue
		}
		sum += (over[best].T - u.T) / Thin.Factor(u.Edge, u.Crease)
		off = math.Max(off, g.B*math.Hypot(u.T, over[best].T)) // the gauge is off anew on another day
		shots = min(shots, u.Shots, over[best].Shots)
		n++
	}
	if n == 0 {
		return Estimate{}, false
	}
	mean := sum / float64(n)
	read := math.Sqrt(2 * (g.A*g.A + g.Replace*g.Replace) / float64(shots*n))
	place := Sprayed.Drift * mean / math.Sqrt(float64(n))
	return Estimate{mean, math.Hypot(math.Hypot(read, place), math.Hypot(off, misfit*mean))}, true
}

// CoatedBy is what a panel of a known history, read before the clear and after it,
// tells of its coats.
func CoatedBy(p flatlay.Panel, h History, before, total []Place) Coated {
	out := Coated{Said: Coats(h.Coats, h.Coat).Mean}
	out.Measured, _ = MeasuredClear(p, before, total, UsualGauge)
	return out
}
