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

// Informative says whether the shiny share is informative of flatness: on a stiff backing it
// goes with the last low spots, on a soft one long before.
func (l Look) Informative() bool { return l.Backing.E >= stiffFrom }

const stiffFrom = 4.0 // MPa, judgement: rigid and rubber blocks

// Seen is what a look tells: how many more passes lead to flat, and the grade before
// any pass and the rate (µm a pass) that explain the share seen best.
type Seen struct {
	Passes      film.Estimate
	Grade, Rate float64
}

// See weighs a grid over the grade and the cut by how well each explains the share
// seen.
func (l Look) See() Seen {
	const points, wide = 13, 2.5 // of the grid, standard deviations to each side
	out := Seen{Grade: l.Grade, Rate: l.Rate}
	var sum, mean, square, best float64
	for i := range points {
		zg := wide * (2*float64(i)/(points-1) - 1)
		grade := math.Max(0, l.Grade+GradeSpread*zg)
		flat := surface.RemovalToFlat(surface.PeelSq(grade), l.Backing, l.D50)
		at, taken := surface.OfGrade(grade), 0.0
		for k := range points { // rates rise, so each goes on from the one before
			zr := wide * (2*float64(k)/(points-1) - 1)
			rate := l.Rate * math.Exp(CutSpread*zr)
			more := rate*float64(l.Passes) - taken
			at, taken = at.Cut(l.Backing, l.D50, more, l.Scratch), taken+more
			d := (l.Shiny - at.Shiny(l.Scratch)) / EyeSpread
			w := math.Exp(-(zg*zg + zr*zr + d*d) / 2)
			left := math.Max(0, flat/rate-float64(l.Passes))
			sum, mean, square = sum+w, mean+w*left, square+w*left*left
			if w > best {
				best, out.Grade, out.Rate = w, grade, rate
			}
		}
	}
	if sum == 0 {
		out.Passes = film.Estimate{Mean: math.Max(0, surface.RemovalToFlat(surface.PeelSq(l.Grade), l.Backing, l.D50)/l.Rate-float64(l.Passes)), SD: float64(l.Passes)}
		return out
	}
	mean /= sum
	out.Passes = film.Estimate{Mean: mean, SD: math.Sqrt(math.Max(0, square/sum-mean*mean))}
	return out
}
