package store

import (
	"context"
	"errors"
	"path/filepath"
	"testing"
	"time"

	"gorm.io/gorm"
)

var ctx = context.Background()

func shop(t *testing.T) (*Store, string) {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "a shop? with #signs")
	return open(t, dir), dir
}

func open(t *testing.T, dir string) *Store {
	t.Helper()
	mkdir(t, dir)
	s, err := Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func car() *Car {
	return &Car{ID: "car", Name: "Pilot car", Body: "loose", Colour: "dark", Painter: "Tove", CreatedAt: time.Now(),
		Panels: []Panel{{ID: "p", Seq: 1, Key: "panel", Name: "loose panel", Substrate: "steel", Shape: "{}", Finish: "factory", PeelGrade: 4}}}
}

func reading(id string, film float64) Reading {
	return Reading{ID: id, PanelID: "p", XMM: 100, YMM: 50, FilmUM: film, Phase: PhaseTotal, Source: SourceTyped, TakenAt: time.Now().UTC()}
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
	if n, err := s.AddReadings(ctx, []Reading{r}); n != 1 || err != nil {
		t.Fatal(n, err)
	}
	// A second door to the same folder sees it before the first is closed.
	for range 2 {
		again := open(t, dir)
		got, err := again.Readings(ctx, "p")
		if err != nil || len(got) != 1 || got[0].FilmUM != 163.5 || !got[0].TakenAt.Equal(at) || got[0].Seq != 1 {
			t.Fatalf("%+v, %v", got, err)
		}
		must(t, s.Close())
	}
}

func TestPragmasAreSet(t *testing.T) {
	s, _ := shop(t)
	for pragma, want := range map[string]string{"journal_mode": "wal", "foreign_keys": "1", "synchronous": "2", "busy_timeout": "5000"} {
		var got string
		must(t, s.db.Raw("PRAGMA "+pragma).Scan(&got).Error)
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
		n, err := s.AddReadings(ctx, []Reading{reading("reading-1", 163), filed, other})
		if err != nil || n != want {
			t.Errorf("time %d adds %d, %v; want %d", i+1, n, err, want)
		}
	}
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-9", 150), reading("reading-1", 99)}); !errors.Is(err, ErrTaken) {
		t.Errorf("another reading under a known id gives %v", err)
	}
	if got, _ := s.Readings(ctx, "p"); len(got) != 2 {
		t.Errorf("%d readings are kept: all or none of a batch counts", len(got))
	}
}

func TestStruckOutStays(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	_, err := s.AddReadings(ctx, []Reading{reading("reading-1", 163)})
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
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-1", 163)}); !errors.Is(err, gorm.ErrForeignKeyViolated) {
		t.Errorf("a reading without a panel gives %v", err)
	}
	must(t, s.TakeIn(ctx, car()))
	if err := s.TakeIn(ctx, car()); !errors.Is(err, gorm.ErrDuplicatedKey) {
		t.Errorf("the same car twice gives %v", err)
	}
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-1", -3)}); err == nil {
		t.Error("negative film is kept")
	}
	for _, err := range []error{second(s.Car(ctx, "x")), second(s.Panel(ctx, "x")), second(s.Reading(ctx, "x")), second(s.Plan(ctx, "p")), second(s.Entry(ctx, "x"))} {
		if !errors.Is(err, ErrMissing) {
			t.Errorf("a missing row gives %v", err)
		}
	}
}

func second[T any](_ T, err error) error { return err }

func TestLogIsAskedInsideItsTransaction(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	plan := &Plan{ID: "plan", PanelID: "p", AcceptedAt: time.Now(), Colour: "dark", State: "open", Steps: []Step{{PlanID: "plan", No: 1, Kind: "level", Passes: 4}}}
	must(t, s.AcceptPlan(ctx, plan))
	entry := func(id string) *Entry {
		return &Entry{ID: id, PlanID: "plan", PanelID: "p", Section: "b0r0c0", Step: 1, Kind: KindPass, Person: "Tove", At: time.Now().UTC()}
	}
	one := func(log []Entry) error {
		if len(log) > 0 {
			return ErrWorked
		}
		return nil
	}
	must(t, s.AddEntry(ctx, entry("entry-1"), one))
	must(t, s.AddEntry(ctx, entry("entry-1"), one)) // sent again: known, nobody is asked
	if err := s.AddEntry(ctx, entry("entry-2"), one); !errors.Is(err, ErrWorked) {
		t.Errorf("an objection gives %v", err)
	}
	wrong := entry("entry-3")
	wrong.Step = 7
	if err := s.AddEntry(ctx, wrong, func([]Entry) error { return nil }); !errors.Is(err, gorm.ErrForeignKeyViolated) {
		t.Errorf("a pass on a step that is not planned gives %v", err)
	}
	if got, _ := s.Entries(ctx, "p"); len(got) != 1 {
		t.Errorf("%d entries are kept", len(got))
	}
	if err := s.AcceptPlan(ctx, &Plan{ID: "plan-2", PanelID: "p", AcceptedAt: time.Now()}); !errors.Is(err, ErrWorked) {
		t.Errorf("a plan under work is replaced: %v", err)
	}
	must(t, s.StrikeEntry(ctx, "entry-1", "slip", time.Now()))
	must(t, s.AcceptPlan(ctx, &Plan{ID: "plan-2", PanelID: "p", AcceptedAt: time.Now()}))
	if p, err := s.Plan(ctx, "p"); err != nil || p.Version != 2 {
		t.Errorf("version %d, %v", p.Version, err)
	}
}
