package files

import (
	"bytes"
	"encoding/binary"
	"errors"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"
)

// turned is a JPEG, wider than high, white above, whose EXIF says how it was held and where.
func turned(t *testing.T, orientation uint16) []byte {
	t.Helper()
	m := image.NewGray(image.Rect(0, 0, 40, 20))
	for x := range 40 {
		for y := range 10 {
			m.Set(x, y, color.White)
		}
	}
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, m, nil); err != nil {
		t.Fatal(err)
	}
	tiff := []byte("MM\x00\x2a\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01")
	tiff = binary.BigEndian.AppendUint16(tiff, orientation)
	tiff = append(tiff, 0, 0, 0, 0, 0, 0)
	app := append([]byte("Exif\x00\x00"), append(tiff, []byte("Hidden place 53.1 N")...)...)
	out := append([]byte{0xff, 0xd8, 0xff, 0xe1}, byte((len(app)+2)>>8), byte(len(app)+2))
	return append(append(out, app...), plain.Bytes()[2:]...)
}

func TestPhotosAreKeptUprightAndBare(t *testing.T) {
	mime, kept, err := Photo(turned(t, 6))
	if err != nil || mime != "image/jpeg" {
		t.Fatal(mime, err)
	}
	if bytes.Contains(kept, []byte("Exif")) || bytes.Contains(kept, []byte("Hidden place")) {
		t.Error("what the camera wrote is still in it")
	}
	m, err := jpeg.Decode(bytes.NewReader(kept))
	if err != nil {
		t.Fatal(err)
	}
	if b := m.Bounds(); b.Dx() != 20 || b.Dy() != 40 {
		t.Fatalf("it is %d by %d, want upright", b.Dx(), b.Dy())
	}
	right, _, _, _ := m.At(17, 20).RGBA()
	left, _, _, _ := m.At(2, 20).RGBA()
	if right < 0xc000 || left > 0x4000 {
		t.Errorf("turned the wrong way: left %x, right %x", left, right)
	}
	var p bytes.Buffer
	if err := png.Encode(&p, image.NewRGBA64(image.Rect(0, 0, 8, 8))); err != nil {
		t.Fatal(err)
	}
	if mime, _, err := Photo(append(p.Bytes(), []byte("<script>")...)); err != nil || mime != "image/png" {
		t.Errorf("a PNG of 16 bits gives %s, %v", mime, err)
	}
}

func TestWhatIsNoWholePhotoIsRefused(t *testing.T) {
	whole := turned(t, 1)
	huge := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\x00\x01\x00\x00\x00\x01\x00\x00\x08\x00\x00\x00\x00")
	huge = binary.BigEndian.AppendUint32(huge, 0x8f3b5d1e)
	for name, c := range map[string]struct {
		data []byte
		want []error
	}{
		"nothing": {nil, []error{ErrNoPhoto}}, "text": {[]byte("GIF89a not"), []error{ErrNoPhoto}}, "half": {whole[:len(whole)/2], []error{ErrPhotoCut}},
		"a head alone": {[]byte{0xff, 0xd8, 0xff, 0xe0}, []error{ErrPhotoCut}}, "four billion pixels": {huge, []error{ErrPhotoLarge, ErrPhotoCut}},
	} {
		_, _, err := Photo(c.data)
		known := false
		for _, w := range c.want {
			known = known || errors.Is(err, w)
		}
		if !known {
			t.Errorf("%s gives %v", name, err)
		}
	}
}

func FuzzPhoto(f *testing.F) {
	f.Add([]byte("\xff\xd8\xff\xe1\x00\x10Exif\x00\x00"))
	f.Add([]byte("\x89PNG\r\n\x1a\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		if _, kept, err := Photo(data); err == nil && len(kept) == 0 {
			t.Error("nothing is kept of a photo")
		}
	})
}

func TestSmallPicturesAreUprightAndBare(t *testing.T) {
	small, err := Small(turned(t, 6))
	if err != nil || bytes.Contains(small, []byte("Exif")) {
		t.Fatal(err)
	}
	size, _, err := image.DecodeConfig(bytes.NewReader(small))
	if err != nil || size.Width >= size.Height {
		t.Errorf("%d by %d: it lies on its side", size.Width, size.Height)
	}
	var large bytes.Buffer
	if err := png.Encode(&large, image.NewGray(image.Rect(0, 0, 3000, 1000))); err != nil {
		t.Fatal(err)
	}
	small, err = Small(large.Bytes())
	if err != nil {
		t.Fatal(err)
	}
	if size, _, _ := image.DecodeConfig(bytes.NewReader(small)); size.Width != smallSide || size.Height != smallSide/3 {
		t.Errorf("%d by %d", size.Width, size.Height)
	}
	if _, err := Small([]byte("no photo")); !errors.Is(err, ErrPhotoCut) {
		t.Error(err)
	}
}
