package surface

import "math"

const light = 0.55 // µm, the middle of what the eye sees

// gloss is the share of light that one scratch depth (µm) leaves mirror-like at
// an angle from the normal, by the total integrated scatter of a Gaussian
// roughness of a sixth of that depth.
func gloss(scratch, degrees float64) float64 {
	x := 4 * math.Pi * scratch / 6 * math.Cos(degrees*math.Pi/180) / light
	return math.Exp(-x * x)
}

// Gloss returns the gloss, 0 to 1 of a perfect mirror, at an angle (degrees
// from the normal) of a surface with scratches of depth scratch (µm) of which
// the share showing still has the older depth old (µm).
func Gloss(scratch, old, showing, degrees float64) float64 {
	return (1-showing)*gloss(scratch, degrees) + showing*gloss(old, degrees)
}

// Gloss20 is the surface's gloss at 20 degrees, 0 to 1.
func (s Surface) Gloss20() float64 { return Gloss(s.Scratch, s.Last, s.Showing, 20) }

// Clarity is how sharp a reflection is, 0 to 100: the light that two slopes of
// the texture leave within 0.3 degrees, times the gloss at 20 degrees.
func Clarity(sqLong, sqShort, gloss20 float64) float64 {
	slope := 0.0 // sum of mean squares, µm/mm = 1e-3
	for _, b := range [][2]float64{{sqLong, LongWave}, {sqShort, ShortWave}} {
		k := 2 * math.Pi * b[0] * 1e-3 / b[1]
		slope += k * k / 2
	}
	sigma := 2 * math.Sqrt(slope) * 180 / math.Pi
	if sigma == 0 {
		return 100 * gloss20
	}
	return 100 * (2*normal.CDF(0.3/sigma) - 1) * gloss20
}

// Clarity of the surface, 0 to 100.
func (s Surface) Clarity() float64 { return Clarity(s.SqLong(), s.SqShort(), s.Gloss20()) }

// LampSwing is the rms swing, in arc minutes, that the long band of rms sq (µm)
// gives the edge of a reflected lamp.
func LampSwing(sq float64) float64 {
	return 4 * math.Pi * sq * 1e-3 / (LongWave * math.Sqrt2) * 180 / math.Pi * 60
}
