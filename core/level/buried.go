package level

import (
	"math"

	"waxplanus/core/surface"
)

// Buried is the scratch that a step left (Depth, µm) and the share of it (0 to 1) that the
// passes after it have not taken out: by the cut as learned, and by one that is slower, as it
// is by 1 in 10. Over is the crest film (µm) that went after it.
type Buried struct {
	Step                        int // from 0
	Depth, Showing, ShowingSlow float64
	Over                        float64
}

// slowCut is how many standard deviations off a cut is by 1 in 10.
const slowCut = -1.2816

// Buried are the scratches of the steps that were made on a section, each under the passes
// made after it; the last one made is the finish and not among them.
func (w *Work) Buried(passes []int) []Buried {
	last := -1
	for i, n := range passes {
		if n > 0 {
			last = i
		}
	}
	var out []Buried
	for i := range max(last, 0) {
		if passes[i] == 0 {
			continue
		}
		later := make([]int, len(passes))
		copy(later[i+1:], passes[i+1:])
		depth := w.ladder.Steps[i].Scratch
		finer := surface.Void * math.Max(depth-w.ladder.Steps[last].Scratch, 0)
		s := w.spread(later)
		over := s.at(0, made) + finer
		out = append(out, Buried{Step: i, Depth: depth, Over: over, Showing: surface.StillShowing(over, depth),
			ShowingSlow: surface.StillShowing(s.at(slowCut, made)+finer, depth)})
	}
	return out
}

// Reached is the surface that passes have left on a section by the cut as learned.
func (w *Work) Reached(passes []int) surface.Surface {
	for i := len(passes) - 1; i >= 0; i-- {
		if passes[i] > 0 {
			return w.Cutting(i, passes[i]).Now
		}
	}
	return w.ladder.Start
}
