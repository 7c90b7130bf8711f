package practice

import (
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
	// Known is how many other panels of the same shop were read before clear.
	Known int
}

// Manner is how a section is worked.
type Manner string

// The manners: the advice, and rules of thumb.
const (
	Advice     Manner = "the advice"
	NeverAgain Manner = "the first grant, no reading after"
	HalfClear  Manner = "half of the total is clear"
	FixedGrit  Manner = "eight passes a grit"
	ReadOnce   Manner = "one reading, nominal cut"
)

// Manners lists all of them.
var Manners = []Manner{Advice, NeverAgain, HalfClear, FixedGrit, ReadOnce}

// Outcome counts what came of sections worked in one manner: Burnt went below
// floor and what the finer steps need, Passes were made of Could that somebody who
// sees everything would have made.
type Outcome struct {
	Sections, Burnt, Passes, Could int
}

// BurntShare is the share of sections below.
func (o Outcome) BurntShare() float64 { return float64(o.Burnt) / float64(o.Sections) }

// Given is the share of possible passes that were not made; below zero where more
// were made than the film held.
func (o Outcome) Given() float64 { return 1 - float64(o.Passes)/float64(o.Could) }

// Trials is what trials are made on: a panel's ground and the sequence whose first
// step is worked until nothing more is granted.
type Trials struct {
	Ground *film.Ground
	Ladder plan.Ladder
}

const (
	trialSpots  = 9
	trialBefore = 3
	trialCoats  = 4
	fixedPasses = 8
	mostTrial   = 80 // passes of one section
)

// Run puts so many panels of hidden truth under each manner.
func (b Trials) Run(h Hidden, panels int) (map[Manner]Outcome, error) {
	type result struct {
		by  map[Manner]Outcome
		err error
	}
	results := make([]result, panels)
	eachPanel(panels, func(i int) {
		t := b.draw(h, uint64(i))
		by := map[Manner]Outcome{}
		for _, m := range Manners {
			n, err := t.work(m)
			if err != nil {
				results[i].err = err
				return
			}
			o := Outcome{Sections: 1, Passes: n, Could: t.could()}
			if t.least(n) < t.policy.Floor+b.Ladder.Reserve(0) {
				o.Burnt = 1
			}
			by[m] = o
		}
		results[i].by = by
	})
	out := map[Manner]Outcome{}
	for _, r := range results {
		if r.err != nil {
			return nil, r.err
		}
		for m, o := range r.by {
			s := out[m]
			s.Sections, s.Burnt, s.Passes, s.Could = s.Sections+o.Sections, s.Burnt+o.Burnt, s.Passes+o.Passes, s.Could+o.Could
			out[m] = s
		}
	}
	return out, nil
}

// trial is one section of one panel, with its truth.
type trial struct {
	Trials
	total, clear, base *Panel
	gauge              *Gauge
	section            flatlay.Section
	spots              []flatlay.Point
	facts              film.Facts
	policy             film.Policy
	places             []film.Place // opening readings
	pass               []float64    // mean removal up to each pass where a place is cut as it should
	curve              surface.Curve
	offset             float64
	seed               uint64
}

// draw makes the truth of a panel: base and clear each sprayed in their own way,
// texture rougher or smoother than it was taken for and with its own skew, a cut of
// its own, places cut unevenly.
func (b Trials) draw(h Hidden, seed uint64) *trial {
	rng := rand.New(rand.NewPCG(seed, 0x7124a1))
	t := &trial{Trials: b, seed: seed, gauge: NewGauge(seed)}
	p := b.Ground.Panel
	clear := film.CoatFilm * trialCoats * math.Exp(film.CoatSpread*rng.NormFloat64()+h.CoatBias)
	t.base = NewPanel(p, 90+20*rng.Float64(), ByHand, 2*seed+1)
	t.clear = NewPanel(p, clear, ByHand, 2*seed+2)
	t.total = t.clear.Over(t.base)
	t.section = b.Ground.Sections[rng.IntN(len(b.Ground.Sections))]
	t.spots = film.NextSpots(b.Ground, b.Ground.Cells, nil, 0, nil, trialSpots)
	t.facts = film.Facts{History: film.History{Finish: film.Refinished, Coats: trialCoats, Ratio: film.LearnCoats(h.others(rng))}}
	if h.Before {
		for _, q := range t.spots[:trialBefore] {
			t.facts.Before = append(t.facts.Before, t.gauge.Spot(t.base, q))
		}
	}
	for _, q := range t.spots {
		t.places = append(t.places, t.gauge.Spot(t.total, q))
	}
	t.policy = film.PolicyFor(film.Refinished)
	step := b.Ladder.Steps[0]
	grade := b.Ladder.Start.Grade() + level.GradeSpread*rng.NormFloat64()
	sq := surface.PeelSq(math.Max(grade, 0))
	s := surface.New(sq, surface.PebbleSq(sq), 0.15*(2*rng.Float64()-1))
	cut := h.CutBias + h.CutSpread*rng.NormFloat64()
	sum := 0.0
	for range mostTrial + 1 {
		t.pass = append(t.pass, sum)
		sum += step.Rate * math.Exp(cut+level.PassScatter*rng.NormFloat64())
	}
	t.curve = s.CrestCurve(step.Backing, step.D50, 2*sum)
	t.offset = step.GaugeOffset()
	return t
}

// others are the panels of the shop that were read before clear.
func (h Hidden) others(rng *rand.Rand) []film.Coated {
	const said = film.CoatFilm * trialCoats
	out := make([]film.Coated, h.Known)
	for i := range out {
		clear := said * math.Exp(film.CoatSpread*rng.NormFloat64()+h.CoatBias)
		out[i] = film.Coated{Said: said, Measured: film.Estimate{Mean: clear + rng.NormFloat64(), SD: 1}}
	}
	return out
}

// uneven is how much more than it should a place is cut: patches of 100 mm.
func (t *trial) uneven(q flatlay.Point) float64 {
	rng := rand.New(rand.NewPCG(t.seed, uint64(int64(q.X/100))<<20|uint64(int64(q.Y/100))))
	return math.Exp(level.Unevenness * rng.NormFloat64())
}

// lost is the crest film (µm) that n passes have taken at a place.
func (t *trial) lost(q flatlay.Point, n int) float64 {
	return t.curve.At(t.pass[min(n, mostTrial)] * t.uneven(q))
}

// least is the true clear (µm) of the section after n passes where a twentieth of its
// area has less.
func (t *trial) least(n int) float64 {
	left := make([]float64, len(t.section.Cells))
	for i, c := range t.section.Cells {
		left[i] = t.clear.Film(c) - t.lost(c, n)
	}
	slices.Sort(left)
	return left[int(film.PartArea*float64(len(left)))]
}

// could is how many passes somebody who sees everything would make.
func (t *trial) could() int {
	n := 0
	for n < mostTrial && t.least(n+1) >= t.policy.Floor+t.Ladder.Reserve(0) {
		n++
	}
	return n
}

// read takes the section's known spots again after n passes, or its middle where
// none was read before.
func (t *trial) read(n int) []level.Reading {
	var out []level.Reading
	passes := make([]int, len(t.Ladder.Steps))
	passes[0] = n
	take := func(q flatlay.Point) {
		at := t.gauge.Spot(t.total, q)
		out = append(out, level.Reading{X: q.X, Y: q.Y, Film: at.Film - t.lost(q, n) - t.offset, Passes: passes})
	}
	for _, q := range t.spots {
		if flatlay.SectionAt(t.Ground.Sections, q) == t.section.Key {
			take(q)
		}
	}
	if out == nil {
		take(t.section.Cells[len(t.section.Cells)/2])
	}
	return out
}

// work says how many passes are made in a manner.
func (t *trial) work(m Manner) (int, error) {
	mean := 0.0
	for _, p := range t.places {
		mean += p.Film / float64(len(t.places))
	}
	// Rules of thumb count what a pass takes once the peel is off, and leave what the
	// finer steps need.
	nominal := t.Ladder.Steps[0].Rate
	left := func(clear float64) int {
		return max(0, min(int((clear-t.policy.Floor-t.Ladder.Reserve(0))/nominal), mostTrial))
	}
	switch m {
	case HalfClear:
		return left(mean / 2), nil
	case FixedGrit:
		return fixedPasses, nil
	case ReadOnce:
		return left(t.places[0].Film - mean + film.CoatFilm*trialCoats), nil
	}
	return t.advised(m == Advice)
}

// advised follows the advice: half of each grant, the known spots again, until
// nothing is granted; or without a reading the whole first grant.
func (t *trial) advised(again bool) (int, error) {
	var readings []level.Reading
	for _, p := range t.places {
		readings = append(readings, level.Reading{X: p.X, Y: p.Y, Film: p.Film})
	}
	passes, since := make([]int, len(t.Ladder.Steps)), 0
	for passes[0] < mostTrial {
		p, err := level.OpenPanel(t.Ground, t.facts, readings, &t.Ladder, film.UsualGauge)
		if err != nil {
			return 0, err
		}
		sec, _ := p.Study.Section(t.section.Key)
		a := p.Work.AdviseFor(sec.Least, sec.Policy, passes, 0, since, mostTrial)
		if a.Granted == 0 {
			break
		}
		if !again {
			return min(a.Granted, mostTrial), nil
		}
		passes[0] = min(passes[0]+max(a.Read, 1), mostTrial)
		readings = append(readings, t.read(passes[0])...)
	}
	return passes[0], nil
}
