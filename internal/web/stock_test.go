package web

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

// What the plans use is held against what was counted: it runs out, an alert says so, goods
// come in and it lasts, and no more is used than is there.
func TestTheShelfRunsOutAndIsFilled(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	var s api.Stock
	if b.get("/api/stock", &s); !strings.Contains(s.Text, "Nothing is counted") {
		t.Errorf("%s", s.Text)
	}
	at := slices.IndexFunc(s.Lines, func(l api.StockLine) bool { return l.Planned > 0 && l.Unit == api.StockUnitMl })
	if at < 0 {
		t.Fatal("no plan uses anything")
	}
	item, planned := s.Lines[at].Item, s.Lines[at].Planned
	for what, unit := range map[string]api.StockUnit{item + ".pad": api.StockUnitPad, "tape": api.StockUnitM} {
		if i := slices.IndexFunc(s.Lines, func(l api.StockLine) bool { return l.Item == what }); i < 0 || s.Lines[i].Planned <= 0 || s.Lines[i].Unit != unit {
			t.Errorf("%s is not planned", what)
		}
	}
	line := func() api.StockLine {
		t.Helper()
		i := slices.IndexFunc(s.Lines, func(l api.StockLine) bool { return l.Item == item })
		return s.Lines[i]
	}
	move := func(id, rest string, status int, out any) {
		t.Helper()
		s = api.Stock{}
		b.post("/api/stock", fmt.Sprintf(`{"id":%q,"item":%q,"person":"Tove",%s}`, id, item, rest), status, out)
	}
	move("goods-01", fmt.Sprintf(`"kind":"count","much":%v,"low":30,"pack":500`, planned/2), 200, &s)
	l := line()
	if l.OutAt == nil || !slices.Equal(l.Felt, []string{"Side flap"}) || l.Buy != 500 || l.Cost <= 0 || s.BuyCost != l.Cost || !strings.Contains(s.Text, "One thing runs out") {
		t.Errorf("%+v; %s", l, s.Text)
	}
	alert := func() *api.Alert {
		for _, a := range b.week().Alerts {
			if a.Item != nil && *a.Item == item {
				return &a
			}
		}
		return nil
	}
	if a := alert(); a == nil || !strings.Contains(a.Text, "first felt by Side flap") {
		t.Errorf("alert %+v", a)
	}
	w := b.send(http.MethodGet, "/api/stock/list.csv", "")
	if b.into(w, 200, nil); !strings.Contains(w.Body.String(), item) || strings.Count(w.Body.String(), "\n") != 2 {
		t.Errorf("%s", w.Body.String())
	}
	var no api.Problem
	if move("goods-02", fmt.Sprintf(`"kind":"used","much":%v`, planned), 409, &no); !strings.Contains(no.Detail, "count them again") {
		t.Errorf("%s", no.Detail)
	}
	move("goods-03", `"kind":"in","much":500`, 200, &s)
	move("goods-03", `"kind":"in","much":500`, 200, &s) // sent twice
	if l = line(); l.OutAt != nil || l.Here < 500 || l.Here > 500+planned || l.Buy != 0 || alert() != nil {
		t.Errorf("after goods came in %+v", l)
	}
	move("goods-04", `"kind":"in","much":-3`, 422, nil)
	b.post("/api/stock", `{"id":"goods-05","item":"nothing","person":"Tove","kind":"in","much":1}`, 422, nil)
}

// The clock tells that passes take twice as long as the shelf says; once that is taken over,
// a plan of the same steps takes longer, and the clock has nothing more to say.
func TestThePaceIsLearnedAndTakenOver(t *testing.T) {
	b := newBed(t)
	b.readings()
	before := b.accept()
	step := before.Offer.Steps[0]
	section := b.level().Section
	planned := time.Duration(step.Minutes / float64(step.Passes*len(before.Sections)) * float64(time.Minute))
	for i := range 4 {
		b.into(b.entry(fmt.Sprintf("pace-%d", i), section, "pass", 1), 201, nil)
		b.wait(min(2*planned, 14*time.Minute))
	}
	b.reading("after-1", 100, 100, 155)
	pace := func() api.ToolPace {
		t.Helper()
		var h api.Hands
		b.get("/api/people", &h)
		i := slices.IndexFunc(h.Paces, func(p api.ToolPace) bool { return (p.Of == api.ToolPaceOfMachine) == (step.Tool != "hand") })
		return h.Paces[i]
	}
	p := pace()
	if p.Pieces != 1 || p.Factor < 1.2 || p.Low >= p.Factor || p.High <= p.Factor || p.Now != 1 {
		t.Fatalf("%+v", p)
	}
	b.into(b.send(http.MethodPut, "/api/shelf", fmt.Sprintf(`{"key":%q,"value":%v}`, p.Key, p.Factor)), 204, nil)
	if again := pace(); again.Factor < p.Factor-0.01 || again.Factor > p.Factor+0.01 || again.Now != p.Factor || again.Differs {
		t.Errorf("taken over: %+v, was %+v", again, p)
	}
}
