package files

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"io"
	"strconv"

	"codeberg.org/go-pdf/fpdf"
)

// kindOf is the kind of a picture as PDF and SVG name it; empty for none that they take.
func kindOf(data []byte) (pdf, mime string) {
	switch {
	case bytes.HasPrefix(data, jpegHead):
		return "JPG", "image/jpeg"
	case bytes.HasPrefix(data, pngHead):
		return "PNG", "image/png"
	}
	return "", ""
}

func rgb(ink string) (r, g, b int) {
	v, err := strconv.ParseUint(ink[1:], 16, 32)
	if err != nil {
		return 0, 0, 0
	}
	return int(v >> 16), int(v >> 8 & 0xff), int(v & 0xff)
}

// PDF writes the pages as a PDF with its fonts in it.
func (p *Paper) PDF(out io.Writer) error {
	pdf := fpdf.NewCustom(&fpdf.InitType{OrientationStr: "P", UnitStr: "mm", Size: fpdf.SizeType{Wd: p.W, Ht: p.H}})
	pdf.SetTitle(p.Title, true)
	pdf.SetCreator("Wax Planus", true)
	pdf.SetLang("en")
	pdf.SetMargins(0, 0, 0)
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetCompression(true)
	for _, face := range cuts() {
		for _, c := range face {
			pdf.AddUTF8FontFromBytes(c.name, "", c.raw)
		}
	}
	for no, page := range p.pages {
		pdf.AddPage()
		for i, d := range page {
			switch {
			case d.picture != nil:
				kind, _ := kindOf(d.picture)
				name := fmt.Sprintf("%d-%d", no, i)
				opts := fpdf.ImageOptions{ImageType: kind}
				pdf.RegisterImageOptionsReader(name, opts, bytes.NewReader(d.picture))
				pdf.ImageOptions(name, d.x, d.y, d.w, d.h, false, opts, 0, "")
			case d.text != "":
				pdfText(pdf, d)
			default:
				pdfArea(pdf, d)
			}
		}
	}
	return pdf.Output(out)
}

func pdfText(pdf *fpdf.Fpdf, d drawing) {
	r, g, b := rgb(d.ink)
	pdf.SetTextColor(r, g, b)
	x := d.x
	for _, one := range runs(d.face, d.text) {
		pdf.SetFont(one.cut.name, "", d.points)
		if d.face == Head {
			pdf.TransformBegin()
			pdf.TransformScaleX(100*stretch, x, d.y)
			pdf.Text(x, d.y, one.text)
			pdf.TransformEnd()
		} else {
			pdf.Text(x, d.y, one.text)
		}
		x += one.wide * d.points * mmPerPoint
	}
}

func pdfArea(pdf *fpdf.Fpdf, d drawing) {
	how := ""
	if d.fill != "" {
		r, g, b := rgb(d.fill)
		pdf.SetFillColor(r, g, b)
		how = "F*"
	}
	if d.ink != "" && d.line > 0 {
		r, g, b := rgb(d.ink)
		pdf.SetDrawColor(r, g, b)
		pdf.SetLineWidth(d.line)
		pdf.SetLineJoinStyle("round")
		how = map[string]string{"": "D", "F*": "FD*"}[how]
	}
	if how == "" {
		return
	}
	for _, path := range d.paths {
		if len(path) < 2 {
			continue
		}
		pdf.MoveTo(path[0].X, path[0].Y)
		for _, q := range path[1:] {
			pdf.LineTo(q.X, q.Y)
		}
		if d.closed {
			pdf.ClosePath()
		}
	}
	pdf.DrawPath(how)
}

// svgFonts are the families and weights of the fonts on the pages of the program.
var svgFonts = map[Face]string{
	Text: `font-family="'Hanken Grotesk Variable',sans-serif" font-weight="400"`,
	Bold: `font-family="'Hanken Grotesk Variable',sans-serif" font-weight="700"`,
	Head: `font-family="'Archivo Variable',sans-serif" font-weight="700"`,
}

// SVG writes one page, from 0 on, as an SVG in mm whose text is text; the same as it prints.
func (p *Paper) SVG(page int) []byte {
	var b bytes.Buffer
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" role="img" aria-label="%s, page %d">`, p.W, p.H, escaped(p.Title), page+1)
	fmt.Fprintf(&b, `<rect width="%g" height="%g" fill="#ffffff"/>`, p.W, p.H)
	for _, d := range p.pages[page] {
		switch {
		case d.picture != nil:
			_, mime := kindOf(d.picture)
			fmt.Fprintf(&b, `<image x="%.2f" y="%.2f" width="%.2f" height="%.2f" preserveAspectRatio="none" href="data:%s;base64,%s"><title>%s</title></image>`,
				d.x, d.y, d.w, d.h, mime, base64.StdEncoding.EncodeToString(d.picture), escaped(d.alt))
		case d.text != "":
			fmt.Fprintf(&b, `<text x="%.2f" y="%.2f" font-size="%.3f" textLength="%.2f" lengthAdjust="spacingAndGlyphs" fill="%s" style="fill:%s" %s>%s</text>`,
				d.x, d.y, d.points*mmPerPoint, d.w, d.ink, d.ink, svgFonts[d.face], escaped(d.text))
		default:
			fill, ink := d.fill, d.ink
			if fill == "" {
				fill = "none"
			}
			if ink == "" || d.line == 0 {
				ink = "none"
			}
			var path bytes.Buffer
			for _, pts := range d.paths {
				path.WriteString(pathData(pts, d.closed))
			}
			fmt.Fprintf(&b, `<path d="%s" fill="%s" fill-rule="evenodd" stroke="%s" stroke-width="%.2f" stroke-linejoin="round"/>`, path.String(), fill, ink, d.line)
		}
	}
	b.WriteString("</svg>")
	return b.Bytes()
}
