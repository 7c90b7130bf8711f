// Package clearcoat says how thick the clear of a panel is, as one distribution from all
// that is known of it: coats, the total film and what lies under it, the finish, and
// what was measured. It reads no clock and no file.
package clearcoat

import "math"

// Finish is what a panel carries.
type Finish string

// The finishes.
const (
	Refinish    Finish = "refinished"
	Factory     Finish = "factory"
	SingleStage Finish = "single_stage"
)

// Under is what a refinish lies on.
type Under string

// What may lie under a refinish.
const (
	UnderUnknown Under = "unknown" // nobody said
	UnderNew     Under = "new"     // bare metal or a new primed part
	UnderOver    Under = "over"    // the old finish, sanded
)

// Value is a measured film or ratio with its standard deviation.
type Value struct{ Mean, SD float64 }

// Known is what is known of a panel's clear; films in µm. A Total of 0 was not read.
type Known struct {
	Finish   Finish
	Total    Value   // of the panel, far from edges
	Coats    int     // of clear; 0 for nobody knows
	Coat     float64 // dry film of a coat, where it is known; 0 for the usual
	Ratio    Value   // the shop's coats against what is said, learned; zero for not learned
	Under    Under
	Car      float64 // median of the car's factory panels; 0 for not read
	Share    float64 // of a factory finish that is clear; 0 for the usual
	Polished bool    // a factory finish that was polished before
	Measured []Value // the clear itself, by readings before it went on, a layer gauge, or its neighbours
}

// The constants of the model (judgement). PanelSpread is the share by which the clear of
// one panel differs from the coats of its shop.
const (
	UsualCoat    = 26.0 // dry film of one coat, µm
	coatSpread   = 0.19 // share by which a clear differs from its coats
	sureSpread   = 0.12 // the same where the film of a coat is known
	PanelSpread  = 0.14 // the part of these from panel to panel, beside what a shop's coats share
	surePanel    = 0.09
	FactoryShare = 0.42
	factorySD    = 0.06 // of the total
	polishedLess = 3.0  // µm
	singleShare  = 0.65
	singleSpread = 0.15
	newMean      = 80.0 // lower layers on bare metal or a new part, µm
	newSD        = 20.0
	thinOver     = 10.0 // refinish over the old finish, without primer, beside the clear
	thinOverSD   = 10.0
	primedOver   = 55.0 // with primer
	primedOverSD = 22.0
	UsualCar     = 115.0
	UsualCarSD   = 15.0
	anyStory     = 2e-4 // per µm: no story of lower layers is impossible
	notAsTold    = 0.03 // the clear is thinner than all that is said
	notAsRead    = 0.005
	thinner      = 0.75
)

// coatCounts are the chances of one to four coats where nobody knows.
var coatCounts = [...]float64{0.03, 0.50, 0.36, 0.11}

func normal(x, mean, sd float64) float64 {
	z := (x - mean) / sd
	return math.Exp(-z*z/2) / (sd * math.Sqrt(2*math.Pi))
}

// logNormal is the density at x of a log-normal of that mean and coefficient of variation.
func logNormal(x, mean, cv float64) float64 {
	if x <= 0 {
		return 0
	}
	s2 := math.Log(1 + cv*cv)
	z := math.Log(x) - math.Log(mean) + s2/2
	return math.Exp(-z*z/(2*s2)) / (x * math.Sqrt(2*math.Pi*s2))
}

// Of is the clear from all that is known, each source a factor of one distribution, and
// a small part of it thinner than it says.
func Of(k Known) Dist {
	doubted := notAsTold
	if len(k.Measured) > 0 {
		doubted = notAsRead
	}
	d := from(func(c float64) float64 {
		w := k.prior(c)
		for _, m := range k.Measured {
			w *= normal(c, m.Mean, m.SD)
		}
		return w
	})
	if !d.Known() && len(k.Measured) > 0 { // what was said cannot be: what was measured counts
		d = from(func(c float64) float64 { return normal(c, k.Measured[0].Mean, math.Max(k.Measured[0].SD, Step)) })
	}
	if !d.Known() {
		d = anything()
	}
	return d.doubted(doubted)
}

// anything is a clear of which nothing is known: what was read and said fits no clear at all,
// as of a panel full of filler.
func anything() Dist { return from(func(float64) float64 { return 1 }) }

// prior is the weight of a clear by what was said of the panel and its total film.
func (k Known) prior(c float64) float64 {
	t := k.Total.Mean
	if t > 0 && k.Total.SD == 0 && c > t {
		return 0
	}
	switch k.Finish {
	case Factory:
		share := FactoryShare
		if k.Share > 0 {
			share = k.Share
		}
		mean, sd := share*t, math.Hypot(factorySD*t, share*k.Total.SD)
		if k.Polished {
			mean, sd = mean-polishedLess, math.Hypot(sd, polishedLess)
		}
		return normal(c, mean, sd)
	case SingleStage:
		return normal(c, singleShare*t, singleShare*math.Hypot(singleSpread*t, k.Total.SD))
	}
	w := k.coats(c)
	if t > 0 {
		w *= k.under(t-c) + anyStory
	}
	return w
}

// Unlike says whether what was said of a refinish and its total film do not agree: too much of
// what its clear may be rests on no story that was told. Up to there more film is more clear.
func (k Known) Unlike() bool {
	if k.Finish != Refinish || k.Total.Mean <= 0 || len(k.Measured) > 0 {
		return false
	}
	d := from(k.prior)
	return d.Known() && d.Over(func(c float64) float64 { return anyStory / (k.under(k.Total.Mean-c) + anyStory) }) > likelyUnlike
}

// likelyUnlike is the weight of no story from which on what was told is doubted (judgement).
const likelyUnlike = 1.0 / 15

// coats is the density of the clear by its coats.
func (k Known) coats(c float64) float64 {
	film, spread, own := UsualCoat, coatSpread, PanelSpread
	if k.Coat > 0 {
		film, spread, own = k.Coat, sureSpread, surePanel
	}
	if k.Ratio.Mean > 0 {
		film, spread = film*k.Ratio.Mean, math.Hypot(own, k.Ratio.SD/k.Ratio.Mean)
	}
	if k.Coats > 0 {
		return logNormal(c, film*float64(k.Coats), spread)
	}
	w := 0.0
	for i, p := range coatCounts {
		w += p * logNormal(c, film*float64(i+1), spread)
	}
	return w
}

// ByCoats is the clear by its coats alone, and ByUnder by the total and what lies under it.
func (k Known) ByCoats() Value { return valueOf(from(k.coats)) }
func (k Known) ByUnder() Value {
	return valueOf(from(func(c float64) float64 { return k.under(k.Total.Mean - c) }))
}

func valueOf(d Dist) Value {
	if !d.Known() {
		d = anything()
	}
	return Value{d.Mean(), d.SD()}
}

// under is the density of the layers under the clear.
func (k Known) under(l float64) float64 {
	fresh := normal(l, newMean, newSD)
	car, doubt := k.Car, 0.0
	if car <= 0 {
		car, doubt = UsualCar, UsualCarSD
	}
	over := (normal(l, car+thinOver, math.Hypot(thinOverSD, doubt)) + normal(l, car+primedOver, math.Hypot(primedOverSD, doubt))) / 2
	switch k.Under {
	case UnderNew:
		return fresh
	case UnderOver:
		return over
	}
	return (fresh + over) / 2
}

// doubted puts a share of the weight on a clear that is thinner than all that is said.
func (d Dist) doubted(share float64) Dist {
	if !d.Known() {
		return d
	}
	thin := from(func(c float64) float64 {
		x := c / thinner / Step
		i := int(x)
		if i+1 >= cells {
			return 0
		}
		return d.p[i] + (x-float64(i))*(d.p[i+1]-d.p[i])
	})
	return from(func(c float64) float64 {
		i := int(math.Round(c / Step))
		return (1-share)*d.p[i] + share*thin.p[i]
	})
}
