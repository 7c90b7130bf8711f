package panel

import (
	"context"
	"time"

	"waxplanus/core/film"
	"waxplanus/internal/shop/facts"
)

// Car is a whole car: every panel, and the sheet around them.
type Car struct {
	facts.OfCar
	Sheet  facts.Sheet
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
func (s *Service) Car(ctx context.Context, id string) (*Car, error) {
	select {
	case s.cars <- struct{}{}:
		defer func() { <-s.cars }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	r, err := s.CarBatch(ctx, id)
	if err != nil {
		return nil, err
	}
	sheet, err := facts.SheetOf(r.Car)
	if err != nil {
		return nil, err
	}
	c := &Car{OfCar: facts.CarOf(r.Car), Sheet: sheet, Floors: r.floors, HandedOverAt: r.Car.HandedOverAt, ForgottenAt: r.Car.ForgottenAt, No: r.Car.Seq, Version: r.versions[r.Car.Panels[0].ID].Car}
	if err := s.loadMissing(ctx, r); err != nil {
		return nil, err
	}
	for _, p := range r.Car.Panels {
		loaded, err := s.PanelOf(ctx, r, p.ID)
		if err == nil {
			err = ctx.Err() // nobody waits any more
		}
		if err != nil {
			return nil, err
		}
		c.Panels = append(c.Panels, loaded)
	}
	asked := c.Wanted()
	if len(asked) == 0 {
		asked = c.Panels
	}
	c.Next = nextOf(asked)
	return c, nil
}

func (s *Service) CarBatch(ctx context.Context, id string) (*batch, error) {
	versions, err := s.Store.CarVersions(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.loadBatch(ctx, versions)
}

// loadMissing has the rows of those panels at hand that are not remembered.
func (s *Service) loadMissing(ctx context.Context, r *batch) error {
	var missing []string
	for _, p := range r.Car.Panels {
		if !s.Panels.Has(StateKey(r.versions[p.ID])) {
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

// FactoryLevel is that of the car of a panel; its other panels are not asked for their film.
func (s *Service) FactoryLevel(ctx context.Context, p *Panel) (float64, error) {
	r, err := s.CarBatch(ctx, p.Car.ID)
	if err != nil {
		return 0, err
	}
	var all []*Panel
	for _, row := range r.Car.Panels {
		if facts.PanelOf(row).Finish() != film.FactoryFinish {
			continue
		}
		o, err := s.PanelOf(ctx, r, row.ID)
		if err != nil {
			return 0, err
		}
		all = append(all, o)
	}
	return factoryLevel(all), nil
}
