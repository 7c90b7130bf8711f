package surface

import (
	"math"
	"math/rand/v2"
	"testing"
)

// The table agrees with the quantile model it was made from, on and between its
// rows, for a first step and for a second one on another backing.
func TestTableAgreesWithTheModel(t *testing.T) {
	for _, grade := range []float64{4, 6, 8} {
		for _, c := range []float64{0.2, 0.7, 1.9, 4.4, 9} {
			s := OfGrade(grade)
			sq := s.SqLong()
			row := RowFor(c, sq)
			for _, r := range []float64{0.3, 1, 2.5} {
				want := s.cut(r, c, c, 1)
				left := row.At(r / sq)
				if d := math.Abs(left - want.SqLong()/sq); d > 0.02 {
					t.Errorf("grade %v c %v r %v: the table leaves %.3f of the rms, the model %.3f", grade, c, r, left, want.SqLong()/sq)
				}
			}
		}
	}
}

func TestRowsRunOneWay(t *testing.T) {
	for _, c := range []float64{0.01, 0.3, 2, 20, 90} {
		row := RowFor(c, 1)
		l := row.At(0)
		if l != 1 {
			t.Errorf("c %v begins at %v", c, l)
		}
		for r := 0.05; r < 12; r += 0.05 {
			left := row.At(r)
			if left > l {
				t.Fatalf("c %v at %v: left %v after %v", c, r, left, l)
			}
			l = left
			if back := row.Enter(left); left > 1e-6 && left < row.left[0] {
				if again := row.At(back); math.Abs(again-left) > 1e-9 {
					t.Fatalf("c %v: %v enters at %v, which leaves %v", c, left, back, again)
				}
			}
		}
	}
}

func BenchmarkTable(b *testing.B) {
	for b.Loop() {
		for i := range softRows {
			followRow(softFirst * math.Pow(softRatio, float64(i)))
		}
	}
}

// A few heights are enough for sequences over several backings: the crest film
// and what is left agree with the quantile model.
func TestCoarseAgreesWithTheModel(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	worstFilm, worstSq := 0.0, 0.0
	for range 120 {
		sq := PeelSq(3 + 6*rng.Float64())
		fine, few := NewBand(sq, 0), CoarseOf(sq)
		start, first := fine.quantile(crestQuant), few.Crest()
		for range 1 + rng.IntN(4) {
			soft := 0.2 * math.Pow(50, rng.Float64())
			r := 0.3 + 2*rng.Float64()
			fine, few = fine.Cut(r, soft), few.Cut(r, soft)
		}
		film := start - fine.quantile(crestQuant)
		worstFilm = math.Max(worstFilm, math.Abs(first-few.Crest()-film))
		worstSq = math.Max(worstSq, math.Abs(few.Sq()-fine.Sq())/sq)
		if d := math.Abs(few.Untouched() - fine.Untouched()); d > 0.09 {
			t.Errorf("untouched %.3f, the model says %.3f", few.Untouched(), fine.Untouched())
		}
	}
	t.Logf("worst crest film %.3f µm, worst rms %.4f of the first", worstFilm, worstSq)
	if worstFilm > 0.1 || worstSq > 0.02 {
		t.Errorf("crest film is up to %.3f µm off, the rms %.4f of the first", worstFilm, worstSq)
	}
}

func BenchmarkCoarseCut(b *testing.B) {
	c := CoarseOf(1)
	for b.Loop() {
		c.Cut(1.5, 0.33)
	}
}
