package film

import (
	"errors"
	"hash/fnv"
	"math"
	"math/rand/v2"
	"slices"

	"waxplanus/core/flatlay"
)

// Place is one plain reading: where the probe stood and what it said.
type Place struct {
	X, Y float64 // mm
	Film float64 // µm, total
	Var  float64 // µm² of further doubt, 0 for a plain reading
	Sure bool    // somebody stands for it although it does not fit
}

// Study is the film of one panel, all that its readings tell.
type Study struct {
	Ground   *Ground
	Facts    Facts
	Policy   Policy
	Map      *Map
	Grid     Grid
	Film     []Estimate // total film of each of the ground's cells, µm
	Mean     Estimate   // of the panel off its edges, µm
	Clear    Clear
	Sections []SectionFilm
	Strips   []SectionFilm   // along creases and the taped border, where there are such
	Next     []flatlay.Point // where to read next, the best first
	// Disputed are places whose two readings differ beyond the gauge.
	Disputed []flatlay.Point
	// Odd says that the film before the clear reads as much as the whole, so that
	// it is no source.
	Odd      bool
	measured bool // the clear itself was read
	readings []Reading
	gauge    Gauge
	nodes    []node   // of the ground, with their zones
	zones    []layers // the panel's own first
}

// layers is the clear of a panel or of a zone, how it goes with the film from place to
// place, and what may be spent of it.
type layers struct {
	level  float64 // total film far from edges, µm
	clear  Clear
	policy Policy
	slope  float64 // by how much of the clear a µm more of film is more clear
	rest   float64 // unevenness of the clear that the film does not show, as a share
}

// share is the clear at a place of that film (µm, thinned by e at edges) as a share of
// that far from edges.
func (l layers) share(film, e float64) float64 {
	return math.Max(e*(1+l.slope*(film/e-l.level)), leastShare)
}

// leastShare keeps a share from vanishing where the map knows nothing.
const leastShare = 0.05

// leastClear is the least difference, in µm, that a coat of clear can make.
const leastClear = 5.0

// EnoughSpots is how many readings a panel needs before a plan can be judged
// (judgement).
const EnoughSpots = 5

// aheadCount is how many readings ahead a study looks.
const aheadCount = 6

// Grid is the total film (µm) on the centres of all cells of the bounding box
// and one ring around it, row by row: NX x NY nodes from Origin (mm). Nodes off
// the paint go on smoothly, for drawing only.
type Grid struct {
	Origin flatlay.Point
	NX, NY int
	Film   []Estimate
}

// SectionFilm is the film of one section.
type SectionFilm struct {
	flatlay.Section
	Film   Estimate // total at a usual place of the section, µm
	Bound  float64  // µm: no place is thinner, but for the policy's risk
	Least  Least    // clear at the thinnest place
	Policy Policy   // of the part that decides
	ahead  outlook
}

// SpotOf is a place of a panel as the film map sees it.
func SpotOf(p flatlay.Panel, x, y float64) Spot {
	q := flatlay.Point{X: x, Y: y}
	return Spot{X: x, Y: y, Edge: p.EdgeDistance(q), Crease: p.CreaseDistance(q), Sides: p.SideDistances(q)}
}

// samePlace is how near, in mm, two readings are of one spot.
const samePlace = 15.0

// gather joins readings of one spot: their median where there are three, their
// mean otherwise. Two that the gauge does not explain carry half of what they
// are apart as doubt, and are disputed: a third settles them.
func gather(p flatlay.Panel, places []Place, g Gauge) (readings []Reading, disputed []flatlay.Point) {
	var groups [][]Place
	for _, q := range places {
		i := slices.IndexFunc(groups, func(g []Place) bool {
			return math.Hypot(g[0].X-q.X, g[0].Y-q.Y) <= samePlace && g[0].Var == q.Var
		})
		if i < 0 {
			groups = append(groups, []Place{q})
		} else {
			groups[i] = append(groups[i], q)
		}
	}
	out := make([]Reading, len(groups))
	for i, s := range groups {
		out[i] = Reading{Spot: SpotOf(p, s[0].X, s[0].Y), T: middle(s), Shots: len(s), Var: s[0].Var,
			Sure: slices.ContainsFunc(s, func(q Place) bool { return q.Sure })}
		if len(s) == 2 {
			if d := math.Abs(s[0].Film - s[1].Film); d > g.apartBy() {
				out[i].Var += d * d / 4
				disputed = append(disputed, flatlay.Point{X: s[0].X, Y: s[0].Y})
			}
		}
	}
	return out, disputed
}

func middle(g []Place) float64 {
	v := make([]float64, len(g))
	sum := 0.0
	for i, q := range g {
		v[i] = q.Film
		sum += q.Film
	}
	if len(v) < 3 {
		return sum / float64(len(v))
	}
	return Median(v)
}

// Median of values; NaN for none.
func Median(v []float64) float64 {
	if len(v) == 0 {
		return math.NaN()
	}
	s := slices.Sorted(slices.Values(v))
	if n := len(s); n%2 == 0 {
		return (s[n/2-1] + s[n/2]) / 2
	}
	return s[len(s)/2]
}

// NewStudy maps the film of a panel and says what clear there is. It returns
// ErrReadings without a reading of the total, unless the film is borrowed.
func NewStudy(ground *Ground, facts Facts, places []Place, g Gauge) (*Study, error) {
	p := ground.Panel
	s := &Study{Ground: ground, Facts: facts, Policy: facts.Policy(), nodes: ground.nodes, gauge: g}
	s.readings, s.Disputed = gather(p, places, g)
	prior := Sprayed
	if facts.Finish == FactoryFinish {
		prior = Factory
	}
	if facts.Borrowed != nil {
		s.readings, prior = s.borrowed(), prior.times(2)
	}
	if len(facts.Zones) > 0 {
		s.nodes = slices.Clone(s.nodes)
		for i, n := range s.nodes {
			s.nodes[i].zone = facts.zoneAt(n.x, n.y)
		}
		for i, r := range s.readings {
			s.readings[i].Zone = facts.zoneAt(r.X, r.Y)
		}
	}
	for i := range s.readings {
		s.readings[i].Var += doubt(s.readings, i)
	}
	m, err := NewMap(s.readings, g, prior, ground.size, Averaged)
	if err != nil {
		return nil, err
	}
	s.Map = m
	s.Grid = Grid{Origin: ground.raster.At(-1, -1), NX: ground.nx, NY: ground.ny, Film: m.estimates(s.nodes[:len(ground.spots)])}
	for _, k := range ground.paint {
		s.Film = append(s.Film, s.Grid.Film[k])
	}
	s.Mean = s.usual(flatlay.Border)
	if err := s.layer(g); err != nil {
		return nil, err
	}
	if facts.Borrowed == nil {
		s.Next = NextSpots(ground, ground.Cells, s.Film, s.Need(), s.read(), aheadCount)
	}
	return s, s.study(g)
}

// borrowed stands for all readings of a panel that has none of its own.
func (s *Study) borrowed() []Reading {
	at := flatlay.Point{X: s.Ground.size.W / 2, Y: s.Ground.size.H / 2}
	if best := NextSpots(s.Ground, s.Ground.Cells, nil, 0, nil, 1); len(best) > 0 {
		at = best[0]
	}
	spot, b := SpotOf(s.Ground.Panel, at.X, at.Y), s.Facts.Borrowed.Total
	e := Thin.Factor(spot.Edge, spot.Crease)
	return []Reading{{Spot: spot, T: b.Mean * e, Shots: 1, Var: b.SD * b.SD}}
}

func (p Prior) times(k float64) Prior {
	p.Drift, p.Stripe, p.Droop, p.Side, p.Crease = k*p.Drift, k*p.Stripe, k*p.Droop, k*p.Side, k*p.Crease
	return p
}

// read lists the places that were read.
func (s *Study) read() []flatlay.Point {
	out := make([]flatlay.Point, len(s.readings))
	for i, r := range s.readings {
		out[i] = flatlay.Point{X: r.X, Y: r.Y}
	}
	return out
}

// usual is the film at a usual cell that is so far (mm) from edges.
func (s *Study) usual(off float64) Estimate {
	var in []int
	for _, k := range s.Ground.paint {
		if s.Ground.spots[k].Edge >= off {
			in = append(in, k)
		}
	}
	return s.mean(in)
}

// mean is the film at a usual one of some nodes: the mean of their means and the
// root mean square of their doubts.
func (s *Study) mean(nodes []int) Estimate {
	if len(nodes) == 0 { // a panel that is all border
		return Estimate{s.readings[0].T, s.readings[0].T * 0.1}
	}
	m, v := 0.0, 0.0
	for _, k := range nodes {
		e := s.Grid.Film[k]
		m += e.Mean
		v += e.SD * e.SD
	}
	n := float64(len(nodes))
	return Estimate{m / n, math.Sqrt(v / n)}
}

// study makes the film of every section, side by side: none needs another.
func (s *Study) study(g Gauge) error {
	parts := s.Ground.parts
	lags := s.Ground.lags(s.Map)
	made, errs := make([]SectionFilm, len(parts)), make([]error, len(parts))
	sideBySide(len(parts), func(i int) { made[i], errs[i] = s.part(parts[i], lags, g) })
	n := len(s.Ground.Sections)
	for i, sec := range s.Ground.Sections {
		made[i].Section = sec
	}
	s.Sections = made[:n:n]
	for i, strip := range made[n:] {
		if len(parts[n+i].thin) > 0 {
			strip.Key = parts[n+i].key
			s.Strips = append(s.Strips, strip)
		}
	}
	return errors.Join(errs...)
}

func (s *Study) part(p part, lags lags, g Gauge) (SectionFilm, error) {
	cells := p.thin
	if len(cells) == 0 {
		return SectionFilm{}, nil
	}
	at := make([]node, 0, len(cells)+len(s.Next))
	for _, k := range cells {
		at = append(at, s.nodes[k])
	}
	for _, q := range s.Next {
		at = append(at, s.nodes[s.Ground.nodeAt(q)])
	}
	samples, err := s.Map.draw(lags, at, seed(s.Ground.Panel.Key, p.key))
	if err != nil {
		return SectionFilm{}, err
	}
	out := SectionFilm{Film: s.mean(p.shown), Bound: math.Inf(1)}
	room := math.Inf(1)
	rng := rand.New(rand.NewPCG(seed(s.Ground.Panel.Key, p.key), 0x0e5e))
	for z, own := range s.zones {
		var in []int
		for j, k := range cells {
			if s.nodes[k].zone == z {
				in = append(in, j)
			}
		}
		if len(in) == 0 {
			continue
		}
		minima := leastOf(samples, in)
		part, thin := make([]float64, len(samples)), make([]float64, len(samples))
		e, of := make([]float64, len(in)), s.patchesOf(cells, in)
		rest, shares := make([]float64, slices.Max(of)+1), make([]float64, len(in))
		for n, j := range in {
			e[n] = s.nodes[cells[j]].e
		}
		for i, film := range samples {
			uneven(rng, own.rest, rest)
			for n, j := range in {
				shares[n] = own.share(film[j], e[n]) * rest[of[n]]
			}
			part[i], thin[i] = thinEnd(shares)
		}
		least := LeastOf(own.clear.Dist, part, thin)
		out.Bound = math.Min(out.Bound, quantile(minima, own.policy.Risk))
		if h := own.policy.Headroom(least); h < room {
			room, out.Least, out.Policy = h, least, own.policy
			out.ahead = newOutlook(part, samples, len(cells), own.slope, s.noises(len(s.Next), g))
		}
	}
	return out, nil
}

// patchesOf are the patches of the panel that some of the cells lie in, numbered from 0 as
// they come.
func (s *Study) patchesOf(cells, in []int) []int {
	known := map[[2]int]int{}
	out := make([]int, len(in))
	for n, j := range in {
		k := &s.nodes[cells[j]]
		at := [2]int{int(k.x / unevenReach), int(k.y / unevenReach)}
		if _, ok := known[at]; !ok {
			known[at] = len(known)
		}
		out[n] = known[at]
	}
	return out
}

// uneven draws the unevenness of the clear that its film does not show: a factor for each
// patch, normal about 1.
func uneven(rng *rand.Rand, sd float64, patches []float64) {
	for i := range patches {
		patches[i] = 1
		if sd > 0 {
			patches[i] = math.Max(1+sd*rng.NormFloat64(), leastShare)
		}
	}
}

// noises are the variances (µm²) of one shot at each of n nodes.
func (s *Study) noises(n int, g Gauge) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = g.noise(Reading{Shots: 1})
	}
	return out
}

// leastOf is the least of some of each sample's values.
func leastOf(samples [][]float64, in []int) []float64 {
	out := make([]float64, len(samples))
	for i, s := range samples {
		out[i] = math.Inf(1)
		for _, j := range in {
			out[i] = math.Min(out[i], s[j])
		}
	}
	return out
}

// seed fixes the draws of a section, so that the same readings give the same
// headroom.
func seed(parts ...string) uint64 {
	h := fnv.New64a()
	for _, p := range parts {
		h.Write([]byte(p))
	}
	return h.Sum64()
}

func quantile(v []float64, p float64) float64 {
	s := slices.Sorted(slices.Values(v))
	if len(s) == 1 {
		return s[0]
	}
	x := p * float64(len(s)-1)
	i := min(int(x), len(s)-2)
	return s[i] + (x-float64(i))*(s[i+1]-s[i])
}

// Section finds a section by its key.
func (s *Study) Section(key string) (SectionFilm, bool) {
	i := slices.IndexFunc(s.Sections, func(c SectionFilm) bool { return c.Key == key })
	if i < 0 {
		return SectionFilm{}, false
	}
	return s.Sections[i], true
}

// At is the total film at one place.
func (s *Study) At(x, y float64) Estimate {
	spot := SpotOf(s.Ground.Panel, x, y)
	spot.Zone = s.Facts.zoneAt(x, y)
	return s.Map.At([]Spot{spot})[0]
}

// FilmOf is the total film of cells on the paint, in their order.
func (s *Study) FilmOf(cells []flatlay.Point) []Estimate {
	out := make([]Estimate, len(cells))
	for i, c := range cells {
		out[i] = s.Grid.Film[s.Ground.nodeAt(c)]
	}
	return out
}

func (s *Study) layersAt(q flatlay.Point) layers { return s.zones[s.Facts.zoneAt(q.X, q.Y)] }

// ClearAt is the clear at a place of that total film (µm).
func (s *Study) ClearAt(q flatlay.Point, total Estimate) Estimate {
	spot := SpotOf(s.Ground.Panel, q.X, q.Y)
	return s.layersAt(q).at(total, Thin.Factor(spot.Edge, spot.Crease))
}

// at is the clear (µm) where the film is that total and thinned by e.
func (l layers) at(total Estimate, e float64) Estimate {
	share := l.share(total.Mean, e)
	return Estimate{share * l.clear.Mean, math.Hypot(math.Hypot(share*l.clear.SD, l.slope*l.clear.Mean*total.SD), l.rest*l.clear.Mean)}
}

// BelowAt is the film under the clear at a place of that total film (µm).
func (s *Study) BelowAt(q flatlay.Point, total Estimate) float64 {
	return math.Max(total.Mean-s.ClearAt(q, total).Mean, 0)
}

// PolicyAt is the policy of a place.
func (s *Study) PolicyAt(q flatlay.Point) Policy { return s.layersAt(q).policy }

// Need is the total film (µm, far from edges) at which the panel's own clear is at its
// floor.
func (s *Study) Need() float64 {
	l := s.zones[0]
	return l.level + (l.policy.Floor/l.clear.Mean-1)/l.slope
}

// OddAt holds a reading of um µm at a place against those of the study; kept
// says whether it is one of them. One that a shot at the same place confirms is
// not odd.
func (s *Study) OddAt(q flatlay.Point, um float64, kept bool) (Odd, bool) {
	spot := SpotOf(s.Ground.Panel, q.X, q.Y)
	spot.Zone = s.Facts.zoneAt(q.X, q.Y)
	var others []Reading
	for _, r := range s.readings {
		if math.Hypot(r.X-q.X, r.Y-q.Y) > samePlace {
			others = append(others, r)
		} else if confirms := r.Shots > 1 || !kept; confirms && math.Abs(r.T-um) <= s.gauge.apartBy() {
			return Odd{}, false
		}
	}
	return OddAmong(others, spot, um)
}

// Rooms is the headroom (µm) of each node of the grid on its own: what may go
// there by the policy's risk. A section's headroom is less, since any of its
// places may be the thin one.
func (s *Study) Rooms() []float64 {
	out := make([]float64, len(s.Grid.Film))
	for i, e := range s.Grid.Film {
		l := s.zones[s.nodes[i].zone]
		out[i] = l.policy.Headroom(NormalLeast(l.at(e, s.nodes[i].e)))
	}
	return out
}
