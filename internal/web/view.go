package web

import (
	"context"
	"math"

	"github.com/gin-gonic/gin"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// view writes what the core and the shop say in the contract's types, and in the shop's
// unit and time zone.
type view struct{ wording.Words }

const viewKey = "view"

// speak has each answer written in the shop's unit and time zone.
func (s *Server) speak(c *gin.Context) {
	s.shop.Asked()
	set, err := s.shop.Settings(c.Request.Context())
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Set(viewKey, view{wording.Of(set)})
}

// viewOf is the view of a request.
func viewOf(ctx context.Context) view {
	v, _ := ctx.Value(viewKey).(view) // before the settings are known, µm and UTC
	return v
}

func ptr[T any](v T) *T { return &v }

// given is a value, or its zero where it was left out.
func given[T any](v *T) T {
	if v == nil {
		return *new(T)
	}
	return *v
}

// each writes all of a list; none is an empty list and not null.
func each[T, V any](all []T, write func(T) V) []V {
	out := make([]V, len(all))
	for i, v := range all {
		out[i] = write(v)
	}
	return out
}

func estimate(e film.Estimate) api.Estimate { return api.Estimate{Mean: e.Mean, Sd: e.SD} }

// estimateOf is an estimate that may be missing.
func estimateOf(e *film.Estimate) *api.Estimate {
	if e == nil {
		return nil
	}
	return ptr(estimate(*e))
}

func point(q flatlay.Point) api.Point { return api.Point{X: q.X, Y: q.Y} }

func points(p []flatlay.Point) []api.Point { return each(p, point) }

func areas(a [][]flatlay.Point) [][]api.Point { return each(a, points) }

func boxOf(b body.Box) api.Box { return api.Box{X: b.X, Y: b.Y, W: b.W, H: b.H} }

func placement(p flatlay.Placement) api.Placement {
	return api.Placement{X: p.X, Y: p.Y, Turned: p.Turned}
}

// hundredth rounds to what is worth sending.
func hundredth(v float64) float64 { return math.Round(v*100) / 100 }

func filmMap(g film.Grid) api.FilmMap {
	m := api.FilmMap{OriginMm: point(g.Origin), StepMm: flatlay.Cell, Nx: g.NX, Ny: g.NY,
		MeanUm: make([]float64, len(g.Film)), SdUm: make([]float64, len(g.Film))}
	for i, e := range g.Film {
		m.MeanUm[i], m.SdUm[i] = hundredth(e.Mean), hundredth(e.SD)
	}
	return m
}

// panel is a panel with its outline and how it stands, without its map.
func (v view) panel(p *panel.Panel) api.Panel {
	w, h := p.Shape.Size()
	out := api.Panel{
		Id: p.ID, Version: p.Version(), CarId: p.Car.ID, Key: p.Key, Name: p.Name,
		Substrate: api.Substrate(p.Substrate), Finish: api.Finish(p.Finish()), Origin: api.Origin(p.Origin), Layers: api.Layers(p.Layers),
		Coats: p.Coats, WetUm: p.WetUM, Solids: p.Solids, DryUm: p.DryUM, SprayedAt: p.SprayedAt,
		Cure: api.Cure(p.Cure), Aim: api.Aim(p.Aim), Past: each(p.Past, func(s string) api.Past { return api.Past(s) }), Neighbours: neighboursOf(p.Shape), Marks: dots(p.Marks),
		PeelGrade: p.PeelGrade(), PeelEye: p.EyeGrade, PeelText: wording.Peel(p.Panel), Hardness: api.Hardness(p.Hardness), Under: api.Under(p.Under), Dead: answer[api.Dead](p.Condition.Dead), WidthMm: w, HeightMm: h, AreaM2: p.Shape.Area() / 1e6,
		Outline: points(p.Shape.Outline), Placement: placement(p.Shape.Placement),
		Holes: holesOf(p.Shape), Creases: creasesOf(p.Shape), Readings: len(p.Live()),
	}
	if p.Paint != nil {
		out.Paint = &p.Paint.Name
	}
	if out.Side = api.Side(p.Shape.Side); out.Side == "" { // of a shop of the first version
		out.Side = api.SideMiddle
	}
	if p.Shape.Mirror != "" {
		out.Mirror = p.Car.ID + "." + p.Shape.Mirror
	}
	if p.Study != nil {
		out.FilmUm = ptr(estimate(p.Study.Mean))
	}
	if _, st, ok := p.Decides(); ok {
		out.State, out.HeadroomUm = ptr(api.State(st.State)), ptr(st.CanGo())
		out.Reason = ptr(v.State(st, p.Study.Policy.Floor))
	}
	return out
}

func dots(all []facts.Mark) []api.MarkDot {
	out := []api.MarkDot{}
	for _, m := range all {
		if m.Open() {
			out = append(out, api.MarkDot{Kind: api.MarkKind(m.Kind), XMm: m.X, YMm: m.Y})
		}
	}
	return out
}

// sections lists the sections with their standing where the film is known.
func (v view) sections(p *panel.Panel) []api.Section {
	out := each(p.Sections, func(s flatlay.Section) api.Section {
		return api.Section{Key: s.Key, Name: s.Name, Outlines: areas(s.Outlines), WidthMm: s.W, HeightMm: s.H}
	})
	if p.Study == nil {
		return out
	}
	for i, s := range p.Study.Sections {
		st := p.Standing(s)
		out[i].FilmUm, out[i].ClearUm = ptr(estimate(st.Film)), ptr(estimate(st.Clear))
		out[i].BoundUm, out[i].HeadroomUm, out[i].SpendUm = ptr(s.Bound), ptr(st.CanGo()), ptr(st.Spend)
		out[i].State, out[i].Reason = ptr(api.State(st.State)), ptr(v.State(st, p.Study.Policy.Floor))
	}
	return out
}

// carOf names a car and leaves its outlines to those who draw it.
func (v view) carOf(c facts.OfCar, next panel.Next) api.CarSummary {
	return api.CarSummary{Id: c.ID, Name: c.Name, Body: c.Body, Colour: api.Colour(c.Colour), Painter: c.Painter, Next: v.next(next)}
}

// summary is the car of a panel with what comes next on that panel.
func (v view) summary(p *panel.Panel) api.CarSummary { return v.carOf(p.Car, p.Next()) }

func holesOf(p flatlay.Panel) []api.Hole {
	return each(p.Holes, func(o flatlay.Hole) api.Hole { return api.Hole{Kind: o.Kind, Points: points(o.Points)} })
}

func creasesOf(p flatlay.Panel) []api.Crease {
	return each(p.Creases, func(c flatlay.Crease) api.Crease {
		return api.Crease{Name: c.Name, Hard: c.Hard, Points: points(c.Points)}
	})
}

func neighboursOf(p flatlay.Panel) []api.Neighbour {
	return each(p.Neighbours, func(n flatlay.Neighbour) api.Neighbour { return api.Neighbour{Key: n.Key, Tag: n.Tag} })
}
