package cars

import (
	"context"

	"waxplanus/internal/shop/panel"
)

// MarksOf are the marks of all panels.
func (s *Service) MarksOf(c *panel.Car) ([]panel.JudgedMark, error) {
	var out []panel.JudgedMark
	for _, p := range c.Panels {
		all, err := p.JudgedMarks(s.Now())
		if err != nil {
			return nil, err
		}
		out = append(out, all...)
	}
	return out, nil
}

// CarView is a car with what is on record of it beside its panels.
type CarView struct {
	*panel.Car
	Marks     []panel.JudgedMark
	Tellings  []Telling
	Checklist []Task
}

// View of a car.
func (s *Service) View(ctx context.Context, c *panel.Car) (*CarView, error) {
	out := &CarView{Car: c}
	var err error
	if out.Marks, err = s.MarksOf(c); err != nil {
		return nil, err
	}
	if out.Tellings, err = s.TellingsOf(ctx, c); err != nil {
		return nil, err
	}
	out.Checklist, err = s.checklistOf(ctx, c.ID)
	return out, err
}
