package schedule

import (
	"slices"
	"time"
)

// Chain lists the tasks that set the date of a car, the first one first: its last task, what
// holds that one, and so on, tasks of other cars included where who does it is busy there.
func (r Result) Chain(tasks []Task, car string) []string {
	of := map[string]string{}
	for _, t := range tasks {
		of[t.Key] = t.Car
	}
	placed := map[string]*Placed{}
	var last *Placed
	for i := range r.Placed {
		p := &r.Placed[i]
		placed[p.Key] = p
		if of[p.Key] == car && (last == nil || p.End.After(last.End)) {
			last = p
		}
	}
	var out []string
	for at := last; at != nil && !slices.Contains(out, at.Key); {
		out = append(out, at.Key)
		at = placed[at.Because.Key]
	}
	slices.Reverse(out)
	return out
}

// CanMove says why a task cannot begin with a person at a moment: what comes before it, soft
// paint, what they may do, their hours. It is nil where it can; others give way then.
func (r Result) CanMove(in Problem, key, person string, at time.Time) *Because {
	i := slices.IndexFunc(in.Tasks, func(t Task) bool { return t.Key == key })
	if i < 0 {
		return &Because{Why: WhyUnknown}
	}
	t := in.Tasks[i]
	if !t.Begun.IsZero() {
		return &Because{Why: WhyBegun, Until: t.Begun}
	}
	t.Person = ""
	k := slices.IndexFunc(in.People, func(p Person) bool { return p.Name == person })
	if k < 0 || !in.People[k].may(&t) {
		return &Because{Why: WhySkill}
	}
	if at.Before(t.From) {
		return &Because{Why: WhyCure, Until: t.From}
	}
	var held *Because
	for _, a := range t.After {
		for _, p := range r.Placed {
			if ready := p.End.Add(time.Duration(a.Lag * float64(time.Minute))); p.Key == a.Key && ready.After(at) && (held == nil || ready.After(held.Until)) {
				held = &Because{Why: WhyAfter, Key: a.Key, Until: ready}
			}
		}
	}
	if held != nil {
		return held
	}
	start := at.Truncate(slot)
	hours := both(open(start, in.Shop.Week, in.Shop.Holidays), open(start, in.People[k].Week, in.People[k].Off))
	if !hours[0] {
		next := slices.Index(hours, true)
		if next < 0 {
			return &Because{Why: WhyNoHours}
		}
		return &Because{Why: WhyHours, Until: start.Add(time.Duration(next) * slot)}
	}
	return nil
}

// Load is what a person has to do on a day, in minutes.
type Load struct{ Minutes, Machine float64 }

// Loads are those of people by day, as 2006-01-02: a task that lasts over a night counts on
// both days.
func Loads(in Problem, placed []Placed) map[string]map[string]Load {
	tasks := map[string]*Task{}
	for i := range in.Tasks {
		tasks[in.Tasks[i].Key] = &in.Tasks[i]
	}
	out := map[string]map[string]Load{}
	start := in.Now.Truncate(slot)
	hours := open(start, in.Shop.Week, in.Shop.Holidays)
	for _, q := range in.People {
		days := map[string]Load{}
		is := both(hours, open(start, q.Week, q.Off))
		for _, p := range placed {
			t := tasks[p.Key]
			if t == nil || p.Person != q.Name {
				continue
			}
			var slots []string
			for s := max(0, int(p.Start.Sub(start)/slot)); s < len(is) && start.Add(time.Duration(s)*slot).Before(p.End); s++ {
				if is[s] {
					slots = append(slots, start.Add(time.Duration(s)*slot).Format(time.DateOnly))
				}
			}
			for _, day := range slots {
				l := days[day]
				l.Minutes += t.Minutes / float64(len(slots))
				l.Machine += t.Machine / float64(len(slots))
				days[day] = l
			}
		}
		out[q.Name] = days
	}
	return out
}

// OpenDay are the hours of a day of the shop; none where it is closed.
type OpenDay struct {
	Day   string
	Spans []Span
}

// OpenDays are so many days of the shop, from the one of a moment on.
func (s Shop) OpenDays(from time.Time, n int) []OpenDay {
	var out []OpenDay
	for d := range n {
		day := from.AddDate(0, 0, d)
		one := OpenDay{Day: day.Format(time.DateOnly), Spans: s.Week[day.Weekday()]}
		if slices.ContainsFunc(s.Holidays, func(h Days) bool { return h.Has(one.Day) }) {
			one.Spans = nil
		}
		out = append(out, one)
	}
	return out
}
