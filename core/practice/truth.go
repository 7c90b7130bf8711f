package practice

import (
	"cmp"
	"hash/fnv"
	"math"
	"math/rand/v2"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// Over lays a coat whose film is known over another: its Film is that of both.
func (t *Panel) Over(under *Panel) *Panel {
	both := *t
	both.under = under
	return &both
}

// Hidden is what nobody at the panel knows: how the truth is drawn for a trial.
type Hidden struct {
	CutBias   float64 // ln of how much faster than nominal all cuts are
	CutSpread float64 // sd of ln(rate/nominal) between panels; the prior's is 0.34
	// CoatBias is ln of how much thicker the clear is than its source says.
	CoatBias float64
	// Before says whether the panel was read before the clear went on; else the
	// clear is known by its coats.
	Before bool
	// Spots is how many places were read before; 0 for the usual number.
	Spots int
	// Known is how many other panels of the same shop were read before clear.
	Known int
}

// Trials is what trials are made on: a panel's ground and the sequence that is worked.
type Trials struct {
	Ground *film.Ground
	Ladder plan.Ladder
	// Partly says that the levelling step ends with its planned passes, flat or not.
	Partly bool
}

const (
	trialSpots  = 9
	trialBefore = 3
	mostTrial   = 80 // passes of one step on one section
)

// truth is one panel that nobody sees through: base and clear each sprayed in their own
// way, texture rougher or smoother than it was taken for and with its own skew, a cut of
// its own, and what is told and read of it.
type truth struct {
	Trials
	total, clear, base *Panel
	gauge              *Gauge
	spots              []flatlay.Point
	facts              film.Facts
	policy             film.Policy
	places             []film.Place // opening readings
	peel               surface.Surface
	cut                []float64 // ln of the true rate against the nominal, by step
	bury               []float64 // removal (µm) that takes the last scratch out, by step
	seed               uint64
	rng                *rand.Rand
}

// draw makes the truth of a panel of so many coats.
func (b Trials) draw(h Hidden, coats int, seed uint64) *truth {
	rng := rand.New(rand.NewPCG(seed, 0x7124a1))
	t := &truth{Trials: b, seed: seed, gauge: NewGauge(seed), rng: rng, policy: film.PolicyFor(film.Refinished)}
	p := b.Ground.Panel
	said := film.CoatFilm * float64(coats)
	t.base = NewPanel(p, 90+20*rng.Float64(), ByHand, 2*seed+1)
	t.clear = NewPanel(p, said*math.Exp(film.CoatSpread*rng.NormFloat64()+h.CoatBias), ByHand, 2*seed+2)
	t.total = t.clear.Over(t.base)
	t.spots = film.NextSpots(b.Ground, b.Ground.Cells, nil, 0, nil, trialSpots)
	t.facts = film.Facts{History: film.History{Finish: film.Refinished, Coats: coats, Ratio: film.LearnCoats(h.others(said, rng))}}
	if h.Before {
		for _, q := range t.spots[:cmp.Or(h.Spots, trialBefore)] {
			t.facts.Before = append(t.facts.Before, t.gauge.Spot(t.base, q))
		}
	}
	for _, q := range t.spots {
		t.places = append(t.places, t.gauge.Spot(t.total, q))
	}
	sq := surface.PeelSq(math.Max(b.Ladder.Start.Grade()+level.GradeSpread*rng.NormFloat64(), 0))
	t.peel = surface.New(sq, surface.PebbleSq(sq), 0.15*(2*rng.Float64()-1))
	shared, part := rng.NormFloat64(), h.CutSpread/plan.RateSpread
	for _, s := range b.Ladder.Steps {
		t.cut = append(t.cut, h.CutBias+part*(plan.SharedSpread*shared+plan.OwnSpread*rng.NormFloat64()))
		t.bury = append(t.bury, s.Rate*(float64(s.Needs)-0.5)*math.Exp(buryDiffers*rng.NormFloat64()))
	}
	return t
}

// buryDiffers is how far, as a logarithm, the removal that takes a scratch out differs from
// panel to panel (judgement).
const buryDiffers = 0.1

// others are the panels of the shop that were read before clear.
func (h Hidden) others(said float64, rng *rand.Rand) []film.Coated {
	out := make([]film.Coated, h.Known)
	for i := range out {
		clear := said * math.Exp(film.CoatSpread*rng.NormFloat64()+h.CoatBias)
		out[i] = film.Coated{Said: said, Measured: film.Estimate{Mean: clear + rng.NormFloat64(), SD: 1}}
	}
	return out
}

// patch is a section of such a panel as it is worked. Steps count from 0.
type patch struct {
	*truth
	section flatlay.Section
	pass    [][]float64     // by step, mean removal up to each pass where a place is cut as it should
	curves  []surface.Curve // crest film by that removal, of the steps begun
	now     surface.Surface // before the last of them
	passes  []int
	unread  bool // passes were made since its last reading
}

// on is a section of the panel before any work.
func (t *truth) on(section flatlay.Section) *patch {
	s := &patch{truth: t, section: section, now: t.peel, passes: make([]int, len(t.Ladder.Steps))}
	rng := rand.New(rand.NewPCG(t.seed, hash(section.Key)))
	for i, step := range t.Ladder.Steps {
		s.pass = append(s.pass, []float64{0})
		for n := range mostTrial {
			s.pass[i] = append(s.pass[i], s.pass[i][n]+step.Rate*math.Exp(t.cut[i]+level.PassScatter*rng.NormFloat64()))
		}
	}
	s.begin()
	return s
}

func hash(text string) uint64 {
	h := fnv.New64a()
	h.Write([]byte(text))
	return h.Sum64()
}

// begin goes on to the next step.
func (s *patch) begin() {
	i := len(s.curves)
	if i > 0 {
		s.now = s.reached()
	}
	step := s.Ladder.Steps[i]
	s.curves = append(s.curves, s.now.CrestCurve(step.Backing, step.D50, 2*s.pass[i][mostTrial]))
}

// removed is the removal (µm) of the step in hand.
func (s *patch) removed() float64 {
	i := len(s.curves) - 1
	return s.pass[i][s.passes[i]]
}

// reached is the surface by now.
func (s *patch) reached() surface.Surface {
	step := s.Ladder.Steps[len(s.curves)-1]
	return s.now.Cut(step.Backing, step.D50, s.removed(), step.Scratch)
}

// uneven is how much more than it should a place is cut by a step: patches of 100 mm.
func (t *truth) uneven(q flatlay.Point, step int) float64 {
	rng := rand.New(rand.NewPCG(t.seed+uint64(step)<<32, uint64(int64(q.X/100))<<20|uint64(int64(q.Y/100))))
	return math.Exp(film.Unevenness * rng.NormFloat64())
}

// lost is the crest film (µm) that the passes of each step begun have taken at a place.
func (s *patch) lost(q flatlay.Point, passes []int) float64 {
	sum := 0.0
	for i, c := range s.curves {
		if passes[i] > 0 {
			sum += c.At(s.pass[i][passes[i]] * s.uneven(q, i))
		}
	}
	return sum
}

// left is the true clear (µm) of the section after passes: where a twentieth of its area
// has less, and the least.
func (s *patch) left(passes []int) (part, least float64) {
	left := make([]float64, len(s.section.Cells))
	for i, c := range s.section.Cells {
		left[i] = s.clear.Film(c) - s.lost(c, passes)
	}
	slices.Sort(left)
	return left[int(film.PartArea*float64(len(left)))], left[0]
}

// own are the spots of the section that were read before any work, or its middle where
// none was.
func (s *patch) own() []flatlay.Point {
	var out []flatlay.Point
	for _, q := range s.spots {
		if flatlay.SectionAt(s.Ground.Sections, q) == s.section.Key {
			out = append(out, q)
		}
	}
	if out == nil {
		out = append(out, s.section.Cells[len(s.section.Cells)/2])
	}
	return out
}

// read is what the gauge shows at a spot after the passes made so far.
func (s *patch) read(q flatlay.Point) level.Reading {
	offset := 0.0
	for i, n := range s.passes {
		if n > 0 {
			offset += s.Ladder.Steps[i].GaugeOffset()
		}
	}
	return level.Reading{X: q.X, Y: q.Y, Film: s.gauge.Spot(s.total, q).Film - s.lost(q, s.passes) - offset, Passes: slices.Clone(s.passes)}
}
