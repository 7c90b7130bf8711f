package surface

import (
	"math"
	"sort"
)

// Backing is what is behind the paper: the effective modulus E (MPa), the
// bending stiffness D of backing and sheet (N·m) and the mean pressure P0 (kPa)
// that goes with it.
type Backing struct {
	E, D, P0 float64
}

// longFit turns the half-space form into the measured answer of a rough
// surface; it was fitted to a two-dimensional elastic contact computation.
const longFit = 0.85

// stiffness is K of a wave of that length (mm) in kPa/µm: an elastic half-space
// π E/λ and a plate D k⁴.
func (b Backing) stiffness(wave float64) float64 {
	return math.Pi*b.E/wave + 1000*b.D*math.Pow(2*math.Pi/wave, 4)
}

// Compliance returns how far, in µm at the mean pressure, the backing with a
// sheet of that d50 (µm) follows a wave of the long and of the short band.
func (b Backing) Compliance(d50 float64) (long, short float64) {
	return b.ComplianceAt(d50, LongWave, ShortWave)
}

// ComplianceAt is Compliance for other wavelengths (mm).
func (b Backing) ComplianceAt(d50, longWave, shortWave float64) (long, short float64) {
	return longFit * b.P0 / b.stiffness(longWave),
		b.P0/b.stiffness(shortWave) + 0.01*d50*b.P0
}

// CurvedFactor returns the length (mm) over which a block touches a panel of
// radius rho (mm) under force (N), by Hertz's line contact, and the factor by
// which its compliances grow. block and width are the block's sides in mm.
func CurvedFactor(e, force, block, width, rho float64) (contact, factor float64) {
	perMM := force / width
	contact = math.Min(block, 2*math.Sqrt(4*perMM*rho/(math.Pi*e)))
	return contact, block / contact
}

// Band is one band of texture as height quantiles, low to high, in µm, and what
// each has lost.
type Band struct {
	h, lost []float64
}

// NewBand returns a band of rms sq (µm). skew bends the Gaussian quantiles:
// heights go with h + a (h² - 1), scaled back to sq.
func NewBand(sq, skew float64) Band {
	h := make([]float64, quantiles)
	for i := range h {
		g := normal.Quantile((float64(i) + 0.5) / quantiles)
		h[i] = g + skew*(g*g-1)
	}
	sort.Float64s(h)
	b := Band{h: h, lost: make([]float64, quantiles)}
	if s := b.Sq(); s > 0 {
		for i := range h {
			h[i] *= sq / s
		}
	}
	return b
}

// Sq is the rms height about the mean, in µm.
func (b Band) Sq() float64 {
	m, q := 0.0, 0.0
	for _, v := range b.h {
		m += v
	}
	m /= float64(len(b.h))
	for _, v := range b.h {
		q += (v - m) * (v - m)
	}
	return math.Sqrt(q / float64(len(b.h)))
}

// Top is the highest level, in µm: what a rigid plane has cut down to.
func (b Band) Top() float64 { return b.h[len(b.h)-1] }

// Untouched is the share of quantiles that has lost nothing.
func (b Band) Untouched() float64 {
	n := 0
	for _, r := range b.lost {
		if r == 0 {
			n++
		}
	}
	return float64(n) / float64(len(b.lost))
}

func (b Band) quantile(p float64) float64 {
	x := p*float64(len(b.h)) - 0.5
	i := min(max(int(math.Floor(x)), 0), len(b.h)-2)
	return b.h[i] + (x-float64(i))*(b.h[i+1]-b.h[i])
}

// Cut takes a mean removal r (µm) off through a backing that follows by c (µm
// at the mean pressure). Each quantile is pressed in proportion to how far it
// stands above the level z0 at which the mean pressure is met, and loses film
// in proportion to its pressure (Preston). The mean of what is lost is r
// exactly. c = 0 is a rigid plane.
func (b Band) Cut(r, c float64) Band {
	out := Band{h: append([]float64(nil), b.h...), lost: append([]float64(nil), b.lost...)}
	if r <= 0 {
		return out
	}
	if c < 1e-3*b.Sq() || c == 0 {
		out.plane(r)
		return out
	}
	n := max(int(math.Ceil(r/math.Min(0.05, 0.5*c))), 1)
	for range n {
		out.substep(r/float64(n), c)
	}
	return out
}

// level returns the height z0 above which the mean of (h - z0)⁺ is area, and
// the first index above it.
func (b Band) level(area float64) (z0 float64, first int) {
	n := float64(len(b.h))
	sum := 0.0
	for k := len(b.h) - 1; k >= 0; k-- {
		sum += b.h[k]
		m := float64(len(b.h) - k)
		z0 = (sum - area*n) / m
		if k == 0 || b.h[k-1] <= z0 {
			return z0, k
		}
	}
	return z0, 0
}

func (b Band) substep(r, c float64) {
	z0, first := b.level(c)
	for i := first; i < len(b.h); i++ {
		d := r * (b.h[i] - z0) / c
		b.h[i] -= d
		b.lost[i] += d
	}
}

func (b Band) plane(r float64) {
	z0, first := b.level(r)
	for i := first; i < len(b.h); i++ {
		b.lost[i] += b.h[i] - z0
		b.h[i] = z0
	}
}

// Cut returns the surface after a step that takes a mean removal r (µm) with a
// backing and a sheet of that d50 (µm) and leaves scratches of depth scratch
// (µm).
func (s Surface) Cut(b Backing, d50, r, scratch float64) Surface {
	cl, cs := b.Compliance(d50)
	return s.cut(r, cl+cs, cs, scratch)
}

func (s Surface) cut(r, cLong, cShort, scratch float64) Surface {
	out := s
	out.long = s.long.Cut(r, cLong)
	out.short = s.short.Cut(r, cShort)
	loss := s.Crest() - out.Crest() + Void*(s.Scratch-scratch)
	out.Last, out.Showing = s.Scratch, StillShowing(loss, s.Scratch)
	out.Scratch = scratch
	return out
}

// CrestLoss is what a gauge foot sinks from surface s to a later one, in µm.
func (s Surface) CrestLoss(after Surface) float64 { return s.Crest() - after.Crest() }

// GaugeLoss is what a contact gauge reads less after a step: the crests' loss
// and 0.3 of the change in scratch depth, since a scratched layer holds that
// share of its depth as void. After a first step on gloss the gauge reads less
// of a loss than was cut.
func (s Surface) GaugeLoss(after Surface) float64 {
	return s.CrestLoss(after) + Void*(s.Scratch-after.Scratch)
}
