package photo

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
)

// What a file may be.
const (
	mostBytes  = 32 << 20
	mostSide   = 10000
	mostPixels = 26_000_000
	leastSide  = 64
)

// Decode reads a PNG or JPEG as grey stored values, turned upright. The size is looked at
// before anything is unpacked; it never panics.
func Decode(data []byte) (p Picture, err error) {
	defer func() {
		if recover() != nil {
			p, err = Picture{}, refuse(Damaged, 0, 0)
		}
	}()
	if len(data) > mostBytes {
		return p, refuse(TooLarge, float64(len(data)), mostBytes)
	}
	isJPEG, isPNG := bytes.HasPrefix(data, []byte("\xff\xd8\xff")), bytes.HasPrefix(data, []byte("\x89PNG\r\n\x1a\n"))
	if !isJPEG && !isPNG {
		return p, refuse(NotAPicture, 0, 0)
	}
	config, unpack := png.DecodeConfig, png.Decode
	if isJPEG {
		config, unpack = jpeg.DecodeConfig, jpeg.Decode
	}
	size, err := config(bytes.NewReader(data))
	switch {
	case err != nil:
		return p, refuse(Damaged, 0, 0)
	case size.Width < leastSide || size.Height < leastSide:
		return p, refuse(TooSmall, float64(min(size.Width, size.Height)), leastSide)
	case size.Width > mostSide || size.Height > mostSide || size.Width > mostPixels/size.Height:
		return p, refuse(TooLarge, float64(size.Width)*float64(size.Height), mostPixels)
	case isPNG && len(data) < size.Width*size.Height/deflateBest:
		return p, refuse(Damaged, float64(len(data)), float64(size.Width*size.Height/deflateBest))
	}
	img, err := unpack(bytes.NewReader(data))
	if err != nil {
		return p, refuse(Damaged, 0, 0)
	}
	return grey(img).turned(Orientation(data)), nil
}

// deflateBest is how many times deflate packs at best: a file that claims more is a bomb.
const deflateBest = 1032

// grey takes the light of a picture: the Y of a JPEG as it is stored.
func grey(img image.Image) Picture {
	b := img.Bounds()
	out := Picture{b.Dx(), b.Dy(), make([]float32, b.Dx()*b.Dy())}
	at := func(x, y int, v float32) { out.V[y*out.W+x] = v }
	switch m := img.(type) {
	case *image.YCbCr:
		for y := range out.H {
			for x := range out.W {
				at(x, y, float32(m.Y[m.YOffset(b.Min.X+x, b.Min.Y+y)])/255)
			}
		}
	case *image.Gray:
		for y := range out.H {
			for x := range out.W {
				at(x, y, float32(m.Pix[m.PixOffset(b.Min.X+x, b.Min.Y+y)])/255)
			}
		}
	case *image.Gray16:
		for y := range out.H {
			for x := range out.W {
				i := m.PixOffset(b.Min.X+x, b.Min.Y+y)
				at(x, y, float32(binary.BigEndian.Uint16(m.Pix[i:]))/65535)
			}
		}
	default:
		for y := range out.H {
			for x := range out.W {
				g, _ := color.Gray16Model.Convert(img.At(b.Min.X+x, b.Min.Y+y)).(color.Gray16)
				at(x, y, float32(g.Y)/65535)
			}
		}
	}
	return out
}

// turned is a picture upright, by the orientation of its file, 1 to 8.
func (p Picture) turned(orientation int) Picture {
	if orientation < 2 {
		return p
	}
	w, h, from := Turned(orientation, p.W, p.H)
	out := Picture{w, h, make([]float32, len(p.V))}
	for y := range out.H {
		for x := range out.W {
			sx, sy := from(x, y)
			out.V[y*out.W+x] = p.V[sy*p.W+sx]
		}
	}
	return out
}

// Turned is the size in pixels of a picture of so many that is turned upright by the orientation of
// its file, 1 to 8, and from which pixel of it each one comes.
func Turned(orientation, w, h int) (wide, high int, from func(x, y int) (int, int)) {
	across := orientation >= 5
	if wide, high = w, h; across {
		wide, high = h, w
	}
	left := orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8
	up := orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7
	return wide, high, func(x, y int) (int, int) {
		if across {
			x, y = y, x
		}
		if left {
			x = w - 1 - x
		}
		if up {
			y = h - 1 - y
		}
		return x, y
	}
}
