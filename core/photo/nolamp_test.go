package photo

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
)

// page is a page of print: rows of glyphs of random strokes, so high in pixels.
func page(rng *rand.Rand, line int) Picture {
	const w, h = 900, 700
	ink := make([]bool, w*h)
	glyph, thick := line*6/10, max(line/8, 2)
	for y0 := line; y0+line < h; y0 += line * 3 / 2 {
		for x0 := 40; x0+glyph < w-40; x0 += glyph + 1 {
			if rng.IntN(6) == 0 {
				continue // between words
			}
			for range 3 {
				lies, a, b := rng.IntN(2) == 0, rng.IntN(glyph), rng.IntN(line)
				for t := range line {
					for d := range thick {
						x, y := x0+a+d, y0+t
						if lies {
							x, y = x0+min(t, glyph-1), min(y0+b+d, h-1)
						}
						ink[y*w+x] = true
					}
				}
			}
		}
	}
	return softly(w, h, func(x, y int) float64 {
		if ink[y*w+x] {
			return 0.1
		}
		return 0.9
	})
}

// softly is a picture as a lens shows it: each pixel the mean of nine.
func softly(w, h int, of func(x, y int) float64) Picture {
	p := Picture{w, h, make([]float32, w*h)}
	for y := range h {
		for x := range w {
			for k := range 9 {
				p.V[y*w+x] += float32(of(min(max(x+k%3-1, 0), w-1), min(max(y+k/3-1, 0), h-1))) / 9
			}
		}
	}
	return p
}

// fence is a wall of planks so wide with gaps as wide (pixels), each of its own shade by so much,
// with grain and with edges that the saw left rough.
func fence(rng *rand.Rand, plank, shade float64) Picture {
	const w, h, grain, rough = 900, 700, 0.03, 0.4
	v := make([]float64, w*h)
	for i := range v {
		v[i] = 0.12
	}
	for start := -plank * rng.Float64(); start < w; start += 2 * plank {
		tone, wide := 0.6+shade*rng.NormFloat64(), plank+rng.NormFloat64()
		streaks := make([]float64, int(wide)+40)
		for k := range streaks {
			streaks[k] = tone + grain*rng.NormFloat64()
		}
		left, right := 0.0, 0.0
		for y := range h {
			left, right = 0.95*left+rough*rng.NormFloat64(), 0.95*right+rough*rng.NormFloat64()
			for x := max(int(start+left), 0); x < min(int(start+wide+right), w); x++ {
				v[y*w+x] = math.Min(streaks[min(max(x-int(start)+20, 0), len(streaks)-1)]+0.02*rng.NormFloat64(), 0.98)
			}
		}
	}
	return softly(w, h, func(x, y int) float64 { return v[y*w+x] })
}

// What is no mirrored lamp is not read as paint: print, keys, masonry, planks, ruled lines.
func TestWhatIsNoLampIsRefused(t *testing.T) {
	rng := rand.New(rand.NewPCG(21, 2))
	pictures := map[string]Picture{
		"keys": softly(900, 700, func(x, y int) float64 {
			fx, fy := (x+y/70*23)%70, y%70
			switch {
			case fx < 9 || fy < 9:
				return 0.75
			case fx > 23 && fx < 35 && fy > 23 && fy < 35:
				return 0.85
			}
			return 0.12
		}),
		"bricks": softly(900, 700, func(x, y int) float64 {
			if y%50 < 12 || (x+y/50%2*60)%120 < 12 {
				return 0.7
			}
			return 0.3
		}),
		"ruled lines": softly(900, 700, func(x, _ int) float64 { return 0.1 + 0.75*float64(x/30%2) }),
	}
	for range 5 {
		line := 18 + rng.IntN(20)
		pictures[fmt.Sprintf("print of %d pixels", line)] = page(rng, line)
		plank := 28 + 4*float64(rng.IntN(5))
		pictures[fmt.Sprintf("planks of %.0f pixels", plank)] = fence(rng, plank, 0.08)
	}
	for what, p := range pictures {
		r, err := Reflect(p, lamp)
		if no := (*Refusal)(nil); !errors.As(err, &no) {
			t.Errorf("%s has a peel of %.2f µm", what, r.Peel.Value)
		}
	}
}

// Nor is a lamp refused for being mirrored in smooth or rough paint, in poor light.
func TestLampsInPoorLightAreRead(t *testing.T) {
	for i := range 6 {
		rng := rand.New(rand.NewPCG(33, uint64(i)))
		s := usual()
		s.Noise, s.Uneven, s.Veil, s.Haze, s.Turn = 0.01+0.03*rng.Float64(), 0.5*rng.Float64(), 0.3*rng.Float64(), 2*rng.Float64(), 0.1*rng.NormFloat64()
		s.Lit, s.Seed = 0.4+0.4*rng.Float64(), uint64(i)
		peel, pebble := []float64{0.06, 0.3, 1.2}[i%3], []float64{0.01, 0.08}[i%2]
		if _, err := Reflect(s.Mirror(rough(peel, pebble)), s.Lamp); err != nil {
			t.Errorf("peel %.2f, pebble %.2f: %v", peel, pebble, err)
		}
	}
}
