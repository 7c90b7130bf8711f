package practice

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// Spreads of what swirled panels hide, as logarithms: wider than the tool's prior, so that
// many lie outside of it. The eye is off by saidSpread when it says light, medium or heavy.
const (
	hiddenSwirls = 0.7
	hiddenDead   = 0.8
	saidSpread   = 0.3
	deadShare    = 0.3 // of the panels have a dead layer
)

// Corrected is what came of swirled panels that were planned after one try square, and
// planned again after a look at the first section.
type Corrected struct {
	Panels         int
	Off            float64        // mean of how far the share said lay from the share that came, 0 to 1
	Right, Later   map[Target]int // panels whose cycles were right within one, after the square and after the look
	Beyond, Needed float64        // µm, spent beyond what was needed, and needed by one who knows the depth
	Through        int
	ThinnestOfThem float64 // µm of clear
}

// Target is a share of the swirls that is asked for.
type Target float64

// Targets are those that packages promise.
var Targets = []Target{0.8, 0.95}

// Given is the share of film spent beyond what was needed.
func (c Corrected) Given() float64 { return c.Beyond / c.Needed }

// Correct works so many swirled panels of hidden truth.
func Correct(panels int) (Corrected, error) {
	out := Corrected{Panels: panels, Right: map[Target]int{}, Later: map[Target]int{}, ThinnestOfThem: math.Inf(1)}
	for i := range panels {
		if err := out.work(rand.New(rand.NewPCG(uint64(i), 0x5c1))); err != nil {
			return out, err
		}
	}
	out.Off /= float64(panels)
	return out, nil
}

// swirled is one panel: what is true of it, and what a pass of a product truly takes of what
// the model says.
type swirled struct {
	truth surface.Condition
	cut   float64
	clear float64
}

func drawSwirled(rng *rand.Rand) (p swirled, said surface.Condition) {
	classes := []surface.Depth{surface.SwirlsLight, surface.SwirlsMedium, surface.SwirlsHeavy}
	m := classes[rng.IntN(len(classes))].Median * math.Exp(hiddenSwirls*rng.NormFloat64())
	p.truth.Swirls.Median = m
	looks := m * math.Exp(saidSpread*rng.NormFloat64())
	said.Swirls = slices.MinFunc(classes, func(a, b surface.Depth) int {
		return cmp.Compare(math.Abs(math.Log(looks/a.Median)), math.Abs(math.Log(looks/b.Median)))
	})
	if rng.Float64() < deadShare {
		said.Dead = []surface.Depth{surface.DeadLight, surface.DeadHeavy}[rng.IntN(2)]
		p.truth.Dead.Median = said.Dead.Median * math.Exp(hiddenDead*rng.NormFloat64())
	}
	p.cut = math.Exp(math.Hypot(plan.SharedSpread, plan.OwnSpread) * rng.NormFloat64())
	p.clear = thought.Mean + thought.SD*rng.NormFloat64()
	return p, said
}

// mostCycles is how many cycles of one product somebody makes before they take another.
const mostCycles = 60

// cycles is the least number of a product that leaves no more than is wanted of the swirls,
// by what is thought of them.
func cycles(c surface.Condition, target Target, taken func(n int) float64) int {
	for n := 1; n < mostCycles; n++ {
		if c.Gone(taken(n)) >= float64(target) {
			return n
		}
	}
	return mostCycles
}

func (o *Corrected) work(rng *rand.Rand) error {
	p, said := drawSwirled(rng)
	j := plan.Job{Aim: plan.PolishOnly, Grade: 4, Reference: 4, Colour: plan.Dark, Factory: true, Hardness: 1, Area: 1.27e6, Perimeter: 4600, Condition: said,
		Gone: float64(Targets[0]), Sections: []plan.Rect{{W: 500, H: 420}}, Shelf: shelf.Usual()}
	options, err := plan.Find(j)
	if err != nil {
		return err
	}
	ways, _, err := options.Offers(plan.MostFilm)
	if err != nil || len(ways) == 0 {
		return err
	}
	first := ways[len(ways)/2].Ladder.Steps[0]
	model := func(c surface.Condition) func(int) float64 {
		k := j
		k.Condition = c
		return func(n int) float64 { return k.Takes(0, first.Rate, n) }
	}
	hidden := j
	hidden.Condition = p.truth
	truly := func(n int) float64 { return hidden.Takes(0, first.Rate*p.cut, n) }

	// The square: worked until the dead layer is off and then as the plan wants it.
	known, n := said, first.Passes
	if said.Dead.Median > 0 {
		off := 1
		for truly(off) < p.truth.Dead.Median && off < mostCycles {
			off++
		}
		soft := first.Rate * j.Hardness / j.Shelf.Law.Oxidised
		if known.Dead, err = said.Dead.Between(soft*float64(off-1), soft*float64(off), deadNoise); err != nil {
			return err
		}
		n = off + first.Passes
	}
	look := func(n int) surface.Tried {
		left := 1 - p.truth.Gone(truly(n)) + surface.EyeShare*rng.NormFloat64()
		return surface.Tried{Removal: model(known)(n) - known.Dead.Median, Left: math.Min(math.Max(left, 0), 1), SD: surface.EyeShare}
	}
	tried := []surface.Tried{look(n)}
	if known.Swirls, err = said.Swirls.Learned(tried...); err != nil {
		return err
	}
	needs := map[Target]int{}
	for _, t := range Targets {
		needs[t] = cycles(p.truth, t, truly)
		if planned := cycles(known, t, model(known)); abs(planned-needs[t]) <= 1 {
			o.Right[t]++
		}
	}
	planned := cycles(known, Targets[0], model(known))
	o.Off += math.Abs(known.Gone(model(known)(planned)) - p.truth.Gone(truly(planned)))
	o.Beyond, o.Needed = o.Beyond+math.Max(truly(planned)-truly(needs[Targets[0]]), 0), o.Needed+truly(needs[Targets[0]])

	// The first section is worked so and looked at; the others follow from both looks.
	tried = append(tried, look(planned))
	if known.Swirls, err = said.Swirls.Learned(tried...); err != nil {
		return err
	}
	may := allowed(first.Rate)
	for _, t := range Targets {
		again := min(cycles(known, t, model(known)), may)
		if abs(again-min(needs[t], may)) <= 1 {
			o.Later[t]++
		}
		left := p.clear - truly(max(again, min(planned, may)))
		o.ThinnestOfThem = math.Min(o.ThinnestOfThem, left)
		if left < film.WayThrough {
			o.Through++
		}
	}
	return nil
}

// deadNoise is how far off somebody is that says with which pass the cloth stopped changing,
// as a logarithm of the removal.
const deadNoise = 0.15

func abs(n int) int { return max(n, -n) }

// thought is the clear that is thought to be on the panels (µm): what they have is drawn from
// it, at a total of guessedTotal.
var thought = clearcoat.Value{Mean: 45, SD: 8}

const guessedTotal = 110.0

// allowed is how many cycles at a rate (µm) may be planned, by the clear that is thought to
// be there.
func allowed(rate float64) int {
	least := film.LeastOf(clearcoat.Normal(thought), []float64{0.95}, []float64{0.90})
	_, most := film.PolicyFor(film.FactoryFinish).Rooms(least, guessedTotal, false)
	return int(most / rate)
}
