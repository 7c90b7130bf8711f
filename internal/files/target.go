package files

import (
	"fmt"
	"io"

	"waxplanus/core/photo"
)

// CardSVG writes the scale card: a black square in a white frame, to scale.
func CardSVG(out io.Writer) error {
	const side = photo.CardSide + 2*photo.CardFrame
	_, err := fmt.Fprintf(out, `<svg xmlns="http://www.w3.org/2000/svg" width="%[1]gmm" height="%[2]gmm" viewBox="0 0 %[1]g %[2]g">
<title>Scale card, %[4]g mm</title>
<rect width="%[1]g" height="%[1]g" fill="#fff" stroke="#000" stroke-width="0.2" stroke-dasharray="2 1"/>
<rect x="%[3]g" y="%[3]g" width="%[4]g" height="%[4]g" fill="#000"/>
<text x="0" y="%[5]g" font-family="sans-serif" font-size="3">Print at 100 %%: the square is %[4]g mm. Cut along the dashes.</text>
</svg>
`, side, side+8, photo.CardFrame, photo.CardSide, side+5)
	return err
}

// Sizes of a printed target, mm.
const (
	targetWide, targetHigh  = 277.0, 190.0 // what most printers reach of A4, lying
	leastPitch, widestPitch = 4.0, 60.0
)

// ErrPitch says that stripes of that pitch cannot be printed or are of no use.
type ErrPitch float64

func (e ErrPitch) Error() string {
	return fmt.Sprintf("a pitch of %g mm is of no use: it goes from %g to %g mm", float64(e), leastPitch, widestPitch)
}

func checkPitch(pitch float64) error {
	if !(pitch >= leastPitch && pitch <= widestPitch) {
		return ErrPitch(pitch)
	}
	return nil
}

// StripesSVG writes black and white stripes of a pitch (mm), to scale, for shops without striped
// lamps: lit from the front and mirrored in the panel.
func StripesSVG(out io.Writer, pitch float64) error {
	if err := checkPitch(pitch); err != nil {
		return err
	}
	if _, err := fmt.Fprintf(out, `<svg xmlns="http://www.w3.org/2000/svg" width="%[1]gmm" height="%[2]gmm" viewBox="0 0 %[1]g %[2]g">
<title>Stripes, pitch %[3]g mm</title>
<rect width="%[1]g" height="%[2]g" fill="#fff"/>
`, targetWide, targetHigh, pitch); err != nil {
		return err
	}
	for x := 0.0; x < targetWide; x += pitch {
		if _, err := fmt.Fprintf(out, "<rect x=\"%g\" width=\"%g\" height=\"%g\"/>\n", x, min(pitch/2, targetWide-x), targetHigh-8); err != nil {
			return err
		}
	}
	_, err := fmt.Fprintf(out, "<text x=\"0\" y=\"%g\" font-family=\"sans-serif\" font-size=\"4\">Print at 100 %%: black and white together are %g mm wide.</text>\n</svg>\n", targetHigh-2, pitch)
	return err
}
