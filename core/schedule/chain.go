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
