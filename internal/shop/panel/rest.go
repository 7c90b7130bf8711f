package panel

import (
	"slices"
	"strings"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/store"
)

// RestNote is what an entry keeps of a rest that was planned anew: the steps that stand
// before it and its own, as their codes.
func RestNote(done, rest []plan.Choice) string { return plan.Code(done) + "|" + plan.Code(rest) }

// choicesOf reads a code of steps; empty text has none.
func choicesOf(code string, p *Panel) ([]plan.Choice, error) {
	if code == "" {
		return nil, nil
	}
	return plan.ParseCode(code, &p.House.Shelf)
}

// RestJob is the job that a plan was accepted for, with what lies on the shelf today.
func (p *Panel) RestJob(r *Record) (plan.Job, error) {
	made, err := p.recipe(r)
	made.Job.Shelf = p.House.Shelf
	return made.Job, err
}

// replan gives a ladder the steps of sections whose rest was planned anew while they were
// worked. Those of a struck entry keep their numbers and are nobody's.
func (p *Panel) replan(l *plan.Ladder, r *Record, log []facts.Entry) error {
	if !slices.ContainsFunc(log, func(e facts.Entry) bool { return e.Kind == level.KindRest }) {
		return nil
	}
	base := len(l.Steps)
	j, err := p.RestJob(r)
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

// RestUsed says whether passes stand on the steps that a rest planned.
func (p *Panel) RestUsed(e store.Entry) bool {
	return slices.ContainsFunc(p.Entries, func(o facts.Entry) bool {
		return o.Struck == nil && o.Section == e.Section && o.Step >= int(e.Value) && o.Cuts()
	})
}
