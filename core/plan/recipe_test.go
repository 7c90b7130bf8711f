package plan

import (
	"encoding/json"
	"math"
	"slices"
	"testing"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// What a plan was made from is written and read, and works to the same ladder; a
// section of its own gets its own steps and leaves the panel's figures alone.
func TestRecipeWorksTheSameFromItsText(t *testing.T) {
	j := job(Flat, 6, Dark)
	panel, _ := ParseCode("p1500@rubber*6,3000@foam-disc*6,wool-medium*2,foam-fine*2", &j.Shelf)
	own, _ := ParseCode("3000@foam-disc*4,foam-medium*2,foam-fine*2", &j.Shelf)
	want, err := j.Work(panel)
	if err != nil {
		t.Fatal(err)
	}
	m := RecipeOf(j, panel).For("b0r0c0", j, own)
	raw, err := json.Marshal(m)
	if err != nil {
		t.Fatal(err)
	}
	var again Recipe
	if err := json.Unmarshal(raw, &again); err != nil {
		t.Fatal(err)
	}
	l, err := again.Ladder()
	if err != nil {
		t.Fatal(err)
	}
	if l.Film != want.Film || l.Minutes != want.Minutes || !slices.Equal(l.Choices(), panel) || l.End().Scratch != want.End().Scratch {
		t.Errorf("%.3f µm, %.2f min; want %.3f, %.2f", l.Film, l.Minutes, want.Film, want.Minutes)
	}
	if got := l.StepsOf("b0r0c0"); !slices.Equal(got, []int{4, 5, 6}) || !slices.Equal(l.StepsOf("b0r0c1"), []int{0, 1, 2, 3}) {
		t.Errorf("steps %v and %v", got, l.StepsOf("b0r0c1"))
	}
	if a, b := l.FilmOn("b0r0c0"), l.FilmOn("b0r0c1"); a >= b || math.Abs(b-want.Film) > 1e-9 {
		t.Errorf("the section takes %.2f µm, the others %.2f", a, b)
	}
	if math.Abs(l.Reserve(4)-(l.FilmOn("b0r0c0")-l.Steps[4].Film)) > 1e-9 || math.Abs(l.Reserve(0)-(want.Film-want.Steps[0].Film)) > 1e-9 {
		t.Errorf("%.2f and %.2f µm are kept for the rest", l.Reserve(4), l.Reserve(0))
	}
	if sheets, discs := l.Paper(); sheets+discs != sumPieces(want) {
		t.Errorf("%v sheets and %v discs of the panel's %v", sheets, discs, sumPieces(want))
	}
	// Tried anew there, the last process counts.
	twice := again.For("b0r0c0", j, own[1:])
	if l, err := twice.Ladder(); err != nil || len(l.Steps) != 6 || len(again.Areas["b0r0c0"]) != 3 {
		t.Errorf("%d steps, %v", len(l.Steps), err)
	}
}

func sumPieces(l Ladder) float64 {
	sum := 0.0
	for _, s := range l.Steps {
		sum += s.Pieces
	}
	return sum
}

// Everything that cuts has its place; what may come before a thing is rougher, and
// the rougher it is the more passes it costs.
func TestWhatMayComeBefore(t *testing.T) {
	s := shelf.Usual()
	all := Cutters(&s)
	keys := map[string]bool{}
	for _, c := range all {
		if keys[c.Key()] || c.Rate <= 0 || c.Scratch <= 0 || c.Title == "" {
			t.Errorf("%+v", c)
		}
		keys[c.Key()] = true
		last, passes := 0.0, 0
		for _, b := range Befores(&s, c) {
			if b.Cutter.Scratch <= c.Scratch || b.Cutter.Scratch < last || b.Over > 0 && b.Passes > 0 {
				t.Errorf("before %s: %+v", c.Key(), b)
			}
			if b.Passes > 0 {
				if b.Passes < passes || b.Film <= 0 {
					t.Errorf("before %s, %s takes %d passes after %d", c.Key(), b.Cutter.Key(), b.Passes, passes)
				}
				passes = b.Passes
			}
			last = b.Cutter.Scratch
		}
	}
	if len(all) != 56 {
		t.Errorf("%d things to cut with", len(all))
	}
	// What is not on the shelf comes before nothing.
	if err := s.Set("abrasive.p2000.have", 0); err != nil {
		t.Fatal(err)
	}
	fine := all[slices.IndexFunc(all, func(c Cutter) bool { return c.Key() == "3000@foam-disc" })]
	if slices.ContainsFunc(Befores(&s, fine), func(b Before) bool { return b.Cutter.Item == "p2000" }) {
		t.Error("paper that is not there comes before 3000")
	}
}

// The search agrees with itself about what old scratch still shows: the passes that
// it asks of a finish leave no more than the colour hides.
func TestAFinishHidesTheOldScratch(t *testing.T) {
	for _, c := range []Colour{Light, Medium, Dark} {
		j := job(Flat, 6, c)
		for _, old := range []float64{0.1, 0.16, 0.2, 0.35} {
			for _, k := range j.Shelf.Compounds {
				if k.Scratch > c.Haze(j.Shelf.Law) || old <= c.Haze(j.Shelf.Law) || old <= k.Scratch {
					continue
				}
				n := j.buries(old, k.Scratch, k.Rate(1))
				from := scratched(old)
				after := from.Cut(shelf.PolishPad, 0, k.Rate(1)*float64(n), k.Scratch)
				if after.Showing > c.Ghost(j.Shelf.Law)*1.03 {
					t.Errorf("%s after %s: %d cycles leave %.2f in 100 of %.2f µm", c, k.Key, n, 100*after.Showing, old)
				}
			}
		}
	}
}

// scratched is flat paint that carries a scratch.
func scratched(scratch float64) surface.Surface {
	s := surface.New(0.1, 0.01, 0)
	s.Scratch = scratch
	return s
}
