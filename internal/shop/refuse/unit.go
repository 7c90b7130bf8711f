package refuse

// Unit is what films are shown in.
type Unit string

// The units.
const (
	Micron Unit = "um"
	Mil    Unit = "mil"
)

// MicronsPerMil is one thousandth of an inch.
const MicronsPerMil = 25.4

// Microns is a value of that unit in µm.
func (u Unit) Microns(v float64) float64 {
	if u == Mil {
		return v * MicronsPerMil
	}
	return v
}

// PerMicron is how much of the unit a µm is.
func (u Unit) PerMicron() float64 { return 1 / u.Microns(1) }
