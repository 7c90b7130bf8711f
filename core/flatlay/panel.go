// Package flatlay knows the panels of a body: their outlines, edges, creases and
// cut-outs in mm, where each lies when the car is unfolded like a carton around
// its roof, and how a panel is split into sections.
//
// Every panel has its own coordinates: origin at the top left of its bounding
// box, x right and y down, seen from outside. A Placement puts it on the
// unfolded sheet, nose to the left.
package flatlay

import "math"

// Point is a place in mm.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Hole is a cut-out of a panel: glass, grille or a fixing hole.
type Hole struct {
	Kind   string  `json:"kind"`
	Points []Point `json:"points"`
}

// Crease is a body line. Hard creases bound sections.
type Crease struct {
	Name   string  `json:"name"`
	Hard   bool    `json:"hard"`
	Points []Point `json:"points"`
}

// Placement puts a panel on the unfolded sheet: its top left corner in mm, and
// whether it is turned by half a circle there, as the car's right side is.
type Placement struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Turned bool    `json:"turned"`
}

// Panel is one panel in its own coordinates.
type Panel struct {
	Key       string    `json:"key"`
	Name      string    `json:"name"`
	Substrate string    `json:"substrate"` // steel, aluminium or plastic
	Outline   []Point   `json:"outline"`
	Holes     []Hole    `json:"holes"`
	Creases   []Crease  `json:"creases"`
	Placement Placement `json:"placement"`
}

// NumSides counts the sides told apart by SideDistances.
const NumSides = 5

// Size is the width and height of the bounding box in mm.
func (p Panel) Size() (w, h float64) {
	for _, q := range p.Outline {
		w, h = math.Max(w, q.X), math.Max(h, q.Y)
	}
	return w, h
}

// Area is the painted area in mm²: the outline less its cut-outs.
func (p Panel) Area() float64 {
	a := area(p.Outline)
	for _, h := range p.Holes {
		a -= area(h.Points)
	}
	return a
}

// Inside says whether a place is on the paint: in the outline and in no cut-out.
func (p Panel) Inside(q Point) bool {
	if !inside(p.Outline, q) {
		return false
	}
	return p.HoleAt(q) == ""
}

// HoleAt names the kind of the cut-out at a place, or "" for none.
func (p Panel) HoleAt(q Point) string {
	for _, h := range p.Holes {
		if inside(h.Points, q) {
			return h.Kind
		}
	}
	return ""
}

// EdgeDistance is the distance in mm to the nearest edge, of the outline or of
// a cut-out.
func (p Panel) EdgeDistance(q Point) float64 {
	d := lineDistance(p.Outline, q, true)
	for _, h := range p.Holes {
		d = math.Min(d, lineDistance(h.Points, q, true))
	}
	return d
}

// CreaseDistance is the distance in mm to the nearest crease, math.Inf(1) where
// there is none.
func (p Panel) CreaseDistance(q Point) float64 {
	d := math.Inf(1)
	for _, c := range p.Creases {
		d = math.Min(d, lineDistance(c.Points, q, false))
	}
	return d
}

// SideDistances gives the distance in mm to the parts of the outline that face
// up, right, down and left, and to the rims of cut-outs; math.Inf(1) where the
// panel has none.
func (p Panel) SideDistances(q Point) [NumSides]float64 {
	d := [NumSides]float64{math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1)}
	turn := 1.0
	if signedArea(p.Outline) < 0 {
		turn = -1
	}
	for i, a := range p.Outline {
		b := p.Outline[(i+1)%len(p.Outline)]
		// The outward normal of a walk that keeps the paint on its right, y down.
		nx, ny := turn*(b.Y-a.Y), -turn*(b.X-a.X)
		side := facing(nx, ny)
		d[side] = math.Min(d[side], segmentDistance(a, b, q))
	}
	for _, h := range p.Holes {
		d[4] = math.Min(d[4], lineDistance(h.Points, q, true))
	}
	return d
}

func facing(nx, ny float64) int {
	switch {
	case math.Abs(ny) >= math.Abs(nx) && ny < 0:
		return 0
	case math.Abs(ny) >= math.Abs(nx):
		return 2
	case nx > 0:
		return 1
	default:
		return 3
	}
}

func signedArea(p []Point) float64 {
	s := 0.0
	for i, a := range p {
		b := p[(i+1)%len(p)]
		s += a.X*b.Y - a.Y*b.X
	}
	return s / 2
}

func area(p []Point) float64 { return math.Abs(signedArea(p)) }

func inside(p []Point, q Point) bool {
	in := false
	for i, j := 0, len(p)-1; i < len(p); j, i = i, i+1 {
		a, b := p[i], p[j]
		if (a.Y > q.Y) != (b.Y > q.Y) && q.X < (b.X-a.X)*(q.Y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

func segmentDistance(a, b, q Point) float64 {
	dx, dy := b.X-a.X, b.Y-a.Y
	t := 0.0
	if l := dx*dx + dy*dy; l > 0 {
		t = math.Max(0, math.Min(1, ((q.X-a.X)*dx+(q.Y-a.Y)*dy)/l))
	}
	return math.Hypot(a.X+t*dx-q.X, a.Y+t*dy-q.Y)
}

func lineDistance(p []Point, q Point, closed bool) float64 {
	d := math.Inf(1)
	n := len(p) - 1
	if closed {
		n = len(p)
	}
	for i := range n {
		d = math.Min(d, segmentDistance(p[i], p[(i+1)%len(p)], q))
	}
	return d
}
