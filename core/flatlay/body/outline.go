package body

import (
	"math"

	"waxplanus/core/flatlay"
)

// apart drops points that lie on the one before.
func apart(p []point) []point {
	var out []point
	for i, q := range p {
		if dist(q, p[(i+len(p)-1)%len(p)]) > 0.5 {
			out = append(out, q)
		}
	}
	return out
}

// sharp is the turn in radians from which a point of a drawn outline is a corner.
const sharp = 0.38

// fillet rounds the corners of a closed outline with at most radius mm, and at
// most 0.45 of the shorter run to the next corner.
func fillet(p []point, radius float64) []point {
	p = apart(p)
	n := len(p)
	corner := make([]bool, n)
	var corners []int
	for i := range p {
		if turnAngle(p[(i+n-1)%n], p[i], p[(i+1)%n]) > sharp {
			corner[i] = true
			corners = append(corners, i)
		}
	}
	if len(corners) == 0 {
		return p
	}
	room := func(i, dir int) float64 {
		d, k := 0.0, i
		for {
			j := (k + dir + n) % n
			d += dist(p[k], p[j])
			k = j
			if corner[k] {
				return d
			}
		}
	}
	gone := make([]bool, n)
	cut := map[int][]point{}
	// back walks off from a corner and says where it gets after far mm.
	back := func(i, dir int, far float64) point {
		d, k, seen := 0.0, i, 0
		for {
			j := (k + dir + n) % n
			l := dist(p[k], p[j])
			if d+l >= far {
				return towards(p[k], p[j], (far-d)/l)
			}
			d += l
			k = j
			seen++
			if corner[k] || seen > n/2 {
				return p[k]
			}
			gone[k] = true
		}
	}
	for _, i := range corners {
		r := math.Min(radius, 0.45*math.Min(room(i, 1), room(i, -1)))
		a, b := back(i, -1, r), back(i, 1, r)
		for k := range 7 {
			t := float64(k) / 6
			cut[i] = append(cut[i], add(add(mul(a, (1-t)*(1-t)), mul(p[i], 2*t*(1-t))), mul(b, t*t)))
		}
	}
	var out []point
	for i := range p {
		if c, ok := cut[i]; ok {
			out = append(out, c...)
		} else if !gone[i] {
			out = append(out, p[i])
		}
	}
	return apart(out) // a fillet may end on a point that is there already
}

// inset moves a closed outline inward by d mm: half the gap to the next panel.
func inset(p []point, d float64) []point {
	p = apart(p)
	n, side := len(p), 1.0
	if flatlay.SignedArea(p) < 0 {
		side = -1
	}
	out := make([]point, n)
	for i, q := range p {
		a, b := sub(q, p[(i+n-1)%n]), sub(p[(i+1)%n], q)
		na := mul(point{X: -a.Y, Y: a.X}, side/length(a))
		nb := mul(point{X: -b.Y, Y: b.X}, side/length(b))
		m := add(na, nb)
		k := length(m)
		if k < 0.2 {
			out[i] = q
			continue
		}
		m = mul(m, 1/k)
		out[i] = add(q, mul(m, d/math.Max(0.45, m.X*na.X+m.Y*na.Y)))
	}
	return out
}

// unloop cuts the small loops that an inset leaves at corners.
func unloop(p []point) []point {
	const reach = 90 // points ahead: a loop of an inset is small
	for range 60 {
		n := len(p)
		at, far, x := -1, 0, point{}
	search:
		for i := range p {
			for k := 2; k < min(reach, n-1); k++ {
				j := (i + k) % n
				if (j+1)%n == i {
					continue
				}
				if apartBoxes(p[i], p[(i+1)%n], p[j], p[(j+1)%n]) {
					continue
				}
				q, ok := meet([]point{p[i], p[(i+1)%n]}, []point{p[j], p[(j+1)%n]})
				if ok && dist(q, p[i]) > 1e-6 && dist(q, p[(j+1)%n]) > 1e-6 {
					at, far, x = i, k, q
					break search
				}
			}
		}
		if at < 0 {
			return p
		}
		drop := make([]bool, n)
		for q := range far {
			drop[(at+1+q)%n] = true
		}
		var out []point
		for i, q := range p {
			if !drop[i] {
				out = append(out, q)
			}
			if i == at {
				out = append(out, x)
			}
		}
		p = out
	}
	return p
}

// apartBoxes says whether the boxes around two sides do not touch.
func apartBoxes(a, b, c, d point) bool {
	const hair = 1e-3
	return max(a.X, b.X) < min(c.X, d.X)-hair || max(c.X, d.X) < min(a.X, b.X)-hair ||
		max(a.Y, b.Y) < min(c.Y, d.Y)-hair || max(c.Y, d.Y) < min(a.Y, b.Y)-hair
}

// even walks a closed outline in equal steps.
func even(p []point, step float64) []point {
	var out []point
	carry := 0.0
	for i, a := range p {
		b := p[(i+1)%len(p)]
		l := dist(a, b)
		t := carry
		for ; t < l; t += step {
			out = append(out, towards(a, b, t/l))
		}
		carry = t - l
	}
	return out
}

// soften takes the kinks of fillets and insets out of a closed outline without
// shrinking it: even steps, then rounds of Taubin's pair of low passes.
func soften(p []point, step float64, rounds int) []point {
	round := 0.0
	for i, q := range p {
		round += dist(q, p[(i+1)%len(p)])
	}
	step = math.Min(step, round/60)
	p = even(p, round/math.Max(40, math.Round(round/step)))
	n := len(p)
	pass := func(k float64) {
		next := make([]point, n)
		for i, q := range p {
			mid := mul(add(p[(i+n-1)%n], p[(i+1)%n]), 0.5)
			next[i] = add(q, mul(sub(mid, q), k))
		}
		p = next
	}
	for range rounds {
		pass(0.5)
		pass(-0.52)
	}
	return p
}

// rounded is a closed outline through points: those that turn by more than
// corner radians become fillets of radius mm, a spline runs through the others.
func rounded(through []point, radius, corner float64) []point {
	n := len(through)
	var hard []int
	for i := range through {
		if turnAngle(through[(i+n-1)%n], through[i], through[(i+1)%n]) > corner {
			hard = append(hard, i)
		}
	}
	const step = 14
	var out []point
	if len(hard) < 2 {
		for i, p := range through {
			s := spline([]point{p, through[(i+1)%n]}, step)
			out = append(out, s[:len(s)-1]...)
		}
		return fillet(out, radius)
	}
	for k, h := range hard {
		end := hard[(k+1)%len(hard)]
		run := []point{through[h]}
		for i := h; ; {
			i = (i + 1) % n
			run = append(run, through[i])
			if i == end {
				break
			}
		}
		s := spline(run, step)
		out = append(out, s[:len(s)-1]...)
	}
	return fillet(out, radius)
}
