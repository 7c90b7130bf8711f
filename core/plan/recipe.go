package plan

import (
	"fmt"
	"slices"
)

// Recipe is what a plan of record was made from: the job, with the part of the
// shelf that its steps use, the steps of the panel, and those of sections that
// have a process of their own.
type Recipe struct {
	Job     Job                 `json:"job"`
	Choices []Choice            `json:"choices"`
	Areas   map[string][]Choice `json:"areas,omitempty"`
	// Leaves are the keys of sections that are left as they are.
	Leaves []string `json:"leaves,omitempty"`
}

// RecipeOf notes what a plan is made from.
func RecipeOf(j Job, choices []Choice) Recipe {
	j.Shelf = Things(&j.Shelf, choices)
	return Recipe{Job: j, Choices: choices}
}

// For is the plan with a process of its own for one section, made with things of
// another job.
func (m Recipe) For(section string, j Job, choices []Choice) Recipe {
	areas := map[string][]Choice{section: choices}
	for k, c := range m.Areas {
		if k != section {
			areas[k] = c
		}
	}
	m.Areas = areas
	more := Things(&j.Shelf, choices)
	m.Job.Shelf.Abrasives = union(m.Job.Shelf.Abrasives, more.Abrasives)
	m.Job.Shelf.Backings = union(m.Job.Shelf.Backings, more.Backings)
	m.Job.Shelf.Compounds = union(m.Job.Shelf.Compounds, more.Compounds)
	return m
}

func union[T comparable](a, b []T) []T {
	out := slices.Clone(a)
	for _, v := range b {
		if !slices.Contains(out, v) {
			out = append(out, v)
		}
	}
	return out
}

// Ladder works the plan again: the steps of the panel, then those of sections
// that have their own, each with its section's key. Film, time and money are the
// panel's alone.
func (m Recipe) Ladder() (Ladder, error) {
	l, err := m.Job.Work(m.Choices)
	if err != nil {
		return l, err
	}
	keys := make([]string, 0, len(m.Areas))
	for k := range m.Areas {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	for _, k := range keys {
		j := m.Job
		own, err := j.Work(m.Areas[k])
		if err != nil {
			return l, fmt.Errorf("section %s: %w", k, err)
		}
		for _, s := range own.Steps {
			s.Area = k
			l.Steps = append(l.Steps, s)
		}
	}
	for _, k := range m.Leaves {
		if l.Rests == nil {
			l.Rests = map[string][]int{}
		}
		l.Rests[k] = nil
	}
	return l, nil
}

// Leaves says whether a section is left as it is.
func (l Ladder) Leaves(section string) bool {
	own, ok := l.Rests[section]
	return ok && len(own) == 0
}

// StepsOf lists, by index, the steps of a section: its own, or the panel's.
func (l Ladder) StepsOf(section string) []int {
	if own, ok := l.Rests[section]; ok {
		return own
	}
	var own, panel []int
	for i, s := range l.Steps {
		switch s.Area {
		case "":
			panel = append(panel, i)
		case section:
			own = append(own, i)
		}
	}
	if own != nil {
		return own
	}
	return panel
}

// FilmOn is the crest film in µm that a section's steps take.
func (l Ladder) FilmOn(section string) float64 {
	if l.Leaves(section) {
		return 0
	}
	sum := l.Tried
	for _, i := range l.StepsOf(section) {
		sum += l.Steps[i].Film
	}
	return sum
}

// Frozen is what a step of a plan of record was accepted with: passes, and µm a pass
// and in all.
type Frozen struct {
	Passes     int
	Rate, Film float64
}

// Freeze gives a ladder the passes, rates and film that were accepted, should the
// program's constants have changed since.
func (l *Ladder) Freeze(steps []Frozen) {
	for i := range min(len(l.Steps), len(steps)) {
		s := &l.Steps[i]
		s.Passes, s.Rate, s.Film = steps[i].Passes, steps[i].Rate, steps[i].Film
	}
	l.Film = l.FilmOn("")
}
