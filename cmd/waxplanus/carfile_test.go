package main

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/demo"
	"waxplanus/internal/store"
)

// ran is what a command prints, and its exit code.
func ran(t *testing.T, args ...string) (string, int) {
	t.Helper()
	var out console
	c := command(&out, &out)
	c.SetArgs(args)
	err := c.ExecuteContext(context.Background())
	if err != nil {
		return out.String() + err.Error(), exitCode(err)
	}
	return out.String(), 0
}

// A car goes out of a shop as a file, is asked about without a shop, and comes into another; the
// shop is copied, spoilt, found out and put back.
func TestCarsAndShopsOnTheCommandLine(t *testing.T) {
	dir, other := t.TempDir(), filepath.Join(t.TempDir(), "other")
	s, err := store.Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	if err := demo.Fill(context.Background(), s, time.Now()); err != nil {
		t.Fatal(err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	file, backup := filepath.Join(t.TempDir(), "coupe.zip"), filepath.Join(t.TempDir(), "shop.zip")
	if err := os.MkdirAll(other, 0o750); err != nil {
		t.Fatal(err)
	}
	for _, step := range []struct {
		args []string
		code int
		want string
	}{
		{[]string{"export", "ferry coupé", "--data", dir, "--out", file}, 0, ""},
		{[]string{"export", "No such car", "--data", dir}, 2, "no car of this shop"},
		{[]string{"export", "x", "--data", filepath.Join(dir, "none")}, 1, "the folder of the shop"},
		{[]string{"export", "ferry-coupe", "--data", dir, "--out", file}, 1, "exists"},
		{[]string{"film", file}, 0, "left front door              film 150"},
		{[]string{"advise", file}, 0, "before hand over: left front door"},
		{[]string{"plan", file}, 0, "least_film"},
		{[]string{"plan", file, "--panel", "wheel"}, 2, `no panel "wheel"`},
		{[]string{"report", file, "--paper", "record.csv"}, 0, "panel,panel_key"},
		{[]string{"report", file}, 0, "%PDF"},
		{[]string{"report", file, "--paper", "poem.pdf"}, 2, "Paper"},
		{[]string{"film", filepath.Join(dir, "none")}, 1, "no such file"},
		{[]string{"film", filepath.Join(dir, store.FileName)}, 2, "not taken"},
		{[]string{"import", file, "--data", other}, 0, "Nothing was kept"},
		{[]string{"import", file, "--data", other, "--as", "it-is"}, 2, "as new or as same"},
		{[]string{"import", file, "--data", other, "--as", "same"}, 0, "Kept."},
		{[]string{"import", file, "--data", other}, 0, "All of it is here already"},
		{[]string{"verify", "--data", other}, 0, "1 car, 14 panels"},
		{[]string{"backup", "--data", dir, "--out", backup}, 0, ""},
		{[]string{"backup", "--data", dir}, 0, "by-hand.zip"},
		{[]string{"restore", file, "--data", other}, 2, "Nothing was replaced"},
		{[]string{"restore", backup, "--data", other}, 0, "7 cars, 3 photos"},
		{[]string{"verify", "--data", other}, 0, "7 cars"},
	} {
		out, code := ran(t, step.args...)
		if code != step.code || !strings.Contains(out, step.want) {
			t.Errorf("%v ends with %d: %.300s", step.args, code, out)
		}
	}
	for _, args := range [][]string{{"film", file, "--json"}, {"plan", file, "--json"}, {"advise", file, "--json"}, {"verify", "--data", other, "--json"}, {"import", file, "--data", other, "--json"}} {
		if out, code := ran(t, args...); code != 0 || !json.Valid([]byte(out)) {
			t.Errorf("%v ends with %d: %.200s", args, code, out)
		}
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	c := carCommands(bytes.NewReader(raw), &out)[0]
	c.SetArgs([]string{"-"})
	if err := c.ExecuteContext(context.Background()); err != nil || !strings.Contains(out.String(), "not read") {
		t.Errorf("%v: %.200s", err, out.String())
	}
	photos, err := filepath.Glob(filepath.Join(other, "photos", "*", strings.Repeat("?", 64)))
	if err != nil || len(photos) != 3 {
		t.Fatalf("%v, %v", photos, err)
	}
	if err := os.Remove(photos[0]); err != nil {
		t.Fatal(err)
	}
	if out, code := ran(t, "verify", "--data", other); code != 3 || !strings.Contains(out, "its file is not there") {
		t.Errorf("a missing photo ends with %d: %s", code, out)
	}
}
