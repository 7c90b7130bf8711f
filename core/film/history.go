package film

import (
	"math"
	"slices"

	"waxplanus/core/flatlay"
)

// Facts is what is known of a panel besides its outline.
type Facts struct {
	History
	Before   []Place // readings from before the clear went on
	OneDay   bool    // those and the readings of the total are of one gauge on one day
	Direct   []Place // of the clear alone, by a gauge that resolves layers
	Zones    []Zone
	Borrowed *Borrowed // of a panel that no gauge reads
}

// History is how a finish came about.
type History struct {
	Finish Finish
	Coats  int       // of clear, 0 when nobody knows
	Coat   float64   // dry film of a coat, µm; 0 for the usual
	Share  float64   // of a factory finish that is clear; 0 for the usual
	Ratio  CoatRatio // of the shop that sprayed it
}

// ClearShare is the clear's share of a factory finish, with its doubt.
func (h History) ClearShare() Estimate {
	if h.Share > 0 {
		return Estimate{h.Share, FactoryShare.SD}
	}
	return FactoryShare
}

// Zone is a part of a panel with a history of its own, such as a blend or a
// spot repair: its outline in mm.
type Zone struct {
	Outline []flatlay.Point
	History
}

// Borrowed is what the neighbours of the same spraying tell of a panel that no
// gauge reads: total film and clear, both with their doubt doubled.
type Borrowed struct{ Total, Clear Estimate }

// Borrow takes total film and clear from neighbours. It returns false without
// one.
func Borrow(from []*Study) (Borrowed, bool) {
	if len(from) == 0 {
		return Borrowed{}, false
	}
	total, clear := make([]Estimate, len(from)), make([]Estimate, len(from))
	for i, s := range from {
		total[i], clear[i] = Estimate{s.Map.Level().Mean, s.Mean.SD}, s.Clear.Estimate
	}
	return Borrowed{doubled(total), doubled(clear)}, true
}

// doubled is the mean of estimates that share their doubt, with that doubt and
// how far they are apart, twice.
func doubled(e []Estimate) Estimate {
	n, m, v := float64(len(e)), 0.0, 0.0
	for _, x := range e {
		m += x.Mean / n
	}
	for _, x := range e {
		v += (x.SD*x.SD + (x.Mean-m)*(x.Mean-m)) / n
	}
	return Estimate{m, 2 * math.Sqrt(v)}
}

// zoneAt is the zone that a place lies in, from 1; the last drawn wins. 0 is
// the panel's own.
func (f Facts) zoneAt(x, y float64) int {
	for i, z := range slices.Backward(f.Zones) {
		if flatlay.Within(z.Outline, flatlay.Point{X: x, Y: y}) {
			return i + 1
		}
	}
	return 0
}

// layer finds the clear of the panel and of its zones.
func (s *Study) layer(g Gauge) error {
	level := s.Map.Level().Mean
	own, err := s.sources(s.Facts.History, level, g, true)
	if err != nil {
		return err
	}
	s.Clear, _ = Combine(own...)
	s.zones = []layers{{level, s.Clear, s.Policy}}
	for i, z := range s.Facts.Zones {
		sum, n := 0.0, 0.0
		for _, k := range s.Ground.paint {
			if s.nodes[k].zone == i+1 {
				sum += s.Grid.Film[k].Mean / s.nodes[k].e
				n++
			}
		}
		at := level
		if n > 0 {
			at = sum / n
		}
		parts, err := s.sources(z.History, at, g, false)
		if err != nil {
			return err
		}
		clear, _ := Combine(parts...)
		s.zones = append(s.zones, layers{at, clear, PolicyFor(z.Finish)})
	}
	return nil
}

// sources are those of the clear over a film of level µm; what was read before
// the clear speaks for the panel's own part.
func (s *Study) sources(h History, level float64, g Gauge, own bool) ([]Source, error) {
	if b := s.Facts.Borrowed; b != nil && own {
		return []Source{{FromNeighbours, b.Clear}}, nil
	}
	var out []Source
	if own && len(s.Facts.Before) > 0 {
		b, err := s.before(g)
		if err != nil {
			return nil, err
		}
		if s.Odd = b.Mean < leastClear; !s.Odd {
			out = append(out, b)
		}
	}
	if direct, _ := gather(s.Ground.Panel, s.Facts.Direct, g); own && len(direct) > 0 {
		sum := 0.0
		for _, r := range direct {
			sum += r.T / Thin.Factor(r.Edge, r.Crease)
		}
		out = append(out, Direct(sum/float64(len(direct)), len(direct)))
	}
	switch {
	case h.Finish == SingleStaged:
		out = append(out, SingleStage(level))
	case h.Finish == FactoryFinish:
		out = append(out, Share(level, h.ClearShare()))
	case h.Finish == Refinished && h.Coats > 0:
		out = append(out, h.Ratio.Of(Coats(h.Coats, h.Coat)))
	case len(out) == 0:
		out = append(out, Unknown(level))
	}
	return out, nil
}

// before is the clear by the readings from before it went on: at each of their places
// the film by the map less that reading, and of these differences, which are the clear
// itself, the level by a map of their own. What the gauge was off by as a whole is off
// anew on another day.
func (s *Study) before(g Gauge) (Source, error) {
	under, _ := gather(s.Ground.Panel, s.Facts.Before, g)
	spots := make([]Spot, len(under))
	for i, r := range under {
		spots[i] = r.Spot
	}
	over := s.Map.At(spots)
	clear := make([]Reading, len(under))
	base := 0.0
	for i, r := range under {
		off := s.Map.calibration(&node{e: 1}, &node{e: Thin.Factor(r.Edge, r.Crease)})
		e := Thin.Factor(r.Edge, r.Crease)
		clear[i] = Reading{Spot: r.Spot, T: over[i].Mean - r.T, Shots: r.Shots, Var: r.Var + math.Max(over[i].SD*over[i].SD-off*e, 0)}
		base += r.T / e / float64(len(under))
	}
	apart := g
	apart.B = 0 // counted below, on both films and not on their difference
	m, err := NewMap(clear, apart, Sprayed, s.Ground.size, Averaged)
	if err != nil {
		return Source{}, err
	}
	level := m.Level()
	calibration := g.B * level.Mean
	if !s.Facts.OneDay {
		calibration = g.B * math.Hypot(s.Map.scale, base)
	}
	level.SD = math.Hypot(math.Hypot(level.SD, calibration), misfit*level.Mean)
	return Source{FromBefore, level}, nil
}

// misfit is the doubt, as a share of a clear, of lanes and bowls that are not as the
// map's prior has them (judgement; waxplanus bench clear was the measure).
const misfit = 0.04
