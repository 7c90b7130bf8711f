package schedule_test

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"testing"
	"time"

	"waxplanus/core/practice"
	. "waxplanus/core/schedule"
)

var monday = time.Date(2026, 3, 2, 8, 0, 0, 0, time.UTC)

func usual(tasks []Task, people ...Person) Problem {
	if len(people) == 0 {
		people = []Person{{Name: "Ada", Week: UsualWeek()}}
	}
	return Problem{Now: monday, Tasks: tasks, People: people, Shop: Shop{Week: UsualWeek()}}
}

func byKey(r Result) map[string]Placed {
	out := map[string]Placed{}
	for _, p := range r.Placed {
		out[p.Key] = p
	}
	return out
}

// holds checks that a plan keeps everything that a problem asks for.
func holds(t *testing.T, in Problem, r Result) {
	t.Helper()
	at := byKey(r)
	busy, machine, tools, cars := map[string]string{}, map[string]float64{}, map[string]int{}, map[string]map[string]int{}
	people := map[string]Person{}
	for _, p := range in.People {
		people[p.Name] = p
	}
	longest := 0.0
	for _, task := range in.Tasks {
		longest = math.Max(longest, task.Machine)
	}
	for _, task := range in.Tasks {
		p, there := at[task.Key]
		if !there {
			continue
		}
		who := people[p.Person]
		if p.Start.Before(in.Now) || p.Start.Before(task.From) || p.Start.Before(task.At) || task.Person != "" && task.Person != p.Person ||
			who.Coarsest > 0 && task.Grain > who.Coarsest || len(who.Kinds) > 0 && !slices.Contains(who.Kinds, task.Kind) {
			t.Fatalf("%+v is %+v", task, p)
		}
		for _, a := range task.After {
			if b, planned := at[a.Key]; planned && p.Start.Before(b.End.Add(time.Duration(a.Lag)*time.Minute)) {
				t.Fatalf("%s begins at %v, %s ends at %v", task.Key, p.Start, a.Key, b.End)
			}
		}
		worked := 0.0
		for m := p.Start; m.Before(p.End); m = m.Add(5 * time.Minute) {
			if !working(who.Week, m) || !working(in.Shop.Week, m) {
				continue
			}
			worked += 5
			if other, taken := busy[p.Person+m.String()]; taken {
				t.Fatalf("%s does %s and %s at %v", p.Person, task.Key, other, m)
			}
			busy[p.Person+m.String()] = task.Key
			if cap, limited := in.Shop.Machines[task.Tool]; limited && task.Tool != "" {
				if tools[task.Tool+m.String()]++; tools[task.Tool+m.String()] > cap {
					t.Fatalf("more than %d %s at %v", cap, task.Tool, m)
				}
			}
			if cars[m.String()] == nil {
				cars[m.String()] = map[string]int{}
			}
			cars[m.String()][task.Car]++
			machine[p.Person+Day(m)] += task.Machine * 5 / (5 * math.Ceil(task.Minutes/5-1e-9))
		}
		if math.Abs(worked-5*math.Max(1, math.Ceil(task.Minutes/5-1e-9))) > 1e-6 {
			t.Fatalf("%s of %.1f min has %.0f", task.Key, task.Minutes, worked)
		}
	}
	for when, all := range cars {
		if in.Shop.Bays > 0 && len(all) > in.Shop.Bays {
			t.Fatalf("%d cars in %d bays at %s", len(all), in.Shop.Bays, when)
		}
		for car, n := range all {
			if n > 2 && in.Shop.PerCar == 0 {
				t.Fatalf("%d people at %s at %s", n, car, when)
			}
		}
	}
	for _, p := range in.People {
		for d := range 90 {
			if used := machine[p.Name+Day(in.Now.AddDate(0, 0, d))]; p.Machine > 0 && used > math.Max(p.Machine, longest)+1e-6 {
				t.Fatalf("%s runs machines for %.0f min on a day", p.Name, used)
			}
		}
	}
	if r.Bound.After(r.End) {
		t.Fatalf("no plan ends before %v, this one at %v", r.Bound, r.End)
	}
}

func Day(t time.Time) string { return t.Format(time.DateOnly) }

func working(w Week, m time.Time) bool {
	at := m.Hour()*60 + m.Minute()
	return slices.ContainsFunc(w[m.Weekday()], func(s Span) bool { return at >= s.From && at+5 <= s.To })
}

func TestAFullShopIsPlannedWithinAllItsLimits(t *testing.T) {
	for seed := uint64(1); seed <= 6; seed++ {
		in := practice.Shopful(seed, 6, 4, 150)
		in.Rounds = 6
		r := Make(in)
		if len(r.Placed) != len(in.Tasks) || len(r.Faults) > 0 {
			t.Fatalf("%d of %d tasks, %+v", len(r.Placed), len(in.Tasks), r.Faults)
		}
		holds(t, in, r)
		if again := Make(in); !reflect.DeepEqual(r, again) {
			t.Fatal("the same problem and seed gave another plan")
		}
		in.Before = r.Placed
		if same := Make(in); len(same.Moved) > 0 {
			t.Fatalf("nothing changed and %d tasks moved", len(same.Moved))
		}
	}
}

// Where the best plan is known, the bound is it and the search finds it.
func TestTheBoundIsReachedWhereItCanBe(t *testing.T) {
	var row, loose []Task
	for i := range 12 {
		task := Task{Key: fmt.Sprint(i), Car: fmt.Sprint(i % 3), Kind: Wash, Minutes: 60}
		loose = append(loose, task)
		if task.Car = "one"; i > 0 {
			task.After = []Arc{{Key: fmt.Sprint(i - 1), Lag: 30}}
		}
		row = append(row, task)
	}
	two := []Person{{Name: "Ada", Week: UsualWeek()}, {Name: "Bo", Week: UsualWeek()}}
	for name, in := range map[string]Problem{"one after the other": usual(row), "side by side": usual(loose, two...)} {
		r := Make(in)
		holds(t, in, r)
		if r.Gap != 0 || !r.End.Equal(r.Bound) {
			t.Errorf("%s: ends at %v, bound %v", name, r.End, r.Bound)
		}
	}
	in := usual(loose, two...)
	for i := range in.Tasks {
		in.Tasks[i].Machine, in.Tasks[i].Tool = 50, "rotary"
	}
	for i := range in.People {
		in.People[i].Machine = 120 // two tasks a day each: three days for twelve
	}
	if r := Make(in); r.Gap > 0.1 || Day(r.End) != "2026-03-04" {
		t.Errorf("by machine time: ends at %v, bound %v", r.End, r.Bound)
	}
	in.Shop.Machines = map[string]int{"rotary": 1}
	if r := Make(in); r.End.Before(r.Bound) {
		t.Errorf("one machine: %v before %v", r.End, r.Bound)
	}
}

func TestPaintThatIsSoftAndNightsAreWaitedFor(t *testing.T) {
	tasks := []Task{
		{Key: "roof", Car: "van", Kind: Block, Minutes: 60, From: monday.Add(26 * time.Hour)},
		{Key: "side", Car: "van", Kind: Block, Minutes: 300, After: []Arc{{Key: "roof"}}},
		{Key: "coat", Car: "van", Kind: Coat, Minutes: 30, After: []Arc{{Key: "side"}}},
		{Key: "second", Car: "van", Kind: Second, Minutes: 30, After: []Arc{{Key: "coat", Lag: 120}}},
	}
	in := usual(tasks)
	r := Make(in)
	holds(t, in, r)
	at := byKey(r)
	if got := at["roof"]; !got.Start.Equal(monday.Add(26*time.Hour)) || got.Because.Why != WhyCure || !got.Because.Until.Equal(tasks[0].From) {
		t.Errorf("%+v", got)
	}
	if got := at["side"]; got.Because.Why != WhyAfter || got.Because.Key != "roof" || got.Because.Until.IsZero() {
		t.Errorf("%+v", got)
	}
	if got := r.Chain(tasks, "van"); !slices.Equal(got, []string{"roof", "side", "coat", "second"}) {
		t.Errorf("the chain is %v", got)
	}
	if r.Gap != 0 {
		t.Errorf("a chain has a gap of %v", r.Gap)
	}
}

func TestWhatCannotBePlannedIsNamedAndTheRestIsPlanned(t *testing.T) {
	good := Task{Key: "good", Car: "b", Kind: Wash, Minutes: 30}
	helper := Person{Name: "Bo", Week: UsualWeek(), Coarsest: 6, Kinds: []Kind{Wash, Refine, Polish}}
	for name, c := range map[string]struct {
		tasks  []Task
		people []Person
		want   Fault
	}{
		"a ring": {[]Task{good, {Key: "x", Kind: Wash, Minutes: 5, After: []Arc{{Key: "z"}}}, {Key: "y", Kind: Wash, Minutes: 5, After: []Arc{{Key: "x"}}},
			{Key: "z", Kind: Wash, Minutes: 5, After: []Arc{{Key: "y"}}}, {Key: "behind", Kind: Wash, Minutes: 5, After: []Arc{{Key: "z"}}}}, nil, Fault{Why: WhyCycle, Key: "x", Others: []string{"z", "y"}}},
		"a grit that nobody may run":           {[]Task{good, {Key: "x", Kind: Refine, Grain: 12, Minutes: 5}, {Key: "y", Kind: Polish, Minutes: 5, After: []Arc{{Key: "x"}}}}, []Person{helper}, Fault{Why: WhySkill, Key: "x", Others: []string{"y"}}},
		"a kind that nobody does":              {[]Task{good, {Key: "x", Kind: Runs, Minutes: 5}}, []Person{helper}, Fault{Why: WhySkill, Key: "x"}},
		"somebody who is not there":            {[]Task{good, {Key: "x", Kind: Wash, Minutes: 5, Person: "Cy"}}, []Person{helper}, Fault{Why: WhySkill, Key: "x"}},
		"somebody without hours":               {[]Task{good}, []Person{helper, {Name: "Cy"}}, Fault{Why: WhyNoHours, Person: "Cy"}},
		"the only one without hours":           {[]Task{good, {Key: "x", Kind: Runs, Minutes: 5}}, []Person{helper, {Name: "Cy"}}, Fault{Why: WhyNoHours, Key: "x"}},
		"something that is not there":          {[]Task{good, {Key: "x", Kind: Wash, Minutes: 5, After: []Arc{{Key: "gone"}}}}, nil, Fault{Why: WhyUnknown, Key: "x", Others: []string{"gone"}}},
		"a window that ends too early":         {[]Task{good, {Key: "x", Kind: Wash, Minutes: 5, From: monday.Add(48 * time.Hour), Until: monday.Add(24 * time.Hour)}}, nil, Fault{Why: WhyTooLate, Key: "x"}},
		"more than the time that is looked at": {[]Task{good, {Key: "x", Kind: Wash, Minutes: 5, From: monday.AddDate(2, 0, 0)}}, nil, Fault{Why: WhyNoRoom, Key: "x"}},
	} {
		in := usual(c.tasks, c.people...)
		r := Make(in)
		if !slices.ContainsFunc(r.Faults, func(f Fault) bool { return reflect.DeepEqual(f, c.want) }) {
			t.Errorf("%s: %+v", name, r.Faults)
		}
		if _, planned := byKey(r)["good"]; !planned {
			t.Errorf("%s: the rest is not planned", name)
		}
	}
	if r := Make(usual(nil)); len(r.Placed) != 0 || r.Gap != 0 {
		t.Errorf("an empty shop: %+v", r)
	}
}

// One change moves what has to move, says why, and lets the rest be.
func TestOneChangeMovesLittle(t *testing.T) {
	in := practice.Shopful(3, 12, 6, 600)
	in.Rounds = 2
	first := Make(in)
	in.Before = first.Placed
	in.Tasks[40].Minutes += 45
	second := Make(in)
	holds(t, in, second)
	if n := len(second.Moved); n == 0 || n > len(in.Tasks)/3 {
		t.Errorf("%d of %d tasks moved", n, len(in.Tasks))
	}
	for _, m := range second.Moved {
		if m.Because.Why == "" || m.Because.Why == WhyStays {
			t.Fatalf("%s moved from %v to %v and nothing says why: %+v", m.Key, m.Was.Start, m.Start, m.Because)
		}
	}
	// Somebody is away for two days: what was theirs then goes to others or later.
	in.Before = second.Placed
	in.People[0].Off = []Days{{From: Day(in.Now), To: Day(in.Now.AddDate(0, 0, 1))}}
	third := Make(in)
	for _, p := range third.Placed {
		if p.Person == in.People[0].Name && in.People[0].Off[0].Has(Day(p.Start)) {
			t.Fatalf("%s works on a day off: %+v", p.Person, p)
		}
	}
	// What has begun stays, whatever comes.
	begun := slices.IndexFunc(in.Tasks, func(task Task) bool { return task.Key == third.Placed[0].Key })
	in.Before, in.Tasks[begun].Begun, in.Tasks[begun].Person = third.Placed, in.Now.Add(-20*time.Minute), third.Placed[0].Person
	if got := byKey(Make(in))[in.Tasks[begun].Key]; !got.Start.Equal(in.Tasks[begun].Begun) || got.Because.Why != WhyBegun {
		t.Errorf("%+v", got)
	}
}

func TestMovingByHandKeepsOrderCureSkillsAndHours(t *testing.T) {
	helper := Person{Name: "Bo", Week: UsualWeek(), Coarsest: 6}
	tasks := []Task{
		{Key: "block", Car: "van", Kind: Block, Grain: 12, Minutes: 60},
		{Key: "refine", Car: "van", Kind: Refine, Grain: 6, Minutes: 60, After: []Arc{{Key: "block"}}},
		{Key: "soft", Car: "van", Kind: Nibs, Minutes: 30, From: monday.Add(24 * time.Hour)},
	}
	in := usual(tasks, Person{Name: "Ada", Week: UsualWeek()}, helper)
	r := Make(in)
	for name, c := range map[string]struct {
		key, person string
		at          time.Time
		want        Why
		until       time.Time
	}{
		"free":                      {"refine", "Bo", monday.Add(3 * time.Hour), "", time.Time{}},
		"before what it waits for":  {"refine", "Bo", monday.Add(30 * time.Minute), WhyAfter, monday.Add(time.Hour)},
		"a grit that Bo may not":    {"block", "Bo", monday, WhySkill, time.Time{}},
		"somebody who is not there": {"block", "Cy", monday, WhySkill, time.Time{}},
		"while it is soft":          {"soft", "Ada", monday.Add(2 * time.Hour), WhyCure, monday.Add(24 * time.Hour)},
		"at noon":                   {"block", "Ada", monday.Add(4 * time.Hour), WhyHours, monday.Add(4*time.Hour + 30*time.Minute)},
		"at night":                  {"block", "Ada", monday.Add(14 * time.Hour), WhyHours, monday.Add(24 * time.Hour)},
		"what there is not":         {"none", "Ada", monday, WhyUnknown, time.Time{}},
	} {
		got := r.CanMove(in, c.key, c.person, c.at)
		if c.want == "" && got != nil || c.want != "" && (got == nil || got.Why != c.want || !got.Until.Equal(c.until)) {
			t.Errorf("%s: %+v", name, got)
		}
	}
	in.Before, in.Tasks[1].At, in.Tasks[1].Person = r.Placed, monday.Add(26*time.Hour), "Ada"
	if got := byKey(Make(in))["refine"]; !got.Start.Equal(in.Tasks[1].At) || got.Person != "Ada" || got.Because.Why != WhyPut {
		t.Errorf("put there by hand: %+v", got)
	}
}

func BenchmarkMake(b *testing.B) {
	in := practice.Shopful(1, 12, 6, 600)
	for b.Loop() {
		Make(in)
	}
}

func BenchmarkAgain(b *testing.B) {
	in := practice.Shopful(1, 12, 6, 600)
	in.Before = Make(in).Placed
	in.Tasks[40].Minutes += 45
	for b.Loop() {
		Make(in)
	}
}
