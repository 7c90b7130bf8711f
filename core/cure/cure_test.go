package cure

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"
	"time"
)

var monday = time.Date(2026, 3, 2, 9, 30, 0, 0, time.UTC)

func hours(t time.Time) float64 { return t.Sub(monday).Hours() }

func ptr(v float64) *float64 { return &v }

func TestAThickFilmHardensWithItsSquareAndFasterInTheWarm(t *testing.T) {
	for um, want := range map[float64]float64{0: 24, 50: 24, 100: 96, 200: 16 * 24} {
		if got := Usual.Wait(um, 20); math.Abs(got-want) > 1e-9 {
			t.Errorf("%v µm at 20 °C: %v h, want %v", um, got, want)
		}
	}
	if got := Usual.Wait(200, 60); math.Abs(got-24) > 1e-9 {
		t.Errorf("200 µm at 60 °C: %v h", got)
	}
	last := time.Time{}
	for um := 20.0; um < 400; um += 10 {
		w := Of(Spray{At: monday, Film: um}, UsualClimate).Sand
		if w.From.Before(last) || w.Early.After(w.From) || w.Late.Before(w.From) || hours(w.Late) > Longest+1e-9 {
			t.Fatalf("%v µm: %+v", um, w)
		}
		last = w.From
	}
	if math.Abs(hours(last)-Longest) > 1e-9 {
		t.Errorf("the longest wait is %v h", hours(last))
	}
}

// However the days change, what is asked for is what has hardened by then.
func TestRipeningFollowsTheDays(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 1))
	for range 200 {
		c := Climate{Usual: 20, Days: map[string]float64{}}
		for d := range 40 {
			if r.IntN(2) == 0 {
				c.Days[Day(monday.AddDate(0, 0, d))] = -5 + 40*r.Float64()
			}
		}
		want := 1 + 300*r.Float64()
		end, got := c.Ripe(monday, want), 0.0
		for at := monday; at.Before(end); {
			next := at.Add(time.Minute)
			if next.After(end) {
				next = end
			}
			got += next.Sub(at).Hours() * Speed(c.At(at))
			at = next
		}
		if math.Abs(got-want) > 1e-3*want {
			t.Fatalf("after %v it has hardened %v h of %v", end.Sub(monday), got, want)
		}
	}
	warm, cold := Climate{Usual: 30}, Climate{Usual: 10}
	if a, b := hours(warm.Ripe(monday, 24)), hours(cold.Ripe(monday, 24)); math.Abs(a-12) > 1e-9 || math.Abs(b-48) > 1e-9 {
		t.Errorf("%v h at 30 °C, %v h at 10 °C", a, b)
	}
	if got := cold.Ripe(monday, 0); !got.Equal(monday) {
		t.Error("nothing to wait for still waits", got)
	}
}

func TestTheMakersSheetWinsExceptForThickFilm(t *testing.T) {
	sheet := &Paint{Name: "fast clear", CoatUM: 25, Coats: 2, SandAir: ptr(16), SandBaked: ptr(1), PolishAir: ptr(20), CutsWell: ptr(3)}
	for name, c := range map[string]struct {
		spray                Spray
		sand, polish, cutsTo float64
		sheet, thick         bool
	}{
		"by the law":           {Spray{monday, 50, false, nil}, 24, 24, 14 * 24, false, false},
		"by the law, baked":    {Spray{monday, 50, true, nil}, 1.5, 1.5, 7 * 24, false, false},
		"by the sheet":         {Spray{monday, 50, false, sheet}, 16, 20, 72, true, false},
		"by the sheet, baked":  {Spray{monday, 50, true, sheet}, 1, 1, 72, true, false},
		"a run of twice that":  {Spray{monday, 100, false, sheet}, 64, 80, 72, true, true},
		"film nobody measured": {Spray{monday, 0, false, sheet}, 16, 20, 72, true, false},
	} {
		got := Of(c.spray, UsualClimate)
		cuts := math.Max(c.cutsTo, c.sand)
		if math.Abs(hours(got.Sand.From)-c.sand) > 1e-9 || math.Abs(hours(got.Polish.From)-c.polish) > 1e-9 || math.Abs(hours(got.CutsWell)-cuts) > 1e-9 ||
			got.Sand.Sheet != c.sheet || got.Sand.Thick != c.thick {
			t.Errorf("%s: sand %.1f, polish %.1f, cuts well to %.1f, %+v", name, hours(got.Sand.From), hours(got.Polish.From), hours(got.CutsWell), got.Sand)
		}
	}
	loose, tight := Of(Spray{At: monday, Film: 50}, UsualClimate).Sand, Of(Spray{At: monday, Film: 50, Paint: sheet}, UsualClimate).Sand
	if loose.Late.Sub(loose.Early) <= tight.Late.Sub(tight.Early) {
		t.Error("a sheet is no surer than the law")
	}
	if got := Of(Spray{Film: 50, Paint: sheet}, UsualClimate); got != (Times{}) || got.Sand.Waits(monday) {
		t.Errorf("paint of an unknown day: %+v", got)
	}
	if w := Of(Spray{At: monday, Film: 50}, UsualClimate).Sand; !w.Waits(monday) || w.Waits(monday.Add(25*time.Hour)) {
		t.Error("a day's wait is not told")
	}
}

func TestASheetThatMakesNoSenseIsNamed(t *testing.T) {
	good := Paint{Name: "clear"}
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for want, change := range map[string]func(*Paint){
		"name":           func(p *Paint) { p.Name = " " },
		"letters":        func(p *Paint) { p.Name = strings.Repeat("x", 61) },
		"coat_um":        func(p *Paint) { p.CoatUM = 200 },
		"coats":          func(p *Paint) { p.Coats = 9 },
		"sand_air_h":     func(p *Paint) { p.SandAir = ptr(0) },
		"sand_baked_h":   func(p *Paint) { p.SandBaked = ptr(math.NaN()) },
		"polish_air_h":   func(p *Paint) { p.SandAir, p.PolishAir = ptr(24), ptr(12) },
		"cuts_well_d":    func(p *Paint) { p.SandAir, p.CutsWell = ptr(48), ptr(1) },
		"polish_baked_h": func(p *Paint) { p.PolishBaked = ptr(1e9) },
		"seal_d":         func(p *Paint) { p.Seal = ptr(-1) },
		"dry_h":          func(p *Paint) { p.Dry = ptr(2000) },
	} {
		p := good
		change(&p)
		if err := p.Check(); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", want, err)
		}
	}
	var none *Paint
	if got := none.Care(); got.Dry != nil || got.Name != "" {
		t.Errorf("%+v", got)
	}
}
