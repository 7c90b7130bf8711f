package web

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

// Late passes count as made, but no more of them than a hand makes; what would have stopped
// one in time is told beside it.
func TestLatePassesHaveABound(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	const tablet = `,"device":"tablet-one","seconds_ago":600`
	if w := b.tell("in-time", "pass", `,"device":"tablet-one"`, 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	b.wait(10 * time.Minute)
	kept, refused := 0, ""
	for i := range 300 {
		w := b.tell(fmt.Sprintf("late-%03d", i), "pass", tablet, 1)
		if w.Code == http.StatusConflict {
			refused = w.Body.String()
			break
		}
		kept++
	}
	if kept < 10 || kept > 200 || !strings.Contains(refused, "more than a hand makes") {
		t.Errorf("%d late passes in ten minutes are kept, then: %s", kept, refused)
	}
	if w := b.tell("late-other", "pass", `,"device":"tablet-two","seconds_ago":60`, 1); w.Code != 201 {
		t.Errorf("the pass of another tablet: %d %s", w.Code, w.Body)
	}
	if w := b.tell("through-1", "through", "", 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	if w := b.tell("after-1", "pass", `,"device":"tablet-two","seconds_ago":40`, 1); w.Code != 201 {
		t.Fatalf("a pass that was made is lost: %d %s", w.Code, w.Body)
	}
	var late []string
	for _, e := range b.level().Log {
		if e.Late != nil {
			late = append(late, *e.Late)
		}
	}
	if len(late) != kept+2 || !strings.HasPrefix(late[0], "10 min late") || !strings.Contains(late[len(late)-1], "nothing more was to be cut here") {
		t.Errorf("%d are told as late: %v", len(late), late[max(len(late)-2, 0):])
	}
}

// Order is the order of record: a reading whose clock is ahead does not stand for passes
// that came on record after it.
func TestAClockAheadGrantsNoPass(t *testing.T) {
	granted := func(clock string) int {
		b := makeBed(t)
		b.readings()
		b.accept()
		section := b.level().Section
		at := b.level().Spots[0]
		now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
		when := map[string]time.Time{"right": now.Add(-time.Hour), "ahead": now.Add(70 * time.Second)}[clock]
		csv := fmt.Sprintf("film_um,x_mm,y_mm,time\\n%.1f,%.0f,%.0f,%s", at.TotalUm.Mean, at.XMm+3, at.YMm, when.Format(time.RFC3339))
		b.into(b.send(http.MethodPost, b.at("/import"), `{"file_name":"a.csv","text":"`+csv+`"}`), 200, nil)
		p := b.plan("")
		b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, usual), 201, nil)
		var r api.Read
		if b.get(b.at("/read"), &r); len(r.Readings) != 7 {
			t.Fatalf("%d readings with a clock that is %s", len(r.Readings), clock)
		}
		b.log(4, "pass", section, "pass", 1)
		return b.level().Hand.PassesGranted
	}
	if right, ahead := granted("right"), granted("ahead"); ahead > right {
		t.Errorf("a clock ahead grants %d passes, a right one %d", ahead, right)
	}
}

// One resent id is one thing: with other content it is refused.
func TestAResentIDWithOtherContentIsRefused(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	section := b.level().Section
	for _, c := range []struct{ path, body, other string }{
		{b.at("/log"), `{"id":"entry-0001","plan":"PLAN","section":"` + section + `","step":1,"kind":"pass","person":"Tove"}`, `{"id":"entry-0001","plan":"PLAN","section":"` + section + `","step":1,"kind":"pass","person":"Issa"}`},
		{b.at("/marks"), `{"id":"mark-0001","kind":"nib","x_mm":200,"y_mm":200,"person":"Tove"}`, `{"id":"mark-0001","kind":"run","x_mm":200,"y_mm":200,"person":"Tove"}`},
		{b.at("/readings"), `{"id":"read-0001","x_mm":200,"y_mm":200,"film":155,"unit":"um","phase":"total","sure":"typed twice"}`, `{"id":"read-0001","x_mm":200,"y_mm":200,"film":156,"unit":"um","phase":"total","sure":"typed twice"}`},
	} {
		plan := b.level().Plan
		for _, one := range []struct {
			body string
			code int
		}{{c.body, 201}, {c.body, 201}, {c.other, 409}} {
			if w := b.send(http.MethodPost, c.path, strings.Replace(one.body, "PLAN", plan, 1)); w.Code != one.code {
				t.Errorf("%s gives %d, want %d: %s", one.body, w.Code, one.code, w.Body)
			}
		}
	}
}

// Two tablets that change the same rule or limit: the later one is told.
func TestAChangeThatWasNotSeenIsNotOverwritten(t *testing.T) {
	b := newBed(t)
	var rules []api.HouseRule
	b.get("/api/rules", &rules)
	r := rules[0]
	other := r.Schools[0].Key
	if other == r.Chosen {
		other = r.Schools[1].Key
	}
	set := func(school, was string) int {
		return b.send(http.MethodPut, "/api/rules", fmt.Sprintf(`{"key":%q,"school":%q,"was":%q}`, r.Key, school, was)).Code
	}
	if first, second := set(other, r.Chosen), set(r.Chosen, r.Chosen); first != 200 || second != 409 {
		t.Errorf("a rule: %d, then %d", first, second)
	}
	limit := func(to, was string) int {
		return b.send(http.MethodPut, "/api/people", fmt.Sprintf(`{"name":"Tove","coarsest":%q,"was":%q}`, to, was)).Code
	}
	if first, second := limit("P2000", ""), limit("P1500", ""); first != 200 || second != 409 {
		t.Errorf("a limit: %d, then %d", first, second)
	}
}

// What makes no sense is refused in a sentence, and nothing of it is kept.
func TestNonsenseIsRefused(t *testing.T) {
	b := newBed(t)
	b.readings()
	zone := func(points string) string {
		return `{"zones":[{"name":"z","outline":[` + points + `],"origin":"factory","layers":"clear","coats":0}]}`
	}
	for _, c := range []struct{ method, path, body, want string }{
		{http.MethodPut, b.at("/zones"), zone(`{"x":2000,"y":2000},{"x":2400,"y":2000},{"x":2400,"y":2400}`), "does not lie on the paint"},
		{http.MethodPut, b.at("/zones"), zone(`{"x":100,"y":100},{"x":400,"y":400},{"x":400,"y":100},{"x":100,"y":400}`), "crosses itself"},
		{http.MethodPut, b.at("/zones"), zone(`{"x":100,"y":100},{"x":200,"y":200},{"x":300,"y":300}`), "no area"},
		{http.MethodPost, "/api/gauges/shop/checks", `{"zero":1e308,"foil":0,"read":0,"unit":"um"}`, "beyond any number"},
		{http.MethodPost, "/api/gauges/shop/checks", `{"zero":900,"foil":0,"read":0,"unit":"um"}`, "no zero"},
		{http.MethodPost, b.at("/import/preview"), `{"file_name":"a.csv","text":"a,b\n1,2","columns":{"film":1,"x":1,"y":1,"panel":0,"time":0}}`, "named for two things"},
		{http.MethodPost, b.at("/tries"), `{"id":"try-00001","section":"b0r0c0","ladder":"p2000@rubber*2","film_before_um":100,"film_after_um":140,"spots":3,"clarity_before":20,"clarity_after":60,"person":"Tove"}`, "cannot grow"},
	} {
		if w := b.send(c.method, c.path, c.body); w.Code < 400 || w.Code >= 500 || !strings.Contains(w.Body.String(), c.want) {
			t.Errorf("%s gives %d: %s", c.body, w.Code, w.Body)
		}
	}
	var preview api.ImportPreview
	b.post(b.at("/import/preview"), `{"file_name":"a.csv","text":"film_um,x_mm,y_mm,time\n150,200,200,0001-01-01T00:00:00Z"}`, 200, &preview)
	if len(preview.Rows) != 1 || preview.Rows[0].Outcome != api.Bad {
		t.Errorf("a reading of year 1: %+v", preview.Rows)
	}
}
