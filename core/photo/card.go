package photo

import (
	"math"
	"slices"
)

// Card is a printed black square on white that lies on the panel: it tells how much of the
// panel a pixel shows, and how much the lens blurs.
type Card struct {
	MMPerPx, Lens float64       // Lens is a standard deviation in pixels
	Corners       [4][2]float64 // in pixels, one after the other
}

// With is a lamp with what a card in its photo tells.
func (l Lamp) With(c Card) Lamp {
	l.MMPerPx, l.Lens, l.Card = c.MMPerPx, c.Lens, &c
	return l
}

// covers says whether a card with its frame, and a little more, lies over a place in pixels.
func (c *Card) covers(x, y float64) bool {
	if c == nil {
		return false
	}
	const grown = (CardSide + 2*CardFrame + 4) / CardSide
	cx, cy := 0.0, 0.0
	for _, p := range c.Corners {
		cx, cy = cx+p[0]/4, cy+p[1]/4
	}
	side := 0.0
	for i, p := range c.Corners {
		q := c.Corners[(i+1)%4]
		x0, y0, x1, y1 := cx+grown*(p[0]-cx), cy+grown*(p[1]-cy), cx+grown*(q[0]-cx), cy+grown*(q[1]-cy)
		turn := (x1-x0)*(y-y0) - (y1-y0)*(x-x0)
		if i == 0 {
			side = turn
		} else if side*turn < 0 {
			return false
		}
	}
	return true
}

// transposed is a card in a picture whose rows are its columns.
func (c *Card) transposed() *Card {
	if c == nil {
		return nil
	}
	out := *c
	for i, p := range out.Corners {
		out.Corners[i] = [2]float64{p[1], p[0]}
	}
	return &out
}

// CardMissing says that no card was found in a photo.
const CardMissing Code = "card_missing"

// CardSide is the side of the square, and CardFrame the white that lies around it, mm.
const (
	CardSide  = 30.0
	CardFrame = 8.0
)

// What may be a card.
const (
	cardSmall   = 24.0 // side in pixels of the picture that is searched
	cardShare   = 0.25 // most of the picture
	cardFull    = 0.86 // of the box around it
	cardWhite   = 1.8  // how many times as bright the frame is
	cardOblique = 0.25 // by how much its sides may differ
	cardClear   = 0.18 // of a side that is left out at each corner
)

// FindCard looks for a card in a photo. It returns a Refusal where there is none.
func FindCard(p Picture, gamma float64) (Card, error) {
	small := boxed(p, shinySide)
	linear := make([]float64, len(small.v))
	for i, v := range small.v {
		linear[i] = math.Pow(v, gamma)
	}
	level := parted(linear)
	best, score := [4][2]float64{}, 0.0
	for _, piece := range pieces(linear, small.w, small.h, level) {
		if c, s := square(piece, linear, small.w, small.h); s > score {
			best, score = c, s
		}
	}
	if score == 0 {
		return Card{}, refuse(CardMissing, 0, 0)
	}
	for i := range best {
		best[i][0], best[i][1] = (best[i][0]+0.5)*small.scale-0.5, (best[i][1]+0.5)*small.scale-0.5
	}
	return measured(p, gamma, best)
}

// parted is the light that parts dark from bright best.
func parted(v []float64) float64 {
	k := classes{rest: v}
	k.begin()
	return (k.low + k.up) / 2
}

// pieces are the dark places that hang together, those of a sensible size.
func pieces(v []float64, w, h int, level float64) [][]int {
	var out [][]int
	seen := make([]bool, len(v))
	var stack []int
	for start := range v {
		if seen[start] || v[start] >= level {
			continue
		}
		var piece []int
		stack = append(stack[:0], start)
		seen[start] = true
		for len(stack) > 0 {
			i := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			piece = append(piece, i)
			x, y := i%w, i/w
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				nx, ny := x+d[0], y+d[1]
				if nx >= 0 && ny >= 0 && nx < w && ny < h && !seen[ny*w+nx] && v[ny*w+nx] < level {
					seen[ny*w+nx] = true
					stack = append(stack, ny*w+nx)
				}
			}
		}
		if n := float64(len(piece)); n >= cardSmall*cardSmall && n <= cardShare*float64(len(v)) {
			out = append(out, piece)
		}
	}
	return out
}

// square are the corners of a piece that is a square in a bright frame, and how well it is; 0
// for none.
func square(piece []int, v []float64, w, h int) (corners [4][2]float64, score float64) {
	best := math.Inf(1)
	var turn, u0, u1, v0, v1 float64
	for step := range 90 {
		a := float64(step) * math.Pi / 180
		cos, sin := math.Cos(a), math.Sin(a)
		lu, hu, lv, hv := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
		for k := 0; k < len(piece); k += max(len(piece)/4000, 1) {
			x, y := float64(piece[k]%w), float64(piece[k]/w)
			u, t := x*cos+y*sin, y*cos-x*sin
			lu, hu, lv, hv = math.Min(lu, u), math.Max(hu, u), math.Min(lv, t), math.Max(hv, t)
		}
		if area := (hu - lu) * (hv - lv); area < best {
			best, turn, u0, u1, v0, v1 = area, a, lu, hu, lv, hv
		}
	}
	wide, high := u1-u0+1, v1-v0+1
	full := float64(len(piece)) / (wide * high)
	if full < cardFull || math.Abs(wide/high-1) > 2*cardOblique || math.Min(wide, high) < cardSmall {
		return corners, 0
	}
	cos, sin := math.Cos(turn), math.Sin(turn)
	at := func(u, t float64) (x, y float64) { return u*cos - t*sin, u*sin + t*cos }
	light := func(u, t float64) float64 {
		x, y := at(u, t)
		ix, iy := int(x+0.5), int(y+0.5)
		if ix < 0 || iy < 0 || ix >= w || iy >= h {
			return 0
		}
		return v[iy*w+ix]
	}
	// The frame is bright all around, the square dark.
	mid, least := light((u0+u1)/2, (v0+v1)/2), math.Inf(1)
	off := 0.5 * CardFrame / CardSide * wide
	for k := range 12 {
		s := float64(k) / 11
		for _, f := range []float64{light(u0+s*wide, v0-off), light(u0+s*wide, v1+off), light(u0-off, v0+s*high), light(u1+off, v0+s*high)} {
			least = math.Min(least, f)
		}
	}
	if least < cardWhite*math.Max(mid, 1e-3) {
		return corners, 0
	}
	for i, c := range [4][2]float64{{u0, v0}, {u1, v0}, {u1, v1}, {u0, v1}} {
		corners[i][0], corners[i][1] = at(c[0], c[1])
	}
	return corners, full
}

// edge is a line a x + b y = c along a side, its normal outwards, and how soft it is in pixels.
type edge struct{ a, b, c, soft float64 }

// measured finds the sides of a card to a part of a pixel.
func measured(p Picture, gamma float64, corners [4][2]float64) (Card, error) {
	var sides [4]edge
	cx, cy := 0.0, 0.0
	for _, c := range corners {
		cx, cy = cx+c[0]/4, cy+c[1]/4
	}
	for i := range sides {
		from, to := corners[i], corners[(i+1)%4]
		a, b := to[1]-from[1], from[0]-to[0]
		long := math.Hypot(a, b)
		a, b = a/long, b/long
		if a*(cx-from[0])+b*(cy-from[1]) > 0 {
			a, b = -a, -b
		}
		e, ok := soft(p, gamma, from, to, a, b, long)
		if !ok {
			return Card{}, refuse(CardMissing, 0, 0)
		}
		sides[i] = e
	}
	var out Card
	sum, square := 0.0, 0.0
	for i, e := range sides {
		f := sides[(i+3)%4]
		det := e.a*f.b - f.a*e.b
		if math.Abs(det) < 0.5 {
			return Card{}, refuse(CardMissing, 0, 0)
		}
		out.Corners[i] = [2]float64{(e.c*f.b - f.c*e.b) / det, (e.a*f.c - f.a*e.c) / det}
		square += e.soft * e.soft / 4
	}
	longs := make([]float64, 4)
	for i := range longs {
		a, b := out.Corners[i], out.Corners[(i+1)%4]
		longs[i] = math.Hypot(a[0]-b[0], a[1]-b[1])
		sum += longs[i]
	}
	if slices.Max(longs)/slices.Min(longs) > 1+cardOblique {
		return Card{}, refuse(CardMissing, slices.Max(longs)/slices.Min(longs), 1+cardOblique)
	}
	out.MMPerPx = CardSide / (sum / 4)
	out.Lens = math.Sqrt(math.Max(square-1.0/12, 0)) // a pixel is a box
	return out, nil
}

// soft finds the line of a side and how soft it is: from cuts across it, then from all of them
// by how far they lie off that line.
func soft(p Picture, gamma float64, from, to [2]float64, a, b, long float64) (edge, bool) {
	reach := math.Min(0.9*CardFrame/CardSide*long, 40)
	const step = 0.25
	n := max(int(long*(1-2*cardClear)), 8)
	var xs, ys []float64
	var off, light []float64
	for k := range n {
		s := cardClear + (1-2*cardClear)*(float64(k)+0.5)/float64(n)
		x0, y0 := from[0]+s*(to[0]-from[0]), from[1]+s*(to[1]-from[1])
		var line []float64
		for d := -reach; d <= reach; d += step {
			line = append(line, p.between(x0+a*d, y0+b*d, gamma))
		}
		m := len(line) / 6
		dark, white := mean(line[:m]), mean(line[len(line)-m:])
		if white-dark < 0.05 {
			continue
		}
		for i := 1; i < len(line); i++ {
			if half := (dark + white) / 2; line[i-1] < half && line[i] >= half {
				d := -reach + step*(float64(i-1)+(half-line[i-1])/(line[i]-line[i-1]))
				xs, ys = append(xs, x0+a*d), append(ys, y0+b*d)
				for j, v := range line {
					off, light = append(off, -reach+step*float64(j)-d), append(light, (v-dark)/(white-dark))
				}
				break
			}
		}
	}
	if len(xs) < n/2 {
		return edge{}, false
	}
	// Offsets of the cuts from the mean line, along the normal.
	e := edge{a: a, b: b}
	tx, ty := -b, a
	mt, mn, tt, tn := 0.0, 0.0, 0.0, 0.0
	for i := range xs {
		mt, mn = mt+(tx*xs[i]+ty*ys[i])/float64(len(xs)), mn+(a*xs[i]+b*ys[i])/float64(len(xs))
	}
	for i := range xs {
		t, m := tx*xs[i]+ty*ys[i]-mt, a*xs[i]+b*ys[i]-mn
		tt, tn = tt+t*t, tn+t*m
	}
	slope := tn / math.Max(tt, 1e-9)
	norm := math.Hypot(1, slope)
	e.a, e.b = (a-slope*tx)/norm, (b-slope*ty)/norm
	e.c = (mn - slope*mt) / norm
	e.soft = spreadOf(off, light)
	return e, true
}

// spreadOf is the standard deviation of a soft edge from 0 to 1: from where it is an eighth, a
// quarter and so on, as a Gaussian has them.
func spreadOf(off, light []float64) float64 {
	const bins, wide = 400, 0.2
	sums, counts := make([]float64, bins), make([]float64, bins)
	for i, d := range off {
		if k := int(d/wide) + bins/2; k >= 0 && k < bins {
			sums[k], counts[k] = sums[k]+light[i], counts[k]+1
		}
	}
	cross := func(level float64) float64 {
		last, at := 0.0, 0.0
		for k := range bins {
			if counts[k] == 0 {
				continue
			}
			v, x := sums[k]/counts[k], (float64(k-bins/2)+0.5)*wide
			if last < level && v >= level {
				return at + (x-at)*(level-last)/math.Max(v-last, 1e-9)
			}
			last, at = v, x
		}
		return at
	}
	// 0.1587 and 0.8413 are a standard deviation to both sides.
	return (cross(0.8413) - cross(0.1587)) / 2
}

func mean(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x
	}
	return sum / math.Max(float64(len(v)), 1)
}

// between is the linear light at a place between pixels.
func (p Picture) between(x, y, gamma float64) float64 {
	x, y = math.Min(math.Max(x, 0), float64(p.W-1)), math.Min(math.Max(y, 0), float64(p.H-1))
	x0, y0 := min(int(x), p.W-2), min(int(y), p.H-2)
	tx, ty := x-float64(x0), y-float64(y0)
	at := func(x, y int) float64 { return math.Pow(float64(p.V[y*p.W+x]), gamma) }
	return lerp(lerp(at(x0, y0), at(x0+1, y0), tx), lerp(at(x0, y0+1), at(x0+1, y0+1), tx), ty)
}
