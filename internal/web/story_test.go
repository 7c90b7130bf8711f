package web

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"strings"
	"sync"
	"testing"

	"waxplanus/internal/web/api"
)

func TestReadingSentTwiceCountsOnce(t *testing.T) {
	b := newBed(t)
	b.reading("once", 300, 300, 160)
	b.reading("once", 300, 300, 160)
	var r api.Read
	b.get(b.at("/read"), &r)
	if len(r.Readings) != 1 || r.Panel.Readings != 1 {
		t.Errorf("%d readings", len(r.Readings))
	}
	w := b.send(http.MethodPost, b.at("/readings"), `{"id":"reading-once","x_mm":300,"y_mm":300,"film":99,"unit":"um","phase":"total"}`)
	if w.Code != 409 {
		t.Errorf("another film under the same id gives %d", w.Code)
	}
}

func TestReadTellsFilmClearAndHeadroom(t *testing.T) {
	b := newBed(t)
	var empty api.Read
	b.get(b.at("/read"), &empty)
	if empty.Study != nil || len(empty.Next) != 3 || !strings.Contains(empty.Why, "Zero the gauge") || empty.Sections[0].FilmUm != nil {
		t.Errorf("before any reading: %+v", empty.Study)
	}
	b.readings()
	b.post(b.at("/readings"), `{"id":"reading-mil","x_mm":300,"y_mm":300,"film":6.3,"unit":"mil","phase":"total"}`, 201, nil)
	b.post(b.at("/readings"), `{"id":"reading-under","x_mm":300,"y_mm":300,"film":78,"unit":"um","phase":"before_clear"}`, 201, nil)
	var r api.Read
	b.get(b.at("/read"), &r)
	if s := r.Study; s == nil || math.Abs(s.FilmUm.Mean-161) > 5 || len(s.Clear.Sources) != 3 || s.Clear.Sources[0].Kind != "before_clear" {
		t.Fatalf("%+v", r.Study)
	}
	for _, s := range r.Sections {
		if s.FilmUm == nil || *s.BoundUm >= s.FilmUm.Mean || *s.HeadroomUm >= s.ClearUm.Mean-r.FloorUm || *s.Reason == "" || s.State == nil {
			t.Errorf("%s: %+v", s.Name, s)
		}
	}
	if g := r.Study.Map; len(g.MeanUm) != g.Nx*g.Ny || len(g.SdUm) != g.Nx*g.Ny {
		t.Errorf("the map has %d nodes of %d x %d", len(g.MeanUm), g.Nx, g.Ny)
	}
	var before, after api.Read
	b.get(b.at("/read"), &before)
	b.post("/api/readings/reading-mil/strike", `{"reason":"the probe sat on tape"}`, 200, nil)
	b.get(b.at("/read"), &after)
	if after.Panel.Readings != before.Panel.Readings-1 || len(after.Readings) != len(before.Readings) {
		t.Error("a struck reading has to stay on record and not count")
	}
	if w := b.send(http.MethodPost, "/api/readings/reading-a0/strike", `{"reason":" "}`); w.Code < 400 {
		t.Error("a reading is struck out without a reason")
	}
}

func TestWholeStory(t *testing.T) {
	b := newBed(t)
	b.readings()
	p := b.accept()
	if len(p.Offer.Steps) != 5 || p.Waits != "" {
		t.Fatalf("waits %q, %d steps", p.Waits, len(p.Offer.Steps))
	}
	l := b.level()
	if l.Waits != "" || l.Hand == nil || l.Hand.Step != 1 || l.Hand.PassesNeeded != p.Offer.Steps[0].Passes {
		t.Fatalf("%+v", l.Hand)
	}
	first := *l.Hand
	for i := range 3 {
		if w := b.entry(fmt.Sprint("pass", i), l.Section, "pass", 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	if w := b.entry("pass2", l.Section, "pass", 1); w.Code != 201 {
		t.Fatal(w.Body) // the same tap again
	}
	three := *b.level().Hand
	if three.PassesDone != 3 || three.PassesGranted >= first.PassesGranted || three.Ledger.GoneUm.Mean <= 0 || three.Ledger.BalanceUm.Mean >= first.Ledger.BalanceUm.Mean {
		t.Errorf("after three passes: %+v, before: %+v", three, first)
	}
	b.reading("after", 150, 150, 157.6)
	read := *b.level().Hand
	if read.RateUm.Sd >= three.RateUm.Sd || !strings.Contains(read.RateFrom, "1 reading") {
		t.Errorf("a reading after passes leaves the rate at %+v, %s", read.RateUm, read.RateFrom)
	}
	b.into(b.send(http.MethodPost, "/api/log/entry-pass2/strike", `{"reason":"undone at once"}`), 200, nil)
	if got := b.level(); got.Hand.PassesDone != 2 || len(got.Log) != 3 {
		t.Errorf("after undo %d passes and %d entries", got.Hand.PassesDone, len(got.Log))
	}
	if w := b.entry("early", l.Section, "pass", 2); w.Code != 409 || !strings.Contains(w.Body.String(), "is at step 1") {
		t.Errorf("a pass of the next step gives %d: %s", w.Code, w.Body)
	}
	if w := b.entry("done", l.Section, "done", 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	if got := b.level(); got.Hand.Step != 2 {
		t.Errorf("after the step is done the hand holds step %d", got.Hand.Step)
	}
	if w := b.send(http.MethodPost, b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, usual)); w.Code != 409 {
		t.Errorf("a plan under work is replaced: %d %s", w.Code, w.Body)
	}
}

func TestStopIsAStop(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	l := b.level()
	refused := false
	for i := range 60 {
		w := b.entry(fmt.Sprintf("pass-%02d", i), l.Section, "pass", 1)
		if w.Code == 409 {
			refused = strings.Contains(w.Body.String(), "not counted")
			break
		}
	}
	got := b.level()
	if !refused || got.Hand.PassesGranted != 0 || got.Hand.Headline != "step done" || len(got.Hand.Ways) != 0 {
		t.Errorf("refused %v, %+v", refused, got.Hand)
	}
	if got.Hand.Ledger.BalanceUm.Mean < got.Hand.Ledger.FloorUm {
		t.Errorf("the stop came at %.1f µm, under the floor of %.0f", got.Hand.Ledger.BalanceUm.Mean, got.Hand.Ledger.FloorUm)
	}
}

func TestChangedFactsMakeAPlanStale(t *testing.T) {
	b := newBed(t)
	b.readings()
	first := b.accept()
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"peel_grade":6.6}`), 200, nil)
	var p api.Plan
	b.get(b.at("/plan"), &p)
	if p.Record == nil || p.Record.Stale == "" || p.Basis == first.Basis {
		t.Errorf("%+v", p.Record)
	}
	if l := b.level(); l.Hand != nil || !strings.Contains(l.Waits, "accept it again") {
		t.Errorf("levelling goes on under a stale plan: %q", l.Waits)
	}
	if w := b.send(http.MethodPost, b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, first.Basis, usual)); w.Code != 409 {
		t.Errorf("an old basis is accepted: %d", w.Code)
	}
	if again := b.accept(); again.Record.Version != 1 {
		t.Errorf("version %d", again.Record.Version)
	}
	for _, body := range []string{`{"peel_grade":11}`, `{"coats":-1}`, `{"origin":"rust"}`, `{"peel":4}`} {
		if w := b.send(http.MethodPatch, "/api/panels/"+b.panel, body); w.Code < 400 {
			t.Errorf("%s is taken", body)
		}
	}
}

func TestNewPlanStartsAtItsFirstStep(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	if w := b.entry("done", section, "done", 1); w.Code != http.StatusCreated {
		t.Fatal(w.Body)
	}
	if got := b.level().Hand.Step; got != 2 {
		t.Fatalf("step %d", got)
	}
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"peel_grade":6.6}`), 200, nil)
	b.accept()
	if l := b.level(); l.Hand.Step != 1 || len(l.Log) != 0 {
		t.Errorf("the new plan starts at step %d with %d entries of the plan before", l.Hand.Step, len(l.Log))
	}
}

func TestPlanOfRecordIsFrozen(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	ctx := context.Background()
	p, err := b.shop.Plan(ctx, b.panel)
	if err != nil || len(p.Steps) != 5 {
		t.Fatal(p, err)
	}
	// As a later program with other constants would find it.
	next := p
	next.ID, next.Steps = "as-accepted-before", nil
	for _, s := range p.Steps {
		s.PlanID, s.Passes, s.FilmUM = next.ID, s.Passes+2, s.FilmUM+1
		next.Steps = append(next.Steps, s)
	}
	if err := b.shop.AcceptPlan(ctx, &next, b.version()); err != nil {
		t.Fatal(err)
	}
	l := b.level()
	if want := p.Steps[0].Passes + 2; l.Hand.PassesNeeded != want || l.Steps[0].Passes != want {
		t.Errorf("the record says %d passes, the screen %d", want, l.Hand.PassesNeeded)
	}
	sum := 0.0
	for _, s := range l.Steps {
		sum += s.FilmUm.Mean
	}
	if want := p.FilmUM + 5; math.Abs(sum-want) > 1e-9 {
		t.Errorf("the record takes %.2f µm, the screen %.2f", want, sum)
	}
}

// TestManyHandsAtOnce has two tablets tap on one section while others look: every
// tap that is acknowledged is counted once, and the film still has the last word.
func TestManyHandsAtOnce(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	var wg sync.WaitGroup
	counted := make(chan int, 2)
	for hand := range 2 {
		wg.Go(func() {
			n := 0
			for i := range 4 {
				if w := b.entry(fmt.Sprintf("%d-tap-%d", hand, i), section, "pass", 1); w.Code == http.StatusCreated {
					n++
				}
			}
			counted <- n
		})
		wg.Go(func() {
			for _, path := range []string{"/read", "/level", "/plan", "/place?x_mm=300&y_mm=300"} {
				if w := b.send(http.MethodGet, b.at(path), ""); w.Code != http.StatusOK {
					t.Errorf("%s: %d", path, w.Code)
				}
			}
		})
	}
	wg.Wait()
	want := <-counted + <-counted
	if got := b.level().Hand.PassesDone; got != want || want == 0 {
		t.Errorf("%d passes are counted, %d were acknowledged", got, want)
	}
}
