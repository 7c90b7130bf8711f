package photo

import "math"

// row is where the stripes turn along one row of pixels: phases in pitches, rising, and the
// places in pixels that they were found at.
type row struct {
	bright   bool // before the first
	from, to float64
	tau      []float64
	x        []float32
	hole     [2]float64 // phases from and to that a card hides; from is more than to for none
}

// edges are all that was found of a photo.
type edges struct {
	rows []row
	duty float64
}

// findEdges cuts each row at the local mean of the light, and maps the cuts to phases.
func findEdges(p Picture, t *trend) edges {
	s := t.small
	pitch := t.pitchPx / s.scale
	mean := t.mean(thresholdAcross*pitch, thresholdAlong*pitch)
	out := edges{rows: make([]row, p.H)}
	bright, all := 0.0, 0.0
	level := make([]float64, p.W)
	for y := range p.H {
		threshold(level, mean, s, float64(y))
		c := t.row(float64(y) + 0.5)
		tau := func(x float64) float64 { return along(c, 2*x/float64(p.W)-1) }
		r := &out.rows[y]
		line := p.V[y*p.W:][:p.W]
		r.bright = float64(line[0]) > level[0]
		r.from, r.to = tau(0.5), tau(float64(p.W)-0.5)
		r.hole = [2]float64{math.Inf(1), math.Inf(-1)}
		if t.card != nil {
			for x := range p.W {
				if t.card.covers(float64(x)+0.5, float64(y)+0.5) {
					ph := tau(float64(x) + 0.5)
					r.hole[0], r.hole[1] = math.Min(r.hole[0], ph), math.Max(r.hole[1], ph)
				}
			}
		}
		on, last := r.bright, r.from
		for x := 1; x < p.W; x++ {
			a, b := float64(line[x-1])-level[x-1], float64(line[x])-level[x]
			if (a > 0) == (b > 0) {
				continue
			}
			at := float64(x) - 0.5 + a/(a-b)
			ph := tau(at)
			if ph < last { // the trend folds back: such a place tells nothing
				ph = last
			}
			if on {
				bright += r.seen(last, ph)
			}
			r.tau, r.x = append(r.tau, ph), append(r.x, float32(at))
			on, last = !on, ph
		}
		if on {
			bright += r.seen(last, r.to)
		}
		all += r.seen(r.from, r.to)
	}
	if all > 0 {
		out.duty = bright / all
	}
	return out
}

// broken is the share of pitches, over all rows, in which no stripe turns: those of a mirrored
// lamp, however they wander, go on from row to row, while print, keys and masonry have gaps.
func (e edges) broken() float64 {
	empty, all := 0, 0
	for i := range e.rows {
		r := &e.rows[i]
		first, last := int(math.Ceil(r.from)), int(math.Floor(r.to))
		if last <= first {
			continue
		}
		turns := make([]bool, last-first)
		for _, ph := range r.tau {
			if k := int(math.Floor(ph)) - first; k >= 0 && k < len(turns) {
				turns[k] = true
			}
		}
		for k, turned := range turns {
			if at := float64(first + k); at < r.hole[1] && at+1 > r.hole[0] {
				continue
			}
			if all++; !turned {
				empty++
			}
		}
	}
	return float64(empty) / math.Max(float64(all), 1)
}

// threshold is the local mean along a row of pixels, between those of the coarse picture.
func threshold(level, mean []float64, s coarse, y float64) {
	fy := math.Min(math.Max((y+0.5)/s.scale-0.5, 0), float64(s.h-1))
	y0 := min(int(fy), s.h-2)
	ty := fy - float64(y0)
	for x := range level {
		fx := math.Min(math.Max((float64(x)+0.5)/s.scale-0.5, 0), float64(s.w-1))
		x0 := min(int(fx), s.w-2)
		tx := fx - float64(x0)
		a := lerp(mean[y0*s.w+x0], mean[y0*s.w+x0+1], tx)
		b := lerp(mean[(y0+1)*s.w+x0], mean[(y0+1)*s.w+x0+1], tx)
		level[x] = lerp(a, b, ty)
	}
}

// differs is over how much of the phases that both rows show one is bright and the other not,
// and how much that is in all; pitches.
func differs(a, b *row) (apart, length float64) {
	from, to := math.Max(a.from, b.from), math.Min(a.to, b.to)
	hole := [2]float64{math.Min(a.hole[0], b.hole[0]), math.Max(a.hole[1], b.hole[1])}
	if hole[0] > hole[1] {
		return differ(a, b, from, to)
	}
	before, long := differ(a, b, from, math.Min(hole[0], to))
	after, more := differ(a, b, math.Max(hole[1], from), to)
	return before + after, long + more
}

// seen is how much of the phases from and to no card hides.
func (r *row) seen(from, to float64) float64 {
	hidden := math.Max(math.Min(to, r.hole[1])-math.Max(from, r.hole[0]), 0)
	return math.Max(to-from-hidden, 0)
}

// differ is differs between two phases.
func differ(a, b *row, from, to float64) (apart, length float64) {
	if to <= from {
		return 0, 0
	}
	onA, i := a.start(from)
	onB, j := b.start(from)
	at := from
	for at < to {
		next := to
		if i < len(a.tau) {
			next = math.Min(next, a.tau[i])
		}
		if j < len(b.tau) {
			next = math.Min(next, b.tau[j])
		}
		if onA != onB {
			apart += next - at
		}
		at = next
		for i < len(a.tau) && a.tau[i] <= at {
			onA = !onA
			i++
		}
		for j < len(b.tau) && b.tau[j] <= at {
			onB = !onB
			j++
		}
	}
	return apart, to - from
}

// start is whether a row is bright from a phase on, and its next turn.
func (r *row) start(from float64) (bright bool, next int) {
	bright = r.bright
	for next < len(r.tau) && r.tau[next] <= from {
		bright = !bright
		next++
	}
	return bright, next
}

// variogram is how much rows differ by how far they are apart, for each band of rows.
type variogram struct {
	lag    []float64 // mm
	apart  [][jackknifeBands]float64
	length [][jackknifeBands]float64
}

func (e edges) variogram(mmPerPx float64) variogram {
	var out variogram
	last := 0
	n := len(e.rows)
	far := math.Min(longestLag/mmPerPx, 0.6*float64(n))
	for k := range lags {
		h := int(math.Round(math.Pow(far, float64(k)/(lags-1))))
		if h <= last {
			continue
		}
		last = h
		var apart, length [jackknifeBands]float64
		step := max((n-h)/rowsALag, 1)
		for y := 0; y+h < n; y += step {
			a, l := differs(&e.rows[y], &e.rows[y+h])
			band := (y + h/2) * jackknifeBands / n
			apart[band] += a
			length[band] += l
		}
		out.lag, out.apart, out.length = append(out.lag, float64(h)*mmPerPx), append(out.apart, apart), append(out.length, length)
	}
	return out
}

// values are the shares that differ at each lag, without one band of rows (-1 for with all).
func (v variogram) values(without int) []float64 {
	out := make([]float64, len(v.lag))
	for k := range v.lag {
		a, l := 0.0, 0.0
		for b := range jackknifeBands {
			if b != without {
				a, l = a+v.apart[k][b], l+v.length[k][b]
			}
		}
		if l > 0 {
			out[k] = a / l
		}
	}
	return out
}

func (v variogram) most() float64 {
	most := 0.0
	for _, x := range v.values(-1) {
		most = math.Max(most, x)
	}
	return most
}

// wanders tells how far stripes of a bright share have wandered (standard deviation, pitches)
// where such a share of their length differs.
type wanders struct{ sigma, share []float64 }

func newWanders(duty float64) wanders {
	const points, harmonics, slight = 400, 300, 0.02
	out := wanders{make([]float64, points), make([]float64, points)}
	for i := range points {
		s := 1e-4 * math.Pow(1.2e4, float64(i)/(points-1)) // to 1.2 pitches
		sum := 0.0
		for n := 1; n <= harmonics; n++ {
			a := math.Sin(math.Pi*float64(n)*duty) / (math.Pi * float64(n))
			w := 2 * math.Pi * float64(n) * s
			sum += 4 * a * a * (1 - math.Exp(-w*w/2))
		}
		if s < slight { // each of two edges differs by as much as it moved
			sum = 2 * s * math.Sqrt(2/math.Pi)
		} else { // the terms beyond are full steps by then
			sum += 2 / (math.Pi * math.Pi * harmonics)
		}
		out.sigma[i], out.share[i] = s, sum
	}
	return out
}

func (w wanders) of(share float64) float64 {
	n := len(w.share)
	if share <= w.share[0] {
		return w.sigma[0] * math.Max(share, 0) / w.share[0]
	}
	lo, hi := 0, n-1
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; w.share[mid] <= share {
			lo = mid
		} else {
			hi = mid
		}
	}
	t := (share - w.share[lo]) / (w.share[hi] - w.share[lo])
	return w.sigma[lo] * math.Pow(w.sigma[hi]/w.sigma[lo], math.Min(t, 1))
}

// smooth is about what blurred does, by three running means each way: for wide blurs.
func smooth(v []float64, w, h int, sx, sy float64) {
	along := func(n, lines int, sigma float64, at func(line, i int) int) {
		reach := int(math.Round((math.Sqrt(4*sigma*sigma+1) - 1) / 2)) // of three boxes of 2 reach + 1
		if reach < 1 {
			return
		}
		from := make([]float64, n)
		for line := range lines {
			for range 3 {
				for i := range n {
					from[i] = v[at(line, i)]
				}
				sum := 0.0
				for i := -reach; i <= reach; i++ {
					sum += from[min(max(i, 0), n-1)]
				}
				for i := range n {
					v[at(line, i)] = sum / float64(2*reach+1)
					sum += from[min(i+reach+1, n-1)] - from[max(i-reach, 0)]
				}
			}
		}
	}
	along(w, h, sx, func(line, i int) int { return line*w + i })
	along(h, w, sy, func(line, i int) int { return i*w + line })
}
