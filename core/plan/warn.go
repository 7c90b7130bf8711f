package plan

import (
	"math"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// Warning is what is wrong with a ladder that somebody built: at which step,
// from 1, 0 for the whole, and the values that its sentence needs.
type Warning struct {
	Step   int
	Code   WarnCode
	Values map[string]float64
}

// WarnCode names a warning.
type WarnCode string

// The warnings.
const (
	WarnSkipped WarnCode = "skipped_grit"    // too large a step: scratch remains
	WarnEarly   WarnCode = "stops_early"     // fewer passes than the scratch needs
	WarnReach   WarnCode = "beyond_reach"    // a compound cannot clear that scratch
	WarnCycles  WarnCode = "too_many_cycles" // a compound works a place too often
	WarnCoarser WarnCode = "coarser_again"   // back to a coarser grit
	WarnStart   WarnCode = "too_coarse"      // coarser than may be started with
	WarnLong    WarnCode = "too_many_passes" // a levelling step that wants a coarser grit
	WarnSoft    WarnCode = "too_soft"        // too soft a backing to flatten
	WarnNotFlat WarnCode = "texture_left"    // does not reach the texture asked for
	WarnTooFlat WarnCode = "flatter_than"    // flatter than the panel to match
	WarnHaze    WarnCode = "haze_left"       // the last scratch shows as haze
	WarnGhost   WarnCode = "ghosts"          // old scratch shows under the gloss
	WarnClarity WarnCode = "clarity_short"   // duller than asked for
	WarnNibs    WarnCode = "nibs_first"      // nibs left before a machine
)

// seen is what the search and the model may differ by.
const seen = 1.02

// warn looks over a ladder.
func (j Job) warn(l Ladder) []Warning {
	var out []Warning
	law := j.Shelf.Law
	add := func(step int, code WarnCode, values map[string]float64) {
		out = append(out, Warning{step, code, values})
	}
	for i, s := range l.Steps {
		v := map[string]float64{"scratch": s.Buries, "leaves": s.Scratch, "passes": float64(s.Passes), "needs": float64(s.Needs)}
		if i == 0 {
			j.warnFirst(s, l.End(), add)
		}
		before := s.Before.Scratch
		if i == 0 && s.D50 > 0 {
			continue
		}
		showing := surface.StillShowing(s.Film+surface.Void*(before-s.Scratch), before)
		v["showing"] = showing
		switch {
		case s.Scratch > before*(1+1e-9) && before > 0:
			add(i+1, WarnCoarser, v)
		case s.D50 == 0 && before > law.Reach*s.Scratch*(1+1e-9):
			v["reach"] = law.Reach * s.Scratch
			add(i+1, WarnReach, v)
		case s.D50 > 0 && before/s.Scratch > law.ScratchMost+1e-9:
			v["most"] = law.ScratchMost * s.Scratch
			add(i+1, WarnSkipped, v)
		case s.Passes < s.Needs:
			add(i+1, WarnEarly, v)
		}
		if s.D50 == 0 && s.Passes > int(law.CyclesMost) {
			v["most"] = law.CyclesMost
			add(i+1, WarnCycles, v)
		}
	}
	return append(out, j.warnEnd(l)...)
}

func (j Job) warnFirst(s Step, end surface.Surface, add func(int, WarnCode, map[string]float64)) {
	law := j.Shelf.Law
	if s.D50 == 0 || s.Kind == FileStep {
		return
	}
	coarsest := law.CoarsestClear
	if j.Single {
		coarsest = law.CoarsestSingle
	}
	if s.D50 > coarsest {
		add(1, WarnStart, map[string]float64{"d50": s.D50, "most": coarsest, "leaves": s.Scratch})
	}
	if s.Passes > int(law.LevelMost) {
		add(1, WarnLong, map[string]float64{"passes": float64(s.Passes), "most": law.LevelMost})
	}
	if high := j.target().high; j.aim().Levels() && s.After.SqLong() > high && end.SqLong() > high*seen && !s.Piece.Flattens() {
		add(1, WarnSoft, map[string]float64{"grade": s.After.Grade(), "before": s.Before.Grade(), "film": s.Film})
	}
	if j.Nibs > 0 && s.Tool != shelf.Hand {
		add(1, WarnNibs, map[string]float64{"nibs": float64(j.Nibs)})
	}
}

func (j Job) warnEnd(l Ladder) []Warning {
	var out []Warning
	t, end := j.target(), l.End()
	grade := map[string]float64{"grade": end.Grade(), "low": surface.PeelGrade(t.low), "clarity": end.Clarity(), "want": t.clarity,
		"haze": t.scratch, "leaves": end.Scratch, "showing": end.Showing, "last": end.Last, "ghost": j.Colour.Ghost(j.Shelf.Law)}
	if !math.IsInf(t.high, 1) {
		grade["high"] = surface.PeelGrade(t.high)
	}
	add := func(when bool, code WarnCode) {
		if when {
			out = append(out, Warning{0, code, grade})
		}
	}
	add(end.SqLong() > t.high*seen, WarnNotFlat)
	add(end.SqLong() < t.low/seen, WarnTooFlat)
	add(end.Scratch > t.scratch*(1+1e-9), WarnHaze)
	add(end.Scratch <= t.scratch*(1+1e-9) && end.Last > t.scratch && end.Showing > grade["ghost"], WarnGhost)
	add(end.Scratch <= t.scratch && end.Clarity() < t.clarity/seen, WarnClarity)
	return out
}
