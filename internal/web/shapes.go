package web

import (
	"encoding/json"
	"math"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// What the core and the store say, in the contract's types.

func estimate(e film.Estimate) api.Estimate { return api.Estimate{Mean: e.Mean, Sd: e.SD} }

func points(p []flatlay.Point) []api.Point {
	out := make([]api.Point, len(p))
	for i, q := range p {
		out[i] = api.Point{X: q.X, Y: q.Y}
	}
	return out
}

func areas(a [][]flatlay.Point) [][]api.Point {
	out := make([][]api.Point, len(a))
	for i, p := range a {
		out[i] = points(p)
	}
	return out
}

func boxOf(b body.Box) api.Box { return api.Box{X: b.X, Y: b.Y, W: b.W, H: b.H} }

func placement(p flatlay.Placement) api.Placement {
	return api.Placement{X: p.X, Y: p.Y, Turned: p.Turned}
}

func filmMap(g film.Grid) api.FilmMap {
	m := api.FilmMap{OriginMm: api.Point{X: g.Origin.X, Y: g.Origin.Y}, StepMm: flatlay.Cell, Nx: g.NX, Ny: g.NY,
		MeanUm: make([]float64, len(g.Film)), SdUm: make([]float64, len(g.Film))}
	for i, e := range g.Film {
		m.MeanUm[i], m.SdUm[i] = hundredth(e.Mean), hundredth(e.SD)
	}
	return m
}

func hundredths(v []float64) []float64 {
	out := make([]float64, len(v))
	for i, x := range v {
		out[i] = hundredth(x)
	}
	return out
}

// hundredth rounds a map's node to what is worth sending.
func hundredth(v float64) float64 { return math.Round(v*100) / 100 }

// panelOf is a panel with its outline and how it stands, without its map.
func panelOf(b *bench) api.Panel {
	w, h := b.shape.Size()
	p := api.Panel{
		Id: b.row.ID, CarId: b.row.CarID, Key: b.row.Key, Name: b.row.Name,
		Substrate: api.Substrate(b.row.Substrate), Finish: api.Finish(b.finish()), Origin: api.Origin(b.row.Origin), Layers: api.Layers(b.row.Layers),
		Coats: b.row.Coats, WetUm: b.row.WetUM, Solids: b.row.Solids, DryUm: b.row.DryUM, SprayedAt: b.row.SprayedAt,
		Cure: api.Cure(b.row.Cure), Aim: api.Aim(b.row.Aim), Past: pastOf(b.row), Neighbours: neighboursOf(b.shape), Marks: dots(b.marks),
		PeelGrade: b.row.PeelGrade, Hardness: api.Hardness(b.row.Hardness), WidthMm: w, HeightMm: h, AreaM2: b.shape.Area() / 1e6,
		Outline: points(b.shape.Outline), Placement: placement(b.shape.Placement),
		Holes: holesOf(b.shape), Creases: creasesOf(b.shape), Readings: len(b.live()),
	}
	if p.Side = api.Side(b.shape.Side); p.Side == "" { // of a shop of the first version
		p.Side = api.SideMiddle
	}
	if b.shape.Mirror != "" {
		p.Mirror = b.row.CarID + "." + b.shape.Mirror
	}
	if b.opened.Study != nil {
		p.FilmUm = ptr(estimate(b.opened.Study.Mean))
		if len(b.opened.Study.Sections) > 0 {
			_, st := b.worst()
			p.State, p.HeadroomUm = ptr(api.State(st.State)), ptr(st.Headroom)
			p.Reason = ptr(stateReason(st, b.opened.Study.Policy.Floor))
		}
	}
	return p
}

// carOf names a car and leaves its outlines to those who draw it.
func carOf(c store.Car, next api.NextAction) api.CarSummary {
	return api.CarSummary{Id: c.ID, Name: c.Name, Body: c.Body, Colour: api.Colour(c.Colour), Painter: c.Painter, Next: next}
}

func readingOf(b *bench, r store.Reading) api.Reading {
	passes := 0
	for _, n := range b.passesBefore(r) {
		passes += n
	}
	out := api.Reading{
		Id: r.ID, No: int(r.Seq), XMm: r.XMM, YMm: r.YMM, FilmUm: r.FilmUM, Phase: api.ReadingPhase(r.Phase),
		Source: api.ReadingSource(r.Source), TakenAt: r.TakenAt, Passes: passes,
	}
	if r.Sure != "" {
		out.Sure = &r.Sure
	}
	if r.Placed {
		out.Placed = ptr(true)
	}
	if r.StruckAt != nil {
		out.StruckAt, out.StruckReason = r.StruckAt, &r.StruckReason
	}
	return out
}

func entryOf(e store.Entry) api.Entry {
	out := api.Entry{Id: e.ID, Section: e.Section, Step: e.Step, Kind: api.EntryKind(e.Kind), Person: e.Person, At: e.At}
	if e.Kind == store.KindShiny {
		out.Share = &e.Value
	}
	if e.Note != "" {
		out.Reason = &e.Note
	}
	if e.Mark != "" {
		out.Mark = &e.Mark
	}
	if e.StruckAt != nil {
		out.StruckAt, out.StruckReason = e.StruckAt, &e.StruckReason
	}
	return out
}

// sectionsOf lists the sections with their standing where the film is known.
func sectionsOf(b *bench) []api.Section {
	out := []api.Section{}
	for _, s := range b.sections {
		out = append(out, api.Section{Key: s.Key, Name: s.Name, Outlines: areas(s.Outlines), WidthMm: s.W, HeightMm: s.H})
	}
	if b.opened.Study == nil {
		return out
	}
	for i, s := range b.opened.Study.Sections {
		st := b.standing(s)
		out[i].FilmUm, out[i].ClearUm = ptr(estimate(st.Film)), ptr(estimate(st.Clear))
		out[i].BoundUm, out[i].HeadroomUm, out[i].SpendUm = ptr(s.Bound), ptr(st.Headroom), ptr(st.Spend)
		out[i].State, out[i].Reason = ptr(api.State(st.State)), ptr(stateReason(st, b.opened.Study.Policy.Floor))
	}
	return out
}

// shapeJSON is a panel's outline as it is kept.
func shapeJSON(p flatlay.Panel) (string, error) {
	raw, err := json.Marshal(p)
	return string(raw), err
}
