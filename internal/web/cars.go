package web

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// usualPeel is the peel grade of a panel that nobody has looked at: a usual gun
// finish.
const usualPeel = 6.0

// enoughSpots is how many readings a panel needs before a plan can be judged.
const enoughSpots = 5

// NewCar makes the rows of a car: its panels with outlines, all of one finish.
func NewCar(id string, in api.NewCar) (*store.Car, error) {
	name, painter := strings.TrimSpace(in.Name), strings.TrimSpace(in.Painter)
	switch {
	case name == "" || len([]rune(name)) > 60:
		return nil, refuse("name", "The car needs a name of 1 to 60 letters, such as Pilot car.")
	case painter == "" || len([]rune(painter)) > 40:
		return nil, refuse("painter", "Say who works on it, in 1 to 40 letters.")
	case !in.Colour.Valid():
		return nil, refuse("colour", "The colour is light, medium or dark: it decides how much haze shows.")
	case in.Finish != nil && !in.Finish.Valid():
		return nil, refuse("finish", "The finish is factory, refinished, refinished_unknown or single_stage.")
	case in.Coats != nil && (*in.Coats < 0 || *in.Coats > 10):
		return nil, refuse("coats", "Coats of clear are 0 to 10; 0 says that nobody knows.")
	}
	w, h := 0.0, 0.0
	if in.Body == api.Loose {
		if in.WidthMm == nil || in.HeightMm == nil {
			return nil, refuse("width_mm", "A loose panel needs its width and height in mm.")
		}
		w, h = *in.WidthMm, *in.HeightMm
	}
	body, err := flatlay.Find(string(in.Body), w, h)
	if err != nil {
		return nil, refuse("body", "%s.", err)
	}
	finish, coats := film.FactoryFinish, 0
	if in.Finish != nil {
		finish = film.Finish(*in.Finish)
	}
	if in.Coats != nil {
		coats = *in.Coats
	}
	c := &store.Car{ID: id, Name: name, Body: body.Type, Colour: string(in.Colour), Painter: painter, WidthMM: w, HeightMM: h}
	for i, p := range body.Panels {
		shape, err := shapeJSON(p)
		if err != nil {
			return nil, err
		}
		c.Panels = append(c.Panels, store.Panel{ID: id + "." + p.Key, CarID: id, Seq: i + 1, Key: p.Key, Name: p.Name,
			Substrate: p.Substrate, Shape: shape, Finish: string(finish), Coats: coats, PeelGrade: usualPeel})
	}
	return c, nil
}

// TakeIn keeps a new car.
func (s *Server) TakeIn(ctx context.Context, r api.TakeInRequestObject) (api.TakeInResponseObject, error) {
	c, err := NewCar(uuid.NewString(), *r.Body)
	if err != nil {
		return nil, err
	}
	c.CreatedAt = s.now()
	if err := s.store.TakeIn(ctx, c); err != nil {
		return nil, err
	}
	v, err := s.look(ctx, *c)
	return api.TakeIn201JSONResponse(carOf(*c, v.next)), err
}

// view is a whole car: every panel on the bench, the body around them, and what
// comes next.
type view struct {
	all  []*bench
	body flatlay.Body
	next api.NextAction
}

// look lays every panel of a car on the bench.
func (s *Server) look(ctx context.Context, c store.Car) (view, error) {
	body, err := flatlay.Find(c.Body, c.WidthMM, c.HeightMM)
	if err != nil {
		return view{}, err
	}
	v := view{body: body}
	for _, p := range c.Panels {
		b, err := s.layRow(ctx, c, p)
		if err == nil {
			err = s.readFilm(b)
		}
		if err != nil {
			return view{}, fmt.Errorf("%s: %w", p.Name, err)
		}
		v.all = append(v.all, b)
	}
	v.next = nextAction(v.all)
	return v, nil
}

// nextAction is what to do next on a car: finish what has begun, else plan what
// is read, else read what was sprayed here, and at last anything.
func nextAction(all []*bench) api.NextAction {
	rank := func(b *bench) int {
		switch {
		case b.row.Substrate == "plastic":
			return 0
		case b.ladder != nil && !b.finished():
			return 5
		case b.ladder != nil:
			return 1
		case len(b.live()) >= enoughSpots && b.row.Finish != string(film.FactoryFinish):
			return 4
		case b.row.Finish != string(film.FactoryFinish):
			return 3
		default:
			return 2
		}
	}
	best := all[0]
	for _, b := range all[1:] {
		if n, m := rank(b), rank(best); n > m || n == m && len(b.live()) > len(best.live()) {
			best = b
		}
	}
	n := api.NextAction{PanelId: best.row.ID, PanelName: best.row.Name}
	missing := enoughSpots - len(best.live())
	switch {
	case best.ladder != nil && !best.finished():
		n.Stage, n.Action = api.NextActionStageLevel, "Level "+best.nextSection()
	case best.ladder != nil:
		n.Stage, n.Action = api.NextActionStageLevel, "All planned steps are done"
	case missing > 0:
		n.Stage, n.Action = api.NextActionStageRead, "Read "+count(missing, "spot")
	default:
		n.Stage, n.Action = api.NextActionStagePlan, "Plan the grits"
	}
	if best.opened.Study != nil && len(best.opened.Study.Sections) > 0 {
		_, st := best.worst()
		n.State, n.Reason = ptr(api.State(st.State)), ptr(stateReason(st, best.opened.Study.Policy.Floor))
	}
	return n
}

// finished says whether every section has all steps of the plan done.
func (b *bench) finished() bool { return b.nextSection() == "" }

// nextSection names the first section that is not done.
func (b *bench) nextSection() string {
	for _, s := range b.sections {
		if b.step(s.Key) < len(b.ladder.Steps) {
			return s.Name
		}
	}
	return ""
}

// ListCars lists the cars with their small outlines.
func (s *Server) ListCars(ctx context.Context, _ api.ListCarsRequestObject) (api.ListCarsResponseObject, error) {
	cars, err := s.store.Cars(ctx)
	if err != nil {
		return nil, err
	}
	out := api.ListCars200JSONResponse{}
	for _, c := range cars {
		v, err := s.look(ctx, c)
		if err != nil {
			return nil, err
		}
		sum := carOf(c, v.next)
		sum.Box = ptr(boxOf(v.body.Box))
		shapes := []api.PanelShape{}
		for _, b := range v.all {
			p := api.PanelShape{Outline: points(b.shape.Outline), Placement: placement(b.shape.Placement)}
			if b.opened.Study != nil && len(b.opened.Study.Sections) > 0 {
				_, st := b.worst()
				p.State = ptr(api.State(st.State))
			}
			shapes = append(shapes, p)
		}
		sum.Panels = &shapes
		out = append(out, sum)
	}
	return out, nil
}

// GetCar is one car unfolded, with the film of each panel that has been read.
func (s *Server) GetCar(ctx context.Context, r api.GetCarRequestObject) (api.GetCarResponseObject, error) {
	c, err := s.store.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	v, err := s.look(ctx, c)
	if err != nil {
		return nil, err
	}
	out := api.Car{Id: c.ID, Name: c.Name, Body: c.Body, Colour: api.Colour(c.Colour), Painter: c.Painter, Next: v.next,
		Box: boxOf(v.body.Box), Scenery: []api.Scenery{}, Panels: []api.Panel{}}
	for _, e := range v.body.Scenery {
		sc := api.Scenery{Kind: e.Kind, Points: points(e.Points)}
		if e.Radius > 0 {
			sc.Centre, sc.Radius = &api.Point{X: e.Centre.X, Y: e.Centre.Y}, ptr(e.Radius)
		}
		out.Scenery = append(out.Scenery, sc)
	}
	for _, b := range v.all {
		p := panelOf(b)
		if b.opened.Study != nil {
			p.Map = ptr(filmMap(b.opened.Study.Grid))
		}
		out.Panels = append(out.Panels, p)
	}
	if f := factoryLevel(v.all); f > 0 {
		out.FactoryUm = &f
	}
	return api.GetCar200JSONResponse(out), nil
}

// factoryLevel is the median film of the panels with a factory finish, 0 where
// none was read.
func factoryLevel(all []*bench) float64 {
	var v []float64
	for _, b := range all {
		if b.row.Finish == string(film.FactoryFinish) && b.opened.Study != nil {
			v = append(v, b.opened.Study.Mean.Mean)
		}
	}
	if len(v) == 0 {
		return 0
	}
	return film.Median(v)
}

// ChangePanel changes what is known of a panel.
func (s *Server) ChangePanel(ctx context.Context, r api.ChangePanelRequestObject) (api.ChangePanelResponseObject, error) {
	p, err := s.store.Panel(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	if f := r.Body.Finish; f != nil {
		if !f.Valid() {
			return nil, refuse("finish", "The finish is factory, refinished, refinished_unknown or single_stage.")
		}
		p.Finish = string(*f)
	}
	if n := r.Body.Coats; n != nil {
		if *n < 0 || *n > 10 {
			return nil, refuse("coats", "Coats of clear are 0 to 10; 0 says that nobody knows.")
		}
		p.Coats = *n
	}
	if g := r.Body.PeelGrade; g != nil {
		if !(*g >= 0 && *g <= 10) {
			return nil, refuse("peel_grade", "The peel grade goes from 0, a mirror, to 10, very heavy.")
		}
		p.PeelGrade = *g
	}
	if err := s.store.SavePanel(ctx, p); err != nil {
		return nil, err
	}
	b, err := s.open(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	return api.ChangePanel200JSONResponse(panelOf(b)), nil
}

// summary is the car of a panel on the bench with what comes next on that
// panel.
func summary(b *bench) api.CarSummary { return carOf(b.car, nextAction([]*bench{b})) }
