package surface

import "math"

const curvePoints = 65

// Curve is the crest film that one step takes as a function of its mean
// removal, both in µm. It rises throughout, and beyond its end goes on with
// slope 1: full contact.
type Curve struct {
	most  float64
	crest [curvePoints]float64
}

// CrestCurve follows a step from surface s up to a mean removal of most µm.
func (s Surface) CrestCurve(b Backing, d50, most float64) Curve {
	cl, cs := b.Compliance(d50)
	c := Curve{most: most}
	band := s.long
	start := band.quantile(crestQuant)
	for i := 1; i < curvePoints; i++ {
		band = band.Cut(most/(curvePoints-1), cl+cs)
		c.crest[i] = math.Max(start-band.quantile(crestQuant), c.crest[i-1])
	}
	return c
}

// At is the crest film in µm for a mean removal r µm.
func (c Curve) At(r float64) float64 {
	if r <= 0 {
		return 0
	}
	if r >= c.most {
		return c.crest[curvePoints-1] + r - c.most
	}
	x := r / c.most * (curvePoints - 1)
	i := int(x)
	return c.crest[i] + (x-float64(i))*(c.crest[i+1]-c.crest[i])
}
