package photo

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
)

// What makes a photo of a sanded section none that is read.
const (
	NoContrast Code = "no_contrast" // all dull, or the light hides what shines
	TooDark    Code = "too_dark"
	Wet        Code = "wet"
)

// Looks says whether what shines looks brighter or darker than what is dull.
type Looks string

// They are told, not guessed.
const (
	Brighter Looks = "brighter"
	Darker   Looks = "darker"
)

// Part is what a place of a section is taken for.
type Part uint8

// The parts.
const (
	Dull Part = iota
	Shines
	LeftOut // a streak of water, not read
)

// Shiny is which share of a wiped dry section still shines, 0 to 1, with what each place was
// taken for.
type Shiny struct {
	Share   Interval
	LeftOut float64 // share of the photo that was not read
	W, H    int
	Mask    []Part
}

// What is still read of a sanded section.
const (
	shinySide     = 1000
	shinyBlur     = 0.9
	leastLight    = 0.04
	leastStep     = 0.04 // of the logarithm
	leastApart    = 4.5  // in standard deviations
	leastTogether = 0.6
	leastBorder   = 0.3
	mostWet       = 0.25
	streakLong    = 0.33 // of the short side
	streakFull    = 0.38 // share beyond which dimples chain
	rounds        = 10
	outer         = 0.68
	cutDoubt      = 0.12 // of the step
)

// ReadShiny reads which share of a section still shines.
func ReadShiny(p Picture, gamma float64, shiny Looks) (Shiny, error) {
	var out Shiny
	if p.W < leastW || p.H < leastH {
		return out, refuse(TooSmall, float64(p.W), leastW)
	}
	v, err := logLight(p, gamma)
	if err != nil {
		return out, err
	}
	out.W, out.H = v.w, v.h
	c := split(v)
	if c.step < leastStep || c.step < leastApart*c.sd {
		return out, refuse(NoContrast, c.step, math.Max(leastStep, leastApart*c.sd))
	}
	cut, sign := c.cut(shiny)
	mask := make([]bool, len(c.rest))
	for i, r := range c.rest {
		mask[i] = sign*(r-cut) > 0
	}
	if t := together(mask, v.w, v.h); t < leastTogether {
		return out, refuse(NoContrast, t, leastTogether)
	}
	if b := border(c.rest, mask, v.w, v.h) / c.step; b < leastBorder {
		return out, refuse(NoContrast, b, leastBorder)
	}
	left := streaks(mask, v.w, v.h)
	share := func(cut float64) (share, leftOut float64) {
		on, all := 0, 0
		for i, r := range c.rest {
			if left[i] {
				continue
			}
			all++
			if sign*(r-cut) > 0 {
				on++
			}
		}
		return float64(on) / math.Max(float64(all), 1), 1 - float64(all)/float64(len(c.rest))
	}
	out.Share.Value, out.LeftOut = share(cut)
	if out.LeftOut > mostWet {
		return out, refuse(Wet, out.LeftOut, mostWet)
	}
	more, _ := share(cut - sign*cutDoubt*c.step)
	fewer, _ := share(cut + sign*cutDoubt*c.step)
	wrong := 0.5 * math.Erfc(c.step/(2*math.Sqrt2*c.sd))
	half := math.Abs(more-fewer)/2 + wrong + 0.004 + 0.02*out.Share.Value + 0.15*out.LeftOut
	out.Share.Low, out.Share.High = math.Max(out.Share.Value-half, 0), math.Min(out.Share.Value+half, 1)
	out.Mask = make([]Part, len(mask))
	for i, on := range mask {
		switch {
		case left[i]:
			out.Mask[i] = LeftOut
		case on:
			out.Mask[i] = Shines
		}
	}
	return out, nil
}

// logLight is the logarithm of the linear light, boxed down and a little smoothed.
func logLight(p Picture, gamma float64) (coarse, error) {
	linear := Picture{p.W, p.H, make([]float32, len(p.V))}
	table := linearOf(gamma)
	clipped, sum := 0, 0.0
	for i, v := range p.V {
		if v >= 254.0/255 {
			clipped++
		}
		sum += float64(v)
		linear.V[i] = table[int(v*(linearSteps-1))]
	}
	if share := float64(clipped) / float64(len(p.V)); share > mostClipped {
		return coarse{}, refuse(Saturated, share, mostClipped)
	}
	if mean := sum / float64(len(p.V)); mean < leastLight {
		return coarse{}, refuse(TooDark, mean, leastLight)
	}
	v := boxed(linear, shinySide)
	for i, x := range v.v {
		v.v[i] = math.Log(math.Max(x, 1e-4))
	}
	blurred(v.v, v.w, v.h, shinyBlur, shinyBlur)
	return v, nil
}

// classes are a section in two classes of light, once what lies over all of it is off.
type classes struct {
	rest     []float64 // by place
	low, up  float64   // means of both
	upShare  float64
	step, sd float64
}

// sampled is about how many places both classes and the surface are found from.
const sampled = 40000

// split fits a surface of the fourth degree and two classes by turns, on a part of the places,
// and takes the surface off all of them.
func split(v coarse) classes {
	every := max(len(v.v)/sampled, 1) | 1 // odd, so that not always the same columns are taken
	var some []sample
	for i := 0; i < len(v.v); i += every {
		some = append(some, sample{terms(2*(float64(i%v.w)+0.5)/float64(v.w)-1, 2*(float64(i/v.w)+0.5)/float64(v.h)-1), v.v[i]})
	}
	out := classes{rest: make([]float64, len(some))}
	for i, s := range some {
		out.rest[i] = s.light
	}
	upper := make([]float64, len(some)) // chance to be of the upper class
	var c [15]float64
	for round := range rounds {
		c = out.surface(some, upper)
		for i, s := range some {
			out.rest[i] = s.light
			for a, t := range s.terms {
				out.rest[i] -= c[a] * t
			}
		}
		if round == 0 {
			out.begin()
		}
		for range 3 {
			out.weigh(upper)
		}
	}
	out.step = out.up - out.low
	out.rest = make([]float64, len(v.v))
	for y := range v.h {
		row := rowOf(c, 2*(float64(y)+0.5)/float64(v.h)-1)
		for x := range v.w {
			out.rest[y*v.w+x] = v.v[y*v.w+x] - along(row, 2*(float64(x)+0.5)/float64(v.w)-1)
		}
	}
	return out
}

// sample is the light of a place, and the terms of the surface there.
type sample struct {
	terms [15]float64
	light float64
}

// surface fits what lies over all places, without the step of their class, robustly.
func (k *classes) surface(some []sample, upper []float64) [15]float64 {
	ata, atb := mat.NewSymDense(15, nil), mat.NewVecDense(15, nil)
	for i, s := range some {
		weight, class := 1.0, k.low+upper[i]*(k.up-k.low)
		if k.sd > 0 {
			off := (k.rest[i] - class) / (2 * k.sd)
			weight = 1 / (1 + off*off)
		}
		for a := range 15 {
			atb.SetVec(a, atb.AtVec(a)+weight*s.terms[a]*(s.light-class))
			for b := a; b < 15; b++ {
				ata.SetSym(a, b, ata.At(a, b)+weight*s.terms[a]*s.terms[b])
			}
		}
	}
	for a := range 15 {
		ata.SetSym(a, a, ata.At(a, a)*(1+1e-9)+1e-9)
	}
	var out [15]float64
	var chol mat.Cholesky
	var c mat.VecDense
	if chol.Factorize(ata) && chol.SolveVecTo(&c, atb) == nil {
		for a := range 15 {
			out[a] = c.AtVec(a)
		}
	}
	return out
}

// begin parts the light where both halves are tightest.
func (k *classes) begin() {
	s := slices.Clone(k.rest)
	slices.Sort(s)
	n := len(s)
	sums, squares := make([]float64, n+1), make([]float64, n+1)
	for i, v := range s {
		sums[i+1], squares[i+1] = sums[i]+v, squares[i]+v*v
	}
	best, at := math.Inf(1), n/2
	for i := n / 200; i < n-n/200; i += max(n/400, 1) {
		within := squares[i] - sums[i]*sums[i]/float64(max(i, 1)) + squares[n] - squares[i] - (sums[n]-sums[i])*(sums[n]-sums[i])/float64(n-i)
		if within < best {
			best, at = within, i
		}
	}
	k.low, k.up = sums[at]/float64(at), (sums[n]-sums[at])/float64(n-at)
	k.sd, k.upShare = math.Max(math.Sqrt(best/float64(n)), 1e-4), float64(n-at)/float64(n)
}

// weigh is a round of expectation and maximisation of two Gaussians of one width.
func (k *classes) weigh(upper []float64) {
	var n, up, low, square float64
	prior := math.Log(math.Max(k.upShare, 1e-4) / math.Max(1-k.upShare, 1e-4))
	for i, r := range k.rest {
		a, b := (r-k.up)/k.sd, (r-k.low)/k.sd
		p := 1 / (1 + math.Exp(-(prior + (b*b-a*a)/2)))
		upper[i] = p
		n, up, low = n+p, up+p*r, low+(1-p)*r
		square += p*(r-k.up)*(r-k.up) + (1-p)*(r-k.low)*(r-k.low)
	}
	all := float64(len(k.rest))
	if n < 1 || all-n < 1 {
		return
	}
	k.up, k.low, k.upShare, k.sd = up/n, low/(all-n), n/all, math.Max(math.Sqrt(square/all), 1e-4)
	if k.up < k.low {
		k.up, k.low, k.upShare = k.low, k.up, 1-k.upShare
	}
}

// cut is halfway between the plateaus of both classes, and on which side what shines lies: the
// middle of the larger class, and of the smaller, whose borders pull it inwards, an outer place.
func (k *classes) cut(shiny Looks) (at, sign float64) {
	middle := (k.low + k.up) / 2
	var lower, higher []float64
	for _, r := range k.rest {
		if r > middle {
			higher = append(higher, r)
		} else {
			lower = append(lower, r)
		}
	}
	slices.Sort(lower)
	slices.Sort(higher)
	at = middle
	if len(lower) > 0 && len(higher) > 0 {
		q := func(of []float64, share float64) float64 { return of[int(share*float64(len(of)-1))] }
		low, high := q(lower, 0.5), q(higher, outer)
		if len(higher) > len(lower) {
			low, high = q(lower, 1-outer), q(higher, 0.5)
		}
		at = (low + high) / 2
	}
	if shiny == Brighter {
		return at, 1
	}
	return at, -1
}

// together is which share of the neighbours of what shines shines too.
func together(mask []bool, w, h int) float64 {
	same, all := 0, 0
	for y := 1; y < h-1; y++ {
		for x := 1; x < w-1; x++ {
			if !mask[y*w+x] {
				continue
			}
			for _, d := range [4]int{1, -1, w, -w} {
				all++
				if mask[y*w+x+d] {
					same++
				}
			}
		}
	}
	if all == 0 {
		return 0
	}
	return float64(same) / float64(all)
}

// border is by how much the light differs, on the mean, two places to both sides of a border.
func border(rest []float64, mask []bool, w, h int) float64 {
	const off = 2
	sum, n := 0.0, 0
	for y := range h {
		for x := off; x < w-off-1; x++ {
			i := y*w + x
			if mask[i] != mask[i+1] {
				sum += math.Abs(rest[i+1+off-1] - rest[i-off+1])
				n++
			}
		}
	}
	if n == 0 {
		return 0
	}
	return sum / float64(n)
}

// streaks are places of what shines that runs on as no dimple does: water, with a margin.
func streaks(mask []bool, w, h int) []bool {
	out := make([]bool, len(mask))
	on := 0
	for _, m := range mask {
		if m {
			on++
		}
	}
	if float64(on) > streakFull*float64(len(mask)) {
		return out
	}
	seen := make([]bool, len(mask))
	var stack, piece []int
	for start, m := range mask {
		if !m || seen[start] {
			continue
		}
		stack, piece = append(stack[:0], start), piece[:0]
		seen[start] = true
		x0, x1, y0, y1 := w, 0, h, 0
		for len(stack) > 0 {
			i := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			piece = append(piece, i)
			x, y := i%w, i/w
			x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				nx, ny := x+d[0], y+d[1]
				if nx < 0 || ny < 0 || nx >= w || ny >= h || seen[ny*w+nx] || !mask[ny*w+nx] {
					continue
				}
				seen[ny*w+nx] = true
				stack = append(stack, ny*w+nx)
			}
		}
		if float64(max(x1-x0, y1-y0)) > streakLong*float64(min(w, h)) {
			leaveOut(out, piece, w, h)
		}
	}
	return out
}

// leaveOut marks places with a margin.
func leaveOut(out []bool, piece []int, w, h int) {
	const margin = 3
	for _, i := range piece {
		x, y := i%w, i/w
		for dy := -margin; dy <= margin; dy++ {
			for dx := -margin; dx <= margin; dx++ {
				if nx, ny := x+dx, y+dy; nx >= 0 && ny >= 0 && nx < w && ny < h {
					out[ny*w+nx] = true
				}
			}
		}
	}
}
