package shop

import (
	"context"
	"math"

	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
)

// padWear is the least wear of a pad that is taken off the shelf: pads are counted by what is
// left in them.
const padWear = 0.1

// wentUsed says what a car has used that was not taken off the shelf: whole pieces, ml or m, and
// tenths of pads, of what is counted.
func (s *Shop) wentUsed(ctx context.Context, w *CarWent) error {
	taken, err := s.store.UsedFor(ctx, w.ID)
	if err != nil {
		return err
	}
	rows, err := s.store.Stock(ctx)
	if err != nil {
		return err
	}
	h, err := s.House(ctx)
	if err != nil {
		return err
	}
	used := map[string]float64{}
	add := func(item string, much float64) {
		for of, much := range usesOf(&h.Shelf, item, much) {
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
	for _, thing := range stockThings(&h.Shelf) {
		least := 1.0
		if thing.Unit == Pads {
			least = padWear
		}
		more := least * math.Floor((used[thing.Item]-taken[thing.Item])/least+1e-6)
		if more > 0 && find(rows, func(r store.StockItem) bool { return r.Item == thing.Item }) != nil {
			w.ToTake = append(w.ToTake, UsedUp{thing, more})
		}
	}
	return nil
}

// TakeUsed takes what a car has used off the shelf; where the shelf holds less, all of it. id
// names this, so that it is done once.
func (s *Shop) TakeUsed(ctx context.Context, carID, id, person string) (*CarWent, error) {
	if err := checkID(id, OfStock); err != nil {
		return nil, err
	}
	person, err := personName(person)
	if err != nil {
		return nil, err
	}
	w, err := s.Went(ctx, carID)
	if err != nil {
		return nil, err
	}
	for _, u := range w.ToTake {
		move := store.StockMove{ID: id + "-" + u.Item, Item: u.Item, Kind: store.StockUsed, Person: person, Note: w.Name, At: s.now(), CarID: carID, ForCar: u.Used}
		err := s.store.MoveStock(ctx, move, func(row *store.StockItem) error {
			row.Here = math.Max(0, row.Here-u.Used)
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	return s.Went(ctx, carID)
}
