package level

import (
	"testing"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// More that still shines means more passes to flat, with no more doubt than before
// anybody looked; on a soft backing a look tells nothing.
func TestPassesByShinyFollowTheShare(t *testing.T) {
	s := shelf.Usual()
	a, _ := s.Abrasive("p1500")
	rigid, _ := s.Backing("rigid")
	soft, _ := s.Backing("soft-hand")
	rate := s.Law.Rate(a, rigid, 1)
	last := -1.0
	for _, share := range []float64{0, 0.1, 0.3, 0.5} {
		l := Look{Backing: rigid.Backing, D50: a.D50, Scratch: a.Scratch(rigid), Rate: rate, Grade: 7, Passes: 2, Shiny: share}
		p := l.See().Passes
		if p.Mean <= last || p.SD <= 0 || p.SD > 2.5 || !l.Informative() {
			t.Errorf("%.0f in 100 shining: %.2f ± %.2f passes after %.2f", 100*share, p.Mean, p.SD, last)
		}
		last = p.Mean
	}
	if (Look{Backing: soft.Backing}).Informative() {
		t.Error("a soft pad tells of flatness")
	}
	far := Look{Backing: rigid.Backing, D50: a.D50, Scratch: a.Scratch(rigid), Rate: rate, Grade: 0, Passes: 30, Shiny: 1}.See().Passes
	if want := surface.RemovalToFlat(surface.PeelSq(0), rigid.Backing, a.D50); far.Mean < 0 || want < 0 {
		t.Errorf("a look that cannot be gives %v", far)
	}
}
