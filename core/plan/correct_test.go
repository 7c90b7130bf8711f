package plan

import (
	"math"
	"slices"
	"testing"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// swirled is a factory bonnet with swirls.
func swirled(c surface.Condition, gone float64, colour Colour) Job {
	return Job{Aim: PolishOnly, Grade: 4, Reference: 4, Colour: colour, Factory: true, Hardness: 1, Area: 1.27e6, Perimeter: 4600, Scratch: UsualSwirl,
		Condition: c, Gone: gone, Sections: []Rect{{500, 420}, {500, 420}, {500, 420}, {500, 420}, {500, 420}, {500, 420}}, Shelf: shelf.Usual()}
}

func optionsOf(t *testing.T, j Job) *Options {
	t.Helper()
	o, err := Find(j)
	if err != nil {
		t.Fatal(err)
	}
	return o
}

// What is asked for goes, no more film is spent than it takes, and every sequence ends
// without haze; the ladder worked through the model says the same share.
func TestSwirlsGoToTheShareAskedFor(t *testing.T) {
	for name, c := range map[string]surface.Condition{
		"light": {Swirls: surface.SwirlsLight}, "medium": {Swirls: surface.SwirlsMedium}, "heavy": {Swirls: surface.SwirlsHeavy},
		"chalked": {Swirls: surface.SwirlsMedium, Dead: surface.DeadLight},
	} {
		for _, gone := range []float64{0.5, 0.8, 0.95} {
			j := swirled(c, gone, Dark)
			ways, fits, err := optionsOf(t, j).Offers(40)
			if err != nil || len(ways) == 0 {
				t.Errorf("%s, %.0f %%: no way, %v", name, 100*gone, err)
				continue
			}
			for _, p := range fits {
				if p.Gone < gone-1e-9 {
					t.Errorf("%s: %s takes %.2f of %.2f", name, Code(p.Choices), p.Gone, gone)
				}
			}
			least := c.Removal(gone)
			for _, w := range ways {
				end := w.Ladder.Steps[len(w.Ladder.Steps)-1]
				if math.Abs(end.Gone-w.Point.Gone) > 1e-9 {
					t.Errorf("%s: the search says %.3f gone, the ladder %.3f", name, w.Point.Gone, end.Gone)
				}
				if w.Ladder.Film < least-1e-9 {
					t.Errorf("%s: %.0f %% for %.2f µm, it takes %.2f", name, 100*gone, w.Ladder.Film, least)
				}
				if end.Scratch > j.Colour.Haze(j.Shelf.Law)*(1+1e-9) {
					t.Errorf("%s: %s ends with haze", name, Code(w.Point.Choices))
				}
			}
			if ways[0].Ladder.Film > least+1.2 {
				t.Errorf("%s, %.0f %%: the least film is %.2f µm, %.2f would do", name, 100*gone, ways[0].Ladder.Film, least)
			}
		}
	}
}

// How deep dead paint goes is known to a half: nobody works a fifth longer to save a
// thirtieth of the film that it takes.
func TestTheBalancedWayDoesNotBuyAHairOfFilmWithHours(t *testing.T) {
	for name, dead := range map[string]surface.Depth{"light": surface.DeadLight, "heavy": surface.DeadHeavy} {
		for _, colour := range []Colour{Light, Medium, Dark} {
			for _, gone := range []float64{0, 0.5, 0.8} {
				ways, fits, err := optionsOf(t, swirled(surface.Condition{Swirls: surface.SwirlsMedium, Dead: dead}, gone, colour)).Offers(40)
				if err != nil || len(ways) == 0 {
					t.Fatalf("%s, %s: no way, %v", name, colour, err)
				}
				at := ways[slices.IndexFunc(ways, func(w Way) bool { return w.Offer == Balanced })].Point
				for _, p := range fits {
					if p.Film < at.Film*(1+1.0/30) && p.Minutes < at.Minutes/1.2 {
						t.Errorf("%s dead paint, %s, %.0f %%: %s takes %.2f µm and %.0f min, %s %.2f and %.0f", name, colour, 100*gone, Code(at.Choices), at.Film, at.Minutes, Code(p.Choices), p.Film, p.Minutes)
					}
				}
			}
		}
	}
}

// Options that are asked for another share are those that were found for it.
func TestAnotherShareIsNotLookedForAnew(t *testing.T) {
	c := surface.Condition{Swirls: surface.SwirlsHeavy}
	for _, gone := range []float64{0.5, 0.8, 0.95} {
		again, anew := optionsOf(t, swirled(c, 0.3, Dark)).For(gone), optionsOf(t, swirled(c, gone, Dark))
		a, ok := again.Need()
		b, same := anew.Need()
		if ok != same || math.Abs(a-b) > 0.2 {
			t.Errorf("%.0f %%: %.2f µm, looked for anew %.2f", 100*gone, a, b)
		}
	}
}

// One product takes part of it, two nearly all, and what the film lets never takes more than
// there is.
func TestPackages(t *testing.T) {
	o := optionsOf(t, swirled(surface.Condition{Swirls: surface.SwirlsMedium}, 0.8, Dark))
	all := o.Packages(10)
	one, two := all[OneStep], all[TwoSteps]
	if len(one.Choices) != 1 || len(two.Choices) != 2 || one.Gone < 0.3 || two.Gone < nearlyAll-unseenShare || one.Minutes >= two.Minutes {
		t.Errorf("one step %+v, two steps %+v", one, two)
	}
	for _, swirls := range []surface.Depth{surface.SwirlsLight, surface.SwirlsMedium, surface.SwirlsHeavy} {
		for _, dead := range []surface.Depth{{}, surface.DeadLight, surface.DeadHeavy} {
			before, out := 0.0, optionsOf(t, swirled(surface.Condition{Swirls: swirls, Dead: dead}, 0.8, Medium)).Packages(10)
			for _, name := range Packages {
				if p, there := out[name]; there && p.Minutes <= before {
					t.Errorf("%s takes %.0f min, one that takes out less %.0f", name, p.Minutes, before)
				} else if there {
					before = p.Minutes
				}
			}
		}
	}
	for _, room := range []float64{0.2, 0.5, 1, 2} {
		for name, p := range o.Packages(room) {
			if p.Film > room {
				t.Errorf("%s takes %.2f of %.2f µm", name, p.Film, room)
			}
		}
	}
	if short := o.Packages(1)[Furthest]; short.Choices != nil && short.Gone > two.Gone {
		t.Errorf("with 1 µm more goes (%.2f) than with 10 (%.2f)", short.Gone, two.Gone)
	}
}

// Who never sands for looks is offered no abrasive; others begin with 3000 or finer at most.
func TestCorrectionSandsFine(t *testing.T) {
	c := surface.Condition{Swirls: surface.SwirlsHeavy, Dead: surface.DeadHeavy}
	j := swirled(c, 0.95, Dark)
	abrasives := func(j Job) (finest float64) {
		for _, p := range optionsOf(t, j).points {
			for _, k := range p.Choices {
				if a, ok := j.Shelf.Abrasive(k.Item); ok && k.Backing != "" {
					finest = math.Max(finest, a.D50)
				}
			}
		}
		return finest
	}
	if d := abrasives(j); d > fineTo {
		t.Errorf("begins with a grain of %.1f µm", d)
	}
	j.Rules.Sand = NeverForLooks
	if d := abrasives(j); d != 0 {
		t.Errorf("sands with %.1f µm", d)
	}
}

// A dead layer cuts faster than the paint under it, and nothing of the swirls goes before it.
func TestTheDeadLayerGoesFirst(t *testing.T) {
	j := swirled(surface.Condition{Swirls: surface.SwirlsMedium, Dead: surface.Depth{Median: 3}}, 0.8, Dark)
	if got := j.Takes(0, 0.6, 3); math.Abs(got-3) > 1e-9 { // 1 µm a pass while it is dead
		t.Errorf("three passes take %.2f µm", got)
	}
	if got := j.Takes(0, 0.6, 4); math.Abs(got-3.6) > 1e-9 {
		t.Errorf("four passes take %.2f µm", got)
	}
	if got := j.Takes(3, 0.6, 2); math.Abs(got-1.2) > 1e-9 {
		t.Errorf("below it two passes take %.2f µm", got)
	}
	ways, _, err := optionsOf(t, j).Offers(20)
	if err != nil || len(ways) == 0 {
		t.Fatal(err)
	}
	l := ways[0].Ladder
	if !slices.ContainsFunc(l.Steps, func(s Step) bool { return s.Why.Code == WhyDead }) || l.Steps[len(l.Steps)-1].Removed < 3 {
		t.Errorf("%+v", l.Steps)
	}
}

func TestCorrectionRefusesWhatThereIsNot(t *testing.T) {
	for _, gone := range []float64{-0.1, 1, 1.2, math.NaN()} {
		if _, err := Find(swirled(surface.Condition{Swirls: surface.SwirlsLight}, gone, Dark)); err == nil {
			t.Errorf("%v of the swirls is looked for", gone)
		}
	}
}

func BenchmarkCorrect(b *testing.B) {
	j := swirled(surface.Condition{Swirls: surface.SwirlsHeavy, Dead: surface.DeadLight}, 0.8, Dark)
	for b.Loop() {
		if _, err := Find(j); err != nil {
			b.Fatal(err)
		}
	}
}

// Squares are tried from the mildest up, or with 3000 first by the other school; each takes
// more of the swirls than the one before.
func TestSquaresAreTriedByTheSchool(t *testing.T) {
	j := swirled(surface.Condition{Swirls: surface.SwirlsHeavy}, 0.8, Dark)
	mildest := optionsOf(t, j).Trying(20)
	j.Rules.Squares = FineFirst
	fine := optionsOf(t, j).Trying(20)
	for name, list := range map[string][]Point{"mildest": mildest, "3000": fine} {
		if len(list) < 2 {
			t.Fatalf("%s: %d to try", name, len(list))
		}
		for i := 1; i < len(list); i++ {
			if list[i].Gone <= list[i-1].Gone || list[i].Film < list[i-1].Film {
				t.Errorf("%s: %s after %s", name, Code(list[i].Choices), Code(list[i-1].Choices))
			}
		}
	}
	for _, p := range fine {
		if a, ok := j.Shelf.Abrasive(p.Choices[0].Item); !ok || a.D50 > fineTo {
			t.Errorf("%s does not begin with a fine grit", Code(p.Choices))
		}
	}
	if mildest[0].Film > fine[0].Film {
		t.Error("the mildest of all takes more than the mildest that begins with a grit")
	}
}

// A lone section is waited for until it is cool; of several one is worked meanwhile; whoever
// feels by hand does not wait.
func TestALoneSectionCools(t *testing.T) {
	j := swirled(surface.Condition{Swirls: surface.SwirlsMedium}, 0.8, Dark)
	choices := best(t, j, Rules{}).Choices()
	minutes := func(sections int, cool School) float64 {
		k := j
		k.Sections, k.Rules.Cool = j.Sections[:sections], cool
		l, err := k.Work(choices)
		if err != nil {
			t.Fatal(err)
		}
		return l.Minutes
	}
	if a, b := minutes(1, CoolInSets), minutes(1, CoolByHand); a <= b {
		t.Errorf("a lone section takes %.1f min in sets, %.1f without", a, b)
	}
	if a, b := minutes(6, CoolInSets), minutes(6, CoolByHand); math.Abs(a-b) > 1e-9 {
		t.Errorf("six sections take %.1f min in sets, %.1f without", a, b)
	}
}

// A pad that has taken much up is due ahead of its cycles.
func TestAPadIsDueByWhatItTook(t *testing.T) {
	law := shelf.Usual().Law
	pad := Step{}
	if pad.WornOut(law, 1, 0.2e6, 0.3) || !pad.WornOut(law, 2, 0.4e6, 0.3) {
		t.Error("a pad is not due with its second cycle")
	}
	if !pad.WornOut(law, 1, 0.2e6, 0.9) {
		t.Error("a pad full of dead paint is not due")
	}
}

func TestLacquerCutsFastest(t *testing.T) {
	law := shelf.Usual().Law
	for _, kind := range []string{"soft", "medium", "hard", "oxidised"} {
		if law.Hardness("lacquer") >= law.Hardness(kind) {
			t.Errorf("lacquer is as hard as %s", kind)
		}
	}
	j := swirled(surface.Condition{Swirls: surface.SwirlsMedium}, 0.8, Dark)
	j.Hardness = law.Hardness("lacquer")
	soft, usual := best(t, j, Rules{}), best(t, swirled(surface.Condition{Swirls: surface.SwirlsMedium}, 0.8, Dark), Rules{})
	if soft.Minutes > usual.Minutes {
		t.Errorf("lacquer takes %.0f min, usual clear %.0f", soft.Minutes, usual.Minutes)
	}
}
