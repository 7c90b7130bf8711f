package store

import (
	"context"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// recorder notes each statement with its values.
type recorder struct {
	logger.Interface
	mu  sync.Mutex
	sql []string
}

func (r *recorder) Trace(_ context.Context, _ time.Time, fc func() (string, int64), _ error) {
	text, _ := fc()
	r.mu.Lock()
	defer r.mu.Unlock()
	r.sql = append(r.sql, text)
}

// walked are the indexes that a list goes along as far as its page is long.
var walked = []string{"panels_worked", "times_said", "panels_coated", "cars_here", "cars_gone", "cars_promised"}

// scans are the tables of a statement that are gone through from end to end.
func scans(t *testing.T, db *gorm.DB, sql string) []string {
	t.Helper()
	var steps []struct{ Detail string }
	if err := db.Raw("EXPLAIN QUERY PLAN " + sql).Scan(&steps).Error; err != nil {
		t.Fatalf("%s: %v", sql, err)
	}
	var out []string
	for _, s := range steps {
		m := regexp.MustCompile(`^SCAN (\w+)(?: USING (?:COVERING )?INDEX (\w+))?`).FindStringSubmatch(s.Detail)
		if m != nil && !slices.Contains(walked, m[2]) {
			out = append(out, m[1])
		}
	}
	return out
}

// No statement of the store goes through a table that grows with the years. A method that
// is new has to be called here.
func TestNoStatementScansWhatGrows(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, acceptPlan(s, planOf("plan-1", Step{No: 1, Kind: "level", Passes: 4})))
	must(t, addEntry(s, pass("entry-1", "plan-1", time.Now()), nil))
	must(t, second(s.AddReadings(ctx, []Reading{reading("reading-1", 160)}, 200)))
	must(t, s.AddMark(ctx, mark("mark-1")))
	gone := car()
	gone.ID, gone.Panels = "car-2", nil
	must(t, s.TakeIn(ctx, gone))
	rec := &recorder{Interface: logger.Discard}
	s.readers, s.writer = s.readers.Session(&gorm.Session{Logger: rec}), s.writer.Session(&gorm.Session{Logger: rec})
	now, print := time.Now(), "print"
	e := *pass("entry-1", "plan-1", now)
	calls := map[string]func(){
		"TakeIn":   func() { c := car(); c.ID, c.Panels = "car-3", nil; must(t, s.TakeIn(ctx, c)) },
		"Car":      func() { _, _ = s.Car(ctx, "car") },
		"Panel":    func() { _, _ = s.Panel(ctx, "p") },
		"Readings": func() { _, _ = s.Readings(ctx, "p") },
		"ListCars": func() {
			for _, w := range []CarsWanted{{Most: 50}, {Promised: true, Most: 50}, {Recent: true, Most: 50}, {Most: 50, After: 3, Search: "pil"}, {HandedOver: true, Most: 50}, {HandedOver: true, Most: 50, After: 9, Search: "x"}} {
				_, _, err := s.ListCars(ctx, w)
				must(t, err)
			}
		},
		"AddReadings": func() {
			r := reading("reading-2", 160)
			r.Fingerprint = &print
			must(t, second(s.AddReadings(ctx, []Reading{r}, 200)))
		},
		"Reading":       func() { _, _ = s.Reading(ctx, "reading-1") },
		"Fingerprints":  func() { _, _ = s.Fingerprints(ctx, "p") },
		"StrikeReading": func() { must(t, s.StrikeReading(ctx, "reading-1", "tape", now)) },
		"Plan":          func() { _, _ = s.Plan(ctx, "p") },
		"PlanByID":      func() { _, _ = s.PlanByID(ctx, "plan-1") },
		"AcceptPlan":    func() { _ = acceptPlan(s, planOf("plan-2", Step{No: 1, Kind: "level", Passes: 4})) },
		"Entry":         func() { _, _ = s.Entry(ctx, "entry-1") },
		"KnownEntry":    func() { _, _ = s.KnownEntry(ctx, &e) },
		"AddEntry": func() {
			must(t, s.AddEntry(ctx, pass("entry-2", "plan-1", now), Judged{Version: version(s, "p"), Next: &Grant{Section: "s", Step: 1}}))
		},
		"Grant":       func() { _, _ = s.Grant(ctx, "p") },
		"Paced":       func() { _, _, _ = s.Paced(ctx, "tablet-1") },
		"StrikeEntry": func() { must(t, strikeEntry(s, "entry-1", "mark-1", "slip", now)) },
		"Floors":      func() { _, _ = s.Floors(ctx, "car") },
		"Floor":       func() { _, _ = s.Floor(ctx, "f") },
		"AddFloor": func() {
			must(t, s.AddFloor(ctx, &Floor{ID: "floor-1", CarID: "car", FloorUM: 25, Person: "she", Reason: "flat", At: now}))
		},
		"AgreeFloor": func() {
			must(t, s.AgreeFloor(ctx, &Floor{ID: "floor-2", CarID: "car", FloorUM: 25, Person: "she", Reason: "flat", At: now}, "p", version(s, "p")))
		},
		"StrikeFloor":    func() { must(t, s.StrikeFloor(ctx, "floor-1", "no", now)) },
		"Constants":      func() { _, _ = s.Constants(ctx) },
		"SetConstant":    func() { must(t, s.SetConstant(ctx, "k", 1)) },
		"ResetConstants": func() { must(t, s.ResetConstants(ctx, "k")) },
		"Tries":          func() { _, _ = s.Tries(ctx, "p") },
		"Try":            func() { _, _ = s.Try(ctx, "t") },
		"AddTry":         func() { must(t, s.AddTry(ctx, &Try{ID: "try-0001", PanelID: "p", Made: "{}", Section: "s", At: now})) },
		"StrikeTry":      func() { must(t, s.StrikeTry(ctx, "try-0001", "no", now)) },
		"Worked":         func() { _, _ = s.Worked(ctx, 200) },
		"Coated":         func() { _, _ = s.Coated(ctx, 40) },
		"FactoryFilms":   func() { _, _ = s.FactoryFilms(ctx, "car") },
		"People":         func() { _, _ = s.People(ctx) },
		"ChangePerson":   func() { must(t, s.ChangePerson(ctx, "Nele", func(*Person) error { return nil })) },
		"Gauges":         func() { _, _ = s.Gauges(ctx) },
		"Gauge":          func() { _, _ = s.Gauge(ctx, "shop") },
		"MeetGauge":      func() { must(t, s.MeetGauge(ctx, Gauge{ID: "g", Name: "g"})) },
		"StudyGauge":     func() { must(t, s.StudyGauge(ctx, Gauge{ID: "g", Name: "g"})) },
		"AddCheck":       func() { must(t, s.AddCheck(ctx, GaugeCheck{GaugeID: "shop", At: now})) },
		"LastCheck":      func() { _, _ = s.LastCheck(ctx, "shop") },
		"Setting":        func() { _, _ = s.Setting(ctx, "unit", "um") },
		"SetSetting":     func() { must(t, s.SetSetting(ctx, "unit", "um")) },
		"ChangeSetting":  func() { must(t, s.ChangeSetting(ctx, "unit", "um", func(v string) (string, error) { return v, nil })) },
		"SetZones":       func() { must(t, s.SetZones(ctx, "p", "[]")) },
		"CarReadings":    func() { _, _ = s.CarReadings(ctx, "car") },
		"HasReading":     func() { _, _ = s.HasReading(ctx, "r") },
		"Marks":          func() { _, _ = s.Marks(ctx, "p") },
		"Mark":           func() { _, _ = s.Mark(ctx, "m") },
		"AddMark":        func() { must(t, s.AddMark(ctx, mark("mark-2"))) },
		"ChangeMark":     func() { must(t, second(s.ChangeMark(ctx, "mark-1", func(*Mark) error { return nil }))) },
		"SavePhoto": func() {
			must(t, s.SavePhoto(ctx, Photo{MarkID: "mark-1", Mime: "image/png", Data: []byte{1}, At: now}))
		},
		"Photo":    func() { _, _ = s.Photo(ctx, "mark-1") },
		"Tasks":    func() { _, _ = s.Tasks(ctx, "car") },
		"Tick":     func() { must(t, s.Tick(ctx, Task{CarID: "car", Task: "wash", DoneAt: now, Person: "Tove"})) },
		"Untick":   func() { must(t, s.Untick(ctx, "car", "wash")) },
		"Tellings": func() { _, _ = s.Tellings(ctx, "car") },
		"Tell":     func() { must(t, s.Tell(ctx, Telling{CarID: "car", Key: "k", Text: "t", SaidAt: now, Person: "Tove"})) },
		"Untell":   func() { must(t, s.Untell(ctx, "car", "k")) },
		"ChangeCar": func() {
			must(t, second(s.ChangeCar(ctx, "car", func(c *Car) error { c.Painter = "Runa"; return nil })))
		},
		"KeepSummary": func() { must(t, s.KeepSummary(ctx, KeptSummary{CarID: "car", Summary: "{}"})) },
		"AddHandover": func() {
			must(t, s.AddHandover(ctx, &Handover{ID: "h-1", CarID: "car-2", Kind: KindHanded, OnDay: now, At: now}, 0))
		},
		"UsedFor":       func() { _, _ = s.UsedFor(ctx, "car") },
		"TimesSaid":     func() { _, _ = s.TimesSaid(ctx, "car") },
		"LastTimesSaid": func() { _, _ = s.LastTimesSaid(ctx, 20) },
		"SayTime":       func() { must(t, s.SayTime(ctx, TimeSaid{CarID: "car", What: "wash", Minutes: 40, At: now})) },
		"Promises":      func() { _, _ = s.Promises(ctx, "car") },
		"TakeOffer": func() {
			must(t, s.TakeOffer(ctx, &Promise{ID: "promise-1", CarID: "car", Offer: "flat", At: now}, func(*Car) error { return nil }))
		},
		"SetClosed": func() { must(t, s.SetClosed(ctx, "car-2", now)) },
		"Handovers": func() { _, _ = s.Handovers(ctx, "car") },
		"Forget": func() {
			must(t, second(s.Forget(ctx, &Handover{ID: "h-2", CarID: "car-2", Kind: KindForgotten, OnDay: now, At: now}, Forgotten{"Car 2", "the owner"}, true)))
		},
		"ReportChoices":    func() { _, _ = s.ReportChoices(ctx, "car") },
		"SetReportChoices": func() { must(t, s.SetReportChoices(ctx, "car", "{}")) },
		"Find":             func() { _, _ = s.Find(ctx, "pilot", 20) },
		"FindFilm":         func() { _, _ = s.FindFilm(ctx, 100, 101, 20) },
		"ClosedAs":         func() { _, _ = s.ClosedAs(ctx, "car-2") },
		"Page":             func() { _, _ = s.Page(ctx, "car-2", "car") },
		"KeepPage":         func() { must(t, s.KeepPage(ctx, KeptPage{CarID: "car-2", Name: "car", Page: []byte("x")})) },
		"AddFile":          func() { must(t, s.AddFile(ctx, "h", 9)) },
		"Document":         func() { must(t, second(s.Document(ctx, "car"))) },
		"Compare":          func() { _, _, _ = s.Compare(ctx, Row{"id": "car"}) },
		"AddDocument":      func() { must(t, s.AddDocument(ctx, Row{"id": "car"}, nil, nil)) },
		"Recent":           func() { _, _ = s.Recent(ctx, 60) },
		"Versions":         func() { _, _ = s.Versions(ctx, "p") },
		"CarVersions":      func() { _, _ = s.CarVersions(ctx, "car") },
		"HouseVersion":     func() { _, _ = s.HouseVersion(ctx) },
		"Rows":             func() { _, _ = s.Rows(ctx, []string{"p", "q"}) },
		"Logs":             func() { _, _ = s.Logs(ctx, []string{"p", "q"}) },
		"FirstEntry":       func() { _, _ = s.FirstEntry(ctx, "p") },
		"Squares":          func() { _, _ = s.Squares(ctx, "p") },
		"Square":           func() { _, _ = s.Square(ctx, "square-1") },
		"StrikeSquare": func() {
			must(t, s.StrikeSquare(ctx, Square{ID: "square-1", PanelID: "p"}, "wrong", now, version(s, "p"), nil))
		},
		"AddSquare": func() {
			must(t, s.AddSquare(ctx, &Square{ID: "square-1", PanelID: "p", Ladder: "x", RemovedUM: 1, Person: "Tove", At: now}, version(s, "p"), map[string]Learned{"p": {SwirlsUM: 1}}))
		},
		"ProofRows": func() { _, _ = s.ProofRows(ctx, "p") },
		"Lamps":     func() { _, _ = s.Lamps(ctx) },
		"SaveLamp":  func() { must(t, s.SaveLamp(ctx, Lamp{ID: "lamp-1", Name: "booth", UsedAt: now})) },
		"DropLamp":  func() { must(t, s.DropLamp(ctx, "lamp-1")) },
		"AddProofPhoto": func() {
			must(t, s.AddProofPhoto(ctx, &ProofPhoto{ID: "photo-1", PanelID: "p", Kind: PhotoDull, Hash: "h", Bytes: 9, Take: "{}", At: now}))
		},
		"ProofPhoto": func() { _, _ = s.ProofPhoto(ctx, "photo-1") },
		"ChangeProofPhoto": func() {
			must(t, second(s.ChangeProofPhoto(ctx, "photo-1", func(*ProofPhoto) error { return nil }, func([]ProofPhoto, bool) (*PhotoTexture, error) { return &PhotoTexture{PeelUM: 1}, nil })))
		},
		"AddMeterReading": func() {
			must(t, s.AddMeterReading(ctx, &MeterReading{ID: "meter-1", PanelID: "p", Quantity: "gloss", Value: 90, At: now}))
		},
		"MeterReading":       func() { _, _ = s.MeterReading(ctx, "meter-1") },
		"StrikeMeterReading": func() { must(t, s.StrikeMeterReading(ctx, "meter-1", "no", now)) },
		"AddProof": func() {
			must(t, s.AddProof(ctx, &Proof{ID: "proof-1", PanelID: "p", Kind: ProofBack, At: now}, version(s, "p"), &PanelNow{StandingUM: 1}))
		},
		"Proof":       func() { _, _ = s.Proof(ctx, "proof-1") },
		"StrikeProof": func() { must(t, s.StrikeProof(ctx, "proof-1", "no", now)) },
		"CloseMarks": func() {
			must(t, s.CloseMarks(ctx, "p", []string{"mark-1"}, func(*Mark) error { return nil }))
		},
		"PhotoSpace":  func() { _, _ = s.PhotoSpace(ctx) },
		"StalePhotos": func() { _, _ = s.StalePhotos(ctx, now, now, 50) },
		"DropPhoto":   func() { must(t, second(s.DropPhoto(ctx, ProofPhoto{ID: "photo-1", Hash: "h"}, now))) },
		"Puts":        func() { _, _ = s.Puts(ctx) },
		"PutTask": func() {
			must(t, s.PutTask(ctx, Put{Task: "car//wash/0", CarID: "car", Start: &now, By: "Tove", At: now}))
		},
		"LetTask":  func() { must(t, s.LetTask(ctx, "car//wash/0")) },
		"LastWeek": func() { _, _ = s.LastWeek(ctx) },
		"KeepWeek": func() { must(t, s.KeepWeek(ctx, Week{Key: "k", Plan: "{}", MadeAt: now})) },
		"Stock":    func() { _, _ = s.Stock(ctx) },
		"MoveStock": func() {
			must(t, s.MoveStock(ctx, StockMove{ID: "move-1", Item: "p1500", Kind: StockIn, Person: "Tove", At: now}, func(i *StockItem) error { i.Here += 5; return nil }))
		},
		"LogAfter": func() { _, _ = s.LogAfter(ctx, "p", &Log{}) },
	}
	grows := []string{"cars", "panels", "readings", "marks", "photos", "plans", "steps", "entries", "tries", "floors", "tasks", "tellings", "summaries", "grants", "car_states", "panel_states", "gauge_checks", "proof_photos", "meter_readings", "proofs", "photo_files", "handovers", "promises", "times", "reports", "found_rows", "pages", "stock_moves"}
	for i := range reflect.TypeOf(s).NumMethod() {
		name := reflect.TypeOf(s).Method(i).Name
		if slices.Contains([]string{"Close", "OnChange", "CopyCar", "Pictures", "Dir", "CarIDs", "Snapshot", "Hashes", "Verify", "VerifyPhotos"}, name) { // these go through all of it, or are files
			continue
		}
		if calls[name] == nil {
			t.Errorf("nobody looks at what %s asks", name)
			continue
		}
		rec.sql = nil
		calls[name]()
		if len(rec.sql) == 0 {
			t.Errorf("%s asks nothing", name)
		}
		for _, sql := range rec.sql {
			if !strings.HasPrefix(sql, "SELECT") && !strings.HasPrefix(sql, "UPDATE") && !strings.HasPrefix(sql, "DELETE") || strings.Contains(sql, "temp.") {
				continue
			}
			for _, table := range scans(t, s.readers, sql) {
				if slices.Contains(grows, table) {
					t.Errorf("%s goes through all of %s: %s", name, table, sql)
				}
			}
		}
	}
	if got := scans(t, s.readers, "SELECT * FROM entries WHERE kind = 'pass'"); len(got) != 1 {
		t.Error("a scan is not seen")
	}
}
