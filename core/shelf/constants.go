package shelf

import (
	"fmt"
	"math"
	"strings"
)

// Source says where the value of a constant comes from.
type Source string

// The sources: a published grain scale, the physics of contact, judgement to be
// corrected on the job, and what a shop pays.
const (
	Standard Source = "standard"
	Physics  Source = "physics"
	Judged   Source = "judgement"
	Priced   Source = "price"
)

// Constant is one value of a shelf: its key, what thing it is of, its name and
// unit, where the usual value comes from, and the least and most that make
// sense.
type Constant struct {
	Key, Thing, Name, Unit string
	Source                 Source
	Value, Least, Most     float64
}

type slot struct {
	Constant
	at   *float64
	have *bool
}

// slots lists every constant of a shelf with its place in it.
func (s *Shelf) slots() []slot {
	var out []slot
	add := func(thing, key, name, unit string, src Source, least, most float64, at *float64) {
		out = append(out, slot{Constant{thing + "." + key, thing, name, unit, src, *at, least, most}, at, nil})
	}
	have := func(thing string, at *bool) {
		v := 0.0
		if *at {
			v = 1
		}
		out = append(out, slot{Constant{thing + ".have", thing, "on the shelf", "", Priced, v, 0, 1}, nil, at})
	}
	for i := range s.Abrasives {
		a := &s.Abrasives[i]
		src := Standard
		if a.D50 < 8.4 {
			src = Judged // nominal beyond the scale
		}
		t := "abrasive." + a.Key
		have(t, &a.Have)
		add(t, "d50", "median grain", "µm", src, 1, 60, &a.D50)
		add(t, "price", "price of a piece", "money", Priced, 0, 1000, &a.Price)
	}
	for i := range s.Backings {
		b := &s.Backings[i]
		t := "backing." + b.Key
		have(t, &b.Have)
		add(t, "e", "modulus", "MPa", Judged, 0.01, 500, &b.E)
		add(t, "d", "stiffness of sheet and face", "N·m", Judged, 0, 0.01, &b.D)
		add(t, "p0", "mean pressure", "kPa", Judged, 0.2, 15, &b.P0)
		add(t, "scratch", "scratch, share of the grain", "", Judged, 0.01, 0.5, &b.Scratch)
		add(t, "area", "sheet in contact", "mm²", Physics, 500, 60000, &b.Area)
		add(t, "pad", "width of a lane", "mm", Physics, 20, 300, &b.Pad)
	}
	for i := range s.Compounds {
		c := &s.Compounds[i]
		t := "compound." + c.Key
		have(t, &c.Have)
		add(t, "removal", "film a cycle", "µm", Judged, 0.005, 5, &c.Removal)
		add(t, "scratch", "scratch it leaves", "µm", Judged, 0.002, 2, &c.Scratch)
		add(t, "price", "price of a litre", "money", Priced, 0, 2000, &c.Price)
		add(t, "use", "use a m² and cycle", "ml", Judged, 0, 500, &c.Use)
		add(t, "pad_price", "price of a pad", "money", Priced, 0, 500, &c.PadPrice)
		add(t, "pad_life", "life of a pad", "m² and cycles", Judged, 0.5, 1000, &c.PadLifetime)
	}
	return append(out, s.Law.slots()...)
}

func (l *Law) slots() []slot {
	var out []slot
	add := func(key, name, unit string, least, most float64, at *float64) {
		src := Judged
		if key == "labour" || key == "tape" {
			src = Priced
		}
		out = append(out, slot{Constant{"law." + key, "law", name, unit, src, *at, least, most}, at, nil})
	}
	add("labour", "labour", "money an hour", 0, 1000, &l.Labour)
	add("tape", "masking tape", "money a metre", 0, 100, &l.Tape)
	add("speed_hand", "cut by hand, of a hand pass", "", 0.1, 10, &l.SpeedHand)
	add("speed_orbital", "cut of an orbital, of a hand pass", "", 0.1, 20, &l.SpeedOrbital)
	add("deep_light", "depth of scratch that must go, light colours", "of the usual", 0.6, 3, &l.DeepLight)
	add("deep_medium", "the same, medium colours", "of the usual", 0.6, 3, &l.DeepMedium)
	add("deep_dark", "the same, dark colours", "of the usual", 0.6, 3, &l.DeepDark)
	add("haze_light", "scratch that shows as haze, light", "µm", 0.01, 1, &l.HazeLight)
	add("haze_medium", "the same, medium", "µm", 0.01, 1, &l.HazeMedium)
	add("haze_dark", "the same, dark", "µm", 0.01, 1, &l.HazeDark)
	add("ghost_light", "share of old scratch that shows, light", "", 0, 1, &l.GhostLight)
	add("ghost_medium", "the same, medium", "", 0, 1, &l.GhostMedium)
	add("ghost_dark", "the same, dark", "", 0, 1, &l.GhostDark)
	add("step_least", "grain to the next, least ratio", "", 1, 2, &l.StepLeast)
	add("step_most", "grain to the next, most", "", 1.1, 6, &l.StepMost)
	add("scratch_most", "old scratch to new, most", "", 1.1, 10, &l.ScratchMost)
	add("level_most", "passes of a levelling step, most", "", 1, 30, &l.LevelMost)
	add("reach", "scratch that a compound clears, of its own", "", 1, 20, &l.Reach)
	add("cycles_most", "cycles of a compound, most", "", 1, 12, &l.CyclesMost)
	add("coarsest_clear", "coarsest grain to start with on clear", "µm", 1, 60, &l.CoarsestClear)
	add("coarsest_single", "the same on single stage", "µm", 1, 60, &l.CoarsestSingle)
	add("soft", "hardness of soft paint", "of medium", 0.3, 3, &l.Soft)
	add("hard", "hardness of hard paint", "of medium", 0.3, 3, &l.Hard)
	add("oxidised", "hardness of oxidised paint", "of medium", 0.3, 3, &l.Oxidised)
	add("day_old", "hardness of clear a day old", "of weeks later", 0.2, 1, &l.DayOld)
	add("due_at", "cut left when a piece is due", "", 0.05, 0.95, &l.DueAt)
	add("nib_each", "filing a nib", "s", 1, 600, &l.NibEach)
	add("nib_rest", "height of a filed nib", "µm", 0, 10, &l.NibRest)
	add("nib_wide", "radius of a spot", "mm", 10, 300, &l.NibWide)
	add("set_up", "setting up a step", "s", 0, 3600, &l.SetUp)
	add("look_hand", "wipe and look, by hand", "s", 0, 600, &l.LookHand)
	add("look_machine", "wipe and look, machine", "s", 0, 600, &l.LookMachine)
	add("hand_overlap", "overlap of lanes, by hand", "", 0, 0.95, &l.HandOverlap)
	add("hand_speed", "arm, by hand", "mm/s", 10, 3000, &l.HandSpeed)
	add("hand_turn", "turn, by hand", "s", 0, 10, &l.HandTurn)
	add("hand_crossings", "strokes of a pass, by hand", "", 1, 20, &l.HandCrossings)
	add("disc_overlap", "overlap of lanes, disc", "", 0, 0.95, &l.DiscOverlap)
	add("disc_speed", "arm, disc", "mm/s", 10, 1000, &l.DiscSpeed)
	add("disc_turn", "turn, disc", "s", 0, 10, &l.DiscTurn)
	add("disc_crossings", "crossings of a pass, disc", "", 1, 20, &l.DiscCrossings)
	add("pad_overlap", "overlap of lanes, pad", "", 0, 0.95, &l.PadOverlap)
	add("pad_speed", "arm, orbital pad", "mm/s", 5, 1000, &l.PadSpeed)
	add("rotary_speed", "arm, rotary pad", "mm/s", 5, 1000, &l.RotarySpeed)
	add("pad_crossings", "crossings of a cycle", "", 1, 20, &l.PadCrossings)
	add("tape_speed", "taping edges", "mm/s", 1, 1000, &l.TapeSpeed)
	add("pad_change", "cleaning one pad for the next product", "s", 0, 3600, &l.PadChange)
	add("pad_clean", "cycles until a pad is cleaned or blown out", "cycles", 1, 20, &l.PadClean)
	add("pad_holds", "paint that a pad holds until it is cleaned", "mm³", 1, 10000, &l.PadHolds)
	add("warm_after", "cycles in a row that make a section warm", "cycles", 1, 20, &l.WarmAfter)
	add("cool", "until a warm section is cool", "s", 0, 3600, &l.Cool)
	add("soak", "soaking paper", "min", 0, 1440, &l.Soak)
	l.Handling.slots(add)
	add("pace_hand", "times the time of a pass, by hand", "", 0.2, 5, &l.PaceHand)
	add("pace_machine", "times the time of a pass, machine", "", 0.2, 5, &l.PaceMachine)
	add("pace_around", "times the time of all around passes", "", 0.2, 5, &l.PaceAround)
	add("seen_up", "how well the light shows what faces it", "", 0, 1, &l.SeenUp)
	add("seen_side", "how well it shows sides", "", 0, 1, &l.SeenSide)
	add("seen_low", "how well it shows sills and bumpers", "", 0, 1, &l.SeenLow)
	add("seen_covered", "how well it shows what a moulding covers", "", 0, 1, &l.SeenCovered)
	return out
}

// Constants lists every constant of a shelf.
func (s *Shelf) Constants() []Constant {
	all := s.slots()
	out := make([]Constant, len(all))
	for i, v := range all {
		out[i] = v.Constant
	}
	return out
}

// Set changes one constant of a shelf. It fails on a key that there is not, and
// on a value that makes no sense, saying which would.
func (s *Shelf) Set(key string, value float64) error {
	for _, v := range s.slots() {
		if v.Key != key {
			continue
		}
		if math.IsNaN(value) || value < v.Least || value > v.Most || v.have != nil && value != 0 && value != 1 {
			unit := v.Unit
			if unit != "" {
				unit = " " + unit
			}
			return fmt.Errorf("%s goes from %g to %g%s; %g does not make sense", v.Name, v.Least, v.Most, unit, value)
		}
		if v.have != nil {
			*v.have = value == 1
		} else {
			*v.at = value
		}
		return nil
	}
	return fmt.Errorf("nothing on the shelf is called %q; keys look like abrasive.p1500.price", strings.TrimSpace(key))
}

// With is the usual shelf with changes, by the constants' keys. Changes of keys
// that there are no more are left aside.
func With(changes map[string]float64) Shelf {
	s := Usual()
	for key, value := range changes {
		if s.Set(key, value) != nil {
			continue // of an older program with other keys or bounds
		}
	}
	return s
}
