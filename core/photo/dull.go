package photo

import (
	"math"
	"math/rand/v2"
	"slices"
)

// Sanded is how a photo of a wiped dry section comes out: which share of it still shines, as
// whatever lies lowest, how bright that is by the side of what is dull, and the light over it.
type Sanded struct {
	Share   float64
	Shine   float64 // times the light of what is dull
	Light   float64 // of what is dull, linear
	Uneven  float64 // how many times brighter one side is than the other
	Flake   float64 // of a metallic colour, as a share
	Streaks int     // of water
	Noise   float64
	Lens    float64 // blur in pixels
	Gamma   float64
	Seed    uint64
}

// Photo takes a photo of a section of that height.
func (s Sanded) Photo(h Height) Picture {
	rng := rand.New(rand.NewPCG(s.Seed, 0xd011))
	sorted := slices.Clone(h.Z)
	slices.Sort(sorted)
	level := math.Inf(-1)
	if n := int(s.Share * float64(len(sorted))); n > 0 {
		level = sorted[min(n, len(sorted)-1)]
	}
	light := make([]float64, len(h.Z))
	turn := rng.Float64() * 2 * math.Pi
	for y := range h.H {
		for x := range h.W {
			i := y*h.W + x
			u, v := 2*float64(x)/float64(h.W)-1, 2*float64(y)/float64(h.H)-1
			t := (u*math.Cos(turn)+v*math.Sin(turn))/2 + 0.15*u*v
			light[i] = s.Light * math.Pow(math.Max(s.Uneven, 1), t) * (1 + s.Flake*rng.NormFloat64())
			if h.Z[i] < level {
				light[i] *= s.Shine
			}
		}
	}
	for range s.Streaks {
		x, wide := rng.Float64()*float64(h.W), (0.01+0.015*rng.Float64())*float64(h.W)
		lean := 0.3 * rng.NormFloat64()
		for y := range h.H {
			mid := x + lean*float64(y)
			for dx := range int(wide) {
				if at := int(mid) + dx; at >= 0 && at < h.W {
					light[y*h.W+at] *= s.Shine
				}
			}
		}
	}
	blurred(light, h.W, h.H, s.Lens, s.Lens)
	out := Picture{h.W, h.H, make([]float32, len(light))}
	for i, v := range light {
		v = math.Pow(math.Max(v, 0), 1/s.Gamma) + s.Noise*rng.NormFloat64()
		out.V[i] = float32(math.Min(math.Max(v, 0), 1))
	}
	return out
}
