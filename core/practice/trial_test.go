package practice

import (
	"math"
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

func trialsOf(t testing.TB) Trials {
	t.Helper()
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	things := shelf.Usual()
	choices, err := plan.ParseCode("p1500@rubber*6,3000@foam-disc*6,wool-medium*2,foam-fine*2", &things)
	if err != nil {
		t.Fatal(err)
	}
	l, err := plan.Job{Aim: plan.Flat, Grade: 6, Colour: plan.Dark, Hardness: 1, Area: 0.54e6, Sections: []plan.Rect{{W: 300, H: 300}}, Shelf: things}.Work(choices)
	if err != nil {
		t.Fatal(err)
	}
	return Trials{Ground: film.NewGround(plate.Panels[0]), Ladder: l}
}

// The truth is of two coats, thins with every pass, and comes again from its seed.
func TestTheTruthOfATrial(t *testing.T) {
	b := trialsOf(t)
	for seed := range uint64(4) {
		tr := b.trial(Hidden{CutSpread: 0.34, Before: true}, seed)
		again := b.trial(Hidden{CutSpread: 0.34, Before: true}, seed)
		q := tr.section.Cells[0]
		if d := tr.total.Film(q) - tr.clear.Film(q) - tr.base.Film(q); math.Abs(d) > 1e-9 {
			t.Errorf("both coats are %.2f µm more than their sum", d)
		}
		last := math.Inf(1)
		for n := range 12 {
			if l := tr.least(n); l >= last || l != again.least(n) {
				t.Errorf("after %d passes %.2f µm, before %.2f, again %.2f", n, l, last, again.least(n))
			} else {
				last = l
			}
		}
		if n := tr.could(); tr.least(n) < 40 && n > 0 || n < mostTrial && tr.least(n+1) > 40+b.Ladder.Reserve(0) {
			t.Errorf("%d passes could be made to %.2f µm", n, tr.least(n))
		}
	}
}

// The advice goes below on one section of sixteen at most, also where every cut is far
// faster than anybody knew: reading again finds that. Taking the first grant whole does
// not, and counting on half of the total goes through most.
func TestTheAdviceKeepsItsPromise(t *testing.T) {
	if testing.Short() {
		t.Skip("hundreds of simulated panels take minutes under the race detector")
	}
	const panels = 16
	for _, h := range []Hidden{{CutSpread: 0.34, Before: true}, {CutSpread: 0.34, CutBias: 0.8, Before: true}} {
		by, err := trialsOf(t).Run(h, panels)
		if err != nil {
			t.Fatal(err)
		}
		advice, never, half := by[Advice], by[NeverAgain], by[HalfClear]
		if advice.Sections != panels || advice.Burnt > 3 { // 1 in 10 is accepted of sections that were begun
			t.Errorf("%+v: %d of %d sections went below by the advice", h, advice.Burnt, advice.Sections)
		}
		if h.CutBias > 0 && never.Burnt <= advice.Burnt {
			t.Errorf("%d sections went below without reading again, %d with: these panels try nothing", never.Burnt, advice.Burnt)
		}
		if half.BurntShare() < 0.3 || advice.Given() > 0.5 || advice.Given() < 0 {
			t.Errorf("half of the total burns %.0f %%, the advice gives away %.0f %%", 100*half.BurntShare(), 100*advice.Given())
		}
	}
}

// A plan that is followed as told ends without a standing scratch and without going
// through, whoever's hand it is; hardly a pass is given away, hardly a reading asked for.
func TestFollowedPlansComeToTheirEnd(t *testing.T) {
	if testing.Short() {
		t.Skip("whole panels take minutes under the race detector")
	}
	for _, h := range []Hidden{{CutSpread: 0.34, Before: true}, {CutSpread: 0.5}} {
		f, err := trialsOf(t).Follow(h, 12)
		if err != nil {
			t.Fatal(err)
		}
		n := float64(f.Sections)
		if f.Sections < 12 || float64(f.Finished) < 0.96*n || f.Through > 0 {
			t.Errorf("%+v: of %d sections %d were finished, %d went through", h, f.Sections, f.Finished, f.Through)
		}
		if given := 1 - float64(f.Passes)/float64(f.Could); given > 0.12 || float64(f.Readings) > n {
			t.Errorf("%+v: %.0f %% given away, %d readings on %d sections", h, 100*given, f.Readings, f.Sections)
		}
		if f.Readings > 5 && float64(f.Inside) < 0.75*float64(f.Readings) {
			t.Errorf("%+v: %d of %d readings were as expected", h, f.Inside, f.Readings)
		}
	}
}
