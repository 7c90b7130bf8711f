package shelf

import "fmt"

// gravity in m/s².
const gravity = 9.81

// Press is what a hand puts on a block or machine, as a bathroom scale shows it, against what
// the constants of the shelf want: in kg. Times is how many times as fast it cuts, and as much
// as it follows the waves instead of flattening them: both go with the pressure.
type Press struct{ Wants, Puts, Times float64 }

// mostKG is more than anybody leans on a block.
const mostKG = 60.0

// Alike is how far from what is wanted a hand may be and still count as that (judgement).
const Alike = 0.15

// Press of so many kg on a backing. It fails on a weight that makes no sense.
func (b Backing) Press(kg float64) (Press, error) {
	if !(kg > 0 && kg <= mostKG) {
		return Press{}, fmt.Errorf("a hand puts more than 0 and at most %.0f kg on a scale", mostKG)
	}
	const n = 1e-3 // kPa times mm² in N
	wants := b.P0 * b.Area * n / gravity
	return Press{wants, kg, kg / wants}, nil
}
