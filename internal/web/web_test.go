package web

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"image/png"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"waxplanus/internal/fresh"
	"waxplanus/internal/shop"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// bed is a shop with one loose panel behind its handler, and a clock that moves
// on by a second at each look. Each test has one, beside those of others.
type bed struct {
	t       testing.TB
	handler http.Handler
	shop    *store.Store
	panel   string
	car     string
	wait    func(time.Duration) // lets time go by
}

func newBed(t *testing.T) *bed {
	t.Helper()
	t.Parallel()
	return makeBed(t)
}

// makeBed is for a test that wants several.
func makeBed(t *testing.T) *bed {
	t.Helper()
	return bedWith(t, Devices{})
}

// newShop is an empty shop, migrated once for all tests.
var newShop = fresh.Of(func(dir string) error {
	s, err := store.Open(dir)
	if err != nil {
		return err
	}
	return s.Close()
})

// openCopy opens a copy of a shop.
func openCopy(t testing.TB, of *fresh.Files) *store.Store {
	t.Helper()
	dir := t.TempDir()
	if err := of.Into(dir); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// bedWith is a bed that reaches devices.
func bedWith(t *testing.T, d Devices) *bed {
	t.Helper()
	records := openCopy(t, newShop)
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	var mu sync.Mutex
	tick := func() time.Time {
		mu.Lock()
		defer mu.Unlock()
		now = now.Add(time.Second)
		return now
	}
	wait := func(d time.Duration) {
		mu.Lock()
		defer mu.Unlock()
		now = now.Add(d)
	}
	application := shop.New(records, tick, time.UTC)
	t.Cleanup(application.Close)
	b := &bed{t: t, shop: records, wait: wait, handler: New(application, "test", slog.New(slog.NewTextHandler(io.Discard, nil)), d, "example.com")}
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Side flap","body":"loose","colour":"dark","painter":"Tove","width_mm":900,"height_mm":600,"groups":[{"keys":["panel"],"facts":{"origin":"here","coats":4}}]}`, 201, &car)
	b.car, b.panel = car.Id, car.Next.PanelId
	return b
}

// send asks the handler. A tap that names no plan is made under the one of record.
func (b *bed) send(method, path, body string) *httptest.ResponseRecorder {
	b.t.Helper()
	if strings.HasSuffix(path, "/log") && strings.HasPrefix(body, "{") && !strings.Contains(body, `"plan"`) {
		record, _ := b.shop.Plan(context.Background(), b.panel) // or none
		body = fmt.Sprintf(`{"plan":%q,`, cmp.Or(record.ID, "none")) + body[1:]
	}
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	b.handler.ServeHTTP(w, r)
	abidesBy(b.t, r, body, w)
	if strings.ContainsAny(w.Body.String(), "\ue000\ue001") {
		b.t.Errorf("%s %s: a film goes out without its unit: %s", method, path, w.Body)
	}
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

// version is the panel's as it is.
func (b *bed) version() int64 {
	b.t.Helper()
	v, err := b.shop.Versions(context.Background(), b.panel)
	if err != nil {
		b.t.Fatal(err)
	}
	return v.Panel
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

// usual is a ladder by the rule of thumb, with many passes of its first grit.
const usual = "p2000@rubber*7,p2500-foam@foam-disc*2,3000@foam-disc*3,wool-medium*2,foam-fine*2"

// plan is what Plan shows for a sequence, or an offer's name.
func (b *bed) plan(ladder string) api.Plan {
	b.t.Helper()
	var p api.Plan
	b.get(b.at("/plan?ladder="+url.QueryEscape(ladder)), &p)
	return p
}

// accept accepts the usual ladder and gives Plan as it was before.
func (b *bed) accept() api.Plan {
	b.t.Helper()
	p := b.plan(usual)
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, usual), 201, nil)
	return p
}

func (b *bed) level() api.Level {
	b.t.Helper()
	var l api.Level
	b.get(b.at("/level"), &l)
	return l
}

func (b *bed) entry(id, section, kind string, step int) *httptest.ResponseRecorder {
	more := ""
	if kind == "done" { // however many passes were made
		more = `,"reason":"nothing shows any more"`
	}
	return b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-%s","section":%q,"step":%d,"kind":%q,"person":"Tove"%s}`, id, section, step, kind, more))
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
		{"NaN", "/readings", strings.Replace(reading(""), "150", "NaN", 1), 400, "not one piece of JSON"},
		{"text for a number", "/readings", strings.Replace(reading(""), "150", `"150"`, 1), 400, "number is wanted"},
		{"no film", "/readings", `{"id":"reading-1","x_mm":100,"y_mm":100,"unit":"um","phase":"total"}`, 400, "Film is missing"},
		{"no place", "/readings", `{"id":"reading-1","film":100,"unit":"um","phase":"total"}`, 400, "X in mm is missing"},
		{"empty", "/readings", ``, 400, "could not be read"},
		{"negative", "/readings", strings.Replace(reading(""), "150", "-3", 1), 422, "zero the gauge"},
		{"absurd", "/readings", strings.Replace(reading(""), "150", "6000", 1), 422, "more than any paint"},
		{"mil typed as µm", "/readings", strings.Replace(reading(""), "150", "1.2", 1), 422, "As mil it is 30"},
		{"wrong unit", "/readings", strings.Replace(reading(""), `"um"`, `"inch"`, 1), 422, "um or mil"},
		{"wrong phase", "/readings", strings.Replace(reading(""), `"total"`, `"later"`, 1), 422, "Phase"},
		{"off the panel", "/readings", strings.Replace(reading(""), `"x_mm":100`, `"x_mm":1200`, 1), 422, "900 mm wide"},
		{"beside its corner", "/readings", strings.Replace(strings.Replace(reading(""), `"x_mm":100`, `"x_mm":2`, 1), `"y_mm":100`, `"y_mm":2`, 1), 422, "corner"},
		{"short id", "/readings", strings.Replace(reading(""), "reading-1", "r", 1), 422, "8 to 64"},
		{"plan without readings", "/plan", `{"basis":"x","ladder":"balanced"}`, 409, "Waits for Read"},
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
		`{"name":"  ","body":"saloon","colour":"dark","painter":"Tove"}`:                                                       "name",
		`{"name":"A","body":"saloon","colour":"pink","painter":"Tove"}`:                                                        "light, medium or dark",
		`{"name":"A","body":"boat","colour":"dark","painter":"Tove"}`:                                                          "No body type",
		`{"name":"A","body":"loose","colour":"dark","painter":"Tove"}`:                                                         "width and height",
		`{"name":"A","body":"loose","colour":"dark","painter":"Tove","width_mm":9,"height_mm":900}`:                            "100 to 3000",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","groups":[{"keys":["roof"],"facts":{"coats":40}}]}`:      "0 to 10",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","groups":[{"keys":["roof"],"facts":{"origin":"rust"}}]}`: "factory, here",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","groups":[{"keys":["mast"],"facts":{}}]}`:                "no panel",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","length_mm":9000}`:                                       "has to be",
		`{"name":"A","body":"own","colour":"dark","painter":"Tove"}`:                                                           "the drawing of it",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","like":"nobody"}`:                                        "no earlier car",
		`{"name":"A","body":"saloon","colour":"dark","painter":"Tove","cost_limit":-1}`:                                        "no limit",
		`{"name":"` + strings.Repeat("long", 30) + `","body":"saloon","colour":"dark","painter":"Tove"}`:                       "1 to 60",
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
	var page api.CarPage
	b.get("/api/cars", &page)
	if len(page.Cars) != 1 || page.Total != 1 {
		t.Errorf("%d of %d cars are in", len(page.Cars), page.Total)
	}
}

func TestPlasticIsNotRead(t *testing.T) {
	b := newBed(t)
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Saloon","body":"saloon","colour":"light","painter":"Issa"}`, 201, &car)
	bumper := "/api/panels/" + car.Id + ".fbumper"
	var r api.Read
	b.get(bumper+"/read", &r)
	if r.Study != nil || !strings.Contains(r.Why, "Plastic") {
		t.Errorf("film of plastic that nobody read: %+v, %s", r.Study, r.Why)
	}
	if w := b.send(http.MethodPost, bumper+"/readings", `{"id":"reading-1","x_mm":300,"y_mm":900,"film":150,"unit":"um","phase":"total"}`); w.Code != 422 || !strings.Contains(w.Body.String(), "plastic") {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
	at := fmt.Sprintf(`"x_mm":%v,"y_mm":%v`, r.Next[0].XMm, r.Next[0].YMm)
	if w := b.send(http.MethodPost, bumper+"/readings", `{"id":"reading-2",`+at+`,"film":52,"unit":"um","phase":"clear"}`); w.Code != 201 {
		t.Errorf("the clear by an ultrasonic gauge: %d %s", w.Code, w.Body)
	}
}

func TestPicturesAndPages(t *testing.T) {
	b := newBed(t)
	b.readings()
	w := b.send(http.MethodGet, b.at("/plan/pictures/5?ladder="+url.QueryEscape(usual)), "")
	if img, err := png.Decode(bytes.NewReader(w.Body.Bytes())); err != nil || img.Bounds().Dx() < 300 {
		t.Errorf("picture: %v", err)
	}
	if w := b.send(http.MethodGet, b.at("/plan/pictures/9?ladder="+url.QueryEscape(usual)), ""); w.Code != 404 {
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
	records := openCopy(b, newShop)
	shop := &bed{t: b, handler: New(shop.New(records, time.Now, time.UTC), "test", slog.New(slog.NewTextHandler(io.Discard, nil)), Devices{}, "example.com")}
	w := shop.send(http.MethodPost, "/api/cars", `{"name":"Car","body":"saloon","colour":"dark","painter":"Tove"}`)
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
		if w := shop.send(http.MethodPost, door+"/readings", body); w.Code != 201 {
			b.Fatal(w.Body)
		}
		if w := shop.send(http.MethodGet, door+"/read", ""); w.Code != 200 {
			b.Fatal(w.Body)
		}
	}
}
