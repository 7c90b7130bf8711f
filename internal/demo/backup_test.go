package demo

import (
	"archive/zip"
	"bytes"
	"context"
	"database/sql"
	"errors"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/files"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// A backup of the shop while it is open is whole, is put back only after all of it was checked,
// and the shop that was there is moved aside.
func testBackups(t *testing.T, s *store.Store, of *shop.Shop) {
	ctx := context.Background()
	if found, err := of.Verify(ctx); err != nil || len(found.Faults) > 0 || found.Cars != 7 || found.Passes < 20 || found.Photos < 2 {
		t.Fatalf("%+v, %v", found, err)
	}
	made, err := of.MakeBackup(ctx, "test", false)
	if err != nil {
		t.Fatal(err)
	}
	path, err := of.BackupPath(made.Name)
	if err != nil {
		t.Fatal(err)
	}
	if c, err := keep.CheckBackup(path); err != nil || c.Cars != 7 || c.Photos < 2 || c.Missing > 0 {
		t.Fatalf("%+v, %v", c, err)
	}
	if _, _, err := keep.Restore(path, s.Dir(), time.Now()); !refuse.IsRefusal(err, refuse.ShopOpen) {
		t.Errorf("an open shop is replaced: %v", err)
	}

	dir := t.TempDir()
	before, other := openedIn(t, dir)
	if err := before.TakeIn(ctx, &store.Car{ID: "old-car", Name: "Old", Body: "loose", Colour: "dark", CreatedAt: time.Now()}); err != nil {
		t.Fatal(err)
	}
	other.Close()
	if err := before.Close(); err != nil {
		t.Fatal(err)
	}
	for name, spoil := range spoilt(t, path) {
		bad := filepath.Join(t.TempDir(), "bad.zip")
		if err := os.WriteFile(bad, spoil, 0o600); err != nil {
			t.Fatal(err)
		}
		_, _, err := keep.Restore(bad, dir, time.Now())
		var why *files.BadBackup
		var damage *store.Damage
		if !errors.As(err, &why) && !errors.As(err, &damage) {
			t.Errorf("%s gives %v", name, err)
		}
		if left, err := filepath.Glob(filepath.Join(dir, "*")); err != nil || len(left) != 1 || filepath.Base(left[0]) != store.FileName {
			t.Errorf("%s leaves %v", name, left)
		}
	}
	c, aside, err := keep.Restore(path, dir, time.Now())
	if err != nil || c.Cars != 7 {
		t.Fatalf("%+v, %v", c, err)
	}
	back, again := openedIn(t, dir)
	if found, err := again.Verify(ctx); err != nil || len(found.Faults) > 0 || found.Cars != 7 {
		t.Errorf("put back: %+v, %v", found, err)
	}
	if _, err := back.Car(ctx, "old-car"); !errors.Is(err, store.ErrMissing) {
		t.Errorf("the old shop is in it: %v", err)
	}
	was, _ := openedIn(t, aside)
	if _, err := was.Car(ctx, "old-car"); err != nil {
		t.Errorf("the old shop is not aside: %v", err)
	}
}

func openedIn(t *testing.T, dir string) (*store.Store, *shop.Shop) {
	t.Helper()
	s, err := store.Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	of := shop.New(s, time.Now, time.UTC)
	t.Cleanup(func() { of.Close(); _ = s.Close() })
	return s, of
}

// spoilt are backups that may not be put back.
func spoilt(t *testing.T, path string) map[string][]byte {
	t.Helper()
	raw, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	whole := parts(t, raw)
	with := func(change func(all map[string][]byte)) []byte {
		all := map[string][]byte{}
		for n, d := range whole {
			all[n] = bytes.Clone(d)
		}
		change(all)
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		for n, d := range all {
			w, err := z.Create(n)
			if err == nil {
				_, err = io.Copy(w, bytes.NewReader(d))
			}
			if err != nil {
				t.Fatal(err)
			}
		}
		if err := z.Close(); err != nil {
			t.Fatal(err)
		}
		return out.Bytes()
	}
	return map[string][]byte{
		"half of it":    raw[:len(raw)/2],
		"no archive":    []byte("not a backup"),
		"no note":       with(func(a map[string][]byte) { delete(a, "backup.json") }),
		"no database":   with(func(a map[string][]byte) { delete(a, "waxplanus.db") }),
		"another byte":  with(func(a map[string][]byte) { a["waxplanus.db"][70_000] ^= 1 }),
		"a photo less":  with(func(a map[string][]byte) { delete(a, firstPhoto(a)) }),
		"another photo": with(func(a map[string][]byte) { a[firstPhoto(a)][9] ^= 1 }),
		"a way out":     with(func(a map[string][]byte) { a["../../evil"] = []byte("x") }),
		"one of tomorrow": with(func(a map[string][]byte) {
			a["backup.json"] = bytes.Replace(a["backup.json"], []byte(`"version":1`), []byte(`"version":9`), 1)
		}),
	}
}

func firstPhoto(all map[string][]byte) string {
	for n := range all {
		if strings.HasPrefix(n, "photos/") {
			return n
		}
	}
	return ""
}

// What was changed beside the program is found.
func testVerify(t *testing.T, s *store.Store, of *shop.Shop) {
	ctx := context.Background()
	if _, err := of.HandOver(ctx, FerryID, handover.NewHandover{ID: "hand-over-1", Person: "Runa", AsItIs: true, Reason: "the ferry leaves"}); err != nil {
		t.Fatal(err)
	}
	if h, err := of.Handing(ctx, FerryID); err != nil || h.Broken || h.Seal == "" {
		t.Errorf("%v, %v", h.Broken, err)
	}
	spoilShop(t, s.Dir(), `DROP TRIGGER closed_reading_old`, `UPDATE readings SET film_um = film_um + 9 WHERE panel_id LIKE 'ferry-coupe%'`)
	found, err := of.Verify(ctx)
	if err != nil || len(found.Faults) != 1 || !strings.Contains(found.Faults[0].What, "sealed") || found.Seals != 1 {
		t.Errorf("%+v, %v", found, err)
	}
	if h, err := of.Handing(ctx, FerryID); err != nil || !h.Broken {
		t.Errorf("the seal holds: %v", err)
	}
}

// spoilShop changes a shop's file beside the program.
func spoilShop(t *testing.T, dir string, statements ...string) {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+filepath.Join(dir, store.FileName)+"?_pragma=busy_timeout(2000)")
	if err != nil {
		t.Fatal(err)
	}
	for _, one := range statements {
		if _, err := db.Exec(one); err != nil {
			t.Fatal(err)
		}
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
}
