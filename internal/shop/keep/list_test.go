package keep

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"waxplanus/core/flatlay"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

func ptrTo[T any](v T) *T { return &v }

func listed(t *testing.T, s *Service, w cars.CarsWanted) *cars.CarPage {
	t.Helper()
	for range 100 {
		page, err := s.Cars(context.Background(), w)
		if err != nil {
			t.Fatal(err)
		}
		waits := false
		for _, c := range page.Cars {
			waits = waits || c.Renewing
		}
		if !waits {
			return page
		}
		time.Sleep(20 * time.Millisecond) // summaries are made behind
	}
	t.Fatal("the list is never done")
	return nil
}

// A list has pages, a search and those that were handed over; what it shows of a car follows
// each change; one car that cannot be read leaves the others as they are.
func TestTheListOfCars(t *testing.T) {
	dir := t.TempDir()
	records, err := store.Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	s := New(records, time.Now, time.UTC)
	defer func() {
		s.Close()
		_ = records.Close()
	}()
	ctx := context.Background()
	var ids []string
	for i := range 5 {
		in := cars.NewCar{CarSaid: cars.CarSaid{Name: ptrTo(fmt.Sprintf("Flap %d of Ärmel", i)), Painter: ptrTo("Tove")}, Body: "loose", Colour: "dark", Width: ptrTo(900.0), Height: ptrTo(600.0)}
		c, err := s.TakeIn(ctx, in)
		if err != nil {
			t.Fatal(err)
		}
		ids = append(ids, c.ID)
	}
	first := listed(t, s, cars.CarsWanted{Most: 2})
	if len(first.Cars) != 2 || first.Total != 5 || first.Cursor == "" || first.Cars[0].ID != ids[0] || len(first.Cars[0].Panels) != 1 || !strings.HasPrefix(first.Cars[0].Panels[0].Path, "M") {
		t.Fatalf("%+v", first)
	}
	if next := listed(t, s, cars.CarsWanted{Most: 9, Cursor: first.Cursor}); len(next.Cars) != 3 || next.Cursor != "" || next.Cars[0].ID != ids[2] {
		t.Errorf("%+v", next)
	}
	if found := listed(t, s, cars.CarsWanted{Most: 9, Search: `arm "3`}); len(found.Cars) != 1 || found.Cars[0].ID != ids[3] {
		t.Errorf("found %+v", found)
	}
	if _, err := s.HandOver(ctx, ids[1], handover.NewHandover{ID: "hand-over-1", Person: "Tove", AsItIs: true, Reason: "the owner is in a hurry"}); err != nil {
		t.Fatal(err)
	}
	if here, gone := listed(t, s, cars.CarsWanted{Most: 9}), listed(t, s, cars.CarsWanted{Most: 9, HandedOver: true}); len(here.Cars) != 4 || here.Total != 4 || len(gone.Cars) != 1 || gone.Total != 1 || gone.Cars[0].HandedOverAt == nil {
		t.Errorf("%d here, %d gone", len(here.Cars), len(gone.Cars))
	}
	id := first.Cars[0].Next.PanelID
	before := first.Cars[0].Next.Outline.Readings
	if _, err := s.AddReading(ctx, id, panelwork.NewReading{ID: "reading-1", Film: 150, Unit: refuse.Micron, Phase: facts.Total, At: flatlay.Point{X: 300, Y: 300}}); err != nil {
		t.Fatal(err)
	}
	if now := listed(t, s, cars.CarsWanted{Most: 1}).Cars[0].Next.Outline.Readings; now != before+1 {
		t.Errorf("the list says %d readings after one more than %d", now, before)
	}
	raw, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = raw.Close() }()
	if _, err := raw.Exec("UPDATE panels SET shape = '{' WHERE car_id = ?", ids[2]); err != nil {
		t.Fatal(err)
	}
	page := listed(t, s, cars.CarsWanted{Most: 9})
	if len(page.Cars) != 4 {
		t.Fatalf("%d cars", len(page.Cars))
	}
	for _, c := range page.Cars {
		if broken := c.ID == ids[2]; panel.IsUnreadable(c.Fault) != broken {
			t.Errorf("%s: %v", c.Name, c.Fault)
		}
	}
}
