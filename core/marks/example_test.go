package marks_test

import (
	"fmt"

	"waxplanus/core/marks"
)

// A mark as one tap places it has the usual size of its kind.
func ExamplePlaced() {
	m := marks.Placed(marks.Run, 420, 310, 6)
	fmt.Printf("%s %.0f by %.0f mm, %.0f µm above the paint, said by somebody: %v\n", m.Kind, m.Length, m.Width, m.Relief().Mean, m.Said())
	// Output: run 60 by 12 mm, 30 µm above the paint, said by somebody: false
}

// How far a dish of 4 µm must be feathered so that it does not show on black.
func ExampleFeather() {
	fmt.Printf("%.0f mm\n", marks.Feather(4, marks.Arcmin("dark")))
	// Output: 29 mm
}
