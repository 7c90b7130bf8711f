package surface

import (
	"math"
	"math/rand/v2"
	"testing"
)

// What is cut off is what was asked for, to the last digit, on every compliance and
// in every portion; heights never cross, and nothing grows.
func TestCoarseCutsKeepTheirMass(t *testing.T) {
	rng := rand.New(rand.NewPCG(8, 1))
	for range 300 {
		c := CoarseOf(PeelSq(9 * rng.Float64()))
		before, removed := c.mean(), 0.0
		for range 1 + rng.IntN(5) {
			r, soft := 3*rng.Float64(), 0.05*math.Pow(200, rng.Float64())
			was := c
			c = c.Cut(r, soft)
			removed += r
			if c.Sq() > was.Sq()+1e-12 || c.Crest() > was.Crest() || c.Untouched() > was.Untouched() {
				t.Fatalf("a cut of %.2f at %.2f: rms %v after %v, crest %v after %v", r, soft, c.Sq(), was.Sq(), c.Crest(), was.Crest())
			}
			for i := 1; i < coarsePoints; i++ {
				if c.h[i] < c.h[i-1]-1e-9 {
					t.Fatalf("heights %d and %d crossed", i-1, i)
				}
			}
		}
		if d := before - c.mean() - removed; math.Abs(d) > 1e-9 {
			t.Fatalf("%.12f µm more were taken than %.3f", d, removed)
		}
	}
}

// One cut in portions is one cut: the way down does not depend on how often it is
// looked at.
func TestCoarseCutsInPortions(t *testing.T) {
	for _, soft := range []float64{0.1, 0.4, 1.5, 6} {
		whole, parts := CoarseOf(1).Cut(1.7, soft), CoarseOf(1)
		for range 17 {
			parts = parts.Cut(0.1, soft)
		}
		if math.Abs(whole.Sq()-parts.Sq()) > 1e-9 || math.Abs(whole.Crest()-parts.Crest()) > 1e-9 {
			t.Errorf("at %v: rms %v, in portions %v; crest %v, %v", soft, whole.Sq(), parts.Sq(), whole.Crest(), parts.Crest())
		}
	}
	none := CoarseOf(1)
	if none.Cut(0, 0.4) != none || none.Untouched() != 1 {
		t.Error("a cut of nothing changes something")
	}
}

// A stiffer backing leaves it flatter for the same removal, and costs its crests
// more.
func TestStifferBackingsFlattenMore(t *testing.T) {
	sq, crest := 0.0, math.Inf(1)
	for _, soft := range []float64{0.1, 0.5, 2, 8} {
		start := CoarseOf(1)
		c := start.Cut(1.2, soft)
		loss := start.Crest() - c.Crest()
		if c.Sq() <= sq || loss >= crest || loss < 1.2 {
			t.Errorf("at %v: rms %.3f after %.3f, crest film %.3f after %.3f", soft, c.Sq(), sq, loss, crest)
		}
		sq, crest = c.Sq(), loss
	}
}

// A band that lies within another ends flatter after any same cut and gives up no
// more of its crests: what the exact search of the planner rests on.
func TestWithinStaysWithin(t *testing.T) {
	rng := rand.New(rand.NewPCG(2, 9))
	tried := 0
	for range 200 {
		a, b := CoarseOf(0.3+rng.Float64()), CoarseOf(0.3+rng.Float64())
		a, b = a.Cut(rng.Float64(), 0.2+4*rng.Float64()), b.Cut(rng.Float64(), 0.2+4*rng.Float64())
		if !a.Within(&b) {
			continue
		}
		tried++
		r, soft := 2*rng.Float64(), 0.2+4*rng.Float64()
		x, y := a.Cut(r, soft), b.Cut(r, soft)
		if x.Sq() > y.Sq()+1e-9 {
			t.Errorf("the flatter one ends with %.4f µm, the other with %.4f", x.Sq(), y.Sq())
		}
		if la, lb := a.Crest()-x.Crest(), b.Crest()-y.Crest(); la > lb+1e-9 {
			t.Errorf("the flatter one gives %.4f µm of its crests, the other %.4f", la, lb)
		}
	}
	if tried < 20 {
		t.Errorf("only %d pairs lie within each other", tried)
	}
}

func TestPassesThatLeaveAShareShowing(t *testing.T) {
	for _, share := range []float64{0.01, 0.04, 0.2, 1} {
		n := BuryTo(share, 0.35, 0.12, 0.2)
		film := 0.2*float64(n) + Void*(0.35-0.12)
		if n < 1 || StillShowing(film, 0.35) > share+1e-9 || n > 1 && StillShowing(film-0.2, 0.35) <= share {
			t.Errorf("%d passes leave %.3f, wanted %.3f", n, StillShowing(film, 0.35), share)
		}
	}
}
