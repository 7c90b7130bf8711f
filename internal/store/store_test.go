package store

import (
	"context"
	"errors"
	"path/filepath"
	"testing"
	"time"

	"gorm.io/gorm"

	"waxplanus/internal/fresh"
)

var ctx = context.Background()

func shop(t *testing.T) (*Store, string) {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "a shop? with #signs")
	return openIn(t, dir), dir
}

// entries are the log of panel p.
func entries(t *testing.T, s *Store) []Entry {
	t.Helper()
	all, err := s.Logs(ctx, []string{"p"})
	must(t, err)
	return all["p"].Entries
}

// newShop is an empty shop, migrated once for all tests.
var newShop = fresh.Of(func(dir string) error {
	s, err := Open(dir)
	if err != nil {
		return err
	}
	return s.Close()
})

func openIn(t *testing.T, dir string) *Store {
	t.Helper()
	mkdir(t, dir)
	must(t, newShop.Into(dir))
	s, err := Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func car() *Car {
	return &Car{ID: "car", Name: "Pilot car", Body: "loose", Colour: "dark", Painter: "Tove", CreatedAt: time.Now(),
		Panels: []Panel{{ID: "p", Seq: 1, Key: "panel", Name: "loose panel", Substrate: "steel", Shape: "{}", Origin: "factory", Layers: "clear", Cure: "air", Aim: "flat", PeelGrade: 4}}}
}

func reading(id string, film float64) Reading {
	return Reading{ID: id, PanelID: "p", XMM: 100, YMM: 50, FilmUM: film, Phase: PhaseTotal, Source: SourceTyped, TakenAt: time.Now().UTC()}
}

// version is the panel's as it is.
func version(s *Store, panel string) int64 {
	v, err := s.Versions(ctx, panel)
	if err != nil {
		return -1
	}
	return v.Panel
}

// What is judged with the panel as it is.
func addEntry(s *Store, e *Entry, mark *Mark) error {
	return s.AddEntry(ctx, e, Judged{Version: version(s, e.PanelID), Mark: mark})
}
func acceptPlan(s *Store, p *Plan) error { return s.AcceptPlan(ctx, p, version(s, p.PanelID)) }
func strikeEntry(s *Store, id, mark, reason string, at time.Time) error {
	e, err := s.Entry(ctx, id)
	if err != nil {
		return err
	}
	return s.StrikeEntry(ctx, e, mark, reason, at, version(s, e.PanelID))
}

func must(t *testing.T, err error) {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
}

func TestKeepsWhatItAcknowledged(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	at := time.Date(2031, 5, 4, 10, 42, 7, 123456789, time.UTC)
	r := reading("reading-1", 163.5)
	r.TakenAt = at
	if n, err := s.AddReadings(ctx, []Reading{r}, 200); n != 1 || err != nil {
		t.Fatal(n, err)
	}
	// A second door to the same folder sees it before the first is closed.
	for range 2 {
		again := openIn(t, dir)
		got, err := again.Readings(ctx, "p")
		if err != nil || len(got) != 1 || got[0].FilmUM != 163.5 || !got[0].TakenAt.Equal(at) || got[0].Seq != 1 {
			t.Fatalf("%+v, %v", got, err)
		}
		must(t, s.Close())
	}
}

func TestPragmasAreSet(t *testing.T) {
	s, _ := shop(t)
	for pragma, want := range map[string]string{"journal_mode": "wal", "foreign_keys": "1", "synchronous": "2", "busy_timeout": "2000"} {
		var got string
		must(t, s.writer.Raw("PRAGMA "+pragma).Scan(&got).Error)
		if got != want {
			t.Errorf("%s is %s, want %s", pragma, got, want)
		}
	}
}

func TestSentTwiceCountsOnce(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	print := "p:abc"
	filed := reading("reading-2", 170)
	filed.Fingerprint = &print
	other := filed
	other.ID = "reading-3"
	for i, want := range []int{2, 0} {
		n, err := s.AddReadings(ctx, []Reading{reading("reading-1", 163), filed, other}, 200)
		if err != nil || n != want {
			t.Errorf("time %d adds %d, %v; want %d", i+1, n, err, want)
		}
	}
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-9", 150), reading("reading-1", 99)}, 200); !errors.Is(err, ErrTaken) {
		t.Errorf("another reading under a known id gives %v", err)
	}
	if got, _ := s.Readings(ctx, "p"); len(got) != 2 {
		t.Errorf("%d readings are kept: all or none of a batch counts", len(got))
	}
}

func TestStruckOutStays(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	_, err := s.AddReadings(ctx, []Reading{reading("reading-1", 163)}, 200)
	must(t, err)
	must(t, s.StrikeReading(ctx, "reading-1", "on tape", time.Now()))
	must(t, s.StrikeReading(ctx, "reading-1", "second thoughts", time.Now()))
	r, err := s.Reading(ctx, "reading-1")
	if err != nil || r.StruckAt == nil || r.StruckReason != "on tape" {
		t.Errorf("%+v, %v", r, err)
	}
}

func TestRowsNeedTheirParents(t *testing.T) {
	s, _ := shop(t)
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-1", 163)}, 200); !errors.Is(err, gorm.ErrForeignKeyViolated) {
		t.Errorf("a reading without a panel gives %v", err)
	}
	must(t, s.TakeIn(ctx, car()))
	if err := s.TakeIn(ctx, car()); !errors.Is(err, gorm.ErrDuplicatedKey) {
		t.Errorf("the same car twice gives %v", err)
	}
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-1", -3)}, 200); err == nil {
		t.Error("negative film is kept")
	}
	for _, err := range []error{second(s.Car(ctx, "x")), second(s.Panel(ctx, "x")), second(s.Reading(ctx, "x")), second(s.Plan(ctx, "p")), second(s.Entry(ctx, "x"))} {
		if !errors.Is(err, ErrMissing) {
			t.Errorf("a missing row gives %v", err)
		}
	}
}

// allCars are all cars in the shop with their panels.
func allCars(s *Store) ([]Car, error) {
	list, _, err := s.ListCars(ctx, CarsWanted{Most: 100})
	var out []Car
	for _, l := range list {
		c, e := s.Car(ctx, l.ID)
		out, err = append(out, c), errors.Join(err, e)
	}
	return out, err
}

func second[T any](_ T, err error) error { return err }

func TestAnEntryIsKeptOnlyAsItWasJudged(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	plan := &Plan{ID: "plan", PanelID: "p", AcceptedAt: time.Now(), Colour: "dark", State: "open", Steps: []Step{{PlanID: "plan", No: 1, Kind: "level", Passes: 4}}}
	must(t, acceptPlan(s, plan))
	entry := func(id string) *Entry {
		return &Entry{ID: id, PlanID: "plan", PanelID: "p", Section: "b0r0c0", Step: 1, Kind: KindPass, Person: "Tove", At: time.Now().UTC()}
	}
	judged := version(s, "p")
	must(t, s.AddEntry(ctx, entry("entry-1"), Judged{Version: judged}))
	must(t, s.AddEntry(ctx, entry("entry-1"), Judged{Version: judged})) // sent again: known, whatever it was judged with
	if err := s.AddEntry(ctx, entry("entry-2"), Judged{Version: judged}); !errors.Is(err, ErrChanged) {
		t.Errorf("an entry that was judged before another came gives %v", err)
	}
	wrong := entry("entry-3")
	wrong.Step = 7
	if err := addEntry(s, wrong, nil); !errors.Is(err, gorm.ErrForeignKeyViolated) {
		t.Errorf("a pass on a step that is not planned gives %v", err)
	}
	if got := entries(t, s); len(got) != 1 {
		t.Errorf("%d entries are kept", len(got))
	}
	if err := acceptPlan(s, &Plan{ID: "plan-2", PanelID: "p", AcceptedAt: time.Now()}); !errors.Is(err, ErrWorked) {
		t.Errorf("a plan under work is replaced: %v", err)
	}
	must(t, strikeEntry(s, "entry-1", "", "slip", time.Now()))
	must(t, acceptPlan(s, &Plan{ID: "plan-2", PanelID: "p", AcceptedAt: time.Now()}))
	if p, err := s.Plan(ctx, "p"); err != nil || p.Version != 2 {
		t.Errorf("version %d, %v", p.Version, err)
	}
}

// A shop of the first version comes over with all it has: what a finish was
// becomes origin and layers.
func TestFirstShopComesOver(t *testing.T) {
	dir := t.TempDir()
	s := openOld(t, dir, 1)
	for i, finish := range []string{"factory", "refinished", "refinished_unknown", "single_stage"} {
		id := string(rune('a' + i))
		must(t, s.writer.Exec(`INSERT INTO cars VALUES (?, ?, 'Car', 'loose', 'dark', 'Tove', 900, 600, ?)`, id, i+1, time.Now()).Error)
		must(t, s.writer.Exec(`INSERT INTO panels VALUES (?, ?, 1, 'panel', 'loose panel', 'steel', '{}', ?, 2, 6)`, "p"+id, id, finish).Error)
	}
	must(t, s.writer.Exec(`INSERT INTO readings VALUES ('old-1', 'pa', 1, 100, 120, 163.5, 'before_clear', 'typed', 0, NULL, ?, NULL, '')`, time.Now()).Error)
	must(t, s.Close())
	again := openIn(t, dir)
	kept, err := again.Readings(ctx, "pa")
	must(t, err)
	if len(kept) != 1 || kept[0].FilmUM != 163.5 || kept[0].Phase != PhaseBefore || kept[0].Gauge != "" {
		t.Errorf("readings came over as %+v", kept)
	}
	must(t, second(again.AddReadings(ctx, []Reading{{ID: "new-clear", PanelID: "pa", XMM: 1, YMM: 1, FilmUM: 52, Phase: PhaseClear, Source: SourceTyped, TakenAt: time.Now()}}, 200)))
	cars, err := allCars(again)
	must(t, err)
	for i, want := range []string{"factory clear", "here clear", "unknown clear", "unknown single"} {
		p := cars[i].Panels[0]
		if got := p.Origin + " " + p.Layers; got != want || p.Coats != 2 || p.Aim != "flat" || p.Cure != "unknown" || cars[i].Sheet != "" {
			t.Errorf("car %d came over as %s: %+v", i, got, p)
		}
	}
}

func mark(id string) *Mark {
	return &Mark{ID: id, PanelID: "p", Kind: "nib", XMM: 10, YMM: 20, LengthMM: 1, WidthMM: 1, Found: "booth", Person: "Tove", At: time.Now().UTC(), Outcome: OutcomeOpen}
}

func TestMarksCountOnceAndStay(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, s.AddMark(ctx, mark("mark-1")))
	must(t, s.AddMark(ctx, mark("mark-2")))
	again := mark("mark-1")
	must(t, s.AddMark(ctx, again))
	if again.Seq != 1 {
		t.Errorf("sent again it is number %d", again.Seq)
	}
	other := mark("mark-1")
	other.Kind = "run"
	if err := s.AddMark(ctx, other); !errors.Is(err, ErrTaken) {
		t.Errorf("another mark under a known id gives %v", err)
	}
	_, err := s.ChangeMark(ctx, "mark-2", func(m *Mark) error { m.Strike("slip", time.Now()); m.Strike("again", time.Now()); return nil })
	must(t, err)
	if _, err := s.ChangeMark(ctx, "mark-1", func(m *Mark) error { m.XMM = 99; return ErrWorked }); !errors.Is(err, ErrWorked) {
		t.Errorf("an objection gives %v", err)
	}
	must(t, s.SavePhoto(ctx, Photo{MarkID: "mark-1", Mime: "image/png", Data: []byte{1, 2}, At: time.Now()}))
	must(t, s.SavePhoto(ctx, Photo{MarkID: "mark-1", Mime: "image/png", Data: []byte{3}, At: time.Now()}))
	must(t, s.Close())
	s = openIn(t, dir)
	ms, err := s.Marks(ctx, "p")
	if err != nil || len(ms) != 2 || ms[0].XMM != 10 || !ms[0].HasPhoto || ms[1].StruckReason != "slip" {
		t.Errorf("%+v, %v", ms, err)
	}
	if p, err := s.Photo(ctx, "mark-1"); err != nil || len(p.Data) != 1 {
		t.Errorf("%+v, %v", p, err)
	}
	for _, err := range []error{second(s.Mark(ctx, "x")), second(s.Photo(ctx, "x")), second(s.ChangeMark(ctx, "x", func(*Mark) error { return nil })), second(s.ChangeCar(ctx, "x", func(*Car) error { return nil }))} {
		if !errors.Is(err, ErrMissing) {
			t.Errorf("a missing row gives %v", err)
		}
	}
}

func TestTasksAndTellings(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	for _, person := range []string{"Tove", "Issa"} {
		must(t, s.Tick(ctx, Task{CarID: "car", Task: "wash", DoneAt: time.Now(), Person: person}))
		must(t, s.Tell(ctx, Telling{CarID: "car", Key: "k", Text: person, SaidAt: time.Now(), Person: person}))
	}
	tasks, err := s.Tasks(ctx, "car")
	must(t, err)
	told, err := s.Tellings(ctx, "car")
	must(t, err)
	if len(tasks) != 1 || tasks[0].Person != "Tove" || len(told) != 1 || told[0].Text != "Issa" {
		t.Errorf("%+v %+v: the first tick and the last telling count", tasks, told)
	}
	must(t, s.Untick(ctx, "car", "wash"))
	must(t, s.Untell(ctx, "car", "k"))
	if tasks, _ := s.Tasks(ctx, "car"); len(tasks) != 0 {
		t.Error("a tick is not taken back")
	}
}

func TestGaugesChecksAndSettings(t *testing.T) {
	s, _ := shop(t)
	ctx := context.Background()
	must(t, s.MeetGauge(ctx, Gauge{ID: "A-1", Name: "bench gauge"}))
	must(t, s.StudyGauge(ctx, Gauge{ID: "A-1", Name: "bench gauge", RepeatUM: 0.6, DoubtUM: 0.1, Shots: 8}))
	must(t, s.MeetGauge(ctx, Gauge{ID: "A-1", Name: "said hello again"}))
	all, err := s.Gauges(ctx)
	must(t, err)
	if len(all) != 2 || all[0].ID != ShopGauge || all[1].RepeatUM != 0.6 || all[1].Name != "bench gauge" {
		t.Errorf("%+v", all)
	}
	if c, err := s.LastCheck(ctx, "A-1"); err != nil || c != nil {
		t.Errorf("a check that nobody made: %+v, %v", c, err)
	}
	at := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	for i, zero := range []float64{0.2, 5} {
		must(t, s.AddCheck(ctx, GaugeCheck{GaugeID: "A-1", At: at.Add(time.Duration(i) * time.Hour), ZeroUM: zero}))
	}
	if c, err := s.LastCheck(ctx, "A-1"); err != nil || c.ZeroUM != 5 {
		t.Errorf("%+v, %v", c, err)
	}
	if err := s.AddCheck(ctx, GaugeCheck{GaugeID: "nobody's", At: at}); err == nil {
		t.Error("a check of no gauge is kept")
	}
	if v, err := s.Setting(ctx, "unit", "um"); err != nil || v != "um" {
		t.Errorf("%q, %v", v, err)
	}
	must(t, s.SetSetting(ctx, "unit", "mil"))
	if v, err := s.Setting(ctx, "unit", "um"); err != nil || v != "mil" {
		t.Errorf("%q, %v", v, err)
	}
	c := car()
	must(t, s.TakeIn(ctx, c))
	must(t, second(s.AddReadings(ctx, []Reading{reading("one-one-1", 150)}, 200)))
	has, err := s.HasReading(ctx, "one-one-1")
	must(t, err)
	rows, err := s.CarReadings(ctx, c.ID)
	must(t, err)
	if !has || len(rows) != 1 || rows[0].FilmUM != 150 {
		t.Errorf("%v %+v", has, rows)
	}
}
