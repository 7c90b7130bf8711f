// Package body derives the panels of body types: a type is numbers only, nodes
// and curves in a side view and in the middle strip, from which panels are
// walked, shared edges found, and everything is laid out unfolded around the
// roof, nose to the left, the car's right side on top.
package body

import (
	"fmt"
	"math"
	"sync"

	"waxplanus/core/flatlay"
)

// Scenery is what is drawn around the panels but not painted: glass, lamps,
// wheels, mirrors, on the unfolded sheet.
type Scenery struct {
	Kind   string          `json:"kind"`
	Points []flatlay.Point `json:"points"`
	Centre flatlay.Point   `json:"centre"`
	Radius float64         `json:"radius"` // mm, wheels only
	only   string
}

// Box is a rectangle on the unfolded sheet in mm.
type Box struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	W float64 `json:"w"`
	H float64 `json:"h"`
}

// Size is that of a vehicle in mm; a loose panel has no length.
type Size struct{ Length, Width, Height float64 }

// Body is a body type unfolded: its panels and what lies around them.
type Body struct {
	Type    string
	Name    string
	Size    Size
	Box     Box
	Panels  []flatlay.Panel
	Scenery []Scenery
}

// The body types.
const (
	Saloon        = "saloon"
	Hatchback     = "hatchback"
	Estate        = "estate"
	Coupe         = "coupe"
	PeopleCarrier = "people-carrier"
	Pickup        = "pickup"
	PanelVan      = "panel-van"
	Motorcycle    = "motorcycle-parts"
	Loose         = "loose"
	Own           = "own" // a user's own outlines; no Find for it
)

// Types lists the body types that Find knows, in the order in which they are
// offered.
func Types() []string {
	return []string{Saloon, Hatchback, Estate, Coupe, PeopleCarrier, Pickup, PanelVan, Motorcycle, Loose}
}

// How far a vehicle may be off the size its type is drawn for.
const (
	leastRatio = 0.85
	mostRatio  = 1.18
)

var usual = struct {
	sync.Mutex
	made map[string]Body
}{made: map[string]Body{}}

// Find returns the body of a type. Zeros of the size stand for the usual one; a
// loose panel needs width and height. It fails, with a sentence, on a type that
// it does not know and on sizes that cannot be drawn.
func Find(kind string, size Size) (Body, error) {
	if kind == Loose {
		return LoosePanel(size.Width, size.Height)
	}
	known := false
	for _, t := range Types() {
		known = known || t == kind
	}
	if !known {
		return Body{}, fmt.Errorf("no body type is called %q: it is one of %v", kind, Types())
	}
	usual.Lock()
	defer usual.Unlock()
	if b, ok := usual.made[kind]; ok && (size == Size{} || size == b.Size) {
		return b, nil
	}
	b, err := build(kind, size)
	if err == nil && size == (Size{}) {
		usual.made[kind] = b
	}
	return b, err
}

func build(kind string, size Size) (Body, error) {
	s, err := readSpec(kind)
	if err != nil {
		return Body{}, err
	}
	ratio := func(want *float64, own float64, what string) (float64, error) {
		if *want == 0 || own == 0 {
			*want = own
			return 1, nil
		}
		r := *want / own
		if math.IsNaN(r) || r < leastRatio || r > mostRatio {
			return 0, fmt.Errorf("a %s %.0f mm %s cannot be drawn: it has to be %.0f to %.0f mm", s.Name, *want, what, math.Ceil(leastRatio*own), math.Floor(mostRatio*own))
		}
		return r, nil
	}
	rx, err := ratio(&size.Length, s.Length, "long")
	if err != nil {
		return Body{}, err
	}
	ry, err := ratio(&size.Width, s.Width, "wide")
	if err != nil {
		return Body{}, err
	}
	rz, err := ratio(&size.Height, s.Height, "high")
	if err != nil {
		return Body{}, err
	}
	b := Body{Type: s.Type, Name: s.Name, Size: size}
	if len(s.Parts) > 0 {
		b.layParts(s, rx)
	} else {
		s.Strip.ratioX, s.Strip.ratioZ, s.Strip.ratioWidth = rx, rz, ry
		if err := b.layCar(s, rx, ry, rz); err != nil {
			return Body{}, fmt.Errorf("a %s of this size cannot be drawn: %w", s.Name, err)
		}
	}
	b.join(s.Seams)
	b.bound()
	if err := b.check(); err != nil {
		return Body{}, fmt.Errorf("a %s of %.0f x %.0f x %.0f mm cannot be drawn: %w", s.Name, size.Length, size.Width, size.Height, err)
	}
	return b, nil
}

// check says what is wrong with a drawing: an outline that crosses itself, or
// panels that lie on one another.
func (b *Body) check() error {
	on := make([][]point, len(b.Panels))
	for i, p := range b.Panels {
		if err := p.Check(); err != nil {
			return err
		}
		for _, q := range p.Outline {
			on[i] = append(on[i], p.OnSheet(q))
		}
	}
	for i := range on {
		for j := range on {
			for _, q := range on[i] {
				if i != j && flatlay.Within(on[j], q) {
					return fmt.Errorf("the %s and the %s would lie on one another", b.Panels[i].Name, b.Panels[j].Name)
				}
			}
		}
	}
	return nil
}

// bound finds the box around everything.
func (b *Body) bound() {
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	see := func(p point, r float64) {
		x0, x1 = math.Min(x0, p.X-r), math.Max(x1, p.X+r)
		y0, y1 = math.Min(y0, p.Y-r), math.Max(y1, p.Y+r)
	}
	for _, p := range b.Panels {
		for _, q := range p.Outline {
			see(p.OnSheet(q), 0)
		}
	}
	for _, e := range b.Scenery {
		if e.Radius > 0 {
			see(e.Centre, e.Radius)
		}
		for _, q := range e.Points {
			see(q, 0)
		}
	}
	x0, y0 = math.Floor(x0), math.Floor(y0)
	b.Box = Box{x0, y0, math.Ceil(x1) - x0, math.Ceil(y1) - y0}
}

// Area is that of all panels, mm².
func (b Body) Area() float64 {
	sum := 0.0
	for _, p := range b.Panels {
		sum += p.Area()
	}
	return sum
}
