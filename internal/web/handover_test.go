package web

import (
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// raw sends bytes that are no JSON.
func (b *bed) raw(method, path string, data []byte) *httptest.ResponseRecorder {
	b.t.Helper()
	r := httptest.NewRequest(method, path, bytes.NewReader(data))
	r.Header.Set("Content-Type", "application/octet-stream")
	w := httptest.NewRecorder()
	b.handler.ServeHTTP(w, r)
	abidesBy(b.t, r, "", w)
	return w
}

const scratch = `{"id":"mark-0001","kind":"scratch","x_mm":300,"y_mm":300,"sizes":{"class":"catches"},"found":"sun","person":"Tove"}`

// A car is handed over with its papers, closed, opened again with a reason, and its owner
// forgotten.
func TestHandOver(t *testing.T) {
	b := newBed(t)
	b.readings()
	at := "/api/cars/" + b.car
	b.into(b.send(http.MethodPatch, at, `{"owner_words":"Mrs Reed wants it flat."}`), 200, nil)
	b.into(b.send(http.MethodPost, "/api/panels/"+b.panel+"/marks", scratch), 201, nil)
	b.into(b.send(http.MethodPatch, "/api/marks/mark-0001", `{"sizes":{"note":"by the keys of Mrs Reed"}}`), 200, nil)
	var h api.Handing
	b.get(at+"/handover", &h)
	if len(h.Todos) == 0 || len(h.Parts) != 8 || h.ReportPages < 1 || h.RecordNo != 1 {
		t.Fatalf("%+v", h)
	}
	choices := `{"parts":["done","stays","clear","cores","until","keep","work"],"trade":true,"sealed":"wax","sheet":{"name":"sheet of the clear","dry_h":36,"breathe_d":30},"note":"Come by in June."}`
	b.into(b.send(http.MethodPut, at+"/report", choices), 200, &h)
	if len(h.Waits) == 0 || len(h.Choices.Parts) != 7 {
		t.Errorf("%+v", h.Waits)
	}
	for _, bad := range []string{`{"parts":["price"]}`, `{"parts":["done"],"sealed":"varnish"}`, `{"parts":["done"],"sheet":{"dry_h":-1}}`, `{"parts":["done"],"pair":"no-panel-of-it"}`} {
		if w := b.send(http.MethodPut, at+"/report", bad); w.Code < 400 {
			t.Errorf("%s gives %d", bad, w.Code)
		}
	}
	papers(t, b, at)
	for body, want := range map[string]int{`{"id":"hand-0001","person":"Tove"}`: 409, `{"id":"hand-0001","person":" ","as_it_is":true,"reason":"hurry"}`: 422,
		`{"id":"hand-0001","person":"Tove","as_it_is":true,"reason":"hurry","day":"2040-01-01T00:00:00Z"}`: 422, `{"id":"hand-0001","person":"Tove","as_it_is":true}`: 409} {
		if w := b.send(http.MethodPost, at+"/handover", body); w.Code != want {
			t.Errorf("%s gives %d: %s", body, w.Code, w.Body)
		}
	}
	for range 2 { // sent twice
		b.into(b.send(http.MethodPost, at+"/handover", `{"id":"hand-0001","person":"Tove","as_it_is":true,"reason":"the owner needs it today"}`), 200, &h)
	}
	if h.HandedOverAt == nil || h.Seal == nil || *h.SealBroken || len(h.History) != 1 || !strings.Contains(h.History[0].Text, "needs it today") {
		t.Errorf("%+v", h)
	}
	closed(t, b, at)
	if w := b.went(); !w.Closed || wentFigure(w, api.WentFigureNameReady).Text != "It is ready." || slices.ContainsFunc(w.Lines, func(l api.WentLine) bool { return l.MaySay || l.What == "hand_over" && l.Done != 1 }) {
		t.Errorf("handed over: %+v", w)
	}
	b.into(b.send(http.MethodPost, at+"/forget", `{"id":"forget-01","person":"Tove","photos":true}`), 200, &h)
	var found []api.FoundThing
	b.get("/api/search?q=reed", &found)
	if !h.Forgotten || h.Car.Name != "Loose no. 1" || *h.SealBroken || len(found) != 0 {
		t.Errorf("%s, forgotten %v, broken %v, found %+v", h.Car.Name, h.Forgotten, *h.SealBroken, found)
	}
	if w := b.send(http.MethodPost, at+"/reopen", `{"id":"hand-0002","person":"Tove","reason":" "}`); w.Code != 422 {
		t.Errorf("opened without a reason: %d", w.Code)
	}
	b.into(b.send(http.MethodPost, at+"/reopen", `{"id":"hand-0002","person":"Tove","reason":"came back with a scratch"}`), 200, nil)
	var open api.Handing
	if b.get(at+"/handover", &open); open.HandedOverAt != nil || len(open.History) != 3 {
		t.Errorf("%+v", open.History)
	}
	if w := b.send(http.MethodPost, at+"/reopen", `{"id":"hand-0003","person":"Tove","reason":"again"}`); w.Code != 409 {
		t.Errorf("an open car is opened: %d", w.Code)
	}
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"aim":"match"}`), 200, nil)
}

// closed tries to write to a closed car.
func closed(t *testing.T, b *bed, at string) {
	for _, c := range []struct{ method, path, body string }{
		{http.MethodPost, b.at("/readings"), `{"id":"reading-99","x_mm":200,"y_mm":200,"film":150,"unit":"um","phase":"total"}`},
		{http.MethodPatch, "/api/panels/" + b.panel, `{"aim":"polish"}`},
		{http.MethodPatch, at, `{"name":"Other"}`},
		{http.MethodPost, at + "/checklist", `{"task":"wash","done":true,"person":"Issa"}`},
		{http.MethodPut, at + "/report", `{"parts":["done"]}`},
		{http.MethodPut, at + "/went", `{"what":"wash","minutes":30,"person":"Tove"}`},
		{http.MethodPost, at + "/handover", `{"id":"hand-0009","person":"Tove","as_it_is":true,"reason":"again"}`},
	} {
		if w := b.send(c.method, c.path, c.body); w.Code != 409 || !strings.Contains(w.Body.String(), "handed over") {
			t.Errorf("%s %s gives %d: %s", c.method, c.path, w.Code, w.Body)
		}
	}
}

// papers asks for each paper in each form.
func papers(t *testing.T, b *bed, at string) {
	for paper, begins := range map[string]string{"report.pdf": "%PDF", "record.pdf": "%PDF", "report.html": "<!doctype html>", "record.html": "<!doctype html>", "report.svg": "<svg", "record.svg": "<svg", "record.csv": "panel,", "record.json": "{"} {
		for _, size := range []string{"a4", "letter"} {
			w := b.send(http.MethodGet, at+"/papers/"+paper+"?size="+size, "")
			if w.Code != 200 || !strings.HasPrefix(w.Body.String(), begins) {
				t.Errorf("%s gives %d: %.60s", paper, w.Code, w.Body)
			}
			if begins[0] == '<' && strings.Contains(w.Body.String(), "<script") {
				t.Errorf("%s has a script in it", paper)
			}
		}
	}
	if w := b.send(http.MethodGet, at+"/papers/report.svg?page=9", ""); w.Code != 404 {
		t.Errorf("page 9 gives %d", w.Code)
	}
	html := b.send(http.MethodGet, at+"/papers/report.html", "").Body.String()
	for _, said := range []string{"Side flap", "Come by in June.", "What stays, and why", "sheet", `lang="en"`} {
		if !strings.Contains(html, said) {
			t.Errorf("the report does not say %q", said)
		}
	}
	if w := b.send(http.MethodGet, at+"/marks.csv", ""); w.Code != 200 || !strings.Contains(w.Body.String(), "by the keys of Mrs Reed") {
		t.Errorf("%s", w.Body)
	}
	if w := b.send(http.MethodGet, at+"/calendar.ics", ""); w.Code != 200 || !strings.Contains(w.Body.String(), "BEGIN:VEVENT\r\n") {
		t.Errorf("%s", w.Body)
	}
}

// The shop's face, its care rule and its logo are kept, and go onto the papers.
func TestTheShopHasAFace(t *testing.T) {
	b := newBed(t)
	var shop api.Shop
	b.into(b.send(http.MethodPut, "/api/shop", `{"face":{"name":"Saltmarsh Refinish","paper":"letter","length":"in","clock":"12","dates":"mdy","money":"$","week":"sunday","temperature":"f"}}`), 200, &shop)
	if *shop.Face.Name != "Saltmarsh Refinish" || *shop.Face.Clock != "12" || shop.HasLogo {
		t.Errorf("%+v", shop.Face)
	}
	for _, bad := range []string{`{"face":{"paper":"a5"}}`, `{"face":{"money":""}}`, `{"face":{"name":"` + strings.Repeat("x", 61) + `"}}`} {
		if w := b.send(http.MethodPut, "/api/shop", bad); w.Code != 422 {
			t.Errorf("%.40s gives %d", bad, w.Code)
		}
	}
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewGray(image.Rect(0, 0, 40, 20))); err != nil {
		t.Fatal(err)
	}
	if w := b.send(http.MethodGet, "/api/shop/logo", ""); w.Code != 404 {
		t.Errorf("no logo gives %d", w.Code)
	}
	for _, bad := range [][]byte{nil, []byte("a logo"), picture.Bytes()[:20]} {
		if w := b.raw(http.MethodPut, "/api/shop/logo", bad); w.Code != 422 {
			t.Errorf("a bad logo gives %d: %s", w.Code, w.Body)
		}
	}
	b.into(b.raw(http.MethodPut, "/api/shop/logo", picture.Bytes()), 204, nil)
	if w := b.send(http.MethodGet, "/api/shop/logo", ""); w.Code != 200 || w.Header().Get("Content-Type") != "image/png" {
		t.Errorf("%d %v", w.Code, w.Header())
	}
	page := b.send(http.MethodGet, "/api/cars/"+b.car+"/papers/record.svg", "").Body.String()
	if !strings.Contains(page, "Saltmarsh Refinish") || !strings.Contains(page, `viewBox="0 0 215.9 279.4"`) || !strings.Contains(page, "data:image/png") || !strings.Contains(page, "0.98 in") {
		t.Errorf("%.300s", page)
	}
	b.into(b.send(http.MethodDelete, "/api/shop/logo", ""), 204, nil)
	var rule api.CareRule
	b.get("/api/care", &rule)
	b.into(b.send(http.MethodPut, "/api/care", `{"sealed_dry_h":72,"air_dry_h":24,"baked_dry_h":12,"first_wash_d":10,"air_breathe_d":60,"baked_breathe_d":30}`), 200, &rule)
	if b.get("/api/care", &rule); rule.AirBreatheD != 60 {
		t.Errorf("%+v", rule)
	}
}

// A car goes out as a file and comes back: looked through first, kept as itself or beside itself.
func TestCarsComeAndGoAsFiles(t *testing.T) {
	b := newBed(t)
	b.readings()
	file := b.send(http.MethodGet, "/api/cars/"+b.car+"/file", "")
	if file.Code != 200 || file.Header().Get("Content-Type") != "application/zip" {
		t.Fatalf("%d %v", file.Code, file.Header())
	}
	other := makeBed(t)
	var w api.WaitingCar
	other.into(other.raw(http.MethodPost, "/api/imports", file.Body.Bytes()), 201, &w)
	if w.Known || w.MayBePutTo || w.Readings != 6 || w.Name != "Side flap" {
		t.Errorf("%+v", w)
	}
	var kept api.CarSummary
	other.into(other.send(http.MethodPost, "/api/imports/"+w.Id, `{"as":"same"}`), 200, &kept)
	if w := other.send(http.MethodPost, "/api/imports/"+w.Id, `{"as":"same"}`); w.Code != 404 {
		t.Errorf("a file that was kept waits: %d", w.Code)
	}
	b.into(b.send(http.MethodPost, b.at("/readings"), `{"id":"reading-77","x_mm":700,"y_mm":400,"film":171,"unit":"um","phase":"total"}`), 201, nil)
	file = b.send(http.MethodGet, "/api/cars/"+b.car+"/file", "")
	other.into(other.raw(http.MethodPost, "/api/imports", file.Body.Bytes()), 201, &w)
	if !w.MayBePutTo || len(w.Changes) != 1 || !strings.Contains(w.Changes[0].Text, "1 reading more") {
		t.Errorf("%+v", w)
	}
	other.into(other.send(http.MethodDelete, "/api/imports/"+w.Id, ""), 204, nil)
	other.into(other.raw(http.MethodPost, "/api/imports", file.Body.Bytes()), 201, &w)
	other.into(other.send(http.MethodPost, "/api/imports/"+w.Id, `{"as":"new"}`), 200, &kept)
	var page api.CarPage
	if other.get("/api/cars", &page); kept.Id == b.car || page.Total != 3 {
		t.Errorf("%s, %d cars", kept.Id, page.Total)
	}
	for _, bad := range []string{"", "PK\x03\x04", `{"format":"waxplanus.car"}`} {
		if w := other.raw(http.MethodPost, "/api/imports", []byte(bad)); w.Code != 422 || !strings.Contains(w.Body.String(), "Nothing of it was kept") {
			t.Errorf("%q gives %d: %s", bad, w.Code, w.Body)
		}
	}
	for _, id := range []string{"..%2f..%2fwaxplanus", "none", strings.Repeat("0", 36)} {
		if w := other.send(http.MethodPost, "/api/imports/"+id, `{"as":"new"}`); w.Code != 404 {
			t.Errorf("%s gives %d", id, w.Code)
		}
	}
}

// The shop is copied, its copy checked, and all of it looked through; words and films are found.
func TestTheShopIsKept(t *testing.T) {
	b := newBed(t)
	b.readings()
	var all api.Backups
	b.get("/api/backups", &all)
	if len(all.Made) != 0 || !all.Rule.Daily {
		t.Errorf("%+v", all)
	}
	b.into(b.send(http.MethodPost, "/api/backups", ""), 201, &all)
	b.into(b.send(http.MethodPut, "/api/backups", `{"daily":false,"keep":3}`), 200, &all)
	if len(all.Made) != 1 || all.Rule.Keep != 3 {
		t.Fatalf("%+v", all)
	}
	var checked api.CheckedBackup
	b.into(b.send(http.MethodPost, "/api/backups/"+all.Made[0].Name+"/check", ""), 200, &checked)
	if checked.Cars != 1 || !strings.Contains(checked.Text, "can be put back") {
		t.Errorf("%+v", checked)
	}
	if w := b.send(http.MethodGet, "/api/backups/"+all.Made[0].Name, ""); w.Code != 200 || int64(w.Body.Len()) != all.Made[0].Bytes {
		t.Errorf("%d, %d bytes", w.Code, w.Body.Len())
	}
	for _, name := range []string{"..%2fwaxplanus.db", "20990101T000000-daily.zip"} {
		if w := b.send(http.MethodGet, "/api/backups/"+name, ""); w.Code != 404 {
			t.Errorf("%s gives %d", name, w.Code)
		}
	}
	var seen api.Verified
	b.into(b.send(http.MethodPost, "/api/verify", ""), 200, &seen)
	if len(seen.Faults) != 0 || seen.Cars != 1 || seen.Readings != 6 {
		t.Errorf("%+v", seen)
	}
	var found []api.FoundThing
	if b.get("/api/search?q=side", &found); len(found) != 1 || found[0].Link != "/cars/"+b.car {
		t.Errorf("%+v", found)
	}
	if b.get("/api/search?q=160", &found); len(found) == 0 || found[0].Kind != "film" {
		t.Errorf("%+v", found)
	}
	b.into(b.send(http.MethodPost, "/api/probe/shots/none/drop", ""), 204, nil)
	var doc map[string]any
	b.get("/api/openapi.json", &doc)
	var health api.Health
	if b.get("/api/health", &health); health.Status != "ok" {
		t.Errorf("%+v", health)
	}
	if w := b.send(http.MethodGet, "/api/formats/car.schema.json", ""); w.Code != 200 || !json.Valid(w.Body.Bytes()) {
		t.Errorf("%d", w.Code)
	}
	if w := b.send(http.MethodGet, "/api", ""); w.Code != 200 || strings.Count(w.Body.String(), "<details") != len(routes()) {
		t.Errorf("the page of the contract has %d operations of %d", strings.Count(w.Body.String(), "<details"), len(routes()))
	}
}

// What is no photo of a panel: lamps that are kept and forgotten, the lamp that is drawn, and the
// photo of a mark.
func TestLampsAndPhotosOfMarks(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPut, "/api/lamps", `{"id":"lamp-0001","name":"booth","pitch_mm":20,"lamp_mm":500,"camera_mm":600,"aperture_mm":4,"mm_per_px":0.1,"lens_px":0,"gamma":2.2,"scale":true}`), 200, nil)
	var lamps api.Lamps
	if b.get("/api/lamps", &lamps); len(lamps.Lamps) != 1 {
		t.Errorf("%+v", lamps)
	}
	b.into(b.send(http.MethodDelete, "/api/lamps/lamp-0001", ""), 200, nil)
	if b.get("/api/lamps", &lamps); len(lamps.Lamps) != 0 {
		t.Errorf("%+v", lamps)
	}
	if w := b.send(http.MethodGet, "/api/lamp/picture?swirls=medium", ""); w.Code != 200 || w.Header().Get("Content-Type") != "image/png" {
		t.Errorf("%d: %.200s", w.Code, w.Body)
	}
	b.into(b.send(http.MethodPost, "/api/panels/"+b.panel+"/marks", scratch), 201, nil)
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewGray(image.Rect(0, 0, 40, 20))); err != nil {
		t.Fatal(err)
	}
	if w := b.raw(http.MethodPut, "/api/marks/mark-0001/photo", picture.Bytes()); w.Code >= 300 {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
}
