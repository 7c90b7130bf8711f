package shop

import (
	"context"
	"math"

	"waxplanus/core/film"
	"waxplanus/core/price"
)

// Budget is the most that is seen of a car for so many minutes of work on its panels.
type Budget struct {
	*Car
	Minutes  float64 // that were asked for
	Bought   price.Bought
	Most     float64 // that can be gained at all
	Price    price.Price
	Curve    []price.Step
	NextStep *price.Step // the next best addition; nil where nothing is left to gain
	Places   []BudgetPlace
}

// BudgetPlace is a panel with the ways to work it that its film allows.
type BudgetPlace struct {
	*Panel
	Ways []BudgetWay
}

// BudgetWay is one of them.
type BudgetWay struct {
	PanelPlan
	Name CarOfferName
	price.Option
}

// Chosen is the way that the budget buys for a place; nil for none.
func (b *Budget) Chosen(place int) *BudgetWay {
	if i := b.Bought.Choice[place]; i >= 0 {
		return &b.Places[place].Ways[i]
	}
	return nil
}

// mostBudget is the most that may be asked for, h.
const mostBudget = 1000.0

// Budget finds the best use of so many hours; nil for half of what gains all. Panels on which
// work has begun, and ways that the film does not allow, are left out.
func (s *Shop) Budget(ctx context.Context, carID string, hours *float64) (*Budget, error) {
	if hours != nil && !(*hours >= 0 && *hours <= mostBudget) {
		return nil, Refuse(StockRange, "hours", 0, mostBudget)
	}
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	workshop, err := s.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	out := &Budget{Car: c}
	names := offersByAim[1:]
	if shows := roughest(c.wanted()); shows != nil && shows.Options.Job.Corrects() {
		names = offersByGone
	}
	var places []price.Place
	for _, p := range c.wanted() {
		if p.Worked() || p.Outline().Kept {
			continue
		}
		place := BudgetPlace{Panel: p}
		of := price.Place{Key: p.ID}
		for _, name := range names {
			w, err := s.wayWithin(ctx, p, name)
			if err != nil {
				return nil, err
			}
			if w != nil {
				place.Ways = append(place.Ways, *w)
				of.Options = append(of.Options, w.Option)
			}
		}
		out.Places, places = append(out.Places, place), append(places, of)
	}
	out.Curve = price.Curve(places)
	if n := len(out.Curve); n > 0 {
		out.Most = out.Curve[n-1].Gain
		out.Minutes = out.Curve[n-1].Budget / 2
	}
	if hours != nil {
		out.Minutes = *hours * 60
	}
	out.Bought = price.Best(places, out.Minutes)
	if next, ok := price.Next(out.Curve, out.Minutes); ok {
		out.NextStep = &next
	}
	material := 0.0
	for i := range out.Places {
		if w := out.Chosen(i); w != nil {
			l := w.Result.Way.Ladder
			material += math.Max(0, l.Money-w.House.Shelf.Law.Labour*l.Minutes/60)
		}
	}
	out.Price = workshop.Rates.Of(out.Bought.Minutes/60, material, nil)
	return out, nil
}

// wayWithin is a way to work a panel that its film allows and that makes it better; nil for none.
func (s *Shop) wayWithin(ctx context.Context, p *Panel, name CarOfferName) (*BudgetWay, error) {
	pp, err := s.under(ctx, p, name)
	if err != nil || pp == nil || pp.Result.None {
		return nil, err
	}
	l := pp.Result.Way.Ladder
	if pp.Study != nil && pp.State(l) == film.Shut {
		return nil, nil
	}
	better := price.Look{Clarity: l.End().Clarity(), Peel: l.End().Grade()}.Better(price.Look{Clarity: p.asItIs().Clarity(), Peel: p.PeelGrade()})
	if p.Options.Job.Corrects() {
		better = l.Gone()
	}
	w := &BudgetWay{PanelPlan: *pp, Name: name, Option: price.Option{Name: string(name), Minutes: l.Minutes, Film: l.Film}}
	if w.Option.Gain = price.Seen(better, p.Shape.Area()/1e6, p.Shown()); w.Option.Gain <= 0 {
		return nil, nil
	}
	return w, nil
}
