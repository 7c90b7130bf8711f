package web

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/web/api"
)

func TestEveryStateSaysWhatWhyAndWhatToDo(t *testing.T) {
	st := level.Standing{Film: film.Estimate{Mean: 82, SD: 4}, Clear: film.Estimate{Mean: 28, SD: 5.04}, Headroom: -4, Spend: 9.04}
	for reason, want := range map[film.Reason][]string{
		film.WhyFits:     {"Fits", "9.0 µm"},
		film.WhyChecks:   {"Tight", "readings between passes"},
		film.WhyThin:     {"Shut", "0.0 may go", "More readings"},
		film.WhyBelow:    {"Shut", "28 ± 5.0 µm", "floor 40", "Polish only"},
		film.WhyGateShut: {"Shut", "82 µm", "75"},
		film.WhyGateAsk:  {"Tight", "under 90", "answer for it"},
	} {
		st.Reason = reason
		got := inUnit(stateReason(st, 40), api.Um)
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
	for _, k := range []film.SourceKind{film.FromBefore, film.FromCoats, film.FromShare, film.FromUnknown, film.FromSingle, film.FromDirect, film.FromNeighbours} {
		seen[inUnit(sourceText(film.CoatRatio{}.Of(film.Source{Kind: k, Estimate: film.Estimate{Mean: 66, SD: 10}}), film.History{Coats: 3}), api.Um)] = true
	}
	if len(seen) != 7 || !seen["a guess from 3 coats at 22 ± 4.4 µm a coat"] {
		t.Errorf("%v", seen)
	}
	seen = map[string]bool{}
	for _, c := range []film.FlagCode{film.FlagRefinished, film.FlagRepair, film.FlagFiller, film.FlagThin, film.FlagOdd} {
		seen[flagText(film.Flag{Code: c, Value: 640, Limit: 400})] = true
	}
	if len(seen) != 5 {
		t.Errorf("%v", seen)
	}
}

func TestAdviceSpeaksForEveryCase(t *testing.T) {
	step := plan.Step{Choice: plan.Choice{Passes: 7}}
	for want, a := range map[string]level.Advice{
		"shut here":       {Granted: 0, Needed: 4, Ledger: level.Ledger{Free: 2}},
		"step done":       {Granted: 5, Needed: 0},
		"read first":      {Granted: 5, Needed: 4, Read: 0},
		"not enough film": {Granted: 2, Needed: 4, Read: 1},
		"fits":            {Granted: 9, Needed: 4, Read: 3},
	} {
		headline, reason := advice(a, step)
		if headline != want || reason == "" {
			t.Errorf("%+v: %q, %q; want %q", a, headline, reason, want)
		}
	}
	if _, short := advice(level.Advice{Ledger: level.Ledger{Free: -2}}, step); !strings.Contains(inUnit(short, api.Um), "2.0 µm short") {
		t.Errorf("two µm under the floor: %q", short)
	}
}

func TestNumbersAreRoundedToWhatIsKnown(t *testing.T) {
	for v, want := range map[float64]string{0.04: "0.0", 9.94: "9.9", 9.96: "10", 46.3: "46", -3.21: "-3.2"} {
		if got := inUnit(um(v), api.Um); got != want {
			t.Errorf("%v is written %s, want %s", v, got, want)
		}
	}
	for v, want := range map[float64]string{25.4: "1.00 mil", 46.3: "1.82 mil", 2: "0.079 mil"} {
		if got := inUnit(um(v)+" µm", api.Mil); got != want {
			t.Errorf("%v µm is written %s, want %s", v, got, want)
		}
	}
	odd := inUnit(oddText(6.4, film.Odd{Code: film.OddMil, Expected: film.Estimate{Mean: 162, SD: 9}, Meant: 162.56}), api.Mil)
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

// TestTokensKeepTheirContrast checks the pairs of colours that carry text or
// lines against WCAG AA, in both themes.
func TestTokensKeepTheirContrast(t *testing.T) {
	raw, err := os.ReadFile("../../web/src/theme/tokens.json")
	if err != nil {
		t.Fatal(err)
	}
	var tokens struct {
		Color map[string]map[string]string
		Ramp  map[string]map[string][]string
	}
	if err := json.Unmarshal(raw, &tokens); err != nil {
		t.Fatal(err)
	}
	for _, mode := range []string{"day", "booth"} {
		c := tokens.Color[mode]
		for _, pair := range [][3]any{
			{"ink", "paper", 4.5}, {"ink", "primer", 4.5}, {"ink", "sheet", 4.5}, {"ink2", "paper", 4.5}, {"ink2", "primer", 4.5},
			{"ink3", "primer", 4.5}, {"onTape", "tape", 4.5}, {"onKey", "key", 4.5}, {"onOpen", "open", 4.5}, {"onTight", "tight", 4.5},
			{"onShut", "shut", 4.5}, {"focus", "paper", 3.0}, {"focus", "primer", 3.0}, {"lineStrong", "paper", 3.0}, {"lineStrong", "primer", 3.0},
		} {
			fg, bg := c[pair[0].(string)], c[pair[1].(string)]
			if r := contrast(t, fg, bg); r < pair[2].(float64) {
				t.Errorf("%s: %s on %s has %.2f, needs %v", mode, pair[0], pair[1], r, pair[2])
			}
		}
		ramp := tokens.Ramp[mode]["film"]
		if len(ramp) != 9 {
			t.Fatalf("%s: %d bands", mode, len(ramp))
		}
		for i := 1; i < len(ramp); i++ {
			a, b := luminance(t, ramp[i-1]), luminance(t, ramp[i])
			if mode == "day" && b <= a || mode == "booth" && b >= a {
				t.Errorf("%s: band %d does not keep the order in grey print", mode, i)
			}
		}
	}
}

func luminance(t *testing.T, hex string) float64 {
	t.Helper()
	var r, g, b int
	if _, err := fmt.Sscanf(hex, "#%02x%02x%02x", &r, &g, &b); err != nil {
		t.Fatalf("%q: %v", hex, err)
	}
	lin := func(v int) float64 {
		s := float64(v) / 255
		if s <= 0.03928 {
			return s / 12.92
		}
		return math.Pow((s+0.055)/1.055, 2.4)
	}
	return 0.2126*lin(r) + 0.7152*lin(g) + 0.0722*lin(b)
}

func contrast(t *testing.T, a, b string) float64 {
	x, y := luminance(t, a), luminance(t, b)
	return (math.Max(x, y) + 0.05) / (math.Min(x, y) + 0.05)
}
