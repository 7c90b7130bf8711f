// Package demo fills a shop with the cars of Saltmarsh Refinish, a shop that
// does not exist.
package demo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/store"
)

// The ids of the demo cars.
const (
	PilotID   = "pilot-car"
	FloatID   = "milk-float"
	LibraryID = "library-van"
	HireID    = "hire-saloon"
	CoversID  = "side-covers"
	HarbourID = "harbour-estate"
)

// panelFacts of one panel of a demo car. What was not read has no level.
type panelFacts struct {
	origin film.Origin
	layers string
	coats  int
	peel   float64
	aim    plan.Aim
	level  float64 // usual total film, µm
	spots  int     // readings of the total
	before int     // readings from before the clear
	under  float64 // film before the clear, µm
	hours  float64 // since it was sprayed, 0 for long ago
	marks  []seen
}

// seen are marks of one kind on a panel, scattered over it; a place in mm where
// there is one.
type seen struct {
	kind  marks.Kind
	count int
	x, y  float64
	set   func(*marks.Mark)
}

const (
	factory = film.AtFactory
	clear   = facts.ClearCoat
)

// car is one demo car as it was taken in.
type car struct {
	id     string
	in     cars.NewCar
	panels map[string]panelFacts
	asked  map[string]asked
}

// asked is what was found out of a panel besides: what lies under its paint, what a place
// without clear reads (µm), and the floor that the owner agreed to (µm).
type asked struct {
	under  clearcoat.Under
	bare   float64
	agreed float64
}

func taken(name, kind string, colour plan.Colour, painter, words string) cars.NewCar {
	return cars.NewCar{CarSaid: cars.CarSaid{Name: &name, Painter: &painter, OwnerWords: &words}, Body: kind, Colour: string(colour)}
}

// worn is what washing and sun left on panels of the cars: the swirls and the dead layer that
// somebody saw, and the share of the swirls that shall go.
type worn struct {
	swirls, dead facts.Grade
	gone         float64
}

var worns = map[string]map[string]worn{
	HireID:  {"bonnet": {facts.Middling, facts.NoneAtAll, 0.95}, "R-fdoor": {facts.Light, facts.NoneAtAll, 0.8}},
	FloatID: {"panel": {facts.Middling, facts.Light, 0.8}},
}

func demoCars() []car {
	width, height, cost := 1150.0, 720.0, 900.0
	pilot := taken("Pilot car", body.Saloon, plan.Dark, "Tove", "The new door looks like a different car in the sun, and I see dust in it.")
	pilot.CostLimit = &cost
	flap := taken("Milk float, side flap", body.Loose, plan.Light, "Issa", "")
	flap.Width, flap.Height = &width, &height
	return []car{
		// The harbour pilot's dark saloon: one door repainted here, the wing before
		// it blended in, everything else as the factory left it.
		{PilotID, pilot, map[string]panelFacts{
			"L-fdoor": {film.Here, clear, 3, 7.2, plan.Flat, 168, 3, 3, 101, 50, []seen{
				{marks.Nib, 11, 0, 0, nil},
				{marks.Run, 1, 300, 620, func(m *marks.Mark) { m.Crest, m.Beside = 191, 167 }},
				{marks.Scratch, 1, 800, 660, func(m *marks.Mark) { m.Size, m.Angle = 14, -14 }},
				{marks.Pit, 1, 560, 720, func(m *marks.Mark) { m.Size = 6 }},
				{marks.Peel, 1, 760, 900, func(m *marks.Mark) { m.Grade = 8 }},
			}},
			"L-wing":    {film.Here, clear, 2, 6.4, plan.Match, 158, 2, 0, 0, 50, []seen{{marks.Nib, 3, 0, 0, nil}}},
			"L-rdoor":   {factory, clear, 0, 4.0, plan.PolishOnly, 118, 4, 0, 0, 0, []seen{{marks.Scratch, 1, 420, 560, func(m *marks.Mark) { m.Class = marks.Catches }}}},
			"L-quarter": {factory, clear, 0, 4.2, plan.PolishOnly, 121, 4, 0, 0, 0, nil},
			"bonnet":    {factory, clear, 0, 4.1, plan.PolishOnly, 124, 5, 0, 0, 0, []seen{{marks.Etch, 2, 0, 0, func(m *marks.Mark) { m.Class = marks.Colour }}}},
			"roof":      {factory, clear, 0, 3.8, plan.PolishOnly, 112, 5, 0, 0, 0, nil},
			"R-fdoor":   {factory, clear, 0, 4.0, plan.PolishOnly, 116, 3, 0, 0, 0, nil},
			"R-wing":    {factory, clear, 0, 4.0, plan.PolishOnly, 119, 2, 0, 0, 0, nil},
			"boot":      {factory, clear, 0, 4.4, plan.PolishOnly, 84, 3, 0, 0, 0, nil},
		}, nil},
		// The cream milk float's side flap, off the body: single stage, so the colour
		// itself is what may be cut.
		{FloatID, flap, map[string]panelFacts{
			"panel": {film.Nowhere, facts.SingleStage, 0, 6.0, plan.PolishOnly, 118, 6, 0, 0, 0, []seen{{marks.Etch, 2, 0, 0, nil}}},
		}, nil},
		// The mobile library: hedge on the left side, hail on the roof, both fresh.
		{LibraryID, taken("Mobile library", body.PanelVan, plan.Medium, "Runa",
			"The children draw on it anyway. Just no dust and no runs, please."), map[string]panelFacts{
			"L-slide": {film.Here, clear, 4, 6.5, plan.NibsOnly, 164, 5, 0, 0, 21, []seen{
				{marks.Nib, 34, 0, 0, nil},
				{marks.Run, 2, 0, 0, func(m *marks.Mark) { m.Size = 45 }},
			}},
			"L-fdoor":   {film.Here, clear, 3, 6.0, plan.NibsOnly, 0, 0, 0, 0, 21, []seen{{marks.Nib, 7, 0, 0, nil}}},
			"L-quarter": {film.Here, clear, 3, 6.8, plan.NibsOnly, 0, 0, 0, 0, 21, []seen{{marks.Nib, 41, 0, 0, nil}}},
			"roof":      {film.Here, clear, 3, 7.0, plan.NibsOnly, 0, 0, 0, 0, 21, nil},
		}, nil},
		// The pale hire saloon: washed often, and polished only.
		{HireID, taken("Hire saloon", body.Saloon, plan.Light, "Tove", ""), map[string]panelFacts{
			"bonnet":  {factory, clear, 0, 4.0, plan.PolishOnly, 117, 6, 0, 0, 0, []seen{{marks.Dull, 1, 0, 0, nil}, {marks.Scratch, 3, 0, 0, func(m *marks.Mark) { m.Class = marks.Seen }}}},
			"R-fdoor": {factory, clear, 0, 4.0, plan.PolishOnly, 0, 0, 0, 0, 0, nil},
		}, nil},
		// Loose side covers of a motorcycle: plastic, nothing reads on them.
		{CoversID, taken("Side covers", body.Motorcycle, plan.Dark, "Issa", ""), map[string]panelFacts{
			"L-cover": {film.Here, clear, 2, 5.5, plan.NibsOnly, 0, 0, 0, 0, 70, []seen{{marks.Nib, 4, 0, 0, nil}}},
			"R-cover": {film.Here, clear, 2, 5.5, plan.NibsOnly, 0, 0, 0, 0, 70, []seen{{marks.Nib, 2, 0, 0, nil}}},
		}, nil},
		// The harbour master's estate, sprayed elsewhere: a door that is shut for flat, one
		// that the owner agreed on, one that she knows is tight, one whose clear was found
		// by asking, and one that is open.
		{HarbourID, taken("Harbour estate", body.Estate, plan.Dark, "Runa", "It was sprayed somewhere else before my time. I know that the bonnet is thin; the right side must not look worse than the left."), map[string]panelFacts{
			"L-fdoor": {film.Elsewhere, clear, 2, 8.0, plan.Flat, 168, 6, 0, 0, 0, []seen{{marks.Nib, 5, 0, 0, nil}}},
			"L-rdoor": {film.Elsewhere, clear, 2, 7.6, plan.Flat, 160, 6, 0, 0, 0, nil},
			"bonnet":  {film.Nowhere, clear, 0, 6.0, plan.Flat, 216, 6, 0, 0, 0, nil},
			"R-fdoor": {film.Nowhere, clear, 0, 6.0, plan.Flat, 158, 6, 0, 0, 0, nil},
			"R-wing":  {film.Elsewhere, clear, 3, 6.0, plan.Flat, 166, 5, 0, 0, 0, nil},
		}, map[string]asked{
			"L-fdoor": {clearcoat.UnderOver, 0, 0}, "L-rdoor": {clearcoat.UnderOver, 0, 25}, "R-fdoor": {clearcoat.UnderUnknown, 84, 0}, "R-wing": {clearcoat.UnderNew, 0, 0},
		}},
	}
}

// Fill takes the demo cars in, as if they had been marked and read in the hours
// before now.
func Fill(ctx context.Context, s *store.Store, now time.Time) error {
	for _, c := range demoCars() {
		if err := takeIn(ctx, s, c, now); err != nil {
			return fmt.Errorf("demo %s: %w", c.id, err)
		}
	}
	of := shop.New(s, func() time.Time { return now }, time.UTC)
	defer of.Close()
	if err := of.ChangeFace(ctx, func(f *house.Face) { f.Name = "Saltmarsh Refinish" }); err != nil {
		return fmt.Errorf("demo face: %w", err)
	}
	if err := hours(ctx, of, now); err != nil {
		return fmt.Errorf("demo hours: %w", err)
	}
	if err := tryFlap(ctx, of); err != nil {
		return fmt.Errorf("demo square: %w", err)
	}
	if err := acceptTwoSteps(ctx, of); err != nil {
		return fmt.Errorf("demo plan: %w", err)
	}
	if err := provenCoupe(ctx, s, now); err != nil {
		return fmt.Errorf("demo %s: %w", FerryID, err)
	}
	return nil
}

// tryFlap tells what a square on the milk float's flap showed: the chalk was off with the
// third pass of the usual way, and a fifth of the swirls is left.
func tryFlap(ctx context.Context, of *shop.Shop) error {
	flap := FloatID + ".panel"
	p, err := of.Panel(ctx, flap)
	if err != nil {
		return err
	}
	list, err := p.ToTry()
	if err != nil || len(list) == 0 {
		return errors.Join(err, errors.New("nothing to try"))
	}
	left, off := 0.2, 3
	_, err = of.AddSquare(ctx, flap, panelwork.NewSquare{ID: "demo-square-flap", Ladder: plan.Code(list[0].Choices), Person: "Issa", Left: &left, OffAfter: &off})
	return err
}

// acceptTwoSteps accepts what the owner of the hire saloon chose for its bonnet.
func acceptTwoSteps(ctx context.Context, of *shop.Shop) error {
	bonnet := HireID + ".bonnet"
	p, err := of.Panel(ctx, bonnet)
	if err != nil {
		return err
	}
	two, ok := p.Options.Packages(p.PlanHeadroom())[plan.TwoSteps]
	if !ok {
		return errors.New("two steps do not fit the bonnet")
	}
	_, err = of.AcceptPlan(ctx, bonnet, plan.Code(two.Choices), p.Basis())
	return err
}

// said is what was said of a panel when it was taken in.
func (f panelFacts) said(now time.Time) cars.Said {
	origin, aim := string(f.origin), string(f.aim)
	out := cars.Said{Origin: &origin, Layers: &f.layers, Coats: &f.coats, Aim: &aim, PeelGrade: &f.peel}
	if f.hours > 0 {
		at, air := now.Add(-time.Duration(f.hours*float64(time.Hour))), facts.AirDried
		out.SprayedAt, out.Cure = &at, &air
	}
	return out
}

func takeIn(ctx context.Context, s *store.Store, c car, now time.Time) error {
	rest, aim := string(factory), string(plan.PolishOnly)
	all, err := cars.NewCarRow(c.id, c.in, nil, now)
	if err != nil {
		return err
	}
	for _, p := range all.Panels {
		said := cars.Said{Origin: &rest, Aim: &aim}
		if f, ok := c.panels[p.Key]; ok {
			said = f.said(now)
			if under := string(c.asked[p.Key].under); under != "" {
				said.Under = &under
			}
			if w, ok := worns[c.id][p.Key]; ok {
				swirls, dead := string(w.swirls), string(w.dead)
				said.Condition = facts.SaidCondition{Swirls: &swirls, Dead: &dead, Gone: &w.gone}
			}
		}
		c.in.Groups = append(c.in.Groups, cars.Group{Keys: []string{p.Key}, Said: said})
	}
	row, err := cars.NewCarRow(c.id, c.in, nil, now)
	if err != nil {
		return err
	}
	row.CreatedAt = now.Add(-26 * time.Hour)
	if err := s.TakeIn(ctx, row); err != nil {
		return err
	}
	var readings []store.Reading
	for _, p := range row.Panels {
		f, ok := c.panels[p.Key]
		if !ok {
			continue
		}
		var shape flatlay.Panel
		if err := json.Unmarshal([]byte(p.Shape), &shape); err != nil {
			return fmt.Errorf("demo panel %s: %w", p.Key, err)
		}
		readings = append(readings, read(p.ID, shape, f, now)...)
		if a := c.asked[p.Key]; a.bare > 0 {
			readings = append(readings, store.Reading{ID: "demo-" + p.ID + "-bare", PanelID: p.ID, XMM: readings[len(readings)-1].XMM, YMM: readings[len(readings)-1].YMM,
				FilmUM: a.bare, Phase: store.PhaseBare, Source: store.SourceTyped, TakenAt: now.Add(-time.Hour)})
		} else if a.agreed > 0 {
			row := store.Floor{ID: "demo-" + p.ID + "-floor", CarID: row.ID, PanelID: &p.ID, FloorUM: a.agreed, Person: "the harbour master", Reason: "rather flat than thick", At: now.Add(-time.Hour)}
			if err := s.AddFloor(ctx, &row); err != nil {
				return err
			}
		}
		for _, m := range found(p, shape, f, row.Painter, now) {
			if err := s.AddMark(ctx, &m); err != nil {
				return err
			}
		}
	}
	_, err = s.AddReadings(ctx, readings, panelwork.MostReadings)
	return err
}

// random is a source of its own for each panel.
func random(key string) *rand.Rand {
	seed := uint64(0)
	for _, r := range key {
		seed = seed*31 + uint64(r)
	}
	return rand.New(rand.NewPCG(seed, 41))
}

// found scatters marks over the paint of a panel, clear of its edges.
func found(p store.Panel, shape flatlay.Panel, f panelFacts, person string, now time.Time) []store.Mark {
	rng := random("marks " + p.Key)
	w, h := shape.Size()
	var out []store.Mark
	for _, s := range f.marks {
		for range s.count {
			q := flatlay.Point{X: s.x, Y: s.y}
			for q.X == 0 || !shape.Inside(q) || shape.EdgeDistance(q) < 15 {
				q = flatlay.Point{X: math.Round(rng.Float64() * w), Y: math.Round(rng.Float64() * h)}
			}
			m := marks.Placed(s.kind, q.X, q.Y, f.peel)
			if s.set != nil {
				s.set(&m)
			}
			row := facts.MarkRow(m)
			row.ID, row.PanelID = fmt.Sprintf("demo-mark-%s-%d", p.ID, len(out)+1), p.ID
			row.Found, row.Person, row.Outcome = panelwork.FoundInBooth, person, store.OutcomeOpen
			row.At = now.Add(-90*time.Minute + time.Duration(len(out))*8*time.Second)
			out = append(out, row)
		}
	}
	return out
}

// read goes over a panel with a gauge: film that droops, waves with the gun's
// lanes, thins at edges, and a gauge that repeats within a µm.
func read(id string, shape flatlay.Panel, f panelFacts, now time.Time) []store.Reading {
	rng := random(shape.Key)
	w, h := shape.Size()
	spread := 1.0
	if f.origin == factory {
		spread = 0.4
	}
	shot := func(q flatlay.Point, level float64) float64 {
		e := film.Thin.Factor(shape.EdgeDistance(q), shape.CreaseDistance(q))
		u, v := 2*q.X/w-1, 2*q.Y/h-1
		shapeOf := 1 + spread*(0.045*v-0.02*u+0.02*math.Sin(q.Y/70))
		return math.Round(level*e*shapeOf + rng.NormFloat64()*1.2)
	}
	ground := film.NewGround(shape)
	spots := film.NextSpots(ground, ground.Cells, nil, 0, nil, f.spots)
	var out []store.Reading
	add := func(q flatlay.Point, um float64, phase string, at time.Time) {
		out = append(out, store.Reading{ID: fmt.Sprintf("demo-%s-%s-%d", id, phase, len(out)+1), PanelID: id,
			XMM: q.X, YMM: q.Y, FilmUM: um, Phase: phase, Source: store.SourceTyped, TakenAt: at})
	}
	for i, q := range spots[:min(f.before, len(spots))] {
		add(q, shot(q, f.under), store.PhaseBefore, now.Add(-25*time.Hour).Add(time.Duration(i)*40*time.Second))
	}
	for i, q := range spots {
		add(q, shot(q, f.level), store.PhaseTotal, now.Add(-2*time.Hour).Add(time.Duration(i)*35*time.Second))
	}
	return out
}
