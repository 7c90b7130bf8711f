package panelwork

import (
	"context"
	"strings"

	"waxplanus/core/film"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// NewFloor is a floor that an owner agrees to, of a panel or, WholeCar, of its car.
type NewFloor struct {
	ID             string
	WholeCar       bool
	Floor          float64
	Person, Reason string
}

// AgreeFloor keeps a floor that the owner agreed to, and gives the panel as it is with it.
func (s *Service) AgreeFloor(ctx context.Context, panelID string, in NewFloor) (*panel.Panel, error) {
	if err := house.CheckID(in.ID, house.OfFloor); err != nil {
		return nil, err
	}
	if in.Person = strings.TrimSpace(in.Person); in.Person == "" || len([]rune(in.Person)) > house.MostName {
		return nil, refuse.Because(refuse.WhoAgreed, "person", house.MostName)
	}
	if in.Reason = strings.TrimSpace(in.Reason); len([]rune(in.Reason)) < house.LeastReason || len([]rune(in.Reason)) > panel.MostFloorReason {
		return nil, refuse.Because(refuse.WhyAgreed, "reason", house.LeastReason, panel.MostFloorReason)
	}
	if err := s.AsJudged(func() error { return s.agreeFloor(ctx, panelID, in) }); err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

func (s *Service) agreeFloor(ctx context.Context, panelID string, in NewFloor) error {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	usual := film.PolicyFor(p.Finish()).Floor
	switch clear := p.ClearMean(); {
	case !(in.Floor >= film.LeastFloor):
		return refuse.Because(refuse.FloorTooLow, "floor_um", refuse.Film(film.LeastFloor))
	case in.Floor >= usual:
		return refuse.Because(refuse.FloorNotLower, "floor_um", refuse.Film(usual))
	case in.Floor > clear:
		return refuse.Because(refuse.FloorOverClear, "floor_um", refuse.Film(clear))
	}
	row := store.Floor{ID: in.ID, CarID: p.Car.ID, FloorUM: in.Floor, Person: in.Person, Reason: in.Reason, At: s.Now()}
	if !in.WholeCar {
		row.PanelID = &p.ID
	}
	return s.Store.AgreeFloor(ctx, &row, p.ID, p.RowsAt)
}

// StrikeFloor takes back what was agreed, with a reason; it stays on record.
func (s *Service) StrikeFloor(ctx context.Context, id, reason string) error {
	f, err := s.Store.Floor(ctx, id)
	if err != nil {
		return err
	}
	if reason, err = house.StrikeReason(reason); err != nil {
		return err
	}
	return s.Store.StrikeFloor(ctx, f.ID, reason, s.Now())
}
