// Package demo fills a shop with the cars of Saltmarsh Refinish, a shop that
// does not exist.
package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/store"
	"waxplanus/internal/web"
	"waxplanus/internal/web/api"
)

// The ids of the demo cars.
const (
	PilotID = "pilot-car"
	FloatID = "milk-float"
)

// facts of one panel of the demo car.
type facts struct {
	finish film.Finish
	coats  int
	peel   float64
	level  float64 // usual total film, µm
	spots  int     // readings of the total
	before int     // readings from before the clear
	under  float64 // film before the clear, µm
}

// The harbour pilot's dark saloon: one door repainted here, the wing before it
// blended in, everything else as the factory left it.
var pilot = map[string]facts{
	"L-fdoor":   {film.Refinished, 3, 7.2, 168, 3, 3, 101},
	"L-wing":    {film.Refinished, 2, 6.4, 158, 2, 0, 0},
	"L-rdoor":   {film.FactoryFinish, 0, 4.0, 118, 4, 0, 0},
	"L-quarter": {film.FactoryFinish, 0, 4.2, 121, 4, 0, 0},
	"bonnet":    {film.FactoryFinish, 0, 4.1, 124, 5, 0, 0},
	"roof":      {film.FactoryFinish, 0, 3.8, 112, 5, 0, 0},
	"R-fdoor":   {film.FactoryFinish, 0, 4.0, 116, 3, 0, 0},
	"R-wing":    {film.FactoryFinish, 0, 4.0, 119, 2, 0, 0},
	"boot":      {film.FactoryFinish, 0, 4.4, 84, 3, 0, 0},
}

// The cream milk float's side flap, off the body: single stage, so the colour
// itself is what may be cut.
var float = map[string]facts{
	"panel": {film.SingleStaged, 0, 6.0, 118, 6, 0, 0},
}

// Fill takes the demo cars in, as if they had been read in the hours before now.
func Fill(ctx context.Context, s *store.Store, now time.Time) error {
	width, height := 1150.0, 720.0
	for _, c := range []struct {
		id   string
		car  api.NewCar
		read map[string]facts
	}{
		{PilotID, api.NewCar{Name: "Pilot car", Body: api.Saloon, Colour: api.Dark, Painter: "Tove"}, pilot},
		{FloatID, api.NewCar{Name: "Milk float, side flap", Body: api.Loose, Colour: api.Light, Painter: "Issa", WidthMm: &width, HeightMm: &height}, float},
	} {
		if err := takeIn(ctx, s, c.id, c.car, c.read, now); err != nil {
			return fmt.Errorf("demo %s: %w", c.id, err)
		}
	}
	return nil
}

func takeIn(ctx context.Context, s *store.Store, id string, in api.NewCar, known map[string]facts, now time.Time) error {
	c, err := web.NewCar(id, in)
	if err != nil {
		return err
	}
	c.CreatedAt = now.Add(-26 * time.Hour)
	for i := range c.Panels {
		if f, ok := known[c.Panels[i].Key]; ok {
			c.Panels[i].Finish, c.Panels[i].Coats, c.Panels[i].PeelGrade = string(f.finish), f.coats, f.peel
		}
	}
	if err := s.TakeIn(ctx, c); err != nil {
		return err
	}
	var all []store.Reading
	for _, p := range c.Panels {
		if f, ok := known[p.Key]; ok {
			rs, err := read(p, f, now)
			if err != nil {
				return err
			}
			all = append(all, rs...)
		}
	}
	_, err = s.AddReadings(ctx, all)
	return err
}

// read goes over a panel with a gauge: film that droops, waves with the gun's
// lanes, thins at edges, and a gauge that repeats within a µm.
func read(p store.Panel, f facts, now time.Time) ([]store.Reading, error) {
	var shape flatlay.Panel
	if err := json.Unmarshal([]byte(p.Shape), &shape); err != nil {
		return nil, fmt.Errorf("demo panel %s: %w", p.Key, err)
	}
	seed := uint64(0)
	for _, r := range p.Key {
		seed = seed*31 + uint64(r)
	}
	rng := rand.New(rand.NewPCG(seed, 41))
	w, h := shape.Size()
	spread := 1.0
	if f.finish == film.FactoryFinish {
		spread = 0.4
	}
	shot := func(q flatlay.Point, level float64) float64 {
		e := film.Thin.Factor(shape.EdgeDistance(q), shape.CreaseDistance(q))
		u, v := 2*q.X/w-1, 2*q.Y/h-1
		shapeOf := 1 + spread*(0.045*v-0.02*u+0.02*math.Sin(q.Y/70))
		return math.Round(level*e*shapeOf + rng.NormFloat64()*1.2)
	}
	spots := film.NextSpots(shape, shape.Cells(), nil, 0, nil, f.spots)
	var out []store.Reading
	add := func(q flatlay.Point, um float64, phase string, at time.Time) {
		out = append(out, store.Reading{ID: fmt.Sprintf("demo-%s-%s-%d", p.ID, phase, len(out)+1), PanelID: p.ID,
			XMM: q.X, YMM: q.Y, FilmUM: um, Phase: phase, Source: store.SourceTyped, TakenAt: at})
	}
	for i, q := range spots[:min(f.before, len(spots))] {
		add(q, shot(q, f.under), store.PhaseBefore, now.Add(-25*time.Hour).Add(time.Duration(i)*40*time.Second))
	}
	for i, q := range spots {
		add(q, shot(q, f.level), store.PhaseTotal, now.Add(-2*time.Hour).Add(time.Duration(i)*35*time.Second))
	}
	return out, nil
}
