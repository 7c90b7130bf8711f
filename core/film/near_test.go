package film

import (
	"math"
	"math/rand/v2"
	"testing"
)

// Readings beyond the nearest tell next to nothing more of a place: with many readings the
// map is the map of all of them, and no surer.
func TestFarReadingsTellNothingMore(t *testing.T) {
	const many = 160
	roof := vanRoof(t)
	ground := NewGround(roof)
	rng := rand.New(rand.NewPCG(14, 6))
	field := make([]float64, 12)
	for i := range field {
		field[i] = 4 * rng.NormFloat64()
	}
	var readings []Reading
	for len(readings) < many {
		q := ground.Cells[rng.IntN(len(ground.Cells))]
		at := SpotOf(roof, q.X, q.Y)
		film := 120 * Thin.Factor(at.Edge, at.Crease)
		for i, a := range field { // waves of several lengths
			film += a * math.Sin(q.X/(120+60*float64(i))+float64(i)) * math.Cos(q.Y/(150+50*float64(i)))
		}
		readings = append(readings, Reading{Spot: at, T: film + rng.NormFloat64(), Shots: 1})
	}
	m, err := NewMap(readings, UsualGauge, Sprayed, ground.size, Averaged)
	if err != nil {
		t.Fatal(err)
	}
	to := ground.nodes[:len(ground.spots)]
	got := m.estimates(to)
	whole := func(to []node) []Estimate { // by all readings
		out := make([]Estimate, len(to))
		m.estimateBy(m.fields, to, out)
		return out
	}
	for i := 0; i < len(to); i += 97 {
		want := whole(to[i : i+1])[0]
		if d := math.Abs(got[i].Mean - want.Mean); d > 0.5*want.SD {
			t.Errorf("node %d: %.2f µm from the nearest, %.2f ± %.2f from all", i, got[i].Mean, want.Mean, want.SD)
		}
		if r := got[i].SD / want.SD; r < 0.98 || r > 1.15 {
			t.Errorf("node %d: doubt %.3f µm from the nearest, %.3f from all", i, got[i].SD, want.SD)
		}
	}
}

// With many readings half of the choices of the prior give the same bound of a section.
func TestHalfTheChoicesDoForManyReadings(t *testing.T) {
	ground := NewGround(vanRoof(t))
	rng := rand.New(rand.NewPCG(14, 7))
	var readings []Reading
	for len(readings) < 120 {
		q := ground.Cells[rng.IntN(len(ground.Cells))]
		at := SpotOf(ground.Panel, q.X, q.Y)
		readings = append(readings, Reading{Spot: at, T: 130*Thin.Factor(at.Edge, at.Crease) + 4*math.Sin(q.X/300) + 2*rng.NormFloat64(), Shots: 1})
	}
	m, err := NewMap(readings, UsualGauge, Sprayed, ground.size, Averaged)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range ground.parts[:4] {
		var at []node
		in := make([]int, len(p.thin))
		for i, k := range p.thin {
			at, in[i] = append(at, ground.nodes[k]), i
		}
		bound := func(pairs int) float64 {
			drawn, err := m.drawUnder(ground.lags(m), at, 7, pairs)
			if err != nil {
				t.Fatal(err)
			}
			return quantile(leastOf(drawn, in), 0.05)
		}
		if few, all := bound(m.pairs()), bound(samplePairs); m.pairs() >= samplePairs || math.Abs(few-all) > 1.5 {
			t.Errorf("%s: %.2f µm under %d choices, %.2f under %d", p.key, few, m.pairs(), all, samplePairs)
		}
	}
}
