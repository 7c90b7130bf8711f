package files

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
)

// Dot is a reading or a mark on a drawing: its place and size in mm, what it
// says, and what programs may read of it.
type Dot struct {
	Role, Text string
	X, Y, Size float64
	Data       map[string]string
}

// WriteDrawing writes a panel as an SVG file in mm that ReadDrawing takes back:
// its outline, cut-outs and creases, and readings and marks in groups of their
// own.
func WriteDrawing(p flatlay.Panel, car string, dots []Dot) []byte {
	const margin = 20
	w, h := p.Size()
	var b bytes.Buffer
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%.1fmm" height="%.1fmm" viewBox="%d %d %.1f %.1f" data-mm-per-unit="1">`+"\n",
		w+2*margin, h+2*margin, -margin, -margin, w+2*margin, h+2*margin)
	fmt.Fprintf(&b, "<title>%s, %s</title>\n", escaped(car), escaped(p.Name))
	fmt.Fprintf(&b, `<g fill="none" stroke="#1c1e3a" stroke-width="1.5" data-panel="%s" data-substrate="%s">`+"\n", escaped(p.Name), escaped(p.Substrate))
	fmt.Fprintf(&b, `<path id="%s" d="%s"/>`+"\n", escaped(p.Key), pathData(p.Outline, true))
	for _, o := range p.Holes {
		fmt.Fprintf(&b, `<path data-role="cutout" d="%s"/>`+"\n", pathData(o.Points, true))
	}
	for _, c := range p.Creases {
		fmt.Fprintf(&b, `<path data-role="crease" stroke-dasharray="6 4" d="%s"/>`+"\n", pathData(c.Points, false))
	}
	b.WriteString("</g>\n")
	for _, role := range []string{"reading", "mark"} {
		fmt.Fprintf(&b, `<g data-role="%s" fill="none" stroke="#1c1e3a" font-family="sans-serif" font-size="14">`+"\n", role)
		for _, d := range dots {
			if d.Role != role {
				continue
			}
			var data strings.Builder
			var keys []string
			for k := range d.Data {
				keys = append(keys, k)
			}
			slices.Sort(keys)
			for _, k := range keys {
				fmt.Fprintf(&data, ` data-%s="%s"`, k, escaped(d.Data[k]))
			}
			fmt.Fprintf(&b, `<circle cx="%.1f" cy="%.1f" r="%.1f"%s/>`+"\n", d.X, d.Y, max(d.Size, 2), data.String())
			fmt.Fprintf(&b, `<text x="%.1f" y="%.1f" fill="#1c1e3a" stroke="none">%s</text>`+"\n", d.X+max(d.Size, 2)+3, d.Y+4, escaped(d.Text))
		}
		b.WriteString("</g>\n")
	}
	b.WriteString("</svg>\n")
	return b.Bytes()
}

func escaped(text string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(text)) // a buffer takes everything
	return b.String()
}

func pathData(pts []flatlay.Point, closed bool) string {
	var b strings.Builder
	for i, q := range pts {
		op := "L"
		if i == 0 {
			op = "M"
		}
		fmt.Fprintf(&b, "%s%.2f %.2f", op, q.X, q.Y)
	}
	if closed {
		b.WriteString("Z")
	}
	return b.String()
}
