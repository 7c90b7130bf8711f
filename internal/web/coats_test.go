package web

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// What was read before clear on one panel tells of the coats of the next that was
// sprayed here, and of no other.
func TestCoatsOfTheShopAreLearned(t *testing.T) {
	b := newBed(t)
	b.readings()
	coats := func() api.ClearSource {
		var r api.Read
		b.get(b.at("/read"), &r)
		i := slices.IndexFunc(r.Study.Clear.Sources, func(s api.ClearSource) bool { return s.Kind == "coats" })
		return r.Study.Clear.Sources[i]
	}
	alone := coats()
	first := b.panel
	var car api.CarSummary
	b.post("/api/cars", `{"name":"Second flap","body":"loose","colour":"dark","painter":"Tove","width_mm":900,"height_mm":600,"groups":[{"keys":["panel"],"facts":{"origin":"here","coats":4}}]}`, 201, &car)
	b.panel = car.Next.PanelId
	for i, x := range []float64{150, 450, 750} {
		b.post(b.at("/readings"), fmt.Sprintf(`{"id":"reading-u%d","x_mm":%g,"y_mm":300,"film":100,"unit":"um","phase":"before_clear"}`, i, x), 201, nil)
		b.reading(fmt.Sprint("c", i), x, 300, 168)
	}
	if own := coats(); own.Mean != alone.Mean {
		t.Errorf("a panel's own readings count twice: %+v", own)
	}
	b.panel = first
	known := coats()
	if known.Mean >= alone.Mean-5 || known.Sd/known.Mean >= alone.Sd/alone.Mean || !strings.Contains(known.Text, "as 1 panel read before clear showed here") {
		t.Errorf("%+v, alone %+v", known, alone)
	}
	b.into(b.send("PATCH", "/api/panels/"+b.panel, `{"origin":"elsewhere"}`), 200, nil)
	if other := coats(); other.Mean != alone.Mean {
		t.Errorf("coats of another shop are corrected by ours: %+v", other)
	}
	b.into(b.send("PATCH", "/api/panels/"+b.panel, `{"origin":"here"}`), 200, nil)
	b.into(b.send("POST", "/api/readings/reading-u1/strike", `{"reason":"on tape"}`), 200, nil)
	if fewer := coats(); fewer.Mean == known.Mean || fewer.Mean == alone.Mean {
		t.Errorf("a struck reading goes on counting: %+v", fewer)
	}
}
