package marks

import (
	"errors"
	"math"
	"testing"
	"time"

	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/plan"
)

var (
	now   = time.Date(2026, 11, 23, 9, 0, 0, 0, time.UTC)
	thick = Place{Known: true, Total: film.Estimate{Mean: 168, SD: 4}, Clear: film.Estimate{Mean: 66, SD: 4}, Sprayed: 66, Headroom: 20, Floor: 40}
)

func work(aim plan.Aim) Work {
	return Work{Aim: aim, Colour: plan.Dark, Fits: true, Levelled: 4, PanelFilm: 9, Spot: plan.SpotFinish(plan.Dark), Climate: cure.UsualClimate, Now: now}
}

func with(p Place, headroom float64) Place { p.Headroom = headroom; return p }

func TestVerdicts(t *testing.T) {
	thin := thick
	thin.Total.Mean = 74
	nib, scratch, run := Placed(Nib, 10, 10, 6), Placed(Scratch, 10, 10, 6), Placed(Run, 10, 10, 6)
	deep := scratch
	deep.Class = Catches
	hair := scratch
	hair.Size = 0.4
	through := scratch
	through.Class = Colour
	shallow := scratch
	shallow.Class = Seen
	for name, c := range map[string]struct {
		mark  Mark
		place Place
		work  Work
		do    Do
		why   Why
	}{
		"a nib is spotted":                             {nib, thick, work(plan.NibsOnly), DoSpot, WhyProud},
		"a nib is spotted before a machine":            {nib, thick, work(plan.Flat), DoSpot, WhyProud},
		"a nib is spotted on unread film":              {nib, Place{}, work(plan.NibsOnly), DoSpot, WhyProud},
		"a nib stays where nothing is sanded":          {nib, thick, work(plan.PolishOnly), DoLeave, WhyNoSanding},
		"a nib stays where its spot does not fit":      {nib, with(thick, 1), work(plan.NibsOnly), DoLeave, WhyNoFilm},
		"a nib stays at the line of the total":         {nib, thin, work(plan.NibsOnly), DoLeave, WhyGate},
		"a run is shaved and blocked":                  {run, thick, work(plan.NibsOnly), DoShave, WhyProud},
		"a felt scratch fits what the panel leaves":    {scratch, thick, work(plan.Flat), DoClear, WhyWithin},
		"a deep scratch is more than the panel leaves": {deep, with(thick, 16), work(plan.Flat), DoSoften, WhyPartly},
		"a nib stays where the panel takes it all":     {nib, with(thick, 9.5), work(plan.Flat), DoLeave, WhyNoFilm},
		"a felt scratch fits the headroom":             {scratch, thick, work(plan.NibsOnly), DoClear, WhyWithin},
		"a deep scratch is softened":                   {deep, with(thick, 8), work(plan.NibsOnly), DoSoften, WhyPartly},
		"a deep scratch is left":                       {deep, with(thick, 4), work(plan.NibsOnly), DoLeave, WhyDeep},
		"a scratch on unread film waits":               {scratch, Place{}, work(plan.NibsOnly), DoRead, WhyUnread},
		"a shallow scratch goes with the panel":        {shallow, thick, work(plan.Flat), DoPanel, WhyLevelled},
		"a hair is polished":                           {hair, thick, work(plan.NibsOnly), DoPolish, WhyShallow},
		"a scratch is softened by a polish alone":      {scratch, thick, work(plan.PolishOnly), DoSoften, WhyNoSanding},
		"colour is through":                            {through, thick, work(plan.Flat), DoRespray, WhyColour},
		"a burn is through":                            {Placed(Through, 1, 1, 0), Place{}, work(plan.Flat), DoRespray, WhyColour},
		"a thin edge is kept off":                      {Placed(ThinEdge, 1, 1, 0), thick, work(plan.Flat), DoKeepOff, WhyThinEdge},
		"a dull patch is polished":                     {Placed(Dull, 1, 1, 0), thick, work(plan.NibsOnly), DoPolish, WhyShallow},
		"peel goes with the panel":                     {Placed(Peel, 1, 1, 7), thick, work(plan.Flat), DoPanel, WhyTexture},
		"peel stays when nibs only are wanted":         {Placed(Peel, 1, 1, 7), thick, work(plan.NibsOnly), DoLeave, WhyTextStays},
		"peel waits for the film":                      {Placed(Peel, 1, 1, 7), Place{}, work(plan.Flat), DoRead, WhyUnread},
		"peel stays where levelling does not fit":      {Placed(Peel, 1, 1, 7), thick, Work{Aim: plan.Flat, Spot: plan.SpotFinish(plan.Dark)}, DoLeave, WhyNoFilm},
	} {
		if v := Judge(c.mark, c.place, c.work); v.Do != c.do || v.Why != c.why {
			t.Errorf("%s: %s because of %s, want %s because of %s", name, v.Do, v.Why, c.do, c.why)
		}
	}
}

// worth orders what is done about a mark from the worst to the best outcome.
var worth = map[Do]int{DoRespray: 0, DoLeave: 1, DoSoften: 2, DoClear: 3, DoSpot: 3, DoShave: 3, DoPolish: 3, DoPanel: 3, DoKeepOff: 3}

// More film never makes an outcome worse, no verdict spends more than there is,
// and a deeper mark never fares better.
func TestFilmDecides(t *testing.T) {
	for _, aim := range []plan.Aim{plan.NibsOnly, plan.Match, plan.Flat, plan.PolishOnly} {
		for _, k := range Kinds() {
			for _, class := range []Class{Seen, Felt, Catches} {
				m := Placed(k, 5, 5, 6)
				if m.classes() != nil {
					m.Class = class
				}
				last, left := -1, 2.0
				for room := -5.0; room < 60; room += 0.5 {
					v := Judge(m, with(thick, room), work(aim))
					if worth[v.Do] < last || v.Left > left+1e-9 {
						t.Fatalf("%s %s for %s: with %v µm it is %s, with less it was better", class, k, aim, room, v.Do)
					}
					last, left = worth[v.Do], v.Left
					left := room
					if aim.Levels() {
						left -= work(aim).PanelFilm
					}
					if v.Film > math.Max(left, film.FinePolish)+1e-9 {
						t.Fatalf("%s %s for %s: takes %v µm of %v", class, k, aim, v.Film, room)
					}
					if v.Left < 0 || v.Left > 1 || v.Seconds < 0 || v.Rest < 0 {
						t.Fatalf("%s %s: %+v", class, k, v)
					}
				}
			}
		}
	}
	for room := 0.0; room < 40; room++ {
		last := 9
		for d := 0.2; d < 60; d *= 1.3 {
			m := Placed(Scratch, 0, 0, 0)
			m.Size = d
			if v := Judge(m, with(thick, room), work(plan.NibsOnly)); worth[v.Do] > last {
				t.Fatalf("with %v µm a scratch %v µm deep fares better than a shallower one", room, d)
			} else {
				last = worth[v.Do]
			}
		}
	}
}

func TestRunsWaitUntilHard(t *testing.T) {
	w := work(plan.NibsOnly)
	w.Spray.At = now.Add(-20 * time.Hour)
	run := Placed(Run, 0, 0, 0)
	v := Judge(run, thick, w)
	// 66 µm of clear and a crest of 30: (96/50)² of a day.
	want := w.Spray.At.Add(time.Duration(24 * 96.0 * 96 / 2500 * float64(time.Hour)))
	if v.Why != WhySoft || v.Ready.Sub(want).Abs() > time.Second {
		t.Errorf("soft until %v, want %v", v.Ready, want)
	}
	w.Spray.Baked = true
	if v := Judge(run, thick, w); v.Why == WhySoft || !v.Ready.IsZero() {
		t.Errorf("baked 20 hours ago it is soft until %v", v.Ready)
	}
	w.Spray = cure.Spray{At: now.Add(-cure.Longest * time.Hour)}
	run.Size = 400
	if v := Judge(run, thick, w); v.Why == WhySoft {
		t.Errorf("after the longest wait it is soft until %v", v.Ready)
	}
}

func TestReadingsOfARun(t *testing.T) {
	m := Placed(Run, 0, 0, 0)
	m.Crest, m.Beside = 182, 158
	if r := m.Relief(); r.Mean != 24 || math.Abs(r.SD-math.Sqrt(2*(0.64+1))) > 1e-9 {
		t.Errorf("a crest of 182 beside 158 stands %v", r)
	}
	m.Beside = 190
	var f Fault
	if err := m.Check(); !errors.As(err, &f) || f.Field != "crest_um" {
		t.Errorf("a crest under its side is taken: %v", err)
	}
	m = Placed(Scratch, 0, 0, 0)
	m.Size = 10
	if r := m.Relief(); r.Mean != 10 || math.Abs(r.SD-math.Sqrt2) > 1e-9 {
		t.Errorf("a scratch read at 10 µm is %v", r)
	}
}

func TestMarksThatAreNone(t *testing.T) {
	for field, change := range map[string]func(*Mark){
		"kind":        func(m *Mark) { m.Kind = "smudge" },
		"class":       func(m *Mark) { m.Class = Colour },
		"x_mm":        func(m *Mark) { m.X = math.NaN() },
		"y_mm":        func(m *Mark) { m.Y = math.Inf(1) },
		"length_mm":   func(m *Mark) { m.Length = 0 },
		"width_mm":    func(m *Mark) { m.Width = -3 },
		"angle_deg":   func(m *Mark) { m.Angle = 1000 },
		"size_um":     func(m *Mark) { m.Size = 9000 },
		"grade":       func(m *Mark) { m.Grade = 11 },
		"density_dm2": func(m *Mark) { m.Density = -1 },
		"crest_um":    func(m *Mark) { m.Crest = 6000 },
	} {
		m := Placed(Nib, 10, 10, 6)
		change(&m)
		var f Fault
		if err := m.Check(); !errors.As(err, &f) || f.Field != field || f.Text == "" {
			t.Errorf("%s: %v", field, err)
		}
	}
	for _, k := range Kinds() {
		if err := Placed(k, 10, 10, 6).Check(); err != nil {
			t.Errorf("a usual %s: %v", k, err)
		}
		if m := Placed(k, 0, 0, 6); m.Length <= 0 || m.Width <= 0 || k.Name() == "" {
			t.Errorf("a %s has no size or name", k)
		}
	}
}

// The height a run is shaved to costs its shoulders just the budget.
func TestShavingKeepsTheBudget(t *testing.T) {
	for _, width := range []float64{5, 15, 40, 120} {
		for _, budget := range []float64{0.5, 1, 3} {
			h := ShaveTo(budget, width, RunBlock, RunStroke)
			if p := ShoulderOf(h, width, RunBlock, RunStroke).Peak; math.Abs(p-budget) > 1e-9 {
				t.Errorf("a run %v wide shaved to %v costs %v, want %v", width, h, p, budget)
			}
		}
	}
	if ShaveTo(0.1, 15, RunBlock, RunStroke) != 0 || ShaveTo(1, 40, RunBlock, RunStroke) >= ShaveTo(1, 15, RunBlock, RunStroke) {
		t.Error("a wide sag needs shaving further down than a narrow run")
	}
}

func TestBreakEven(t *testing.T) {
	for _, m2 := range []float64{0.3, 0.7, 1.5} {
		whole := 55 * 60 * m2
		n := UsualSpots.BreakEven(m2, whole)
		if UsualSpots.Time(n, m2) <= whole || UsualSpots.Time(n-1, m2) > whole {
			t.Errorf("%d nibs on %v m² are not the break-even", n, m2)
		}
		if per := float64(n) / m2; per < 40 || per > 70 {
			t.Errorf("break-even at %v nibs a m²", per)
		}
	}
	if UsualSpots.Time(0, 1) != 0 || UsualSpots.Time(9, 0) != 0 {
		t.Error("no nibs take time")
	}
}

func TestSumUp(t *testing.T) {
	var all []Judged
	add := func(k Kind, n int, w Work) {
		for range n {
			m := Placed(k, 5, 5, 6)
			all = append(all, Judged{Mark: m, Verdict: Judge(m, thick, w)})
		}
	}
	add(Nib, 11, work(plan.NibsOnly))
	add(Through, 1, work(plan.NibsOnly))
	s := SumUp(all, 0.7, Way{Seconds: 3600, Film: 12}, "dark")
	if s.Nibs != 11 || s.Count[Nib] != 11 || s.Do[DoRespray] != 1 || math.Abs(s.PerM2-11/0.7) > 1e-9 || s.Quicker != "spot" {
		t.Errorf("%+v", s)
	}
	if math.Abs(s.Spot.Seconds-UsualSpots.Time(11, 0.7)) > 1e-9 || s.Spot.Film != plan.SpotFinish(plan.Dark).Film || s.Feather <= 0 {
		t.Errorf("11 nibs take %+v", s.Spot)
	}
	add(Nib, 60, work(plan.NibsOnly))
	if s := SumUp(all, 0.7, Way{Seconds: 2310}, "dark"); s.Quicker != "panel" || s.Even > 71 {
		t.Errorf("71 nibs on 0.7 m² are spotted: %+v", s)
	}
}

// A mark that is gone has cost at least what it needs, also when it was advised
// to leave it.
func TestWhatAMarkTook(t *testing.T) {
	deep := Placed(Scratch, 0, 0, 0)
	deep.Size = 14
	for _, room := range []float64{2, 9, 40} {
		v := Judge(deep, with(thick, room), work(plan.NibsOnly))
		gone, soft := v.Took(true), v.Took(false)
		if gone < 14 || soft > gone || soft <= 0 {
			t.Errorf("with %v µm (%s) it took %v when gone, %v when softened", room, v.Do, gone, soft)
		}
	}
	nib := Placed(Nib, 0, 0, 0)
	if v := Judge(nib, with(thick, 0), work(plan.NibsOnly)); v.Do != DoLeave || v.Took(true) != plan.SpotFinish(plan.Dark).Film {
		t.Errorf("a nib that was to be left took %v", v.Took(true))
	}
	if v := Judge(Placed(Peel, 0, 0, 7), thick, work(plan.Flat)); v.Took(true) != 0 {
		t.Errorf("peel that went with the panel took %v of its own", v.Took(true))
	}
}

// A run on film that has nothing to spend is left, never shaved: a block always
// costs its shoulders something.
func TestRunsNeedFilm(t *testing.T) {
	for _, k := range []Kind{Run, Sag} {
		for _, aim := range []plan.Aim{plan.NibsOnly, plan.Flat} {
			w := work(aim)
			least := plan.FiledRest + peakOffset
			if aim == plan.Flat {
				least += w.PanelFilm
			} else {
				least += w.Spot.Film - plan.FiledRest
			}
			for room := -20.0; room < 30; room += 0.25 {
				v := Judge(Placed(k, 5, 5, 6), with(thick, room), w)
				if left := room < least-1e-9; left != (v.Do == DoLeave) {
					t.Fatalf("a %s with %v µm of the %v it needs for %s: %s", k, room, least, aim, v.Do)
				}
				if v.Do == DoShave && (v.Film < plan.FiledRest+peakOffset || v.Rest < 0 || v.Rest > v.Relief.Mean) {
					t.Fatalf("a %s with %v µm: %+v", k, room, v)
				}
			}
		}
	}
}

// The wait of a run goes by the clear as it was sprayed, whatever was cut since.
func TestCuttingDoesNotCure(t *testing.T) {
	w := work(plan.NibsOnly)
	w.Spray.At = now.Add(-10 * time.Hour)
	before := Judge(Placed(Run, 0, 0, 0), thick, w).Ready
	worked := thick
	worked.Clear.Mean -= 6
	if after := Judge(Placed(Run, 0, 0, 0), worked, w).Ready; !after.Equal(before) {
		t.Errorf("soft until %v, after cutting until %v", before, after)
	}
}

// What may go at a place: the clear's bound less the floor, never over the cap,
// and less what passes have taken.
func TestPlaces(t *testing.T) {
	total, clear := film.Estimate{Mean: 160, SD: 4}, film.Estimate{Mean: 66, SD: 3}
	for finish, floor := range map[film.Finish]float64{film.Refinished: 40, film.FactoryFinish: 25} {
		policy := film.PolicyFor(finish)
		fresh := At(policy, total, clear, film.Estimate{})
		worked := At(policy, total, clear, film.Estimate{Mean: 4, SD: 1})
		if fresh.Floor != floor || !fresh.Known || fresh.Sprayed != 66 || worked.Sprayed != 66 {
			t.Errorf("%s: %+v", finish, fresh)
		}
		if worked.Headroom > fresh.Headroom-4+1e-9 || worked.Total.Mean != 156 || worked.Clear.Mean != 62 || worked.Clear.SD <= clear.SD {
			t.Errorf("%s: after 4 µm %+v, before %+v", finish, worked, fresh)
		}
		if most := policy.Cap(clear.Mean); fresh.Headroom > most {
			t.Errorf("%s: %v may go over the cap of %v", finish, fresh.Headroom, most)
		}
	}
}
