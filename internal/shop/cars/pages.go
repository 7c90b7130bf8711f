package cars

import (
	"context"
	"errors"
	"fmt"

	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// MadeOf names what pages of a car that was handed over are made of: the car as it is, the house
// rules and the shelf, and how the shop writes things. It is empty of a car that is in the shop,
// whose pages are made anew as it changes.
func (s *Service) MadeOf(ctx context.Context, carID string) (string, error) {
	version, err := s.Store.ClosedAs(ctx, carID)
	if err != nil || version == 0 {
		return "", err
	}
	v, err := s.Store.HouseVersion(ctx)
	if err != nil {
		return "", err
	}
	q, err := s.CommonOf(ctx, v.Shop)
	if err != nil {
		return "", err
	}
	set := q.Settings
	return fmt.Sprintf("%d|%s|%s|%s|%v", version, q.House.Key, set.Unit, set.Zone, set.Face), nil
}

// KeptPage is a page of a car as it was made of that; nil where none was kept.
func (s *Service) KeptPage(ctx context.Context, carID, name, made string) ([]byte, error) {
	p, err := s.Store.Page(ctx, carID, name)
	if err != nil || p == nil || p.Made != made {
		return nil, err
	}
	return p.Page, nil
}

// KeepPage keeps a page of a car. One that cannot be kept now is made again.
func (s *Service) KeepPage(ctx context.Context, carID, name, made string, page []byte) error {
	err := s.Store.KeepPage(ctx, store.KeptPage{CarID: carID, Name: name, Made: made, Page: page})
	if errors.Is(err, refuse.ErrBusy) || errors.Is(err, refuse.ErrFull) {
		return nil
	}
	return err
}
