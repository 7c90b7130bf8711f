package shelf

import "waxplanus/core/surface"

// Sizes of sheets in contact, mm and mm².
const (
	blockWide = 70.0
	blockArea = 70.0 * 125
	discWide  = 150.0
	discArea  = 17671.0
	padWide   = 140.0
)

// PolishPad is what all compounds are worked with, as the contact model sees it.
var PolishPad = surface.Backing{E: 0.1, D: 0, P0: 5}

// PadWide is the diameter in mm of a polishing pad.
const PadWide = padWide

// Usual is the usual shelf: generic things, with the trade's constants.
func Usual() Shelf {
	paper := func(key, grit string, d50 float64) Abrasive {
		return Abrasive{Key: key, Grit: grit, D50: d50, Body: Paper, Price: 1.1, Have: true}
	}
	film := func(key, grit string, d50 float64) Abrasive {
		return Abrasive{Key: key + "-film", Grit: grit, D50: d50, Body: Film, Price: 1.6, Have: true}
	}
	foam := func(key, grit string, d50 float64) Abrasive {
		return Abrasive{Key: key, Grit: grit, D50: d50, Body: Foam, Price: 4.2, Have: true}
	}
	hand := func(key, name string, e float64) Backing {
		return Backing{Key: key, Name: name, Backing: surface.Backing{E: e, D: 1e-4, P0: 3}, Tool: Hand, Scratch: 0.10,
			Pad: blockWide, Area: blockArea, Takes: Paper, Finest: 8.4, Have: true}
	}
	disc := func(key, name string, e, d, scratch, finest float64, takes Body) Backing {
		return Backing{Key: key, Name: name, Backing: surface.Backing{E: e, D: d, P0: 2}, Tool: Orbital, Scratch: scratch,
			Pad: discWide, Area: discArea, Takes: takes, Finest: finest, Have: true}
	}
	compound := func(key, title, name, pad string, f Fibre, t Tool, removal, scratch float64) Compound {
		return Compound{key, title, name, pad, f, t, removal, scratch, 48, 25, 16, 20, true}
	}
	return Shelf{
		Abrasives: []Abrasive{
			paper("p600", "P600", 25.8), paper("p800", "P800", 21.8), paper("p1000", "P1000", 18.3), paper("p1200", "P1200", 15.3),
			paper("p1500", "P1500", 12.6), paper("p2000", "P2000", 10.3), paper("p2500", "P2500", 8.4),
			film("p600", "P600", 25.8), film("p800", "P800", 21.8), film("p1000", "P1000", 18.3), film("p1200", "P1200", 15.3),
			film("p1500", "P1500", 12.6), film("p2000", "P2000", 10.3), film("p2500", "P2500", 8.4), film("3000", "3000", 6.0),
			foam("p2000-foam", "P2000", 10.3), foam("p2500-foam", "P2500", 8.4), foam("3000", "3000", 6.0), foam("4000", "4000", 4.5), foam("5000", "5000", 3.5),
		},
		Backings: []Backing{
			hand("rigid", "rigid block", 50), hand("rubber", "rubber block", 5), hand("soft-hand", "soft hand pad", 1.5),
			disc("da-hard", "hard disc pad", 0.6, 5e-5, 0.085, 8.4, Film),
			disc("da-medium", "medium disc pad", 0.3, 5e-5, 0.085, 8.4, Film),
			disc("interface", "interface pad", 0.1, 5e-5, 0.07, 6.0, Film),
			disc("foam-disc", "foam-backed disc", 0.2, 1e-5, 0.07, 0, Foam),
		},
		Compounds: []Compound{
			compound("rotary-wool-heavy", "cut", "compound", "long wool", Wool, Rotary, 1.0, 0.35),
			compound("microfibre-heavy", "cut", "compound", "microfibre", Microfibre, Orbital, 0.6, 0.20),
			compound("rotary-foam-medium", "medium", "compound", "firm foam", FoamFace, Rotary, 0.5, 0.18),
			compound("wool-medium", "medium", "compound", "short wool", Wool, Orbital, 0.5, 0.16),
			compound("foam-medium", "medium", "compound", "firm foam", FoamFace, Orbital, 0.35, 0.12),
			compound("rotary-foam-fine", "fine", "polish", "soft foam", FoamFace, Rotary, 0.2, 0.06),
			compound("foam-fine", "fine", "polish", "soft foam", FoamFace, Orbital, 0.12, 0.03),
			compound("foam-ultra", "ultra", "polish", "very soft foam", FoamFace, Orbital, 0.06, 0.02),
		},
		Law: usualLaw,
	}
}
