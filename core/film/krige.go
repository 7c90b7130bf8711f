package film

import (
	"errors"
	"math"
	"sync"

	"gonum.org/v1/gonum/mat"
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

// matern is the Matérn correlation of order 3/2 at distance r for reach l (mm).
func matern(r, l float64) float64 {
	q := math.Sqrt(3) * r / l
	return (1 + q) * math.Exp(-q)
}

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

// steady is the part of the covariance that no grid point changes, in units of
// the squared mean film; stripe is the stripes' correlation of the two nodes.
func (p Prior) steady(a, b *node, stripe float64) float64 {
	k := p.Stripe*p.Stripe*stripe + p.Droop*p.Droop*(a.u*b.u+a.v*b.v)
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

func apart(a, b *node) float64 { return math.Hypot(a.x-b.x, a.y-b.y) }

// ErrReadings says that a map was asked for without a reading.
var ErrReadings = errors.New("no readings: put the probe on the panel at least once")

// frame is what the readings of one map share for one spread of the stripes,
// whatever drift is supposed.
type frame struct {
	prior Prior
	scale float64 // mean film, µm
	at    []node
	low   *mat.TriDense // of the covariance without drift: its Cholesky factor
	det   float64       // log determinant of it
	film  []float64     // T
}

// reach is the covariance of the readings for one reach of the drift, brought
// to diagonal form once, so that every spread s of the drift shares it: with
// B = L L' the covariance without drift and A that of a drift of spread 1,
// L⁻¹ A L⁻ᵀ = Q Λ Q', and (s² A + B)⁻¹ = W' (s² Λ + I)⁻¹ W with W = Q' L⁻¹.
type reach struct {
	*frame
	mm     float64
	turn   *mat.Dense // Q'
	lambda []float64
	e, t   []float64 // W e and W T
}

// field is universal kriging at one choice of the prior: readings T = beta e +
// residual, beta flat.
type field struct {
	*reach
	drift   float64   // s
	gain    []float64 // (s² Λ + I)^-½
	e, res  []float64 // gain W e and gain W (T - beta e)
	beta    float64
	betaVar float64
	logREML float64
	log     float64 // of its weight
}

// unevenness is the spread of drift and stripes together.
func (f *field) unevenness() float64 { return math.Hypot(f.drift, f.prior.Stripe) }

var errSamePlace = errors.New("the film map does not resolve these readings: two of them are the same place")

// newFrame fails when the covariance is not positive definite, which spots
// closer than the gauge can tell do not cause.
func newFrame(readings []Reading, at []node, g Gauge, prior Prior) (*frame, error) {
	n := len(readings)
	f := &frame{prior: prior, at: at}
	for i, r := range readings {
		f.film = append(f.film, r.T)
		f.scale += r.T / at[i].e / float64(n)
	}
	k := mat.NewSymDense(n, nil)
	for i := range n {
		for j := i; j < n; j++ {
			a, b := &f.at[i], &f.at[j]
			c := f.scale * f.scale * prior.steady(a, b, matern(apart(a, b), f.prior.StripeReach))
			if i == j {
				c += g.noise(readings[i], f.scale) + g.missed(f.scale*prior.Stripe, prior.StripeReach)
			}
			k.SetSym(i, j, c)
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(k) {
		return nil, errSamePlace
	}
	f.low = mat.NewTriDense(n, mat.Lower, nil)
	chol.LTo(f.low)
	f.det = chol.LogDet()
	return f, nil
}

// noise is the variance (µm²) of a reading on film of that scale (µm).
func (g Gauge) noise(r Reading, scale float64) float64 {
	return (g.A*g.A+g.Replace*g.Replace)/float64(max(r.Shots, 1)) + g.B*scale*g.B*scale + r.Var
}

// missed is the variance (µm²) of a reading that is not quite where it is said
// to be, on stripes of that spread (µm) and reach (mm): Miss times the spread of the slope of a
// Matérn field of order 3/2, which is √3 spread/reach.
func (g Gauge) missed(stripe, reach float64) float64 {
	return 3 * math.Pow(g.Miss*stripe/reach, 2)
}

// solve replaces b by L⁻¹ b.
func (f *frame) solve(b *mat.Dense) error {
	return b.Solve(f.low, b)
}

// drifts is the covariance of a drift of spread 1 between the readings and
// nodes, in µm².
func (f *frame) drifts(to []node, mm float64) *mat.Dense {
	return f.between(to, func(a, b *node) float64 { return a.e * b.e * matern(apart(a, b), mm) })
}

// rest is the covariance of all but the drift between the readings and nodes:
// that of stripes of spread 1, and the others, both in µm².
func (f *frame) rest(to []node) (stripes, other *mat.Dense) {
	return f.drifts(to, f.prior.StripeReach), f.between(to, func(a, b *node) float64 { return f.prior.steady(a, b, 0) })
}

func (f *frame) between(to []node, of func(a, b *node) float64) *mat.Dense {
	out := mat.NewDense(len(f.at), len(to), nil)
	raw := out.RawMatrix()
	for i := range f.at {
		row := raw.Data[i*raw.Stride:][:len(to)]
		for j := range to {
			row[j] = f.scale * f.scale * of(&f.at[i], &to[j])
		}
	}
	return out
}

func (f *frame) newReach(mm float64) (*reach, error) {
	n := len(f.at)
	a := f.drifts(f.at, mm)
	if err := f.solve(a); err != nil {
		return nil, err
	}
	a = mat.DenseCopyOf(a.T())
	if err := f.solve(a); err != nil {
		return nil, err
	}
	sym := mat.NewSymDense(n, nil)
	for i := range n {
		for j := i; j < n; j++ {
			sym.SetSym(i, j, (a.At(i, j)+a.At(j, i))/2)
		}
	}
	var eigen mat.EigenSym
	if !eigen.Factorize(sym, true) {
		return nil, errSamePlace
	}
	r := &reach{frame: f, mm: mm, lambda: eigen.Values(nil)}
	for i, v := range r.lambda {
		r.lambda[i] = math.Max(v, 0)
	}
	var q mat.Dense
	eigen.VectorsTo(&q)
	r.turn = mat.DenseCopyOf(q.T())
	both := mat.NewDense(n, 2, nil)
	for i := range n {
		both.Set(i, 0, f.at[i].e)
		both.Set(i, 1, f.film[i])
	}
	if err := f.solve(both); err != nil {
		return nil, err
	}
	both.Mul(r.turn, mat.DenseCopyOf(both))
	r.e, r.t = mat.Col(nil, 0, both), mat.Col(nil, 1, both)
	return r, nil
}

// newField fits one spread of the drift to the readings.
func (r *reach) newField(spread float64) *field {
	n := len(r.at)
	out := &field{reach: r, drift: spread, gain: make([]float64, n), e: make([]float64, n), res: make([]float64, n)}
	logDet, info, cross, quad := r.det, 0.0, 0.0, 0.0
	for i, l := range r.lambda {
		grown := 1 + spread*spread*l
		out.gain[i] = 1 / math.Sqrt(grown)
		logDet += math.Log(grown)
		out.e[i] = r.e[i] * out.gain[i]
		info += out.e[i] * out.e[i]
		cross += out.e[i] * r.t[i] * out.gain[i]
	}
	out.beta, out.betaVar = cross/info, 1/info
	for i := range out.res {
		out.res[i] = out.gain[i]*r.t[i] - out.beta*out.e[i]
		quad += out.res[i] * out.res[i]
	}
	out.logREML = -0.5 * (logDet + math.Log(info) + quad)
	return out
}

// link is what prediction at some nodes needs, whatever the spread: for each
// reach the covariance of a drift of spread 1 and of all the rest, both as the
// diagonal form has them (W times n x m).
type link struct {
	to          []node
	drift, rest map[*reach]*mat.Dense
}

func (m *Map) link(to []node) (*link, error) {
	l := &link{to: to, drift: map[*reach]*mat.Dense{}, rest: map[*reach]*mat.Dense{}}
	drifts, rests := map[float64]*mat.Dense{}, map[*frame]*mat.Dense{}
	stripes, other := m.reaches[0].rest(to)
	for _, r := range m.reaches {
		if drifts[r.mm] == nil {
			drifts[r.mm] = r.drifts(to, r.mm)
		}
		if rests[r.frame] == nil {
			rest := mat.NewDense(len(r.at), len(to), nil)
			rest.Scale(r.prior.Stripe*r.prior.Stripe, stripes)
			rest.Add(rest, other)
			if err := r.solve(rest); err != nil {
				return nil, err
			}
			rests[r.frame] = rest
		}
		l.drift[r], l.rest[r] = &mat.Dense{}, &mat.Dense{}
	}
	errs := make([]error, len(m.reaches))
	var wg sync.WaitGroup
	for i, r := range m.reaches {
		drift, rest := l.drift[r], l.rest[r]
		wg.Go(func() {
			d := mat.DenseCopyOf(drifts[r.mm])
			errs[i] = r.solve(d)
			drift.Mul(r.turn, d)
			rest.Mul(r.turn, rests[r.frame])
		})
	}
	wg.Wait()
	return l, errors.Join(errs...)
}

// pull is the covariance of the readings and some nodes of a link as the field
// has it, scaled so that the readings' own is the unit matrix: n x len(at).
func (f *field) pull(l *link, at []int) *mat.Dense {
	out := mat.NewDense(len(f.gain), len(at), nil)
	to, drift, rest := out.RawMatrix(), l.drift[f.reach].RawMatrix(), l.rest[f.reach].RawMatrix()
	for i, g := range f.gain {
		row, d, b := to.Data[i*to.Stride:][:len(at)], drift.Data[i*drift.Stride:], rest.Data[i*rest.Stride:]
		s2 := f.drift * f.drift
		for j, k := range at {
			row[j] = g * (s2*d[k] + b[k])
		}
	}
	return out
}
