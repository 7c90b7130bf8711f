package plan

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// job is a panel of six sections with the whole usual shelf.
func job(aim Aim, grade float64, c Colour) Job {
	j := Job{Aim: aim, Grade: grade, Reference: 4, Colour: c, Hardness: 1, Area: 0.54e6, Perimeter: 3000, Scratch: UsualSwirl, Nibs: 12, Shelf: shelf.Usual()}
	for range 6 {
		j.Sections = append(j.Sections, Rect{300, 300})
	}
	return j
}

// few is a job with a shelf small enough to look at every sequence.
func few(aim Aim, grade float64, c Colour) Job {
	j := job(aim, grade, c)
	keep := []string{"p1500", "p2500", "p2000-film", "3000", "rubber", "da-hard", "foam-disc", "wool-medium", "foam-fine"}
	have := func(key string) bool { return slices.Contains(keep, key) }
	for i := range j.Shelf.Abrasives {
		j.Shelf.Abrasives[i].Have = have(j.Shelf.Abrasives[i].Key)
	}
	for i := range j.Shelf.Backings {
		j.Shelf.Backings[i].Have = have(j.Shelf.Backings[i].Key)
	}
	for i := range j.Shelf.Compounds {
		j.Shelf.Compounds[i].Have = have(j.Shelf.Compounds[i].Key)
	}
	return j
}

func found(t testing.TB, j Job, how bound) *Options {
	t.Helper()
	o, err := find(j, how)
	if err != nil {
		t.Fatal(err)
	}
	return o
}

// ends are the film and time of the front of what fits.
func ends(o *Options) [][2]float64 {
	var out [][2]float64
	for _, p := range o.Fits(math.Inf(1)) {
		if p.Front {
			out = append(out, [2]float64{p.Film, p.Minutes})
		}
	}
	return out
}

// Dropping labels that another makes needless loses nothing: the front is the one
// that looking at every sequence gives.
func TestDominanceIsAsGoodAsLookingAtAll(t *testing.T) {
	for name, j := range map[string]Job{
		"flat":      few(Flat, 6, Dark),
		"flat 8":    few(Flat, 8, Medium),
		"match":     few(Match, 7, Medium),
		"scratches": func() Job { j := few(Scratches, 4, Medium); j.Scratch = 2; return j }(),
		"nibs":      few(NibsOnly, 5, Dark),
		"polish":    few(PolishOnly, 4, Dark),
	} {
		all, kept := found(t, j, exhaustive), found(t, j, exact)
		if kept.Looked > all.Looked || len(all.points) == 0 {
			t.Errorf("%s: looked at %d of %d, %d end", name, kept.Looked, all.Looked, len(all.points))
		}
		want, got := ends(all), ends(kept)
		if !slices.Equal(want, got) {
			t.Errorf("%s: front %v, looking at all gives %v", name, got, want)
		}
		quick := ends(found(t, j, slack))
		if d := quick[0][0] - want[0][0]; d < -1e-9 || d > 0.7 {
			t.Errorf("%s: with slack the least film is %.2f, not %.2f", name, quick[0][0], want[0][0])
		}
	}
}

// Whatever is offered ends with what was asked for inside the film, and is worth
// its place: no offer takes more of both than another.
func TestOffersServeAndFit(t *testing.T) {
	for _, aim := range []Aim{Flat, Match, NibsOnly, PolishOnly} {
		for _, c := range []Colour{Light, Medium, Dark} {
			for _, grade := range []float64{4.6, 6, 8} {
				for _, room := range []float64{2, 6, 12, 40} {
					j := job(aim, grade, c)
					o := found(t, j, slack)
					ways, fits, err := o.Offers(room)
					if err != nil {
						t.Fatal(err)
					}
					if len(ways) != 0 && len(ways) != 3 {
						t.Fatalf("%s %s %v: %d offers", aim, c, grade, len(ways))
					}
					checkOffers(t, j, ways, fits, room)
				}
			}
		}
	}
}

func checkOffers(t *testing.T, j Job, ways []Way, fits []Point, room float64) {
	t.Helper()
	for i, w := range ways {
		l := w.Ladder
		if l.Film > room || l.End().Scratch > j.Colour.Haze(j.Shelf.Law) || j.aim() == Flat && (l.End().SqLong() > surface.FlatSq*1.02 || l.End().Clarity() < 88) {
			t.Errorf("%s grade %v room %v %s: film %.2f Sq %.2f scratch %.2f", j.Aim, j.Grade, room, w.Offer, l.Film, l.End().SqLong(), l.End().Scratch)
		}
		if math.Abs(l.Film-w.Point.Film) > 0.3 || math.Abs(l.Minutes-w.Point.Minutes) > 0.01 || math.Abs(l.Money-w.Point.Money) > 0.02 {
			t.Errorf("%s grade %v %s: table %.2f µm %.1f min %.2f money, model %.2f, %.1f, %.2f", j.Aim, j.Grade, Code(w.Point.Choices),
				w.Point.Film, w.Point.Minutes, w.Point.Money, l.Film, l.Minutes, l.Money)
		}
		if i > 0 && (l.Film < ways[i-1].Point.Film-0.5 || l.Minutes > ways[i-1].Ladder.Minutes+1e-9) {
			t.Errorf("%s: %s takes %.2f µm, %.1f min after %.2f, %.1f", j.Aim, w.Offer, l.Film, l.Minutes, ways[i-1].Ladder.Film, ways[i-1].Ladder.Minutes)
		}
		film, minutes := l.Tried, l.Before+l.Afterwards
		for _, s := range l.Steps {
			film, minutes = film+s.Film, minutes+s.Minutes
		}
		if math.Abs(film-l.Film) > 1e-9 || math.Abs(minutes-l.Minutes) > 1e-9 {
			t.Errorf("%s: the steps' sums are not the ladder's", w.Offer)
		}
	}
	for _, p := range fits {
		if p.Film > room || !p.Met {
			t.Errorf("a point takes %.2f of %v, met %v", p.Film, room, p.Met)
		}
	}
}

func TestMoreRoomNeverCostsMoreTime(t *testing.T) {
	o := found(t, job(Flat, 6, Dark), slack)
	last := math.Inf(1)
	for room := 5.0; room < 20; room += 1.5 {
		if fits := o.Fits(room); len(fits) > 0 {
			if m := slices.MinFunc(fits, func(a, b Point) int { return sign(a.Minutes - b.Minutes) }).Minutes; m > last {
				t.Errorf("with %v µm the quickest takes %.1f min, with less %.1f", room, m, last)
			} else {
				last = m
			}
		}
	}
}

// Where the film does not allow all of it, the best reachable peel comes down as
// the film grows, and is said as such.
func TestPartialLevelling(t *testing.T) {
	o := found(t, job(Flat, 8, Dark), slack)
	need, _ := o.Need()
	last := math.Inf(1)
	for room := 1.5; room < need; room += 1 {
		if ways, _, _ := o.Offers(room); ways != nil {
			t.Fatalf("offers at %v of %v", room, need)
		}
		w, ok, err := o.Partial(room)
		if err != nil || !ok {
			continue
		}
		if g := w.Ladder.End().Grade(); w.Ladder.Film > room+0.3 || g > last+0.05 {
			t.Errorf("with %v µm: %.2f µm to grade %.2f, with less %.2f", room, w.Ladder.Film, g, last)
		} else {
			last = g
		}
	}
	if last > 6 {
		t.Errorf("nearly all of the film leaves grade %.1f", last)
	}
	if r := o.Refuse(3.5); r.Need < 5 || r.Room != 3.5 {
		t.Errorf("refused with %+v", r)
	}
}

func TestAShelfThatLeadsNowhere(t *testing.T) {
	j := few(Flat, 6, Dark)
	for i := range j.Shelf.Compounds {
		j.Shelf.Compounds[i].Have = false
	}
	o := found(t, j, slack)
	if _, ok := o.Need(); ok || len(o.Fits(99)) > 0 {
		t.Error("a dark panel is finished without a compound")
	}
	if r := o.Refuse(20); r.Need != 0 {
		t.Errorf("refused with %+v", r)
	}
}

// What is built by hand is worked and its faults are said where they are.
func TestWarnings(t *testing.T) {
	for want, c := range map[WarnCode]struct {
		code string
		step int
		set  func(*Job)
	}{
		WarnSkipped: {"p1200@rubber*5,3000@foam-disc*9,wool-medium*2,foam-fine*2", 2, nil},
		WarnEarly:   {"p1500@rubber*6,3000@foam-disc*1,wool-medium*2,foam-fine*2", 2, nil},
		WarnReach:   {"p1500@rubber*6,foam-fine*4", 2, nil},
		WarnCycles:  {"p1500@rubber*6,3000@foam-disc*6,foam-medium*6,foam-fine*3", 3, nil},
		WarnCoarser: {"p2500@rubber*6,p1500@rubber*2,3000@foam-disc*6,wool-medium*2,foam-fine*2", 2, nil},
		WarnStart:   {"p800@rigid*2,p1500@rigid*3,3000@foam-disc*6,wool-medium*2,foam-fine*2", 1, nil},
		WarnLong:    {"p2500@rubber*12,3000@foam-disc*3,wool-medium*2,foam-fine*2", 1, nil},
		WarnSoft:    {"p2000-film@da-medium*3,3000@foam-disc*6,wool-medium*2,foam-fine*2", 1, nil},
		WarnNotFlat: {"p2500@rubber*2,3000@foam-disc*3,wool-medium*2,foam-fine*2", 0, nil},
		WarnTooFlat: {"p1500@rigid*6,3000@foam-disc*6,wool-medium*2,foam-fine*2", 0, func(j *Job) { j.Aim = Match }},
		WarnHaze:    {"p1500@rubber*6,3000@foam-disc*6,wool-medium*2", 0, nil},
		WarnGhost:   {"p1500@rubber*6,3000@foam-disc*6,wool-medium*2,foam-ultra*1", 0, nil},
		WarnNibs:    {"p1500-film@da-hard*6,3000@foam-disc*6,wool-medium*2,foam-fine*2", 1, nil},
	} {
		j := job(Flat, 6, Dark)
		if c.set != nil {
			c.set(&j)
		}
		choices, err := ParseCode(c.code, &j.Shelf)
		if err != nil {
			t.Fatal(err)
		}
		l, err := j.Work(choices)
		if err != nil {
			t.Fatal(err)
		}
		if !slices.ContainsFunc(l.Warnings, func(w Warning) bool { return w.Code == want && w.Step == c.step }) {
			t.Errorf("%s: no %s at %d in %+v", c.code, want, c.step, l.Warnings)
		}
	}
	j := job(Flat, 6, Dark)
	j.Nibs = 0
	ways, _, _ := found(t, j, slack).Offers(16)
	for _, w := range ways {
		for _, x := range w.Ladder.Warnings {
			t.Errorf("%s carries a warning: %+v", w.Offer, x)
		}
	}
}

func TestSkippedGritSaysHowMuchRemains(t *testing.T) {
	j := job(Flat, 6, Dark)
	few, _ := j.Work([]Choice{{"p1200", "rubber", 5}, {"3000", "foam-disc", 2}, {"wool-medium", "", 2}})
	many, _ := j.Work([]Choice{{"p1200", "rubber", 5}, {"3000", "foam-disc", 6}, {"wool-medium", "", 2}})
	at := func(l Ladder) float64 {
		return l.Warnings[slices.IndexFunc(l.Warnings, func(w Warning) bool { return w.Step == 2 })].Values["showing"]
	}
	if a, b := at(few), at(many); a <= b || a > 1 || b <= 0 {
		t.Errorf("after 2 passes %.2f shows, after 6 %.2f", a, b)
	}
}

func TestEveryReasonIsGiven(t *testing.T) {
	j := job(Flat, 6, Dark)
	j.Rules.Coarsest = From2000
	o := found(t, j, slack)
	ways, _, err := o.Offers(9)
	if err != nil || ways == nil {
		t.Fatal(err)
	}
	for _, w := range ways {
		kinds := map[string]int{}
		for _, b := range o.Why(w, 9) {
			switch {
			case strings.HasPrefix(string(b.Code), "coarser"):
				kinds["coarser"]++
			case strings.HasPrefix(string(b.Code), "fine"):
				kinds["finer"]++
			case strings.HasPrefix(string(b.Code), "fewer"):
				kinds["fewer"]++
			}
			if w.Offer == LeastFilm && b.Film < -1e-6 && b.Code != LimitedFilm {
				t.Errorf("another takes %.2f µm less than the least: %+v", -b.Film, b)
			}
		}
		if len(kinds) != 3 {
			t.Errorf("%s has reasons %v", w.Offer, kinds)
		}
	}
	quick := ways[2]
	limits, err := o.Limits(quick, 9)
	if err != nil || !slices.ContainsFunc(limits, func(b Because) bool { return b.Code == LimitedSkill && b.Minutes < 0 }) {
		t.Errorf("the coarsest grit that may be run does not limit the quickest way: %+v, %v", limits, err)
	}
}

func TestCodesReadBack(t *testing.T) {
	things := shelf.Usual()
	rng := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		var c []Choice
		for range 1 + rng.IntN(MostSteps) {
			a := things.Abrasives[rng.IntN(len(things.Abrasives))]
			b := things.Backings[rng.IntN(len(things.Backings))]
			if a.Fits(b) {
				c = append(c, Choice{a.Key, b.Key, 1 + rng.IntN(MostPasses)})
			} else {
				c = append(c, Choice{things.Compounds[rng.IntN(len(things.Compounds))].Key, "", 1 + rng.IntN(MostPasses)})
			}
		}
		if got, err := ParseCode(Code(c), &things); err != nil || !slices.Equal(got, c) {
			t.Fatalf("%s reads back as %v, %v", Code(c), got, err)
		}
	}
	for text, want := range map[string]string{
		"":                  "needs its passes",
		"p1500@rubber":      "1 to 60",
		"p1500@rubber*0":    "1 to 60",
		"p1500*4":           "needs its backing",
		"p1500@foam-disc*4": "it goes on a rigid block",
		"brick@rubber*4":    "no abrasive",
		"p1500@brick*4":     "no backing",
		"foam-fine*2,":      "step 2",
		strings.Repeat("foam-fine*1,", 12) + "foam-fine*1": "1 to 12 steps",
	} {
		if _, err := ParseCode(text, &things); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q gives %v, want %q", text, err, want)
		}
	}
}

func FuzzParseCode(f *testing.F) {
	things := shelf.Usual()
	for _, s := range []string{"p1500@rubber*6,3000@foam-disc*5,foam-fine*2", "@*", ",,", "p1500@rubber*99999999999999999999", "\x00*1"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		c, err := ParseCode(s, &things)
		if err != nil {
			return
		}
		again, err := ParseCode(Code(c), &things)
		if err != nil || !slices.Equal(again, c) {
			t.Errorf("%q reads as %v, written %q, read %v, %v", s, c, Code(c), again, err)
		}
	})
}

func TestJobsThatAreNone(t *testing.T) {
	for want, change := range map[string]func(*Job){
		"peel grade":     func(j *Job) { j.Grade = 11 },
		"peel grade NaN": func(j *Job) { j.Grade = math.NaN() },
		"to match":       func(j *Job) { j.Aim, j.Reference = Match, -1 },
		"hardness":       func(j *Job) { j.Hardness = 0 },
		"a scratch":      func(j *Job) { j.Scratch = -1 },
		"no section":     func(j *Job) { j.Sections = nil },
	} {
		j := job(Flat, 6, Medium)
		change(&j)
		if _, err := Find(j); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", want, err)
		}
		if _, err := j.Work([]Choice{{"p1500", "rubber", 4}}); err == nil {
			t.Errorf("%s is worked", want)
		}
	}
	if _, err := job(Flat, 6, Medium).Work([]Choice{{"p1500", "brick", 4}}); err == nil || !strings.Contains(err.Error(), "step 1") {
		t.Errorf("a brick is worked: %v", err)
	}
}

func TestPassTimes(t *testing.T) {
	j := job(Flat, 6, Medium)
	hard, _ := j.Shelf.Backing("da-hard")
	if s := PassTime(j.lane(&hard, shelf.Orbital), 300, 300); math.Abs(s-4.5) > 1e-9 {
		t.Errorf("a disc passes over 300 x 300 in %v s, want 4.5", s)
	}
	if _, a, _ := j.times(nil, shelf.Orbital); a <= 0 {
		t.Error("a cycle takes no time")
	} else if _, b, _ := j.times(nil, shelf.Rotary); b >= a {
		t.Error("a rotary is no quicker")
	}
}

// A spot on a dark colour costs more film than on a light one, and less than the
// steps of a whole panel.
func TestSpotFinish(t *testing.T) {
	need, _ := found(t, job(Flat, 7, Dark), slack).Need()
	light, dark := SpotFinish(Light), SpotFinish(Dark)
	if !(FiledRest < light.Film && light.Film < dark.Film && dark.Film < need) || len(dark.Steps) != 4 {
		t.Errorf("a spot takes %v µm on light, %v on dark; the panel %v", light.Film, dark.Film, need)
	}
}

// A plan of record carries what it was made with and works the same from it.
func TestThingsOfASequence(t *testing.T) {
	j := job(Flat, 6, Dark)
	choices, _ := ParseCode("p1500@rubber*6,3000@foam-disc*6,wool-medium*2,foam-fine*2", &j.Shelf)
	want, _ := j.Work(choices)
	small := Things(&j.Shelf, choices)
	if len(small.Abrasives) != 2 || len(small.Backings) != 2 || len(small.Compounds) != 2 {
		t.Errorf("%d abrasives, %d backings, %d compounds", len(small.Abrasives), len(small.Backings), len(small.Compounds))
	}
	j.Shelf = small
	if got, err := j.Work(choices); err != nil || got.Film != want.Film || got.Minutes != want.Minutes || got.Money != want.Money {
		t.Errorf("from its own things it takes %v, %v; %v", got.Film, got.Minutes, err)
	}
}

func BenchmarkOffers(b *testing.B) {
	j := job(Flat, 6, Dark)
	for b.Loop() {
		o, err := Find(j)
		if err != nil {
			b.Fatal(err)
		}
		if _, _, err := o.Offers(12); err != nil {
			b.Fatal(err)
		}
	}
}

// Pebble that a photo read is planned with: more of it leaves more.
func TestPebbleByPhotoIsPlannedWith(t *testing.T) {
	left := func(pebble float64) float64 {
		j := job(Flat, 6, Dark)
		j.Pebble = pebble
		l, err := j.Work([]Choice{{"p1500", "rubber", 6}, {"p2500", "rubber", 6}})
		if err != nil {
			t.Fatal(err)
		}
		return l.Start.SqShort()
	}
	usual := surface.PebbleSq(surface.PeelSq(6))
	if a, b, c := left(0), left(usual), left(3*usual); math.Abs(a-b) > 1e-12 || math.Abs(c-3*usual) > 0.01*c {
		t.Errorf("%v %v %v", a, b, c)
	}
	j := job(Flat, 6, Dark)
	j.Pebble = -1
	if _, err := Find(j); err == nil {
		t.Error("pebble of -1 µm is planned with")
	}
}

// A match ends about as clear as what it is matched to, in every colour; asked for less, it may
// end duller for less film.
func TestAMatchIsAsClearAsWhatItIsMatchedTo(t *testing.T) {
	for _, colour := range []Colour{Light, Medium, Dark} {
		j := job(Match, 6, colour)
		j.Reference = 4
		want := 0.85 * surface.Clarity(surface.PeelSq(4), 0, 1)
		clear, dull := optionsOf(t, j.Clear()), optionsOf(t, j)
		for _, p := range clear.Fits(MostFilm) {
			if p.Clarity < want-1e-9 {
				t.Errorf("%s: %s ends at %.0f, beside %.0f", colour, Code(p.Choices), p.Clarity, want)
			}
		}
		a, ok := clear.Need()
		b, also := dull.Need()
		if !ok || !also || a < b-1e-9 {
			t.Errorf("%s: %.2f µm to end clear, %.2f to end as it may", colour, a, b)
		}
	}
	if j := job(Flat, 6, Dark); j.Clear().Clarity != 0 {
		t.Error("flat is asked for the clarity of a match")
	}
}
