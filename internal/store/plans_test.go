package store

import (
	"errors"
	"path/filepath"
	"testing"
	"time"
)

func planOf(id string, steps ...Step) *Plan {
	p := &Plan{ID: id, PanelID: "p", AcceptedAt: time.Now().UTC(), Basis: "b", PeelGrade: 6, Colour: "dark", Start: "p2000", FilmUM: 7, State: "open", Readings: 5, Offer: "balanced"}
	for i, s := range steps {
		s.PlanID, s.No = id, i+1
		p.Steps = append(p.Steps, s)
	}
	return p
}

func pass(id, plan string, at time.Time) *Entry {
	return &Entry{ID: id, PlanID: plan, PanelID: "p", Section: "s", Step: 1, Kind: KindPass, Person: "Tove", At: at}
}

// openOld makes a shop as it was after so many migrations.
func openOld(t *testing.T, dir string, after int) *Store {
	t.Helper()
	mkdir(t, dir)
	w, err := connect(filepath.Join(dir, FileName), lockFor, 1)
	must(t, err)
	all := migrations
	migrations = all[:after]
	err = migrate(w)
	migrations = all
	must(t, err)
	return &Store{writer: w}
}

// oldShop makes a shop as it was after so many migrations, with a panel and what sql
// puts into it, and gives its directory.
func oldShop(t *testing.T, after int, sql ...string) string {
	t.Helper()
	dir := t.TempDir() + "/shop"
	s := openOld(t, dir, after)
	for _, q := range append([]string{
		`INSERT INTO cars (id, seq, name, body, colour, painter, width_mm, height_mm, created_at) VALUES ('car', 1, 'Flap', 'loose', 'dark', 'Tove', 900, 600, '2031-01-01')`,
		`INSERT INTO panels (id, car_id, seq, key, name, substrate, shape, coats, peel_grade) VALUES ('p', 'car', 1, 'panel', 'loose panel', 'steel', '{}', 3, 6)`,
	}, sql...) {
		must(t, s.writer.Exec(q).Error)
	}
	must(t, s.Close())
	return dir
}

// A shop that accepted a plan and worked under it before plans kept what they were
// made from comes over with its steps, backings and log.
func TestWorkUnderAnOldPlanComesOver(t *testing.T) {
	dir := oldShop(t, 3,
		`INSERT INTO plans VALUES ('old', 'p', 1, '2031-01-01', 'b', 6, 'dark', 'p2000', 7, 'open', 5)`,
		`INSERT INTO steps VALUES ('old', 1, 'level', 'p2000', 'P2000', 'wet paper', 7, 0.39, 4, 30)`,
		`INSERT INTO steps VALUES ('old', 2, 'refine', 'p2500', 'P2500', 'foam', 2, 0.6, 1, 8)`,
		`INSERT INTO steps VALUES ('old', 3, 'polish', 'foam-fine', 'fine', 'pad', 2, 0.1, 0.2, 8)`,
		`INSERT INTO entries VALUES ('entry-1', 'old', 'p', 1, 's', 1, 'pass', 'Tove', '2031-01-01 10:00:00+00:00', NULL, '')`,
		`INSERT INTO entries VALUES ('entry-2', 'old', 'p', 2, 's', 1, 'done', 'Tove', '2031-01-01 10:05:00+00:00', '2031-01-01 10:06:00+00:00', 'too early')`,
	)
	s := openIn(t, dir)
	p, err := s.Plan(ctx, "p")
	must(t, err)
	want := []string{"p2000@rubber", "p2500-foam@foam-disc", "foam-fine@"}
	for i, st := range p.Steps {
		if got := st.Item + "@" + st.Backing; got != want[i] || st.Area != "" {
			t.Errorf("step %d is %s of %q, want %s", i+1, got, st.Area, want[i])
		}
	}
	if p.Made != "" || p.Offer != "yours" || len(p.Steps) != 3 {
		t.Errorf("%+v", p)
	}
	log := entries(t, s)
	if len(log) != 2 || log[0].Kind != KindPass || log[0].StruckAt != nil || log[1].StruckReason != "too early" || log[1].Note != "" {
		t.Errorf("%+v", log)
	}
	// What the new kinds are, and that the old bounds still hold.
	for _, kind := range []string{KindShiny, KindOver, KindScrape, KindColour, KindThrough} {
		e := pass("entry-"+kind, "old", time.Now().UTC())
		e.Kind = kind
		must(t, addEntry(s, e, nil))
	}
	odd := pass("entry-odd", "old", time.Now().UTC())
	odd.Kind = "dance"
	if err := addEntry(s, odd, nil); err == nil {
		t.Error("a dance is logged")
	}
	lost := pass("entry-lost", "none", time.Now().UTC())
	if err := addEntry(s, lost, nil); err == nil {
		t.Error("an entry of no plan is logged")
	}
}

func TestPlansAreVersionedAndStayOnceWorked(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	level := Step{Kind: "level", Item: "p1500", Backing: "rigid", Title: "P1500", What: "wet paper", Passes: 4, RateUM: 0.5, FilmUM: 4, Minutes: 20}
	own := level
	own.Area = "b0r0c0"
	first := planOf("one", level)
	first.Made, first.Facts, first.Why = `{"job":{}}`, `{"peel":6}`, "Why this: it serves\nNot finer: it does not"
	must(t, acceptPlan(s, first))
	second := planOf("two", level, own)
	must(t, acceptPlan(s, second))
	got, err := s.Plan(ctx, "p")
	must(t, err)
	if got.ID != "two" || got.Version != 2 || len(got.Steps) != 2 || got.Steps[1].Area != "b0r0c0" || first.Version != 1 {
		t.Errorf("%+v", got)
	}
	must(t, addEntry(s, pass("entry-1", "two", time.Now().UTC()), nil))
	if err := acceptPlan(s, planOf("three", level)); !errors.Is(err, ErrWorked) {
		t.Errorf("a worked plan is replaced: %v", err)
	}
	must(t, strikeEntry(s, "entry-1", "", "not made", time.Now().UTC()))
	over := pass("entry-2", "two", time.Now().UTC())
	over.Kind, over.Note = KindOver, "the owner wants it"
	must(t, addEntry(s, over, nil))
	if err := acceptPlan(s, planOf("four", level)); !errors.Is(err, ErrWorked) {
		t.Errorf("a pass over the stop is no work: %v", err)
	}
}

func TestConstantsAreKeptAndForgotten(t *testing.T) {
	s, dir := shop(t)
	must(t, s.SetConstant(ctx, "law.labour", 60))
	must(t, s.SetConstant(ctx, "law.labour", 70))
	must(t, s.SetConstant(ctx, "abrasive.p1500.price", 2))
	must(t, s.ResetConstants(ctx, "never.set"))
	got, err := openIn(t, dir).Constants(ctx)
	must(t, err)
	if len(got) != 2 || got["law.labour"] != 70 {
		t.Errorf("%v", got)
	}
	must(t, s.ResetConstants(ctx, "law.labour"))
	if got, _ := s.Constants(ctx); len(got) != 1 {
		t.Errorf("%v", got)
	}
	must(t, s.SetConstant(ctx, "law.labour", 60))
	must(t, s.ResetConstants(ctx, ""))
	if got, _ := s.Constants(ctx); len(got) != 0 {
		t.Errorf("%v", got)
	}
}

func TestTriesCountOnceAndStay(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	gloss := 88.0
	try := func(id, ladder string) *Try {
		return &Try{ID: id, PanelID: "p", Section: "s", Ladder: ladder, Made: "{}", FilmBeforeUM: 160, FilmAfterUM: 158, Spots: 3,
			GlossBefore: &gloss, GlossAfter: &gloss, ClarityBefore: 70, ClarityAfter: 80, Person: "Tove", At: time.Now().UTC()}
	}
	first, again, second := try("try-0001", "a"), try("try-0001", "a"), try("try-0002", "b")
	must(t, s.AddTry(ctx, first))
	must(t, s.AddTry(ctx, again))
	must(t, s.AddTry(ctx, second))
	if again.Seq != first.Seq || second.Seq != first.Seq+1 {
		t.Errorf("numbered %d, %d, %d", first.Seq, again.Seq, second.Seq)
	}
	if err := s.AddTry(ctx, try("try-0001", "other")); !errors.Is(err, ErrTaken) {
		t.Errorf("an id of another try: %v", err)
	}
	must(t, s.StrikeTry(ctx, "try-0001", "wrong square", time.Now().UTC()))
	must(t, s.StrikeTry(ctx, "try-0001", "a second time", time.Now().UTC()))
	left, err := openIn(t, dir).Tries(ctx, "p")
	must(t, err)
	if len(left) != 1 || left[0].ID != "try-0002" || *left[0].GlossAfter != gloss {
		t.Errorf("%+v", left)
	}
	if struck, err := s.Try(ctx, "try-0001"); err != nil || struck.StruckReason != "wrong square" {
		t.Errorf("%+v, %v", struck, err)
	}
	if _, err := s.Try(ctx, "none"); !errors.Is(err, ErrMissing) {
		t.Errorf("a try that is not there: %v", err)
	}
	if err := s.AddTry(ctx, &Try{ID: "try-0003", PanelID: "nowhere", Made: "{}"}); err == nil {
		t.Error("a try of no panel is kept")
	}
}

// A panel tells of the cut once it was read after a pass, and tells anew when
// anything on it changes.
func TestTeachers(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	level := Step{Kind: "level", Item: "p1500", Backing: "rigid", Title: "P1500", What: "wet paper", Passes: 4, RateUM: 0.5, FilmUM: 4, Minutes: 20}
	must(t, acceptPlan(s, planOf("one", level)))
	now := time.Now().UTC()
	before := reading("reading-1", 160)
	before.TakenAt = now.Add(-time.Hour)
	if _, err := s.AddReadings(ctx, []Reading{before}, 200); err != nil {
		t.Fatal(err)
	}
	must(t, addEntry(s, pass("entry-1", "one", now), nil))
	worked := func(want int) Teacher {
		t.Helper()
		got, err := s.Worked(ctx, 5)
		if err != nil || len(got) != want {
			t.Fatalf("%+v, %v; want %d", got, err, want)
		}
		if want == 0 {
			return Teacher{}
		}
		return got[0]
	}
	worked(0)
	after := reading("reading-2", 157)
	after.TakenAt = now.Add(time.Hour)
	if _, err := s.AddReadings(ctx, []Reading{after}, 200); err != nil {
		t.Fatal(err)
	}
	first := worked(1)
	must(t, addEntry(s, pass("entry-2", "one", now), nil))
	if again := worked(1); again != first {
		t.Errorf("a pass that nothing was read after teaches something: %+v", again)
	}
	must(t, strikeEntry(s, "entry-1", "", "not made", now))
	if again := worked(1); again == first || again.ID != "p" {
		t.Errorf("a pass that is struck out changes nothing: %+v", again)
	}
	must(t, s.StrikeReading(ctx, "reading-2", "on tape", now))
	worked(0)
}
