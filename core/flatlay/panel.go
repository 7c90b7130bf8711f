// Package flatlay knows the panels of a body: their outlines, edges, creases and
// cut-outs in mm, where each lies when the car is unfolded like a carton around
// its roof, and how a panel is split into sections.
//
// Every panel has its own coordinates: origin at the top left of its bounding
// box, x right and y down, seen from outside. A Placement puts it on the
// unfolded sheet, nose to the left.
package flatlay

import (
	"fmt"
	"math"
)

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

	Side       string      `json:"side,omitempty"`   // left, right or middle
	Lie        string      `json:"lie,omitempty"`    // crown or upright
	Mirror     string      `json:"mirror,omitempty"` // key of the panel on the other side
	Edges      []Edge      `json:"edges,omitempty"`
	Neighbours []Neighbour `json:"neighbours,omitempty"`
}

// Edge is a run of an outline, from one point to another in the outline's own
// order, with what lies behind it: shut (a gap to the next panel), fold, glass,
// lamp, arch, hem, crease or free. From and To alike stand for the whole outline.
type Edge struct {
	Tag  string `json:"tag"`
	From int    `json:"from"`
	To   int    `json:"to"`
}

// Neighbour is a panel that meets this one across an edge of that tag.
type Neighbour struct {
	Key string `json:"key"`
	Tag string `json:"tag"`
}

// EdgeLength is the length in mm of an edge.
func (p Panel) EdgeLength(e Edge) float64 {
	l, n := 0.0, len(p.Outline)
	for i := e.From; ; {
		a, b := p.Outline[i], p.Outline[(i+1)%n]
		l += math.Hypot(b.X-a.X, b.Y-a.Y)
		if i = (i + 1) % n; i == e.To {
			return l
		}
	}
}

// OnSheet is where a place of the panel lies on the unfolded sheet.
func (p Panel) OnSheet(q Point) Point {
	if p.Placement.Turned {
		w, h := p.Size()
		q = Point{w - q.X, h - q.Y}
	}
	return Point{p.Placement.X + q.X, p.Placement.Y + q.Y}
}

// Middle is about the place of a panel that is farthest from its edges and cut-outs: where
// something can be written on it.
func (p Panel) Middle() Point {
	const steps = 24
	w, h := p.Size()
	best, most := Point{w / 2, h / 2}, -1.0
	for i := 1; i < steps; i++ {
		for j := 1; j < steps; j++ {
			q := Point{w * float64(i) / steps, h * float64(j) / steps}
			if !p.Inside(q) {
				continue
			}
			d := p.EdgeDistance(q)
			for _, o := range p.Holes {
				d = min(d, LineDistance(o.Points, q, true))
			}
			if d > most {
				best, most = q, d
			}
		}
	}
	return best
}

// FromSheet is the place of the panel at a place of the unfolded sheet.
func (p Panel) FromSheet(q Point) Point {
	q = Point{q.X - p.Placement.X, q.Y - p.Placement.Y}
	if p.Placement.Turned {
		w, h := p.Size()
		q = Point{w - q.X, h - q.Y}
	}
	return q
}

// Reflect carries a place over to the mirrored panel; a panel on the middle line
// is its own mirror.
func (p Panel) Reflect(q Point, onto Panel) Point {
	w, h := p.Size()
	if p.Placement.Turned != onto.Placement.Turned {
		return Point{w - q.X, q.Y}
	}
	return Point{q.X, h - q.Y}
}

// Check says what is wrong with an outline: too few points, no area, or sides
// that cross. Cut-outs are checked alike.
func (p Panel) Check() error {
	if err := checkRing(p.Outline, "the outline of the "+p.Name); err != nil {
		return err
	}
	cut := 0.0
	for _, h := range p.Holes {
		cut += area(h.Points)
		if err := checkRing(h.Points, "a cut-out of the "+p.Name); err != nil {
			return err
		}
		for _, q := range h.Points {
			if !Within(p.Outline, q) && LineDistance(p.Outline, q, true) > 1 {
				return fmt.Errorf("a cut-out of the %s reaches over its edge at %.0f, %.0f mm: it has to lie inside", p.Name, q.X, q.Y)
			}
		}
	}
	if area(p.Outline)-cut < LeastArea {
		return fmt.Errorf("the cut-outs of the %s leave nothing of it: %.0f mm² of paint are the least", p.Name, LeastArea)
	}
	return nil
}

// CheckRing says what is wrong with a line that closes.
func CheckRing(p []Point, what string) error { return checkRing(p, what) }

// LeastArea is that of a panel or cut-out in mm²: a small screw head.
const LeastArea = 25.0

func checkRing(p []Point, what string) error {
	if len(p) < 3 {
		return fmt.Errorf("%s has %d points: it needs 3 at least", what, len(p))
	}
	for _, q := range p {
		if math.IsNaN(q.X+q.Y) || math.IsInf(q.X+q.Y, 0) {
			return fmt.Errorf("%s has a point that is not a number", what)
		}
	}
	if q, ok := selfCrossing(p); ok {
		return fmt.Errorf("%s crosses itself at %.0f, %.0f mm: its line may touch no other part of it", what, q.X, q.Y)
	}
	if area(p) < LeastArea {
		return fmt.Errorf("%s has no area: it needs %.0f mm² at least", what, LeastArea)
	}
	return nil
}

// selfCrossing finds a place where two sides of an outline that are no
// neighbours cross.
func selfCrossing(p []Point) (Point, bool) {
	n := len(p)
	for i := range n {
		a, b := p[i], p[(i+1)%n]
		for j := i + 2; j < n; j++ {
			if i == 0 && j == n-1 {
				continue
			}
			c, d := p[j], p[(j+1)%n]
			if max(a.X, b.X) < min(c.X, d.X) || max(c.X, d.X) < min(a.X, b.X) || max(a.Y, b.Y) < min(c.Y, d.Y) || max(c.Y, d.Y) < min(a.Y, b.Y) {
				continue
			}
			k := (b.X-a.X)*(d.Y-c.Y) - (b.Y-a.Y)*(d.X-c.X)
			if math.Abs(k) < 1e-9 {
				continue
			}
			t := ((c.X-a.X)*(d.Y-c.Y) - (c.Y-a.Y)*(d.X-c.X)) / k
			u := ((c.X-a.X)*(b.Y-a.Y) - (c.Y-a.Y)*(b.X-a.X)) / k
			if t >= 0 && t <= 1 && u >= 0 && u <= 1 {
				return Point{a.X + t*(b.X-a.X), a.Y + t*(b.Y-a.Y)}, true
			}
		}
	}
	return Point{}, false
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

// Around is the length in mm of all edges, those of cut-outs too.
func (p Panel) Around() float64 {
	sum := ring(p.Outline)
	for _, h := range p.Holes {
		sum += ring(h.Points)
	}
	return sum
}

func ring(pts []Point) float64 {
	sum := 0.0
	for i, q := range pts {
		next := pts[(i+1)%len(pts)]
		sum += math.Hypot(next.X-q.X, next.Y-q.Y)
	}
	return sum
}

// Inside says whether a place is on the paint: in the outline and in no cut-out.
func (p Panel) Inside(q Point) bool {
	if !Within(p.Outline, q) {
		return false
	}
	return p.HoleAt(q) == ""
}

// HoleAt names the kind of the cut-out at a place, or "" for none.
func (p Panel) HoleAt(q Point) string {
	for _, h := range p.Holes {
		if Within(h.Points, q) {
			return h.Kind
		}
	}
	return ""
}

// EdgeDistance is the distance in mm to the nearest edge, of the outline or of
// a cut-out.
func (p Panel) EdgeDistance(q Point) float64 {
	d := LineDistance(p.Outline, q, true)
	for _, h := range p.Holes {
		d = math.Min(d, LineDistance(h.Points, q, true))
	}
	return d
}

// CreaseDistance is the distance in mm to the nearest crease, math.Inf(1) where
// there is none.
func (p Panel) CreaseDistance(q Point) float64 {
	d := math.Inf(1)
	for _, c := range p.Creases {
		d = math.Min(d, LineDistance(c.Points, q, false))
	}
	return d
}

// SideDistances gives the distance in mm to the parts of the outline that face
// up, right, down and left, and to the rims of cut-outs; math.Inf(1) where the
// panel has none.
func (p Panel) SideDistances(q Point) [NumSides]float64 {
	d := [NumSides]float64{math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1)}
	turn := 1.0
	if SignedArea(p.Outline) < 0 {
		turn = -1
	}
	for i, a := range p.Outline {
		b := p.Outline[(i+1)%len(p.Outline)]
		// The outward normal of a walk that keeps the paint on its right, y down.
		nx, ny := turn*(b.Y-a.Y), -turn*(b.X-a.X)
		side := facing(nx, ny)
		d[side] = min(d[side], math.Sqrt(segmentDistance2(a, b, q)))
	}
	for _, h := range p.Holes {
		d[4] = math.Min(d[4], LineDistance(h.Points, q, true))
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

// SignedArea is the area of a closed outline in mm², below 0 when it goes round
// the other way.
func SignedArea(p []Point) float64 {
	s := 0.0
	for i, a := range p {
		b := p[(i+1)%len(p)]
		s += a.X*b.Y - a.Y*b.X
	}
	return s / 2
}

func area(p []Point) float64 { return math.Abs(SignedArea(p)) }

// Within says whether a place lies in a closed outline.
func Within(p []Point, q Point) bool {
	in := false
	for i, j := 0, len(p)-1; i < len(p); j, i = i, i+1 {
		a, b := p[i], p[j]
		if (a.Y > q.Y) != (b.Y > q.Y) && q.X < (b.X-a.X)*(q.Y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

// segmentDistance2 is squared, in mm².
func segmentDistance2(a, b, q Point) float64 {
	dx, dy := b.X-a.X, b.Y-a.Y
	t := 0.0
	if l := dx*dx + dy*dy; l > 0 {
		t = max(0, min(1, ((q.X-a.X)*dx+(q.Y-a.Y)*dy)/l))
	}
	ex, ey := a.X+t*dx-q.X, a.Y+t*dy-q.Y
	return ex*ex + ey*ey
}

// LineDistance is the distance in mm from a place to a line, open or closed.
func LineDistance(p []Point, q Point, closed bool) float64 {
	d := math.Inf(1)
	n := len(p) - 1
	if closed {
		n = len(p)
	}
	for i := range n {
		d = min(d, segmentDistance2(p[i], p[(i+1)%len(p)], q))
	}
	return math.Sqrt(d)
}
