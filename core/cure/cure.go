// Package cure says when fresh paint may be sanded, polished and sealed, until when it cuts
// well and until when it is kept dry: from its film, how it was dried and how warm it was
// since. What the paint maker's sheet says comes first; a film thicker than the sheet is
// meant for, as a run is, takes longer all the same.
package cure

import (
	"fmt"
	"math"
	"strings"
	"time"

	"waxplanus/core/care"
)

// Law is how film hardens through by itself: Hours at a film of FilmUM µm and 20 °C, with the
// square of the film (diffusion), halved by every 10 °C more.
type Law struct{ Hours, FilmUM float64 }

// Usual is two-pack clear (judgement).
var Usual = Law{24, 50}

// Longest is the longest wait that is asked for, in hours.
const Longest = 21 * 24.0

// Warmths of the law, °C: what its hours hold for, and how warm a panel is baked (judgement).
const (
	Reference = 20.0
	BakedAt   = 60.0
)

// thick is how many times as long a film of um µm takes as the law's.
func (l Law) thick(um float64) float64 { return math.Max(1, (um/l.FilmUM)*(um/l.FilmUM)) }

// Speed is how many times as fast paint hardens at a temperature in °C as at 20.
func Speed(celsius float64) float64 { return math.Pow(2, (celsius-Reference)/10) }

// Wait is how many hours a film of um µm needs at a temperature in °C before it may be cut.
func (l Law) Wait(um, celsius float64) float64 { return l.Hours * l.thick(um) / Speed(celsius) }

// Days until fresh paint gets too hard to cut well, dried by air and baked (judgement).
const (
	hardAir   = 14.0
	hardBaked = 7.0
)

// Doubts of a wait as spreads of its logarithm: of the law, and of a maker's sheet
// (judgement). A time is told with the middle 80 %.
const (
	lawSpread   = 0.25
	sheetSpread = 0.10
	middle      = 1.2816
)

// Paint is what the maker's sheet of a clear or colour says; nil where it says nothing.
type Paint struct {
	Name        string   `json:"name"`
	Colour      bool     `json:"colour,omitempty"`  // single stage, not a clear
	CoatUM      float64  `json:"coat_um,omitempty"` // dry film a coat
	Coats       int      `json:"coats,omitempty"`   // that its times are meant for
	SandAir     *float64 `json:"sand_air_h,omitempty"`
	SandBaked   *float64 `json:"sand_baked_h,omitempty"`
	CutsWell    *float64 `json:"cuts_well_d,omitempty"` // days until it is too hard to cut well
	PolishAir   *float64 `json:"polish_air_h,omitempty"`
	PolishBaked *float64 `json:"polish_baked_h,omitempty"`
	Seal        *float64 `json:"seal_d,omitempty"`
	Dry         *float64 `json:"dry_h,omitempty"`
}

// usualCoats is what a sheet is meant for where it does not say.
const usualCoats = 2

// most is the longest name of a paint.
const mostName = 60

// Check says what of a sheet does not make sense.
func (p Paint) Check() error {
	if n := len([]rune(strings.TrimSpace(p.Name))); n == 0 || n > mostName {
		return fmt.Errorf("a paint has a name of 1 to %d letters", mostName)
	}
	if p.CoatUM != 0 && !(p.CoatUM >= 5 && p.CoatUM <= 80) {
		return fmt.Errorf("coat_um goes from 5 to 80 µm of dry film a coat")
	}
	if p.Coats < 0 || p.Coats > 6 {
		return fmt.Errorf("coats goes from 1 to 6, or 0 where the sheet does not say")
	}
	for _, t := range []struct {
		name        string
		value       *float64
		least, most float64
		unit        string
	}{
		{"sand_air_h", p.SandAir, 0.5, Longest, "hours"}, {"sand_baked_h", p.SandBaked, 0.25, Longest, "hours"}, {"cuts_well_d", p.CutsWell, 0.5, 365, "days"},
		{"polish_air_h", p.PolishAir, 0.5, Longest, "hours"}, {"polish_baked_h", p.PolishBaked, 0.25, Longest, "hours"}, {"seal_d", p.Seal, 0, 365, "days"}, {"dry_h", p.Dry, 0, 720, "hours"},
	} {
		if t.value != nil && !(*t.value >= t.least && *t.value <= t.most) {
			return fmt.Errorf("%s goes from %v to %.0f %s", t.name, t.least, t.most, t.unit)
		}
	}
	for _, t := range []struct {
		name         string
		sand, polish *float64
	}{{"air", p.SandAir, p.PolishAir}, {"baked", p.SandBaked, p.PolishBaked}} {
		if t.sand != nil && t.polish != nil && *t.polish < *t.sand {
			return fmt.Errorf("polish_%s_h comes before sand_%s_h: what is too soft to sand is too soft to polish", t.name, t.name)
		}
	}
	if p.CutsWell != nil && p.SandAir != nil && 24**p.CutsWell <= *p.SandAir {
		return fmt.Errorf("cuts_well_d ends before sand_air_h: it would never cut well")
	}
	return nil
}

// Care is what the sheet says of keeping dry and sealing.
func (p *Paint) Care() care.Sheet {
	if p == nil {
		return care.Sheet{}
	}
	return care.Sheet{Name: p.Name, Dry: p.Dry, Breathe: p.Seal}
}

// Climate is how warm it is in the shop, °C: as usual, and on days (2006-01-02) that were or
// will be other.
type Climate struct {
	Usual float64            `json:"usual_c"`
	Days  map[string]float64 `json:"days,omitempty"`
}

// UsualClimate is a heated shop.
var UsualClimate = Climate{Usual: Reference}

// Warmths that a shop may say, °C.
const (
	Coldest = -20.0
	Hottest = 50.0
)

// Day names the day of a moment.
func Day(t time.Time) string { return t.Format(time.DateOnly) }

// At is how warm it is on the day of a moment.
func (c Climate) At(t time.Time) float64 {
	if v, ok := c.Days[Day(t)]; ok {
		return v
	}
	return c.Usual
}

// Ripe is when paint that lies in the shop from a moment on has hardened as much as in so
// many hours at 20 °C.
func (c Climate) Ripe(from time.Time, hours float64) time.Time {
	at := from
	for left := hours; left > 0; {
		y, m, d := at.Date()
		night := time.Date(y, m, d+1, 0, 0, 0, 0, at.Location())
		speed := Speed(c.At(at))
		if today := night.Sub(at).Hours() * speed; today < left {
			at, left = night, left-today
			continue
		}
		return at.Add(time.Duration(left / speed * float64(time.Hour)))
	}
	return at
}

// Spray is how paint was put on: when (zero where nobody knows), how thick it lies as it was
// sprayed (µm, 0 where nobody knows), and whether it was baked.
type Spray struct {
	At    time.Time
	Film  float64
	Baked bool
	Paint *Paint // nil where nobody knows its sheet
}

// Window is from when something may be done: most likely, and the middle 80 % of the doubt.
// All are zero where nobody knows when it was sprayed. Sheet says that the maker's sheet
// gave the time, Thick that the film is thicker than it is meant for and takes longer.
type Window struct {
	From, Early, Late time.Time
	Sheet, Thick      bool
}

// Waits says whether it has to wait at a moment.
func (w Window) Waits(now time.Time) bool { return w.From.After(now) }

// Times are those of one spraying.
type Times struct {
	Sand, Polish Window
	CutsWell     time.Time // until when it cuts well
	HardBySheet  bool
}

// Of are the times of a spraying in a climate.
func Of(s Spray, c Climate) Times {
	if s.At.IsZero() {
		return Times{}
	}
	var p Paint
	if s.Paint != nil {
		p = *s.Paint
	}
	sand, polish, hard := p.SandAir, p.PolishAir, hardAir
	if s.Baked {
		sand, polish, hard = p.SandBaked, p.PolishBaked, hardBaked
	}
	out := Times{Sand: s.window(sand, c)}
	if polish == nil {
		polish = sand
	}
	if out.Polish = s.window(polish, c); out.Polish.From.Before(out.Sand.From) {
		out.Polish = out.Sand
	}
	if p.CutsWell != nil {
		hard, out.HardBySheet = *p.CutsWell, true
	}
	out.CutsWell = s.At.Add(time.Duration(24 * hard * float64(time.Hour)))
	if out.CutsWell.Before(out.Sand.From) { // a run that hardens for weeks cuts well then
		out.CutsWell = out.Sand.From
	}
	return out
}

// window is the wait by the sheet's hours, or by the law where it says none. A thick film
// takes longer than either.
func (s Spray) window(says *float64, c Climate) Window {
	law := Usual
	hours, spread := law.Hours, lawSpread
	if s.Baked {
		hours = law.Hours / Speed(BakedAt)
	}
	w := Window{Sheet: says != nil}
	if says != nil {
		hours, spread = *says, sheetSpread
		if s.Paint.CoatUM > 0 {
			coats := s.Paint.Coats
			if coats == 0 {
				coats = usualCoats
			}
			law.FilmUM = math.Max(law.FilmUM, float64(coats)*s.Paint.CoatUM)
		}
	}
	more := law.thick(s.Film)
	w.Thick = more > 1.05
	end := func(h float64) time.Time { return c.Ripe(s.At, math.Min(h, Longest)) }
	if s.Baked { // the bake gives the warmth, whatever the shop's
		end = func(h float64) time.Time {
			return s.At.Add(time.Duration(math.Min(h, Longest) * float64(time.Hour)))
		}
	}
	hours *= more
	w.From, w.Early, w.Late = end(hours), end(hours*math.Exp(-middle*spread)), end(hours*math.Exp(middle*spread))
	return w
}
