// Package schedule says who does what when: the tasks of all cars in the shop with their
// order, the waits of fresh paint, people with their hours and what they may do, machines and
// bays. It is a resource-constrained project scheduling problem on the calendars of people;
// see Make for how it is solved and Bound for how far it can be from the best.
package schedule

import (
	"slices"
	"time"
)

// Kind is what a task is.
type Kind string

// The kinds of tasks, in the order of work.
const (
	Wash     Kind = "wash"
	Strip    Kind = "strip"
	Look     Kind = "look"
	Read     Kind = "read"
	Plan     Kind = "plan"
	Mask     Kind = "mask"
	Runs     Kind = "runs"
	Nibs     Kind = "nibs"
	Block    Kind = "block"
	Refine   Kind = "refine"
	Compound Kind = "compound"
	Polish   Kind = "polish"
	Clean    Kind = "clean"
	Wipe     Kind = "wipe"
	Check    Kind = "check"
	Coat     Kind = "coat"
	Second   Kind = "second_coat"
	Dry      Kind = "dry"
	HandOver Kind = "hand_over"
)

// Kinds lists the kinds in the order of work.
var Kinds = []Kind{Wash, Strip, Look, Read, Plan, Mask, Runs, Nibs, Block, Refine, Compound, Polish, Clean, Wipe, Check, Coat, Second, Dry, HandOver}

// UsualKinds are the kinds that cars have today, in the order of work: of the others nobody plans any
// yet.
var UsualKinds = []Kind{Wash, Strip, Look, Read, Plan, Mask, Runs, Nibs, Block, Refine, Compound, Polish, Clean, Wipe, Check, Coat, Second, HandOver}

// Takes says whether a task of the kind takes film.
func (k Kind) Takes() bool {
	return slices.Contains([]Kind{Runs, Nibs, Block, Refine, Compound, Polish}, k)
}

// Arc is a task that comes before another one, which begins Lag minutes of the clock after
// its end or later.
type Arc struct {
	Key string  `json:"key"`
	Lag float64 `json:"lag_min,omitempty"`
}

// Task is a piece of work that one person does.
type Task struct {
	Key     string  `json:"key"` // names it among all
	Car     string  `json:"car"`
	Panel   string  `json:"panel,omitempty"` // its id
	Name    string  `json:"name,omitempty"`  // of the panel
	What    string  `json:"what,omitempty"`  // grit or compound
	Kind    Kind    `json:"kind"`
	Minutes float64 `json:"minutes"`
	Machine float64 `json:"machine_min,omitempty"` // of them, that a machine runs
	Tool    string  `json:"tool,omitempty"`        // the machine that it takes; empty for none
	Grain   float64 `json:"grain_um,omitempty"`    // median grain of its grit, 0 for none: coarse ones are not for everybody
	After   []Arc   `json:"after,omitempty"`
	// From is when it may begin at the earliest, as paint hardens, and Until until when it
	// should be done; zero for any time.
	From  time.Time `json:"from,omitzero"`
	Until time.Time `json:"until,omitzero"`
	// Person and At are whom somebody gave it to, and where it was put: it begins no earlier
	// and comes before others.
	Person string    `json:"person,omitempty"`
	At     time.Time `json:"at,omitzero"`
	// Begun is when it was begun, by Person; it is not moved any more.
	Begun time.Time `json:"begun,omitzero"`
	Rank  int       `json:"rank,omitempty"` // in its car: lower ones come first, as high panels do
	// Item and Much are what it uses up of the shelf: pieces, or ml.
	Item string  `json:"item,omitempty"`
	Much float64 `json:"much,omitempty"`
}

// Span is a part of a day in minutes from midnight.
type Span struct {
	From int `json:"from"`
	To   int `json:"to"`
}

// Week are the spans of work of each day of the week, Sunday being 0.
type Week [7][]Span

// UsualWeek is that of a shop that said nothing: Monday to Friday, with a break at noon.
func UsualWeek() Week {
	var w Week
	for d := time.Monday; d <= time.Friday; d++ {
		w[d] = []Span{{8 * 60, 12 * 60}, {12*60 + 30, 17 * 60}}
	}
	return w
}

// Minutes of work in a week.
func (w Week) Minutes() int {
	sum := 0
	for _, day := range w {
		for _, s := range day {
			sum += max(0, s.To-s.From)
		}
	}
	return sum
}

// Person is somebody who works.
type Person struct {
	Name string `json:"name"`
	Week Week   `json:"week"`
	Off  []Days `json:"off,omitempty"`
	// Coarsest is the median grain in µm of the coarsest grit that they may run; 0 for any.
	Coarsest float64 `json:"coarsest_um,omitempty"`
	Kinds    []Kind  `json:"kinds,omitempty"` // what they may do; none for all
	// Machine is the most minutes in a day that they run machines; 0 for no limit.
	Machine float64 `json:"machine_min,omitempty"`
}

// Days are days off, both included, as 2006-01-02.
type Days struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// Has says whether a day is among them.
func (d Days) Has(day string) bool { return day >= d.From && day <= d.To }

// Shop is where the work is done.
type Shop struct {
	Week     Week           `json:"week"`
	Holidays []Days         `json:"holidays,omitempty"`
	Bays     int            `json:"bays,omitempty"`     // cars that are worked on at once; 0 for no limit
	Machines map[string]int `json:"machines,omitempty"` // of a tool; none for no limit
	PerCar   int            `json:"per_car,omitempty"`  // people at one car at once; 0 for the usual
}

// usualPerCar is how many people work at one car at once: the helper behind the leveller.
const usualPerCar = 2

// Car is what was promised of a car.
type Car struct {
	ID  string    `json:"id"`
	Due time.Time `json:"due,omitzero"`
}

// Placed is a task with who does it when. A task that lasts over a closing goes on at the
// next opening.
type Placed struct {
	Key     string    `json:"key"`
	Person  string    `json:"person"`
	Start   time.Time `json:"start"`
	End     time.Time `json:"end"`
	Because Because   `json:"because"`
}

// Why is the kind of reason for a task not to begin earlier.
type Why string

// What holds a task.
const (
	WhyNow     Why = "now"      // it begins as soon as somebody can
	WhyAfter   Why = "after"    // the task Key comes before
	WhyCure    Why = "cure"     // paint is soft until then
	WhyPerson  Why = "person"   // who does it does Key before
	WhyHours   Why = "hours"    // nobody who may do it works before
	WhyMachine Why = "machine"  // all machines of its kind are in use
	WhyLimit   Why = "limit"    // the machine time of the day is used up
	WhyBay     Why = "bay"      // all bays are taken
	WhyCar     Why = "car"      // enough people are at the car
	WhyPut     Why = "put"      // somebody put it there
	WhyBegun   Why = "begun"    // it was begun then
	WhyStays   Why = "stays"    // it is where it was planned before
	WhyNoRoom  Why = "no_room"  // no room is left in the time that is looked at
	WhyCycle   Why = "cycle"    // it comes before itself
	WhySkill   Why = "no_skill" // nobody may do it
	WhyNoHours Why = "no_hours" // a person works at no time
	WhyNever   Why = "never"    // something before it is never done
	WhyTooLate Why = "too_late" // it may begin only once it should be done
	WhyUnknown Why = "unknown"  // what it comes after is not there
)

// Because is what holds a task: another one, or until when.
type Because struct {
	Why   Why       `json:"why"`
	Key   string    `json:"key,omitempty"`
	Until time.Time `json:"until,omitzero"`
}

// Fault is something that cannot be planned as it is: of a task, or of a person. Others are
// the tasks that are left out with it.
type Fault struct {
	Why    Why      `json:"why"`
	Key    string   `json:"key,omitempty"`
	Person string   `json:"person,omitempty"`
	Others []string `json:"others,omitempty"`
}

// Problem is what is to be planned, from Now on.
type Problem struct {
	Now    time.Time
	Tasks  []Task
	People []Person
	Shop   Shop
	Cars   []Car
	Seed   uint64
	// Rounds is how often a better order is looked for; 0 for the usual.
	Rounds int
	// Before is the plan of before: what can stay stays.
	Before []Placed
}

// Result is a plan.
type Result struct {
	Placed []Placed // by start
	Faults []Fault
	End    time.Time // of the last task
	Bound  time.Time // no plan ends before
	Gap    float64   // how much longer it takes than the bound, in hours in which the shop is open
	Late   []string  // cars that are done after what was promised
	Moved  []Move    // against the plan of before
}

// Move is a task that is not where it was.
type Move struct {
	Placed
	Was Placed
}
