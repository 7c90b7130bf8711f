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

// Risk is the chance that more than a twentieth of an area has a clear under level (µm)
// once loss(z) µm are taken off it, z being how far the cut is from the expected in
// standard deviations: P = E_z P(clear < level + loss(z)).
func Risk(clear film.Least, level float64, loss func(z float64) float64) float64 {
	p := 0.0
	for i, z := range slice {
		if share[i] > faintShare {
			p += share[i] * clear.Below(level+loss(z))
		}
	}
	return p
}

// faintShare is the weight of a node that changes no chance anybody is told.
const faintShare = 1e-5

// through is the chance that the clear is gone through anywhere once loss(z) is taken.
func through(clear film.Least, loss func(z float64) float64) float64 {
	taken := make([]film.Taken, 0, nodes)
	for i, z := range slice {
		if share[i] > faintShare {
			um := loss(z)
			taken = append(taken, film.Taken{Chance: share[i], Film: um, More: film.WorstPlace * film.Unevenness * um})
		}
	}
	return clear.Through(taken...)
}

// mostPasses bounds what is granted at a time.
const mostPasses = 99

// PassesLeft is the largest number of passes for which risk(n), which rises
// with n, stays within limit; 0 where not even one does.
func PassesLeft(limit float64, risk func(n int) float64) int {
	return most(func(n int) bool { return risk(n) <= limit })
}

// most is the largest number of passes that is allowed, where fewer are too.
func most(allowed func(n int) bool) int {
	lo, hi := 0, 1
	for hi <= mostPasses && allowed(hi) {
		lo, hi = hi, 2*hi
	}
	if lo == 0 {
		return 0
	}
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; allowed(mid) {
			lo = mid
		} else {
			hi = mid
		}
	}
	return min(lo, mostPasses)
}

// Where a reading is worth its time (judgement): a first stretch of a step, in passes, and
// the doubt (µm) of the film that is about to go.
const (
	firstStretch = 5
	doubtFirst   = 1.5 // of a step that was not read on this panel
	doubtLater   = 2.5
	clearPart    = 0.25 // of the doubt of the clear
	fewPasses    = 4    // of a pad, where the doubt of what they took would eat what is free
)

// ReadAfter is after how many of n passes a section should be read again; since is how
// many of the step came after the last reading, and unread says that the step was not read
// on this panel. takes is the film of all of these, made and to come, with its doubt, clear
// the doubt of the clear (µm). Where a reading would tell nothing that matters it is n.
func ReadAfter(n, since int, unread bool, takes film.Estimate, clear float64) int {
	half := int(math.Ceil(float64(n+since) / 2))
	switch {
	case unread && takes.SD > doubtFirst:
		return max(min(half, firstStretch)-since, 0)
	case takes.SD > math.Max(doubtLater, clearPart*clear):
		return max(half-since, 0)
	case unread && n+since > firstStretch:
		return max(firstStretch-since, 0)
	}
	return n
}
