package wording

import (
	"strings"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
)

// said speaks µm, mil thousandths of an inch, both in UTC.
var (
	said = Words{Unit: refuse.Micron}
	mil  = Words{Unit: refuse.Mil}
)

func TestEveryStateSaysWhatWhyAndWhatToDo(t *testing.T) {
	st := level.Standing{Film: film.Estimate{Mean: 82, SD: 4}, Clear: film.Estimate{Mean: 28, SD: 5.04}, Headroom: -4, Room: 11, Spend: 9.04, Verdict: film.Verdict{Under: 0.26, Through: 0.01}}
	for reason, want := range map[film.Reason][]string{
		film.WhyFits:     {"Fits", "9.0 µm"},
		film.WhyChecks:   {"Tight", "Read between passes", "1 in 4 that less than 40 µm stays"},
		film.WhyThin:     {"Shut", "needs 9.0 µm", "1 in 4 that less than 40 µm stays"},
		film.WhyBelow:    {"Shut", "28 ± 5.0 µm", "already"},
		film.WhyThrough:  {"Shut", "1 in 100 that it goes through"},
		film.WhyCap:      {"Shut", "should lose 11 µm at most"},
		film.WhyGateShut: {"Shut", "82 µm", "75"},
		film.WhyGateAsk:  {"Tight", "under 90", "tell the owner"},
	} {
		st.Reason = reason
		got := said.State(st, 40)
		for _, w := range want {
			if !strings.Contains(got, w) {
				t.Errorf("%s: %q lacks %q", reason, got, w)
			}
		}
		if strings.ContainsAny(got, "!") || !strings.HasSuffix(got, ".") {
			t.Errorf("%s: %q is not in our voice", reason, got)
		}
	}
}

func TestEverySourceAndFlagHasWords(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range []film.SourceKind{film.FromBefore, film.FromCoats, film.FromShare, film.FromUnder, film.FromSingle, film.FromDirect, film.FromNeighbours} {
		seen[said.Source(film.CoatRatio{}.Of(film.Source{Kind: k, Estimate: film.Estimate{Mean: 66, SD: 10}}), film.History{Finish: film.Refinished, Coats: 3})] = true
	}
	if len(seen) != 7 || !seen["a guess from 3 coats at 22 ± 4.4 µm a coat"] {
		t.Errorf("%v", seen)
	}
	seen = map[string]bool{}
	for _, c := range []film.FlagCode{film.FlagRefinished, film.FlagRepair, film.FlagFiller, film.FlagThin, film.FlagOdd} {
		seen[said.Flag(film.Flag{Code: c, Value: 640, Limit: 400, Lower: 300})] = true
	}
	if len(seen) != 5 {
		t.Errorf("%v", seen)
	}
}

func TestAdviceSpeaksForEveryCase(t *testing.T) {
	levels, refines := plan.Step{Choice: plan.Choice{Passes: 7}, Kind: plan.LevelStep, D50: 12}, plan.Step{Choice: plan.Choice{Passes: 3}, Kind: plan.RefineStep, D50: 6}
	for _, c := range []struct {
		head, says string
		a          level.Advice
		st         plan.Step
		through    float64
	}{
		{"no more here", "with more than 1 in 10", level.Advice{Needed: 4, Ledger: level.Ledger{Free: 2, Chance: 0.1}, Room: 3}, levels, 0},
		{"no more here", "this finish should lose", level.Advice{Needed: 4, Ledger: level.Ledger{Free: 2}}, levels, 0},
		{"no more here", "1 in 100 that it goes through", level.Advice{Needed: 4}, levels, 0.01},
		{"shut here", "before the scratch is out", level.Advice{Needed: 2}, refines, 0.01},
		{"step done", "5 passes more can go", level.Advice{Granted: 5}, levels, 0},
		{"step done", "3 passes made", level.Advice{}, refines, 0.01},
		{"read first", "5 passes more", level.Advice{Granted: 5, Needed: 4}, levels, 0},
		{"not enough film", "wants 4 more", level.Advice{Granted: 2, Needed: 4, Read: 1}, levels, 0},
		{"fits", "4 passes to the end", level.Advice{Granted: 9, Needed: 4, Read: 3}, levels, 0},
	} {
		head, reason := said.advice(c.a, c.st, 3, true, c.through)
		if head != c.head || !strings.Contains(strings.ToLower(reason), strings.ToLower(c.says)) {
			t.Errorf("%+v: %q, %q; want %q, %q", c.a, head, reason, c.head, c.says)
		}
	}
}

func TestNumbersAreRoundedToWhatIsKnown(t *testing.T) {
	for v, want := range map[float64]string{0.04: "0.0", 9.94: "9.9", 9.96: "10", 46.3: "46", -3.21: "-3.2"} {
		if got := said.done(um(v)); got != want {
			t.Errorf("%v is written %s, want %s", v, got, want)
		}
	}
	for v, want := range map[float64]string{25.4: "1.00 mil", 46.3: "1.82 mil", 2: "0.079 mil"} {
		if got := mil.done(um(v) + " µm"); got != want {
			t.Errorf("%v µm is written %s, want %s", v, got, want)
		}
	}
	odd := mil.Odd(6.4, film.Odd{Code: film.OddMil, Expected: film.Estimate{Mean: 162, SD: 9}, Meant: 162.56})
	if want := "0.25 mil is far below what this panel reads (6.38 ± 0.35 mil). Probe lifted, or mil instead of µm? As mil it is 6.40 mil."; odd != want {
		t.Errorf("%q, want %q", odd, want)
	}
	for n, want := range map[int]string{0: "0 passes", 1: "1 pass", 3: "3 passes"} {
		if got := count(n, "pass"); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	if got := count(2, "spot"); got != "2 spots" {
		t.Error(got)
	}
}

// Times are the shop's: the same moment is another hour, and another day, elsewhere.
func TestTimesAreInTheShopsZone(t *testing.T) {
	at := time.Date(2031, 5, 3, 23, 30, 0, 0, time.UTC)
	east := Words{Zone: time.FixedZone("east", 2*3600)}
	if got := said.dayTime(at) + ", " + said.clock(at) + ", " + said.day(at); got != "3 May 23:30, 23:30, 3 May 2031" {
		t.Error(got)
	}
	if got := east.dayTime(at) + ", " + east.clock(at) + ", " + east.day(at); got != "4 May 01:30, 01:30, 4 May 2031" {
		t.Error(got)
	}
	if got := east.GaugeCheck(&house.Gauge{Check: &house.GaugeCheck{At: at}}); got != "Checked 4 May 01:30, as it should be." {
		t.Error(got)
	}
}
