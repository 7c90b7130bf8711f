package film

import "testing"

func TestOldFinishesKeepMore(t *testing.T) {
	for years, want := range map[float64]float64{0: 25, 5: 25, 7: 26, 15: 30, 60: 30} {
		if got := (History{Finish: FactoryFinish, Years: years}).Policy().Floor; got != want {
			t.Errorf("after %v years the floor is %v, want %v", years, got, want)
		}
	}
	if got := (History{Finish: Refinished, Years: 20}).Policy().Floor; got != PolicyFor(Refinished).Floor {
		t.Errorf("a refinish keeps %v", got)
	}
	if got := (History{Finish: FactoryFinish, Years: 15, Agreed: 20}).Policy().Floor; got != 20 {
		t.Errorf("the owner agreed to 20, it keeps %v", got)
	}
}
