package marks

import (
	"math"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/plan"
)

// Place is what is known of the film where a mark lies. Known is false before
// any reading; then the rest is empty.
type Place struct {
	Known    bool
	Total    film.Estimate // µm
	Clear    film.Estimate // µm, now
	Sprayed  float64       // clear before any pass, µm
	Headroom float64       // of this place at the policy's risk, µm
	Floor    float64
}

// Work is what is planned for the panel that a mark lies on.
type Work struct {
	Aim       plan.Aim
	Colour    plan.Colour
	Fits      bool    // the levelling of the panel fits its film here
	Levelled  float64 // what levelling takes off every place before the pads, µm
	PanelFilm float64 // crest film that the panel's own steps still take, µm
	Spot      plan.Spot
	Spray     cure.Spray // its film is that of the mark's place
	Climate   cure.Climate
	Clear     float64 // clear on the panel, µm, for the cure; 0 unknown
	Now       time.Time
}

// Do is what will be done about a mark.
type Do string

// What may be done.
const (
	DoSpot    Do = "spot"        // filed with a small block, then finer there
	DoShave   Do = "shave_block" // shaved with a blade, then blocked
	DoPanel   Do = "panel"       // goes with the levelling of the panel
	DoClear   Do = "clears"      // worked out at its place
	DoSoften  Do = "softens"     // made shallower; the rest stays
	DoLeave   Do = "leaves"      // left, and the owner is told
	DoPolish  Do = "polish"      // a fine polish takes it
	DoKeepOff Do = "keep_off"    // taped, nothing is cut
	DoRespray Do = "respray"     // only new clear helps
	DoRead    Do = "read"        // the film has to be read first
)

// Tell says whether the owner has to hear of it beforehand.
func (d Do) Tell() bool { return d == DoSoften || d == DoLeave || d == DoRespray }

// Why is the reason of a verdict, as a code.
type Why string

// The reasons.
const (
	WhyProud     Why = "proud"       // stands above, cut before any machine
	WhyNoSanding Why = "no_sanding"  // the aim takes nothing off
	WhyNoFilm    Why = "no_film"     // the film does not allow its spot
	WhyUnread    Why = "unread"      // film not read here
	WhySoft      Why = "soft_inside" // thick film, not hard yet
	WhyDeep      Why = "deep"        // deeper than may be spent
	WhyPartly    Why = "partly"      // some of its depth may be spent
	WhyWithin    Why = "within"      // its depth fits the headroom
	WhyLevelled  Why = "levelled"    // the levelling takes more than its depth
	WhyTexture   Why = "texture"     // texture goes with the panel
	WhyTextStays Why = "texture_stays"
	WhyShallow   Why = "shallow" // within a fine polish
	WhyGate      Why = "gate"    // total film at or under the line for sanding
	WhyColour    Why = "colour"  // down to the colour, or through
	WhyThinEdge  Why = "thin_edge"
)

// Verdict is what will be done about a mark and why. Film is what it takes at
// the place beyond the panel's own steps, Seconds its own time without the
// polishing that spots share. Left is the share of a depth that stays, 0 to 1.
type Verdict struct {
	Do      Do
	Why     Why
	Relief  film.Estimate // height or depth, µm
	Film    float64
	Seconds float64
	Left    float64
	Need    float64   // film that would clear it, µm
	Room    float64   // what of the headroom is left to it, µm
	Rest    float64   // height in µm to shave a run to
	Ready   time.Time // when it is hard enough to be cut, zero for now
}

// Took is the film in µm that a mark is taken to have cost at its place once it
// is gone, or softened: what was advised, or what it needs where the painter did
// more than that.
func (v Verdict) Took(gone bool) float64 {
	switch {
	case v.Do == DoPanel || v.Do == DoKeepOff || v.Do == DoRespray:
		return 0
	case gone:
		return math.Max(v.Film, v.Need)
	case v.Film > 0:
		return v.Film
	}
	return v.Need / 2
}

// Thresholds of the verdict on marks below the surface (judgement).
const (
	sureEnough = 0.80 // chance that the depth fits from which it is said to clear
	worthwhile = 0.35 // share of the depth from which softening is worth its film
	// shoulderMost is the most that blocking a run may take beside it, µm.
	shoulderMost = 1.0
)

var normal = distuv.UnitNormal

// Judge says what will be done about a mark. Proud marks are cut at their place,
// texture goes with the panel, and the depth of marks below the surface is held
// against what may be spent there.
func Judge(m Mark, p Place, w Work) Verdict {
	v := Verdict{Relief: m.Relief()}
	gate := p.Known && p.Total.Mean <= film.GateShut
	switch {
	case m.Kind == Through || m.Class == Colour:
		v.Do, v.Why, v.Left = DoRespray, WhyColour, 1
	case m.Kind == ThinEdge:
		v.Do, v.Why = DoKeepOff, WhyThinEdge
	case m.Kind == Overspray || m.Kind == Dull:
		v.Do, v.Why, v.Film = DoPolish, WhyShallow, film.FinePolish
		if p.Known && p.Headroom < film.FinePolish && p.Clear.Mean < p.Floor {
			v.Do, v.Why, v.Film, v.Left = DoLeave, WhyNoFilm, 0, 1
		}
	case m.Kind == Peel:
		v.texture(p, w)
	case w.Aim == plan.PolishOnly && m.Kind.Proud():
		v.Do, v.Why, v.Left = DoLeave, WhyNoSanding, 1
	case gate:
		v.Do, v.Why, v.Left = DoLeave, WhyGate, 1
	case m.Kind.Proud():
		v.proud(m, p, w)
	default:
		v.below(p, w)
	}
	return v
}

func (v *Verdict) texture(p Place, w Work) {
	switch {
	case !w.Aim.Levels():
		v.Do, v.Why, v.Left = DoLeave, WhyTextStays, 1
	case !p.Known:
		v.Do, v.Why = DoRead, WhyUnread
	case !w.Fits:
		v.Do, v.Why, v.Left = DoLeave, WhyNoFilm, 1
	default:
		v.Do, v.Why = DoPanel, WhyTexture
	}
}

// level says whether the panel's own steps go over the place of a mark.
func (w Work) level() bool { return w.Aim.Levels() && w.Fits }

// own is what the finish of a spot takes beyond the panel's own steps, and what
// of a headroom is left to it, µm. While the whole panel is wanted level its
// steps take their film here too; where they fit they finish the spot as well.
func (w Work) own(headroom float64) (finish, room float64) {
	finish, room = w.Spot.Film-plan.FiledRest, headroom
	if w.Aim.Levels() {
		room -= w.PanelFilm
	}
	if w.level() {
		finish = 0
	}
	return finish, room
}

func (v *Verdict) proud(m Mark, p Place, w Work) {
	finish, room := w.own(p.Headroom)
	v.Film, v.Room = plan.FiledRest+finish, room
	if m.Kind == Nib {
		v.Do, v.Why, v.Seconds = DoSpot, WhyProud, UsualSpots.Each
	} else {
		// No block works without costing its shoulders peakOffset at least.
		budget := shoulderMost
		if p.Known {
			budget = math.Max(math.Min(budget, room-v.Film), peakOffset)
		}
		v.Rest = math.Min(ShaveTo(budget, m.Width, RunBlock, RunStroke), v.Relief.Mean)
		v.Film += budget
		v.Do, v.Why = DoShave, WhyProud
		v.Seconds = UsualBlade.ShaveTime(v.Relief.Mean, m.Length, v.Rest) + UsualSpots.Each
		v.wait(p, w)
	}
	if p.Known && room < v.Film {
		v.Do, v.Why, v.Seconds, v.Left, v.Rest, v.Ready = DoLeave, WhyNoFilm, 0, 1, 0, time.Time{}
		v.Need, v.Film = v.Film, 0
	}
}

// wait says from when a run is hard: clear as it was sprayed and crest together
// cure with the square of their film.
func (v *Verdict) wait(p Place, w Work) {
	spray := w.Spray
	spray.Film = w.Clear + v.Relief.Mean
	if p.Known {
		spray.Film = p.Sprayed + v.Relief.Mean
	}
	if sand := cure.Of(spray, w.Climate).Sand; sand.Waits(w.Now) {
		v.Ready, v.Why = sand.From, WhySoft
	}
}

func (v *Verdict) below(p Place, w Work) {
	d := v.Relief
	finish, room := w.own(p.Headroom)
	v.Room = room
	goes := 0.0 // of its depth, with the panel
	if w.level() {
		goes = w.Levelled
	}
	v.Need = math.Max(0, d.Mean-goes) + finish
	switch {
	case d.Mean <= film.FinePolish:
		v.Do, v.Why, v.Film = DoPolish, WhyShallow, film.FinePolish
	case !p.Known:
		v.Do, v.Why = DoRead, WhyUnread
	case goes > 0 && chance(d, goes) >= sureEnough:
		v.Do, v.Why, v.Need = DoPanel, WhyLevelled, 0
	case w.Aim == plan.PolishOnly:
		v.Left = math.Max(0, 1-film.FinePolish/d.Mean)
		v.Do, v.Why, v.Film = DoSoften, WhyNoSanding, film.FinePolish
	case chance(d, room-finish+goes) >= sureEnough:
		v.Do, v.Why, v.Film, v.Seconds = DoClear, WhyWithin, v.Need, UsualSpots.Each
	case room-finish+goes >= worthwhile*d.Mean && room > finish:
		v.Left = math.Max(0, 1-(room-finish+goes)/d.Mean)
		v.Do, v.Why, v.Film, v.Seconds = DoSoften, WhyPartly, math.Min(room, v.Need), UsualSpots.Each
	default:
		v.Do, v.Why, v.Left = DoLeave, WhyDeep, 1
	}
}

// chance is how likely a depth is no more than room.
func chance(d film.Estimate, room float64) float64 {
	if d.SD == 0 {
		if d.Mean <= room {
			return 1
		}
		return 0
	}
	return normal.CDF((room - d.Mean) / d.SD)
}

// At is what may be spent at one place: its total and clear (µm) by the film
// map, less what passes have taken there.
func At(policy film.Policy, total, clear, gone film.Estimate) Place {
	now := film.Estimate{Mean: clear.Mean - gone.Mean, SD: math.Hypot(clear.SD, gone.SD)}
	room := policy.SpotRoom(film.NormalLeast(now))
	return Place{
		Known: true, Floor: policy.Floor, Clear: now, Sprayed: clear.Mean,
		Total:    film.Estimate{Mean: total.Mean - gone.Mean, SD: math.Hypot(total.SD, gone.SD)},
		Headroom: math.Min(room, policy.Cap(clear.Mean)-gone.Mean),
	}
}

// AtItsPlace says whether a proud mark is cut at its place, before any machine.
func (d Do) AtItsPlace() bool { return d == DoShave || d == DoSpot }
