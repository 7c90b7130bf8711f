package plan

import (
	"math"
	"slices"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// RateSpread is the doubt of the cut of a pass before anything was read, as a
// logarithm.
var RateSpread = math.Hypot(SharedSpread, OwnSpread)

// Cutter is a sheet on a backing that it fits, or a compound on its pad, with
// what a pass of it does on medium paint.
type Cutter struct {
	Choice
	Title, What   string
	Tool          shelf.Tool
	Body          string  // paper, film, foam or pad
	Rate, Scratch float64 // µm
	Have          bool

	d50 float64
}

// Key is a cutter's things as text: p1500@rubber, or foam-fine.
func (c Cutter) Key() string {
	if c.Backing == "" {
		return c.Item
	}
	return c.Item + "@" + c.Backing
}

// Cutters lists all that a shelf can cut with, the compounds last.
func Cutters(s *shelf.Shelf) []Cutter {
	var out []Cutter
	for _, a := range s.Abrasives {
		for _, b := range s.Backings {
			if a.Fits(b) {
				out = append(out, Cutter{Choice: Choice{a.Key, b.Key, 1}, Title: a.Grit, What: sheetOf(a, b), Tool: b.Tool, Body: string(a.Body),
					Rate: s.Law.Rate(a, b, 1), Scratch: a.Scratch(b), Have: a.Have && b.Have, d50: a.D50})
			}
		}
	}
	for _, c := range s.Compounds {
		out = append(out, Cutter{Choice: Choice{Item: c.Key, Passes: 1}, Title: c.Title, What: c.Name + ", " + c.Pad, Tool: c.Tool, Body: "pad",
			Rate: c.Rate(1), Scratch: c.Scratch, Have: c.Have})
	}
	return out
}

// Before is what a cutter needs after another: the passes and the crest film
// that bury its scratch on a medium colour. Passes is 0 where it does not clear
// it, by how much too deep Over says, in µm.
type Before struct {
	Cutter Cutter
	Passes int
	Film   float64
	Over   float64
}

// Befores lists what is rougher than a cutter and near enough to be asked about,
// the finest first.
func Befores(s *shelf.Shelf, c Cutter) []Before {
	const near = 1.35 // of the deepest scratch it clears, that are still listed
	law := s.Law
	most := law.ScratchMost * c.Scratch
	if c.d50 == 0 {
		most = law.Reach * c.Scratch
	}
	var out []Before
	for _, b := range Cutters(s) {
		if b.Scratch <= c.Scratch || b.Scratch > near*most || c.d50 > 0 && b.d50 == 0 || !b.Have {
			continue
		}
		n := Before{Cutter: b}
		ratio := b.d50 / c.d50
		bury := surface.BuryScratch(b.Scratch, c.Scratch, Medium.deep(law), c.Rate)
		switch {
		case b.Scratch > most*(1+1e-9):
			n.Over = b.Scratch - most
		case c.d50 > 0 && (ratio < law.StepLeast-1e-9 || ratio > law.StepMost+1e-9):
		case c.d50 == 0 && bury.Passes > int(law.CyclesMost):
		default:
			n.Passes, n.Film = bury.Passes, bury.Film
		}
		out = append(out, n)
	}
	slices.SortStableFunc(out, func(a, b Before) int { return sign(a.Cutter.Scratch - b.Cutter.Scratch) })
	return out
}
