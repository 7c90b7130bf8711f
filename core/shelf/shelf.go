// Package shelf holds what lies on a refinisher's shelf: abrasives, backings,
// pads and compounds under generic names, with the constants that the model
// needs and where each comes from.
package shelf

import "waxplanus/core/surface"

// Tool is what moves the sheet.
type Tool string

// The tools.
const (
	Hand    Tool = "hand"
	Orbital Tool = "orbital"
)

// Speed is the tool's factor on the removal of a pass (judgement).
func (t Tool) Speed() float64 {
	if t == Hand {
		return 1
	}
	return 3
}

// Backing is a block or pad with what the contact model needs of it.
type Backing struct {
	Key, Name string
	surface.Backing
	Tool    Tool
	Scratch float64 // depth of scratch as a share of d50
	Pad     float64 // mm, the side that a lane is as wide as
	Area    float64 // mm² of sheet in contact
}

// The backings (moduli and pressures: judgement).
var (
	RubberBlock = Backing{"rubber", "rubber block", surface.Backing{E: 5, D: 1e-4, P0: 3}, Hand, 0.10, 70, 70 * 125}
	FoamDisc    = Backing{"foam-disc", "foam-backed disc", surface.Backing{E: 0.2, D: 1e-5, P0: 2}, Orbital, 0.07, 150, 17671}
	PolishPad   = Backing{"polish-pad", "polishing pad", surface.Backing{E: 0.1, D: 0, P0: 5}, Orbital, 0, 140, 15394}
)

// Backings gives all backings by the name that worked examples use.
var Backings = map[string]Backing{
	"rigid":       {"rigid", "rigid block", surface.Backing{E: 50, D: 1e-4, P0: 3}, Hand, 0.10, 70, 70 * 125},
	"rubber":      RubberBlock,
	"soft hand":   {"soft-hand", "soft hand pad", surface.Backing{E: 1.5, D: 1e-4, P0: 3}, Hand, 0.10, 70, 70 * 125},
	"DA hard":     {"da-hard", "hard disc pad", surface.Backing{E: 0.6, D: 5e-5, P0: 2}, Orbital, 0.085, 150, 17671},
	"DA medium":   {"da-medium", "medium disc pad", surface.Backing{E: 0.3, D: 5e-5, P0: 2}, Orbital, 0.085, 150, 17671},
	"foam disc":   FoamDisc,
	"interface":   {"interface", "interface pad", surface.Backing{E: 0.1, D: 5e-5, P0: 2}, Orbital, 0.07, 150, 17671},
	"polish pads": PolishPad,
}

// Abrasive is a sheet or disc by its grit. D50 is the median grain in µm: by
// the P scale to P2500, nominal beyond.
type Abrasive struct {
	Key, Grit string
	D50       float64
	Body      string // paper, film or foam
}

// The abrasives, coarse to fine.
var (
	P800  = Abrasive{"p800", "P800", 21.8, "paper"}
	P1000 = Abrasive{"p1000", "P1000", 18.3, "paper"}
	P1200 = Abrasive{"p1200", "P1200", 15.3, "paper"}
	P1500 = Abrasive{"p1500", "P1500", 12.6, "paper"}
	P2000 = Abrasive{"p2000", "P2000", 10.3, "paper"}
	P2500 = Abrasive{"p2500", "P2500", 8.4, "foam"}
	G3000 = Abrasive{"3000", "3000", 6.0, "foam"}
)

// Scratch is the depth in µm that an abrasive leaves on a backing.
func (a Abrasive) Scratch(b Backing) float64 { return b.Scratch * a.D50 }

// Rate is the mean removal of one pass in µm on paint of that hardness.
func (a Abrasive) Rate(b Backing, hardness float64) float64 {
	return surface.Rate(a.D50, b.P0, b.Tool.Speed(), hardness)
}

// Compound is a compound or polish with its pad. Removal is µm a cycle of four
// crossing passes on medium paint, Scratch the depth it leaves in µm.
type Compound struct {
	Key, Name, Pad   string
	Tool             Tool
	Removal, Scratch float64
}

// The compounds (judgement).
var (
	WoolMedium = Compound{"wool-medium", "medium compound", "short wool", Orbital, 0.5, 0.16}
	FoamFine   = Compound{"foam-fine", "fine polish", "soft foam", Orbital, 0.12, 0.03}
)

// Reach is how many times its own scratch a compound can clear, and MostCycles
// how often it may go over one place (judgement).
const (
	Reach      = 5.5
	MostCycles = 4
)
