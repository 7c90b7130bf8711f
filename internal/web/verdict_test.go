package web

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"waxplanus/internal/demo"
	app "waxplanus/internal/shop"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// One panel has one verdict: what Today, the car, Read and Plan say of a panel and of its
// sections is the same, on the whole demo and on cars of chance.
func TestAllScreensSayTheSame(t *testing.T) {
	t.Parallel()
	records, err := store.Open(t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = records.Close() })
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	if err := demo.Fill(context.Background(), records, now); err != nil {
		t.Fatal(err)
	}
	b := &bed{t: t, shop: records, handler: New(app.New(records, func() time.Time { return now }, time.UTC), "test", slog.New(slog.NewTextHandler(io.Discard, nil)), nil)}
	rng := rand.New(rand.NewPCG(13, 1))
	one := func(of ...string) string { return of[rng.IntN(len(of))] }
	for i := range 12 {
		var car api.CarSummary
		b.post("/api/cars", fmt.Sprintf(`{"name":"Chance %d","body":"loose","colour":%q,"painter":"Tove","width_mm":900,"height_mm":600,"groups":[{"keys":["panel"],"facts":{"origin":%q,"coats":%d,"under":%q,"aim":%q,"peel_grade":%d}}]}`,
			i, one("light", "medium", "dark"), one("here", "elsewhere", "unknown"), rng.IntN(4), one("new", "over", "unknown"), one("flat", "match", "nibs", "polish"), 4+rng.IntN(5)), 201, &car)
		b.car, b.panel = car.Id, car.Next.PanelId
		film := 90 + 130*rng.Float64()
		for k := range 5 {
			b.reading(fmt.Sprint("chance", i, k), 150+150*float64(k), 150+float64(k%2)*300, film+4*rng.NormFloat64())
		}
	}
	var cars []api.CarSummary
	b.get("/api/cars", &cars)
	judged := 0
	for _, summary := range cars {
		var car api.Car
		b.get("/api/cars/"+summary.Id, &car)
		for _, p := range car.Panels {
			if p.State == nil {
				continue
			}
			judged++
			if summary.Next.PanelId == p.Id && (summary.Next.State == nil || *summary.Next.State != *p.State) {
				t.Errorf("%s, %s: Today says %v, the car %s", car.Name, p.Name, summary.Next.State, *p.State)
			}
			var r api.Read
			var pl api.Plan
			b.get("/api/panels/"+p.Id+"/read", &r)
			b.get("/api/panels/"+p.Id+"/plan", &pl)
			if r.Panel.State == nil || pl.Panel.State == nil || *r.Panel.State != *p.State || *pl.Panel.State != *p.State {
				t.Errorf("%s, %s: the car says %s, Read %v, Plan %v", car.Name, p.Name, *p.State, r.Panel.State, pl.Panel.State)
			}
			worst := api.StateOpen
			for i, s := range r.Sections {
				if s.State == nil || pl.Sections[i].State == nil || *s.State != *pl.Sections[i].State || *s.Reason != *pl.Sections[i].Reason {
					t.Errorf("%s, %s, %s: Read says %v, Plan %v", car.Name, p.Name, s.Name, s.State, pl.Sections[i].State)
					continue
				}
				if order := []api.State{api.StateOpen, api.StateTight, api.StateShut}; slices.Index(order, *s.State) > slices.Index(order, worst) {
					worst = *s.State
				}
			}
			if worst != *p.State {
				t.Errorf("%s, %s: its worst section is %s, the panel %s", car.Name, p.Name, worst, *p.State)
			}
			// A way is never offered as open where the mildest film is not, and there is always one.
			if len(pl.Offers) == 0 && pl.Refusal == nil && len(pl.Sections) > 0 && pl.Ready {
				t.Errorf("%s, %s: Plan is empty", car.Name, p.Name)
			}
			if pl.Refusal != nil && len(pl.Refusal.Ways) == 0 {
				t.Errorf("%s, %s: refused without a way: %s", car.Name, p.Name, pl.Refusal.Text)
			}
		}
	}
	if judged < 12 {
		t.Errorf("only %d panels were judged", judged)
	}
}
