package files

import (
	"bytes"
	"image"

	"github.com/disintegration/imaging"
)

// Cropped is the middle of a picture in another shape, no wider than so many pixels, as a JPEG.
func Cropped(data []byte, shape float64, most int) ([]byte, error) {
	picture, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, ErrPhotoCut
	}
	size := picture.Bounds().Size()
	wide, high := size.X, int(float64(size.X)/shape)
	if high > size.Y {
		wide, high = int(float64(size.Y)*shape), size.Y
	}
	var shown image.Image = imaging.CropCenter(picture, max(wide, 1), max(high, 1))
	if wide > most {
		shown = imaging.Resize(shown, most, 0, imaging.Box)
	}
	var out bytes.Buffer
	err = imaging.Encode(&out, shown, imaging.JPEG, imaging.JPEGQuality(smallQuality))
	return out.Bytes(), err
}
