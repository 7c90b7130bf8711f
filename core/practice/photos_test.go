package practice

import (
	"math"
	"testing"

	"waxplanus/core/photo"
)

// A few photos that nobody has seen are read about as they are; bench photo says how well.
func TestScenesAreRead(t *testing.T) {
	if testing.Short() {
		t.Skip("drawing photos takes minutes under the race detector")
	}
	got, err := ReadScenes(4, 31)
	if err != nil {
		t.Fatal(err)
	}
	if got.Peel.Read < 3 || got.Peel.Worst > 0.25 || got.Pebble.Worst > 0.25 || got.Peel.Within < got.Peel.Read-1 {
		t.Errorf("%+v", got)
	}
	if got := ReadDulls(9, 90); got.Read < 7 || got.RMS > 0.02 || got.Worst > 0.04 || got.Refused > 1 || got.Within < got.Read-1 {
		t.Errorf("%+v", got)
	}
	s, err := DrawScene(31)
	if err != nil {
		t.Fatal(err)
	}
	p, err := photo.Decode(s.File)
	if err != nil {
		t.Fatal(err)
	}
	usual, err := photo.Reflect(p, s.Lamp)
	if err != nil {
		t.Fatal(err)
	}
	// Twice the distance is half the slope.
	far := s.Lamp
	far.Lamp *= 2
	half, err := photo.Reflect(p, far)
	if err != nil || math.Abs(half.Peel.Value/usual.Peel.Value-0.5) > 0.02 {
		t.Errorf("%.3f at twice the distance of %.3f, %v", half.Peel.Value, usual.Peel.Value, err)
	}
}
