package store

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// TestPowerLossKeepsWhatWasAcknowledged copies the files of an open shop, as a
// cut of the power would leave them, and opens the copy.
func TestPowerLossKeepsWhatWasAcknowledged(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	for i, id := range []string{"reading-1", "reading-2", "reading-3"} {
		_, err := s.AddReadings(ctx, []Reading{reading(id, 160+float64(i))}, 200)
		must(t, err)
		copied := filepath.Join(t.TempDir(), "copy")
		mkdir(t, copied)
		for _, suffix := range []string{"", "-wal"} {
			raw, err := os.ReadFile(filepath.Join(dir, FileName+suffix))
			must(t, err)
			must(t, os.WriteFile(filepath.Join(copied, FileName+suffix), raw, 0o600))
		}
		got, err := openIn(t, copied).Readings(ctx, "p")
		if err != nil || len(got) != i+1 || got[i].ID != id {
			t.Fatalf("after %s the copy has %d readings, %v", id, len(got), err)
		}
	}
}

func TestTornLogLosesNothingBefore(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	_, err := s.AddReadings(ctx, []Reading{reading("reading-1", 160)}, 200)
	must(t, err)
	must(t, s.Close())
	s = openIn(t, dir)
	_, err = s.AddReadings(ctx, []Reading{reading("reading-2", 161)}, 200)
	must(t, err)
	copied := filepath.Join(t.TempDir(), "torn")
	mkdir(t, copied)
	for _, suffix := range []string{"", "-wal"} {
		raw, err := os.ReadFile(filepath.Join(dir, FileName+suffix))
		must(t, err)
		if suffix == "-wal" {
			raw = raw[:len(raw)/2]
		}
		must(t, os.WriteFile(filepath.Join(copied, FileName+suffix), raw, 0o600))
	}
	got, err := openIn(t, copied).Readings(ctx, "p")
	if err != nil || len(got) == 0 || got[0].ID != "reading-1" {
		t.Fatalf("%+v, %v", got, err)
	}
}

func TestFilesThatAreNoShop(t *testing.T) {
	for name, content := range map[string]string{"text": strings.Repeat("not a database\n", 400), "half a header": "SQLite format 3\x00\x10"} {
		dir := t.TempDir()
		must(t, os.WriteFile(filepath.Join(dir, FileName), []byte(content), 0o600))
		if s, err := Open(dir); err == nil {
			_ = s.Close()
			t.Errorf("%s opens as a shop", name)
		}
		if raw, _ := os.ReadFile(filepath.Join(dir, FileName)); string(raw) != content {
			t.Errorf("%s: the file was changed", name)
		}
	}
	if _, err := Open(filepath.Join(t.TempDir(), "missing")); err == nil {
		t.Error("a folder that is not there opens as a shop")
	}
}

func TestShopOfALaterVersionIsLeftAlone(t *testing.T) {
	s, dir := shop(t)
	must(t, s.writer.Exec("INSERT INTO migrations (id) VALUES ('9999_from_the_future')").Error)
	must(t, s.Close())
	if _, err := Open(dir); err == nil || !strings.Contains(err.Error(), "up to date") {
		t.Errorf("%v", err)
	}
}

func TestTwoWritersWait(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	other := openIn(t, dir)
	done := make(chan error, 2)
	for i, w := range []*Store{s, other} {
		go func() {
			for n := range 20 {
				r := reading(string(rune('a'+i))+"-reading-"+string(rune('a'+n)), 160)
				r.TakenAt = time.Now().UTC()
				if _, err := w.AddReadings(ctx, []Reading{r}, 200); err != nil {
					done <- err
					return
				}
			}
			done <- nil
		}()
	}
	must(t, <-done)
	must(t, <-done)
	got, err := s.Readings(ctx, "p")
	must(t, err)
	if len(got) != 40 || got[39].Seq != 40 {
		t.Errorf("%d readings, the last is number %d", len(got), got[len(got)-1].Seq)
	}
}
