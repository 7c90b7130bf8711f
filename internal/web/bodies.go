package web

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/files"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// sheet is what lies around a car's panels, as it is kept with the car.
type sheet struct {
	Box     body.Box       `json:"box"`
	Scenery []body.Scenery `json:"scenery"`
}

// sheetOf is the sheet of a car: as it was kept, or of its type for cars that
// were taken in before sheets were kept.
func sheetOf(c store.Car) (sheet, error) {
	var out sheet
	if c.Sheet != "" {
		if err := json.Unmarshal([]byte(c.Sheet), &out); err != nil {
			return out, fmt.Errorf("sheet of car %s: %w", c.ID, err)
		}
		return out, nil
	}
	b, err := body.Find(c.Body, body.Size{Length: c.LengthMM, Width: c.WidthMM, Height: c.HeightMM})
	return sheet{b.Box, b.Scenery}, err
}

func sceneryOf(all []body.Scenery) []api.Scenery {
	out := []api.Scenery{}
	for _, e := range all {
		sc := api.Scenery{Kind: e.Kind, Points: points(e.Points)}
		if e.Radius > 0 {
			sc.Centre, sc.Radius = &api.Point{X: e.Centre.X, Y: e.Centre.Y}, ptr(e.Radius)
		}
		out = append(out, sc)
	}
	return out
}

func bodyOf(b body.Body) api.Body {
	out := api.Body{Type: b.Type, Name: b.Name, LengthMm: b.Size.Length, WidthMm: b.Size.Width, HeightMm: b.Size.Height,
		Box: boxOf(b.Box), Scenery: sceneryOf(b.Scenery), Panels: []api.BodyPanel{}}
	for _, p := range b.Panels {
		w, h := p.Size()
		out.Panels = append(out.Panels, api.BodyPanel{
			Key: p.Key, Name: p.Name, Substrate: api.Substrate(p.Substrate), Side: api.Side(p.Side), Lie: api.BodyPanelLie(p.Lie),
			WidthMm: w, HeightMm: h, AreaM2: p.Area() / 1e6, Outline: points(p.Outline), Holes: holesOf(p), Creases: creasesOf(p),
			Placement: placement(p.Placement), Neighbours: neighboursOf(p),
		})
	}
	return out
}

// The size that a loose panel is offered in.
const (
	looseWidth  = 900.0
	looseHeight = 600.0
)

// ListBodies lists the body types in their usual sizes.
func (s *Server) ListBodies(context.Context, api.ListBodiesRequestObject) (api.ListBodiesResponseObject, error) {
	out := api.ListBodies200JSONResponse{}
	for _, kind := range body.Types() {
		size := body.Size{}
		if kind == body.Loose {
			size = body.Size{Width: looseWidth, Height: looseHeight}
		}
		b, err := body.Find(kind, size)
		if err != nil {
			return nil, err
		}
		out = append(out, bodyOf(b))
	}
	return out, nil
}

// GetBody is a body type in a size of its own.
func (s *Server) GetBody(_ context.Context, r api.GetBodyRequestObject) (api.GetBodyResponseObject, error) {
	b, err := findBody(r.Type, r.Params.LengthMm, r.Params.WidthMm, r.Params.HeightMm)
	if err != nil {
		return nil, err
	}
	return api.GetBody200JSONResponse(bodyOf(b)), nil
}

func findBody(kind string, length, width, height *float64) (body.Body, error) {
	var size body.Size
	for _, v := range []struct{ from, to *float64 }{{length, &size.Length}, {width, &size.Width}, {height, &size.Height}} {
		if v.from != nil {
			*v.to = *v.from
		}
	}
	b, err := body.Find(kind, size)
	if err != nil {
		return b, refuse("body", "%s.", capital(err.Error()))
	}
	return b, nil
}

// CheckOutline says what a drawing is understood as.
func (s *Server) CheckOutline(_ context.Context, r api.CheckOutlineRequestObject) (api.CheckOutlineResponseObject, error) {
	d, err := drawingOf(*r.Body)
	if err != nil {
		return nil, err
	}
	out := api.OutlineCheck{Body: bodyOf(d.Body), MmPerUnit: d.Scale, ScaleFrom: d.ScaleFrom, Notes: d.Notes}
	if out.Notes == nil {
		out.Notes = []string{}
	}
	return api.CheckOutline200JSONResponse(out), nil
}

func drawingOf(f api.OutlineFile) (files.Drawing, error) {
	var scale files.Scale
	for _, v := range []struct{ from, to *float64 }{{f.MmPerUnit, &scale.PerUnit}, {f.KnownMm, &scale.Known}} {
		if v.from != nil {
			*v.to = *v.from
		}
	}
	if f.KnownPanel != nil {
		scale.Panel = *f.KnownPanel
	}
	d, err := files.ReadDrawing(f.Text, scale)
	if err != nil {
		return d, refuse("outline", "%s: %s", fileName(f.FileName), err)
	}
	return d, nil
}

func fileName(file string) string {
	if file == "" {
		return "The drawing"
	}
	return file
}

// GetOutline writes a panel as a drawing with its readings and marks.
func (s *Server) GetOutline(ctx context.Context, r api.GetOutlineRequestObject) (api.GetOutlineResponseObject, error) {
	b, err := s.lay(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	var dots []files.Dot
	for _, rd := range b.live() {
		dots = append(dots, files.Dot{Role: "reading", X: rd.XMM, Y: rd.YMM, Size: 8, Text: shown(rd.FilmUM, api.Um), Data: map[string]string{"film-um": fmt.Sprint(rd.FilmUM)}})
	}
	for _, m := range b.marks {
		if live(m) {
			dots = append(dots, files.Dot{Role: "mark", X: m.XMM, Y: m.YMM, Size: max(m.LengthMM, m.WidthMM) / 2, Text: marks.Kind(m.Kind).Name(),
				Data: map[string]string{"kind": m.Kind, "outcome": m.Outcome}})
		}
	}
	raw := files.WriteDrawing(b.shape, b.car.Name, dots)
	return api.GetOutline200ImagesvgXmlResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw))}, nil
}

// GuessClear says what may be said of a panel by its history alone.
func (s *Server) GuessClear(ctx context.Context, r api.GuessClearRequestObject) (api.GuessClearResponseObject, error) {
	if !r.Body.Colour.Valid() {
		return nil, refuse("colour", "The colour is light, medium or dark: it decides how much haze shows.")
	}
	p := newPanel()
	if err := apply(&p, r.Body.Facts, s.now()); err != nil {
		return nil, err
	}
	f := historyOf(p)
	var err error
	if film.Origin(p.Origin) == film.Here {
		if f.Ratio, err = s.coatRatio(ctx, ""); err != nil {
			return nil, err
		}
	}
	g := film.GuessOf(f)
	aim := plan.Aim(p.Aim)
	h, err := s.houseOf(ctx)
	if err != nil {
		return nil, err
	}
	// Film does not depend on the panel's size; any one of a usual section does.
	o, err := s.optionsFor(h, plan.Job{Aim: aim, Grade: p.PeelGrade, Reference: plan.FactoryGrade, Colour: plan.Colour(r.Body.Colour), Single: p.Layers == string(api.LayersSingle),
		Hardness: h.shelf.Law.Hardness(p.Hardness), Scratch: plan.UsualSwirl, Area: 1e6, Sections: []plan.Rect{{W: 400, H: 400}}, Nibs: 1, Shelf: h.shelf, Rules: h.rules})
	if err != nil {
		return nil, err
	}
	need, leads := o.Need()
	if !leads {
		need = plan.MostFilm
	}
	state, _ := g.Policy.Judge(g.Least, film.GateAsk, need)
	return api.GuessClear200JSONResponse{
		ClearUm: estimate(g.Source.Estimate), NeedUm: need, FloorUm: g.Policy.Floor, State: api.State(state),
		From: guessFrom(g.Source, f), Text: guessText(need, g.Policy.Floor, state, aim),
	}, nil
}

// newPanel is a panel of which nobody has said anything yet.
func newPanel() store.Panel {
	return store.Panel{Origin: string(film.Nowhere), Layers: string(api.LayersClear), Cure: string(api.CureUnknown), Aim: string(plan.Flat), PeelGrade: usualPeel, Hardness: string(api.HardnessMedium)}
}

func holesOf(p flatlay.Panel) []api.Hole {
	out := []api.Hole{}
	for _, o := range p.Holes {
		out = append(out, api.Hole{Kind: o.Kind, Points: points(o.Points)})
	}
	return out
}

func creasesOf(p flatlay.Panel) []api.Crease {
	out := []api.Crease{}
	for _, c := range p.Creases {
		out = append(out, api.Crease{Name: c.Name, Hard: c.Hard, Points: points(c.Points)})
	}
	return out
}

func neighboursOf(p flatlay.Panel) []api.Neighbour {
	out := []api.Neighbour{}
	for _, n := range p.Neighbours {
		out = append(out, api.Neighbour{Key: n.Key, Tag: n.Tag})
	}
	return out
}
