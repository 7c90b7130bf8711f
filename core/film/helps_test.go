package film

import (
	"math"
	"slices"
	"testing"

	"waxplanus/core/clearcoat"
)

// What could be found out is asked only where nobody knows it, the best first, and what each
// answer would bring is what the panel is judged to once it is known.
func TestHelpsComeTrue(t *testing.T) {
	untold := History{Finish: RefinishedOld}
	s := study(t, Facts{History: untold}, grid(0, 2))
	sec, spend := s.Sections[0], SpendDoubt(6)
	helps := s.Helps(sec, spend, false)
	codes := map[HelpCode]Help{}
	for i, h := range helps {
		codes[h.Code] = h
		if h.Fits < h.Opens-1e-9 || h.Fits > 1+1e-9 {
			t.Errorf("%s opens with %v and fits with %v", h.Code, h.Opens, h.Fits)
		}
		if i > 0 && compareHelp(h, helps[i-1]) > 0 {
			t.Errorf("%s stands behind %s", h.Code, helps[i-1].Code)
		}
	}
	for _, c := range []HelpCode{HelpUnder, HelpCoats, HelpCar, HelpBare, HelpLayers, HelpWitness} {
		if _, ok := codes[c]; !ok {
			t.Errorf("%s is not asked", c)
		}
	}
	// The sharper a reading of the clear, the more it decides.
	if codes[HelpWitness].Opens < codes[HelpBare].Opens-1e-9 {
		t.Errorf("a witness square opens with %v, a place without clear with %v", codes[HelpWitness].Opens, codes[HelpBare].Opens)
	}
	for _, a := range codes[HelpUnder].Answers {
		told := untold
		told.Under = clearcoat.Under(a.Answer)
		is := study(t, Facts{History: told}, grid(0, 2)).Sections[0]
		v := is.Policy.Judge(is.Least, is.Film.Mean, spend, false)
		if v.State != a.State || math.Abs(v.Under-a.Under) > 0.05 {
			t.Errorf("%s was told to make it %s (%.3f), it is %s (%.3f)", a.Answer, a.State, a.Under, v.State, v.Under)
		}
	}
	if known := study(t, Facts{History: History{Finish: Refinished, Coats: 3, Under: clearcoat.UnderNew}}, grid(0, 2)); slices.ContainsFunc(known.Helps(known.Sections[0], spend, false), func(h Help) bool { return h.Answers != nil }) {
		t.Error("what was said is asked again")
	}
	if single := study(t, Facts{History: History{Finish: SingleStaged}}, grid(0, 2)); len(single.Helps(single.Sections[0], spend, false)) != 0 {
		t.Error("a single stage finish has no clear to ask about")
	}
}

// A place without clear on the same part is a source: the clear is the total less that, to
// within 8 µm, and one that reads more than the whole film is odd.
func TestAPlaceWithoutClear(t *testing.T) {
	facts := Facts{History: History{Finish: RefinishedOld}, Bare: []Place{{X: 300, Y: 300, Film: 85}}}
	s := study(t, facts, grid(0, 2))
	want := s.Map.Level().Mean - 85
	i := slices.IndexFunc(s.Clear.Sources, func(x Source) bool { return x.Kind == FromBare })
	if i < 0 || math.Abs(s.Clear.Sources[i].Mean-want) > 2 || s.Clear.Sources[i].SD != 8 {
		t.Fatalf("%+v, want %.1f", s.Clear.Sources, want)
	}
	plain := study(t, Facts{History: facts.History}, grid(0, 2))
	if s.Clear.SD >= plain.Clear.SD || math.Abs(s.Clear.Mean-want) > math.Abs(plain.Clear.Mean-want)+1 {
		t.Errorf("clear %+v, without the place %+v", s.Clear.Estimate, plain.Clear.Estimate)
	}
	if len(s.Helps(s.Sections[0], SpendDoubt(6), false)) != 0 {
		t.Error("the clear was read, and is asked about")
	}
	facts.Bare[0].Film = 400
	if odd := study(t, facts, grid(0, 2)); !odd.Odd || slices.ContainsFunc(odd.Clear.Sources, func(x Source) bool { return x.Kind == FromBare }) {
		t.Errorf("400 µm without clear count: %+v", odd.Clear.Sources)
	}
}

// An agreed floor lowers the floor, never raises it, and not below what nobody may agree to.
func TestAgreedFloors(t *testing.T) {
	for agreed, want := range map[float64]float64{0: 40, 25: 25, 15: 15, 5: 15, 60: 40} {
		if got := (History{Finish: Refinished, Agreed: agreed}).Policy().Floor; got != want {
			t.Errorf("agreed to %v, the floor is %v, want %v", agreed, got, want)
		}
	}
	facts := Facts{History: History{Finish: Refinished, Coats: 2}}
	usual := study(t, facts, grid(0, 2)).Sections[0]
	facts.Agreed = 25
	lower := study(t, facts, grid(0, 2)).Sections[0]
	spend := SpendDoubt(7)
	a, b := usual.Policy.Judge(usual.Least, usual.Film.Mean, spend, false), lower.Policy.Judge(lower.Least, lower.Film.Mean, spend, false)
	if b.Under >= a.Under || b.Through != a.Through {
		t.Errorf("%+v becomes %+v", a, b)
	}
}
