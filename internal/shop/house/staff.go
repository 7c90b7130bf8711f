package house

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// TakeOn takes somebody in, or changes the coarsest grit that they may run where it is
// given; was is that which was seen before. Somebody taken in again may run no more.
func (s *Service) TakeOn(ctx context.Context, name string, coarsest, was *string) error {
	name, err := PersonName(name)
	if err != nil {
		return err
	}
	h, err := s.House(ctx)
	if err != nil {
		return err
	}
	return s.Store.ChangePerson(ctx, name, func(p *store.Person) error {
		if was != nil && p.Coarsest != *was {
			return refuse.Conflicting(refuse.OtherSince)
		}
		if coarsest != nil {
			p.Coarsest = *coarsest
		}
		if grits := h.Shelf.Grits(); p.Coarsest != "" && !slices.Contains(grits, p.Coarsest) {
			return refuse.Because(refuse.NoGrit, "coarsest", p.Coarsest, strings.Join(grits, ", "))
		}
		return nil
	})
}

// Press holds what a hand puts on a scale (kg) against what a backing of the shelf wants.
func (s *Service) Press(ctx context.Context, backing string, kg float64) (shelf.Backing, shelf.Press, error) {
	h, err := s.House(ctx)
	if err != nil {
		return shelf.Backing{}, shelf.Press{}, err
	}
	b, ok := h.Shelf.Backing(backing)
	if !ok {
		return b, shelf.Press{}, refuse.Because(refuse.NoConstant, "backing", backing)
	}
	p, err := b.Press(kg)
	if err != nil {
		err = refuse.Because(refuse.BadValue, "kg", err)
	}
	return b, p, err
}

// Worker is somebody who works in the shop, with their hours.
type Worker struct {
	schedule.Person
	Grit string // the coarsest that they may run, empty for any
	Own  bool   // hours of their own, not the shop's
	Rate float64
}

// Workers are the people of the shop as they are planned.
func (s *Service) Workers(ctx context.Context, w Workshop) ([]Worker, error) {
	people, err := s.Store.People(ctx)
	if err != nil {
		return nil, err
	}
	h, err := s.House(ctx)
	if err != nil {
		return nil, err
	}
	var out []Worker
	for _, p := range people {
		one := Worker{Person: schedule.Person{Name: p.Name, Week: w.Week, Machine: p.MachineMin}, Grit: p.Coarsest, Rate: p.Rate}
		if p.Hours != "" {
			if err := json.Unmarshal([]byte(p.Hours), &one.Week); err != nil {
				return nil, fmt.Errorf("hours of %s: %w", p.Name, err)
			}
			one.Own = true
		}
		if p.Off != "" {
			if err := json.Unmarshal([]byte(p.Off), &one.Off); err != nil {
				return nil, fmt.Errorf("days off of %s: %w", p.Name, err)
			}
		}
		for _, k := range strings.FieldsFunc(p.Kinds, func(r rune) bool { return r == ',' }) {
			one.Kinds = append(one.Kinds, schedule.Kind(k))
		}
		for _, a := range h.Shelf.Abrasives {
			if a.Grit == p.Coarsest {
				one.Coarsest = math.Max(one.Coarsest, a.D50)
			}
		}
		out = append(out, one)
	}
	return out, nil
}
