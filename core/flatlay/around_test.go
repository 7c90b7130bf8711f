package flatlay

import (
	"math"
	"testing"
)

func TestAroundCountsCutOuts(t *testing.T) {
	square := func(x, y, side float64) []Point {
		return []Point{{X: x, Y: y}, {X: x + side, Y: y}, {X: x + side, Y: y + side}, {X: x, Y: y + side}}
	}
	p := Panel{Outline: square(0, 0, 500)}
	if got := p.Around(); math.Abs(got-2000) > 1e-9 {
		t.Errorf("a square of 500 mm is %v mm around", got)
	}
	p.Holes = []Hole{{Points: square(100, 100, 50)}}
	if got := p.Around(); math.Abs(got-2200) > 1e-9 {
		t.Errorf("with a cut-out of 50 mm it is %v mm around", got)
	}
}
