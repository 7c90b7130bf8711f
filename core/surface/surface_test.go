package surface

import (
	"fmt"
	"math"
	"testing"
)

var rubber = Backing{E: 5, D: 1e-4, P0: 3}
var foam = Backing{E: 0.2, D: 1e-5, P0: 2}

func TestCutTakesExactlyItsFilm(t *testing.T) {
	for _, c := range []float64{0, 0.05, 0.4, 2, 9} {
		for _, r := range []float64{0.01, 0.4, 1.7, 6} {
			b := NewBand(0.98, 0).Cut(r, c)
			mean := 0.0
			for _, v := range b.lost {
				mean += v / float64(len(b.lost))
			}
			if math.Abs(mean-r) > 1e-9 {
				t.Errorf("compliance %v: %v µm asked, %v taken", c, r, mean)
			}
		}
	}
}

func TestMorePassesNeverLeaveMoreFilm(t *testing.T) {
	for _, b := range []Backing{rubber, foam} {
		for _, skew := range []float64{-0.25, 0, 0.25} {
			start := New(1.4, 0.2, skew)
			last := start
			for n := 1; n <= 12; n++ {
				s := start.Cut(b, 12.6, 0.5*float64(n), 1.26)
				if s.Crest() > last.Crest()+1e-9 {
					t.Errorf("skew %v: pass %d raises the crest from %v to %v", skew, n, last.Crest(), s.Crest())
				}
				if s.SqLong() > last.SqLong()+1e-9 {
					t.Errorf("skew %v: pass %d roughens the peel from %v to %v", skew, n, last.SqLong(), s.SqLong())
				}
				for i := range s.long.h {
					if s.long.h[i] > last.long.h[i]+1e-9 {
						t.Fatalf("pass %d adds film at quantile %d", n, i)
					}
				}
				last = s
			}
		}
	}
}

func TestStifferBackingFlattensMore(t *testing.T) {
	start := OfGrade(6)
	stiff, soft := start.Cut(rubber, 12.6, 1.5, 1), start.Cut(foam, 12.6, 1.5, 1)
	if stiff.SqLong() >= soft.SqLong() {
		t.Errorf("rubber leaves %.3f, foam %.3f", stiff.SqLong(), soft.SqLong())
	}
	if soft.SqShort() > 0.2*start.SqShort() {
		t.Errorf("foam leaves %.3f of pebble %.3f: the sheet should shave it", soft.SqShort(), start.SqShort())
	}
}

func TestSkewMoves(t *testing.T) {
	pits, pimples := New(1, 0.15, -0.2), New(1, 0.15, 0.2)
	if a, b := pits.CrestLoss(pits.Cut(rubber, 12.6, 1.5, 1)), pimples.CrestLoss(pimples.Cut(rubber, 12.6, 1.5, 1)); a >= b {
		t.Errorf("pits lose %.2f µm of crest, pimples %.2f", a, b)
	}
	if sq := pits.SqLong(); math.Abs(sq-1) > 1e-9 {
		t.Errorf("skew changes the rms to %v", sq)
	}
}

func TestGradesGoBothWays(t *testing.T) {
	for _, g := range []float64{0, 2, 5.5, 10} {
		if got := PeelGrade(PeelSq(g)); math.Abs(got-g) > 1e-9 {
			t.Errorf("grade %v comes back as %v", g, got)
		}
	}
	if PeelGrade(0.01) != 0 {
		t.Error("smoother than a mirror is not grade 0")
	}
}

func TestCurveFollowsTheModel(t *testing.T) {
	s := OfGrade(7)
	c := s.CrestCurve(rubber, 12.6, 6)
	last := 0.0
	for r := 0.0; r <= 9; r += 0.37 {
		v := c.At(r)
		if v < last {
			t.Errorf("the curve falls at %v", r)
		}
		last = v
		if r > 0 && r <= 6 {
			if want := s.CrestLoss(s.Cut(rubber, 12.6, r, 1)); math.Abs(v-want) > 0.03+0.02*want {
				t.Errorf("at %v µm the curve says %v, the model %v", r, v, want)
			}
		}
	}
	if c.At(-1) != 0 {
		t.Error("no removal takes film")
	}
}

func TestBuryingNeverTakesLessThanHalfTheScratch(t *testing.T) {
	for _, old := range []float64{0.2, 0.6, 1.26} {
		for _, fresh := range []float64{0.02, 0.3, 1.2} {
			b := BuryScratch(old, fresh, 1.1, 0.3)
			if b.Film < 0.5*old || b.Passes < 1 {
				t.Errorf("%v under %v: %+v", old, fresh, b)
			}
		}
	}
}

func TestGlossAndClarity(t *testing.T) {
	mirror := Clarity(0, 0, 1)
	if mirror != 100 {
		t.Errorf("a mirror has clarity %v", mirror)
	}
	last := 101.0
	for g := 0.0; g <= 10; g++ {
		c := OfGrade(g).Clarity()
		if c > last || c < 0 || g > 3 && c >= last {
			t.Errorf("grade %v has clarity %v after %v", g, c, last)
		}
		last = c
	}
	if scratched := OfGrade(4).Cut(rubber, 12.6, 1, 1.26).Clarity(); scratched > 5 {
		t.Errorf("a scratched panel has clarity %v", scratched)
	}
}

func TestGaugeReadsLessLossAfterAFirstScratch(t *testing.T) {
	s := OfGrade(6)
	after := s.Cut(rubber, 12.6, 1, 1.26)
	if d := s.CrestLoss(after) - s.GaugeLoss(after); math.Abs(d-0.3*1.26) > 1e-9 {
		t.Errorf("the fresh scratch holds the gauge up by %v µm", d)
	}
}

func TestShapeHasTheModelsHeights(t *testing.T) {
	f := NewField(30, 12, 0.1, 3)
	for name, s := range map[string]Surface{"fresh": OfGrade(7), "levelled": OfGrade(7).Cut(rubber, 12.6, 2, 1.26)} {
		p := f.Shape(s)
		m, q := 0.0, 0.0
		for _, z := range p.Z {
			m += z / float64(len(p.Z))
		}
		for _, z := range p.Z {
			q += (z - m) * (z - m) / float64(len(p.Z))
		}
		want := math.Hypot(s.SqLong(), s.SqShort())
		if got := math.Sqrt(q); math.Abs(got-want) > 0.08*want+0.01 {
			t.Errorf("%s: the drawn field has rms %.3f, the model %.3f", name, got, want)
		}
		dry := 0.0
		for _, on := range p.Touched {
			if !on {
				dry += 1 / float64(len(p.Touched))
			}
		}
		if math.Abs(dry-s.Untouched()) > 0.01 {
			t.Errorf("%s: %.3f drawn untouched, the model says %.3f", name, dry, s.Untouched())
		}
	}
}

func TestPictureFollowsTheSurface(t *testing.T) {
	f := NewField(24, 6, 0.1, 3)
	contrast := func(s Surface) float64 {
		img := f.Shape(s).Render(ShopLamps, Paint{0.055, 0.06, 0.085}, 4)
		least, most := 255.0, 0.0
		for x := range img.Bounds().Dx() {
			sum := 0.0
			for y := range img.Bounds().Dy() {
				sum += float64(img.RGBAAt(x, y).R)
			}
			v := sum / float64(img.Bounds().Dy())
			least, most = math.Min(least, v), math.Max(most, v)
		}
		return most - least
	}
	flat := New(0.02, 0.002, 0)
	matt := flat.Cut(rubber, 12.6, 1, 1.26)
	if a, b := contrast(flat), contrast(matt); a < 3*b {
		t.Errorf("a mirror shows lamps with contrast %.0f, a matt panel %.0f", a, b)
	}
}

func ExampleOfGrade() {
	s := OfGrade(6)
	after := s.Cut(Backing{E: 5, D: 1e-4, P0: 3}, 12.6, 2, 1.26)
	fmt.Printf("peel %.1f to %.1f, crest film %.1f µm\n", s.Grade(), after.Grade(), s.CrestLoss(after))
	// Output: peel 6.0 to 1.1, crest film 3.6 µm
}

func BenchmarkCut(b *testing.B) {
	s := OfGrade(7)
	for b.Loop() {
		s.Cut(rubber, 12.6, 3, 1.26)
	}
}
