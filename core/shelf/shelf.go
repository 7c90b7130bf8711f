// Package shelf holds what lies on a refinisher's shelf: abrasives, backings,
// pads and compounds under generic names, with the constants that the model
// needs and where each comes from. Every constant can be changed and set back.
package shelf

import (
	"cmp"
	"slices"

	"waxplanus/core/surface"
)

// Tool is what moves the sheet.
type Tool string

// The tools.
const (
	Hand    Tool = "hand"
	Orbital Tool = "orbital"
	Rotary  Tool = "rotary"
)

// Body is what carries the grain.
type Body string

// The bodies: wet paper, film disc and foam-backed disc.
const (
	Paper Body = "paper"
	Film  Body = "film"
	Foam  Body = "foam"
)

// Backing is a block or pad with what the contact model needs of it.
type Backing struct {
	Key, Name string
	surface.Backing
	Tool    Tool
	Scratch float64 // depth of scratch as a share of d50
	Pad     float64 // mm, the side that a lane is as wide as
	Area    float64 // mm² of sheet in contact
	Takes   Body    // the sheets that fit it
	Finest  float64 // µm, the least d50 of a sheet that is used on it
	Have    bool
}

// Flattens says whether a backing is stiff enough to bridge the long waves.
func (b Backing) Flattens() bool { return b.Tool == Hand && b.E >= stiff }

const stiff = 4.0 // MPa (judgement)

// Abrasive is a sheet or disc by its grit. D50 is the median grain in µm: by
// the P scale to P2500, nominal beyond. Price is of one piece, in the shop's
// money.
type Abrasive struct {
	Key, Grit string
	D50       float64
	Body      Body
	Price     float64
	Have      bool
}

// Scratch is the depth in µm that an abrasive leaves on a backing.
func (a Abrasive) Scratch(b Backing) float64 { return b.Scratch * a.D50 }

// Fits says whether an abrasive is used on a backing.
func (a Abrasive) Fits(b Backing) bool { return a.Body == b.Takes && a.D50 >= b.Finest }

// Compound is a compound or polish with its pad. Removal is µm a cycle of four
// crossing passes on medium paint, Scratch the depth it leaves in µm. Price is
// of a litre, Use the ml for a m² and cycle, PadPrice of a pad that lasts
// PadLife m² and cycles.
type Compound struct {
	Key, Title, Name, Pad             string
	Fibre                             Fibre
	Tool                              Tool
	Removal, Scratch                  float64
	Price, Use, PadPrice, PadLifetime float64
	Have                              bool
}

// Fibre is what a pad's face is made of.
type Fibre string

// The faces of pads.
const (
	Wool       Fibre = "wool"
	Microfibre Fibre = "microfibre"
	FoamFace   Fibre = "foam"
)

// Rate is the mean removal in µm of one cycle on paint of that hardness.
func (c Compound) Rate(hardness float64) float64 { return c.Removal / hardness }

// Pads is how many pads so many ml of it wear out: both go with area and cycles.
func (c Compound) Pads(ml float64) float64 {
	if c.Use <= 0 || c.PadLifetime <= 0 {
		return 0
	}
	return ml / c.Use / c.PadLifetime
}

// PadKey is the key under which the pads of a compound are counted.
func (c Compound) PadKey() string { return c.Key + ".pad" }

// TapeKey is the key under which masking tape is counted.
const TapeKey = "tape"

// Cycle is the money that a m² and cycle costs: compound and the pad's wear.
func (c Compound) Cycle() float64 { return c.Use/1000*c.Price + c.PadPrice/c.PadLifetime }

// Shelf is all that a shop works with, and the constants of its work.
type Shelf struct {
	Abrasives []Abrasive
	Backings  []Backing
	Compounds []Compound
	Law       Law
}

// Rate is the mean removal of one pass in µm of an abrasive on a backing, on
// paint of that hardness.
func (l Law) Rate(a Abrasive, b Backing, hardness float64) float64 {
	speed := l.SpeedHand
	if b.Tool != Hand {
		speed = l.SpeedOrbital
	}
	return surface.Rate(a.D50, b.P0, speed, hardness)
}

// Medium is the hardness that others are measured by.
const Medium = "medium"

// Hardness is how hard paint of a kind is, medium being 1: soft, hard, oxidised, lacquer,
// and medium for any other.
func (l Law) Hardness(kind string) float64 {
	switch kind {
	case "soft":
		return l.Soft
	case "hard":
		return l.Hard
	case "oxidised":
		return l.Oxidised
	case "lacquer":
		return l.Lacquer
	}
	return 1
}

// LightPolish is the film in µm of a light polish of paint of a hardness: lightCycles of a fine
// compound on the softest pad that is fine (judgement).
func (s *Shelf) LightPolish(hardness float64) float64 {
	fine, _ := s.Compound("foam-fine")
	return lightCycles * fine.Rate(hardness)
}

const lightCycles = 4

// Abrasive finds an abrasive by its key.
func (s *Shelf) Abrasive(key string) (Abrasive, bool) {
	i := slices.IndexFunc(s.Abrasives, func(a Abrasive) bool { return a.Key == key })
	if i < 0 {
		return Abrasive{}, false
	}
	return s.Abrasives[i], true
}

// Backing finds a backing by its key.
func (s *Shelf) Backing(key string) (Backing, bool) {
	i := slices.IndexFunc(s.Backings, func(b Backing) bool { return b.Key == key })
	if i < 0 {
		return Backing{}, false
	}
	return s.Backings[i], true
}

// Compound finds a compound by its key.
func (s *Shelf) Compound(key string) (Compound, bool) {
	i := slices.IndexFunc(s.Compounds, func(c Compound) bool { return c.Key == key })
	if i < 0 {
		return Compound{}, false
	}
	return s.Compounds[i], true
}

// Grits are the grits of a shelf by name, the coarsest first.
func (s *Shelf) Grits() []string {
	all := slices.Clone(s.Abrasives)
	slices.SortStableFunc(all, func(a, b Abrasive) int { return cmp.Compare(b.D50, a.D50) })
	var out []string
	for _, a := range all {
		if !slices.Contains(out, a.Grit) {
			out = append(out, a.Grit)
		}
	}
	return out
}

// MayRun says whether somebody who runs nothing coarser than a grit may run one of
// d50 µm, 0 for a compound. Whoever is held to a grit that is not on the shelf may.
func (s *Shelf) MayRun(coarsest string, d50 float64) bool {
	i := slices.IndexFunc(s.Abrasives, func(a Abrasive) bool { return a.Grit == coarsest })
	return i < 0 || d50 <= s.Abrasives[i].D50
}
