package web

import (
	"fmt"
	"math"
	"net/http"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// The aim decides what is to be spent, what comes next, and whether the one
// sequence serves.
func TestAimsDecide(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.mark("nib-0001", "nib", 120, 120, "")
	spend := func() (float64, string) {
		var r api.Read
		b.get(b.at("/read"), &r)
		return r.Study.SpendUm.Mean, string(r.Car.Next.Stage) + ": " + r.Car.Next.Action
	}
	flat, next := spend()
	if next != "plan: Plan the grits" {
		t.Errorf("to be flat: %s", next)
	}
	for aim, want := range map[string]struct {
		next  string
		least float64
		most  float64
	}{
		"nibs":   {"look: Spot 1 mark", 1, flat},
		"polish": {"plan: Plan the polish", 0.1, 1},
		"match":  {"plan: Plan the grits", 1, flat},
	} {
		b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"aim":"`+aim+`"}`), 200, nil)
		um, next := spend()
		if um < want.least || um > want.most || next != want.next {
			t.Errorf("for %s: spends %v, %s", aim, um, next)
		}
		p := b.plan("")
		if len(p.Offers) == 0 || p.Target == "" || !strings.HasPrefix(strings.ToLower(p.Target), aim) {
			t.Errorf("for %s: %d offers to %q", aim, len(p.Offers), p.Target)
		}
		b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, p.Offers[0].Name), 201, nil)
		if l := b.level(); (l.Hand != nil) != (aim != "nibs") {
			t.Errorf("for %s Level waits for %q", aim, l.Waits)
		}
	}
}

// A panel whose mark was spotted is worked with what the spot has left, also
// when the plan is under way.
func TestSpotsCountInLevel(t *testing.T) {
	b := newBed(t)
	b.readings()
	m := b.mark("pit-0001", "pit", 120, 120, `{"size_um":12}`)
	b.accept()
	section := *m.Mark.Section
	granted := func() int {
		var l api.Level
		b.get(b.at("/level?section="+section), &l)
		return l.Hand.PassesGranted
	}
	before := granted()
	b.post("/api/marks/mark-pit-0001/close", `{"outcome":"gone","person":"Tove"}`, 200, nil)
	if after := granted(); after >= before {
		t.Errorf("%d passes are granted before and %d after a spot that took %v µm", before, after, m.Mark.FilmUm)
	}
}

// A verdict does not change because the planned passes are made: what they took
// is off the headroom once, not twice.
func TestPassesDoNotChangeVerdicts(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.mark("scratch-1", "scratch", 120, 120, `{"size_um":12}`)
	b.accept()
	first := b.look().Marks[0]
	for i := range 3 {
		if w := b.entry(fmt.Sprintf("pass-%d", i), *first.Section, "pass", 1); w.Code != http.StatusCreated {
			t.Fatal(w.Body)
		}
	}
	after := b.look().Marks[0]
	if after.Do != first.Do || math.Abs(after.FilmUm-first.FilmUm) > 0.5 {
		t.Errorf("%q becomes %q after three passes", first.Text, after.Text)
	}
	if *after.HeadroomUm >= *first.HeadroomUm {
		t.Errorf("three passes leave the headroom at %v", *after.HeadroomUm)
	}
}

// Marks stay readable when every reading was struck out under a plan.
func TestMarksWithoutReadingsUnderAPlan(t *testing.T) {
	b := newBed(t)
	b.readings()
	m := b.mark("scratch-1", "scratch", 120, 120, "")
	b.accept()
	if w := b.entry("pass-1", *m.Mark.Section, "pass", 1); w.Code != http.StatusCreated {
		t.Fatal(w.Body)
	}
	var r api.Read
	b.get(b.at("/read"), &r)
	for _, rd := range r.Readings {
		b.post("/api/readings/"+rd.Id+"/strike", `{"reason":"wrong panel"}`, 200, nil)
	}
	if l := b.look(); len(l.Marks) != 1 || l.Marks[0].Do != api.DoRead || l.Marks[0].HeadroomUm != nil || l.Tally.Known {
		t.Errorf("%+v", l.Marks)
	}
	var c api.Car
	b.get("/api/cars/"+b.car, &c)
	if len(c.Marks) != 1 || c.Marks[0].Text != "wait for readings" {
		t.Errorf("%+v", c.Marks)
	}
}
