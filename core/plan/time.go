package plan

import (
	"math"

	"waxplanus/core/shelf"
)

// Lane is how a pad is led over a section: its width (mm), the overlap of lanes
// (0 to 1), the speed of the arm (mm/s), the time of a turn (s) and how often
// the section is crossed.
type Lane struct {
	Pad, Overlap, Speed, Turn float64
	Crossings                 int
}

// PassTime is the time in seconds of one pass over a section of w x h mm: lanes
// along the longer side, as many as the shorter one needs.
func PassTime(l Lane, w, h float64) float64 {
	long, short := math.Max(w, h), math.Min(w, h)
	lanes := 1.0
	if short > l.Pad {
		lanes = 1 + math.Ceil((short-l.Pad)/(l.Pad*(1-l.Overlap))-1e-9)
	}
	return float64(l.Crossings) * lanes * (math.Max(long-l.Pad, l.Pad/2)/l.Speed + l.Turn)
}

// Rect is the size of a section in mm.
type Rect struct{ W, H float64 }

// nineTenths is the overlap of the school that leads its pad by a tenth.
const nineTenths = 0.9

// lane is how a backing, or a pad where it is nil, is led.
func (j Job) lane(b *shelf.Backing, tool shelf.Tool) Lane {
	l := j.Shelf.Law
	switch {
	case b == nil:
		out := Lane{Pad: shelf.PadWide, Overlap: l.PadOverlap, Speed: l.PadSpeed, Crossings: int(l.PadCrossings)}
		if tool == shelf.Rotary {
			out.Speed = l.RotarySpeed
		}
		if j.Rules.Overlap == NineTenths {
			out.Overlap = nineTenths
		}
		return out
	case tool == shelf.Hand:
		return Lane{Pad: b.Pad, Overlap: l.HandOverlap, Speed: l.HandSpeed, Turn: l.HandTurn, Crossings: int(l.HandCrossings)}
	}
	return Lane{Pad: b.Pad, Overlap: l.DiscOverlap, Speed: l.DiscSpeed, Turn: l.DiscTurn, Crossings: int(l.DiscCrossings)}
}

// dwell is what a cycle takes off beside what it takes at the usual overlap:
// removal goes with the time that the pad stays on a place (Preston).
func (j Job) dwell() float64 {
	if j.Rules.Overlap == NineTenths {
		return (1 - j.Shelf.Law.PadOverlap) / (1 - nineTenths)
	}
	return 1
}

// times are the minutes that a step takes once, and for each of its passes, all handling
// included; machine is how long of a pass a machine runs. A wipe, a look and a rinse follow
// each pass with an abrasive; the wipe after a compound is part of its crossing passes. A
// spot is looked at once.
func (j Job) times(b *shelf.Backing, tool shelf.Tool) (once, pass, machine float64) {
	law := &j.Shelf.Law
	look, m2 := 0.0, j.worked()/1e6
	once = j.setUp() + law.Move/60
	if b != nil {
		if look = law.LookMachine; tool == shelf.Hand {
			look = law.LookHand
		}
		once += law.Between * m2
		pass = law.Rinse / 60 * m2
	}
	lane, run := j.lane(b, tool), 0.0
	if j.aim() == NibsOnly {
		wide := 2 * law.NibWide
		n := j.spots()
		once += n * look / 60
		run = n * PassTime(lane, wide, wide) / 60
	} else {
		for _, r := range j.Sections {
			run += PassTime(lane, r.W, r.H) / 60
			pass += look / 60
		}
		if b == nil {
			pass += j.cooling(lane) / 60
		}
	}
	share := law.Share(b != nil, tool != shelf.Hand) * law.Pace(tool)
	if tool != shelf.Hand {
		machine = run * share
	}
	return once, (pass + run) * share, machine
}

// cooling is how long, in s for each cycle, nobody can work because all sections are warm:
// where the others take longer than one takes to cool it is 0.
func (j Job) cooling(lane Lane) float64 {
	law := &j.Shelf.Law
	if j.Rules.Cool == CoolByHand || law.WarmAfter <= 0 {
		return 0
	}
	others := 0.0
	for _, r := range j.Sections[1:] {
		others += law.WarmAfter * PassTime(lane, r.W, r.H)
	}
	return math.Max(0, law.Cool-others) / law.WarmAfter
}

// spots is how many circles of the spots' radius their area comes to: spots
// overlap as they get many.
func (j Job) spots() float64 {
	round := math.Pi * j.Shelf.Law.NibWide * j.Shelf.Law.NibWide
	return j.Area / round * (1 - math.Exp(-float64(j.Nibs)*round/j.Area))
}

// worked is the area in mm² that a pass goes over.
func (j Job) worked() float64 {
	if j.aim() == NibsOnly {
		return j.spots() * math.Pi * j.Shelf.Law.NibWide * j.Shelf.Law.NibWide
	}
	return j.Area
}

// setUp is the minutes that a step takes before its first pass: shared by the
// panels of a side where one stage goes over all of them.
func (j Job) setUp() float64 {
	m := j.Shelf.Law.SetUp / 60
	if j.Rules.Order == StageByStage && j.Panels > 1 {
		return m / float64(j.Panels)
	}
	return m
}

// around is the minutes before the first step and after the last one, and the wait in minutes
// that nobody works in.
func (j Job) around() (before, after, wait float64) {
	law, m2 := &j.Shelf.Law, j.Area/1e6 // also for spots: a nib is found on a clean panel
	after = law.Clean * m2
	switch j.aim() {
	case NibsOnly:
	case PolishOnly:
		before += law.MaskPolish / 60 * j.Perimeter / 1000
	default:
		before += law.Mask / 60 * j.Perimeter / 1000
		if j.Rules.Edges != Untaped {
			before += j.Perimeter / law.TapeSpeed / 60
		}
	}
	if j.Rules.Water == Soaked {
		wait = law.Soak
	}
	return j.Washing() + law.PaceAround*before, law.PaceAround * after, wait
}

// Tape is the metres of masking tape that the panel takes: along rubber and trim, and along its
// edges where those are taped for sanding.
func (j Job) Tape() float64 {
	m := j.Perimeter / 1000
	switch aim := j.aim(); {
	case aim == NibsOnly:
		return 0
	case aim == PolishOnly || j.Rules.Edges == Untaped:
		return m
	}
	return 2 * m
}

// filing is the minutes of filing the nibs one by one.
func (j Job) filing() float64 {
	law := &j.Shelf.Law
	return j.setUp() + law.Move/60 + float64(j.Nibs)*law.NibEach/60*law.Share(true, false)
}

// spotsWash is how much of the usual washing a panel needs of which only spots are worked
// (judgement).
const spotsWash = 0.75

// Washing is the minutes before the first step in which the panel is washed, dried and wiped.
func (j Job) Washing() float64 {
	m := j.Shelf.Law.PaceAround * j.Shelf.Law.Wash * j.Area / 1e6
	if j.aim() == NibsOnly {
		m *= spotsWash
	}
	return m
}
