package film

import (
	"math"
	"slices"
)

// Flag is something that the readings show about a panel's past, with the
// values that its sentence needs.
type Flag struct {
	Code  FlagCode
	Value float64 // µm, or times the factory level
	Limit float64
	Lower float64 // lower quartile of the panel's film, µm, of a likely repair
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
	// Two facts that do not go together: a factory finish with coats of ours, and a total
	// that is less than the coats of clear alone (Value) would be.
	FlagFactoryCoats FlagCode = "factory_coats"
	FlagUnderCoats   FlagCode = "under_coats"
)

// Bands are the levels (µm) from which film on a car is likely refinished and
// likely filler.
type Bands struct{ Refinished, Filler float64 }

const (
	refinishedFrom = 1.4   // times the factory level
	fillerFrom     = 3.0   // times the factory level
	fillerFilm     = 400.0 // µm, whatever the level
	repairFrom     = 1.35  // times the lower quartile of its own panel
)

// BandsOf a car of that factory level (µm, 0 where it is not known, and then
// refinished is 0 too).
func BandsOf(factory float64) Bands {
	if factory <= 0 {
		return Bands{Filler: fillerFilm}
	}
	return Bands{refinishedFrom * factory, math.Min(fillerFilm, fillerFrom*factory)}
}

// Flags looks at the total film of one panel (µm) and the car's factory level
// (µm, 0 where it is not known).
func Flags(film []float64, factory float64) []Flag {
	if len(film) == 0 {
		return nil
	}
	var out []Flag
	s := slices.Sorted(slices.Values(film))
	med, most := Median(s), s[len(s)-1]
	bands := BandsOf(factory)
	if factory > 0 && med >= bands.Refinished {
		out = append(out, Flag{Code: FlagRefinished, Value: med / factory, Limit: refinishedFrom})
	}
	switch quarter := quantile(s, 0.25); {
	case most >= bands.Filler:
		out = append(out, Flag{Code: FlagFiller, Value: most, Limit: bands.Filler})
	case len(s) >= 4 && most >= repairFrom*quarter:
		out = append(out, Flag{Code: FlagRepair, Value: most, Limit: repairFrom * quarter, Lower: quarter})
	}
	if least := s[0]; len(s) >= 4 && least < 0.7*med {
		out = append(out, Flag{Code: FlagThin, Value: least, Limit: 0.7 * med})
	}
	return out
}

// Contradictions are the facts of a panel of that total film (µm, 0 where it was not read)
// that do not go together. All are kept; which one is wrong is for a person to say.
func (h History) Contradictions(coatsSaid int, total float64) []Flag {
	var out []Flag
	if h.Finish == FactoryFinish && coatsSaid > 0 {
		out = append(out, Flag{Code: FlagFactoryCoats, Value: float64(coatsSaid)})
	}
	if h.Finish == Refinished && h.Coats > 0 && total > 0 {
		if clear := Coats(h.Coats, h.Coat).Mean; total < clear {
			out = append(out, Flag{Code: FlagUnderCoats, Value: clear, Limit: total})
		}
	}
	return out
}

// FactoryLevel is the film (µm) of a car's factory panels: the median of their means,
// 0 where none was read.
func FactoryLevel(means []float64) float64 {
	if len(means) == 0 {
		return 0
	}
	return Median(means)
}

// MapLayers are the bands of a map's layers: from where each begins, µm, and the doubt from which the map
// counts as a guess.
type MapLayers struct {
	Film, Doubt, Headroom []float64
	GuessFrom             float64
}

// MapBands are the bands that a map is drawn in (judgement): narrow where decisions fall.
var MapBands = MapLayers{
	Film:      []float64{75, 90, 105, 120, 135, 150, 165, 180, 195},
	Doubt:     []float64{0, 2, 4, 6, 8, 10, 13, 16, 20},
	Headroom:  []float64{-10, 0, 2, 4, 6, 8, 12, 16, 24},
	GuessFrom: 10,
}
