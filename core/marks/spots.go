package marks

import (
	"math"

	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

// SpotWork is the time of spotting nibs: Each (s) by hand, and polishing with
// Polish s per m² over circles of Radius m, which overlap as they get many.
type SpotWork struct{ Each, Radius, Polish float64 }

// UsualSpots are the usual times (judgement).
var UsualSpots = SpotWork{Each: 45, Radius: 0.075, Polish: 1200}

// Time is the time in s of n nibs scattered over m² square metres.
func (w SpotWork) Time(n int, m2 float64) float64 {
	if n == 0 || m2 <= 0 {
		return 0
	}
	per := float64(n) / m2
	return float64(n)*w.Each + m2*w.Polish*(1-math.Exp(-per*math.Pi*w.Radius*w.Radius))
}

// mostNibs bounds the search for the break-even.
const mostNibs = 5000

// BreakEven is the least number of nibs on m² square metres from which spotting
// takes longer than whole seconds, the time of the whole panel.
func (w SpotWork) BreakEven(m2, whole float64) int {
	lo, hi := 0, mostNibs
	for lo < hi {
		mid := (lo + hi) / 2
		if w.Time(mid, m2) > whole {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return lo
}

// Feather is how far in mm a dish of depth µm has to spread so that an eye that
// tells arcmin minutes of arc does not find it: 10.8 depth / arcmin.
func Feather(depth, arcmin float64) float64 { return 10.8 * depth / arcmin }

// Arcmin is what the eye tells on a colour: 1.5 dark, 3 medium, 5 light.
func Arcmin(colour string) float64 {
	switch colour {
	case "dark":
		return 1.5
	case "light":
		return 5
	}
	return 3
}

// Around a spot (judgement): how far in mm the small block reaches that files it, and
// the least that each finer grit reaches beyond the one before.
const (
	fileReach = 15.0
	mostShy   = 5.0
)

// Circles are the radii in mm that the steps of a ladder reach around a spot: each as
// far beyond the one before as a dish of the film taken so far has to spread, so that
// an eye does not find it on a colour; pads reach half a pad at least.
func Circles(m Mark, l plan.Ladder, colour string) []float64 {
	at, depth := math.Max(math.Max(m.Length, m.Width)/2, fileReach), 0.0
	var out []float64
	for i, s := range l.Steps {
		if i > 0 {
			at += math.Max(Feather(depth, Arcmin(colour)), mostShy)
		}
		if s.D50 == 0 {
			at = math.Max(at, shelf.PadWide/2)
		}
		depth += s.Film
		out = append(out, at)
	}
	return out
}
