package surface

import (
	"image"
	"image/color"
	"math"
)

// Paint is the colour of the paint under the clear, linear 0 to 1.
type Paint [3]float64

// Lamps is a row of strip lamps mirrored in the paint: Distance from lamp to
// panel in mm, Pitch of the tubes and width of a Tube in mm as they appear on
// the panel.
type Lamps struct {
	Distance, Pitch, Tube float64
}

// ShopLamps are the strip lamps of the comparison pictures.
var ShopLamps = Lamps{Distance: 350, Pitch: 12, Tube: 4.2}

var lampLight = [3]float64{1, 0.985, 0.94}

// Render draws what a shape mirrors of the lamps, pxPerMM pixels a mm. The
// slope of the surface moves the mirrored ray by twice the distance times the
// slope; a scratched layer turns mirror light into haze by the total integrated
// scatter of its roughness, a sixth of its depth.
func (p *Shape) Render(l Lamps, paint Paint, pxPerMM float64) *image.RGBA {
	w, h := int(float64(p.NX)*p.Step*pxPerMM), int(float64(p.NY)*p.Step*pxPerMM)
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			mirror, sharp := p.mirrored(l, (float64(x)+0.5)/pxPerMM, (float64(y)+0.5)/pxPerMM)
			at := (float64(x) + 0.5) / pxPerMM
			haze := (1 - sharp) * (0.20 - 0.10*math.Cos(2*math.Pi*at/l.Pitch))
			lit := math.Min(mirror*0.92+haze, 1)
			var c [3]uint8
			for k := range c {
				v := paint[k] + (1-paint[k])*lit*lampLight[k]
				c[k] = uint8(255 * math.Pow(math.Min(1, v), 1/1.7))
			}
			img.SetRGBA(x, y, color.RGBA{c[0], c[1], c[2], 255})
		}
	}
	return img
}

// eye is what an eye an arm's length away tells apart, mm.
const eye = 0.3

// mirrored averages nine rays around a place (mm), over what the eye tells
// apart: the lamp light that arrives and the share that stays mirror-like.
func (p *Shape) mirrored(l Lamps, x, y float64) (light, sharp float64) {
	const soft, rays = 0.22, 9
	for q := range rays {
		gx := (x + eye/2*float64(q%3-1)) / p.Step
		gy := (y + eye/2*float64(q/3-1)) / p.Step
		ix := min(max(int(gx), 1), p.NX-2)
		iy := min(max(int(gy), 0), p.NY-1)
		i := iy*p.NX + ix
		slope := (p.Z[i+1] - p.Z[i-1]) / (2 * p.Step) * 1e-3
		g := p.gloss(i)
		sharp += g / rays
		u := float64(ix)*p.Step + 2*l.Distance*slope
		m := math.Mod(math.Mod(u, l.Pitch)+l.Pitch, l.Pitch) - l.Pitch/2
		light += g / rays / (1 + math.Exp((math.Abs(m)-l.Tube/2)/soft))
	}
	return light, sharp
}

// gloss at one point: full where nothing has touched it, and less in a deeper
// groove than beside it.
func (p *Shape) gloss(i int) float64 {
	if !p.Touched[i] {
		return 1
	}
	return Gloss(p.surface.Scratch*(0.8+0.4*p.groove[i]), p.surface.Last, p.surface.Showing, 20)
}
