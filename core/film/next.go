package film

import (
	"math"

	"waxplanus/core/flatlay"
)

// SpotClear is how far, in mm, a proposed reading stays from edges and creases.
const SpotClear = 60.0

// NextSpots proposes up to count places for the probe, the best first: where
// the doubt is wide, the film near the level that decides, and no reading near.
// Each is chosen as if those before it had been read. Without a study (nil
// film) the places spread over the panel on their own. cells are cells of the
// ground.
func NextSpots(g *Ground, cells []flatlay.Point, film []Estimate, need float64, read []flatlay.Point, count int) []flatlay.Point {
	var out []flatlay.Point
	taken := append([]flatlay.Point(nil), read...)
	for len(out) < count {
		best, at := 0.0, flatlay.Point{}
		for i, c := range cells {
			spot := g.spots[g.nodeAt(c)]
			if spot.Edge < SpotClear || spot.Crease < SpotClear/2 {
				continue
			}
			score := spread(c, taken)
			if len(taken) == 0 {
				score = spot.Edge
			} else if film != nil {
				// A reading calms its surroundings as the gap does.
				z := (film[i].Mean - need) / math.Max(film[i].SD, 1e-9)
				score *= film[i].SD * film[i].SD * math.Exp(-z*z/8)
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

// spread is 1 far from every reading and 0 on one.
func spread(c flatlay.Point, taken []flatlay.Point) float64 {
	gap2 := math.Inf(1) // mm²
	for _, q := range taken {
		dx, dy := q.X-c.X, q.Y-c.Y
		gap2 = min(gap2, dx*dx+dy*dy)
	}
	return 1 - math.Exp(-gap2/(2*120*120))
}
