package surface

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"sync"
)

// Lamp is the picture of a point lamp at arm's length in washed paint.
type Lamp struct {
	Wide, High float64 // mm of paint that the picture shows
	PxPerMM    float64
}

// Constants of the picture (judgement): how many scratches a cm² there are by their mean
// depth, how deep one has to be to shine, and how a scratch catches the lamp: where it lies
// across the lamp's radius, and less the farther off.
const (
	swirlsLeast  = 10.7 // a cm²
	swirlsPerUM  = 10.9 // and more for each µm of their mean depth
	shinesAt     = 0.5  // µm
	acrossWidth  = 0.10 // radians
	acrossPerUM  = 0.05
	lampFade     = 15.0 // mm
	lampRadius   = 2.4  // mm
	lampGlow     = 4.0  // mm
	chalkWhite   = 0.42 // of a thick dead layer in dark paint
	chalkHalf    = 2.0  // µm of dead layer that veil half as much
	chalkDry     = 3.0  // µm of dead layer that dry paint shows two thirds of
	scratchLong  = 7.0  // mm, on the mean
	scratchBend  = 0.05 // radians a mm, one standard deviation
	scratchSteps = 3    // a pixel
)

// Swirls draws a point lamp mirrored in paint of a condition, after so much even removal
// (µm). The same scratches are drawn whatever the condition, so that two pictures differ by
// it alone: their depths are exponential, and those that the removal reached are gone. Rings
// around the lamp come by themselves, because only scratches across its radius shine.
func (l Lamp) Swirls(c Condition, removal float64, paint Paint) *image.RGBA {
	w, h := int(l.Wide*l.PxPerMM), int(l.High*l.PxPerMM)
	lit := make([]float64, w*h)
	dead := math.Max(c.Dead.Median-removal, 0)
	veil := chalkWhite * dead / (dead + chalkHalf)
	gone := math.Max(removal-c.Dead.Median, 0)
	rng := rand.New(rand.NewPCG(0x5c1, 28))
	const most = swirlsLeast + swirlsPerUM*3
	drawn := int(math.Min(swirlsLeast+swirlsPerUM*c.Swirls.Median, most) * l.Wide * l.High / 100)
	for i := range int(most * l.Wide * l.High / 100) {
		s := scratch{x: l.Wide * rng.Float64(), y: l.High * rng.Float64(), turn: math.Pi * rng.Float64(), bend: scratchBend * rng.NormFloat64(),
			long: scratchLong * (0.4 + 1.2*rng.Float64()), depth: rng.ExpFloat64()*c.Swirls.Median - gone}
		if i < drawn && s.depth > 0 {
			l.draw(s, lit, w, h)
		}
	}
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			r := math.Hypot((float64(x)+0.5)/l.PxPerMM-l.Wide/2, (float64(y)+0.5)/l.PxPerMM-l.High/2)
			lamp := 1/(1+math.Exp((r-lampRadius)*l.PxPerMM/1.2)) + 0.16*math.Exp(-r/lampGlow)
			v := (math.Min(lamp, 1) + math.Min(lit[y*w+x], 1)) * (1 - 1.9*veil)
			v = math.Min(v, 1)*(1-veil) + veil*(0.35+0.65*math.Exp(-r/(3*lampGlow)))
			img.SetRGBA(x, y, paint.lit(v))
		}
	}
	return img
}

// shades are the brightness of light from 0 to 1 on a screen.
var shades = sync.OnceValue(func() *[4096]uint8 {
	var out [4096]uint8
	for i := range out {
		out[i] = uint8(255 * math.Pow(float64(i)/float64(len(out)-1), 1/1.7))
	}
	return &out
})

// lit is paint that mirrors so much of a lamp, 0 to 1.
func (p Paint) lit(v float64) color.RGBA {
	v = math.Max(math.Min(v, 1), 0)
	table := shades()
	of := func(k int) uint8 {
		return table[int(float64(len(table)-1)*math.Min(p[k]+(1-p[k])*v*lampLight[k], 1))]
	}
	return color.RGBA{of(0), of(1), of(2), 255}
}

// scratch is one scratch: where its middle lies, which way it runs there, how it bends and
// how long it is (mm), and what is left of its depth (µm).
type scratch struct{ x, y, turn, bend, long, depth float64 }

// draw adds what a scratch catches of the lamp.
func (l Lamp) draw(s scratch, lit []float64, w, h int) {
	shine := 1 - math.Exp(-s.depth/shinesAt)
	width := acrossWidth + acrossPerUM*s.depth
	step := 1 / (l.PxPerMM * scratchSteps)
	x, y := s.x-math.Cos(s.turn)*s.long/2, s.y-math.Sin(s.turn)*s.long/2
	for at := 0.0; at < s.long; at += step {
		way := s.turn + s.bend*(at-s.long/2)
		x, y = x+step*math.Cos(way), y+step*math.Sin(way)
		dx, dy := x-l.Wide/2, y-l.High/2
		off := math.Hypot(dx, dy)
		along := math.Abs(math.Cos(way)*dx+math.Sin(way)*dy) / math.Max(off, 1e-6) // 0 where it lies across
		v := shine * math.Exp(-along*along/(2*width*width)-off/lampFade) / scratchSteps * 1.5
		if v < 1e-3 {
			continue
		}
		px, py := x*l.PxPerMM-0.5, y*l.PxPerMM-0.5
		ix, iy := int(math.Floor(px)), int(math.Floor(py))
		fx, fy := px-float64(ix), py-float64(iy)
		for k, part := range [4]float64{(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy} {
			if cx, cy := ix+k%2, iy+k/2; cx >= 0 && cy >= 0 && cx < w && cy < h {
				lit[cy*w+cx] += v * part
			}
		}
	}
}

// Wetted is the picture of a strip lamp in paint of which the right half is wetted: water
// fills a dead layer, and the gloss comes back while it is wet.
func (l Lamp) Wetted(c Condition, paint Paint) *image.RGBA {
	w, h := int(l.Wide*l.PxPerMM), int(l.High*l.PxPerMM)
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	rng := rand.New(rand.NewPCG(0x3e7, 2))
	dry := 1 - math.Exp(-c.Dead.Median/chalkDry)
	for y := range h {
		my := (float64(y) + 0.5) / l.PxPerMM
		edge := l.Wide/2 + 1.4*math.Sin(my*0.55) + 0.7*math.Sin(my*1.3)
		for x := range w {
			mx := (float64(x) + 0.5) / l.PxPerMM
			wet := 1 / (1 + math.Exp((edge-mx)*4))
			veil := dry * (1 - wet) * (1 + 0.05*rng.NormFloat64())
			middle := l.High/2 + 0.9*math.Sin(mx*0.12)
			soft := 0.25 + 2.2*dry*(1-wet)
			strip := 1 / (1 + math.Exp((math.Abs(my-middle)-l.High*0.07)/soft))
			v := strip*math.Max(1-1.15*veil, 0) + 0.52*veil
			v -= 0.18 * math.Exp(-math.Abs(mx-edge)*2.5) * (1 - strip) // the edge of the water
			img.SetRGBA(x, y, paint.lit(v))
		}
	}
	return img
}
