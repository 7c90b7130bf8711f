package fresh

import (
	"errors"
	"os"
	"path/filepath"
	"testing"
)

func TestFilesAreMadeOnceAndCopied(t *testing.T) {
	made := 0
	of := Of(func(dir string) error {
		made++
		return os.WriteFile(filepath.Join(dir, "shop"), []byte("a shop"), 0o600)
	})
	for range 3 {
		dir := t.TempDir()
		if err := of.Into(dir); err != nil {
			t.Fatal(err)
		}
		if got, err := os.ReadFile(filepath.Join(dir, "shop")); err != nil || string(got) != "a shop" {
			t.Errorf("%q, %v", got, err)
		}
		if err := os.WriteFile(filepath.Join(dir, "shop"), []byte("another"), 0o600); err != nil {
			t.Fatal(err)
		}
		if err := of.Into(dir); err != nil {
			t.Fatal(err)
		}
		if got, _ := os.ReadFile(filepath.Join(dir, "shop")); string(got) != "another" {
			t.Errorf("what was there became %q", got)
		}
	}
	if made != 1 {
		t.Errorf("made %d times", made)
	}
	broken := Of(func(string) error { return errors.New("no") })
	if err := broken.Into(t.TempDir()); err == nil {
		t.Error("no error")
	}
	if err := of.Into(filepath.Join(t.TempDir(), "missing")); err == nil {
		t.Error("no such directory, and no error")
	}
}
