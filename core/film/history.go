package film

import (
	"math"
	"slices"

	"waxplanus/core/clearcoat"
	"waxplanus/core/flatlay"
)

// Facts is what is known of a panel besides its outline.
type Facts struct {
	History
	Before   []Place // readings from before the clear went on
	OneDay   bool    // those and the readings of the total are of one gauge on one day
	Direct   []Place // of the clear alone, by a gauge that resolves layers
	Bare     []Place // where the same part carries no clear
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
	// Under is what a refinish lies on; empty where nobody said.
	Under    clearcoat.Under
	Car      float64 // median of the car's factory panels, µm; 0 where none was read
	Polished bool    // a factory finish that was polished before
	Agreed   float64 // clear that the owner agreed to leave at least, µm; 0 for the usual floor
	Years    float64 // out of doors, where the floor follows the age; 0 where it does not
}

// Policy is that of the finish, with the floor that the owner agreed to where that is lower.
func (h History) Policy() Policy {
	p := PolicyFor(h.Finish)
	if h.Finish == FactoryFinish {
		p.Floor += AgeFloor(h.Years)
	}
	if h.Agreed > 0 {
		p.Floor = math.Min(p.Floor, math.Max(h.Agreed, LeastFloor))
	}
	return p
}

// PolicyOn is the policy for a film of that total (µm) of which the clear was not measured.
func (h History) PolicyOn(total float64) Policy {
	p := h.Policy()
	p.Unlike = h.known(Estimate{Mean: total}, nil).Unlike()
	return p
}

// Old clear keeps more (judgement): what guards it goes from the top of it first.
const (
	guardedYears = 5.0
	ageYear      = 0.5 // µm a year
	ageMost      = 5.0 // µm
)

// AgeFloor is how much higher, in µm, the floor of a factory finish is that stood out of
// doors for so many years.
func AgeFloor(years float64) float64 {
	return math.Min(math.Max(ageYear*(years-guardedYears), 0), ageMost)
}

// known are the facts of the clear under a film of that total (µm, with its doubt; zero
// where it was not read), and what was measured of it.
func (h History) known(total Estimate, measured []Source) clearcoat.Known {
	k := clearcoat.Known{Finish: clearcoat.Refinish, Total: clearcoat.Value(total), Coat: h.Coat, Under: h.Under, Car: h.Car, Share: h.Share, Polished: h.Polished}
	switch h.Finish {
	case FactoryFinish:
		k.Finish = clearcoat.Factory
	case SingleStaged:
		k.Finish = clearcoat.SingleStage
	case Refinished:
		k.Coats = h.Coats
	}
	if h.Ratio.Panels > 0 {
		k.Ratio = clearcoat.Value(h.Ratio.Ratio())
	}
	for _, m := range measured {
		k.Measured = append(k.Measured, clearcoat.Value(m.Estimate))
	}
	return k
}

// Dist is the clear by that history over a film of that total (µm), and by what was
// measured of the clear itself.
func (h History) Dist(total Estimate, measured ...Estimate) clearcoat.Dist {
	var s []Source
	for _, m := range measured {
		s = append(s, Source{FromBefore, m})
	}
	return clearcoat.Of(h.known(total, s))
}

// clear is the clear by that history over a film of that total, and by what was measured.
func (h History) clear(total Estimate, measured []Source) Clear {
	sources := append(slices.Clone(measured), h.told(total)...)
	c, _ := Combine(sources...)
	c.Dist = clearcoat.Of(h.known(total, measured))
	c.Estimate = Estimate{c.Dist.Mean(), c.Dist.SD()}
	return c
}

// told are the sources of a clear besides what was measured.
func (h History) told(total Estimate) []Source {
	k := h.known(total, nil)
	switch h.Finish {
	case SingleStaged:
		return []Source{SingleStage(total.Mean)}
	case FactoryFinish:
		return []Source{Share(total.Mean, h.ClearShare())}
	}
	out := []Source{{FromCoats, Estimate(k.ByCoats())}}
	if total.Mean > 0 {
		out = append(out, Source{FromUnder, Estimate(k.ByUnder())})
	}
	return out
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
// Guessed says that no neighbour lends it: the total is the usual one of such a finish, and
// tells nothing of the clear, which what was said of the panel and read of it alone does.
type Borrowed struct {
	Total, Clear Estimate
	Guessed      bool
}

// GuessBorrowed stands in for neighbours of a panel that no gauge reads where none was read.
func GuessBorrowed(h History) Borrowed {
	total := usualFactory
	if h.Finish != FactoryFinish {
		clear := GuessOf(h).Clear.Estimate
		total = Estimate{clear.Mean + usualUnder.Mean, math.Hypot(clear.SD, usualUnder.SD)}
	}
	return Borrowed{Total: total, Guessed: true}
}

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
	return Borrowed{Total: doubled(total), Clear: doubled(clear)}, true
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
	measured, err := s.readClear(g)
	if err != nil {
		return err
	}
	s.measured = len(measured) > 0
	total := Estimate{Mean: level}
	if b := s.Facts.Borrowed; b != nil {
		if total = b.Total; b.Guessed && s.Facts.Finish != FactoryFinish && s.Facts.Finish != SingleStaged {
			total = Estimate{}
		}
	}
	s.Clear = s.Facts.clear(total, measured)
	s.zones = []layers{s.layers(level, s.Clear, s.Facts.History, len(measured) > 0)}
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
		s.zones = append(s.zones, s.layers(at, z.clear(Estimate{Mean: at}, nil), z.History, false))
	}
	return nil
}

// layers of a part of a panel whose film far from edges is level µm.
func (s *Study) layers(level float64, clear Clear, h History, measured bool) layers {
	l := layers{level: level, clear: clear, policy: h.Policy(), slope: 1 / level}
	if !measured && h.Finish != FactoryFinish && h.Finish != SingleStaged {
		l.policy = h.PolicyOn(level)
		l.slope, l.rest = unevenShare/clear.Mean, unevenRest
	}
	return l
}

// Where a clear is known by what was said of it alone, the film's unevenness is not all
// its own: this share of it is, with so much that no map shows, of this reach (mm)
// (judgement). Held against simulated panels, a share of 0.4 puts the thinnest place of a
// section where it is on clear sprayed in a hurry, and a little thinner than it is on clear
// sprayed with care; 0.6 puts it 5 to 8 % too thin on both.
const (
	unevenShare = 0.4
	unevenRest  = 0.03
	unevenReach = 80.0
)

// readClear are the sources that read the clear itself on the panel's own part.
func (s *Study) readClear(g Gauge) ([]Source, error) {
	if b := s.Facts.Borrowed; b != nil && !b.Guessed {
		return []Source{{FromNeighbours, b.Clear}}, nil
	}
	var out []Source
	if len(s.Facts.Before) > 0 {
		b, err := s.before(g)
		if err != nil {
			return nil, err
		}
		if s.Odd = b.Mean < leastClear; !s.Odd {
			out = append(out, b)
		}
	}
	if mean, n := s.flatMean(s.Facts.Direct, g); n > 0 {
		out = append(out, Direct(mean, n))
	}
	if mean, n := s.flatMean(s.Facts.Bare, g); n > 0 {
		if c := s.Map.Level().Mean - mean; c >= leastClear {
			out = append(out, Source{FromBare, Estimate{c, bareDoubt}})
		} else {
			s.Odd = true
		}
	}
	return out, nil
}

// bareDoubt is how far the lower layers at a place without clear, such as under a moulding,
// may differ from those of the panel, µm (judgement).
const bareDoubt = 8.0

// flatMean is the mean of what was read at so many places, far from edges, µm.
func (s *Study) flatMean(places []Place, g Gauge) (mean float64, n int) {
	read, _ := gather(s.Ground.Panel, places, g)
	for _, r := range read {
		mean += r.T / Thin.Factor(r.Edge, r.Crease) / float64(len(read))
	}
	return mean, len(read)
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
	for i := range clear {
		clear[i].Var += doubt(clear, i)
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
