package demo

import (
	"context"
	"fmt"
	"time"

	"waxplanus/core/cure"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/store"
)

// promised are the working days from now on in which cars were promised, and the hour.
var promised = map[string]struct{ days, hour int }{PilotID: {3, 16}, LibraryID: {6, 12}, HireID: {4, 9}, CoversID: {2, 12}, FloatID: {1, 17}}

// goods are what lies on the shelf of the made-up shop.
var goods = []week.StockChange{
	{Item: "p1500", Much: 14, Low: much(5), Pack: much(25)}, {Item: "p2500", Much: 30, Low: much(10), Pack: much(25)},
	{Item: "3000-film", Much: 3, Low: much(5), Pack: much(15)}, {Item: "3000", Much: 4, Low: much(5), Pack: much(15)},
	{Item: "microfibre-heavy", Much: 850, Low: much(250), Pack: much(1000)}, {Item: "rotary-foam-fine", Much: 260, Low: much(100), Pack: much(500)},
	{Item: "foam-medium", Much: 600, Low: much(100), Pack: much(500)}, {Item: "foam-medium.pad", Much: 2.5, Low: much(1), Pack: much(2)},
	{Item: "tape", Much: 600, Low: much(100), Pack: much(50)},
}

func much(v float64) *float64 { return &v }

// hours has the made-up shop say when it is open, with what it works, what the sheets of its
// two paints say, who does what, and for when its cars were promised.
func hours(ctx context.Context, of *shop.Shop, now time.Time) error {
	if err := of.ChangeWorkshop(ctx, func(w *house.Workshop) {
		w.Machines = map[string]int{"orbital": 2, "rotary": 1}
		w.Paints = []cure.Paint{
			{Name: "Saltmarsh clear 25", CoatUM: 25, Coats: 2, SandAir: much(18), SandBaked: much(2), CutsWell: much(6), PolishAir: much(24), PolishBaked: much(3), Seal: much(30), Dry: much(36)},
			{Name: "Estuary single stage", Colour: true, CoatUM: 32, Coats: 2, SandAir: much(24), SandBaked: much(4), PolishAir: much(36), Seal: much(45)},
		}
	}); err != nil {
		return err
	}
	machine, few, master, usual, helper := 150.0, 90.0, 62.0, 55.0, 38.0
	kinds := []string{string(schedule.Wash), string(schedule.Strip), string(schedule.Look), string(schedule.Read), string(schedule.Mask), string(schedule.Nibs), string(schedule.Refine), string(schedule.Compound),
		string(schedule.Polish), string(schedule.Clean), string(schedule.Wipe), string(schedule.Check), string(schedule.Coat), string(schedule.Second)}
	for _, p := range []house.PersonHours{{Name: "Runa", Machine: &machine, Rate: &master}, {Name: "Tove", Machine: &machine, Rate: &usual}, {Name: "Issa", Machine: &few, Kinds: &kinds, Rate: &helper}} {
		if err := of.SetHours(ctx, p); err != nil {
			return err
		}
	}
	for i, g := range goods {
		g.ID, g.Kind, g.Person = fmt.Sprintf("demo-goods-%02d", i+1), store.StockCount, "Runa"
		if err := of.MoveStock(ctx, g); err != nil {
			return err
		}
	}
	for car, p := range promised {
		day := now
		for n := 0; n < p.days; {
			if day = day.AddDate(0, 0, 1); day.Weekday() != time.Saturday && day.Weekday() != time.Sunday {
				n++
			}
		}
		due := time.Date(day.Year(), day.Month(), day.Day(), p.hour, 0, 0, 0, now.Location())
		if err := of.SetPromise(ctx, car, &due); err != nil {
			return err
		}
	}
	return nil
}
