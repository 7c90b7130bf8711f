package film

import (
	"math"
	"slices"
	"testing"

	"waxplanus/core/flatlay"
)

// Panels that were read before clear correct what coats are taken for, in any order;
// coats of a shop that nobody checked carry the doubt that all of them share.
func TestCoatsAreLearnedFromPanelsReadBefore(t *testing.T) {
	var unknown CoatRatio
	plain := Coats(4, 0)
	if s := unknown.Of(plain); s.Mean != plain.Mean || math.Abs(s.SD-math.Hypot(plain.SD, CoatBias*plain.Mean)) > 1e-9 {
		t.Errorf("%+v", s)
	}
	thin := make([]Coated, 6)
	for i := range thin {
		thin[i] = Coated{88, Estimate{88 * 0.8 * math.Exp(0.05*float64(i%3-1)), 1.2}}
	}
	r := LearnCoats(thin)
	slices.Reverse(thin)
	again := LearnCoats(thin)
	if r.Panels != 6 || math.Abs(again.ln-r.ln) > 1e-12 || again.sd != r.sd {
		t.Errorf("%+v and %+v", r, again)
	}
	by := r.Ratio()
	if by.Mean < 0.8 || by.Mean > 0.9 || by.SD > CoatBias/1.8 {
		t.Errorf("six panels a fifth thinner show %+v", by)
	}
	if s := r.Of(plain); s.SD/s.Mean <= CoatSpread || s.SD/s.Mean >= math.Hypot(CoatSpread, CoatBias) {
		t.Errorf("%+v", s)
	}
	one := LearnCoats(thin[:1]).Ratio()
	if one.Mean <= by.Mean || one.SD <= by.SD {
		t.Errorf("one panel shows %+v, six %+v", one, by)
	}
	if none := LearnCoats([]Coated{{88, Estimate{2, 1}}, {0, Estimate{80, 1}}}); none != unknown {
		t.Errorf("panels that were misread tell %+v", none)
	}
}

func TestMeasuredClearPairsSpots(t *testing.T) {
	p := flatlay.Panel{Key: "plate", Outline: []flatlay.Point{{X: 0, Y: 0}, {X: 900, Y: 0}, {X: 900, Y: 600}, {X: 0, Y: 600}}}
	before := []Place{{X: 300, Y: 300, Film: 100}, {X: 600, Y: 300, Film: 110}, {X: 450, Y: 450, Film: 90}}
	total := []Place{{X: 305, Y: 300, Film: 170}, {X: 600, Y: 295, Film: 178}, {X: 150, Y: 150, Film: 300}}
	got, ok := MeasuredClear(p, before, total, UsualGauge)
	if !ok || math.Abs(got.Mean-69) > 0.5 || got.SD < 1 || got.SD > 4 {
		t.Errorf("%+v", got)
	}
	if _, ok := MeasuredClear(p, before[2:], total, UsualGauge); ok {
		t.Error("spots apart are taken for one")
	}
}
