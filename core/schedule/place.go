package schedule

import (
	"container/heap"
	"slices"
)

// placing is a plan while it is made: what every job has, and what is taken by then.
type placing struct {
	*net
	start, end []int32
	who        []int
	because    []cause
	taken      [][]int32   // by person and number of working slot: the job, -1 for none
	tools      [][]int32   // by tool and slot: how many are in use
	atCar      [][]int8    // by car and slot: how many people
	bay        []int32     // by slot: cars that are worked on
	machine    [][]float64 // by person and day: minutes
	last       int32       // the latest end
	// bias is how many slots later somebody counts for each kind of person who may do less.
	bias int32
	// hour and running are what a slot of somebody's time and of their machine time counts,
	// in slots: what is scarce is not given to who is not needed.
	hour, running []float64
	// keep is where a job was before, if it can stay there; nil where there is no plan of before.
	keep func(id, est int32) (who int, i int32, ok bool)
	// before books what stays where it was before anything else is placed.
	before func()
}

// cause is what held a job: another job, -1 for none.
type cause struct {
	why Why
	job int32
}

func (n *net) placing() *placing {
	p := &placing{net: n, start: make([]int32, len(n.jobs)), end: make([]int32, len(n.jobs)), who: make([]int, len(n.jobs)), because: make([]cause, len(n.jobs))}
	slots := len(n.openAt)
	for i := range n.people {
		t := make([]int32, len(n.calendar[i].work))
		for k := range t {
			t[k] = -1
		}
		p.taken = append(p.taken, t)
		p.machine = append(p.machine, make([]float64, n.day[slots-1]+2))
	}
	for range n.caps {
		p.tools = append(p.tools, make([]int32, slots))
	}
	for range n.cars {
		p.atCar = append(p.atCar, make([]int8, slots))
	}
	p.bay = make([]int32, slots)
	return p
}

// clear takes all jobs off again.
func (p *placing) clear() {
	last := min(int(p.last)+1, len(p.bay))
	for i, t := range p.taken {
		for k := range min(int(p.calendar[i].index(int32(last)))+1, len(t)) {
			t[k] = -1
		}
		clear(p.machine[i])
	}
	for _, t := range p.tools {
		clear(t[:last])
	}
	for _, c := range p.atCar {
		clear(c[:last])
	}
	clear(p.bay[:last])
	p.last = 0
	for i := range p.end {
		p.end[i] = 0
	}
}

// short is the longest job in slots that is not cut by a break.
const short = 4

// fit is the first number of a working slot, from est on, at which somebody can begin a job
// and nothing is in the way; false where there is none, with what was in the way last.
func (p *placing) fit(j *job, who int, est int32) (int32, cause, bool) {
	c, why := &p.calendar[who], cause{WhyNow, -1}
	taken, limit := p.taken[who], p.people[who].Machine
	i := c.index(est)
	if int(i) < len(c.work) && c.work[i] > est {
		why = cause{WhyHours, -1}
	}
	atCar := p.atCar[j.car]
next:
	for int(i+j.slots) <= len(c.work) {
		for k := j.slots - 1; k >= 0; k-- {
			s := c.work[i+k]
			switch {
			case taken[i+k] >= 0:
				why = cause{WhyPerson, taken[i+k]}
			case j.tool >= 0 && p.tools[j.tool][s] >= int32(p.caps[j.tool]):
				why = cause{WhyMachine, -1}
			case int(atCar[s]) >= p.perCar:
				why = cause{WhyCar, -1}
			case p.bays > 0 && atCar[s] == 0 && int(p.bay[s]) >= p.bays:
				why = cause{WhyBay, -1}
			default:
				continue
			}
			i += k + 1
			continue next
		}
		if j.slots <= short {
			for k := j.slots - 1; k > 0; k-- {
				if c.work[i+k] != c.work[i+k-1]+1 {
					i += k
					why = cause{WhyHours, -1}
					continue next
				}
			}
		}
		if j.machine > 0 && limit > 0 {
			if day, over := p.over(j, who, i, limit); over {
				for int(i) < len(c.work) && p.day[c.work[i]] <= day {
					i++
				}
				why = cause{WhyLimit, -1}
				continue next
			}
		}
		return i, why, true
	}
	return 0, why, false
}

// over says on which day a job that somebody begins at a working slot takes more machine time
// than is left of the limit. A job that is more than a day's by itself has a day of its own.
func (p *placing) over(j *job, who int, i int32, limit float64) (int32, bool) {
	c, used := &p.calendar[who], p.machine[who]
	for k := int32(0); k < j.slots; {
		day, minutes := p.day[c.work[i+k]], 0.0
		for k < j.slots && p.day[c.work[i+k]] == day {
			minutes += j.machine
			k++
		}
		if used[day] > 0 && used[day]+minutes > limit+1e-9 {
			return day, true
		}
	}
	return 0, false
}

// book gives a job to somebody from a working slot on.
func (p *placing) book(id int32, who int, i int32, why cause) {
	j, c := &p.jobs[id], &p.calendar[who]
	for k := range j.slots {
		s := c.work[i+k]
		p.taken[who][i+k] = id
		if j.tool >= 0 {
			p.tools[j.tool][s]++
		}
		if p.atCar[j.car][s]++; p.atCar[j.car][s] == 1 {
			p.bay[s]++
		}
		p.machine[who][p.day[s]] += j.machine
	}
	p.start[id], p.end[id], p.who[id], p.because[id] = c.work[i], c.work[i+j.slots-1]+1, who, why
	p.last = max(p.last, p.end[id])
}

// booked says whether a job has its place.
func (p *placing) booked(id int32) bool { return p.end[id] > 0 }

// unbook takes a job away again.
func (p *placing) unbook(id int32) {
	j, who := &p.jobs[id], p.who[id]
	c := &p.calendar[who]
	for i := c.index(p.start[id]); int(i) < len(c.work) && c.work[i] < p.end[id]; i++ {
		s := c.work[i]
		p.taken[who][i] = -1
		if j.tool >= 0 {
			p.tools[j.tool][s]--
		}
		if p.atCar[j.car][s]--; p.atCar[j.car][s] == 0 {
			p.bay[s]--
		}
		p.machine[who][p.day[s]] -= j.machine
	}
	p.end[id] = 0
}

// earliest is the first slot at which a job may begin by its own time and by what comes
// before it, all of which is placed.
func (p *placing) earliest(id int32, floor int32) (int32, cause) {
	j := &p.jobs[id]
	est, why := max(floor, j.from), cause{WhyNow, -1}
	if j.from > floor {
		why.why = WhyCure
		if !j.task.At.IsZero() && p.slotOf(j.task.At) == j.from {
			why.why = WhyPut
		}
	}
	for _, a := range j.pre {
		if at := p.end[a.to] + a.lag; at > est {
			est, why = at, cause{WhyAfter, a.to}
		}
	}
	return est, why
}

// place gives a job to who is done with it first; somebody who may do more counts as so many
// slots later, so that the helper follows with the fine grits. False where nobody has room.
func (p *placing) place(id, floor int32) bool {
	j := &p.jobs[id]
	est, why := p.earliest(id, floor)
	if p.booked(id) {
		if p.start[id] >= est {
			return true
		}
		p.unbook(id)
	}
	if p.keep != nil {
		if who, i, ok := p.keep(id, est); ok {
			p.book(id, who, i, cause{WhyStays, -1})
			return true
		}
	}
	best, at, by, cost := -1, int32(0), cause{}, int32(never)
	for k, w := range j.who {
		i, because, ok := p.fit(j, w, est)
		if !ok {
			continue
		}
		c := p.calendar[w].work[i+j.slots-1] + p.bias*int32(k)
		if p.hour != nil {
			c += int32(float64(j.slots) * (p.hour[w] + p.running[w]*j.machine/slotMinutes))
		}
		if c < cost {
			best, at, by, cost = w, i, because, c
		}
	}
	if best < 0 {
		return false
	}
	if by.why == WhyNow || by.why == WhyHours && why.why != WhyNow { // it waits, whether over a night or not
		by = why
	}
	p.book(id, best, at, by)
	return true
}

// queue are the jobs whose turn it may be, by priority; the lowest first.
type queue struct {
	ids      []int32
	priority []float64
}

func (q *queue) Len() int { return len(q.ids) }
func (q *queue) Less(a, b int) bool {
	x, y := q.priority[q.ids[a]], q.priority[q.ids[b]]
	if x != y {
		return x < y
	}
	return q.ids[a] < q.ids[b]
}
func (q *queue) Swap(a, b int) { q.ids[a], q.ids[b] = q.ids[b], q.ids[a] }
func (q *queue) Push(x any)    { q.ids = append(q.ids, x.(int32)) }
func (q *queue) Pop() any {
	last := q.ids[len(q.ids)-1]
	q.ids = q.ids[:len(q.ids)-1]
	return last
}

// serial places all jobs, each as early as it can, in the order of a priority that the arcs
// allow: the serial schedule generation scheme (Kelley 1963). It returns the jobs that found
// no room.
func (p *placing) serial(priority []float64, floor int32) (none []int32) {
	p.clear()
	if p.before != nil {
		p.before()
	}
	waits := make([]int, len(p.jobs))
	q := &queue{priority: priority}
	for i := range p.jobs {
		if waits[i] = len(p.jobs[i].pre); waits[i] == 0 {
			q.ids = append(q.ids, int32(i))
		}
	}
	heap.Init(q)
	for q.Len() > 0 {
		id := heap.Pop(q).(int32)
		if !p.place(id, floor) {
			none = append(none, id)
			p.end[id] = int32(len(p.bay) - 1)
		}
		for _, a := range p.jobs[id].suc {
			if waits[a.to]--; waits[a.to] == 0 {
				heap.Push(q, a.to)
			}
		}
	}
	return none
}

// copyTo keeps the plan in another one.
func (p *placing) copyTo(o *plan) {
	o.start, o.end = append(o.start[:0], p.start...), append(o.end[:0], p.end...)
	o.who, o.because = append(o.who[:0], p.who...), append(o.because[:0], p.because...)
	o.score = p.score()
}

// plan is a finished plan.
type plan struct {
	start, end []int32
	who        []int
	because    []cause
	none       []int32
	score      score
}

// score is how good a plan is: slots that cars are late, the last end, and the ends of the
// cars together.
type score struct{ late, last, sum int64 }

func (a score) less(b score) bool {
	return slices.Compare([]int64{a.late, a.last, a.sum}, []int64{b.late, b.last, b.sum}) < 0
}

func (p *placing) score() score {
	var s score
	ends := make([]int32, len(p.cars))
	for i := range p.jobs {
		ends[p.jobs[i].car] = max(ends[p.jobs[i].car], p.end[i])
	}
	for c, end := range ends {
		if p.due != nil && end > p.due[c] {
			s.late += int64(end - p.due[c])
		}
		s.last, s.sum = max(s.last, int64(end)), s.sum+int64(end)
	}
	return s
}

// scarce sets what people's time counts by how much of it the plan uses up, weighed so much.
func (p *placing) scarce(weight float64) {
	if p.hour == nil {
		p.hour, p.running = make([]float64, len(p.people)), make([]float64, len(p.people))
	}
	for w := range p.people {
		c := &p.calendar[w]
		has, may := float64(c.at[p.last]), p.machineSlots(w, 0, p.last)
		busy, ran := 0.0, 0.0
		for i := range p.jobs {
			if p.who[i] == w {
				busy += float64(p.jobs[i].slots)
				ran += float64(p.jobs[i].slots) * p.jobs[i].machine / slotMinutes
			}
		}
		p.hour[w], p.running[w] = weight*power(busy, has), weight*power(ran, may)
	}
}

// power is the fourth power of a share: what is nearly used up is scarce, half of it is not.
func power(part, of float64) float64 {
	if of <= 0 {
		return 0
	}
	s := min(part/of, 1)
	return s * s * s * s
}

// tighten says of jobs that stay where they were what holds them there now.
func (p *placing) tighten() {
	for i := range p.jobs {
		if p.because[i].why != WhyStays {
			continue
		}
		if est, why := p.earliest(int32(i), 0); p.start[i] == est {
			p.because[i] = why
			continue
		}
		w := p.who[i]
		at := p.calendar[w].index(p.start[i])
		if at > 0 && p.taken[w][at-1] >= 0 {
			p.because[i] = cause{WhyPerson, p.taken[w][at-1]}
		}
	}
}
