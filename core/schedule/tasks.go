package schedule

import (
	"fmt"
	"math"
	"slices"
	"time"

	"waxplanus/core/shelf"
)

// StepWork is what is left of a step on a panel.
type StepWork struct {
	No      int // of the step, from 1 on
	Kind    Kind
	Minutes float64
	Machine float64
	Tool    string
	Grain   float64
	Person  string    // who works it, where passes of it were made
	Begun   time.Time // when the first of them was made
	What    string    // grit or compound
	Item    string    // of the shelf
	Much    float64
}

// PanelWork is what is left to do on a panel; minutes are 0 where nothing is.
type PanelWork struct {
	Key    string
	ID     string
	Name   string
	Rank   int // of its height on the car, the highest 0
	Read   float64
	Mask   float64 // with what is washed and taped there
	Tape   float64 // m of it, for all of the panel
	Runs   float64
	Nibs   float64
	Steps  []StepWork
	Clean  float64
	Wipe   float64
	Check  float64
	Soft   time.Time // until when its runs are soft inside
	Sand   time.Time // from when it may be sanded, zero for any time
	Polish time.Time
	Well   time.Time // until when it cuts well
}

// CarWork is what is left to do on a car.
type CarWork struct {
	Car       string
	In        time.Time // from when it is in the shop
	Wash      float64
	Strip     float64
	Look      float64
	Plan      float64
	Panels    []PanelWork
	Coats     int // of wax or a coating, of so many minutes, so many hours apart
	Coat      float64
	Between   float64 // h
	HandOver  float64
	Stagewise bool // one stage goes over all panels before the next
}

// Longest parts of a step: a longer one is planned in parts, so that it can change hands and
// nobody runs a machine for hours on end.
const (
	longestPart    = 120.0
	longestMachine = 75.0 // min of machine time
)

// Tasks are those of a car in the order of work: what is done to all of it at once, then each
// panel from the highest down, and what is done to all of it at the end.
func (c CarWork) Tasks() []Task {
	b := builder{car: c, step: map[string]int{}, panel: map[string]string{}}
	read, mask, tape, clean, wipe, check := 0.0, 0.0, 0.0, 0.0, 0.0, 0.0
	for _, p := range c.Panels {
		if p.Mask > 0 {
			tape += p.Tape
		}
		read, mask, clean, wipe, check = read+p.Read, mask+p.Mask, clean+p.Clean, wipe+p.Wipe, check+p.Check
	}
	in := Task{From: c.In}
	var at []string
	for _, t := range []struct {
		kind    Kind
		minutes float64
	}{{Wash, c.Wash}, {Strip, c.Strip}, {Look, c.Look}, {Read, read}, {Plan, c.Plan}, {Mask, mask}} {
		task := in
		if t.kind == Mask && tape > 0 {
			task.Item, task.Much = shelf.TapeKey, tape
		}
		at = b.add("", t.kind, 0, t.minutes, task, at...)
	}
	ready := at
	var ends []string
	stage := map[int][]string{} // by the number of a step, its last parts on all panels
	for _, p := range c.Panels {
		task := Task{Rank: 100 * p.Rank, From: later(c.In, p.Sand), Until: p.Well}
		run := task
		run.From = later(run.From, p.Soft)
		at = b.add(p.Key, Runs, 0, p.Runs, run, ready...)
		at = b.add(p.Key, Nibs, 0, p.Nibs, task, at...)
		for _, s := range p.Steps {
			t := task
			t.Tool, t.Grain, t.Machine = s.Tool, s.Grain, s.Machine
			t.Person, t.Begun, t.What, t.Item, t.Much = s.Person, s.Begun, s.What, s.Item, s.Much
			if s.Kind == Compound || s.Kind == Polish {
				t.From, t.Until = later(c.In, p.Polish), time.Time{}
			}
			at = b.add(p.Key, s.Kind, s.No, s.Minutes, t, at...)
			if len(at) > 0 {
				stage[s.No] = append(stage[s.No], at[len(at)-1])
			}
		}
		ends = append(ends, at...)
	}
	if len(c.Panels) == 0 {
		ends = ready
	}
	b.stages(stage)
	slices.Sort(ends)
	at = b.add("", Clean, 0, clean, in, slices.Compact(ends)...)
	at = b.add("", Wipe, 0, wipe, in, at...)
	at = b.add("", Check, 0, check, in, at...)
	for i := range c.Coats {
		kind, lag := Coat, 0.0
		if i > 0 {
			kind, lag = Second, 60*c.Between
		}
		at = b.after(lag, "", kind, 0, c.Coat, in, at...)
	}
	b.add("", HandOver, 0, c.HandOver, in, at...)
	for i, t := range b.tasks {
		for _, p := range c.Panels {
			if t.Panel == p.Key {
				b.tasks[i].Panel, b.tasks[i].Name = p.ID, p.Name
			}
		}
	}
	return b.tasks
}

// builder makes the tasks of a car.
type builder struct {
	car   CarWork
	tasks []Task
	step  map[string]int // of a task, 0 for none
	panel map[string]string
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// add adds a task of so many minutes after others, in parts where it is long, and gives what
// comes after it has to wait for: the others themselves where there is nothing to do.
func (b *builder) add(panel string, kind Kind, no int, minutes float64, t Task, after ...string) []string {
	return b.after(0, panel, kind, no, minutes, t, after...)
}

func (b *builder) after(lag float64, panel string, kind Kind, no int, minutes float64, t Task, after ...string) []string {
	if minutes <= 0 {
		return after
	}
	parts := max(1, int(math.Ceil(minutes/longestPart-1e-9)), int(math.Ceil(t.Machine/longestMachine-1e-9)))
	machine, rank, much, begun := t.Machine, t.Rank, t.Much, t.Begun
	for i := range parts {
		t.Car, t.Panel, t.Kind = b.car.Car, panel, kind
		t.Key = fmt.Sprintf("%s/%s/%s/%d", b.car.Car, panel, kind, no)
		if parts > 1 {
			t.Key += fmt.Sprintf("/%d", i+1)
		}
		n := float64(parts)
		t.Minutes, t.Machine, t.Much, t.After, t.Rank = minutes/n, machine/n, much/n, nil, rank+len(b.tasks)%100
		if t.Begun = begun; i > 0 {
			t.Begun = time.Time{}
		}
		for _, key := range after {
			t.After = append(t.After, Arc{Key: key, Lag: lag})
		}
		b.tasks = append(b.tasks, t)
		b.step[t.Key], b.panel[t.Key] = no, panel
		after, lag = []string{t.Key}, 0
	}
	return after
}

// stages has each step of any panel come after the step before it on all panels, where that
// is how the house works: last are the last parts of each step, by its number.
func (b *builder) stages(last map[int][]string) {
	if !b.car.Stagewise {
		return
	}
	for i := range b.tasks {
		t := &b.tasks[i]
		for _, key := range last[b.step[t.Key]-1] {
			if b.step[t.Key] > 1 && b.panel[key] != b.panel[t.Key] {
				t.After = append(t.After, Arc{Key: key})
			}
		}
	}
}
