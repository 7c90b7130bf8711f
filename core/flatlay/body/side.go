package body

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/flatlay"
)

// stretch is a piece of a panel's edge: part of a curve, or a straight line.
type stretch struct {
	curve    string
	tag      string
	points   []point
	from, to float64
}

// drawn is a panel as it is drawn, before its outline is finished.
type drawn struct {
	key, name, substrate, mirror string
	edge                         []point
	stretches                    []stretch
	holes                        []flatlay.Hole
	creases                      []flatlay.Crease
	round                        float64
	step                         float64
	rounds                       int
	steep                        float64
}

type curve struct {
	tag    string
	points []point
}

// side is the side view while it is drawn.
type side struct {
	body   spec
	ratioX float64
	ratioZ float64
	nodes  map[string]point
	curves map[string]curve
}

func (d *side) place(p point2) point { return point{X: p[0] * d.ratioX, Y: p[1] * d.ratioZ} }

func (d *side) places(p []point2) []point {
	out := make([]point, len(p))
	for i, q := range p {
		out[i] = d.place(q)
	}
	return out
}

// find resolves a ref.
func (d *side) find(r ref) (point, error) {
	if r.name == "" {
		return d.place(r.at), nil
	}
	if p, ok := d.nodes[r.name]; ok {
		return p, nil
	}
	if id, end, ok := strings.Cut(r.name, ":"); ok {
		if c, ok := d.curves[id]; ok && end == "first" {
			return c.points[0], nil
		} else if ok {
			return c.points[len(c.points)-1], nil
		}
	}
	if a, b, ok := strings.Cut(r.name, "*"); ok {
		p, ok := meet(d.curves[a].points, d.curves[b].points)
		if !ok {
			return point{}, fmt.Errorf("%s and %s do not meet at these sizes", a, b)
		}
		return p, nil
	}
	return point{}, fmt.Errorf("the drawing has no place %q", r.name)
}

func (d *side) draw(c curveSpec) error {
	var pts []point
	switch {
	case c.Arc != nil:
		// Stretched with the car, so that every curve still meets it.
		for _, q := range arc(c.Arc.Centre.point(), c.Arc.Radius, c.Arc.From, c.Arc.To) {
			pts = append(pts, d.place(point2{q.X, q.Y}))
		}
	case c.Part != "":
		whole := d.curves[c.Part].points
		a, b := whole[0], whole[len(whole)-1]
		if c.Start != "" {
			a = d.nodes[c.Start]
		}
		if c.End != "" {
			b = d.nodes[c.End]
		}
		pts, _, _ = between(whole, a, b)
	default:
		var through []point
		for _, r := range c.Through {
			p, err := d.find(r)
			if err != nil {
				return err
			}
			through = append(through, p)
		}
		pts = spline(through, fine)
	}
	d.curves[c.ID] = curve{c.Tag, pts}
	return nil
}

// walk goes round a panel: node, curve, node, curve and so on.
func (d *side) walk(list []ref) ([]point, []stretch, error) {
	var edge []point
	var out []stretch
	for i := 0; i < len(list); i += 2 {
		p, err := d.find(list[i])
		if err != nil {
			return nil, nil, err
		}
		q, err := d.find(list[(i+2)%len(list)])
		if err != nil {
			return nil, nil, err
		}
		id := list[i+1].name
		if id == "" {
			edge = append(edge, p)
			out = append(out, stretch{tag: "free", points: []point{p, q}})
			continue
		}
		c := d.curves[id]
		pts, from, to := between(c.points, p, q)
		edge = append(edge, pts[:len(pts)-1]...)
		out = append(out, stretch{id, c.tag, pts, from, to})
	}
	return edge, out, nil
}

// drawSide draws one side of the car: its panels and what lies around them.
func drawSide(s spec, ratioX, ratioZ float64) (*side, []drawn, []Scenery, error) {
	d := &side{s, ratioX, ratioZ, map[string]point{}, map[string]curve{}}
	for name, p := range s.Nodes {
		d.nodes[name] = d.place(p)
	}
	for _, c := range s.Curves {
		if err := d.draw(c); err != nil {
			return nil, nil, nil, err
		}
	}
	var panels []drawn
	for _, p := range s.Panels {
		edge, stretches, err := d.walk(p.Walk)
		if err != nil {
			return nil, nil, nil, fmt.Errorf("the %s: %w", p.Name, err)
		}
		n := drawn{key: p.Key, name: p.Name, substrate: p.Substrate, mirror: p.Mirror, edge: edge, stretches: stretches,
			round: p.Round, step: 8, rounds: 9, steep: 90}
		for _, h := range p.Holes {
			n.holes = append(n.holes, flatlay.Hole{Kind: h.Kind, Points: softHole(h.Kind, rounded(d.places(h.Through), h.Round, h.corner()))})
		}
		for _, c := range s.Creases {
			if run := insideRun(spline(d.places(c.Through), fine), edge, s.Margin); len(run) > 6 {
				n.creases = append(n.creases, flatlay.Crease{Name: c.Name, Hard: !c.Soft, Points: flatlay.Thinned(run)})
			}
		}
		panels = append(panels, n)
	}
	var around []Scenery
	for _, e := range s.Scenery {
		switch {
		case e.Radius > 0:
			around = append(around, Scenery{Kind: e.Kind, Centre: d.place(e.Centre), Radius: e.Radius * ratioZ, only: e.Only})
		case e.Kind == "ghost":
			around = append(around, Scenery{Kind: e.Kind, Points: flatlay.Thinned(spline(d.places(e.Through), fine)), only: e.Only})
		default:
			around = append(around, Scenery{Kind: e.Kind, Points: softScenery(e.Kind, rounded(d.places(e.Through), e.Round, e.corner())), only: e.Only})
		}
	}
	return d, panels, around, nil
}

// railTop is the height in mm at which the sides fold away from the roof.
func (d *side) railTop() float64 {
	top := 0.0
	for _, p := range d.curves["rail"].points {
		top = math.Max(top, p.Y)
	}
	return top
}

func (s shapeSpec) corner() float64 {
	if s.Corner > 0 {
		return s.Corner
	}
	return 0.62
}

func softHole(kind string, p []point) []point {
	rounds := 10
	if kind == "glass" {
		rounds = 34
	}
	return flatlay.Sparse(soften(p, 8, rounds))
}

// softScenery softens as much as the kind of thing bears.
func softScenery(kind string, p []point) []point {
	rounds, ok := map[string]int{"handle": 3, "flap": 6, "mirror": 10, "lamp": 26, "glass": 30}[kind]
	if !ok {
		rounds = 10
	}
	return flatlay.Sparse(soften(p, 8, rounds))
}
