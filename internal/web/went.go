package web

import (
	"context"

	"waxplanus/core/price"
	"waxplanus/internal/shop/went"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func hourRange(h price.Hours) api.HourRange {
	return api.HourRange{Low: hundredth(h.Low), Likely: hundredth(h.Likely), High: hundredth(h.High)}
}

func (v view) went(c *went.CarWent) api.CarWent {
	out := api.CarWent{Car: v.carOf(c.OfCar, c.Next), Text: v.Went(c), Figures: []api.WentFigure{}, Lines: []api.WentLine{}, Closed: c.HandedOverAt != nil}
	for _, f := range []struct {
		name api.WentFigureName
		wording.WentFigure
	}{{api.WentFigureNameHours, v.WentHours(c)}, {api.WentFigureNameFilm, v.WentFilm(c)}, {api.WentFigureNameReady, v.WentReady(c)}, {api.WentFigureNamePrice, v.WentPrice(c)}} {
		one := api.WentFigure{Name: f.name, Now: f.Now, Against: api.WentFigureAgainst(f.Against), Text: f.Text}
		if f.Promised != "" {
			one.Promised = &f.Promised
		}
		if f.name == api.WentFigureNameHours {
			one.Range = &api.WentRange{End: hourRange(c.Went.End), Took: hourRange(c.Went.Took), Planned: hundredth(c.Went.Planned)}
			if c.Promise != nil {
				one.Range.Promised = ptr(hourRange(c.Promised()))
			}
		}
		out.Figures = append(out.Figures, one)
	}
	if text := wording.ToTake(c); text != "" {
		out.ToTake = &text
	}
	for i := range c.Lines {
		out.Lines = append(out.Lines, v.wentLine(c, &c.Lines[i]))
	}
	return out
}

func (v view) wentLine(c *went.CarWent, l *went.WentLine) api.WentLine {
	out := api.WentLine{What: l.What, Name: wording.WentName(l), Title: l.Title, PlannedMin: hundredth(l.Planned), Done: hundredth(l.Done), TookText: v.WentTook(l), How: v.WentHow(c, l),
		MaySay: c.HandedOverAt == nil && (l.Steps == nil || l.Done > 0)}
	if l.Done > 0 {
		t := l.Went.Took
		out.TookMin = ptr(hourRange(price.Hours{Low: 60 * t.Low, Likely: 60 * t.Likely, High: 60 * t.High}))
	}
	if l.Seen > 0 && l.SeenOf > 0 {
		out.Times = ptr(hundredth(l.Seen / l.SeenOf))
	}
	if l.Said != nil {
		out.SaidMin = &l.Said.Minutes
	}
	if s := l.Steps; s != nil {
		out.Step = &api.WentStep{PassesPlanned: hundredth(s.PassesPlanned), PassesMade: hundredth(s.PassesMade), FilmPlannedUm: hundredth(s.FilmPlanned), FilmUm: estimate(s.Film),
			UsedPlanned: hundredth(s.UsedPlanned), Used: hundredth(s.Used), Unit: api.StockUnit(s.Unit)}
	}
	return out
}

// GetWent is what was promised against what happened.
func (s *Server) GetWent(ctx context.Context, r api.GetWentRequestObject) (api.GetWentResponseObject, error) {
	c, err := s.shop.Went(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	return api.GetWent200JSONResponse(viewOf(ctx).went(c)), nil
}

// SayTime keeps how long some work took.
func (s *Server) SayTime(ctx context.Context, r api.SayTimeRequestObject) (api.SayTimeResponseObject, error) {
	c, err := s.shop.SayTime(ctx, r.CarId, r.Body.What, r.Body.Minutes, r.Body.Person)
	if err != nil {
		return nil, err
	}
	return api.SayTime200JSONResponse(viewOf(ctx).went(c)), nil
}

// TakeUsed takes what a car has used off the shelf.
func (s *Server) TakeUsed(ctx context.Context, r api.TakeUsedRequestObject) (api.TakeUsedResponseObject, error) {
	c, err := s.shop.TakeUsed(ctx, r.CarId, r.Body.Id, r.Body.Person)
	if err != nil {
		return nil, err
	}
	return api.TakeUsed200JSONResponse(viewOf(ctx).went(c)), nil
}
