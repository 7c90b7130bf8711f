package web

import (
	"bytes"
	"context"
	"errors"
	"image/png"
	"io"
	"net/http"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/core/surface"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// mostMarks is how many marks a panel may have.
const mostMarks = 2000

// GetLook lists the marks of a panel and what will be done about each.
func (s *Server) GetLook(ctx context.Context, r api.GetLookRequestObject) (api.GetLookResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	all, err := b.liveMarks(s.now())
	if err != nil {
		return nil, err
	}
	out := api.Look{Panel: panelOf(b), Car: summary(b), Marks: b.markViews(all, func(judged) bool { return true }), Tally: b.tally(all), Panels: []string{}}
	out.Focus.X, out.Focus.Y, out.Focus.W, out.Focus.H = b.shape.Focus(b.sections)
	for i, p := range b.car.Panels {
		out.Panels = append(out.Panels, p.ID)
		if p.ID == b.row.ID {
			out.PanelNo = i + 1
		}
	}
	return api.GetLook200JSONResponse(out), nil
}

// marked is one mark as it is now, with the tally of its panel.
func (s *Server) marked(ctx context.Context, m store.Mark) (api.Marked, error) {
	b, err := s.open(ctx, m.PanelID)
	if err != nil {
		return api.Marked{}, err
	}
	all, err := b.liveMarks(s.now())
	if err != nil {
		return api.Marked{}, err
	}
	i := slices.IndexFunc(all, func(j judged) bool { return j.row.ID == m.ID })
	var j judged
	if i >= 0 {
		j = all[i]
	} else {
		one, err := b.judge([]store.Mark{m}, s.now())
		if err != nil {
			return api.Marked{}, err
		}
		j = one[0]
	}
	return api.Marked{Mark: b.markView(j, numbers(b.marks)[m.ID]), Tally: b.tally(all)}, nil
}

// size changes a mark by the sizes that were given.
func size(m *marks.Mark, row *store.Mark, in *api.MarkSizes) {
	if in == nil {
		return
	}
	for _, n := range []struct{ from, to *float64 }{
		{in.LengthMm, &m.Length}, {in.WidthMm, &m.Width}, {in.AngleDeg, &m.Angle}, {in.SizeUm, &m.Size},
		{in.CrestUm, &m.Crest}, {in.BesideUm, &m.Beside}, {in.Grade, &m.Grade}, {in.DensityDm2, &m.Density},
	} {
		if n.from != nil {
			*n.to = *n.from
		}
	}
	if in.Class != nil {
		m.Class = marks.Class(*in.Class)
	}
	if in.Note != nil {
		row.Note = strings.TrimSpace(*in.Note)
	}
}

// checkMark says what is wrong with a mark on a panel.
func checkMark(m marks.Mark, row store.Mark, shape flatlay.Panel) error {
	var f marks.Fault
	if err := m.Check(); errors.As(err, &f) {
		return refuse(f.Field, "%s", f.Text)
	}
	if text := placeFault(shape, flatlay.Point{X: m.X, Y: m.Y}); text != "" {
		return refuse("x_mm", "%s", text)
	}
	if len([]rune(row.Note)) > 500 {
		return refuse("note", "A note has 500 letters at most; this one has %d.", len([]rune(row.Note)))
	}
	return nil
}

func foundOf(row *store.Mark, f *api.Found) error {
	if f == nil {
		return nil
	}
	if !f.Valid() {
		return refuse("found", "A mark is found in the booth, the workshop, the sun or by hand; %q is none of these.", *f)
	}
	row.Found = string(*f)
	return nil
}

// AddMark keeps one mark.
func (s *Server) AddMark(ctx context.Context, r api.AddMarkRequestObject) (api.AddMarkResponseObject, error) {
	b, err := s.lay(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	in := *r.Body
	if len(in.Id) < 8 || len(in.Id) > 64 {
		return nil, refuse("id", "The id of a mark has 8 to 64 signs and is made by the sender.")
	}
	if len(b.marks) >= mostMarks {
		return nil, conflict("The %s has %d marks, the most that one panel holds. That many are no longer single marks: place a peel patch or dust.", b.row.Name, len(b.marks))
	}
	m := marks.Placed(marks.Kind(in.Kind), in.XMm, in.YMm, b.row.PeelGrade)
	row := store.Mark{ID: in.Id, PanelID: b.row.ID, Found: string(api.FoundWorkshop), Person: b.car.Painter, At: s.now(), Outcome: store.OutcomeOpen}
	if in.Person != nil && strings.TrimSpace(*in.Person) != "" {
		if row.Person, err = personOf(*in.Person); err != nil {
			return nil, err
		}
	}
	size(&m, &row, in.Sizes)
	if err := errors.Join(checkMark(m, row, b.shape), foundOf(&row, in.Found)); err != nil {
		return nil, err
	}
	rowOf(m, &row)
	if err := s.store.AddMark(ctx, &row); err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, row)
	return api.AddMark201JSONResponse(out), err
}

// ChangeMark moves or sizes a mark.
func (s *Server) ChangeMark(ctx context.Context, r api.ChangeMarkRequestObject) (api.ChangeMarkResponseObject, error) {
	old, err := s.store.Mark(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	b, err := s.lay(ctx, old.PanelID)
	if err != nil {
		return nil, err
	}
	row, err := s.store.ChangeMark(ctx, r.MarkId, func(row *store.Mark) error {
		m := markOf(*row)
		if r.Body.XMm != nil {
			m.X = *r.Body.XMm
		}
		if r.Body.YMm != nil {
			m.Y = *r.Body.YMm
		}
		size(&m, row, r.Body.Sizes)
		if err := errors.Join(checkMark(m, *row, b.shape), foundOf(row, r.Body.Found)); err != nil {
			return err
		}
		rowOf(m, row)
		return nil
	})
	if err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, row)
	return api.ChangeMark200JSONResponse(out), err
}

// StrikeMark strikes a mark out.
func (s *Server) StrikeMark(ctx context.Context, r api.StrikeMarkRequestObject) (api.StrikeMarkResponseObject, error) {
	reason, err := strikeReason(r.Body.Reason)
	if err != nil {
		return nil, err
	}
	row, err := s.store.ChangeMark(ctx, r.MarkId, func(m *store.Mark) error {
		m.Strike(reason, s.now())
		return nil
	})
	if err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, row)
	return api.StrikeMark200JSONResponse(out), err
}

// RestoreMark takes a strike back.
func (s *Server) RestoreMark(ctx context.Context, r api.RestoreMarkRequestObject) (api.RestoreMarkResponseObject, error) {
	row, err := s.store.ChangeMark(ctx, r.MarkId, func(m *store.Mark) error {
		m.StruckAt, m.StruckReason = nil, ""
		return nil
	})
	if err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, row)
	return api.RestoreMark200JSONResponse(out), err
}

// MirrorMark copies a mark to the other side of the car.
func (s *Server) MirrorMark(ctx context.Context, r api.MirrorMarkRequestObject) (api.MirrorMarkResponseObject, error) {
	m, err := s.store.Mark(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	b, err := s.lay(ctx, m.PanelID)
	if err != nil {
		return nil, err
	}
	to := b
	if key := b.shape.Mirror; key != "" {
		i := slices.IndexFunc(b.car.Panels, func(p store.Panel) bool { return p.Key == key })
		if i < 0 {
			return nil, conflict("This car has no panel that mirrors the %s.", b.row.Name)
		}
		if to, err = s.layRow(ctx, b.car, b.car.Panels[i]); err != nil {
			return nil, err
		}
	} else if b.shape.Side != "middle" {
		return nil, conflict("The %s has no mirrored panel: it is a part of its own.", b.row.Name)
	}
	if len(r.Body.Id) < 8 || len(r.Body.Id) > 64 {
		return nil, refuse("id", "The id of a mark has 8 to 64 signs and is made by the sender.")
	}
	copied := m
	at := b.shape.Reflect(flatlay.Point{X: m.XMM, Y: m.YMM}, to.shape)
	copied.ID, copied.PanelID, copied.XMM, copied.YMM, copied.AngleDeg = r.Body.Id, to.row.ID, at.X, at.Y, -m.AngleDeg
	copied.At, copied.Outcome, copied.OutcomeReason, copied.SpentUM = s.now(), store.OutcomeOpen, "", 0
	copied.ClosedAt, copied.ClosedBy, copied.StruckAt, copied.StruckReason, copied.HasPhoto = nil, "", nil, "", false
	if err := checkMark(markOf(copied), copied, to.shape); err != nil {
		return nil, err
	}
	if err := s.store.AddMark(ctx, &copied); err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, copied)
	return api.MirrorMark201JSONResponse(out), err
}

// CloseMark says what became of a mark. What it took at its place counts against
// its section from then on.
func (s *Server) CloseMark(ctx context.Context, r api.CloseMarkRequestObject) (api.CloseMarkResponseObject, error) {
	m, err := s.store.Mark(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	person, err := personOf(r.Body.Person)
	if err != nil {
		return nil, err
	}
	reason := ""
	if r.Body.Reason != nil {
		reason = strings.TrimSpace(*r.Body.Reason)
	}
	switch {
	case !r.Body.Outcome.Valid():
		return nil, refuse("outcome", "A mark is gone, softened, left, or open again; %q is none of these.", r.Body.Outcome)
	case r.Body.Outcome == api.OutcomeLeft && len([]rune(reason)) < 2:
		return nil, refuse("reason", "Say why it is left: the owner will ask.")
	case len([]rune(reason)) > 200:
		return nil, refuse("reason", "A reason has 200 letters at most.")
	}
	b, err := s.open(ctx, m.PanelID)
	if err != nil {
		return nil, err
	}
	m.Outcome = store.OutcomeOpen // judged as the work it was
	js, err := b.judge([]store.Mark{m}, s.now())
	if err != nil {
		return nil, err
	}
	row, err := s.store.ChangeMark(ctx, r.MarkId, func(row *store.Mark) error {
		if row.StruckAt != nil {
			return conflict("This mark was struck out. Take the strike back first.")
		}
		row.Outcome, row.OutcomeReason, row.SpentUM = string(r.Body.Outcome), reason, 0
		row.ClosedAt, row.ClosedBy = ptr(s.now()), person
		switch r.Body.Outcome {
		case api.OutcomeOpen:
			row.ClosedAt, row.ClosedBy, row.OutcomeReason = nil, "", ""
		case api.OutcomeGone, api.OutcomeSoftened:
			row.SpentUM = js[0].Took(r.Body.Outcome == api.OutcomeGone)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, row)
	return api.CloseMark200JSONResponse(out), err
}

// mostPhoto is how large a photo may be, bytes.
const mostPhoto = 6 << 20

// PutPhoto keeps a photo of a mark.
func (s *Server) PutPhoto(ctx context.Context, r api.PutPhotoRequestObject) (api.PutPhotoResponseObject, error) {
	m, err := s.store.Mark(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(io.LimitReader(r.Body, mostPhoto+1))
	if err != nil {
		return nil, refuse("photo", "The photo did not arrive whole. Send it again.")
	}
	kind := http.DetectContentType(data)
	switch {
	case len(data) > mostPhoto:
		return nil, refuse("photo", "The photo is larger than %d MB. Take it at a lower resolution.", mostPhoto>>20)
	case kind != "image/jpeg" && kind != "image/png":
		return nil, refuse("photo", "This is no photo that can be kept: JPEG or PNG is.")
	}
	if err := s.store.SavePhoto(ctx, store.Photo{MarkID: m.ID, Mime: kind, Data: data, At: s.now()}); err != nil {
		return nil, err
	}
	if m, err = s.store.Mark(ctx, m.ID); err != nil {
		return nil, err
	}
	out, err := s.marked(ctx, m)
	return api.PutPhoto200JSONResponse(out), err
}

// GetPhoto is the photo of a mark.
func (s *Server) GetPhoto(ctx context.Context, r api.GetPhotoRequestObject) (api.GetPhotoResponseObject, error) {
	p, err := s.store.Photo(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	return api.GetPhoto200ImageResponse{Body: bytes.NewReader(p.Data), ContentType: p.Mime, ContentLength: int64(len(p.Data))}, nil
}

// GetPeelPicture draws what a gloss panel of a peel grade mirrors of the lamps.
func (s *Server) GetPeelPicture(_ context.Context, r api.GetPeelPictureRequestObject) (api.GetPeelPictureResponseObject, error) {
	if !(r.Grade >= 0 && r.Grade <= 10) {
		return nil, refuse("grade", "The peel grade goes from 0, a mirror, to 10, very heavy.")
	}
	colour := api.ColourDark
	if r.Params.Colour != nil {
		colour = *r.Params.Colour
	}
	paint, ok := paints[string(colour)]
	if !ok {
		return nil, refuse("colour", "The colour is light, medium or dark.")
	}
	var buf bytes.Buffer
	if err := png.Encode(&buf, piece().Shape(surface.OfGrade(r.Grade)).Render(surface.ShopLamps, paint, picturePxPerMM)); err != nil {
		return nil, err
	}
	return api.GetPeelPicture200ImagepngResponse{Body: &buf, ContentLength: int64(buf.Len())}, nil
}
