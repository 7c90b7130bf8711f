package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"
)

// full is a shop with a car that has something in every list of its document.
func full(t *testing.T) *Store {
	t.Helper()
	s, _ := shop(t)
	c := car()
	c.OwnerWords = "The new door looks like a different car."
	must(t, s.TakeIn(ctx, c))
	must(t, second(s.AddReadings(ctx, []Reading{reading("reading-1", 160), reading("reading-2", 161)}, 200)))
	must(t, s.StrikeReading(ctx, "reading-2", "tape under the probe", time.Now()))
	m := mark("mark-001")
	m.Note = "beside the handle"
	must(t, s.AddMark(ctx, m))
	must(t, s.SavePhoto(ctx, Photo{MarkID: "mark-001", Mime: "image/png", Data: []byte("a photo"), At: time.Now()}))
	must(t, acceptPlan(s, planOf("plan-001", Step{No: 1, Kind: "level", Item: "p1500", Passes: 4})))
	must(t, addEntry(s, pass("entry-01", "plan-001", time.Now()), nil))
	must(t, s.AddTry(ctx, &Try{ID: "try-0001", PanelID: "p", Made: "{}", Section: "s", At: time.Now()}))
	must(t, s.AddSquare(ctx, &Square{ID: "square-1", PanelID: "p", Ladder: "x", RemovedUM: 1, Person: "Tove", At: time.Now()}, version(s, "p"), nil))
	must(t, s.AddProofPhoto(ctx, proofPhoto("photo-01", HashOf([]byte("a reflection")))))
	must(t, s.AddMeterReading(ctx, &MeterReading{ID: "meter-01", PanelID: "p", Quantity: "gloss", Value: 90, At: time.Now()}))
	must(t, s.AddProof(ctx, &Proof{ID: "proof-01", PanelID: "p", Kind: ProofKept, Facts: `{"spent_um":3.5}`, At: time.Now()}, version(s, "p"), nil))
	must(t, s.AddFloor(ctx, &Floor{ID: "floor-01", CarID: "car", FloorUM: 25, Person: "Mrs Reed", Reason: "she wants it flat", At: time.Now()}))
	must(t, s.Tick(ctx, Task{CarID: "car", Task: "wash", DoneAt: time.Now(), Person: "Tove"}))
	must(t, s.Tell(ctx, Telling{CarID: "car", Key: "k", Text: "It stays.", SaidAt: time.Now(), Person: "Tove"}))
	must(t, s.TakeOffer(ctx, &Promise{ID: "promise-1", CarID: "car", Offer: "flat", HoursLow: 18, Hours: 22, HoursHigh: 28, DoneH: 1.5, Price: 1450, FilmUM: 6, Clarity: 99, Person: "Tove", At: time.Now()}, func(*Car) error { return nil }))
	must(t, s.SayTime(ctx, TimeSaid{CarID: "car", What: "wash", Minutes: 40, OfMin: 32, Paced: "around", BaseMin: 32, TookMin: 40, Person: "Tove", At: time.Now()}))
	must(t, s.SetReportChoices(ctx, "car", `{"words":"plain"}`))
	must(t, s.AddHandover(ctx, &Handover{ID: "hand-001", CarID: "car", Kind: KindHanded, Person: "Tove", OnDay: time.Now(), At: time.Now(), Facts: "{}"}, 0))
	return s
}

// Nothing is written to a car that was handed over, by whatever way, until it is open again.
func TestAClosedCarTakesNothing(t *testing.T) {
	s := full(t)
	now := time.Now()
	for name, write := range map[string]func() error{
		"reading": func() error { return second(s.AddReadings(ctx, []Reading{reading("reading-9", 150)}, 200)) },
		"strike":  func() error { return s.StrikeReading(ctx, "reading-1", "why", now) },
		"mark":    func() error { return s.AddMark(ctx, mark("mark-009")) },
		"other mark": func() error {
			return second(s.ChangeMark(ctx, "mark-001", func(m *Mark) error { m.Note = "x"; return nil }))
		},
		"photo": func() error {
			return s.SavePhoto(ctx, Photo{MarkID: "mark-001", Mime: "image/png", Data: []byte("other"), At: now})
		},
		"plan":           func() error { return s.AcceptPlan(ctx, planOf("plan-009"), version(s, "p")) },
		"pass":           func() error { return addEntry(s, pass("entry-09", "plan-001", now), nil) },
		"strike of pass": func() error { return strikeEntry(s, "entry-01", "", "slip", now) },
		"promise": func() error {
			return s.TakeOffer(ctx, &Promise{ID: "promise-9", CarID: "car", Offer: "match", At: now}, func(*Car) error { return nil })
		},
		"time":        func() error { return s.SayTime(ctx, TimeSaid{CarID: "car", What: "mask", Minutes: 5, At: now}) },
		"other time":  func() error { return s.SayTime(ctx, TimeSaid{CarID: "car", What: "wash", Minutes: 5, At: now}) },
		"time undone": func() error { return s.SayTime(ctx, TimeSaid{CarID: "car", What: "wash"}) },
		"floor":       func() error { return s.AddFloor(ctx, &Floor{ID: "floor-09", CarID: "car", FloorUM: 20, At: now}) },
		"tick":        func() error { return s.Tick(ctx, Task{CarID: "car", Task: "mask", DoneAt: now}) },
		"untick":      func() error { return s.Untick(ctx, "car", "wash") },
		"untold":      func() error { return s.Untell(ctx, "car", "k") },
		"name": func() error {
			return second(s.ChangeCar(ctx, "car", func(c *Car) error { c.Name = "Other"; return nil }))
		},
		"meter": func() error {
			return s.AddMeterReading(ctx, &MeterReading{ID: "meter-09", PanelID: "p", Quantity: "gloss", Value: 80, At: now})
		},
		"proof":  func() error { return s.StrikeProof(ctx, "proof-01", "no", now) },
		"report": func() error { return s.SetReportChoices(ctx, "car", "{}") },
		"zones":  func() error { return s.SetZones(ctx, "p", `[{"name":"x"}]`) },
		"hand over": func() error {
			return s.AddHandover(ctx, &Handover{ID: "hand-009", CarID: "car", Kind: KindHanded, OnDay: now, At: now}, 0)
		},
	} {
		if err := write(); !errors.Is(err, ErrClosed) && !(name == "plan" && errors.Is(err, ErrWorked)) {
			t.Errorf("%s of a closed car gives %v", name, err)
		}
	}
	again := Handover{ID: "hand-002", CarID: "car", Kind: KindReopened, Person: "Tove", Reason: "came back", OnDay: now, At: now}
	for range 2 { // sent twice
		must(t, s.AddHandover(ctx, &again, 0))
	}
	must(t, s.AddMark(ctx, mark("mark-009")))
	if err := s.AddHandover(ctx, &Handover{ID: "hand-003", CarID: "car", Kind: KindReopened, OnDay: now, At: now}, 0); !errors.Is(err, ErrOpen) {
		t.Errorf("an open car opens with %v", err)
	}
	all, err := s.Handovers(ctx, "car")
	must(t, err)
	if len(all) != 2 || all[1].Seq != 2 {
		t.Errorf("%+v", all)
	}
}

// A document has every column of every table of a car, and makes the same car in another shop.
func TestADocumentMakesTheSameCar(t *testing.T) {
	s := full(t)
	doc, err := s.Document(ctx, "car")
	must(t, err)
	for _, list := range []string{"readings", "marks", "plans", "log", "tries", "squares", "proof_photos", "meter_readings", "proofs"} {
		if len(listOf(listOf(doc, "panels")[0], list)) == 0 {
			t.Errorf("no %s", list)
		}
	}
	var known []string
	var walk func(b branch)
	walk = func(b branch) {
		known = append(known, b.table)
		for _, t := range b.twigs {
			walk(t)
		}
	}
	walk(documentTree)
	var tables []string
	must(t, s.readers.Raw("SELECT m.name FROM sqlite_master m JOIN pragma_table_info(m.name) c WHERE m.type = 'table' AND c.name IN ('car_id', 'panel_id', 'mark_id', 'plan_id')").Scan(&tables).Error)
	for _, table := range tables {
		if !slices.Contains(append(known, "panel_states", "car_states", "grants", "summaries", "found_rows", "pages", "puts", "stock_moves"), table) {
			t.Errorf("%s belongs to a car and is in no document", table)
		}
	}
	raw, err := json.Marshal(doc)
	must(t, err)
	if strings.Contains(string(raw), "a photo") {
		t.Error("photos are in it")
	}
	read := func(raw []byte) Row {
		dec := json.NewDecoder(strings.NewReader(string(raw)))
		dec.UseNumber()
		var out Row
		must(t, dec.Decode(&out))
		return out
	}
	other, _ := shop(t)
	must(t, other.AddDocument(ctx, read(raw), nil, []Gauge{{ID: "g-1", Name: "g"}}))
	again, err := other.Document(ctx, "car")
	must(t, err)
	if raw2, _ := json.Marshal(again); string(raw2) != string(raw) {
		t.Errorf("it comes back as\n%s\nand was\n%s", raw2, raw)
	}
	one, err := SealOf(doc)
	must(t, err)
	two, err := SealOf(again)
	must(t, err)
	if one != two || len(one) != 64 {
		t.Errorf("sealed as %s and %s", one, two)
	}
	if c, err := other.Car(ctx, "car"); err != nil || c.HandedOverAt == nil {
		t.Errorf("%+v, %v", c.HandedOverAt, err)
	}
	if err := other.AddDocument(ctx, read(raw), nil, nil); !errors.Is(err, ErrClosed) {
		t.Errorf("a closed car takes a document: %v", err)
	}
}

// What came to the same car in another shop is put to what is here; logs that went on in both
// are not made one.
func TestDocumentsArePutTogether(t *testing.T) {
	s := full(t)
	must(t, s.AddHandover(ctx, &Handover{ID: "hand-002", CarID: "car", Kind: KindReopened, Reason: "x", OnDay: time.Now(), At: time.Now()}, 0))
	was, err := s.Document(ctx, "car")
	must(t, err)
	other, _ := shop(t)
	must(t, other.AddDocument(ctx, was, nil, nil))
	must(t, second(other.AddReadings(ctx, []Reading{reading("reading-7", 155)}, 200)))
	must(t, other.StrikeReading(ctx, "reading-1", "wrong place", time.Now()))
	must(t, addEntry(other, pass("entry-07", "plan-001", time.Now()), nil))
	must(t, second(s.AddReadings(ctx, []Reading{reading("reading-8", 156)}, 200)))
	doc, err := other.Document(ctx, "car")
	must(t, err)
	known, changes, err := s.Compare(ctx, doc)
	must(t, err)
	got := map[string]string{}
	for _, c := range changes {
		got[c.List] = fmt.Sprint(c.New, c.Changed, c.Own)
	}
	if !known || got["readings"] != "1 1 1" || got["log"] != "1 0 0" || len(got) != 2 {
		t.Errorf("%v %v", known, got)
	}
	must(t, s.AddDocument(ctx, doc, nil, nil))
	all, err := s.Readings(ctx, "p")
	must(t, err)
	if len(all) != 4 || all[0].StruckAt == nil || all[3].ID != "reading-7" || all[3].Seq != 4 || len(entries(t, s)) != 2 {
		t.Errorf("%+v", all)
	}
	must(t, addEntry(s, pass("entry-08", "plan-001", time.Now()), nil))
	must(t, addEntry(other, pass("entry-09", "plan-001", time.Now()), nil))
	doc, err = other.Document(ctx, "car")
	must(t, err)
	var parted *Diverged
	if err := s.AddDocument(ctx, doc, nil, nil); !errors.As(err, &parted) || parted.Panel != "loose panel" {
		t.Errorf("logs that went on apart give %v", err)
	}
	if n := len(entries(t, s)); n != 3 {
		t.Errorf("%d entries", n)
	}
}

func TestADocumentThatDoesNotFitKeepsNothing(t *testing.T) {
	s := full(t)
	raw := func() Row {
		doc, err := s.Document(ctx, "car")
		must(t, err)
		doc["handed_over_at"] = nil
		return doc
	}
	for name, spoil := range map[string]func(Row){
		"a reading twice": func(d Row) {
			p := listOf(d, "panels")[0]
			p["readings"] = append(listOf(p, "readings"), listOf(p, "readings")[0])
		},
		"a step of no plan":   func(d Row) { listOf(listOf(d, "panels")[0], "log")[0]["step"] = int64(7) },
		"a film below zero":   func(d Row) { listOf(listOf(d, "panels")[0], "readings")[0]["film_um"] = -1.0 },
		"a time that is none": func(d Row) { listOf(listOf(d, "panels")[0], "readings")[0]["taken_at"] = "yesterday" },
	} {
		other, _ := shop(t)
		doc := raw()
		spoil(doc)
		var misfit *Misfit
		if err := other.AddDocument(ctx, doc, nil, nil); !errors.As(err, &misfit) {
			t.Errorf("%s gives %v", name, err)
		}
		if _, err := other.Car(ctx, "car"); !errors.Is(err, ErrMissing) {
			t.Errorf("%s: the car is there: %v", name, err)
		}
	}
}

// What was known of an owner is deleted from every place, and from the file; the film record
// and its seal stay.
func TestAnOwnerIsForgotten(t *testing.T) {
	s := full(t)
	doc, err := s.Document(ctx, "car")
	must(t, err)
	before, err := SealOf(doc)
	must(t, err)
	files, err := s.Forget(ctx, &Handover{ID: "hand-002", CarID: "car", Kind: KindForgotten, Person: "Tove", OnDay: time.Now(), At: time.Now()}, Forgotten{"Car 1", "the owner"}, true)
	must(t, err)
	if len(files) != 2 {
		t.Errorf("files %v", files)
	}
	doc, err = s.Document(ctx, "car")
	must(t, err)
	raw, err := json.Marshal(doc)
	must(t, err)
	after, err := SealOf(doc)
	must(t, err)
	if before != after {
		t.Error("the seal is broken")
	}
	must(t, s.Snapshot(ctx, filepath.Join(t.TempDir(), "copy.db")))
	path := s.path
	must(t, s.Close())
	file, err := os.ReadFile(path)
	must(t, err)
	for _, said := range []string{"Mrs Reed", "different car", "beside the handle", "Pilot car"} {
		if strings.Contains(string(raw), said) {
			t.Errorf("%q is on record", said)
		}
		if strings.Contains(string(file), said) {
			t.Errorf("%q is in the file", said)
		}
	}
}

func TestWordsAreFound(t *testing.T) {
	s := full(t)
	for text, want := range map[string]string{"pilot": "car", "different ca": "words", "handle": "mark", "loose nib": "mark", "tape": "reading", "mrs": "", "": "", `" OR *`: ""} {
		all, err := s.Find(ctx, text, 10)
		must(t, err)
		kind := ""
		if len(all) > 0 {
			kind = all[0].Kind
		}
		if kind != want {
			t.Errorf("%q finds %+v", text, all)
		}
	}
	if all, err := s.FindFilm(ctx, 159.5, 160.5, 10); err != nil || len(all) != 1 || all[0].Ref != "reading-1" || all[0].PanelName != "loose panel" {
		t.Errorf("%+v, %v", all, err)
	}
	must(t, s.AddHandover(ctx, &Handover{ID: "hand-002", CarID: "car", Kind: KindReopened, OnDay: time.Now(), At: time.Now()}, 0))
	must(t, second(s.ChangeCar(ctx, "car", func(c *Car) error { c.Name = "Harbour car"; return nil })))
	if old, err := s.Find(ctx, "pilot", 10); err != nil || len(old) != 0 {
		t.Errorf("%+v, %v", old, err)
	}
	if all, err := s.Find(ctx, "harb", 10); err != nil || len(all) != 1 || all[0].CarName != "Harbour car" {
		t.Errorf("%+v, %v", all, err)
	}
}

// A copy of an open shop is whole, and what is wrong in one is named.
func TestCopiesAndFaults(t *testing.T) {
	s := full(t)
	copied := filepath.Join(t.TempDir(), FileName)
	must(t, s.Snapshot(ctx, copied))
	if n, err := CheckCopy(copied); n != 1 || err != nil {
		t.Errorf("%d cars, %v", n, err)
	}
	if faults, err := s.Verify(ctx); err != nil || len(faults) != 0 {
		t.Errorf("%+v, %v", faults, err)
	}
	if held, err := HeldBy(filepath.Dir(s.path)); err != nil || !held {
		t.Errorf("an open shop is held: %v, %v", held, err)
	}
	if held, err := HeldBy(filepath.Dir(copied)); err != nil || held {
		t.Errorf("a copy is held: %v, %v", held, err)
	}
	n, faults, err := s.VerifyPhotos(ctx)
	if n != 2 || err != nil || len(faults) != 1 || !strings.Contains(faults[0].What, "not there") { // the reflection has no file in this test
		t.Errorf("%d, %+v, %v", n, faults, err)
	}
	must(t, s.writer.Exec("UPDATE shop SET here = 7").Error)
	must(t, s.writer.Exec("DROP TRIGGER found_gone").Error)
	must(t, s.writer.Exec("UPDATE panel_states SET first_pass_at = NULL").Error)
	if faults, err := s.Verify(ctx); err != nil || len(faults) != 2 {
		t.Errorf("%+v, %v", faults, err)
	}
	raw, err := os.ReadFile(copied)
	must(t, err)
	for name, spoil := range map[string]func([]byte) []byte{
		"cut":   func(b []byte) []byte { return b[:len(b)/2] },
		"empty": func([]byte) []byte { return nil },
		"other": func([]byte) []byte { return []byte("a letter to the owner of the car") },
		"holes": func(b []byte) []byte { clear(b[8192:40960]); return b },
	} {
		path := filepath.Join(t.TempDir(), FileName)
		must(t, os.WriteFile(path, spoil(slices.Clone(raw)), 0o600))
		var damage *Damage
		if _, err := CheckCopy(path); !errors.As(err, &damage) {
			t.Errorf("%s gives %v", name, err)
		}
	}
}
