package film

import (
	"math"

	"waxplanus/core/flatlay"
)

// SpotClear is how far, in mm, a proposed reading stays from edges and creases.
const SpotClear = 60.0

// narrower are the distances (mm) that are kept where a panel is too narrow for so many places
// that are SpotClear from its edges: as far off as it allows.
var narrower = [...]float64{SpotClear, 40, 25, 12, 0}

// clearOf is how far from the edges places among some cells can be and still be enough, spread
// over all of them: a sill is wide enough at one end only.
func (g *Ground) clearOf(cells []flatlay.Point) float64 {
	const most = 2.0 / 3 // of the length that they have to span
	all := spanned(cells)
	for _, clear := range narrower {
		var off []flatlay.Point
		for _, c := range cells {
			if spot := g.spots[g.nodeAt(c)]; spot.Edge >= clear && spot.Crease >= clear/2 {
				off = append(off, c)
			}
		}
		if len(off) >= EnoughSpots && spanned(off) >= most*all {
			return clear
		}
	}
	return 0
}

// spanned is the longer side (mm) of what some places span.
func spanned(at []flatlay.Point) float64 {
	low, high := flatlay.Point{X: math.Inf(1), Y: math.Inf(1)}, flatlay.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, q := range at {
		low.X, low.Y, high.X, high.Y = min(low.X, q.X), min(low.Y, q.Y), max(high.X, q.X), max(high.Y, q.Y)
	}
	return max(high.X-low.X, high.Y-low.Y)
}

// NextSpots proposes up to count places for the probe, the best first: where
// the doubt is wide, the film near the level that decides, and no reading near.
// Each is chosen as if those before it had been read. Without a study (nil
// film) the places spread over the panel on their own. cells are cells of the
// ground.
func NextSpots(g *Ground, cells []flatlay.Point, film []Estimate, need float64, read []flatlay.Point, count int) []flatlay.Point {
	var out []flatlay.Point
	taken := append([]flatlay.Point(nil), read...)
	clear := g.clearOf(cells)
	for len(out) < count {
		best, at := 0.0, flatlay.Point{}
		for i, c := range cells {
			spot := g.spots[g.nodeAt(c)]
			if spot.Edge < clear || spot.Crease < clear/2 {
				continue
			}
			score := spread(c, taken)
			if len(taken) == 0 {
				score = spot.Edge
			} else if film != nil {
				// A reading calms its surroundings as the gap does.
				z := (film[i].Mean - need) / math.Max(film[i].SD, 1e-9)
				score *= film[i].SD * film[i].SD * math.Exp(-min(z*z/8, farOff))
			}
			if score > best {
				best, at = score, c
			}
		}
		if best == 0 {
			return out
		}
		out, taken = append(out, at), append(taken, at)
	}
	return out
}

// farOff keeps places that are beyond any doubt in order among themselves, and from scoring nothing.
const farOff = 100.0

// spread is 1 far from every reading and 0 on one.
func spread(c flatlay.Point, taken []flatlay.Point) float64 {
	gap2 := math.Inf(1) // mm²
	for _, q := range taken {
		dx, dy := q.X-c.X, q.Y-c.Y
		gap2 = min(gap2, dx*dx+dy*dy)
	}
	return 1 - math.Exp(-gap2/(2*120*120))
}
