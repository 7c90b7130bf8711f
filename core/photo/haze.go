package photo

import (
	"math"
	"slices"
)

// sharp is how sharp the stripes are.
type sharp struct {
	of         Interval // mrad
	transition float64  // of the edges, standard deviation as a share of the pitch
	excess     float64  // blur on the panel beyond the lens, mm
}

// sharpness measures the grey between bright and dark, in linear light, against the plateaus of
// its surroundings.
func sharpness(p Picture, t *trend, l Lamp, b bands, m float64) sharp {
	gamma := l.Gamma
	if gamma <= 0 {
		gamma = 1
	}
	const tilePitches = 3.0
	tile := max(int(tilePitches*t.pitchPx), 16)
	var shares []float64
	linear := linearOf(gamma)
	for y := 0; y+tile <= p.H; y += tile {
		for x := 0; x+tile <= p.W; x += tile {
			if !t.card.covers(float64(x), float64(y)) && !t.card.covers(float64(x+tile), float64(y)) && !t.card.covers(float64(x), float64(y+tile)) &&
				!t.card.covers(float64(x+tile), float64(y+tile)) && !t.card.covers(float64(x+tile/2), float64(y+tile/2)) {
				shares = append(shares, greyShare(p, x, y, tile, linear))
			}
		}
	}
	var out sharp
	if len(shares) == 0 {
		return out
	}
	slices.Sort(shares)
	share := shares[len(shares)/2]
	const quarter = 0.6745
	u := share * l.Pitch / (4 * quarter) // mm on the lamp
	out.transition = u / l.Pitch
	blur := l.blur()
	sharpen := m*m + 4*l.Lamp*l.Lamp*b.curve()*1e-6/2
	opening := apertureSD * l.Aperture * l.Lamp / math.Max(l.Camera, 1)
	rest := u*u - opening*opening
	out.excess = math.Sqrt(math.Max(rest-blur*blur*sharpen, 0) / sharpen)
	h := func(v float64) float64 { return math.Sqrt(math.Max(v, 0)) / l.Lamp * 1e3 }
	out.of = Interval{h(rest - blur*blur*sharpen), 0, h(rest)}
	return out
}

// greyShare is the share of the pixels of a tile between a quarter and three quarters of its
// plateaus.
func greyShare(p Picture, x0, y0, tile int, linear []float32) float64 {
	step := max(tile/greySide, 1)
	v := make([]float64, 0, (tile/step+1)*(tile/step+1))
	for y := y0; y < y0+tile; y += step {
		for x := x0; x < x0+tile; x += step {
			v = append(v, float64(linear[int(p.V[y*p.W+x]*(linearSteps-1))]))
		}
	}
	s := slices.Clone(v)
	slices.Sort(s)
	lo, hi := s[len(s)/10], s[9*len(s)/10]
	grey := 0
	for _, x := range v {
		if f := (x - lo) / math.Max(hi-lo, 1e-9); f > 0.25 && f < 0.75 {
			grey++
		}
	}
	return float64(grey) / float64(len(v))
}

// greySide is how many places of a tile are looked at each way.
const greySide = 150

// linearSteps is how finely stored values are told apart.
const linearSteps = 4096

// linearOf is the linear light of stored values from 0 to 1.
func linearOf(gamma float64) []float32 {
	out := make([]float32, linearSteps)
	for i := range out {
		out[i] = float32(math.Pow(float64(i)/(linearSteps-1), gamma))
	}
	return out
}
