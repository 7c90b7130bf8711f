package practice

import "testing"

// One square teaches enough to plan by: few panels here, many with waxplanus bench correct.
func TestASquareIsEnoughToPlanBy(t *testing.T) {
	const panels = 120
	got, err := Correct(panels)
	if err != nil {
		t.Fatal(err)
	}
	if got.Off > 0.10 {
		t.Errorf("the share said is %.0f points off", 100*got.Off)
	}
	for target, least := range map[Target]float64{0.8: 0.75, 0.95: 0.55} {
		if share := float64(got.Right[target]) / panels; share < least {
			t.Errorf("%.0f %%: the cycles of %.0f %% of the panels are right", 100*float64(target), 100*share)
		}
		if got.Later[target] < got.Right[target] {
			t.Errorf("%.0f %%: a look at the first section makes it worse, %d of %d", 100*float64(target), got.Later[target], got.Right[target])
		}
	}
	if got.Through > 0 || got.Given() > 0.15 {
		t.Errorf("%d through, %.0f %% given away", got.Through, 100*got.Given())
	}
}
