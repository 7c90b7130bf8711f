package body

import (
	"math"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
)

func (s strip) places(p []point2) []point {
	out := make([]point, len(p))
	for i, q := range p {
		out[i] = s.at(q.point())
	}
	return out
}

func flip(p []point) []point {
	out := make([]point, len(p))
	for i, q := range p {
		out[i] = point{X: q.X, Y: -q.Y}
	}
	return out
}

// loop closes three open curves, front, side and rear of the half with v above
// 0, with their mirror image.
func (s strip) loop(front, side, rear []point2) ([]point, []stretch) {
	var half []point
	var out []stretch
	for i, part := range [][]point2{front, side, rear} {
		pts := spline(s.places(part), fine)
		tag := []string{"shut", "fold", "shut"}[i]
		out = append(out, stretch{tag: tag, points: pts}, stretch{tag: tag, points: flip(pts)})
		if i > 0 {
			pts = pts[1:]
		}
		half = append(half, pts...)
	}
	whole := half
	for i := len(half) - 1; i >= 0; i-- {
		whole = append(whole, point{X: half[i].X, Y: -half[i].Y})
	}
	return apart(whole), out
}

// drawTop draws the middle strip: bumper, bonnet, roof, boot, bumper.
func drawTop(s spec) ([]drawn, []Scenery) {
	var panels []drawn
	for _, q := range s.TopPanels {
		edge, stretches := s.Strip.loop(q.Front, q.Side, q.Rear)
		n := drawn{key: q.Key, name: q.Name, substrate: q.Substrate, edge: edge, stretches: stretches, round: q.Round, step: 8, rounds: 14}
		if strings.HasSuffix(q.Key, "bumper") {
			n.step, n.rounds = 11, 46
		}
		n.steep = s.Strip.steep((q.Front[0][0] + q.Rear[len(q.Rear)-1][0]) / 2)
		for _, h := range q.Holes {
			n.holes = append(n.holes, flatlay.Hole{Kind: h.Kind, Points: softHole(h.Kind, s.Strip.shape(h))})
		}
		for _, c := range q.Creases {
			for _, l := range both(c.Name, spline(s.Strip.places(c.Through), fine)) {
				if run := insideRun(l.Points, edge, 30); len(run) > 5 {
					n.creases = append(n.creases, flatlay.Crease{Name: l.Name, Hard: !c.Soft, Points: flatlay.Thinned(run)})
				}
			}
		}
		panels = append(panels, n)
	}
	for _, q := range s.TopHalves {
		for i := range q.Keys {
			mirror := func(p []point) []point {
				if i == 1 {
					return flip(p)
				}
				return p
			}
			edge := rounded(mirror(s.Strip.places(q.Through)), 2, 0.62)
			n := drawn{key: q.Keys[i], name: q.Names[i], mirror: q.Keys[1-i], edge: edge, round: q.Round, step: 8, rounds: 14,
				stretches: []stretch{{tag: "shut", points: append(edge, edge[0])}}, steep: s.Strip.steep(q.Through[0][0])}
			for _, c := range q.Creases {
				n.creases = append(n.creases, flatlay.Crease{Name: c.Name, Hard: true, Points: flatlay.Thinned(spline(mirror(s.Strip.places(c.Through)), fine))})
			}
			panels = append(panels, n)
		}
	}
	var around []Scenery
	for _, e := range s.TopScenery {
		shape := s.Strip.shape(e)
		around = append(around, Scenery{Kind: e.Kind, Points: softScenery(e.Kind, shape)})
		if e.Both {
			around = append(around, Scenery{Kind: e.Kind, Points: softScenery(e.Kind, flip(shape))})
		}
	}
	return panels, around
}

// both is a line of one half and its mirror image; one that starts at the middle
// line goes on over it.
func both(name string, line []point) []flatlay.Crease {
	const middle = 25
	if math.Abs(line[0].Y) > middle {
		return []flatlay.Crease{{Name: name, Points: line}, {Name: name + "*", Points: flip(line)}}
	}
	whole := flip(line)
	slices.Reverse(whole)
	return []flatlay.Crease{{Name: name, Points: append(whole, line...)}}
}

func (s strip) shape(e shapeSpec) []point {
	if len(e.Loop) == 3 {
		edge, _ := s.loop(e.Loop[0], e.Loop[1], e.Loop[2])
		return fillet(edge, e.Round)
	}
	if e.Both { // a lamp: drawn once, then rounded
		return fillet(rounded(s.places(e.Through), 1, 0.62), e.Round)
	}
	return rounded(s.places(e.Through), e.Round, e.corner())
}
