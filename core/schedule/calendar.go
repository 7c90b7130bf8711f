package schedule

import (
	"slices"
	"time"
)

// Slots are the units of the plan.
const (
	slotMinutes = 5
	slot        = slotMinutes * time.Minute
	// horizon is how far ahead is looked, in days.
	horizon = 84
)

// calendar turns the working time of a person into a line without gaps: work holds the slot
// of each working slot by its number, and at the number of working slots before a slot.
type calendar struct {
	work []int32
	at   []int32
}

// index is the first working slot at or after a slot, by its number.
func (c *calendar) index(s int32) int32 { return c.at[min(int(s), len(c.at)-1)] }

// open says which slots from start on lie in the spans of a week on days that are not off.
func open(start time.Time, week Week, off ...[]Days) []bool {
	out := make([]bool, horizon*24*60/slotMinutes)
	for d := range horizon + 1 {
		day := start.AddDate(0, 0, d)
		name := day.Format(time.DateOnly)
		if slices.ContainsFunc(off, func(all []Days) bool {
			return slices.ContainsFunc(all, func(d Days) bool { return d.Has(name) })
		}) {
			continue
		}
		y, m, dd := day.Date()
		for _, span := range week[day.Weekday()] {
			// By the clock on the wall, also on days on which it is put forward or back.
			from := time.Date(y, m, dd, 0, span.From, 0, 0, start.Location())
			to := time.Date(y, m, dd, 0, span.To, 0, 0, start.Location())
			for s := max(0, ceilSlot(from.Sub(start))); s < len(out) && start.Add(time.Duration(s+1)*slot).Compare(to) <= 0; s++ {
				out[s] = true
			}
		}
	}
	return out
}

func ceilSlot(d time.Duration) int {
	n := int(d / slot)
	if d > time.Duration(n)*slot {
		n++
	}
	return n
}

func calendarOf(open []bool) calendar {
	c := calendar{at: make([]int32, len(open)+1)}
	for s, is := range open {
		c.at[s] = int32(len(c.work))
		if is {
			c.work = append(c.work, int32(s))
		}
	}
	c.at[len(open)] = int32(len(c.work))
	return c
}

// mirrored is the calendar seen from the end of the horizon.
func (c *calendar) mirrored() calendar {
	n := len(c.at) - 1
	is := make([]bool, n)
	for _, s := range c.work {
		is[n-1-int(s)] = true
	}
	return calendarOf(is)
}

// both is when two are open.
func both(a, b []bool) []bool {
	out := make([]bool, len(a))
	for i := range a {
		out[i] = a[i] && b[i]
	}
	return out
}
