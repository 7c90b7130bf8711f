package film

import (
	"math"
	"slices"

	"waxplanus/core/clearcoat"
)

// Least is the clear of a group of places, such as a section, at its thin end. It knows
// the clear of the panel as a distribution and, from joint samples of the film map, how
// much of that lies where: part at the place than which a twentieth of the area is
// thinner, thin at the thinnest of all. One place alone may be known as a normal.
type Least struct {
	clear      clearcoat.Dist
	part, thin []float64 // by sample, shares of the clear
	lnThin     []float64
	gone       Estimate  // already taken everywhere, µm
	place      *Estimate // one place, in place of the above
}

// LeastOf is the clear of places that are, by joint sample, those shares of a clear.
func LeastOf(clear clearcoat.Dist, part, thin []float64) Least {
	ln := make([]float64, len(thin))
	for i, share := range thin {
		ln[i] = math.Log(share)
	}
	return Least{clear: clear, part: part, thin: thin, lnThin: ln}
}

// NormalLeast is the clear of one place, µm.
func NormalLeast(e Estimate) Least { return Least{place: &e} }

// PartArea is the share of an area that may end under the floor before the area counts
// as under it.
const PartArea = 0.05

// thinEnd are the shares of the places of one sample at its thin end: that than which a
// twentieth of them is less, and the least of all. It sorts them.
func thinEnd(shares []float64) (part, thin float64) {
	least := make([]float64, 0, int(PartArea*float64(len(shares)))+1) // in order
	for _, v := range shares {
		if len(least) == cap(least) {
			if v >= least[len(least)-1] {
				continue
			}
			least = least[:len(least)-1]
		}
		i, _ := slices.BinarySearch(least, v)
		least = slices.Insert(least, i, v)
	}
	return least[len(least)-1], least[0]
}

// Estimate is the clear where a twentieth of the area is thinner: its mean and standard
// deviation, µm.
func (l Least) Estimate() Estimate {
	if l.place != nil {
		return Estimate{l.place.Mean - l.gone.Mean, math.Hypot(l.place.SD, l.gone.SD)}
	}
	n, m, q := float64(len(l.part)), 0.0, 0.0
	for _, v := range l.part {
		m, q = m+v/n, q+v*v/n
	}
	mean, sd := l.clear.Mean(), l.clear.SD()
	square := (mean*mean + sd*sd) * q
	return Estimate{m*mean - l.gone.Mean, math.Hypot(math.Sqrt(math.Max(square-m*mean*m*mean, 0)), l.gone.SD)}
}

// Minus is the clear once a film (µm, with its doubt) is gone everywhere.
func (l Least) Minus(gone Estimate) Least {
	l.gone = Estimate{l.gone.Mean + gone.Mean, math.Hypot(l.gone.SD, gone.SD)}
	return l
}

// spread are values that stand for a normal, each as likely as the others (µm).
func (e Estimate) spread() []float64 {
	if e.SD == 0 {
		return []float64{e.Mean}
	}
	out := make([]float64, len(fifths))
	for i, z := range fifths {
		out[i] = e.Mean + z*e.SD
	}
	return out
}

// fifths are the middles of five equally likely parts of a standard normal, set apart so
// that their standard deviation is 1.
var fifths = [...]float64{-1.4634, -0.5988, 0, 0.5988, 1.4634}

// Below is the chance that more than a twentieth of the area has a clear under level µm.
func (l Least) Below(level float64) float64 {
	if l.place != nil {
		e := l.Estimate()
		if e.SD == 0 {
			return step(e.Mean < level)
		}
		return normal.CDF((level - e.Mean) / e.SD)
	}
	p, gone := 0.0, l.gone.spread()
	for _, g := range gone {
		p += l.clear.UnderShares(level+g, l.part)
	}
	return p / float64(len(l.part)*len(gone))
}

func step(yes bool) float64 {
	if yes {
		return 1
	}
	return 0
}

// Taken is a film (µm) that is taken with a chance, and how much More of it (µm) the place
// loses that is cut most.
type Taken struct{ Chance, Film, More float64 }

// Through is the chance that a place has less than the clear of WayThrough once a film
// was taken: ln of the clear that the worst place wants is taken as normal over the
// samples and what may be taken, which counts rare cases better than the samples do.
func (l Least) Through(taken ...Taken) float64 {
	if l.place != nil {
		e, p := l.Estimate(), 0.0
		for _, t := range taken {
			if want := WayThrough + t.Film + t.More; e.SD == 0 {
				p += t.Chance * step(e.Mean < want)
			} else {
				p += t.Chance * normal.CDF((want-e.Mean)/e.SD)
			}
		}
		return p
	}
	mean, square := 0.0, 0.0
	for _, t := range taken {
		want := math.Max(WayThrough+t.Film+l.gone.Mean, Step)
		v := l.gone.SD / want
		more, ln := t.More/want, math.Log(want)
		w := t.Chance / float64(len(l.thin))
		for _, thin := range l.lnThin { // the place that is thinnest is hardly ever that which is cut most
			x := ln - thin
			if thin < 0 {
				x = ln + math.Sqrt(thin*thin+more*more)
			}
			mean, square = mean+w*x, square+w*(x*x+v*v)
		}
	}
	sd := math.Sqrt(math.Max(square-mean*mean, 0))
	if sd < 1e-6 {
		return l.clear.Under(math.Exp(mean))
	}
	return l.clear.UnderLog(mean, sd)
}

// Step is the finest difference that a clear is known by, µm.
const Step = clearcoat.Step

// Quantile is the clear (µm, to 0.0001) that a twentieth of the area is under with
// chance p.
func (l Least) Quantile(p float64) float64 {
	e := l.Estimate()
	if l.place != nil {
		return e.Mean + e.SD*normal.Quantile(p)
	}
	lo, hi := e.Mean-12*e.SD-1, e.Mean+12*e.SD+1
	for hi-lo > 1e-4 {
		mid := (lo + hi) / 2
		if l.Below(mid) < p {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}

// Shape is how likely each clear is where a twentieth of the area is thinner, at 0, step, 2
// step ... µm, the likeliest 1.
func (l Least) Shape(step float64) []float64 {
	var out []float64
	most := 0.0
	e := l.Estimate()
	for c := 0.0; c < e.Mean+5*e.SD; c += step {
		p := l.Below(c+step/2) - l.Below(c-step/2)
		out, most = append(out, p), math.Max(most, p)
	}
	for i := range out {
		out[i] /= math.Max(most, 1e-12)
	}
	return out
}
