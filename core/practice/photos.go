package practice

import (
	"bytes"
	"errors"
	"image/jpeg"
	"image/png"
	"math"
	"math/rand/v2"

	"waxplanus/core/photo"
)

// Scene is a photo of striped lamps in a panel whose height is known.
type Scene struct {
	File         []byte
	Lamp         photo.Lamp
	Peel, Pebble float64 // rms, µm
	Haze         float64 // mrad
}

// Sizes of the scenes' photos.
const (
	sceneW, sceneH = 1600, 1200
	sceneScale     = 0.1 // mm a pixel
)

// DrawScene makes a scene that nobody has seen. In half of them the height is not made of the
// waves that the reader thinks of: its crests are rounder than its valleys, it is drawn out one
// way, and it is scratched.
func DrawScene(seed uint64) (Scene, error) {
	rng := rand.New(rand.NewPCG(seed, 0x5ce))
	between := func(low, high float64) float64 { return low * math.Pow(high/low, rng.Float64()) }
	s := Scene{Peel: between(0.12, 3.5), Pebble: between(0.02, 0.4)}
	s.Pebble = math.Min(math.Max(s.Pebble, 0.03*s.Peel), 2*s.Peel) // what a panel may have
	long := photo.Waves{Length: 4 + 2.5*rng.Float64(), Sq: s.Peel, Spread: 0.2}
	short := photo.Waves{Length: 0.55 + 0.4*rng.Float64(), Sq: s.Pebble, Spread: 0.2}
	strange := rng.IntN(2) == 1
	if strange {
		long.Along = 1 + 0.15*rng.Float64()
	}
	height := photo.NewHeight(sceneW, sceneH, sceneScale, []photo.Waves{long}, seed)
	if strange {
		height.Skew(0.15 * (2*rng.Float64() - 1))
	}
	pebble := photo.NewHeight(sceneW, sceneH, sceneScale, []photo.Waves{short}, seed+1<<32)
	for i, v := range pebble.Z {
		height.Z[i] += v
	}
	if strange {
		for range 20 {
			x, y, turn := rng.Float64()*sceneW, rng.Float64()*sceneH, rng.Float64()*2*math.Pi
			height.Scratch(x, y, x+200*math.Cos(turn), y+200*math.Sin(turn), 0.3*rng.Float64())
		}
	}
	s.Lamp = photo.Lamp{Pitch: 20, Lamp: between(400, 600), Camera: between(500, 900), Aperture: between(2, 6), MMPerPx: sceneScale, Lens: 0.8, Gamma: 2.2}
	s.Haze = 1.5 * rng.Float64()
	shot := photo.Shot{Lamp: s.Lamp, Radius: between(2000, 9000), Turn: 0.1 * rng.NormFloat64(), Tilt: 0.05 * rng.NormFloat64(), Duty: 0.42 + 0.16*rng.Float64(),
		Haze: s.Haze, Veil: 0.1 * rng.Float64(), Uneven: 0.4 * rng.Float64(), Noise: 0.002 + 0.01*rng.Float64(), Dark: 0.02 + 0.05*rng.Float64(), Lit: 0.6 + 0.2*rng.Float64(),
		Defocus: 0.7 + 0.3*rng.Float64(), Seed: seed, ShiftShare: rng.Float64()}
	var out bytes.Buffer
	var err error
	if img := shot.Mirror(height).Gray(); rng.IntN(3) == 0 {
		err = png.Encode(&out, img)
	} else {
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: 70 + rng.IntN(26)})
	}
	s.File = out.Bytes()
	return s, err
}

// Scored is how a figure was read over many scenes: errors as shares of the truth.
type Scored struct {
	Read, Within, Close int // in its interval, and within 10 %
	Bias, SD, Worst     float64
	errs                []float64
}

func (s *Scored) add(truth float64, got photo.Interval) {
	e := got.Value/truth - 1
	s.errs = append(s.errs, e)
	s.Read++
	if got.Low <= truth && truth <= got.High {
		s.Within++
	}
	if math.Abs(e) <= 0.10 {
		s.Close++
	}
	s.Worst = math.Max(s.Worst, math.Abs(e))
}

func (s *Scored) done() {
	for _, e := range s.errs {
		s.Bias += e / float64(len(s.errs))
	}
	for _, e := range s.errs {
		s.SD += (e - s.Bias) * (e - s.Bias)
	}
	s.SD = math.Sqrt(s.SD / math.Max(float64(len(s.errs)-1), 1))
}

// Photos is what the reader of reflections made of many scenes.
type Photos struct {
	Scenes       int
	Peel, Pebble Scored
	Refused      map[photo.Code]int
	Hidden, Held int     // peel told as *at most*, and how often it was
	HazeOff      float64 // rms, mrad, where the stripes hardly fold
	HazeRead     int
}

// ReadScenes reads so many scenes from a seed on.
func ReadScenes(n int, seed uint64) (Photos, error) {
	out := Photos{Scenes: n, Refused: map[photo.Code]int{}}
	for i := range n {
		s, err := DrawScene(seed + uint64(i))
		if err != nil {
			return out, err
		}
		p, err := photo.Decode(s.File)
		if err != nil {
			return out, err
		}
		r, err := photo.Reflect(p, s.Lamp)
		var no *photo.Refusal
		if errors.As(err, &no) {
			out.Refused[no.Code]++
			continue
		}
		if err != nil {
			return out, err
		}
		if r.PeelAtMost {
			out.Hidden++
			if s.Peel <= r.Peel.High {
				out.Held++
			}
		} else {
			out.Peel.add(s.Peel, r.Peel)
		}
		out.Pebble.add(s.Pebble, r.Pebble)
		if !r.HazeAtMost {
			out.HazeOff += (r.Haze.Value - s.Haze) * (r.Haze.Value - s.Haze)
			out.HazeRead++
		}
	}
	out.Peel.done()
	out.Pebble.done()
	out.HazeOff = math.Sqrt(out.HazeOff / math.Max(float64(out.HazeRead), 1))
	return out, nil
}

// DullScene is a photo of a sanded section of which a known share still shines.
type DullScene struct {
	photo.Picture
	Share float64
	Shiny photo.Looks
}

// shares are how much of sanded sections shines.
var shares = []float64{0, 0.02, 0.05, 0.1, 0.2, 0.3, 0.5, 0.7, 0.8}

// DrawDull makes a photo of a sanded section that nobody has seen.
func DrawDull(seed uint64) DullScene {
	rng := rand.New(rand.NewPCG(seed, 0xd5c))
	out := DullScene{Share: shares[seed%uint64(len(shares))], Shiny: photo.Darker}
	h := photo.NewHeight(1000, 750, 0.15, []photo.Waves{{Length: 4 + 3*rng.Float64(), Sq: 1, Spread: 0.2}, {Length: 0.8, Sq: 0.06, Spread: 0.2}}, seed)
	s := photo.Sanded{Share: out.Share, Shine: 0.5 + 0.2*rng.Float64(), Light: 0.4, Uneven: 1 + 5*rng.Float64(), Flake: 0.03 * rng.Float64(), Streaks: rng.IntN(2),
		Noise: 0.004 + 0.008*rng.Float64(), Lens: 0.8 + 0.5*rng.Float64(), Gamma: 2.2, Seed: seed}
	if rng.IntN(2) == 0 {
		out.Shiny, s.Shine, s.Light = photo.Brighter, 1.3+0.5*rng.Float64(), 0.2
	}
	out.Picture = s.Photo(h)
	return out
}

// Dulls is what the reader of the shiny share made of many sections.
type Dulls struct {
	Scenes, Read, Within int
	RMS, Worst           float64 // of the share
	Refused              int     // with something that shines
}

// ReadDulls reads so many sections from a seed on.
func ReadDulls(n int, seed uint64) Dulls {
	out := Dulls{Scenes: n}
	for i := range n {
		s := DrawDull(seed + uint64(i))
		r, err := photo.ReadShiny(s.Picture, 2.2, s.Shiny)
		if err != nil {
			if s.Share > 0 {
				out.Refused++
			}
			continue
		}
		off := r.Share.Value - s.Share
		out.Read++
		out.RMS += off * off
		out.Worst = math.Max(out.Worst, math.Abs(off))
		if r.Share.Low <= s.Share && s.Share <= r.Share.High {
			out.Within++
		}
	}
	out.RMS = math.Sqrt(out.RMS / math.Max(float64(out.Read), 1))
	return out
}
