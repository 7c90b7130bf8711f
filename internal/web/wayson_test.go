package web

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// Thin film refuses and says all ways on; each is granted when it is taken, with the state
// and the chance that it was told with.
func TestRefusalSaysTheWaysOn(t *testing.T) {
	b := newBed(t)
	patch := func(body string) {
		b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, body), 200, nil)
	}
	patch(`{"peel_grade":8,"coats":2,"dry_um":25,"under":"over"}`)
	b.readings()
	p := b.plan("")
	if p.Refusal == nil || p.Refusal.NeedUm <= p.Refusal.RoomUm {
		t.Fatalf("%+v", p.Refusal)
	}
	if r := p.Refusal; r.ClearUm == nil || len(r.ClearUm.Shape) < 20 || r.Bars == nil || (*r.Bars)[0].FloorUm != 40 || *r.Known == "" || *r.ThroughUm <= 0 {
		t.Errorf("%+v", r)
	}
	seen := map[api.WayOnCode]int{}
	for i, w := range p.Refusal.Ways {
		seen[w.Code]++
		if w.Head == "" || w.Text == "" || w.Code != api.WayOnCodeQuestion && w.Chance == "" {
			t.Errorf("%+v", w)
		}
		floor, aim := "", "flat"
		if w.FloorUm != nil {
			floor = fmt.Sprintf("floor-told-%d", i)
			b.post(b.at("/floor"), fmt.Sprintf(`{"id":%q,"floor_um":%v,"person":"Mrs Holm","reason":"rather flat than thick"}`, floor, *w.FloorUm), 201, nil)
		}
		if w.Aim != nil {
			aim = string(*w.Aim)
			patch(fmt.Sprintf(`{"aim":%q}`, aim))
		}
		if w.FloorUm != nil || w.Aim != nil {
			taken := b.plan("")
			if taken.Refusal != nil || len(taken.Offers) == 0 || *taken.Panel.State != *w.State {
				t.Errorf("%s was told as %s and gives %+v, %v", w.Head, *w.State, taken.Refusal, *taken.Panel.State)
			}
			if w.FloorUm != nil && (taken.Agreed == nil || taken.Agreed.FloorUm != *w.FloorUm || taken.Offer.FloorUm != *w.FloorUm) {
				t.Errorf("%s: %+v", w.Head, taken.Agreed)
			}
		}
		if floor != "" {
			b.into(b.send(http.MethodPost, "/api/floors/"+floor+"/strike", `{"reason":"changed her mind"}`), 204, nil)
		}
		if aim != "flat" {
			patch(`{"aim":"flat"}`)
		}
	}
	if seen[api.WayOnCodeAgreedFloor] != 1 || seen[api.WayOnCodeCoat] != 1 || seen[api.WayOnCodeQuestion] < 2 || seen[api.WayOnCodeLeave] != 1 || seen[api.WayOnCodeAim] < 2 {
		t.Errorf("%v", seen)
	}
	again := b.plan("")
	if again.Agreed != nil || len(again.Floors) == 0 || again.Floors[0].StruckReason == nil || *p.Refusal.ChanceFloor != *again.Refusal.ChanceFloor {
		t.Errorf("taken back, it is %+v", again.Floors)
	}
}

// A floor that makes no sense is refused in a sentence that says what would.
func TestAFloorThatMakesNoSense(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"coats":1,"dry_um":30,"under":"over"}`), 200, nil)
	b.readings()
	for body, want := range map[string]string{
		`{"id":"floor-bad-1","floor_um":14,"person":"Mrs Holm","reason":"rather flat"}`: "15 µm is the least",
		`{"id":"floor-bad-2","floor_um":40,"person":"Mrs Holm","reason":"rather flat"}`: "usual floor",
		`{"id":"floor-bad-3","floor_um":38,"person":"Mrs Holm","reason":"rather flat"}`: "more than is likely there",
		`{"id":"floor-bad-4","floor_um":25,"person":" ","reason":"rather flat"}`:        "Who agreed",
		`{"id":"floor-bad-5","floor_um":25,"person":"Mrs Holm","reason":"ok"}`:          "why less may stay",
	} {
		var p api.Problem
		b.post(b.at("/floor"), body, 422, &p)
		if !strings.Contains(p.Detail, want) {
			t.Errorf("%s: %q", body, p.Detail)
		}
	}
	if p := b.plan(""); len(p.Floors) != 0 {
		t.Errorf("%+v", p.Floors)
	}
}
