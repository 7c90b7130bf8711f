package advice

import (
	"context"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
)

// Subject is a panel as it stands before a camera: how it was said to be, and the steps that
// were made on a section of it.
type Subject struct {
	Panel, Section, Colour string
	EyeGrade               float64
	Worked                 []plan.Step // with the passes that were made
}

// Subject of a section of a panel; without one, of the section that was worked most.
func (s *Service) Subject(ctx context.Context, panelID, section string) (Subject, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return Subject{}, err
	}
	if section != "" {
		if _, err := p.SectionNo(section); err != nil {
			return Subject{}, err
		}
	}
	return subject(p, section), nil
}

// SubjectAt is the subject of the section that a place (mm) lies in.
func (s *Service) SubjectAt(ctx context.Context, panelID string, x, y float64) (Subject, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return Subject{}, err
	}
	if err := CheckPlace(p.Shape, flatlay.Point{X: x, Y: y}); err != nil {
		return Subject{}, err
	}
	return subject(p, p.SectionAt(flatlay.Point{X: x, Y: y})), nil
}

func subject(p *panel.Panel, section string) Subject {
	out := Subject{Panel: p.ID, Section: section, Colour: p.Car.Colour, EyeGrade: p.EyeGrade}
	if section == "" {
		most := 0
		for _, sec := range p.Sections {
			n := 0
			for _, st := range made(p, sec.Key) {
				n += st.Passes
			}
			if n > most {
				section, most = sec.Key, n
			}
		}
	}
	out.Worked = made(p, section)
	return out
}

// made are the steps of all plans that were made on a section, with their passes.
func made(p *panel.Panel, section string) []plan.Step {
	var out []plan.Step
	add := func(l *plan.Ladder, passes []int) {
		for i, n := range passes {
			if n > 0 {
				st := l.Steps[i]
				st.Passes = n
				out = append(out, st)
			}
		}
	}
	for _, e := range p.EarlierPlans {
		add(e.Log.Ladder, e.Log.Passes(section))
	}
	if p.Ladder() != nil {
		add(p.Ladder(), p.Log.Passes(section))
	}
	return out
}

// Surface is the panel after a step of a sequence, 0 for before any, with the colour of
// its car. wish is the code of a sequence, or empty or OfRecord for the plan of record.
func (s *Service) Surface(ctx context.Context, panelID, wish string, step int) (panel.Shown, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return panel.Shown{}, err
	}
	var l plan.Ladder
	switch {
	case wish != "" && wish != panel.OfRecord:
		if l, _, err = p.WorkCode(wish); err != nil {
			return panel.Shown{}, err
		}
	case p.Ladder() != nil:
		l = *p.Ladder()
	default:
		return panel.Shown{}, refuse.ErrMissing
	}
	if step < 0 || step > len(l.Steps) {
		return panel.Shown{}, refuse.ErrMissing
	}
	return panel.ShownAfter(p, l, step), nil
}
