package web

import (
	"context"
	"fmt"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/gauge"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func (v view) gauge(g *house.Gauge) api.Gauge {
	out := api.Gauge{Id: g.ID, Name: g.Name, RepeatUm: estimate(g.Repeat), Shots: g.Shots, Fine: g.Fine(), Check: v.GaugeCheck(g)}
	if g.Check != nil {
		out.CheckedAt = &g.Check.At
	}
	return out
}

// ListGauges lists the shop's gauges.
func (s *Server) ListGauges(ctx context.Context, _ api.ListGaugesRequestObject) (api.ListGaugesResponseObject, error) {
	all, err := s.shop.Gauges(ctx)
	return api.ListGauges200JSONResponse(each(all, viewOf(ctx).gauge)), err
}

// CheckGauge keeps a check of zero and foil.
func (s *Server) CheckGauge(ctx context.Context, r api.CheckGaugeRequestObject) (api.CheckGaugeResponseObject, error) {
	g, err := s.shop.CheckGauge(ctx, r.GaugeId, refuse.Unit(r.Body.Unit), r.Body.Zero, r.Body.Foil, r.Body.Read)
	if err != nil {
		return nil, err
	}
	return api.CheckGauge201JSONResponse(viewOf(ctx).gauge(g)), nil
}

// StudyGauge takes a gauge's repeatability from shots of one place.
func (s *Server) StudyGauge(ctx context.Context, r api.StudyGaugeRequestObject) (api.StudyGaugeResponseObject, error) {
	g, err := s.shop.StudyGauge(ctx, r.GaugeId, refuse.Unit(r.Body.Unit), r.Body.Shots)
	if err != nil {
		return nil, err
	}
	return api.StudyGauge201JSONResponse(viewOf(ctx).gauge(g)), nil
}

// probeWaits is how long a question for news of the gauge is held.
const probeWaits = 20 * time.Second

// GetProbe answers once something is new of the gauge that sends.
func (s *Server) GetProbe(ctx context.Context, r api.GetProbeRequestObject) (api.GetProbeResponseObject, error) {
	v := viewOf(ctx)
	if s.link == nil {
		return api.GetProbe200JSONResponse(v.probe(gauge.Status{})), nil
	}
	seen := -1
	if r.Params.Seen != nil {
		seen = *r.Params.Seen
	}
	ctx, cancel := context.WithTimeout(ctx, probeWaits)
	defer cancel()
	return api.GetProbe200JSONResponse(v.probe(s.link.Watch(ctx, seen))), nil
}

func (v view) probe(st gauge.Status) api.Probe {
	out := api.Probe{Seq: st.Seq, State: api.ProbeStateNone, Text: v.Probe(st), Shots: each(st.Waiting, v.shot)}
	switch {
	case st.Connected:
		out.State = api.ProbeStateSending
	case st.Known:
		out.State = api.ProbeStateLost
	}
	if st.Gauge != "" {
		out.Gauge = &st.Gauge
	}
	return out
}

func (v view) shot(m gauge.Line) api.Shot {
	out := api.Shot{Id: m.ID, At: *m.At, Text: v.Shot(m)}
	if m.Type == gauge.Shot {
		out.FilmUm = &m.FilmUM
	}
	return out
}

// AimProbe tells the gauge which place is open.
func (s *Server) AimProbe(ctx context.Context, r api.AimProbeRequestObject) (api.AimProbeResponseObject, error) {
	if s.link == nil {
		return api.AimProbe204Response{}, nil
	}
	t, err := s.shop.Target(ctx, r.Body.PanelId, flatlay.Point{X: r.Body.XMm, Y: r.Body.YMm})
	if err != nil {
		return nil, err
	}
	s.link.Aim(gauge.Spot{Panel: t.ID, Substrate: t.Substrate, X: t.At.X, Y: t.At.Y, Edge: t.Edge, Width: t.Width, Height: t.Height, Film: t.Film})
	return api.AimProbe204Response{}, nil
}

// DropShot puts a shot away that belongs nowhere.
func (s *Server) DropShot(_ context.Context, r api.DropShotRequestObject) (api.DropShotResponseObject, error) {
	if s.link != nil {
		s.link.Done(r.ShotId)
	}
	return api.DropShot204Response{}, nil
}

func (v view) settings(set house.Settings) api.Shop {
	bands := film.MapBands
	return api.Shop{Unit: api.Unit(set.Unit), PerUm: set.Unit.PerMicron(), TimeZone: fmt.Sprint(set.Zone), TimeZoneSet: set.ZoneSet,
		Layers: api.MapLayers{Film: bands.Film, Doubt: bands.Doubt, Headroom: bands.Headroom, GuessFrom: bands.GuessFrom}, RulesText: v.UsualRules(),
		Face: api.ShopFace{Name: &set.Name, Paper: ptr(api.ShopFacePaper(set.Paper)), Money: &set.Money, Length: ptr(api.ShopFaceLength(set.Length)), Temperature: ptr(api.ShopFaceTemperature(set.Temperature)),
			Clock: ptr(api.ShopFaceClock(set.Clock)), Week: ptr(api.ShopFaceWeek(set.Week)), Dates: ptr(api.ShopFaceDates(set.Dates))}, HasLogo: set.Logo != ""}
}

// GetShop is what holds for the whole shop.
func (s *Server) GetShop(ctx context.Context, _ api.GetShopRequestObject) (api.GetShopResponseObject, error) {
	set, err := s.shop.Settings(ctx)
	return api.GetShop200JSONResponse(viewOf(ctx).settings(set)), err
}

// SetShop changes it.
func (s *Server) SetShop(ctx context.Context, r api.SetShopRequestObject) (api.SetShopResponseObject, error) {
	if f := r.Body.Face; f != nil {
		if err := s.shop.ChangeFace(ctx, func(to *house.Face) { putFace(f, to) }); err != nil {
			return nil, err
		}
	}
	set, err := s.shop.ChangeSettings(ctx, refuse.Unit(given(r.Body.Unit)), r.Body.TimeZone)
	if err != nil {
		return nil, err
	}
	return api.SetShop200JSONResponse(view{wording.Of(set)}.settings(set)), nil
}

// putFace puts what is given of a face into it.
func putFace(f *api.ShopFace, to *house.Face) {
	put(f.Name, &to.Name)
	put(f.Paper, &to.Paper)
	put(f.Money, &to.Money)
	put(f.Length, &to.Length)
	put(f.Temperature, &to.Temperature)
	put(f.Clock, &to.Clock)
	put(f.Week, &to.Week)
	put(f.Dates, &to.Dates)
}

func put[T ~string](from *T, to *string) {
	if from != nil {
		*to = string(*from)
	}
}
