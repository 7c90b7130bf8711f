package flatlay

import (
	"math"
	"slices"
)

// Slack is how far, in mm, a kept outline may lie off the drawn one.
const Slack = 0.25

// Sparse keeps of a closed outline the points that it needs to stay within Slack.
func Sparse(p []Point) []Point {
	if len(p) < 4 {
		return slices.Clone(p)
	}
	far, at := 0.0, 0
	for i, q := range p {
		if d := math.Hypot(q.X-p[0].X, q.Y-p[0].Y); d > far {
			far, at = d, i
		}
	}
	there, back := Thinned(p[:at+1]), Thinned(append(slices.Clone(p[at:]), p[0]))
	return append(there[:len(there)-1], back[:len(back)-1]...)
}

// Thinned is Douglas and Peucker's choice of points of an open line, within Slack.
func Thinned(p []Point) []Point {
	if len(p) < 3 {
		return slices.Clone(p)
	}
	far, at := 0.0, 0
	for i := 1; i < len(p)-1; i++ {
		if d := math.Sqrt(segmentDistance2(p[0], p[len(p)-1], p[i])); d > far {
			far, at = d, i
		}
	}
	if far <= Slack {
		return []Point{p[0], p[len(p)-1]}
	}
	left := Thinned(p[:at+1])
	return append(left[:len(left)-1], Thinned(p[at:])...)
}
