package web

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

func TestOffersSideBySide(t *testing.T) {
	b := newBed(t)
	b.readings()
	p := b.plan("")
	if len(p.Offers) != 3 || p.Offer == nil || p.Offer.Name != api.Balanced || !p.Ready || p.Refusal != nil || p.Looked < 100 || len(p.Points) < 10 {
		t.Fatalf("%d offers, %d points of %d, refusal %+v", len(p.Offers), len(p.Points), p.Looked, p.Refusal)
	}
	for i, o := range p.Offers {
		if o.Name != api.OfferName(plan.OfferNames[i]) || o.FilmUm.Mean > p.Offer.HeadroomUm || o.State == api.StateShut {
			t.Errorf("%+v with %v µm", o, p.Offer.HeadroomUm)
		}
		if i > 0 && o.Hours.Mean > p.Offers[i-1].Hours.Mean {
			t.Errorf("%s takes %.2f h after %.2f", o.Name, o.Hours.Mean, p.Offers[i-1].Hours.Mean)
		}
		picked := b.plan(string(o.Name))
		if picked.Offer.Ladder != o.Ladder || math.Abs(picked.Offer.FilmUm.Mean-o.FilmUm.Mean) > 1e-9 {
			t.Errorf("%s shows %s", o.Name, picked.Offer.Ladder)
		}
		heads := map[string]bool{}
		for _, w := range picked.Offer.Whys {
			heads[w.Head] = true
			if w.Text == "" || strings.Contains(w.Text, "%!") {
				t.Errorf("%s: %q %q", o.Name, w.Head, w.Text)
			}
		}
		if !heads["Not coarser:"] || !heads["Not finer:"] || !heads["Not fewer steps:"] {
			t.Errorf("%s has reasons %v", o.Name, heads)
		}
	}
	own := b.plan(p.Points[len(p.Points)/2].Ladder)
	if own.Offer.Name != api.Yours || len(own.Offers) != 4 || math.Abs(own.Offer.FilmUm.Mean-p.Points[len(p.Points)/2].FilmUm) > 0.3 {
		t.Errorf("a picked point is %s with %d offers, %v µm", own.Offer.Name, len(own.Offers), own.Offer.FilmUm)
	}
}

func TestAMatchIsHeldAgainstWhatIsBeside(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"aim":"match","peel_grade":7}`), 200, nil)
	p := b.plan("")
	if p.Offer == nil || p.Offers[1].PeelLeft < 3.5 || p.Offers[1].PeelLeft > 4.4 {
		t.Fatalf("%+v", p.Offers)
	}
	if w := p.Offer.Whys[1]; w.Code != "pebble" || !strings.Contains(w.Text, "beside it") {
		t.Errorf("%+v", p.Offer.Whys[:2])
	}
}

func TestOwnLaddersAreWorkedAndWarned(t *testing.T) {
	b := newBed(t)
	b.readings()
	p := b.plan("p1200@rubber*4,3000@foam-disc*3,foam-fine*6")
	if len(p.Offer.Steps[1].Warnings) == 0 || !strings.Contains(p.Offer.Steps[1].Warnings[0], "of the scratch still shows") || len(p.Offer.Steps[2].Warnings) == 0 {
		t.Errorf("%+v", p.Offer.Steps[1].Warnings)
	}
	for code, want := range map[string]string{"p1500@foam-disc*3": "it goes on a rigid block", "brick*2": "no compound", "p1500@rubber*99": "1 to 60"} {
		w := b.send(http.MethodGet, b.at("/plan?ladder="+url.QueryEscape(code)), "")
		if w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", code, w.Code, w.Body)
		}
	}
	deep := "p1200@rigid*60," + strings.TrimPrefix(usual, "p2000@rubber*7,")
	if p := b.plan(deep); len(p.Offer.Warnings) == 0 || !strings.Contains(strings.Join(p.Offer.Warnings, " "), "no headroom") {
		t.Errorf("%+v", p.Offer.Warnings)
	}
	if w := b.send(http.MethodPost, b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, deep)); w.Code != 409 || !strings.Contains(w.Body.String(), "can go") {
		t.Errorf("a ladder without headroom is accepted: %d %s", w.Code, w.Body)
	}
}

func TestARecordKeepsItsReasonsAndSaysWhatChanged(t *testing.T) {
	b := newBed(t)
	b.readings()
	p := b.plan("least_film")
	var rec api.PlanRecord
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":"least_film"}`, p.Basis), 201, &rec)
	if rec.Offer != api.LeastFilm || rec.Ladder != p.Offer.Ladder || len(rec.Why) < 4 || rec.Stale != "" || rec.Version != 1 {
		t.Errorf("%+v", rec)
	}
	// What the shelf says later does not move a plan of record.
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"backing.rigid.p0","value":6}`), 204, nil)
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"law.labour","value":0}`), 204, nil)
	same := b.plan("record")
	if same.Offer.FilmUm != p.Offer.FilmUm || same.Offer.Money != p.Offer.Money || same.Offer.Steps[0].RateUm != p.Offer.Steps[0].RateUm {
		t.Errorf("the record takes %v, was %v", same.Offer.FilmUm, p.Offer.FilmUm)
	}
	if now := b.plan(p.Offer.Ladder); now.Offer.Money >= p.Offer.Money {
		t.Error("the same ladder costs no less without wages")
	}
	b.reading("late", 600, 300, 131)
	b.into(b.send(http.MethodPost, "/api/readings/reading-a0/strike", `{"reason":"on tape"}`), 200, nil)
	stale := b.plan("").Record.Stale
	for _, want := range []string{"new reading 7 (131", "struck out 1 (160", "can go, were"} {
		if !strings.Contains(stale, want) {
			t.Errorf("%q does not say %q", stale, want)
		}
	}
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"peel_grade":5,"hardness":"soft"}`), 200, nil)
	if stale = b.plan("").Record.Stale; !strings.Contains(stale, "peel grade 5.0, was 6.0") || !strings.Contains(stale, "soft paint, was medium") {
		t.Error(stale)
	}
}

func TestPlansOfTheFirstShopStillHold(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	ctx := context.Background()
	row, err := b.shop.Plan(ctx, b.panel)
	if err != nil {
		t.Fatal(err)
	}
	old := row
	old.ID, old.Made, old.Facts, old.Why, old.Steps = "old-plan", "", "", "", nil
	for _, s := range row.Steps {
		s.PlanID = old.ID
		old.Steps = append(old.Steps, s)
	}
	if err := b.shop.AcceptPlan(ctx, &old, b.version()); err != nil {
		t.Fatal(err)
	}
	if l := b.level(); l.Hand == nil || len(l.Steps) != 5 || l.Hand.PassesNeeded != 7 {
		t.Errorf("%+v", l.Waits)
	}
	b.reading("late", 600, 300, 160)
	if s := b.plan("").Record.Stale; !strings.Contains(s, "6 readings") {
		t.Error(s)
	}
}

func TestTriesGoIntoThePlanOfTheirSection(t *testing.T) {
	b := newBed(t)
	b.readings()
	const process = "3000@foam-disc*4,wool-medium*2,foam-fine*2"
	body := func(id, change string) string {
		raw := map[string]any{"id": id, "section": b.level().Sections[0].Key, "ladder": process, "film_before_um": 160.0, "film_after_um": 158.0,
			"spots": 4, "clarity_before": 70, "clarity_after": 88, "person": "Tove"}
		if err := json.Unmarshal([]byte(change), &raw); err != nil {
			t.Fatal(err)
		}
		out, _ := json.Marshal(raw)
		return string(out)
	}
	var first api.Try
	b.post(b.at("/tries"), body("try-0001", `{}`), 201, &first)
	b.post(b.at("/tries"), body("try-0001", `{}`), 201, nil) // the same again
	if first.Looks != api.Better || first.PerClarityUm == nil || first.FilmUm.Mean != 2 || first.Used {
		t.Errorf("%+v", first)
	}
	var even api.Try
	b.post(b.at("/tries"), body("try-0002", `{"ladder":"wool-medium*2,foam-fine*2","clarity_after":73,"gloss_before":80,"gloss_after":81}`), 201, &even)
	if even.Looks != api.NoRealDifference || even.PerClarityUm != nil || even.Gloss == nil {
		t.Errorf("%+v", even)
	}
	for change, want := range map[string]string{
		`{"section":"x"}`: "no section", `{"film_before_um":0}`: "Film before", `{"clarity_after":140}`: "Clarity after goes from 0 to 100", `{"spots":0}`: "how many spots",
		`{"gloss_before":80}`: "before and after", `{"ladder":"brick*1"}`: "no compound", `{"person":""}`: "1 to 40",
	} {
		if w := b.send(http.MethodPost, b.at("/tries"), body("try-bad-1", change)); w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", change, w.Code, w.Body)
		}
	}
	if w := b.send(http.MethodPost, "/api/tries/try-0001/use", ""); w.Code != 409 || !strings.Contains(w.Body.String(), "accept a plan") {
		t.Errorf("a try without a plan: %d %s", w.Code, w.Body)
	}
	b.accept()
	b.into(b.send(http.MethodPost, "/api/tries/try-0001/use", ""), 200, nil)
	p := b.plan("")
	if len(p.Tries) != 2 || !p.Tries[0].Used || p.Tries[1].Used || p.Record.Version != 2 || len(p.Offer.Steps) != 8 {
		t.Fatalf("%d tries, version %d, %d steps", len(p.Tries), p.Record.Version, len(p.Offer.Steps))
	}
	// The section has its own steps, the others keep the panel's.
	var own, other api.Level
	sections := b.level().Sections
	b.get(b.at("/level?section="+sections[0].Key), &own)
	b.get(b.at("/level?section="+sections[1].Key), &other)
	if own.Hand.Step != 6 || own.Steps[5].Area != sections[0].Name || own.Hand.PassesNeeded != 4 || other.Hand.Step != 1 || other.Hand.PassesNeeded != 7 {
		t.Errorf("steps %d and %d, %d and %d passes", own.Hand.Step, other.Hand.Step, own.Hand.PassesNeeded, other.Hand.PassesNeeded)
	}
	if own.Hand.Ledger.ReserveUm >= other.Hand.Ledger.ReserveUm {
		t.Errorf("%v µm are kept for two steps, %v for four", own.Hand.Ledger.ReserveUm, other.Hand.Ledger.ReserveUm)
	}
	for i := range 4 {
		if w := b.entry(fmt.Sprint("own-", i), sections[0].Key, "pass", 6); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	for step := 6; step <= 8; step++ {
		if w := b.entry(fmt.Sprint("done-", step), sections[0].Key, "done", step); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	own = api.Level{}
	b.get(b.at("/level?section="+sections[0].Key), &own)
	if own.Hand != nil || !own.Sections[0].Done || own.Sections[1].Done {
		t.Errorf("%+v", own.Sections[:2])
	}
	b.into(b.send(http.MethodPost, "/api/tries/try-0002/strike", `{"reason":"wrong square"}`), 204, nil)
	if p := b.plan(""); len(p.Tries) != 1 {
		t.Errorf("%d tries after one was struck out", len(p.Tries))
	}
}

func TestShelfCanBeChangedAndSetBack(t *testing.T) {
	b := newBed(t)
	b.readings()
	var s api.Shelf
	b.get("/api/shelf?pick=3000@foam-disc", &s)
	if len(s.Cutters) != 56 || *s.Picked != "3000@foam-disc" || len(s.Befores) < 4 || s.Changed != 0 {
		t.Fatalf("%d cutters, %d befores, %d changed", len(s.Cutters), len(s.Befores), s.Changed)
	}
	may := 0
	for _, n := range s.Befores {
		if (n.Passes == 0) != (n.Text != "") {
			t.Errorf("%+v", n)
		}
		if n.Passes > 0 {
			may++
		}
	}
	if may == 0 {
		t.Error("nothing may come before 3000")
	}
	before := b.plan("").Offer.Ladder
	for _, c := range shelf.Usual().Compounds {
		if c.Tool == shelf.Rotary {
			b.into(b.send(http.MethodPut, "/api/shelf", fmt.Sprintf(`{"key":"compound.%s.have","value":0}`, c.Key)), 204, nil)
		}
	}
	p := b.plan("")
	if strings.Contains(p.Offer.Ladder, "rotary") || p.Offer.Ladder == before {
		t.Errorf("without a rotary: %s", p.Offer.Ladder)
	}
	for body, want := range map[string]string{`{"key":"law.reach","value":-3}`: "from 1 to 20", `{"key":"law.nothing","value":1}`: "Nothing on the shelf"} {
		if w := b.send(http.MethodPut, "/api/shelf", body); w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", body, w.Code, w.Body)
		}
	}
	b.get("/api/shelf", &s)
	if s.Changed != 3 {
		t.Errorf("%d changed", s.Changed)
	}
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"compound.rotary-foam-fine.have"}`), 204, nil)
	b.get("/api/shelf", &s)
	if s.Changed != 2 {
		t.Errorf("%d changed after one was set back", s.Changed)
	}
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"all"}`), 204, nil)
	if p := b.plan(""); p.Offer.Ladder != before {
		t.Errorf("set back: %s, was %s", p.Offer.Ladder, before)
	}
}

func TestHouseRulesDecideAndCompare(t *testing.T) {
	b := newBed(t)
	b.readings()
	var rules []api.HouseRule
	b.get("/api/rules", &rules)
	if len(rules) != len(plan.Questions) {
		t.Fatalf("%d rules", len(rules))
	}
	for _, r := range rules {
		if r.Question == "" || len(r.Schools) < 2 {
			t.Errorf("%+v", r)
		}
		for _, s := range r.Schools {
			if s.Name == "" || s.Says == "" {
				t.Errorf("%s: %+v", r.Key, s)
			}
		}
		var c api.Schools
		b.get("/api/cars/"+b.car+"/schools?question="+r.Key, &c)
		if len(c.Columns) != len(r.Schools) || c.Text == "" {
			t.Errorf("%s: %d columns, %q", r.Key, len(c.Columns), c.Text)
		}
		for _, col := range c.Columns {
			if len(col.Panels) != 1 || col.Totals.Panels != 1 || col.Panels[0].Reached && math.Abs(col.Totals.Hours-col.Panels[0].Hours) > 1e-9 {
				t.Errorf("%s %s: %+v", r.Key, col.School, col.Totals)
			}
		}
	}
	b.into(b.send(http.MethodPut, "/api/rules", `{"key":"flatten","school":"machine"}`), 200, &rules)
	p := b.plan("")
	for _, s := range p.Offer.Steps {
		if s.Tool == "hand" {
			t.Errorf("by machine only: %s", p.Offer.Ladder)
		}
	}
	for _, body := range []string{`{"key":"flatten","school":"teeth"}`, `{"key":"weather","school":"wet"}`} {
		if w := b.send(http.MethodPut, "/api/rules", body); w.Code != 422 {
			t.Errorf("%s gives %d", body, w.Code)
		}
	}
	if w := b.send(http.MethodGet, "/api/cars/"+b.car+"/schools?question=weather", ""); w.Code != 422 {
		t.Errorf("the weather is compared: %d", w.Code)
	}
}

func TestTheWholeCarsPlans(t *testing.T) {
	b := newBed(t)
	b.readings()
	var c api.CarPlans
	b.get("/api/cars/"+b.car+"/plans", &c)
	if len(c.Panels) != 1 || c.Panels[0].Record != nil || c.Panels[0].Line == nil || c.Totals.Reached != 1 || c.Totals.Hours <= 0 || len(c.Limits) != 0 {
		t.Fatalf("%+v", c)
	}
	b.accept()
	b.into(b.send(http.MethodPatch, "/api/cars/"+b.car, `{"hours_limit":0.5,"cost_limit":10}`), 200, nil)
	b.get("/api/cars/"+b.car+"/plans", &c)
	if c.Panels[0].Record == nil || c.Panels[0].Line.Ladder != usual || len(c.Limits) != 2 {
		t.Errorf("%+v, limits %v", c.Panels[0].Line, c.Limits)
	}
}

// Nothing is read: the offers rest on what is known of the coats, and are tight.
func TestPlanningBeforeReading(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"coats":5}`), 200, nil)
	p := b.plan("")
	if p.Ready || p.Offer == nil || !strings.Contains(p.Waits, "You can plan now") || !strings.Contains(p.Offer.Reason, "5 coats") {
		t.Fatalf("%v %q %+v", p.Ready, p.Waits, p.Offer)
	}
	for _, o := range p.Offers {
		if o.State != api.StateTight {
			t.Errorf("%s is %s before a reading", o.Name, o.State)
		}
	}
}

func TestTryOfAnotherPanelKeepsItsID(t *testing.T) {
	b := newBed(t)
	b.readings()
	ctx := context.Background()
	made, _ := json.Marshal(plan.Recipe{})
	row := store.Try{ID: "try-0001", PanelID: b.panel, Section: "s", Ladder: "a", Made: string(made)}
	if err := b.shop.AddTry(ctx, &row); err != nil {
		t.Fatal(err)
	}
	other := store.Try{ID: "try-0001", PanelID: b.panel, Section: "s", Ladder: "b", Made: string(made)}
	if err := b.shop.AddTry(ctx, &other); err == nil {
		t.Error("one id is kept for two tries")
	}
}

// The house rule on the safe film reads half of a factory finish as clear: more may
// go by it, and the sentence says on what it rests.
func TestHalfIsClearAsAHouseRule(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"origin":"factory","coats":0,"aim":"polish"}`), 200, nil)
	for i, x := range []float64{150, 450, 750} {
		b.reading(fmt.Sprint("a", i), x, 150, 110)
		b.reading(fmt.Sprint("b", i), x, 450, 112)
	}
	read := func() api.Read {
		var r api.Read
		b.get(b.at("/read"), &r)
		return r
	}
	usual := read()
	b.into(b.send(http.MethodPut, "/api/rules", `{"key":"safe_film","school":"half_clear"}`), 200, nil)
	half := read()
	if a, z := usual.Study.Clear.Mean, half.Study.Clear.Mean; z/a < 1.15 || z/a > 1.25 {
		t.Errorf("clear %.1f µm, by the rule %.1f", a, z)
	}
	if text := half.Study.Clear.Sources[0].Text; !strings.Contains(text, "50 % of a factory finish") {
		t.Error(text)
	}
	if *half.Sections[0].HeadroomUm <= *usual.Sections[0].HeadroomUm {
		t.Errorf("headroom %.1f, by the rule %.1f", *usual.Sections[0].HeadroomUm, *half.Sections[0].HeadroomUm)
	}
}

// Once passes are made Plan shows the record, counts what is gone and takes nothing
// in its place.
func TestPlanOfAWorkedPanel(t *testing.T) {
	b := newBed(t)
	b.readings()
	before := b.accept()
	section := b.level().Section
	for i := range 3 {
		if w := b.entry(fmt.Sprint("pass-", i), section, "pass", 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	p := b.plan("")
	if p.Ready || !strings.Contains(p.Waits, "has begun") || p.Offer.Ladder != usual || p.Record.Stale != "" {
		t.Errorf("ready %v, waits %q, shows %s", p.Ready, p.Waits, p.Offer.Ladder)
	}
	for i, s := range p.Sections {
		if was := *before.Sections[i].HeadroomUm; s.Key == section && *s.HeadroomUm >= was-0.5 {
			t.Errorf("%s: %.1f µm may go after three passes, %.1f before", s.Name, *s.HeadroomUm, was)
		}
	}
	if w := b.send(http.MethodPost, b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":"least_film"}`, p.Basis)); w.Code != 409 {
		t.Errorf("a worked plan is replaced: %d", w.Code)
	}
}
