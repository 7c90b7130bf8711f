package web

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

func (b *bed) week() (w api.Week) {
	b.t.Helper()
	b.get("/api/week", &w)
	return w
}

func taskOf(t *testing.T, w api.Week, title string) api.WeekTask {
	t.Helper()
	i := slices.IndexFunc(w.Tasks, func(k api.WeekTask) bool { return k.Title == title })
	if i < 0 {
		t.Fatalf("no %s among %d tasks", title, len(w.Tasks))
	}
	return w.Tasks[i]
}

const usualHours = `[[],[{"from":480,"to":720},{"from":750,"to":1020}],[{"from":480,"to":720},{"from":750,"to":1020}],[{"from":480,"to":720},{"from":750,"to":1020}],[{"from":480,"to":720},{"from":750,"to":1020}],[{"from":480,"to":720},{"from":750,"to":1020}],[]]`

// From a Sunday on, a car that was taken in is planned from its washing to its hand over on
// the hours of whoever works there.
func TestAWeekIsPlannedMovedAndHeldToItsPromises(t *testing.T) {
	b := newBed(t)
	w := b.week()
	var titles []string
	for _, k := range w.Tasks {
		titles = append(titles, k.Title)
		if k.Person != "Tove" || k.Start.Weekday() == time.Sunday || k.Minutes <= 0 || k.Why == "" {
			t.Errorf("%+v", k)
		}
	}
	if all := strings.Join(titles, ", "); !strings.HasPrefix(all, "Wash, Look, Read, Plan, Mask, Level") || !strings.HasSuffix(all, "Clean up, Panel wipe, Prove, Hand over") {
		t.Errorf("the work is %s", all)
	}
	if c := w.Cars[0]; c.DoneAt == nil || c.Late || c.Hours.Low >= c.Hours.Likely || c.Hours.High <= c.Hours.Likely || len(c.Chain) != len(w.Tasks) || len(w.Faults) != 0 {
		t.Errorf("%+v, %v", c, w.Faults)
	}
	if !strings.Contains(w.Text, "No car has a date") || len(w.Days) != 14 || len(w.Days[0].Spans) != 0 || len(w.Days[1].Spans) != 2 {
		t.Errorf("%s; %+v", w.Text, w.Days[:2])
	}
	// Promised for a day before it can be done: late, and told.
	promise := func(at string) {
		t.Helper()
		b.into(b.send(http.MethodPut, "/api/cars/"+b.car+"/promise", at), http.StatusNoContent, nil)
	}
	promise(`{"due_at":"2031-05-05T09:00:00Z"}`)
	if w = b.week(); !w.Cars[0].Late || !strings.Contains(w.Text, "Side flap is late") || len(w.Moved) != 0 {
		t.Errorf("%s; late %v, moved %v", w.Text, w.Cars[0].Late, w.Moved)
	}
	promise(`{"due_at":"2031-05-09T16:00:00Z"}`)
	if w = b.week(); w.Cars[0].Late || !strings.Contains(w.Text, "Everything promised fits") {
		t.Errorf("%s", w.Text)
	}
	promise(`{}`)
	b.into(b.send(http.MethodPut, "/api/cars/"+b.car+"/promise", `{"due_at":"1990-05-09T16:00:00Z"}`), 422, nil)

	level := taskOf(t, w, "Level")
	put := func(at, person string, status int, out any) {
		t.Helper()
		b.post("/api/week/moves", `{"task":"`+level.Key+`","person":"`+person+`","at":"`+at+`","by":"Tove"}`, status, out)
	}
	var no api.Problem
	put("2031-05-05T08:00:00Z", "Tove", 409, &no)
	if !strings.Contains(no.Detail, "comes after Mask") {
		t.Errorf("%s", no.Detail)
	}
	if put("2031-05-07T20:00:00Z", "Tove", 409, &no); !strings.Contains(no.Detail, "Nobody works then") {
		t.Errorf("%s", no.Detail)
	}
	if put("2031-05-07T09:00:00Z", "Cy", 409, &no); !strings.Contains(no.Detail, "not for them") {
		t.Errorf("%s", no.Detail)
	}
	if put("2031-05-01T09:00:00Z", "Tove", 409, &no); !strings.Contains(no.Detail, "in the past") {
		t.Errorf("%s", no.Detail)
	}
	put("2031-05-07T09:00:00Z", "Tove", 200, &w)
	if k := taskOf(t, w, "Level"); !k.Start.Equal(time.Date(2031, 5, 7, 9, 0, 0, 0, time.UTC)) || !k.Put || len(w.Moved) == 0 || !strings.Contains(strings.Join(w.Moved, " "), "somebody put it there") {
		t.Errorf("%+v, moved %v", k, w.Moved)
	}
	b.post("/api/week/moves", `{"task":"none","person":"Tove","at":"2031-05-07T09:00:00Z","by":"Tove"}`, 422, nil)
	b.post("/api/week/let", `{"task":"`+level.Key+`"}`, 200, &w)
	if k := taskOf(t, w, "Level"); k.Put {
		t.Errorf("%+v", k)
	}
	b.get("/api/week?anew=true", &w)
	if k := taskOf(t, w, "Level"); k.Start.Day() != 5 || len(w.Moved) != 0 {
		t.Errorf("planned anew it begins %v", k.Start)
	}
	// As a calendar, by car and by person.
	for _, at := range []string{"/api/cars/" + b.car + "/week.ics", "/api/people/Tove/week.ics"} {
		cal := b.send(http.MethodGet, at, "")
		if text := cal.Body.String(); cal.Code != 200 || strings.Count(text, "BEGIN:VEVENT") != len(w.Tasks) || !strings.Contains(text, "SUMMARY:") {
			t.Errorf("%s: %d, %s", at, cal.Code, text)
		}
	}
	for _, at := range []string{"/api/cars/none/week.ics", "/api/people/Nobody/week.ics"} {
		if cal := b.send(http.MethodGet, at, ""); cal.Code != 404 {
			t.Errorf("%s: %d", at, cal.Code)
		}
	}
	// Time goes by and nothing is done: what should be over by now moves on from now.
	b.wait(26 * time.Hour)
	if w = b.week(); taskOf(t, w, "Wash").Start.Before(w.Now) || len(w.Moved) == 0 {
		t.Errorf("washing begins at %v, now %v", taskOf(t, w, "Wash").Start, w.Now)
	}
	b.post("/api/cars/"+b.car+"/checklist", `{"task":"wash","done":true,"person":"Tove"}`, 200, nil)
	if w = b.week(); slices.ContainsFunc(w.Tasks, func(k api.WeekTask) bool { return k.Title == "Wash" }) {
		t.Error("washed, it is washed again")
	}
	has := func(title string) bool {
		return slices.ContainsFunc(b.week().Tasks, func(k api.WeekTask) bool { return k.Title == title })
	}
	if has("Strip wax") {
		t.Error("fresh paint has no wax on it")
	}
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"origin":"factory"}`), 200, nil)
	if !has("Strip wax") {
		t.Error("nobody strips the wax off old paint")
	}
	b.post("/api/cars/"+b.car+"/checklist", `{"task":"strip","done":true,"person":"Tove"}`, 200, nil)
	if has("Strip wax") {
		t.Error("stripped, it is stripped again")
	}
}

func TestHoursSkillsAndTheWorkshopAreSaidAndBadOnesNamed(t *testing.T) {
	b := newBed(t)
	var h api.Hands
	set := func(body string, status int, out any) {
		t.Helper()
		b.into(b.send(http.MethodPut, "/api/people/hours", body), status, out)
	}
	b.into(b.send(http.MethodPut, "/api/people", `{"name":"Issa","coarsest":"3000"}`), 200, nil)
	set(`{"name":"Issa","week":[[],[{"from":540,"to":780}],[],[],[],[],[]],"off":[{"from":"2031-05-12","to":"2031-05-16"}],"kinds":["wash","refine","polish"],"machine_min":60,"rate":31}`, 200, &h)
	i := slices.IndexFunc(h.People, func(p api.Person) bool { return p.Name == "Issa" })
	if p := h.People[i]; !p.OwnHours || len(p.Week[1]) != 1 || p.MachineMin != 60 || p.Rate != 31 || len(p.Kinds) != 3 || len(p.Off) != 1 || !strings.Contains(p.HoursText, "4 h a week") || !strings.Contains(p.HoursText, "31 € an hour; 3 kinds of 18 tasks") {
		t.Errorf("%+v", p)
	}
	all := []string{}
	for _, k := range h.Tasks {
		if k.Kind != "block" && k.Kind != "runs" {
			all = append(all, fmt.Sprintf("%q", k.Kind))
		}
	}
	set(`{"name":"Issa","kinds":[`+strings.Join(all, ",")+`]}`, 200, &h)
	if p := h.People[i]; !strings.HasSuffix(p.HoursText, "; not for runs, level") {
		t.Errorf("%s", p.HoursText)
	}
	set(`{"name":"Issa","kinds":["wash","refine","polish"]}`, 200, &h)
	var no api.Problem
	for body, want := range map[string]string{
		`{"name":"Issa","week":[[{"from":600,"to":500}],[],[],[],[],[],[]]}`: "Sunday",
		`{"name":"Issa","kinds":["dance"]}`:                                  "dance",
		`{"name":"Issa","machine_min":-1}`:                                   "min a day",
		`{"name":"Issa","off":[{"from":"2031-05-12","to":"2031-05-01"}]}`:    "first comes first",
	} {
		if set(body, 422, &no); !strings.Contains(no.Detail, want) {
			t.Errorf("%s: %s", body, no.Detail)
		}
	}
	// Nobody who may level has hours: named, and the rest is planned.
	none := `[[],[],[],[],[],[],[]]`
	set(`{"name":"Tove","week":`+none+`}`, 200, nil)
	w := b.week()
	if all := strings.Join(w.Faults, " "); !strings.Contains(all, "Tove works at no time") || !strings.Contains(all, "Give them hours") {
		t.Errorf("%v", w.Faults)
	}
	if len(w.Tasks) != 1 || w.Tasks[0].Title != "Wash" || w.Tasks[0].Person != "Issa" {
		t.Errorf("%+v", w.Tasks)
	}
	set(`{"name":"Tove","week":[]}`, 200, nil)

	var shop api.Workshop
	b.get("/api/shop/work", &shop)
	if shop.Climate.UsualC != 20 || len(shop.Week) != 7 || shop.Rates.Labour == nil || *shop.Rates.Labour != 55 {
		t.Errorf("%+v", shop)
	}
	workshop := func(more string) string {
		return `{"week":` + usualHours + `,"holidays":[],"bays":2,"per_car":0,"machines":[{"tool":"rotary","count":1}],"climate":{"usual_c":12,"days":[{"day":"2031-05-05","celsius":25}]},` +
			`"rates":{"risk":0.1,"respray":400,"tax":0.2,"round":5,"valid_days":10},"paints":[{"name":"Harbour clear","coat_um":27,"coats":2,"sand_air_h":16,"sand_baked_h":2,"cuts_well_d":5}]` + more + `}`
	}
	put := func(body string, status int, out any) {
		t.Helper()
		b.into(b.send(http.MethodPut, "/api/shop/work", body), status, out)
	}
	put(workshop(""), 200, &shop)
	if shop.Bays != 2 || shop.Machines[0].Count != 1 || shop.Climate.UsualC != 12 || shop.Climate.Days[0].Celsius != 25 || *shop.Paints[0].CoatUm != 27 || shop.Rates.Tax != 0.2 {
		t.Errorf("%+v", shop)
	}
	for from, to := range map[string]string{`"usual_c":12`: `"usual_c":80`, `"tax":0.2`: `"tax":7`, `"sand_air_h":16`: `"sand_air_h":-1`, `"bays":2`: `"bays":-1`, usualHours: none} {
		if put(strings.Replace(workshop(""), from, to, 1), 422, &no); no.Detail == "" {
			t.Errorf("%s is taken", to)
		}
	}
	put(strings.Replace(workshop(""), `"paints":[`, `"paints":[{"name":"harbour CLEAR"},`, 1), 422, &no)
	if !strings.Contains(no.Detail, "two sheets") && !strings.Contains(no.Detail, "Two sheets") {
		t.Errorf("%s", no.Detail)
	}
}

// Fresh paint is soft until a moment that is counted from its spraying, its film, how warm it
// is and what its maker says; nothing is sanded before.
func TestWhatIsSoftIsNotSandedYet(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"sprayed_at":"2031-05-04T09:00:00Z","cure":"air","coats":2}`), 200, nil)
	w := b.week()
	if all := w.Cars[0].Waits; len(all) != 2 || all[0].Kind != api.WeekWaitKindSand || all[1].Kind != api.WeekWaitKindDry || !strings.Contains(all[1].Text, "keep dry until") {
		t.Fatalf("%+v", w.Cars[0].Waits)
	}
	until := w.Cars[0].Waits[0].Until
	if level := taskOf(t, w, "Level"); level.Start.Before(until) || until.Sub(w.Cars[0].Waits[0].From) < 20*time.Hour {
		t.Errorf("levelled at %v, soft until %v", level.Start, until)
	}
	b.readings()
	plan := b.plan("")
	if all := strings.Join(append(plan.How, plan.Cautions...), " "); !strings.Contains(all, "Kept dry until") || strings.Contains(all, "sprayed while working") {
		t.Errorf("kept dry, and worked so: %s", all)
	}
	warm := strings.Replace(`{"week":W,"holidays":[],"bays":0,"per_car":0,"machines":[],"climate":{"usual_c":30,"days":[]},"rates":{"risk":0.1,"respray":400,"tax":0.2,"round":5,"valid_days":10},"paints":[]}`, "W", usualHours, 1)
	b.into(b.send(http.MethodPut, "/api/shop/work", warm), 200, nil)
	if again := b.week().Cars[0].Waits[0]; !again.Until.Before(until) || !strings.Contains(again.Why, "it may be") {
		t.Errorf("in the warm it is soft until %v, %s", again.Until, again.Why)
	}
}

// A panel that is taken in with a paint of the shop knows the film a coat and the times of its
// sheet, also after the shop has written it down otherwise.
func TestAPaintOfTheShopBringsItsSheet(t *testing.T) {
	b := newBed(t)
	sheet := func(name string, um string) {
		t.Helper()
		b.into(b.send(http.MethodPut, "/api/shop/work", `{"week":`+usualHours+`,"holidays":[],"bays":0,"per_car":0,"machines":[],"climate":{"usual_c":20,"days":[]},"rates":{"risk":0.1,"respray":400,"tax":0.2,"round":5,"valid_days":10},`+
			`"paints":[{"name":"`+name+`","coat_um":`+um+`,"coats":2,"sand_air_h":10}]}`), 200, nil)
	}
	sheet("Harbour clear", "27")
	var p api.Panel
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"paint":"harbour clear","coats":2,"cure":"air","sprayed_at":"2031-05-04T09:00:00Z"}`), 200, &p)
	if p.DryUm != 27 || p.Paint == nil || *p.Paint != "Harbour clear" {
		t.Errorf("%v µm a coat of %v", p.DryUm, p.Paint)
	}
	wait := func() time.Duration {
		w := b.week().Cars[0].Waits
		if len(w) != 2 || w[0].Kind != api.WeekWaitKindSand || !strings.Contains(w[0].Why, "maker's sheet") || w[1].Kind != api.WeekWaitKindDry {
			t.Fatalf("%+v", w)
		}
		return w[0].Until.Sub(w[0].From)
	}
	if got := wait(); got != 10*time.Hour {
		t.Errorf("soft for %v", got)
	}
	sheet("Another", "30")
	if got := wait(); got != 10*time.Hour {
		t.Errorf("its sheet is gone with the shop's: soft for %v", got)
	}
	var no api.Problem
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"paint":"Harbour clear"}`), 422, &no)
	if !strings.Contains(no.Detail, "no sheet") || *no.Field != "paint" {
		t.Errorf("%+v", no)
	}
	var none api.Panel
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"paint":""}`), 200, &none)
	if none.Paint != nil || none.DryUm != 27 {
		t.Errorf("%+v, %v", none.Paint, none.DryUm)
	}
}

func TestAHandIsHeldAgainstTheScale(t *testing.T) {
	b := newBed(t)
	for kg, want := range map[string]string{"2.7": "as it should be", "5": "faster", "1": "slower"} {
		var p api.Press
		if b.get("/api/press?backing=rubber&kg="+kg, &p); !strings.Contains(p.Text, want) || p.WantsKg < 2.6 || p.WantsKg > 2.75 {
			t.Errorf("%s kg: %+v", kg, p)
		}
	}
	var no api.Problem
	b.into(b.send(http.MethodGet, "/api/press?backing=rubber&kg=0", ""), 422, &no)
	b.into(b.send(http.MethodGet, "/api/press?backing=sponge&kg=2", ""), 422, &no)
}

// A reading that is due between passes and an owner who was not told once work has begun stand
// among what to look at first, until they are done.
func TestWhatIsDueStandsFirst(t *testing.T) {
	b := newBed(t)
	b.readings()
	kinds := func() map[api.AlertKind]api.Alert {
		t.Helper()
		out := map[api.AlertKind]api.Alert{}
		for _, a := range b.week().Alerts {
			out[a.Kind] = a
		}
		return out
	}
	b.into(b.send(http.MethodPatch, "/api/cars/"+b.car+"/panels", `{"keys":["panel"],"facts":{"aim":"match"}}`), 200, nil)
	b.accept()
	section := b.level().Section
	for n := 0; ; n++ {
		var l api.Level
		if b.get(b.at("/level?section="+section), &l); l.Hand.ReadAfter == 0 || n > 7 {
			break
		}
		if due, ok := kinds()[api.AlertKindRead]; ok {
			t.Errorf("after %d passes, with %d to go: %+v", n, l.Hand.ReadAfter, due)
		}
		b.into(b.entry(fmt.Sprintf("due-%d", n), section, "pass", 1), 201, nil)
		b.wait(3 * time.Minute)
	}
	now := kinds()
	if due := now[api.AlertKindRead]; due.PanelId == nil || *due.PanelId != b.panel || !strings.Contains(due.Text, "before the next pass") {
		t.Errorf("after all of them: %+v", now)
	}
	if tell := now[api.AlertKindTell]; !strings.Contains(tell.Text, "Work has begun") {
		t.Errorf("the owner was not told: %+v", now)
	}
	b.reading("due-1", 150, 150, 155)
	b.reading("due-2", 160, 160, 155)
	if due, ok := kinds()[api.AlertKindRead]; ok {
		t.Errorf("read, yet %+v", due)
	}
}
