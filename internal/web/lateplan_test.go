package web

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

// A tap names its plan. A pass that was made under a plan that another has replaced since
// is film gone where it was made, and no pass of the plan of record.
func TestALatePassCountsUnderItsOwnPlan(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	was := b.level()
	other := strings.Replace(usual, "p2000@rubber*7", "p2000@rubber*5", 1)
	p := b.plan(other)
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, other), 201, nil)
	fresh := b.level()
	if fresh.Plan == was.Plan || fresh.Plan == "" {
		t.Fatalf("the plan of record is %q, was %q", fresh.Plan, was.Plan)
	}
	tap := func(id, plan, kind string, step int, more string) int {
		t.Helper()
		return b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-%s","plan":%q,"section":%q,"step":%d,"kind":%q,"person":"Tove"%s}`, id, plan, was.Section, step, kind, more)).Code
	}
	for name, c := range map[string][2]int{
		"a plan that is none":          {tap("none", "no-such-plan", "pass", 1, ""), 422},
		"a paper under the old plan":   {tap("paper", was.Plan, "paper", 1, ""), 409},
		"a step that the old plan had": {tap("step", was.Plan, "pass", 9, `,"seconds_ago":600`), 422},
		"a step that the new plan has": {tap("step2", fresh.Plan, "pass", 9, `,"seconds_ago":600`), 422},
		"no plan at all":               {b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-nil","plan":"","section":%q,"step":1,"kind":"pass","person":"Tove"}`, was.Section)).Code, 422},
		"a late pass of the old plan":  {tap("late-1", was.Plan, "pass", 1, ""), 201},
		"another":                      {tap("late-2", was.Plan, "pass", 1, `,"seconds_ago":0.5`), 201},
	} {
		if c[0] != c[1] {
			t.Errorf("%s gives %d, want %d", name, c[0], c[1])
		}
	}
	l := b.level()
	if l.Plan != fresh.Plan || len(l.Log) != 0 || len(l.Earlier) != 2 || l.Hand.PassesDone != 0 {
		t.Errorf("plan %q, %d entries, %d earlier, %d passes done", l.Plan, len(l.Log), len(l.Earlier), l.Hand.PassesDone)
	}
	took := fresh.Hand.Ledger.OpeningUm.Mean - l.Hand.Ledger.OpeningUm.Mean
	if one := fresh.Hand.TakesUm.Mean; took < 1.5*one || took > 2.5*one {
		t.Errorf("two late passes took %.2f µm, one takes about %.2f", took, one)
	}
	if w := b.send(http.MethodPost, b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, b.plan(usual).Basis, usual)); w.Code != http.StatusConflict {
		t.Errorf("a worked panel gets another plan: %d", w.Code)
	}
	for _, id := range []string{"late-1", "late-2"} {
		b.into(b.send(http.MethodPost, "/api/log/entry-"+id+"/strike", `{"reason":"never made"}`), 200, nil)
	}
	if l := b.level(); l.Hand.Ledger.OpeningUm != fresh.Hand.Ledger.OpeningUm || len(l.Earlier) != 0 {
		t.Errorf("struck out, they still take: %+v, was %+v", l.Hand.Ledger.OpeningUm, fresh.Hand.Ledger.OpeningUm)
	}
}

// A pass that was made before a reading left the plan behind is film gone all the same;
// nothing else may be logged under a plan that no longer holds.
func TestAPassUnderAPlanThatAReadingLeftBehindCounts(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	was := b.level()
	b.reading("later", was.Spots[0].XMm+40, was.Spots[0].YMm+40, was.Spots[0].TotalUm.Mean)
	left := b.level()
	if left.Waits == "" || left.Plan != was.Plan {
		t.Fatalf("after a reading the plan %q still holds (%q)", left.Plan, left.Waits)
	}
	tap := func(kind string) int {
		return b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-%s","plan":%q,"section":%q,"step":1,"kind":%q,"person":"Tove"}`, kind, was.Plan, was.Section, kind)).Code
	}
	if code := tap("paper"); code != http.StatusConflict {
		t.Errorf("a paper gives %d", code)
	}
	if code := tap("pass"); code != http.StatusCreated {
		t.Fatalf("a pass that was made gives %d", code)
	}
	if l := b.level(); l.Hand == nil || l.Hand.PassesDone != 1 {
		t.Errorf("the pass is not in the log: %+v", l.Log)
	}
}

// What a late pass of an older plan took is put back to a reading that came after it.
func TestAReadingAfterALatePassOpensNothing(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	was := b.level()
	other := strings.Replace(usual, "p2000@rubber*7", "p2000@rubber*5", 1)
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, b.plan(other).Basis, other), 201, nil)
	section := was.Section
	for i := range 4 {
		b.wait(time.Minute)
		b.into(b.send(http.MethodPost, b.at("/log"), fmt.Sprintf(`{"id":"entry-late-%d","plan":%q,"section":%q,"step":1,"kind":"pass","person":"Tove"}`, i, was.Plan, section)), 201, nil)
	}
	worked := b.level()
	spot := worked.Spots[0]
	b.reading("after", spot.XMm, spot.YMm, spot.TotalUm.Mean-4)
	after := b.level()
	if d := after.Hand.Ledger.OpeningUm.Mean - worked.Hand.Ledger.OpeningUm.Mean; d > 1.5 || d < -3 {
		t.Errorf("a reading that shows what the late passes took moves the opening by %.2f µm", d)
	}
	var r api.Read
	b.get(b.at("/read"), &r)
	if last := r.Readings[len(r.Readings)-1]; last.Odd != nil {
		t.Errorf("it is odd: %s", *last.Odd)
	}
}

// House rules and limits are changed one by one: two tablets that change different ones at
// once both keep theirs.
func TestRulesAndLimitsAreNotLost(t *testing.T) {
	b := newBed(t)
	rules := map[string]string{"flatten": "block", "far": "texture", "begin": "finest", "refine": "fine", "time": "double", "water": "soaked", "paper": "used", "pads": "one"}
	done := make(chan int, len(rules))
	for key, school := range rules {
		go func() {
			done <- b.send(http.MethodPut, "/api/rules", fmt.Sprintf(`{"key":%q,"school":%q}`, key, school)).Code
		}()
	}
	for range rules {
		if code := <-done; code != 200 {
			t.Errorf("a rule gives %d", code)
		}
	}
	var all []api.HouseRule
	b.get("/api/rules", &all)
	for _, r := range all {
		if want, set := rules[r.Key]; set && r.Chosen != want {
			t.Errorf("%s is %q, was set to %q", r.Key, r.Chosen, want)
		}
	}
}

// Times in sentences are those of the shop's own zone, whatever the server's machine is
// set to.
func TestTimesAreTheShopsOwn(t *testing.T) {
	b := newBed(t) // its clock is at 10:00 UTC on 4 May 2031
	check := func(want string) {
		t.Helper()
		var gauges []api.Gauge
		b.post("/api/gauges/shop/checks", `{"zero":0.1,"foil":0,"read":0,"unit":"um"}`, 201, nil)
		b.get("/api/gauges", &gauges)
		if !strings.Contains(gauges[0].Check, want) {
			t.Errorf("%q does not say %q", gauges[0].Check, want)
		}
	}
	check("4 May 10:00")
	var s api.Shop
	b.into(b.send(http.MethodPut, "/api/shop", `{"time_zone":"Asia/Kathmandu"}`), 200, &s)
	if s.TimeZone != "Asia/Kathmandu" || !s.TimeZoneSet || s.Unit != api.Um {
		t.Errorf("%+v", s)
	}
	check("4 May 15:4")
	b.into(b.send(http.MethodPut, "/api/shop", `{"unit":"mil"}`), 200, &s)
	if s.TimeZone != "Asia/Kathmandu" {
		t.Errorf("changing the unit changes the zone: %+v", s)
	}
	if w := b.send(http.MethodPut, "/api/shop", `{"time_zone":"Mars/Olympus"}`); w.Code != 422 || !strings.Contains(w.Body.String(), "Region/City") {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
	b.into(b.send(http.MethodPut, "/api/shop", `{"time_zone":""}`), 200, &s)
	if s.TimeZone != "UTC" || s.TimeZoneSet {
		t.Errorf("%+v", s)
	}
}
