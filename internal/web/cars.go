package web

import (
	"context"

	"waxplanus/core/level"
	"waxplanus/internal/shop"
	"waxplanus/internal/web/api"
)

// stageOf is where a task is done.
func stageOf(t level.Task) api.NextActionStage {
	switch t {
	case level.TaskLevel, level.TaskFinished:
		return api.NextActionStageLevel
	case level.TaskSpot, level.TaskLookOver:
		return api.NextActionStageLook
	case level.TaskRead:
		return api.NextActionStageRead
	}
	return api.NextActionStagePlan
}

func (v view) next(n shop.Next) api.NextAction {
	out := api.NextAction{PanelId: n.ID, PanelName: n.Name, Stage: stageOf(n.Task), Action: v.Next(n)}
	if n.Standing != nil {
		out.State, out.Reason = ptr(api.State(n.Standing.State)), ptr(v.State(*n.Standing, n.Study.Policy.Floor))
	}
	return out
}

// ListCars lists the cars with their small outlines.
func (s *Server) ListCars(ctx context.Context, _ api.ListCarsRequestObject) (api.ListCarsResponseObject, error) {
	cars, err := s.shop.Cars(ctx)
	if err != nil {
		return nil, err
	}
	return api.ListCars200JSONResponse(each(cars, viewOf(ctx).small)), nil
}

// small is a car with the outlines and states of its panels.
func (v view) small(c *shop.Car) api.CarSummary {
	out := v.carOf(c.CarFacts, c.Next)
	out.Box = ptr(boxOf(c.Sheet.Box))
	out.Panels = ptr(each(c.Panels, func(p *shop.Panel) api.PanelShape {
		shape := api.PanelShape{Outline: points(p.Shape.Outline), Placement: placement(p.Shape.Placement)}
		if _, st, ok := p.Decides(); ok {
			shape.State = ptr(api.State(st.State))
		}
		return shape
	}))
	return out
}

// GetCar is one car unfolded, with the film of each panel that has been read.
func (s *Server) GetCar(ctx context.Context, r api.GetCarRequestObject) (api.GetCarResponseObject, error) {
	c, err := s.shop.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	out, err := s.car(ctx, c)
	return api.GetCar200JSONResponse(out), err
}

// car is a car with all that is known of it.
func (s *Server) car(ctx context.Context, car *shop.Car) (api.Car, error) {
	c, err := s.shop.View(ctx, car)
	if err != nil {
		return api.Car{}, err
	}
	v := viewOf(ctx)
	out := api.Car{Id: c.ID, Name: c.Name, Body: c.Body, Colour: api.Colour(c.Colour), Painter: c.Painter, Next: v.next(c.Next),
		Box: boxOf(c.Sheet.Box), Scenery: each(c.Sheet.Scenery, sceneryOf), OwnerWords: c.OwnerWords, CostLimit: c.CostLimit, HoursLimit: c.HoursLimit,
		Marks: v.counts(c.Marks), Tellings: each(c.Tellings, v.telling), Checklist: each(c.Checklist, v.task), Floors: each(c.Floors, v.agreed)}
	out.Panels = each(c.Panels, func(p *shop.Panel) api.Panel {
		panel := v.panel(p)
		if p.Study != nil {
			panel.Map = ptr(filmMap(p.Study.Grid))
		}
		return panel
	})
	if f := c.FactoryLevel(); f > 0 {
		out.FactoryUm = &f
	}
	return out, nil
}
