package marks

import "math"

// Shoulder is what blocking a hump costs beside it: a block that rests on the
// crest rocks, and its ends wear the paint on both sides.
type Shoulder struct {
	Share   float64 // of the block's work that falls on the shoulders
	Mean    float64 // loss there, µm
	PeakRaw float64 // largest loss by the lever alone, µm
	Peak    float64 // largest loss, fitted to a rocking block, within 35 %, µm
}

// The fit of the largest shoulder loss to a simulated rocking block.
const (
	peakOffset = 0.2
	peakFactor = 0.65
)

// ShoulderOf is the shoulder loss of blocking a raised cosine hump of height
// (µm) and width (mm) away with a block of that length (mm) and strokes of ± mm.
// The share on the shoulders is 1 - (b/A) ln(1 + A/b), b half of the block.
func ShoulderOf(height, width, block, stroke float64) Shoulder {
	b := block / 2
	s := Shoulder{Share: 1 - b/stroke*math.Log(1+stroke/b)}
	s.Mean = s.Share / (1 - s.Share) * height * width / (4 * stroke)
	s.PeakRaw = s.Mean * (stroke / (stroke + b)) / s.Share
	s.Peak = peakOffset + peakFactor*s.PeakRaw
	return s
}

// ShaveTo is how high (µm) a hump may stand when blocking begins, so that the
// shoulders lose no more than budget µm; 0 when the budget is too small.
func ShaveTo(budget, width, block, stroke float64) float64 {
	raw := ShoulderOf(1, width, block, stroke).PeakRaw
	return math.Max(0, (budget-peakOffset)/peakFactor/raw)
}

// Blade is a blade that shaves crests: its width in mm, what a stroke takes in
// µm and how long one is in s.
type Blade struct{ Width, Takes, Seconds float64 }

// UsualBlade is a new blade held upright (judgement).
var UsualBlade = Blade{40, 3, 1.5}

// ShaveTime is the time in s of shaving a run of that height (µm) and length
// (mm) down to rest µm.
func (b Blade) ShaveTime(height, length, rest float64) float64 {
	return math.Max(0, math.Ceil((height-rest)/b.Takes)) * math.Ceil(length/b.Width) * b.Seconds
}

// The blocks for runs and spots (judgement): length and stroke in mm.
const (
	RunBlock  = 125.0
	RunStroke = 30.0
)
