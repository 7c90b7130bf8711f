package level

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

func ladder(t testing.TB) plan.Ladder {
	t.Helper()
	things := shelf.Usual()
	choices, err := plan.ParseCode("p2000@rubber*7,p2500-foam@foam-disc*2,3000@foam-disc*3,wool-medium*2,foam-fine*2", &things)
	if err != nil {
		t.Fatal(err)
	}
	l, err := plan.Job{Aim: plan.Flat, Grade: 7, Colour: plan.Dark, Hardness: 1, Area: 0.54e6, Sections: []plan.Rect{{W: 450, H: 300}}, Shelf: things}.Work(choices)
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func work(t *testing.T, measures []Measure, spots int) *Work {
	t.Helper()
	w, err := NewWork(ladder(t), measures, spots, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	return w
}

var policy = film.PolicyFor(film.Refinished)

// sectionOf is a section of a clear under much film, held to the usual policy.
func sectionOf(least film.Least) film.SectionFilm {
	return film.SectionFilm{Film: film.Estimate{Mean: amplyFilmed}, Least: least, Policy: policy}
}

func clearOf(mean, sd float64) film.Least { return film.NormalLeast(film.Estimate{Mean: mean, SD: sd}) }

func TestPassesLeftNeverGrowByPassing(t *testing.T) {
	w := work(t, nil, 0)
	last := math.MaxInt
	balance := math.Inf(1)
	for n := range 14 {
		a := w.Advise(clearOf(62, 4), policy, []int{n, 0, 0, 0, 0}, 0, n)
		if a.Granted >= last && last > 0 {
			t.Errorf("after %d passes %d are granted, %d before the last", n, a.Granted, last)
		}
		if a.Ledger.Balance.Mean >= balance {
			t.Errorf("pass %d leaves %.2f µm, was %.2f", n, a.Ledger.Balance.Mean, balance)
		}
		last, balance = a.Granted, a.Ledger.Balance.Mean
	}
}

func TestThinnerClearIsGrantedNoMore(t *testing.T) {
	w := work(t, nil, 0)
	last := 0
	for mean := 40.0; mean <= 80; mean += 2 {
		a := w.Advise(clearOf(mean, 4), policy, make([]int, 5), 0, 0)
		if a.Granted < last {
			t.Errorf("clear of %v is granted %d passes, 2 µm less was granted %d", mean, a.Granted, last)
		}
		last = a.Granted
	}
	if last < 10 {
		t.Errorf("a clear of 80 µm is granted only %d passes", last)
	}
	if a := w.Advise(clearOf(41, 4), policy, make([]int, 5), 0, 0); a.Granted != 0 || a.Left != 0 {
		t.Errorf("a clear at the floor is granted %d passes", a.Granted)
	}
}

func TestLedgerAddsUp(t *testing.T) {
	w := work(t, []Measure{{Passes: []int{3, 0, 0, 0, 0}, Loss: 3.1, Spot: 0}}, 1)
	for _, passes := range [][]int{{0, 0, 0, 0, 0}, {4, 0, 0, 0, 0}, {8, 2, 0, 0, 0}} {
		for step := range 2 {
			l := w.Advise(clearOf(60, 5), policy, passes, step, 0).Ledger
			sum := l.Gone.Mean + l.Next + l.Free + l.Doubt + l.Reserve + l.Floor
			if math.Abs(sum-l.Opening.Mean) > 1e-6 {
				t.Errorf("passes %v step %d: the parts are %.4f, the opening %.4f", passes, step, sum, l.Opening.Mean)
			}
			if l.Doubt <= 0 || l.Gone.Mean < 0 {
				t.Errorf("passes %v: %+v", passes, l)
			}
		}
	}
}

// What follows the next passes without a reading is what asking again says.
func TestAdviceAhead(t *testing.T) {
	w := work(t, nil, 0)
	first := w.Advise(clearOf(62, 4), policy, []int{1, 0, 0, 0, 0}, 0, 1)
	for n := 1; n <= first.Granted+1; n++ {
		again, ahead := w.Advise(clearOf(62, 4), policy, []int{1 + n, 0, 0, 0, 0}, 0, 1+n), first.After(n)
		if again.Granted != ahead.Granted || again.Needed != ahead.Needed || again.Left != ahead.Left || again.Granted > 0 && again.Read != ahead.Read {
			t.Errorf("%d passes on: granted %d, left %d, read %d; the table says %d, %d, %d", n, again.Granted, again.Left, again.Read, ahead.Granted, ahead.Left, ahead.Read)
		}
	}
}

// What is granted keeps the risk by a count of its own: clears, hands and places drawn by
// the spreads that stand in the docs, and the film of the contact model for each.
func TestGrantKeepsTheRisk(t *testing.T) {
	w, l := work(t, nil, 0), ladder(t)
	const draws = 6000
	step := l.Steps[0]
	curve, sd := step.Curve(), math.Sqrt(0.20*0.20+0.20*0.20+0.15*0.15+0.10*0.10) // person, paint, abrasive, step
	reserve := 0.0
	for _, s := range l.Steps[1:] {
		reserve += s.Film
	}
	under := func(n int) float64 {
		rng := rand.New(rand.NewPCG(11, 3))
		below := 0
		for range draws {
			cut := sd*rng.NormFloat64() + math.Hypot(0.12, 0.15/math.Sqrt(float64(n)))*rng.NormFloat64()
			lost := (1 + film.ThinPart*0.12) * curve.At(float64(n)*step.Rate*math.Exp(cut)) // the place that decides was cut more
			if 66+4*rng.NormFloat64()-lost < 40+(1+film.ThinPart*0.12)*reserve {
				below++
			}
		}
		return float64(below) / draws
	}
	a := w.Advise(clearOf(66, 4), policy, make([]int, 5), 0, 0)
	limit := film.DefaultRisk // so many are more than the plan has
	if got, more := under(a.Granted), under(a.Granted+2); got > 1.2*limit || more < 0.75*limit {
		t.Errorf("%d passes are granted: %.3f end under the floor, %.2f is accepted; of two more %.3f", a.Granted, got, limit, more)
	}
}

func TestFasterCutIsLearned(t *testing.T) {
	plain := work(t, nil, 0)
	nominal := plain.Taken([]int{5, 0, 0, 0, 0}).Mean
	fast := work(t, []Measure{
		{Passes: []int{5, 0, 0, 0, 0}, Loss: 1.4 * nominal, Spot: 0},
		{Passes: []int{5, 0, 0, 0, 0}, Loss: 1.4 * nominal, Spot: 1},
	}, 2)
	a, b := plain.Rate(0), fast.Rate(0)
	if b.Mean <= a.Mean || b.SD/b.Mean >= a.SD/a.Mean {
		t.Errorf("after reading more loss the rate is %v, was %v", b, a)
	}
	if g, h := plain.Advise(clearOf(62, 3), policy, []int{5, 0, 0, 0, 0}, 0, 0).Ledger.Gone.Mean, fast.Advise(clearOf(62, 3), policy, []int{5, 0, 0, 0, 0}, 0, 0).Ledger.Gone.Mean; h <= g {
		t.Errorf("after reading more loss %.2f µm are gone, not more than %.2f", h, g)
	}
	if c := fast.Rate(1); c.Mean <= plain.Rate(1).Mean {
		t.Error("a fast hand is not expected to be fast with the next grit")
	}
}

func TestLearningDoesNotMindTheOrder(t *testing.T) {
	m := []Measure{{[]int{2, 0, 0, 0, 0}, 1.1, 0}, {[]int{6, 0, 0, 0, 0}, 5.2, 0}, {[]int{8, 2, 0, 0, 0}, 7.4, 1}}
	a := work(t, m, 2)
	b := work(t, []Measure{m[2], m[0], m[1]}, 2)
	for i := range 5 {
		if x, y := a.Rate(i), b.Rate(i); math.Abs(x.Mean-y.Mean) > 1e-6 || math.Abs(x.SD-y.SD) > 1e-6 {
			t.Errorf("step %d: %v and %v from the same readings", i+1, x, y)
		}
	}
}

func TestWildReadingDoesNotWreckTheRate(t *testing.T) {
	w := work(t, []Measure{{[]int{4, 0, 0, 0, 0}, -30, 0}}, 1)
	if r := w.Rate(0); r.Mean <= 0.05 || math.IsNaN(r.Mean) {
		t.Errorf("a reading that says film grew gives a rate of %v", r)
	}
}

// A reading is asked for where the film about to go is doubtful, and not where it tells
// nothing that matters.
func TestReadWhereItTells(t *testing.T) {
	for _, c := range []struct {
		n, since int
		unread   bool
		takes    film.Estimate
		want     int
	}{
		{0, 0, true, film.Estimate{}, 0},
		{3, 0, true, film.Estimate{Mean: 1.2, SD: 0.4}, 3},
		{8, 0, true, film.Estimate{Mean: 3, SD: 1}, 5},
		{8, 0, true, film.Estimate{Mean: 6, SD: 2}, 4},
		{30, 0, true, film.Estimate{Mean: 20, SD: 7}, 5},
		{6, 4, true, film.Estimate{Mean: 6, SD: 2}, 1},
		{8, 0, false, film.Estimate{Mean: 6, SD: 2}, 8},
		{8, 2, false, film.Estimate{Mean: 9, SD: 3}, 3},
	} {
		if got := ReadAfter(c.n, c.since, c.unread, c.takes, 4); got != c.want {
			t.Errorf("%+v: read after %d", c, got)
		}
	}
}

func readings(film float64) []Reading {
	var out []Reading
	for _, x := range []float64{150, 450, 750} {
		for _, y := range []float64{150, 450} {
			out = append(out, Reading{X: x, Y: y, Film: film})
		}
	}
	return out
}

func TestPanelUsesReadingsAfterPasses(t *testing.T) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	p, l, facts := plate.Panels[0], ladder(t), film.Facts{History: film.History{Finish: film.Refinished, Coats: 4}}
	five := []int{5, 0, 0, 0, 0}
	open := func(more ...Reading) Panel {
		o, err := OpenPanel(film.NewGround(p), facts, append(readings(160), more...), &l, film.UsualGauge)
		if err != nil {
			t.Fatal(err)
		}
		return o
	}
	before := open()
	same := open(Reading{X: 152, Y: 149, Film: 150, Passes: five})
	if same.Work.Readings() != 1 || same.Study.Mean != before.Study.Mean {
		t.Error("a reading of a known spot has to teach the cut and leave the map of before alone")
	}
	fresh := open(Reading{X: 300, Y: 300, Film: 155, Passes: five})
	if fresh.Work.Readings() != 0 {
		t.Error("a reading of a new spot teaches no cut")
	}
	a := before.Study.At(300, 300)
	b := fresh.Study.At(300, 300)
	if b.SD >= a.SD {
		t.Errorf("a reading after passes leaves the doubt of its spot at %.2f, was %.2f", b.SD, a.SD)
	}
	if gone := before.Work.Taken(five).Mean; math.Abs(b.Mean-155-gone) > 3 {
		t.Errorf("155 after passes that took %.1f µm gives %.1f before them", gone, b.Mean)
	}
	if _, err := OpenPanel(film.NewGround(p), facts, nil, &l, film.UsualGauge); !errors.Is(err, film.ErrReadings) {
		t.Errorf("a panel without readings gives %v", err)
	}
}

func TestStandingFallsWithPasses(t *testing.T) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	l := ladder(t)
	p, err := OpenPanel(film.NewGround(plate.Panels[0]), film.Facts{History: film.History{Finish: film.Refinished, Coats: 4}}, readings(160), &l, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	s, all := p.Study.Sections[0], []int{0, 1, 2, 3, 4}
	last := p.StandingAt(s, Progress{Own: all, Passes: make([]int, 5), Step: 0, Since: 0, Need: p.Work.Passes(0)}, false)
	fresh := p.Standing(s, film.Spend{Estimate: film.Estimate{Mean: l.Film}}, false)
	if math.Abs(last.Headroom-fresh.Headroom) > 0.05 || math.Abs(last.Spend-fresh.Spend) > 0.3 {
		t.Errorf("before the first pass %+v, without a record %+v", last, fresh)
	}
	for n := 1; n <= 8; n++ {
		passes := []int{n, 0, 0, 0, 0}
		st := p.StandingAt(s, Progress{Own: all, Passes: passes, Step: 0, Since: 0, Need: max(p.Work.Passes(0)-passes[0], 0)}, false)
		if st.Headroom >= last.Headroom || st.Spend > last.Spend || st.Film.Mean >= last.Film.Mean {
			t.Errorf("pass %d: %+v after %+v", n, st, last)
		}
		last = st
	}
	if r := p.StandingAt(s, Progress{Own: all, Passes: []int{8, 3, 4, 2, 2}, Step: 5}, false).Spend; r != 0 {
		t.Errorf("after the last step %.2f µm are still wanted", r)
	}
}

func BenchmarkAdvise(b *testing.B) {
	l := ladder(b)
	w, err := NewWork(l, []Measure{{Passes: []int{3, 0, 0, 0, 0}, Loss: 2.4, Spot: 0}}, 6, film.UsualGauge)
	if err != nil {
		b.Fatal(err)
	}
	part, thin := make([]float64, 320), make([]float64, 320)
	for i := range part {
		part[i], thin[i] = 0.9+0.005*float64(i%17), 0.8+0.005*float64(i%17)
	}
	clear := film.LeastOf(clearcoat.Of(clearcoat.Known{Finish: clearcoat.Refinish, Coats: 3}), part, thin)
	for b.Loop() {
		w.Advise(clear, policy, []int{3, 0, 0, 0, 0}, 0, 1)
	}
}

func BenchmarkNewWork(b *testing.B) {
	l := ladder(b)
	for b.Loop() {
		if _, err := NewWork(l, []Measure{{Passes: []int{3, 0, 0, 0, 0}, Loss: 2.4, Spot: 0}}, 6, film.UsualGauge); err != nil {
			b.Fatal(err)
		}
	}
}
