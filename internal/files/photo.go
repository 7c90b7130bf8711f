package files

import (
	"bytes"
	"errors"
	"image"

	"github.com/disintegration/imaging"
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
	picture, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return "", nil, ErrPhotoCut
	}
	format := imaging.JPEG
	if kind == "png" {
		format = imaging.PNG
	}
	var out bytes.Buffer
	if err := imaging.Encode(&out, picture, format, imaging.JPEGQuality(quality)); err != nil {
		return "", nil, err
	}
	return "image/" + kind, out.Bytes(), nil
}

// smallSide is the longest side of the small picture of a photo, pixels, and smallQuality its
// quality: enough for a screen, little enough for a list.
const (
	smallSide    = 1200
	smallQuality = 80
)

// Small is a small picture of a photo: upright, a JPEG, and nothing but the picture.
func Small(data []byte) ([]byte, error) {
	picture, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, ErrPhotoCut
	}
	var out bytes.Buffer
	err = imaging.Encode(&out, imaging.Fit(picture, smallSide, smallSide, imaging.Box), imaging.JPEG, imaging.JPEGQuality(smallQuality))
	return out.Bytes(), err
}
