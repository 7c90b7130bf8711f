package prove

import (
	"math"

	"waxplanus/core/photo"
	"waxplanus/core/surface"
)

// Texture is how rough a panel is: the rms of its peel and its pebble.
type Texture struct {
	Peel, Pebble surface.Depth
	// What a photo says of pebble may be a bound.
	PebbleAtMost, PebbleAtLeast bool
}

// sure is how many standard deviations a difference has to measure before it is one: 1 in 20
// by chance. An interval of a photo reaches as far to both sides.
const sure = 1.96

// least is the least rms that a logarithm is taken of, µm.
const least = 0.005

// OfPhoto is the texture that a reflection was read to be.
func OfPhoto(r photo.Reading) Texture {
	out := Texture{Peel: depthOf(r.Peel), Pebble: depthOf(r.Pebble), PebbleAtMost: r.PebbleAtMost, PebbleAtLeast: r.PebbleAtLeast}
	if r.PeelAtMost { // anything below is as likely
		out.Peel = surface.Depth{Median: math.Max(r.Peel.High/2, least), Spread: math.Ln2 / sure}
	}
	return out
}

// depthOf is an interval of 95 % as a depth.
func depthOf(i photo.Interval) surface.Depth {
	low, high := math.Max(i.Low, least), math.Max(i.High, 2*least)
	return surface.Depth{Median: math.Max(i.Value, least), Spread: math.Log(high/low) / (2 * sure)}
}

// EyeGrade is how far off a grade is that was given by eye (docs/model.md, looks).
const EyeGrade = 0.8

// ByEye is a grade given by eye, with its usual pebble.
func ByEye(grade float64) Texture {
	sq, spread := surface.PeelSq(grade), EyeGrade*gradeStep
	return Texture{Peel: surface.Depth{Median: sq, Spread: spread}, Pebble: surface.Depth{Median: surface.PebbleSq(sq), Spread: spread}}
}

// ByModel is the texture that the cut as learned leaves: its doubt is what the prototype of the
// model was off by, and what the grade that it began with was.
func ByModel(s surface.Surface, from Texture) Texture {
	const off = 0.2
	return Texture{Peel: surface.Depth{Median: math.Max(s.SqLong(), least), Spread: math.Hypot(off, from.Peel.Spread)},
		Pebble: surface.Depth{Median: math.Max(s.SqShort(), least), Spread: math.Hypot(off, from.Pebble.Spread)}}
}

// gradeStep is the logarithm of the rms that a grade is.
var gradeStep = math.Log(surface.PeelSq(1) / surface.PeelSq(0))

// Grade of the peel, with its doubt.
func (t Texture) Grade() (grade, sd float64) {
	return surface.PeelGrade(t.Peel.Median), t.Peel.Spread / gradeStep
}

// Likeness says how a surface is by the side of another.
type Likeness string

// The likenesses.
const (
	Alike   Likeness = "alike" // no more apart than their doubts
	Flatter Likeness = "flatter"
	Rougher Likeness = "rougher"
)

// Difference of two textures in grades of peel, the second less the first, with its doubt.
type Difference struct {
	Likeness
	Grades, SD float64
	Times      float64 // the second's rms by the first's
}

// Compare says how a texture is by the side of another.
func Compare(a, b Texture) Difference {
	d := math.Log(b.Peel.Median / a.Peel.Median)
	sd := math.Hypot(a.Peel.Spread, b.Peel.Spread)
	out := Difference{Likeness: Alike, Grades: d / gradeStep, SD: sd / gradeStep, Times: math.Exp(d)}
	switch {
	case d > sure*sd:
		out.Likeness = Rougher
	case d < -sure*sd:
		out.Likeness = Flatter
	}
	return out
}
