package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"waxplanus/internal/shop/panelwork"

	"waxplanus/internal/web/api"
)

// mark places a mark and gives it back as it was kept.
func (b *bed) mark(id, kind string, x, y float64, sizes string) api.Marked {
	b.t.Helper()
	var m api.Marked
	if sizes == "" {
		sizes = "{}"
	}
	b.post(b.at("/marks"), fmt.Sprintf(`{"id":"mark-%s","kind":%q,"x_mm":%v,"y_mm":%v,"sizes":%s,"found":"booth"}`, id, kind, x, y, sizes), 201, &m)
	return m
}

func (b *bed) look() api.Look {
	b.t.Helper()
	var l api.Look
	b.get(b.at("/look"), &l)
	return l
}

// saloon is a bed with a whole car, all of it said alike.
func (b *bed) saloon(facts string) string {
	b.t.Helper()
	var c api.CarSummary
	b.post("/api/cars", `{"name":"Saloon","body":"saloon","colour":"dark","painter":"Tove"}`, 201, &c)
	b.into(b.send(http.MethodPatch, "/api/cars/"+c.Id+"/panels", `{"keys":["L-fdoor","R-fdoor","roof"],"facts":`+facts+`}`), 200, nil)
	b.car, b.panel = c.Id, c.Id+".L-fdoor"
	return c.Id
}

func TestMarksAreKeptAndJudged(t *testing.T) {
	b := newBed(t)
	if m := b.mark("scratch-1", "scratch", 200, 200, ""); m.Mark.Do != api.DoRead || m.Mark.HeadroomUm != nil {
		t.Errorf("a scratch on unread film: %+v", m.Mark)
	}
	b.readings()
	first := b.mark("nib-0001", "nib", 300, 300, "")
	if first.Tally.Nibs != 1 || first.Mark.Do != api.DoSpot || first.Mark.No != 1 || first.Mark.Found != api.FoundBooth || *first.Mark.HeadroomUm <= 0 {
		t.Errorf("%+v", first)
	}
	if again := b.mark("nib-0001", "nib", 300, 300, ""); again.Tally.Nibs != 1 || again.Mark.Id != first.Mark.Id {
		t.Errorf("sent twice it counts %d", again.Tally.Nibs)
	}
	b.mark("deep-001", "scratch", 500, 200, `{"size_um":200}`)
	l := b.look()
	var text []string
	for _, m := range l.Marks {
		text = append(text, string(m.Do))
	}
	if got := strings.Join(text, " "); got != "clears spot leaves" || l.PanelNo != 1 || len(l.Panels) != 1 || !l.Marks[2].Tell {
		t.Errorf("verdicts %s on panel %d", got, l.PanelNo)
	}
	var p api.Plan
	b.get(b.at("/plan"), &p)
	if len(p.Marks) != 3 || p.Tally.Nibs != 1 {
		t.Errorf("the plan has %d marks", len(p.Marks))
	}
}

func TestMarksAreChangedStruckAndBroughtBack(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.mark("scratch-1", "scratch", 200, 200, "")
	var m api.Marked
	b.into(b.send(http.MethodPatch, "/api/marks/mark-scratch-1", `{"x_mm":260,"sizes":{"length_mm":140,"class":"catches","note":"under the handle"}}`), 200, &m)
	if m.Mark.XMm != 260 || m.Mark.YMm != 200 || m.Mark.LengthMm != 140 || m.Mark.Class != "catches" || m.Mark.Note != "under the handle" || m.Mark.ReliefUm.Mean != 12 {
		t.Errorf("%+v", m.Mark)
	}
	b.post("/api/marks/mark-scratch-1/strike", `{"reason":"dirt, not a scratch"}`, 200, &m)
	if m.Mark.StruckAt == nil || len(b.look().Marks) != 0 {
		t.Error("a struck mark is still listed")
	}
	m = api.Marked{}
	b.post("/api/marks/mark-scratch-1/restore", ``, 200, &m)
	if m.Mark.StruckAt != nil || len(b.look().Marks) != 1 {
		t.Error("a strike is not taken back")
	}
}

// A closed mark costs film at its place, and its section has that much less.
func TestClosingAMarkSpendsFilm(t *testing.T) {
	b := newBed(t)
	b.readings()
	m := b.mark("nib-0001", "nib", 120, 120, "")
	headroom := func() float64 {
		var r api.Read
		b.get(b.at("/read"), &r)
		for _, s := range r.Sections {
			if s.Key == *m.Mark.Section {
				return *s.HeadroomUm
			}
		}
		t.Fatal("the section is gone")
		return 0
	}
	before := headroom()
	for _, bad := range []string{`{"outcome":"left","person":"Tove"}`, `{"outcome":"vanished","person":"Tove"}`, `{"outcome":"gone","person":" "}`} {
		if w := b.send(http.MethodPost, "/api/marks/mark-nib-0001/close", bad); w.Code != 422 {
			t.Errorf("%s gives %d", bad, w.Code)
		}
	}
	var closed api.Marked
	b.post("/api/marks/mark-nib-0001/close", `{"outcome":"gone","person":"Issa"}`, 200, &closed)
	if after := headroom(); before-after < 0.7*m.Mark.FilmUm || before-after > m.Mark.FilmUm+0.03 || closed.Tally.Nibs != 0 {
		t.Errorf("headroom %v becomes %v, the spot took %v; %d nibs", before, after, m.Mark.FilmUm, closed.Tally.Nibs)
	}
	if closed.Mark.Outcome != api.OutcomeGone || *closed.Mark.ClosedBy != "Issa" || !strings.HasPrefix(closed.Mark.Text, "Gone") {
		t.Errorf("%+v", closed.Mark)
	}
	closed = api.Marked{}
	b.post("/api/marks/mark-nib-0001/close", `{"outcome":"open","person":"Issa"}`, 200, &closed)
	if headroom() != before || closed.Mark.ClosedAt != nil {
		t.Error("a mark that is open again still costs film")
	}
}

func TestMarksThatAreRefused(t *testing.T) {
	b := newBed(t)
	for body, want := range map[string]string{
		`{"id":"mark-0001","kind":"smudge","x_mm":200,"y_mm":200}`:                                                  "nib, run",
		`{"id":"mark-0001","kind":"nib","x_mm":2000,"y_mm":200}`:                                                    "outside",
		`{"id":"mark-0001","kind":"nib","x_mm":200}`:                                                                "y_mm",
		`{"id":"m","kind":"nib","x_mm":200,"y_mm":200}`:                                                             "8 to 64",
		`{"id":"mark-0001","kind":"nib","x_mm":200,"y_mm":200,"sizes":{"size_um":9000}}`:                            "goes from 0 to 500",
		`{"id":"mark-0001","kind":"nib","x_mm":200,"y_mm":200,"sizes":{"class":"colour"}}`:                          "is not",
		`{"id":"mark-0001","kind":"run","x_mm":200,"y_mm":200,"sizes":{"crest_um":150,"beside_um":160}}`:            "stands above",
		`{"id":"mark-0001","kind":"nib","x_mm":200,"y_mm":200,"found":"pub"}`:                                       "booth",
		`{"id":"mark-0001","kind":"nib","x_mm":"left","y_mm":200}`:                                                  "wanted",
		`{"id":"mark-0001","kind":"nib","x_mm":200,"y_mm":200,"colour":"red"}`:                                      "no field",
		`{"id":"mark-0001","kind":"nib","x_mm":200,"y_mm":200,"sizes":{"note":"` + strings.Repeat("x", 501) + `"}}`: "500",
	} {
		if w := b.send(http.MethodPost, b.at("/marks"), body); w.Code < 400 || w.Code >= 500 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", body, w.Code, w.Body)
		}
	}
	if len(b.look().Marks) != 0 {
		t.Error("a refused mark was kept")
	}
	b.mark("nib-0001", "nib", 200, 200, "")
	if w := b.send(http.MethodPost, b.at("/marks"), `{"id":"mark-nib-0001","kind":"run","x_mm":200,"y_mm":200}`); w.Code != 409 {
		t.Errorf("a known id for another kind gives %d", w.Code)
	}
	if w := b.send(http.MethodPatch, "/api/marks/mark-nib-0001", `{"x_mm":-50}`); w.Code != 422 || b.look().Marks[0].XMm != 200 {
		t.Errorf("a mark is moved off the panel: %d", w.Code)
	}
}

func TestMarksAreMirrored(t *testing.T) {
	b := newBed(t)
	car := b.saloon(`{"origin":"here","coats":3}`)
	b.mark("nib-0001", "nib", 200, 700, "")
	var m api.Marked
	b.post("/api/marks/mark-nib-0001/mirror", `{"id":"mirrored-1"}`, 201, &m)
	var l api.Look
	b.get("/api/panels/"+car+".R-fdoor/look", &l)
	if len(l.Marks) != 1 || l.Marks[0].YMm != 700 || l.Marks[0].XMm+200 != l.Panel.WidthMm || m.Tally.Nibs != 1 {
		t.Errorf("mirrored to %+v of %v mm", l.Marks, l.Panel.WidthMm)
	}
	b.panel = car + ".roof"
	b.mark("nib-0002", "nib", 300, 200, "")
	b.post("/api/marks/mark-nib-0002/mirror", `{"id":"mirrored-2"}`, 201, &m)
	if l := b.look(); len(l.Marks) != 2 || l.Marks[1].YMm+200 != l.Panel.HeightMm || l.Marks[1].XMm != 300 {
		t.Errorf("the roof has %+v", l.Marks)
	}
}

func TestPhotosOfMarks(t *testing.T) {
	b := newBed(t)
	b.mark("nib-0001", "nib", 200, 200, "")
	put := func(data []byte) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodPut, "/api/marks/mark-nib-0001/photo", bytes.NewReader(data))
		r.Header.Set("Content-Type", "application/octet-stream")
		w := httptest.NewRecorder()
		b.handler.ServeHTTP(w, r)
		return w
	}
	var photo bytes.Buffer
	if err := png.Encode(&photo, image.NewGray(image.Rect(0, 0, 8, 8))); err != nil {
		t.Fatal(err)
	}
	for _, bad := range [][]byte{[]byte("<svg onload=steal()>"), make([]byte, panelwork.MostPhoto+1), nil} {
		if w := put(bad); w.Code != 422 {
			t.Errorf("%d bytes that are no photo give %d", len(bad), w.Code)
		}
	}
	var m api.Marked
	b.into(put(photo.Bytes()), 200, &m)
	w := b.send(http.MethodGet, "/api/marks/mark-nib-0001/photo", "")
	if !m.Mark.Photo || w.Code != 200 || w.Header().Get("Content-Type") != "image/png" || !bytes.Equal(w.Body.Bytes(), photo.Bytes()) {
		t.Errorf("the photo comes back as %s, %d", w.Header(), w.Code)
	}
}

func TestPeelPictures(t *testing.T) {
	b := newBed(t)
	var last []byte
	for _, grade := range []int{0, 4, 7, 10} {
		w := b.send(http.MethodGet, fmt.Sprintf("/api/peel/%d/picture?colour=dark", grade), "")
		img, err := png.Decode(bytes.NewReader(w.Body.Bytes()))
		if err != nil || img.Bounds().Dx() < 300 || bytes.Equal(last, w.Body.Bytes()) {
			t.Fatalf("grade %d: %v", grade, err)
		}
		last = w.Body.Bytes()
	}
	for _, path := range []string{"/api/peel/11/picture", "/api/peel/-1/picture", "/api/peel/NaN/picture", "/api/peel/4/picture?colour=pink"} {
		if w := b.send(http.MethodGet, path, ""); w.Code < 400 {
			t.Errorf("%s gives %d", path, w.Code)
		}
	}
}

func TestManyPanelsAtOnce(t *testing.T) {
	b := newBed(t)
	id := b.saloon(`{"origin":"elsewhere","coats":2,"wet_um":50,"solids":0.5,"sprayed_at":"2031-05-01T10:00:00Z","cure":"baked","aim":"match","past":["repaired","outside","repaired"],"substrate":"aluminium"}`)
	var c api.Car
	b.get("/api/cars/"+id, &c)
	said := 0
	for _, p := range c.Panels {
		if p.Aim == api.AimMatch {
			said++
			if p.Finish != api.FinishRefinished || p.WetUm != 50 || len(p.Past) != 2 || p.SprayedAt == nil || p.Substrate != api.Aluminium || p.Cure != api.CureBaked {
				t.Errorf("%+v", p)
			}
		}
	}
	if said != 3 {
		t.Errorf("%d panels were said alike", said)
	}
	for body, want := range map[string]string{
		`{"keys":["L-fdoor","mast"],"facts":{"coats":1}}`:                    "no panel",
		`{"keys":["L-fdoor"],"facts":{"solids":1.2}}`:                        "0 to 1",
		`{"keys":["L-fdoor"],"facts":{"wet_um":-1}}`:                         "0 to 1000",
		`{"keys":["L-fdoor"],"facts":{"sprayed_at":"2032-01-01T00:00:00Z"}}`: "lies ahead",
		`{"keys":["L-fdoor"],"facts":{"aim":"glass"}}`:                       "nibs, match, flat or polish",
		`{"keys":["L-fdoor"],"facts":{"cure":"moon"}}`:                       "air, baked or unknown",
		`{"keys":["L-fdoor"],"facts":{"substrate":"wood"}}`:                  "steel",
		`{"keys":["L-fdoor"],"facts":{"past":["sunk"]}}`:                     "polished",
		`{"keys":["L-fdoor"],"facts":{"layers":"three"}}`:                    "clear or single",
	} {
		if w := b.send(http.MethodPatch, "/api/cars/"+id+"/panels", body); w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", body, w.Code, w.Body)
		}
	}
	var again api.Car
	b.get("/api/cars/"+id, &again)
	if a, _ := json.Marshal(c.Panels); !bytes.Equal(a, func() []byte { x, _ := json.Marshal(again.Panels); return x }()) {
		t.Error("a refused change changed something")
	}
	// Another car of the same kind is known alike, but for the day of spraying.
	var copied api.CarSummary
	b.post("/api/cars", `{"name":"Second","body":"saloon","colour":"dark","painter":"Tove","like":"`+id+`"}`, 201, &copied)
	again = api.Car{}
	b.get("/api/cars/"+copied.Id, &again)
	for _, p := range again.Panels {
		if p.Key == "roof" && (p.Aim != api.AimMatch || p.Coats != 2 || p.SprayedAt != nil || p.Substrate != api.Aluminium) {
			t.Errorf("like the first: aim %s, %d coats of %v, %s", p.Aim, p.Coats, p.SprayedAt, p.Substrate)
		}
	}
}

// What was told counts while it is so, and all pages say the same of it.
func TestOwnerIsTold(t *testing.T) {
	b := newBed(t)
	b.readings()
	untold := func(want int) {
		t.Helper()
		var h api.Handing
		b.get("/api/cars/"+b.car+"/handover", &h)
		closing := 0
		for _, todo := range h.Todos {
			if strings.Contains(todo.Text, "that the owner was not told") {
				closing = 1
				fmt.Sscan(todo.Text, &closing)
			}
		}
		var car api.Car
		b.get("/api/cars/"+b.car, &car)
		takeIn := 0
		for _, telling := range car.Tellings {
			if telling.SaidAt == nil {
				takeIn++
			}
		}
		if offers := b.offers().Untold; takeIn != want || closing != want || offers != want {
			t.Errorf("%d to tell at Take in, %d at Hand over, %d by the offers, want %d", takeIn, closing, offers, want)
		}
	}
	m := b.mark("deep-001", "scratch", 500, 200, `{"class":"colour"}`)
	var c api.Car
	b.get("/api/cars/"+b.car, &c)
	if len(c.Tellings) != 1 || c.Tellings[0].SaidAt != nil || !strings.Contains(c.Tellings[0].Title, "scratch on the loose panel") || strings.Contains(c.Tellings[0].Text, "µm") || len(c.Marks) != 1 {
		t.Fatalf("%+v", c.Tellings)
	}
	key := c.Tellings[0].Key
	var list []api.Telling
	b.post("/api/cars/"+b.car+"/said", fmt.Sprintf(`{"key":%q,"said":true,"person":"Tove"}`, key), 200, &list)
	if list[0].SaidAt == nil || *list[0].Person != "Tove" {
		t.Errorf("%+v", list)
	}
	untold(0)
	// Other units change no fact; a second scratch does, so that it has to be said anew.
	b.into(b.send(http.MethodPut, "/api/shop", `{"face":{"length":"in","dates":"mdy"}}`), 200, nil)
	untold(0)
	b.mark("deep-002", "scratch", 600, 300, `{"class":"colour"}`)
	b.get("/api/cars/"+b.car, &c)
	if len(c.Tellings) != 1 || c.Tellings[0].SaidAt != nil || !strings.HasPrefix(c.Tellings[0].Title, "Two scratches") {
		t.Errorf("%+v", c.Tellings)
	}
	untold(1)
	if w := b.send(http.MethodPost, "/api/cars/"+b.car+"/said", `{"key":"weather","said":true,"person":"Tove"}`); w.Code != 409 {
		t.Errorf("telling of nothing gives %d", w.Code)
	}
	b.post("/api/marks/"+m.Mark.Id+"/strike", `{"reason":"not there"}`, 200, nil)
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"aim":"match"}`), 200, nil)
	b.get("/api/cars/"+b.car, &c)
	if len(c.Tellings) != 2 || !strings.Contains(c.Tellings[1].Text, "will not be glass") {
		t.Errorf("%+v", c.Tellings)
	}
}

func TestChecklistAndWords(t *testing.T) {
	b := newBed(t)
	var tasks []api.Task
	b.post("/api/cars/"+b.car+"/checklist", `{"task":"strip","done":true,"person":"Issa"}`, 200, &tasks)
	if len(tasks) != 5 || tasks[2].DoneAt == nil || *tasks[2].Person != "Issa" || tasks[0].DoneAt != nil {
		t.Errorf("%+v", tasks)
	}
	tasks = nil
	b.post("/api/cars/"+b.car+"/checklist", `{"task":"strip","done":false,"person":"Issa"}`, 200, &tasks)
	if tasks[2].DoneAt != nil {
		t.Error("a tick is not taken back")
	}
	if w := b.send(http.MethodPost, "/api/cars/"+b.car+"/checklist", `{"task":"dance","done":true,"person":"Issa"}`); w.Code != 422 {
		t.Errorf("%d", w.Code)
	}
	b.into(b.send(http.MethodPatch, "/api/cars/"+b.car, `{"owner_words":" It looks patchy. ","cost_limit":900,"hours_limit":6,"name":"Flap","painter":"Runa"}`), 200, nil)
	var c api.Car
	b.get("/api/cars/"+b.car, &c)
	if c.OwnerWords != "It looks patchy." || c.CostLimit != 900 || c.HoursLimit != 6 || c.Name != "Flap" || c.Painter != "Runa" {
		t.Errorf("%+v", c)
	}
	for _, bad := range []string{`{"cost_limit":-1}`, `{"hours_limit":1e9}`, `{"name":" "}`, `{"painter":""}`, `{"owner_words":"` + strings.Repeat("x", 1001) + `"}`} {
		if w := b.send(http.MethodPatch, "/api/cars/"+b.car, bad); w.Code != 422 {
			t.Errorf("%.40s gives %d", bad, w.Code)
		}
	}
}

func TestGuesses(t *testing.T) {
	b := newBed(t)
	guess := func(facts string) api.Guess {
		var g api.Guess
		b.post("/api/guess", `{"colour":"dark","facts":`+facts+`}`, 200, &g)
		return g
	}
	two, four := guess(`{"origin":"elsewhere","coats":1,"aim":"match"}`), guess(`{"origin":"here","coats":4,"aim":"nibs"}`)
	if two.State != api.StateShut || math.Abs(two.ClearUm.Mean-26) > 0.5 || two.From != "a guess from 1 coat" || !strings.Contains(two.Text, "before anything is promised") {
		t.Errorf("%+v", two)
	}
	if four.State == api.StateShut || four.NeedUm >= two.NeedUm || four.ClearUm.Mean <= two.ClearUm.Mean {
		t.Errorf("%+v", four)
	}
	if thin := guess(`{"origin":"here","coats":2,"dry_um":15}`); math.Abs(thin.ClearUm.Mean-30) > 0.5 {
		t.Errorf("%+v", thin)
	}
	if polish := guess(`{"origin":"factory","aim":"polish"}`); polish.NeedUm > 0.5 || polish.NeedUm < 0.2 || polish.FloorUm != 25 {
		t.Errorf("%+v", polish)
	}
}

func TestBodiesAndDrawings(t *testing.T) {
	b := newBed(t)
	var all []api.Body
	b.get("/api/bodies", &all)
	if len(all) != 9 || len(all[0].Panels) != 16 || len(all[0].Scenery) == 0 || all[0].LengthMm < 4000 {
		t.Fatalf("%d bodies", len(all))
	}
	var long api.Body
	b.get("/api/bodies/estate?length_mm=4900", &long)
	if long.LengthMm != 4900 || long.Box.W <= all[2].Box.W {
		t.Errorf("an estate of 4900 mm is drawn %v wide", long.Box.W)
	}
	if w := b.send(http.MethodGet, "/api/bodies/estate?length_mm=9000", ""); w.Code != 422 || !strings.Contains(w.Body.String(), "has to be") {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
	drawing := `<svg xmlns=\"http://www.w3.org/2000/svg\"><rect id=\"Boat hatch\" width=\"90\" height=\"50\"/></svg>`
	var check api.OutlineCheck
	b.post("/api/outlines/check", `{"file_name":"hatch.svg","text":"`+drawing+`"}`, 200, &check)
	if check.MmPerUnit != 0 || len(check.Body.Panels) != 1 {
		t.Errorf("%+v", check)
	}
	if w := b.send(http.MethodPost, "/api/cars", `{"name":"Boat","body":"own","colour":"light","painter":"Issa","outline":{"file_name":"hatch.svg","text":"`+drawing+`"}}`); w.Code != 422 || !strings.Contains(w.Body.String(), "scale") {
		t.Errorf("a drawing without scale is taken in: %d %s", w.Code, w.Body)
	}
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Boat","body":"own","colour":"light","painter":"Issa","outline":{"file_name":"hatch.svg","text":"`+drawing+`","known_mm":900}}`, 201, &car)
	b.panel = car.Id + ".boat-hatch"
	b.readings()
	b.mark("nib-0001", "nib", 300, 300, "")
	if l := b.look(); l.Panel.WidthMm != 900 || l.Panel.Readings != 6 {
		t.Errorf("%+v", l.Panel)
	}
	w := b.send(http.MethodGet, b.at("/outline.svg"), "")
	if w.Header().Get("Content-Type") != "image/svg+xml" || !strings.Contains(w.Body.String(), `data-film-um="163"`) || !strings.Contains(w.Body.String(), `data-kind="nib"`) {
		t.Errorf("%s: %s", w.Header(), w.Body)
	}
	if w := b.send(http.MethodPost, "/api/outlines/check", `{"file_name":"x.svg","text":"<svg><path d='M0 0L9 9L9 0L0 9z'/></svg>","mm_per_unit":50}`); w.Code != 422 || !strings.Contains(w.Body.String(), "crosses itself") {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
}

// Two tablets in the booth: every tap is kept once and numbered.
func TestTwoTabletsMark(t *testing.T) {
	b := newBed(t)
	var wg sync.WaitGroup
	for tablet := range 2 {
		for i := range 20 {
			wg.Go(func() {
				body := fmt.Sprintf(`{"id":"tablet-%d-%d","kind":"nib","x_mm":%d,"y_mm":%d}`, tablet, i/2, 100+i*20, 100+tablet*100)
				if w := b.send(http.MethodPost, b.at("/marks"), body); w.Code != 201 {
					t.Errorf("%d: %s", w.Code, w.Body)
				}
			})
		}
	}
	wg.Wait()
	seen := map[int]bool{}
	for _, m := range b.look().Marks {
		seen[m.No] = true
	}
	if len(seen) != 20 || len(b.look().Marks) != 20 {
		t.Errorf("%d marks, numbered %v", len(b.look().Marks), seen)
	}
}

// BenchmarkMark is one tap in the booth on a panel with 300 marks, from request
// to answer.
func BenchmarkMark(bench *testing.B) {
	b := newBed(&testing.T{})
	b.readings()
	for i := range 300 {
		b.mark(fmt.Sprintf("bench-%d", i), "nib", 100+float64(i%25)*28, 100+float64(i/25)*30, "")
	}
	n := 0
	for bench.Loop() {
		n++
		w := b.send(http.MethodPost, b.at("/marks"), fmt.Sprintf(`{"id":"one-more-%d","kind":"nib","x_mm":410,"y_mm":310}`, n))
		if w.Code != 201 {
			bench.Fatal(w.Body)
		}
		b.send(http.MethodPost, fmt.Sprintf("/api/marks/one-more-%d/strike", n), `{"reason":"bench"}`)
	}
}
