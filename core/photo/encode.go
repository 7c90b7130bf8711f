package photo

import "image"

// Gray is a picture of 8 bits a pixel, to be written to a file.
func (p Picture) Gray() *image.Gray {
	out := image.NewGray(image.Rect(0, 0, p.W, p.H))
	for i, v := range p.V {
		out.Pix[i] = uint8(v*255 + 0.5)
	}
	return out
}
