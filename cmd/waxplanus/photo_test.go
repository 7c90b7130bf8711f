package main

import (
	"bytes"
	"encoding/json"
	"image/jpeg"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"waxplanus/core/photo"
)

func TestPhotoReflectionAnswers(t *testing.T) {
	l := photo.Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 4, MMPerPx: 0.12, Lens: 0.8, Gamma: 2.2}
	h := photo.NewHeight(800, 600, l.MMPerPx, []photo.Waves{{Length: 5, Sq: 0.8, Spread: 0.2}, {Length: 0.75, Sq: 0.08, Spread: 0.2}}, 7)
	var file bytes.Buffer
	if err := jpeg.Encode(&file, (photo.Shot{Lamp: l, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.004}).Mirror(h).Gray(), nil); err != nil {
		t.Fatal(err)
	}
	at := filepath.Join(t.TempDir(), "panel.jpg")
	if err := os.WriteFile(at, file.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	run := func(args ...string) (string, error) {
		out := &console{}
		c := command(out, io.Discard)
		c.SetArgs(append([]string{"photo", "reflection"}, args...))
		err := c.Execute()
		return out.String(), err
	}
	lamp := []string{at, "--pitch-mm", "20", "--lamp-mm", "500", "--camera-mm", "700", "--aperture-mm", "4", "--mm-per-px", "0.12"}
	text, err := run(append(lamp, "--json")...)
	var got photoAnswer
	if err != nil || json.Unmarshal([]byte(text), &got) != nil || !got.OK || *got.Peel < 0.6 || *got.Peel > 1 || *got.Pebble < 0.06 || *got.Pebble > 0.1 {
		t.Errorf("%s %v", text, err)
	}
	if text, err = run(lamp...); err != nil || !strings.Contains(text, "µm rms") {
		t.Errorf("%s %v", text, err)
	}
	if text, err = run(at, "--pitch-mm", "20", "--lamp-mm", "500", "--json"); err != nil || !strings.Contains(text, `"ok":false,"code":"scale_missing"`) {
		t.Errorf("%s %v", text, err)
	}
	if text, err = run(at); err != nil || !strings.Contains(text, "mm of the panel a pixel shows") {
		t.Errorf("%s %v", text, err)
	}
	if text, err = run(append(lamp, "--card")...); err != nil || !strings.Contains(text, "scale card was not found") {
		t.Errorf("%s %v", text, err)
	}
	if text, err = run(append(lamp, "--lens-px", "0.8")...); err != nil || strings.Contains(text, "at least") {
		t.Errorf("%s %v", text, err)
	}
	if _, err = run(filepath.Join(t.TempDir(), "none.jpg")); err == nil {
		t.Error("a file that there is not is read")
	}
}

func TestPhotoDullAnswers(t *testing.T) {
	h := photo.NewHeight(600, 450, 0.15, []photo.Waves{{Length: 5, Sq: 1, Spread: 0.2}}, 3)
	var file bytes.Buffer
	if err := jpeg.Encode(&file, (photo.Sanded{Share: 0.2, Shine: 0.6, Light: 0.4, Uneven: 2, Noise: 0.005, Lens: 0.8, Gamma: 2.2}).Photo(h).Gray(), nil); err != nil {
		t.Fatal(err)
	}
	at := filepath.Join(t.TempDir(), "section.jpg")
	if err := os.WriteFile(at, file.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	run := func(args ...string) (string, error) {
		out := &console{}
		c := command(out, io.Discard)
		c.SetArgs(append([]string{"photo", "dull", at}, args...))
		err := c.Execute()
		return out.String(), err
	}
	text, err := run("--shiny", "darker", "--json")
	var got dullAnswer
	if err != nil || json.Unmarshal([]byte(text), &got) != nil || !got.OK || *got.Share < 0.17 || *got.Share > 0.23 || *got.Low > 0.2 || *got.High < 0.2 {
		t.Errorf("%s %v", text, err)
	}
	if text, err = run("--shiny", "darker"); err != nil || !strings.Contains(text, "% still shines") {
		t.Errorf("%s %v", text, err)
	}
	if _, err = run(); err == nil || !strings.Contains(err.Error(), "brighter or darker") {
		t.Errorf("it is guessed: %v", err)
	}
}
