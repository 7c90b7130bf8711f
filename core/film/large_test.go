package film

import (
	"math/rand/v2"
	"testing"

	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
)

func vanRoof(t testing.TB) flatlay.Panel {
	t.Helper()
	van, err := body.Find(body.PanelVan, body.Size{})
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range van.Panels {
		if p.Key == "roof" {
			return p
		}
	}
	t.Fatal("a van has no roof")
	return flatlay.Panel{}
}

// BenchmarkLargePanel is the roof of a van with as many readings as a panel takes.
func BenchmarkLargePanel(b *testing.B) {
	ground := NewGround(vanRoof(b))
	rng := rand.New(rand.NewPCG(3, 9))
	var places []Place
	for len(places) < 200 {
		q := ground.Cells[rng.IntN(len(ground.Cells))]
		places = append(places, Place{X: q.X, Y: q.Y, Film: 140 + 4*rng.NormFloat64()})
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := NewStudy(ground, Facts{History: History{Finish: Refinished, Coats: 3}}, places, UsualGauge); err != nil {
			b.Fatal(err)
		}
	}
}
