package surface

import "math"

// Void is the share of a scratch's depth that a scratched layer holds as void.
const Void = 0.3

// Bury is the film that a finer step must take to be rid of the scratch before
// it. Film is crest film in µm, Mean the mean removal in µm, Passes the whole
// passes at the rate asked for.
type Bury struct {
	Film, Mean float64
	Passes     int
}

// BuryScratch returns what it takes to bury a scratch of depth old (µm) with a
// step that leaves scratches of depth fresh (µm) and takes rate µm a pass. deep
// is how much deeper the deepest scratches are than the usual one: 1.1 on a
// light colour, 1.3 medium, 1.6 dark.
func BuryScratch(old, fresh, deep, rate float64) Bury {
	d := math.Max(deep*old-0.5*fresh, 0.5*old)
	mean := d - Void*(old-fresh)
	return Bury{Film: d, Mean: mean, Passes: max(int(math.Ceil(mean/rate-1e-9)), 1)}
}

// BuryTo returns the passes that leave no more than a share showing (0 to 1) of a
// scratch of depth old (µm): StillShowing turned round.
func BuryTo(showing, old, fresh, rate float64) int {
	d := -math.Log(showing) / 3 * old
	return max(int(math.Ceil((d-Void*(old-fresh))/rate-1e-9)), 1)
}

// StillShowing is the share, 0 to 1, of scratches of depth old (µm) that film µm
// of crest film have not taken out: exp(-3 film/old). A surface that had none
// shows none.
func StillShowing(film, old float64) float64 {
	if old <= 0 {
		return 0
	}
	return math.Exp(-3 * math.Max(film, 0) / old)
}

// Rate returns the mean removal in µm of one pass with a sheet of that d50 (µm)
// at the mean pressure p0 (kPa), by Preston's law scaled from a measured pass
// of 0.5 µm at 12.6 µm and 3 kPa. tool is 1 by hand and 3 on an orbital machine;
// hardness is 0.7 soft, 1 medium, 1.5 hard.
func Rate(d50, p0, tool, hardness float64) float64 {
	g := math.Pow(d50/12.6, 1.2)
	if d50 < 8.4 {
		g = math.Pow(8.4/12.6, 1.2) * (d50 / 8.4) * (d50 / 8.4)
	}
	return 0.50 * g * (p0 / 3) * tool / hardness
}

// DiscWear returns the cut left, 0 to 1, of a disc of that area (mm²) and d50
// (µm) after it took um µm off m2 square metres, and how many discs are due at
// half their cut.
func DiscWear(d50, discArea, m2, um float64) (left, due float64) {
	life := 0.16 * d50 / 12.6 // mm³ a mm²
	worn := m2 * 1e6 * um * 1e-3 / discArea / life
	return math.Exp(-worn), worn / math.Ln2
}
