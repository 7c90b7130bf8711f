package prove

import (
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

// Hidden is a scratch that may lie under the gloss of a section: what a step left, and what the
// steps after it have not taken out.
type Hidden struct {
	Section string
	level.Buried
	Likely bool // by the cut as learned; else only if it is slower than thought, by 1 in 10
}

// HiddenUnder are the scratches of a section that its steps as they were really done may have
// left under the gloss, the deepest first: those that the colour shows and of which more
// stands than it hides. passes counts those of each step.
func HiddenUnder(section string, w *level.Work, passes []int, c plan.Colour, law shelf.Law) []Hidden {
	var out []Hidden
	for _, b := range w.Buried(passes) {
		switch {
		case b.Depth <= c.Haze(law): // the colour does not show it
		case b.Showing > c.Ghost(law):
			out = append(out, Hidden{section, b, true})
		case b.ShowingSlow > c.Ghost(law):
			out = append(out, Hidden{section, b, false})
		}
	}
	return out
}
