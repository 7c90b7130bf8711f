package level

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"waxplanus/core/film"
)

// shop makes a history: Tove cuts a quarter more than the table, Issa a tenth less,
// on so many panels, six passes of the first step read on two spots each.
func shop(t testing.TB, panels int, seed uint64) []WorkedSpot {
	t.Helper()
	l := ladder(t)
	rng := rand.New(rand.NewPCG(seed, 5))
	noise := reread(film.UsualGauge)
	var out []WorkedSpot
	for p := range panels {
		who, cut := "Tove", math.Log(1.25)
		if p%2 == 1 {
			who, cut = "Issa", math.Log(0.9)
		}
		var rs []Reading
		passes := []int{6, 0, 0, 0, 0}
		step := l.Steps[0]
		took := step.Curve().At(6*step.Rate*math.Exp(cut+0.1*rng.NormFloat64())) + step.GaugeOffset()
		for _, x := range []float64{100, 300} {
			before := 160 + noise*rng.NormFloat64()
			rs = append(rs, Reading{X: x, Y: 100, Film: before}, Reading{X: x, Y: 100, Film: 160 - took + noise*rng.NormFloat64(), Passes: passes})
		}
		out = append(out, History(fmt.Sprint("panel", p), slices.Repeat([]string{who}, len(l.Steps)), fmt.Sprint("paint", p), rs, l)...)
	}
	return out
}

func learned(t testing.TB, history []WorkedSpot) Hands {
	t.Helper()
	h, err := LearnHands(history, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	return h
}

// factor is how much more than the table a person cuts with the first step, and
// the doubt of it as a logarithm.
func factor(t testing.TB, h Hands, who string) (mean, sd float64) {
	t.Helper()
	w, err := NewWorkBy(Crew{h, slices.Repeat([]string{who}, 5), "new paint"}, ladder(t), nil, 0, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	r := w.Rate(0)
	return r.Mean / ladder(t).Steps[0].Rate, r.SD / r.Mean
}

func TestHandsAreLearnedFromTheWholeShop(t *testing.T) {
	history := shop(t, 16, 3)
	h := learned(t, history)
	tove, sure := factor(t, h, "Tove")
	issa, _ := factor(t, h, "Issa")
	nobody, wide := factor(t, h, "Runa")
	table, widest := factor(t, Hands{}, "Tove")
	if tove < 1.1 || tove-issa < 0.1 || math.Abs(table-1) > 1e-9 {
		t.Errorf("Tove cuts %.2f of the table, Issa %.2f, without a history %.2f", tove, issa, table)
	}
	if !(sure < wide && wide < widest) || math.Abs(nobody-1) > 0.15 {
		t.Errorf("doubts: known %.2f, new to the shop %.2f, no history %.2f; the new one cuts %.2f", sure, wide, widest, nobody)
	}
	if p, c := h.Readings("Tove", Classes(ladder(t))[0]); p != 16 || c != 32 {
		t.Errorf("%d readings of Tove, %d of the grit", p, c)
	}
}

// The same history in another order gives the same, and one reading of another
// panel by mistake does not move what the rest says.
func TestHistoryHasNoOrderAndBearsASlip(t *testing.T) {
	history := shop(t, 12, 4)
	a, sd := factor(t, learned(t, history), "Tove")
	turned := slices.Clone(history)
	slices.Reverse(turned)
	if b, _ := factor(t, learned(t, turned), "Tove"); math.Abs(a-b) > 1e-6 {
		t.Errorf("%.6f of the table, turned round %.6f", a, b)
	}
	slip := slices.Clone(history)
	slip[0].Loss += 40
	if b, _ := factor(t, learned(t, slip), "Tove"); math.Abs(math.Log(b/a)) > 1.2*sd {
		t.Errorf("one slip of 40 µm moves %.2f to %.2f, doubt %.2f", a, b, sd)
	}
}

// Each step is by its own person: who refines is not taken for who levels.
func TestEachStepIsByItsPerson(t *testing.T) {
	h := learned(t, shop(t, 16, 3))
	w, err := NewWorkBy(Crew{h, []string{"Tove", "Issa", "Issa", "Issa", "Tove"}, "new paint"}, ladder(t), nil, 0, film.UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	tove, _ := factor(t, h, "Tove")
	if got := w.Rate(0).Mean / ladder(t).Steps[0].Rate; math.Abs(got-tove) > 1e-9 {
		t.Errorf("Tove's step cuts %.4f of the table, Tove alone %.4f", got, tove)
	}
	second, last := w.Rate(1).Mean/ladder(t).Steps[1].Rate, w.Rate(4).Mean/ladder(t).Steps[4].Rate
	if second >= last {
		t.Errorf("Issa's step cuts %.2f of the table, Tove's %.2f", second, last)
	}
}

func BenchmarkLearnHands(b *testing.B) {
	history := shop(b, 60, 1)
	for b.Loop() {
		learned(b, history)
	}
}

// jointly fits a history with every unknown in one vector: what LearnHands has to give.
func jointly(t *testing.T, history []WorkedSpot) (names []string, p Posterior) {
	t.Helper()
	index, sds := map[string]int{}, []float64{}
	unknown := func(name string, sd float64) int {
		if i, known := index[name]; known {
			return i
		}
		index[name], sds, names = len(sds), append(sds, sd), append(names, name)
		return index[name]
	}
	noise := reread(film.UsualGauge)
	var obs []Observation
	for _, h := range history {
		var on [][]int
		for k, c := range h.Cuts {
			u := c.unknowns()
			on = append(on, []int{unknown(u[0], PersonSpread), unknown(u[1], PaintSpread), unknown(u[2], AbrasiveSpread), unknown(fmt.Sprint(h.Panel, " step ", h.Step[k]), StepSpread)})
		}
		spot := unknown(fmt.Sprint(h.Panel, " spot ", h.Spot), noise)
		obs = append(obs, Observation{Measured: h.Loss, SD: noise, Predict: func(x []float64) float64 {
			sum := h.Offset + x[spot]
			for k, at := range on {
				sum += h.Curves[k].At(h.Moved[k] * math.Exp(x[at[0]]+x[at[1]]+x[at[2]]+x[at[3]]))
			}
			return sum
		}})
	}
	p, err := Learn(sds, obs)
	if err != nil {
		t.Fatal(err)
	}
	return names, p
}

// Marginalising what each panel has to itself changes nothing of what is learned: spots
// that were read again and again, a slip among them, and two steps on one panel.
func TestMarginalisedIsWhatAllAtOnceGives(t *testing.T) {
	l := ladder(t)
	history := shop(t, 5, 3)
	var again []Reading
	for i, loss := range []float64{0, 2.1, 4.4, 5.2, 19, 6.6} { // the fifth is a slip
		again = append(again, Reading{X: 100, Y: 100, Film: 160 - loss, Passes: []int{2 * i, i / 3, 0, 0, 0}})
	}
	history = append(history, History("again", []string{"Issa", "Tove", "Tove", "Tove", "Tove"}, "paint1", again, l)...)
	names, want := jointly(t, history)
	got := learned(t, history)
	for i, name := range got.names {
		j := slices.Index(names, name)
		if math.Abs(got.post.Mean[i]-want.Mean[j]) > 1e-4 {
			t.Errorf("%s is %.5f, all at once %.5f", name, got.post.Mean[i], want.Mean[j])
		}
		for k, other := range got.names {
			if a, b := got.post.Cov.At(i, k), want.Cov.At(j, slices.Index(names, other)); math.Abs(a-b) > 2e-4 {
				t.Errorf("covariance of %s and %s is %.6f, all at once %.6f", name, other, a, b)
			}
		}
	}
}

// BenchmarkHandsOfManyPanels is a shop of 200 worked panels, each read again three times on 16
// spots.
func BenchmarkHandsOfManyPanels(b *testing.B) {
	l := ladder(b)
	rng := rand.New(rand.NewPCG(7, 5))
	noise := reread(film.UsualGauge)
	var history []WorkedSpot
	for p := range 200 {
		var rs []Reading
		for spot := range 16 {
			x := 60 * float64(spot+1)
			rs = append(rs, Reading{X: x, Y: 100, Film: 160 + noise*rng.NormFloat64()})
			for n := 2; n <= 6; n += 2 {
				took := l.Steps[0].Curve().At(float64(n) * l.Steps[0].Rate)
				rs = append(rs, Reading{X: x, Y: 100, Film: 160 - took + noise*rng.NormFloat64(), Passes: []int{n, 0, 0, 0, 0}})
			}
		}
		who := []string{"Tove", "Issa", "Runa", "Nele"}[p%4]
		history = append(history, History(fmt.Sprint("panel", p), slices.Repeat([]string{who}, len(l.Steps)), fmt.Sprint("paint", p/5), rs, l)...)
	}
	for b.Loop() {
		if _, err := LearnHands(history, film.UsualGauge); err != nil {
			b.Fatal(err)
		}
	}
}
