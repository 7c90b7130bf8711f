package plan

import (
	"math"
	"strings"
	"testing"

	"waxplanus/core/surface"
)

func job(grade float64, c Colour) Job {
	return Job{Grade: grade, Colour: c, Hardness: 1, Area: 0.54e6, Sections: []Rect{{450, 300}, {450, 300}, {450, 300}, {450, 300}}}
}

func TestFlatLaddersReachTheirAim(t *testing.T) {
	for _, c := range []Colour{Light, Medium, Dark} {
		for _, g := range []float64{0, 2, 4, 6, 7, 8, 10} {
			l, err := Flat(job(g, c))
			if err != nil {
				t.Fatal(err)
			}
			last := l.Steps[len(l.Steps)-1]
			if len(l.Steps) != 5 || last.After.SqLong() > surface.FlatSq || last.Scratch > c.Haze() || last.After.Clarity() < 90 {
				t.Errorf("grade %v, %s: %d steps, Sq %.2f, scratch %.2f, clarity %.0f", g, c, len(l.Steps), last.After.SqLong(), last.Scratch, last.After.Clarity())
			}
			film, minutes := 0.0, 0.0
			for i, s := range l.Steps {
				film += s.Film
				minutes += s.Minutes
				if s.Film <= 0 || s.Passes < 1 || s.Minutes <= 2 {
					t.Errorf("grade %v, %s step %d: %+v", g, c, i+1, s)
				}
				if i > 0 && (s.Scratch >= l.Steps[i-1].Scratch || s.Buries != l.Steps[i-1].Scratch) {
					t.Errorf("grade %v, %s step %d leaves %.2f after %.2f", g, c, i+1, s.Scratch, l.Steps[i-1].Scratch)
				}
			}
			if math.Abs(film-l.Film) > 1e-9 || math.Abs(minutes-l.Minutes) > 1e-9 {
				t.Errorf("grade %v, %s: the steps' sums are not the ladder's", g, c)
			}
			if total := l.Start.CrestLoss(last.After); math.Abs(total-film) > 1e-9 {
				t.Errorf("grade %v, %s: steps take %.3f, the surface lost %.3f", g, c, film, total)
			}
		}
	}
}

func TestRougherPeelCostsMoreFilm(t *testing.T) {
	last := 0.0
	for g := 2.0; g <= 10; g++ {
		j := job(g, Medium)
		j.Start = "p1500"
		l, err := Flat(j)
		if err != nil {
			t.Fatal(err)
		}
		if l.Film < last {
			t.Errorf("grade %v takes %.2f µm, less than the %.2f of the grade below", g, l.Film, last)
		}
		last = l.Film
	}
}

func TestStartIsTheFinestThatLevels(t *testing.T) {
	for _, c := range []struct {
		grade float64
		item  string
		why   WhyCode
	}{{0, "p2000", WhyFlat}, {6, "p2000", WhyFinest}, {8, "p1500", WhyFinest}, {10, "p1200", WhyCoarser}} {
		l, err := Flat(job(c.grade, Medium))
		if err != nil {
			t.Fatal(err)
		}
		if s := l.Steps[0]; s.Item != c.item || s.Why.Code != c.why {
			t.Errorf("grade %v starts with %s because %s (%d passes), want %s, %s", c.grade, s.Item, s.Why.Code, s.Passes, c.item, c.why)
		}
	}
}

func TestJobsThatAreNone(t *testing.T) {
	for want, change := range map[string]func(*Job){
		"peel grade":     func(j *Job) { j.Grade = 11 },
		"peel grade NaN": func(j *Job) { j.Grade = math.NaN() },
		"hardness":       func(j *Job) { j.Hardness = 0 },
		"no section":     func(j *Job) { j.Sections = nil },
		"may start with": func(j *Job) { j.Start = "brick" },
	} {
		j := job(6, Medium)
		change(&j)
		if _, err := Flat(j); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", want, err)
		}
	}
}

func TestReserveFallsToNothing(t *testing.T) {
	l, err := Flat(job(7, Dark))
	if err != nil {
		t.Fatal(err)
	}
	last := l.Film
	for i := range l.Steps {
		r := l.Reserve(i)
		if r >= last {
			t.Errorf("after step %d the reserve is %.2f, was %.2f", i+1, r, last)
		}
		last = r
	}
	if last != 0 {
		t.Errorf("after the last step %.2f is still reserved", last)
	}
}

func TestHarderPaintTakesMorePasses(t *testing.T) {
	soft, hard := job(6, Medium), job(6, Medium)
	soft.Hardness, hard.Hardness, soft.Start, hard.Start = 0.7, 1.5, "p1500", "p1500"
	a, _ := Flat(soft)
	b, _ := Flat(hard)
	if a.Steps[0].Passes >= b.Steps[0].Passes || a.Minutes >= b.Minutes {
		t.Errorf("soft paint takes %d passes, hard %d", a.Steps[0].Passes, b.Steps[0].Passes)
	}
}

func TestPassTimeCoversTheSection(t *testing.T) {
	l := Lane{Pad: 70, Overlap: 0.5, Speed: 500, Turn: 0.2, Crossings: 4}
	if a, b := PassTime(l, 300, 200), PassTime(l, 200, 300); a != b {
		t.Errorf("a section turned takes %v, not %v", b, a)
	}
	if a, b := PassTime(l, 300, 200), PassTime(l, 300, 400); a >= b {
		t.Errorf("a larger section takes %v, not more than %v", b, a)
	}
}

func BenchmarkFlat(b *testing.B) {
	for b.Loop() {
		if _, err := Flat(job(7.2, Dark)); err != nil {
			b.Fatal(err)
		}
	}
}

// A spot on a dark colour costs more film than on a light one, and less than the
// steps of a whole panel.
func TestSpotFinish(t *testing.T) {
	l, err := Flat(Job{Grade: 6, Colour: Dark, Hardness: 1, Area: 0.54e6, Sections: []Rect{{450, 300}}})
	if err != nil {
		t.Fatal(err)
	}
	light, dark := SpotFinish(Light), SpotFinish(Dark)
	if !(FiledRest < light.Film && light.Film < dark.Film && dark.Film < l.Film) || len(dark.Steps) != 4 {
		t.Errorf("a spot takes %v µm on light, %v on dark; the panel %v", light.Film, dark.Film, l.Film)
	}
}
