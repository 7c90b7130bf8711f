package body

import (
	"math"
	"testing"

	"waxplanus/core/flatlay"
)

var bend = []point{{X: 0, Y: 0}, {X: 300, Y: 120}, {X: 650, Y: 80}, {X: 900, Y: 300}}

// A curve goes through all its nodes, in steps no longer than asked for.
func TestSplineGoesThroughItsNodes(t *testing.T) {
	for _, step := range []float64{6, 12, 30} {
		s := spline(bend, step)
		for _, n := range bend {
			if d := flatlay.LineDistance(s, n, false); d > 1e-9 {
				t.Errorf("step %v: node %v is %v mm off the curve", step, n, d)
			}
		}
		for i := 1; i < len(s); i++ {
			if d := dist(s[i-1], s[i]); d > 1.6*step || d == 0 {
				t.Fatalf("step %v: a step of %v mm", step, d)
			}
		}
		if s[0] != bend[0] || dist(s[len(s)-1], bend[3]) > 1e-9 {
			t.Errorf("the curve goes from %v to %v", s[0], s[len(s)-1])
		}
	}
	straight := spline(bend[:2], 12)
	if l := dist(bend[0], bend[1]); math.Abs(float64(len(straight)-1)-math.Ceil(l/12)) > 0 {
		t.Errorf("%v mm are drawn in %d steps", l, len(straight)-1)
	}
}

func TestRingCloses(t *testing.T) {
	square := []point{{X: 0, Y: 0}, {X: 100, Y: 0}, {X: 100, Y: 100}, {X: 0, Y: 100}}
	r := ring(square, 5)
	if d := dist(r[len(r)-1], r[0]); d > 10 || d == 0 {
		t.Errorf("the ring has a gap of %v mm", d)
	}
	for _, n := range square {
		if flatlay.LineDistance(r, n, true) > 1e-9 {
			t.Errorf("node %v is off the ring", n)
		}
	}
	if a := math.Abs(flatlay.SignedArea(r)); a < 1e4 || a > math.Pi*71*71 {
		t.Errorf("a ring through the corners of a square holds %v mm²", a)
	}
}

func TestArcKeepsItsRadius(t *testing.T) {
	for _, p := range arc(point{X: 10, Y: 20}, 300, math.Pi-0.6, -0.2) {
		if r := dist(p, point{X: 10, Y: 20}); math.Abs(r-300) > 1e-9 {
			t.Fatalf("a point at %v mm of 300", r)
		}
	}
}

// A stretch of a line begins and ends at the places nearest to what was asked,
// and there and back it is the same.
func TestBetween(t *testing.T) {
	line := spline(bend, 12)
	p, q := point{X: 200, Y: 400}, point{X: 700, Y: -50}
	there, from, to := between(line, p, q)
	back, _, _ := between(line, q, p)
	if from >= to || len(there) != len(back) {
		t.Fatalf("from %v to %v, %d points there and %d back", from, to, len(there), len(back))
	}
	for i := range there {
		if dist(there[i], back[len(back)-1-i]) > 1e-9 {
			t.Fatalf("point %d is %v there and %v back", i, there[i], back[len(back)-1-i])
		}
		if flatlay.LineDistance(line, there[i], false) > 1e-9 {
			t.Fatalf("%v is off the line", there[i])
		}
	}
	for _, at := range line {
		if dist(at, p) < dist(there[0], p)-1e-9 {
			t.Errorf("%v is nearer to %v than where the stretch begins", at, p)
		}
	}
}

func TestMeet(t *testing.T) {
	a, b := []point{{X: 0, Y: 0}, {X: 100, Y: 100}}, []point{{X: 0, Y: 60}, {X: 100, Y: 60}}
	if p, ok := meet(a, b); !ok || dist(p, point{X: 60, Y: 60}) > 1e-9 {
		t.Errorf("they meet at %v, %v", p, ok)
	}
	if _, ok := meet(a, []point{{X: 0, Y: 10}, {X: 90, Y: 100.5}}); ok {
		t.Error("lines side by side meet")
	}
}

func TestInsideRun(t *testing.T) {
	box := []point{{X: 0, Y: 0}, {X: 400, Y: 0}, {X: 400, Y: 200}, {X: 0, Y: 200}}
	run := insideRun(spline([]point{{X: -100, Y: 100}, {X: 500, Y: 100}}, 10), box, 30)
	for _, p := range run {
		if p.X < 30 || p.X > 370 {
			t.Fatalf("%v is nearer than 30 mm to the edge", p)
		}
	}
	if len(run) < 30 || insideRun(spline([]point{{X: 0, Y: 300}, {X: 400, Y: 300}}, 10), box, 30) != nil {
		t.Errorf("a run of %d points", len(run))
	}
}

var slab = []point{{X: 0, Y: 0}, {X: 600, Y: 0}, {X: 600, Y: 300}, {X: 0, Y: 300}}

// An inset lies just that far inside, whichever way the outline goes round.
func TestInset(t *testing.T) {
	back := []point{slab[3], slab[2], slab[1], slab[0]}
	for _, p := range [][]point{slab, back} {
		in := inset(p, 7)
		if a := math.Abs(flatlay.SignedArea(in)); math.Abs(a-586*286) > 1e-6 {
			t.Errorf("600 x 300 inset by 7 holds %v mm²", a)
		}
		for _, q := range in {
			if d := flatlay.LineDistance(p, q, true); math.Abs(d-7) > 1e-9 || !flatlay.Within(p, q) {
				t.Errorf("%v lies %v mm off the edge", q, d)
			}
		}
	}
}

// Fillets take corners off and nothing else; softening keeps the area.
func TestFilletAndSoften(t *testing.T) {
	dense := even(slab, 10)
	f := fillet(dense, 40)
	for i := range f {
		if a := turnAngle(f[(i+len(f)-1)%len(f)], f[i], f[(i+1)%len(f)]); a > sharp+0.1 {
			t.Errorf("a corner of %v rad is left at %v", a, f[i])
		}
	}
	whole, cut := math.Abs(flatlay.SignedArea(dense)), math.Abs(flatlay.SignedArea(f))
	if cut >= whole || whole-cut > 4*40*40 {
		t.Errorf("fillets take %v mm²", whole-cut)
	}
	soft := math.Abs(flatlay.SignedArea(soften(f, 8, 20)))
	if math.Abs(soft-cut) > 0.003*cut {
		t.Errorf("softening makes %v mm² of %v", soft, cut)
	}
	round := even(soften(even(slab, 5), 5, 40), 5)
	if len(fillet(round, 30)) == 0 {
		t.Error("an outline without corners is lost")
	}
}

func TestUnloop(t *testing.T) {
	// A square whose corner was pulled through itself by an inset.
	loop := []point{{X: 0, Y: 0}, {X: 110, Y: 0}, {X: 110, Y: -8}, {X: 100, Y: -8}, {X: 100, Y: 100}, {X: 0, Y: 100}}
	clean := unloop(loop)
	if err := (flatlay.Panel{Name: "x", Outline: clean}).Check(); err != nil {
		t.Fatal(err)
	}
	if a := math.Abs(flatlay.SignedArea(clean)); math.Abs(a-1e4) > 1 {
		t.Errorf("%v mm² are left of 10000", a)
	}
	if got := unloop(slab); len(got) != 4 {
		t.Errorf("an outline without loops gets %d points", len(got))
	}
}

// A stretch of the strip grows as its slope does, and the roof's front stays
// where the side view has it.
func TestStripGrows(t *testing.T) {
	s := strip{Anchor: 2000, ratioX: 1.1, ratioZ: 0.9, ratioWidth: 1.2}
	s.Stretches = append(s.Stretches, struct{ To, Steep float64 }{1000, 90}, struct{ To, Steep float64 }{2000, 30}, struct{ To, Steep float64 }{3000, 0}, struct{ To, Steep float64 }{0, 90})
	slope := math.Hypot(math.Cos(math.Pi/6)*1.1, math.Sin(math.Pi/6)*0.9)
	for u, want := range map[float64]float64{2000: 2200, 3000: 3300, 3100: 3390, 1000: 2200 - 1000*slope, 900: 2200 - 1000*slope - 90} {
		if got := s.at(point{X: u, Y: 100}); math.Abs(got.X-want) > 1e-9 || got.Y != 120 {
			t.Errorf("u %v comes to %v, want %v", u, got, want)
		}
	}
	for u, want := range map[float64]float64{500: 90, 1500: 30, 2500: 0, 9000: 90} {
		if s.steep(u) != want {
			t.Errorf("at %v it is %v° steep", u, s.steep(u))
		}
	}
}
