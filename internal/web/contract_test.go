package web

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// What is missing, out of bounds or no text is refused by the contract itself, and changes
// nothing.
func TestTheContractHolds(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.into(b.send(http.MethodPut, b.at("/zones"), `{"zones":[{"name":"old part","outline":[{"x":100,"y":100},{"x":400,"y":100},{"x":400,"y":400}],"origin":"factory","layers":"clear","coats":0}]}`), 200, nil)
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"compound.rotary-foam-fine.have","value":0}`), 204, nil)
	b.post("/api/cars/"+b.car+"/checklist", `{"task":"strip","done":true,"person":"Issa"}`, 200, nil)
	long := strings.Repeat("9", 300)
	for _, c := range []struct {
		method, path, body string
		status             int
		want               string
	}{
		{http.MethodPut, b.at("/zones"), `{}`, 400, "Zones is missing"},
		{http.MethodPut, "/api/shelf", `{}`, 400, "Key is missing"},
		{http.MethodPut, "/api/shelf", `{"key":"nothing"}`, 422, "no constant"},
		{http.MethodPost, "/api/cars/" + b.car + "/said", `{"key":"x","person":"Tove"}`, 400, "Said is missing"},
		{http.MethodPost, "/api/cars/" + b.car + "/checklist", `{"task":"strip","person":"Tove"}`, 400, "Done is missing"},
		{http.MethodPost, b.at("/readings"), `{"id":"reading-9","x_mm":0,"y_mm":100,"film":150,"unit":"um","phase":"total"} and more`, 400, "nothing follows"},
		{http.MethodPost, b.at("/readings"), `{"id":"reading-9","x_mm":100,"y_mm":100,"film":` + long + `,"unit":"um","phase":"total"}`, 422, "beyond any number"},
		{http.MethodPost, b.at("/readings"), "{\"id\":\"read\\u0007ing\",\"x_mm\":100,\"y_mm\":100,\"film\":150,\"unit\":\"um\",\"phase\":\"total\"}", 422, "cannot be printed"},
		{http.MethodPost, b.at("/import"), `{"file_name":"a.csv","text":"film\n120","columns":{"film":1,"x":0,"y":0,"panel":0,"time":0,"shots":[` + strings.Repeat("1,", 30) + `1]}}`, 422, "Shots does not fit"},
		{http.MethodPost, b.at("/import"), `{"file_name":"a.csv","text":"film\n120","columns":{"film":1,"x":0,"y":0,"panel":0,"time":0,"shots":[1` + strings.Repeat(",1", 150_000) + `]}}`, 413, "more than"},
		{http.MethodPatch, "/api/cars/" + b.car, `{"` + strings.Repeat("x", 1<<20) + `":1}`, 422, "no field"},
		{http.MethodGet, "/api/cars?limit=1000", "", 422, "1 to 100"},
		{http.MethodGet, "/api/cars?limit=many", "", 400, "number"},
		{http.MethodDelete, "/api/cars", "", 405, "DELETE"},
	} {
		w := b.send(c.method, c.path, c.body)
		if w.Code != c.status || !strings.Contains(w.Body.String(), c.want) || w.Body.Len() > 600 {
			t.Errorf("%s %s %.80s gives %d: %.300s", c.method, c.path, c.body, w.Code, w.Body)
		}
		for _, typed := range []string{"float64", "EOF", "struct", "Go "} {
			if strings.Contains(w.Body.String(), typed) {
				t.Errorf("%.80s: a sentence says %q: %s", c.body, typed, w.Body)
			}
		}
	}
	var r api.Read
	b.get(b.at("/read"), &r)
	var s api.Shelf
	b.get("/api/shelf", &s)
	var c api.Car
	b.get("/api/cars/"+b.car, &c)
	if len(r.Readings) != 6 || len(*r.Zones) != 1 || s.Changed != 1 || c.Checklist[2].DoneAt == nil {
		t.Errorf("%d readings, %d zones, %d constants changed, %+v", len(r.Readings), len(*r.Zones), s.Changed, c.Checklist)
	}
	// A true zero is a value.
	if w := b.send(http.MethodPost, b.at("/readings"), `{"id":"reading-0","x_mm":0,"y_mm":300,"film":150,"unit":"um","phase":"total","sure":"at the edge"}`); w.Code != 201 {
		t.Errorf("x of 0 gives %d: %s", w.Code, w.Body)
	}
}

// A page of somebody else can have its own name point at this machine; it is not answered.
func TestOnlyOurOwnNamesAreAnswered(t *testing.T) {
	h := hostsOf([]string{"Workshop"})
	for host, want := range map[string]bool{"127.0.0.1:8080": true, "localhost": true, "[::1]:8080": true, "192.168.1.4": true, "workshop:8080": true, "WORKSHOP.": true,
		"evil.example:8080": false, "": false, "127.0.0.1.evil.example": false, "localhost.evil.example": false} {
		if got := h.may(host); got != want {
			t.Errorf("%q may: %v", host, got)
		}
	}
	for addr, want := range map[string]bool{"127.0.0.1:80": true, "localhost:80": true, "[::1]:80": true, ":8080": false, "0.0.0.0:80": false, "192.168.1.4:80": false} {
		if got := Loopback(addr); got != want {
			t.Errorf("%q is loopback: %v", addr, got)
		}
	}
}

// One address has only so many streams and connections; each that ends makes room.
func TestOneAddressHasOnlySoMany(t *testing.T) {
	p := newPerAddress(2)
	var ends []func()
	for i := range 3 {
		end, ok := p.take(fmt.Sprintf("10.0.0.1:%d", 1000+i))
		if ok != (i < 2) {
			t.Errorf("number %d: %v", i, ok)
		}
		ends = append(ends, end)
	}
	if _, ok := p.take("10.0.0.2:1"); !ok {
		t.Error("another address has none")
	}
	ends[0]()
	ends[0]()
	if _, ok := p.take("10.0.0.1:5"); !ok {
		t.Error("one that ended makes no room")
	}
	if _, ok := p.take("10.0.0.1:6"); ok {
		t.Error("one that ended twice makes room for two")
	}
}
