package photo

import "fmt"

// Code says why a photo gives no figure.
type Code string

// What makes a file none that is read.
const (
	NotAPicture  Code = "not_a_picture" // neither PNG nor JPEG
	Damaged      Code = "damaged"       // cut short or mangled
	TooLarge     Code = "too_large"
	TooSmall     Code = "too_small"
	ScaleMissing Code = "scale_missing"
)

// What makes a reflection none that is read.
const (
	GeometryMissing  Code = "geometry_missing"
	GeometryRange    Code = "geometry_range"
	GeometryMismatch Code = "geometry_mismatch" // the stripes are wider than such a lamp can be mirrored
	Saturated        Code = "saturated"
	LowContrast      Code = "low_contrast"
	StripesNotFound  Code = "stripes_not_found"
	StripesNarrow    Code = "stripes_narrow"   // narrower than such a lamp is mirrored
	StripesBroken    Code = "stripes_broken"   // they have gaps, as print, keys and tiles have
	StripesUneven    Code = "stripes_uneven"   // each has a shade of its own, as planks have
	StripesStraight  Code = "stripes_straight" // straighter than any paint mirrors them
	TooFewStripes    Code = "too_few_stripes"
	StripesTooFine   Code = "stripes_too_fine"
	Rotated          Code = "rotated"
	WanderTooLarge   Code = "wander_too_large" // the surface is rougher than the stripes can tell
	TooBlurred       Code = "too_blurred"
	OutOfFocus       Code = "out_of_focus"
)

// Codes lists all of them.
var Codes = []Code{NotAPicture, Damaged, TooLarge, TooSmall, ScaleMissing, GeometryMissing, GeometryRange, GeometryMismatch, Saturated, LowContrast,
	StripesNotFound, StripesNarrow, StripesBroken, StripesUneven, StripesStraight, TooFewStripes, StripesTooFine, Rotated, WanderTooLarge, TooBlurred, OutOfFocus, CardMissing, NoContrast, TooDark, Wet}

// Refusal is why a photo was not read, with the figures that decided.
type Refusal struct {
	Code        Code
	Found, Want float64
}

func (r *Refusal) Error() string { return fmt.Sprintf("%s (%.3g, %.3g)", r.Code, r.Found, r.Want) }

func refuse(c Code, found, want float64) error { return &Refusal{c, found, want} }
