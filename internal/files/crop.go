package files

import "image"

// Cropped is the middle of a picture in another shape, no wider than so many pixels, as a JPEG.
func Cropped(data []byte, shape float64, most int) ([]byte, error) {
	picture, err := upright(data)
	if err != nil {
		return nil, err
	}
	b := picture.Bounds()
	wide, high := b.Dx(), int(float64(b.Dx())/shape)
	if high > b.Dy() {
		wide, high = int(float64(b.Dy())*shape), b.Dy()
	}
	wide, high = max(wide, 1), max(high, 1)
	at := image.Pt(b.Min.X+(b.Dx()-wide)/2, b.Min.Y+(b.Dy()-high)/2)
	part := image.Rectangle{Min: at, Max: at.Add(image.Pt(wide, high))}
	if wide > most {
		wide, high = most, int(float64(high)*float64(most)/float64(wide)+0.5)
	}
	return asJPEG(scaled(picture, part, wide, high), smallQuality)
}
