package files

import (
	"fmt"
	"io"

	"codeberg.org/go-pdf/fpdf"

	"waxplanus/core/photo"
)

// sheet is an A4 page with a line of print along its foot, mm.
func sheet(orientation, title, foot string) *fpdf.Fpdf {
	pdf := fpdf.New(orientation, "mm", "A4", "")
	pdf.SetTitle(title, true)
	pdf.SetAutoPageBreak(false, 0)
	pdf.AddPage()
	_, high := pdf.GetPageSize()
	pdf.SetFont("Helvetica", "", 9)
	pdf.Text(10, high-6, foot)
	return pdf
}

// CardPDF writes the scale card as CardSVG does, on a page to print.
func CardPDF(out io.Writer) error {
	pdf := sheet("P", "Scale card", fmt.Sprintf("Print at 100 %%, without fitting: the black square is %g mm. Cut along the dashes.", photo.CardSide))
	const at, side = 20.0, photo.CardSide + 2*photo.CardFrame
	pdf.SetLineWidth(0.2)
	pdf.SetDashPattern([]float64{2, 1}, 0)
	pdf.Rect(at, at, side, side, "D")
	pdf.SetFillColor(0, 0, 0)
	pdf.Rect(at+photo.CardFrame, at+photo.CardFrame, photo.CardSide, photo.CardSide, "F")
	return pdf.Output(out)
}

// StripesPDF writes stripes of a pitch (mm) as StripesSVG does, on a page to print.
func StripesPDF(out io.Writer, pitch float64) error {
	if err := checkPitch(pitch); err != nil {
		return err
	}
	pdf := sheet("L", "Stripes", fmt.Sprintf("Print at 100 %%, without fitting: black and white together are %g mm wide.", pitch))
	const left, top = 10.0, 8.0
	pdf.SetFillColor(0, 0, 0)
	for x := 0.0; x < targetWide; x += pitch {
		pdf.Rect(left+x, top, min(pitch/2, targetWide-x), targetHigh-8, "F")
	}
	return pdf.Output(out)
}
