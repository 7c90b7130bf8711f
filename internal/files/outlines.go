package files

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
)

// drawnAs is how wide, in mm, a drawing is taken to be while its scale is not
// known.
const drawnAs = 2000.0

// mostKept is how many points an outline may keep.
const mostKept = 6000

// build makes panels of the shapes.
func (d *Drawing) build(r reader, scale Scale) error {
	d.Body = body.Body{Type: body.Own, Name: "own outline"}
	for _, s := range r.shapes {
		if s.role == "crease" || s.role == "cutout" {
			continue
		}
		if err := d.panel(s); err != nil {
			return err
		}
	}
	if len(d.Body.Panels) == 0 {
		return errors.New("the drawing has no outline: it needs a closed path, polygon or rect")
	}
	if len(d.Body.Panels) > mostPanels {
		return fmt.Errorf("the drawing has %d panels, %d are the most. Split it", len(d.Body.Panels), mostPanels)
	}
	if err := d.measure(r.scale, scale); err != nil {
		return err
	}
	for _, s := range r.shapes {
		if s.role == "crease" || s.role == "cutout" {
			if err := d.detail(s); err != nil {
				return err
			}
		}
	}
	return d.settle()
}

// panel takes a closed path as an outline, paths inside it as cut-outs.
func (d *Drawing) panel(s shape) error {
	p := flatlay.Panel{Name: s.panel, Substrate: "steel", Side: "middle", Lie: "crown"}
	if p.Name == "" {
		p.Name = fmt.Sprintf("panel %d", len(d.Body.Panels)+1)
	}
	if s.substrate != "" {
		if !slices.Contains([]string{"steel", "aluminium", "plastic"}, s.substrate) {
			return fmt.Errorf("the %s has data-substrate=%q: it is steel, aluminium or plastic", p.Name, s.substrate)
		}
		p.Substrate = s.substrate
	}
	best := -1
	for i, path := range s.paths {
		if !path.closed {
			d.Notes = append(d.Notes, fmt.Sprintf("Left out: an open line of the %s. An outline has to close; data-role=\"crease\" makes it a crease.", p.Name))
			continue
		}
		if best < 0 || math.Abs(flatlay.SignedArea(path.points)) > math.Abs(flatlay.SignedArea(s.paths[best].points)) {
			best = i
		}
	}
	if best < 0 {
		return nil
	}
	p.Outline = s.paths[best].points
	for i, path := range s.paths {
		if i != best && path.closed {
			p.Holes = append(p.Holes, flatlay.Hole{Kind: "hole", Points: path.points})
		}
	}
	names := map[string]bool{}
	for _, o := range d.Body.Panels {
		names[o.Name] = true
	}
	for n, name := 2, p.Name; names[p.Name]; n++ {
		p.Name = fmt.Sprintf("%s %d", name, n)
	}
	d.Body.Panels = append(d.Body.Panels, p)
	return nil
}

// measure finds the scale and gives the outlines their size.
func (d *Drawing) measure(own float64, scale Scale) error {
	switch {
	case scale.PerUnit > 0:
		d.Scale, d.ScaleFrom = scale.PerUnit, "typed"
	case scale.Known > 0:
		at := -1
		for i, p := range d.Body.Panels {
			if p.Name == scale.Panel || scale.Panel == "" && (at < 0 || p.Area() > d.Body.Panels[at].Area()) {
				at = i
			}
		}
		if at < 0 {
			return fmt.Errorf("no panel of the drawing is called %q: it has %s", scale.Panel, d.names())
		}
		x0, x1 := math.Inf(1), math.Inf(-1)
		for _, q := range d.Body.Panels[at].Outline {
			x0, x1 = math.Min(x0, q.X), math.Max(x1, q.X)
		}
		if x1 <= x0 {
			return fmt.Errorf("the %s has no width to take the scale from", d.Body.Panels[at].Name)
		}
		d.Scale, d.ScaleFrom = scale.Known/(x1-x0), "from the width of the "+d.Body.Panels[at].Name
	case own > 0:
		d.Scale, d.ScaleFrom = own, "from data-mm-per-unit of the drawing"
	default:
		d.ScaleFrom = "not known: give how many mm a unit is, or the width of one panel"
	}
	return nil
}

func (d *Drawing) names() string {
	var out []string
	for _, p := range d.Body.Panels {
		out = append(out, p.Name)
	}
	return strings.Join(out, ", ")
}

// detail puts a crease or a cut-out on its panel: the one that it names, else the
// one that it lies on.
func (d *Drawing) detail(s shape) error {
	at := -1
	for i, p := range d.Body.Panels {
		if s.panel != "" && p.Name == s.panel {
			at = i
		}
	}
	for i := range d.Body.Panels {
		for _, path := range s.paths {
			for _, q := range path.points {
				if at < 0 && flatlay.Within(d.Body.Panels[i].Outline, q) {
					at = i
				}
			}
		}
	}
	if at < 0 {
		d.Notes = append(d.Notes, fmt.Sprintf("Left out: a %s that lies on no panel.", s.role))
		return nil
	}
	p := &d.Body.Panels[at]
	for _, path := range s.paths {
		switch {
		case s.role == "crease" && len(path.points) >= 2:
			pts := path.points
			if path.closed {
				pts = append(slices.Clone(pts), pts[0])
			}
			p.Creases = append(p.Creases, flatlay.Crease{Name: fmt.Sprintf("crease %d", len(p.Creases)+1), Hard: true, Points: pts})
		case s.role == "cutout" && path.closed:
			p.Holes = append(p.Holes, flatlay.Hole{Kind: "hole", Points: path.points})
		default:
			d.Notes = append(d.Notes, fmt.Sprintf("Left out: a %s of the %s that is no closed shape.", s.role, p.Name))
		}
	}
	return nil
}

// settle scales, checks and places the panels.
func (d *Drawing) settle() error {
	x0, y0, x1 := math.Inf(1), math.Inf(1), math.Inf(-1)
	for _, p := range d.Body.Panels {
		for _, q := range p.Outline {
			x0, y0, x1 = math.Min(x0, q.X), math.Min(y0, q.Y), math.Max(x1, q.X)
		}
	}
	k := d.Scale
	if k == 0 {
		k = drawnAs / math.Max(x1-x0, 1e-6)
	}
	keys := map[string]bool{}
	for i := range d.Body.Panels {
		p := &d.Body.Panels[i]
		px, py := math.Inf(1), math.Inf(1)
		for _, q := range p.Outline {
			px, py = math.Min(px, q.X), math.Min(py, q.Y)
		}
		own := func(pts []point) []point {
			out := make([]point, len(pts))
			for j, q := range pts {
				out[j] = point{X: (q.X - px) * k, Y: (q.Y - py) * k}
			}
			return out
		}
		p.Placement = flatlay.Placement{X: (px - x0) * k, Y: (py - y0) * k}
		p.Outline = own(p.Outline)
		for j := range p.Holes {
			p.Holes[j].Points = own(p.Holes[j].Points)
		}
		for j := range p.Creases {
			p.Creases[j].Points = own(p.Creases[j].Points)
		}
		p.Outline = flatlay.Sparse(p.Outline)
		for j := range p.Holes {
			p.Holes[j].Points = flatlay.Sparse(p.Holes[j].Points)
		}
		for j := range p.Creases {
			p.Creases[j].Points = flatlay.Thinned(p.Creases[j].Points)
		}
		if n := len(p.Outline); n > mostKept {
			return fmt.Errorf("the outline of the %s has %d points that matter, %d are the most. Smooth it", p.Name, n, mostKept)
		}
		if err := p.Check(); err != nil {
			return err
		}
		if err := d.fits(p); err != nil {
			return err
		}
		p.Key = keyOf(p.Name, keys)
		p.Edges = []flatlay.Edge{{Tag: "free"}}
		p.Neighbours = []flatlay.Neighbour{}
		if p.Holes == nil {
			p.Holes = []flatlay.Hole{}
		}
		if p.Creases == nil {
			p.Creases = []flatlay.Crease{}
		}
		w, h := p.Size()
		d.Body.Box.W, d.Body.Box.H = math.Max(d.Body.Box.W, p.Placement.X+w), math.Max(d.Body.Box.H, p.Placement.Y+h)
	}
	return d.apart()
}

// fits says whether a panel has a size that a panel can have.
func (d *Drawing) fits(p *flatlay.Panel) error {
	w, h := p.Size()
	if d.Scale > 0 && (math.Min(w, h) < leastSide || math.Max(w, h) > mostSide) {
		return fmt.Errorf("the %s would be %.0f x %.0f mm at %.4g mm a unit: a side is %.0f to %.0f mm. Check the scale", p.Name, w, h, d.Scale, leastSide, mostSide)
	}
	return nil
}

// apart refuses panels that lie on one another.
func (d *Drawing) apart() error {
	for i, p := range d.Body.Panels {
		for j, o := range d.Body.Panels {
			if i == j {
				continue
			}
			for _, q := range p.Outline {
				if o.Inside(o.FromSheet(p.OnSheet(q))) && o.EdgeDistance(o.FromSheet(p.OnSheet(q))) > 1 {
					return fmt.Errorf("the %s lies on the %s: draw them apart, or give it data-role=\"cutout\"", p.Name, o.Name)
				}
			}
		}
	}
	return nil
}

// keyOf makes a short key of a name, different from those before it.
func keyOf(name string, taken map[string]bool) string {
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	key := strings.Trim(b.String(), "-")
	if key == "" {
		key = "panel"
	}
	if len(key) > 40 {
		key = key[:40]
	}
	for n, stem := 2, key; taken[key]; n++ {
		key = fmt.Sprintf("%s-%d", stem, n)
	}
	taken[key] = true
	return key
}
