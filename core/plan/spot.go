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

// SpotFinish is what a spot costs on a colour with the usual shelf: filed with
// P2000, then 3000, the compound and the polish, each burying the scratch before
// it.
func SpotFinish(c Colour) Spot {
	s := shelf.Usual()
	paper, _ := s.Abrasive("p2000")
	block, _ := s.Backing("rubber")
	fine, _ := s.Abrasive("3000")
	disc, _ := s.Backing("foam-disc")
	last := paper.Scratch(block)
	out := Spot{Steps: []string{paper.Grit}, Film: FiledRest}
	add := func(name string, scratch float64) {
		out.Film += surface.BuryScratch(last, scratch, c.deep(s.Law), 1).Film
		out.Steps = append(out.Steps, name)
		last = scratch
	}
	add(fine.Grit, fine.Scratch(disc))
	for _, key := range []string{"wool-medium", "foam-fine"} {
		k, _ := s.Compound(key)
		add(k.Title+" "+k.Name, k.Scratch)
	}
	return out
}
