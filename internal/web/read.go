package web

import (
	"context"
	"math"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
)

func placeOf(p advice.Place) api.Place {
	out := api.Place{XMm: p.At.X, YMm: p.At.Y, Section: &p.Section, TotalUm: estimateOf(p.Total), ClearUm: estimateOf(p.Clear)}
	if p.Total != nil {
		low, high := p.Total.Range()
		out.LowUm, out.HighUm, out.BelowUm = &low, &high, &p.Below
	}
	return out
}

func readingOf(r facts.Reading) api.Reading {
	out := api.Reading{
		Id: r.ID, No: r.No, XMm: r.At.X, YMm: r.At.Y, FilmUm: r.Film, Phase: api.ReadingPhase(r.Phase),
		Source: api.ReadingSource(r.Source), TakenAt: r.TakenAt, Passes: r.Passes,
	}
	if r.Sure != "" {
		out.Sure = &r.Sure
	}
	if r.Placed {
		out.Placed = ptr(true)
	}
	if r.Struck != nil {
		out.StruckAt, out.StruckReason = &r.Struck.At, &r.Struck.Reason
	}
	return out
}

// GetRead is the film of a panel and where to read next.
func (s *Server) GetRead(ctx context.Context, r api.GetReadRequestObject) (api.GetReadResponseObject, error) {
	p, err := s.shop.Read(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.Read{Panel: v.panel(p.Panel), Car: v.summary(p.Panel), Sections: v.sections(p.Panel), FloorUm: p.Policy.Floor, Risk: p.Policy.Risk,
		EdgeFactor: film.Thin.Factor(0, math.Inf(1)), Next: each(p.Next, placeOf), Why: v.NextSpot(p), Zones: ptr(each(p.Zones, zoneOf))}
	out.Readings = each(p.Readings, func(rd facts.Reading) api.Reading {
		one := readingOf(rd)
		if odd, is := advice.Odd(p.Panel, rd); is {
			one.Odd = ptr(v.Odd(rd.Film, odd))
		}
		return one
	})
	if p.Gauge != nil {
		out.Gauge = ptr(v.gauge(p.Gauge))
	}
	out.Strips = ptr(each(p.Strips(), func(st panel.Strip) api.PanelStrip {
		return api.PanelStrip{Key: st.Key, Name: v.Strip(st.Key), FilmUm: estimate(st.Film), HeadroomUm: st.CanGo(), State: api.State(st.State), Reason: v.State(st.Standing, st.Floor)}
	}))
	if p.Study != nil {
		out.Study = ptr(v.study(p))
	}
	return api.GetRead200JSONResponse(out), nil
}

func (v view) study(p *advice.Read) api.Study {
	st := p.Study
	out := api.Study{Map: filmMap(st.Grid), FilmUm: estimate(st.Mean), Flags: each(p.Flags, v.Flag), Borrowed: p.Borrows(),
		Clear: api.Clear{Mean: st.Clear.Mean, Sd: st.Clear.SD, Agree: st.Clear.Agree, Sources: []api.ClearSource{}},
		Bands: api.FilmBands{FactoryUm: p.Factory, RefinishedUm: p.Bands.Refinished, FillerUm: p.Bands.Filler},
		Ahead: api.Ahead{Readings: p.Ahead.Best.Settle}}
	for i, src := range st.Clear.Sources {
		out.Clear.Sources = append(out.Clear.Sources, api.ClearSource{Kind: string(src.Kind), Mean: src.Mean, Sd: src.SD,
			Share: st.Clear.Shares[i], Text: v.Source(src, p.History()) + v.Share(st.Clear.Shares[i], len(st.Clear.Sources))})
	}
	if !p.Worked() && !p.Borrows() {
		out.Ahead.Text, out.Ahead.Helps = v.Ahead(p.Ahead), v.Helps(p.Ahead)
	}
	if p.Ahead.Section != "" {
		out.Ahead.Section = &p.Ahead.Section
	}
	wants := p.AimFilm()
	out.SpendFrom, out.SpendUm = v.AimFilm(wants), estimate(plan.Shared(wants.Film))
	if l := p.Ladder(); l != nil {
		out.SpendFrom, out.SpendUm = "the plan of record", api.Estimate{Mean: l.Film, Sd: l.FilmSD}
	}
	out.Map.RoomUm = ptr(each(st.Rooms(), hundredth))
	return out
}

// GetPlace is what the map expects at a place chosen by hand.
func (s *Server) GetPlace(ctx context.Context, r api.GetPlaceRequestObject) (api.GetPlaceResponseObject, error) {
	p, err := s.shop.PlaceOf(ctx, r.PanelId, flatlay.Point{X: r.Params.XMm, Y: r.Params.YMm})
	return api.GetPlace200JSONResponse(placeOf(p)), err
}

// AddReading keeps one reading.
func (s *Server) AddReading(ctx context.Context, r api.AddReadingRequestObject) (api.AddReadingResponseObject, error) {
	in := *r.Body
	kept, err := s.shop.AddReading(ctx, r.PanelId, panelwork.NewReading{ID: in.Id, At: flatlay.Point{X: in.XMm, Y: in.YMm}, Film: in.Film, Unit: refuse.Unit(in.Unit),
		Phase: facts.Phase(in.Phase), Gauge: given(in.Gauge), Sure: given(in.Sure), SecondsAgo: in.SecondsAgo})
	if err != nil {
		return nil, err
	}
	if s.link != nil && kept.Gauge != "" {
		s.link.Done(kept.ID)
	}
	out := readingOf(kept.Reading)
	out.Held = ptr(viewOf(ctx).Held(kept))
	return api.AddReading201JSONResponse(out), nil
}

// StrikeReading strikes a reading out with a reason.
func (s *Server) StrikeReading(ctx context.Context, r api.StrikeReadingRequestObject) (api.StrikeReadingResponseObject, error) {
	kept, err := s.shop.StrikeReading(ctx, r.ReadingId, r.Body.Reason)
	return api.StrikeReading200JSONResponse(readingOf(kept)), err
}

func zoneOf(z facts.Zone) api.Zone {
	return api.Zone{Name: z.Name, Outline: points(z.Outline), Origin: api.Origin(z.Origin), Layers: api.Layers(z.Layers), Coats: z.Coats}
}

// SetZones keeps the parts of a panel that have a history of their own.
func (s *Server) SetZones(ctx context.Context, r api.SetZonesRequestObject) (api.SetZonesResponseObject, error) {
	zones, err := s.shop.SetZones(ctx, r.PanelId, each(r.Body.Zones, func(z api.Zone) facts.Zone {
		return facts.Zone{Name: z.Name, Origin: film.Origin(z.Origin), Layers: string(z.Layers), Coats: z.Coats,
			Outline: each(z.Outline, func(q api.Point) flatlay.Point { return flatlay.Point{X: q.X, Y: q.Y} })}
	}))
	return api.SetZones200JSONResponse{Zones: each(zones, zoneOf)}, err
}
