package shop

import (
	"context"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
)

// Subject is a panel as it stands before a camera: how it was said to be, and the steps that
// were made on a section of it.
type Subject struct {
	Panel, Section, Colour string
	EyeGrade               float64
	Worked                 []plan.Step // with the passes that were made
}

// Subject of a section of a panel; without one, of the section that was worked most.
func (s *Shop) Subject(ctx context.Context, panelID, section string) (Subject, error) {
	p, err := s.panel(ctx, panelID)
	if err != nil {
		return Subject{}, err
	}
	if section != "" {
		if _, err := p.sectionNo(section); err != nil {
			return Subject{}, err
		}
	}
	return p.subject(section), nil
}

// SubjectAt is the subject of the section that a place (mm) lies in.
func (s *Shop) SubjectAt(ctx context.Context, panelID string, x, y float64) (Subject, error) {
	p, err := s.panel(ctx, panelID)
	if err != nil {
		return Subject{}, err
	}
	if err := checkPlace(p.Shape, flatlay.Point{X: x, Y: y}); err != nil {
		return Subject{}, err
	}
	return p.subject(p.sectionAt(flatlay.Point{X: x, Y: y})), nil
}

func (p *Panel) subject(section string) Subject {
	out := Subject{Panel: p.ID, Section: section, Colour: p.Car.Colour, EyeGrade: p.EyeGrade}
	if section == "" {
		most := 0
		for _, sec := range p.Sections {
			n := 0
			for _, st := range p.made(sec.Key) {
				n += st.Passes
			}
			if n > most {
				section, most = sec.Key, n
			}
		}
	}
	out.Worked = p.made(section)
	return out
}

// made are the steps of all plans that were made on a section, with their passes.
func (p *Panel) made(section string) []plan.Step {
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
	for _, e := range p.earlier {
		add(e.log.Ladder, e.log.Passes(section))
	}
	if p.Ladder() != nil {
		add(p.Ladder(), p.log.Passes(section))
	}
	return out
}
