package clearcoat

import (
	"fmt"
	"math"
	"testing"
)

var stories = map[string]Known{
	"three coats":           {Finish: Refinish, Coats: 3},
	"three coats over 130":  {Finish: Refinish, Coats: 3, Total: Value{Mean: 130}},
	"nobody knows":          {Finish: Refinish, Total: Value{Mean: 150}},
	"over the car's finish": {Finish: Refinish, Total: Value{Mean: 214}, Under: UnderOver, Car: 110},
	"on a new part":         {Finish: Refinish, Coats: 2, Coat: 24, Total: Value{Mean: 160}, Under: UnderNew},
	"read before":           {Finish: Refinish, Coats: 3, Total: Value{Mean: 166}, Measured: []Value{{63, 2}}},
	"factory":               {Finish: Factory, Total: Value{Mean: 115}},
	"factory, not read":     {Finish: Factory, Total: Value{Mean: 115, SD: 20}},
	"polished":              {Finish: Factory, Total: Value{Mean: 115}, Polished: true},
	"single stage":          {Finish: SingleStage, Total: Value{Mean: 110}},
	"hardly any film":       {Finish: Refinish, Coats: 4, Total: Value{Mean: 12}},
	"as much as it can be":  {Finish: Refinish, Coats: 9, Total: Value{Mean: 2000}},
}

// Every story gives a distribution: its chances rise from 0 to 1, its quantiles are
// their inverse, and no clear is thicker than the whole film.
func TestEveryStoryIsADistribution(t *testing.T) {
	for name, k := range stories {
		d := Of(k)
		if !d.Known() || math.Abs(d.Over(func(float64) float64 { return 1 })-1) > 1e-9 {
			t.Errorf("%s: the chances do not sum to 1", name)
			continue
		}
		last := 0.0
		for x := -1.0; x <= Most+1; x += 0.25 {
			p := d.Under(x)
			if p < last-1e-12 || p > 1+1e-9 {
				t.Fatalf("%s: under %v with chance %v after %v", name, x, p, last)
			}
			last = p
		}
		for _, q := range []float64{0.05, 0.5, 0.95} {
			if got := d.Under(d.Quantile(q)); math.Abs(got-q) > 1e-6 {
				t.Errorf("%s: under its %v quantile with chance %v", name, q, got)
			}
		}
		if k.Total.Mean > 0 && d.Quantile(0.9999) > k.Total.Mean+Step {
			t.Errorf("%s: a clear of %v in a film of %v", name, d.Quantile(0.9999), k.Total.Mean)
		}
		if s := d.Shape(2); len(s) == 0 || len(s) > 126 {
			t.Errorf("%s: a shape of %d steps", name, len(s))
		}
	}
}

func TestWhatIsKnownMovesTheClear(t *testing.T) {
	mean := func(k Known) float64 { return Of(k).Mean() }
	sd := func(k Known) float64 { return Of(k).SD() }
	with := func(k Known, change func(*Known)) Known { change(&k); return k }
	three := stories["three coats over 130"]
	for name, c := range map[string]struct{ less, more float64 }{
		"one coat more":        {mean(three), mean(with(three, func(k *Known) { k.Coats = 4 }))},
		"more film in all":     {mean(three), mean(with(three, func(k *Known) { k.Total.Mean = 170 }))},
		"a shop of thin coats": {mean(with(three, func(k *Known) { k.Ratio = Value{0.8, 0.05} })), mean(three)},
		"polished before":      {mean(stories["polished"]), mean(stories["factory"])},
		"a film that was read": {sd(stories["factory"]), sd(stories["factory, not read"])},
		"read before":          {sd(stories["read before"]), sd(three)},
		"the coats known":      {sd(stories["three coats over 130"]), sd(stories["nobody knows"])},
		"the film of a coat":   {sd(with(three, func(k *Known) { k.Coat = UsualCoat })), sd(three)},
	} {
		if c.less >= c.more {
			t.Errorf("%s: %.2f and %.2f", name, c.less, c.more)
		}
	}
}

// Sources that tell different stories show as two tops, others as one.
func TestContradictionsShowAsTwoHumps(t *testing.T) {
	apart := Known{Finish: Refinish, Coat: 45} // two coats of it or three
	two := Of(Known{Finish: Refinish, Coats: 3, Measured: []Value{{Mean: 40, SD: 9}}})
	if h := two.Humps(); len(h) != 1 {
		t.Errorf("sources that meet half way have tops at %v", h)
	}
	if h := Of(stories["three coats"]).Humps(); len(h) != 1 || math.Abs(h[0]-76) > 4 {
		t.Errorf("three coats have tops at %v", h)
	}
	h := Of(apart).Humps()
	if len(h) < 2 || math.Abs(h[0]-h[1]) < 15 {
		t.Errorf("two or three thick coats have tops at %v", h)
	}
}

func TestNothingKnownIsEmpty(t *testing.T) {
	var d Dist
	if d.Known() || d.Under(10) != 1 || len(d.Humps()) != 0 || len(d.Shape(2)) != 0 {
		t.Errorf("%+v", d.Known())
	}
}

// Three coats at 26 µm over 130 µm in all, what lies under them not known.
func ExampleOf() {
	d := Of(Known{Finish: Refinish, Coats: 3, Total: Value{Mean: 130}})
	fmt.Printf("%.0f to %.0f µm, most likely %.0f; under 40 with chance %.3f\n", d.Quantile(0.05), d.Quantile(0.95), d.Mean(), d.Under(40))
	// Output: 51 to 87 µm, most likely 68; under 40 with chance 0.002
}

func BenchmarkOf(b *testing.B) {
	for b.Loop() {
		Of(stories["nobody knows"])
	}
}

// One more coat adds its film and its doubt.
func TestOneMoreCoat(t *testing.T) {
	d := Of(Known{Finish: Refinish, Total: Value{Mean: 130}, Coats: 2})
	p := d.Plus(Value{26, 4})
	if math.Abs(p.Mean()-d.Mean()-26) > 0.1 || math.Abs(p.SD()-math.Hypot(d.SD(), 4)) > 0.1 {
		t.Errorf("%.2f ± %.2f becomes %.2f ± %.2f", d.Mean(), d.SD(), p.Mean(), p.SD())
	}
}

// As long as what was said and the film agree, more film is more clear; where they do not, that
// is told, on both sides.
func TestMoreFilmIsMoreClearUntilItContradicts(t *testing.T) {
	for _, under := range []Under{UnderNew, UnderOver} {
		for coats := range 5 {
			most, told := 0.0, 0
			for total := 40.0; total <= 330; total += 5 {
				k := Known{Finish: Refinish, Total: Value{Mean: total}, Coats: coats, Under: under}
				if k.Unlike() {
					told++
					continue
				}
				thin := Of(k).Quantile(0.05)
				if thin < most-0.5 {
					t.Errorf("%s, %d coats: %.0f µm leaves %.1f at its thin end, less film %.1f", under, coats, total, thin, most)
				}
				most = max(most, thin)
			}
			if told == 0 || told > 48 {
				t.Errorf("%s, %d coats: %d totals are doubted", under, coats, told)
			}
		}
	}
	if (Known{Finish: Refinish, Total: Value{Mean: 40}, Under: UnderOver, Measured: []Value{{20, 2}}}).Unlike() {
		t.Error("what was measured is doubted")
	}
}
