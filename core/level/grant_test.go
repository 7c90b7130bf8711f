package level

import (
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
)

// begun is a section on which the levelling step was made and a finishing step is in hand.
func begun(step int, passes ...int) Progress {
	return Progress{Own: []int{0, 1, 2, 3, 4}, Passes: passes, Step: step}
}

// A step that takes scratches out is granted ahead of the floor up to the passes that it may
// want, and past them like any other: whoever taps on and on comes to an end with clear left.
func TestFinishingStepsEnd(t *testing.T) {
	w := work(t, nil, 0)
	for mean := 30.0; mean <= 70; mean += 5 {
		for step := 1; step < 5; step++ {
			at := begun(step, 7, 2, 3, 2, 2)
			for i := step; i < 5; i++ {
				at.Passes[i] = 0
			}
			n := 0
			for ; n < 200; n++ {
				if w.AdviseFor(sectionOf(clearOf(mean, 3)), at).Granted == 0 {
					break
				}
				at.Passes[step]++
			}
			gone := w.Taken(at.Passes)
			if left := mean - gone.Mean - 2*gone.SD; n == 200 || left < film.WayThrough-1 && n > 0 {
				t.Errorf("a clear of %.0f µm: %d passes of step %d, then %.1f µm are left at the least", mean, n, step+1, left)
			}
			// Under its floor nothing past the count is granted.
			if past := at.Passes[step] > w.most[step]; past && mean-gone.Mean < policy.Floor-3 {
				t.Errorf("a clear of %.0f µm with %.1f gone: %d passes of step %d, %d are its most", mean, gone.Mean, at.Passes[step], step+1, w.most[step])
			}
		}
	}
}

// What was tapped counts in full, however soon the step should have been through.
func TestNothingTappedLeavesTheSum(t *testing.T) {
	w := work(t, nil, 0)
	clear := sectionOf(clearOf(60, 3))
	last := -1.0
	for n := 1; n <= 30; n += 3 {
		at := begun(1, 7, n, 0, 0, 0)
		o := w.prospect(clear, at).after(0)
		if o.Under < last-1e-9 {
			t.Errorf("%d passes made: K %.4f, fewer had %.4f", n, o.Under, last)
		}
		last = o.Under
	}
	if last < 0.5 {
		t.Errorf("30 passes of a refining step leave K at %.3f", last)
	}
}

// Open is never said of what lies under its floor, and an override stays clear of the way through.
func TestOpenIsNotSaidUnderTheFloor(t *testing.T) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	l := ladder(t)
	p, err := OpenPanel(film.NewGround(plate.Panels[0]), film.Facts{History: film.History{Finish: film.Refinished, Coats: 2}}, readings(130), &l, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	sec := p.Study.Sections[0]
	for step := range 5 {
		for n := 0; n <= 40; n += 4 {
			at := begun(step, 7, 0, 0, 0, 0)
			at.Passes[step] += n
			at.Need = 1
			st := p.StandingAt(sec, at, false)
			if st.State == film.Open && st.Clear.Mean < sec.Policy.Floor {
				t.Errorf("step %d, %d passes: open with %.1f µm under a floor of %.0f", step+1, n, st.Clear.Mean, sec.Policy.Floor)
			}
			if a := p.Work.AdviseFor(sec, at); a.Over && a.Ledger.Balance.Mean-2*a.Takes.Mean < film.WayThrough {
				t.Errorf("step %d, %d passes: somebody may answer for one more with %.1f µm left", step+1, n, a.Ledger.Balance.Mean)
			}
			if st.CanGo() < 0 {
				t.Errorf("%.2f µm can go", st.CanGo())
			}
		}
	}
}

// A plan that is accepted is granted in full at its first step on every section that it works,
// and a section that it does not work says why.
func TestWhatIsAcceptedIsGranted(t *testing.T) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	ground := film.NewGround(plate.Panels[0])
	l := ladder(t)
	worked, left := 0, 0
	for coats := 1; coats <= 4; coats++ {
		for total := 90.0; total <= 190; total += 20 {
			p, err := OpenPanel(ground, film.Facts{History: film.History{Finish: film.Refinished, Coats: coats}}, readings(total), nil, film.UsualGauge)
			if err != nil {
				t.Fatal(err)
			}
			p = p.By(Crew{}, l)
			for _, sec := range p.Study.Sections {
				a := p.Accepts(sec, false)
				if !a.Worked {
					left++
					if a.State != film.Shut {
						t.Errorf("%d coats of %.0f: not worked, and %s", coats, total, a.State)
					}
					continue
				}
				worked++
				sec.Policy = sec.Policy.Accepting(a.Under)
				at := Progress{Own: l.StepsOf(""), Passes: make([]int, len(l.Steps)), Need: p.Work.Passes(0)}
				if got := p.Work.AdviseFor(sec, at); got.Granted < l.Steps[0].Passes || a.Risk != sec.Policy.Risk {
					t.Errorf("%d coats of %.0f: accepted as %s with %.3f, %d of %d passes are granted", coats, total, a.State, a.Risk, got.Granted, l.Steps[0].Passes)
				}
			}
		}
	}
	if worked == 0 || left == 0 {
		t.Errorf("%d sections are worked and %d left: the test sees one kind only", worked, left)
	}
}

// After going back to a coarser step the finer ones are wanted, and granted, once more.
func TestGoingBackWantsTheFinerStepsAgain(t *testing.T) {
	w := work(t, nil, 0)
	once := begun(1, 9, w.most[1], 0, 0, 0)
	again := once
	again.Before = []int{7, w.most[1], 0, 0, 0}
	clear := sectionOf(clearOf(46, 3)) // under its floor by now
	if a, b := w.AdviseFor(clear, once), w.AdviseFor(clear, again); a.Granted >= b.Granted || b.Granted == 0 {
		t.Errorf("%d passes are granted past the count, %d after going back", a.Granted, b.Granted)
	}
	log := Log{Ladder: &plan.Ladder{Steps: make([]plan.Step, 3)}, Entries: []Entry{
		{Section: "a", Step: 1, Kind: KindPass}, {Section: "a", Step: 2, Kind: KindPass}, {Section: "b", Step: 2, Kind: KindPass},
		{Section: "a", Step: 1, Kind: KindBack}, {Section: "a", Step: 2, Kind: KindPass}}}
	if got := log.BeforeBack("a"); len(got) != 3 || got[0] != 0 || got[1] != 1 || log.BeforeBack("b") != nil {
		t.Errorf("before going back %v, elsewhere %v", got, log.BeforeBack("b"))
	}
}

// A section that a plan leaves as it is has a state too: nothing of it goes by that plan.
func TestASectionThatIsLeftIsShut(t *testing.T) {
	w := work(t, nil, 0)
	ladder := w.ladder
	ladder.Rests = map[string][]int{"left": nil}
	sec := sectionOf(clearOf(90, 3))
	sec.Key = "left"
	a := Panel{Work: &Work{ladder: ladder}}.Accepts(sec, false)
	if a.State != film.Shut || a.Worked {
		t.Errorf("%q, worked: %t", a.State, a.Worked)
	}
}
