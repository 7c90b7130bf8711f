package film

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

var normal = distuv.UnitNormal

// Finish is what a panel carries.
type Finish string

// The finishes.
const (
	FactoryFinish Finish = "factory"
	Refinished    Finish = "refinished"         // clear over base, by us or known
	RefinishedOld Finish = "refinished_unknown" // by somebody, nobody knows how
	SingleStaged  Finish = "single_stage"
)

// Policy is the clear that must stay and what may be spent above it: Floor
// (µm), and for factory finishes a cap of CapFilm (µm) or CapShare of the clear,
// whichever is less. A CapFilm of 0 is no cap. Risk is the accepted chance that
// any place falls below the floor.
type Policy struct {
	Floor, CapFilm, CapShare, Risk float64
}

// DefaultRisk is the accepted chance of going below the floor anywhere.
const DefaultRisk = 0.05

// PolicyFor is the usual policy of a finish (judgement).
func PolicyFor(f Finish) Policy {
	if f == FactoryFinish {
		return Policy{Floor: 25, CapFilm: 8, CapShare: 0.20, Risk: DefaultRisk}
	}
	return Policy{Floor: 40, Risk: DefaultRisk}
}

// Cap is the most that may be spent of a clear of mean µm, math.Inf(1) for no
// cap.
func (p Policy) Cap(mean float64) float64 {
	if p.CapFilm == 0 {
		return math.Inf(1)
	}
	return math.Min(p.CapFilm, p.CapShare*mean)
}

// Least is the clear at the thinnest place of a group of spots, as a mixture of
// normals: one for each joint sample of the map, all with the panel's doubt of
// the clear.
type Least struct {
	mu []float64
	sd float64
}

// LeastClear makes the clear at the thinnest place from the sampled minima of
// the film (µm), the clear's share of it, and the doubt of the panel's clear.
func LeastClear(minima []float64, share, sd float64) Least {
	l := Least{mu: make([]float64, len(minima)), sd: sd}
	for i, m := range minima {
		l.mu[i] = share * m
	}
	return l
}

// NormalLeast is a Least that is one normal distribution.
func NormalLeast(e Estimate) Least { return Least{mu: []float64{e.Mean}, sd: e.SD} }

// Estimate is its mean and standard deviation.
func (l Least) Estimate() Estimate {
	n := float64(len(l.mu))
	m, q := 0.0, 0.0
	for _, v := range l.mu {
		m += v / n
	}
	for _, v := range l.mu {
		q += (v - m) * (v - m) / n
	}
	return Estimate{m, math.Sqrt(q + l.sd*l.sd)}
}

// Below is the chance that the least clear is under level µm.
func (l Least) Below(level float64) float64 {
	p := 0.0
	for _, v := range l.mu {
		if l.sd == 0 {
			if v < level {
				p++
			}
			continue
		}
		p += normal.CDF((level - v) / l.sd)
	}
	return p / float64(len(l.mu))
}

// Quantile is the clear (µm, to 0.0001) that the least clear is below with
// chance p.
func (l Least) Quantile(p float64) float64 {
	e := l.Estimate()
	lo, hi := e.Mean-12*e.SD-1, e.Mean+12*e.SD+1
	for hi-lo > 1e-4 {
		mid := (lo + hi) / 2
		if l.Below(mid) < p {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}

// Headroom is what may be spent of a clear (µm): its lower bound at the
// policy's risk, less the floor, and no more than the cap. Below zero it says
// how much is missing.
func (p Policy) Headroom(l Least) float64 {
	return math.Min(l.Quantile(p.Risk)-p.Floor, p.Cap(l.Estimate().Mean))
}

// State says whether a planned spend fits a section.
type State string

// The states: the spend fits; it fits only with checks between passes; it does
// not fit.
const (
	Open  State = "open"
	Tight State = "tight"
	Shut  State = "shut"
)

// TightRisk is the chance of falling below the floor up to which a spend may be
// made with readings between the passes.
const TightRisk = 0.15

// The gates on the total film, µm.
const (
	GateShut = 75.0 // nothing but a fine polish
	GateAsk  = 90.0 // only when somebody answers for it
)

// FinePolish is the most that a fine polish takes, µm.
const FinePolish = 0.5

// Reason is why a section has its state, as a code with the values that the
// sentence needs.
type Reason string

// The reasons.
const (
	WhyFits     Reason = "fits"      // the spend is inside the headroom
	WhyChecks   Reason = "checks"    // it is inside only with checks
	WhyThin     Reason = "thin"      // the headroom is less than the spend
	WhyBelow    Reason = "below"     // the clear may be under the floor now
	WhyGateShut Reason = "gate_shut" // total at or under 75 µm
	WhyGateAsk  Reason = "gate_ask"  // total under 90 µm
)

// Judge gives the state of an unworked section for a planned spend (µm of crest
// film) and its reason. total is the section's mean film.
func (p Policy) Judge(l Least, total, spend float64) (State, Reason) {
	return p.Verdict(Outlook{
		Total: total, Spend: spend,
		Below: l.Below(p.Floor), Risk: l.Below(p.Floor + spend),
		Over: spend > p.Cap(l.Estimate().Mean),
	})
}

// Outlook is what a verdict on a section rests on: its Total film and the Spend
// (µm), the chance that a place is under the floor now (Below) and after the
// spend (Risk), and whether the spend is Over the policy's cap.
type Outlook struct {
	Total, Spend, Below, Risk float64
	Over                      bool
}

// Verdict gives the state and its reason. Where the gates or the floor forbid
// sanding, a spend of a fine polish is still weighed by its risk.
func (p Policy) Verdict(o Outlook) (State, Reason) {
	switch {
	case o.Total <= GateShut && o.Spend > FinePolish:
		return Shut, WhyGateShut
	case o.Below > p.Risk && o.Spend > FinePolish:
		return Shut, WhyBelow
	case o.Over || o.Risk > TightRisk:
		return Shut, WhyThin
	case o.Total < GateAsk:
		return Tight, WhyGateAsk
	case o.Risk > p.Risk:
		return Tight, WhyChecks
	default:
		return Open, WhyFits
	}
}
