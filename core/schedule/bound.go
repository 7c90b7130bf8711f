package schedule

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
)

// bound is a slot before which no plan ends. It is the latest of three: the
// longest chain of tasks and waits, on the calendars of who may do them; all work that cannot
// begin before a moment and has so much coming after it, shared out over the hours and the
// machine time of the days that those who may do it have from then on (resource energy, as a
// linear programme); and the same for each kind of machine.
func (n *net) bound() int32 {
	if n.least > 0 {
		return n.least
	}
	best := int32(0)
	take := func(at int32) { best = max(best, min(at, int32(len(n.openAt)-1))) }
	var heads, tails []int32
	for i := range n.jobs {
		j := &n.jobs[i]
		take(n.soonest(j))
		heads, tails = append(heads, j.head), append(tails, j.tail)
	}
	for _, h := range some(heads) {
		for _, q := range some(tails) {
			for t, cap := range n.caps {
				work := int32(0)
				for i := range n.jobs {
					if j := &n.jobs[i]; j.tool == t && j.head >= h && j.tail >= q {
						work += j.slots
					}
				}
				if work > 0 {
					per := (work + int32(cap) - 1) / int32(cap)
					take(n.first(h, func(at int32) bool { return n.openAt[at]-n.openAt[h] >= per }) + q)
				}
			}
			work := n.workFrom(h, q)
			if len(work) == 0 || work.within(n, h, best-q) {
				continue
			}
			take(n.first(max(h, best-q), func(at int32) bool { return work.within(n, h, at) }) + q)
		}
	}
	n.least = best
	return best
}

// mostLooks is how many heads and tails are looked at.
const mostLooks = 6

// some are the different ones of many, or a few spread over them.
func some(all []int32) []int32 {
	slices.Sort(all)
	all = slices.Compact(all)
	if len(all) <= mostLooks {
		return all
	}
	out := make([]int32, mostLooks)
	for i := range out {
		out[i] = all[i*(len(all)-1)/(mostLooks-1)]
	}
	return out
}

// first is the first slot from one on at which something holds that holds from then on.
func (n *net) first(from int32, holds func(int32) bool) int32 {
	lo, hi := from, int32(len(n.openAt)-1)
	for lo < hi {
		if mid := (lo + hi) / 2; holds(mid) {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return lo
}

// class is work that the same people may do, with about the same share of machine time.
type class struct {
	who     uint64
	machine int // tenths of its time, rounded down
}

// work is slots of work by class.
type work map[class]float64

// workFrom is all work that cannot begin before a slot and has so many slots after it.
func (n *net) workFrom(head, tail int32) work {
	out := work{}
	for i := range n.jobs {
		j := &n.jobs[i]
		if j.head < head || j.tail < tail || len(n.people) > 64 {
			continue
		}
		c := class{machine: int(10 * j.machine / slotMinutes)}
		for _, w := range j.who {
			c.who |= 1 << w
		}
		out[c] += float64(j.slots)
	}
	return out
}

// within says whether work can be shared out between two slots.
func (w work) within(n *net, from, to int32) bool {
	if to <= from {
		return false
	}
	var classes []class
	for c := range w {
		classes = append(classes, c)
	}
	slices.SortFunc(classes, func(a, b class) int {
		if a.who != b.who {
			return int(min(max(int64(a.who)-int64(b.who), -1), 1))
		}
		return a.machine - b.machine
	})
	people := len(n.people)
	type share struct{ class, who int }
	var shares []share
	for k, c := range classes {
		for p := range people {
			if c.who&(1<<p) != 0 {
				shares = append(shares, share{k, p})
			}
		}
	}
	rows := len(classes) + 2*people
	gain, take, have := make([]float64, len(shares)+rows), mat.NewDense(rows, len(shares)+rows, nil), make([]float64, rows)
	basic := make([]int, rows)
	for r := range rows {
		take.Set(r, len(shares)+r, 1)
		basic[r] = len(shares) + r
	}
	all := 0.0
	for k, c := range classes {
		have[k] = w[c]
		all += w[c]
	}
	for at, s := range shares {
		gain[at] = -1
		take.Set(s.class, at, 1)
		take.Set(len(classes)+s.who, at, 1)
		take.Set(len(classes)+people+s.who, at, float64(classes[s.class].machine)/10)
	}
	for p := range people {
		c := &n.calendar[p]
		have[len(classes)+p] = float64(c.at[to] - c.at[from])
		have[len(classes)+people+p] = n.machineSlots(p, from, to)
	}
	done, _, err := lp.Simplex(gain, take, have, 1e-9, basic)
	return err != nil || -done >= all-1e-6
}

// machineSlots is for how many slots somebody may run machines between two.
func (n *net) machineSlots(who int, from, to int32) float64 {
	c, limit := &n.calendar[who], n.people[who].Machine/slotMinutes
	if limit == 0 {
		return float64(c.at[to] - c.at[from])
	}
	limit = math.Max(limit, n.mostMachine/slotMinutes) // a longer job has a day of its own
	sum := 0.0
	for s := from; s < to; {
		end := s
		for end < to && n.day[end] == n.day[s] {
			end++
		}
		sum += math.Min(limit, float64(c.at[end]-c.at[s]))
		s = end
	}
	return sum
}
