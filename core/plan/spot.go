package plan

import (
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// FiledRest is what a nib still stands above the paint after it was filed with a
// small block, µm (judgement).
const FiledRest = 1.0

// Spot is the finish of a spot that was filed or blocked with fine paper: the
// finer steps that follow there, by name, and the crest film (µm) that they and
// the rest of the nib take at the spot.
type Spot struct {
	Steps []string
	Film  float64
}

// SpotFinish is what a spot costs on a colour: filed with P2000, then 3000, the
// compound and the polish, each burying the scratch before it.
func SpotFinish(c Colour) Spot {
	last := shelf.P2000.Scratch(shelf.RubberBlock)
	s := Spot{Steps: []string{shelf.P2000.Grit}, Film: FiledRest}
	for _, next := range []struct {
		name    string
		scratch float64
	}{
		{shelf.G3000.Grit, shelf.G3000.Scratch(shelf.FoamDisc)},
		{shelf.WoolMedium.Name, shelf.WoolMedium.Scratch},
		{shelf.FoamFine.Name, shelf.FoamFine.Scratch},
	} {
		s.Film += surface.BuryScratch(last, next.scratch, c.deep(), 1).Film
		s.Steps = append(s.Steps, next.name)
		last = next.scratch
	}
	return s
}
