package level_test

import (
	"fmt"
	"math"

	"waxplanus/core/level"
)

// The tightest section that can reach the aim decides; one that cannot is left out.
func ExamplePlanHeadroom() {
	fmt.Println(level.PlanHeadroom([]float64{12, 9.5, 3.7}, 7, true))
	fmt.Println(level.PlanHeadroom([]float64{3.7, 2}, 7, true))
	// Output:
	// 9.5
	// 3.7
}

// Passes are granted while the risk of each stays within one in twenty.
func ExamplePassesLeft() {
	risk := func(n int) float64 { return 1 - math.Exp(-0.01*float64(n)) }
	n := level.PassesLeft(0.05, risk)
	fmt.Printf("%d passes\n", n)
	// Output: 5 passes
}
