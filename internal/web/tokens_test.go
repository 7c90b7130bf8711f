package web

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"testing"
)

// TestTokensKeepTheirContrast checks the pairs of colours that carry text or
// lines against WCAG AA, in both themes.
func TestTokensKeepTheirContrast(t *testing.T) {
	raw, err := os.ReadFile("../../web/src/app/theme/tokens.json")
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
