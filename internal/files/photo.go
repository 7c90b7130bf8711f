package files

import (
	"bytes"
	"errors"
	"image"
	"image/jpeg"
	"image/png"

	"golang.org/x/image/draw"

	"waxplanus/core/photo"
)

// mostPixels is how large a photo may be: larger ones would take more memory to turn than
// a workshop's machine should give to one.
const mostPixels = 24 << 20

// quality is that of the photos that are kept.
const quality = 88

// What photos begin with.
var (
	jpegHead = []byte("\xff\xd8\xff")
	pngHead  = []byte("\x89PNG\r\n\x1a\n")
)

// What is wrong with a photo.
var (
	ErrNoPhoto    = errors.New("no photo")
	ErrPhotoCut   = errors.New("photo cut short")
	ErrPhotoLarge = errors.New("photo of too many pixels")
)

// Photo is a JPEG or PNG as it is kept: read whole, turned upright, and written anew, so
// that nothing but the picture stays: no place, no device, no text behind it.
func Photo(data []byte) (mime string, kept []byte, err error) {
	if !bytes.HasPrefix(data, jpegHead) && !bytes.HasPrefix(data, pngHead) {
		return "", nil, ErrNoPhoto
	}
	size, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return "", nil, ErrPhotoCut
	}
	if size.Width < 1 || size.Height < 1 || size.Width > mostPixels/size.Height {
		return "", nil, ErrPhotoLarge
	}
	picture, err := upright(data)
	if err != nil {
		return "", nil, err
	}
	if kind == "png" {
		var out bytes.Buffer
		err := png.Encode(&out, picture)
		return "image/png", out.Bytes(), err
	}
	kept, err = asJPEG(picture, quality)
	return "image/jpeg", kept, err
}

// smallSide is the longest side of the small picture of a photo, pixels, and smallQuality its
// quality: enough for a screen, little enough for a list.
const (
	smallSide    = 1200
	smallQuality = 80
)

// Small is a small picture of a photo: upright, a JPEG, and nothing but the picture.
func Small(data []byte) ([]byte, error) {
	picture, err := upright(data)
	if err != nil {
		return nil, err
	}
	if size := picture.Bounds().Size(); max(size.X, size.Y) > smallSide {
		share := smallSide / float64(max(size.X, size.Y))
		picture = scaled(picture, picture.Bounds(), int(share*float64(size.X)+0.5), int(share*float64(size.Y)+0.5))
	}
	return asJPEG(picture, smallQuality)
}

// upright reads a whole picture and turns it as its file says that it lies.
func upright(data []byte) (image.Image, error) {
	picture, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, ErrPhotoCut
	}
	lies := photo.Orientation(data)
	if lies < 2 {
		return picture, nil
	}
	b := picture.Bounds()
	as := image.NewNRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
	draw.Draw(as, as.Bounds(), picture, b.Min, draw.Src)
	wide, high, from := photo.Turned(lies, b.Dx(), b.Dy())
	out := image.NewNRGBA(image.Rect(0, 0, wide, high))
	for y := range high {
		for x := range wide {
			sx, sy := from(x, y)
			copy(out.Pix[out.PixOffset(x, y):][:4], as.Pix[as.PixOffset(sx, sy):][:4])
		}
	}
	return out, nil
}

// scaled is a part of a picture in so many pixels.
func scaled(picture image.Image, part image.Rectangle, wide, high int) image.Image {
	out := image.NewNRGBA(image.Rect(0, 0, max(wide, 1), max(high, 1)))
	draw.BiLinear.Scale(out, out.Bounds(), picture, part, draw.Src, nil)
	return out
}

func asJPEG(picture image.Image, quality int) ([]byte, error) {
	var out bytes.Buffer
	err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: quality})
	return out.Bytes(), err
}
