package web

import (
	"bytes"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// imported is a file as understood: the rows to show and the readings that
// would be kept.
type imported struct {
	table files.Table
	rows  []api.ImportRow
	keep  []store.Reading
	known int
}

// target is where the rows of a file may go: the panels of a car, and the one
// that is open, which takes the rows that name none; nil without one.
type target struct {
	panels []*bench
	open   *bench
}

func (s *Server) panelTarget(ctx context.Context, panelID string) (target, error) {
	b, err := s.lay(ctx, panelID)
	if err != nil {
		return target{}, err
	}
	t, err := s.carTarget(ctx, b.row.CarID)
	for _, o := range t.panels {
		if o.row.ID == panelID {
			t.open = o
		}
	}
	return t, err
}

func (s *Server) carTarget(ctx context.Context, carID string) (target, error) {
	car, err := s.store.Car(ctx, carID)
	if err != nil {
		return target{}, err
	}
	var t target
	for _, row := range car.Panels {
		b, err := s.layRow(ctx, car, row)
		if err != nil {
			return t, err
		}
		t.panels = append(t.panels, b)
	}
	return t, nil
}

// find is the panel that a row means, or why there is none.
func (t target) find(name string) (*bench, string) {
	if name == "" {
		if t.open == nil {
			return nil, "it names no panel: add a column panel, or import it on the panel that was read."
		}
		return t.open, ""
	}
	for _, b := range t.panels {
		if samePanel(name, b.row) {
			return b, ""
		}
	}
	return nil, fmt.Sprintf("no panel of this car is called %q; the nearest is %s.", name, t.nearest(name))
}

// nearest is the panel whose name shares most words with a name.
func (t target) nearest(name string) string {
	best, most := "", -1
	for _, b := range t.panels {
		n := 0
		for _, w := range strings.Fields(strings.ToLower(name)) {
			if strings.Contains(strings.ToLower(b.row.Name), w) {
				n++
			}
		}
		if n > most {
			best, most = b.row.Name, n
		}
	}
	return best
}

func (s *Server) understand(ctx context.Context, t target, in api.ImportFile) (*imported, error) {
	set, err := layoutOf(in)
	if err != nil {
		return nil, err
	}
	out := &imported{}
	if out.table, err = files.ReadReadings(in.Text, set); err != nil {
		return nil, refuse("text", "%s: %s.", in.FileName, err)
	}
	kept, patterns, fresh := map[string]bool{}, map[*bench]*pattern{}, map[*bench]int{}
	for _, b := range t.panels {
		known, err := s.store.Fingerprints(ctx, b.row.ID)
		if err != nil {
			return nil, err
		}
		maps.Copy(kept, known)
		for _, r := range b.readings {
			kept[r.ID] = true
		}
		patterns[b] = newPattern(b, t, out.table)
	}
	for _, r := range out.table.Rows {
		row, reading := s.rowOf(t, patterns, r)
		switch {
		case row.Outcome == api.Bad:
			row.Detail = fmt.Sprintf("Row %d: %s", r.Line, row.Detail)
		case kept[*reading.Fingerprint] || kept[reading.ID]:
			row.Outcome, row.Detail = api.Known, "kept before; adds nothing"
			out.known++
		default:
			if other, err := s.store.HasReading(ctx, reading.ID); err != nil {
				return nil, err
			} else if other { // written out for another car
				reading.ID = uuid.NewString()
			}
			out.keep = append(out.keep, reading)
			b, _ := t.find(r.Panel)
			fresh[b]++
		}
		out.rows = append(out.rows, row)
	}
	for b, n := range fresh {
		if text := b.crowded(n); text != "" {
			return nil, refuse("text", "%s", text)
		}
	}
	return out, nil
}

// rowOf is a row as it is shown, with the reading that it would become.
func (s *Server) rowOf(t target, patterns map[*bench]*pattern, r files.Row) (api.ImportRow, store.Reading) {
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
	if row.Detail = sentenceOf(r.Fault); row.Detail != "" {
		return row, store.Reading{}
	}
	b, fault := t.find(r.Panel)
	if fault != "" {
		row.Detail = fault
		return row, store.Reading{}
	}
	if b.row.Substrate == "plastic" {
		row.Detail = fmt.Sprintf("the %s is plastic: a magnetic or eddy-current gauge reads nothing there.", b.row.Name)
		return row, store.Reading{}
	}
	at, placed := flatlay.Point{X: r.X, Y: r.Y}, !r.HasPlace
	if placed {
		at, row.Detail = patterns[b].at(r.Line)
	} else {
		row.Detail = placeFault(b.shape, at)
	}
	taken, past := takenAt(r.Time, s.now())
	if row.Detail == "" && !past {
		row.Detail = fmt.Sprintf("Its time, %s, lies ahead. Set the gauge's clock, or leave the time out.", r.Time)
	}
	if row.Detail != "" {
		return row, store.Reading{}
	}
	row.XMm, row.YMm, row.Panel = &at.X, &at.Y, &b.row.Name
	row.Outcome, row.Detail = api.New, "new reading"
	if placed {
		row.Detail = "new reading, placed on a regular pattern"
	}
	print := b.row.ID + ":" + r.Fingerprint
	reading := store.Reading{ID: r.ID, PanelID: b.row.ID, XMM: at.X, YMM: at.Y, FilmUM: r.Film,
		Phase: store.PhaseTotal, Source: store.SourceFile, Placed: placed, Fingerprint: &print, TakenAt: taken}
	if r.Phase != "" {
		reading.Phase = r.Phase
	}
	if len(reading.ID) < leastID || len(reading.ID) > mostID {
		reading.ID = uuid.NewString()
	}
	return row, reading
}

// The signs that the id of a reading has.
const (
	leastID = 8
	mostID  = 64
)

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

// pattern places the rows of a panel that have no coordinates: as far from edges
// and from each other as the panel allows, one place a line.
type pattern struct {
	spots []flatlay.Point
	lines map[int]flatlay.Point
}

// mostPattern is how many readings without a place a panel can take.
const mostPattern = 40

func newPattern(b *bench, t target, table files.Table) *pattern {
	lines := map[int]bool{}
	for _, r := range table.Rows {
		if at, _ := t.find(r.Panel); !r.HasPlace && r.Fault == "" && at == b {
			lines[r.Line] = true
		}
	}
	p := &pattern{lines: map[int]flatlay.Point{}}
	if len(lines) > 0 {
		p.spots = film.NextSpots(b.ground, b.ground.Cells, nil, 0, nil, min(len(lines), mostPattern))
	}
	return p
}

func (p *pattern) at(line int) (flatlay.Point, string) {
	if at, ok := p.lines[line]; ok {
		return at, ""
	}
	if len(p.lines) >= len(p.spots) {
		return flatlay.Point{}, "there is no room left for a reading without a place: add x and y in mm."
	}
	at := p.spots[len(p.lines)]
	p.lines[line] = at
	return at, ""
}

func sentenceOf(fault string) string {
	if fault == "" {
		return ""
	}
	return ended(sentence(fault))
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
		for _, n := range append([]int{c.Film, c.X, c.Y, c.Panel, c.Time, orZero(c.Phase), orZero(c.Id), orZero(c.Struck)}, orNone(c.Shots)...) {
			if n < 0 {
				return l, refuse("columns", "Columns are numbered from 1; 0 is none.")
			}
		}
		l.Columns = &files.Columns{Film: c.Film, X: c.X, Y: c.Y, Panel: c.Panel, Time: c.Time, Phase: orZero(c.Phase), ID: orZero(c.Id), Struck: orZero(c.Struck)}
		if c.Shots != nil {
			l.Columns.Shots = *c.Shots
		}
	}
	return l, nil
}

func orZero(n *int) int {
	if n == nil {
		return 0
	}
	return *n
}

func orNone(n *[]int) []int {
	if n == nil {
		return nil
	}
	return *n
}

func (s *Server) preview(ctx context.Context, t target, in api.ImportFile) (api.ImportPreview, error) {
	u, err := s.understand(ctx, t, in)
	if err != nil {
		return api.ImportPreview{}, err
	}
	c := u.table.Columns
	return api.ImportPreview{FileName: in.FileName, Headings: u.table.Headings, Rows: u.rows,
		Delimiter: api.ImportPreviewDelimiter(nameOf(delimiters, u.table.Delimiter)),
		Decimal:   api.ImportPreviewDecimal(nameOf(decimals, u.table.Decimal)),
		Unit:      api.Unit(u.table.Unit), UnitFrom: u.table.UnitFrom,
		Columns: api.ImportColumns{Film: c.Film, X: c.X, Y: c.Y, Panel: c.Panel, Time: c.Time, Phase: &c.Phase, Id: &c.ID, Struck: &c.Struck, Shots: ptr(slices.Clone(c.Shots))},
		NewRows: len(u.keep), KnownRows: u.known, BadRows: len(u.rows) - len(u.keep) - u.known}, nil
}

func (s *Server) confirm(ctx context.Context, t target, in api.ImportFile) (api.ImportResult, error) {
	u, err := s.understand(ctx, t, in)
	if err != nil {
		return api.ImportResult{}, err
	}
	added, err := s.store.AddReadings(ctx, u.keep)
	if err != nil {
		return api.ImportResult{}, err
	}
	known := u.known + len(u.keep) - added
	return api.ImportResult{Kept: added, Known: known, LeftOut: len(u.rows) - added - known}, nil
}

// PreviewImport says what a file is understood as and keeps nothing.
func (s *Server) PreviewImport(ctx context.Context, r api.PreviewImportRequestObject) (api.PreviewImportResponseObject, error) {
	t, err := s.panelTarget(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	out, err := s.preview(ctx, t, *r.Body)
	return api.PreviewImport200JSONResponse(out), err
}

// ConfirmImport keeps the good rows of a file that are not known yet.
func (s *Server) ConfirmImport(ctx context.Context, r api.ConfirmImportRequestObject) (api.ConfirmImportResponseObject, error) {
	t, err := s.panelTarget(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	out, err := s.confirm(ctx, t, *r.Body)
	return api.ConfirmImport200JSONResponse(out), err
}

// PreviewCarImport is PreviewImport for a file of a whole car.
func (s *Server) PreviewCarImport(ctx context.Context, r api.PreviewCarImportRequestObject) (api.PreviewCarImportResponseObject, error) {
	t, err := s.carTarget(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	out, err := s.preview(ctx, t, *r.Body)
	return api.PreviewCarImport200JSONResponse(out), err
}

// ConfirmCarImport is ConfirmImport for a file of a whole car.
func (s *Server) ConfirmCarImport(ctx context.Context, r api.ConfirmCarImportRequestObject) (api.ConfirmCarImportResponseObject, error) {
	t, err := s.carTarget(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	out, err := s.confirm(ctx, t, *r.Body)
	return api.ConfirmCarImport200JSONResponse(out), err
}

// GetReadingsFile writes all readings of a car as a file.
func (s *Server) GetReadingsFile(ctx context.Context, r api.GetReadingsFileRequestObject) (api.GetReadingsFileResponseObject, error) {
	car, err := s.store.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.CarReadings(ctx, car.ID)
	if err != nil {
		return nil, err
	}
	panels := map[string]store.Panel{}
	for _, p := range car.Panels {
		panels[p.ID] = p
	}
	var out []files.Kept
	for _, k := range rows {
		p := panels[k.PanelID]
		out = append(out, files.Kept{Panel: p.Name, Key: p.Key, No: k.Seq, X: k.XMM, Y: k.YMM, Film: k.FilmUM, Phase: k.Phase, Taken: k.TakenAt,
			Gauge: k.Gauge, Source: k.Source, Placed: k.Placed, Sure: k.Sure, Struck: k.StruckReason, ID: k.ID})
	}
	var file bytes.Buffer
	if err := files.WriteReadings(&file, out); err != nil {
		return nil, err
	}
	return api.GetReadingsFile200TextcsvResponse{Body: &file, ContentLength: int64(file.Len())}, nil
}
