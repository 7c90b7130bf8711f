package practice

import (
	"fmt"
	"math/rand/v2"
	"time"

	"waxplanus/core/schedule"
)

// Grains of grits in µm that people of a made-up shop are held to.
const (
	grainBlock  = 10.3 // P2000
	grainRefine = 6.0  // 3000
)

// Shopful is a made-up shop full of cars for a seed: so many cars with about so many tasks in
// all and so many people, of whom every third is a leveller, every third may run fine grits
// only, and the others do not sand. Cars come in over the first days, some paint is still
// soft, and machines and bays are few.
func Shopful(seed uint64, cars, people, tasks int) schedule.Problem {
	r := rand.New(rand.NewPCG(seed, 18))
	now := time.Date(2026, 3, 2, 7, 40, 0, 0, time.UTC).AddDate(0, 0, r.IntN(5)) // some day of a week
	p := schedule.Problem{Now: now, Seed: seed, Shop: schedule.Shop{Week: schedule.UsualWeek(), Bays: max(2, cars/2), Machines: map[string]int{"orbital": max(2, people/2), "rotary": max(1, people/3)}}}
	for i := range people {
		q := schedule.Person{Name: fmt.Sprintf("person %d", i+1), Week: schedule.UsualWeek(), Machine: 240}
		switch i % 3 {
		case 1:
			q.Coarsest = grainRefine
		case 2:
			q.Kinds = []schedule.Kind{schedule.Wash, schedule.Strip, schedule.Read, schedule.Look, schedule.Mask, schedule.Compound, schedule.Polish, schedule.Clean, schedule.Wipe, schedule.Check, schedule.HandOver}
		}
		p.People = append(p.People, q)
	}
	for c := range cars {
		car := carTasks{r: r, id: fmt.Sprintf("car %d", c+1)}
		if c%2 == 1 { // not in yet
			car.in = now.Add(time.Duration(r.IntN(72)) * time.Hour)
		}
		start := car.add("", schedule.Wash, 40, 0, "", 0)
		look := car.add("", schedule.Look, 20, 0, "", 0, start)
		read := car.add("", schedule.Read, 25, 0, "", 0, look)
		var ends []string
		for panel := 0; len(car.tasks) < tasks/cars-4; panel++ {
			ends = append(ends, car.panel(panel, read, now))
		}
		clean := car.add("", schedule.Clean, 30, 0, "", 0, ends...)
		wipe := car.add("", schedule.Wipe, 10, 0, "", 0, clean)
		check := car.add("", schedule.Check, 30, 0, "", 0, wipe)
		car.add("", schedule.HandOver, 15, 0, "", 0, check)
		p.Tasks = append(p.Tasks, car.tasks...)
		p.Cars = append(p.Cars, schedule.Car{ID: car.id, Due: now.AddDate(0, 0, 7+r.IntN(14))})
	}
	return p
}

// carTasks are the tasks of one made-up car while they are made.
type carTasks struct {
	r     *rand.Rand
	id    string
	in    time.Time
	tasks []schedule.Task
}

// add adds a task of about so many minutes after others.
func (c *carTasks) add(panel string, kind schedule.Kind, minutes, machine float64, tool string, grain float64, after ...string) string {
	f := 0.7 + 0.6*c.r.Float64()
	t := schedule.Task{Key: fmt.Sprintf("%s/%s/%s/%d", c.id, panel, kind, len(c.tasks)), Car: c.id, Panel: panel, Kind: kind, Minutes: f * minutes, Machine: f * machine, Tool: tool, Grain: grain, Rank: len(c.tasks)}
	if len(c.tasks) == 0 {
		t.From = c.in
	}
	for _, a := range after {
		t.After = append(t.After, schedule.Arc{Key: a})
	}
	c.tasks = append(c.tasks, t)
	return t.Key
}

// panel adds the tasks of one panel and returns the last one's key.
func (c *carTasks) panel(no int, after string, now time.Time) string {
	name := fmt.Sprintf("panel %d", no+1)
	last := c.add(name, schedule.Mask, 10, 0, "", 0, after)
	tool, minutes := "", 45.0
	if c.r.IntN(2) == 0 {
		tool, minutes = "orbital", 30
	}
	block := c.add(name, schedule.Block, minutes, minutes*0.6, tool, grainBlock, last)
	if tool == "" {
		c.tasks[len(c.tasks)-1].Machine = 0
	}
	if c.r.IntN(4) == 0 { // soft inside
		c.tasks[len(c.tasks)-1].From = now.Add(time.Duration(c.r.IntN(48)) * time.Hour)
	}
	last = c.add(name, schedule.Refine, 25, 18, "orbital", grainRefine, block)
	last = c.add(name, schedule.Compound, 35, 25, "rotary", 0, last)
	return c.add(name, schedule.Polish, 25, 18, "orbital", 0, last)
}
