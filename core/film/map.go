package film

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"gonum.org/v1/gonum/blas"
	"gonum.org/v1/gonum/blas/blas64"
	"gonum.org/v1/gonum/lapack/lapack64"
)

// Map is the film of one panel as the readings and the prior tell it. The
// spreads of drift and stripes and the reach of the drift are averaged over a
// grid, weighted by how well each explains the readings, never plugged in. The gauge may
// be off by a share of the film: that error is common to all readings of a day, so no
// number of readings averages it away.
type Map struct {
	fields     []*field  // those that count, from the smoothest to the most uneven
	weight     []float64 // of each, sum 1
	scale      float64   // mean film, µm
	calibrated float64   // sd of the calibration, as a share of the film
	size       Extent
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
	m := &Map{size: size, calibrated: g.B}
	o := newObserved(readings, at, g, prior)
	m.scale = o.scale
	var reaches []float64
	for _, k := range over.reach.times {
		reaches = append(reaches, prior.Reach*k)
	}
	kernels := o.kernels(at, reaches)
	nd, nk := len(over.drift.times), len(over.reach.times)
	m.fields = make([]*field, nd*nk*len(over.stripe.times))
	errs := make([]error, len(m.fields))
	sideBySide(len(m.fields), func(i int) {
		d, k, q := over.drift.times[i%nd], over.reach.times[i/nd%nk], over.stripe.times[i/nd/nk]
		f, err := o.newField(kernels, prior.Drift*d, prior.Stripe*q, prior.Reach*k)
		if err != nil {
			errs[i] = err
			return
		}
		f.log = f.logREML + over.drift.log(d) + over.reach.log(k) + over.stripe.log(q)
		m.fields[i] = f
	})
	if err := errors.Join(errs...); err != nil {
		return nil, fmt.Errorf("film map: %w", err)
	}
	m.keepHeaviest()
	return m, nil
}

// negligible is the weight that the lightest choices may have together which are dropped
// before anything is built for them (judgement: no figure that is shown changes by it).
const negligible = 1e-3

// keepHeaviest weighs the fields, drops the lightest, and sorts the others.
func (m *Map) keepHeaviest() {
	best := math.Inf(-1)
	for _, f := range m.fields {
		best = math.Max(best, f.log)
	}
	sum := 0.0
	for _, f := range m.fields {
		sum += math.Exp(f.log - best)
	}
	slices.SortStableFunc(m.fields, func(a, b *field) int { return cmp.Compare(b.log, a.log) })
	kept, n := 0.0, 0
	for kept < (1-negligible)*sum && n < len(m.fields) {
		kept += math.Exp(m.fields[n].log - best)
		n++
	}
	m.fields = m.fields[:n]
	// Alike next to alike: another draw from the mixture then changes little.
	slices.SortStableFunc(m.fields, func(a, b *field) int { return cmp.Compare(a.unevenness(), b.unevenness()) })
	m.weight = make([]float64, n)
	for i, f := range m.fields {
		m.weight[i] = math.Exp(f.log-best) / kept
	}
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
func (m *Map) At(spots []Spot) []Estimate {
	to := make([]node, len(spots))
	for i, s := range spots {
		to[i] = newNode(s, m.size)
	}
	return m.estimates(to)
}

// block is how many nodes are worked at a time, which bounds the memory of a map
// whatever the size of the panel.
const block = 256

// estimates takes nodes in blocks that lie together, a few side by side.
func (m *Map) estimates(to []node) []Estimate {
	order := tiled(to)
	out := make([]Estimate, len(to))
	sideBySide((len(to)+block-1)/block, func(i int) {
		part := order[i*block : min((i+1)*block, len(to))]
		at, got := make([]node, len(part)), make([]Estimate, len(part))
		for k, j := range part {
			at[k] = to[j]
		}
		m.estimateBy(near(at, m.fields), at, got)
		for k, j := range part {
			out[j] = got[k]
		}
	})
	return out
}

// sideBySide does n things on all processors. A panic in one of them is one of whoever asked,
// who may recover from it.
func sideBySide(n int, do func(i int)) {
	var all sync.WaitGroup
	slots := make(chan struct{}, runtime.GOMAXPROCS(0))
	var cause atomic.Pointer[any]
	for i := range n {
		slots <- struct{}{}
		all.Go(func() {
			defer func() {
				if c := recover(); c != nil {
					cause.Store(&c)
				}
				<-slots
			}()
			do(i)
		})
	}
	all.Wait()
	if c := cause.Load(); c != nil {
		panic(*c)
	}
}

// estimateBy fills out for some nodes, by the fields of the map as some of its readings
// have them.
func (m *Map) estimateBy(fields []*field, to []node, out []Estimate) {
	kernels := fields[0].kernels(to, reachesOf(fields)) // all have the same readings
	n := len(to)
	second, mean, explained, trend := make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n)
	var room []float64
	for k, f := range fields {
		for j := range to {
			mean[j], explained[j], trend[j] = f.beta*to[j].e, 0, to[j].e
		}
		cross := f.cross(kernels, room)
		room = cross.Data
		for i, res := range f.res {
			e := f.e[i]
			for j, w := range cross.Data[i*n:][:n] {
				mean[j] += w * res
				explained[j] += w * w
				trend[j] -= w * e
			}
		}
		for j := range to {
			e := to[j].e
			prior := m.scale * m.scale * (f.drift*f.drift*e*e + f.prior.unaveraged(&to[j], &to[j], f.stripe, 1))
			v := math.Max(prior-explained[j]+trend[j]*trend[j]*f.betaVar, 0)
			out[j].Mean += m.weight[k] * mean[j]
			second[j] += m.weight[k] * (v + mean[j]*mean[j])
		}
	}
	for j := range out {
		own := math.Max(second[j]-out[j].Mean*out[j].Mean, 0)
		out[j].SD = math.Sqrt(own + m.calibration(&to[j], &to[j]))
	}
}

// calibration is the covariance (µm²) of two nodes by what the gauge is off as a whole.
func (m *Map) calibration(a, b *node) float64 {
	off := m.calibrated * m.scale
	return off * off * a.e * b.e
}

const (
	samplePairs = 8
	samples     = 320
)

// draw gives so many joint samples (µm) of the film at some
// nodes of a ground whose lags are given, the same for the same seed: one row for each sample. What
// is taken of a sample, its least or any other figure, is right for the chance
// of that figure.
func (m *Map) draw(lags lags, at []node, seed uint64) ([][]float64, error) {
	return m.drawUnder(lags, at, seed, m.pairs())
}

// drawUnder is draw under so many choices of the prior.
func (m *Map) drawUnder(lags lags, at []node, seed uint64, pairs int) ([][]float64, error) {
	rng := rand.New(rand.NewPCG(seed, 0x57a9))
	pick := m.systematic(rng.Float64(), pairs)
	var picked []*field
	for _, i := range pick {
		picked = append(picked, m.fields[i])
	}
	picked = near(at, picked)
	kernels := picked[0].kernels(at, reachesOf(picked))
	var out [][]float64
	for start := 0; start < len(picked); {
		end := start
		for end < len(picked) && picked[end] == picked[start] {
			end++
		}
		f := picked[start]
		cov := m.covariance(f, lags, at)
		mean := f.posterior(at, f.cross(kernels, nil), cov)
		drawn, err := multivariateNormal(rng, mean, cov, (end-start)*samples/pairs)
		if err != nil {
			return nil, err
		}
		out = append(out, drawn...)
		start = end
	}
	return out, nil
}

// covariance is the lower half of the prior covariance (µm²) of some nodes, with what
// the gauge is off by as a whole.
func (m *Map) covariance(f *field, lags lags, at []node) []float64 {
	n, drifts, stripes := len(at), lags.by[f.mm], lags.by[f.prior.StripeReach]
	cov := make([]float64, n*n)
	s2, m2 := f.drift*f.drift, f.scale*f.scale
	for i := range at {
		x := &at[i]
		for j := range at[:i+1] {
			y := &at[j]
			lag := lags.lag(x, y)
			cov[i*n+j] = m2*(s2*x.e*y.e*drifts[lag]+f.prior.unaveraged(x, y, f.stripe, stripes[lag])) + m.calibration(x, y)
		}
	}
	return cov
}

// posterior takes from the lower half of a covariance what the readings tell, and
// returns the mean film (µm).
func (f *field) posterior(at []node, cross blas64.General, cov []float64) []float64 {
	n := len(at)
	trend, mean := make([]float64, n), make([]float64, n)
	for j := range at {
		trend[j], mean[j] = at[j].e, f.beta*at[j].e
	}
	for i, e := range f.e {
		for j, w := range cross.Data[i*n:][:n] {
			trend[j] -= w * e
			mean[j] += w * f.res[i]
		}
	}
	sym := blas64.Symmetric{Uplo: blas.Lower, N: n, Stride: n, Data: cov}
	blas64.Syrk(blas.Trans, -1, cross, 1, sym)
	blas64.Syr(f.betaVar, blas64.Vector{N: n, Inc: 1, Data: trend}, sym)
	return mean
}

// multivariateNormal draws count samples of a normal distribution from the lower half of
// its covariance, which it overwrites. A jitter of a millionth of the variance
// keeps near-copies of a spot apart.
func multivariateNormal(rng *rand.Rand, mean, cov []float64, count int) ([][]float64, error) {
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

// pairs is how many choices of the prior the samples are drawn under. With many readings the
// choices say nearly the same, and half of them do.
func (m *Map) pairs() int {
	if len(m.fields[0].at) > mostNear {
		return samplePairs / 2
	}
	return samplePairs
}

// systematic resamples the weights to so many indices, low to high.
func (m *Map) systematic(offset float64, pairs int) []int {
	pick := make([]int, 0, pairs)
	sum, i := m.weight[0], 0
	for k := range pairs {
		at := (float64(k) + offset) / float64(pairs)
		for sum < at && i < len(m.weight)-1 {
			i++
			sum += m.weight[i]
		}
		pick = append(pick, i)
	}
	return pick
}

// Level is the film (µm) far from edges and creases that the map is built
// around, with its doubt.
func (m *Map) Level() Estimate {
	mean, second := 0.0, 0.0
	for i, f := range m.fields {
		mean += m.weight[i] * f.beta
		second += m.weight[i] * (f.betaVar + f.beta*f.beta)
	}
	off := m.calibrated * m.scale
	return Estimate{mean, math.Sqrt(math.Max(second-mean*mean, 0) + off*off)}
}
