package web

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

// tell logs an entry with more than its kind.
func (b *bed) tell(id, kind, more string, step int) *httptest.ResponseRecorder {
	return b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-%s","section":%q,"step":%d,"kind":%q,"person":"Tove"%s}`, id, b.level().Sections[0].Key, step, kind, more))
}

// A look at what still shines changes the passes that are needed, on a stiff
// backing, and only there.
func TestALookTellsThePassesToFlat(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	if w := b.tell("early", "shiny", `,"share":0.5`, 1); w.Code != 409 || !strings.Contains(w.Body.String(), "after the first pass") {
		t.Errorf("a look before any pass: %d %s", w.Code, w.Body)
	}
	for i := range 3 {
		if w := b.entry(fmt.Sprint("pass", i), section, "pass", 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	plan := b.level().Hand
	if plan.ByLook != nil || !plan.LookPays || plan.PassesNeeded != 4 {
		t.Fatalf("%+v", plan)
	}
	needs := func(id string, share float64) int {
		if w := b.tell(id, "shiny", fmt.Sprintf(`,"share":%v`, share), 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
		h := b.level().Hand
		if h.ByLook == nil || h.ByLook.Share != share || h.PassesLeft != min(h.PassesGranted, h.PassesNeeded) {
			t.Fatalf("%+v", h)
		}
		return h.PassesNeeded
	}
	rough, flat := needs("much", 0.5), needs("none", 0)
	if rough <= flat || rough <= 2 {
		t.Errorf("with half of it shining %d passes more, with none %d", rough, flat)
	}
	for _, bad := range []string{``, `,"share":1.2`, `,"share":-0.1`} {
		if w := b.tell("bad-one", "shiny", bad, 1); w.Code != 422 {
			t.Errorf("a look of %q gives %d", bad, w.Code)
		}
	}
	if log := b.level().Log; *log[len(log)-1].Share != 0 {
		t.Errorf("%+v", log[len(log)-1])
	}
}

func TestOnePassOverTheStop(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	if w := b.tell("over-0", "override", `,"reason":"edge of a patch"`, 1); w.Code != 409 || !strings.Contains(w.Body.String(), "nobody has to answer") {
		t.Errorf("an override before the stop: %d %s", w.Code, w.Body)
	}
	made := 0
	for ; made < 60; made++ {
		if w := b.entry(fmt.Sprintf("pass-%02d", made), section, "pass", 1); w.Code == 409 {
			break
		}
	}
	for _, bad := range []string{``, `,"reason":"  x "`} {
		if w := b.tell("over-1", "override", bad, 1); w.Code != 422 || !strings.Contains(w.Body.String(), "a reason") {
			t.Errorf("an override with %q: %d %s", bad, w.Code, w.Body)
		}
	}
	if w := b.tell("over-2", "override", `,"reason":"the owner wants it"`, 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	l := b.level()
	if l.Hand.PassesDone != made+1 || l.Hand.PassesGranted != 0 || *l.Log[len(l.Log)-1].Reason != "the owner wants it" {
		t.Errorf("%d passes after %d and one over the stop: %+v", l.Hand.PassesDone, made, l.Log[len(l.Log)-1])
	}
	if w := b.entry("pass-zz", section, "pass", 1); w.Code != 409 {
		t.Errorf("an override is a switch: %d", w.Code)
	}
}

// Taps that a tablet kept without a network arrive with the time they were made at,
// count once, and count although others have used the film up meanwhile.
func TestLateTapsCount(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	h := b.level().Hand
	if len(h.Ahead) != h.PassesLeft || h.Ahead[0].PassesLeft != h.PassesLeft-1 || h.Ahead[len(h.Ahead)-1].PassesLeft != 0 {
		t.Errorf("%d passes left, the table says %+v", h.PassesLeft, h.Ahead)
	}
	made := 0
	for ; made < 60; made++ {
		if w := b.entry(fmt.Sprintf("pass-%02d", made), section, "pass", 1); w.Code == 409 {
			break
		}
	}
	late := `,"seconds_ago":1200`
	for range 2 {
		if w := b.tell("late-001", "pass", late, 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	l := b.level()
	if l.Hand.PassesDone != made+1 {
		t.Errorf("%d passes, want %d and the late one once", l.Hand.PassesDone, made)
	}
	if last, first := l.Log[len(l.Log)-1], l.Log[0]; first.At.Sub(last.At) < 10*time.Minute {
		t.Errorf("the late tap is of %s, the first one of %s", last.At, first.At)
	}
	for _, soon := range []string{`,"seconds_ago":-500`, `,"seconds_ago":3`} {
		if w := b.tell("soon-001", "pass", soon, 1); w.Code != 409 {
			t.Errorf("a tap with %s opens the stop: %d", soon, w.Code)
		}
	}
	if w := b.tell("old-0001", "pass", `,"seconds_ago":3e7`, 1); w.Code != 422 || !strings.Contains(w.Body.String(), "two weeks") {
		t.Errorf("a tap of last year: %d %s", w.Code, w.Body)
	}
}

func TestWhatGoesWrongStops(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	if w := b.tell("scrape", "scrape", "", 1); w.Code != 201 || !strings.Contains(b.level().Hand.Alarm, "rinse") || b.level().Hand.Locked {
		t.Errorf("a scrape: %d %+v", w.Code, b.level().Hand.Alarm)
	}
	if w := b.entry("paper-1", section, "paper", 1); w.Code != 201 || b.level().Hand.Alarm != "" {
		t.Errorf("with a new sheet: %q", b.level().Hand.Alarm)
	}
	if w := b.tell("colour-1", "colour", "", 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	h := b.level().Hand
	if !h.Locked || h.PassesGranted != 0 || h.State != api.StateShut || !strings.Contains(h.Reason, "it is through") {
		t.Errorf("%+v", h)
	}
	for id, kind := range map[string]string{"pass-after": "pass", "over-after": "override"} {
		if w := b.tell(id, kind, `,"reason":"because of it"`, 1); w.Code != 409 {
			t.Errorf("a %s over colour: %d %s", kind, w.Code, w.Body)
		}
	}
	b.into(b.send(http.MethodPost, "/api/log/entry-colour-1/strike", `{"reason":"it was the old sponge"}`), 200, nil)
	if h := b.level().Hand; h.Locked || h.PassesGranted == 0 {
		t.Errorf("struck out: %+v", h)
	}
	if w := b.tell("through-1", "through", "", 1); w.Code != 201 || !b.level().Hand.Locked {
		t.Errorf("through: %d", w.Code)
	}
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"layers":"single"}`), 200, nil)
	if w := b.tell("colour-2", "colour", "", 1); w.Code != 409 {
		t.Errorf("colour on a single stage: %d %s", w.Code, w.Body)
	}
}

// A reading that waited for a network counts as of when it was taken: passes made
// after it were made after it.
func TestALateReadingComesBeforeLaterPasses(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	for i := range 3 {
		if w := b.entry(fmt.Sprint("pass", i), section, "pass", 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	before := b.level().Hand
	b.post(b.at("/readings"), `{"id":"reading-late","x_mm":150,"y_mm":150,"film":159.9,"unit":"um","phase":"total","seconds_ago":600}`, 201, nil)
	if h := b.level().Hand; h.ReadAfter != before.ReadAfter || h.RateFrom != before.RateFrom {
		t.Errorf("a reading from before the passes is taken for one after them: read after %d, %s", h.ReadAfter, h.RateFrom)
	}
	if w := b.send("POST", b.at("/readings"), `{"id":"reading-old","x_mm":150,"y_mm":150,"film":159.9,"unit":"um","phase":"total","seconds_ago":9e6}`); w.Code != 422 {
		t.Errorf("a reading of long ago: %d %s", w.Code, w.Body)
	}
}
