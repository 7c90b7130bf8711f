package shelf

import "testing"

func TestAbrasivesRunFromCoarseToFine(t *testing.T) {
	list := []Abrasive{P800, P1000, P1200, P1500, P2000, P2500, G3000}
	for i := 1; i < len(list); i++ {
		a, b := list[i-1], list[i]
		if b.D50 >= a.D50 || b.Scratch(RubberBlock) >= a.Scratch(RubberBlock) || b.Rate(FoamDisc, 1) >= a.Rate(FoamDisc, 1) {
			t.Errorf("%s is not finer than %s in grain, scratch and cut", b.Grit, a.Grit)
		}
	}
}

func TestBackingsAreWhole(t *testing.T) {
	keys := map[string]bool{}
	for name, b := range Backings {
		if keys[b.Key] || b.Key == "" || b.Name == "" {
			t.Errorf("%s has key %q, name %q", name, b.Key, b.Name)
		}
		keys[b.Key] = true
		if b.E <= 0 || b.D < 0 || b.P0 <= 0 || b.Pad <= 0 || b.Area <= 0 {
			t.Errorf("%s: %+v", name, b)
		}
		if b.Tool == Hand && b.Area > 10000 || b.Tool != Hand && b.Area < 10000 {
			t.Errorf("%s: %v mm2 does not fit a %s", name, b.Area, b.Tool)
		}
	}
}

func TestSofterPaintAndMachinesCutFaster(t *testing.T) {
	if P1500.Rate(RubberBlock, 0.7) <= P1500.Rate(RubberBlock, 1) || P1500.Rate(FoamDisc, 1) <= P1500.Rate(RubberBlock, 1) {
		t.Error("hardness or tool does not count")
	}
}

func TestCompoundsClearWhatComesBefore(t *testing.T) {
	if s := G3000.Scratch(FoamDisc); s > Reach*WoolMedium.Scratch {
		t.Errorf("the compound reaches %.2f, the last disc leaves %.2f", Reach*WoolMedium.Scratch, s)
	}
	if WoolMedium.Scratch > Reach*FoamFine.Scratch || FoamFine.Removal >= WoolMedium.Removal {
		t.Error("the fine polish does not follow the compound")
	}
}
