package schedule

import (
	"cmp"
	"math"
	"slices"
	"time"
)

// link is a task, by its number, with the least slots between.
type link struct{ to, lag int32 }

// job is a task as it is planned: times are slots from the start.
type job struct {
	task     *Task
	slots    int32
	machine  float64 // minutes a slot
	tool     int     // -1 for none
	car      int
	who      []int // who may do it, the least able first
	pre, suc []link
	from     int32
	tail     int32 // slots that come after it at least
	head     int32 // the first slot at which it can begin, by order and calendars alone
	first    bool  // before others: it was put there, or comes before one that was
	begun    bool
}

// net is a problem as it is planned.
type net struct {
	start    time.Time
	jobs     []job
	people   []Person
	calendar []calendar
	day      []int32 // of each slot
	openAt   []int32 // slots in which the shop is open before each slot
	caps     []int   // of each tool
	bays     int
	perCar   int
	cars     []string
	due      []int32 // of each car, in slots; never for none
	topo     []int32 // an order that all arcs follow
	faults   []Fault
	back     *net  // seen from the end of the horizon
	least    int32 // the bound, 0 before it is known
	// mostMachine is the most machine time in minutes of one job: it has a day of its own
	// where that is more than somebody's limit.
	mostMachine float64
}

const never = math.MaxInt32

// compile reads a problem. What cannot be planned is named among the faults and left out,
// and so is what would come after it.
func compile(p Problem) *net {
	n := &net{people: p.People, bays: p.Shop.Bays, perCar: p.Shop.PerCar}
	if n.perCar == 0 {
		n.perCar = usualPerCar
	}
	n.start = p.Now.Truncate(slot)
	if n.start.Before(p.Now) {
		n.start = n.start.Add(slot)
	}
	hours := open(n.start, p.Shop.Week, p.Shop.Holidays)
	n.day, n.openAt = make([]int32, len(hours)+1), make([]int32, len(hours)+1)
	for s, is := range hours {
		y, m, d := n.start.Add(time.Duration(s) * slot).Date()
		n.day[s] = int32(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / 86400)
		n.openAt[s+1] = n.openAt[s]
		if is {
			n.openAt[s+1]++
		}
	}
	n.day[len(hours)] = n.day[len(hours)-1] + 1
	for i := len(n.day) - 1; i >= 0; i-- {
		n.day[i] -= n.day[0]
	}
	for _, q := range p.People {
		c := calendarOf(both(hours, open(n.start, q.Week, q.Off)))
		if len(c.work) == 0 {
			n.faults = append(n.faults, Fault{Why: WhyNoHours, Person: q.Name})
		}
		n.calendar = append(n.calendar, c)
	}
	n.read(p)
	n.back = n.mirrored()
	return n
}

// able orders people by what they may do: who may run the finest grits only, and the fewest
// kinds, comes first.
func (n *net) able(a, b int) int {
	x, y := n.people[a], n.people[b]
	grain := func(p Person) float64 {
		if p.Coarsest == 0 {
			return math.Inf(1)
		}
		return p.Coarsest
	}
	kinds := func(p Person) int {
		if len(p.Kinds) == 0 {
			return len(Kinds)
		}
		return len(p.Kinds)
	}
	return cmp.Or(cmp.Compare(grain(x), grain(y)), cmp.Compare(kinds(x), kinds(y)), cmp.Compare(a, b))
}

// may says whether somebody may do a task.
func (q Person) may(t *Task) bool {
	return (t.Person == "" || t.Person == q.Name) && (q.Coarsest == 0 || t.Grain <= q.Coarsest) && (len(q.Kinds) == 0 || slices.Contains(q.Kinds, t.Kind))
}

// read makes the jobs of the tasks.
func (n *net) read(p Problem) {
	keys := map[string]int{}
	for i := range p.Tasks {
		keys[p.Tasks[i].Key] = i
	}
	left := make([]Why, len(p.Tasks)) // why a task is left out
	var faulty []int
	drop := func(i int, why Why) {
		if left[i] == "" {
			left[i] = why
			faulty = append(faulty, i)
		}
	}
	all := make([]int, len(n.people))
	for i := range all {
		all[i] = i
	}
	slices.SortFunc(all, n.able)
	after := make([][]int, len(p.Tasks)) // by task, those that come after it
	waits := make([]int, len(p.Tasks))
	who := make([][]int, len(p.Tasks))
	for i := range p.Tasks {
		t := &p.Tasks[i]
		for _, a := range t.After {
			k, there := keys[a.Key]
			if !there {
				n.faults = append(n.faults, Fault{Why: WhyUnknown, Key: t.Key, Others: []string{a.Key}})
				continue
			}
			after[k] = append(after[k], i)
			waits[i]++
		}
		named := false
		for _, w := range all {
			if n.people[w].may(t) {
				named = true
				if len(n.calendar[w].work) > 0 {
					who[i] = append(who[i], w)
				}
			}
		}
		switch {
		case len(who[i]) == 0 && named:
			drop(i, WhyNoHours)
		case len(who[i]) == 0:
			drop(i, WhySkill)
		}
		if !t.Until.IsZero() && t.From.After(t.Until) {
			n.faults = append(n.faults, Fault{Why: WhyTooLate, Key: t.Key})
		}
	}
	var order []int
	for i := range p.Tasks {
		if waits[i] == 0 {
			order = append(order, i)
		}
	}
	for k := 0; k < len(order); k++ {
		for _, i := range after[order[k]] {
			if waits[i]--; waits[i] == 0 {
				order = append(order, i)
			}
		}
	}
	if len(order) < len(p.Tasks) {
		n.cycle(p.Tasks, keys, waits, func(i int) { drop(i, WhyCycle) })
	}
	others := map[int][]string{}
	for k := 0; k < len(faulty); k++ { // whatever comes after one that is left out is never done
		root := faulty[k]
		for stack := []int{root}; len(stack) > 0; {
			at := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			for _, i := range after[at] {
				if left[i] == "" {
					left[i] = WhyNever
					others[root] = append(others[root], p.Tasks[i].Key)
					stack = append(stack, i)
				}
			}
		}
		if left[root] != WhyCycle {
			n.faults = append(n.faults, Fault{Why: left[root], Key: p.Tasks[root].Key, Others: others[root]})
		}
	}
	number := make([]int32, len(p.Tasks))
	cars, tools := map[string]int{}, map[string]int{}
	for _, c := range p.Cars {
		n.carOf(cars, c.ID)
		if !c.Due.IsZero() {
			n.due[cars[c.ID]] = n.slotOf(c.Due)
		}
	}
	for _, i := range order {
		if left[i] != "" {
			continue
		}
		t := &p.Tasks[i]
		number[i] = int32(len(n.jobs))
		j := job{task: t, slots: max(1, int32(math.Ceil(t.Minutes/slotMinutes-1e-9))), tool: -1, car: n.carOf(cars, t.Car), who: who[i], from: n.slotOf(t.From), begun: !t.Begun.IsZero()}
		j.machine = math.Min(t.Machine, t.Minutes) / float64(j.slots)
		n.mostMachine = math.Max(n.mostMachine, j.machine*float64(j.slots))
		if !t.At.IsZero() {
			j.from, j.first = max(j.from, n.slotOf(t.At)), true
		}
		if cap, limited := p.Shop.Machines[t.Tool]; t.Tool != "" && limited {
			if _, there := tools[t.Tool]; !there {
				tools[t.Tool] = len(n.caps)
				n.caps = append(n.caps, max(cap, 1))
			}
			j.tool = tools[t.Tool]
		}
		n.topo = append(n.topo, int32(len(n.jobs)))
		n.jobs = append(n.jobs, j)
	}
	for _, i := range order {
		if left[i] != "" {
			continue
		}
		for _, a := range p.Tasks[i].After {
			k, there := keys[a.Key]
			if !there || left[k] != "" {
				continue
			}
			lag := int32(math.Ceil(math.Max(a.Lag, 0)/slotMinutes - 1e-9))
			n.jobs[number[i]].pre = append(n.jobs[number[i]].pre, link{number[k], lag})
			n.jobs[number[k]].suc = append(n.jobs[number[k]].suc, link{number[i], lag})
		}
	}
	for k := len(n.topo) - 1; k >= 0; k-- {
		j := &n.jobs[n.topo[k]]
		for _, a := range j.suc {
			j.tail = max(j.tail, a.lag+n.jobs[a.to].slots+n.jobs[a.to].tail)
			j.first = j.first || n.jobs[a.to].first
		}
	}
	for _, k := range n.topo {
		j := &n.jobs[k]
		j.head = j.from
		for _, a := range j.pre {
			j.head = max(j.head, n.soonest(&n.jobs[a.to])+a.lag)
		}
	}
}

// soonest is the end of a job by its head, the order and the calendars alone.
func (n *net) soonest(j *job) int32 {
	end := int32(never)
	for _, w := range j.who {
		c := &n.calendar[w]
		if i := c.index(j.head); int(i+j.slots) <= len(c.work) {
			end = min(end, c.work[i+j.slots-1]+1)
		}
	}
	if end == never {
		return int32(len(n.openAt) - 1)
	}
	return end
}

func (n *net) carOf(cars map[string]int, id string) int {
	if _, there := cars[id]; !there {
		cars[id] = len(n.cars)
		n.cars, n.due = append(n.cars, id), append(n.due, never)
	}
	return cars[id]
}

// slotOf is the first slot that begins at a moment or after it; 0 for what is over.
func (n *net) slotOf(t time.Time) int32 {
	if t.IsZero() || !t.After(n.start) {
		return 0
	}
	return int32(min(ceilSlot(t.Sub(n.start)), len(n.openAt)-1))
}

func (n *net) timeOf(s int32) time.Time { return n.start.Add(time.Duration(s) * slot) }

// cycle names the tasks that come before themselves, each ring once; those behind them are
// left to whoever follows the arcs.
func (n *net) cycle(tasks []Task, keys map[string]int, waits []int, drop func(int)) {
	seen := make([]bool, len(tasks))
	for i := range tasks {
		if waits[i] == 0 || seen[i] {
			continue
		}
		var path []int
		for at := i; !seen[at]; {
			seen[at] = true
			path = append(path, at)
			for _, a := range tasks[at].After {
				if k, there := keys[a.Key]; there && waits[k] > 0 {
					at = k
					break
				}
			}
			if k := slices.Index(path, at); k >= 0 {
				f := Fault{Why: WhyCycle, Key: tasks[at].Key}
				for _, o := range path[k+1:] {
					f.Others = append(f.Others, tasks[o].Key)
				}
				for _, o := range path[k:] {
					drop(o)
				}
				n.faults = append(n.faults, f)
			}
		}
	}
}

// mirrored is the net with time running backwards.
func (n *net) mirrored() *net {
	m := &net{people: n.people, caps: n.caps, bays: n.bays, perCar: n.perCar, cars: n.cars, openAt: n.openAt}
	last := len(n.day) - 1
	m.day = make([]int32, len(n.day))
	for s := range n.day {
		m.day[s] = n.day[last] - n.day[max(0, last-1-s)]
	}
	for i := range n.calendar {
		m.calendar = append(m.calendar, n.calendar[i].mirrored())
	}
	m.jobs = slices.Clone(n.jobs)
	for i := range m.jobs {
		j := &m.jobs[i]
		j.pre, j.suc, j.from = j.suc, j.pre, 0
	}
	return m
}
