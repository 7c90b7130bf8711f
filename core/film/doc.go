// Package film turns gauge readings of a panel into what may be spent of its
// clear: a map of the total film with its doubt, the clear from every source
// there is, the floor, and the headroom above it at a chosen risk.
//
// Film is in µm, places in mm from the top left of the panel's bounding box, x
// right and y down as seen from outside. docs/model.md gives the sources of the
// formulas; constants marked judgement there are the shop's to change.
package film

// Thinning is how film thins towards edges and creases: by the share Edge right
// at an edge, fading over EdgeReach mm; Crease and CreaseReach likewise.
type Thinning struct {
	Edge, EdgeReach, Crease, CreaseReach float64
}

// Thin is the usual thinning (judgement).
var Thin = Thinning{Edge: 0.25, EdgeReach: 20, Crease: 0.15, CreaseReach: 15}

// Gauge is what is known of a contact film gauge: repeatability A (µm), its
// calibration B as a share of the film, Replace (µm), what putting the probe
// back on the same spot changes, and Miss (mm), how far from the cross it lands.
type Gauge struct {
	A, B, Replace, Miss float64
}

// UsualGauge is a gauge that nobody has studied yet (judgement).
var UsualGauge = Gauge{A: 0.8, B: 0.01, Replace: 1.0, Miss: 8}
