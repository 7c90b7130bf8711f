package film

import "testing"

// What may go open or at all is what the verdict on it says, for a section by its coats, by
// readings before the clear, and of a factory finish.
func TestRoomsAndVerdictsAgree(t *testing.T) {
	for name, f := range map[string]Facts{
		"three coats": {History: History{Finish: Refinished, Coats: 3}},
		"two coats":   {History: History{Finish: Refinished, Coats: 2, Agreed: 25}},
		"factory":     {History: History{Finish: FactoryFinish}},
	} {
		s := study(t, f, grid(0, 2))
		for _, sec := range s.Sections {
			for _, spots := range []bool{false, true} {
				open, most := sec.Policy.Rooms(sec.Least, sec.Film.Mean, spots)
				if open > most {
					t.Errorf("%s, %s: %.2f is open and %.2f at most", name, sec.Name, open, most)
				}
				for um := 0.6; um < 30; um += 0.7 {
					v := sec.Policy.Judge(sec.Least, sec.Film.Mean, SpendDoubt(um), spots)
					if um < open-0.05 && v.State != Open || um > open+0.05 && v.State == Open || um < most-0.05 && v.State == Shut || um > most+0.05 && v.State != Shut {
						t.Errorf("%s, %s: %.2f open, %.2f at most, and %.1f is %s for %s", name, sec.Name, open, most, um, v.State, v.Reason)
					}
				}
			}
		}
	}
}

func BenchmarkJudge(b *testing.B) {
	s := study(b, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 2))
	sec := s.Sections[0]
	for b.Loop() {
		sec.Policy.Judge(sec.Least, sec.Film.Mean, SpendDoubt(8), false)
	}
}
