package web

import (
	"context"

	"waxplanus/core/plan"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/web/api"
)

func sumOf(s plan.Sum) api.PlanSum {
	return api.PlanSum{Panels: s.Panels, Reached: s.Reached, FilmUm: s.Film, FilmMostUm: s.FilmMost, Hours: s.Minutes / 60, Money: s.Money,
		Sheets: s.Sheets, Discs: s.Discs, Clarity: s.Clarity}
}

// GetCarPlans is every panel of a car that is worked, with its plan.
func (s *Server) GetCarPlans(ctx context.Context, r api.GetCarPlansRequestObject) (api.GetCarPlansResponseObject, error) {
	c, err := s.shop.CarPlans(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.CarPlans{Car: v.carOf(c.OfCar, c.Next), Panels: []api.PanelPlan{}, Totals: sumOf(c.Sum), Limits: v.OverLimits(c)}
	for _, pp := range c.Plans {
		one, err := v.panelPlan(pp)
		if err != nil {
			return nil, err
		}
		out.Panels = append(out.Panels, one)
	}
	if best := c.BestNext(); best != nil {
		out.Best = &api.BestNext{PanelId: best.ID, Text: v.BestNext(*best)}
	}
	if text := v.NextFilm(c.NextFilm()); text != "" {
		out.Film = &text
	}
	return api.GetCarPlans200JSONResponse(out), nil
}

func (v view) panelPlan(pp offers.PanelPlan) (api.PanelPlan, error) {
	out := api.PanelPlan{Panel: v.panel(pp.Panel), Reached: pp.Result.Reached}
	if gain := pp.Gain(); gain > 0 {
		out.GainM2PerHour = &gain
	}
	var err error
	if pp.Record != nil {
		if out.Record, err = v.record(pp.Panel); err != nil {
			return out, err
		}
	}
	if !pp.Result.None {
		out.Line = ptr(line(pp.Result.Way, pp.Panel))
		out.Text = v.Steps(pp.Result.Way.Ladder.Choices(), &pp.House.Shelf)
	}
	if !pp.Result.Reached {
		out.Text = v.Refused(pp.Panel, pp.Panel.Refusal())
	}
	return out, err
}

// CompareSchools works a car under each school of a question.
func (s *Server) CompareSchools(ctx context.Context, r api.CompareSchoolsRequestObject) (api.CompareSchoolsResponseObject, error) {
	c, err := s.shop.CompareSchools(ctx, r.CarId, r.Params.Question)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.Schools{Car: v.carOf(c.OfCar, c.Next), Rule: v.rule(c.Question, c.Rules), Text: v.Compared(c), Columns: []api.SchoolColumn{}}
	for _, school := range c.Schools {
		col := api.SchoolColumn{School: string(school.Name), Panels: []api.SchoolPanel{}, Totals: sumOf(school.Sum)}
		for _, pp := range school.Plans {
			l := pp.Result.Way.Ladder
			one := api.SchoolPanel{Name: pp.Name, FilmUm: l.Film, Hours: l.Minutes / 60, Reached: pp.Result.Reached, Text: v.Steps(l.Choices(), &pp.House.Shelf)}
			if pp.Result.None {
				one.Text = v.Refused(pp.Panel, pp.Panel.Refusal())
			} else {
				one.Clarity = l.End().Clarity()
			}
			col.Panels = append(col.Panels, one)
		}
		out.Columns = append(out.Columns, col)
	}
	return api.CompareSchools200JSONResponse(out), nil
}
