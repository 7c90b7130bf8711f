package film

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"

	"gonum.org/v1/gonum/blas"
	"gonum.org/v1/gonum/blas/blas64"
	"gonum.org/v1/gonum/lapack/lapack64"
)

// Map is the film of one panel as the readings and the prior tell it. The
// spreads of drift and stripes and the reach of the drift are averaged over a
// grid, weighted by how well each explains the readings, never plugged in.
type Map struct {
	reaches []*reach
	fields  []*field
	weight  []float64 // of each field, sum 1
	scale   float64   // mean film, µm
	size    Extent
}

// choice is a figure of the prior that is averaged over: what it is times, and
// the spread of its log-normal prior.
type choice struct {
	times  []float64
	spread float64
}

// Choices are the figures of the prior that a map averages over.
type Choices struct{ drift, reach, stripe choice }

var one = choice{[]float64{1}, 1}

// What a map may average over. Averaged is what decisions rest on; the others
// check the algebra: the doubt of a map is too small where the prior that it
// does not average over is wrong.
var (
	Averaged = Choices{
		drift:  choice{[]float64{0.25, 0.5, 0.75, 1, 1.5, 2}, 0.5},
		reach:  choice{[]float64{0.4, 0.7, 1, 1.6, 2.5}, 0.6},
		stripe: choice{[]float64{0.4, 0.7, 1, 1.4, 2}, 0.5},
	}
	DriftAveraged = Choices{Averaged.drift, Averaged.reach, one}
	Plugged       = Choices{one, one, one}
)

// log is the log of the prior at one of the choices.
func (c choice) log(times float64) float64 {
	z := math.Log(times) / c.spread
	return -0.5 * z * z
}

// NewMap makes the film map of readings on a panel of that size. It returns
// ErrReadings when there are none.
func NewMap(readings []Reading, g Gauge, prior Prior, size Extent, over Choices) (*Map, error) {
	if len(readings) == 0 {
		return nil, ErrReadings
	}
	at := make([]node, len(readings))
	for i, r := range readings {
		at[i] = newNode(r.Spot, size)
	}
	m := &Map{size: size}
	best := math.Inf(-1)
	for _, q := range over.stripe.times {
		p := prior
		p.Stripe *= q
		f, err := newFrame(readings, at, g, p)
		if err != nil {
			return nil, fmt.Errorf("film map: %w", err)
		}
		m.scale = f.scale
		for _, k := range over.reach.times {
			r, err := f.newReach(prior.Reach * k)
			if err != nil {
				return nil, fmt.Errorf("film map: %w", err)
			}
			m.reaches = append(m.reaches, r)
			for _, d := range over.drift.times {
				n := r.newField(prior.Drift * d)
				n.log = n.logREML + over.drift.log(d) + over.reach.log(k) + over.stripe.log(q)
				m.fields = append(m.fields, n)
				best = math.Max(best, n.log)
			}
		}
	}
	// Alike beside alike: another draw from the mixture then changes little.
	slices.SortStableFunc(m.fields, func(a, b *field) int { return cmp.Compare(a.unevenness(), b.unevenness()) })
	m.weight = make([]float64, len(m.fields))
	sum := 0.0
	for i, f := range m.fields {
		m.weight[i] = math.Exp(f.log - best)
		sum += m.weight[i]
	}
	for i := range m.weight {
		m.weight[i] /= sum
	}
	return m, nil
}

// Estimate is a value with its standard deviation, in µm.
type Estimate struct{ Mean, SD float64 }

// Range is what is expected of a value at 1 in 20: two standard deviations to
// both sides, in µm.
func (e Estimate) Range() (low, high float64) { return e.Mean - 2*e.SD, e.Mean + 2*e.SD }

// Covers says whether a value lies where it is expected at 1 in 20.
func (e Estimate) Covers(v float64) bool {
	low, high := e.Range()
	return low <= v && v <= high
}

// Less is the estimate once v µm are gone.
func (e Estimate) Less(v float64) Estimate { return Estimate{e.Mean - v, e.SD} }

// At returns the total film at each spot: mean and standard deviation of the
// mixture over the grid.
func (m *Map) At(spots []Spot) ([]Estimate, error) {
	to := make([]node, len(spots))
	for i, s := range spots {
		to[i] = newNode(s, m.size)
	}
	l, err := m.link(to)
	if err != nil {
		return nil, fmt.Errorf("film map: %w", err)
	}
	return m.estimates(l), nil
}

// faint is a weight in the mixture that no figure shows.
const faint = 1e-6

// estimates takes the nodes in runs, side by side.
func (m *Map) estimates(l *link) []Estimate {
	const run = 256
	out := make([]Estimate, len(l.to))
	var wg sync.WaitGroup
	for from := 0; from < len(out); from += run {
		wg.Go(func() { m.estimate(l, from, out[from:min(from+run, len(out))]) })
	}
	wg.Wait()
	return out
}

// estimate fills out for the nodes from one on.
func (m *Map) estimate(l *link, from int, out []Estimate) {
	n := len(out)
	to, second := l.to[from:from+n], make([]float64, n)
	mean, explained, trend := make([]float64, n), make([]float64, n), make([]float64, n)
	for k, f := range m.fields {
		if m.weight[k] < faint {
			continue
		}
		for j := range to {
			mean[j], explained[j], trend[j] = f.beta*to[j].e, 0, to[j].e
		}
		s2 := f.drift * f.drift
		drift, rest := l.drift[f.reach].RawMatrix(), l.rest[f.reach].RawMatrix()
		for i, g := range f.gain {
			d, b := drift.Data[i*drift.Stride+from:][:n], rest.Data[i*rest.Stride+from:][:n]
			res, e := f.res[i], f.e[i]
			for j := range n {
				c := g * (s2*d[j] + b[j])
				mean[j] += c * res
				explained[j] += c * c
				trend[j] -= c * e
			}
		}
		for j := range to {
			e := to[j].e
			prior := m.scale * m.scale * (s2*e*e + f.prior.steady(&to[j], &to[j], 1))
			v := math.Max(prior-explained[j]+trend[j]*trend[j]*f.betaVar, 0)
			out[j].Mean += m.weight[k] * mean[j]
			second[j] += m.weight[k] * (v + mean[j]*mean[j])
		}
	}
	for j := range out {
		out[j].SD = math.Sqrt(math.Max(second[j]-out[j].Mean*out[j].Mean, 0))
	}
}

const (
	samplePairs = 8
	sampleEach  = 40
)

// draw gives samplePairs x sampleEach joint samples (µm) of the film at some
// nodes of a ground, the same for the same seed: one row for each sample. What
// is taken of a sample, its least or any other figure, is right for the chance
// of that figure.
func (m *Map) draw(g *Ground, nodes []node, l *link, at []int, seed uint64) ([][]float64, error) {
	rng := rand.New(rand.NewPCG(seed, 0x57a9))
	n := len(at)
	stripes := g.lags(m.fields[0].prior.StripeReach)
	lags := map[float64][]float64{}
	var out [][]float64
	pick := m.systematic(rng.Float64())
	for start := 0; start < len(pick); {
		end := start
		for end < len(pick) && pick[end] == pick[start] {
			end++
		}
		f := m.fields[pick[start]]
		if lags[f.mm] == nil {
			lags[f.mm] = g.lags(f.mm)
		}
		cov := make([]float64, n*n)
		f.covariance(g, nodes, at, stripes, lags[f.mm], cov)
		mean := f.explain(l, at, cov)
		samples, err := scatter(rng, mean, cov, (end-start)*sampleEach)
		if err != nil {
			return nil, err
		}
		out = append(out, samples...)
		start = end
	}
	return out, nil
}

// covariance fills the lower half of cov with the prior covariance (µm²).
func (f *field) covariance(g *Ground, nodes []node, at []int, stripes, drifts, cov []float64) {
	n := len(at)
	s2, m2 := f.drift*f.drift, f.scale*f.scale
	for i, a := range at {
		x := &nodes[a]
		for j, b := range at[:i+1] {
			y := &nodes[b]
			lag := g.lag(x, y)
			cov[i*n+j] = m2 * (s2*x.e*y.e*drifts[lag] + f.prior.steady(x, y, stripes[lag]))
		}
	}
}

// explain takes from the lower half of cov what the readings tell, and returns
// the mean film (µm).
func (f *field) explain(l *link, at []int, cov []float64) []float64 {
	n := len(at)
	pull := f.pull(l, at).RawMatrix()
	trend, mean := make([]float64, n), make([]float64, n)
	for j, k := range at {
		trend[j], mean[j] = l.to[k].e, f.beta*l.to[k].e
	}
	for i, e := range f.e {
		for j, c := range pull.Data[i*pull.Stride:][:n] {
			trend[j] -= c * e
			mean[j] += c * f.res[i]
		}
	}
	sym := blas64.Symmetric{Uplo: blas.Lower, N: n, Stride: n, Data: cov}
	blas64.Syrk(blas.Trans, -1, pull, 1, sym)
	blas64.Syr(f.betaVar, blas64.Vector{N: n, Inc: 1, Data: trend}, sym)
	return mean
}

// scatter draws count samples of a normal distribution from the lower half of
// its covariance, which it overwrites. A jitter of a millionth of the variance
// keeps near-copies of a spot apart.
func scatter(rng *rand.Rand, mean, cov []float64, count int) ([][]float64, error) {
	n := len(mean)
	jitter := 0.0
	for i := range n {
		jitter = math.Max(jitter, 1e-6*cov[i*n+i])
	}
	for i := range n {
		cov[i*n+i] += jitter
	}
	tri, ok := lapack64.Potrf(blas64.Symmetric{Uplo: blas.Lower, N: n, Stride: n, Data: cov})
	if !ok {
		return nil, fmt.Errorf("film map: the joint doubt of %d spots does not resolve", n)
	}
	z := make([]float64, count*n)
	for i := range z {
		z[i] = rng.NormFloat64()
	}
	// Rows are samples: Z L' has the covariance L L'.
	blas64.Trmm(blas.Right, blas.Trans, 1, tri, blas64.General{Rows: count, Cols: n, Stride: n, Data: z})
	out := make([][]float64, count)
	for s := range out {
		out[s] = z[s*n:][:n:n]
		for j, v := range mean {
			out[s][j] += v
		}
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

// Level is the film (µm) far from edges and creases that the map is built
// around.
func (m *Map) Level() float64 {
	v := 0.0
	for i, f := range m.fields {
		v += m.weight[i] * f.beta
	}
	return v
}
