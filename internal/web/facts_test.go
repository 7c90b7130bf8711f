package web

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/marks"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// What was said of a panel becomes what the core wants to know.
func TestFactsOfAPanel(t *testing.T) {
	for _, c := range []struct {
		row    store.Panel
		finish film.Finish
		coat   float64
	}{
		{store.Panel{Origin: "factory", Layers: "clear"}, film.FactoryFinish, 0},
		{store.Panel{Origin: "here", Layers: "clear", Coats: 2, WetUM: 50, Solids: 0.5}, film.Refinished, 25},
		{store.Panel{Origin: "here", Layers: "clear", Coats: 2, WetUM: 50, Solids: 0.5, DryUM: 21}, film.Refinished, 21},
		{store.Panel{Origin: "elsewhere", Layers: "clear"}, film.RefinishedOld, 0},
		{store.Panel{Origin: "unknown", Layers: "single"}, film.SingleStaged, 0},
	} {
		f := historyOf(c.row)
		if f.Finish != c.finish || f.Coat != c.coat || f.Coats != c.row.Coats {
			t.Errorf("%+v is %+v", c.row, f)
		}
	}
}

// An answer that is left out changes nothing, and one that is wrong neither.
func TestAnswersChangeOnlyWhatTheySay(t *testing.T) {
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	row := newPanel()
	was := row
	if err := apply(&row, api.PanelFacts{}, now); err != nil || row != was {
		t.Errorf("nothing said makes %+v, %v", row, err)
	}
	coats, aim := 3, api.AimNibs
	if err := apply(&row, api.PanelFacts{Coats: &coats, Aim: &aim}, now); err != nil || row.Coats != 3 || row.Aim != "nibs" || row.Origin != was.Origin {
		t.Errorf("%+v, %v", row, err)
	}
	past := []api.Past{api.Repaired, api.Outside, api.Repaired}
	if err := apply(&row, api.PanelFacts{Past: &past}, now); err != nil || row.Past != "repaired,outside" || len(pastOf(row)) != 2 {
		t.Errorf("the past is %q, %v", row.Past, err)
	}
	none := []api.Past{}
	if err := apply(&row, api.PanelFacts{Past: &none}, now); err != nil || len(pastOf(row)) != 0 {
		t.Errorf("the past is %q, %v", row.Past, err)
	}
	for _, at := range []time.Time{now.Add(2 * time.Hour), time.Date(1820, 1, 1, 0, 0, 0, 0, time.UTC)} {
		if err := apply(&row, api.PanelFacts{SprayedAt: &at}, now); err == nil || row.SprayedAt != nil {
			t.Errorf("sprayed on %v is taken", at)
		}
	}
	at := now.Add(30 * time.Minute) // clocks differ a little
	if err := apply(&row, api.PanelFacts{SprayedAt: &at}, now); err != nil || !row.SprayedAt.Equal(at) {
		t.Errorf("sprayed half an hour ahead: %v", err)
	}
}

// A car of the first version has no sheet of its own and no sides on its panels;
// it is drawn with that of its type, and its marks work.
func TestCarsOfTheFirstVersion(t *testing.T) {
	c := store.Car{ID: "old", Body: body.Saloon}
	sh, err := sheetOf(c)
	if err != nil || sh.Box.W < 5000 || len(sh.Scenery) < 8 {
		t.Fatalf("%+v, %v", sh.Box, err)
	}
	kept, _ := json.Marshal(sheet{Box: body.Box{W: 7}})
	c.Sheet = string(kept)
	if sh, err := sheetOf(c); err != nil || sh.Box.W != 7 {
		t.Errorf("the kept sheet is not used: %+v, %v", sh.Box, err)
	}
	c.Sheet = "{"
	if _, err := sheetOf(c); err == nil {
		t.Error("a broken sheet is drawn")
	}

	b := newBed(t)
	_, err = b.shop.ChangeCar(t.Context(), b.car, func(c *store.Car) error {
		c.Sheet = ""
		c.Panels[0].Shape = `{"key":"panel","name":"loose panel","substrate":"steel","outline":[{"x":0,"y":0},{"x":900,"y":0},{"x":900,"y":600},{"x":0,"y":600}],"holes":[],"creases":[],"placement":{"x":0,"y":0,"turned":false}}`
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	b.readings()
	b.mark("nib-0001", "nib", 300, 300, "")
	var car api.Car
	b.get("/api/cars/"+b.car, &car)
	if p := car.Panels[0]; p.Side != api.SideMiddle || p.Neighbours == nil || car.Box.W != 900 {
		t.Errorf("side %q, box %+v", p.Side, car.Box)
	}
	if w := b.send(http.MethodPost, "/api/marks/mark-nib-0001/mirror", `{"id":"mirrored-1"}`); w.Code != http.StatusConflict || !strings.Contains(w.Body.String(), "no mirrored panel") {
		t.Errorf("%d: %s", w.Code, w.Body)
	}
}

// What the owner hears: one or many, sure or not yet, in plain words.
func TestOwnersSentences(t *testing.T) {
	mark := func(do marks.Do, why marks.Why, outcome string) judged {
		return judged{row: store.Mark{Outcome: outcome}, Judged: marks.Judged{Mark: marks.Mark{Kind: marks.Scratch}, Verdict: marks.Verdict{Do: do, Why: why}}}
	}
	deep := mark(marks.DoLeave, marks.WhyDeep, store.OutcomeOpen)
	left := mark(marks.DoLeave, marks.WhyDeep, store.OutcomeLeft)
	left.row.OutcomeReason = "behind the plate."
	for want, c := range map[string]struct {
		group   []judged
		settled bool
	}{
		"It stays: there is not enough clear over the colour to take it out.":            {[]judged{deep}, true},
		"They stay: there is not enough clear over the colour to take them out.":         {[]judged{deep, deep}, true},
		"It may stay: how much clear there is over the colour has still to be measured.": {[]judged{deep}, false},
		"It stays: behind the plate.":                       {[]judged{left}, false},
		"It gets softer and stays.":                         {[]judged{mark(marks.DoSoften, marks.WhyPartly, store.OutcomeOpen)}, true},
		"They get softer and stay.":                         {[]judged{mark(marks.DoSoften, marks.WhyNoSanding, store.OutcomeOpen), deep}, true},
		"It goes down to the colour. Only new paint helps.": {[]judged{mark(marks.DoRespray, marks.WhyColour, store.OutcomeOpen)}, false},
		"It stays: this panel is polished and not sanded.":  {[]judged{mark(marks.DoLeave, marks.WhyNoSanding, store.OutcomeOpen)}, true},
	} {
		if got := plainWhy(c.group, c.settled); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	for n, want := range map[int]string{2: "Two", 7: "Seven", 10: "Ten", 11: "11", 240: "240"} {
		if got := several(n); got != want {
			t.Errorf("%d is said as %q", n, got)
		}
	}
	for _, k := range marks.Kinds() {
		if plainKinds[k][0] == "" || plainKinds[k][1] == "" {
			t.Errorf("an owner has no word for %s", k)
		}
	}
}

// Counts say what will be done: one word when all are alike, numbers when not.
func TestCountsSayWhatIsDone(t *testing.T) {
	of := func(dos ...marks.Do) []judged {
		var out []judged
		for _, d := range dos {
			out = append(out, judged{Judged: marks.Judged{Verdict: marks.Verdict{Do: d}}})
		}
		return out
	}
	for want, open := range map[string][]judged{
		"all closed":                 of(),
		"to spot":                    of(marks.DoSpot, marks.DoSpot),
		"2 to spot, 1 left and told": of(marks.DoSpot, marks.DoLeave, marks.DoSpot),
		"wait for readings":          of(marks.DoRead),
	} {
		if got := countText(open); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	said := map[marks.Do]bool{}
	for _, w := range doWords {
		said[w.do] = true
	}
	for _, d := range []marks.Do{marks.DoSpot, marks.DoShave, marks.DoPanel, marks.DoClear, marks.DoSoften, marks.DoLeave, marks.DoPolish, marks.DoKeepOff, marks.DoRespray, marks.DoRead} {
		if !said[d] {
			t.Errorf("counts have no word for %s", d)
		}
	}
}
