package level

import (
	"math"

	"gonum.org/v1/gonum/integrate/quad"

	"waxplanus/core/film"
)

// Nodes of the spread of the cut rate: Gauss-Hermite over a standard normal.
const nodes = 21

var slice, share = func() (z, w [nodes]float64) {
	quad.Hermite{}.FixedLocations(z[:], w[:], math.Inf(-1), math.Inf(1))
	for i := range z {
		w[i] /= math.Sqrt(math.Pi) // the weight is exp(-x²) and z = √2 x
		z[i] *= math.Sqrt2
	}
	return z, w
}()

// Risk is the chance that a clear falls below level (µm) when loss(z) µm are
// taken off it, z being how far the cut is from the expected in standard
// deviations: P = E_z Φ((level + loss(z) - µ)/s), averaged over the parts of
// the clear.
func Risk(clear film.Least, level float64, loss func(z float64) float64) float64 {
	p := 0.0
	for i, z := range slice {
		p += share[i] * clear.Below(level+loss(z))
	}
	return p
}

// mostPasses bounds what is granted at a time.
const mostPasses = 99

// PassesLeft is the largest number of passes for which risk(n), which rises
// with n, stays within limit; 0 where not even one does.
func PassesLeft(limit float64, risk func(n int) float64) int {
	lo, hi := 0, 1
	for hi <= mostPasses && risk(hi) <= limit {
		lo, hi = hi, 2*hi
	}
	if lo == 0 {
		return 0
	}
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; risk(mid) <= limit {
			lo = mid
		} else {
			hi = mid
		}
	}
	return min(lo, mostPasses)
}

// ReadAfter is after how many of the passes granted the section should be read
// again: half of them rounded up, five at most.
func ReadAfter(granted int) int {
	return min(int(math.Ceil(float64(granted)/2)), 5)
}
