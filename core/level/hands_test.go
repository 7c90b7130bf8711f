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
func shop(t testing.TB, panels int, seed uint64) []Past {
	t.Helper()
	l := ladder(t)
	rng := rand.New(rand.NewPCG(seed, 5))
	noise := reread(film.UsualGauge)
	var out []Past
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

func learned(t testing.TB, history []Past) Hands {
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
