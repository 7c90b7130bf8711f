package offers

import (
	"context"
	"math"

	"waxplanus/core/film"
	"waxplanus/core/price"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
)

// Budget is the most that is seen of a car for so many minutes of work on its panels.
type Budget struct {
	*panel.Car
	Minutes  float64 // that were asked for, or that as much money pays for
	Money    float64 // a minute of work, with the allowance and tax
	ByMoney  bool    // it was asked for money: what is used up counts like minutes of its price
	Bought   price.Bought
	Most     float64 // that can be gained at all
	Price    price.Price
	Curve    []price.Step
	NextStep *price.Step // the next best addition; nil where nothing is left to gain
	Places   []BudgetPlace
}

// BudgetPlace is a panel with the ways to work it that its film allows.
type BudgetPlace struct {
	*panel.Panel
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

// The most that may be asked for, h and money.
const mostBudget, mostPaid = 1000.0, 1e6

// Budget finds the best use of so many hours, or of so much money; nil of both for half of the
// hours that gain all. Panels on which work has begun, and ways that the film does not allow,
// are left out.
func (s *Service) Budget(ctx context.Context, carID string, hours, money *float64) (*Budget, error) {
	for _, v := range []struct {
		field string
		value *float64
		most  float64
	}{{"hours", hours, mostBudget}, {"money", money, mostPaid}} {
		if v.value != nil && !(*v.value >= 0 && *v.value <= v.most) {
			return nil, refuse.Because(refuse.StockRange, v.field, 0, v.most)
		}
	}
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	workshop, err := s.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	r := workshop.Rates
	out := &Budget{Car: c, ByMoney: money != nil, Money: r.Labour / 60 * (1 + r.Risk) * (1 + r.Tax)}
	names := offersByAim[1:]
	if shows := roughest(c.Wanted()); shows != nil && shows.Options.Job.Corrects() {
		names = offersByGone
	}
	var places []price.Place
	for _, p := range c.Wanted() {
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
			if w == nil {
				continue
			}
			place.Ways = append(place.Ways, *w)
			cost := w.Option
			if out.ByMoney && r.Labour > 0 {
				cost.Minutes += 60 * w.material() / r.Labour
			}
			of.Options = append(of.Options, cost)
		}
		out.Places, places = append(out.Places, place), append(places, of)
	}
	out.Curve = price.Curve(places)
	if n := len(out.Curve); n > 0 {
		out.Most = out.Curve[n-1].Gain
		out.Minutes = out.Curve[n-1].Budget / 2
	}
	switch {
	case hours != nil:
		out.Minutes = *hours * 60
	case money != nil && out.Money > 0:
		out.Minutes = *money / out.Money
	}
	out.Bought = price.Best(places, out.Minutes)
	if next, ok := price.Next(out.Curve, out.Minutes); ok {
		out.NextStep = &next
	}
	material, minutes := 0.0, 0.0
	for i := range out.Places {
		if w := out.Chosen(i); w != nil {
			material += w.material()
			minutes += w.Option.Minutes
		}
	}
	out.Bought.Minutes = minutes
	out.Price = r.Of(minutes/60, material, nil)
	return out, nil
}

// material is what a way uses up, in money.
func (w *BudgetWay) material() float64 {
	l := w.Result.Way.Ladder
	return math.Max(0, l.Money-w.House.Shelf.Law.Labour*l.Minutes/60)
}

// wayWithin is a way to work a panel that its film allows and that makes it better; nil for none.
func (s *Service) wayWithin(ctx context.Context, p *panel.Panel, name CarOfferName) (*BudgetWay, error) {
	pp, err := s.under(ctx, p, name)
	if err != nil || pp == nil || pp.Result.None {
		return nil, err
	}
	l := pp.Result.Way.Ladder
	if pp.Study != nil && pp.State(l) == film.Shut {
		return nil, nil
	}
	better := price.Look{Clarity: l.End().Clarity(), Peel: l.End().Grade()}.Better(price.Look{Clarity: p.SurfaceNow().Clarity(), Peel: p.PeelGrade()})
	if p.Options.Job.Corrects() {
		better = l.Gone()
	}
	w := &BudgetWay{PanelPlan: *pp, Name: name, Option: price.Option{Name: string(name), Minutes: l.Minutes, Film: l.Film}}
	if w.Option.Gain = price.Seen(better, p.Shape.Area()/1e6, Shown(p)); w.Option.Gain <= 0 {
		return nil, nil
	}
	return w, nil
}
