package flatlay

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"sort"
)

// Scenery is what is drawn around the panels but not painted: glass, lamps,
// wheels, handles, on the unfolded sheet.
type Scenery struct {
	Kind   string  `json:"kind"`
	Points []Point `json:"points"`
	Centre Point   `json:"centre"`
	Radius float64 `json:"radius"` // mm, wheels only
}

// Box is a rectangle on the unfolded sheet in mm.
type Box struct{ X, Y, W, H float64 }

// Body is a body type unfolded: its panels and what lies around them.
type Body struct {
	Type    string
	Name    string
	Box     Box
	Panels  []Panel
	Scenery []Scenery
}

// The body types.
const (
	Saloon = "saloon"
	Loose  = "loose"
)

//go:embed saloon.json
var saloonData []byte

// sheet is how an outline file is written: every point on the unfolded sheet.
type sheet struct {
	Body, Name string
	Box        [4]float64
	Panels     []struct {
		Key, Name, Substrate string
		Turned               bool
		Outline              [][2]float64
		Holes                []struct {
			Kind   string
			Points [][2]float64
		}
		Creases []struct {
			Name   string
			Hard   bool
			Points [][2]float64
		}
	}
	Scenery []struct {
		Kind   string
		Points [][2]float64
		Centre [2]float64
		Radius float64
	}
}

var saloon = mustRead(saloonData)

func mustRead(data []byte) Body {
	b, err := readSheet(data)
	if err != nil {
		panic(err) // the file is part of the program
	}
	return b
}

func readSheet(data []byte) (Body, error) {
	var s sheet
	if err := json.Unmarshal(data, &s); err != nil {
		return Body{}, fmt.Errorf("outline sheet: %w", err)
	}
	b := Body{Type: s.Body, Name: s.Name, Box: Box{s.Box[0], s.Box[1], s.Box[2], s.Box[3]}}
	for _, p := range s.Panels {
		place := corner(p.Outline)
		x1, y1 := farCorner(p.Outline)
		own := func(pts [][2]float64) []Point {
			out := make([]Point, len(pts))
			for i, q := range pts {
				if p.Turned {
					out[i] = Point{x1 - q[0], y1 - q[1]}
				} else {
					out[i] = Point{q[0] - place.X, q[1] - place.Y}
				}
			}
			return out
		}
		n := Panel{Key: p.Key, Name: p.Name, Substrate: p.Substrate, Outline: own(p.Outline),
			Placement: Placement{place.X, place.Y, p.Turned}, Holes: []Hole{}, Creases: []Crease{}}
		for _, h := range p.Holes {
			n.Holes = append(n.Holes, Hole{h.Kind, own(h.Points)})
		}
		for _, c := range p.Creases {
			n.Creases = append(n.Creases, Crease{c.Name, c.Hard, own(c.Points)})
		}
		b.Panels = append(b.Panels, n)
	}
	for _, e := range s.Scenery {
		pts := make([]Point, len(e.Points))
		for i, q := range e.Points {
			pts[i] = Point{q[0], q[1]}
		}
		b.Scenery = append(b.Scenery, Scenery{e.Kind, pts, Point{e.Centre[0], e.Centre[1]}, e.Radius})
	}
	return b, nil
}

func corner(pts [][2]float64) Point {
	p := Point{math.Inf(1), math.Inf(1)}
	for _, q := range pts {
		p.X, p.Y = math.Min(p.X, q[0]), math.Min(p.Y, q[1])
	}
	return p
}

func farCorner(pts [][2]float64) (x, y float64) {
	x, y = math.Inf(-1), math.Inf(-1)
	for _, q := range pts {
		x, y = math.Max(x, q[0]), math.Max(y, q[1])
	}
	return x, y
}

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
	var out []Point
	for q, c := range []Point{{w - r, r}, {w - r, h - r}, {r, h - r}, {r, r}} {
		for k := range 7 {
			a := (float64(q)-1)*math.Pi/2 + float64(k)/6*math.Pi/2
			out = append(out, Point{c.X + r*math.Cos(a), c.Y + r*math.Sin(a)})
		}
	}
	p := Panel{Key: "panel", Name: "loose panel", Substrate: "steel", Outline: out, Holes: []Hole{}, Creases: []Crease{}}
	return Body{Type: Loose, Name: "loose panel", Box: Box{0, 0, w, h}, Panels: []Panel{p}}, nil
}

// Find returns the body of a type; w and h (mm) count for a loose panel only.
func Find(kind string, w, h float64) (Body, error) {
	switch kind {
	case Saloon:
		return saloon, nil
	case Loose:
		return LoosePanel(w, h)
	}
	return Body{}, fmt.Errorf("no body type is called %q: it is one of %v", kind, Types())
}

// Types lists the body types.
func Types() []string {
	t := []string{Saloon, Loose}
	sort.Strings(t)
	return t
}
