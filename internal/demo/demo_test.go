package demo

import (
	"context"
	"testing"
	"time"

	"waxplanus/internal/files"
	"waxplanus/internal/store"
)

func TestDemoShopIsBelievable(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	if err := Fill(ctx, s, now); err != nil {
		t.Fatal(err)
	}
	list, _, err := s.ListCars(ctx, store.CarsWanted{Most: 10})
	var cars []store.Car
	for _, l := range list {
		c, err := s.Car(ctx, l.ID)
		if err != nil {
			t.Fatal(err)
		}
		cars = append(cars, c)
	}
	if err != nil || len(cars) != 7 || cars[0].ID != PilotID || cars[1].ID != FloatID {
		t.Fatalf("%d cars, %v", len(cars), err)
	}
	total, marked := 0, 0
	for _, c := range cars {
		for _, p := range c.Panels {
			rs, err := s.Readings(ctx, p.ID)
			if err != nil {
				t.Fatal(err)
			}
			ms, err := s.Marks(ctx, p.ID)
			if err != nil {
				t.Fatal(err)
			}
			marked += len(ms)
			for _, r := range rs {
				total++
				if files.FilmFault(r.FilmUM, r.FilmUM, "um") != "" || r.FilmUM < 60 || r.FilmUM > 250 || r.TakenAt.After(now) || p.Substrate == "plastic" {
					t.Errorf("%s: %+v", p.Name, r)
				}
			}
		}
	}
	if total < 30 || marked < 90 {
		t.Errorf("only %d readings and %d marks", total, marked)
	}
}
