package plan

import (
	"math"
	"slices"
	"testing"

	"waxplanus/core/shelf"
)

// best is what a job comes to under rules with much film.
func best(t *testing.T, j Job, r Rules) Ladder {
	t.Helper()
	j.Rules = r
	got, err := found(t, j, slack).Best(30)
	if err != nil || got.None {
		t.Fatalf("%+v: none %v, %v", r, got.None, err)
	}
	return got.Way.Ladder
}

func TestSchoolsHoldWhatTheySay(t *testing.T) {
	j := job(Flat, 6, Medium)
	for name, c := range map[string]struct {
		rules Rules
		holds func(Ladder) bool
	}{
		"block first": {Rules{Flatten: BlockFirst}, func(l Ladder) bool {
			return l.Steps[0].Piece.Flattens() && l.Steps[0].D50 >= 12.6 && !slices.ContainsFunc(l.Steps[1:], func(s Step) bool { return s.Tool == shelf.Hand })
		}},
		"machine only": {Rules{Flatten: MachineOnly}, func(l Ladder) bool {
			return !slices.ContainsFunc(l.Steps, func(s Step) bool { return s.Tool == shelf.Hand || s.D50 > 12.6 })
		}},
		"coarse first": {Rules{Begin: CoarseFirst}, func(l Ladder) bool { return l.Steps[0].After.SqLong() <= 0.205 }},
		"to compound":  {Rules{Refine: ToCompound}, func(l Ladder) bool { return lastSheet(l).D50 >= 8.4 }},
		"to fine":      {Rules{Refine: ToFine}, func(l Ladder) bool { return lastSheet(l).D50 <= 6 }},
		"rotary":       {Rules{Polisher: ByRotary}, func(l Ladder) bool { return !usesPads(l, shelf.Orbital) }},
		"orbital":      {Rules{Polisher: ByOrbital}, func(l Ladder) bool { return !usesPads(l, shelf.Rotary) }},
		"microfibre": {Rules{Polisher: ByMicrofibre}, func(l Ladder) bool {
			return slices.ContainsFunc(l.Steps, func(s Step) bool { return s.Item == "microfibre-heavy" })
		}},
		"crossed":      {Rules{Stroke: Crossed}, func(l Ladder) bool { return l.Steps[0].Stroke == -1 }},
		"soaked":       {Rules{Water: Soaked}, func(l Ladder) bool { return l.Wait > 0 }},
		"never sanded": {Rules{Sand: NeverForLooks}, func(l Ladder) bool { return l.Steps[0].D50 == 0 }},
		"to texture":   {Rules{Far: ToTexture}, func(l Ladder) bool { g := l.End().Grade(); return g > 3.4 && g < 4.6 }},
		"from P2000":   {Rules{Coarsest: From2000}, func(l Ladder) bool { return l.Steps[0].D50 <= 10.3 }},
		"finest tried": {Rules{Begin: FinestFirst}, func(l Ladder) bool { return l.Tried > 0 }},
		"double":       {Rules{Time: DoubleEach}, doubles},
	} {
		if l := best(t, j, c.rules); !c.holds(l) {
			t.Errorf("%s: %s", name, Code(l.Choices()))
		}
	}
}

func lastSheet(l Ladder) Step {
	i := slices.IndexFunc(l.Steps, func(s Step) bool { return s.D50 == 0 })
	return l.Steps[i-1]
}

func usesPads(l Ladder, tool shelf.Tool) bool {
	return slices.ContainsFunc(l.Steps, func(s Step) bool { return s.D50 == 0 && s.Tool == tool })
}

// doubles says whether each finer grit has twice the time of the one before.
func doubles(l Ladder) bool {
	for i, s := range l.Steps[1:] {
		if before := l.Steps[i]; s.D50 > 0 && s.Minutes-s.Once < 2*(before.Minutes-before.Once)-1e-6 {
			return false
		}
	}
	return true
}

// What a school changes in cost goes the way that it says.
func TestSchoolsCostWhatTheySay(t *testing.T) {
	j := job(Flat, 6, Medium)
	usual := best(t, j, Rules{})
	worked := func(r Rules) Ladder {
		k := j
		k.Rules = r
		l, err := k.Work(usual.Choices())
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	free := j
	if free.Rules.Edges = Untaped; j.Tape() != 2*free.Tape() || free.Tape() != j.Perimeter/1000 {
		t.Errorf("%v m of tape, %v with edges left free", j.Tape(), free.Tape())
	}
	if l := worked(Rules{Edges: Untaped}); l.Minutes >= usual.Minutes {
		t.Error("taping takes no time")
	}
	if l := worked(Rules{Paper: UsedAgain}); l.Money >= usual.Money {
		t.Error("pieces that serve again cost as much")
	}
	if l := worked(Rules{Pads: OnePad}); l.Minutes < usual.Minutes {
		t.Error("cleaning one pad between products takes less than no time")
	}
	if l := worked(Rules{Overlap: NineTenths}); l.Film <= usual.Film || l.Minutes <= usual.Minutes {
		t.Error("leading the pad by a tenth takes no more film and time a cycle")
	}
	if l := worked(Rules{When: AfterADay}); l.Film <= usual.Film {
		t.Error("fresh clear does not cut more in the same passes")
	}
	j.Panels = 4
	if l := worked(Rules{Order: StageByStage}); l.Minutes >= usual.Minutes {
		t.Error("one stage over a side saves no setting up")
	}
	twice := j
	twice.Rules.Time = DoubleEach
	once, doubled := ends(found(t, j, slack)), ends(found(t, twice, slack))
	if doubled[0][0] < once[0][0]-1e-9 || doubled[len(doubled)-1][1]*timeShare < once[len(once)-1][1] || slices.Equal(doubled, once) {
		t.Errorf("doubling the time on each finer grit gives %v, without it %v", doubled, once)
	}
}

// A question that is said to be computed has schools that differ in something, and
// one that is not has none.
func TestSchoolsDifferWhereTheySayTheyDo(t *testing.T) {
	j := job(Flat, 8, Medium)
	j.Panels = 3
	for _, q := range Questions {
		var sums []Sum
		var ladders []Ladder
		for _, school := range q.Schools {
			r, err := (Rules{Refine: ToFine}).Follow(q.Key, school)
			if err != nil {
				t.Fatal(err)
			}
			l := best(t, j, r)
			var s Sum
			s.Add(Result{Way: Way{Ladder: l}, Reached: true}, j.Area)
			s.Add(Result{Way: Way{Ladder: l}, Reached: true}, 2*j.Area)
			s.Add(Result{None: true}, j.Area)
			if s.Panels != 3 || s.Reached != 2 || math.Abs(s.Minutes-2*l.Minutes) > 1e-9 || math.Abs(s.Film-l.Film) > 1e-9 || s.Clarity != l.End().Clarity() {
				t.Errorf("%s %s: %+v of %v min", q.Key, school, s, l.Minutes)
			}
			sums, ladders = append(sums, s), append(ladders, l)
		}
		differ := slices.ContainsFunc(sums, func(s Sum) bool { return s != sums[0] }) || slices.ContainsFunc(ladders, func(l Ladder) bool { return l.Wait != ladders[0].Wait })
		if !q.Computed && differ {
			t.Errorf("%s is said to change nothing and does", q.Key)
		}
		// Film that is safe, and age, are the film map's; six sections cool while others are
		// worked.
		free := slices.Contains([]string{"safe_film", "age", "cool"}, q.Key)
		if q.Computed && !differ && !free {
			t.Errorf("%s is said to change something and does not", q.Key)
		}
	}
}

func TestRulesAreFollowed(t *testing.T) {
	r, err := Rules{}.Follow("polisher", ByRotary)
	if err != nil || r.Polisher != ByRotary {
		t.Fatal(r, err)
	}
	if r, err = r.Follow("polisher", ""); err != nil || r != (Rules{}) {
		t.Error(r, err)
	}
	if _, err := r.Follow("weather", ByRotary); err == nil {
		t.Error("a rule on the weather")
	}
	if _, err := r.Follow("polisher", Soaked); err == nil {
		t.Error("a soaked polisher")
	}
	for _, q := range Questions {
		for _, s := range q.Schools {
			if got, err := (Rules{}).Follow(q.Key, s); err != nil || got.Of(q) != s {
				t.Errorf("%s %s: %v, %v", q.Key, s, got, err)
			}
		}
	}
}

func TestTriesAreComparedHonestly(t *testing.T) {
	for name, c := range map[string]struct {
		before, after float64
		want          Verdict
	}{"less than the noise": {70, 74, NoDifference}, "clearer": {70, 82, Better}, "duller": {82, 70, Worse}} {
		g := Try{FilmBefore: Measured{118, 0.6}, FilmAfter: Measured{116, 0.6}, GlossBefore: Measured{90, GlossNoise}, GlossAfter: Measured{90, GlossNoise},
			ClarityBefore: Measured{c.before, ClarityNoise}, ClarityAfter: Measured{c.after, ClarityNoise}}.Gain()
		if g.Looks != c.want || math.Abs(g.Film.Value-2) > 1e-9 {
			t.Errorf("%s: %+v", name, g)
		}
		if (g.PerClarity.Value > 0) != (c.want == Better) {
			t.Errorf("%s: %v µm for ten of clarity", name, g.PerClarity)
		}
	}
	g := Try{GlossBefore: Measured{70, GlossNoise}, GlossAfter: Measured{84, GlossNoise}, ClarityBefore: Measured{70, 2}, ClarityAfter: Measured{71, 2}}.Gain()
	if g.Looks != Better {
		t.Errorf("more gloss at the same clarity is %s", g.Looks)
	}
}

func TestMildestFirst(t *testing.T) {
	list, err := Mildest(job(Flat, 8, Dark), 14)
	if err != nil || len(list) < 3 {
		t.Fatalf("%d processes to try, %v", len(list), err)
	}
	for i, p := range list[1:] {
		if p.Film <= list[i].Film || p.Clarity < list[i].Clarity+2*ClarityNoise {
			t.Errorf("after %.2f µm, clarity %.0f comes %.2f, %.0f", list[i].Film, list[i].Clarity, p.Film, p.Clarity)
		}
	}
}
