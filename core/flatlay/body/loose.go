package body

import (
	"fmt"
	"math"

	"waxplanus/core/flatlay"
)

// The sizes that a loose panel may have, mm.
const (
	LooseLeast = 100.0
	LooseMost  = 3000.0
)

// LoosePanel is a flat part with rounded corners of w x h mm. It fails when a
// side is not between LooseLeast and LooseMost.
func LoosePanel(w, h float64) (Body, error) {
	for _, v := range []float64{w, h} {
		if math.IsNaN(v) || v < LooseLeast || v > LooseMost {
			return Body{}, fmt.Errorf("a loose panel of %.0f x %.0f mm cannot be drawn: each side has to be %.0f to %.0f mm", w, h, LooseLeast, LooseMost)
		}
	}
	r := math.Min(40, math.Min(w, h)/4)
	var out []point
	for q, c := range []point{{X: w - r, Y: r}, {X: w - r, Y: h - r}, {X: r, Y: h - r}, {X: r, Y: r}} {
		for k := range 7 {
			a := (float64(q)-1)*math.Pi/2 + float64(k)/6*math.Pi/2
			out = append(out, point{X: c.X + r*math.Cos(a), Y: c.Y + r*math.Sin(a)})
		}
	}
	p := flatlay.Panel{Key: "panel", Name: "loose panel", Substrate: "steel", Outline: out, Side: "middle", Lie: "crown",
		Holes: []flatlay.Hole{}, Creases: []flatlay.Crease{}, Neighbours: []flatlay.Neighbour{}, Edges: []flatlay.Edge{{Tag: "free"}}}
	return Body{Type: Loose, Name: "loose panel", Size: Size{0, w, h}, Box: Box{0, 0, w, h}, Panels: []flatlay.Panel{p}}, nil
}
