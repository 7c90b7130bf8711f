package level

import (
	"math"

	"waxplanus/core/film"
	"waxplanus/core/surface"
)

// Look is one look at a section that was wiped dry after passes of a levelling
// step: the share that still looks shiny (0 to 1), the Grade of peel as it was
// taken for, and the nominal Rate in µm a pass.
type Look struct {
	Backing surface.Backing
	D50     float64 // µm
	Scratch float64 // µm that the sheet leaves
	Rate    float64
	Grade   float64
	Passes  int
	Shiny   float64
}

// Doubts before and of a look: of the grade as it was judged, of the cut as a
// logarithm, and of the share that an eye sees (judgement).
const (
	GradeSpread = 0.8
	CutSpread   = 0.35
	EyeSpread   = 0.05
)

// Tells says whether the shiny share tells of flatness: on a stiff backing it
// goes with the last low spots, on a soft one long before.
func (l Look) Tells() bool { return l.Backing.E >= tellsFrom }

const tellsFrom = 4.0 // MPa, judgement: rigid and rubber blocks

// weigh goes over a grid of the grade and the cut and says how well each explains the
// share seen: the grade before any pass, the rate (µm a pass) and the passes to flat.
func (l Look) weigh(at func(grade, rate, left, weight float64)) {
	const points, wide = 13, 2.5 // of the grid, standard deviations to each side
	for i := range points {
		zg := wide * (2*float64(i)/(points-1) - 1)
		grade := math.Max(0, l.Grade+GradeSpread*zg)
		start := surface.OfGrade(grade)
		flat := surface.RemovalToFlat(surface.PeelSq(grade), l.Backing, l.D50)
		for k := range points {
			zr := wide * (2*float64(k)/(points-1) - 1)
			rate := l.Rate * math.Exp(CutSpread*zr)
			seen := start.Cut(l.Backing, l.D50, rate*float64(l.Passes), l.Scratch).Shiny(l.Scratch)
			d := (l.Shiny - seen) / EyeSpread
			at(grade, rate, math.Max(0, flat/rate-float64(l.Passes)), math.Exp(-(zg*zg+zr*zr+d*d)/2))
		}
	}
}

// PassesByShiny is how many more passes lead to flat, from one look: a grid over
// the grade and the cut, weighed by how well each explains the share seen.
func PassesByShiny(l Look) film.Estimate {
	var sum, mean, square float64
	l.weigh(func(_, _, left, w float64) { sum, mean, square = sum+w, mean+w*left, square+w*left*left })
	if sum == 0 {
		return film.Estimate{Mean: math.Max(0, surface.RemovalToFlat(surface.PeelSq(l.Grade), l.Backing, l.D50)/l.Rate-float64(l.Passes)), SD: float64(l.Passes)}
	}
	mean /= sum
	return film.Estimate{Mean: mean, SD: math.Sqrt(math.Max(0, square/sum-mean*mean))}
}

// Likeliest is the grade before any pass and the rate (µm a pass) that explain a look
// best.
func (l Look) Likeliest() (grade, rate float64) {
	grade, rate, best := l.Grade, l.Rate, 0.0
	l.weigh(func(g, r, _, w float64) {
		if w > best {
			grade, rate, best = g, r, w
		}
	})
	return grade, rate
}
