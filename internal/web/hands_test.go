package web

import (
	"fmt"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// What was read after passes on one panel tells of the same hands on the next.
func TestTheNextPanelKnowsTheHands(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	before := *b.level().Hand
	section := b.level().Section
	for i := range 4 {
		if w := b.entry(fmt.Sprint("pass-", i), section, "pass", 1); w.Code != 201 {
			t.Fatal(w.Body)
		}
	}
	b.reading("after-1", 150, 150, 156.2)

	first := b.panel
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Second flap","body":"loose","colour":"dark","painter":"Tove","width_mm":900,"height_mm":600,"groups":[{"keys":["panel"],"facts":{"origin":"here","coats":4}}]}`, 201, &car)
	b.panel = car.Next.PanelId
	for i, x := range []float64{150, 450, 750} {
		b.reading(fmt.Sprint("c", i), x, 150, 160+float64(i))
		b.reading(fmt.Sprint("d", i), x, 450, 163-float64(i))
	}
	b.accept()
	next := *b.level().Hand
	if next.RateUm.Mean <= before.RateUm.Mean || next.RateUm.Sd/next.RateUm.Mean >= before.RateUm.Sd/before.RateUm.Mean {
		t.Errorf("the next panel starts with %+v, the first with %+v", next.RateUm, before.RateUm)
	}
	if !strings.Contains(next.RateFrom, "1 reading after passes of Tove on other panels") {
		t.Error(next.RateFrom)
	}
	// Struck out, it tells nothing any more.
	b.into(b.send("POST", "/api/readings/reading-after-1/strike", `{"reason":"on tape"}`), 200, nil)
	if again := b.level().Hand; again.RateUm.Mean != before.RateUm.Mean || !strings.Contains(again.RateFrom, "usual cut") {
		t.Errorf("%+v, %s", again.RateUm, again.RateFrom)
	}
	b.panel = first
	if l := b.level(); l.Hand == nil {
		t.Error("the first panel is not worked any more")
	}
}
