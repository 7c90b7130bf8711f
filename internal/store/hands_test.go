package store

import (
	"testing"
	"time"
)

// A log with looks and overrides comes over with what they saw and why; strokes on a
// mark and going back can be logged after it.
func TestLooksComeOver(t *testing.T) {
	dir := oldShop(t, 5,
		`INSERT INTO plans (id, panel_id, version, accepted_at, basis, peel_grade, colour, start, film_um, state, readings) VALUES ('old', 'p', 1, '2031-01-01', 'b', 6, 'dark', 'p2000', 5, 'open', 5)`,
		`INSERT INTO steps (plan_id, no, kind, item, title, what, passes, rate_um, film_um, minutes) VALUES ('old', 1, 'level', 'p2000', 'P2000', 'wet paper', 7, 0.39, 4, 30)`,
		`INSERT INTO entries (id, plan_id, panel_id, seq, section, step, kind, value, note, person, at, struck_reason) VALUES ('look', 'old', 'p', 1, 's', 1, 'shiny', 0.3, '', 'Tove', '2031-01-01 10:00:00+00:00', '')`,
		`INSERT INTO entries (id, plan_id, panel_id, seq, section, step, kind, value, note, person, at, struck_reason) VALUES ('over', 'old', 'p', 2, 's', 1, 'override', 0, 'the owner wants it', 'Tove', '2031-01-01 10:05:00+00:00', '')`,
	)
	s := openIn(t, dir)
	log := entries(t, s)
	if len(log) != 2 || log[0].Value != 0.3 || log[1].Note != "the owner wants it" || log[0].Mark != "" {
		t.Errorf("%+v", log)
	}
	for _, kind := range []string{KindBack, KindShave, KindBlock} {
		e := pass("entry-"+kind, "old", time.Now().UTC())
		e.Kind, e.Mark = kind, "mark-1"
		must(t, addEntry(s, e, nil))
		again := *e
		again.Mark = "mark-2"
		if err := addEntry(s, &again, nil); err == nil {
			t.Errorf("the id of a %s counts for another mark", kind)
		}
	}
}

func TestPeopleAreWhoeverWorksHere(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, s.ChangePerson(ctx, "Nele", func(p *Person) error { p.Coarsest = "P2500"; return nil }))
	must(t, s.ChangePerson(ctx, "Nele", func(p *Person) error { p.Coarsest = "3000"; return nil }))
	got, err := s.People(ctx)
	must(t, err)
	if len(got) != 2 || got[0].Name != "Nele" || got[0].Coarsest != "3000" || got[1].Name != "Tove" || got[1].Coarsest != "" {
		t.Errorf("%+v", got)
	}
}

// Only panels sprayed here, with their coats known and read before clear, tell of the
// shop's coats.
func TestCoatedPanels(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	coated := func() int {
		got, err := s.Coated(ctx, 10)
		must(t, err)
		return len(got)
	}
	before := reading("reading-1", 100)
	before.Phase = PhaseBefore
	_, err := s.AddReadings(ctx, []Reading{before, reading("reading-2", 160)}, 200)
	must(t, err)
	set := func(sql string) { must(t, s.writer.Exec(sql).Error) }
	set(`UPDATE panels SET origin = 'here', layers = 'clear', coats = 3`)
	if n := coated(); n != 1 {
		t.Errorf("%d panels", n)
	}
	for _, sql := range []string{`UPDATE panels SET coats = 0`, `UPDATE panels SET coats = 3, origin = 'elsewhere'`, `UPDATE panels SET origin = 'here', layers = 'single'`} {
		set(sql)
		if n := coated(); n != 0 {
			t.Errorf("after %s %d panels", sql, n)
		}
	}
	set(`UPDATE panels SET layers = 'clear'`)
	must(t, s.StrikeReading(ctx, "reading-1", "on tape", time.Now().UTC()))
	if n := coated(); n != 0 {
		t.Errorf("with its reading struck out %d panels", n)
	}
}
