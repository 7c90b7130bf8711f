package web

import (
	"context"

	"waxplanus/core/prove"
	"waxplanus/internal/camera"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// GetCamera says whether a camera answers and which meters it has.
func (s *Server) GetCamera(ctx context.Context, _ api.GetCameraRequestObject) (api.GetCameraResponseObject, error) {
	out := api.Camera{Meters: []api.CameraMeter{}}
	if s.camera == nil {
		out.Text = wording.CameraText("", nil)
		return api.GetCamera200JSONResponse(out), nil
	}
	about, err := s.camera.About(ctx)
	if out.Text = wording.CameraText(about.Name, err); err == nil {
		out.Here, out.Name = true, &about.Name
		out.Meters = each(about.Meters, func(m camera.MeterAs) api.CameraMeter {
			return api.CameraMeter{Quantity: api.Quantity(m.Quantity), Instrument: m.Instrument, AngleDeg: m.AngleDeg}
		})
	}
	return api.GetCamera200JSONResponse(out), nil
}

func (s *Server) asked(ctx context.Context) (camera.About, error) {
	if s.camera == nil {
		return camera.About{}, refuse.NotNow(refuse.NoCamera)
	}
	about, err := s.camera.About(ctx)
	return about, silence(err)
}

// silence is that a camera gives nothing usable, as a refusal.
func silence(err error) error {
	if err != nil {
		return refuse.NotNow(refuse.CameraSilent, err)
	}
	return nil
}

// PullPhoto has the camera take a photo of the panel.
func (s *Server) PullPhoto(ctx context.Context, r api.PullPhotoRequestObject) (api.PullPhotoResponseObject, error) {
	in := r.Body
	about, err := s.asked(ctx)
	if err != nil {
		return nil, err
	}
	subject, err := s.shop.Subject(ctx, r.PanelId, given(in.Section))
	if err != nil {
		return nil, err
	}
	take := s.camera.Reflection
	if in.Kind == api.PhotoKindDull {
		take = s.camera.Dull
	}
	data, err := take(ctx, camera.Of(subject), proof.MostProof)
	if err := silence(err); err != nil {
		return nil, err
	}
	how := takenOf(api.Take{Name: about.Name, PitchMm: about.PitchMM, LampMm: about.LampMM, CameraMm: about.CameraMM, ApertureMm: about.ApertureMM, MmPerPx: about.MMPerPx,
		LensPx: about.LensPx, Gamma: about.Gamma, Scale: about.Scale, Shiny: api.Shiny(about.Shiny)})
	p, err := s.shop.AddPhoto(ctx, r.PanelId, proof.NewPhoto{ID: in.Id, Person: in.Person, Section: given(in.Section), Kind: proof.PhotoKind(in.Kind), How: &how, Data: data})
	if err != nil {
		return nil, err
	}
	return api.PullPhoto201JSONResponse(viewOf(ctx).photo(p)), nil
}

// PullMeter has a meter read the panel at a place.
func (s *Server) PullMeter(ctx context.Context, r api.PullMeterRequestObject) (api.PullMeterResponseObject, error) {
	in := r.Body
	about, err := s.asked(ctx)
	if err != nil {
		return nil, err
	}
	for _, m := range about.Meters {
		if m.Instrument != in.Instrument {
			continue
		}
		subject, err := s.shop.SubjectAt(ctx, r.PanelId, in.XMm, in.YMm)
		if err != nil {
			return nil, err
		}
		what := camera.Of(subject)
		what.XMM, what.YMM = in.XMm, in.YMm
		value, err := s.camera.Meter(ctx, m.Instrument, what)
		if err := silence(err); err != nil {
			return nil, err
		}
		err = s.shop.AddMeter(ctx, r.PanelId, proof.NewMeter{ID: in.Id, Person: in.Person,
			Read: prove.Read{Meter: prove.Meter{Quantity: prove.Quantity(m.Quantity), Instrument: m.Instrument, Angle: m.AngleDeg}, X: in.XMm, Y: in.YMm, Value: value}})
		if err != nil {
			return nil, err
		}
		return api.PullMeter204Response{}, nil
	}
	return nil, refuse.Because(refuse.NoMeter, "instrument", in.Instrument)
}
