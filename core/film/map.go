package film

import (
	"fmt"
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/mat"
)

// Map is the film of one panel as the readings and the prior tell it. The
// spread and the reach of the drift are averaged over a grid, weighted by how
// well each explains the readings, never plugged in.
type Map struct {
	fields []*field
	weight []float64 // of each field, sum 1
	prior  Prior     // all but drift and reach hold for every field
	size   Extent
}

var (
	driftGrid = []float64{0.25, 0.5, 0.75, 1, 1.5, 2}
	reachGrid = []float64{0.4, 0.7, 1, 1.6, 2.5}
)

const (
	driftSpread = 0.5 // log-normal prior of the drift's spread
	reachSpread = 0.6 // and of its reach
)

// NewMap makes the film map of readings on a panel of that size. It returns
// ErrReadings when there are none.
func NewMap(readings []Reading, g Gauge, prior Prior, size Extent) (*Map, error) {
	if len(readings) == 0 {
		return nil, ErrReadings
	}
	m := &Map{prior: prior, size: size}
	best := math.Inf(-1)
	var logs []float64
	for _, d := range driftGrid {
		for _, r := range reachGrid {
			p := prior
			p.Drift, p.Reach = prior.Drift*d, prior.Reach*r
			f, err := newField(readings, g, p, size)
			if err != nil {
				return nil, fmt.Errorf("film map: %w", err)
			}
			ld, lr := math.Log(d)/driftSpread, math.Log(r)/reachSpread
			l := f.logREML - 0.5*(ld*ld+lr*lr)
			m.fields, logs = append(m.fields, f), append(logs, l)
			best = math.Max(best, l)
		}
	}
	sum := 0.0
	m.weight = make([]float64, len(logs))
	for i, l := range logs {
		m.weight[i] = math.Exp(l - best)
		sum += m.weight[i]
	}
	for i := range m.weight {
		m.weight[i] /= sum
	}
	return m, nil
}

// NewPluggedMap makes the map of one fixed prior, without averaging: to check
// the algebra, not to decide by. Its doubt is too small where the prior is wrong.
func NewPluggedMap(readings []Reading, g Gauge, prior Prior, size Extent) (*Map, error) {
	if len(readings) == 0 {
		return nil, ErrReadings
	}
	f, err := newField(readings, g, prior, size)
	if err != nil {
		return nil, err
	}
	return &Map{fields: []*field{f}, weight: []float64{1}, prior: prior, size: size}, nil
}

// Estimate is a value with its standard deviation, in µm.
type Estimate struct{ Mean, SD float64 }

// Range is what is expected of a value at 1 in 20: two standard deviations to
// both sides, in µm.
func (e Estimate) Range() (low, high float64) { return e.Mean - 2*e.SD, e.Mean + 2*e.SD }

// At returns the total film at each spot: mean and standard deviation of the
// mixture over the grid.
func (m *Map) At(spots []Spot) ([]Estimate, error) {
	out := make([]Estimate, len(spots))
	second := make([]float64, len(spots))
	k := newKernel(m.fields[0].at, nodes(spots, m.size), m.prior)
	for i, f := range m.fields {
		if m.weight[i] < 1e-9 {
			continue
		}
		w, err := f.weigh(k)
		if err != nil {
			return nil, fmt.Errorf("film map: %w", err)
		}
		mean, variance := f.predict(w)
		for j := range spots {
			out[j].Mean += m.weight[i] * mean[j]
			second[j] += m.weight[i] * (variance[j] + mean[j]*mean[j])
		}
	}
	for j := range out {
		out[j].SD = math.Sqrt(math.Max(second[j]-out[j].Mean*out[j].Mean, 0))
	}
	return out, nil
}

const (
	samplePairs = 8
	sampleEach  = 40
)

// Minima draws the least film over a group of spots: samplePairs x sampleEach
// joint samples in µm, the same for the same seed. The minimum is taken inside
// each sample, so that the chance of any spot lying below a level is right.
func (m *Map) Minima(spots []Spot, seed uint64) ([]float64, error) {
	if len(spots) == 0 {
		return nil, nil
	}
	rng := rand.New(rand.NewPCG(seed, 0x57a9))
	out := make([]float64, 0, samplePairs*sampleEach)
	at := nodes(spots, m.size)
	k, own := newKernel(m.fields[0].at, at, m.prior), newKernel(at, at, m.prior)
	pick := m.systematic(rng.Float64())
	for start := 0; start < len(pick); {
		end := start
		for end < len(pick) && pick[end] == pick[start] {
			end++
		}
		f := m.fields[pick[start]]
		w, err := f.weigh(k)
		if err != nil {
			return nil, fmt.Errorf("film map: %w", err)
		}
		mean, _ := f.predict(w)
		root, err := root(f.joint(w, own))
		if err != nil {
			return nil, err
		}
		for range (end - start) * sampleEach {
			out = append(out, drawLeast(rng, mean, root))
		}
		start = end
	}
	return out, nil
}

// systematic resamples the weights to samplePairs indices, low to high.
func (m *Map) systematic(offset float64) []int {
	pick := make([]int, 0, samplePairs)
	sum, i := m.weight[0], 0
	for k := range samplePairs {
		at := (float64(k) + offset) / samplePairs
		for sum < at && i < len(m.weight)-1 {
			i++
			sum += m.weight[i]
		}
		pick = append(pick, i)
	}
	return pick
}

// root is the lower Cholesky factor of a covariance, with a jitter of a
// thousandth of its size that keeps near-copies of a spot apart.
func root(k *mat.SymDense) (*mat.TriDense, error) {
	n := k.SymmetricDim()
	jitter := 0.0
	for i := range n {
		jitter = math.Max(jitter, 1e-6*k.At(i, i))
	}
	for i := range n {
		k.SetSym(i, i, k.At(i, i)+jitter)
	}
	var c mat.Cholesky
	if !c.Factorize(k) {
		return nil, fmt.Errorf("film map: the joint doubt of %d spots does not resolve", n)
	}
	l := mat.NewTriDense(n, mat.Lower, nil)
	c.LTo(l)
	return l, nil
}

// drawLeast is the least film of one joint sample.
func drawLeast(rng *rand.Rand, mean []float64, l *mat.TriDense) float64 {
	z := make([]float64, len(mean))
	for i := range z {
		z[i] = rng.NormFloat64()
	}
	raw := l.RawTriangular()
	least := math.Inf(1)
	for i, v := range mean {
		for j, a := range raw.Data[i*raw.Stride : i*raw.Stride+i+1] {
			v += a * z[j]
		}
		least = math.Min(least, v)
	}
	return least
}

// Level is the film (µm) far from edges and creases that the map is built
// around.
func (m *Map) Level() float64 {
	v := 0.0
	for i, f := range m.fields {
		v += m.weight[i] * f.beta
	}
	return v
}
