package photo

import (
	"errors"
	"math"
	"testing"
)

// A card in the photo tells scale and blur; over a sweep of focus the pebble is right, told to
// be at least so much, or refused, and never silently low.
func TestACardTellsScaleAndFocus(t *testing.T) {
	h := NewHeight(1200, 900, lamp.MMPerPx, []Waves{{5, 0.6, 0.2, 1}, {0.75, 0.06, 0.2, 1}}, 7)
	for _, blur := range []float64{0.8, 1.1, 1.5, 2.5, 4, 8} {
		s := usual()
		s.Defocus, s.Laid = blur, &Laid{X: -20, Y: 8, Turn: 0.09}
		p := s.Mirror(h)
		c, err := FindCard(p, lamp.Gamma)
		if err != nil || math.Abs(c.MMPerPx/lamp.MMPerPx-1) > 0.01 || math.Abs(c.Lens/blur-1) > 0.1 {
			t.Errorf("blur %.1f: %.2f, %.4f mm a pixel, %v", blur, c.Lens, c.MMPerPx, err)
			continue
		}
		r, err := Reflect(p, lamp.With(c))
		var no *Refusal
		switch {
		case errors.As(err, &no):
			if blur < 3 {
				t.Errorf("blur %.1f is refused: %v", blur, err)
			}
		case math.Abs(r.Peel.Value/0.6-1) > 0.2:
			t.Errorf("blur %.1f: a peel of %.3f", blur, r.Peel.Value)
		case math.Abs(r.Pebble.Value/0.06-1) > 0.2 && !r.PebbleAtLeast:
			t.Errorf("blur %.1f: a pebble of %.4f, and nothing is said of it", blur, r.Pebble.Value)
		}
	}
}

func TestNoCardIsFoundWhereThereIsNone(t *testing.T) {
	for what, p := range map[string]Picture{
		"stripes": usual().Mirror(rough(0.6, 0.06)), "black": picture(func(int, int) float64 { return 0 }),
		"a checkboard": picture(func(x, y int) float64 { return 0.2 + 0.6*float64((x/40+y/40)%2) }),
		"a square without a frame": picture(func(x, y int) float64 {
			if x > 200 && x < 300 && y > 200 && y < 300 {
				return 0.1
			}
			return 0.2
		}),
	} {
		if c, err := FindCard(p, 2.2); err == nil {
			t.Errorf("%s: %+v", what, c)
		}
	}
}

// Without a card the lens is not known: pebble and haze are bounds.
func TestAnUnknownLensMakesBounds(t *testing.T) {
	l := lamp
	l.Lens = 0
	if r := read(t, usual().Mirror(rough(0.6, 0.06)), l); !r.PebbleAtLeast || !r.HazeAtMost {
		t.Errorf("%+v", r)
	}
}
