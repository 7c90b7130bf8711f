package files

import (
	"bytes"
	_ "embed"
	"encoding/base64"
	"html/template"
	"io"
)

//go:embed report.html
var reportText string

var reportPage = template.Must(template.New("report").Funcs(template.FuncMap{
	"picture": func(data []byte) template.URL {
		_, mime := kindOf(data)
		return template.URL("data:" + mime + ";base64," + base64.StdEncoding.EncodeToString(data)) //nolint:gosec // our own bytes
	},
	"drawing": func(f *Flat) template.HTML { return template.HTML(flatSVG(f)) }, //nolint:gosec // its text is escaped
}).Parse(reportText))

// ReportHTML writes the owner's report as one page that needs nothing else.
func ReportHTML(w io.Writer, r *Report) error { return reportPage.ExecuteTemplate(w, "report", r) }

// RecordHTML writes the film record as one page that needs nothing else.
func RecordHTML(w io.Writer, r *Record) error { return reportPage.ExecuteTemplate(w, "record", r) }

// flatSVG is a car unfolded as a picture of its own, with its text as what it shows.
func flatSVG(f *Flat) []byte {
	const wide = 180.0
	l := &layout{Paper: &Paper{Title: f.Text, W: wide, H: wide * f.H / f.W}}
	l.Page()
	bare := *f
	bare.Text, bare.Legend = "", nil
	l.flat(0, 0, l.W, l.H, &bare)
	return bytes.Replace(l.SVG(0), []byte(", page 1"), nil, 1)
}
