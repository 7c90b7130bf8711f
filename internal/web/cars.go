package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/marks"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// enoughSpots is how many readings a panel needs before a plan can be judged.
const enoughSpots = 5

// NewCar makes the rows of a car: its panels with outlines and what was said of
// them. like, if not nil, is an earlier car whose panels are known alike; what
// is said now wins. now bounds the days of spraying.
func NewCar(id string, in api.NewCar, like *store.Car, now time.Time) (*store.Car, error) {
	c := &store.Car{ID: id, Name: strings.TrimSpace(in.Name), Colour: string(in.Colour)}
	if c.Name == "" || len([]rune(c.Name)) > 60 {
		return nil, refuse("name", "The car needs a name of 1 to 60 letters, such as Pilot car.")
	}
	var err error
	if c.Painter, err = personOf(in.Painter); err != nil {
		return nil, refuse("painter", "Say who works on it, in 1 to 40 letters.")
	}
	if !in.Colour.Valid() {
		return nil, refuse("colour", "The colour is light, medium or dark: it decides how much haze shows.")
	}
	if err := say(c, api.CarFacts{OwnerWords: in.OwnerWords, CostLimit: in.CostLimit, HoursLimit: in.HoursLimit}); err != nil {
		return nil, err
	}
	b, err := drawn(in)
	if err != nil {
		return nil, err
	}
	c.Body, c.LengthMM, c.WidthMM, c.HeightMM = b.Type, b.Size.Length, b.Size.Width, b.Size.Height
	around, err := json.Marshal(sheet{b.Box, b.Scenery})
	if err != nil {
		return nil, err
	}
	c.Sheet = string(around)
	for i, p := range b.Panels {
		row := newPanel()
		row.Substrate = p.Substrate
		if like != nil {
			if k := slices.IndexFunc(like.Panels, func(o store.Panel) bool { return o.Key == p.Key }); k >= 0 {
				row = like.Panels[k]
				row.SprayedAt = nil
			}
		}
		row.Shape, err = shapeJSON(p)
		if err != nil {
			return nil, err
		}
		row.ID, row.CarID, row.Seq, row.Key, row.Name = id+"."+p.Key, id, i+1, p.Key, p.Name
		c.Panels = append(c.Panels, row)
	}
	if in.Groups != nil {
		for _, g := range *in.Groups {
			if err := applyGroup(c, g, now); err != nil {
				return nil, err
			}
		}
	}
	return c, nil
}

// drawn is the body that a new car asks for.
func drawn(in api.NewCar) (body.Body, error) {
	if in.Body == body.Own {
		if in.Outline == nil {
			return body.Body{}, refuse("outline", "A car with its own outline needs the drawing of it, an SVG file.")
		}
		d, err := drawingOf(*in.Outline)
		if err == nil && d.Scale == 0 {
			err = refuse("outline", "The scale of the drawing is not known: give how many mm a unit is, or the width of one panel.")
		}
		return d.Body, err
	}
	if in.Body == body.Loose && (in.WidthMm == nil || in.HeightMm == nil) {
		return body.Body{}, refuse("width_mm", "A loose panel needs its width and height in mm.")
	}
	return findBody(in.Body, in.LengthMm, in.WidthMm, in.HeightMm)
}

// applyGroup says the same of many panels.
func applyGroup(c *store.Car, g api.PanelGroup, now time.Time) error {
	for _, key := range g.Keys {
		i := slices.IndexFunc(c.Panels, func(p store.Panel) bool { return p.Key == key })
		if i < 0 {
			return refuse("keys", "The %s has no panel %q. Touch the panels again.", c.Name, key)
		}
		if err := apply(&c.Panels[i], g.Facts, now); err != nil {
			return err
		}
	}
	return nil
}

// say changes what was said of a car.
func say(c *store.Car, f api.CarFacts) error {
	if f.Name != nil {
		name := strings.TrimSpace(*f.Name)
		if name == "" || len([]rune(name)) > 60 {
			return refuse("name", "The car needs a name of 1 to 60 letters, such as Pilot car.")
		}
		c.Name = name
	}
	if f.Painter != nil {
		painter, err := personOf(*f.Painter)
		if err != nil {
			return refuse("painter", "Say who works on it, in 1 to 40 letters.")
		}
		c.Painter = painter
	}
	if f.OwnerWords != nil {
		if c.OwnerWords = strings.TrimSpace(*f.OwnerWords); len([]rune(c.OwnerWords)) > 1000 {
			return refuse("owner_words", "The owner's words are 1000 letters at most; these are %d.", len([]rune(c.OwnerWords)))
		}
	}
	for _, n := range []struct {
		field, text string
		from, to    *float64
		most        float64
	}{
		{"cost_limit", "What it may cost is a number from 0, for no limit, to a million.", f.CostLimit, &c.CostLimit, 1e6},
		{"hours_limit", "The hours it may take are a number from 0, for no limit, to 10 000.", f.HoursLimit, &c.HoursLimit, 1e4},
	} {
		if n.from == nil {
			continue
		}
		if math.IsNaN(*n.from) || *n.from < 0 || *n.from > n.most {
			return refuse(n.field, "%s", n.text)
		}
		*n.to = *n.from
	}
	return nil
}

// TakeIn keeps a new car.
func (s *Server) TakeIn(ctx context.Context, r api.TakeInRequestObject) (api.TakeInResponseObject, error) {
	var like *store.Car
	if r.Body.Like != nil && *r.Body.Like != "" {
		c, err := s.store.Car(ctx, *r.Body.Like)
		if errors.Is(err, store.ErrMissing) {
			return nil, refuse("like", "There is no earlier car of that id to take over from.")
		}
		if err != nil {
			return nil, err
		}
		like = &c
	}
	c, err := NewCar(uuid.NewString(), *r.Body, like, s.now())
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
	case b.aim() == marks.NibsOnly && b.openMarks() > 0:
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
	case best.aim() == marks.NibsOnly && best.openMarks() > 0:
		n.Stage, n.Action = api.NextActionStageLook, "Spot "+count(best.openMarks(), "mark")
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
	v, err := s.look(ctx, c)
	if err != nil {
		return nil, err
	}
	out, err := s.carView(ctx, c, v)
	return api.GetCar200JSONResponse(out), err
}

func (s *Server) carView(ctx context.Context, c store.Car, v view) (api.Car, error) {
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
	var err error
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

// ChangePanel changes what is known of a panel.
func (s *Server) ChangePanel(ctx context.Context, r api.ChangePanelRequestObject) (api.ChangePanelResponseObject, error) {
	p, err := s.store.Panel(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	_, err = s.store.ChangeCar(ctx, p.CarID, func(c *store.Car) error {
		return applyGroup(c, api.PanelGroup{Keys: []string{p.Key}, Facts: *r.Body}, s.now())
	})
	if err != nil {
		return nil, err
	}
	b, err := s.open(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	return api.ChangePanel200JSONResponse(panelOf(b)), nil
}

// ChangePanels says the same of many panels.
func (s *Server) ChangePanels(ctx context.Context, r api.ChangePanelsRequestObject) (api.ChangePanelsResponseObject, error) {
	c, err := s.store.ChangeCar(ctx, r.CarId, func(c *store.Car) error { return applyGroup(c, *r.Body, s.now()) })
	if err != nil {
		return nil, err
	}
	v, err := s.look(ctx, c)
	if err != nil {
		return nil, err
	}
	out, err := s.carView(ctx, c, v)
	return api.ChangePanels200JSONResponse(out), err
}

// ChangeCar changes what was said of a car.
func (s *Server) ChangeCar(ctx context.Context, r api.ChangeCarRequestObject) (api.ChangeCarResponseObject, error) {
	c, err := s.store.ChangeCar(ctx, r.CarId, func(c *store.Car) error { return say(c, *r.Body) })
	if err != nil {
		return nil, err
	}
	v, err := s.look(ctx, c)
	return api.ChangeCar200JSONResponse(carOf(c, v.next)), err
}

// summary is the car of a panel on the bench with what comes next on that
// panel.
func summary(b *bench) api.CarSummary { return carOf(b.car, nextAction([]*bench{b})) }
