package web

import (
	"context"
	"fmt"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// enoughSpots is how many readings a panel needs before a plan can be judged.
const enoughSpots = 5

// view is a whole car: every panel on the bench, the sheet around them, and what
// comes next.
type view struct {
	all   []*bench
	sheet sheet
	next  api.NextAction
}

// look lays every panel of a car on the bench.
func (s *Server) look(ctx context.Context, c store.Car) (view, error) {
	around, err := sheetOf(c)
	if err != nil {
		return view{}, err
	}
	v := view{sheet: around}
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

// urgency ranks what is to be done on a panel: finish what has begun, spot what
// was marked, plan what is read, read what was sprayed, and at last anything.
func (b *bench) urgency() int {
	switch {
	case b.ladder != nil && !b.finished():
		return 6
	case b.aim() == plan.NibsOnly && b.openMarks() > 0:
		return 5
	case b.ladder != nil:
		return 1
	case b.row.Substrate == "plastic":
		return 0
	case !b.aim().Levels():
		return 2
	case b.finish() == film.FactoryFinish:
		return 2
	case len(b.live()) >= enoughSpots:
		return 4
	}
	return 3
}

func (b *bench) openMarks() int {
	n := 0
	for _, m := range b.marks {
		if openMark(m) {
			n++
		}
	}
	return n
}

// nextAction is what to do next on a car.
func nextAction(all []*bench) api.NextAction {
	best := all[0]
	for _, b := range all[1:] {
		if n, m := b.urgency(), best.urgency(); n > m || n == m && len(b.live()) > len(best.live()) {
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
	case best.aim() == plan.NibsOnly && best.openMarks() > 0:
		n.Stage, n.Action = api.NextActionStageLook, "Spot "+count(best.openMarks(), "mark")
	case best.aim() == plan.PolishOnly && missing <= 0:
		n.Stage, n.Action = api.NextActionStagePlan, "Plan the polish"
	case !best.aim().Levels() && missing <= 0:
		n.Stage, n.Action = api.NextActionStageLook, "Look it over"
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

// worstState is the state of the tightest section of a panel that was read.
func (b *bench) worstState() film.State {
	_, st := b.worst()
	return st.State
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
		sum.Box = ptr(boxOf(v.sheet.Box))
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
	out, err := s.carView(ctx, c)
	return api.GetCar200JSONResponse(out), err
}

// carView lays a car out with all that is known of it.
func (s *Server) carView(ctx context.Context, c store.Car) (api.Car, error) {
	v, err := s.look(ctx, c)
	if err != nil {
		return api.Car{}, err
	}
	out := api.Car{Id: c.ID, Name: c.Name, Body: c.Body, Colour: api.Colour(c.Colour), Painter: c.Painter, Next: v.next,
		Box: boxOf(v.sheet.Box), Scenery: sceneryOf(v.sheet.Scenery), Panels: []api.Panel{},
		OwnerWords: c.OwnerWords, CostLimit: c.CostLimit, HoursLimit: c.HoursLimit}
	var all []judged
	for _, b := range v.all {
		js, err := b.liveMarks(s.now())
		if err != nil {
			return out, err
		}
		all = append(all, js...)
	}
	out.Marks = countsOf(all)
	if out.Tellings, err = s.tellingsOf(ctx, c.ID, v.all); err != nil {
		return out, err
	}
	if out.Checklist, err = s.checklistOf(ctx, c.ID); err != nil {
		return out, err
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
	return out, nil
}

// factoryLevel is the median film of the panels with a factory finish, 0 where
// none was read.
func factoryLevel(all []*bench) float64 {
	var v []float64
	for _, b := range all {
		if b.finish() == film.FactoryFinish && b.opened.Study != nil {
			v = append(v, b.opened.Study.Mean.Mean)
		}
	}
	if len(v) == 0 {
		return 0
	}
	return film.Median(v)
}

// summary is the car of a panel on the bench with what comes next on that
// panel.
func summary(b *bench) api.CarSummary { return carOf(b.car, nextAction([]*bench{b})) }
