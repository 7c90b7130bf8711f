package web

import (
	"context"

	"waxplanus/core/price"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func priceOf(p price.Price) api.OfferPrice {
	return api.OfferPrice{Labour: hundredth(p.Labour), Material: hundredth(p.Material), Risk: hundredth(p.Risk), Net: hundredth(p.Net), Tax: hundredth(p.Tax), Total: hundredth(p.Total)}
}

func lightOf(l facts.Lit) api.PanelLight {
	if l == facts.LitByPlace {
		return api.ByPlace
	}
	return api.PanelLight(l)
}

func (v view) budget(b *offers.Budget) api.Budget {
	out := api.Budget{Car: v.carOf(b.OfCar, b.Next), Text: v.Budget(b), Hours: hundredth(b.Minutes / 60), Money: hundredth(b.Minutes * b.Money), ByMoney: b.ByMoney, Price: priceOf(b.Price), Curve: []api.BudgetPoint{}, Panels: []api.BudgetPanel{}}
	h := price.HoursOf([]float64{b.Bought.Minutes}, 0)
	out.HoursText = wording.HourRange(h.Low, h.High)
	share := func(gain float64) float64 {
		if b.Most == 0 {
			return 0
		}
		return gain / b.Most
	}
	point := func(s price.Step) api.BudgetPoint {
		return api.BudgetPoint{Hours: hundredth(s.Budget / 60), Money: hundredth(s.Budget * b.Money), Gain: share(s.Gain), Text: v.BudgetStep(b, s.Place, s.Option)}
	}
	out.Gain, out.Curve = share(b.Bought.Gain), each(b.Curve, point)
	if b.NextStep != nil {
		out.Next = ptr(point(*b.NextStep))
	}
	for i, p := range b.Places {
		one := api.BudgetPanel{PanelId: p.ID, Key: p.Key, Name: p.Name, Seen: offers.Shown(p.Panel), Light: lightOf(p.Light), LightText: wording.Lit(p.Panel), Head: "left as it is"}
		if w := b.Chosen(i); w != nil {
			one.Option, one.Aim, one.Head = ptr(api.CarOfferName(w.Name)), ptr(api.Aim(w.Aim)), wording.OfferHead(w.Name)
			if b.Places[i].Options.Job.Corrects() {
				one.Gone = &w.Condition.Gone
			}
			one.Hours, one.FilmUm, one.Gain = hundredth(w.Option.Minutes/60), w.Option.Film, share(w.Option.Gain)
		}
		out.Panels = append(out.Panels, one)
	}
	return out
}

// GetBudget is the most that is seen for so many hours.
func (s *Server) GetBudget(ctx context.Context, r api.GetBudgetRequestObject) (api.GetBudgetResponseObject, error) {
	b, err := s.shop.Budget(ctx, r.CarId, r.Params.Hours, r.Params.Money)
	if err != nil {
		return nil, err
	}
	return api.GetBudget200JSONResponse(viewOf(ctx).budget(b)), nil
}
