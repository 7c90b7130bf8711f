package practice

import (
	"waxplanus/core/film"
	"waxplanus/core/level"
)

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
// floor and what the finer steps need, Through have less than the way through somewhere
// once those are made, Passes were made of Could that somebody who sees everything would
// have made.
type Outcome struct {
	Sections, Burnt, Through, Passes, Could int
}

// BurntShare is the share of sections below.
func (o Outcome) BurntShare() float64 { return float64(o.Burnt) / float64(o.Sections) }

// Given is the share of possible passes that were not made; below zero where more
// were made than the film held.
func (o Outcome) Given() float64 { return 1 - float64(o.Passes)/float64(o.Could) }

const (
	trialCoats  = 4
	fixedPasses = 8
)

// Run puts one section of each of so many panels of hidden truth under each manner: its
// first step is worked until nothing more is granted.
func (b Trials) Run(h Hidden, panels int) (map[Manner]Outcome, error) {
	type result struct {
		by  map[Manner]Outcome
		err error
	}
	results := make([]result, panels)
	eachPanel(panels, func(i int) {
		t := b.trial(h, uint64(i))
		by := map[Manner]Outcome{}
		for _, m := range Manners {
			n, err := t.work(m)
			if err != nil {
				results[i].err = err
				return
			}
			o := Outcome{Sections: 1, Passes: n, Could: t.could()}
			if t.least(n) < t.wanted() {
				o.Burnt = 1
			}
			if _, thin := t.left(t.first(n)); thin < film.WayThrough+b.Ladder.Reserve(0) {
				o.Through = 1
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
			s.Through += o.Through
			out[m] = s
		}
	}
	return out, nil
}

// trial is one section of one panel, worked with the first step alone.
type trial struct{ *patch }

func (b Trials) trial(h Hidden, seed uint64) trial {
	t := b.draw(h, trialCoats, seed)
	return trial{t.on(b.Ground.Sections[t.rng.IntN(len(b.Ground.Sections))])}
}

// first are the passes of each step where the first had n.
func (t trial) first(n int) []int {
	out := make([]int, len(t.Ladder.Steps))
	out[0] = min(n, mostTrial)
	return out
}

// least is the true clear (µm) of the section after n passes where a twentieth of its
// area has less.
func (t trial) least(n int) float64 {
	part, _ := t.left(t.first(n))
	return part
}

// wanted is the clear (µm) that the first step has to leave.
func (t trial) wanted() float64 { return t.policy.Floor + t.Ladder.Reserve(0) }

// could is how many passes somebody who sees everything would make.
func (t trial) could() int {
	n := 0
	for n < mostTrial && t.least(n+1) >= t.wanted() {
		n++
	}
	return n
}

// work says how many passes are made in a manner.
func (t trial) work(m Manner) (int, error) {
	mean := 0.0
	for _, p := range t.places {
		mean += p.Film / float64(len(t.places))
	}
	// Rules of thumb count what a pass takes once the peel is off, and leave what the
	// finer steps need.
	nominal := t.Ladder.Steps[0].Rate
	left := func(clear float64) int {
		return max(0, min(int((clear-t.wanted())/nominal), mostTrial))
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
func (t trial) advised(again bool) (int, error) {
	var readings []level.Reading
	for _, p := range t.places {
		readings = append(readings, level.Reading{X: p.X, Y: p.Y, Film: p.Film})
	}
	for t.passes[0] < mostTrial {
		p, err := level.OpenPanel(t.Ground, t.facts, readings, &t.Ladder, film.UsualGauge)
		if err != nil {
			return 0, err
		}
		sec, _ := p.Study.Section(t.section.Key)
		a := p.Work.AdviseFor(sec, level.Progress{Own: t.Ladder.StepsOf(""), Passes: t.passes, Need: mostTrial})
		if a.Granted == 0 {
			break
		}
		if !again {
			return min(a.Granted, mostTrial), nil
		}
		t.passes[0] = min(t.passes[0]+max(a.Read, 1), mostTrial)
		for _, q := range t.own() {
			readings = append(readings, t.read(q))
		}
	}
	return t.passes[0], nil
}
