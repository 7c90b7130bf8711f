package surface_test

import (
	"fmt"

	"waxplanus/core/surface"
)

// Passes that bury the scratch of P1500 (1.26 µm) by P2500 (0.59 µm) at 0.4 µm a pass.
func ExampleBuryScratch() {
	b := surface.BuryScratch(1.26, 0.59, 1, 0.4)
	fmt.Printf("%d passes take %.1f µm\n", b.Passes, b.Film)
	// Output: 2 passes take 1.0 µm
}
