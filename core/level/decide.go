package level

import (
	"math"

	"waxplanus/core/film"
	"waxplanus/core/plan"
)

// over is the headroom over what is still wanted, µm.
func (s Standing) over() float64 { return s.Headroom - s.Spend }

// Deciding is the index of the standing that decides for a panel: the one with the
// least headroom over what is still wanted there. It returns -1 for none.
func Deciding(all []Standing) int {
	best := -1
	for i, s := range all {
		if best < 0 || s.over() < all[best].over() {
			best = i
		}
	}
	return best
}

// PlanHeadroom is what a plan for a panel may take (µm): what its tightest section may spend
// among those where need fits, or where it fits none, the roomiest. reachable says
// whether any sequence leads to the aim, so that need means something. spendable has
// one section at least.
func PlanHeadroom(spendable []float64, need float64, reachable bool) float64 {
	fits, most := math.Inf(1), math.Inf(-1)
	for _, um := range spendable {
		if reachable && um >= need {
			fits = math.Min(fits, um)
		}
		most = math.Max(most, um)
	}
	if math.IsInf(fits, 1) {
		return most
	}
	return fits
}

// DecidingFor is the index of the section that decides for a ladder before it is of
// record: the tightest of those that may spend what it takes there, or the roomiest
// where it fits none. takes and spendable are by section, µm. It returns -1 for none.
func DecidingFor(spendable, takes []float64) int {
	best := -1
	for i, um := range spendable {
		if best < 0 {
			best = i
			continue
		}
		fits, bestFits := um >= takes[i], spendable[best] >= takes[best]
		if fits && (!bestFits || um < spendable[best]) || !fits && !bestFits && um > spendable[best] {
			best = i
		}
	}
	return best
}

// Reserved is what a step may still take together with its finer steps, µm; never
// below zero.
func (a Advice) Reserved() float64 { return math.Max(a.Room+a.Ledger.Reserve, 0) }

// Left is the clear at the thinnest place of a section of which passes have taken
// gone, µm.
func Left(least film.Least, gone film.Estimate) film.Estimate {
	open := least.Estimate()
	return film.Estimate{Mean: open.Mean - gone.Mean, SD: math.Hypot(open.SD, gone.SD)}
}

// TryNoise is the doubt (µm) of the film before, and of that after, a try on so many
// spots: both readings of a spot are taken with one gauge, each as a whole spot.
func TryNoise(g film.Gauge, spots int) float64 {
	return DifferenceNoise(g.A, g.Replace, 1, spots) / math.Sqrt2
}

// Task names what is next on a panel.
type Task string

// The tasks.
const (
	TaskLevel    Task = "level"     // go on with the plan
	TaskProve    Task = "prove"     // all its steps are done
	TaskKept     Task = "kept"      // and it was found good
	TaskSpot     Task = "spot"      // marks, one by one
	TaskPolish   Task = "polish"    // plan the polish
	TaskLookOver Task = "look_over" // nothing to sand: look it over
	TaskRead     Task = "read"      // more spots
	TaskPlan     Task = "plan"      // the grits
)

// Outline is what the next task of a panel follows from.
type Outline struct {
	Planned, Finished bool // a plan of record holds; all its steps are done
	Kept              bool // it was found good, and nothing was done since
	Plastic           bool
	Blind             bool // no gauge reads it, and nothing beside it was read
	Waits             bool // its paint is too soft for what is next
	Aim               plan.Aim
	Finish            film.Finish
	OpenMarks         int
	Runs              bool // a run or a sag is among them, which wants the film under it
	Spotted           bool // marks of it were closed
	Readings          int  // that count
}

// Urgency ranks what is to be done on a panel, the most urgent highest: finish what
// has begun, spot what was marked, plan what is read, read what was sprayed, and at
// last anything.
func (o Outline) Urgency() int {
	switch {
	case o.Waits && !o.Kept:
		return 1
	case o.Planned && !o.Finished:
		return 6
	case o.Aim == plan.NibsOnly && o.OpenMarks > 0:
		return 5
	case o.Kept:
		return 0
	case o.Planned, o.Aim == plan.NibsOnly && o.Spotted:
		return 5
	case o.Blind:
		return 0
	case !o.Aim.Levels(), o.Finish == film.FactoryFinish:
		return 2
	case o.Plastic, o.Readings >= film.EnoughSpots:
		return 4
	}
	return 3
}

// Missing is how many spots have to be read before a plan can be judged: none where no gauge
// reads.
func (o Outline) Missing() int {
	if o.Plastic {
		return 0
	}
	return max(film.EnoughSpots-o.Readings, 0)
}

// Next is the next task.
func (o Outline) Next() Task {
	switch {
	case o.Planned && !o.Finished && o.Aim == plan.NibsOnly && o.OpenMarks > 0:
		return TaskSpot
	case o.Planned && !o.Finished:
		return TaskLevel
	case o.Kept:
		return TaskKept
	case o.Planned:
		return TaskProve
	case o.Aim == plan.NibsOnly && o.Runs && o.Readings == 0 && !o.Plastic:
		return TaskRead
	case o.Aim == plan.NibsOnly && o.OpenMarks > 0:
		return TaskSpot
	case o.Aim == plan.NibsOnly && o.Spotted:
		return TaskProve
	case o.Blind:
		return TaskLookOver
	case o.Missing() > 0:
		return TaskRead
	case o.Aim == plan.PolishOnly:
		return TaskPolish
	case !o.Aim.Levels():
		return TaskLookOver
	}
	return TaskPlan
}
