package shop

import (
	"context"
	"time"

	"waxplanus/core/film"
)

// Car is a whole car: every panel, and the sheet around them.
type Car struct {
	CarFacts
	Sheet  Sheet
	Panels []*Panel
	Floors []AgreedFloor // of it and of its panels, struck ones too
	Next   Next
	// HandedOverAt is nil while it is in the shop; Version is that of the rows that it was
	// made from.
	HandedOverAt *time.Time
	ForgottenAt  *time.Time // when what was known of the owner was deleted
	No           int64      // of its film record, from 1 on in the shop
	Version      int64
}

// Car loads a car with all of its panels and their film.
func (s *Shop) Car(ctx context.Context, id string) (*Car, error) {
	select {
	case s.cars <- struct{}{}:
		defer func() { <-s.cars }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	r, err := s.goRoundCar(ctx, id)
	if err != nil {
		return nil, err
	}
	sheet, err := sheetOf(r.car)
	if err != nil {
		return nil, err
	}
	c := &Car{CarFacts: carFactsOf(r.car), Sheet: sheet, Floors: r.floors, HandedOverAt: r.car.HandedOverAt, ForgottenAt: r.car.ForgottenAt, No: r.car.Seq, Version: r.versions[r.car.Panels[0].ID].Car}
	if err := s.loadMissing(ctx, r); err != nil {
		return nil, err
	}
	for _, p := range r.car.Panels {
		loaded, err := s.panelOf(ctx, r, p.ID)
		if err == nil {
			err = ctx.Err() // nobody waits any more
		}
		if err != nil {
			return nil, err
		}
		c.Panels = append(c.Panels, loaded)
	}
	asked := c.wanted()
	if len(asked) == 0 {
		asked = c.Panels
	}
	c.Next = nextOf(asked)
	return c, nil
}

func (s *Shop) goRoundCar(ctx context.Context, id string) (*round, error) {
	versions, err := s.store.CarVersions(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.goRound(ctx, versions)
}

// loadMissing has the rows of those panels at hand that are not remembered.
func (s *Shop) loadMissing(ctx context.Context, r *round) error {
	var missing []string
	for _, p := range r.car.Panels {
		if !s.panels.has(stateKey(r.versions[p.ID])) {
			missing = append(missing, p.ID)
		}
	}
	return r.load(ctx, s, missing...)
}

// FactoryLevel is the median film of the panels with a factory finish, µm; 0 where
// none was read.
func (c *Car) FactoryLevel() float64 { return factoryLevel(c.Panels) }

func factoryLevel(all []*Panel) float64 {
	var means []float64
	for _, p := range all {
		if p.Finish() == film.FactoryFinish && p.Study != nil {
			means = append(means, p.Study.Mean.Mean)
		}
	}
	return film.FactoryLevel(means)
}

// factoryLevel is that of the car of a panel; its other panels are not asked for their film.
func (s *Shop) factoryLevel(ctx context.Context, p *Panel) (float64, error) {
	r, err := s.goRoundCar(ctx, p.Car.ID)
	if err != nil {
		return 0, err
	}
	var all []*Panel
	for _, row := range r.car.Panels {
		if knownOf(row).Finish() != film.FactoryFinish {
			continue
		}
		o, err := s.panelOf(ctx, r, row.ID)
		if err != nil {
			return 0, err
		}
		all = append(all, o)
	}
	return factoryLevel(all), nil
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
