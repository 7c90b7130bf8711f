package week

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"time"

	"waxplanus/core/price"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Week is who does what when, from now on: the tasks of all cars in the shop on the hours of
// its people.
type Week struct {
	Now      time.Time
	Workshop house.Workshop
	People   []house.Worker
	Cars     []WeekCar
	Tasks    map[string]schedule.Task // by key
	Plan     schedule.Result
	Puts     []store.Put
	Renewing bool // some cars are still being worked out
	Others   int  // cars in the shop that are not planned: see mostPlanned
	Stock    []StockLine
	Problem  schedule.Problem
}

// WeekCar is a car of the week: what was promised, when it is done, the tasks that set that
// date, and what must not be touched.
type WeekCar struct {
	facts.OfCar
	Done  time.Time // zero where nothing is left to do, or it cannot be planned
	Late  bool
	Chain []string
	Waits []cars.Wait
	Hours price.Hours // that are left
	Next  panel.Next
	Fault error
	Due   []panel.ReadingDue
	// Untold is how much of what will not come out the owner has to be told at once: work has
	// begun, or begins within a day.
	Untold int
	Begun  bool // passes were made
}

// keptWeek is a plan as it is kept.
type keptWeek struct {
	Work   string            `json:"work"` // names the work that it is of
	Placed []schedule.Placed `json:"placed"`
	Moved  []schedule.Move   `json:"moved,omitempty"`
	Faults []schedule.Fault  `json:"faults,omitempty"`
	End    time.Time         `json:"end"`
	Bound  time.Time         `json:"bound"`
	Gap    float64           `json:"gap"`
	Late   []string          `json:"late,omitempty"`
}

// Week is the plan as it is, made anew from now on where something has changed since: what
// can stay stays. anew has all of it planned anew.
func (s *Service) Week(ctx context.Context, anew bool) (*Week, error) {
	out, err := s.weekOf(ctx)
	if err != nil {
		return nil, err
	}
	key, work, err := out.Keys()
	if err != nil {
		return nil, err
	}
	s.planning.Lock() // one plan at a time, for all who ask
	defer s.planning.Unlock()
	last, err := s.Store.LastWeek(ctx)
	if err != nil {
		return nil, err
	}
	var kept keptWeek
	known := last.Plan != "" && json.Unmarshal([]byte(last.Plan), &kept) == nil
	holds := last.Key == key || kept.Work == work && out.Now.Sub(last.MadeAt).Abs() < settle
	if known && !anew && holds && !out.overtaken(kept.Placed) {
		out.Plan = schedule.Result{Placed: kept.Placed, Moved: kept.Moved, Faults: kept.Faults, End: kept.End, Bound: kept.Bound, Gap: kept.Gap, Late: kept.Late}
		return s.finish(ctx, out)
	}
	if known && !anew {
		out.Problem.Before = kept.Placed
		out.underWay(kept.Placed)
	}
	out.Plan = schedule.Make(out.Problem)
	r := out.Plan
	raw, err := json.Marshal(keptWeek{work, r.Placed, r.Moved, r.Faults, r.End, r.Bound, r.Gap, r.Late})
	if err != nil {
		return nil, err
	}
	if err := s.Store.KeepWeek(ctx, store.Week{Key: key, Plan: string(raw), MadeAt: out.Now}); err != nil && !errors.Is(err, store.ErrBusy) && !errors.Is(err, store.ErrFull) {
		return nil, err
	}
	return s.finish(ctx, out)
}

// weekOf is what is to be planned.
func (s *Service) weekOf(ctx context.Context) (*Week, error) {
	settings, err := s.Settings(ctx)
	if err != nil {
		return nil, err
	}
	out := &Week{Now: s.Now().In(settings.Zone), Tasks: map[string]schedule.Task{}}
	if out.Workshop, err = s.Workshop(ctx); err != nil {
		return nil, err
	}
	if out.People, err = s.Workers(ctx, out.Workshop); err != nil {
		return nil, err
	}
	if out.Puts, err = s.Store.Puts(ctx); err != nil {
		return nil, err
	}
	cars, others, err := s.planned(ctx)
	if err != nil {
		return nil, err
	}
	out.Others = others
	p := schedule.Problem{Now: out.Now, Shop: out.Workshop.Shop, Seed: 1}
	for _, w := range out.People {
		p.People = append(p.People, w.Person)
	}
	for _, c := range cars {
		out.Renewing = out.Renewing || c.Renewing
		car := WeekCar{OfCar: c.OfCar, Next: c.Next, Fault: c.Fault, Due: c.Due, Untold: c.Untold, Begun: c.Begun}
		for _, w := range c.Waits {
			if w.Until.After(out.Now) {
				w.Sprayed, w.Until = w.Sprayed.In(settings.Zone), w.Until.In(settings.Zone)
				car.Waits = append(car.Waits, w)
			}
		}
		var minutes []float64
		for _, t := range c.Tasks {
			t = out.Put(t)
			p.Tasks = append(p.Tasks, t)
			out.Tasks[t.Key] = t
			minutes = append(minutes, t.Minutes)
		}
		car.Hours = price.HoursOf(minutes, 0)
		one := schedule.Car{ID: c.ID}
		if c.DueAt != nil {
			one.Due = c.DueAt.In(settings.Zone)
			car.DueAt = &one.Due
		}
		p.Cars = append(p.Cars, one)
		out.Cars = append(out.Cars, car)
	}
	out.Problem = p
	return out, nil
}

// mostPlanned is how many cars are planned: those that were promised, then those that came in
// last. A shop whose cars never leave has its old ones left out.
const mostPlanned = 40

// planned are the summaries of the cars that are planned, in the order in which they came in,
// and how many others are in the shop.
func (s *Service) planned(ctx context.Context) (kept []cars.Summary, others int, err error) {
	var rows []store.Listed
	var n store.Counts
	for _, w := range []store.CarsWanted{{Promised: true, Most: mostPlanned}, {Recent: true, Most: mostPlanned}} {
		list, counts, err := s.Store.ListCars(ctx, w)
		if err != nil {
			return nil, 0, err
		}
		n = counts
		for _, row := range list {
			if len(rows) < mostPlanned && !slices.ContainsFunc(rows, func(o store.Listed) bool { return o.ID == row.ID }) {
				rows = append(rows, row)
			}
		}
	}
	slices.SortFunc(rows, func(a, b store.Listed) int { return cmp.Compare(a.Seq, b.Seq) })
	kept = make([]cars.Summary, len(rows))
	var stale []int
	for i, row := range rows {
		var fresh bool
		if kept[i], fresh = s.KeptSummary(row); !fresh {
			stale = append(stale, i)
		}
	}
	s.Renew(ctx, rows, kept, stale)
	return kept, max(0, n.Here-len(rows)), nil
}

// Put is a task where somebody put it.
func (w *Week) Put(t schedule.Task) schedule.Task {
	if p := panel.FirstOf(w.Puts, func(p store.Put) bool { return p.Task == t.Key }); p != nil && t.Begun.IsZero() {
		if t.Person = p.Person; p.Start != nil {
			t.At = p.Start.In(w.Now.Location())
		}
	}
	return t
}

// Keys name what the plan is made from: all of it, and without how much of each task is left,
// which every pass changes.
func (w *Week) Keys() (all, work string, err error) {
	name := func(tasks []schedule.Task) (string, error) {
		raw, err := json.Marshal(struct {
			Tasks  []schedule.Task
			People []schedule.Person
			Shop   schedule.Shop
			Cars   []schedule.Car
		}{tasks, w.Problem.People, w.Problem.Shop, w.Problem.Cars})
		sum := fnv.New64a()
		_, _ = sum.Write(raw)
		return fmt.Sprintf("%x", sum.Sum64()), err
	}
	plain := slices.Clone(w.Problem.Tasks)
	for i := range plain {
		plain[i].Minutes, plain[i].Machine, plain[i].Much = 0, 0, 0
	}
	if all, err = name(w.Problem.Tasks); err != nil {
		return "", "", err
	}
	work, err = name(plain)
	return all, work, err
}

// settle is how long a plan holds although passes were made meanwhile: it is not made anew
// with each of them.
const settle = 30 * time.Second

// overtaken says whether a task that is still to do should be over by now.
func (w *Week) overtaken(placed []schedule.Placed) bool {
	return slices.ContainsFunc(placed, func(p schedule.Placed) bool {
		_, left := w.Tasks[p.Key]
		return left && !p.End.After(w.Now)
	})
}

// underWay has tasks that should be in hand now go on where they are.
func (w *Week) underWay(placed []schedule.Placed) {
	for i := range w.Problem.Tasks {
		w.Problem.Tasks[i] = w.GoesOn(w.Problem.Tasks[i], placed)
	}
}

// GoesOn is a task that should be in hand now by a plan as it goes on where it is, with what is
// left of its time; others are as they were.
func (w *Week) GoesOn(t schedule.Task, placed []schedule.Placed) schedule.Task {
	p := panel.FirstOf(placed, func(p schedule.Placed) bool { return p.Key == t.Key })
	if p == nil || p.Start.After(w.Now) || !p.End.After(w.Now) || !t.Begun.IsZero() || t.Person != "" || t.From.After(w.Now) {
		return t
	}
	left := p.End.Sub(w.Now).Minutes() / max(p.End.Sub(p.Start).Minutes(), 1)
	t.Begun, t.Person, t.Minutes = p.Start, p.Person, math.Max(5, t.Minutes*left)
	return t
}

// tellWithin is how long before work takes film the owner should have been told.
const tellWithin = 24 * time.Hour

// finish says of the cars when they are done and by what, and of the shelf how long it lasts.
func (s *Service) finish(ctx context.Context, w *Week) (_ *Week, err error) {
	for i := range w.Cars {
		c := &w.Cars[i]
		soon := c.Begun
		for _, p := range w.Plan.Placed {
			t := w.Tasks[p.Key]
			if t.Car != c.ID {
				continue
			}
			if p.End.After(c.Done) {
				c.Done = p.End
			}
			soon = soon || t.Kind.Takes() && p.Start.Sub(w.Now) < tellWithin
		}
		if !soon {
			c.Untold = 0
		}
		c.Late = slices.Contains(w.Plan.Late, c.ID)
		c.Chain = w.Plan.Chain(w.Problem.Tasks, c.ID)
	}
	w.Stock, err = s.stock(ctx, w)
	return w, err
}

// MoveTask puts a task to somebody from a moment on, or refuses with what stands against it.
func (s *Service) MoveTask(ctx context.Context, key, person, by string, at time.Time) (*Week, error) {
	w, err := s.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	t, there := w.Tasks[key]
	if !there {
		return nil, refuse.Because(refuse.NoTask, "task")
	}
	if by, err = house.PersonName(by); err != nil {
		return nil, err
	}
	at = at.In(w.Now.Location())
	if at.Before(w.Now.Add(-time.Minute)) {
		return nil, refuse.Conflicting(refuse.CannotMove, w.Moving(t, schedule.Because{Why: schedule.WhyNow}))
	}
	if why := w.Plan.CanMove(w.Problem, key, person, at); why != nil {
		return nil, refuse.Conflicting(refuse.CannotMove, w.Moving(t, *why))
	}
	if err := s.Store.PutTask(ctx, store.Put{Task: key, CarID: t.Car, Person: person, Start: &at, By: by, At: s.Now()}); err != nil {
		return nil, err
	}
	return s.Week(ctx, false)
}

// LetTask has a task be planned as the others again.
func (s *Service) LetTask(ctx context.Context, key string) (*Week, error) {
	if err := s.Store.LetTask(ctx, key); err != nil {
		return nil, err
	}
	return s.Week(ctx, false)
}

// Held is a task with what holds it, and the task that that is.
type Held struct {
	Task schedule.Task
	schedule.Because
	By schedule.Task // what it waits for; empty for none
}

// Moving is a task with what holds it.
func (w *Week) Moving(t schedule.Task, b schedule.Because) Held { return Held{t, b, w.Tasks[b.Key]} }

// SetPromise says for when a car was promised; nil takes it back.
func (s *Service) SetPromise(ctx context.Context, carID string, due *time.Time) error {
	if due != nil && (due.Before(s.Now().AddDate(-1, 0, 0)) || due.After(s.Now().AddDate(3, 0, 0))) {
		return refuse.Because(refuse.BadDue, "due_at", cars.Day(*due))
	}
	_, err := s.Store.ChangeCar(ctx, carID, func(c *store.Car) error {
		if c.DueAt = due; due != nil {
			at := due.UTC()
			c.DueAt = &at
		}
		return nil
	})
	return err
}

// Loads are what people have to do on each day of the plan.
func (w *Week) Loads() map[string]map[string]schedule.Load {
	return schedule.Loads(w.Problem, w.Plan.Placed)
}

// IsPut says whether somebody put a task where it is.
func (w *Week) IsPut(key string) bool {
	return slices.ContainsFunc(w.Puts, func(p store.Put) bool { return p.Task == key })
}
