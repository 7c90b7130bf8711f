package web

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

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
	at := slices.IndexFunc(s.Lines, func(l api.StockLine) bool { return l.Planned > 0 && l.Unit == api.Ml })
	if at < 0 {
		t.Fatal("no plan uses anything")
	}
	item, planned := s.Lines[at].Item, s.Lines[at].Planned
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
