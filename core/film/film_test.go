package film

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"waxplanus/core/clearcoat"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
)

// plate is a loose panel of 900 x 600 mm.
func plate(t testing.TB) flatlay.Panel {
	t.Helper()
	b, err := body.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	return b.Panels[0]
}

func grid(shift float64, seed uint64) []Place {
	rng := rand.New(rand.NewPCG(seed, 1))
	var out []Place
	for _, x := range []float64{150, 450, 750} {
		for _, y := range []float64{150, 450} {
			out = append(out, Place{X: x, Y: y, Film: 140 + 6*rng.NormFloat64() - shift})
		}
	}
	return out
}

func study(t testing.TB, f Facts, places []Place) *Study {
	t.Helper()
	s, err := NewStudy(NewGround(plate(t)), f, places, UsualGauge)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// TestThinnerPanelNeverHasMoreHeadroom holds to 0.25 µm: the grain of the joint samples,
// and the gauge's own repeatability, which is a larger share of a film that is a tenth
// thinner everywhere. Or the film has a coat less.
func TestThinnerPanelNeverHasMoreHeadroom(t *testing.T) {
	if testing.Short() {
		t.Skip("hundreds of simulated panels take minutes under the race detector")
	}
	thinned := func(p []Place) []Place {
		out := append([]Place(nil), p...)
		for i := range out {
			out[i].Film *= 0.9
		}
		return out
	}
	before := []Place{{X: 200, Y: 200, Film: 80}, {X: 600, Y: 200, Film: 81}}
	for _, c := range []struct {
		name        string
		thick, thin Facts
	}{
		{"read before", Facts{History: History{Finish: Refinished}, Before: before}, Facts{History: History{Finish: Refinished}, Before: before}},
		{"factory", Facts{History: History{Finish: FactoryFinish}}, Facts{History: History{Finish: FactoryFinish}}},
		{"single stage", Facts{History: History{Finish: SingleStaged}}, Facts{History: History{Finish: SingleStaged}}},
		{"unknown", Facts{History: History{Finish: RefinishedOld}}, Facts{History: History{Finish: RefinishedOld}}},
		{"same coats", Facts{History: History{Finish: Refinished, Coats: 3}}, Facts{History: History{Finish: Refinished, Coats: 3}}},
		{"a coat less", Facts{History: History{Finish: Refinished, Coats: 3}}, Facts{History: History{Finish: Refinished, Coats: 2}}},
	} {
		for seed := range uint64(3) {
			thick := study(t, c.thick, grid(0, seed))
			thin := study(t, c.thin, thinned(grid(0, seed)))
			for i, s := range thick.Sections {
				a, b := thick.Policy.Headroom(s.Least), thin.Policy.Headroom(thin.Sections[i].Least)
				if b > a+0.25 {
					t.Errorf("%s, seed %d, %s: thinner has headroom %.2f, more than %.2f", c.name, seed, s.Name, b, a)
				}
			}
		}
	}
}

func TestReadingNarrowsTheDoubtThere(t *testing.T) {
	few := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 1))
	more := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, append(grid(0, 1), Place{X: 300, Y: 300, Film: 140}))
	a := few.At(300, 300)
	b := more.At(300, 300)
	if b.SD >= 0.6*a.SD {
		t.Errorf("doubt at a fresh reading is %.2f, was %.2f before it", b.SD, a.SD)
	}
	if math.Abs(b.Mean-140) > 3 {
		t.Errorf("the map says %.1f where the gauge said 140", b.Mean)
	}
}

func TestMapPassesNearItsReadings(t *testing.T) {
	places := grid(0, 3)
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, places)
	for _, p := range places {
		e := s.At(p.X, p.Y)
		if math.Abs(e.Mean-p.Film) > 3*math.Hypot(UsualGauge.A, math.Hypot(UsualGauge.Replace, UsualGauge.B*p.Film)) {
			t.Errorf("at %v, %v the map says %.1f and the gauge said %.1f", p.X, p.Y, e.Mean, p.Film)
		}
	}
}

func TestNoReadingNoMap(t *testing.T) {
	if _, err := NewStudy(NewGround(plate(t)), Facts{History: History{Finish: FactoryFinish}}, nil, UsualGauge); !errors.Is(err, ErrReadings) {
		t.Errorf("a study without readings gives %v, want ErrReadings", err)
	}
}

func TestOneReadingIsEnoughToStart(t *testing.T) {
	s := study(t, Facts{History: History{Finish: FactoryFinish}}, []Place{{X: 450, Y: 300, Film: 110}})
	if math.Abs(s.Mean.Mean-110) > 5 || s.Mean.SD < 2 {
		t.Errorf("one reading of 110 gives a panel of %v", s.Mean)
	}
}

func TestSameReadingsGiveTheSameStudy(t *testing.T) {
	a := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 4))
	b := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 4))
	for i := range a.Sections {
		if x, y := a.Policy.Headroom(a.Sections[i].Least), b.Policy.Headroom(b.Sections[i].Least); x != y {
			t.Errorf("%s has headroom %v and %v from the same readings", a.Sections[i].Name, x, y)
		}
	}
}

func TestShotsOfOneSpotCountAsOneSpot(t *testing.T) {
	shots, _ := gather(plate(t), []Place{{X: 300, Y: 300, Film: 140}, {X: 304, Y: 303, Film: 190}, {X: 296, Y: 300, Film: 142}, {X: 600, Y: 300, Film: 150}}, UsualGauge)
	if len(shots) != 2 || shots[0].Shots != 3 || shots[0].T != 142 {
		t.Errorf("three shots and one spot give %+v, want a median of 142 from 3 and another", shots)
	}
}

func TestMeasuredClearOutweighsTheCoatsRule(t *testing.T) {
	before := []Place{{X: 200, Y: 200, Film: 80}, {X: 600, Y: 200, Film: 81}, {X: 400, Y: 400, Film: 79}}
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 3}, Before: before}, grid(0, 1))
	if s.Clear.Shares[0] < 0.85 || s.Clear.Sources[0].Kind != FromBefore {
		t.Errorf("the measured source has share %v of %v", s.Clear.Shares, s.Clear.Sources)
	}
	coats := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 1))
	if s.Clear.SD >= coats.Clear.SD {
		t.Errorf("reading before clear leaves a doubt of %.1f, the coats rule %.1f", s.Clear.SD, coats.Clear.SD)
	}
}

func TestFilmBeforeTheClearAboveTheWholeIsNoSource(t *testing.T) {
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 3}, Before: []Place{{X: 200, Y: 200, Film: 160}}}, grid(0, 1))
	if !s.Odd || len(s.Clear.Sources) != 2 || s.Clear.Sources[0].Kind != FromCoats {
		t.Errorf("odd %v, sources %v", s.Odd, s.Clear.Sources)
	}
	alone := study(t, Facts{History: History{Finish: Refinished}, Before: []Place{{X: 200, Y: 200, Film: 160}}}, grid(0, 1))
	if !alone.Odd || alone.Clear.Sources[0].Kind != FromCoats || alone.Need() <= 0 {
		t.Errorf("%+v", alone.Clear.Sources)
	}
}

func TestSourcesThatDisagreeDoNotLookSure(t *testing.T) {
	c, ok := Combine(Source{Estimate: Estimate{40, 2}}, Source{Estimate: Estimate{60, 2}})
	if !ok || c.Agree || c.SD < 10 || math.Abs(c.Mean-50) > 1e-9 {
		t.Errorf("40 ± 2 and 60 ± 2 combine to %v ± %v, agree %v", c.Mean, c.SD, c.Agree)
	}
	if _, ok := Combine(); ok {
		t.Error("no source gives a clear")
	}
}

func TestQuantileIsTheInverseOfBelow(t *testing.T) {
	for name, l := range map[string]Least{
		"a section": LeastOf(clearcoat.Normal(clearcoat.Value{Mean: 60, SD: 8}), []float64{0.8, 0.9, 0.95}, []float64{0.7, 0.8, 0.9}),
		"a place":   NormalLeast(Estimate{50, 4}),
	} {
		for _, l := range []Least{l, l.Minus(Estimate{6, 1})} {
			for _, p := range []float64{0.01, 0.05, 0.5, 0.9} {
				if got := l.Below(l.Quantile(p)); math.Abs(got-p) > 1e-4 {
					t.Errorf("%s: below its %v quantile lies %v", name, p, got)
				}
			}
		}
	}
}

// Film that is gone is gone: what was taken moves every chance as a thinner clear would.
func TestFilmThatIsGoneMovesBothChances(t *testing.T) {
	clear := clearcoat.Of(clearcoat.Known{Finish: clearcoat.Refinish, Coats: 2})
	l := LeastOf(clear, []float64{0.9, 0.95}, []float64{0.85, 0.9})
	less := l.Minus(Estimate{5, 0})
	if a, b := l.Below(45), less.Below(40); math.Abs(a-b) > 1e-9 {
		t.Errorf("under 45 with chance %v, under 40 once 5 are gone with %v", a, b)
	}
	if a, b := l.Through(Taken{Chance: 1, Film: 9}), less.Through(Taken{Chance: 1, Film: 4}); math.Abs(a-b) > 1e-9 {
		t.Errorf("through with %v and %v", a, b)
	}
	last := 0.0
	for spend := 0.0; spend < 60; spend += 5 {
		through := l.Through(Taken{Chance: 1, Film: spend})
		if through < last || l.Below(40+spend) < through {
			t.Errorf("at %v through with chance %v, was %v; under the floor %v", spend, through, last, l.Below(40+spend))
		}
		last = through
	}
	if unsure := l.Through(Taken{Chance: 0.5, Film: 0}, Taken{Chance: 0.5, Film: 20}); unsure <= l.Through(Taken{Chance: 1, Film: 10}) {
		t.Errorf("a doubtful film goes through with %v, a sure one with %v", unsure, l.Through(Taken{Chance: 1, Film: 10}))
	}
}

func TestVerdicts(t *testing.T) {
	p := PolicyFor(Refinished)
	for _, c := range []struct {
		name  string
		in    Outlook
		state State
		why   Reason
	}{
		{"plenty", Outlook{Total: 160, Spend: 9, Now: 0.001, Under: 0.02}, Open, WhyFits},
		{"checks", Outlook{Total: 160, Spend: 9, Now: 0.01, Under: 0.30}, Tight, WhyChecks},
		{"too little", Outlook{Total: 160, Spend: 9, Now: 0.01, Under: 0.4}, Shut, WhyThin},
		{"under the floor", Outlook{Total: 160, Spend: 9, Now: 0.4, Under: 0.6}, Shut, WhyBelow},
		{"spots", Outlook{Total: 160, Spend: 9, Spots: true, Now: 0.4, Under: 0.6}, Open, WhyFits},
		{"through", Outlook{Total: 160, Spend: 0.4, Spots: true, Through: 0.003}, Shut, WhyThrough},
		{"gate", Outlook{Total: 75, Spend: 9}, Shut, WhyGateShut},
		{"asks", Outlook{Total: 89, Spend: 2, Under: 0.01}, Tight, WhyGateAsk},
		{"over the cap", Outlook{Total: 160, Spend: 9, Over: true}, Shut, WhyCap},
		{"fine polish on thin film", Outlook{Total: 70, Spend: 0.5, Now: 0.6, Under: 0.6}, Tight, WhyGateAsk},
		{"fine polish under the floor", Outlook{Total: 160, Spend: 0.5, Now: 0.6, Under: 0.6}, Tight, WhyChecks},
	} {
		if v := p.Verdict(c.in); v.State != c.state || v.Reason != c.why || v.Under != c.in.Under || v.Through != c.in.Through {
			t.Errorf("%s: %+v; want %s, %s", c.name, v, c.state, c.why)
		}
	}
}

func TestAPlanIsAcceptedOnARung(t *testing.T) {
	p := PolicyFor(Refinished)
	for _, c := range []struct{ under, accepted, next float64 }{{0, 0.05, 0.1}, {0.05, 0.05, 0.1}, {0.07, 0.1, 0.2}, {0.2, 0.2, 1.0 / 3}, {0.3, 1.0 / 3, 1.0 / 3}, {0.9, 1.0 / 3, 1.0 / 3}} {
		if a := p.Accepting(c.under); a.Risk != c.accepted || a.Next() != c.next {
			t.Errorf("a plan with %v is accepted at %v, then up to %v; want %v, %v", c.under, a.Risk, a.Next(), c.accepted, c.next)
		}
	}
}

func TestFactorySpendIsCapped(t *testing.T) {
	p := PolicyFor(FactoryFinish)
	if h := p.Headroom(NormalLeast(Estimate{90, 1})); h != 8 {
		t.Errorf("a thick factory clear has headroom %v, want the cap of 8", h)
	}
	if !math.IsInf(PolicyFor(Refinished).Cap(90), 1) {
		t.Error("fresh clear is capped")
	}
}

// Where no place can decide anything there is still one to read: after work it proves the film.
func TestAPlaceToReadIsNamedWhereNothingIsInDoubt(t *testing.T) {
	ground := NewGround(plate(t))
	film := make([]Estimate, len(ground.Cells))
	for i := range film {
		film[i] = Estimate{Mean: 95, SD: 0.4}
	}
	read := NextSpots(ground, ground.Cells, nil, 0, nil, 2)
	if spots := NextSpots(ground, ground.Cells, film, 3, read, 1); len(spots) != 1 {
		t.Errorf("%d places", len(spots))
	}
}

func TestNextSpotsKeepClear(t *testing.T) {
	p := plate(t)
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 1))
	read := []flatlay.Point{{X: 150, Y: 150}, {X: 450, Y: 450}}
	for name, film := range map[string][]Estimate{"without a map": nil, "with a map": s.Film} {
		spots := NextSpots(s.Ground, s.Ground.Cells, film, s.Need(), read, 4)
		if len(spots) != 4 {
			t.Fatalf("%s: %d spots", name, len(spots))
		}
		for i, q := range spots {
			if p.EdgeDistance(q) < SpotClear {
				t.Errorf("%s: spot %v is %v mm from an edge", name, q, p.EdgeDistance(q))
			}
			for _, r := range append(read, spots[:i]...) {
				if d := math.Hypot(q.X-r.X, q.Y-r.Y); d < 60 {
					t.Errorf("%s: spot %v is %v mm from another", name, q, d)
				}
			}
		}
	}
}

func TestFlags(t *testing.T) {
	for _, c := range []struct {
		name    string
		film    []float64
		factory float64
		want    []FlagCode
	}{
		{"factory", []float64{118, 121, 117, 120}, 118, nil},
		{"second finish", []float64{232, 236, 230, 241}, 118, []FlagCode{FlagRefinished}},
		{"spot repair", []float64{118, 119, 117, 181}, 118, []FlagCode{FlagRepair}},
		{"filler", []float64{118, 119, 117, 640}, 118, []FlagCode{FlagFiller}},
		{"cut before", []float64{118, 119, 70, 121}, 118, []FlagCode{FlagThin}},
		{"one reading", []float64{118}, 0, nil},
		{"none", nil, 118, nil},
	} {
		var got []FlagCode
		for _, f := range Flags(c.film, c.factory) {
			got = append(got, f.Code)
		}
		if len(got) != len(c.want) || len(got) > 0 && got[0] != c.want[0] {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
}

// TestBoundHolds draws panels from the map's own model, spreads and reach and all, and
// looks whether the 95 % bound of a section's least film holds as often as it says.
func TestBoundHolds(t *testing.T) {
	if testing.Short() {
		t.Skip("hundreds of simulated panels take minutes under the race detector")
	}
	small, err := body.LoosePanel(600, 400)
	if err != nil {
		t.Fatal(err)
	}
	ground := NewGround(small.Panels[0])
	spots := NextSpots(ground, ground.Cells, nil, 0, nil, 5)
	const panels = 300
	held, all := 0, 0
	for seed := range uint64(panels) {
		rng := rand.New(rand.NewPCG(seed, 9))
		truth := sprayed(t, ground, rng)
		offset := UsualGauge.B * rng.NormFloat64()
		var places []Place
		for _, q := range spots {
			shot := truth[ground.nodeAt(q)]*(1+offset) + math.Hypot(UsualGauge.A, UsualGauge.Replace)*rng.NormFloat64()
			places = append(places, Place{X: q.X, Y: q.Y, Film: shot})
		}
		s, err := NewStudy(ground, Facts{History: History{Finish: Refinished, Coats: 3}}, places, UsualGauge)
		if err != nil {
			t.Fatal(err)
		}
		for i, section := range s.Sections {
			least := math.Inf(1)
			for _, k := range ground.parts[i].thin {
				least = math.Min(least, truth[k])
			}
			all++
			if least >= section.Bound {
				held++
			}
		}
	}
	// Sections of one panel err together: the panels are what is counted.
	if share, least := float64(held)/float64(all), 0.95-2*math.Sqrt(0.95*0.05/panels); share < least {
		t.Errorf("the bound held on %.3f of %d sections; 0.95 is promised, %.3f the least by chance", share, all, least)
	}
}

// sprayed draws a panel from the prior of the map: the film (µm) of every node.
func sprayed(t *testing.T, g *Ground, rng *rand.Rand) []float64 {
	t.Helper()
	pick := func(c choice) float64 {
		sum := 0.0
		for _, k := range c.times {
			sum += math.Exp(c.log(k))
		}
		at := sum * rng.Float64()
		for _, k := range c.times {
			if at -= math.Exp(c.log(k)); at <= 0 {
				return k
			}
		}
		return 1
	}
	p := Sprayed
	const level = 140.0
	f := &field{observed: &observed{prior: p, scale: level}, mm: p.Reach * pick(Averaged.reach), drift: p.Drift * pick(Averaged.drift), stripe: p.Stripe * pick(Averaged.stripe)}
	m := &Map{scale: level, fields: []*field{f}}
	cov := m.covariance(f, g.lags(m), g.nodes)
	mean := make([]float64, len(g.nodes))
	for i, n := range g.nodes {
		mean[i] = level * n.e
	}
	draw, err := multivariateNormal(rng, mean, cov, 1)
	if err != nil {
		t.Fatal(err)
	}
	return draw[0]
}

// The first places to read lie all over a panel, narrow ones too.
func TestPlacesSpreadOverNarrowPanels(t *testing.T) {
	sheet, err := body.Find("saloon", body.Size{})
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range sheet.Panels {
		ground := NewGround(p)
		spots := NextSpots(ground, ground.Cells, nil, 0, nil, EnoughSpots)
		if all := spanned(ground.Cells); len(spots) < EnoughSpots || spanned(spots) < all/2 {
			t.Errorf("%s: %d places over %.0f of %.0f mm", p.Name, len(spots), spanned(spots), all)
		}
	}
}

// What a gauge is off by as a whole is common to all readings of a day: however many
// there are, no place is known better than that.
func TestCalibrationIsNotAveragedAway(t *testing.T) {
	var places []Place
	ground := NewGround(plate(t))
	for _, q := range NextSpots(ground, ground.Cells, nil, 0, nil, 25) {
		places = append(places, Place{X: q.X, Y: q.Y, Film: 150}, Place{X: q.X, Y: q.Y, Film: 150.5}, Place{X: q.X, Y: q.Y, Film: 149.5})
	}
	s := study(t, Facts{History: History{Finish: FactoryFinish}}, places)
	off := UsualGauge.B * 150
	if got := s.Map.Level().SD; got < off {
		t.Errorf("the level is known to ± %.2f µm by a gauge that may be off by %.2f", got, off)
	}
	for _, p := range places {
		e := s.At(p.X, p.Y)
		if e.SD < 0.95*off {
			t.Errorf("at %.0f, %.0f the film is known to ± %.2f µm by a gauge that may be off by %.2f", p.X, p.Y, e.SD, off)
		}
	}
	exact := UsualGauge
	exact.B = 0
	sure, err := NewStudy(ground, Facts{History: History{Finish: FactoryFinish}}, places, exact)
	if err != nil {
		t.Fatal(err)
	}
	for i, section := range s.Sections {
		if section.Bound >= sure.Sections[i].Bound-off/4 {
			t.Errorf("%s: bound %.1f, %.1f by a gauge that is never off", section.Name, section.Bound, sure.Sections[i].Bound)
		}
	}
}

func BenchmarkStudy(b *testing.B) {
	saloon, _ := body.Find(body.Saloon, body.Size{})
	var door flatlay.Panel
	for _, p := range saloon.Panels {
		if p.Key == "L-fdoor" {
			door = p
		}
	}
	var places []Place
	for i, q := range NextSpots(NewGround(door), door.Cells(), nil, 0, nil, 16) {
		places = append(places, Place{X: q.X, Y: q.Y, Film: 140 + float64(i%5)})
	}
	ground := NewGround(door)
	for b.Loop() {
		if _, err := NewStudy(ground, Facts{History: History{Finish: Refinished, Coats: 3}}, places, UsualGauge); err != nil {
			b.Fatal(err)
		}
	}
}

// What is said of a panel decides what its finish counts as.
func TestFinishOfWhatWasSaid(t *testing.T) {
	for _, c := range []struct {
		origin Origin
		single bool
		coats  int
		want   Finish
	}{
		{AtFactory, false, 0, FactoryFinish}, {AtFactory, true, 0, SingleStaged}, {Here, false, 0, Refinished},
		{Elsewhere, false, 2, Refinished}, {Elsewhere, false, 0, RefinishedOld}, {Nowhere, false, 3, RefinishedOld}, {Nowhere, true, 3, SingleStaged},
	} {
		if got := FinishOf(c.origin, c.single, c.coats); got != c.want {
			t.Errorf("%s, single %v, %d coats is %s, want %s", c.origin, c.single, c.coats, got, c.want)
		}
	}
}

// A guess is never surer than the same with readings, grows with coats, and is
// held against the floor of its finish.
func TestGuesses(t *testing.T) {
	last := 0.0
	for coats := 1; coats < 6; coats++ {
		g := GuessOf(History{Finish: Refinished, Coats: coats})
		e := g.Least.Estimate()
		if e.Mean <= last || e.Mean >= g.Clear.Mean || e.SD <= CoatSpread*e.Mean || g.Policy.Floor != 40 {
			t.Errorf("%d coats: %+v at the thinnest place, %+v in all", coats, e, g.Clear)
		}
		last = e.Mean
	}
	if thin := GuessOf(History{Finish: Refinished, Coats: 2, Coat: 15}); math.Abs(thin.Clear.Mean-30) > 0.5 {
		t.Errorf("two coats of 15 µm are %v", thin.Clear.Mean)
	}
	for _, f := range []Finish{FactoryFinish, SingleStaged, RefinishedOld} {
		if g := GuessOf(History{Finish: f}); g.Clear.SD/g.Clear.Mean < 0.2 {
			t.Errorf("%s is guessed to %+v", f, g.Clear)
		}
	}
	l := NormalLeast(Estimate{50, 4})
	if got := l.Minus(Estimate{3, 0}).Estimate(); got.Mean != 47 || got.SD != 4 || l.Minus(Estimate{}).Estimate().Mean != 50 {
		t.Errorf("50 less 3 is %+v", got)
	}
}
