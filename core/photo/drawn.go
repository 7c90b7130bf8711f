package photo

import (
	"image"
	"image/color"
	"math"
)

// What is drawn into photos: where it was found, where a smooth panel would show it, and what
// was left out.
var (
	foundInk    = color.RGBA{0x7c, 0xc4, 0xe8, 0xff}
	straightInk = color.RGBA{0xff, 0xff, 0xff, 0xff}
	underInk    = color.RGBA{0x1c, 0x21, 0x38, 0xff}
	leftOutInk  = color.RGBA{0xb0, 0x50, 0x70, 0xff}
)

// shrunk is a photo in grey, no side longer than most pixels, and how many of its own pixels
// one is.
func (p Picture) shrunk(most int) (*image.RGBA, float64) {
	s := boxed(p, most)
	out := image.NewRGBA(image.Rect(0, 0, s.w, s.h))
	for i, v := range s.v {
		g := uint8(255*math.Min(math.Max(v, 0), 1) + 0.5)
		out.SetRGBA(i%s.w, i/s.w, color.RGBA{g, g, g, 255})
	}
	return out, s.scale
}

// Drawn is a photo, no side longer than most pixels, with the edges that were found (blue) over
// those that a smooth panel would show (white).
func (r Reading) Drawn(p Picture, most int) *image.RGBA {
	out, scale := p.shrunk(most)
	put := func(along, row, wide float64, ink color.RGBA) {
		x, y := along/scale, row/scale
		if r.Edges.Lying {
			x, y = y, x
		}
		for dx := -wide; dx <= wide; dx++ {
			if r.Edges.Lying {
				out.SetRGBA(int(x), int(y+dx), ink)
			} else {
				out.SetRGBA(int(x+dx), int(y), ink)
			}
		}
	}
	for _, layer := range []struct {
		of   [][]float32
		wide float64
		ink  color.RGBA
	}{{r.Edges.Straight, 1, underInk}, {r.Edges.Straight, 0, straightInk}, {r.Edges.X, 1, underInk}, {r.Edges.X, 0, foundInk}} {
		for k, xs := range layer.of {
			for sub := 0.0; sub < float64(r.Edges.Every); sub += scale { // rows between those that are kept
				for _, x := range xs {
					put(float64(x), float64(k*r.Edges.Every)+sub, layer.wide, layer.ink)
				}
			}
		}
	}
	return out
}

// Drawn is a photo of a sanded section, no side longer than most pixels, with what still shines
// in blue and what was left out in red.
func (s Shiny) Drawn(p Picture, most int) *image.RGBA {
	out, scale := p.shrunk(most)
	b := out.Bounds()
	for y := range b.Dy() {
		for x := range b.Dx() {
			mx := min(int((float64(x)+0.5)*scale*float64(s.W)/float64(p.W)), s.W-1)
			my := min(int((float64(y)+0.5)*scale*float64(s.H)/float64(p.H)), s.H-1)
			switch s.Mask[my*s.W+mx] {
			case Shines:
				out.SetRGBA(x, y, foundInk)
			case LeftOut:
				out.SetRGBA(x, y, leftOutInk)
			}
		}
	}
	return out
}

// Cut is the part of a photo between two corners, each a share (0 to 1) of its sides.
func (p Picture) Cut(left, top, right, bottom float64) Picture {
	at := func(share float64, side int) int {
		return int(math.Round(math.Min(math.Max(share, 0), 1) * float64(side)))
	}
	x0, x1, y0, y1 := at(left, p.W), at(right, p.W), at(top, p.H), at(bottom, p.H)
	out := Picture{W: max(x1-x0, 0), H: max(y1-y0, 0)}
	out.V = make([]float32, 0, out.W*out.H)
	for y := range out.H {
		out.V = append(out.V, p.V[(y0+y)*p.W+x0:][:out.W]...)
	}
	return out
}

// at is a share of a side in pixels.
func at(share float64, side int) int {
	return int(math.Round(math.Min(math.Max(share, 0), 1) * float64(side)))
}
