package price

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"
)

func TestHoursAreARangeThatNarrowsWithManyPieces(t *testing.T) {
	one, many := HoursOf([]float64{600}, 0), HoursOf(slices.Repeat([]float64{60}, 10), 0)
	for _, h := range []Hours{one, many} {
		if h.Likely != 10 || h.Low >= 10 || h.High <= 10 || math.Abs(h.Low*h.High-100) > 1e-9 {
			t.Errorf("%+v", h)
		}
	}
	if many.High-many.Low >= one.High-one.Low || many.High < 10*math.Exp(middle*commonSpread) {
		t.Errorf("ten pieces %+v, one %+v", many, one)
	}
	if h := HoursOf(nil, 0); h != (Hours{}) {
		t.Errorf("nothing takes %+v", h)
	}
	if narrow := HoursOf([]float64{600}, 0.05); narrow.High >= one.High {
		t.Errorf("a known pace leaves %+v", narrow)
	}
}

func TestAPriceIsTheSumOfItsPartsRoundedUp(t *testing.T) {
	r := Rates{Labour: 50, Risk: 0.1, Respray: 400, Tax: 0.2, Round: 5, Valid: 10}
	p := r.Of(8, 40, []float64{0.001, 0.002})
	if p.Labour != 400 || p.Material != 40 || math.Abs(p.Risk-45.2) > 1e-9 || math.Abs(p.Net-485.2) > 1e-9 || math.Abs(p.Tax-97.04) > 1e-9 || p.Total != 585 {
		t.Errorf("%+v", p)
	}
	if r.Round = 0; math.Abs(r.Of(8, 40, nil).Total-1.2*484) > 1e-9 {
		t.Errorf("%+v", r.Of(8, 40, nil))
	}
	last := 0.0
	for h := 0.0; h < 40; h += 0.5 {
		if now := UsualRates.Of(h, 10, nil).Total; now < last {
			t.Fatalf("%v h cost %v, less than before", h, now)
		} else {
			last = now
		}
	}
	if err := UsualRates.Check(); err != nil {
		t.Error(err)
	}
	for want, change := range map[string]func(*Rates){
		"labour": func(r *Rates) { r.Labour = -1 }, "risk": func(r *Rates) { r.Risk = 2 }, "tax": func(r *Rates) { r.Tax = math.NaN() }, "valid_days": func(r *Rates) { r.Valid = 0 },
	} {
		r := UsualRates
		change(&r)
		if err := r.Check(); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", want, err)
		}
	}
}

// everyWay tries all choices.
func everyWay(places []Place, minutes float64) float64 {
	if len(places) == 0 {
		return 0
	}
	best := everyWay(places[1:], minutes)
	for _, o := range places[0].Options {
		if cost := unit * math.Ceil(o.Minutes/unit-1e-9); cost <= minutes {
			best = math.Max(best, o.Gain+everyWay(places[1:], minutes-cost))
		}
	}
	return best
}

func TestTheBestForABudgetIsTheBestOfAllWays(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 200 {
		places := make([]Place, 1+r.IntN(5))
		for i := range places {
			for range 1 + r.IntN(3) {
				places[i].Options = append(places[i].Options, Option{Minutes: 1 + 90*r.Float64(), Gain: r.Float64()})
			}
		}
		budget := 200 * r.Float64()
		got, want := Best(places, budget), everyWay(places, unit*math.Floor(budget/unit))
		if math.Abs(got.Gain-want) > 1e-9 || got.Minutes > budget {
			t.Fatalf("%v min gain %v in %v, all ways %v", budget, got.Gain, got.Minutes, want)
		}
		gain, minutes := 0.0, -1.0
		curve := Curve(places)
		for _, s := range curve {
			if s.Gain <= gain || s.Option < 0 || s.Choice[s.Place] != s.Option {
				t.Fatalf("the curve falls, or names nothing: %+v after %v", s, gain)
			}
			if s.Minutes > s.Budget+1e-9 {
				t.Fatalf("%v min are bought for %v", s.Minutes, s.Budget)
			}
			gain, minutes = s.Gain, s.Budget
		}
		if all := Best(places, 1e4); math.Abs(all.Gain-gain) > 1e-9 {
			t.Fatalf("the curve ends at %v of %v", gain, all.Gain)
		}
		if next, ok := Next(curve, 0); !ok || next.Minutes <= 0 {
			t.Fatalf("from nothing nothing is next: %+v", next)
		}
		if _, ok := Next(curve, minutes); ok {
			t.Fatal("after all of it something is next")
		}
	}
	if s := Seen(0.5, 2, 0.25); s != 0.25 || Seen(-1, 2, 1) != 0 {
		t.Errorf("%v m²", s)
	}
}

func TestWhatRunsOutIsTold(t *testing.T) {
	now := time.Date(2026, 3, 2, 8, 0, 0, 0, time.UTC)
	stock := []Stock{{Item: "disc", Here: 2, Low: 3, Pack: 15, Price: 1.4}, {Item: "paper", Here: 20, Low: 5, Pack: 10, Price: 1}, {Item: "polish", Here: 100, Low: 100, Price: 0.05}}
	uses := []Use{
		{"disc", "b", now.Add(3 * time.Hour), 1}, {"disc", "a", now.Add(time.Hour), 2}, {"disc", "c", now.Add(5 * time.Hour), 2}, {"disc", "b", now.Add(6 * time.Hour), 1},
		{"paper", "a", now, 4}, {"polish", "a", now, 30}, {"nothing of ours", "a", now, 9},
	}
	got := Last(stock, uses)
	if d := got[0]; d.Item != "disc" || d.Planned != 6 || !d.Out.Equal(now.Add(3*time.Hour)) || !slices.Equal(d.Felt, []string{"b", "c"}) || d.Buy != 15 || d.Cost != 21 || !d.IsLow {
		t.Errorf("%+v", d)
	}
	if p := got[1]; p.Item != "polish" || !p.Out.IsZero() || p.Buy != 30 || math.Abs(p.Cost-1.5) > 1e-9 {
		t.Errorf("%+v", p)
	}
	if p := got[2]; p.Item != "paper" || p.IsLow || p.Buy != 0 || !p.Out.IsZero() {
		t.Errorf("%+v", p)
	}
}

func TestThePaceFollowsWhatWorkTook(t *testing.T) {
	if p := PaceOf(nil); p.Factor != 1 || p.Spread != paceSpread || p.Pieces != 0 {
		t.Errorf("%+v", p)
	}
	r := rand.New(rand.NewPCG(9, 1))
	var all []Took
	for range 60 {
		planned := 10 + 60*r.Float64()
		all = append(all, Took{planned, 1.4 * planned * math.Exp(0.3*r.NormFloat64())})
	}
	if p := PaceOf(all); math.Abs(p.Factor-1.4) > 0.12 || p.Spread > 0.05 || p.Pieces != 60 {
		t.Errorf("%+v", p)
	}
	if p := PaceOf([]Took{{10, 600}, {10, 0.5}, {0, 5}}); p.Factor != 1 || p.Pieces != 0 {
		t.Errorf("slips taught %+v", p)
	}
}
