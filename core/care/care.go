// Package care says how long an owner has to be careful with paint that was worked on: until
// when it is kept dry, when it may be washed, and how long fresh paint has to breathe before it
// is sealed. The paint maker's sheet comes first, then the shop's rule.
package care

import (
	"cmp"
	"fmt"
	"slices"
	"time"
)

// Rule are the shop's usual times. Those of fresh paint count from the day it was sprayed, that
// of a sealed panel from when it was sealed.
type Rule struct {
	SealedDry  float64 `json:"sealed_dry_h"` // hours that wax or a coating is kept dry
	AirDry     float64 `json:"air_dry_h"`    // hours that fresh paint dried by air is kept dry
	BakedDry   float64 `json:"baked_dry_h"`
	FirstWash  float64 `json:"first_wash_d"` // days before fresh paint is washed
	AirBreathe float64 `json:"air_breathe_d"`
	// BakedBreathe and AirBreathe are the days before fresh paint is sealed.
	BakedBreathe float64 `json:"baked_breathe_d"`
}

// Usual is what holds where a shop says nothing else (judgement; practice keeps a sealed panel
// dry for two to three days, and has fresh paint breathe for weeks).
var Usual = Rule{SealedDry: 72, AirDry: 48, BakedDry: 12, FirstWash: 14, AirBreathe: 42, BakedBreathe: 21}

// The most that a rule or a sheet may say.
const (
	mostHours = 24 * 30
	mostDays  = 365
)

// Check says which time of a rule is none.
func (r Rule) Check() error {
	for _, t := range []struct {
		name       string
		value, top float64
		unit       string
	}{
		{"sealed_dry_h", r.SealedDry, mostHours, "hours"}, {"air_dry_h", r.AirDry, mostHours, "hours"}, {"baked_dry_h", r.BakedDry, mostHours, "hours"},
		{"first_wash_d", r.FirstWash, mostDays, "days"}, {"air_breathe_d", r.AirBreathe, mostDays, "days"}, {"baked_breathe_d", r.BakedBreathe, mostDays, "days"},
	} {
		if !(t.value >= 0 && t.value <= t.top) {
			return fmt.Errorf("%s goes from 0 to %.0f %s", t.name, t.top, t.unit)
		}
	}
	return nil
}

// Sheet is what the paint maker's sheet says; a nil time leaves it to the rule.
type Sheet struct {
	Name    string   `json:"name,omitempty"`
	Dry     *float64 `json:"dry_h,omitempty"`
	Wash    *float64 `json:"wash_d,omitempty"`
	Breathe *float64 `json:"breathe_d,omitempty"`
}

// Check says which time of a sheet is none.
func (s Sheet) Check() error {
	for _, t := range []struct {
		name  string
		value *float64
		top   float64
		unit  string
	}{{"dry_h", s.Dry, mostHours, "hours"}, {"wash_d", s.Wash, mostDays, "days"}, {"breathe_d", s.Breathe, mostDays, "days"}} {
		if t.value != nil && !(*t.value >= 0 && *t.value <= t.top) {
			return fmt.Errorf("%s goes from 0 to %.0f %s", t.name, t.top, t.unit)
		}
	}
	return nil
}

// Panel is what is known of a panel: whether its paint is fresh, when it was sprayed (nil where
// nobody knows), and whether it was baked.
type Panel struct {
	Name    string
	Fresh   bool
	Sprayed *time.Time
	Baked   bool
}

// Kind is what has to wait.
type Kind string

// What waits.
const (
	Dry     Kind = "dry"     // rain, dew, the hose
	Wash    Kind = "wash"    // the first wash
	Breathe Kind = "breathe" // wax, a coating, film, a cover
)

// Wait is something that has to wait on some panels until a moment. Until is zero where nobody
// knows when they were sprayed; Sheet says that the maker's sheet gave it, and Sealed that it
// is because they were sealed.
type Wait struct {
	Kind   Kind
	Panels []string
	Until  time.Time
	Sheet  bool
	Sealed bool
}

// Waits are what has to wait after now, each kind's longest last. sealed is when the panels were
// waxed or coated, nil for not at all.
func Waits(panels []Panel, sealed *time.Time, rule Rule, sheet Sheet, now time.Time) []Wait {
	var out []Wait
	add := func(w Wait, name string) {
		if !w.Until.IsZero() && !w.Until.After(now) {
			return
		}
		i := slices.IndexFunc(out, func(o Wait) bool {
			return o.Kind == w.Kind && o.Until.Equal(w.Until) && o.Sheet == w.Sheet && o.Sealed == w.Sealed
		})
		if i < 0 {
			out = append(out, w)
			i = len(out) - 1
		}
		out[i].Panels = append(out[i].Panels, name)
	}
	for _, p := range panels {
		if sealed != nil {
			add(Wait{Kind: Dry, Until: after(sealed, rule.SealedDry), Sealed: true}, p.Name)
		}
		if !p.Fresh {
			continue
		}
		dry, breathe := rule.AirDry, rule.AirBreathe
		if p.Baked {
			dry, breathe = rule.BakedDry, rule.BakedBreathe
		}
		for _, t := range []struct {
			kind  Kind
			hours float64
			says  *float64
			per   float64
		}{{Dry, dry, sheet.Dry, 1}, {Wash, 24 * rule.FirstWash, sheet.Wash, 24}, {Breathe, 24 * breathe, sheet.Breathe, 24}} {
			w := Wait{Kind: t.kind, Sheet: t.says != nil}
			hours := t.hours
			if t.says != nil {
				hours = *t.says * t.per
			}
			if hours == 0 {
				continue
			}
			if p.Sprayed != nil {
				w.Until = after(p.Sprayed, hours)
			}
			add(w, p.Name)
		}
	}
	order := []Kind{Dry, Wash, Breathe}
	slices.SortStableFunc(out, func(a, b Wait) int {
		return cmp.Or(cmp.Compare(slices.Index(order, a.Kind), slices.Index(order, b.Kind)), a.Until.Compare(b.Until))
	})
	return out
}

func after(t *time.Time, hours float64) time.Time {
	return t.Add(time.Duration(hours * float64(time.Hour)))
}

// TooSoon says whether panels were sealed before their paint may be.
func TooSoon(waits []Wait, sealed *time.Time) bool {
	return sealed != nil && slices.ContainsFunc(waits, func(w Wait) bool { return w.Kind == Breathe && (w.Until.IsZero() || w.Until.After(*sealed)) })
}

// Polishes is how often a film may be polished again lightly before it comes to where nothing
// may go, when so much of it may go (µm) and a light polish takes so much.
func Polishes(mayGo, each float64) int {
	if mayGo <= 0 || each <= 0 {
		return 0
	}
	return int(mayGo / each)
}

// SandFrom is the film in µm without which nothing is sanded: what the mildest levelling with
// its refining takes (judgement).
const SandFrom = 4.0
