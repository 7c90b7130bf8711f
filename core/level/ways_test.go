package level

import (
	"math"
	"testing"

	"waxplanus/core/film"
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
	if len(by) != 4 {
		t.Fatalf("%+v", by)
	}
	if by[WayOn].Grade >= by[WayStop].Grade || by[WayFiner].Grade >= by[WayStop].Grade || by[WaySofter].Grade <= by[WayOn].Grade {
		t.Errorf("%+v", by)
	}
	if by[WayFiner].Abrasive.D50 >= by[WayOn].Abrasive.D50 || by[WaySofter].Backing.E >= by[WayOn].Backing.E || by[WayFiner].Passes < by[WayOn].Passes {
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

// What may be spent of a factory finish in all bounds a step too, whatever the clear
// would hold.
func TestRoomIsBoundByWhatMayBeSpent(t *testing.T) {
	w, factory := work(t, nil, 0), film.PolicyFor(film.FactoryFinish)
	least := clearOf(80, 1)
	for n := range 6 {
		passes := []int{n, 0, 0, 0, 0}
		a := w.Advise(least, factory, passes, 0, n)
		left := factory.Cap(80) - w.Taken(passes).Mean - w.ladder.Reserve(0)
		if math.Abs(a.Room-left) > 1e-9 || a.Room >= a.Ledger.Above() {
			t.Errorf("after %d passes %.2f µm of room, %.2f may be spent, %.2f stand above the floor", n, a.Room, left, a.Ledger.Above())
		}
		if one := w.Taken([]int{n + 1, 0, 0, 0, 0}).Mean - w.Taken(passes).Mean; (a.Granted > 0) != (a.Room >= one) {
			t.Errorf("%d passes granted with %.2f µm of room, one takes %.2f", a.Granted, a.Room, one)
		}
	}
	if a := w.Advise(clearOf(60, 3), policy, make([]int, 5), 0, 0); a.Room != a.Ledger.Above() {
		t.Errorf("a fresh refinish has %.2f µm of room, %.2f above the floor", a.Room, a.Ledger.Above())
	}
}
