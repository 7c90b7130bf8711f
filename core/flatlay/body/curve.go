package body

import (
	"math"

	"waxplanus/core/flatlay"
)

type point = flatlay.Point

func sub(a, b point) point                { return point{X: a.X - b.X, Y: a.Y - b.Y} }
func add(a, b point) point                { return point{X: a.X + b.X, Y: a.Y + b.Y} }
func mul(a point, k float64) point        { return point{X: a.X * k, Y: a.Y * k} }
func length(a point) float64              { return math.Hypot(a.X, a.Y) }
func dist(a, b point) float64             { return length(sub(a, b)) }
func wedge(a, b point) float64            { return a.X*b.Y - a.Y*b.X }
func towards(a, b point, t float64) point { return add(a, mul(sub(b, a), t)) }

// turnAngle is the angle in radians by which a walk a, b, c turns at b, 0 for straight on.
func turnAngle(a, b, c point) float64 {
	u, v := sub(b, a), sub(c, b)
	return math.Abs(math.Atan2(wedge(u, v), u.X*v.X+u.Y*v.Y))
}

// fine is the usual step of a drawn curve in mm.
const fine = 12.0

// spline is the centripetal Catmull-Rom curve through points, drawn in steps of
// about step mm; two points give a straight line.
func spline(through []point, step float64) []point {
	if len(through) == 2 {
		n := max(int(math.Ceil(dist(through[0], through[1])/step)), 1)
		out := make([]point, n+1)
		for i := range out {
			out[i] = towards(through[0], through[1], float64(i)/float64(n))
		}
		return out
	}
	n := len(through)
	p := append([]point{add(through[0], sub(through[0], through[1]))}, through...)
	p = append(p, add(through[n-1], sub(through[n-1], through[n-2])))
	out := []point{through[0]}
	for i := 1; i < len(p)-2; i++ {
		a, b, c, d := p[i-1], p[i], p[i+1], p[i+2]
		t1 := math.Sqrt(dist(a, b))
		t2 := t1 + math.Sqrt(dist(b, c))
		t3 := t2 + math.Sqrt(dist(c, d))
		steps := max(int(math.Ceil(dist(b, c)/step)), 2)
		for k := 1; k <= steps; k++ {
			t := t1 + (t2-t1)*float64(k)/float64(steps)
			at := func(u, v point, s, e float64) point { return towards(u, v, (t-s)/(e-s)) }
			a1, a2, a3 := at(a, b, 0, t1), at(b, c, t1, t2), at(c, d, t2, t3)
			out = append(out, at(at(a1, a2, 0, t2), at(a2, a3, t1, t3), t1, t2))
		}
	}
	return out
}

// ring is the closed Catmull-Rom curve through points.
func ring(through []point, step float64) []point {
	n := len(through)
	long := append([]point{through[n-2], through[n-1]}, through...)
	s := spline(append(long, through[0], through[1]), step)
	first, last := -1, -1
	for i, q := range s {
		if dist(q, through[0]) < 1 {
			if first < 0 {
				first = i
			}
			last = i
		}
	}
	return s[first:last]
}

// arc is part of a circle from one angle to another, radians.
func arc(centre point, radius, from, to float64) []point {
	n := max(int(math.Ceil(math.Abs(to-from)*radius/fine)), 6)
	out := make([]point, n+1)
	for i := range out {
		a := from + (to-from)*float64(i)/float64(n)
		out[i] = point{X: centre.X + radius*math.Cos(a), Y: centre.Y + radius*math.Sin(a)}
	}
	return out
}

// along is where on a line the point nearest to p lies: index and fraction.
func along(line []point, p point) float64 {
	best, at := math.Inf(1), 0.0
	for i := range len(line) - 1 {
		a, d := line[i], sub(line[i+1], line[i])
		t := 0.0
		if l := d.X*d.X + d.Y*d.Y; l > 0 {
			q := sub(p, a)
			t = math.Max(0, math.Min(1, (d.X*q.X+d.Y*q.Y)/l))
		}
		if w := dist(p, add(a, mul(d, t))); w < best {
			best, at = w, float64(i)+t
		}
	}
	return at
}

// between is the stretch of a line from the place nearest p to that nearest q,
// in that direction, and where on the line both are.
func between(line []point, p, q point) (out []point, from, to float64) {
	from, to = along(line, p), along(line, q)
	at := func(f float64) point {
		i := min(int(f), len(line)-2)
		return towards(line[i], line[i+1], f-float64(i))
	}
	out = append(out, at(from))
	if from <= to {
		for i := int(from) + 1; i <= int(to); i++ {
			if float64(i)-from > 1e-6 && to-float64(i) > 1e-6 {
				out = append(out, line[i])
			}
		}
	} else {
		for i := int(math.Ceil(from)) - 1; i >= int(math.Ceil(to)); i-- {
			if from-float64(i) > 1e-6 && float64(i)-to > 1e-6 {
				out = append(out, line[i])
			}
		}
	}
	return append(out, at(to)), from, to
}

// meet is where two lines cross first, and whether they do.
func meet(l, m []point) (point, bool) {
	for i := range len(l) - 1 {
		p, r := l[i], sub(l[i+1], l[i])
		for j := range len(m) - 1 {
			q, s := m[j], sub(m[j+1], m[j])
			d := wedge(r, s)
			if math.Abs(d) < 1e-9 {
				continue
			}
			w := sub(q, p)
			t, u := wedge(w, s)/d, wedge(w, r)/d
			if t >= -1e-6 && t <= 1+1e-6 && u >= -1e-6 && u <= 1+1e-6 {
				return add(p, mul(r, t)), true
			}
		}
	}
	return point{}, false
}

// insideRun is the longest run of a line that lies inside an outline and at
// least margin mm off its edge.
func insideRun(line, outline []point, margin float64) []point {
	var best, run []point
	for _, p := range line {
		if flatlay.Within(outline, p) && flatlay.LineDistance(outline, p, true) > margin {
			run = append(run, p)
			continue
		}
		if len(run) > len(best) {
			best = run
		}
		run = nil
	}
	if len(run) > len(best) {
		best = run
	}
	return best
}
