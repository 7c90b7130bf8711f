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

// covariance between two spots, in units of the squared mean film.
func (p Prior) covariance(a, b Spot, ea, eb float64, size Extent) float64 {
	r := math.Hypot(a.X-b.X, a.Y-b.Y)
	u := func(s Spot) float64 { return 2*s.X/size.W - 1 }
	v := func(s Spot) float64 { return 2*s.Y/size.H - 1 }
	k := ea * eb * (p.Drift*p.Drift*matern(r, p.Reach) + p.Stripe*p.Stripe*matern(r, stripeReach) +
		p.Droop*p.Droop*(u(a)*u(b)+v(a)*v(b)))
	own := 0.0
	for i := range a.Sides {
		own += math.Exp(-(a.Sides[i] + b.Sides[i]) / Thin.EdgeReach)
	}
	return k + p.Side*p.Side*own
}

// ErrReadings says that a map was asked for without a reading.
var ErrReadings = errors.New("no readings: put the probe on the panel at least once")

// field is universal kriging at one choice of the prior: readings T = beta e +
// residual, beta flat.
type field struct {
	prior    Prior
	scale    float64 // mean film, µm
	size     Extent
	at       []Spot
	e        []float64
	chol     mat.Cholesky
	kinvE    *mat.VecDense // K⁻¹ e
	kinvRes  *mat.VecDense // K⁻¹ (T - beta e)
	beta     float64
	betaVar  float64
	logREML  float64
	residual float64
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
	f := &field{prior: prior, size: size, at: make([]Spot, n)}
	for i, r := range readings {
		f.at[i] = r.Spot
	}
	f.e = factors(f.at)
	for i, r := range readings {
		f.scale += r.T / f.e[i] / float64(n)
	}
	k := mat.NewSymDense(n, nil)
	for i := range n {
		for j := i; j < n; j++ {
			c := f.scale * f.scale * prior.covariance(f.at[i], f.at[j], f.e[i], f.e[j], size)
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
	e := mat.NewVecDense(n, f.e)
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

// weights holds, for a set of spots, what prediction needs of each.
type weights struct {
	spots []Spot
	e     []float64
	cov   *mat.Dense    // n x m, covariance of readings and spots
	solve *mat.Dense    // n x m, K⁻¹ cov
	trend *mat.VecDense // m, e - cov' K⁻¹ e
}

func (f *field) weigh(spots []Spot) (*weights, error) {
	n, m := len(f.at), len(spots)
	w := &weights{spots: spots, e: factors(spots), cov: mat.NewDense(n, m, nil), solve: mat.NewDense(n, m, nil)}
	for i := range n {
		for j := range m {
			w.cov.Set(i, j, f.scale*f.scale*f.prior.covariance(f.at[i], spots[j], f.e[i], w.e[j], f.size))
		}
	}
	if err := f.chol.SolveTo(w.solve, w.cov); err != nil {
		return nil, err
	}
	w.trend = mat.NewVecDense(m, nil)
	w.trend.MulVec(w.cov.T(), f.kinvE)
	for j := range m {
		w.trend.SetVec(j, w.e[j]-w.trend.AtVec(j))
	}
	return w, nil
}

// predict gives mean and variance of the film at each spot, in µm and µm².
func (f *field) predict(w *weights) (mean, variance []float64) {
	m := len(w.spots)
	mean, variance = make([]float64, m), make([]float64, m)
	for j := range m {
		mean[j] = f.beta*w.e[j] + mat.Dot(w.cov.ColView(j), f.kinvRes)
		own := f.scale * f.scale * f.prior.covariance(w.spots[j], w.spots[j], w.e[j], w.e[j], f.size)
		t := w.trend.AtVec(j)
		variance[j] = math.Max(own-mat.Dot(w.cov.ColView(j), w.solve.ColView(j))+t*t*f.betaVar, 0)
	}
	return mean, variance
}

// joint gives the covariance (µm²) of the film between all spots.
func (f *field) joint(w *weights) *mat.SymDense {
	m := len(w.spots)
	var explained mat.Dense
	explained.Mul(w.cov.T(), w.solve)
	k := mat.NewSymDense(m, nil)
	for i := range m {
		for j := i; j < m; j++ {
			c := f.scale * f.scale * f.prior.covariance(w.spots[i], w.spots[j], w.e[i], w.e[j], f.size)
			k.SetSym(i, j, c-explained.At(i, j)+w.trend.AtVec(i)*w.trend.AtVec(j)*f.betaVar)
		}
	}
	return k
}
