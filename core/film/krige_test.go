package film

import (
	"math"
	"testing"
)

func TestMaternIsRightFromItsTable(t *testing.T) {
	for r := 0.0; r < 8000; r += 0.37 {
		q := math.Sqrt(3) * r / 250
		if want, got := (1+q)*math.Exp(-q), matern(r, 250); math.Abs(got-want) > 1e-9 {
			t.Fatalf("at %g mm: %g, want %g", r, got, want)
		}
	}
}
