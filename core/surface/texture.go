// Package surface models the texture of paint and what a sheet, disc or pad
// does to it: waves on a compliant backing, scratch, gloss and clarity.
//
// Heights, film and scratches are in µm, wavelengths in mm, pressures in kPa,
// moduli in MPa and sheet stiffness in N·m. docs/model.md gives the sources of
// the formulas; constants marked judgement there are corrected by readings.
package surface

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// The two bands that painters' texture is split into.
const (
	LongWave  = 5.0 // mm, peel: what swings the edge of a reflected lamp
	ShortWave = 0.7 // mm, pebble: what roughens that edge
)

// FlatSq is the rms height of the long band, in µm, at or below which a panel
// counts as flat.
const FlatSq = 0.20

var normal = distuv.UnitNormal

// PeelSq returns the rms height of the long band, in µm, for a peel grade of
// our own scale (0 mirror to 10 very heavy): 0.12 · 1.42^grade.
func PeelSq(grade float64) float64 { return 0.12 * math.Pow(1.42, grade) }

// PeelGrade is the inverse of PeelSq. Anything smoother than grade 0 is 0.
func PeelGrade(sq float64) float64 {
	if sq <= 0.12 {
		return 0
	}
	return math.Log(sq/0.12) / math.Log(1.42)
}

// PebbleSq returns the rms height of the short band, in µm, that goes with a
// long band of rms sq where nobody has measured it.
func PebbleSq(sq float64) float64 { return 0.15 * sq }

// PeakToValley returns the peak-to-valley height, in µm, of a Gaussian texture
// of rms sq: 4.5 sq.
func PeakToValley(sq float64) float64 { return 4.5 * sq }

const (
	quantiles    = 256
	crestQuant   = 0.977  // what a gauge foot rests on
	valleyLow    = 0.0122 // Φ(-2.25) and Φ(2.25): 4.5 sq apart on a Gaussian
	valleyHigh   = 1 - valleyLow
	shinyScratch = 0.15 // share of a scratch depth that hides the old gloss
)

// Surface is the texture of one place: the height quantiles of both bands, how
// much each has lost, and the scratch that the last step left. Steps return a
// new Surface; a Surface is never changed in place.
type Surface struct {
	long, short Band
	sqShort0    float64
	// Scratch is the depth in µm that the last step left; 0 is untouched gloss.
	Scratch float64
	// Last is the depth of the scratch before that and Showing its share, 0 to
	// 1, that the last step has not taken out.
	Last, Showing float64
}

// New returns a glossy surface of the given rms heights (µm) of the long and
// the short band. skew is the shape of the height distribution, -0.25 (pits) to 0.25
// (pimples).
func New(sqLong, sqShort, skew float64) Surface {
	return Surface{long: NewBand(sqLong, skew), short: NewBand(sqShort, 0), sqShort0: sqShort}
}

// OfGrade returns a glossy surface of that peel grade with its usual pebble.
func OfGrade(grade float64) Surface {
	sq := PeelSq(grade)
	return New(sq, PebbleSq(sq), 0)
}

// SqLong is the rms height of what is left of the long band, in µm.
func (s Surface) SqLong() float64 { return s.long.Sq() }

// SqShort is the rms height of what is left of the short band, in µm: valleys
// of the long band that nothing has touched keep all of it.
func (s Surface) SqShort() float64 {
	if s.sqShort0 == 0 {
		return 0
	}
	u, f := s.long.Untouched(), s.short.Sq()/s.sqShort0
	return s.sqShort0 * math.Sqrt(u+(1-u)*f*f)
}

// Untouched is the share of the surface, 0 to 1, that has lost no film.
func (s Surface) Untouched() float64 { return s.long.Untouched() }

// Grade is the peel grade of what is left.
func (s Surface) Grade() float64 { return PeelGrade(s.SqLong()) }

// Crest is the height, in µm, on which a gauge foot rests, from the mean of
// the fresh surface.
func (s Surface) Crest() float64 { return s.long.quantile(crestQuant) }

// Valley is the peak-to-valley height left in the long band, in µm.
func (s Surface) Valley() float64 {
	return s.long.quantile(valleyHigh) - s.long.quantile(valleyLow)
}

// Shiny is the share, 0 to 1, that still looks shiny when the panel is wiped
// dry after a step that leaves scratches of that depth (µm).
func (s Surface) Shiny(scratch float64) float64 {
	sum := 0.0
	for _, r := range s.long.lost {
		sum += math.Exp(-r / (shinyScratch * scratch))
	}
	return sum / float64(len(s.long.lost))
}
