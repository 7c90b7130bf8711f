package web

import (
	"net/http"
	"strings"
	"testing"

	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// A panel of the first version has no sides; its marks work.
func TestCarsOfTheFirstVersion(t *testing.T) {
	b := newBed(t)
	_, err := b.shop.ChangeCar(t.Context(), b.car, func(c *store.Car) error {
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
