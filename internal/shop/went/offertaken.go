package went

import (
	"context"
	"math"

	"waxplanus/core/film"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// TakeOffer keeps that the owner takes an offer: its aims become those of the panels on which
// no work has begun, and where nothing was promised yet, the day it is ready becomes the car's.
// total is the price that the owner saw.
func (s *Service) TakeOffer(ctx context.Context, carID, id string, name offers.CarOfferName, person string, total *float64) (*offers.CarOffers, error) {
	if err := house.CheckID(id, house.OfOffer); err != nil {
		return nil, err
	}
	person, err := house.PersonName(person)
	if err != nil {
		return nil, err
	}
	all, err := s.Offers(ctx, carID)
	if err != nil {
		return nil, err
	}
	if all.Taken != nil && all.Taken.ID == id {
		return all, nil // sent twice
	}
	if all.HandedOverAt != nil {
		return nil, refuse.Conflicting(refuse.ClosedAlready, all.Name)
	}
	o := all.Named(name)
	switch {
	case o == nil:
		return nil, refuse.Because(refuse.NoOffer, "name", string(name))
	case o.Read == film.Shut:
		return nil, refuse.Conflicting(refuse.OfferShut, string(name))
	case total != nil && math.Abs(*total-o.Price.Total) > 0.005:
		return nil, refuse.Conflicting(refuse.OfferChanged, o.Price.Total)
	}
	before, err := s.wentOf(ctx, all.Car)
	if err != nil {
		return nil, err
	}
	p := store.Promise{ID: id, DoneH: before.Went.Done, CarID: carID, Offer: string(name), HoursLow: o.Hours.Low, Hours: o.Hours.Likely, HoursHigh: o.Hours.High, Price: o.Price.Total,
		FilmUM: o.Film, Clarity: o.EndClarity(), Person: person, At: s.Now()}
	if !o.Ready.IsZero() {
		p.ReadyAt = &o.Ready
	}
	err = s.Store.TakeOffer(ctx, &p, func(c *store.Car) error {
		for _, pp := range o.Panels {
			if pp.Worked() {
				continue
			}
			row := panel.FirstOf(c.Panels, func(q store.Panel) bool { return q.ID == pp.ID })
			if row == nil {
				return refuse.ErrMissing
			}
			row.Aim, row.Gone = string(pp.Aim), pp.Condition.Gone
		}
		if c.DueAt == nil {
			c.DueAt = p.ReadyAt
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return s.Offers(ctx, carID)
}
