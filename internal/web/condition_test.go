package web

import (
	"fmt"
	"math"
	"net/http"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

func (b *bed) condition() api.Condition {
	b.t.Helper()
	var c api.Comparison
	b.get(b.at("/condition"), &c)
	return c.Condition
}

// What a panel looks like is kept, planned by and taught by a square; contradictions are
// asked back and change nothing.
func TestConditionOfAPanel(t *testing.T) {
	b := newBed(t)
	b.readings()
	change := func(body string) int { return b.send(http.MethodPatch, b.at(""), body).Code }
	if c := b.condition(); c.Swirls != nil || len(c.Shares) != 0 || c.Text == "" {
		t.Errorf("nobody looked: %+v", c)
	}
	for body, want := range map[string]string{
		`{"dead":"light","wet_test":"dull"}`:       "nothing dead lies on top",
		`{"dead":"none","wet_test":"gloss"}`:       "something dead lies on top",
		`{"cloth_test":"colour","layers":"clear"}`: "the clear is gone somewhere",
		`{"gone":1.2}`:          "right is",
		`{"swirls":"terrible"}`: "Swirls",
	} {
		w := b.send(http.MethodPatch, b.at(""), body)
		if w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s: %d %s", body, w.Code, w.Body)
		}
	}
	if c := b.condition(); c.Swirls != nil || c.Dead != nil || c.WetTest != nil {
		t.Errorf("a refusal leaves %+v", c)
	}
	if code := change(`{"swirls":"medium","dead":"none","gone":0.8,"aim":"polish"}`); code != 200 {
		t.Fatal(code)
	}
	c := b.condition()
	if *c.Swirls != "medium" || len(c.Shares) != 3 || math.Abs(c.Shares[1].RemovalUm-1.29) > 0.01 || c.Shares[1].Chance == nil {
		t.Errorf("%+v", c)
	}
	p := b.plan("")
	if p.Correct == nil || p.Correct.Gone != 0.8 || len(p.Correct.Packages) == 0 || len(p.Offers) == 0 {
		t.Fatalf("%+v", p.Correct)
	}
	for _, o := range p.Offers {
		if o.Gone == nil || *o.Gone < 0.8 {
			t.Errorf("%s takes %v", o.Ladder, o.Gone)
		}
	}
	var less api.Plan
	b.get(b.at("/plan?gone=0.5"), &less)
	if less.Offers[0].FilmUm.Mean >= p.Offers[0].FilmUm.Mean || b.condition().Gone != 0.8 {
		t.Errorf("half of them takes %.2f µm, 80 %% %.2f; kept is %v", less.Offers[0].FilmUm.Mean, p.Offers[0].FilmUm.Mean, b.condition().Gone)
	}
	pic := b.send(http.MethodGet, b.at("/plan/pictures/0?ladder="+p.Offer.Ladder), "")
	if pic.Code != 200 || !strings.HasPrefix(pic.Body.String(), "\x89PNG") {
		t.Errorf("%d", pic.Code)
	}

	square := func(id, rest string) (int, string) {
		w := b.send(http.MethodPost, b.at("/squares"), fmt.Sprintf(`{"id":"square-%s","ladder":%q,"person":"Tove",%s}`, id, p.Offer.Ladder, rest))
		return w.Code, w.Body.String()
	}
	for rest, want := range map[string]int{`"left":1.4`: 422, `"off_after":0`: 422, `"left":0.5`: 201} {
		if code, text := square("one", rest); code != want {
			t.Errorf("%s: %d %s", rest, code, text)
		}
	}
	taught := b.condition()
	if taught.Learned == nil || taught.SwirlsUm.MedianUm <= 0.8*1.5 {
		t.Errorf("half are left where 8 in 10 should be gone: %+v", taught.SwirlsUm)
	}
	if code, _ := square("one", `"left":0.5`); code != 201 || b.condition().SwirlsUm.MedianUm != taught.SwirlsUm.MedianUm {
		t.Error("sent again it teaches twice")
	}
	if more := b.plan(""); len(more.Offers) > 0 && more.Offers[0].FilmUm.Mean <= p.Offers[0].FilmUm.Mean {
		t.Errorf("deeper swirls take %.2f µm, before %.2f", more.Offers[0].FilmUm.Mean, p.Offers[0].FilmUm.Mean)
	}
	if code := change(`{"swirls":"light"}`); code != 200 || b.condition().Learned != nil {
		t.Error("said anew, the square still holds")
	}
	if code := change(`{"aim":"flat"}`); code != 200 {
		t.Fatal(code)
	}
	if code, text := square("two", `"left":0.5`); code != 409 || !strings.Contains(text, "polish only") {
		t.Errorf("%d %s", code, text)
	}
}
