package cars

import (
	"encoding/json"
	"reflect"
	"strings"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/store"
)

// What was said of a panel becomes what the core wants to know.
func TestFactsOfAPanel(t *testing.T) {
	for _, c := range []struct {
		known  facts.Panel
		finish film.Finish
		coat   float64
	}{
		{facts.Panel{Origin: "factory", Layers: "clear"}, film.FactoryFinish, 0},
		{facts.Panel{Origin: "here", Layers: "clear", Coats: 2, WetUM: 50, Solids: 0.5}, film.Refinished, 25},
		{facts.Panel{Origin: "here", Layers: "clear", Coats: 2, WetUM: 50, Solids: 0.5, DryUM: 21}, film.Refinished, 21},
		{facts.Panel{Origin: "elsewhere", Layers: "clear"}, film.RefinishedOld, 0},
		{facts.Panel{Origin: "unknown", Layers: "single"}, film.SingleStaged, 0},
	} {
		f := c.known.History()
		if f.Finish != c.finish || f.Coat != c.coat || f.Coats != c.known.Coats {
			t.Errorf("%+v is %+v", c.known, f)
		}
	}
}

// An answer that is left out changes nothing, and one that is wrong neither.
func TestAnswersChangeOnlyWhatTheySay(t *testing.T) {
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	k := unsaid()
	was := unsaid()
	if err := (Said{}).put(&k, now); err != nil || !reflect.DeepEqual(k, was) {
		t.Errorf("nothing said makes %+v, %v", k, err)
	}
	coats, aim := 3, "nibs"
	if err := (Said{Coats: &coats, Aim: &aim}).put(&k, now); err != nil || k.Coats != 3 || k.Aim != "nibs" || k.Origin != was.Origin {
		t.Errorf("%+v, %v", k, err)
	}
	past := []string{"repaired", "outside", "repaired"}
	if err := (Said{Past: &past}).put(&k, now); err != nil || strings.Join(k.Past, ",") != "repaired,outside" {
		t.Errorf("the past is %q, %v", k.Past, err)
	}
	none := []string{}
	if err := (Said{Past: &none}).put(&k, now); err != nil || len(k.Past) != 0 {
		t.Errorf("the past is %q, %v", k.Past, err)
	}
	for _, at := range []time.Time{now.Add(2 * time.Hour), time.Date(1820, 1, 1, 0, 0, 0, 0, time.UTC)} {
		if err := (Said{SprayedAt: &at}).put(&k, now); err == nil || k.SprayedAt != nil {
			t.Errorf("sprayed on %v is taken", at)
		}
	}
	at := now.Add(30 * time.Minute) // clocks differ a little
	if err := (Said{SprayedAt: &at}).put(&k, now); err != nil || !k.SprayedAt.Equal(at) {
		t.Errorf("sprayed half an hour ahead: %v", err)
	}
}

// A car of the first version has no sheet of its own: it is drawn with that of its type.
func TestCarsOfTheFirstVersionHaveASheet(t *testing.T) {
	c := store.Car{ID: "old", Body: body.Saloon}
	sh, err := facts.SheetOf(c)
	if err != nil || sh.Box.W < 5000 || len(sh.Scenery) < 8 {
		t.Fatalf("%+v, %v", sh.Box, err)
	}
	kept, _ := json.Marshal(facts.Sheet{Box: body.Box{W: 7}})
	c.Sheet = string(kept)
	if sh, err := facts.SheetOf(c); err != nil || sh.Box.W != 7 {
		t.Errorf("the kept sheet is not used: %+v, %v", sh.Box, err)
	}
	c.Sheet = "{"
	if _, err := facts.SheetOf(c); err == nil {
		t.Error("a broken sheet is drawn")
	}
}
