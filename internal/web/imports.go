package web

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// imported is a file as understood for a panel: the rows to show and the
// readings that would be kept.
type imported struct {
	table files.Table
	rows  []api.ImportRow
	keep  []store.Reading
	known int
}

func (s *Server) understand(ctx context.Context, panelID string, in api.ImportFile) (*imported, error) {
	b, err := s.lay(ctx, panelID)
	if err != nil {
		return nil, err
	}
	set, err := layoutOf(in)
	if err != nil {
		return nil, err
	}
	if b.row.Substrate == "plastic" {
		return nil, refuse("text", "The %s is plastic: a magnetic or eddy-current gauge reads nothing there. Open the panel that was read.", b.row.Name)
	}
	out := &imported{}
	if out.table, err = files.ReadReadings(in.Text, set); err != nil {
		return nil, refuse("text", "%s: %s.", in.FileName, err)
	}
	kept, err := s.store.Fingerprints(ctx, panelID)
	if err != nil {
		return nil, err
	}
	pattern := patternFor(b, out.table)
	for _, r := range out.table.Rows {
		row := api.ImportRow{Row: r.Line, Outcome: api.Bad}
		if r.Time != "" {
			row.Time = &r.Time
		}
		if r.Panel != "" {
			row.Panel = &r.Panel
		}
		if r.Film != 0 {
			row.FilmUm = &r.Film
		}
		fault := sentenceOf(r.Fault)
		if fault == "" && r.Panel != "" && !samePanel(r.Panel, b.row) {
			fault = fmt.Sprintf("It says panel %q; this is the %s. Open that panel for it.", r.Panel, b.row.Name)
		}
		at, placed := flatlay.Point{X: r.X, Y: r.Y}, !r.HasPlace
		if fault == "" && placed {
			at, pattern, fault = nextOf(pattern)
		}
		if fault == "" {
			fault = placeFault(b.shape, at)
		}
		taken, past := takenAt(r.Time, s.now())
		if fault == "" && !past {
			fault = fmt.Sprintf("Its time, %s, lies ahead. Set the gauge's clock, or leave the time out.", r.Time)
		}
		print := b.row.ID + ":" + r.Fingerprint
		switch {
		case fault != "":
			row.Detail = fmt.Sprintf("Row %d: %s", r.Line, fault)
		case kept[print]:
			row.Outcome, row.Detail = api.Known, "kept before; adds nothing"
			out.known++
		default:
			row.Outcome, row.Detail = api.New, "new reading"
			if placed {
				row.Detail = "new reading, placed on a regular pattern"
			}
			out.keep = append(out.keep, store.Reading{ID: uuid.NewString(), PanelID: b.row.ID, XMM: at.X, YMM: at.Y, FilmUM: r.Film,
				Phase: store.PhaseTotal, Source: store.SourceFile, Placed: placed, Fingerprint: &print, TakenAt: taken})
		}
		if fault == "" {
			row.XMm, row.YMm = &at.X, &at.Y
		}
		out.rows = append(out.rows, row)
	}
	if text := b.crowded(len(out.keep)); text != "" {
		return nil, refuse("text", "%s", text)
	}
	return out, nil
}

// takenAt reads the time of a row, by the clock of this machine; a row that says
// no day was taken now. past is false for a time that has not come yet.
func takenAt(raw string, now time.Time) (at time.Time, past bool) {
	for _, layout := range []string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02T15:04:05", "2006-01-02 15:04"} {
		if at, err := time.ParseInLocation(layout, raw, time.Local); err == nil {
			return at.UTC(), at.Before(now.Add(time.Minute))
		}
	}
	return now, true
}

// patternFor places the rows that have no coordinates: as far from edges and
// from each other as the panel allows.
func patternFor(b *bench, t files.Table) []flatlay.Point {
	n := 0
	for _, r := range t.Rows {
		if !r.HasPlace && r.Fault == "" {
			n++
		}
	}
	return film.NextSpots(b.ground, b.ground.Cells, nil, 0, nil, min(n, mostPattern))
}

// mostPattern is how many readings without a place a panel can take.
const mostPattern = 40

func nextOf(pattern []flatlay.Point) (flatlay.Point, []flatlay.Point, string) {
	if len(pattern) == 0 {
		return flatlay.Point{}, nil, "there is no room left for a reading without a place: add x and y in mm."
	}
	return pattern[0], pattern[1:], ""
}

func sentenceOf(fault string) string {
	if fault == "" {
		return ""
	}
	return sentence(fault) + "."
}

// samePanel says whether a name in a file means this panel, whatever its case
// and spacing.
func samePanel(name string, p store.Panel) bool {
	plain := func(s string) string {
		return strings.Map(func(r rune) rune {
			if strings.ContainsRune(" -_.", r) {
				return -1
			}
			return r
		}, strings.ToLower(s))
	}
	return plain(name) == plain(p.Name) || plain(name) == plain(p.Key)
}

var delimiters = map[string]rune{"comma": ',', "semicolon": ';', "tab": '\t'}
var decimals = map[string]rune{"point": '.', "comma": ','}

func nameOf(m map[string]rune, r rune) string {
	for k, v := range m {
		if v == r {
			return k
		}
	}
	return ""
}

func layoutOf(in api.ImportFile) (files.Layout, error) {
	var l files.Layout
	if in.Delimiter != nil {
		if l.Delimiter = delimiters[string(*in.Delimiter)]; l.Delimiter == 0 {
			return l, refuse("delimiter", "Columns are parted by comma, semicolon or tab.")
		}
	}
	if in.Decimal != nil {
		if l.Decimal = decimals[string(*in.Decimal)]; l.Decimal == 0 {
			return l, refuse("decimal", "The decimal sign is point or comma.")
		}
	}
	if in.Unit != nil {
		if !in.Unit.Valid() {
			return l, refuse("unit", "The unit is um or mil.")
		}
		l.Unit = string(*in.Unit)
	}
	if c := in.Columns; c != nil {
		for _, n := range []int{c.Film, c.X, c.Y, c.Panel, c.Time} {
			if n < 0 {
				return l, refuse("columns", "Columns are numbered from 1; 0 is none.")
			}
		}
		l.Columns = &files.Columns{Film: c.Film, X: c.X, Y: c.Y, Panel: c.Panel, Time: c.Time}
	}
	return l, nil
}

// PreviewImport says what a file is understood as and keeps nothing.
func (s *Server) PreviewImport(ctx context.Context, r api.PreviewImportRequestObject) (api.PreviewImportResponseObject, error) {
	u, err := s.understand(ctx, r.PanelId, *r.Body)
	if err != nil {
		return nil, err
	}
	c := u.table.Columns
	out := api.ImportPreview{FileName: r.Body.FileName, Headings: u.table.Headings, Rows: u.rows,
		Delimiter: api.ImportPreviewDelimiter(nameOf(delimiters, u.table.Delimiter)),
		Decimal:   api.ImportPreviewDecimal(nameOf(decimals, u.table.Decimal)),
		Unit:      api.Unit(u.table.Unit), UnitFrom: u.table.UnitFrom,
		Columns: api.ImportColumns{Film: c.Film, X: c.X, Y: c.Y, Panel: c.Panel, Time: c.Time},
		NewRows: len(u.keep), KnownRows: u.known, BadRows: len(u.rows) - len(u.keep) - u.known}
	return api.PreviewImport200JSONResponse(out), nil
}

// ConfirmImport keeps the good rows of a file that are not known yet.
func (s *Server) ConfirmImport(ctx context.Context, r api.ConfirmImportRequestObject) (api.ConfirmImportResponseObject, error) {
	u, err := s.understand(ctx, r.PanelId, *r.Body)
	if err != nil {
		return nil, err
	}
	added, err := s.store.AddReadings(ctx, u.keep)
	if err != nil {
		return nil, err
	}
	known := u.known + len(u.keep) - added
	return api.ConfirmImport200JSONResponse{Kept: added, Known: known, LeftOut: len(u.rows) - added - known}, nil
}
