package practice

import (
	"math"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/surface"
)

// Followed counts what came of panels whose plan was worked to its end as told. Of Panels
// so many were Let go; of their Sections so many Finished without a scratch that stands,
// went Through, and ended Under the floor, where the mean chance of that was Said when the
// plan was accepted and the mean chance Accepted. Passes are those of the levelling step, of
// Could that somebody who sees everything would have made; Readings were asked for on the
// way, Odd ones among them once more, and Inside counts those as expected to nine in ten.
type Followed struct {
	Panels, Let, Sections, Finished, Through, Under int
	Said, Accepted                                  float64
	Passes, Could, Readings, Odd, Inside            int
}

func (f Followed) plus(o Followed) Followed {
	return Followed{f.Panels + o.Panels, f.Let + o.Let, f.Sections + o.Sections, f.Finished + o.Finished, f.Through + o.Through, f.Under + o.Under,
		f.Said + o.Said, f.Accepted + o.Accepted, f.Passes + o.Passes, f.Could + o.Could, f.Readings + o.Readings, f.Odd + o.Odd, f.Inside + o.Inside}
}

// Follow works so many panels of two coats, all of their sections that are open or tight,
// with the whole sequence as the advice goes. What the owner agreed to stay is such that
// the chance of ending under it lies between 1 in 100 and 1 in 3.
func (b Trials) Follow(h Hidden, panels int) (Followed, error) {
	results, errs := make([]Followed, panels), make([]error, panels)
	eachPanel(panels, func(i int) {
		f := follower{truth: b.draw(h, followCoats, uint64(i))}
		errs[i] = f.work()
		results[i] = f.Followed
	})
	sum := Followed{}
	for i, r := range results {
		if errs[i] != nil {
			return sum, errs[i]
		}
		sum = sum.plus(r)
	}
	return sum, nil
}

const (
	followCoats  = 2
	leastAgreed  = 15.0 // µm
	mostReadings = 12   // of one section
)

// follower works one panel as told.
type follower struct {
	*truth
	Followed
	readings []level.Reading
	panel    level.Panel
	policies map[string]film.Policy
}

// open reads the panel before any work; what does not fit is read once more.
func (f *follower) open() error {
	for _, q := range f.spots {
		f.readings = append(f.readings, level.Reading{X: q.X, Y: q.Y, Film: f.gauge.Slip(f.gauge.Spot(f.total, q)).Film})
	}
	if err := f.learn(); err != nil {
		return err
	}
	odd := false
	for i, q := range f.spots {
		if _, is := f.panel.Study.OddAt(q, f.readings[i].Film, true); is {
			odd = true
			f.Odd++
			f.readings[i].Film = f.gauge.Slip(f.gauge.Spot(f.total, q)).Film
		}
	}
	if odd {
		return f.learn()
	}
	return nil
}

func (f *follower) learn() (err error) {
	f.panel, err = level.OpenPanel(f.Ground, f.facts, f.readings, &f.Ladder, film.UsualGauge)
	return err
}

// work follows the plan on every section that is open or tight.
func (f *follower) work() error {
	f.Panels = 1
	if err := f.open(); err != nil {
		return err
	}
	chance := math.Exp(math.Log(1.0/100) + math.Log(100.0/3)*f.rng.Float64())
	floor := math.Inf(1)
	for _, sec := range f.panel.Study.Sections {
		floor = math.Min(floor, sec.Least.Quantile(chance)-f.Ladder.Film)
	}
	f.policies = map[string]film.Policy{}
	for _, sec := range f.panel.Study.Sections {
		p := sec.Policy
		p.Floor = math.Max(math.Min(p.Floor, floor), leastAgreed)
		sec.Policy = p
		if a := f.panel.Accepts(sec, false); a.Worked {
			f.policies[sec.Key] = p.Accepting(a.Under)
			f.Said, f.Accepted = f.Said+a.Under, f.Accepted+a.Risk
		}
	}
	if len(f.policies) > 0 {
		f.Let = 1
	}
	for _, sec := range f.Ground.Sections {
		if _, ok := f.policies[sec.Key]; ok {
			if err := f.section(f.on(sec)); err != nil {
				return err
			}
		}
	}
	return nil
}

// section works one section through all its steps.
func (f *follower) section(s *patch) error {
	f.Sections++
	finished, steps := true, len(f.Ladder.Steps)
	for i := range steps {
		if i > 0 {
			s.begin()
		}
		ended, err := f.step(s, i)
		if err != nil {
			return err
		}
		if i == 0 {
			f.Passes += min(s.passes[0], f.could(s))
			f.Could += f.could(s)
		}
		finished = finished && ended
		if s.passes[i] == 0 {
			break // nothing was begun
		}
	}
	part, least := s.left(s.passes)
	if finished {
		f.Finished++
	}
	if least < film.WayThrough {
		f.Through++
	}
	if part < f.policies[s.section.Key].Floor {
		f.Under++
	}
	return nil
}

// step makes the passes of a step as granted, until it is flat or the last scratch is out
// as a dry wipe shows; ended says whether it is.
func (f *follower) step(s *patch, i int) (ended bool, err error) {
	since, asked := 0, 0
	for s.passes[i] < mostTrial {
		if s.ended(i) {
			return true, nil
		}
		a := f.advice(s, i, since)
		if a.Granted == 0 && s.unread {
			since = 0
			if err := f.read(s); err != nil {
				return false, err
			}
			continue
		}
		if i == 0 && f.Partly && s.passes[0] > 0 && a.Needed == 0 {
			return true, nil
		}
		if a.Granted == 0 {
			return i == 0 && s.passes[0] > 0, nil // the peel stays where the film does not allow more
		}
		n := a.Read
		if a.Needed == 0 {
			n = min(a.Granted, 1) // looked at after each
		}
		if n == 0 {
			if asked++; asked > mostReadings {
				return false, nil
			}
			since = 0
			if err := f.read(s); err != nil {
				return false, err
			}
			continue
		}
		for ; n > 0 && !s.ended(i); n-- {
			s.passes[i]++
			since++
			s.unread = true
		}
	}
	return s.ended(i), nil
}

// ended says whether a step has done what it is for.
func (s *patch) ended(i int) bool {
	if i == 0 {
		return s.passes[0] > 0 && s.reached().SqLong() <= surface.FlatSq
	}
	return s.removed() >= s.bury[i]
}

func (f *follower) advice(s *patch, i, since int) level.Advice {
	sec, _ := f.panel.Study.Section(s.section.Key)
	sec.Policy = f.policies[s.section.Key]
	work := f.panel.Work
	return work.AdviseFor(sec, level.Progress{Own: f.Ladder.StepsOf(""), Passes: s.passes, Step: i, Since: since, Need: max(work.Passes(i)-s.passes[i], 0)})
}

// read takes the first of the section's own spots again; what is far from expected once
// more, and then the odd one is dropped.
func (f *follower) read(s *patch) error {
	s.unread = false
	q := s.own()[0]
	expected := f.panel.Expected(q, s.passes)
	read := func() level.Reading {
		r := s.read(q)
		r.Film = f.gauge.Slip(film.Place{Film: r.Film}).Film
		return r
	}
	r := read()
	f.Readings++
	if _, odd := film.OddFrom(expected, r.Film); odd {
		f.Odd++
		r = read()
	}
	if expected.Covers(r.Film) {
		f.Inside++
	}
	f.readings = append(f.readings, r)
	return f.learn()
}

// could is how many levelling passes somebody who sees everything would make: until it is
// flat, or until the floor and the finer steps want what is left.
func (f *follower) could(s *patch) int {
	wanted := f.policies[s.section.Key].Floor + f.Ladder.Reserve(0)
	n := 0
	for n < mostTrial {
		passes := make([]int, len(s.passes))
		passes[0] = n + 1
		if part, _ := s.left(passes); part < wanted {
			break
		}
		step := f.Ladder.Steps[0]
		if f.Partly && n >= step.Passes {
			break
		}
		if n > 0 && s.peel.Cut(step.Backing, step.D50, s.pass[0][n], step.Scratch).SqLong() <= surface.FlatSq {
			break
		}
		n++
	}
	return n
}
