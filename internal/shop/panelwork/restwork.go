package panelwork

import (
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// takeRest makes an entry of the rest that was chosen, which must be one of the ways that
// are told as the section stands.
func takeRest(p *panel.Panel, in NewEntry, row *store.Entry) error {
	step := in.Step - 1
	ways, err := advice.WaysOf(p, in.Section, step)
	if err != nil {
		return err
	}
	way := panel.FirstOf(ways, func(w level.Way) bool { return w.Rest != nil && plan.Code(w.Rest) == in.Rest })
	if way == nil {
		return refuse.Conflicting(refuse.NoSuchRest)
	}
	done, _ := p.Work.Done(p.Progress(in.Section, step, 0))
	j, err := p.RestJob(p.Record)
	if err != nil {
		return err
	}
	steps, err := j.Continued(done, way.Rest, way.Levels)
	if err != nil {
		return err
	}
	row.Note, row.Value = panel.RestNote(done, way.Rest), float64(len(p.Ladder().Steps)+1)
	row.Steps = nil
	for i, s := range steps {
		s.Area = in.Section
		row.Steps = append(row.Steps, stepRow(in.Plan, len(p.Ladder().Steps)+i+1, s))
	}
	return nil
}
