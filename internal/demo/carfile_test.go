package demo

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"os"
	"path/filepath"
	"testing"
	"time"

	"waxplanus/internal/files"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

func opened(t *testing.T) (*store.Store, *shop.Shop) {
	t.Helper()
	return openedIn(t, t.TempDir())
}

func exported(t *testing.T, of *shop.Shop, id string) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := of.CarFile(context.Background(), id, "test", &out); err != nil {
		t.Fatalf("%s: %v", id, err)
	}
	return out.Bytes()
}

// Cars of the demo shop in files of their own.
func TestFilesOfTheShop(t *testing.T) {
	s, of := opened(t)
	if err := Fill(context.Background(), s, time.Now()); err != nil {
		t.Fatal(err)
	}
	t.Run("go round without loss", func(t *testing.T) { goRound(t, s, of) })
	t.Run("are refused where they do not hang together", func(t *testing.T) { refusals(t, of) })
	t.Run("go into backups", func(t *testing.T) { testBackups(t, s, of) })
	t.Run("are looked through", func(t *testing.T) { testVerify(t, s, of) })
}

// Every car of the demo shop goes into a file and comes out of it in another shop as it was:
// its document, its photos and its film record.
func goRound(t *testing.T, s *store.Store, of *shop.Shop) {
	ctx := context.Background()
	_, other := opened(t)
	pictures := 0
	for _, id := range []string{PilotID, FloatID, LibraryID, HireID, CoversID, HarbourID, FerryID} {
		file := exported(t, of, id)
		w, err := other.ReceiveCar(ctx, bytes.NewReader(file))
		if err != nil {
			t.Fatalf("%s: %v", id, err)
		}
		if w.Known || w.PhotosMissing > 0 || w.Panels == 0 || len(w.Changes) > 0 {
			t.Errorf("%s waits as %+v", id, w)
		}
		if err := other.HasCar(ctx, id); !errors.Is(err, refuse.ErrMissing) {
			t.Errorf("%s is kept before anybody said so: %v", id, err)
		}
		if c, err := other.KeepCar(ctx, w.ID, false); err != nil || c.ID != id {
			t.Fatalf("%s: %+v, %v", id, c, err)
		}
		pictures += w.Photos
		again, before := parts(t, exported(t, other, id)), parts(t, file)
		if len(again) != len(before) {
			t.Errorf("%s: %d files and %d", id, len(again), len(before))
		}
		for name, data := range before {
			if name == "car.waxplanus.json" {
				data, again[name] = withoutTime(t, data), withoutTime(t, again[name])
			}
			if !bytes.Equal(data, again[name]) {
				t.Errorf("%s: %s is another one: %.400s", id, name, again[name])
			}
		}
		one, err := of.Handing(ctx, id)
		if err != nil {
			t.Fatal(err)
		}
		two, err := other.Handing(ctx, id)
		if err != nil {
			t.Fatal(err)
		}
		for i, l := range one.Lines {
			m := two.Lines[i]
			if l.Coats > 0 { // what the other shop learned of its coats weighs in
				continue
			}
			if l.Clear.Mean-m.Clear.Mean > 0.5 || m.Clear.Mean-l.Clear.Mean > 0.5 || l.Spent.Mean-m.Spent.Mean > 0.05 || m.Spent.Mean-l.Spent.Mean > 0.05 {
				t.Errorf("%s, %s: clear %.2f and %.2f, spent %.2f and %.2f", id, l.Name, l.Clear.Mean, m.Clear.Mean, l.Spent.Mean, m.Spent.Mean)
			}
		}
		// Beside itself, as a new car, it has ids of its own and its own mirror.
		if w, err = other.ReceiveCar(ctx, bytes.NewReader(file)); err != nil || !w.Known || len(w.Changes) > 0 {
			t.Fatalf("%s again: %+v, %v", id, w, err)
		}
		twin, err := other.KeepCar(ctx, w.ID, true)
		if err != nil {
			t.Fatal(err)
		}
		if three, err := other.Handing(ctx, twin.ID); err != nil || twin.ID == id || len(three.Lines) != len(one.Lines) || three.Passes != one.Passes {
			t.Errorf("%s beside itself: %v", id, err)
		}
	}
	if pictures < 2 {
		t.Errorf("only %d photos went along", pictures)
	}
	if left, err := filepath.Glob(filepath.Join(s.Dir(), "incoming", "*")); err != nil || len(left) > 0 {
		t.Errorf("left over: %v, %v", left, err)
	}
}

func parts(t *testing.T, file []byte) map[string][]byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		t.Fatal(err)
	}
	out := map[string][]byte{}
	for _, f := range z.File {
		in, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		if out[f.Name], err = io.ReadAll(in); err != nil {
			t.Fatal(err)
		}
	}
	return out
}

func withoutTime(t *testing.T, raw []byte) []byte {
	t.Helper()
	var doc files.CarDocument
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	doc.At = time.Time{}
	out, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// A file that reads as a car and does not hang together is refused, and nothing of it is kept.
func refusals(t *testing.T, of *shop.Shop) {
	ctx := context.Background()
	_, other := opened(t)
	raw := parts(t, exported(t, of, FerryID))["car.waxplanus.json"]
	door := func(car map[string]any) map[string]any {
		for _, p := range files.Rows(car["panels"]) {
			if len(files.Rows(p["log"])) > 0 {
				return p
			}
		}
		t.Fatal("no panel was worked")
		return nil
	}
	for name, spoil := range map[string]func(car map[string]any){
		"a shape that is none":               func(c map[string]any) { door(c)["shape"] = map[string]any{"outline": []any{}} },
		"a plan of another kind":             func(c map[string]any) { files.Rows(door(c)["plans"])[0]["made"] = map[string]any{"job": 7} },
		"a pass of a step that is not there": func(c map[string]any) { files.Rows(door(c)["log"])[0]["step"] = 99 },
		"a pass of a plan of another car":    func(c map[string]any) { files.Rows(door(c)["log"])[0]["plan_id"] = "plan-of-another" },
		"a floor of another car": func(c map[string]any) {
			c["floors"] = []any{map[string]any{"id": "floor-x1", "seq": 1, "panel_id": "pilot-car.roof", "floor_um": 20, "person": "x", "reason": "y", "at": "2026-01-01T00:00:00Z", "struck_reason": ""}}
		},
		"two readings of one id": func(c map[string]any) {
			r := files.Rows(door(c)["readings"])
			r[1]["id"] = r[0]["id"]
		},
		"two panels of one key": func(c map[string]any) {
			p := files.Rows(c["panels"])
			p[1]["key"] = p[0]["key"]
		},
		"a reading of a photo": func(c map[string]any) { files.Rows(door(c)["proof_photos"])[0]["reading"] = []any{1} },
	} {
		var doc files.CarDocument
		if err := json.Unmarshal(raw, &doc); err != nil {
			t.Fatal(err)
		}
		spoil(doc.Car)
		out, err := json.Marshal(doc)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := other.ReceiveCar(ctx, bytes.NewReader(out)); !refuse.IsRefusal(err, refuse.BadCarFile) {
			t.Errorf("%s gives %v", name, err)
		}
	}
	if err := other.HasCar(ctx, FerryID); !errors.Is(err, refuse.ErrMissing) {
		t.Errorf("something was kept: %v", err)
	}
}

// Version 1 stays readable as it was written first.
func TestTheFirstVersionOfACarIsRead(t *testing.T) {
	raw, err := os.ReadFile("testdata/car-1.waxplanus.json")
	if err != nil {
		t.Fatal(err)
	}
	ctx := context.Background()
	_, of := opened(t)
	w, err := of.ReceiveCar(ctx, bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	if w.Panels != 1 || w.Readings != 5 || w.Name != "Side flap" {
		t.Errorf("%+v", w)
	}
	if _, err := of.KeepCar(ctx, w.ID, false); err != nil {
		t.Error(err)
	}
}
