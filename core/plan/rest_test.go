package plan

import (
	"math"
	"slices"
	"testing"

	"waxplanus/core/surface"
)

// The shortest end of a scratched surface leaves no scratch that shows, takes no more film
// than any other way there, and less the shallower the scratch is.
func TestTheShortestEndLeavesNoScratch(t *testing.T) {
	for _, c := range []Colour{Light, Medium, Dark} {
		j := few(Flat, 6, c)
		last := 0.0
		for _, deep := range []float64{0.2, 0.42, 0.84, 1.26} {
			at := surface.OfGrade(4)
			at.Scratch = deep
			rest, ends, err := j.Shortest(at)
			if err != nil {
				t.Fatal(err)
			}
			if !ends {
				continue // the small shelf does not reach that deep
			}
			k := j
			k.Aim, k.Grade, k.Scratch = PolishOnly, 4, deep
			l, err := k.Work(rest)
			if err != nil {
				t.Fatal(err)
			}
			if end := l.End().Scratch; end > c.Haze(j.Shelf.Law)+1e-9 {
				t.Errorf("%s, %.2f µm deep: %s leaves %.2f", c, deep, Code(rest), end)
			}
			for _, s := range l.Steps {
				if s.Why.Code == WhyShort || s.Why.Code == WhyTooDeep {
					t.Errorf("%s, %.2f µm deep: step %s is %s", c, deep, s.Title, s.Why.Code)
				}
			}
			if o := found(t, k, exact); slices.ContainsFunc(o.points, func(p Point) bool { return p.Film < l.Film-0.15 }) {
				t.Errorf("%s, %.2f µm deep: %s takes %.2f µm, another way less", c, deep, Code(rest), l.Film)
			}
			if l.Film < last {
				t.Errorf("%s: %.2f µm deep takes %.2f µm, a shallower one %.2f", c, deep, l.Film, last)
			}
			last = l.Film
		}
		if last == 0 {
			t.Errorf("%s: no scratch has an end", c)
		}
	}
}

// What is worked in place of the rest keeps of the later steps those that are finer, with
// the passes that take each scratch out.
func TestInsteadOfTheRest(t *testing.T) {
	j := few(Flat, 6, Dark)
	l, err := j.Work(found(t, j, slack).points[0].Choices)
	if err != nil {
		t.Fatal(err)
	}
	own := l.Choices()
	first := own[0]
	rest, ends, err := j.Instead(nil, first, own[1:])
	if err != nil || !ends {
		t.Fatalf("%v, ends %v", err, ends)
	}
	again, err := j.Work(rest)
	if err != nil {
		t.Fatal(err)
	}
	deep := again.Steps[0].Scratch
	for _, s := range again.Steps[1:] {
		if s.Scratch >= deep || s.Passes < s.Needs {
			t.Errorf("%s leaves %.2f after %.2f µm, %d passes of %d", s.Title, s.Scratch, deep, s.Passes, s.Needs)
		}
		deep = s.Scratch
	}
	// A later step that is coarser takes nothing out: it is left out.
	coarse, ends, err := j.Instead(nil, own[len(own)-1], own[:1])
	if err != nil {
		t.Fatal(err)
	}
	if len(coarse) != 1 || !ends {
		t.Errorf("after %v comes %v", own[len(own)-1], coarse)
	}
	if _, _, err := j.Instead(nil, Choice{Item: "nothing", Passes: 1}, nil); err == nil {
		t.Error("what lies on no shelf is worked")
	}
}

// A section whose rest is planned anew keeps what it has done; all others keep their steps,
// and a rest that was taken back is nobody's.
func TestARestIsOfItsSectionAlone(t *testing.T) {
	j := few(Flat, 6, Dark)
	l, err := j.Work(found(t, j, slack).points[0].Choices)
	if err != nil {
		t.Fatal(err)
	}
	before, film := slices.Clone(l.StepsOf("")), l.Film
	done := []Choice{l.Steps[0].Choice}
	steps, err := j.Continued(done, l.Choices()[1:], false)
	if err != nil {
		t.Fatal(err)
	}
	anew := l
	anew.Rest("b0r0c0", 1, steps, true)
	own := anew.StepsOf("b0r0c0")
	if len(own) != 1+len(steps) || own[0] != 0 || own[1] != len(l.Steps) {
		t.Errorf("its steps are %v of %d", own, len(anew.Steps))
	}
	if !slices.Equal(anew.StepsOf("b0r0c1"), before) || len(l.Steps) != len(before) || l.Rests != nil || anew.Film != film {
		t.Errorf("others have %v, before %v; %d steps", anew.StepsOf("b0r0c1"), before, len(l.Steps))
	}
	back := l
	back.Rest("b0r0c0", 1, steps, false)
	if !slices.Equal(back.StepsOf("b0r0c0"), before) || len(back.Steps) != len(l.Steps)+len(steps) {
		t.Errorf("taken back, its steps are %v", back.StepsOf("b0r0c0"))
	}
	back.Rest("b0r0c0", 1, steps, true)
	if own := back.StepsOf("b0r0c0"); own[1] != len(l.Steps)+len(steps) {
		t.Errorf("planned again, its steps are %v", own)
	}
}

// A plan takes the time of what its sections work: all of it where they work all, less where
// one is left, and for a rest that is planned anew only that of its section.
func TestAPlanTakesTheTimeOfWhatIsWorked(t *testing.T) {
	j := few(Flat, 6, Dark)
	l, err := j.Work(found(t, j, slack).points[0].Choices)
	if err != nil {
		t.Fatal(err)
	}
	areas := map[string]float64{"a": 1, "b": 1, "c": 2}
	around := l.Before + l.Afterwards
	if all := l.Spread(areas); math.Abs(all.Minutes-l.Minutes) > 1e-9 || math.Abs(all.Money-l.Money) > 1e-9 {
		t.Errorf("all of it takes %.2f min and %.2f, not %.2f and %.2f", all.Minutes, all.Money, l.Minutes, l.Money)
	}
	left := l
	left.Rests = map[string][]int{"c": nil}
	if half := left.Spread(areas).Minutes; math.Abs(half-around-(l.Minutes-around)/2) > 1e-9 {
		t.Errorf("half of it takes %.2f of %.2f min", half, l.Minutes)
	}
	anew := l
	anew.Rest("a", 0, l.Steps, true)
	anew.Rest("b", 0, l.Steps, true)
	if again := anew.Spread(areas); math.Abs(again.Minutes-l.Minutes) > 1e-9 || len(again.Steps) != 3*len(l.Steps) {
		t.Errorf("the same steps anew on two sections take %.2f of %.2f min", again.Minutes, l.Minutes)
	}
}
