package practice

import (
	"math"
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
)

func plate(t testing.TB) *film.Ground {
	t.Helper()
	b, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	return film.NewGround(b.Panels[0])
}

func TestTruthIsTheSameForTheSameSeed(t *testing.T) {
	g := plate(t)
	a, b, c := NewPanel(g.Panel, 140, ByHand, 3), NewPanel(g.Panel, 140, ByHand, 3), NewPanel(g.Panel, 140, ByHand, 4)
	q := flatlay.Point{X: 400, Y: 210}
	if a.Film(q) != b.Film(q) || a.Film(q) == c.Film(q) {
		t.Errorf("film %v, %v with the same seed, %v with another", a.Film(q), b.Film(q), c.Film(q))
	}
}

// Off its edges the truth has the mean it was drawn for, thins at every edge,
// and a rough panel is more uneven than a robot's.
func TestTruthLooksLikePaint(t *testing.T) {
	g := plate(t)
	spread := map[string]float64{}
	for name, s := range map[string]Spray{"rough": Rough, "robot": ByRobot} {
		sum, n, square := 0.0, 0.0, 0.0
		for seed := range uint64(20) {
			p := NewPanel(g.Panel, 150, s, seed)
			for _, q := range g.Cells {
				if g.Panel.EdgeDistance(q) > 90 {
					f := p.Film(q)
					sum, n, square = sum+f, n+1, square+f*f
				}
			}
			for _, q := range []flatlay.Point{{X: 450, Y: 1}, {X: 1, Y: 300}, {X: 899, Y: 300}, {X: 450, Y: 599}} {
				in := flatlay.Point{X: 450 + (q.X-450)*0.8, Y: 300 + (q.Y-300)*0.8}
				if p.Film(q) > 0.99*p.Film(in) {
					t.Errorf("%s, seed %d: %.0f at an edge, %.0f inside", name, seed, p.Film(q), p.Film(in))
				}
			}
		}
		mean := sum / n
		spread[name] = math.Sqrt(square/n - mean*mean)
		if math.Abs(mean-150) > 6 {
			t.Errorf("%s: mean %.1f, drawn for 150", name, mean)
		}
	}
	if spread["rough"] < 2*spread["robot"] {
		t.Errorf("spreads %v", spread)
	}
}

func TestGaugeReadsTheTruth(t *testing.T) {
	g := plate(t)
	p, gauge := NewPanel(g.Panel, 150, ByRobot, 1), NewGauge(2)
	gauge.Wild = 0
	at := flatlay.Point{X: 450, Y: 300}
	sum, edge := 0.0, 0.0
	const n = 300
	for range n {
		sum += gauge.Shot(p, at) / n
		edge += gauge.Shot(p, flatlay.Point{X: 450, Y: 4}) / n
	}
	if math.Abs(sum/p.Film(at)-1) > 0.04 {
		t.Errorf("reads %.1f on the mean where %.1f is", sum, p.Film(at))
	}
	if edge >= p.Film(flatlay.Point{X: 450, Y: 12}) {
		t.Errorf("reads %.1f at the edge, on %.1f", edge, p.Film(flatlay.Point{X: 450, Y: 12}))
	}
}

// TestBoundsHoldOnHiddenPanels is a small draw of the table that "waxplanus
// bench film" prints in full.
func TestBoundsHoldOnHiddenPanels(t *testing.T) {
	c, err := Cover(plate(t), ByHand, film.Refinished, 12, 6)
	if err != nil {
		t.Fatal(err)
	}
	if c.All < 40 || c.Share() < 0.90 || c.Under > 25 {
		t.Errorf("of %d sections the bound held on %.3f, %.1f µm under the truth", c.All, c.Share(), c.Under)
	}
	if _, err := Cover(plate(t), ByHand, film.Refinished, 1, 1000); err == nil {
		t.Error("a thousand spots fit a panel")
	}
}
