package photo

import (
	"bytes"
	"encoding/binary"
	"errors"
	"hash/crc32"
	"image/jpeg"
	"image/png"
	"math"
	"math/rand/v2"
	"testing"
)

var lamp = Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 4, MMPerPx: 0.12, Lens: 0.8, Gamma: 2.2}

// rough is a panel of that peel and pebble, µm.
func rough(peel, pebble float64) Height {
	return NewHeight(800, 600, lamp.MMPerPx, []Waves{{5, peel, 0.2, 1}, {0.75, pebble, 0.2, 1}}, 7)
}

func usual() Shot {
	return Shot{Lamp: lamp, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.004, Seed: 3}
}

func read(t *testing.T, p Picture, l Lamp) Reading {
	t.Helper()
	r, err := Reflect(p, l)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func refused(t *testing.T, what string, want Code, p Picture, l Lamp) {
	t.Helper()
	_, err := Reflect(p, l)
	var no *Refusal
	if !errors.As(err, &no) || no.Code != want {
		t.Errorf("%s: %v, want %s", what, err, want)
	}
}

func TestPeelAndPebbleAreRead(t *testing.T) {
	for _, c := range [][2]float64{{0.3, 0.04}, {1.2, 0.1}} {
		r := read(t, usual().Mirror(rough(c[0], c[1])), lamp)
		if math.Abs(r.Peel.Value/c[0]-1) > 0.25 || math.Abs(r.Pebble.Value/c[1]-1) > 0.2 {
			t.Errorf("peel %.2f read as %.3f, pebble %.2f as %.3f", c[0], r.Peel.Value, c[1], r.Pebble.Value)
		}
		if r.Peel.Low > r.Peel.Value || r.Peel.High < r.Peel.Value || r.Pebble.High < r.Pebble.Value || math.Abs(r.M-usual().M()) > 0.05 {
			t.Errorf("%+v", r)
		}
	}
}

// A photo that lies on its side, is darker, or has other light says the same.
func TestTheSamePanelReadsTheSame(t *testing.T) {
	h := rough(0.8, 0.08)
	s := usual()
	p := s.Mirror(h)
	want := read(t, p, lamp)
	darker := s
	darker.Lit, darker.Uneven, darker.Veil = 0.4, 0.4, 0.1
	for what, q := range map[string]Picture{"on its side": transposed(p), "in other light": darker.Mirror(h)} {
		r := read(t, q, lamp)
		if math.Abs(r.Peel.Value/want.Peel.Value-1) > 0.05 || math.Abs(r.Pebble.Value/want.Pebble.Value-1) > 0.08 {
			t.Errorf("%s: %.3f and %.4f, usual %.3f and %.4f", what, r.Peel.Value, r.Pebble.Value, want.Peel.Value, want.Pebble.Value)
		}
	}
}

// picture draws a picture by a function of the pixel.
func picture(of func(x, y int) float64) Picture {
	p := Picture{640, 480, make([]float32, 640*480)}
	for y := range p.H {
		for x := range p.W {
			p.V[y*p.W+x] = float32(math.Min(math.Max(of(x, y), 0), 1))
		}
	}
	return p
}

func stripes(pitch, turn float64) func(x, y int) float64 {
	return func(x, y int) float64 {
		return 0.5 + 0.3*math.Sin(2*math.Pi*(float64(x)*math.Cos(turn)+float64(y)*math.Sin(turn))/pitch)
	}
}

func TestWhatTellsNothingIsRefused(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	good := picture(stripes(60, 0.02))
	refused(t, "no scale", ScaleMissing, good, Lamp{Pitch: 20, Lamp: 500})
	refused(t, "no pitch", GeometryMissing, good, Lamp{Lamp: 500, MMPerPx: 0.1})
	refused(t, "a lamp far away", GeometryRange, good, Lamp{Pitch: 20, Lamp: 1e6, MMPerPx: 0.1})
	refused(t, "wider than a lamp is mirrored", GeometryMismatch, good, Lamp{Pitch: 3, Lamp: 500, MMPerPx: 0.12})
	refused(t, "a small picture", TooSmall, Picture{100, 100, make([]float32, 10000)}, lamp)
	refused(t, "white", Saturated, picture(func(int, int) float64 { return 1 }), lamp)
	refused(t, "black", LowContrast, picture(func(int, int) float64 { return 0 }), lamp)
	refused(t, "noise", StripesNotFound, picture(func(int, int) float64 { return rng.Float64() }), lamp)
	refused(t, "five wide stripes", TooFewStripes, picture(stripes(200, 0)), lamp)
	refused(t, "fine stripes", StripesTooFine, picture(stripes(8, 0.02)), lamp)
	refused(t, "aslant", Rotated, picture(stripes(50, 0.75)), lamp)
	s := usual()
	s.Haze = 12
	refused(t, "hazy", TooBlurred, s.Mirror(rough(0.3, 0.03)), lamp)
	refused(t, "very rough", WanderTooLarge, usual().Mirror(rough(5, 0.05)), lamp)
	for what, of := range map[string]func(x, y int) float64{
		"a ramp":       func(x, _ int) float64 { return float64(x) / 700 },
		"one line":     func(x, _ int) float64 { return float64(1-min(max(x-320, 320-x)/3, 1)) * 0.8 },
		"a checkboard": func(x, y int) float64 { return 0.2 + 0.6*float64((x/40+y/40)%2) },
	} {
		if r, err := Reflect(picture(of), lamp); err == nil {
			t.Errorf("%s has a peel of %.2f µm", what, r.Peel.Value)
		}
	}
}

// tagged is a PNG of a picture with an orientation.
func tagged(t *testing.T, p Picture, orientation byte) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := png.Encode(&out, p.Gray()); err != nil {
		t.Fatal(err)
	}
	body := []byte{'M', 'M', 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0, 0, 0, 0, 0}
	chunk := append([]byte("eXIf"), body...)
	all := binary.BigEndian.AppendUint32(nil, uint32(len(body)))
	all = append(all, chunk...)
	all = binary.BigEndian.AppendUint32(all, crc32.ChecksumIEEE(chunk))
	const afterHeader = 33
	file := out.Bytes()
	return append(append(append([]byte(nil), file[:afterHeader]...), all...), file[afterHeader:]...)
}

func TestPhotosAreTurnedUpright(t *testing.T) {
	up := Picture{90, 70, make([]float32, 90*70)}
	for i := range up.V {
		up.V[i] = float32(i%251) / 255
	}
	// As a camera stores it that has to be turned so when it is shown.
	stored := map[byte]func(x, y int) (int, int){
		1: func(x, y int) (int, int) { return x, y }, 2: func(x, y int) (int, int) { return 89 - x, y },
		3: func(x, y int) (int, int) { return 89 - x, 69 - y }, 4: func(x, y int) (int, int) { return x, 69 - y },
		5: func(x, y int) (int, int) { return y, x }, 6: func(x, y int) (int, int) { return 89 - y, x },
		7: func(x, y int) (int, int) { return 89 - y, 69 - x }, 8: func(x, y int) (int, int) { return y, 69 - x },
	}
	for o, from := range stored {
		s := Picture{90, 70, make([]float32, 90*70)}
		if o >= 5 {
			s.W, s.H = 70, 90
		}
		for y := range s.H {
			for x := range s.W {
				ux, uy := from(x, y)
				s.V[y*s.W+x] = up.V[uy*up.W+ux]
			}
		}
		got, err := Decode(tagged(t, s, o))
		if err != nil || got.W != up.W || got.H != up.H {
			t.Fatalf("orientation %d: %d x %d, %v", o, got.W, got.H, err)
		}
		for i := range up.V {
			if math.Abs(float64(got.V[i]-up.V[i])) > 1e-3 {
				t.Fatalf("orientation %d: pixel %d is %.3f, want %.3f", o, i, got.V[i], up.V[i])
			}
		}
	}
}

func TestHostileFilesAreRefused(t *testing.T) {
	small := Picture{90, 70, make([]float32, 90*70)}
	good := tagged(t, small, 1)
	bomb := append([]byte(nil), good...)
	binary.BigEndian.PutUint32(bomb[16:], 9999)
	binary.BigEndian.PutUint32(bomb[20:], 2500)
	binary.BigEndian.PutUint32(bomb[29:], crc32.ChecksumIEEE(bomb[12:29]))
	huge := append([]byte(nil), bomb...)
	binary.BigEndian.PutUint32(huge[20:], 1<<30)
	binary.BigEndian.PutUint32(huge[29:], crc32.ChecksumIEEE(huge[12:29]))
	dot := tagged(t, Picture{1, 1, []float32{0}}, 1)
	for what, c := range map[string]struct {
		data []byte
		want Code
	}{
		"nothing": {nil, NotAPicture}, "text": {[]byte("a photo.png of a door"), NotAPicture}, "cut short": {good[:60], Damaged},
		"a bomb": {bomb, Damaged}, "huge": {huge, TooLarge}, "one pixel": {dot, TooSmall},
	} {
		_, err := Decode(c.data)
		var no *Refusal
		if !errors.As(err, &no) || no.Code != c.want {
			t.Errorf("%s: %v, want %s", what, err, c.want)
		}
	}
}

// Mangled files are read or refused, and never more than that.
func TestMangledFiles(t *testing.T) {
	p := picture(stripes(60, 0.05))
	var asPNG, asJPEG bytes.Buffer
	if err := errors.Join(png.Encode(&asPNG, p.Gray()), jpeg.Encode(&asJPEG, p.Gray(), &jpeg.Options{Quality: 80})); err != nil {
		t.Fatal(err)
	}
	rng := rand.New(rand.NewPCG(8, 1))
	for i := range 400 {
		file := append([]byte(nil), [][]byte{asPNG.Bytes(), asJPEG.Bytes()}[i%2]...)
		for range 1 + rng.IntN(8) {
			file[rng.IntN(len(file))] = byte(rng.IntN(256))
		}
		if rng.IntN(4) == 0 {
			file = file[:rng.IntN(len(file))]
		}
		if q, err := Decode(file); err == nil && i%40 == 1 {
			_, _ = Reflect(q, lamp) // whatever it says, it says it
		}
	}
}

func FuzzDecode(f *testing.F) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, (Picture{64, 64, make([]float32, 64*64)}).Gray(), nil); err != nil {
		f.Fatal(err)
	}
	f.Add(out.Bytes())
	f.Add([]byte("\x89PNG\r\n\x1a\n"))
	f.Fuzz(func(_ *testing.T, data []byte) { _, _ = Decode(data) })
}

// inkFile is a JPEG in CMYK as printers' programs write it, inverted, with black alone: four scans
// of grey ones.
func inkFile(t *testing.T, p Picture) []byte {
	t.Helper()
	parts := func(p Picture) (tables, scan []byte) {
		var out bytes.Buffer
		if err := jpeg.Encode(&out, p.Gray(), &jpeg.Options{Quality: 95}); err != nil {
			t.Fatal(err)
		}
		data := out.Bytes()[2:]
		for data[1] != 0xda { // up to the scan
			n := 2 + int(binary.BigEndian.Uint16(data[2:]))
			if data[1] == 0xdb || data[1] == 0xc4 {
				tables = append(tables, data[:n]...)
			}
			data = data[n:]
		}
		return tables, data[2+int(binary.BigEndian.Uint16(data[2:])) : len(data)-2]
	}
	none := Picture{p.W, p.H, make([]float32, p.W*p.H)}
	for i := range none.V {
		none.V[i] = 1
	}
	tables, black := parts(p)
	_, white := parts(none)
	file := []byte{0xff, 0xd8, 0xff, 0xee, 0, 14, 'A', 'd', 'o', 'b', 'e', 0, 100, 0, 0, 0, 0, 0}
	file = append(file, tables...)
	file = append(file, 0xff, 0xc0, 0, 20, 8, byte(p.H>>8), byte(p.H), byte(p.W>>8), byte(p.W), 4)
	for id := byte(1); id <= 4; id++ {
		file = append(file, id, 0x11, 0)
	}
	for id, scan := range [][]byte{white, white, white, black} {
		file = append(file, 0xff, 0xda, 0, 8, 1, byte(id+1), 0, 0, 63, 0)
		file = append(file, scan...)
	}
	return append(file, 0xff, 0xd9)
}

func TestPhotosInPrintersColoursAreRead(t *testing.T) {
	p := usual().Mirror(rough(0.6, 0.06))
	got, err := Decode(inkFile(t, p))
	if err != nil || got.W != p.W || got.H != p.H {
		t.Fatalf("%d by %d, %v", got.W, got.H, err)
	}
	want, is := read(t, p, lamp), read(t, got, lamp)
	if math.Abs(is.Peel.Value/want.Peel.Value-1) > 0.03 || math.Abs(is.Pebble.Value/want.Pebble.Value-1) > 0.06 {
		t.Errorf("peel %.3f is %.3f, pebble %.4f is %.4f", want.Peel.Value, is.Peel.Value, want.Pebble.Value, is.Pebble.Value)
	}
}

// Peel that lies under much more pebble is bounded, not read as none.
func TestPeelUnderMuchPebbleIsBounded(t *testing.T) {
	const peel = 0.08
	r := read(t, usual().Mirror(rough(peel, 0.35)), lamp)
	if r.Peel.High < peel || r.Peel.Low > peel || r.Peel.Value < hiddenUnder*r.Pebble.Value && !r.PeelAtMost {
		t.Errorf("%+v", r.Peel)
	}
}
