package level

import (
	"math"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
)

// Kind names what an entry of the log says.
type Kind string

// The kinds of entries.
const (
	KindPass     Kind = "pass"
	KindOverride Kind = "override" // a pass over the stop
	KindPaper    Kind = "paper"    // a new sheet or disc, or a clean pad
	KindDone     Kind = "done"     // the step is ended
	KindBack     Kind = "back"     // back to an earlier step
	KindShiny    Kind = "shiny"    // a look at the share that still shines
	KindScrape   Kind = "scrape"
	KindColour   Kind = "colour" // colour in the slurry
	KindThrough  Kind = "through"
	KindShave    Kind = "shave" // a stroke of the blade on one mark
	KindBlock    Kind = "block" // a pass of the block on one mark
	KindRest     Kind = "rest"  // the rest of the section's steps planned anew
)

// Kinds lists all kinds.
func Kinds() []Kind {
	return []Kind{KindPass, KindPaper, KindDone, KindShiny, KindOverride, KindScrape, KindColour, KindThrough, KindBack, KindShave, KindBlock, KindRest}
}

// Entry is one line of the log of a panel.
type Entry struct {
	ID      string
	Section string
	Step    int // of the ladder, from 1
	Kind    Kind
	Value   float64 // share seen (0 to 1) of a look; passes wanted of going back
	Mark    string
	Person  string
	Moment
	Struck bool
}

// Moment is when something was done: At by the clock of whoever did it, and Kept, when it
// came on record. A clock may be wrong and a record late: one thing was done before another
// only where both say so, so that no reading is taken to show passes that it does not.
type Moment struct{ At, Kept time.Time }

// Before says whether a moment was surely before another.
func (m Moment) Before(o Moment) bool { return m.At.Before(o.At) && m.Kept.Before(o.Kept) }

// Cuts says whether an entry is a pass that was made.
func (e Entry) Cuts() bool {
	return !e.Struck && (e.Kind == KindPass || e.Kind == KindOverride)
}

// Log is what was done on a panel under one plan, in the order of record. Steps are
// counted from 0 in its methods.
type Log struct {
	Ladder  *plan.Ladder // nil without a plan
	Entries []Entry
}

// Worked says whether any pass was made.
func (l Log) Worked() bool { return slices.ContainsFunc(l.Entries, Entry.Cuts) }

// passes counts the passes of each step on a section among the entries that count.
func (l Log) passes(section string, counts func(Entry) bool) []int {
	n := make([]int, len(l.Ladder.Steps))
	for _, e := range l.Entries {
		if e.Cuts() && e.Section == section && counts(e) {
			n[e.Step-1]++
		}
	}
	return n
}

// Passes counts the passes of each step on a section; nil without a plan.
func (l Log) Passes(section string) []int {
	if l.Ladder == nil {
		return nil
	}
	return l.passes(section, func(Entry) bool { return true })
}

// BeforeBack counts the passes of each step on a section that were made before it went back
// to a coarser step, whose scratches they do not take out; nil where it never did.
func (l Log) BeforeBack(section string) []int {
	if l.Ladder == nil {
		return nil
	}
	var before []int
	made := make([]int, len(l.Ladder.Steps))
	for _, e := range l.Entries {
		switch {
		case e.Struck || e.Section != section:
		case e.Cuts():
			made[e.Step-1]++
		case e.Kind == KindBack:
			if before == nil {
				before = make([]int, len(made))
			}
			copy(before[e.Step:], made[e.Step:]) // of all finer steps
		}
	}
	return before
}

// PassesBefore counts those that were surely made before a moment.
func (l Log) PassesBefore(section string, at Moment) []int {
	if l.Ladder == nil {
		return nil
	}
	return l.passes(section, func(e Entry) bool { return e.Before(at) })
}

// Since counts the passes of one step on a section that may have been made after a moment.
func (l Log) Since(section string, step int, at Moment) int {
	return l.passes(section, func(e Entry) bool { return !e.Before(at) })[step]
}

// SinceAny says whether passes of any step on a section may have been made after a moment.
func (l Log) SinceAny(section string, at Moment) bool {
	return slices.ContainsFunc(l.Entries, func(e Entry) bool { return e.Cuts() && e.Section == section && !e.Before(at) })
}

// leastPace is the share of the usual time of a pass that the quickest hand needs
// (judgement).
const leastPace = 0.25

// MostPasses is how many passes, of so many seconds each as a rule, a hand can have made in
// some time; one more than fits, as one may have been under way.
func MostPasses(in time.Duration, pass float64) int {
	return 1 + int(math.Max(in.Seconds(), 0)/math.Max(leastPace*pass, 1))
}

// OnMark counts the entries of a kind on one mark.
func (l Log) OnMark(id string, kind Kind) int {
	n := 0
	for _, e := range l.Entries {
		if e.Mark == id && e.Kind == kind && !e.Struck {
			n++
		}
	}
	return n
}

// Step is the step in hand on a section; the number of the ladder's steps when all
// of the section's are done.
func (l Log) Step(section string) int {
	own, n := l.Ladder.StepsOf(section), 0
	for _, e := range l.Entries {
		if e.Struck || e.Section != section {
			continue
		}
		switch e.Kind {
		case KindDone, KindRest:
			n++
		case KindBack:
			n = max(slices.Index(own, e.Step-1), 0)
		}
	}
	if n >= len(own) {
		return len(l.Ladder.Steps)
	}
	return own[n]
}

// Done says whether all steps of a section are done.
func (l Log) Done(section string) bool { return l.Step(section) >= len(l.Ladder.Steps) }

// Needed is how many passes a step still needs on a section of which it wants so many: by
// what the last look told, or else as many more, or as whoever went back to it said.
func (l Log) Needed(wants int, section string, step int, seen *Looked) int {
	if seen != nil {
		return seen.needed(l.Passes(section)[step])
	}
	more := wants
	for _, e := range l.Entries {
		switch {
		case e.Cuts() && e.Section == section && e.Step == step+1:
			more--
		case e.Kind == KindBack && !e.Struck && e.Section == section:
			more = wants
			if e.Step == step+1 {
				more = int(e.Value)
			}
		}
	}
	return max(more, 0)
}

// LastLook is the last look at the share that still shines on a section in a step,
// with the passes that had been made by then; false without one, or when what it saw
// has been worked over since.
func (l Log) LastLook(section string, step int) (look Entry, passes int, ok bool) {
	made := 0
	for _, e := range l.Entries {
		if e.Struck || e.Section != section {
			continue
		}
		switch {
		case e.Kind == KindBack:
			ok = false
		case e.Cuts() && e.Step == step+1:
			made++
		case e.Kind == KindShiny && e.Step == step+1:
			look, passes, ok = e, made, true
		}
	}
	return look, passes, ok
}

// Alarm is what went wrong on a section and still stands.
type Alarm string

// The alarms, the worse last.
const (
	AlarmNone    Alarm = ""
	AlarmScrape  Alarm = "scrape"  // until a new sheet
	AlarmColour  Alarm = "colour"  // colour in the slurry over clear
	AlarmThrough Alarm = "through" // the colour shows
)

// Locks says whether nothing more may be cut.
func (a Alarm) Locks() bool { return a == AlarmColour || a == AlarmThrough }

// Alarm of a section: the last that was told of those that lock, or a scraping sound
// that no new sheet followed.
func (l Log) Alarm(section string) Alarm {
	a := AlarmNone
	for _, e := range l.Entries {
		if e.Struck || e.Section != section {
			continue
		}
		switch {
		case e.Kind == KindThrough:
			a = AlarmThrough
		case e.Kind == KindColour:
			a = AlarmColour
		case a.Locks():
		case e.Kind == KindScrape:
			a = AlarmScrape
		case e.Kind == KindPaper:
			a = AlarmNone
		}
	}
	return a
}

// Wear is how a sheet, disc or pad of a step stands: the passes and the area (mm²)
// that it has worked since it was new or clean.
func (l Log) Wear(step int, areaOf func(section string) float64) (passes int, area float64) {
	for _, e := range l.Entries {
		switch {
		case e.Struck || e.Step != step+1:
		case e.Kind == KindPaper:
			passes, area = 0, 0
		case e.Cuts():
			passes++
			area += areaOf(e.Section)
		}
	}
	return passes, area
}

// Workers are who works each step: whoever made most passes of it, the first of
// several, or usual where none was made.
func (l Log) Workers(usual string) []string {
	out := make([]string, len(l.Ladder.Steps))
	for i := range out {
		passes, most := map[string]int{}, 0
		out[i] = usual
		for _, e := range l.Entries {
			if !e.Cuts() || e.Step != i+1 {
				continue
			}
			if passes[e.Person]++; passes[e.Person] > most {
				most, out[i] = passes[e.Person], e.Person
			}
		}
	}
	return out
}

// Looked is a look at a levelling step with what it tells.
type Looked struct {
	Look
	Seen
}

// needed is how many passes a look leaves to make once so many were made in all.
func (l *Looked) needed(made int) int {
	return max(int(math.Ceil(l.Seen.Passes.Mean-unworthy))-(made-l.Look.Passes), 0)
}

// After is how many passes more lead to flat once so many were made in all, and the
// peel grade that was reached by the cut of w.
func (l *Looked) After(w *Work, step, made int) (left film.Estimate, grade float64) {
	left = l.Seen.Passes
	left.Mean = math.Max(0, left.Mean-float64(made-l.Look.Passes))
	return left, w.CuttingSeen(step, made, l.Seen).Now.Grade()
}

// LookAt is what a look at a step of the ladder has to be weighed for: share is what
// still shone after passes. It returns false where it tells nothing: before the first
// pass, on a step that does not level, or on a soft backing.
func (w *Work) LookAt(step, passes int, share float64) (Look, bool) {
	st := w.ladder.Steps[step]
	l := Look{Backing: st.Backing, D50: st.D50, Scratch: st.Scratch, Rate: w.Rate(step).Mean, Grade: st.Before.Grade(), Passes: passes, Shiny: share}
	return l, passes > 0 && w.LookPays(step)
}

// LookPays says whether the share that still shines tells something of a step.
func (w *Work) LookPays(step int) bool {
	st := w.ladder.Steps[step]
	return st.Kind == plan.LevelStep && Look{Backing: st.Backing}.Informative()
}
