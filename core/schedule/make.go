package schedule

import (
	"cmp"
	"math/rand/v2"
	"slices"
	"sync"
	"time"
)

// usualRounds is how often a better order is looked for, where there are up to so many tasks.
const (
	usualRounds = 16
	usualTasks  = 700
)

// Make plans the tasks: serial schedules by several priority rules and by the best order so
// far with chance mixed in, each pushed to its end and back again as long as that helps
// (forward-backward improvement, Li and Willis 1992; Tormos and Lova 2001). The same problem
// and seed give the same plan. Where there is a plan of before, what can stay stays.
func Make(in Problem) Result {
	n := compile(in)
	if len(in.Before) > 0 {
		return n.result(n.stay(in.Before), in)
	}
	return n.result(n.improve(in), in)
}

// rules are priorities of jobs, the lowest first: by what comes after them, by what was
// promised, by how little slack there is, by how much work hangs on them, and by the car,
// more and less strictly.
func (n *net) rules() [][]float64 {
	out := make([][]float64, 6)
	for k := range out {
		out[k] = make([]float64, len(n.jobs))
	}
	last := int32(0)
	for i := range n.jobs {
		last = max(last, n.jobs[i].head+n.jobs[i].slots+n.jobs[i].tail)
	}
	oneCar := float64(last) / float64(len(n.cars)+1)
	for i := range n.jobs {
		j := &n.jobs[i]
		due := min(n.due[j.car], last)
		work := float64(j.slots)
		for _, a := range j.suc {
			work += float64(n.jobs[a.to].slots)
		}
		out[0][i] = float64(last - j.tail - j.slots)
		out[1][i] = float64(due - j.tail - j.slots)
		out[2][i] = float64(due - j.tail - j.slots - j.head)
		out[3][i] = float64(due)/8 - work
		out[4][i] = out[0][i] + oneCar*float64(j.car)
		out[5][i] = out[0][i] + oneCar/3*float64(j.car)
		for k := range out {
			out[k][i] += 0.25 * float64(j.task.Rank)
		}
	}
	return out
}

// urgent comes before all that was not begun or put somewhere by hand.
const urgent = 1e9

func (n *net) withFirst(priority []float64) []float64 {
	for i := range n.jobs {
		switch j := &n.jobs[i]; {
		case j.begun:
			priority[i] -= 2 * urgent
		case j.first:
			priority[i] -= urgent
		}
	}
	return priority
}

// islands are searches that go on side by side, each from rules of its own.
const islands = 2

// improve looks for the best plan.
func (n *net) improve(in Problem) *plan {
	rounds := in.Rounds
	if rounds == 0 {
		rounds = max(2, min(usualRounds, usualRounds*usualTasks/max(1, len(n.jobs))))
	}
	bound := n.bound()
	found := make([]*plan, islands)
	var wg sync.WaitGroup
	for k := range islands {
		wg.Go(func() { found[k] = n.search(rand.New(rand.NewPCG(in.Seed, uint64(k))), k, rounds, int64(bound)) })
	}
	wg.Wait()
	best := found[0]
	for _, f := range found[1:] {
		if f.score.less(best.score) {
			best = f
		}
	}
	return best
}

// search is one island: it begins with its share of the rules and goes on from the best that
// it found.
func (n *net) search(rng *rand.Rand, island, rounds int, bound int64) *plan {
	best, p, back := &plan{}, n.placing(), n.back.placing()
	rules := n.rules()
	last := int32(len(n.openAt) - 1)
	priority := make([]float64, len(n.jobs))
	for r := range rounds {
		rule := islands*r + island
		switch {
		case rule < len(rules):
			copy(priority, rules[rule])
		default:
			for i := range priority {
				priority[i] = float64(best.start[i]) + noise*(rng.Float64()-0.5)*float64(1+r%4)
			}
		}
		p.bias, back.bias = biases[r%len(biases)], biases[r%len(biases)]
		var mine *score
		for range mostTurns {
			none := p.serial(n.withFirst(priority), 0)
			s := p.score()
			p.scarce(weights[r%len(weights)])
			back.hour, back.running = p.hour, p.running
			if best.start == nil || s.less(best.score) {
				p.copyTo(best)
				best.none = none
			}
			if mine != nil && !s.less(*mine) {
				break
			}
			mine = &s
			for i := range priority { // the latest end first
				priority[i] = -float64(p.end[i])
			}
			back.serial(priority, last-p.last)
			for i := range priority {
				priority[i] = float64(last - back.end[i])
			}
		}
		if best.score.late == 0 && best.score.last <= bound {
			break
		}
	}
	return best
}

// How a round is made: chance in the order (slots), how much a person who may do more counts
// later (slots), how much scarce time counts, and how often a plan is pushed to its end and
// back.
const (
	noise     = 60.0
	mostTurns = 4
)

var (
	biases  = []int32{0, 2, 0, 1}
	weights = []float64{1, 0.5, 2, 4}
)

// stay keeps of the plan of before what can be kept: whoever did a task does it when it was
// planned, unless something that it waits for has come later, or what was before it takes its
// place.
func (n *net) stay(before []Placed) *plan {
	p := n.placing()
	was := map[string]Placed{}
	for _, b := range before {
		was[b.Key] = b
	}
	number := map[string]int{}
	for i, q := range n.people {
		number[q.Name] = i
	}
	priority := make([]float64, len(n.jobs))
	rule := n.rules()[1]
	for i := range n.jobs {
		if b, there := was[n.jobs[i].task.Key]; there {
			priority[i] = b.Start.Sub(n.start).Minutes() / slotMinutes
		} else { // new ones come among those that are alike by their rule
			priority[i] = rule[i]
		}
	}
	at := func(id int32) (who int, i int32, ok bool) {
		b, there := was[n.jobs[id].task.Key]
		who, known := number[b.Person]
		if !there || !known || !slices.Contains(n.jobs[id].who, who) || b.Start.Before(n.start) {
			return 0, 0, false
		}
		s := n.slotOf(b.Start)
		i, _, ok = p.fit(&n.jobs[id], who, s)
		return who, i, ok && p.calendar[who].work[i] == s
	}
	priority = n.withFirst(priority)
	// Everything behind what has to move is pushed on, each as it came before.
	p.keep = func(id, est int32) (who int, i int32, ok bool) {
		if who, i, ok = at(id); ok && p.calendar[who].work[i] < est {
			ok = false
		}
		return who, i, ok
	}
	pushed := &plan{none: p.serial(priority, 0)}
	p.tighten()
	p.copyTo(pushed)
	// Or what comes after so many days stays where it can, and what has to move looks for room
	// between; the fewer days, the less moves.
	order := make([]int32, len(n.jobs))
	for i := range order {
		order[i] = int32(i)
	}
	slices.SortStableFunc(order, func(a, b int32) int { return cmp.Compare(priority[a], priority[b]) })
	for days := range int32(mostPushed) {
		p.before = func() {
			for _, id := range order {
				if who, i, ok := at(id); ok && n.day[p.calendar[who].work[i]] >= days {
					p.book(id, who, i, cause{WhyStays, -1})
				}
			}
		}
		fitted := &plan{none: p.serial(priority, 0)}
		p.tighten()
		p.copyTo(fitted)
		later := n.openAt[min(fitted.score.last, int64(len(n.openAt)-1))] - n.openAt[min(pushed.score.last, int64(len(n.openAt)-1))]
		if len(fitted.none) <= len(pushed.none) && fitted.score.late <= pushed.score.late && later <= worthMoving {
			return fitted
		}
	}
	return pushed
}

// mostPushed is on how many days everything may be pushed on before all of it is.
const mostPushed = 5

// worthMoving is how many open slots later all may be done, so that less has to move: two
// hours (judgement).
const worthMoving = 24

// result is what was planned.
func (n *net) result(b *plan, in Problem) Result {
	out := Result{Faults: n.faults}
	none := map[int32]bool{}
	for _, id := range b.none {
		none[id] = true
		out.Faults = append(out.Faults, Fault{Why: WhyNoRoom, Key: n.jobs[id].task.Key})
	}
	ends := make([]int32, len(n.cars))
	for i := range n.jobs {
		if none[int32(i)] {
			continue
		}
		j := &n.jobs[i]
		ends[j.car] = max(ends[j.car], b.end[i])
		at := Placed{Key: j.task.Key, Person: n.people[b.who[i]].Name, Start: n.timeOf(b.start[i]), End: n.timeOf(b.end[i]), Because: Because{Why: b.because[i].why}}
		if o := b.because[i].job; o >= 0 {
			at.Because.Key, at.Because.Until = n.jobs[o].task.Key, n.timeOf(b.end[o])
		}
		if j.begun {
			at.Start, at.Because = j.task.Begun, Because{Why: WhyBegun}
		}
		if at.Because.Why == WhyCure {
			at.Because.Until = j.task.From
		}
		out.Placed = append(out.Placed, at)
	}
	slices.SortStableFunc(out.Placed, func(a, b Placed) int { return cmp.Or(a.Start.Compare(b.Start), cmp.Compare(a.Key, b.Key)) })
	last := int32(0)
	for c, end := range ends {
		if last = max(last, end); end > n.due[c] {
			out.Late = append(out.Late, n.cars[c])
		}
	}
	bound := n.bound()
	out.End, out.Bound = n.timeOf(last), n.timeOf(min(bound, last))
	if all := n.openAt[bound]; last > bound && all > 0 {
		out.Gap = float64(n.openAt[last]-all) / float64(all)
	}
	was := map[string]Placed{}
	for _, b := range in.Before {
		was[b.Key] = b
	}
	for _, at := range out.Placed {
		if b, there := was[at.Key]; there && (b.Person != at.Person || b.Start.Sub(at.Start).Abs() >= time.Minute) && at.Because.Why != WhyBegun {
			out.Moved = append(out.Moved, Move{at, b})
		}
	}
	return out
}
