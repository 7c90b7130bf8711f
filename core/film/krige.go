package film

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/mat"
)

// Reading is one total film reading T (µm) at a spot: the mean of Shots shots.
// Var is further variance (µm²) that it carries, 0 for a plain reading.
type Reading struct {
	Spot
	T     float64
	Shots int
	Var   float64
}

// Prior holds the spreads that the map's covariance is made of, as shares of
// the mean film: broad drift over Reach mm, stripes of the gun's overlap, droop
// across the panel, and sides that each thin in their own way (judgement).
type Prior struct {
	Drift, Reach, Stripe, Droop, Side float64
}

// Sprayed is the prior of a panel sprayed by hand.
var Sprayed = Prior{Drift: 0.05, Reach: 250, Stripe: 0.04, Droop: 0.06, Side: 0.12}

// Factory is the prior of an untouched factory finish: half of Sprayed.
var Factory = Prior{Drift: 0.025, Reach: 250, Stripe: 0.02, Droop: 0.03, Side: 0.06}

const stripeReach = 60 // mm

// matern is the Matérn correlation of order 3/2 at distance r for reach l (mm).
func matern(r, l float64) float64 {
	q := math.Sqrt(3) * r / l
	return (1 + q) * math.Exp(-q)
}

// node is a spot with what the covariance needs of it.
type node struct {
	x, y float64 // mm
	e    float64 // thinning factor
	u, v float64 // -1 to 1 across and down the panel
	side [NumSides]float64
}

func nodes(spots []Spot, size Extent) []node {
	e := factors(spots)
	out := make([]node, len(spots))
	for i, s := range spots {
		out[i] = node{x: s.X, y: s.Y, e: e[i], u: 2*s.X/size.W - 1, v: 2*s.Y/size.H - 1}
		for k, d := range s.Sides {
			out[i].side[k] = math.Exp(-d / Thin.EdgeReach)
		}
	}
	return out
}

// drift is the part of the covariance that the spread of the drift scales, and
// steady all the rest, both in units of the squared mean film.
func drift(a, b node, reach float64) float64 {
	return a.e * b.e * matern(math.Hypot(a.x-b.x, a.y-b.y), reach)
}

func (p Prior) steady(a, b node) float64 {
	k := a.e * b.e * (p.Stripe*p.Stripe*matern(math.Hypot(a.x-b.x, a.y-b.y), stripeReach) +
		p.Droop*p.Droop*(a.u*b.u+a.v*b.v))
	own := 0.0
	for i, d := range a.side {
		own += d * b.side[i]
	}
	return k + p.Side*p.Side*own
}

func (p Prior) covariance(a, b node) float64 {
	return p.Drift*p.Drift*drift(a, b, p.Reach) + p.steady(a, b)
}

// kernel holds the covariance of two groups of nodes in parts that fields of
// different spread and reach share. Not for use by two goroutines at once.
type kernel struct {
	a, b   []node
	fixed  *mat.Dense
	drifts map[float64]*mat.Dense // by reach
}

func newKernel(a, b []node, p Prior) *kernel {
	k := &kernel{a: a, b: b, drifts: map[float64]*mat.Dense{}}
	k.fixed = k.fill(p.steady)
	return k
}

func (k *kernel) fill(of func(a, b node) float64) *mat.Dense {
	out := mat.NewDense(len(k.a), len(k.b), nil)
	raw := out.RawMatrix()
	for i, a := range k.a {
		row := raw.Data[i*raw.Stride : i*raw.Stride+len(k.b)]
		for j, b := range k.b {
			row[j] = of(a, b)
		}
	}
	return out
}

// at is the covariance for a prior whose steady part is the kernel's own, times
// scale squared.
func (k *kernel) at(p Prior, scale float64) *mat.Dense {
	d := k.drifts[p.Reach]
	if d == nil {
		d = k.fill(func(a, b node) float64 { return drift(a, b, p.Reach) })
		k.drifts[p.Reach] = d
	}
	out := mat.NewDense(len(k.a), len(k.b), nil)
	out.Scale(p.Drift*p.Drift, d)
	out.Add(out, k.fixed)
	out.Scale(scale*scale, out)
	return out
}

// ErrReadings says that a map was asked for without a reading.
var ErrReadings = errors.New("no readings: put the probe on the panel at least once")

// field is universal kriging at one choice of the prior: readings T = beta e +
// residual, beta flat.
type field struct {
	prior   Prior
	scale   float64 // mean film, µm
	at      []node
	chol    mat.Cholesky
	kinvE   *mat.VecDense // K⁻¹ e
	kinvRes *mat.VecDense // K⁻¹ (T - beta e)
	beta    float64
	betaVar float64
	logREML float64
}

func factors(at []Spot) []float64 {
	e := make([]float64, len(at))
	for i, s := range at {
		e[i] = Thin.Factor(s.Edge, s.Crease)
	}
	return e
}

// newField fits one prior to readings. It fails when the covariance is not
// positive definite, which spots closer than the gauge can tell do not cause.
func newField(readings []Reading, g Gauge, prior Prior, size Extent) (*field, error) {
	n := len(readings)
	spots := make([]Spot, n)
	for i, r := range readings {
		spots[i] = r.Spot
	}
	f := &field{prior: prior, at: nodes(spots, size)}
	for i, r := range readings {
		f.scale += r.T / f.at[i].e / float64(n)
	}
	k := mat.NewSymDense(n, nil)
	for i := range n {
		for j := i; j < n; j++ {
			c := f.scale * f.scale * prior.covariance(f.at[i], f.at[j])
			if i == j {
				shots := float64(max(readings[i].Shots, 1))
				c += (g.A*g.A+g.Replace*g.Replace)/shots + g.B*f.scale*g.B*f.scale + readings[i].Var
			}
			k.SetSym(i, j, c)
		}
	}
	if !f.chol.Factorize(k) {
		return nil, errors.New("the film map does not resolve these readings: two of them are the same place")
	}
	e := mat.NewVecDense(n, nil)
	for i := range n {
		e.SetVec(i, f.at[i].e)
	}
	f.kinvE = mat.NewVecDense(n, nil)
	if err := f.chol.SolveVecTo(f.kinvE, e); err != nil {
		return nil, err
	}
	t := mat.NewVecDense(n, nil)
	for i, r := range readings {
		t.SetVec(i, r.T)
	}
	info := mat.Dot(e, f.kinvE)
	f.beta, f.betaVar = mat.Dot(t, f.kinvE)/info, 1/info
	res := mat.NewVecDense(n, nil)
	res.AddScaledVec(t, -f.beta, e)
	f.kinvRes = mat.NewVecDense(n, nil)
	if err := f.chol.SolveVecTo(f.kinvRes, res); err != nil {
		return nil, err
	}
	f.logREML = -0.5 * (f.chol.LogDet() + math.Log(info) + mat.Dot(res, f.kinvRes))
	return f, nil
}

// weights holds, for a set of nodes, what prediction needs of each.
type weights struct {
	to    []node
	cov   *mat.Dense    // n x m, covariance of readings and nodes
	solve *mat.Dense    // n x m, K⁻¹ cov
	trend *mat.VecDense // m, e - cov' K⁻¹ e
}

// weigh prepares prediction at the nodes that k joins to the readings.
func (f *field) weigh(k *kernel) (*weights, error) {
	m := len(k.b)
	w := &weights{to: k.b, cov: k.at(f.prior, f.scale), solve: mat.NewDense(len(f.at), m, nil), trend: mat.NewVecDense(m, nil)}
	if err := f.chol.SolveTo(w.solve, w.cov); err != nil {
		return nil, err
	}
	w.trend.MulVec(w.cov.T(), f.kinvE)
	for j, n := range w.to {
		w.trend.SetVec(j, n.e-w.trend.AtVec(j))
	}
	return w, nil
}

// predict gives mean and variance of the film at each node, in µm and µm².
func (f *field) predict(w *weights) (mean, variance []float64) {
	m := len(w.to)
	mean, variance = make([]float64, m), make([]float64, m)
	var res mat.VecDense
	res.MulVec(w.cov.T(), f.kinvRes)
	cov, solve := w.cov.RawMatrix(), w.solve.RawMatrix()
	for j, n := range w.to {
		mean[j] = f.beta*n.e + res.AtVec(j)
		v := f.scale * f.scale * f.prior.covariance(n, n)
		for i := range f.at {
			v -= cov.Data[i*cov.Stride+j] * solve.Data[i*solve.Stride+j]
		}
		t := w.trend.AtVec(j)
		variance[j] = math.Max(v+t*t*f.betaVar, 0)
	}
	return mean, variance
}

// joint gives the covariance (µm²) of the film between all nodes; own joins the
// nodes to themselves.
func (f *field) joint(w *weights, own *kernel) *mat.SymDense {
	m := len(w.to)
	var explained mat.Dense
	explained.Mul(w.cov.T(), w.solve)
	prior := own.at(f.prior, f.scale)
	k := mat.NewSymDense(m, nil)
	for i := range m {
		for j := i; j < m; j++ {
			k.SetSym(i, j, prior.At(i, j)-explained.At(i, j)+w.trend.AtVec(i)*w.trend.AtVec(j)*f.betaVar)
		}
	}
	return k
}
