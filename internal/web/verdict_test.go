package web

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"waxplanus/internal/demo"
	"waxplanus/internal/fresh"
	"waxplanus/internal/shop"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

var demoTime = time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)

// demoShop is the demo's, filled once for all tests.
var demoShop = fresh.Of(func(dir string) error {
	s, err := store.Open(dir)
	if err != nil {
		return err
	}
	return errors.Join(demo.Fill(context.Background(), s, demoTime), s.Close())
})

// demoBed is a bed with the demo shop.
func demoBed(t *testing.T) *bed {
	t.Helper()
	t.Parallel()
	records := openCopy(t, demoShop)
	return &bed{t: t, shop: records, handler: New(shop.New(records, func() time.Time { return demoTime }, time.UTC), "test", slog.New(slog.NewTextHandler(io.Discard, nil)), Devices{}, "example.com")}
}

// One panel has one verdict: what Today, the car, Read and Plan say of a panel and of its
// sections is the same, on the whole demo and on cars of chance.
func TestAllScreensSayTheSame(t *testing.T) {
	b := demoBed(t)
	rng := rand.New(rand.NewPCG(13, 1))
	one := func(of ...string) string { return of[rng.IntN(len(of))] }
	for i := range 50 {
		var car api.CarSummary
		b.post("/api/cars", fmt.Sprintf(`{"name":"Chance %d","body":"loose","colour":%q,"painter":"Tove","width_mm":900,"height_mm":600,"groups":[{"keys":["panel"],"facts":{"origin":%q,"coats":%d,"under":%q,"aim":%q,"peel_grade":%d}}]}`,
			i, one("light", "medium", "dark"), one("here", "elsewhere", "unknown"), rng.IntN(4), one("new", "over", "unknown"), one("flat", "match", "nibs", "polish"), 4+rng.IntN(5)), 201, &car)
		b.car, b.panel = car.Id, car.Next.PanelId
		film := 90 + 130*rng.Float64()
		for k := range 5 {
			b.reading(fmt.Sprintf("chance-%d-%d", i, k), 150+150*float64(k), 150+float64(k%2)*300, film+4*rng.NormFloat64())
		}
	}
	var page api.CarPage
	b.get("/api/cars", &page)
	cars := page.Cars
	judged, accepted := 0, 0
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
			for _, o := range pl.Offers {
				if pl.Refusal == nil && o.State == api.StateShut {
					t.Errorf("%s, %s: %s is offered and shut", car.Name, p.Name, o.Name)
				}
			}
			if pl.Ready && pl.Refusal == nil && pl.Record == nil && len(pl.Offers) > 0 {
				accepted += b.begin(car.Name+", "+p.Name, p.Id, pl)
			}
		}
	}
	if judged < 50 || accepted < 10 {
		t.Errorf("only %d panels were judged, %d planned", judged, accepted)
	}
}

// begin accepts the first offer of a panel. Level then has the states that Read has for the
// plan, the list and the section in hand never differ, and every section that is not shut
// is granted its first pass. It counts the plans that sand.
func (b *bed) begin(name, panel string, pl api.Plan) int {
	b.t.Helper()
	b.post("/api/panels/"+panel+"/plan", fmt.Sprintf(`{"basis":%q,"ladder":%q}`, pl.Basis, pl.Offers[0].Name), 201, nil)
	var first api.Level
	b.get("/api/panels/"+panel+"/level", &first)
	var r api.Read
	b.get("/api/panels/"+panel+"/read", &r)
	for i, s := range first.Sections {
		if r.Sections[i].State == nil || s.State == nil || *r.Sections[i].State != *s.State {
			b.t.Errorf("%s, %s: Read says %v, Level %v", name, s.Name, r.Sections[i].State, s.State)
			continue
		}
		var l api.Level
		b.get("/api/panels/"+panel+"/level?section="+s.Key, &l)
		if l.Hand == nil {
			continue // nibs are worked one by one
		}
		if l.Hand.State != *s.State || *l.Sections[i].State != *s.State {
			b.t.Errorf("%s, %s: the list says %s, the hand %s", name, s.Name, *s.State, l.Hand.State)
		}
		if *s.State != api.StateShut && l.Hand.PassesGranted == 0 {
			b.t.Errorf("%s, %s is %s and its first pass is refused: %s", name, s.Name, *s.State, l.Hand.Reason)
		}
		if *s.State == api.StateShut && l.Hand.PassesGranted < l.Hand.PassesNeeded && len(l.Hand.Ways) == 0 {
			b.t.Errorf("%s, %s is shut without a way: %s", name, s.Name, l.Hand.Reason)
		}
	}
	return 1
}

// The demo shows the range: a panel that is open, a tight one, one that is shut with its
// ways, one with an agreed floor, and one whose clear was found by a question.
func TestTheDemoShowsTheRange(t *testing.T) {
	b := demoBed(t)
	for panel, want := range map[string]api.State{"R-wing": api.StateOpen, "bonnet": api.StateTight, "L-fdoor": api.StateShut, "L-rdoor": api.StateTight, "R-fdoor": api.StateOpen} {
		var p api.Plan
		b.get("/api/panels/"+demo.HarbourID+"."+panel+"/plan", &p)
		if p.Panel.State == nil || *p.Panel.State != want {
			t.Errorf("the %s is %v, want %s", panel, p.Panel.State, want)
		}
		if (p.Refusal != nil) != (want == api.StateShut) || p.Refusal != nil && len(p.Refusal.Ways) < 5 {
			t.Errorf("the %s has %+v", panel, p.Refusal)
		}
		if (p.Agreed != nil) != (panel == "L-rdoor") {
			t.Errorf("the owner agreed on the %s to %+v", panel, p.Agreed)
		}
	}
	var r api.Read
	b.get("/api/panels/"+demo.HarbourID+".R-fdoor/read", &r)
	if !slices.ContainsFunc(r.Study.Clear.Sources, func(s api.ClearSource) bool { return string(s.Kind) == "bare" }) {
		t.Errorf("%+v", r.Study.Clear.Sources)
	}
	var car api.Car
	b.get("/api/cars/"+demo.HarbourID, &car)
	if len(car.Floors) != 1 || car.Floors[0].Panel == nil {
		t.Errorf("%+v", car.Floors)
	}
}
