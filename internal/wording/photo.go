package wording

import (
	"fmt"

	"waxplanus/core/photo"
)

// photoRefusals say why a photo gives no figure and what would, by code; found and wanted
// figures are filled in where a sentence has room for them.
var photoRefusals = map[photo.Code]string{
	photo.NotAPicture:      "This is neither a PNG nor a JPEG picture.",
	photo.Damaged:          "The file is cut short or mangled: send the picture again as the camera made it.",
	photo.TooLarge:         "The picture is too large: at most 32 MB, 26 million pixels and 10 000 pixels a side.",
	photo.TooSmall:         "The picture is too small: 300 by 200 pixels at least.",
	photo.ScaleMissing:     "It is not known how many mm of the panel a pixel shows: say it.",
	photo.GeometryMissing:  "The pitch of the stripes and how far lamp and panel are apart are needed, in mm.",
	photo.GeometryRange:    "Stripes with a pitch of %.4g mm at %.4g mm cannot be: the pitch goes to 500 mm, the distance from 50 mm to 20 m.",
	photo.GeometryMismatch: "The stripes are wider than such a lamp is mirrored (%.2f; %.1f at least): check pitch, distance and scale.",
	photo.Saturated:        "%.0f %% of the picture is pure white: expose it darker, so that the bright stripes are just below white.",
	photo.LowContrast:      "Hardly any light and dark: the stripes have to stand out. Dim the room, or go nearer with the lamp.",
	photo.StripesNotFound:  "No stripes were found: let them fill the picture, without other lamps.",
	photo.StripesNarrow:    "The stripes are narrower than such a lamp is mirrored (%.2f; %.1f at most): check pitch, distance and scale, and that it is the lamp that is seen.",
	photo.StripesBroken:    "The stripes have gaps, as print or tiles have: let one mirrored lamp fill the picture.",
	photo.StripesUneven:    "The bright stripes are not alike (%.0f %% apart; %.0f %% at most), as planks are: let one evenly lit lamp fill the picture.",
	photo.StripesStraight:  "The stripes are straighter than any paint mirrors them: photograph the lamp in the paint, not the lamp.",
	photo.TooFewStripes:    "Only %.1f stripes: at least 5 are needed. Go further away, or take narrower stripes.",
	photo.StripesTooFine:   "The stripes are %.0f pixels wide: at least %.0f are needed. Go nearer, or take wider stripes.",
	photo.Rotated:          "The stripes lie aslant: turn the camera so that they stand or lie within 30 degrees.",
	photo.WanderTooLarge:   "The panel is rougher than such stripes can tell: take wider stripes, or put the lamp nearer.",
	photo.TooBlurred:       "The edges of the stripes are too soft: wider stripes, a smaller opening, or the panel is hazy.",
	photo.CardMissing:      "The scale card was not found: all of its white frame has to be in the picture, flat on the panel and not in the glare of a lamp.",
	photo.NoContrast:       "Nothing that shines stands out: either all of it is dull, or the light hides it. Move the lamp and take another.",
	photo.TooDark:          "The picture is too dark: more light, or a longer exposure.",
	photo.Wet:              "%.0f %% of the section is streaked: wipe it dry and take another.",
	photo.OutOfFocus:       "The picture seems out of focus: focus on the panel, not on the lamp behind it.",
}

// Photo says why a photo gives no figure.
func Photo(r *photo.Refusal) string {
	format := photoRefusals[r.Code]
	switch r.Code {
	case photo.Saturated, photo.Wet:
		return fmt.Sprintf(format, 100*r.Found)
	case photo.GeometryRange, photo.GeometryMismatch, photo.StripesNarrow, photo.StripesTooFine:
		return fmt.Sprintf(format, r.Found, r.Want)
	case photo.TooFewStripes:
		return fmt.Sprintf(format, r.Found)
	}
	return format
}

// Reflection says what a reflection tells of a panel, a line for each figure.
func Reflection(r photo.Reading) string {
	peel, pebble := "peel", "pebble"
	if r.PeelAtMost {
		peel = "peel, at most: the short waves hide it"
	}
	switch {
	case r.PebbleAtMost:
		pebble = "pebble, at most: the long waves hide it"
	case r.PebbleAtLeast:
		pebble = "pebble, at least: the lens may blur it"
	}
	haze := "haze"
	if r.HazeAtMost {
		haze = "haze, at most"
	}
	return fmt.Sprintf("%s %.2f µm rms, %.2f to %.2f\n%s %.3f µm rms, %.3f to %.3f\n%s %.1f mrad\n",
		peel, r.Peel.Value, r.Peel.Low, r.Peel.High, pebble, r.Pebble.Value, r.Pebble.Low, r.Pebble.High, haze, r.Haze.Value)
}

// StillShines says which share of a sanded section still shines.
func StillShines(r photo.Shiny) string {
	out := fmt.Sprintf("%.1f %% still shines, %.1f to %.1f", 100*r.Share.Value, 100*r.Share.Low, 100*r.Share.High)
	if r.LeftOut > 0.005 {
		out += fmt.Sprintf("; %.0f %% is streaked and was left out", 100*r.LeftOut)
	}
	return out + "."
}
