package web

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"math"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/gauge"
	"waxplanus/internal/shop"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

func (b *bed) problem(w int, method, path, body string) api.Problem {
	b.t.Helper()
	var p api.Problem
	b.into(b.send(method, path, body), w, &p)
	return p
}

// A reading that does not fit is asked back for, with what it may have been;
// nothing is kept until somebody says which.
func TestReadingThatDoesNotFitAsksBack(t *testing.T) {
	b := newBed(t)
	b.readings()
	at := func(id string, film float64, unit, sure string) string {
		return fmt.Sprintf(`{"id":"odd-%s-0001","x_mm":300,"y_mm":300,"film":%v,"unit":%q,"phase":"total","sure":%q}`, id, film, unit, sure)
	}
	for _, c := range []struct {
		film   float64
		want   string
		offers []float64
	}{{6.4, "mil instead of µm", []float64{162.6, 6.4}}, {1610, "slip of a digit", []float64{161, 1610}}, {330, "Filler", []float64{330}}, {60, "Probe lifted", []float64{60}}} {
		p := b.problem(409, http.MethodPost, b.at("/readings"), at("a", c.film, "um", ""))
		if !strings.Contains(p.Detail, c.want) || p.Offers == nil || len(*p.Offers) != len(c.offers) {
			t.Fatalf("%v: %+v, want %q and %v", c.film, p, c.want, c.offers)
		}
		for i, o := range *p.Offers {
			if d := o.Film - c.offers[i]; d > 0.2 || d < -0.2 || o.Sure != (i == len(c.offers)-1) {
				t.Errorf("%v: offer %+v, want %v", c.film, o, c.offers[i])
			}
		}
	}
	if p := b.problem(422, http.MethodPost, b.at("/readings"), at("b", 1.2, "um", "")); p.Offers == nil || (*p.Offers)[0].Unit != api.Mil {
		t.Errorf("1.2 µm: %+v", p)
	}
	if kept, _ := b.shop.Readings(context.Background(), b.panel); len(kept) != 6 {
		t.Fatalf("%d readings kept", len(kept))
	}
	b.post(b.at("/readings"), at("c", 330, "um", "filler under it, seen before spraying"), 201, nil)
	b.post(b.at("/readings"), at("c", 330, "um", "filler under it, seen before spraying"), 201, nil)
	var r api.Read
	b.get(b.at("/read"), &r)
	last := r.Readings[len(r.Readings)-1]
	if len(r.Readings) != 7 || last.Sure == nil || last.Odd != nil {
		t.Errorf("kept with a reason: %+v", last)
	}
}

func TestTwoReadingsThatDifferAskForAThird(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.reading("twice", 300, 300, 160)
	b.reading("again", 300, 300, 178)
	var r api.Read
	b.get(b.at("/read"), &r)
	if !strings.Contains(r.Why, "third time") || r.Next[0].XMm != 300 || r.Next[0].YMm != 300 {
		t.Errorf("next %+v: %s", r.Next[0], r.Why)
	}
	b.reading("third", 300, 300, 161)
	b.get(b.at("/read"), &r)
	if strings.Contains(r.Why, "third") {
		t.Error(r.Why)
	}
}

// The study says what more readings would settle, and a borrowed clear that it
// hangs on.
func TestReadLooksAhead(t *testing.T) {
	b := newBed(t)
	for i, x := range []float64{150, 450, 750} {
		b.reading(fmt.Sprint("h", i), x, 300, 90)
	}
	var r api.Read
	b.get(b.at("/read"), &r)
	if a := r.Study.Ahead; a.Text == "" || a.Readings > 0 && a.Section == nil {
		t.Errorf("%+v", a)
	}
	if n, m := len(*r.Study.Map.RoomUm), r.Study.Map.Nx*r.Study.Map.Ny; n != m {
		t.Errorf("%d nodes of headroom on a map of %d", n, m)
	}
	if !strings.Contains(r.Study.Ahead.Helps, "knowing the clear") && r.Sections[0].State != nil && *r.Sections[0].State != api.StateOpen {
		t.Logf("ahead: %+v", r.Study.Ahead)
	}
}

func TestGaugeIsCheckedAndStudied(t *testing.T) {
	b := newBed(t)
	var gauges []api.Gauge
	b.get("/api/gauges", &gauges)
	if len(gauges) != 1 || gauges[0].Fine || !strings.Contains(gauges[0].Check, "never") {
		t.Fatalf("%+v", gauges)
	}
	var g api.Gauge
	b.post("/api/gauges/shop/checks", `{"zero":0.3,"foil":4.92,"read":4.95,"unit":"mil"}`, 201, &g)
	if g.Fine {
		t.Errorf("a zero of 0.3 mil is fine: %+v", g)
	}
	b.post("/api/gauges/shop/checks", `{"zero":0.4,"foil":125,"read":126,"unit":"um"}`, 201, &g)
	if !g.Fine || g.CheckedAt == nil {
		t.Errorf("%+v", g)
	}
	for _, bad := range []string{`{"zero":9000,"foil":0,"read":0,"unit":"um"}`, `{"zero":0,"foil":-4,"read":0,"unit":"um"}`, `{"zero":0,"foil":125,"read":0,"unit":"um"}`} {
		b.problem(422, http.MethodPost, "/api/gauges/shop/checks", bad)
	}
	b.problem(422, http.MethodPost, "/api/gauges/shop/study", `{"shots":[150,150,150,0,151],"unit":"um"}`)
	b.readings()
	var before, after api.Read
	b.get(b.at("/read"), &before)
	b.post("/api/gauges/shop/study", `{"shots":[150,158,144,156,142,157,145,155],"unit":"um"}`, 201, &g)
	b.get(b.at("/read"), &after)
	if g.Shots != 8 || g.RepeatUm.Mean < 2 || after.Gauge.RepeatUm != g.RepeatUm {
		t.Errorf("%+v", g)
	}
	if after.Study.FilmUm.Sd <= before.Study.FilmUm.Sd {
		t.Errorf("doubt %v before the study of a loose gauge, %v after", before.Study.FilmUm.Sd, after.Study.FilmUm.Sd)
	}
	b.problem(404, http.MethodPost, "/api/gauges/none/study", `{"shots":[1,2,3,4,5],"unit":"um"}`)
}

// A stand-in gauge sends; the shot waits for a place, is kept once, and a gauge
// that did not hear so sends it in vain.
func TestGaugeSendsAndNothingCountsTwice(t *testing.T) {
	b := newBed(t)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	quiet := slog.New(slog.NewTextHandler(io.Discard, nil))
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	stand := gauge.NewStandIn("STAND-IN-9", 3, io.Discard)
	go func() { _ = stand.Serve(ctx, listener) }()
	link := gauge.NewLink(listener.Addr().String(), b.shop.HasReading, func(ctx context.Context, id, name string) error {
		return b.shop.MeetGauge(ctx, store.Gauge{ID: id, Name: name})
	}, quiet)
	go link.Run(ctx)
	b.handler = New(shop.New(b.shop, time.Now, time.UTC), "test", quiet, Devices{Gauge: link}, "example.com")
	probe := func(want func(api.Probe) bool) api.Probe {
		t.Helper()
		var p api.Probe
		seen := -1
		for range 20 {
			b.get(fmt.Sprintf("/api/probe?seen=%d", seen), &p)
			if want(p) {
				return p
			}
			seen = p.Seq
		}
		t.Fatalf("it never came: %+v", p)
		return p
	}
	probe(func(p api.Probe) bool { return p.State == api.ProbeStateSending })
	b.into(b.send(http.MethodPut, "/api/probe/spot", fmt.Sprintf(`{"panel_id":%q,"x_mm":300,"y_mm":200}`, b.panel)), 204, nil)
	for range 50 { // the place has to reach the gauge
		stand.Shoot()
		if len(link.Watch(context.Background(), -1).Waiting) > 0 {
			break
		}
		time.Sleep(20 * time.Millisecond)
	}
	p := probe(func(p api.Probe) bool { return len(p.Shots) > 0 })
	shot := p.Shots[0]
	if shot.FilmUm == nil || *shot.FilmUm < 50 || *shot.FilmUm > 300 {
		t.Fatalf("%+v", shot)
	}
	body := fmt.Sprintf(`{"id":%q,"x_mm":300,"y_mm":200,"film":%v,"unit":"um","phase":"total","gauge":"STAND-IN-9"}`, shot.Id, *shot.FilmUm)
	var kept api.Reading
	b.post(b.at("/readings"), body, 201, &kept)
	b.post(b.at("/readings"), body, 201, nil)
	p = probe(func(p api.Probe) bool { return true })
	for _, s := range p.Shots {
		if s.Id == shot.Id {
			t.Error("a shot that was kept still waits")
		}
		b.into(b.send(http.MethodPost, "/api/probe/shots/"+s.Id+"/drop", ""), 204, nil)
	}
	if rows, _ := b.shop.Readings(ctx, b.panel); len(rows) != 1 || rows[0].Source != store.SourceGauge || kept.Source != api.ReadingSourceGauge {
		t.Errorf("kept %+v", rows)
	}
	b.problem(422, http.MethodPost, b.at("/readings"), strings.ReplaceAll(strings.ReplaceAll(body, "STAND-IN-9", "NOBODY"), shot.Id, "another-id"))
}

func TestUnitsAreTheShops(t *testing.T) {
	b := newBed(t)
	var s api.Shop
	b.get("/api/shop", &s)
	if s.Unit != api.Um || s.PerUm != 1 {
		t.Errorf("%+v", s)
	}
	b.into(b.send(http.MethodPut, "/api/shop", `{"unit":"mil"}`), 200, &s)
	b.get("/api/shop", &s)
	if s.Unit != api.Mil || math.Abs(s.PerUm*25.4-1) > 1e-9 {
		t.Errorf("%+v", s)
	}
	b.problem(422, http.MethodPut, "/api/shop", `{"unit":"inch"}`)
	b.readings()
	w := b.send(http.MethodGet, b.at("/read"), "")
	if text := w.Body.String(); !strings.Contains(text, " mil") || strings.Contains(text, " µm and") {
		t.Errorf("not all of it is in mil: %s", text)
	}
}

// A gauge that resolves layers reads the clear alone; it is a source, not film.
func TestClearAloneIsASource(t *testing.T) {
	b := newBed(t)
	b.readings()
	var before, after api.Read
	b.get(b.at("/read"), &before)
	b.post(b.at("/readings"), `{"id":"layers-0001","x_mm":300,"y_mm":300,"film":61,"unit":"um","phase":"clear"}`, 201, nil)
	b.get(b.at("/read"), &after)
	kinds := ""
	for _, s := range after.Study.Clear.Sources {
		kinds += s.Kind + " "
		if !strings.Contains(s.Text, " % of what is known") {
			t.Errorf("%+v does not say what it counts", s)
		}
	}
	if kinds != "direct coats under " || after.Study.FilmUm != before.Study.FilmUm || after.Study.Clear.Sd >= before.Study.Clear.Sd {
		t.Errorf("%s, clear %+v, was %+v", kinds, after.Study.Clear, before.Study.Clear)
	}
}

func TestZonesOfAPanel(t *testing.T) {
	b := newBed(t)
	b.readings()
	put := func(zones string) string { return `{"zones":[` + zones + `]}` }
	const left = `{"name":"blend","outline":[{"x":0,"y":0},{"x":450,"y":0},{"x":450,"y":600},{"x":0,"y":600}],"origin":"factory","layers":"clear","coats":0}`
	b.into(b.send(http.MethodPut, b.at("/zones"), put(left)), 200, nil)
	var r api.Read
	b.get(b.at("/read"), &r)
	if len(*r.Zones) != 1 || (*r.Zones)[0].Name != "blend" {
		t.Fatalf("%+v", r.Zones)
	}
	var in, out api.Place
	b.get(b.at("/place?x_mm=200&y_mm=300"), &in)
	b.get(b.at("/place?x_mm=700&y_mm=300"), &out)
	if in.ClearUm.Mean >= out.ClearUm.Mean-5 {
		t.Errorf("factory clear in the zone %v, four coats beside it %v", in.ClearUm, out.ClearUm)
	}
	for name, bad := range map[string]string{
		"two corners": strings.Replace(left, `{"x":450,"y":600},{"x":0,"y":600}`, ``, 1),
		"tiny":        strings.ReplaceAll(left, "450", "20"), "far": strings.ReplaceAll(left, "450", "4500000"), "coats": strings.Replace(left, `"coats":0`, `"coats":40`, 1),
	} {
		if w := b.send(http.MethodPut, b.at("/zones"), put(bad)); w.Code < 400 || w.Code > 499 {
			t.Errorf("%s gives %d: %s", name, w.Code, w.Body)
		}
	}
	b.into(b.send(http.MethodPut, b.at("/zones"), put("")), 200, nil)
	b.get(b.at("/read"), &r)
	if len(*r.Zones) != 0 {
		t.Errorf("%+v", r.Zones)
	}
}

// wholeCar takes a whole car in, its plastic bumpers sprayed with the wings.
func (b *bed) wholeCar() (car string, panels map[string]string) {
	b.t.Helper()
	var c api.CarSummary
	b.post("/api/cars", `{"name":"Ferry saloon","body":"saloon","colour":"dark","painter":"Tove","groups":[]}`, 201, &c)
	var full api.Car
	b.get("/api/cars/"+c.Id, &full)
	panels = map[string]string{}
	for _, p := range full.Panels {
		panels[p.Key] = p.Id
	}
	return c.Id, panels
}

func TestCarImportAndExport(t *testing.T) {
	b := newBed(t)
	car, panels := b.wholeCar()
	text := "panel;x;y;shot 1;shot 2;shot 3\nleft front door;300;300;128,5;129;128\nBONNET;;;131;130,5;\nside rear l;100;100;120;;\nL-fdoor;500;500;127,5;;\n;400;300;127,5;;\n"
	file, _ := json.Marshal(api.ImportFile{FileName: "car.csv", Text: text})
	var p api.ImportPreview
	b.post("/api/cars/"+car+"/import/preview", string(file), 200, &p)
	if p.NewRows != 6 || p.BadRows != 2 || len(*p.Columns.Shots) != 2 {
		t.Fatalf("%+v", p)
	}
	if !strings.Contains(p.Rows[5].Detail, "side rear l") || !strings.Contains(p.Rows[7].Detail, "names no panel") {
		t.Errorf("%s / %s", p.Rows[5].Detail, p.Rows[7].Detail)
	}
	if *p.Rows[3].XMm != *p.Rows[4].XMm || !strings.Contains(p.Rows[3].Detail, "pattern") {
		t.Errorf("shots of one row at %v and %v: %s", *p.Rows[3].XMm, *p.Rows[4].XMm, p.Rows[3].Detail)
	}
	var r api.ImportResult
	b.post("/api/cars/"+car+"/import", string(file), 200, &r)
	if r.Kept != 6 || r.LeftOut != 2 {
		t.Errorf("%+v", r)
	}
	rows, _ := b.shop.Readings(context.Background(), panels["L-fdoor"])
	b.post("/api/readings/"+rows[0].ID+"/strike", `{"reason":"=probe on tape"}`, 200, nil)
	w := b.send(http.MethodGet, "/api/cars/"+car+"/readings.csv", "")
	if w.Code != 200 || !strings.Contains(w.Body.String(), "'=probe on tape") || strings.Count(w.Body.String(), "\n") != 7 {
		t.Fatalf("%d %s", w.Code, w.Body)
	}
	own, _ := json.Marshal(api.ImportFile{FileName: "out.csv", Text: w.Body.String()})
	b.post("/api/cars/"+car+"/import", string(own), 200, &r)
	if r.Kept != 0 || r.Known != 5 || r.LeftOut != 1 {
		t.Errorf("its own file again: %+v", r)
	}
	other, _ := b.wholeCar()
	b.post("/api/cars/"+other+"/import", string(own), 200, &r)
	if r.Kept != 5 {
		t.Errorf("on another car: %+v", r)
	}
	back := b.send(http.MethodGet, "/api/cars/"+other+"/readings.csv", "")
	for _, want := range []string{"127.5", "130.5"} {
		if !strings.Contains(back.Body.String(), want) {
			t.Errorf("%s is lost on the way: %s", want, back.Body)
		}
	}
}

func TestPlasticBorrowsFromItsNeighbours(t *testing.T) {
	b := newBed(t)
	_, panels := b.wholeCar()
	bumper, wing := "", ""
	for key, id := range panels {
		row, err := b.shop.Panel(context.Background(), id)
		if err != nil {
			t.Fatal(err)
		}
		if row.Substrate == "plastic" && strings.Contains(row.Name, "front") && bumper == "" {
			bumper = id
		}
		if key == "L-fwing" || strings.Contains(key, "L-") && strings.Contains(row.Name, "front wing") {
			wing = id
		}
	}
	if bumper == "" || wing == "" {
		t.Fatalf("no bumper or wing among %v", panels)
	}
	var r api.Read
	b.get("/api/panels/"+bumper+"/read", &r)
	if r.Study != nil {
		t.Fatal("film out of nothing")
	}
	// Once something is wanted of it, what is said of it is all that is known.
	b.into(b.send(http.MethodPatch, "/api/panels/"+bumper, `{"aim":"polish"}`), 200, nil)
	b.get("/api/panels/"+bumper+"/read", &r)
	if r.Study == nil || !strings.Contains(r.Why, "ultrasonic") || len(r.Study.Clear.Sources) == 0 || r.Study.Clear.Sources[0].Kind == "neighbours" {
		t.Fatalf("without a neighbour that was read: %+v, %s", r.Study, r.Why)
	}
	for i, x := range []float64{250, 350, 450} {
		b.panel = wing
		var next api.Read
		b.get(b.at("/read"), &next)
		_ = x
		b.reading(fmt.Sprint("w", i), next.Next[0].XMm, next.Next[0].YMm, 118+float64(i))
	}
	b.get("/api/panels/"+bumper+"/read", &r)
	if r.Study == nil || !r.Study.Borrowed || r.Study.Clear.Sources[0].Kind != "neighbours" {
		t.Fatalf("%+v", r.Study)
	}
	if m := r.Study.FilmUm.Mean; m < 105 || m > 130 {
		t.Errorf("film %v lent by 119", m)
	}
}
