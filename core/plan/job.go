// Package plan makes the sequence of grits for a panel: level, refine, refine,
// compound, polish, each with its passes, film and minutes. It searches all
// sensible sequences over a shelf on a few heights of the surface, and works the
// ones that are shown through the quantile model of package surface.
//
// Film is crest film in µm, what a gauge loses; removal is mean removal in µm.
package plan

import (
	"fmt"
	"math"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// Aim is what is wanted of a panel.
type Aim string

// The aims.
const (
	NibsOnly   Aim = "nibs"
	Match      Aim = "match"
	Flat       Aim = "flat"
	PolishOnly Aim = "polish"
	// Scratches is to take isolated scratches out and keep the texture.
	Scratches Aim = "scratches"
)

// Levels says whether an aim takes the texture of the whole panel down.
func (a Aim) Levels() bool { return a == Match || a == Flat }

// SpotsOnly says whether an aim cuts spots alone, less than a twentieth of the area.
func (a Aim) SpotsOnly() bool { return a == NibsOnly || a == Scratches }

// Colour is how much of haze and scratch a colour shows.
type Colour string

// The colours.
const (
	Light  Colour = "light"
	Medium Colour = "medium"
	Dark   Colour = "dark"
)

// of picks the value of a colour.
func (c Colour) of(light, medium, dark float64) float64 {
	switch c {
	case Light:
		return light
	case Dark:
		return dark
	}
	return medium
}

// Haze is the depth of scratch in µm above which the colour shows haze.
func (c Colour) Haze(l shelf.Law) float64 { return c.of(l.HazeLight, l.HazeMedium, l.HazeDark) }

// deep is how much deeper than usual the scratches are that must go.
func (c Colour) deep(l shelf.Law) float64 { return c.of(l.DeepLight, l.DeepMedium, l.DeepDark) }

// Ghost is the share of old scratch, 0 to 1, above which the colour shows it.
func (c Colour) Ghost(l shelf.Law) float64 { return c.of(l.GhostLight, l.GhostMedium, l.GhostDark) }

// Job is what a sequence is wanted for.
type Job struct {
	Aim       Aim
	Grade     float64 // peel grade of the panel, 0 to 10
	Pebble    float64 // rms of its short waves (µm) where a photo read them, 0 for as usual
	Reference float64 // peel grade to match, for Match
	Colour    Colour
	Single    bool    // single stage: the colour itself is cut
	Factory   bool    // a factory finish
	Hardness  float64 // of the paint: 0.7 soft, 1 medium, 1.5 hard
	Scratch   float64 // depth in µm of the scratches to take out, for Scratches and a polish for gloss
	Condition surface.Condition
	Gone      float64 // share of the swirls that shall go, for PolishOnly; 0 for gloss alone
	Sections  []Rect
	Area      float64 // mm², for paper, discs and pads
	Perimeter float64 // mm, for taping
	Nibs      int     // for NibsOnly
	Clarity   float64 // that the finish must have, 0 to 100; 0 for the usual of the aim
	Panels    int     // worked together, for the house rule of one stage over a side
	Shelf     shelf.Shelf
	Rules     Rules
}

// MostGone is the highest share of swirls that can be asked for: the deepest of them go
// through any film.
const MostGone = 0.99

// mostPebble is more than any paint has, µm.
const mostPebble = 10.0

// rms of the panel's long and short waves, µm.
func (j Job) rms() (long, short float64) {
	long = surface.PeelSq(j.Grade)
	if j.Pebble > 0 {
		return long, j.Pebble
	}
	return long, surface.PebbleSq(long)
}

// Surface is the panel as it is before any step.
func (j Job) Surface() surface.Surface {
	long, short := j.rms()
	return surface.New(long, short, 0)
}

// Corrects says whether a job is to polish paint of which somebody said that it has swirls or
// a dead layer.
func (j Job) Corrects() bool {
	return j.aim() == PolishOnly && j.Condition.Said()
}

// Takes is the mean removal (µm) of passes at a rate once so much is gone.
func (j Job) Takes(gone, rate float64, passes int) float64 {
	dead, soft := j.dead(gone)
	return removal(dead.Median, soft, rate, passes)
}

// dead is what is left of the dead layer once so much is gone (µm), and how many times as
// fast it is cut: like oxidised paint.
func (j Job) dead(gone float64) (left surface.Depth, soft float64) {
	soft = j.hardness() / j.Shelf.Law.Oxidised
	if soft <= 1 || j.aim() != PolishOnly || j.Condition.Dead.Median <= gone {
		return surface.Depth{}, 1
	}
	return surface.Depth{Median: j.Condition.Dead.Median - gone, Spread: j.Condition.Dead.Spread}, soft
}

// removal is the mean removal (µm) of passes at a rate that meet so much dead paint (µm) and
// cut it so many times as fast.
func removal(dead, soft, rate float64, passes int) float64 {
	n := float64(passes)
	if dead <= 0 {
		return rate * n
	}
	dead = math.Min(dead, soft*rate*n)
	return dead + rate*n - dead/soft
}

// enough says whether so much removal (µm) takes the dead layer and of the swirls what was
// asked for.
func (j Job) enough(removed float64) bool {
	return !j.Corrects() || removed >= j.Condition.Removal(j.Gone)-1e-9
}

// UsualSwirl is the depth in µm of the swirls and washing marks of paint that is
// only polished (judgement).
const UsualSwirl = 0.3

// Limits of what is asked for.
const (
	flatClarity = 90.0

	matchClarity = 0.85 // of the reference's (judgement)

	matchLow   = 0.9 // of the reference's rms
	matchHigh  = 1.1
	keepLow    = 0.8 // of its own rms
	keepHigh   = 1.1
	floorSlack = 0.98 // a label under this share of a texture's lower limit is dropped
)

func (j Job) check() error {
	switch {
	case math.IsNaN(j.Grade) || j.Grade < 0 || j.Grade > 10:
		return fmt.Errorf("peel grade %v does not exist: it goes from 0, a mirror, to 10, very heavy", j.Grade)
	case j.Aim == Match && (math.IsNaN(j.Reference) || j.Reference < 0 || j.Reference > 10):
		return fmt.Errorf("peel grade %v of the panel to match does not exist: it goes from 0 to 10", j.Reference)
	case !(j.Pebble >= 0 && j.Pebble <= mostPebble):
		return fmt.Errorf("pebble of %v µm does not exist on paint: it goes from 0 to %v", j.Pebble, mostPebble)
	case math.IsNaN(j.Hardness) || j.Hardness < 0.3 || j.Hardness > 3:
		return fmt.Errorf("paint hardness %v does not exist: 0.7 is soft, 1 medium, 1.5 hard", j.Hardness)
	case math.IsNaN(j.Scratch) || j.Scratch < 0 || j.Scratch > 100:
		return fmt.Errorf("a scratch of %v µm does not exist on paint: it goes from 0 to 100", j.Scratch)
	case math.IsNaN(j.Gone) || j.Gone < 0 || j.Gone > MostGone:
		return fmt.Errorf("%.4g %% of the swirls cannot be asked for: it goes from 0, gloss alone, to %.0f", 100*j.Gone, 100*MostGone)
	case len(j.Sections) == 0:
		return fmt.Errorf("the panel has no section wide enough to work: it needs a place %d mm off its edges", 25)
	}
	return nil
}

// hardness is the paint's, as the house rule on when to sand finds it.
func (j Job) hardness() float64 {
	if j.Rules.When == AfterADay {
		return j.Hardness * j.Shelf.Law.DayOld
	}
	return j.Hardness
}

// target is the texture and finish that a sequence must end with.
type target struct {
	low, high float64 // rms of the long band, µm
	scratch   float64 // µm at most
	clarity   float64
}

// buries is how many passes it takes to be rid of a scratch of depth old with a
// step that leaves fresh, both µm, at rate µm a pass. Where fresh is a finish the
// old scratch may not show under the gloss either.
func (j Job) buries(old, fresh, rate float64) int {
	n := surface.BuryScratch(old, math.Min(fresh, old), j.Colour.deep(j.Shelf.Law), rate).Passes
	if haze := j.Colour.Haze(j.Shelf.Law); fresh <= haze && old > haze {
		n = max(n, surface.BuryTo(j.Colour.Ghost(j.Shelf.Law), old, fresh, rate))
	}
	return n
}

// aim is the job's aim under the house rules: one school never sands for looks,
// another leaves the texture of the panels beside it.
func (j Job) aim() Aim {
	switch {
	case j.Rules.Sand == NeverForLooks && j.Aim.Levels():
		return PolishOnly
	case j.Rules.Far == ToTexture && j.Aim == Flat:
		return Match
	}
	return j.Aim
}

// FactoryGrade is the peel grade of a good factory finish.
const FactoryGrade = 4.0

// reference is the grade that a match goes to.
func (j Job) reference() float64 {
	if j.Aim == Match {
		return j.Reference
	}
	return FactoryGrade
}

// Clear asks of a match that it is about as clear as what it is matched to, where nothing else
// is asked for: of a texture that is right and hazy nobody says that it matches.
func (j Job) Clear() Job {
	if j.aim() == Match && j.Clarity == 0 {
		j.Clarity = matchClarity * surface.Clarity(surface.PeelSq(j.reference()), 0, 1)
	}
	return j
}

func (j Job) target() target {
	t := target{high: math.Inf(1), scratch: j.Colour.Haze(j.Shelf.Law), clarity: j.Clarity}
	start := surface.PeelSq(j.Grade)
	switch j.aim() {
	case Flat:
		t.high = surface.FlatSq
		if t.clarity == 0 {
			t.clarity = flatClarity
		}
	case Match:
		ref := surface.PeelSq(j.reference())
		t.low, t.high = matchLow*ref, matchHigh*ref
		if start < t.low { // smoother than what it shall match: it stays so
			t.low, t.high = keepLow*start, keepHigh*start
		}
	default:
		t.low, t.high = keepLow*start, keepHigh*start
	}
	return t
}

// Reached says whether the texture of the panel is what is wanted as it is.
func (j Job) Reached() bool {
	long, _ := j.rms()
	t := j.target()
	return long <= t.high && long >= t.low
}

// met says whether a finish serves.
func (t target) met(sqLong, scratch, clarity float64) bool {
	return sqLong <= t.high && t.fine(sqLong, scratch) && clarity >= t.clarity
}

// fine says whether a finish may be left as it is, whatever texture is left:
// no haze, and not smoother than is wanted.
func (t target) fine(sqLong, scratch float64) bool {
	return sqLong >= t.low*(1-1e-9) && scratch <= t.scratch*(1+1e-9)
}

// ReferenceGrade is the peel grade that a panel is held against: the mean of the
// factory panels beside it, or of a good factory finish where nobody looked at one.
func ReferenceGrade(beside []float64) float64 {
	if len(beside) == 0 {
		return FactoryGrade
	}
	sum := 0.0
	for _, g := range beside {
		sum += g
	}
	return sum / float64(len(beside))
}
