package store

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"reflect"
	"strings"
	"sync"
	"testing"
	"time"
)

// An entry and the mark that it makes are kept together or not at all, and so are their
// strikes.
func TestAnEntryAndItsMarkAreOne(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, acceptPlan(s, planOf("plan-1", Step{No: 1, Kind: "level", Passes: 4})))
	through := func(id string) *Entry {
		return &Entry{ID: id, PlanID: "plan-1", PanelID: "p", Section: "s", Step: 1, Kind: KindThrough, Person: "Tove", At: time.Now()}
	}
	mark := &Mark{ID: "mark-1", PanelID: "no such panel", Kind: "through", Found: "workshop", Outcome: OutcomeOpen, At: time.Now()}
	if err := addEntry(s, through("entry-1"), mark); err == nil {
		t.Fatal("a mark of no panel is kept")
	}
	if log := entries(t, s); len(log) != 0 {
		t.Errorf("the entry is kept without its mark: %+v", log)
	}
	mark.PanelID = "p"
	must(t, addEntry(s, through("entry-1"), mark))
	must(t, strikeEntry(s, "entry-1", "mark-1", "a slip", time.Now()))
	log := entries(t, s)
	marks, err := s.Marks(ctx, "p")
	must(t, err)
	if len(log) != 1 || log[0].StruckAt == nil || len(marks) != 1 || marks[0].StruckAt == nil || marks[0].StruckReason != "a slip" {
		t.Errorf("%+v, %+v", log, marks)
	}
}

// An entry, a plan and a strike that were judged before something else came are not kept:
// whoever judged them judges again.
func TestWhatWasJudgedBeforeAChangeIsNotKept(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, acceptPlan(s, planOf("plan-1", Step{No: 1, Kind: "level", Passes: 4})))
	old := version(s, "p")
	entry := func(id string) *Entry {
		return &Entry{ID: id, PlanID: "plan-1", PanelID: "p", Section: "s", Step: 1, Kind: KindPass, Person: "Tove", At: time.Now()}
	}
	for what, change := range map[string]func() error{
		"a reading": func() error { return second(s.AddReadings(ctx, []Reading{reading("reading-1", 160)}, 200)) },
		"a strike":  func() error { return s.StrikeReading(ctx, "reading-1", "on tape", time.Now()) },
		"a mark":    func() error { return s.AddMark(ctx, mark("mark-1")) },
		"an agreed floor": func() error {
			return s.AddFloor(ctx, &Floor{ID: "floor-1", CarID: "car", FloorUM: 25, Person: "she", Reason: "flat", At: time.Now()})
		},
		"a fact": func() error {
			return second(s.ChangeCar(ctx, "car", func(c *Car) error { c.Panels[0].Coats++; return nil }))
		},
		"zones": func() error { return s.SetZones(ctx, "p", "[]") },
		"the painter": func() error {
			return second(s.ChangeCar(ctx, "car", func(c *Car) error { c.Painter += "x"; return nil }))
		},
		"another plan": func() error {
			return acceptPlan(s, planOf("plan-"+time.Now().String(), Step{No: 1, Kind: "level", Passes: 4}))
		},
	} {
		was := version(s, "p")
		if err := change(); err != nil && what != "a strike" {
			t.Fatal(what, err)
		}
		if now := version(s, "p"); now == was && what != "a strike" { // the reading may not be there yet
			t.Errorf("%s leaves the version %d", what, now)
		}
	}
	if err := s.AddEntry(ctx, entry("entry-1"), Judged{Version: old}); !errors.Is(err, ErrChanged) {
		t.Error(err)
	}
	if err := s.AcceptPlan(ctx, planOf("plan-9", Step{No: 1, Kind: "level", Passes: 4}), old); !errors.Is(err, ErrChanged) {
		t.Error(err)
	}
	low := &Floor{ID: "floor-low", CarID: "car", FloorUM: 25, Person: "she", Reason: "flat", At: time.Now()}
	if err := s.AgreeFloor(ctx, low, "p", old); !errors.Is(err, ErrChanged) {
		t.Errorf("a floor that was weighed before a change: %v", err)
	}
	must(t, s.AgreeFloor(ctx, low, "p", version(s, "p")))
	must(t, addEntry(s, entry("entry-1"), nil))
	if err := s.StrikeEntry(ctx, *entry("entry-1"), "", "slip", time.Now(), old); !errors.Is(err, ErrChanged) {
		t.Error(err)
	}
	same := version(s, "p")
	must(t, second(s.ChangeCar(ctx, "car", func(*Car) error { return nil })))
	if version(s, "p") != same {
		t.Error("a change that changes nothing makes another version")
	}
	if p, err := s.PlanByID(ctx, "plan-1"); err != nil || p.Version != 1 || len(p.Steps) == 0 {
		t.Errorf("%+v, %v", p, err)
	}
}

// Settings and people are read and written as one: of many writers none loses what
// another wrote.
func TestReadAndWriteAreOne(t *testing.T) {
	s, _ := shop(t)
	const writers = 12
	var all sync.WaitGroup
	for i := range writers {
		all.Go(func() {
			err := s.ChangeSetting(ctx, "list", "", func(old string) (string, error) { return old + fmt.Sprintf("<%d>", i), nil })
			if err != nil {
				t.Error(err)
			}
			err = s.ChangePerson(ctx, "Nele", func(p *Person) error { p.Coarsest += "x"; return nil })
			if err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
	text, err := s.Setting(ctx, "list", "")
	must(t, err)
	for i := range writers {
		if !strings.Contains(text, fmt.Sprintf("<%d>", i)) {
			t.Errorf("writer %d is lost: %s", i, text)
		}
	}
	people, err := s.People(ctx)
	must(t, err)
	if len(people) != 1 || len(people[0].Coarsest) != writers {
		t.Errorf("%+v", people)
	}
	failed := errors.New("no")
	if err := s.ChangeSetting(ctx, "list", "", func(string) (string, error) { return "gone", failed }); !errors.Is(err, failed) {
		t.Error(err)
	}
	if same, _ := s.Setting(ctx, "list", ""); same != text {
		t.Errorf("a refused change is kept: %s", same)
	}
}

// One driver, in Go: a second one in C would be linked and never used.
func TestThereIsOneDriver(t *testing.T) {
	raw, err := os.ReadFile("../../go.mod")
	must(t, err)
	if !strings.Contains(string(raw), "modernc.org/sqlite") {
		t.Fatal("the test does not see the drivers")
	}
	for _, other := range []string{"mattn/go-sqlite3", "gorm.io/driver/sqlite"} {
		if strings.Contains(string(raw), other) {
			t.Errorf("%s is linked beside the driver in Go", other)
		}
	}
}

// What an owner agreed to is kept once under its id, numbered by car, and only struck out.
func TestAgreedFloorsAreKept(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	id := "p"
	floor := func(id string, um float64, panel *string) *Floor {
		return &Floor{ID: id, CarID: "c", PanelID: panel, FloorUM: um, Person: "Mrs Holm", Reason: "rather flat", At: time.Now()}
	}
	all, err := allCars(s)
	must(t, err)
	whole, own := floor("floor-car", 30, nil), floor("floor-own", 25, &id)
	whole.CarID, own.CarID = all[0].ID, all[0].ID
	must(t, s.AddFloor(ctx, whole))
	must(t, s.AddFloor(ctx, own))
	again := *own
	must(t, s.AddFloor(ctx, &again))
	if again.Seq != own.Seq || own.Seq != whole.Seq+1 {
		t.Errorf("numbered %d, %d, again %d", whole.Seq, own.Seq, again.Seq)
	}
	other := *own
	other.FloorUM = 20
	if err := s.AddFloor(ctx, &other); !errors.Is(err, ErrTaken) {
		t.Errorf("another figure under the same id: %v", err)
	}
	low := floor("floor-low", 14, nil)
	low.CarID = all[0].ID
	if err := s.AddFloor(ctx, low); err == nil {
		t.Error("a floor of 14 µm is kept")
	}
	must(t, s.StrikeFloor(ctx, "floor-own", "changed her mind", time.Now()))
	must(t, s.StrikeFloor(ctx, "floor-own", "once more", time.Now()))
	list, err := s.Floors(ctx, all[0].ID)
	must(t, err)
	if len(list) != 2 || list[0].StruckAt != nil || list[1].StruckReason != "changed her mind" || *list[1].PanelID != id {
		t.Errorf("%+v", list)
	}
	if _, err := s.Floor(ctx, "nothing"); !errors.Is(err, ErrMissing) {
		t.Error(err)
	}
}

// One who leaves while their change is being written takes nothing from the others: what
// the writer knows of its connection stays.
func TestLeavingWhileWriting(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	for i := range 300 {
		here, leave := context.WithCancel(ctx)
		go func() { // leaves in the middle, now and then
			time.Sleep(time.Duration(i*3) * time.Microsecond)
			leave()
		}()
		_ = s.SetZones(here, "p", fmt.Sprintf("[%d]", i)) // kept or not: both are right
		leave()
	}
	told := 0
	s.OnChange(func(Change) { told++ })
	must(t, s.SetZones(ctx, "p", "[]"))
	if told != 1 {
		t.Errorf("told %d times", told)
	}
}

// A log that is read on from what is known of it is the log as it is, or is read whole.
func TestLogReadOn(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, acceptPlan(s, planOf("plan-1", Step{No: 1, Kind: "level", Passes: 4})))
	whole := func() *Log {
		all, err := s.Logs(ctx, []string{"p"})
		must(t, err)
		return all["p"]
	}
	random := rand.New(rand.NewPCG(14, 1))
	known, readOn := whole(), 0
	var live []*Entry
	for i := range 120 {
		if len(live) > 0 && random.IntN(4) == 0 {
			must(t, strikeEntry(s, live[random.IntN(len(live))].ID, "", "slip", time.Now()))
		} else {
			e := pass(fmt.Sprintf("entry-%d", i), "plan-1", time.Now())
			must(t, addEntry(s, e, nil))
			live = append(live, e)
		}
		if random.IntN(3) == 0 { // some changes go by unseen
			continue
		}
		now := whole()
		on, err := s.LogAfter(ctx, "p", known)
		must(t, err)
		if on != nil {
			readOn++
			if !reflect.DeepEqual(on, now) {
				t.Fatalf("read on: %+v, is: %+v", on, now)
			}
		}
		known = now
	}
	if readOn < 20 {
		t.Errorf("read on only %d times", readOn)
	}
}

// Whoever leaves while a car is read leaves no connection within a transaction behind.
func TestReadingThatWasGivenUpLeavesNothingOpen(t *testing.T) {
	s := full(t)
	random := rand.New(rand.NewPCG(18, 1))
	var wait sync.WaitGroup
	for range 4 {
		most := time.Duration(1+random.IntN(3)) * time.Millisecond
		wait.Go(func() {
			for i := range 300 {
				for _, after := range []time.Duration{most * time.Duration(i) / 300, -time.Second} {
					left, leave := context.WithTimeout(ctx, after)
					if _, err := s.Document(left, "car"); err != nil && left.Err() == nil {
						t.Error(err)
					}
					leave()
				}
			}
		})
	}
	wait.Wait()
	var all sync.WaitGroup
	for range 4 * readers {
		all.Go(func() {
			if _, err := s.Document(ctx, "car"); err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
}
