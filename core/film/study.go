package film

import (
	"errors"
	"hash/fnv"
	"math"
	"slices"
	"sync"

	"waxplanus/core/flatlay"
)

// Place is one plain reading: where the probe stood and what it said.
type Place struct {
	X, Y float64 // mm
	Film float64 // µm, total
	Var  float64 // µm² of further doubt, 0 for a plain reading
}

// Facts is what is known of a panel besides its outline.
type Facts struct {
	Finish Finish
	Coats  int     // of clear, 0 when nobody knows
	Coat   float64 // dry film of a coat, µm; 0 for the usual
	Before []Place // readings from before the clear went on
}

// Study is the film of one panel, all that its readings tell.
type Study struct {
	Panel    flatlay.Panel
	Facts    Facts
	Policy   Policy
	Map      *Map
	Grid     Grid
	Cells    []flatlay.Point // centres of the cells on the paint
	Film     []Estimate      // total film of each of them, µm
	Mean     Estimate        // of the panel off its edges, µm
	Clear    Clear
	Sections []SectionFilm
	// Odd says that the film before the clear reads as much as the whole, so that
	// it is no source.
	Odd      bool
	readings []Reading
}

// leastClear is the least difference, in µm, that a coat of clear can make.
const leastClear = 5.0

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
	Film  Estimate // total at a usual place of the section, µm
	Bound float64  // µm: no place is thinner, but for the policy's risk
	Least Least    // clear at the thinnest place
}

// SpotOf is a place of a panel as the film map sees it.
func SpotOf(p flatlay.Panel, x, y float64) Spot {
	q := flatlay.Point{X: x, Y: y}
	return Spot{X: x, Y: y, Edge: p.EdgeDistance(q), Crease: p.CreaseDistance(q), Sides: p.SideDistances(q)}
}

// samePlace is how near, in mm, two readings are of one spot.
const samePlace = 15.0

// gather joins readings of one spot: their median where there are three, their
// mean otherwise.
func gather(p flatlay.Panel, places []Place) []Reading {
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
	for i, g := range groups {
		out[i] = Reading{Spot: SpotOf(p, g[0].X, g[0].Y), T: middle(g), Shots: len(g), Var: g[0].Var}
	}
	return out
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
// ErrReadings without a reading of the total.
func NewStudy(p flatlay.Panel, facts Facts, places []Place, g Gauge) (*Study, error) {
	w, h := p.Size()
	prior := Sprayed
	if facts.Finish == FactoryFinish {
		prior = Factory
	}
	s := &Study{Panel: p, Facts: facts, Policy: PolicyFor(facts.Finish), Cells: p.Cells(), readings: gather(p, places)}
	m, err := NewMap(s.readings, g, prior, Extent{w, h})
	if err != nil {
		return nil, err
	}
	s.Map = m
	if err = s.fill(); err != nil {
		return nil, err
	}
	s.Mean = s.usual(func(q flatlay.Point) bool { return p.EdgeDistance(q) >= flatlay.Border })
	s.Clear, _ = Combine(s.sources(g)...)
	return s, s.study()
}

// fill computes the grid and takes the cells on the paint from it.
func (s *Study) fill() error {
	raster := s.Panel.Grid()
	g := Grid{Origin: raster.At(-1, -1), NX: raster.NX + 2, NY: raster.NY + 2}
	var nodes []flatlay.Point
	index := map[flatlay.Point]int{}
	for j := range g.NY {
		for i := range g.NX {
			q := raster.At(i-1, j-1)
			index[q] = len(nodes)
			nodes = append(nodes, q)
		}
	}
	var err error
	if g.Film, err = s.Map.At(s.spots(nodes)); err != nil {
		return err
	}
	s.Grid = g
	for _, c := range s.Cells {
		s.Film = append(s.Film, g.Film[index[c]])
	}
	return nil
}

func (s *Study) spots(cells []flatlay.Point) []Spot {
	out := make([]Spot, len(cells))
	for i, c := range cells {
		out[i] = SpotOf(s.Panel, c.X, c.Y)
	}
	return out
}

// usual is the film at a usual cell of those that pass: the mean of their means
// and the root mean square of their doubts.
func (s *Study) usual(pass func(flatlay.Point) bool) Estimate {
	n, m, v := 0.0, 0.0, 0.0
	for i, c := range s.Cells {
		if pass(c) {
			n++
			m += s.Film[i].Mean
			v += s.Film[i].SD * s.Film[i].SD
		}
	}
	if n == 0 { // a panel that is all border
		return Estimate{s.readings[0].T, s.readings[0].T * 0.1}
	}
	return Estimate{m / n, math.Sqrt(v / n)}
}

func (s *Study) sources(g Gauge) []Source {
	var out []Source
	if before := gather(s.Panel, s.Facts.Before); len(before) > 0 {
		e, sum, shots := factors(spotsOf(before)), 0.0, before[0].Shots
		for i, r := range before {
			sum += r.T / e[i]
			shots = min(shots, r.Shots)
		}
		b := Before(s.Map.Level(), sum/float64(len(before)), len(before), shots, g)
		if s.Odd = b.Mean < leastClear; !s.Odd {
			out = append(out, b)
		}
	}
	switch {
	case s.Facts.Finish == SingleStaged:
		out = append(out, SingleStage(s.Map.Level()))
	case s.Facts.Finish == FactoryFinish:
		out = append(out, Share(s.Map.Level(), FactoryShare))
	case s.Facts.Finish == Refinished && s.Facts.Coats > 0:
		out = append(out, Coats(s.Facts.Coats, s.Facts.Coat))
	case len(out) == 0:
		out = append(out, Unknown(s.Map.Level()))
	}
	return out
}

func spotsOf(r []Reading) []Spot {
	out := make([]Spot, len(r))
	for i := range r {
		out[i] = r[i].Spot
	}
	return out
}

// study makes the film of every section, side by side: none needs another.
func (s *Study) study() error {
	sections := s.Panel.Sections()
	s.Sections = make([]SectionFilm, len(sections))
	errs := make([]error, len(sections))
	var wg sync.WaitGroup
	for i, sec := range sections {
		wg.Go(func() { s.Sections[i], errs[i] = s.section(sec) })
	}
	wg.Wait()
	return errors.Join(errs...)
}

func (s *Study) section(sec flatlay.Section) (SectionFilm, error) {
	in := make(map[flatlay.Point]bool, len(sec.Cells))
	for _, c := range sec.Cells {
		in[c] = true
	}
	minima, err := s.Map.Minima(s.spots(sec.Cells), seed(s.Panel.Key, sec.Key))
	if err != nil {
		return SectionFilm{}, err
	}
	return SectionFilm{
		Section: sec,
		Film:    s.usual(func(q flatlay.Point) bool { return in[q] }),
		Bound:   quantile(minima, s.Policy.Risk),
		Least:   LeastClear(minima, s.share(), s.Clear.SD),
	}, nil
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
func (s *Study) At(x, y float64) (Estimate, error) {
	e, err := s.Map.At([]Spot{SpotOf(s.Panel, x, y)})
	if err != nil {
		return Estimate{}, err
	}
	return e[0], nil
}

// FilmOf is the total film of cells on the paint, in their order.
func (s *Study) FilmOf(cells []flatlay.Point) []Estimate {
	at := make(map[flatlay.Point]Estimate, len(s.Cells))
	for i, c := range s.Cells {
		at[c] = s.Film[i]
	}
	out := make([]Estimate, len(cells))
	for i, c := range cells {
		out[i] = at[c]
	}
	return out
}

// share is the clear as a share of the film: the clear is thicker and thinner
// where the whole film is, in proportion.
func (s *Study) share() float64 { return s.Clear.Mean / s.Map.Level() }

// ClearAt is the clear at a place of that total film (µm).
func (s *Study) ClearAt(total Estimate) Estimate {
	return Estimate{s.share() * total.Mean, math.Hypot(s.Clear.SD, s.share()*total.SD)}
}

// BelowAt is the film under the clear at a place of that total film (µm).
func (s *Study) BelowAt(total Estimate) float64 {
	return math.Max(total.Mean-s.ClearAt(total).Mean, 0)
}

// Need is the total film (µm) at which the clear is the floor.
func (s *Study) Need() float64 { return s.Policy.Floor / s.share() }
