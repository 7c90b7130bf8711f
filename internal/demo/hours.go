package demo

import (
	"context"
	"time"

	"waxplanus/core/cure"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop"
)

// promised are the working days from now on in which cars were promised, and the hour.
var promised = map[string]struct{ days, hour int }{PilotID: {3, 16}, LibraryID: {6, 12}, HireID: {4, 9}, CoversID: {2, 12}, FloatID: {1, 17}}

// hours has the made-up shop say when it is open, with what it works, what the sheets of its
// two paints say, who does what, and for when its cars were promised.
func hours(ctx context.Context, of *shop.Shop, now time.Time) error {
	ptr := func(v float64) *float64 { return &v }
	if err := of.ChangeWorkshop(ctx, func(w *shop.Workshop) {
		w.Machines = map[string]int{"orbital": 2, "rotary": 1}
		w.Paints = []cure.Paint{
			{Name: "Saltmarsh clear 25", CoatUM: 25, Coats: 2, SandAir: ptr(18), SandBaked: ptr(2), CutsWell: ptr(6), PolishAir: ptr(24), PolishBaked: ptr(3), Seal: ptr(30), Dry: ptr(36)},
			{Name: "Estuary single stage", Colour: true, CoatUM: 32, Coats: 2, SandAir: ptr(24), SandBaked: ptr(4), PolishAir: ptr(36), Seal: ptr(45)},
		}
	}); err != nil {
		return err
	}
	machine, few := 150.0, 90.0
	kinds := []string{string(schedule.Wash), string(schedule.Strip), string(schedule.Look), string(schedule.Read), string(schedule.Mask), string(schedule.Nibs), string(schedule.Refine), string(schedule.Compound),
		string(schedule.Polish), string(schedule.Clean), string(schedule.Wipe), string(schedule.Check), string(schedule.Coat), string(schedule.Second)}
	for _, p := range []shop.PersonHours{{Name: "Runa", Machine: &machine}, {Name: "Tove", Machine: &machine}, {Name: "Issa", Machine: &few, Kinds: &kinds}} {
		if err := of.SetHours(ctx, p); err != nil {
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
