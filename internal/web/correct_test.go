package web

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

// swirled is a bed whose flap is read and said to have medium swirls, 8 in 10 of which shall
// go.
func swirled(t *testing.T) *bed {
	b := newBed(t)
	b.readings()
	b.into(b.send(http.MethodPatch, b.at(""), `{"swirls":"medium","dead":"none","gone":0.8,"aim":"polish"}`), 200, nil)
	return b
}

// readNext reads the panel at three places that it proposes.
func (b *bed) readNext(film float64) {
	b.t.Helper()
	for i := range 3 {
		var r api.Read
		b.get(b.at("/read"), &r)
		b.reading(fmt.Sprintf("%s-%d", b.panel, i), r.Next[0].XMm, r.Next[0].YMm, film)
	}
}

// square tells what a square of the way on screen shows.
func (b *bed) square(id, ladder, seen string) (int, string) {
	w := b.send(http.MethodPost, b.at("/squares"), fmt.Sprintf(`{"id":"square-%s","ladder":%q,"person":"Tove",%s}`, id, ladder, seen))
	return w.Code, w.Body.String()
}

// A meter says the share that is left as the eye does; what cannot be is asked back, and what
// was wrong is struck out with what it taught.
func TestSquaresByMeterAndStruckOut(t *testing.T) {
	b := swirled(t)
	p := b.plan("")
	for seen, want := range map[string]string{
		`"clarity_before":80,"clarity_after":70`:    "should be clearer",
		`"clarity_before":99,"clarity_after":99.5`:  "tells nothing of swirls",
		`"clarity_before":80`:                       "Say what the square shows",
		`"clarity_before":120,"clarity_after":10`:   "right is",
		`"clarity_before":"x","clarity_after":"10"`: "",
	} {
		if code, text := b.square("one", p.Offer.Ladder, seen); code < 400 || code > 499 || !strings.Contains(text, want) {
			t.Errorf("%s: %d %s", seen, code, text)
		}
	}
	said := b.condition().SwirlsUm.MedianUm
	if code, text := b.square("one", p.Offer.Ladder, `"clarity_before":80,"clarity_after":90`); code != 201 {
		t.Fatal(text)
	}
	byMeter := b.condition()
	if byMeter.Learned == nil || byMeter.SwirlsUm.MedianUm <= said {
		t.Errorf("half are left by the meter, and the depth is %+v", byMeter.SwirlsUm)
	}
	seen := b.plan("").SquaresSeen
	if len(seen) != 1 || !strings.Contains(seen[0].Text, "50 % of the swirls left") || !strings.Contains(seen[0].Text, "by meter") {
		t.Errorf("%+v", seen)
	}
	if w := b.send(http.MethodPost, "/api/squares/square-one/strike", `{"reason":""}`); w.Code != 422 {
		t.Errorf("struck without a reason: %d", w.Code)
	}
	b.into(b.send(http.MethodPost, "/api/squares/square-one/strike", `{"reason":"wrong half"}`), 204, nil)
	b.into(b.send(http.MethodPost, "/api/squares/square-one/strike", `{"reason":"wrong half"}`), 204, nil)
	if c := b.condition(); c.Learned != nil || c.SwirlsUm.MedianUm != said {
		t.Errorf("struck out, it still teaches %+v", c.SwirlsUm)
	}
	if w := b.send(http.MethodPost, "/api/squares/square-none/strike", `{"reason":"wrong half"}`); w.Code != 404 {
		t.Errorf("a square that there is not: %d", w.Code)
	}
}

// A square of one panel teaches those of the car that were said to look alike, with more
// doubt, until they have one of their own.
func TestASquareTeachesPanelsAlike(t *testing.T) {
	b := newBed(t)
	car := b.saloon(`{"origin":"factory","swirls":"medium","dead":"none","gone":0.8,"aim":"polish"}`)
	b.into(b.send(http.MethodPatch, "/api/cars/"+car+"/panels", `{"keys":["roof"],"facts":{"swirls":"heavy"}}`), 200, nil)
	b.readNext(120)
	if code, text := b.square("one", b.plan("").Offer.Ladder, `"left":0.5`); code != 201 {
		t.Fatal(text)
	}
	own := b.condition().SwirlsUm
	of := func(key string) *api.Condition {
		was := b.panel
		defer func() { b.panel = was }()
		b.panel = car + "." + key
		c := b.condition()
		return &c
	}
	alike, other := of("R-fdoor"), of("roof")
	if alike.SwirlsUm.MedianUm != own.MedianUm || alike.SwirlsUm.HighUm <= own.HighUm || alike.Learned == nil {
		t.Errorf("taught %+v by %+v", alike.SwirlsUm, own)
	}
	if other.Learned != nil {
		t.Errorf("a panel that looks otherwise learns %+v", other.SwirlsUm)
	}
	b.into(b.send(http.MethodPost, "/api/squares/square-one/strike", `{"reason":"wrong half"}`), 204, nil)
	if c := of("R-fdoor"); c.Learned != nil {
		t.Errorf("struck out, it still teaches the panels alike: %+v", c.SwirlsUm)
	}
}

func TestDeadLayersThickerThanTheFilmAreAskedBack(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, b.at(""), `{"layers":"single","swirls":"medium","dead":"heavy","gone":0.5,"aim":"polish"}`), 200, nil)
	b.readNext(34)
	if code, text := b.square("one", "wool-medium*2,foam-fine*2", `"off_after":30`); code != 422 || !strings.Contains(text, "dead paint, and only about") {
		t.Errorf("%d %s", code, text)
	}
}

// Level counts cycles by the swirls that are left: what is seen of the first section sets
// those of all, a part that looks worse gets more, and a warm section says so.
func TestLevelFollowsTheSwirls(t *testing.T) {
	b := swirled(t)
	sections := b.level().Sections
	first, last := sections[0].Key, sections[len(sections)-1].Key
	for body, want := range map[string]int{`{"section":"nowhere","swirls":"heavy"}`: 422, `{"section":"` + last + `","swirls":"awful"}`: 422, `{"section":"` + last + `","swirls":"heavy"}`: 200} {
		if w := b.send(http.MethodPut, b.at("/parts"), body); w.Code != want {
			t.Errorf("%s: %d %s", body, w.Code, w.Body)
		}
	}
	if c := b.condition(); len(c.Parts) != 1 || c.Parts[0].Section != last || *c.Parts[0].Swirls != "heavy" {
		t.Fatalf("%+v", c.Parts)
	}
	p := b.plan("wool-medium*3,foam-fine*2")
	if len(p.Correct.Parts) != 1 || !strings.Contains(p.Correct.Parts[0], "more of") {
		t.Errorf("%q", p.Correct.Parts)
	}
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, p.Offer.Ladder), 201, nil)
	needs := func(section string) int {
		var l api.Level
		b.get(b.at("/level?section="+section), &l)
		return l.Hand.PassesNeeded
	}
	usual, heavy := needs(first), needs(last)
	if heavy <= usual {
		t.Errorf("%d cycles are wanted where it is worn, %d elsewhere", heavy, usual)
	}
	b.log(usual, "cycle", first, "pass", 1)
	h := b.level().Hand
	if h.LookFor != api.SwirlsLeft || !h.LookPays || !strings.Contains(h.Swirls, "tell what is left") || usual >= 2 && h.Cooling == nil {
		t.Errorf("%d cycles: %s, %q, %+v", usual, h.LookFor, h.Swirls, h.Cooling)
	}
	b.wait(5 * time.Minute)
	if h := b.level().Hand; h.Cooling != nil {
		t.Errorf("warm after five minutes: %+v", h.Cooling)
	}
	if w := b.tell("look", "shiny", `,"share":0.6`, 1); w.Code != 201 {
		t.Fatal(w.Body)
	}
	h = b.level().Hand
	if h.PassesNeeded == 0 || !strings.Contains(h.Swirls, "By 1 look") {
		t.Errorf("6 in 10 are left and %d are wanted: %s", h.PassesNeeded, h.Swirls)
	}
	if now := needs(last); now != heavy {
		t.Errorf("a look elsewhere changes the worn part from %d to %d", heavy, now)
	}
	b.into(b.send(http.MethodPut, b.at("/parts"), `{"section":"`+last+`"}`), 200, nil)
	if r := b.plan("").Record; r == nil || !strings.Contains(r.Stale, "swirls and dead paint") {
		t.Errorf("the plan says nothing of what it rested on: %+v", r)
	}
	if c := b.condition(); len(c.Parts) != 0 {
		t.Errorf("taken back, there are %+v", c.Parts)
	}
}

// The car names the panel that gains most an hour and where the next µm shows most.
func TestACarNamesWhereItGains(t *testing.T) {
	b := newBed(t)
	car := b.saloon(`{"origin":"factory","swirls":"medium","dead":"none","gone":0.5,"aim":"polish"}`)
	for _, key := range []string{"L-fdoor", "roof"} {
		b.panel = car + "." + key
		b.readNext(125)
	}
	var plans api.CarPlans
	b.get("/api/cars/"+car+"/plans", &plans)
	if plans.Best == nil || plans.Film == nil || !strings.Contains(*plans.Film, "show most on the roof") {
		t.Fatalf("%+v %q", plans.Best, *plans.Film)
	}
	gains := 0
	for _, p := range plans.Panels {
		if p.GainM2PerHour != nil {
			gains++
		}
	}
	if gains < 2 {
		t.Errorf("%d panels gain something", gains)
	}
}

// An old factory finish keeps a higher floor where the house has it so, and a warm section is
// left to the hand where the house has that.
func TestHouseRulesOfAgeAndHeat(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, b.at(""), `{"origin":"factory","coats":0,"sprayed_at":"2016-05-04T10:00:00Z","swirls":"medium","dead":"none","gone":0.5,"aim":"polish"}`), 200, nil)
	for i, x := range []float64{150, 300, 450, 600, 750} {
		b.reading(fmt.Sprintf("old-%d", i), x, 200+float64(i%2)*200, 125)
	}
	const way = "wool-medium*2,foam-fine*2"
	usual := b.plan(way).Offer.FloorUm
	b.rule("age", "aged")
	aged := b.plan(way)
	if aged.Offer.FloorUm != usual+5 {
		t.Errorf("15 years out of doors raise the floor from %v to %v", usual, aged.Offer.FloorUm)
	}
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, aged.Basis, way), 201, nil)
	b.log(2, "cycle", b.level().Section, "pass", 1)
	if b.level().Hand.Cooling == nil {
		t.Error("two cycles in a row leave it cool")
	}
	b.rule("cool", "by_hand")
	if b.level().Hand.Cooling != nil {
		t.Error("the house leaves heat to the hand, and the screen does not")
	}
}

// rule has the house follow a school.
func (b *bed) rule(question, school string) {
	b.t.Helper()
	b.into(b.send(http.MethodPut, "/api/rules", fmt.Sprintf(`{"key":%q,"school":%q}`, question, school)), 200, nil)
}
