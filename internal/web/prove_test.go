package web

import (
	"bytes"
	"fmt"
	"image/jpeg"
	"io"
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"waxplanus/core/photo"
	"waxplanus/core/surface"
	"waxplanus/internal/camera"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/web/api"
)

// mirrored are photos that tests share, by their grade.
var mirrored sync.Map

// lamps is a photo of striped lamps in a panel of that peel grade, as UsualLamp takes it but
// for the scale, which is 0.12 mm a pixel and said.
func lamps(t *testing.T, grade float64) string {
	t.Helper()
	if known, ok := mirrored.Load(grade); ok {
		return known.(string)
	}
	l := photo.Lamp{Pitch: 20, Lamp: 500, Camera: 600, Aperture: 4, MMPerPx: 0.12, Lens: 0.8, Gamma: 2.2}
	sq := surface.PeelSq(grade)
	h := photo.NewHeight(900, 700, l.MMPerPx, []photo.Waves{{Length: 5, Sq: sq, Spread: 0.2}, {Length: 0.75, Sq: surface.PebbleSq(sq), Spread: 0.2}}, 11)
	var out bytes.Buffer
	if err := jpeg.Encode(&out, photo.Shot{Lamp: l, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.004, Seed: 5}.Mirror(h).Gray(), nil); err != nil {
		t.Fatal(err)
	}
	mirrored.Store(grade, out.String())
	return out.String()
}

// eye is the stand-in camera on an address of its own, with few pixels.
func eye(t *testing.T, card bool) (*httptest.Server, Devices) {
	t.Helper()
	c := camera.NewStandIn(1, card, io.Discard)
	c.Coarse = true
	srv := httptest.NewServer(c)
	t.Cleanup(srv.Close)
	return srv, Devices{Camera: camera.NewLink(srv.URL)}
}

const lamp = `{"id":"lamp-0001","name":"booth tubes","pitch_mm":20,"lamp_mm":500,"camera_mm":600,"aperture_mm":4,"mm_per_px":0.12,"lens_px":0.8,"gamma":2.2,"scale":false}`

func (b *bed) photo(id, kind, data string, status int, out any) {
	b.t.Helper()
	b.post(b.at("/photos?person=Tove&kind="+kind+"&id="+id), data, status, out)
}

func (b *bed) take(id string, yes bool) (p api.ProofPhoto) {
	b.t.Helper()
	b.post("/api/photos/"+id+"/accept", fmt.Sprintf(`{"person":"Tove","accept":%v}`, yes), 200, &p)
	return p
}

func (b *bed) proof() (p api.PanelProof) {
	b.t.Helper()
	b.get(b.at("/prove"), &p)
	return p
}

func (b *bed) grade() float64 {
	b.t.Helper()
	var l api.Look
	b.get(b.at("/look"), &l)
	return l.Panel.PeelGrade
}

// A photo that is accepted before any work takes the place of the grade by eye, until it is
// taken back or struck out; both stay on record.
func TestPeelByPhotoTakesThePlaceOfTheGradeByEye(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPut, "/api/lamps", lamp), 200, nil)
	eye := b.grade()
	if p := b.proof(); len(p.Todos) != 1 || p.Todos[0].Task != api.ProofTaskBefore || p.Before.Source != api.KnownEye {
		t.Errorf("nothing was done yet: %+v", p.Todos)
	}
	data := lamps(t, 4)
	var p api.ProofPhoto
	b.photo("photo-0001", "reflection", data, 201, &p)
	b.photo("photo-0001", "reflection", data, 201, nil) // sent again
	if p.Reading == nil || math.Abs(p.Reading.Grade.Mean-4) > 0.8 || p.After || p.AcceptedAt != nil {
		t.Fatalf("%+v", p)
	}
	if b.grade() != eye {
		t.Error("it counts before anybody accepted it")
	}
	b.take("photo-0001", true)
	if got := b.grade(); math.Abs(got-p.Reading.Grade.Mean) > 1e-6 || got == eye {
		t.Errorf("accepted, the grade is %v, by eye %v", got, eye)
	}
	if f := b.proof(); f.Before.Source != api.KnownPhoto || f.Before.Photo == nil || len(f.Photos) != 1 || len(f.Todos) != 0 {
		t.Errorf("%+v, %d photos, %+v", f.Before, len(f.Photos), f.Todos)
	}
	if pl := b.plan(""); pl.Offers != nil && len(pl.Offers) == 0 {
		t.Error("nothing is offered")
	}
	for _, form := range []string{"original", "small", "drawn"} {
		w := b.send(http.MethodGet, "/api/photos/photo-0001/"+form, "")
		if w.Code != 200 || !strings.HasPrefix(w.Header().Get("Content-Type"), "image/") || form == "original" && w.Body.String() != data {
			t.Errorf("%s: %d, %s, %d bytes", form, w.Code, w.Header().Get("Content-Type"), w.Body.Len())
		}
	}
	b.take("photo-0001", false)
	if b.grade() != eye {
		t.Error("taken back it still counts")
	}
	b.take("photo-0001", true)
	b.post("/api/photos/photo-0001/strike", `{"reason":"wrong panel"}`, 200, nil)
	if b.grade() != eye {
		t.Error("struck out it still counts")
	}
	b.post("/api/photos/photo-0001/accept", `{"person":"Tove","accept":true}`, 409, nil)
}

// A photo that tells nothing is kept with the reason, and read another way it may tell.
func TestAPhotoIsReadAnotherWay(t *testing.T) {
	b := newBed(t)
	var p api.ProofPhoto
	b.photo("photo-0001", "reflection", lamps(t, 4), 201, &p) // no lamp was said: a card is looked for
	if p.Reading != nil || p.Refused == nil || !strings.Contains(*p.Refused, "card") {
		t.Fatalf("%+v", p)
	}
	b.post("/api/photos/photo-0001/accept", `{"person":"Tove","accept":true}`, 409, nil)
	take := `{"name":"booth tubes","pitch_mm":20,"lamp_mm":500,"camera_mm":600,"aperture_mm":4,"mm_per_px":0.12,"lens_px":0.8,"gamma":2.2,"scale":false,"shiny":"brighter"%s}`
	p = api.ProofPhoto{}
	b.post("/api/photos/photo-0001/read", fmt.Sprintf(take, ""), 200, &p)
	if p.Reading == nil || p.Refused != nil {
		t.Fatalf("%+v", p)
	}
	whole := p.Reading.Grade.Mean
	b.post("/api/photos/photo-0001/read", fmt.Sprintf(take, `,"area":{"left":0.1,"top":0.1,"right":0.9,"bottom":0.9}`), 200, &p)
	if p.Reading == nil || p.Take.Area == nil || *p.Reading.WidthMm > 0.85*900*0.12 || math.Abs(p.Reading.Grade.Mean-whole) > 1 {
		t.Errorf("a part of it: %+v", p)
	}
	b.post("/api/photos/photo-0001/read", fmt.Sprintf(take, `,"area":{"left":0.9,"top":0.1,"right":0.1,"bottom":0.9}`), 422, nil)
	// What is no picture is refused, and nothing is kept.
	for name, data := range map[string]string{"empty": "", "text": "no photo at all", "cut": lamps(t, 4)[:900]} {
		w := b.send(http.MethodPost, b.at("/photos?person=Tove&kind=reflection&id=photo-bad-"+name), data)
		if w.Code != 422 {
			t.Errorf("%s: %d %s", name, w.Code, w.Body)
		}
	}
	b.photo("photo-0002", "sideways", lamps(t, 4), 422, nil)
	if f := b.proof(); len(f.Photos) != 1 {
		t.Errorf("%d photos are kept", len(f.Photos))
	}
}

func TestMetersOnAPanel(t *testing.T) {
	b := newBed(t)
	add := func(id, quantity string, angle, value float64, after bool, status int) {
		t.Helper()
		b.into(b.send(http.MethodPost, b.at("/meters"), fmt.Sprintf(`{"id":"meter-%s","person":"Tove","quantity":%q,"instrument":"G-1","angle_deg":%v,"x_mm":300,"y_mm":300,"value":%v,"after":%v}`,
			id, quantity, angle, value, after)), status, nil)
	}
	add("0001", "gloss", 20, 91, false, 204)
	add("0001", "gloss", 20, 91, false, 204)
	add("0002", "gloss", 20, 91.4, false, 204)
	add("0003", "gloss", 20, 91.2, true, 204)
	add("0004", "clarity", 0, 70, false, 204)
	add("0005", "clarity", 0, 96, true, 204)
	add("0006", "gloss", 20, 140, true, 422)
	add("0007", "gloss", 33, 90, true, 422)
	add("0008", "colour", 20, 90, true, 422)
	add("0001", "gloss", 20, 12, false, 409)
	p := b.proof()
	if len(p.Meters) != 5 || len(p.Changes) != 2 || p.Changes[0].Quantity != api.QuantityGloss || !strings.Contains(p.Changes[0].Text, "no real difference") || !strings.Contains(p.Changes[1].Text, "+26") {
		t.Errorf("%d readings: %+v", len(p.Meters), p.Changes)
	}
	b.into(b.send(http.MethodPost, "/api/meters/meter-0005/strike", `{"reason":"oil on the foot"}`), 204, nil)
	if p = b.proof(); p.Changes[1].After != nil || p.Meters[4].StruckAt == nil {
		t.Errorf("struck out it still counts: %+v", p.Changes[1])
	}
}

// worked takes the bed's panel through the usual ladder, all sections; a step that is skipped (1
// for the first) is done without a pass.
func (b *bed) worked(skip int) {
	b.t.Helper()
	b.readings()
	b.accept()
	l := b.level()
	n := 0
	for _, sec := range l.Sections {
		for step, st := range l.Steps {
			passes := st.Passes
			if step == skip-1 {
				passes = 0
			}
			for range passes {
				n++
				b.wait(3 * time.Minute)
				b.into(b.entry(fmt.Sprint("pass", n), sec.Key, "pass", step+1), 201, nil)
			}
			n++
			b.into(b.entry(fmt.Sprint("done", n), sec.Key, "done", step+1), 201, nil)
		}
	}
}

func (b *bed) prove(id, kind, more string, status int) (p api.PanelProof) {
	b.t.Helper()
	b.post(b.at("/proofs"), fmt.Sprintf(`{"id":"proof-%s","person":"Tove","kind":%q%s}`, id, kind, more), status, nil)
	return b.proof()
}

// The end of the work on a panel: photos, the wipe, marks, and keeping it.
func TestAPanelIsKept(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPut, "/api/lamps", lamp), 200, nil)
	b.photo("photo-0001", "reflection", lamps(t, 6), 201, nil)
	b.take("photo-0001", true)
	b.mark("0001", "scratch", 300, 300, "")
	b.worked(0)
	b.mark("0002", "nib", 500, 300, "")
	p := b.proof()
	if p.After == nil || p.After.Source != api.KnownModel || p.SpentUm == nil || p.SpentUm.Mean < 1 || p.Barred == nil || len(p.Wipes) == 0 {
		t.Fatalf("after %+v, spent %+v, barred %v, %d wipes", p.After, p.SpentUm, p.Barred, len(p.Wipes))
	}
	for _, w := range p.Wipes {
		if w.Likely {
			t.Errorf("a ladder made in full leaves scratches: %s", w.Text)
		}
	}
	b.prove("0001", "kept", "", 409)
	b.into(b.send(http.MethodPost, b.at("/marks/close"), `{"person":"Tove","marks":[{"id":"mark-0001","outcome":"left"},{"id":"mark-0002","outcome":"gone"}]}`), 422, nil)
	if p = b.proof(); p.MarkSum.Open != 2 {
		t.Errorf("one of two was closed: %+v", p.MarkSum)
	}
	b.into(b.send(http.MethodPost, b.at("/marks/close"), `{"person":"Tove","marks":[{"id":"mark-0001","outcome":"left","reason":"too deep for the film"},{"id":"mark-0002","outcome":"gone"}]}`), 204, nil)
	b.photo("photo-0002", "reflection", lamps(t, 0.5), 201, nil)
	b.take("photo-0002", true)
	p = b.prove("0002", "wiped", "", 201)
	if p.Barred != nil || p.After.Source != api.KnownPhoto || p.After.Grade.Mean > 2 || len(p.Left) != 1 || p.Wipes[0].Seen == nil {
		t.Errorf("after %+v, left %+v, barred %v", p.After, p.Left, p.Barred)
	}
	if math.Abs(b.grade()-6) > 0.8 {
		t.Errorf("a photo after work changed what the plan rests on: %v", b.grade())
	}
	if p = b.prove("0003", "kept", "", 201); p.Kept == nil {
		t.Error("it is not kept")
	}
	var car api.CarProof
	b.get("/api/cars/"+b.car+"/prove", &car)
	if car.Kept != 1 || len(car.Lines) != 1 || car.Marks.Left != 1 || car.Marks.Gone != 1 {
		t.Errorf("%+v", car)
	}
	b.into(b.send(http.MethodPost, "/api/proofs/proof-0003/strike", `{"reason":"looked again"}`), 204, nil)
	if b.proof().Kept != nil {
		t.Error("struck out it still holds")
	}
}

// A step that stopped early shows as a scratch under the gloss; the panel goes back and is
// planned from what is left.
func TestAPanelGoesBackToPlan(t *testing.T) {
	b := newBed(t)
	b.worked(4)
	p := b.proof()
	if len(p.Wipes) == 0 || !p.Wipes[0].Likely || !strings.Contains(p.Wipes[0].Text, "under the gloss") {
		t.Fatalf("%+v", p.Wipes)
	}
	p = b.prove("0001", "scratched", fmt.Sprintf(`,"section":%q`, p.Wipes[0].Section), 201)
	if p.Barred == nil || !strings.Contains(*p.Barred, "cratches") {
		t.Errorf("scratches stand: %v", p.Barred)
	}
	before := b.plan("")
	p = b.prove("0002", "back", `,"note":"scratches under the gloss"`, 201)
	if p.MayGoBack || p.SpentUm == nil || p.SpentUm.Mean < 1 {
		t.Errorf("sent back twice, or its film forgotten: %+v", p.SpentUm)
	}
	if b.grade() > 4 {
		t.Errorf("levelled, its grade is %v", b.grade())
	}
	again := b.plan("")
	if again.Record != nil || again.Offer == nil || again.RoomUm.Mean > before.RoomUm.Mean+1 {
		t.Fatalf("record %v, offer %v, room %v was %v", again.Record, again.Offer, again.RoomUm, before.RoomUm)
	}
	b.post(b.at("/plan"), fmt.Sprintf(`{"ladder":%q,"basis":%q}`, again.Offer.Ladder, again.Basis), 201, nil)
	if l := b.level(); l.Hand == nil || l.Hand.Step != 1 {
		t.Errorf("%+v", l.Hand)
	}
	b.into(b.send(http.MethodPost, "/api/proofs/proof-0002/strike", `{"reason":"no"}`), 409, nil)
}

func TestPhotosComeFromTheCamera(t *testing.T) {
	t.Parallel()
	srv, devices := eye(t, true)
	b := bedWith(t, devices)
	var c api.Camera
	b.get("/api/camera", &c)
	if !c.Here || len(c.Meters) != 2 {
		t.Fatalf("%+v", c)
	}
	var p api.ProofPhoto
	b.post(b.at("/camera"), `{"id":"photo-0001","person":"Tove","kind":"reflection"}`, 201, &p)
	if p.Reading == nil || !p.Take.Scale || math.Abs(*p.Reading.MmPerPx/0.17-1) > 0.03 {
		t.Errorf("%+v", p)
	}
	for _, m := range c.Meters {
		b.into(b.send(http.MethodPost, b.at("/camera/meter"), fmt.Sprintf(`{"id":"meter-%s","person":"Tove","instrument":%q,"x_mm":300,"y_mm":300}`, m.Quantity, m.Instrument)), 204, nil)
	}
	if f := b.proof(); len(f.Meters) != 2 {
		t.Errorf("%+v", f.Meters)
	}
	b.into(b.send(http.MethodPost, b.at("/camera/meter"), `{"id":"meter-none","person":"Tove","instrument":"another","x_mm":300,"y_mm":300}`), 422, nil)
	srv.Close()
	b.get("/api/camera", &c)
	if c.Here {
		t.Error("a camera that is gone is there")
	}
	b.post(b.at("/camera"), `{"id":"photo-0002","person":"Tove","kind":"reflection"}`, 409, nil)
	without := makeBed(t)
	without.post(without.at("/camera"), `{"id":"photo-0001","person":"Tove","kind":"reflection"}`, 409, nil)
}

func TestPhotosAreLetGoByTheRule(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPut, "/api/lamps", lamp), 200, nil)
	b.photo("photo-0001", "reflection", lamps(t, 3), 201, nil)
	var k api.PhotosKept
	b.get("/api/photos", &k)
	if k.Photos != 1 || k.Bytes < 1000 {
		t.Fatalf("%+v", k)
	}
	b.into(b.send(http.MethodPut, "/api/photos", `{"after_hand_over_days":365,"struck_days":7}`), 200, nil)
	b.into(b.send(http.MethodPut, "/api/photos", `{"after_hand_over_days":-1,"struck_days":7}`), 422, nil)
	b.post("/api/photos/photo-0001/strike", `{"reason":"wrong panel"}`, 200, nil)
	var d api.PhotosDropped
	b.post("/api/photos/drop", "", 200, &d)
	if d.Dropped != 0 {
		t.Error("deleted before its time")
	}
	b.wait(8 * 24 * time.Hour)
	b.post("/api/photos/drop", "", 200, &d)
	if d.Dropped != 1 || d.Kept.Photos != 0 || d.Kept.Bytes != 0 {
		t.Errorf("%+v", d)
	}
	if w := b.send(http.MethodGet, "/api/photos/photo-0001/original", ""); w.Code != 404 {
		t.Errorf("its file is there: %d", w.Code)
	}
	if p := b.proof(); len(p.Photos) != 1 || !p.Photos[0].Dropped || p.Photos[0].Reading == nil {
		t.Errorf("what was read is gone: %+v", p.Photos)
	}
}

func TestSheetsArePrinted(t *testing.T) {
	b := newBed(t)
	for sheet, head := range map[string]string{"stripes.svg": "<svg", "card.svg": "<svg", "stripes.pdf": "%PDF", "card.pdf": "%PDF"} {
		w := b.send(http.MethodGet, "/api/print/"+sheet+"?pitch_mm=15", "")
		if w.Code != 200 || !strings.HasPrefix(w.Body.String(), head) {
			t.Errorf("%s: %d %.40s", sheet, w.Code, w.Body)
		}
	}
	if w := b.send(http.MethodGet, "/api/print/stripes.svg?pitch_mm=900", ""); w.Code != 422 {
		t.Errorf("a pitch of 900 mm: %d", w.Code)
	}
}

// Sent back and planned anew, a photo tells where the next plan begins; one from before does not
// come back, and what was read before the new passes is not taken for what is now.
func TestPhotosAfterAPanelWasSentBack(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPut, "/api/lamps", lamp), 200, nil)
	b.photo("photo-0001", "reflection", lamps(t, 6), 201, nil)
	b.take("photo-0001", true)
	b.worked(4)
	b.prove("0001", "back", "", 201)
	left := b.grade()
	b.post("/api/photos/photo-0001/strike", `{"reason":"blurred"}`, 200, nil)
	if got := b.grade(); got != left {
		t.Errorf("a photo from before changed what is left from %v to %v", left, got)
	}
	var p api.ProofPhoto
	b.photo("photo-0002", "reflection", lamps(t, 3), 201, &p)
	if p.After {
		t.Error("no pass was made since, and it is said to be after work")
	}
	b.take("photo-0002", true)
	if got := b.grade(); math.Abs(got-p.Reading.Grade.Mean) > 1e-6 {
		t.Errorf("a photo since reads %v, the grade is %v", p.Reading.Grade.Mean, got)
	}
}

// What still shines of a section by a photo counts in Level as a look, once.
func TestAPhotoOfASandedSectionIsALook(t *testing.T) {
	t.Parallel()
	_, devices := eye(t, false)
	b := bedWith(t, devices)
	b.readings()
	b.accept()
	sec := b.level().Section
	for i := range 3 {
		b.wait(3 * time.Minute)
		b.into(b.entry(fmt.Sprint("pass", i), sec, "pass", 1), 201, nil)
	}
	var p api.ProofPhoto
	b.post(b.at("/camera"), fmt.Sprintf(`{"id":"photo-0001","person":"Tove","kind":"dull","section":%q}`, sec), 201, &p)
	if p.Reading == nil || p.Reading.Share == nil {
		t.Fatalf("%+v", p)
	}
	looks := func() (n int, share float64) {
		for _, e := range b.level().Log {
			if e.Kind == api.EntryKindShiny {
				n, share = n+1, *e.Share
			}
		}
		return n, share
	}
	if n, _ := looks(); n != 0 {
		t.Error("it counts before anybody accepted it")
	}
	b.take("photo-0001", true)
	b.take("photo-0001", true)
	if n, share := looks(); n != 1 || math.Abs(share-p.Reading.Share.Value) > 1e-9 {
		t.Errorf("%d looks of %v, the photo says %v", n, share, p.Reading.Share.Value)
	}
	counts := func() (n int) {
		for _, e := range b.level().Log {
			if e.Kind == api.EntryKindShiny && e.StruckAt == nil {
				n++
			}
		}
		return n
	}
	for _, yes := range []bool{false, true, false, true} {
		if b.take("photo-0001", yes); counts() != map[bool]int{true: 1}[yes] {
			t.Errorf("accepted %v, %d looks count", yes, counts())
		}
	}
	if w := b.send(http.MethodGet, "/api/photos/photo-0001/drawn", ""); w.Code != 200 {
		t.Errorf("the mask: %d", w.Code)
	}
	if b.post("/api/photos/photo-0001/strike", `{"reason":"wet"}`, 200, nil); counts() != 0 {
		t.Error("struck out it counts as a look")
	}
}

// What is asked of photos, lamps, meters and marks with nonsense is refused with a sentence, and
// nothing is kept.
func TestNonsenseAboutProvingIsRefused(t *testing.T) {
	b := newBed(t)
	with := func(change, to string) string { return strings.Replace(lamp, change, to, 1) }
	for name, c := range map[string]struct{ method, path, body, want string }{
		"no name":       {"PUT", "/api/lamps", with(`"booth tubes"`, `" "`), "needs a name"},
		"no pitch":      {"PUT", "/api/lamps", with(`"pitch_mm":20`, `"pitch_mm":0`), "from 1 to 500"},
		"far away":      {"PUT", "/api/lamps", with(`"lamp_mm":500`, `"lamp_mm":90000`), "from 50 to"},
		"no scale":      {"PUT", "/api/lamps", with(`"mm_per_px":0.12`, `"mm_per_px":0`), "lay the scale card"},
		"no such photo": {"POST", "/api/photos/none/accept", `{"person":"Tove","accept":true}`, "nothing of that name"},
		"a short id":    {"POST", b.at("/photos?id=x&kind=dull&person=Tove"), "x", "8 to 64"},
		"nobody":        {"POST", b.at("/photos?id=photo-0001&kind=dull&person="), "x", "1 to 40"},
		"a section":     {"POST", b.at("/photos?id=photo-0001&kind=dull&person=Tove&section=nowhere"), "x", "no section"},
		"beside":        {"POST", b.at("/meters"), `{"id":"meter-0001","person":"Tove","quantity":"gloss","instrument":"G","angle_deg":20,"x_mm":4000,"y_mm":300,"value":90}`, "900 mm wide"},
		"no marks":      {"POST", b.at("/marks/close"), `{"person":"Tove","marks":[]}`, "marks"},
		"another kind":  {"POST", b.at("/proofs"), `{"id":"proof-0001","person":"Tove","kind":"perfect"}`, "wiped"},
		"nothing done":  {"POST", b.at("/proofs"), `{"id":"proof-0001","person":"Tove","kind":"back"}`, "No pass was made"},
		"another form":  {"GET", "/api/photos/photo-0001/huge", "", "original"},
	} {
		w := b.send(c.method, c.path, c.body)
		if w.Code < 400 || w.Code >= 500 || !strings.Contains(w.Body.String(), c.want) {
			t.Errorf("%s: %d %s, want %q", name, w.Code, w.Body, c.want)
		}
	}
	large := strings.Repeat("x", proof.MostProof+9)
	if w := b.send(http.MethodPost, b.at("/photos?id=photo-0001&kind=dull&person=Tove"), large); w.Code != 422 && w.Code != 413 || !strings.Contains(w.Body.String(), "MB") {
		t.Errorf("%d bytes: %d %.200s", len(large), w.Code, w.Body)
	}
	if p := b.proof(); len(p.Photos)+len(p.Meters)+len(p.Notes) != 0 {
		t.Errorf("kept: %+v", p)
	}
}

// Dead paint has no gloss before it is off.
func TestChalkedPaintIsProvenFromDull(t *testing.T) {
	b := newBed(t)
	b.readings()
	before := func() float64 {
		t.Helper()
		var f api.PanelProof
		b.get("/api/panels/"+b.panel+"/prove", &f)
		return f.Before.Clarity
	}
	if bright := before(); bright < 20 {
		t.Errorf("clarity %.0f of paint that is not dead", bright)
	}
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"origin":"factory","layers":"single","aim":"polish","swirls":"medium","dead":"heavy"}`), 200, nil)
	if dull := before(); dull > 5 {
		t.Errorf("clarity %.0f of chalked paint", dull)
	}
}
