package photo

import (
	"errors"
	"math"
	"testing"
)

func section() Height { return NewHeight(600, 450, 0.15, []Waves{{5, 1, 0.2, 1}}, 3) }

func sanded() Sanded {
	return Sanded{Share: 0.15, Shine: 0.6, Light: 0.4, Uneven: 3, Noise: 0.005, Lens: 0.8, Gamma: 2.2, Seed: 5}
}

func TestShinyShareIsRead(t *testing.T) {
	for _, share := range []float64{0.03, 0.15, 0.4, 0.75} {
		for looks, shine := range map[Looks]float64{Darker: 0.6, Brighter: 1.5} {
			s := sanded()
			s.Share, s.Shine = share, shine
			r, err := ReadShiny(s.Photo(section()), 2.2, looks)
			if err != nil || math.Abs(r.Share.Value-share) > 0.03 || r.Share.Low > share || r.Share.High < share {
				t.Errorf("%.2f %s: %+v, %v", share, looks, r.Share, err)
				continue
			}
			on := 0
			for _, p := range r.Mask {
				if p == Shines {
					on++
				}
			}
			if got := float64(on) / float64(len(r.Mask)) / (1 - r.LeftOut); math.Abs(got-r.Share.Value) > 1e-9 {
				t.Errorf("the mask shows %.3f, the figure is %.3f", got, r.Share.Value)
			}
			// Told the other way round, it is the rest that shines.
			other := Brighter
			if looks == Brighter {
				other = Darker
			}
			if o, err := ReadShiny(s.Photo(section()), 2.2, other); err == nil && math.Abs(o.Share.Value+r.Share.Value-1) > 0.1+r.LeftOut+o.LeftOut {
				t.Errorf("%.2f %s and %.2f %s", r.Share.Value, looks, o.Share.Value, other)
			}
		}
	}
}

func TestStreaksAreLeftOut(t *testing.T) {
	s := sanded()
	s.Streaks = 2
	r, err := ReadShiny(s.Photo(section()), 2.2, Darker)
	if err != nil || r.LeftOut < 0.01 || math.Abs(r.Share.Value-0.15) > 0.03 {
		t.Errorf("%+v left out %.3f, %v", r.Share, r.LeftOut, err)
	}
}

func TestSectionsThatTellNothingAreRefused(t *testing.T) {
	of := func(change func(*Sanded)) Picture {
		s := sanded()
		change(&s)
		return s.Photo(section())
	}
	for what, c := range map[string]struct {
		p    Picture
		want Code
	}{
		"all dull": {of(func(s *Sanded) { s.Share = 0 }), NoContrast}, "hardly different": {of(func(s *Sanded) { s.Shine = 0.99 }), NoContrast},
		"dark": {of(func(s *Sanded) { s.Light = 1e-5; s.Noise = 0 }), TooDark}, "white": {of(func(s *Sanded) { s.Light, s.Share = 4, 0.1 }), Saturated},
		"wet": {of(func(s *Sanded) { s.Streaks = 14; s.Share = 0.02 }), Wet}, "small": {Picture{100, 80, make([]float32, 8000)}, TooSmall},
	} {
		_, err := ReadShiny(c.p, 2.2, Darker)
		var no *Refusal
		if !errors.As(err, &no) || no.Code != c.want {
			t.Errorf("%s: %v, want %s", what, err, c.want)
		}
	}
}
