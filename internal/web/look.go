package web

import (
	"bytes"
	"context"
	"image/png"
	"io"

	"waxplanus/core/marks"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
)

func (v view) mark(j panel.JudgedMark, p *panel.Panel) api.Mark {
	out := api.Mark{
		Id: j.ID, PanelId: j.PanelID, No: j.No, Kind: api.MarkKind(j.Kind), Name: j.Kind.Name(), Shape: api.MarkShape(j.Kind.Shape()),
		XMm: j.X, YMm: j.Y, LengthMm: j.Length, WidthMm: j.Width, AngleDeg: j.Angle, Class: string(j.Class), SizeUm: j.Size,
		CrestUm: j.Crest, BesideUm: j.Beside, Grade: j.Grade, DensityDm2: j.Density, Note: j.Note, Found: api.Found(j.Found),
		Person: j.Person, At: j.At, Outcome: api.Outcome(j.Outcome), Do: api.Do(j.Do), Text: v.Mark(j, p.Aim),
		ReliefUm: estimate(j.Relief), FilmUm: j.Verdict.Film, Tell: j.Do.Tell(), Photo: j.HasPhoto,
	}
	if j.ClosedAt != nil {
		out.ClosedAt, out.ClosedBy, out.OutcomeReason = j.ClosedAt, &j.ClosedBy, &j.Reason
	}
	if j.Struck != nil {
		out.StruckAt, out.StruckReason = &j.Struck.At, &j.Struck.Reason
	}
	if !j.Ready.IsZero() {
		out.ReadyAt = ptr(j.Ready)
	}
	if j.Place.Known {
		out.HeadroomUm = ptr(j.Place.Headroom)
	}
	if j.Section != "" {
		out.Section = &j.Section
	}
	return out
}

func (v view) marks(all []panel.JudgedMark, p *panel.Panel) []api.Mark {
	return each(all, func(j panel.JudgedMark) api.Mark { return v.mark(j, p) })
}

// counts counts marks by kind.
func (v view) counts(all []panel.JudgedMark) []api.MarkCount {
	return each(panelwork.CountMarks(all), func(c panelwork.MarkCount) api.MarkCount {
		return api.MarkCount{Kind: api.MarkKind(c.Kind), Name: c.Kind.Name(), Count: c.Count, Open: len(c.Open), Text: v.MarkCount(c.Open)}
	})
}

func (v view) tally(t panelwork.Tally, p *panel.Panel) api.Tally {
	return api.Tally{Nibs: t.Nibs, NibsPerM2: t.PerM2, Counts: v.counts(t.All), SpotMinutes: t.Spot.Seconds / 60, SpotFilmUm: t.Spot.Film,
		PanelMinutes: t.Sum.Panel.Seconds / 60, PanelFilmUm: t.Sum.Panel.Film, EvenNibs: t.Even, Quicker: api.TallyQuicker(t.Quicker),
		FeatherMm: t.Feather, Known: t.Known, Text: v.Tally(t, p.Aim)}
}

func (v view) marked(m panelwork.PanelMark) api.Marked {
	return api.Marked{Mark: v.mark(m.Mark, m.Panel), Tally: v.tally(m.Tally, m.Panel)}
}

// usualMarks are the kinds of marks as one tap places them.
func usualMarks(grade float64) []api.UsualMark {
	return each(marks.Kinds(), func(k marks.Kind) api.UsualMark {
		m := marks.Placed(k, 0, 0, grade)
		return api.UsualMark{Kind: api.MarkKind(k), Name: k.Name(), Shape: api.MarkShape(k.Shape()), LengthMm: m.Length, WidthMm: m.Width, AngleDeg: m.Angle, Class: string(m.Class)}
	})
}

// GetLook lists the marks of a panel and what will be done about each.
func (s *Server) GetLook(ctx context.Context, r api.GetLookRequestObject) (api.GetLookResponseObject, error) {
	l, err := s.shop.Look(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.Look{Panel: v.panel(l.Panel), Car: v.summary(l.Panel), Marks: v.marks(l.Marks, l.Panel), Tally: v.tally(l.Tally, l.Panel),
		PanelNo: l.PanelNo, Panels: l.Panels, Usual: usualMarks(l.PeelGrade())}
	out.Focus.X, out.Focus.Y, out.Focus.W, out.Focus.H = l.Shape.Focus(l.Sections)
	return api.GetLook200JSONResponse(out), nil
}

func sizesOf(in *api.MarkSizes) panelwork.Sizes {
	if in == nil {
		return panelwork.Sizes{}
	}
	return panelwork.Sizes{Length: in.LengthMm, Width: in.WidthMm, Angle: in.AngleDeg, Size: in.SizeUm, Crest: in.CrestUm, Beside: in.BesideUm,
		Grade: in.Grade, Density: in.DensityDm2, Class: (*marks.Class)(word(in.Class)), Note: in.Note}
}

// AddMark keeps one mark.
func (s *Server) AddMark(ctx context.Context, r api.AddMarkRequestObject) (api.AddMarkResponseObject, error) {
	in := *r.Body
	m, err := s.shop.AddMark(ctx, r.PanelId, panelwork.NewMark{ID: in.Id, Person: given(in.Person), Found: string(given(in.Found)), Kind: marks.Kind(in.Kind),
		X: in.XMm, Y: in.YMm, Sizes: sizesOf(in.Sizes)})
	if err != nil {
		return nil, err
	}
	return api.AddMark201JSONResponse(viewOf(ctx).marked(m)), nil
}

// ChangeMark moves or sizes a mark.
func (s *Server) ChangeMark(ctx context.Context, r api.ChangeMarkRequestObject) (api.ChangeMarkResponseObject, error) {
	m, err := s.shop.ChangeMark(ctx, r.MarkId, panelwork.MarkChange{X: r.Body.XMm, Y: r.Body.YMm, Found: word(r.Body.Found), Sizes: sizesOf(r.Body.Sizes)})
	if err != nil {
		return nil, err
	}
	return api.ChangeMark200JSONResponse(viewOf(ctx).marked(m)), nil
}

// StrikeMark strikes a mark out.
func (s *Server) StrikeMark(ctx context.Context, r api.StrikeMarkRequestObject) (api.StrikeMarkResponseObject, error) {
	m, err := s.shop.StrikeMark(ctx, r.MarkId, r.Body.Reason)
	if err != nil {
		return nil, err
	}
	return api.StrikeMark200JSONResponse(viewOf(ctx).marked(m)), nil
}

// RestoreMark takes a strike back.
func (s *Server) RestoreMark(ctx context.Context, r api.RestoreMarkRequestObject) (api.RestoreMarkResponseObject, error) {
	m, err := s.shop.RestoreMark(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	return api.RestoreMark200JSONResponse(viewOf(ctx).marked(m)), nil
}

// MirrorMark copies a mark to the other side of the car.
func (s *Server) MirrorMark(ctx context.Context, r api.MirrorMarkRequestObject) (api.MirrorMarkResponseObject, error) {
	m, err := s.shop.MirrorMark(ctx, r.MarkId, r.Body.Id)
	if err != nil {
		return nil, err
	}
	return api.MirrorMark201JSONResponse(viewOf(ctx).marked(m)), nil
}

// CloseMark says what became of a mark.
func (s *Server) CloseMark(ctx context.Context, r api.CloseMarkRequestObject) (api.CloseMarkResponseObject, error) {
	m, err := s.shop.CloseMark(ctx, panelwork.MarkClose{ID: r.MarkId, Outcome: facts.Outcome(r.Body.Outcome), Reason: given(r.Body.Reason)}, r.Body.Person)
	if err != nil {
		return nil, err
	}
	return api.CloseMark200JSONResponse(viewOf(ctx).marked(m)), nil
}

// PutPhoto keeps a photo of a mark.
func (s *Server) PutPhoto(ctx context.Context, r api.PutPhotoRequestObject) (api.PutPhotoResponseObject, error) {
	data, err := io.ReadAll(io.LimitReader(r.Body, panelwork.MostPhoto+1))
	if err != nil {
		return nil, refuse.Because(refuse.PhotoCut, "photo")
	}
	m, err := s.shop.KeepPhoto(ctx, r.MarkId, data)
	if err != nil {
		return nil, err
	}
	return api.PutPhoto200JSONResponse(viewOf(ctx).marked(m)), nil
}

// GetPhoto is the photo of a mark.
func (s *Server) GetPhoto(ctx context.Context, r api.GetPhotoRequestObject) (api.GetPhotoResponseObject, error) {
	mime, data, err := s.shop.Photo(ctx, r.MarkId)
	if err != nil {
		return nil, err
	}
	return api.GetPhoto200ImageResponse{Body: bytes.NewReader(data), ContentType: mime, ContentLength: int64(len(data))}, nil
}

// GetPeelPicture draws what a gloss panel of a peel grade mirrors of the lamps.
func (s *Server) GetPeelPicture(_ context.Context, r api.GetPeelPictureRequestObject) (api.GetPeelPictureResponseObject, error) {
	if !(r.Grade >= 0 && r.Grade <= 10) {
		return nil, refuse.Because(refuse.BadGrade, "grade")
	}
	colour := api.ColourDark
	if r.Params.Colour != nil {
		colour = *r.Params.Colour
	}
	paint, ok := paints[string(colour)]
	if !ok {
		return nil, refuse.Because(refuse.NoColour, "colour")
	}
	pic, err := pictureOf(surface.OfGrade(r.Grade), paint)
	if err != nil {
		return nil, err
	}
	return api.GetPeelPicture200ImagepngResponse{Body: pic, ContentLength: int64(pic.Len())}, nil
}

// pictureOf draws what a surface mirrors of the lamps.
func pictureOf(s surface.Surface, paint surface.Paint) (*bytes.Buffer, error) {
	var out bytes.Buffer
	err := png.Encode(&out, piece().Shape(s).Render(surface.ShopLamps, paint, picturePxPerMM))
	return &out, err
}
