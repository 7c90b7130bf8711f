package film

import "math"

// Factor is the film at a place as a share of the film far from edges and
// creases; edge and crease are its distances in mm (math.Inf(1) for none). The
// smaller of the two factors wins.
func (t Thinning) Factor(edge, crease float64) float64 {
	return math.Min(1-t.Edge*math.Exp(-edge/t.EdgeReach), 1-t.Crease*math.Exp(-crease/t.CreaseReach))
}

// Spot is a place on a panel as the film map sees it.
type Spot struct {
	X, Y float64 // mm
	// Edge and Crease are the distances (mm) to the nearest edge and crease,
	// Sides the distance to each of the panel's sides on its own; math.Inf(1)
	// where there is none.
	Edge, Crease float64
	Sides        [NumSides]float64
	Zone         int // of another history that it lies in, from 1; 0 for none
}

// The sides that thin on their own: where the outline faces up, right, down and
// left, and the rims of cut-outs.
const NumSides = 5

// Extent is the size of the panel's bounding box in mm.
type Extent struct{ W, H float64 }
