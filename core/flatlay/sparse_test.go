package flatlay

import (
	"math"
	"testing"
)

// What is kept of an outline lies within Slack of it, and a straight side needs
// no points.
func TestSparseStaysNear(t *testing.T) {
	var circle []Point
	for k := range 720 {
		s, c := math.Sincos(2 * math.Pi * float64(k) / 720)
		circle = append(circle, Point{300 * c, 300 * s})
	}
	kept := Sparse(circle)
	if len(kept) < 20 || len(kept) > 200 {
		t.Errorf("%d points are kept of 720", len(kept))
	}
	for _, q := range circle {
		if d := LineDistance(kept, q, true); d > Slack+1e-9 {
			t.Fatalf("%v is %v mm off", q, d)
		}
	}
	var side []Point
	for k := range 100 {
		side = append(side, Point{float64(k), 2 * float64(k)})
	}
	if got := Thinned(side); len(got) != 2 || got[0] != side[0] || got[1] != side[99] {
		t.Errorf("a straight line keeps %d points", len(got))
	}
	for n := range 4 {
		if got := Sparse(circle[:n]); len(got) != n {
			t.Errorf("%d points become %d", n, len(got))
		}
	}
	if got := Thinned(nil); len(got) != 0 {
		t.Error("nothing becomes something")
	}
}

func TestFocusOfAPanel(t *testing.T) {
	p := Panel{Outline: []Point{{0, 0}, {1000, 0}, {1000, 400}, {0, 400}}}
	if x, y, w, h := p.Focus(p.Sections()); x != 0 || y != 0 || w != 1000 || h != 400 {
		t.Errorf("a plain panel is looked at in part: %v %v %v %v", x, y, w, h)
	}
	if _, _, w, h := p.Focus(nil); w != 1000 || h != 400 {
		t.Error("without sections there is nothing to see")
	}
	// A door: glass over the upper half leaves the lower one to look at.
	p.Outline = []Point{{0, 0}, {1000, 0}, {1000, 1000}, {0, 1000}}
	p.Holes = []Hole{{"glass", []Point{{40, 40}, {960, 40}, {960, 500}, {40, 500}}}}
	if _, y, _, h := p.Focus(p.Sections()); y < 300 || y+h != 1000 {
		t.Errorf("the door is looked at from %v, %v high", y, h)
	}
}
