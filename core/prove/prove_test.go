package prove

import (
	"math"
	"math/rand/v2"
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/photo"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

func seen(peel, low, high float64) Texture {
	return OfPhoto(photo.Reading{Peel: photo.Interval{Value: peel, Low: low, High: high}, Pebble: photo.Interval{Value: peel / 7, Low: low / 7, High: high / 7}})
}

func TestGradesKeepTheirDoubt(t *testing.T) {
	for _, grade := range []float64{0, 2, 4.5, 7, 10} {
		got, sd := ByEye(grade).Grade()
		if math.Abs(got-grade) > 1e-9 || math.Abs(sd-EyeGrade) > 1e-9 {
			t.Errorf("grade %v by eye becomes %v ± %v", grade, got, sd)
		}
	}
	grade, sd := seen(surface.PeelSq(3), surface.PeelSq(2.6), surface.PeelSq(3.4)).Grade()
	if math.Abs(grade-3) > 1e-9 || math.Abs(sd-0.4/sure) > 1e-6 {
		t.Errorf("3 from 2.6 to 3.4 becomes %v ± %v", grade, sd)
	}
	if _, sd := seen(0, 0, 0).Grade(); math.IsNaN(sd) || math.IsInf(sd, 0) {
		t.Errorf("a mirror has the doubt %v", sd)
	}
}

func TestComparisonsAreHonest(t *testing.T) {
	a := seen(1.0, 0.85, 1.17)
	for _, c := range []struct {
		b    Texture
		want Likeness
	}{{a, Alike}, {seen(1.15, 0.98, 1.35), Alike}, {seen(1.5, 1.3, 1.75), Rougher}, {seen(0.5, 0.43, 0.58), Flatter}} {
		d, back := Compare(a, c.b), Compare(c.b, a)
		if d.Likeness != c.want || math.Abs(d.Grades+back.Grades) > 1e-9 || math.Abs(d.Times*back.Times-1) > 1e-9 {
			t.Errorf("%v against %v: %+v, back %+v", a.Peel, c.b.Peel, d, back)
		}
	}
	// Two reads of one panel are called different in about a twentieth of the cases.
	rng, apart := rand.New(rand.NewPCG(4, 4)), 0
	const n = 4000
	for range n {
		draw := func() Texture {
			v := math.Exp(0.08 * rng.NormFloat64())
			return seen(v, v*math.Exp(-sure*0.08), v*math.Exp(sure*0.08))
		}
		if Compare(draw(), draw()).Likeness != Alike {
			apart++
		}
	}
	if share := float64(apart) / n; share < 0.04 || share > 0.06 {
		t.Errorf("%.3f of alike panels are told apart", share)
	}
}

func TestWhatWasWantedIsHeldAgainstWhatIs(t *testing.T) {
	before, beside := ByEye(7), seen(0.5, 0.44, 0.57)
	for _, c := range []struct {
		name string
		aim  plan.Aim
		now  Texture
		want Reached
	}{
		{"flat", plan.Flat, seen(0.17, 0.14, 0.2), Yes},
		{"flat within the doubt", plan.Flat, seen(0.22, 0.18, 0.27), WithDoubt},
		{"not flat", plan.Flat, seen(0.4, 0.34, 0.47), NotReached},
		{"like the one beside", plan.Match, seen(0.53, 0.5, 0.56), Yes},
		{"like it within the doubt", plan.Match, seen(0.6, 0.5, 0.72), WithDoubt},
		{"too flat beside it", plan.Match, seen(0.25, 0.22, 0.28), NotReached},
		{"kept", plan.PolishOnly, ByEye(7), Yes},
	} {
		if got := Held(c.aim, &c.now, before, beside); got.Reached != c.want {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
	if got := Held(plan.Match, nil, before, beside); got.Reached != Unknown || got.Wanted != beside {
		t.Errorf("nobody looked: %+v", got)
	}
}

func read(q Quantity, after bool, place float64, values ...float64) []Read {
	var out []Read
	for _, v := range values {
		out = append(out, Read{Meter: Meter{q, "G-1", 20}, X: place, Value: v, After: after})
	}
	return out
}

func all(sets ...[]Read) []Read {
	var out []Read
	for _, s := range sets {
		out = append(out, s...)
	}
	return out
}

func TestMetersAreHeldAgainstTheirOwnNoise(t *testing.T) {
	quiet := Changes(all(read(Gloss, false, 0, 90, 90.1, 89.9, 90), read(Gloss, true, 0, 92, 92.1, 91.9, 92)))
	loud := Changes(all(read(Gloss, false, 0, 87, 93, 91, 89), read(Gloss, true, 0, 95, 89, 92, 92)))
	if len(quiet) != 1 || quiet[0].Verdict != plan.Better || math.Abs(quiet[0].Change.Value-2) > 1e-9 || quiet[0].Repeats != 6 {
		t.Errorf("%+v", quiet)
	}
	if loud[0].Verdict != plan.NoDifference || loud[0].Noise <= quiet[0].Noise {
		t.Errorf("a change within the noise: %+v", loud)
	}
	// Places that differ do not hide what changed at each of them.
	places := Changes(all(read(Clarity, false, 0, 60), read(Clarity, false, 500, 90), read(Clarity, true, 5, 72), read(Clarity, true, 498, 99)))
	if places[0].Places != 2 || places[0].Verdict != plan.Better || math.Abs(places[0].Change.Value-10.5) > 1e-9 {
		t.Errorf("%+v", places)
	}
	if places[0].After.SD < 10 {
		t.Errorf("the mean of two places that differ by 27 is told to ± %.1f", places[0].After.SD)
	}
	// Another angle is another meter.
	other := read(Gloss, true, 0, 92)
	other[0].Angle = 60
	if got := Changes(all(read(Gloss, false, 0, 90), other)); len(got) != 2 || got[0].Verdict != "" || got[1].Verdict != "" {
		t.Errorf("two angles are held against each other: %+v", got)
	}
}

func TestGlossAndClarityAreKeptApart(t *testing.T) {
	gloss := Changes(all(read(Gloss, false, 0, 98), read(Gloss, true, 0, 98.5)))[0]
	clarity := Changes(all(read(Clarity, false, 0, 68), read(Clarity, true, 0, 97)))[0]
	why, was, is := Apart(gloss, clarity, ByEye(8), ByEye(1))
	if why != ByWaves || was > 75 || is < 90 {
		t.Errorf("peel 8 to 1: %s, %.0f to %.0f", why, was, is)
	}
	if why, _, _ := Apart(gloss, clarity, ByEye(4), ByEye(4)); why != ByHaze {
		t.Errorf("the same peel explains 29 of clarity: %s", why)
	}
	better := Changes(all(read(Gloss, false, 0, 60), read(Gloss, true, 0, 98)))[0]
	if why, _, _ := Apart(better, clarity, ByEye(8), ByEye(1)); why != TheySaySame {
		t.Errorf("both rose: %s", why)
	}
}

func ladder(t *testing.T, c plan.Colour) (plan.Job, plan.Ladder) {
	t.Helper()
	j := plan.Job{Aim: plan.Flat, Grade: 6, Colour: c, Hardness: 1, Sections: []plan.Rect{{W: 400, H: 400}}, Area: 160000, Perimeter: 1600, Shelf: shelf.Usual()}
	o, err := plan.Find(j)
	if err != nil {
		t.Fatal(err)
	}
	ways, _, err := o.Offers(40)
	if err != nil || len(ways) == 0 {
		t.Fatal("no way to flat", err)
	}
	return j, ways[0].Ladder
}

func TestAStepThatStoppedEarlyLeavesAScratchUnderTheGloss(t *testing.T) {
	for _, c := range []plan.Colour{plan.Light, plan.Medium, plan.Dark} {
		j, l := ladder(t, c)
		w, err := level.NewWork(l, nil, 0, film.UsualGauge)
		if err != nil {
			t.Fatal(err)
		}
		full := make([]int, len(l.Steps))
		for i, s := range l.Steps {
			full[i] = s.Passes
		}
		for _, h := range HiddenUnder("s", w, full, c, j.Shelf.Law) {
			if h.Likely {
				t.Errorf("%s: step %d of a ladder that was made in full leaves %.1f %% of %.2f µm", c, h.Step+1, 100*h.Showing, h.Depth)
			}
		}
		short := append([]int(nil), full...)
		for i := 1; i < len(short); i++ {
			short[i] = 1
		}
		found := HiddenUnder("s", w, short, c, j.Shelf.Law)
		if len(found) == 0 || !found[0].Likely || found[0].Showing > 1 || found[0].ShowingSlow < found[0].Showing {
			t.Errorf("%s: one pass of each finer step leaves %+v", c, found)
		}
	}
}

func TestWhatIsToDoBeforeAPanelIsKept(t *testing.T) {
	fresh := Stands{Aim: plan.Flat}.Todos()
	if len(fresh) != 1 || fresh[0].Task != TaskBefore {
		t.Errorf("nothing levelled yet: %+v", fresh)
	}
	busy := Stands{Worked: true, Planned: true, Unfinished: 2, Unread: 1, OpenMarks: 3, Before: true, Aim: plan.Flat}.Todos()
	if bar, ok := Bars(busy); !ok || bar.Task != TaskFinish || bar.Count != 2 || len(busy) != 3 {
		t.Errorf("%+v", busy)
	}
	done := Stands{Worked: true, Planned: true, Before: true, After: true, BesideSeen: true, Aim: plan.Match}.Todos()
	if _, ok := Bars(done); ok || len(done) != 0 {
		t.Errorf("nothing is left: %+v", done)
	}
}
