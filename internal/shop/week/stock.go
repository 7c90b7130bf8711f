package week

import (
	"context"
	"slices"
	"strings"

	"waxplanus/core/price"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// StockUnit is what a thing of the shelf is counted in.
type StockUnit string

// The units.
const (
	Sheets StockUnit = "sheet"
	Discs  StockUnit = "disc"
	Ml     StockUnit = "ml"
	Pads   StockUnit = "pad" // worn out
	Metres StockUnit = "m"
)

// StockLine is a thing that is used up: how much is there, how long that lasts against the
// plans of the week, and what to buy. What nobody has counted never runs out.
type StockLine struct {
	price.Runs
	Title, What string
	Unit        StockUnit
	Counted     bool
}

// Bounds of what is said of the stock.
const (
	mostStock     = 1e5
	mostStockNote = 200
)

// StockThings are the things of a shelf that are used up, each with its unit and what one costs.
func StockThings(s *shelf.Shelf) []StockLine {
	var out []StockLine
	for _, a := range s.Abrasives {
		if !a.Have {
			continue
		}
		l := StockLine{Title: a.Grit, Unit: Discs, What: map[shelf.Body]string{shelf.Paper: "wet paper", shelf.Film: "film disc", shelf.Foam: "foam disc"}[a.Body]}
		if a.Body == shelf.Paper {
			l.Unit = Sheets
		}
		l.Item, l.Price = a.Key, a.Price
		out = append(out, l)
	}
	for _, c := range s.Compounds {
		if !c.Have {
			continue
		}
		l := StockLine{Title: c.Title, What: c.Name + ", " + c.Pad, Unit: Ml}
		l.Item, l.Price = c.Key, c.Price/1000
		pad := StockLine{Title: c.Title, What: "pad, " + c.Pad, Unit: Pads}
		pad.Item, pad.Price = c.PadKey(), c.PadPrice
		out = append(out, l, pad)
	}
	tape := StockLine{Title: "masking", What: "tape", Unit: Metres}
	tape.Item, tape.Price = shelf.TapeKey, s.Law.Tape
	return append(out, tape)
}

// UsesOf are what so much of a thing uses up: itself and, of a compound, its pad.
func UsesOf(s *shelf.Shelf, item string, much float64) map[string]float64 {
	out := map[string]float64{item: much}
	if c, ok := s.Compound(item); ok {
		out[c.PadKey()] = c.Pads(much)
	}
	return out
}

// stock of the shop against a plan of the week, what runs out first coming first and what was
// never counted last.
func (s *Service) stock(ctx context.Context, w *Week) ([]StockLine, error) {
	rows, err := s.Store.Stock(ctx)
	if err != nil {
		return nil, err
	}
	h, err := s.House(ctx)
	if err != nil {
		return nil, err
	}
	var uses []price.Use
	for _, p := range w.Plan.Placed {
		if t := w.Tasks[p.Key]; t.Item != "" && t.Much > 0 {
			for item, much := range UsesOf(&h.Shelf, t.Item, t.Much) {
				uses = append(uses, price.Use{Item: item, Car: t.Car, At: p.Start, Much: much})
			}
		}
	}
	things := StockThings(&h.Shelf)
	var counted, never []price.Stock
	for i, l := range things {
		row := panel.FirstOf(rows, func(r store.StockItem) bool { return r.Item == l.Item })
		if row == nil {
			never = append(never, price.Stock{Item: l.Item, Pack: 1, Price: l.Price})
			continue
		}
		things[i].Counted = true
		counted = append(counted, price.Stock{Item: l.Item, Here: row.Here, Low: row.Low, Pack: row.Pack, Price: l.Price})
	}
	unknown := price.Last(never, uses)
	for i := range unknown {
		r := &unknown[i]
		*r = price.Runs{Stock: r.Stock, Planned: r.Planned}
	}
	slices.SortStableFunc(unknown, func(a, b price.Runs) int { return int(b.Planned*100) - int(a.Planned*100) })
	var out []StockLine
	for _, r := range append(price.Last(counted, uses), unknown...) {
		l := *panel.FirstOf(things, func(l StockLine) bool { return l.Item == r.Item })
		l.Runs = r
		out = append(out, l)
	}
	return out, nil
}

// StockChange is what somebody says of a thing of the shelf: goods that came in, were used or
// counted (Kind empty for none of it), and its marks.
type StockChange struct {
	ID, Item, Kind string
	Much           float64
	Person, Note   string
	Low, Pack      *float64
}

// MoveStock keeps it.
func (s *Service) MoveStock(ctx context.Context, in StockChange) error {
	if err := house.CheckID(in.ID, house.OfStock); err != nil {
		return err
	}
	person, err := house.PersonName(in.Person)
	if err != nil {
		return err
	}
	if in.Note = strings.TrimSpace(in.Note); len([]rune(in.Note)) > mostStockNote {
		return refuse.Because(refuse.BadStock, "note", "a note has at most 200 letters")
	}
	h, err := s.House(ctx)
	if err != nil {
		return err
	}
	thing := panel.FirstOf(StockThings(&h.Shelf), func(l StockLine) bool { return l.Item == in.Item })
	if thing == nil {
		return refuse.Because(refuse.NoStock, "item", in.Item)
	}
	for _, v := range []struct {
		field string
		value *float64
		least float64
	}{{"much", &in.Much, 0}, {"low", in.Low, 0}, {"pack", in.Pack, 0.01}} {
		if v.value != nil && !(*v.value >= v.least && *v.value <= mostStock) {
			return refuse.Because(refuse.StockRange, v.field, v.least, mostStock)
		}
	}
	move := store.StockMove{ID: in.ID, Item: in.Item, Kind: in.Kind, Person: person, Note: in.Note, At: s.Now()}
	return s.Store.MoveStock(ctx, move, func(row *store.StockItem) error {
		switch in.Kind {
		case store.StockIn:
			row.Here += in.Much
		case store.StockUsed:
			if row.Here -= in.Much; row.Here < 0 {
				return refuse.Conflicting(refuse.StockShort, thing.Title, row.Here+in.Much, in.Much)
			}
		case store.StockCount:
			row.Here = in.Much
		}
		if in.Low != nil {
			row.Low = *in.Low
		}
		if in.Pack != nil {
			row.Pack = *in.Pack
		}
		return nil
	})
}
