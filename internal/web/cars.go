package web

import (
	"context"

	"waxplanus/core/level"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/web/api"
)

// stageOf is where a task is done.
func stageOf(t level.Task) api.NextActionStage {
	switch t {
	case level.TaskLevel:
		return api.NextActionStageLevel
	case level.TaskProve:
		return api.NextActionStageProve
	case level.TaskKept:
		return api.NextActionStageHandOver
	case level.TaskSpot, level.TaskLookOver:
		return api.NextActionStageLook
	case level.TaskRead:
		return api.NextActionStageRead
	}
	return api.NextActionStagePlan
}

func (v view) next(n panel.Next) api.NextAction {
	out := api.NextAction{PanelId: n.PanelID, PanelName: n.PanelName, Stage: stageOf(n.Task), Action: v.Next(n)}
	if !n.From.IsZero() {
		out.From = &n.From
	}
	if n.Standing != nil {
		out.State, out.Reason = ptr(api.State(n.Standing.State)), ptr(v.State(*n.Standing, n.Floor))
	}
	return out
}

// ListCars is a page of the cars with their small outlines.
func (s *Server) ListCars(ctx context.Context, r api.ListCarsRequestObject) (api.ListCarsResponseObject, error) {
	most := cars.UsualPage
	if r.Params.Limit != nil {
		most = *r.Params.Limit
	}
	page, err := s.shop.Cars(ctx, cars.CarsWanted{HandedOver: given(r.Params.HandedOver), Search: given(r.Params.Search), Cursor: given(r.Params.Cursor), Most: most})
	if err != nil {
		return nil, err
	}
	out := api.CarPage{Cars: each(page.Cars, viewOf(ctx).small), Total: page.Total, Others: page.Others}
	if page.Cursor != "" {
		out.Cursor = &page.Cursor
	}
	return api.ListCars200JSONResponse(out), nil
}

// small is what a list shows of a car.
func (v view) small(c cars.Summary) api.CarSummary {
	out := v.carOf(c.OfCar, c.Next)
	out.OpenMarks, out.HandedOverAt = &c.OpenMarks, c.HandedOverAt
	out.Box = ptr(boxOf(c.Box))
	out.Panels = ptr(each(c.Panels, func(p cars.PanelState) api.PanelShape {
		shape := api.PanelShape{Path: p.Path}
		if p.State != "" {
			shape.State = ptr(api.State(p.State))
		}
		return shape
	}))
	if c.Renewing {
		out.Renewing = &c.Renewing
	}
	if c.Fault != nil {
		_, text, _ := v.Fault(c.Fault)
		out.Fault = &text
	}
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
func (s *Server) car(ctx context.Context, car *panel.Car) (api.Car, error) {
	c, err := s.shop.View(ctx, car)
	if err != nil {
		return api.Car{}, err
	}
	v := viewOf(ctx)
	out := api.Car{Id: c.ID, Version: c.Version, HandedOverAt: c.HandedOverAt, Name: c.Name, Body: c.Body, Colour: api.Colour(c.Colour), Painter: c.Painter, Next: v.next(c.Next),
		Box: boxOf(c.Sheet.Box), Scenery: each(c.Sheet.Scenery, sceneryOf), OwnerWords: c.OwnerWords, CostLimit: c.CostLimit, HoursLimit: c.HoursLimit,
		Marks: v.counts(c.Marks), Tellings: each(c.Tellings, v.telling), Checklist: each(c.Checklist, v.task), Floors: each(c.Floors, v.agreed)}
	out.Panels = each(c.Panels, func(p *panel.Panel) api.Panel {
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
