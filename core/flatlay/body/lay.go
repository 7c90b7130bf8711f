package body

import (
	"math"

	"waxplanus/core/flatlay"
)

// The gap in mm between roof and sides on the sheet, and half the gap between
// panels with half of a drawn line.
const (
	foldGap = 70.0
	halfGap = 7.0
)

var sides = []struct{ key, name string }{{"L", "left"}, {"R", "right"}}

// layCar draws a car's sides and strip and puts them on the sheet.
func (b *Body) layCar(s spec, rx, ry, rz float64) error {
	top, around := drawTop(s)
	for _, d := range top {
		p := d.finish(func(q point) point { return q })
		p.Side = "middle"
		p.Mirror = d.mirror
		if d.mirror != "" {
			p.Side = map[byte]string{'L': "left", 'R': "right"}[d.key[0]]
		}
		b.Panels = append(b.Panels, p)
	}
	b.Scenery = around
	side, drawnPanels, beside, err := drawSide(s, rx, rz)
	if err != nil {
		return err
	}
	down := s.Fold*ry + foldGap + side.railTop()
	onSheet := func(q point) point { return point{X: q.X, Y: down - q.Y} }
	finished := make([]flatlay.Panel, len(drawnPanels))
	for k, d := range drawnPanels {
		finished[k] = d.finish(onSheet)
	}
	for i, at := range sides {
		var these []flatlay.Panel
		for k, d := range drawnPanels {
			if only := s.only(d.key); only != "" && only != at.name {
				continue
			}
			p := finished[k]
			p.Key, p.Name, p.Side = at.key+"-"+d.key, at.name+" "+d.name, at.name
			other := d.key
			if d.mirror != "" {
				other = d.mirror
			}
			p.Mirror = sides[1-i].key + "-" + other
			p.Neighbours = shared(d, drawnPanels, at.key, s, at.name)
			if at.name == "right" {
				p = turned(p)
			}
			these = append(these, p)
		}
		for _, e := range beside {
			if e.only != "" && e.only != at.name {
				continue
			}
			e = onto(e, onSheet)
			if at.name == "right" {
				e = onto(e, func(q point) point { return point{X: q.X, Y: -q.Y} })
			}
			if !cutInto(these, e) {
				b.Scenery = append(b.Scenery, e)
			}
		}
		b.Panels = append(b.Panels, these...)
	}
	return nil
}

// only is the side that alone has a panel, "" for both.
func (s spec) only(key string) string {
	for _, p := range s.Panels {
		if p.Key == key {
			return p.Only
		}
	}
	return ""
}

func onto(e Scenery, place func(point) point) Scenery {
	out := Scenery{Kind: e.Kind, Radius: e.Radius}
	for _, q := range e.Points {
		out.Points = append(out.Points, place(q))
	}
	if e.Radius > 0 {
		out.Centre = place(e.Centre)
	}
	return out
}

// cutInto makes a handle or a flap a cut-out of the panel that it lies on.
func cutInto(panels []flatlay.Panel, e Scenery) bool {
	if e.Kind != "handle" && e.Kind != "flap" {
		return false
	}
	for i := range panels {
		p := &panels[i]
		in := true
		var own []point
		for _, q := range e.Points {
			o := p.FromSheet(q)
			in = in && flatlay.Within(p.Outline, o)
			own = append(own, o)
		}
		if in {
			p.Holes = append(p.Holes, flatlay.Hole{Kind: e.Kind, Points: own})
			return true
		}
	}
	return false
}

// finish turns a drawn panel into one in its own coordinates.
func (d drawn) finish(place func(point) point) flatlay.Panel {
	on := func(pts []point) []point {
		out := make([]point, len(pts))
		for i, q := range pts {
			out[i] = place(q)
		}
		return out
	}
	outline := unloop(inset(on(d.edge), halfGap))
	outline = unloop(soften(unloop(fillet(outline, d.round)), d.step, d.rounds))
	outline = flatlay.Sparse(outline)
	x0, y0 := math.Inf(1), math.Inf(1)
	for _, q := range outline {
		x0, y0 = math.Min(x0, q.X), math.Min(y0, q.Y)
	}
	own := func(pts []point) []point {
		out := make([]point, len(pts))
		for i, q := range pts {
			out[i] = point{X: tenth(q.X - x0), Y: tenth(q.Y - y0)}
		}
		return out
	}
	p := flatlay.Panel{Key: d.key, Name: d.name, Substrate: d.substrate, Outline: own(outline), Lie: "crown",
		Placement: flatlay.Placement{X: tenth(x0), Y: tenth(y0)}, Holes: []flatlay.Hole{}, Creases: []flatlay.Crease{}}
	if p.Substrate == "" {
		p.Substrate = "steel"
	}
	if d.steep >= 45 {
		p.Lie = "upright"
	}
	for _, h := range d.holes {
		p.Holes = append(p.Holes, flatlay.Hole{Kind: h.Kind, Points: own(on(h.Points))})
	}
	for _, c := range d.creases {
		p.Creases = append(p.Creases, flatlay.Crease{Name: c.Name, Hard: c.Hard, Points: own(on(c.Points))})
	}
	p.Edges = edges(outline, d.stretches, on)
	return p
}

func tenth(v float64) float64 { return math.Round(v*10) / 10 }

// edges tags every side of an outline with that of the nearest stretch of the
// walk, and joins sides of one tag.
func edges(outline []point, stretches []stretch, on func([]point) []point) []flatlay.Edge {
	lines := make([][]point, len(stretches))
	for i, s := range stretches {
		lines[i] = on(s.points)
	}
	n := len(outline)
	tags := make([]string, n)
	for i, a := range outline {
		mid, near := mul(add(a, outline[(i+1)%n]), 0.5), math.Inf(1)
		for k, l := range lines {
			if d := flatlay.LineDistance(l, mid, false); d < near {
				near, tags[i] = d, stretches[k].tag
			}
		}
	}
	first := 0
	for first < n && tags[first] == tags[(first+n-1)%n] {
		first++
	}
	if first == n {
		return []flatlay.Edge{{Tag: tags[0], From: 0, To: 0}}
	}
	var out []flatlay.Edge
	for k := range n {
		i := (first + k) % n
		if len(out) == 0 || out[len(out)-1].Tag != tags[i] {
			out = append(out, flatlay.Edge{Tag: tags[i], From: i})
		}
		out[len(out)-1].To = (i + 1) % n
	}
	return out
}

// turned is the mirror image of a left panel on the right side of the car, seen
// from outside.
func turned(p flatlay.Panel) flatlay.Panel {
	w, h := p.Size()
	across := func(pts []point) []point {
		out := make([]point, len(pts))
		for i, q := range pts {
			out[i] = point{X: tenth(w - q.X), Y: q.Y}
		}
		return out
	}
	out := p
	out.Placement = flatlay.Placement{X: p.Placement.X, Y: tenth(-p.Placement.Y - h), Turned: true}
	out.Outline = across(p.Outline)
	out.Holes, out.Creases = []flatlay.Hole{}, []flatlay.Crease{}
	for _, o := range p.Holes {
		out.Holes = append(out.Holes, flatlay.Hole{Kind: o.Kind, Points: across(o.Points)})
	}
	for _, c := range p.Creases {
		out.Creases = append(out.Creases, flatlay.Crease{Name: c.Name, Hard: c.Hard, Points: across(c.Points)})
	}
	return out
}

// shared lists the panels on the same side that walk the same stretch of a curve
// for more than a little.
func shared(d drawn, all []drawn, key string, s spec, side string) []flatlay.Neighbour {
	const little = 2 // steps of a drawn curve
	var out []flatlay.Neighbour
	for _, o := range all {
		if only := s.only(o.key); o.key == d.key || only != "" && only != side {
			continue
		}
		tag := ""
		for _, a := range d.stretches {
			for _, c := range o.stretches {
				overlap := math.Min(math.Max(a.from, a.to), math.Max(c.from, c.to)) - math.Max(math.Min(a.from, a.to), math.Min(c.from, c.to))
				if a.curve != "" && a.curve == c.curve && overlap > little {
					tag = a.tag
				}
			}
		}
		if tag != "" {
			out = append(out, flatlay.Neighbour{Key: key + "-" + o.key, Tag: tag})
		}
	}
	return out
}

// join adds the neighbours across seams that the unfolding tore open.
func (b *Body) join(seams [][2]string) {
	for _, s := range seams {
		for i := range b.Panels {
			for k := range s {
				if b.Panels[i].Key == s[k] {
					b.Panels[i].Neighbours = append(b.Panels[i].Neighbours, flatlay.Neighbour{Key: s[1-k], Tag: "fold"})
				}
			}
		}
	}
	for i := range b.Panels {
		if b.Panels[i].Neighbours == nil {
			b.Panels[i].Neighbours = []flatlay.Neighbour{}
		}
	}
}

// layParts lays loose parts as they come off, right ones mirrored above, left
// ones below, the middle ones between.
func (b *Body) layParts(s spec, ratio float64) {
	scaled := func(pts []point2, lift float64) []point {
		out := make([]point, len(pts))
		for i, q := range pts {
			out[i] = mul(point{X: q[0], Y: q[1] + lift}, ratio)
		}
		return out
	}
	for _, part := range s.Parts {
		edge := ring(scaled(part.Through, part.Lift), 8)
		d := drawn{key: part.Key, name: part.Name, substrate: part.Substrate, edge: edge,
			stretches: []stretch{{tag: "free", points: append(edge, edge[0])}}, step: 5, rounds: 4}
		for _, h := range part.Holes {
			pts := arc(mul(point{X: h.Centre[0], Y: h.Centre[1] + part.Lift}, ratio), h.Radius*ratio, 0, 2*math.Pi)
			pts = pts[:len(pts)-1]
			if h.Radius == 0 {
				pts = softHole(h.Kind, rounded(scaled(h.Through, part.Lift), h.Round, h.corner()))
			}
			d.holes = append(d.holes, flatlay.Hole{Kind: h.Kind, Points: pts})
		}
		for _, c := range part.Creases {
			d.creases = append(d.creases, flatlay.Crease{Name: c.Name, Hard: !c.Soft, Points: flatlay.Thinned(spline(scaled(c.Through, part.Lift), 8))})
		}
		p := d.finish(func(q point) point { return q })
		p.Side = "middle"
		if !part.Both {
			b.Panels = append(b.Panels, p)
			continue
		}
		for i, at := range sides {
			o := p
			if at.name == "right" {
				o = turned(p)
			}
			o.Key, o.Name, o.Side, o.Mirror = at.key+"-"+part.Key, at.name+" "+part.Name, at.name, sides[1-i].key+"-"+part.Key
			b.Panels = append(b.Panels, o)
		}
	}
}
