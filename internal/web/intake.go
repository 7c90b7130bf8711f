package web

import (
	"bytes"
	"context"

	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/web/api"
)

func sceneryOf(e body.Scenery) api.Scenery {
	out := api.Scenery{Kind: e.Kind, Points: points(e.Points)}
	if e.Radius > 0 {
		out.Centre, out.Radius = ptr(point(e.Centre)), ptr(e.Radius)
	}
	return out
}

func bodyOf(b body.Body) api.Body {
	return api.Body{Type: b.Type, Name: b.Name, LengthMm: b.Size.Length, WidthMm: b.Size.Width, HeightMm: b.Size.Height, AreaM2: b.Area() / 1e6,
		Box: boxOf(b.Box), Scenery: each(b.Scenery, sceneryOf), Panels: each(b.Panels, bodyPanel)}
}

func bodyPanel(p flatlay.Panel) api.BodyPanel {
	w, h := p.Size()
	return api.BodyPanel{
		Key: p.Key, Name: p.Name, Substrate: api.Substrate(p.Substrate), Side: api.Side(p.Side), Lie: api.BodyPanelLie(p.Lie),
		WidthMm: w, HeightMm: h, AreaM2: p.Area() / 1e6, Outline: points(p.Outline), Holes: holesOf(p), Creases: creasesOf(p),
		Placement: placement(p.Placement), Neighbours: neighboursOf(p),
	}
}

// ListBodies lists the body types in their usual sizes.
func (s *Server) ListBodies(context.Context, api.ListBodiesRequestObject) (api.ListBodiesResponseObject, error) {
	all, err := cars.Bodies()
	return api.ListBodies200JSONResponse(each(all, bodyOf)), err
}

// GetBody is a body type in a size of its own.
func (s *Server) GetBody(_ context.Context, r api.GetBodyRequestObject) (api.GetBodyResponseObject, error) {
	b, err := cars.FindBody(r.Type, r.Params.LengthMm, r.Params.WidthMm, r.Params.HeightMm)
	return api.GetBody200JSONResponse(bodyOf(b)), err
}

func drawingOf(f api.OutlineFile) cars.Drawing {
	return cars.Drawing{FileName: f.FileName, Text: f.Text, MMPerUnit: given(f.MmPerUnit), KnownMM: given(f.KnownMm), KnownPanel: given(f.KnownPanel)}
}

// CheckOutline says what a drawing is understood as.
func (s *Server) CheckOutline(_ context.Context, r api.CheckOutlineRequestObject) (api.CheckOutlineResponseObject, error) {
	d, err := drawingOf(*r.Body).Outline()
	if err != nil {
		return nil, err
	}
	return api.CheckOutline200JSONResponse{Body: bodyOf(d.Body), MmPerUnit: d.Scale, ScaleFrom: d.ScaleFrom, Notes: each(d.Notes, func(n string) string { return n })}, nil
}

// GetOutline writes a panel as a drawing with its readings and marks.
func (s *Server) GetOutline(ctx context.Context, r api.GetOutlineRequestObject) (api.GetOutlineResponseObject, error) {
	p, dots, err := s.shop.Dots(ctx, r.PanelId, view{}.Film) // µm, as in the file's data
	if err != nil {
		return nil, err
	}
	raw := files.WriteDrawing(p.Shape, p.Car.Name, dots)
	return api.GetOutline200ImagesvgXmlResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw))}, nil
}

// GuessClear says what may be said of a panel by its history alone.
func (s *Server) GuessClear(ctx context.Context, r api.GuessClearRequestObject) (api.GuessClearResponseObject, error) {
	g, err := s.shop.GuessOf(ctx, string(r.Body.Colour), saidOf(r.Body.Facts))
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	return api.GuessClear200JSONResponse{ClearUm: estimate(g.Clear.Estimate), NeedUm: g.Need, FloorUm: g.Policy.Floor, State: api.State(g.State),
		From: v.GuessFrom(g), Text: v.Promise(g)}, nil
}

// word is an answer that is one of a few, as text.
func word[T ~string](v *T) *string {
	if v == nil {
		return nil
	}
	return ptr(string(*v))
}

func saidOf(f api.PanelFacts) cars.Said {
	out := cars.Said{Origin: word(f.Origin), Layers: word(f.Layers), Cure: word(f.Cure), Substrate: word(f.Substrate), Aim: word(f.Aim), Hardness: word(f.Hardness), Under: word(f.Under),
		Coats: f.Coats, Wet: f.WetUm, Solids: f.Solids, Dry: f.DryUm, PeelGrade: f.PeelGrade, SprayedAt: f.SprayedAt, Paint: f.Paint}
	out.Condition = facts.SaidCondition{Swirls: word(f.Swirls), Dead: word(f.Dead), WetTest: word(f.WetTest), ClothTest: word(f.ClothTest),
		WaterSpots: f.WaterSpots, Haze: f.Haze, Gone: f.Gone}
	if out.Light = word(f.Light); f.Light != nil && *f.Light == api.ByPlace {
		out.Light = ptr(string(facts.LitByPlace))
	}
	if f.Past != nil {
		out.Past = ptr(each(*f.Past, func(p api.Past) string { return string(p) }))
	}
	return out
}

func groupOf(g api.PanelGroup) cars.Group { return cars.Group{Keys: g.Keys, Said: saidOf(g.Facts)} }

// newCar is a car to be taken in, as it was sent.
func newCar(in api.NewCar) cars.NewCar {
	out := cars.NewCar{CarSaid: cars.CarSaid{Name: &in.Name, Painter: &in.Painter, OwnerWords: in.OwnerWords, CostLimit: in.CostLimit, HoursLimit: in.HoursLimit},
		Body: in.Body, Colour: string(in.Colour), Length: in.LengthMm, Width: in.WidthMm, Height: in.HeightMm, Like: given(in.Like)}
	if in.Outline != nil {
		out.Drawing = ptr(drawingOf(*in.Outline))
	}
	if in.Groups != nil {
		out.Groups = each(*in.Groups, groupOf)
	}
	return out
}

// TakeIn keeps a new car.
func (s *Server) TakeIn(ctx context.Context, r api.TakeInRequestObject) (api.TakeInResponseObject, error) {
	c, err := s.shop.TakeIn(ctx, newCar(*r.Body))
	if err != nil {
		return nil, err
	}
	return api.TakeIn201JSONResponse(viewOf(ctx).carOf(c.OfCar, c.Next)), nil
}

// ChangePanel changes what is known of a panel.
func (s *Server) ChangePanel(ctx context.Context, r api.ChangePanelRequestObject) (api.ChangePanelResponseObject, error) {
	p, err := s.shop.ChangePanel(ctx, r.PanelId, saidOf(*r.Body))
	if err != nil {
		return nil, err
	}
	return api.ChangePanel200JSONResponse(viewOf(ctx).panel(p)), nil
}

// ChangePanels says the same of many panels.
func (s *Server) ChangePanels(ctx context.Context, r api.ChangePanelsRequestObject) (api.ChangePanelsResponseObject, error) {
	c, err := s.shop.ChangePanels(ctx, r.CarId, groupOf(*r.Body))
	if err != nil {
		return nil, err
	}
	out, err := s.car(ctx, c)
	return api.ChangePanels200JSONResponse(out), err
}

// ChangeCar changes what was said of a car.
func (s *Server) ChangeCar(ctx context.Context, r api.ChangeCarRequestObject) (api.ChangeCarResponseObject, error) {
	c, err := s.shop.ChangeCar(ctx, r.CarId, cars.CarSaid{Name: r.Body.Name, Painter: r.Body.Painter, OwnerWords: r.Body.OwnerWords,
		CostLimit: r.Body.CostLimit, HoursLimit: r.Body.HoursLimit})
	if err != nil {
		return nil, err
	}
	return api.ChangeCar200JSONResponse(viewOf(ctx).carOf(c.OfCar, c.Next)), nil
}

func (v view) telling(t cars.Telling) api.Telling {
	out := api.Telling{Key: t.Key, PanelId: t.PanelID}
	out.Title, out.Text = v.Telling(t)
	if t.Told() {
		out.SaidAt, out.Person = ptr(t.SaidAt), ptr(t.Person)
	}
	return out
}

func (v view) task(t cars.Task) api.Task {
	out := api.Task{Task: api.TaskKind(t.Kind), Text: v.Task(t.Kind), DoneAt: t.DoneAt}
	if t.DoneAt != nil {
		out.Person = &t.Person
	}
	return out
}

// TellOwner keeps that the owner was told.
func (s *Server) TellOwner(ctx context.Context, r api.TellOwnerRequestObject) (api.TellOwnerResponseObject, error) {
	v := viewOf(ctx)
	all, err := s.shop.TellOwner(ctx, r.CarId, r.Body.Key, r.Body.Person, r.Body.Said, v.Told)
	return api.TellOwner200JSONResponse(each(all, v.telling)), err
}

// TickTask ticks a task or takes the tick back.
func (s *Server) TickTask(ctx context.Context, r api.TickTaskRequestObject) (api.TickTaskResponseObject, error) {
	all, err := s.shop.TickTask(ctx, r.CarId, cars.TaskKind(r.Body.Task), r.Body.Person, r.Body.Done)
	return api.TickTask200JSONResponse(each(all, viewOf(ctx).task)), err
}
