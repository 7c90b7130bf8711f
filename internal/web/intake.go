package web

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"waxplanus/core/flatlay/body"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

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
	out, err := s.carView(ctx, c)
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
