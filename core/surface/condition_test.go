package surface

import (
	"math"
	"math/rand/v2"
	"testing"
)

// Half, 80 and 95 % of the swirls take 0.7, 1.6 and 3.0 mean depths.
func TestSwirlsGo(t *testing.T) {
	for gone, depths := range map[float64]float64{0.5: 0.7, 0.8: 1.6, 0.95: 3.0} {
		c := Condition{Swirls: Depth{1.6, 0}}
		if got := c.Removal(gone) / 1.6; math.Abs(got-depths) > 0.05 {
			t.Errorf("%.0f %% take %.2f mean depths, want %.1f", 100*gone, got, depths)
		}
		if back := c.Gone(c.Removal(gone)); math.Abs(back-gone) > 1e-9 {
			t.Errorf("back %v, want %v", back, gone)
		}
	}
	c := Condition{Swirls: SwirlsMedium, Dead: DeadLight}
	if c.Gone(1.9) != 0 || c.Gone(2.8) < 0.6 {
		t.Errorf("under the dead layer: %v at 1.9 µm, %v at 2.8", c.Gone(1.9), c.Gone(2.8))
	}
}

// What is left of drawn scratches after removal is what SwirlsLeft says, and those that are
// left are as deep as all were.
func TestSwirlsHaveNoMemory(t *testing.T) {
	rng := rand.New(rand.NewPCG(15, 1))
	const m, n, removal = 0.8, 200000, 1.1
	left, rest := 0, 0.0
	for range n {
		if d := m * rng.ExpFloat64(); d > removal {
			left++
			rest += d - removal
		}
	}
	if got, want := float64(left)/n, SwirlsLeft(removal, m); math.Abs(got-want) > 0.005 {
		t.Errorf("left %v, want %v", got, want)
	}
	if got := rest / float64(left); math.Abs(got-m) > 0.02 {
		t.Errorf("mean depth of what is left %v, want %v", got, m)
	}
}

// A square that was looked at tells the mean depth, the better the nearer to the middle its
// share is, and never tells it worse.
func TestASquareTeachesSwirls(t *testing.T) {
	for _, m := range []float64{0.2, 0.5, 1, 2, 3} {
		learned, err := SwirlsMedium.Learned(Tried{Removal: m * math.Ln2, Left: 0.5, SD: EyeShare}, Tried{Removal: 1.4 * m, Left: math.Exp(-1.4), SD: EyeShare})
		if err != nil {
			t.Fatal(err)
		}
		if off := math.Abs(math.Log(learned.Median / m)); off > 0.2 || learned.Spread > 0.2 {
			t.Errorf("mean depth %v is learned as %v ± %v", m, learned.Median, learned.Spread)
		}
	}
	rng := rand.New(rand.NewPCG(15, 2))
	for range 300 {
		removal, left := 3*rng.Float64()+0.05, rng.Float64()
		l, err := SwirlsHeavy.Learned(Tried{removal, left, EyeShare})
		if err != nil || math.IsNaN(l.Median) || l.Median <= 0 || l.Spread > SwirlsHeavy.Spread*1.3 {
			t.Errorf("%v left after %v: %+v, %v", left, removal, l, err)
		}
	}
	for _, bad := range []Tried{{1, 1.2, EyeShare}, {1, -0.1, EyeShare}, {1, math.NaN(), EyeShare}, {0, 0.5, EyeShare}} {
		if _, err := SwirlsHeavy.Learned(bad); err == nil {
			t.Errorf("%+v teaches", bad)
		}
	}
}

// The pass after which nothing changes any more tells how deep the dead layer was.
func TestASquareTeachesTheDeadLayer(t *testing.T) {
	got, err := DeadHeavy.Between(3.2, 4, 0.1)
	if err != nil || got.Median < 3.2 || got.Median > 4.2 || got.Spread > 0.2 {
		t.Errorf("%+v, %v", got, err)
	}
	first, err := DeadLight.Between(0, 1, 0.2)
	if err != nil || first.Median > 1 {
		t.Errorf("gone with the first pass: %+v, %v", first, err)
	}
	if _, err := DeadLight.Between(2, 1, 0.1); err == nil {
		t.Error("gone before it was there")
	}
}

// The picture shows what is said: deeper swirls shine more, removal takes them off, and a
// dead layer veils them.
func TestTheLampShowsTheSwirls(t *testing.T) {
	lamp := Lamp{Wide: 40, High: 30, PxPerMM: 4}
	paint := Paint{0.055, 0.06, 0.085}
	bright := func(c Condition, removal float64) (sum int) { // outside the lamp itself
		img := lamp.Swirls(c, removal, paint)
		for y := range 120 {
			for x := range 160 {
				if math.Hypot(float64(x-80), float64(y-60)) > 24 {
					r, _, _, _ := img.At(x, y).RGBA()
					sum += int(r >> 8)
				}
			}
		}
		return sum
	}
	none, light, heavy := bright(Condition{}, 0), bright(Condition{Swirls: SwirlsLight}, 0), bright(Condition{Swirls: SwirlsHeavy}, 0)
	if !(none < light && light < heavy) {
		t.Errorf("none %d, light %d, heavy %d", none, light, heavy)
	}
	was := heavy
	for _, removal := range []float64{0.5, 1, 2, 4} {
		now := bright(Condition{Swirls: SwirlsHeavy}, removal)
		if now >= was {
			t.Errorf("after %.1f µm %d, before %d", removal, now, was)
		}
		was = now
	}
	if off := bright(Condition{Swirls: SwirlsHeavy, Dead: DeadLight}, 3); off != bright(Condition{Swirls: SwirlsHeavy}, 1) {
		t.Error("under the dead layer other swirls come out")
	}
	dry := lamp.Wetted(Condition{Dead: DeadHeavy}, paint)
	l, _, _, _ := dry.At(20, 60).RGBA()
	r, _, _, _ := dry.At(140, 60).RGBA()
	if l >= r {
		t.Errorf("the lamp is as bright on dry dead paint, %d, as on wet, %d", l>>8, r>>8)
	}
}

func BenchmarkLampPicture(b *testing.B) {
	lamp := Lamp{Wide: 66, High: 57.75, PxPerMM: 320.0 / 66}
	for b.Loop() {
		lamp.Swirls(Condition{Swirls: SwirlsHeavy}, 0, Paint{0.055, 0.06, 0.085})
	}
}

// What is left after some removal takes as much more as all of it would have.
func TestAConditionGoesOn(t *testing.T) {
	c := Condition{Swirls: SwirlsMedium, Dead: DeadLight}
	for _, removed := range []float64{0, 0.5, 2, 2.4, 3} {
		for _, gone := range []float64{0.5, 0.8, 0.95} {
			left, share := c.After(removed, gone)
			if all := removed + left.Removal(share); all < c.Removal(gone)-1e-9 || share > 0 && all > c.Removal(gone)+1e-9 {
				t.Errorf("%.1f µm first, then to %.2f: %.3f µm in all, at once %.3f", removed, gone, all, c.Removal(gone))
			}
		}
	}
	if left, share := c.After(10, 0.8); left.Dead.Median != 0 || share != 0 {
		t.Errorf("all is gone: %+v %v", left, share)
	}
}
