package film

import (
	"math"
	"strconv"
)

// Odd is a reading that does not fit those around it: what it was taken for,
// what is expected there (µm), and what it would be if the slip were undone
// (µm, 0 where no slip explains it).
type Odd struct {
	Code     OddCode
	Expected Estimate
	Meant    float64
}

// OddCode names what a reading that does not fit may be.
type OddCode string

// What a reading may be.
const (
	OddMil    OddCode = "mil"    // typed in mil, taken as µm
	OddMicron OddCode = "um"     // typed in µm, taken as mil
	OddDigit  OddCode = "digit"  // a digit too many or too few, or two swapped
	OddHigh   OddCode = "high"   // far more than its panel reads
	OddLow    OddCode = "low"    // far less
	OddTwice  OddCode = "differ" // two readings of one place that the gauge does not explain
)

// Limits of what fits (judgement): so many spreads from the median of the
// others, whose spread is taken to be at least that share.
const (
	oddSpreads = 4.0
	oddLeast   = 0.09
	oddOthers  = 2
	// A reading above all others promises film: among so many others their spread is
	// taken to be no more than it is, but for this share, and from so many spreads on it
	// counts less the further it is off.
	oddMany = 4
	oddHigh = 0.05
	oddFrom = 2.0
)

const micronsPerMil = 25.4

// OddAmong holds a new reading of T µm at a spot against others of its panel.
// It returns false where it fits, or where there are too few to tell.
func OddAmong(others []Reading, spot Spot, um float64) (Odd, bool) {
	e := Thin.Factor(spot.Edge, spot.Crease)
	var flat []float64
	for _, r := range others {
		if r.Zone == spot.Zone {
			flat = append(flat, r.T/Thin.Factor(r.Edge, r.Crease))
		}
	}
	if len(flat) < oddOthers {
		return Odd{}, false
	}
	mid := Median(flat)
	away := make([]float64, len(flat))
	for i, v := range flat {
		away[i] = math.Abs(v - mid)
	}
	const ofNormal = 1.4826 // median of deviations to standard deviation
	least := oddLeast
	if um > mid*e && len(flat) >= oddMany {
		least = oddHigh
	}
	expected := Estimate{mid * e, e * math.Max(least*mid, ofNormal*Median(away))}
	return OddFrom(expected, um)
}

// OddFrom holds a reading of um µm against what is expected. It returns false where it fits.
func OddFrom(expected Estimate, um float64) (Odd, bool) {
	fits := func(v float64) bool { return math.Abs(v-expected.Mean) <= oddSpreads*expected.SD }
	if fits(um) {
		return Odd{Expected: expected}, false
	}
	out := Odd{Code: OddHigh, Expected: expected}
	if um < expected.Mean {
		out.Code = OddLow
	}
	for _, slip := range slips(um) {
		if fits(slip.Meant) {
			out.Code, out.Meant = slip.Code, slip.Meant
			break
		}
	}
	return out, true
}

// The total film (µm) that a panel which nobody has read yet may have, and what it usually has
// (judgement): under the one bare metal begins, over the other filler or a wrong unit.
const (
	leastTotal, mostTotal = 30.0, 900.0
	usualLow, usualHigh   = 60.0, 400.0
)

// unreadTotal is what is expected of a panel that nobody has read.
var unreadTotal = Estimate{150, 75}

// OddAlone holds a reading of um µm against what any panel may have, where too few others tell
// what this one has.
func OddAlone(um float64) (Odd, bool) {
	if um >= leastTotal && um <= mostTotal {
		return Odd{Expected: unreadTotal}, false
	}
	out := Odd{Code: OddHigh, Expected: unreadTotal}
	if um < leastTotal {
		out.Code = OddLow
	}
	for _, slip := range slips(um) {
		if slip.Meant >= usualLow && slip.Meant <= usualHigh {
			out.Code, out.Meant = slip.Code, slip.Meant
			break
		}
	}
	return out, true
}

// slips are what a value may have been meant to be.
func slips(um float64) []Odd {
	out := []Odd{{Code: OddMil, Meant: um * micronsPerMil}, {Code: OddMicron, Meant: um / micronsPerMil},
		{Code: OddDigit, Meant: um / 10}, {Code: OddDigit, Meant: um * 10}}
	digits := []byte(strconv.FormatFloat(math.Round(um), 'f', 0, 64))
	for i := range len(digits) - 1 {
		digits[i], digits[i+1] = digits[i+1], digits[i]
		if v, err := strconv.ParseFloat(string(digits), 64); err == nil {
			out = append(out, Odd{Code: OddDigit, Meant: v})
		}
		digits[i], digits[i+1] = digits[i+1], digits[i]
	}
	return out
}

// doubt is the variance (µm²) that a reading that reads too much carries besides its own:
// the map would promise film that is not there, and film does not grow. It rises with how
// far the reading is off, so that none opens what the others would not. One that reads
// too little counts in full, and so does one that a second shot confirms.
func doubt(readings []Reading, i int) float64 {
	r := readings[i]
	others := append(append([]Reading{}, readings[:i]...), readings[i+1:]...)
	odd, is := OddAmong(others, r.Spot, r.T)
	// Filler is there, and no clear: however sure, it says nothing of the paint around it.
	if filler := r.T >= fillerFilm && r.T >= fillerFrom*odd.Expected.Mean && odd.Expected.Mean > 0; (r.Shots > 1 || r.Sure) && !filler {
		return 0
	}
	d, from := r.T-odd.Expected.Mean, oddFrom*odd.Expected.SD
	switch {
	case odd.Expected == Estimate{} || d <= from:
		return 0
	case is:
		return d * d
	}
	return d*d - from*from
}

// apartBy is how far (µm) two shots of one place may be apart, at three
// standard deviations of their difference.
func (g Gauge) apartBy() float64 { return 3 * math.Sqrt2 * math.Hypot(g.A, g.Replace) }

// Alike says whether a reading is like the film of a panel, both µm (judgement).
func Alike(panel, read float64) bool { return math.Abs(panel/read-1) < 0.06 }
