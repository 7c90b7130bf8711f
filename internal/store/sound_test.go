package store

import (
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"gorm.io/gorm"
)

// A file that is no sound shop is refused as it is, in a sentence that names the newest copy.
func TestAnUnsoundShopIsRefused(t *testing.T) {
	for name, spoil := range map[string]func(path string){
		"is empty": func(path string) { must(t, os.WriteFile(path, nil, 0o600)) },
		"damaged": func(path string) {
			raw, err := os.ReadFile(path)
			must(t, err)
			for i := len(raw) / 3; i < len(raw)*2/3; i++ {
				raw[i] = 0xa5
			}
			must(t, os.WriteFile(path, raw, 0o600))
		},
		"cannot be read": func(path string) {
			db, err := connect(path, time.Second, 1)
			must(t, err)
			must(t, db.Exec("UPDATE panels SET shape = '{\"outline\":['").Error)
			must(t, closePool(db))
		},
	} {
		s, dir := shop(t)
		must(t, s.TakeIn(ctx, car()))
		must(t, s.Close())
		path := filepath.Join(dir, FileName)
		raw, err := os.ReadFile(path)
		must(t, err)
		mkdir(t, filepath.Join(dir, "copies"))
		copied := filepath.Join(dir, "copies", "yesterday.db")
		must(t, os.WriteFile(copied, raw, 0o600))
		must(t, os.WriteFile(filepath.Join(dir, "notes.txt"), []byte("no copy"), 0o600))
		spoil(path)
		before, err := os.ReadFile(path)
		must(t, err)
		_, err = Open(dir)
		var d *Damage
		if !errors.As(err, &d) || !strings.Contains(err.Error(), name) || !strings.Contains(err.Error(), copied) {
			t.Errorf("%s: %v", name, err)
		}
		if after, _ := os.ReadFile(path); string(after) != string(before) {
			t.Errorf("%s: the file was changed", name)
		}
		if name == "cannot be read" {
			again, err := Open(dir, DespiteFaults)
			must(t, err)
			if _, err := again.Car(ctx, "car"); err != nil {
				t.Error(err)
			}
			must(t, again.Close())
		}
	}
}

// While another program holds the file, opening waits for it, and writing says so and keeps
// nothing; afterwards all goes on.
func TestALockOfAnotherProgram(t *testing.T) {
	s, dir := shop(t)
	must(t, s.TakeIn(ctx, car()))
	other, err := connect(filepath.Join(dir, FileName), time.Second, 1)
	must(t, err)
	held, free, ended := make(chan struct{}), make(chan struct{}), make(chan error, 1)
	go func() {
		ended <- other.Transaction(func(*gorm.DB) error {
			close(held)
			<-free
			return nil
		})
	}()
	<-held
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-1", 160)}, 200); !errors.Is(err, ErrBusy) {
		t.Errorf("writing beside a lock gives %v", err)
	}
	if got, err := s.Readings(ctx, "p"); err != nil || len(got) != 0 {
		t.Errorf("reading beside a lock gives %d, %v", len(got), err)
	}
	opened := make(chan error, 1)
	go func() {
		again, err := Open(dir)
		if err == nil {
			err = again.Close()
		}
		opened <- err
	}()
	time.Sleep(300 * time.Millisecond) // the other one opens meanwhile
	close(free)
	must(t, <-ended)
	must(t, <-opened)
	must(t, closePool(other))
	must(t, second(s.AddReadings(ctx, []Reading{reading("reading-1", 160)}, 200)))
}

// The readings of the total of one panel have a most, whoever sends them at once.
func TestAPanelIsNotCrowded(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	ends := make(chan error, 6)
	for i := range 6 {
		go func() {
			_, err := s.AddReadings(ctx, []Reading{reading(string(rune('a'+i))+"-reading-1", 160), reading(string(rune('a'+i))+"-reading-2", 160)}, 5)
			ends <- err
		}()
	}
	refused := 0
	for range 6 {
		var c *Crowded
		if err := <-ends; errors.As(err, &c) {
			refused++
		} else if err != nil {
			t.Error(err)
		}
	}
	if got, _ := s.Readings(ctx, "p"); len(got) != 4 || refused != 4 {
		t.Errorf("%d readings are kept, %d refused", len(got), refused)
	}
}

// What a write touched is told once it is on the disk, and a write that fails tells nothing.
func TestWhatAWriteTouchesIsTold(t *testing.T) {
	s, _ := shop(t)
	var told []Change
	s.OnChange(func(c Change) { told = append(told, c) })
	must(t, s.TakeIn(ctx, car()))
	must(t, second(s.AddReadings(ctx, []Reading{reading("reading-1", 160)}, 200)))
	if _, err := s.AddReadings(ctx, []Reading{reading("reading-2", -1)}, 200); err == nil {
		t.Fatal("a negative film is kept")
	}
	must(t, s.SetSetting(ctx, "unit", "mil"))
	must(t, s.Tick(ctx, Task{CarID: "car", Task: "wash", DoneAt: time.Now(), Person: "Tove"}))
	if len(told) != 4 {
		t.Fatalf("%+v", told)
	}
	if c := told[1]; c.Panels["p"] != version(s, "p") || c.Cars["car"] == 0 || c.House {
		t.Errorf("a reading tells %+v", c)
	}
	if c := told[2]; !c.House || len(c.Panels)+len(c.Cars) != 0 {
		t.Errorf("a setting tells %+v", c)
	}
	if c := told[3]; c.House || len(c.Panels) != 0 || c.Cars["car"] == 0 {
		t.Errorf("a tick tells %+v", c)
	}
}
