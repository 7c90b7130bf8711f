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

// Policy is the clear that should stay and what may be spent above it: Floor (µm), and
// for factory finishes a cap of CapFilm (µm) or CapShare of the clear, whichever is
// less; a CapFilm of 0 is no cap. Risk is the chance of going under the floor up to which
// a spend is open, Tight that up to which it is made with readings between the passes
// and the owner told. Unlike says that what was said of it and its film do not agree, so that
// nothing is open.
type Policy struct {
	Floor, CapFilm, CapShare, Risk, Tight float64
	Unlike                                bool
}

// The accepted chances, and the way through the clear (judgement).
const (
	DefaultRisk  = 1.0 / 20
	DefaultTight = 1.0 / 3
	// WayThrough is the clear (µm) under which paint counts as gone through, and
	// ThroughRisk the chance of it that nobody may take.
	WayThrough  = 10.0
	ThroughRisk = 1.0 / 500
	// LeastFloor is the lowest floor that an owner can agree to, µm: below it the next polish
	// may go through.
	LeastFloor = 15.0
)

// PolicyFor is the usual policy of a finish (judgement).
func PolicyFor(f Finish) Policy {
	if f == FactoryFinish {
		return Policy{Floor: 25, CapFilm: 8, CapShare: 0.20, Risk: DefaultRisk, Tight: DefaultTight}
	}
	return Policy{Floor: 40, Risk: DefaultRisk, Tight: DefaultTight}
}

// rungs are the chances of going under the floor that a plan may be accepted with.
var rungs = [...]float64{1.0 / 20, 1.0 / 10, 1.0 / 5, 1.0 / 3}

// Accepting is the policy of a plan that was accepted with that chance of going under the
// floor: its risk is the least rung that holds it, and no more than is tight.
func (p Policy) Accepting(under float64) Policy {
	for _, r := range rungs {
		if p.Risk = math.Min(r, p.Tight); under <= r {
			break
		}
	}
	return p
}

// Next is the rung above the accepted chance, which a section whose work has begun may
// go up to; no more than is tight.
func (p Policy) Next() float64 {
	for _, r := range rungs {
		if r > p.Risk+1e-9 {
			return math.Min(r, p.Tight)
		}
	}
	return p.Tight
}

// Spend is film (µm) that a plan takes, with its doubt. Uneven is how differently places
// lose it, as a logarithm.
type Spend struct {
	Estimate
	Uneven float64
}

// SpendDoubt is a spend before any of it was read: its film may be off by ± 1 µm and a
// quarter of it.
func SpendDoubt(um float64) Spend { return Spend{Estimate{um, math.Hypot(1, 0.25*um)}, Unevenness} }

// SpendUnmapped is SpendDoubt on a panel nobody has mapped, whose thin places are assumed
// together with how unevenly they are cut.
func SpendUnmapped(um float64) Spend { return Spend{Estimate: SpendDoubt(um).Estimate} }

// Unevenness is how differently a section's places are cut by the same passes, as a
// logarithm (judgement). ThinPart and WorstPlace are how many times that the place has been
// cut more than usual than which a twentieth of the area ends thinner, and that which ends
// thinnest; waxplanus bench level was the measure.
const (
	Unevenness = 0.12
	ThinPart   = 0.5
	WorstPlace = 2.0
)

// Cap is the most that may be spent of a clear of mean µm, math.Inf(1) for no
// cap.
func (p Policy) Cap(mean float64) float64 {
	if p.CapFilm == 0 {
		return math.Inf(1)
	}
	return math.Min(p.CapFilm, p.CapShare*mean)
}

// Headroom is what may be spent of a clear (µm) with no more than the policy's risk under
// the floor, and no more than the cap or the way through allow. Below zero it says how
// much is missing.
func (p Policy) Headroom(l Least) float64 { return p.room(l, p.Risk) }

// TightRoom is the headroom with the chance at which a spend is still tight.
func (p Policy) TightRoom(l Least) float64 { return p.room(l, p.Tight) }

// SpotRoom is what may go at spots, where the floor does not bind, µm.
func (p Policy) SpotRoom(l Least) float64 {
	return math.Min(l.beforeThrough(), p.Cap(l.Estimate().Mean))
}

// Rooms are the largest spends (µm, to 0.02, with the doubt of a spend) that are judged open,
// and open or tight, under a section's mean film of total µm. Below zero they say how much is
// missing.
func (p Policy) Rooms(l Least, total float64, spots bool) (open, most float64) {
	through := largest(p.SpotRoom(l), func(um float64) bool { return l.Through(SpendDoubt(um).taken()...) <= ThroughRisk })
	open, most = through, through
	if !spots {
		open = math.Min(open, largest(p.Headroom(l), func(um float64) bool { return p.under(l, SpendDoubt(um)) <= p.Risk }))
		most = math.Min(most, largest(p.TightRoom(l), func(um float64) bool { return p.under(l, SpendDoubt(um)) <= p.Tight }))
	}
	if total <= GateShut {
		most = math.Min(most, FinePolish)
	}
	if most = math.Max(most, math.Min(FinePolish, through)); total < GateAsk {
		open = math.Min(open, 0)
	}
	return math.Min(open, most), most
}

// largest is the largest of the values from 0 to most that is allowed, where smaller ones
// are too; most itself where it is below 0, and 0 where not even that is allowed.
func largest(most float64, allowed func(um float64) bool) float64 {
	const fine = 0.02
	if most <= 0 || allowed(most) {
		return most
	}
	lo, hi := 0.0, most
	for hi-lo > fine {
		if mid := (lo + hi) / 2; allowed(mid) {
			lo = mid
		} else {
			hi = mid
		}
	}
	return lo
}

// taken are the films that a spend may take.
func (s Spend) taken() []Taken {
	films := s.spread()
	out := make([]Taken, len(films))
	for i, film := range films {
		out[i] = Taken{1 / float64(len(films)), film, WorstPlace * s.Uneven * film}
	}
	return out
}

// under is the chance of ending under the floor after a spend.
func (p Policy) under(l Least, s Spend) float64 {
	sum := 0.0
	films := s.spread()
	for _, film := range films {
		sum += l.Below(p.Floor+film*(1+ThinPart*s.Uneven)) / float64(len(films))
	}
	return sum
}

func (p Policy) room(l Least, risk float64) float64 {
	return math.Min(math.Min(l.Quantile(risk)-p.Floor, p.Cap(l.Estimate().Mean)), l.beforeThrough())
}

// beforeThrough is the film (µm, to 0.01) that may go before the way through is as likely
// as nobody may take.
func (l Least) beforeThrough() float64 {
	if l.place != nil {
		return l.Quantile(ThroughRisk) - WayThrough
	}
	lo, hi := -WayThrough, math.Max(l.Estimate().Mean, 0)+1
	for hi-lo > 0.01 {
		mid := (lo + hi) / 2
		if l.Through(Taken{Chance: 1, Film: mid}) <= ThroughRisk {
			lo = mid
		} else {
			hi = mid
		}
	}
	return lo
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
	WhyThin     Reason = "thin"      // too likely under the floor afterwards
	WhyBelow    Reason = "below"     // too likely under the floor now
	WhyCap      Reason = "cap"       // more than may be spent of a factory finish
	WhyThrough  Reason = "through"   // the way through the clear is too likely
	WhyGateShut Reason = "gate_shut" // total at or under 75 µm
	WhyGateAsk  Reason = "gate_ask"  // total under 90 µm
	WhyFinish   Reason = "finish"    // scratches stand: they are taken out first
	WhyFiller   Reason = "filler"    // so much film is filler, and tells nothing of the clear
	WhyUnlike   Reason = "unlike"    // what was said and the film do not agree
	WhyLocked   Reason = "locked"    // it is through, or colour showed: nothing more is cut
	WhyUnder    Reason = "under"     // it is likely under its floor already, and only spots are cut
)

// Verdict is the state of a place or a section for a spend, with its reason and both
// chances: that more than a twentieth of its area ends under the floor, and that the
// clear is gone through anywhere.
type Verdict struct {
	State          State
	Reason         Reason
	Under, Through float64
}

// Outlook is what a verdict rests on: the Total film of a section and the Spend that is
// to come after what has Gone already by the plan in hand (µm); whether that cuts Spots
// only, so that the floor does not bind, takes out the scratches of work that has begun, so
// that it Finishes that, and is Over the cap; the chance of being under the floor Now and
// after the spend, Under, and of going Through.
type Outlook struct {
	Total, Spend, Gone    float64
	Spots, Finishes, Over bool
	Now, Under, Through   float64
}

// Judge gives the verdict on an unworked section for a planned spend (µm of crest film).
// total is the section's mean film.
func (p Policy) Judge(l Least, total float64, spend Spend, spots bool) Verdict {
	o := Outlook{Total: total, Spend: spend.Mean, Spots: spots, Now: l.Below(p.Floor), Over: spend.Mean > p.Cap(l.Estimate().Mean)}
	o.Under, o.Through = p.under(l, spend), l.Through(spend.taken()...)
	return p.Verdict(o)
}

// likelyBelow is the chance from which a clear counts as being under its floor.
const likelyBelow = 1.0 / 2

// Verdict gives the state and its reason. The way through shuts whatever is planned; the
// floor is a promise about years and gives way to a spend of a fine polish in all, to spots,
// and to finishing what has begun; open is never said of what is under its floor already.
func (p Policy) Verdict(o Outlook) Verdict {
	v := Verdict{Under: o.Under, Through: o.Through}
	fine := o.Gone+o.Spend <= FinePolish
	switch {
	case o.Through > ThroughRisk:
		v.State, v.Reason = Shut, WhyThrough
	case o.Finishes && (o.Under > p.Tight || o.Over || o.Total <= GateShut):
		v.State, v.Reason = Tight, WhyFinish
	case o.Total <= GateShut && !fine:
		v.State, v.Reason = Shut, WhyGateShut
	case o.Over && !fine:
		v.State, v.Reason = Shut, WhyCap
	case o.Under > p.Tight && !fine && !o.Spots && o.Now > p.Tight:
		v.State, v.Reason = Shut, WhyBelow
	case o.Under > p.Tight && !fine && !o.Spots:
		v.State, v.Reason = Shut, WhyThin
	case o.Total >= fillerFilm:
		v.State, v.Reason = Tight, WhyFiller
	case p.Unlike:
		v.State, v.Reason = Tight, WhyUnlike
	case o.Total < GateAsk:
		v.State, v.Reason = Tight, WhyGateAsk
	case o.Under > p.Risk && !o.Spots:
		v.State, v.Reason = Tight, WhyChecks
	case o.Now > likelyBelow:
		v.State, v.Reason = Tight, WhyUnder
	default:
		v.State, v.Reason = Open, WhyFits
	}
	return v
}
