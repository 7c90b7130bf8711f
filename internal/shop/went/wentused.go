package went

import (
	"context"
	"math"

	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/store"
)

// padWear is the least wear of a pad that is taken off the shelf: pads are counted by what is
// left in them.
const padWear = 0.1

// wentUsed says what a car has used that was not taken off the shelf: whole pieces, ml or m, and
// tenths of pads, of what is counted.
func (s *Service) wentUsed(ctx context.Context, w *CarWent) error {
	taken, err := s.Store.UsedFor(ctx, w.ID)
	if err != nil {
		return err
	}
	rows, err := s.Store.Stock(ctx)
	if err != nil {
		return err
	}
	h, err := s.House(ctx)
	if err != nil {
		return err
	}
	used := map[string]float64{}
	add := func(item string, much float64) {
		for of, much := range week.UsesOf(&h.Shelf, item, much) {
			used[of] += much
		}
	}
	for _, l := range w.Lines {
		switch {
		case l.Steps != nil:
			add(l.Steps.Item, l.Steps.Used)
		case l.Kind == schedule.Mask:
			add(shelf.TapeKey, w.taped*w.tape)
		}
	}
	for _, thing := range week.StockThings(&h.Shelf) {
		least := 1.0
		if thing.Unit == week.Pads {
			least = padWear
		}
		more := least * math.Floor((used[thing.Item]-taken[thing.Item])/least+1e-6)
		if more > 0 && panel.FirstOf(rows, func(r store.StockItem) bool { return r.Item == thing.Item }) != nil {
			w.ToTake = append(w.ToTake, UsedUp{thing, more})
		}
	}
	return nil
}

// TakeUsed takes what a car has used off the shelf; where the shelf holds less, all of it. id
// names this, so that it is done once.
func (s *Service) TakeUsed(ctx context.Context, carID, id, person string) (*CarWent, error) {
	if err := house.CheckID(id, house.OfStock); err != nil {
		return nil, err
	}
	person, err := house.PersonName(person)
	if err != nil {
		return nil, err
	}
	w, err := s.Went(ctx, carID)
	if err != nil {
		return nil, err
	}
	for _, u := range w.ToTake {
		move := store.StockMove{ID: id + "-" + u.Item, Item: u.Item, Kind: store.StockUsed, Person: person, Note: w.Name, At: s.Now(), CarID: carID, ForCar: u.Used}
		err := s.Store.MoveStock(ctx, move, func(row *store.StockItem) error {
			row.Here = math.Max(0, row.Here-u.Used)
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	return s.Went(ctx, carID)
}
