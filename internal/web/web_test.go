package web

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image/png"
	"io"
	"log/slog"
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// bed is a shop with one loose panel behind its handler, and a clock that moves
// on by a second at each look.
type bed struct {
	t       *testing.T
	handler http.Handler
	shop    *store.Store
	panel   string
	car     string
}

func newBed(t *testing.T) *bed {
	t.Helper()
	shop, err := store.Open(t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = shop.Close() })
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	tick := func() time.Time { now = now.Add(time.Second); return now }
	b := &bed{t: t, shop: shop, handler: New(shop, "test", slog.New(slog.NewTextHandler(io.Discard, nil)), tick)}
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Side flap","body":"loose","colour":"dark","painter":"Tove","width_mm":900,"height_mm":600,"finish":"refinished","coats":4}`, 201, &car)
	b.car, b.panel = car.Id, car.Next.PanelId
	return b
}

func (b *bed) send(method, path, body string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	b.handler.ServeHTTP(w, r)
	return w
}

func (b *bed) into(w *httptest.ResponseRecorder, status int, out any) {
	b.t.Helper()
	if w.Code != status {
		b.t.Fatalf("status %d, want %d: %s", w.Code, status, w.Body)
	}
	if out != nil {
		if err := json.Unmarshal(w.Body.Bytes(), out); err != nil {
			b.t.Fatalf("%v in %s", err, w.Body)
		}
	}
}

func (b *bed) get(path string, out any) {
	b.t.Helper()
	b.into(b.send(http.MethodGet, path, ""), 200, out)
}

func (b *bed) post(path, body string, status int, out any) {
	b.t.Helper()
	b.into(b.send(http.MethodPost, path, body), status, out)
}

func (b *bed) at(rest string) string { return "/api/panels/" + b.panel + rest }

func (b *bed) reading(id string, x, y, film float64) {
	b.t.Helper()
	b.post(b.at("/readings"), fmt.Sprintf(`{"id":"reading-%s","x_mm":%v,"y_mm":%v,"film":%v,"unit":"um","phase":"total"}`, id, x, y, film), 201, nil)
}

func (b *bed) readings() {
	for i, x := range []float64{150, 450, 750} {
		b.reading(fmt.Sprint("a", i), x, 150, 160+float64(i))
		b.reading(fmt.Sprint("b", i), x, 450, 163-float64(i))
	}
}

func (b *bed) accept() api.Plan {
	b.t.Helper()
	var p api.Plan
	b.get(b.at("/plan"), &p)
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q}`, p.Offer.Basis), 201, nil)
	return p
}

func (b *bed) level() api.Level {
	b.t.Helper()
	var l api.Level
	b.get(b.at("/level"), &l)
	return l
}

func (b *bed) entry(id, section, kind string, step int) *httptest.ResponseRecorder {
	return b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-%s","section":%q,"step":%d,"kind":%q,"person":"Tove"}`, id, section, step, kind))
}

func TestRefusalsSaySoAndKeepNothing(t *testing.T) {
	b := newBed(t)
	reading := func(change string) string {
		return `{"id":"reading-1","x_mm":100,"y_mm":100,"film":150,"unit":"um","phase":"total"` + change + `}`
	}
	for _, c := range []struct {
		name, path, body string
		status           int
		want             string
	}{
		{"unknown field", "/readings", reading(`,"colour":"red"`), 400, "no field"},
		{"NaN", "/readings", strings.Replace(reading(""), "150", "NaN", 1), 400, "not JSON"},
		{"text for a number", "/readings", strings.Replace(reading(""), "150", `"150"`, 1), 400, "film"},
		{"no film", "/readings", `{"id":"reading-1","x_mm":100,"y_mm":100,"unit":"um","phase":"total"}`, 400, "film is missing"},
		{"no place", "/readings", `{"id":"reading-1","film":100,"unit":"um","phase":"total"}`, 400, "x_mm is missing"},
		{"empty", "/readings", ``, 400, "could not be read"},
		{"negative", "/readings", strings.Replace(reading(""), "150", "-3", 1), 422, "zero the gauge"},
		{"absurd", "/readings", strings.Replace(reading(""), "150", "6000", 1), 422, "more than any paint"},
		{"mil typed as µm", "/readings", strings.Replace(reading(""), "150", "1.2", 1), 422, "As mil it is 30"},
		{"wrong unit", "/readings", strings.Replace(reading(""), `"um"`, `"inch"`, 1), 422, "um or mil"},
		{"wrong phase", "/readings", strings.Replace(reading(""), `"total"`, `"later"`, 1), 422, "phase"},
		{"off the panel", "/readings", strings.Replace(reading(""), `"x_mm":100`, `"x_mm":1200`, 1), 422, "900 mm wide"},
		{"beside its corner", "/readings", strings.Replace(strings.Replace(reading(""), `"x_mm":100`, `"x_mm":2`, 1), `"y_mm":100`, `"y_mm":2`, 1), 422, "corner"},
		{"short id", "/readings", strings.Replace(reading(""), "reading-1", "r", 1), 422, "8 to 64"},
		{"plan without readings", "/plan", `{"basis":"x"}`, 409, "Waits for Read"},
		{"log without a plan", "/log", `{"id":"entry-01","section":"b0r0c0","step":1,"kind":"pass","person":"Tove"}`, 409, "no plan of record"},
	} {
		t.Run(c.name, func(t *testing.T) {
			w := b.send(http.MethodPost, b.at(c.path), c.body)
			var p api.Problem
			if err := json.Unmarshal(w.Body.Bytes(), &p); err != nil || w.Code != c.status || p.Status != c.status || !strings.Contains(p.Detail, c.want) {
				t.Errorf("status %d: %s, want %d with %q", w.Code, w.Body, c.status, c.want)
			}
			if got := w.Header().Get("Content-Type"); got != "application/problem+json" {
				t.Errorf("content type %s", got)
			}
		})
	}
	if kept, _ := b.shop.Readings(context.Background(), b.panel); len(kept) != 0 {
		t.Errorf("%d readings were kept", len(kept))
	}
}

func TestCarsThatAreNone(t *testing.T) {
	b := newBed(t)
	for body, want := range map[string]string{
		`{"name":"  ","body":"saloon","colour":"dark","painter":"Tove"}`:                                           "name",
		`{"name":"A","body":"saloon","colour":"pink","painter":"Tove"}`:                                            "light, medium or dark",
		`{"name":"A","body":"boat","colour":"dark","painter":"Tove"}`:                                              "no body type",
		`{"name":"A","body":"loose","colour":"dark","painter":"Tove"}`:                                             "width and height",
		`{"name":"A","body":"loose","colour":"dark","painter":"Tove","width_mm":9,"height_mm":900}`:                "100 to 3000",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","coats":40}`:                                 "0 to 10",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","finish":"rust"}`:                            "finish is",
		`{"name":"` + strings.Repeat("long", 30) + `","body":"saloon","colour":"dark","painter":"Tove","coats":1}`: "1 to 60",
	} {
		if w := b.send(http.MethodPost, "/api/cars", body); w.Code < 400 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", body, w.Code, w.Body)
		}
	}
	for _, path := range []string{"/api/cars/none", "/api/panels/none/read", "/api/panels/none/level", "/api/nothing"} {
		if w := b.send(http.MethodGet, path, ""); w.Code != 404 || !strings.Contains(w.Body.String(), "on record") {
			t.Errorf("%s gives %d: %s", path, w.Code, w.Body)
		}
	}
	var cars []api.CarSummary
	b.get("/api/cars", &cars)
	if len(cars) != 1 {
		t.Errorf("%d cars are in", len(cars))
	}
}

func TestReadingSentTwiceCountsOnce(t *testing.T) {
	b := newBed(t)
	b.reading("once", 300, 300, 160)
	b.reading("once", 300, 300, 160)
	var r api.Read
	b.get(b.at("/read"), &r)
	if len(r.Readings) != 1 || r.Panel.Readings != 1 {
		t.Errorf("%d readings", len(r.Readings))
	}
	w := b.send(http.MethodPost, b.at("/readings"), `{"id":"reading-once","x_mm":300,"y_mm":300,"film":99,"unit":"um","phase":"total"}`)
	if w.Code != 409 {
		t.Errorf("another film under the same id gives %d", w.Code)
	}
}

func TestReadTellsFilmClearAndHeadroom(t *testing.T) {
	b := newBed(t)
	var empty api.Read
	b.get(b.at("/read"), &empty)
	if empty.Study != nil || len(empty.Next) != nextCount || !strings.Contains(empty.Why, "Zero the gauge") || empty.Sections[0].FilmUm != nil {
		t.Errorf("before any reading: %+v", empty.Study)
	}
	b.readings()
	b.post(b.at("/readings"), `{"id":"reading-mil","x_mm":300,"y_mm":300,"film":6.3,"unit":"mil","phase":"total"}`, 201, nil)
	b.post(b.at("/readings"), `{"id":"reading-under","x_mm":300,"y_mm":300,"film":78,"unit":"um","phase":"before_clear"}`, 201, nil)
	var r api.Read
	b.get(b.at("/read"), &r)
	if s := r.Study; s == nil || math.Abs(s.FilmUm.Mean-161) > 5 || len(s.Clear.Sources) != 2 || s.Clear.Sources[0].Kind != "before_clear" {
		t.Fatalf("%+v", r.Study)
	}
	for _, s := range r.Sections {
		if s.FilmUm == nil || *s.BoundUm >= s.FilmUm.Mean || *s.HeadroomUm >= s.ClearUm.Mean-r.FloorUm || *s.Reason == "" || s.State == nil {
			t.Errorf("%s: %+v", s.Name, s)
		}
	}
	if g := r.Study.Map; len(g.MeanUm) != g.Nx*g.Ny || len(g.SdUm) != g.Nx*g.Ny {
		t.Errorf("the map has %d nodes of %d x %d", len(g.MeanUm), g.Nx, g.Ny)
	}
	var before, after api.Read
	b.get(b.at("/read"), &before)
	b.post("/api/readings/reading-mil/strike", `{"reason":"the probe sat on tape"}`, 200, nil)
	b.get(b.at("/read"), &after)
	if after.Panel.Readings != before.Panel.Readings-1 || len(after.Readings) != len(before.Readings) {
		t.Error("a struck reading has to stay on record and not count")
	}
	if w := b.send(http.MethodPost, "/api/readings/reading-a0/strike", `{"reason":" "}`); w.Code < 400 {
		t.Error("a reading is struck out without a reason")
	}
}

func TestWholeStory(t *testing.T) {
	b := newBed(t)
	b.readings()
	p := b.accept()
	if len(p.Offer.Steps) != 5 || p.Waits != "" {
		t.Fatalf("waits %q, %d steps", p.Waits, len(p.Offer.Steps))
	}
	l := b.level()
	if l.Waits != "" || l.Hand == nil || l.Hand.Step != 1 || l.Hand.PassesNeeded != p.Offer.Steps[0].Passes {
		t.Fatalf("%+v", l.Hand)
	}
	first := *l.Hand
	for i := range 3 {
		if w := b.entry(fmt.Sprint("pass", i), l.Section, "pass", 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	if w := b.entry("pass2", l.Section, "pass", 1); w.Code != 201 {
		t.Fatal(w.Body) // the same tap again
	}
	three := *b.level().Hand
	if three.PassesDone != 3 || three.PassesGranted >= first.PassesGranted || three.Ledger.GoneUm.Mean <= 0 || three.Ledger.BalanceUm.Mean >= first.Ledger.BalanceUm.Mean {
		t.Errorf("after three passes: %+v, before: %+v", three, first)
	}
	b.reading("after", 150, 150, 157.6)
	read := *b.level().Hand
	if read.RateUm.Sd >= three.RateUm.Sd || !strings.Contains(read.RateFrom, "1 reading") {
		t.Errorf("a reading after passes leaves the rate at %+v, %s", read.RateUm, read.RateFrom)
	}
	b.into(b.send(http.MethodPost, "/api/log/entry-pass2/strike", `{"reason":"undone at once"}`), 200, nil)
	if got := b.level(); got.Hand.PassesDone != 2 || len(got.Log) != 3 {
		t.Errorf("after undo %d passes and %d entries", got.Hand.PassesDone, len(got.Log))
	}
	if w := b.entry("early", l.Section, "pass", 2); w.Code != 409 || !strings.Contains(w.Body.String(), "is at step 1") {
		t.Errorf("a pass of the next step gives %d: %s", w.Code, w.Body)
	}
	if w := b.entry("done", l.Section, "done", 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	if got := b.level(); got.Hand.Step != 2 {
		t.Errorf("after the step is done the hand holds step %d", got.Hand.Step)
	}
	if w := b.send(http.MethodPost, b.at("/plan"), `{"basis":"`+p.Offer.Basis+`"}`); w.Code != 409 {
		t.Errorf("a plan under work is replaced: %d %s", w.Code, w.Body)
	}
}

func TestStopIsAStop(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	l := b.level()
	refused := false
	for i := range 60 {
		w := b.entry(fmt.Sprintf("pass-%02d", i), l.Section, "pass", 1)
		if w.Code == 409 {
			refused = strings.Contains(w.Body.String(), "not counted")
			break
		}
	}
	got := b.level()
	if !refused || got.Hand.PassesGranted != 0 || got.Hand.State != api.Shut || got.Hand.Headline != "shut here" {
		t.Errorf("refused %v, %+v", refused, got.Hand)
	}
	if got.Hand.Ledger.BalanceUm.Mean < got.Hand.Ledger.FloorUm {
		t.Errorf("the stop came at %.1f µm, under the floor of %.0f", got.Hand.Ledger.BalanceUm.Mean, got.Hand.Ledger.FloorUm)
	}
}

func TestChangedFactsMakeAPlanStale(t *testing.T) {
	b := newBed(t)
	b.readings()
	first := b.accept()
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"peel_grade":8.4}`), 200, nil)
	var p api.Plan
	b.get(b.at("/plan"), &p)
	if p.Record == nil || p.Record.Stale == "" || p.Offer.Basis == first.Offer.Basis || p.Offer.FilmUm.Mean <= first.Offer.FilmUm.Mean {
		t.Errorf("%+v", p.Record)
	}
	if l := b.level(); l.Hand != nil || !strings.Contains(l.Waits, "accept it again") {
		t.Errorf("levelling goes on under a stale plan: %q", l.Waits)
	}
	if w := b.send(http.MethodPost, b.at("/plan"), fmt.Sprintf(`{"basis":%q}`, first.Offer.Basis)); w.Code != 409 {
		t.Errorf("an old basis is accepted: %d", w.Code)
	}
	if again := b.accept(); again.Record.Version != 1 {
		t.Errorf("version %d", again.Record.Version)
	}
	for _, body := range []string{`{"peel_grade":11}`, `{"coats":-1}`, `{"finish":"rust"}`, `{"peel":4}`} {
		if w := b.send(http.MethodPatch, "/api/panels/"+b.panel, body); w.Code < 400 {
			t.Errorf("%s is taken", body)
		}
	}
}

func TestPlanOfRecordIsFrozen(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	ctx := context.Background()
	p, err := b.shop.Plan(ctx, b.panel)
	if err != nil || len(p.Steps) != 5 {
		t.Fatal(p, err)
	}
	// As a later program with other constants would find it.
	next := p
	next.ID, next.Steps = "as-accepted-before", nil
	for _, s := range p.Steps {
		s.PlanID, s.Passes, s.FilmUM = next.ID, s.Passes+2, s.FilmUM+1
		next.Steps = append(next.Steps, s)
	}
	if err := b.shop.AcceptPlan(ctx, &next); err != nil {
		t.Fatal(err)
	}
	l := b.level()
	if want := p.Steps[0].Passes + 2; l.Hand.PassesNeeded != want || l.Steps[0].Passes != want {
		t.Errorf("the record says %d passes, the screen %d", want, l.Hand.PassesNeeded)
	}
	if want := p.FilmUM + 5; math.Abs(l.Hand.Ledger.ReserveUm+l.Steps[0].FilmUm.Mean-want) > 1e-9 {
		t.Errorf("the record takes %.2f µm, the screen %.2f", want, l.Hand.Ledger.ReserveUm+l.Steps[0].FilmUm.Mean)
	}
}

func TestImport(t *testing.T) {
	b := newBed(t)
	text := "time;x;y;film µm\n10:31;150;150;161,5\n10:32;450;150;163\n10:33;4500;150;163\n10:34;750;150;1,2\n10:35;;;160\n"
	file, _ := json.Marshal(api.ImportFile{FileName: "gauge.csv", Text: text})
	var p api.ImportPreview
	b.post(b.at("/import/preview"), string(file), 200, &p)
	if p.Delimiter != "semicolon" || p.Decimal != "comma" || p.NewRows != 3 || p.BadRows != 2 || p.KnownRows != 0 {
		t.Errorf("%+v", p)
	}
	for i, want := range []string{"new reading", "new reading", "outside", "As mil", "regular pattern"} {
		if !strings.Contains(p.Rows[i].Detail, want) {
			t.Errorf("row %d: %s, want %q", p.Rows[i].Row, p.Rows[i].Detail, want)
		}
	}
	if kept, _ := b.shop.Readings(context.Background(), b.panel); len(kept) != 0 {
		t.Fatalf("the preview kept %d readings", len(kept))
	}
	for i, want := range []api.ImportResult{{Kept: 3, Known: 0, LeftOut: 2}, {Kept: 0, Known: 3, LeftOut: 2}} {
		var r api.ImportResult
		b.post(b.at("/import"), string(file), 200, &r)
		if r != want {
			t.Errorf("time %d: %+v, want %+v", i+1, r, want)
		}
	}
	wrong, _ := json.Marshal(api.ImportFile{FileName: "roof.csv", Text: "panel,x,y,film_um\nroof,150,150,161\n"})
	b.post(b.at("/import/preview"), string(wrong), 200, &p)
	if p.BadRows != 1 || !strings.Contains(p.Rows[0].Detail, "Open that panel") {
		t.Errorf("%+v", p.Rows)
	}
	dated, _ := json.Marshal(api.ImportFile{FileName: "dated.csv", Text: "time,x,y,film_um\n2031-05-03 09:00:00,300,200,161\n2044-01-01 09:00:00,600,200,161\n"})
	b.post(b.at("/import"), string(dated), 200, nil)
	kept, _ := b.shop.Readings(context.Background(), b.panel)
	if last := kept[len(kept)-1]; len(kept) != 4 || last.TakenAt.Year() != 2031 || last.TakenAt.Day() > 3 {
		t.Errorf("%d readings, the last %+v: a time in the file counts, one that lies ahead does not", len(kept), last)
	}
	many, _ := json.Marshal(api.ImportFile{FileName: "many.csv", Text: "x,y,film_um\n" + strings.Repeat("300,300,160\n", 300)})
	if w := b.send(http.MethodPost, b.at("/import"), string(many)); w.Code != 422 || !strings.Contains(w.Body.String(), "most for one panel") {
		t.Errorf("300 readings of one panel give %d: %s", w.Code, w.Body)
	}
	for text, want := range map[string]string{"": "empty", "\u0000": "not a text file"} {
		f, _ := json.Marshal(api.ImportFile{FileName: "f.csv", Text: text})
		if w := b.send(http.MethodPost, b.at("/import/preview"), string(f)); w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%q gives %d: %s", text, w.Code, w.Body)
		}
	}
}

func TestPlasticIsNotRead(t *testing.T) {
	b := newBed(t)
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Saloon","body":"saloon","colour":"light","painter":"Issa"}`, 201, &car)
	bumper := "/api/panels/" + car.Id + ".fbumper"
	var r api.Read
	b.get(bumper+"/read", &r)
	if len(r.Next) != 0 || !strings.Contains(r.Why, "Plastic") {
		t.Errorf("%d places for the probe on plastic: %s", len(r.Next), r.Why)
	}
	if w := b.send(http.MethodPost, bumper+"/readings", `{"id":"reading-1","x_mm":300,"y_mm":900,"film":150,"unit":"um","phase":"total"}`); w.Code != 422 || !strings.Contains(w.Body.String(), "plastic") {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
}

func TestPicturesAndPages(t *testing.T) {
	b := newBed(t)
	b.readings()
	w := b.send(http.MethodGet, b.at("/plan/pictures/5"), "")
	if img, err := png.Decode(bytes.NewReader(w.Body.Bytes())); err != nil || img.Bounds().Dx() < 300 {
		t.Errorf("picture: %v", err)
	}
	if w := b.send(http.MethodGet, b.at("/plan/pictures/9"), ""); w.Code != 404 {
		t.Errorf("a ninth picture of five gives %d", w.Code)
	}
	if w := b.send(http.MethodGet, "/assets/none.js", ""); w.Code != 404 {
		t.Errorf("a missing file gives %d", w.Code)
	}
	cross := httptest.NewRequest(http.MethodPost, "/api/cars", strings.NewReader("{}"))
	cross.Header.Set("Sec-Fetch-Site", "cross-site")
	rec := httptest.NewRecorder()
	b.handler.ServeHTTP(rec, cross)
	if rec.Code != http.StatusForbidden {
		t.Errorf("a write from another site gives %d", rec.Code)
	}
}

// BenchmarkReading is one reading more, from the request to the answer of the
// panel's film, on the demo's kind of panel.
func BenchmarkReading(b *testing.B) {
	shop, err := store.Open(b.TempDir())
	if err != nil {
		b.Fatal(err)
	}
	defer func() { _ = shop.Close() }()
	bench := &bed{handler: New(shop, "test", slog.New(slog.NewTextHandler(io.Discard, nil)), time.Now)}
	w := bench.send(http.MethodPost, "/api/cars", `{"name":"Car","body":"saloon","colour":"dark","painter":"Tove","finish":"refinished","coats":4}`)
	var car api.CarSummary
	if err := json.Unmarshal(w.Body.Bytes(), &car); err != nil {
		b.Fatal(err)
	}
	door := "/api/panels/" + car.Id + ".L-fdoor"
	n := 0
	for b.Loop() {
		n++
		x, y := 100+float64(n*37%800), 600+float64(n*53%250)
		body := fmt.Sprintf(`{"id":"reading-%d","x_mm":%v,"y_mm":%v,"film":160,"unit":"um","phase":"total"}`, n, x, y)
		if w := bench.send(http.MethodPost, door+"/readings", body); w.Code != 201 {
			b.Fatal(w.Body)
		}
		if w := bench.send(http.MethodGet, door+"/read", ""); w.Code != 200 {
			b.Fatal(w.Body)
		}
	}
}
