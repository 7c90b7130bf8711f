package files

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"waxplanus/core/flatlay/body"
)

// MostDrawing is how large a drawing may be, bytes.
const MostDrawing = 2 << 20

// Scale says how large a drawing is: mm a unit, or the width of one panel in mm,
// the largest where Panel names none. Zeros leave it to the drawing.
type Scale struct {
	PerUnit float64
	Known   float64
	Panel   string
}

// Drawing is what an SVG file of outlines was understood as. Scale is 0 while it
// is not known; then the body is drawn two metres wide.
type Drawing struct {
	Body      body.Body
	Scale     float64
	ScaleFrom string
	Notes     []string
}

// The bounds of what is drawn.
const (
	mostPanels = 80
	mostDepth  = 60
	leastSide  = 20.0   // mm
	mostSide   = 8000.0 // mm
)

// shape is one thing of a drawing in its units.
type shape struct {
	panel, role, substrate string
	paths                  []subpath
}

// context is what an element takes over from those around it.
type context struct {
	transform              transform
	panel, role, substrate string
	skip                   bool
}

// reader collects shapes while it walks through the file.
type reader struct {
	shapes  []shape
	scale   float64
	dropped map[string]bool
	notes   []string
	svg     bool
	points  int
}

// ReadDrawing reads outlines from an SVG file: paths, polygons, polylines, lines,
// rects, circles and ellipses with their transforms. An element's data-panel or
// id names the panel, data-role makes it a crease or a cutout, data-mm-per-unit
// gives the scale. Scripts and everything that is not an outline are dropped and
// noted. Errors say what is wrong and what would be right.
func ReadDrawing(text string, scale Scale) (Drawing, error) {
	if len(text) > MostDrawing {
		return Drawing{}, fmt.Errorf("the drawing is larger than %d MB. Leave pictures out and keep the outlines", MostDrawing>>20)
	}
	for what, v := range map[string]float64{"scale": scale.PerUnit, "known width": scale.Known} {
		if math.IsNaN(v) || v < 0 || v > 1e5 {
			return Drawing{}, fmt.Errorf("a %s of %v mm cannot be: it is more than 0 and less than 100 000", what, v)
		}
	}
	r := reader{dropped: map[string]bool{}}
	if err := r.read(text); err != nil {
		return Drawing{}, err
	}
	d := Drawing{Notes: r.notes}
	if err := d.build(r, scale); err != nil {
		return Drawing{}, err
	}
	return d, nil
}

func (r *reader) note(format string, args ...any) {
	text := fmt.Sprintf(format, args...)
	if !r.dropped[text] {
		r.dropped[text] = true
		r.notes = append(r.notes, text)
	}
}

func (r *reader) read(text string) error {
	dec := xml.NewDecoder(strings.NewReader(text))
	stack := []context{{transform: identity}}
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			if !r.svg {
				return errors.New("this is no SVG drawing: it has no svg element")
			}
			return nil
		}
		if err != nil {
			line, _ := dec.InputPos()
			return fmt.Errorf("this is no SVG drawing that can be read: line %d is broken (%s)", line, strings.TrimPrefix(err.Error(), "XML syntax error on "))
		}
		switch t := token.(type) {
		case xml.StartElement:
			if len(stack) > mostDepth {
				return fmt.Errorf("its groups are nested more than %d deep. Flatten them", mostDepth)
			}
			c, err := r.element(t, stack[len(stack)-1])
			if err != nil {
				line, _ := dec.InputPos()
				return fmt.Errorf("line %d: %w", line, err)
			}
			stack = append(stack, c)
		case xml.EndElement:
			stack = stack[:len(stack)-1]
		}
	}
}

// attributes of an element by their local names.
func attributes(t xml.StartElement) map[string]string {
	out := map[string]string{}
	for _, a := range t.Attr {
		out[a.Name.Local] = a.Value
	}
	return out
}

func (r *reader) element(t xml.StartElement, c context) (context, error) {
	at := attributes(t)
	name := t.Name.Local
	for k := range at {
		if strings.HasPrefix(strings.ToLower(k), "on") {
			r.note("Script content was dropped: the %s attribute of a %s.", k, name)
		}
	}
	switch name {
	case "script", "foreignObject", "handler":
		r.note("Script content was dropped: a %s element.", name)
		c.skip = true
	case "defs", "clipPath", "mask", "marker", "pattern", "symbol", "style", "metadata", "title", "desc":
		c.skip = true
	}
	if c.skip {
		return c, nil
	}
	if text, ok := at["transform"]; ok {
		m, err := parseTransform(text)
		if err != nil {
			return c, err
		}
		c.transform = c.transform.then(m)
	}
	for key, to := range map[string]*string{"data-role": &c.role, "data-panel": &c.panel, "data-substrate": &c.substrate} {
		if v := strings.TrimSpace(at[key]); v != "" {
			*to = v
		}
	}
	switch name {
	case "svg":
		r.svg = true
		if text, ok := at["data-mm-per-unit"]; ok {
			v, err := strconv.ParseFloat(strings.TrimSpace(text), 64)
			if err != nil || !(v > 0 && v < 1e5) {
				return c, fmt.Errorf("data-mm-per-unit is %q; a number of mm more than 0 is wanted, such as 1", text)
			}
			r.scale = v
		}
		return c, nil
	case "g", "a", "switch":
		return c, nil
	}
	if c.role == "reading" || c.role == "mark" {
		return c, nil
	}
	paths, err := drawn(name, at)
	if err != nil {
		return c, err
	}
	if paths == nil {
		r.note("Left out: a %s, which is no outline.", name)
		c.skip = true
		return c, nil
	}
	return c, r.take(c, at["id"], paths)
}

// drawn is the shape of an element, nil for one that is none.
func drawn(name string, at map[string]string) ([]subpath, error) {
	num := func(key string) float64 {
		v, _ := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(at[key]), "px"), 64)
		return v
	}
	switch name {
	case "path":
		return parsePath(at["d"])
	case "polygon", "polyline":
		v, err := numberList(at["points"])
		if err != nil {
			return nil, err
		}
		p := subpath{closed: name == "polygon"}
		for i := 0; i+1 < len(v); i += 2 {
			p.points = append(p.points, point{X: v[i], Y: v[i+1]})
		}
		return []subpath{p}, nil
	case "line":
		return []subpath{{points: []point{{X: num("x1"), Y: num("y1")}, {X: num("x2"), Y: num("y2")}}}}, nil
	case "rect":
		return rect(num("x"), num("y"), num("width"), num("height"), num("rx"), num("ry")), nil
	case "circle":
		return ellipse(num("cx"), num("cy"), num("r"), num("r")), nil
	case "ellipse":
		return ellipse(num("cx"), num("cy"), num("rx"), num("ry")), nil
	}
	return nil, nil
}

func rect(x, y, w, h, rx, ry float64) []subpath {
	if rx == 0 {
		rx = ry
	}
	if ry == 0 {
		ry = rx
	}
	rx, ry = math.Min(rx, w/2), math.Min(ry, h/2)
	if rx <= 0 || ry <= 0 {
		return []subpath{{[]point{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}, true}}
	}
	p := subpath{closed: true}
	for q, c := range []point{{X: x + w - rx, Y: y + ry}, {X: x + w - rx, Y: y + h - ry}, {X: x + rx, Y: y + h - ry}, {X: x + rx, Y: y + ry}} {
		for k := range 13 {
			s, co := math.Sincos((float64(q) - 1 + float64(k)/12) * math.Pi / 2)
			p.points = append(p.points, point{X: c.X + rx*co, Y: c.Y + ry*s})
		}
	}
	return []subpath{p}
}

func ellipse(x, y, rx, ry float64) []subpath {
	p := subpath{closed: true}
	for k := range curveSteps {
		s, c := math.Sincos(2 * math.Pi * float64(k) / curveSteps)
		p.points = append(p.points, point{X: x + rx*c, Y: y + ry*s})
	}
	return []subpath{p}
}

// take keeps a shape under its panel's name and role.
func (r *reader) take(c context, id string, paths []subpath) error {
	s := shape{panel: c.panel, role: c.role, substrate: c.substrate}
	switch s.role {
	case "", "outline", "crease", "cutout":
	default:
		return fmt.Errorf("data-role=%q is not known: it is crease or cutout, or left out for an outline", s.role)
	}
	if s.panel == "" && s.role != "crease" && s.role != "cutout" {
		s.panel = strings.TrimSpace(id)
	}
	for _, p := range paths {
		moved := subpath{closed: p.closed}
		for _, q := range p.points {
			moved.points = append(moved.points, c.transform.at(q))
		}
		if r.points += len(p.points); r.points > mostPoints {
			return fmt.Errorf("it has more than %d points. Simplify the outlines", mostPoints)
		}
		s.paths = append(s.paths, tidy(moved))
	}
	r.shapes = append(r.shapes, s)
	return nil
}

// tidy drops points that lie on one another, and closes what comes back to its
// start.
func tidy(p subpath) subpath {
	p.points = slices.Compact(p.points)
	if n := len(p.points); n > 3 && p.points[0] == p.points[n-1] {
		p.points, p.closed = p.points[:n-1], true
	}
	return p
}
