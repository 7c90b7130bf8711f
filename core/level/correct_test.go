package level

import (
	"math"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// correcting is the balanced way to 8 in 10 of the swirls of a dark bonnet.
func correcting(t testing.TB, c surface.Condition) plan.Ladder {
	t.Helper()
	j := plan.Job{Aim: plan.PolishOnly, Grade: 4, Reference: 4, Colour: plan.Dark, Factory: true, Hardness: 1, Area: 1.27e6, Perimeter: 4600,
		Condition: c, Gone: 0.8, Sections: []plan.Rect{{W: 500, H: 420}}, Shelf: shelf.Usual()}
	j.Shelf.Law.Handling = shelf.Handling{} // the passes alone choose
	o, err := plan.Find(j)
	if err != nil {
		t.Fatal(err)
	}
	ways, _, err := o.Offers(40)
	if err != nil || len(ways) == 0 {
		t.Fatal(err)
	}
	return ways[0].Ladder
}

func workOf(t testing.TB, l plan.Ladder) *Work {
	t.Helper()
	w, err := NewWork(l, nil, 0, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	return w
}

func planned(l plan.Ladder) []int {
	out := make([]int, len(l.Steps))
	for i, s := range l.Steps {
		out[i] = s.Passes
	}
	return out
}

// The ledger of a panel counts what dead paint loses, which is more a pass than live paint
// does, and doubts it by how deep it may be.
func TestDeadPaintIsCountedAsItIsCut(t *testing.T) {
	chalked := correcting(t, surface.Condition{Swirls: surface.SwirlsMedium, Dead: surface.DeadHeavy})
	w := workOf(t, chalked)
	if took := w.Taken(planned(chalked)).Mean; math.Abs(took-chalked.Film) > 0.02*chalked.Film+0.05 {
		t.Errorf("the plan takes %.2f µm, the ledger counts %.2f", chalked.Film, took)
	}
	worse := chalked
	worse.Steps = append([]plan.Step(nil), chalked.Steps...)
	worse.DeadUpTo(surface.Depth{Median: 9, Spread: 0.6}, shelf.Usual().Law, 1)
	if a, b := workOf(t, worse).Taken(planned(worse)).Mean, w.Taken(planned(chalked)).Mean; a <= b {
		t.Errorf("where the dead layer is deeper the same passes take %.2f µm, elsewhere %.2f", a, b)
	}
	sure := chalked
	sure.Steps = append([]plan.Step(nil), chalked.Steps...)
	for i := range sure.Steps {
		sure.Steps[i].Dead.Spread = 0
	}
	if a, b := w.Taken(planned(chalked)).SD, workOf(t, sure).Taken(planned(sure)).SD; a <= b {
		t.Errorf("a dead layer of unknown depth leaves a doubt of %.3f µm, a known one %.3f", a, b)
	}
	one := make([]int, len(chalked.Steps))
	one[0] = 1
	if live := chalked.Steps[0].Rate; w.Removed(one) < live/shelf.Usual().Law.Oxidised-1e-9 {
		t.Errorf("a pass takes %.2f µm of dead paint, %.2f of live", w.Removed(one), live)
	}
}

// What is seen of the first section sets the cycles of the others: more where more is left
// than was thought, fewer where less is, and as planned where it is as planned.
func TestALookSetsTheCycles(t *testing.T) {
	c := surface.Condition{Swirls: surface.SwirlsMedium}
	l := correcting(t, c)
	w := workOf(t, l)
	if !w.TakesSwirls(0) {
		t.Fatalf("%v begins otherwise", l.Choices())
	}
	fresh := make([]int, len(l.Steps))
	if n := w.Cycles(c, fresh, 0); n > l.Steps[0].Passes {
		t.Errorf("%d cycles without a look, the plan has %d", n, l.Steps[0].Passes)
	}
	after := func(left float64) (surface.Condition, int) {
		made := make([]int, len(l.Steps))
		made[0] = l.Steps[0].Passes
		seen, err := w.Swirls(c, []SwirlLook{{made, left}})
		if err != nil {
			t.Fatal(err)
		}
		return seen, w.Cycles(seen, fresh, 0)
	}
	deep, many := after(0.5)
	shallow, few := after(0.02)
	if deep.Swirls.Median <= c.Swirls.Median || shallow.Swirls.Median >= c.Swirls.Median || many <= few {
		t.Errorf("half left: %.2f µm and %d cycles; hardly any: %.2f and %d", deep.Swirls.Median, many, shallow.Swirls.Median, few)
	}
	if _, err := w.Swirls(c, []SwirlLook{{planned(l), 1.2}}); err == nil {
		t.Error("more is left than there was")
	}
	chalk := c
	chalk.Dead = surface.Depth{Median: 50, Spread: 0.6}
	if seen, err := w.Swirls(chalk, []SwirlLook{{planned(l), 0.9}}); err != nil || seen != chalk {
		t.Error("a look within the dead layer tells of the swirls below it")
	}
	if w.Removed(planned(l)) < c.Removal(0.8)-0.05 {
		t.Errorf("the plan takes %.2f µm", w.Removed(planned(l)))
	}
}

func TestLooksAndHeatAreInTheLog(t *testing.T) {
	l := correcting(t, surface.Condition{Swirls: surface.SwirlsMedium})
	w := workOf(t, l)
	at := time.Date(2026, 11, 3, 9, 0, 0, 0, time.UTC)
	entry := func(after time.Duration, section string, kind Kind, value float64) Entry {
		m := at.Add(after)
		return Entry{Section: section, Step: 1, Kind: kind, Value: value, Moment: Moment{m, m}}
	}
	log := Log{Ladder: &l, Entries: []Entry{
		entry(0, "A", KindPass, 0), entry(time.Minute, "A", KindPass, 0), entry(2*time.Minute, "A", KindShiny, 0.3),
		entry(2*time.Minute, "B", KindPass, 0), entry(3*time.Minute, "B", KindShiny, 0.6),
	}}
	log.Entries = append(log.Entries, Entry{Section: "A", Step: 1, Kind: KindShiny, Value: 0.9, Struck: true})
	if looks := log.SwirlLooks(w, func(s string) bool { return s == "A" }); len(looks) != 1 || looks[0].Left != 0.3 || looks[0].Passes[0] != 2 {
		t.Errorf("%+v", looks)
	}
	if looks := log.SwirlLooks(w, func(string) bool { return true }); len(looks) != 2 {
		t.Errorf("%+v", looks)
	}
	cool := 90 * time.Second
	if until := log.Warm("A", 2, cool); !until.Equal(at.Add(time.Minute + cool)) {
		t.Errorf("two in a row are warm until %v", until)
	}
	if until := log.Warm("B", 2, cool); !until.IsZero() {
		t.Errorf("one is warm until %v", until)
	}
	log.Entries = append(log.Entries, entry(5*time.Minute, "A", KindPass, 0))
	if until := log.Warm("A", 2, cool); !until.IsZero() {
		t.Errorf("cooled and polished once it is warm until %v", until)
	}
}

// On paint where the doubt would eat what is free, pads are read every few cycles.
func TestThinPaintIsReadEveryFewCycles(t *testing.T) {
	l := correcting(t, surface.Condition{Swirls: surface.SwirlsHeavy})
	w := workOf(t, l)
	// Read once after four cycles, so many are wanted and so many were made since.
	advise := func(clear film.Least, since int) Advice {
		made := make([]int, len(l.Steps))
		made[0] = 4 + since
		return w.AdviseFor(sectionOf(clear), Progress{Own: []int{0, 1}, Passes: made, Since: since, Need: 6 - since})
	}
	thin := clearOf(61, 2)
	thick, now, later := advise(clearOf(90, 3), 0), advise(thin, 0), advise(thin, fewPasses)
	if thick.Read <= fewPasses || now.Left <= fewPasses || now.Read != fewPasses || later.Read != 0 {
		t.Errorf("thick paint is read after %d of %d; thin after %d of %d (free %.2f), and after %d more once %d are made", thick.Read, thick.Left, now.Read, now.Left, now.Ledger.Free, later.Read, fewPasses)
	}
}
