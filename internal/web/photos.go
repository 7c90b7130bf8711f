package web

import (
	"bytes"
	"context"
	"io"

	"waxplanus/core/photo"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func intervalOf(i photo.Interval) *api.Interval {
	return &api.Interval{Value: i.Value, Low: i.Low, High: i.High}
}

func takenOf(t api.Take) proof.Taken {
	out := proof.Taken{LampName: t.Name, Shiny: photo.Looks(t.Shiny), Take: photo.Take{Scale: t.Scale, Lamp: photo.Lamp{Pitch: t.PitchMm, Lamp: t.LampMm, Camera: t.CameraMm,
		Aperture: t.ApertureMm, MMPerPx: t.MmPerPx, Lens: t.LensPx, Gamma: t.Gamma}}}
	if a := t.Area; a != nil {
		out.Area = photo.Area{Left: a.Left, Top: a.Top, Right: a.Right, Bottom: a.Bottom}
	}
	return out
}

func takeOf(t proof.Taken) api.Take {
	out := api.Take{Name: t.LampName, PitchMm: t.Pitch, LampMm: t.Lamp.Lamp, CameraMm: t.Camera, ApertureMm: t.Aperture, MmPerPx: t.MMPerPx, LensPx: t.Lens, Gamma: t.Gamma, Scale: t.Scale, Shiny: api.Shiny(t.Shiny)}
	if a := t.Area; !a.Whole() {
		out.Area = &api.Area{Left: a.Left, Top: a.Top, Right: a.Right, Bottom: a.Bottom}
	}
	return out
}

func (v view) photo(p proof.Photo) api.ProofPhoto {
	out := api.ProofPhoto{Id: p.ID, No: p.No, Kind: api.PhotoKind(p.Kind), After: p.After, WidthPx: p.Width, HeightPx: p.Height, Bytes: int(p.Bytes), Person: p.Person, At: p.At,
		Take: takeOf(p.How), Head: v.PhotoHead(p), Text: v.PhotoText(p), Figures: wording.PhotoFigures(p), AcceptedAt: p.AcceptedAt, Dropped: p.Dropped}
	if p.Section != "" {
		out.Section = &p.Section
	}
	if p.Refused != nil {
		out.Refused = ptr(wording.Photo(p.Refused))
	}
	if p.Struck != nil {
		out.StruckAt, out.StruckReason = &p.Struck.At, &p.Struck.Reason
	}
	if r := p.Read; r != nil {
		out.Reading = &api.PhotoReading{Drawn: r.Drawn}
		switch {
		case r.Share != nil:
			out.Reading.Share, out.Reading.LeftOut = intervalOf(*r.Share), &r.LeftOut
		case r.Reflection != nil:
			f := r.Reflection
			out.Reading = &api.PhotoReading{Drawn: r.Drawn, PeelUm: intervalOf(f.Peel), PebbleUm: intervalOf(f.Pebble), HazeMrad: intervalOf(f.Haze), HazeAtMost: &f.HazeAtMost, Grade: ptr(gradeOf(*p.Texture())),
				MmPerPx: &r.MMPerPx, WidthMm: ptr(float64(r.Width) * r.MMPerPx), HeightMm: ptr(float64(r.Height) * r.MMPerPx)}
			switch {
			case f.PebbleAtMost:
				out.Reading.PebbleBound = ptr(api.AtMost)
			case f.PebbleAtLeast:
				out.Reading.PebbleBound = ptr(api.AtLeast)
			}
		}
	}
	return out
}

// AddPhoto keeps a photo of a panel and reads it.
func (s *Server) AddPhoto(ctx context.Context, r api.AddPhotoRequestObject) (api.AddPhotoResponseObject, error) {
	select {
	case s.photos <- struct{}{}:
		defer func() { <-s.photos }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	data, err := io.ReadAll(io.LimitReader(r.Body, proof.MostProof+1))
	if err != nil {
		return nil, refuse.Because(refuse.PhotoCut, "photo")
	}
	p, err := s.shop.AddPhoto(ctx, r.PanelId, proof.NewPhoto{ID: r.Params.Id, Person: r.Params.Person, Section: given(r.Params.Section), Kind: proof.PhotoKind(r.Params.Kind), After: r.Params.After, Data: data})
	if err != nil {
		return nil, err
	}
	return api.AddPhoto201JSONResponse(viewOf(ctx).photo(p)), nil
}

// ReadPhoto reads a photo again.
func (s *Server) ReadPhoto(ctx context.Context, r api.ReadPhotoRequestObject) (api.ReadPhotoResponseObject, error) {
	p, err := s.shop.ReadAgain(ctx, r.PhotoId, takenOf(*r.Body))
	if err != nil {
		return nil, err
	}
	return api.ReadPhoto200JSONResponse(viewOf(ctx).photo(p)), nil
}

// AcceptPhoto takes a photo at its word, or takes that back.
func (s *Server) AcceptPhoto(ctx context.Context, r api.AcceptPhotoRequestObject) (api.AcceptPhotoResponseObject, error) {
	p, err := s.shop.AcceptPhoto(ctx, r.PhotoId, r.Body.Person, r.Body.Accept)
	if err != nil {
		return nil, err
	}
	return api.AcceptPhoto200JSONResponse(viewOf(ctx).photo(p)), nil
}

// StrikePhoto strikes a photo out.
func (s *Server) StrikePhoto(ctx context.Context, r api.StrikePhotoRequestObject) (api.StrikePhotoResponseObject, error) {
	p, err := s.shop.StrikePhoto(ctx, r.PhotoId, r.Body.Reason)
	if err != nil {
		return nil, err
	}
	return api.StrikePhoto200JSONResponse(viewOf(ctx).photo(p)), nil
}

// GetPhotoFile is a photo in one of its forms.
func (s *Server) GetPhotoFile(ctx context.Context, r api.GetPhotoFileRequestObject) (api.GetPhotoFileResponseObject, error) {
	mime, data, err := s.shop.PhotoFile(ctx, r.PhotoId, proof.PhotoForm(r.Form))
	if err != nil {
		return nil, err
	}
	return api.GetPhotoFile200ImageResponse{Body: bytes.NewReader(data), ContentType: mime, ContentLength: int64(len(data))}, nil
}

func photosKept(k proof.PhotosKept) api.PhotosKept {
	return api.PhotosKept{Photos: k.Photos, Bytes: int(k.Bytes), Rule: api.PhotoRule{AfterHandOverDays: k.AfterHandOver, StruckDays: k.PhotoRule.Struck}, Text: wording.PhotosKept(k)}
}

// GetPhotosKept is what photos take and how long they are kept.
func (s *Server) GetPhotosKept(ctx context.Context, _ api.GetPhotosKeptRequestObject) (api.GetPhotosKeptResponseObject, error) {
	k, err := s.shop.PhotosKept(ctx)
	return api.GetPhotosKept200JSONResponse(photosKept(k)), err
}

// SetPhotoRule changes how long photos are kept.
func (s *Server) SetPhotoRule(ctx context.Context, r api.SetPhotoRuleRequestObject) (api.SetPhotoRuleResponseObject, error) {
	if err := s.shop.SetPhotoRule(ctx, proof.PhotoRule{AfterHandOver: r.Body.AfterHandOverDays, Struck: r.Body.StruckDays}); err != nil {
		return nil, err
	}
	k, err := s.shop.PhotosKept(ctx)
	return api.SetPhotoRule200JSONResponse(photosKept(k)), err
}

// DropPhotos deletes the files that the rule lets go.
func (s *Server) DropPhotos(ctx context.Context, _ api.DropPhotosRequestObject) (api.DropPhotosResponseObject, error) {
	n, err := s.shop.DropStale(ctx)
	if err != nil {
		return nil, err
	}
	k, err := s.shop.PhotosKept(ctx)
	return api.DropPhotos200JSONResponse(api.PhotosDropped{Dropped: n, Kept: photosKept(k)}), err
}

func lampView(l house.Lamp) api.Lamp {
	return api.Lamp{Id: l.ID, Name: l.Name, PitchMm: l.Pitch, LampMm: l.Lamp.Lamp, CameraMm: l.Camera, ApertureMm: l.Aperture, MmPerPx: l.MMPerPx, LensPx: l.Lens, Gamma: l.Gamma, Scale: l.Scale}
}

func (s *Server) lamps(ctx context.Context) (api.Lamps, error) {
	all, err := s.shop.Lamps(ctx)
	return api.Lamps{Lamps: each(all, lampView), Usual: lampView(house.UsualLamp)}, err
}

// ListLamps are how photos of a lamp are taken here.
func (s *Server) ListLamps(ctx context.Context, _ api.ListLampsRequestObject) (api.ListLampsResponseObject, error) {
	all, err := s.lamps(ctx)
	return api.ListLamps200JSONResponse(all), err
}

// SetLamp keeps how photos of a lamp are taken.
func (s *Server) SetLamp(ctx context.Context, r api.SetLampRequestObject) (api.SetLampResponseObject, error) {
	in := r.Body
	err := s.shop.SetLamp(ctx, house.Lamp{ID: in.Id, Name: in.Name, Scale: in.Scale, Lamp: photo.Lamp{Pitch: in.PitchMm, Lamp: in.LampMm, Camera: in.CameraMm, Aperture: in.ApertureMm, MMPerPx: in.MmPerPx, Lens: in.LensPx, Gamma: in.Gamma}})
	if err != nil {
		return nil, err
	}
	all, err := s.lamps(ctx)
	return api.SetLamp200JSONResponse(all), err
}

// DropLamp forgets how photos of a lamp are taken.
func (s *Server) DropLamp(ctx context.Context, r api.DropLampRequestObject) (api.DropLampResponseObject, error) {
	if err := s.shop.DropLamp(ctx, r.LampId); err != nil {
		return nil, err
	}
	all, err := s.lamps(ctx)
	return api.DropLamp200JSONResponse(all), err
}

// usualPitch is that of printed stripes where none is asked for, mm.
const usualPitch = 20.0

// GetSheet is what is printed for photos.
func (s *Server) GetSheet(_ context.Context, r api.GetSheetRequestObject) (api.GetSheetResponseObject, error) {
	pitch := usualPitch
	if r.Params.PitchMm != nil {
		pitch = *r.Params.PitchMm
	}
	var out bytes.Buffer
	var err error
	switch r.Sheet {
	case api.StripesSvg:
		err = files.StripesSVG(&out, pitch)
	case api.CardSvg:
		err = files.CardSVG(&out)
	case api.StripesPdf:
		err = files.StripesPDF(&out, pitch)
	default:
		err = files.CardPDF(&out)
	}
	if err != nil {
		return nil, err
	}
	if r.Sheet == api.StripesSvg || r.Sheet == api.CardSvg {
		return api.GetSheet200ImagesvgXmlResponse{Body: &out, ContentLength: int64(out.Len())}, nil
	}
	return api.GetSheet200ApplicationpdfResponse{Body: &out, ContentLength: int64(out.Len())}, nil
}
