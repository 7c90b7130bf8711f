package shop

import (
	"context"
	"fmt"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/internal/store"
)

// Car is a whole car: every panel, and the sheet around them.
type Car struct {
	CarFacts
	Sheet  Sheet
	Panels []*Panel
	Floors []AgreedFloor // of it and of its panels, struck ones too
	Next   Next
}

// Next is what to do next on a car: a task on one of its panels, and how the section
// that decides there stands, where the panel was read.
type Next struct {
	*Panel
	Task     level.Task
	Standing *level.Standing
}

// Car loads a car with all of its panels and their film.
func (s *Shop) Car(ctx context.Context, id string) (*Car, error) {
	row, err := s.store.Car(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.loadCar(ctx, row)
}

// Cars lists the cars in the order in which they came in.
func (s *Shop) Cars(ctx context.Context) ([]*Car, error) {
	rows, err := s.store.Cars(ctx)
	if err != nil {
		return nil, err
	}
	var out []*Car
	for _, row := range rows {
		c, err := s.loadCar(ctx, row)
		if err != nil {
			return nil, err
		}
		out = append(out, c)
	}
	return out, nil
}

func (s *Shop) loadCar(ctx context.Context, row store.Car) (*Car, error) {
	sheet, err := sheetOf(row)
	if err != nil {
		return nil, err
	}
	c := &Car{CarFacts: carFactsOf(row), Sheet: sheet}
	if c.Floors, err = s.floors(ctx, row.ID); err != nil {
		return nil, err
	}
	for _, p := range row.Panels {
		loaded, err := s.loadPanel(ctx, row, p)
		if err == nil {
			err = s.readFilm(ctx, loaded)
		}
		if err != nil {
			return nil, fmt.Errorf("%s: %w", p.Name, err)
		}
		c.Panels = append(c.Panels, loaded)
	}
	c.Next = nextOf(c.Panels)
	return c, nil
}

// Next is what to do next on this panel alone.
func (p *Panel) Next() Next { return nextOf([]*Panel{p}) }

// nextOf is the next task of the most urgent of some panels; of equals the one that was
// read most.
func nextOf(all []*Panel) Next {
	best := all[0].Outline()
	next := Next{Panel: all[0]}
	for _, p := range all[1:] {
		o := p.Outline()
		if n, m := o.Urgency(), best.Urgency(); n > m || n == m && o.Readings > best.Readings {
			best, next.Panel = o, p
		}
	}
	next.Task = best.Next()
	if _, st, ok := next.Panel.Decides(); ok {
		next.Standing = &st
	}
	return next
}

// FactoryLevel is the median film of the panels with a factory finish, µm; 0 where
// none was read.
func (c *Car) FactoryLevel() float64 {
	var means []float64
	for _, p := range c.Panels {
		if p.Finish() == film.FactoryFinish && p.Study != nil {
			means = append(means, p.Study.Mean.Mean)
		}
	}
	return film.FactoryLevel(means)
}

// marksOf are the marks of all panels.
func (s *Shop) marksOf(c *Car) ([]JudgedMark, error) {
	var out []JudgedMark
	for _, p := range c.Panels {
		all, err := p.JudgedMarks(s.now())
		if err != nil {
			return nil, err
		}
		out = append(out, all...)
	}
	return out, nil
}

// CarView is a car with what is on record of it beside its panels.
type CarView struct {
	*Car
	Marks     []JudgedMark
	Tellings  []Telling
	Checklist []Task
}

// View of a car.
func (s *Shop) View(ctx context.Context, c *Car) (*CarView, error) {
	out := &CarView{Car: c}
	var err error
	if out.Marks, err = s.marksOf(c); err != nil {
		return nil, err
	}
	if out.Tellings, err = s.tellingsOf(ctx, c); err != nil {
		return nil, err
	}
	out.Checklist, err = s.checklistOf(ctx, c.ID)
	return out, err
}
