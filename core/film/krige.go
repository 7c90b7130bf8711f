package film

import (
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/blas"
	"gonum.org/v1/gonum/blas/blas64"
	"gonum.org/v1/gonum/lapack/lapack64"
)

// Reading is one total film reading T (µm) at a spot: the mean of Shots shots.
// Var is further variance (µm²) that it carries, 0 for a plain reading.
type Reading struct {
	Spot
	T     float64
	Shots int
	Var   float64
	Sure  bool // somebody stands for it although it does not fit the others
}

// Prior holds the spreads that the map's covariance is made of, as shares of
// the mean film: broad drift over Reach mm, stripes of the gun's overlap over
// StripeReach mm, droop across the panel, sides and creases that each thin in their own way, and the
// step at a zone of another history (judgement).
type Prior struct {
	Drift, Reach, Stripe, StripeReach, Droop, Side, Crease, Zone float64
}

// Sprayed is the prior of a panel sprayed by hand.
var Sprayed = Prior{Drift: 0.02, Reach: 250, Stripe: 0.026, StripeReach: 40, Droop: 0.034, Side: 0.13, Crease: 0.06, Zone: 0.4}

// Factory is the prior of an untouched factory finish: half of Sprayed.
var Factory = Sprayed.times(0.5)

// matern is the Matérn correlation of order 3/2 at distance r for reach l (mm): (1+q) exp(-q)
// with q = sqrt(3) r/l, read from a table, right to a part in a thousand million.
func matern(r, l float64) float64 {
	at := math.Sqrt(3) * maternSteps * r / l
	k := int(at)
	if k >= len(maternTable) {
		return 0
	}
	c, t := &maternTable[k], at-float64(k)
	return c[0] + t*(c[1]+t*(c[2]+t*c[3]))
}

const maternSteps = 64 // a unit of q

// maternTable has for each step of q, to 40, the cubic that joins value and slope at both ends.
var maternTable = func() (table [40 * maternSteps][4]float64) {
	at := func(k int) (value, slope float64) {
		q := float64(k) / maternSteps
		return (1 + q) * math.Exp(-q), -q * math.Exp(-q) / maternSteps
	}
	for k := range table {
		v, s := at(k)
		w, z := at(k + 1)
		table[k] = [4]float64{v, s, 3*(w-v) - 2*s - z, 2*(v-w) + s + z}
	}
	return table
}()

// node is a spot with what the covariance needs of it. Only nodes of a ground's
// raster have a column and a row.
type node struct {
	x, y     float64 // mm
	e        float64 // thinning factor
	u, v     float64 // -1 to 1 across and down the panel
	side     [NumSides]float64
	crease   float64
	zone     int // of another history, from 1; 0 for the panel's own
	col, row int
}

func newNode(s Spot, size Extent) node {
	n := node{x: s.X, y: s.Y, e: Thin.Factor(s.Edge, s.Crease), u: 2*s.X/size.W - 1, v: 2*s.Y/size.H - 1, zone: s.Zone}
	n.crease = math.Exp(-s.Crease / Thin.CreaseReach)
	for k, d := range s.Sides {
		n.side[k] = math.Exp(-d / Thin.EdgeReach)
	}
	return n
}

// unaveraged is the covariance of two nodes without the drift, in units of the squared
// mean film, for a spread of the stripes and their correlation at the two nodes.
func (p Prior) unaveraged(a, b *node, spread, stripe float64) float64 {
	k := spread*spread*stripe + p.Droop*p.Droop*(a.u*b.u+a.v*b.v)
	if a.zone == b.zone && a.zone > 0 {
		k += p.Zone * p.Zone
	}
	k *= a.e * b.e
	own := 0.0
	for i, d := range a.side {
		own += d * b.side[i]
	}
	return k + p.Side*p.Side*own + p.Crease*p.Crease*a.crease*b.crease
}

func apart(a, b *node) float64 {
	dx, dy := a.x-b.x, a.y-b.y
	return math.Sqrt(dx*dx + dy*dy) // mm: nothing to overflow
}

// ErrReadings says that a map was asked for without a reading.
var ErrReadings = errors.New("no readings: put the probe on the panel at least once")

// observed is what the readings of one map share, whatever spreads are supposed.
type observed struct {
	prior Prior
	gauge Gauge
	scale float64 // mean film, µm
	at    []node
	film  []float64 // T
	own   []float64 // variance of each reading, µm²
}

// field is universal kriging at one choice of the prior: readings T = beta e +
// residual, beta flat. With L the Cholesky factor of the readings' covariance, trend and
// residuals are kept as independent numbers of variance 1.
type field struct {
	*observed
	drift, stripe float64 // spreads
	mm            float64 // reach of the drift
	beta          float64
	betaVar       float64
	logREML       float64
	log           float64           // of its weight
	low           blas64.Triangular // L
	e, res        []float64         // L⁻¹ e and L⁻¹ (T - beta e)
}

// unevenness is the spread of drift and stripes together.
func (f *field) unevenness() float64 { return math.Hypot(f.drift, f.stripe) }

var errSamePlace = errors.New("the film map does not resolve these readings: two of them are the same place")

func newObserved(readings []Reading, at []node, g Gauge, prior Prior) *observed {
	o := &observed{prior: prior, gauge: g, at: at}
	for i, r := range readings {
		o.film = append(o.film, r.T)
		o.own = append(o.own, g.noise(r))
		o.scale += r.T / at[i].e / float64(len(readings))
	}
	return o
}

// noise is the variance (µm²) of a reading that is its own: what the gauge is off by as
// a whole is common to all readings of a day, see Map.
func (g Gauge) noise(r Reading) float64 {
	return (g.A*g.A+g.Replace*g.Replace)/float64(max(r.Shots, 1)) + r.Var
}

// missed is the variance (µm²) of a reading that is not quite where it is said
// to be, on stripes of that spread (µm) and reach (mm): Miss times the spread of the slope of a
// Matérn field of order 3/2, which is √3 spread/reach.
func (g Gauge) missed(stripe, reach float64) float64 {
	return 3 * math.Pow(g.Miss*stripe/reach, 2)
}

// factor makes L, L⁻¹ e and L⁻¹ T, the last as res, of readings whose own kernels are k. It
// fails when their covariance is not positive definite, which spots closer than the gauge
// can tell do not cause.
func (f *field) factor(k kernels) error {
	n := len(f.at)
	cov := blas64.Symmetric{Uplo: blas.Lower, N: n, Stride: n, Data: f.covarianceWith(k, nil)}
	for i, own := range f.own {
		cov.Data[i*n+i] += own + f.gauge.missed(f.scale*f.stripe, f.prior.StripeReach)
	}
	var ok bool
	if f.low, ok = lapack64.Potrf(cov); !ok {
		return errSamePlace
	}
	f.e, f.res = make([]float64, n), slices.Clone(f.film)
	for i := range n {
		f.e[i] = f.at[i].e
	}
	for _, v := range [][]float64{f.e, f.res} {
		blas64.Trsv(blas.NoTrans, f.low, blas64.Vector{N: n, Inc: 1, Data: v})
	}
	return nil
}

// newField fits one choice of the prior to the readings, whose own kernels are k. It fails
// as factor does.
func (o *observed) newField(k kernels, drift, stripe, mm float64) (*field, error) {
	n := len(o.at)
	f := &field{observed: o, drift: drift, stripe: stripe, mm: mm}
	if err := f.factor(k); err != nil {
		return nil, err
	}
	logDet, info, cross, quad := 0.0, 0.0, 0.0, 0.0
	for i, e := range f.e {
		logDet += 2 * math.Log(f.low.Data[i*n+i])
		info += e * e
		cross += e * f.res[i]
	}
	f.beta, f.betaVar = cross/info, 1/info
	for i, e := range f.e {
		f.res[i] -= f.beta * e
		quad += f.res[i] * f.res[i]
	}
	f.logREML = -0.5 * (logDet + math.Log(info) + quad)
	return f, nil
}

// kernels are what the covariances of the readings with some nodes are made of, whatever
// the spreads: drifts of spread 1 by their reach, stripes of spread 1, and all the rest;
// µm², readings by nodes, row by row.
type kernels struct {
	nodes         int
	drift         map[float64][]float64
	stripe, other []float64
}

// kernels of the readings with nodes, for some reaches of the drift.
func (o *observed) kernels(to []node, reaches []float64) kernels {
	n, m2 := len(o.at)*len(to), o.scale*o.scale
	alike, off := make([]float64, n), make([]float64, n)
	out := kernels{nodes: len(to), drift: map[float64][]float64{}, other: make([]float64, n)}
	for i := range o.at {
		for j := range to {
			a, b, k := &o.at[i], &to[j], i*len(to)+j
			alike[k] = m2 * a.e * b.e
			off[k] = apart(a, b)
			out.other[k] = m2 * o.prior.unaveraged(a, b, 0, 0)
		}
	}
	drifts := func(mm float64) []float64 {
		out := make([]float64, len(off))
		for i, r := range off {
			out[i] = alike[i] * matern(r, mm)
		}
		return out
	}
	out.stripe = drifts(o.prior.StripeReach)
	for _, mm := range reaches {
		if out.drift[mm] == nil {
			out.drift[mm] = drifts(mm)
		}
	}
	return out
}

// reachesOf lists the reaches of the drift of some fields.
func reachesOf(fields []*field) []float64 {
	out := make([]float64, len(fields))
	for i, f := range fields {
		out[i] = f.mm
	}
	return out
}

// covarianceWith is the covariance (µm²) of the readings with the nodes of kernels as the
// field has it, in the room given where there is enough.
func (f *field) covarianceWith(k kernels, room []float64) []float64 {
	out := slices.Grow(room[:0], len(k.other))[:len(k.other)]
	drift := k.drift[f.mm]
	s2, q2 := f.drift*f.drift, f.stripe*f.stripe
	for i := range out {
		out[i] = s2*drift[i] + q2*k.stripe[i] + k.other[i]
	}
	return out
}

// cross is the whitened cross-covariance of the readings with some nodes: L⁻¹ times
// theirs, readings by nodes, in the room given where there is enough.
func (f *field) cross(k kernels, room []float64) blas64.General {
	out := blas64.General{Rows: len(f.at), Cols: k.nodes, Stride: k.nodes, Data: f.covarianceWith(k, room)}
	blas64.Trsm(blas.Left, blas.NoTrans, 1, f.low, out)
	return out
}
