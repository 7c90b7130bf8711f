package film_test

import (
	"fmt"

	"waxplanus/core/film"
)

// Two sources of the clear that agree are worth more than either.
func ExampleCombine() {
	coats := film.Coats(3, 0) // three coats, nobody measured one
	direct := film.Direct(64, 5)
	clear, _ := film.Combine(coats, direct)
	fmt.Printf("coats %.0f ± %.1f µm, by the gauge %.0f ± %.1f µm: %.0f ± %.1f µm\n", coats.Mean, coats.SD, direct.Mean, direct.SD, clear.Mean, clear.SD)
	// Output: coats 78 ± 10.9 µm, by the gauge 64 ± 2.2 µm: 65 ± 2.7 µm
}

// Shots of one place say how well a gauge repeats.
func ExampleStudyGauge() {
	study := film.StudyGauge([]float64{151, 152.5, 151, 150.5, 152, 153, 150, 151})
	fmt.Printf("repeats within %.1f µm, from %d shots\n", study.A.Mean, study.N)
	// Output: repeats within 0.8 µm, from 8 shots
}

// What a film reading is held against on a car whose factory panels read 105 µm.
func ExampleBandsOf() {
	b := film.BandsOf(105)
	fmt.Printf("refinished from %.0f µm, filler from %.0f µm\n", b.Refinished, b.Filler)
	// Output: refinished from 147 µm, filler from 315 µm
}
