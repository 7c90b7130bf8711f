package level

import (
	"slices"
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

// A cut that readings show to be slower wants more passes for the same film, and more
// to bury the scratch.
func TestPassesWantedFollowTheCut(t *testing.T) {
	usual := work(t, nil, 0)
	at := usual.Rate(0).Mean
	slow := work(t, []Measure{{Passes: []int{6, 0, 0, 0, 0}, Loss: usual.loss([]int{6, 0, 0, 0, 0}, usual.post.Mean, nil) * 0.6, Spot: 0},
		{Passes: []int{6, 0, 0, 0, 0}, Loss: usual.loss([]int{6, 0, 0, 0, 0}, usual.post.Mean, nil) * 0.6, Spot: 1}}, 2)
	if slow.Rate(0).Mean >= at {
		t.Fatalf("%v, usual %v", slow.Rate(0), at)
	}
	if u, s := usual.Passes(0), slow.Passes(0); u != 7 || s <= u || s != slow.Advise(clearOf(90, 2), policy, make([]int, 5), 0, 0).Needed {
		t.Errorf("%d passes by the usual cut, %d by the slow one", u, s)
	}
	u, s := usual.Scratches(1, 1), slow.Scratches(1, 1)
	if u.Old <= 0 || s.Showing <= u.Showing || s.Passes < u.Passes {
		t.Errorf("%+v, slow %+v", u, s)
	}
	fresh := usual.Scratches(1, 0)
	done := usual.Scratches(1, usual.Passes(1))
	if fresh.Showing != 1 || done.Passes != 0 || done.Showing >= u.Showing && u.Passes > 0 {
		t.Errorf("%+v, done %+v", fresh, done)
	}
	if first := usual.Scratches(0, 3); first.Old != 0 || first.Passes != 0 {
		t.Errorf("on gloss there is a scratch to take out: %+v", first)
	}
}

// What is short of film is offered what fits: nothing takes more than there is, going
// on levels better than stopping, a softer backing worse than a stiff one.
func TestWaysFitTheFilm(t *testing.T) {
	w, things := work(t, nil, 0), shelf.Usual()
	const above = 1.6
	by := map[WayCode]Way{}
	for _, way := range w.Ways(things, 1, 0, w.Cutting(0, 2), above) {
		by[way.Code] = way
		if way.Film > above+1e-9 || way.Code != WayStop && way.Passes < 1 {
			t.Errorf("%s takes %.2f of %.2f µm in %d passes", way.Code, way.Film, above, way.Passes)
		}
	}
	if len(by) != 3 {
		t.Fatalf("%+v", by)
	}
	if stop := by[WayStop]; by[WayFiner].Grade >= stop.Grade || by[WaySofter].Grade <= by[WayFiner].Grade || by[WayFiner].Abrasive.D50 >= stop.Abrasive.D50 || by[WaySofter].Backing.E >= stop.Backing.E {
		t.Errorf("%+v", by)
	}
	if none := w.Ways(things, 1, 0, w.Cutting(0, 2), 0); len(none) != 1 || none[0].Code != WayStop {
		t.Errorf("without film there is %+v", none)
	}
	look := Look{Backing: w.ladder.Steps[0].Backing, D50: w.ladder.Steps[0].D50, Scratch: w.ladder.Steps[0].Scratch, Rate: w.Rate(0).Mean, Grade: 7, Passes: 6, Shiny: 0.8}
	rough, smooth := w.CuttingSeen(0, 6, look.See()), w.Cutting(0, 6)
	if rough.Now.Grade() <= smooth.Now.Grade() || rough.Times < smooth.Times {
		t.Errorf("with 80 in 100 still shining peel %.1f at %.2f times the cut, without a look %.1f at %.2f", rough.Now.Grade(), rough.Times, smooth.Now.Grade(), smooth.Times)
	}
	if refine := w.Ways(things, 1, 1, w.Cutting(1, 0), above); refine != nil {
		t.Errorf("a refining step is offered %+v", refine)
	}
}

// Going back costs its passes and all finer steps once more.
func TestGoingBackCostsAllFinerSteps(t *testing.T) {
	w := work(t, nil, 0)
	done, own := []int{7, 2, 3, 0, 0}, []int{0, 1, 2, 3, 4}
	two, four := w.Again(done, own, 0, 2), w.Again(done, own, 0, 4)
	if two.Mean <= 0 || four.Mean <= two.Mean || two.SD <= 0 {
		t.Errorf("%v and %v", two, four)
	}
	later := w.Again(done, own, 2, 2)
	if later.Mean >= two.Mean {
		t.Errorf("back to the third %v, to the first %v", later, two)
	}
}

// Of a factory finish 8 µm may be spent in all, whatever the clear would hold: with all
// that is granted, and the finer steps after it, that much is taken and no more.
func TestWhatMayBeSpentBoundsTheGrant(t *testing.T) {
	const most = 8.0
	w, factory, l := work(t, nil, 0), film.PolicyFor(film.FactoryFinish), ladder(t)
	takes := func(passes ...int) float64 { // by the contact model, the finer steps as planned
		sum := 0.0
		for i, s := range l.Steps {
			if i > 0 {
				sum += s.Film
			}
		}
		return sum + l.Steps[0].Curve().At(float64(passes[0])*l.Steps[0].Rate)
	}
	for n := range 6 {
		a := w.Advise(clearOf(80, 1), factory, []int{n, 0, 0, 0, 0}, 0, n)
		if all := takes(n + a.Granted); a.Granted > 0 && all > most+0.05 {
			t.Errorf("after %d passes %d more are granted, which take %.2f µm in all of %.0f", n, a.Granted, all, most)
		}
		if all := takes(n + a.Granted + 1); all < most-0.05 {
			t.Errorf("after %d passes %d more are granted, and one more would take %.2f µm of %.0f", n, a.Granted, all, most)
		}
	}
	if a := w.Advise(clearOf(80, 1), policy, make([]int, 5), 0, 0); takes(a.Granted) < 2*most {
		t.Errorf("a fresh refinish of 80 µm is granted %d passes, as if %.0f µm bounded it", a.Granted, most)
	}
}

// Every way that is told is granted when it is taken, and what plans the rest anew takes
// less film than what was planned and ends without a scratch.
func TestWaysAreGrantedWhenTaken(t *testing.T) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	l := ladder(t)
	p, err := OpenPanel(film.NewGround(plate.Panels[0]), film.Facts{History: film.History{Finish: film.Refinished, Coats: 2}}, readings(150), &l, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	job := plan.Job{Aim: plan.Flat, Grade: 7, Colour: plan.Dark, Hardness: 1, Area: 0.54e6, Sections: []plan.Rect{{W: 300, H: 300}}, Shelf: shelf.Usual()}
	sec := p.Study.Sections[0]
	seen := map[WayCode]int{}
	for _, passes := range [][]int{{0, 0, 0, 0, 0}, {3, 0, 0, 0, 0}, {7, 0, 0, 0, 0}, {7, 1, 0, 0, 0}, {7, 2, 3, 0, 0}} {
		step := 0
		for step < 4 && passes[step+1] > 0 {
			step++
		}
		for _, step := range []int{step, step + 1} {
			for _, floor := range []float64{20, 28, 32, 36, 40} {
				sec := sec
				sec.Policy.Floor = floor
				at := Progress{Own: l.StepsOf(""), Passes: passes, Step: step, Need: max(p.Work.Passes(step)-passes[step], 0)}
				ways, err := p.Anew(sec, at, job, nil)
				if err != nil {
					t.Fatal(err)
				}
				done, upto := p.Work.Done(at)
				planned := p.Work.Taken(p.Work.toTheEnd(at, at.Need)).Mean - p.Work.Taken(passes).Mean
				for _, way := range ways {
					seen[way.Code]++
					if way.Rest == nil {
						continue
					}
					steps, err := job.Continued(done, way.Rest, way.Levels)
					if err != nil {
						t.Fatal(err)
					}
					anew := l
					anew.Rest(sec.Key, upto, steps, true)
					as, err := p.Under(anew)
					if err != nil {
						t.Fatal(err)
					}
					own := anew.StepsOf(sec.Key)
					a := as.Work.AdviseFor(sec, Progress{Own: own, Passes: append(slices.Clone(passes), make([]int, len(steps))...), Step: own[upto]})
					if a.Granted < way.Passes {
						t.Errorf("%v at step %d, floor %v: %s of %d passes is told, %d are granted", passes, step, floor, way.Code, way.Passes, a.Granted)
					}
					if last := steps[len(steps)-1]; last.Scratch > job.Colour.Haze(job.Shelf.Law)+1e-9 {
						t.Errorf("%s leaves scratches of %.2f µm", way.Code, last.Scratch)
					}
					if way.Code == WayShort && way.Film >= planned {
						t.Errorf("%v at step %d: the rest anew takes %.2f µm, as planned %.2f", passes, step, way.Film, planned)
					}
				}
			}
		}
	}
	for _, c := range []WayCode{WayOn, WayStop, WayFiner, WaySofter, WayShort} {
		if seen[c] == 0 {
			t.Errorf("nowhere is %s told: %v", c, seen)
		}
	}
}
