package prove

import (
	"math"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// Reached says whether a panel came out as it was wanted.
type Reached string

// What may have been reached.
const (
	Unknown    Reached = "unknown"    // nothing tells how it is now
	NotReached Reached = "not"        // off by more than the doubt
	WithDoubt  Reached = "with_doubt" // no further off than the doubt
	Yes        Reached = "yes"
)

// near is how far from a texture a panel may be to match it, as a share of its rms: the eye
// does not tell them apart (docs/model.md, plan).
const near = 0.1

// Outcome is what was wanted of the texture of a panel and what came of it.
type Outcome struct {
	Reached
	Wanted Texture
	Difference
}

// Held is how a panel stands now against what was wanted of it: flat, like the panel beside
// it, or as rough as it was before. now is nil where nobody knows.
func Held(aim plan.Aim, now *Texture, before, beside Texture) Outcome {
	out := Outcome{Wanted: before, Reached: Unknown}
	switch aim {
	case plan.Flat:
		out.Wanted = Texture{Peel: surface.Depth{Median: surface.FlatSq}, Pebble: surface.Depth{Median: surface.PebbleSq(surface.FlatSq)}}
	case plan.Match:
		out.Wanted = beside
	}
	if now == nil {
		return out
	}
	out.Difference = Compare(out.Wanted, *now)
	off := math.Abs(math.Log(out.Times))
	if aim == plan.Flat {
		off = math.Max(math.Log(out.Times), 0)
	}
	doubt := sure * math.Hypot(out.Wanted.Peel.Spread, now.Peel.Spread)
	switch {
	case aim == plan.Flat && off == 0, aim != plan.Flat && off <= math.Log1p(near):
		out.Reached = Yes
	case off <= doubt:
		out.Reached = WithDoubt
	default:
		out.Reached = NotReached
	}
	return out
}

// Task names what is still to do before a panel is kept.
type Task string

// The tasks, in the order in which they are best done.
const (
	TaskBefore   Task = "before"   // photograph the lamps before any work, or there is no before
	TaskFinish   Task = "finish"   // steps of the plan, in so many sections
	TaskWipe     Task = "wipe"     // wipe the oils off and look, in so many sections
	TaskScratch  Task = "scratch"  // scratches were seen, in so many sections
	TaskRead     Task = "read"     // film after the last pass, in so many sections
	TaskAfter    Task = "after"    // photograph the same lamps again
	TaskMarks    Task = "marks"    // so many are open
	TaskCompared Task = "compared" // photograph the panel that it is held against
)

// Stands says what is on record of a panel when somebody wants to keep it.
type Stands struct {
	Worked, Planned           bool // passes were made; a plan holds
	Unfinished, Unread        int  // sections with steps to do; worked since they were last read
	ToWipe, Scratched         int  // sections
	OpenMarks                 int
	Before, After, BesideSeen bool // by photo
	Aim                       plan.Aim
}

// Todo is one task with how many of it there are.
type Todo struct {
	Task
	Count int
	Bars  bool // the panel cannot be kept before it is done
}

// Todos are what is still to do on a panel, in order.
func (s Stands) Todos() []Todo {
	var out []Todo
	add := func(t Task, n int, bars bool) {
		if n > 0 {
			out = append(out, Todo{t, n, bars})
		}
	}
	one := func(yes bool) int {
		if yes {
			return 1
		}
		return 0
	}
	done := s.Worked && s.Unfinished == 0
	add(TaskBefore, one(!s.Worked && !s.Before && (s.Planned || s.Aim.Levels())), false)
	add(TaskFinish, s.Unfinished, true)
	add(TaskScratch, s.Scratched, true)
	add(TaskWipe, s.ToWipe, false)
	add(TaskRead, s.Unread, false)
	add(TaskAfter, one(done && !s.After), false)
	add(TaskCompared, one(done && s.Aim == plan.Match && s.After && !s.BesideSeen), false)
	add(TaskMarks, s.OpenMarks, true)
	return out
}

// Bars is the first of tasks without which a panel cannot be kept; false for none.
func Bars(all []Todo) (Todo, bool) {
	for _, t := range all {
		if t.Bars {
			return t, true
		}
	}
	return Todo{}, false
}
