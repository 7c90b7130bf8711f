package shop

import (
	"slices"
	"strings"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
)

// restNote is what an entry keeps of a rest that was planned anew: the steps that stand
// before it and its own, as their codes.
func restNote(done, rest []plan.Choice) string { return plan.Code(done) + "|" + plan.Code(rest) }

// choicesOf reads a code of steps; empty text has none.
func choicesOf(code string, p *Panel) ([]plan.Choice, error) {
	if code == "" {
		return nil, nil
	}
	return plan.ParseCode(code, &p.House.Shelf)
}

// restJob is the job that a plan was accepted for, with what lies on the shelf today.
func (p *Panel) restJob(r *Record) (plan.Job, error) {
	made, err := p.recipe(r)
	made.Job.Shelf = p.House.Shelf
	return made.Job, err
}

// replan gives a ladder the steps of sections whose rest was planned anew while they were
// worked. Those of a struck entry keep their numbers and are nobody's.
func (p *Panel) replan(l *plan.Ladder, r *Record, log []Entry) error {
	if !slices.ContainsFunc(log, func(e Entry) bool { return e.Kind == level.KindRest }) {
		return nil
	}
	base := len(l.Steps)
	j, err := p.restJob(r)
	if err != nil {
		return err
	}
	for _, e := range log {
		if e.Kind != level.KindRest {
			continue
		}
		before, after, _ := strings.Cut(e.Note, "|")
		done, err := choicesOf(before, p)
		if err != nil {
			return err
		}
		rest, err := choicesOf(after, p)
		if err != nil {
			return err
		}
		first := int(e.Value) - 1
		levels := first < len(r.steps) && plan.StepKind(r.steps[first].Kind) == plan.LevelStep
		steps, err := j.Continued(done, rest, levels)
		if err != nil {
			return err
		}
		upto := slices.Index(l.StepsOf(e.Section), e.Step-1) + 1
		l.Rest(e.Section, upto, steps, e.Struck == nil)
	}
	for i := base; i < min(len(l.Steps), len(r.steps)); i++ {
		s, kept := &l.Steps[i], r.steps[i]
		s.Passes, s.Rate, s.Film = kept.Passes, kept.RateUM, kept.FilmUM
	}
	return nil
}

// takeRest makes an entry of the rest that was chosen, which must be one of the ways that
// are told as the section stands.
func (p *Panel) takeRest(in NewEntry, row *store.Entry) error {
	step := in.Step - 1
	ways, err := p.waysOf(in.Section, step)
	if err != nil {
		return err
	}
	way := find(ways, func(w level.Way) bool { return w.Rest != nil && plan.Code(w.Rest) == in.Rest })
	if way == nil {
		return conflict(NoSuchRest)
	}
	done, _ := p.Work.Done(p.progress(in.Section, step, 0))
	j, err := p.restJob(p.Record)
	if err != nil {
		return err
	}
	steps, err := j.Continued(done, way.Rest, way.Levels)
	if err != nil {
		return err
	}
	row.Note, row.Value = restNote(done, way.Rest), float64(len(p.Ladder().Steps)+1)
	row.Steps = nil
	for i, s := range steps {
		s.Area = in.Section
		row.Steps = append(row.Steps, stepRow(in.Plan, len(p.Ladder().Steps)+i+1, s))
	}
	return nil
}

// restUsed says whether passes stand on the steps that a rest planned.
func (p *Panel) restUsed(e store.Entry) bool {
	return slices.ContainsFunc(p.Entries, func(o Entry) bool {
		return o.Struck == nil && o.Section == e.Section && o.Step >= int(e.Value) && o.Cuts()
	})
}
