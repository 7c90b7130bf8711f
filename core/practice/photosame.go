package practice

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"math/rand/v2"

	"waxplanus/core/photo"
)

// Same is how far apart the reader was on one photo in other forms, at worst over several photos:
// as shares of the figure.
type Same struct {
	Photos       int
	Form         string
	Peel, Pebble float64
}

// ReadSame reads photos of so many scenes in other forms: turned by EXIF, transposed, with 16
// bits, in grey levels of another gamma, and as a JPEG of quality 60. The scenes are those of
// DrawScene without their own noise of coding.
func ReadSame(n int, seed uint64) ([]Same, error) {
	forms := []struct {
		name string
		of   func(photo.Picture) ([]byte, error)
	}{
		{"turned by EXIF", turnedFile}, {"transposed", func(p photo.Picture) ([]byte, error) { return grayFile(transpose(p)) }}, {"16 bit", deepFile},
		{"JPEG of quality 60", func(p photo.Picture) ([]byte, error) {
			var out bytes.Buffer
			err := jpeg.Encode(&out, p.Gray(), &jpeg.Options{Quality: 60})
			return out.Bytes(), err
		}},
		{"in colour", colourFile},
	}
	out := make([]Same, len(forms))
	for i := range n {
		s, err := DrawScene(seed + uint64(i))
		if err != nil {
			return nil, err
		}
		p, err := photo.Decode(s.File)
		if err != nil {
			return nil, err
		}
		plain, err := grayFile(p)
		if err != nil {
			return nil, err
		}
		want, err := readFile(plain, s.Lamp)
		if err != nil {
			continue // refused as it is
		}
		for k, f := range forms {
			data, err := f.of(p)
			if err != nil {
				return nil, err
			}
			got, err := readFile(data, s.Lamp)
			if err != nil {
				return nil, err
			}
			out[k].Form, out[k].Photos = f.name, out[k].Photos+1
			out[k].Peel = math.Max(out[k].Peel, math.Abs(got.Peel.Value/want.Peel.Value-1))
			out[k].Pebble = math.Max(out[k].Pebble, math.Abs(got.Pebble.Value/want.Pebble.Value-1))
		}
	}
	return out, nil
}

func readFile(data []byte, l photo.Lamp) (photo.Reading, error) {
	p, err := photo.Decode(data)
	if err != nil {
		return photo.Reading{}, err
	}
	return photo.Reflect(p, l)
}

func grayFile(p photo.Picture) ([]byte, error) {
	var out bytes.Buffer
	err := png.Encode(&out, p.Gray())
	return out.Bytes(), err
}

func transpose(p photo.Picture) photo.Picture {
	out := photo.Picture{W: p.H, H: p.W, V: make([]float32, len(p.V))}
	for y := range p.H {
		for x := range p.W {
			out.V[x*out.W+y] = p.V[y*p.W+x]
		}
	}
	return out
}

// turnedFile is a PNG that lies on its side, and says so.
func turnedFile(p photo.Picture) ([]byte, error) {
	lying := photo.Picture{W: p.H, H: p.W, V: make([]float32, len(p.V))}
	for y := range p.H {
		for x := range p.W {
			lying.V[(p.W-1-x)*lying.W+y] = p.V[y*p.W+x]
		}
	}
	file, err := grayFile(lying)
	if err != nil {
		return nil, err
	}
	body := []byte{'M', 'M', 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, 6, 0, 0, 0, 0, 0, 0}
	chunk := append([]byte("eXIf"), body...)
	all := binary.BigEndian.AppendUint32(nil, uint32(len(body)))
	all = binary.BigEndian.AppendUint32(append(all, chunk...), crc32.ChecksumIEEE(chunk))
	const afterHeader = 33
	return append(append(append([]byte(nil), file[:afterHeader]...), all...), file[afterHeader:]...), nil
}

func deepFile(p photo.Picture) ([]byte, error) {
	img := image.NewGray16(image.Rect(0, 0, p.W, p.H))
	for i, v := range p.V {
		img.SetGray16(i%p.W, i/p.W, color.Gray16{Y: uint16(v*65535 + 0.5)})
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}

func colourFile(p photo.Picture) ([]byte, error) {
	img := image.NewRGBA(image.Rect(0, 0, p.W, p.H))
	for i, v := range p.V {
		g := uint8(v*255 + 0.5)
		img.SetRGBA(i%p.W, i/p.W, color.RGBA{g, g, g, 255})
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}

// Mangled is a file of a photo with bytes of it changed, cut off in a quarter of them, the same
// for the same number.
func Mangled(good []byte, no uint64) []byte {
	rng := rand.New(rand.NewPCG(no, 0x3a6))
	file := append([]byte(nil), good...)
	for range 1 + rng.IntN(8) {
		file[rng.IntN(len(file))] = byte(rng.IntN(256))
	}
	if rng.IntN(4) == 0 {
		file = file[:rng.IntN(len(file))]
	}
	return file
}

// Focus is a photo with a scale card, out of focus by so much (Lens, a standard deviation in
// pixels), of a known pebble (µm) and what was made of it; Refused where nothing was.
type Focus struct {
	Lens, Pebble    float64
	Read            float64
	AtLeast, AtMost bool
	Refused         photo.Code
}

// FocusSweep are photos of one panel from sharp to blurred, all with a card.
func FocusSweep(seed uint64) []Focus {
	const pebble = 0.08
	l := photo.Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 3, MMPerPx: 0.1, Lens: 0.8, Gamma: 2.2}
	h := photo.NewHeight(1600, 1200, l.MMPerPx, []photo.Waves{{Length: 5, Sq: 0.6, Spread: 0.2}, {Length: 0.7, Sq: pebble, Spread: 0.2}}, seed)
	var out []Focus
	for _, lens := range []float64{0.8, 1.2, 1.6, 2, 3, 4, 6, 8} {
		f := Focus{Lens: lens, Pebble: pebble}
		shot := photo.Shot{Lamp: l, Duty: 0.5, Dark: 0.03, Lit: 0.6, Noise: 0.004, Defocus: lens, Seed: seed, Laid: &photo.Laid{X: -45, Y: -25, Turn: 0.08}}
		unknown := l
		unknown.MMPerPx, unknown.Lens = 0, 0
		r, _, _, err := photo.Take{Lamp: unknown, Scale: true}.Read(shot.Mirror(h))
		if no, is := err.(*photo.Refusal); is {
			f.Refused = no.Code
		}
		f.Read, f.AtLeast, f.AtMost = r.Pebble.Value, r.PebbleAtLeast, r.PebbleAtMost
		out = append(out, f)
	}
	return out
}
