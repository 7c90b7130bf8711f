package wording

import (
	"fmt"
	"math"

	"waxplanus/core/film"
)

// rounds are the N of "1 in N", and tenfold; shares what is more than half.
var (
	rounds = []float64{2, 3, 4, 5, 6, 7, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 70, 80}
	shares = []struct {
		p    float64
		text string
	}{{1.0 / 2, "1 in 2"}, {2.0 / 3, "2 in 3"}, {3.0 / 4, "3 in 4"}, {4.0 / 5, "4 in 5"}, {9.0 / 10, "9 in 10"}, {1, "nearly certain"}}
)

// oneIn is a chance as a painter says it: 1 in 12. Near a line between two states it says on
// which side it lies, so that one figure never wears two states.
func oneIn(p float64) string {
	const least, half = 1.0 / 1000, 0.6
	switch {
	case p < least:
		return "less than 1 in 1000"
	case p >= half:
		best := shares[0]
		for _, s := range shares {
			if math.Abs(s.p-p) < math.Abs(best.p-p) {
				best = s
			}
		}
		return best.text
	}
	best := 0.0
	for _, tens := range []float64{1, 10, 100} {
		for _, n := range rounds {
			if n *= tens; best == 0 || math.Abs(math.Log(n*p)) < math.Abs(math.Log(best*p)) {
				best = n
			}
		}
	}
	text := fmt.Sprintf("1 in %.0f", best)
	for _, line := range []float64{film.DefaultTight, film.DefaultRisk} {
		if math.Abs(best*line-1) > 1e-9 {
			continue
		}
		if p <= line {
			return "just under " + text
		}
		return "just over " + text
	}
	return text
}

// line is an accepted chance, which is one of a few: 1 in 20, 10, 5 or 3.
func line(p float64) string { return fmt.Sprintf("1 in %.0f", 1/p) }

// Line is an accepted chance as it is said.
func (w Words) Line(p float64) string { return line(p) }
