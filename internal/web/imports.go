package web

import (
	"bytes"
	"context"

	"waxplanus/internal/files"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
)

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

// fileOf is a file as it was sent, with what was said of its layout.
func fileOf(in api.ImportFile) (keep.ImportFile, error) {
	out := keep.ImportFile{FileName: in.FileName, Text: in.Text}
	l := &out.Layout
	if in.Delimiter != nil {
		if l.Delimiter = delimiters[string(*in.Delimiter)]; l.Delimiter == 0 {
			return out, refuse.Because(refuse.BadDelimiter, "delimiter")
		}
	}
	if in.Decimal != nil {
		if l.Decimal = decimals[string(*in.Decimal)]; l.Decimal == 0 {
			return out, refuse.Because(refuse.BadDecimal, "decimal")
		}
	}
	if in.Unit != nil {
		if !in.Unit.Valid() {
			return out, refuse.Because(refuse.BadUnit, "unit")
		}
		l.Unit = string(*in.Unit)
	}
	if c := in.Columns; c != nil {
		l.Columns = &files.Columns{Film: c.Film, X: c.X, Y: c.Y, Panel: c.Panel, Time: c.Time, Phase: given(c.Phase), ID: given(c.Id), Struck: given(c.Struck), Shots: given(c.Shots)}
		used := map[int]bool{}
		for _, n := range append([]int{c.Film, c.X, c.Y, c.Panel, c.Time, l.Columns.Phase, l.Columns.ID, l.Columns.Struck}, l.Columns.Shots...) {
			if n < 0 {
				return out, refuse.Because(refuse.BadColumns, "columns")
			}
			if n > 0 && used[n] {
				return out, refuse.Because(refuse.OneColumn, "columns", n)
			}
			used[n] = true
		}
	}
	return out, nil
}

func (v view) row(r keep.ImportRow) api.ImportRow {
	out := api.ImportRow{Row: r.Line, Outcome: api.Bad, Detail: v.Row(r)}
	if r.Time != "" {
		out.Time = &r.Time
	}
	if r.Row.Panel != "" {
		out.Panel = &r.Row.Panel
	}
	if r.Film != 0 {
		out.FilmUm = &r.Film
	}
	if r.Fault != keep.RowFine {
		return out
	}
	out.XMm, out.YMm, out.Panel, out.Outcome = &r.At.X, &r.At.Y, &r.Panel.Name, api.New
	if r.Known {
		out.Outcome = api.Known
	}
	return out
}

func (v view) preview(i *keep.Import) api.ImportPreview {
	t := i.Table
	c := t.Columns
	return api.ImportPreview{FileName: i.FileName, Headings: t.Headings, Rows: each(i.Rows, v.row),
		Delimiter: api.ImportPreviewDelimiter(nameOf(delimiters, t.Delimiter)), Decimal: api.ImportPreviewDecimal(nameOf(decimals, t.Decimal)),
		Unit: api.Unit(t.Unit), UnitFrom: t.UnitFrom,
		Columns: api.ImportColumns{Film: c.Film, X: c.X, Y: c.Y, Panel: c.Panel, Time: c.Time, Phase: &c.Phase, Id: &c.ID, Struck: &c.Struck, Shots: ptr(each(c.Shots, func(n int) int { return n }))},
		NewRows: i.New(), KnownRows: i.Known, BadRows: len(i.Rows) - i.New() - i.Known}
}

// understand reads a file for a panel or a car.
func understand(ctx context.Context, of string, in api.ImportFile, read func(context.Context, string, keep.ImportFile) (*keep.Import, error)) (*keep.Import, error) {
	f, err := fileOf(in)
	if err != nil {
		return nil, err
	}
	return read(ctx, of, f)
}

// keep keeps what was understood.
func (s *Server) keep(ctx context.Context, i *keep.Import) (api.ImportResult, error) {
	added, known, leftOut, err := s.shop.Keep(ctx, i)
	return api.ImportResult{Kept: added, Known: known, LeftOut: leftOut}, err
}

// PreviewImport says what a file is understood as and keeps nothing.
func (s *Server) PreviewImport(ctx context.Context, r api.PreviewImportRequestObject) (api.PreviewImportResponseObject, error) {
	i, err := understand(ctx, r.PanelId, *r.Body, s.shop.PreviewImport)
	if err != nil {
		return nil, err
	}
	return api.PreviewImport200JSONResponse(viewOf(ctx).preview(i)), nil
}

// ConfirmImport keeps the good rows of a file that are not known yet.
func (s *Server) ConfirmImport(ctx context.Context, r api.ConfirmImportRequestObject) (api.ConfirmImportResponseObject, error) {
	i, err := understand(ctx, r.PanelId, *r.Body, s.shop.PreviewImport)
	if err != nil {
		return nil, err
	}
	out, err := s.keep(ctx, i)
	return api.ConfirmImport200JSONResponse(out), err
}

// PreviewCarImport is PreviewImport for a file of a whole car.
func (s *Server) PreviewCarImport(ctx context.Context, r api.PreviewCarImportRequestObject) (api.PreviewCarImportResponseObject, error) {
	i, err := understand(ctx, r.CarId, *r.Body, s.shop.PreviewCarImport)
	if err != nil {
		return nil, err
	}
	return api.PreviewCarImport200JSONResponse(viewOf(ctx).preview(i)), nil
}

// ConfirmCarImport is ConfirmImport for a file of a whole car.
func (s *Server) ConfirmCarImport(ctx context.Context, r api.ConfirmCarImportRequestObject) (api.ConfirmCarImportResponseObject, error) {
	i, err := understand(ctx, r.CarId, *r.Body, s.shop.PreviewCarImport)
	if err != nil {
		return nil, err
	}
	out, err := s.keep(ctx, i)
	return api.ConfirmCarImport200JSONResponse(out), err
}

// GetReadingsFile writes all readings of a car as a file.
func (s *Server) GetReadingsFile(ctx context.Context, r api.GetReadingsFileRequestObject) (api.GetReadingsFileResponseObject, error) {
	all, err := s.shop.ReadingsFile(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	var file bytes.Buffer
	if err := files.WriteReadings(&file, all); err != nil {
		return nil, err
	}
	return api.GetReadingsFile200TextcsvResponse{Body: &file, ContentLength: int64(file.Len())}, nil
}
