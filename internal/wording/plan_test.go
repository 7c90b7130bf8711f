package wording

import (
	"slices"
	"strings"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
)

// whole says whether a sentence is one: not empty, ended, and with all its values.
func whole(text string) bool {
	return text != "" && !strings.Contains(text, "%!") && !strings.ContainsRune(text, markFrom) && strings.HasSuffix(text, ".")
}

func TestEveryWarningHasItsOwnSentence(t *testing.T) {
	seen := map[string]plan.WarnCode{}
	values := map[string]float64{"scratch": 1.5, "most": 1.3, "showing": 0.08, "needs": 4, "passes": 2, "reach": 0.6, "leaves": 0.4, "d50": 21.8,
		"grade": 3, "film": 4, "high": 1.5, "low": 3.6, "haze": 0.06, "last": 0.2, "ghost": 0.01, "clarity": 80, "want": 90, "nibs": 3}
	for _, code := range []plan.WarnCode{plan.WarnSkipped, plan.WarnEarly, plan.WarnReach, plan.WarnCycles, plan.WarnCoarser, plan.WarnStart, plan.WarnLong,
		plan.WarnSoft, plan.WarnNotFlat, plan.WarnTooFlat, plan.WarnHaze, plan.WarnGhost, plan.WarnClarity, plan.WarnNibs} {
		text := said.Warning(plan.Warning{Step: 1, Code: code, Values: values})
		if other, twice := seen[text]; !whole(text) || twice {
			t.Errorf("%s says %q, as %s does", code, text, other)
		}
		seen[text] = code
	}
}

func TestEveryStepHasItsReason(t *testing.T) {
	seen := map[string]bool{}
	codes := []plan.WhyCode{plan.WhyLevels, plan.WhyPartly, plan.WhyFlat, plan.WhyScratch, plan.WhyFiles, plan.WhyBury, plan.WhyClears, plan.WhyHaze, plan.WhyShort, plan.WhyTooDeep, plan.WhySwirls, plan.WhyDead}
	for _, code := range codes {
		text := said.Step(plan.Step{Why: plan.Why{Code: code, Values: map[string]float64{"passes": 3, "grade": 1.2, "film": 2, "scratch": 1.2, "leaves": 0.4,
			"reach": 0.9, "needs": 4, "haze": 0.06, "nibs": 11, "seconds": 45, "rest": 1, "gone": 0.8, "dead": 2}}})
		if !whole(text) || seen[text] {
			t.Errorf("%s says %q", code, text)
		}
		seen[text] = true
	}
}

// speaking is a panel that can speak of ladders, without a shop around it.
func speaking(t *testing.T, aim plan.Aim) *panel.Panel {
	t.Helper()
	h := house.House{Shelf: shelf.Usual()}
	o, err := plan.Find(plan.Job{Aim: aim, Grade: 6, Reference: 4, Colour: plan.Dark, Hardness: 1, Scratch: plan.UsualSwirl, Area: 0.5e6, Nibs: 4,
		Sections: []plan.Rect{{W: 300, H: 300}}, Shelf: h.Shelf})
	if err != nil {
		t.Fatal(err)
	}
	return &panel.Panel{House: h, Options: o, Grade: 4, Car: facts.OfCar{Colour: "dark"},
		Panel: facts.Panel{Aim: aim, Origin: film.Here, Layers: facts.ClearCoat, Coats: 4}}
}

// begins is why a way is what it is, as the shop tells it.
func begins(t *testing.T, w plan.Way) (head, text string) {
	t.Helper()
	first := w.Ladder.Steps[0]
	s := shelf.Usual()
	return said.Why(panel.Why{Code: panel.WhyThis, Offer: w.Offer, Kind: first.Kind, Title: first.Title, What: first.What, D50: first.D50, Buries: first.Buries,
		Passes: first.Passes, First: first.After.Grade(), Grade: w.Ladder.End().Grade(), Clarity: w.Ladder.End().Clarity(), Most: s.Law.LevelMost}, &s)
}

func TestEveryReasonForAWayHasItsSentence(t *testing.T) {
	b := speaking(t, plan.Flat)
	ways, _, err := b.Options.Offers(30)
	if err != nil || len(ways) != 3 {
		t.Fatal(len(ways), err)
	}
	other := ways[0].Ladder.Choices()
	heads, texts := map[string]bool{}, map[string]bool{}
	for _, code := range []plan.BecauseCode{plan.WhyNotCoarser, plan.WhyNoCoarser, plan.WhyCoarserShuts, plan.WhyNotFiner, plan.WhyFinerSlow, plan.WhyNoFiner,
		plan.WhyNotFewer, plan.WhyNoFewer, plan.LimitedFilm, plan.LimitedColour, plan.LimitedShelf, plan.LimitedSkill, plan.LimitedRules} {
		head, text := said.Why(panel.Why{Code: code, Other: other, Film: 1.2, Takes: 4, Minutes: -14, Passes: 11, Most: 8, Room: 5}, &b.House.Shelf)
		if head == "" || !whole(text) || texts[head+text] {
			t.Errorf("%s says %q %q", code, head, text)
		}
		heads[head], texts[head+text] = true, true
	}
	if len(heads) != 8 {
		t.Errorf("%d heads: %v", len(heads), heads)
	}
	for _, w := range ways {
		if head, text := begins(t, w); !strings.HasPrefix(head, "Why ") || !whole(text) || !strings.Contains(text, w.Ladder.Steps[0].Title) {
			t.Errorf("%s: %q %q", w.Offer, head, text)
		}
	}
}

func TestWhatIsWantedIsSaidForEveryAim(t *testing.T) {
	for aim, want := range map[plan.Aim]string{plan.Flat: "peel grade 1.5", plan.Match: "grade 4.0", plan.NibsOnly: "4 nibs filed", plan.PolishOnly: "swirls of about 0.3"} {
		b := speaking(t, aim)
		if text := said.Target(b); !whole(text) || !strings.Contains(text, want) {
			t.Errorf("%s: %q", aim, text)
		}
		ways, _, err := b.Options.Offers(30)
		if err != nil || len(ways) == 0 {
			t.Fatalf("%s: %d ways, %v", aim, len(ways), err)
		}
		if _, text := begins(t, ways[0]); !whole(text) {
			t.Errorf("%s: %q", aim, text)
		}
		for _, text := range append(said.Cautions(ways[0].Ladder, time.Time{}), said.How(plan.Rules{}, ways[0].Ladder, time.Time{})...) {
			if !whole(text) {
				t.Errorf("%s: %q", aim, text)
			}
		}
		if text := said.Steps(ways[0].Ladder.Choices(), &b.House.Shelf); strings.Contains(text, "@") || !strings.Contains(text, "×") {
			t.Errorf("%s: %q", aim, text)
		}
	}
}

// A rotary in a sequence brings its own caution, once.
func TestCautionsFollowTheTools(t *testing.T) {
	b := speaking(t, plan.Flat)
	choices, err := plan.ParseCode("p2000@rubber*5,3000@foam-disc*5,rotary-foam-medium*2,rotary-foam-fine*2", &b.House.Shelf)
	if err != nil {
		t.Fatal(err)
	}
	l, err := b.Options.Job.Work(choices)
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for _, text := range said.Cautions(l, time.Time{}) {
		if strings.HasPrefix(text, "Rotary:") {
			n++
		}
	}
	if n != 1 {
		t.Errorf("%d cautions of the rotary", n)
	}
}

func TestWhatMakesItPossible(t *testing.T) {
	b := speaking(t, plan.Flat)
	if text := said.Refused(b, b.Options.Refuse(2.5)); !whole(text) || !strings.Contains(text, "2.5 can go") {
		t.Errorf("%q", text)
	}
	if none := said.Refused(b, plan.Refusal{Need: 3, Room: -4}); !strings.Contains(none, "none can go") {
		t.Errorf("%q", none)
	}
	if nothing := said.Refused(b, plan.Refusal{Room: 9}); !strings.Contains(nothing, "Nothing on the shelf") {
		t.Errorf("%q", nothing)
	}
}

// A chance is said in round figures, and near a line between two states with its side.
func TestChances(t *testing.T) {
	for p, want := range map[float64]string{0: "less than 1 in 1000", 0.0009: "less than 1 in 1000", 0.002: "1 in 500", 0.019: "1 in 50", 0.0143: "1 in 70",
		0.049: "just under 1 in 20", 0.052: "just over 1 in 20", 0.12: "1 in 8", 0.29: "just under 1 in 3", 0.36: "just over 1 in 3", 0.5: "1 in 2", 0.66: "2 in 3", 0.8: "4 in 5", 0.93: "9 in 10", 0.99: "nearly certain"} {
		if got := oneIn(p); got != want {
			t.Errorf("%v is %q, want %q", p, got, want)
		}
	}
}

func TestDifferencesAreSaidAsFarAsTheyAreKnown(t *testing.T) {
	for _, c := range []struct {
		film, minutes float64
		want          string
	}{
		{0.01, 0.4, "the same film and time"}, {0, 12, "12 min more"}, {-1.2, 0.2, "1.2 µm less"}, {2.3, -140, "2.3 µm more and 2.3 h less"},
	} {
		if got := said.done(apart(c.film, c.minutes)); got != c.want {
			t.Errorf("%v µm and %v min apart: %q, want %q", c.film, c.minutes, got, c.want)
		}
	}
	if minutes(89) != "89 min" || minutes(90) != "1.5 h" {
		t.Error(minutes(89), minutes(90))
	}
	for left, want := range map[float64]bool{0.01: true, 0.07: false} {
		if _, text := said.Why(panel.Why{Code: panel.WhyPebble, Left: left, Beside: 0.08}, nil); strings.Contains(text, "sharper") != want || !whole(text) {
			t.Errorf("%.2f of 0.08: %q", left, text)
		}
	}
}

func TestSchoolsAreComparedInWords(t *testing.T) {
	computed, told := plan.Question{Computed: true}, plan.Question{}
	a, b := plan.Sum{Film: 4, Minutes: 60, Clarity: 95, Reached: 1}, plan.Sum{Film: 6.5, Minutes: 30, Clarity: 91, Reached: 1}
	for want, c := range map[string]struct {
		rule plan.Question
		sums []plan.Sum
	}{
		"no difference in film": {told, []plan.Sum{a, b}},
		"2.5 µm of film, 30":    {computed, []plan.Sum{a, b}},
		"makes no difference":   {computed, []plan.Sum{a, a}},
		"No school reaches":     {computed, []plan.Sum{{}, {}}},
	} {
		of := &offers.Schools{Question: c.rule}
		for _, s := range c.sums {
			of.Schools = append(of.Schools, offers.School{Sum: s})
		}
		if got := said.Compared(of); !strings.Contains(got, want) {
			t.Errorf("%q does not say %q", got, want)
		}
	}
}

// What is said of a try is no more than its instruments can tell.
func TestTriesInWords(t *testing.T) {
	gain := func(clarity, film float64) plan.Gain {
		return plan.Try{FilmBefore: plan.Measured{Value: 160, SD: 0.6}, FilmAfter: plan.Measured{Value: 160 - film, SD: 0.6},
			ClarityBefore: plan.Measured{Value: 70, SD: 2}, ClarityAfter: plan.Measured{Value: 70 + clarity, SD: 2}}.Gain()
	}
	for want, c := range map[string][3]float64{
		"No real difference to the eye: clarity +3 ± 3": {3, 0.4, 0.5},
		"for ten of clarity":                            {20, 2, 2},
		"Worse: clarity -20":                            {-20, 2, 2},
		"3.0 µm more than the plan expects":             {20, 5, 2},
		"3.0 µm less than the plan expects":             {20, 2, 5},
	} {
		if got := said.Try(panelwork.Try{Gain: gain(c[0], c[1]), Expects: c[2]}); !strings.Contains(got, want) {
			t.Errorf("%q does not say %q", got, want)
		}
	}
}

func TestThingsOfTheShelfHaveNames(t *testing.T) {
	s := shelf.Usual()
	for _, c := range s.Constants() {
		name := said.Thing(&s, c.Thing)
		if name == "" || strings.Contains(name, ".") || (name == "rules of the work") != (c.Thing == "law") {
			t.Errorf("%s is called %q", c.Thing, name)
		}
	}
	reach := plan.Before{Over: 0.19}
	if said.Before(reach) != "out of reach by 0.19" || said.Before(plan.Before{Passes: 3}) != "" || said.Before(plan.Before{}) == "" {
		t.Error(said.Before(reach), said.Before(plan.Before{}))
	}
	if got := said.Guess(film.GuessOf(film.History{Finish: film.FactoryFinish}), film.History{}); !whole(got) {
		t.Error(got)
	}
}

// Paint that is kept dry is not wetted: no water in the manner, dry discs in the caution of what
// sands; polishing goes on as ever.
func TestKeptDryAndWetKnowEachOther(t *testing.T) {
	b := speaking(t, plan.Flat)
	ways, _, err := b.Options.Offers(30)
	if err != nil || len(ways) == 0 {
		t.Fatalf("%d ways, %v", len(ways), err)
	}
	l, until := ways[0].Ladder, time.Date(2026, 5, 6, 9, 0, 0, 0, time.UTC)
	wet := func(texts []string) bool {
		return slices.ContainsFunc(texts, func(s string) bool {
			return strings.Contains(s, "sprayed") || strings.Contains(s, "spray bottle") || strings.Contains(s, "near water")
		})
	}
	if !wet(said.How(b.House.Rules, l, time.Time{})) || !wet(said.Cautions(l, time.Time{})) {
		t.Error("paint that may get wet is not wetted")
	}
	if all := append(said.How(b.House.Rules, l, until), said.Cautions(l, until)...); wet(all) || !strings.Contains(strings.Join(all, " "), "Kept dry until 6 May") {
		t.Errorf("kept dry: %q", all)
	}
	if last := l.Steps[len(l.Steps)-1]; last.D50 > 0 || said.Caution(last, until) != said.Caution(last, time.Time{}) {
		t.Errorf("the last step %v: %q", last.Title, said.Caution(last, until))
	}
}
