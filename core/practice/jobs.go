package practice

import (
	"math"
	"math/rand/v2"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
)

// Verdicts counts how the verdict on jobs as they come fares against a truth of its own:
// of Jobs so many Can be done without ending under the floor or going through, and Let
// are open or tight of those; Allowed are open or tight of all, Through of them go through. Said is the
// mean chance of ending under the floor that was told of the allowed jobs that the floor binds (Bound), and
// Under how many of those do.
type Verdicts struct {
	Jobs, Can, Let, Allowed, Through, Bound, Under int
	Said                                           float64
}

// Mix is how often each kind of job comes (judgement).
var Mix = map[JobKind]float64{JobRefinish: 0.6, JobFactory: 0.3, JobSingle: 0.1}

// JobKind is a kind of job.
type JobKind string

// The kinds.
const (
	JobRefinish JobKind = "refinished"
	JobFactory  JobKind = "factory"
	JobSingle   JobKind = "single stage"
)

// JobKinds lists them.
var JobKinds = []JobKind{JobRefinish, JobFactory, JobSingle}

// job is one panel with what is told of it and what is true.
type job struct {
	told        film.History
	total       float64 // as the gauge reads it, µm
	spend       float64 // of the mildest way, µm
	spots       bool
	clear, take float64 // true clear far from edges and film that goes, µm
	part, thin  float64 // true shares of the clear at the thin end and at the thinnest place
}

// How jobs come (judgement): other shops' coats differ by 13 %, told coats are wrong in
// 5 %, nobody knows the history of 40 %, a fifth of factory finishes were polished before
// and nobody says so.
const (
	shopsDiffer  = 0.13
	panelsDiffer = 0.12
	toldWrong    = 0.05
	untold       = 0.40
	polished     = 0.20
)

// drawJob draws a job of a kind.
func drawJob(kind JobKind, rng *rand.Rand) job {
	j := job{part: 0.95 + 0.02*rng.NormFloat64(), thin: 0.90 + 0.03*rng.NormFloat64()}
	car := 115 + 12*rng.NormFloat64()
	switch kind {
	case JobFactory:
		total := 115 + 14*rng.NormFloat64()
		j.clear = total * (0.42 + 0.06*rng.NormFloat64())
		if rng.Float64() < polished {
			gone := math.Abs(3 + 2*rng.NormFloat64())
			j.clear, total = j.clear-gone, total-gone
		}
		j.told, j.total = film.History{Finish: film.FactoryFinish}, total
	case JobSingle:
		total := 130 + 25*rng.NormFloat64()
		j.clear = total * (0.65 + 0.09*rng.NormFloat64())
		j.told, j.total = film.History{Finish: film.SingleStaged}, total
	default:
		coats := 1
		for x := rng.Float64() - 0.03; x > 0 && coats < 4; coats++ {
			x -= []float64{0.50, 0.36, 0.11}[coats-1]
		}
		j.clear = float64(coats) * clearcoat.UsualCoat * math.Exp(shopsDiffer*rng.NormFloat64()+panelsDiffer*rng.NormFloat64())
		under, lower := clearcoat.UnderNew, 80+18*rng.NormFloat64()
		if rng.Float64() < 0.6 {
			under, lower = clearcoat.UnderOver, car+10+8*rng.NormFloat64()
			if rng.Float64() < 0.5 {
				lower = car + 55 + 20*rng.NormFloat64()
			}
		}
		j.total = j.clear + math.Max(lower, 20)
		j.told = film.History{Finish: film.RefinishedOld}
		if rng.Float64() >= untold {
			if rng.Float64() < toldWrong {
				coats = max(coats+1-2*rng.IntN(2), 1)
			}
			j.told = film.History{Finish: film.Refinished, Coats: coats}
			if rng.Float64() < 0.5 {
				j.told.Under = under
			}
		}
		if rng.Float64() < 0.5 {
			j.told.Car = car + rng.NormFloat64()
		}
	}
	j.clear = math.Max(j.clear, 1)
	j.total *= 1 + 0.01*rng.NormFloat64()
	switch x := rng.Float64(); {
	case x < 0.2:
		j.spend = 0.4
	case x < 0.4:
		j.spend, j.spots = 2.2, true
	case kind == JobFactory:
		j.spend = 2 + 3*rng.Float64()
	default:
		j.spend = 3 + 6*rng.Float64()
	}
	j.take = math.Max(j.spend*(1+0.2*rng.NormFloat64())+0.7*rng.NormFloat64(), 0)
	return j
}

// JudgeJobs draws so many jobs of a kind and holds the verdict on each against its truth.
func JudgeJobs(kind JobKind, jobs int, seed uint64) Verdicts {
	rng := rand.New(rand.NewPCG(seed, 0x70b5))
	out := Verdicts{Jobs: jobs}
	for range jobs {
		j := drawJob(kind, rng)
		p := film.PolicyFor(j.told.Finish)
		v := p.Judge(film.LeastOf(j.told.Dist(film.Estimate{Mean: j.total}), []float64{0.95}, []float64{0.90}), j.total, film.SpendUnmapped(j.spend), j.spots)
		binds := !j.spots && j.spend > film.FinePolish
		through := j.thin*j.clear-j.take < film.WayThrough
		under := j.part*j.clear-j.take < p.Floor
		allowed := v.State != film.Shut
		if can := !through && !(binds && under) && j.total > film.GateShut && j.spend <= p.Cap(j.clear); can {
			out.Can++
			if allowed {
				out.Let++
			}
		}
		if !allowed {
			continue
		}
		out.Allowed++
		if through {
			out.Through++
		}
		if binds {
			out.Bound++
			out.Said += v.Under
			if under {
				out.Under++
			}
		}
	}
	if out.Bound > 0 {
		out.Said /= float64(out.Bound)
	}
	return out
}
