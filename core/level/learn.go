// Package level keeps the film ledger of a section while it is worked: what is
// gone, what one pass takes as far as the readings tell, and how many passes
// are left before the clear may fall under its floor.
package level

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/mat"
)

// Spreads of ln(rate/nominal) before anything is read (judgement).
const (
	PersonSpread   = 0.20
	PaintSpread    = 0.20
	AbrasiveSpread = 0.15
	StepSpread     = 0.10
)

// Observation is a measured value (µm, sd SD) of something that the unknowns
// determine: Predict gives its value for a vector of unknowns, all zero at the
// prior mean.
type Observation struct {
	Predict  func(x []float64) float64
	Measured float64
	SD       float64
	On       []int // the unknowns that it depends on; nil for all
}

// Posterior is a Gaussian over the unknowns.
type Posterior struct {
	Mean []float64
	Cov  *mat.SymDense
}

const (
	damping    = 0.7
	iterations = 20
	settled    = 1e-8
	nudge      = 1e-5
	// outlying is from how many standard deviations on an observation counts less.
	outlying = 2.5
)

// weight is how much an observation counts that lies z standard deviations above what is
// expected. Far above, where more film is gone than was thought, it counts by its distance;
// far below, where it promises film, less the further it is off: film does not grow, and no
// single reading opens what the others would not.
func weight(z float64) float64 {
	switch {
	case z > outlying:
		return outlying / z
	case z < -outlying:
		return outlying / z * outlying / z
	}
	return 1
}

// Learn fits unknowns with independent Gaussian priors of mean 0 and the given
// standard deviations to all observations at once: damped Gauss-Newton, the
// iterated extended Kalman update of the whole history. The same history gives
// the same result in any order.
func Learn(sds []float64, obs []Observation) (Posterior, error) {
	n := len(sds)
	prior := Posterior{make([]float64, n), mat.NewSymDense(n, nil)}
	for i, sd := range sds {
		prior.Cov.SetSym(i, i, sd*sd)
	}
	return LearnFrom(prior, obs)
}

// LearnFrom is Learn from a prior that is a Gaussian of its own.
func LearnFrom(prior Posterior, obs []Observation) (Posterior, error) {
	n := len(prior.Mean)
	x := append([]float64(nil), prior.Mean...)
	before := mat.NewSymDense(n, nil)
	var whole mat.Cholesky
	if !whole.Factorize(prior.Cov) {
		return Posterior{}, errors.New("what is known of the cut before contradicts itself")
	}
	if err := whole.InverseTo(before); err != nil {
		return Posterior{}, err
	}
	info := mat.NewSymDense(n, nil)
	for range iterations {
		var step []float64
		var err error
		step, info, err = gaussNewton(prior.Mean, before, obs, x)
		if err != nil {
			return Posterior{}, err
		}
		most := 0.0
		for i := range x {
			x[i] += damping * step[i]
			most = math.Max(most, math.Abs(step[i]))
		}
		if most < settled {
			break
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(info) {
		return Posterior{}, errors.New("the cut rates do not resolve from these readings")
	}
	cov := mat.NewSymDense(n, nil)
	if err := chol.InverseTo(cov); err != nil {
		return Posterior{}, err
	}
	return Posterior{x, cov}, nil
}

// gaussNewton is one step towards the most likely unknowns from x, and the
// information matrix there.
func gaussNewton(mean []float64, before *mat.SymDense, obs []Observation, x []float64) ([]float64, *mat.SymDense, error) {
	n := len(x)
	info, grad := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	info.CopySym(before)
	off := mat.NewVecDense(n, nil)
	for i := range n {
		off.SetVec(i, mean[i]-x[i])
	}
	grad.MulVec(before, off)
	every := make([]int, n)
	for i := range every {
		every[i] = i
	}
	y := append([]float64(nil), x...)
	for _, o := range obs {
		on := o.On
		if on == nil {
			on = every
		}
		h := o.Predict(x)
		j := make([]float64, len(on))
		for k, i := range on {
			y[i] = x[i] + nudge
			j[k] = (o.Predict(y) - h) / nudge
			y[i] = x[i]
		}
		w := weight((o.Measured-h)/o.SD) / (o.SD * o.SD)
		for a, i := range on {
			grad.SetVec(i, grad.AtVec(i)+w*j[a]*(o.Measured-h))
			for b := a; b < len(on); b++ {
				info.SetSym(i, on[b], info.At(i, on[b])+w*j[a]*j[b])
			}
		}
	}
	var chol mat.Cholesky
	if !chol.Factorize(info) {
		return nil, nil, errors.New("the cut rates do not resolve from these readings")
	}
	step := mat.NewVecDense(n, nil)
	if err := chol.SolveVecTo(step, grad); err != nil {
		return nil, nil, err
	}
	return step.RawVector().Data, info, nil
}

func gradient(f func([]float64) float64, x []float64, at float64) []float64 {
	g := make([]float64, len(x))
	y := append([]float64(nil), x...)
	for i := range x {
		y[i] = x[i] + nudge
		g[i] = (f(y) - at) / nudge
		y[i] = x[i]
	}
	return g
}

// DifferenceNoise is the standard deviation in µm of the mean difference of two
// readings of the same spots: repeatability a and re-placement (µm), shots a
// spot, spots.
func DifferenceNoise(a, replace float64, shots, spots int) float64 {
	return math.Sqrt(2 * (a*a + replace*replace) / float64(shots*spots))
}
