package film

import "slices"

// Flag is something that the readings show about a panel's past, with the
// values that its sentence needs.
type Flag struct {
	Code  FlagCode
	Value float64 // µm, or times the factory level
	Limit float64
}

// FlagCode names a flag.
type FlagCode string

// The flags.
const (
	FlagRefinished FlagCode = "refinished" // panel against the car's factory level
	FlagRepair     FlagCode = "repair"     // one place against its panel
	FlagFiller     FlagCode = "filler"     // far more than paint
	FlagThin       FlagCode = "thin"       // a place that was cut before
	FlagOdd        FlagCode = "odd_before" // film before the clear is as much as the whole
)

// Flags looks at the total film of one panel (µm) and the car's factory level
// (µm, 0 where it is not known).
func Flags(film []float64, factory float64) []Flag {
	if len(film) == 0 {
		return nil
	}
	var out []Flag
	s := slices.Sorted(slices.Values(film))
	med, most := Median(s), s[len(s)-1]
	if factory > 0 && med >= 1.4*factory {
		out = append(out, Flag{FlagRefinished, med / factory, 1.4})
	}
	switch quarter := quantile(s, 0.25); {
	case most >= 400 || factory > 0 && most >= 3*factory:
		out = append(out, Flag{FlagFiller, most, 400})
	case len(s) >= 4 && most >= 1.35*quarter:
		out = append(out, Flag{FlagRepair, most, 1.35 * quarter})
	}
	if least := s[0]; len(s) >= 4 && least < 0.7*med {
		out = append(out, Flag{FlagThin, least, 0.7 * med})
	}
	return out
}
