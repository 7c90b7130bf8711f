package photo

import (
	"image/color"
	"math"
	"testing"
)

func inked(r Reading, p Picture, most int, ink color.RGBA) (n int) {
	img := r.Drawn(p, most)
	b := img.Bounds()
	for y := range b.Dy() {
		for x := range b.Dx() {
			if img.RGBAAt(x, y) == ink {
				n++
			}
		}
	}
	return n
}

func TestWhatWasFoundIsDrawnIn(t *testing.T) {
	s := usual()
	p := s.Mirror(rough(0.6, 0.06))
	r := read(t, p, s.Lamp)
	if len(r.Edges.X) != (p.H+r.Edges.Every-1)/r.Edges.Every || len(r.Edges.Straight) != len(r.Edges.X) {
		t.Fatalf("%d rows found, %d straight of %d", len(r.Edges.X), len(r.Edges.Straight), p.H)
	}
	for _, most := range []int{400, p.W} {
		if found, straight := inked(r, p, most, foundInk), inked(r, p, most, straightInk); found < 500 || straight < 200 {
			t.Errorf("at %d pixels: %d of what was found, %d of what is straight", most, found, straight)
		}
	}
	// On a mirror both are the same.
	smooth := s.Mirror(rough(0.01, 0.001))
	r = read(t, smooth, s.Lamp)
	apart, n := 0.0, 0
	for k, xs := range r.Edges.X {
		for _, x := range xs {
			near := math.Inf(1)
			for _, o := range r.Edges.Straight[k] {
				near = math.Min(near, math.Abs(float64(x-o)))
			}
			if x > float32(p.W)/8 && x < 7*float32(p.W)/8 && k > 20 && k < len(r.Edges.X)-20 {
				apart, n = apart+near, n+1
			}
		}
	}
	if n < 500 || apart/float64(n) > 1 {
		t.Errorf("on a mirror %d edges lie %.2f pixels beside straight ones", n, apart/float64(n))
	}
	// Stripes that lie are drawn lying.
	lying := read(t, transposed(p), s.Lamp)
	if !lying.Edges.Lying || inked(lying, transposed(p), 400, foundInk) < 500 {
		t.Error("stripes that lie are not drawn")
	}
}

func TestWhatShinesIsDrawnIn(t *testing.T) {
	s := sanded()
	s.Share = 0.2
	p := s.Photo(section())
	r, err := ReadShiny(p, s.Gamma, Darker)
	if err != nil {
		t.Fatal(err)
	}
	img, n := r.Drawn(p, 500), 0
	b := img.Bounds()
	for y := range b.Dy() {
		for x := range b.Dx() {
			if img.RGBAAt(x, y) == foundInk {
				n++
			}
		}
	}
	if share := float64(n) / float64(b.Dx()*b.Dy()); math.Abs(share-r.Share.Value) > 0.03 {
		t.Errorf("%.2f of the picture is blue, %.2f shines", share, r.Share.Value)
	}
}

func TestAPartOfAPhotoIsCutOut(t *testing.T) {
	p := picture(func(x, y int) float64 { return float64(x%100)/100 + float64(y%7)/1000 })
	c := p.Cut(0.25, 0.5, 0.75, 1)
	if c.W != p.W/2 || c.H != p.H/2 || c.V[0] != p.V[p.H/2*p.W+p.W/4] || c.V[len(c.V)-1] != p.V[len(p.V)-1-p.W/4] {
		t.Errorf("%d by %d", c.W, c.H)
	}
	if out := p.Cut(0.9, 0, 0.2, 1); out.W != 0 || len(out.V) != 0 {
		t.Errorf("corners the wrong way round give %d by %d", out.W, out.H)
	}
}

// A card beside the area that is read still tells the scale.
func TestAnAreaIsReadWithTheCardBesideIt(t *testing.T) {
	s := usual()
	s.Laid = &Laid{X: -22, Y: -10}
	p := s.Mirror(rough(0.6, 0.06))
	l := s.Lamp
	l.MMPerPx, l.Lens = 0, 0
	for _, area := range []Area{{}, {0.15, 0, 1, 1}} {
		r, found, part, err := Take{Lamp: l, Scale: true, Area: area}.Read(p)
		if err != nil {
			t.Fatalf("%+v: %v", area, err)
		}
		if math.Abs(found.MMPerPx/s.MMPerPx-1) > 0.02 || r.Peel.Low > 0.6 || r.Peel.High < 0.6 || !area.Whole() && part.W >= p.W {
			t.Errorf("%+v: %.3f mm a pixel, peel %.2f, %d wide", area, found.MMPerPx, r.Peel.Value, part.W)
		}
	}
	if _, _, _, err := (Take{Lamp: s.Lamp, Area: Area{0.5, 0.5, 0.6, 0.6}}).Read(p); err == nil {
		t.Error("a corner of a photo is read")
	}
}
