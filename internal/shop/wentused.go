package shop

import (
	"context"
	"math"

	"waxplanus/internal/store"
)

// wentUsed says what a car has used that was not taken off the shelf: whole pieces, or ml, of
// what is counted.
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
	for _, l := range w.Lines {
		if l.Steps != nil {
			used[l.Steps.Item] += l.Steps.Used
		}
	}
	for _, thing := range stockThings(&h.Shelf) {
		more := math.Floor(used[thing.Item] - taken[thing.Item] + 1e-6)
		if more >= 1 && find(rows, func(r store.StockItem) bool { return r.Item == thing.Item }) != nil {
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
