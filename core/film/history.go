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
		total[i], clear[i] = Estimate{s.Map.Level(), s.Mean.SD}, s.Clear.Estimate
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
func (s *Study) layer(g Gauge) {
	level := s.Map.Level()
	s.Clear, _ = Combine(s.sources(s.Facts.History, level, g, true)...)
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
		clear, _ := Combine(s.sources(z.History, at, g, false)...)
		s.zones = append(s.zones, layers{at, clear, PolicyFor(z.Finish)})
	}
}

// sources are those of the clear over a film of level µm; what was read before
// the clear speaks for the panel's own part.
func (s *Study) sources(h History, level float64, g Gauge, own bool) []Source {
	if b := s.Facts.Borrowed; b != nil && own {
		return []Source{{FromNeighbours, b.Clear}}
	}
	var out []Source
	if before, _ := gather(s.Ground.Panel, s.Facts.Before, g); own && len(before) > 0 {
		sum, shots := 0.0, before[0].Shots
		for _, r := range before {
			sum += r.T / Thin.Factor(r.Edge, r.Crease)
			shots = min(shots, r.Shots)
		}
		b := Before(level, sum/float64(len(before)), len(before), shots, g)
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
	return out
}
