package photo

import (
	"container/heap"
	"errors"
	"math"
	"math/cmplx"

	"gonum.org/v1/gonum/dsp/fourier"
	"gonum.org/v1/gonum/mat"
)

var errLying = errors.New("the stripes lie across")

// coarse is a picture boxed down, each value of scale x scale pixels.
type coarse struct {
	w, h  int
	scale float64
	v     []float64
}

func boxed(p Picture, most int) coarse {
	n := (max(p.W, p.H) + most - 1) / most
	out := coarse{w: p.W / n, h: p.H / n, scale: float64(n)}
	out.v = make([]float64, out.w*out.h)
	for y := range out.h {
		for x := range out.w {
			sum := 0.0
			for j := range n {
				row := p.V[(y*n+j)*p.W+x*n:]
				for i := range n {
					sum += float64(row[i])
				}
			}
			out.v[y*out.w+x] = sum / float64(n*n)
		}
	}
	return out
}

// trend is the phase of the stripes over a photo: a polynomial of the fourth degree in x and y
// from -1 to 1, in pitches.
type trend struct {
	w, h    int
	c       [15]float64
	pitchPx float64 // of the middle
	small   coarse
	fx, fy  float64 // of the carrier, cycles a coarse pixel
	card    *Card
	open    []float64 // 1 where no card lies, by coarse pixel
}

// mean is the local mean of the light where no card lies.
func (t *trend) mean(sx, sy float64) []float64 {
	s := t.small
	sum, open := make([]float64, len(s.v)), append([]float64(nil), t.open...)
	for i, v := range s.v {
		sum[i] = v * t.open[i]
	}
	smooth(sum, s.w, s.h, sx, sy)
	smooth(open, s.w, s.h, sx, sy)
	for i := range sum {
		if open[i] < 0.05 {
			sum[i] = s.v[i]
		} else {
			sum[i] /= open[i]
		}
	}
	return sum
}

// terms of the polynomial.
func terms(u, v float64) [15]float64 {
	var out [15]float64
	i := 0
	pu := 1.0
	for a := range 5 {
		pv := 1.0
		for range 5 - a {
			out[i] = pu * pv
			i++
			pv *= v
		}
		pu *= u
	}
	return out
}

// at is the phase in pitches at a pixel.
func (t *trend) at(x, y float64) float64 {
	v := terms(2*x/float64(t.w)-1, 2*y/float64(t.h)-1)
	sum := 0.0
	for i, c := range t.c {
		sum += c * v[i]
	}
	return sum
}

// row gives the coefficients of the phase along a row, of powers of u.
func (t *trend) row(y float64) [5]float64 { return rowOf(t.c, 2*y/float64(t.h)-1) }

// rowOf are the coefficients of powers of u that a polynomial has at v.
func rowOf(c [15]float64, v float64) [5]float64 {
	var out [5]float64
	i := 0
	for a := range 5 {
		pv := 1.0
		for range 5 - a {
			out[a] += c[i] * pv
			i++
			pv *= v
		}
	}
	return out
}

func along(c [5]float64, u float64) float64 { return c[0] + u*(c[1]+u*(c[2]+u*(c[3]+u*c[4]))) }

// findTrend finds stripes that stand, with what is smooth of their phase.
func findTrend(p Picture, card *Card) (*trend, error) {
	t := &trend{w: p.W, h: p.H, card: card}
	t.box(p, coarseSide)
	if err := t.carrier(); err != nil {
		return nil, err
	}
	if 1/math.Hypot(t.fx, t.fy) >= widePitch {
		was := t.small.scale
		t.box(p, coarseSide/2)
		t.fx, t.fy = t.fx*t.small.scale/was, t.fy*t.small.scale/was
	}
	pitch := 1 / math.Hypot(t.fx, t.fy) // coarse pixels
	if n := float64(t.small.w) * math.Abs(t.fx); n < leastPitches {
		return nil, refuse(TooFewStripes, n, leastPitches)
	}
	if px := pitch * t.small.scale; px < leastPitchPx {
		return nil, refuse(StripesTooFine, px, leastPitchPx)
	}
	// The plane of the carrier, then what the demodulated phase adds.
	t.c = [15]float64{}
	t.c[0] = t.fx*float64(t.small.w)/2 + t.fy*float64(t.small.h)/2
	t.c[5], t.c[1] = t.fx*float64(t.small.w)/2, t.fy*float64(t.small.h)/2
	coherence, off := 0.0, 0.0
	for round := range 4 {
		coherence, off = t.refine(pitch, round)
	}
	if coherence < leastCoherence {
		return nil, refuse(StripesNotFound, coherence, leastCoherence)
	}
	if off > mostTrendOff {
		return nil, refuse(StripesNotFound, off, mostTrendOff)
	}
	slope := (t.at(float64(t.w)/2+5, float64(t.h)/2) - t.at(float64(t.w)/2-5, float64(t.h)/2)) / 10
	rise := (t.at(float64(t.w)/2, float64(t.h)/2+5) - t.at(float64(t.w)/2, float64(t.h)/2-5)) / 10
	if slope < 0 {
		for i := range t.c {
			t.c[i] = -t.c[i]
		}
	}
	t.pitchPx = 1 / math.Hypot(slope, rise)
	return t, nil
}

// widePitch is from how many coarse pixels a pitch is as well found at half as many.
const widePitch = 20.0

// box boxes the photo down to a longest side, and finds where no card lies.
func (t *trend) box(p Picture, side int) {
	t.small = boxed(p, side)
	t.open = make([]float64, len(t.small.v))
	for i := range t.open {
		if !t.card.covers((float64(i%t.small.w)+0.5)*t.small.scale, (float64(i/t.small.w)+0.5)*t.small.scale) {
			t.open[i] = 1
		}
	}
}

// carrier finds the strongest frequency, where it has enough of all that changes.
func (t *trend) carrier() error {
	s := t.small
	grid := make([]complex128, s.w*s.h)
	light, n := 0.0, 0.0
	for i, v := range s.v {
		light, n = light+v*t.open[i], n+t.open[i]
	}
	mean := light / math.Max(n, 1)
	for y := range s.h {
		wy := 0.5 - 0.5*math.Cos(2*math.Pi*(float64(y)+0.5)/float64(s.h))
		for x := range s.w {
			wx := 0.5 - 0.5*math.Cos(2*math.Pi*(float64(x)+0.5)/float64(s.w))
			grid[y*s.w+x] = complex((s.v[y*s.w+x]-mean)*wx*wy*t.open[y*s.w+x], 0)
		}
	}
	rows, cols := fourier.NewCmplxFFT(s.w), fourier.NewCmplxFFT(s.h)
	for y := range s.h {
		rows.Coefficients(grid[y*s.w:][:s.w], grid[y*s.w:][:s.w])
	}
	line := make([]complex128, s.h)
	for x := range s.w {
		for y := range s.h {
			line[y] = grid[y*s.w+x]
		}
		cols.Coefficients(line, line)
		for y := range s.h {
			grid[y*s.w+x] = line[y]
		}
	}
	power := func(x, y int) float64 {
		v := grid[((y+s.h)%s.h)*s.w+(x+s.w)%s.w]
		return real(v)*real(v) + imag(v)*imag(v)
	}
	best, bx, by, total := 0.0, 0, 0, 0.0
	for y := -s.h / 2; y < s.h/2; y++ {
		for x := -s.w / 2; x < s.w/2; x++ {
			pw := power(x, y)
			r := math.Hypot(float64(x), float64(y))
			if r < 1.5 {
				continue
			}
			total += pw
			if x < 0 || x == 0 && y < 0 || r < fewestPitches {
				continue
			}
			if pw > best {
				best, bx, by = pw, x, y
			}
		}
	}
	if best == 0 {
		return refuse(StripesNotFound, 0, leastCarrier)
	}
	// The middle of the peak, and what lies in it.
	reach := max(2, int(0.2*math.Hypot(float64(bx), float64(by))))
	sum, cx, cy, in := 0.0, 0.0, 0.0, 0.0
	for y := by - reach; y <= by+reach; y++ {
		for x := bx - reach; x <= bx+reach; x++ {
			pw := power(x, y)
			in += pw
			if max(x-bx, bx-x) <= 1 && max(y-by, by-y) <= 1 {
				sum, cx, cy = sum+pw, cx+pw*float64(x), cy+pw*float64(y)
			}
		}
	}
	t.fx, t.fy = cx/sum/float64(s.w), cy/sum/float64(s.h)
	along, across := math.Abs(t.fy), math.Abs(t.fx)
	switch share := 2 * in / total; {
	case share < leastCarrier:
		return refuse(StripesNotFound, share, leastCarrier)
	case math.Min(along, across) > mostTurn*math.Max(along, across):
		return refuse(Rotated, math.Min(along, across)/math.Max(along, across), mostTurn)
	case along > across:
		return errLying
	}
	return nil
}

// refine demodulates the photo by the phase as it is known, unwraps what is left, the best
// first, and takes it into the polynomial. It returns how coherent the stripes are (0 to 1) and
// what the polynomial leaves (rms, rad).
func (t *trend) refine(pitch float64, round int) (coherence, off float64) {
	s := t.small
	re, im, ones := make([]float64, len(s.v)), make([]float64, len(s.v)), make([]float64, len(s.v))
	local := t.mean(1.2*pitch, 1.2*pitch)
	for y := range s.h {
		c := t.row((float64(y) + 0.5) * s.scale)
		for x := range s.w {
			ph := 2 * math.Pi * along(c, 2*(float64(x)+0.5)/float64(s.w)-1)
			i := y*s.w + x
			d := (s.v[i] - local[i]) * t.open[i]
			re[i], im[i], ones[i] = d*math.Cos(ph), -d*math.Sin(ph), math.Abs(d)
		}
	}
	sigma := 0.9 * pitch
	if round > 1 {
		sigma = 0.7 * pitch
	}
	for _, v := range [][]float64{re, im, ones} {
		smooth(v, s.w, s.h, sigma, sigma)
	}
	step := max(int(pitch/2), 1)
	gw, gh := (s.w+step-1)/step, (s.h+step-1)/step
	phase, quality := make([]float64, gw*gh), make([]float64, gw*gh)
	for gy := range gh {
		for gx := range gw {
			i := gy*step*s.w + gx*step
			z := complex(re[i], im[i])
			phase[gy*gw+gx], quality[gy*gw+gx] = cmplx.Phase(z), t.open[i]*cmplx.Abs(z)/math.Max(ones[i], 1e-9)
		}
	}
	unwrap(phase, quality, gw, gh)
	// Weighted least squares of the polynomial.
	ata, atb := mat.NewSymDense(15, nil), mat.NewVecDense(15, nil)
	for gy := range gh {
		for gx := range gw {
			q := quality[gy*gw+gx]
			v := terms(2*(float64(gx*step)+0.5)/float64(s.w)-1, 2*(float64(gy*step)+0.5)/float64(s.h)-1)
			for a := range 15 {
				atb.SetVec(a, atb.AtVec(a)+q*q*v[a]*phase[gy*gw+gx]/(2*math.Pi))
				for b := a; b < 15; b++ {
					ata.SetSym(a, b, ata.At(a, b)+q*q*v[a]*v[b])
				}
			}
		}
	}
	for a := range 15 {
		ata.SetSym(a, a, ata.At(a, a)*(1+1e-9)+1e-12)
	}
	var chol mat.Cholesky
	var c mat.VecDense
	if !chol.Factorize(ata) || chol.SolveVecTo(&c, atb) != nil {
		return 0, math.Inf(1)
	}
	sum, weight, resid, top := 0.0, 0.0, 0.0, complex(0, 0)
	for gy := range gh {
		for gx := range gw {
			q := quality[gy*gw+gx]
			v := terms(2*(float64(gx*step)+0.5)/float64(s.w)-1, 2*(float64(gy*step)+0.5)/float64(s.h)-1)
			fit := 0.0
			for a := range 15 {
				fit += c.AtVec(a) * v[a]
			}
			d := phase[gy*gw+gx] - 2*math.Pi*fit
			sum, weight, resid = sum+q, weight+1, resid+q*d*d
			top += cmplx.Rect(q, d)
		}
	}
	for a := range 15 {
		t.c[a] += c.AtVec(a)
	}
	const square = 2 / math.Pi // of a stripe with sharp edges
	return sum / weight / square, math.Sqrt(resid / math.Max(sum, 1e-9))
}

// front is a queue of places, those of the best quality first.
type front struct {
	at, from []int
	quality  []float64
}

func (f *front) Len() int           { return len(f.at) }
func (f *front) Less(i, j int) bool { return f.quality[f.at[i]] > f.quality[f.at[j]] }
func (f *front) Swap(i, j int) {
	f.at[i], f.at[j] = f.at[j], f.at[i]
	f.from[i], f.from[j] = f.from[j], f.from[i]
}
func (f *front) Push(v any) {
	p := v.([2]int)
	f.at, f.from = append(f.at, p[0]), append(f.from, p[1])
}

// Pop gives the last of the queue.
func (f *front) Pop() any {
	n := len(f.at) - 1
	p := [2]int{f.at[n], f.from[n]}
	f.at, f.from = f.at[:n], f.from[:n]
	return p
}

// unwrap takes the jumps of whole turns out of phases, from the place of the best quality on.
func unwrap(phase, quality []float64, w, h int) {
	start := 0
	for i, q := range quality {
		if q > quality[start] {
			start = i
		}
	}
	done := make([]bool, len(phase))
	f := &front{quality: quality}
	heap.Push(f, [2]int{start, start})
	for f.Len() > 0 {
		p := heap.Pop(f).([2]int)
		at, from := p[0], p[1]
		if done[at] {
			continue
		}
		done[at] = true
		phase[at] -= 2 * math.Pi * math.Round((phase[at]-phase[from])/(2*math.Pi))
		x, y := at%w, at/w
		for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
			nx, ny := x+d[0], y+d[1]
			if nx >= 0 && ny >= 0 && nx < w && ny < h && !done[ny*w+nx] {
				heap.Push(f, [2]int{ny*w + nx, at})
			}
		}
	}
}
