package care

import (
	"math"
	"slices"
	"testing"
	"time"
)

var noon = time.Date(2026, 3, 2, 12, 0, 0, 0, time.UTC)

func ago(hours float64) *time.Time {
	t := noon.Add(-time.Duration(hours * float64(time.Hour)))
	return &t
}

func TestFreshPaintWaitsAndOldPaintDoesNot(t *testing.T) {
	week := 7.0
	for name, c := range map[string]struct {
		panel  Panel
		sealed *time.Time
		sheet  Sheet
		want   map[Kind]float64 // hours from now
	}{
		"old paint":           {panel: Panel{Name: "roof"}, want: map[Kind]float64{}},
		"old paint, waxed":    {panel: Panel{Name: "roof"}, sealed: ago(2), want: map[Kind]float64{Dry: 70}},
		"fresh, by air":       {panel: Panel{"door", true, ago(24), false}, want: map[Kind]float64{Dry: 24, Wash: 13 * 24, Breathe: 41 * 24}},
		"fresh, baked":        {panel: Panel{"door", true, ago(24), true}, want: map[Kind]float64{Wash: 13 * 24, Breathe: 20 * 24}},
		"the sheet says less": {panel: Panel{"door", true, ago(24), false}, sheet: Sheet{Breathe: &week}, want: map[Kind]float64{Dry: 24, Wash: 13 * 24, Breathe: 6 * 24}},
		"long dry":            {panel: Panel{"door", true, ago(24 * 400), false}, want: map[Kind]float64{}},
	} {
		got := Waits([]Panel{c.panel}, c.sealed, Usual, c.sheet, noon)
		if len(got) != len(c.want) {
			t.Errorf("%s: %+v", name, got)
		}
		for _, w := range got {
			if h, ok := c.want[w.Kind]; !ok || math.Abs(w.Until.Sub(noon).Hours()-h) > 1e-9 {
				t.Errorf("%s: %s after %.1f h, want %.1f", name, w.Kind, w.Until.Sub(noon).Hours(), h)
			}
			if w.Sheet != (w.Kind == Breathe && c.sheet.Breathe != nil) {
				t.Errorf("%s: %s by the sheet: %v", name, w.Kind, w.Sheet)
			}
		}
	}
}

// Whatever is known, no wait is over yet, each kind stands in its order, and one that comes from
// a longer rule ends no sooner.
func TestWaitsAreAhead(t *testing.T) {
	panels := []Panel{{"a", true, ago(3), false}, {"b", true, ago(30), true}, {"c", true, nil, false}, {"d", false, nil, false}, {"e", true, ago(3), false}}
	last := map[Kind]time.Time{}
	for _, times := range []float64{0.5, 1, 2} {
		r := Rule{Usual.SealedDry * times, Usual.AirDry * times, Usual.BakedDry * times, Usual.FirstWash * times, Usual.AirBreathe * times, Usual.BakedBreathe * times}
		all := Waits(panels, ago(1), r, Sheet{}, noon)
		if !slices.IsSortedFunc(all, func(a, b Wait) int {
			return slices.Index([]Kind{Dry, Wash, Breathe}, a.Kind) - slices.Index([]Kind{Dry, Wash, Breathe}, b.Kind)
		}) {
			t.Errorf("%+v", all)
		}
		for _, w := range all {
			unknown := slices.Equal(w.Panels, []string{"c"})
			if unknown != w.Until.IsZero() || !unknown && !w.Until.After(noon) {
				t.Errorf("%+v", w)
			}
			if slices.Contains(w.Panels, "a") && !w.Sealed {
				if !slices.Equal(w.Panels, []string{"a", "e"}) || w.Until.Before(last[w.Kind]) {
					t.Errorf("%+v after %v", w, last[w.Kind])
				}
				last[w.Kind] = w.Until
			}
		}
		if !TooSoon(all, ago(1)) || TooSoon(all, nil) {
			t.Error("wax on fresh paint is not seen, or without any is")
		}
	}
}

func TestRulesAndSheetsHaveBounds(t *testing.T) {
	if err := Usual.Check(); err != nil {
		t.Error(err)
	}
	for _, bad := range []float64{-1, math.NaN(), math.Inf(1), 1e6} {
		r := Usual
		r.AirBreathe = bad
		if r.Check() == nil || (Sheet{Dry: &bad}).Check() == nil {
			t.Errorf("%v is let through", bad)
		}
	}
	for _, c := range []struct {
		room, each float64
		want       int
	}{{0, 1, 0}, {-3, 1, 0}, {8.9, 1, 8}, {3, 0.7, 4}, {3, 0, 0}} {
		if got := Polishes(c.room, c.each); got != c.want {
			t.Errorf("%+v gives %d", c, got)
		}
	}
}
