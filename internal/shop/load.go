package shop

import (
	"context"
	"errors"
	"fmt"
	"maps"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
)

// round is a car with all that its panels have in common, loaded once for as many of them
// as are asked for.
type round struct {
	car      store.Car
	house    House
	floors   []AgreedFloor
	carFilm  float64 // median of the car's factory panels, µm; 0 where none was read
	siblings []sibling
	gauges   map[string]film.Gauge
	versions map[string]store.Versions
	rows     map[string]*store.Rows
}

// goRound loads what is common to the panels of a car.
func (s *Shop) goRound(ctx context.Context, car string) (*round, error) {
	r := &round{rows: map[string]*store.Rows{}, gauges: map[string]film.Gauge{}}
	var err error
	if r.versions, err = s.store.CarVersions(ctx, car); err != nil { // first: what is loaded later is no older
		return nil, err
	}
	if r.car, err = s.store.Car(ctx, car); err != nil {
		return nil, err
	}
	r.siblings = siblingsOf(r.car)
	if r.house, err = s.House(ctx); err != nil {
		return nil, err
	}
	if r.floors, err = s.floors(ctx, car); err != nil {
		return nil, err
	}
	films, err := s.store.FactoryFilms(ctx, car)
	if err != nil {
		return nil, err
	}
	if len(films) > 0 {
		r.carFilm = film.Median(films)
	}
	gauges, err := s.store.Gauges(ctx)
	for _, g := range gauges {
		r.gauges[g.ID] = gaugeKnown(g)
	}
	return r, err
}

// load has the rows of some panels at hand.
func (r *round) load(ctx context.Context, s *Shop, panels ...string) error {
	var missing []string
	for _, id := range panels {
		if r.rows[id] == nil {
			missing = append(missing, id)
		}
	}
	if missing == nil {
		return nil
	}
	rows, err := s.store.Rows(ctx, missing)
	maps.Copy(r.rows, rows)
	return err
}

// stateKey names a panel in one state: nothing that it is made from differs under one key.
func stateKey(v store.Versions) string {
	return fmt.Sprintf("%s|%d|%d|%d", v.PanelID, v.Car, v.Shop, v.Lessons)
}

// Panel is a panel with its film. It is remembered while nothing of its car and of the
// shop's rules and lessons changes.
func (s *Shop) Panel(ctx context.Context, id string) (*Panel, error) {
	v, err := s.store.Versions(ctx, id)
	if err != nil {
		return nil, err
	}
	p, err := s.panels.get(ctx, stateKey(v), func(ctx context.Context) (*Panel, error) {
		r, err := s.goRound(ctx, v.CarID)
		if err != nil {
			return nil, err
		}
		return s.readPanel(ctx, r, id)
	})
	if err != nil {
		return nil, err
	}
	return p.fresh(), nil
}

// panelOf is a panel of a car that is loaded, with its film.
func (s *Shop) panelOf(ctx context.Context, r *round, id string) (*Panel, error) {
	p, err := s.panels.get(ctx, stateKey(r.versions[id]), func(ctx context.Context) (*Panel, error) { return s.readPanel(ctx, r, id) })
	if err != nil {
		return nil, err
	}
	return p.fresh(), nil
}

// fresh is a panel as it is remembered, for one who asks: what they put into it is their own.
func (p *Panel) fresh() *Panel {
	out := *p
	return &out
}

// panel is a panel with its sequences, without its film.
func (s *Shop) panel(ctx context.Context, id string) (*Panel, error) {
	row, err := s.store.Panel(ctx, id)
	if err != nil {
		return nil, err
	}
	r, err := s.goRound(ctx, row.CarID)
	if err != nil {
		return nil, err
	}
	return s.loadPanel(ctx, r, id)
}

func (s *Shop) readPanel(ctx context.Context, r *round, id string) (*Panel, error) {
	p, err := s.loadPanel(ctx, r, id)
	if err != nil {
		return nil, err
	}
	return p, s.readFilm(ctx, p)
}

func (s *Shop) loadPanel(ctx context.Context, r *round, id string) (*Panel, error) {
	row := find(r.car.Panels, func(p store.Panel) bool { return p.ID == id })
	if row == nil {
		return nil, store.ErrMissing
	}
	if err := r.load(ctx, s, id); err != nil {
		return nil, err
	}
	p := &Panel{ID: row.ID, Key: row.Key, Name: row.Name, Known: knownOf(*row), Car: carFactsOf(r.car), siblings: r.siblings, zonesText: row.Zones,
		House: r.house, Floors: r.floors, carFilm: r.carFilm, version: r.versions[id].Panel, asked: &asked{}}
	if err := s.putRows(ctx, p, r, *row); err != nil {
		return nil, fmt.Errorf("%s, %s: %w", r.car.Name, row.Name, err)
	}
	return p, nil
}

func (s *Shop) putRows(ctx context.Context, p *Panel, r *round, row store.Panel) error {
	var err error
	if p.ground, err = s.ground(ctx, row.Shape); err != nil {
		return &Unreadable{PanelID: row.ID, What: "outline", Err: err}
	}
	p.Shape, p.Sections = p.ground.Panel, p.ground.Sections
	if p.Zones, err = zonesOf(row); err != nil {
		return &Unreadable{PanelID: row.ID, What: "zones", Err: err}
	}
	rows := r.rows[row.ID]
	for _, reading := range rows.Readings {
		p.Readings = append(p.Readings, readingOf(reading))
	}
	p.gauge = r.pooled(p.Readings)
	p.Marks = marksOf(rows.Marks)
	p.Grade = plan.ReferenceGrade(p.factoryGrades())
	if p.Origin == film.Here {
		if p.coats, err = s.coatRatio(ctx, row.ID); err != nil {
			return err
		}
	}
	if p.Substrate == Plastic {
		if p.borrowed, err = s.borrow(ctx, r, p); err != nil {
			return err
		}
	}
	if rows.Plan != nil {
		p.Record = recordOf(*rows.Plan)
	}
	return s.applyLog(ctx, p, rows.Entries)
}

// pooled is the gauge that a panel was read with.
func (r *round) pooled(readings []Reading) film.Gauge {
	used := map[string]int{}
	for _, one := range readings {
		if one.Struck == nil {
			used[gaugeID(one)]++
		}
	}
	var gauges []film.Gauge
	var counts []int
	for id, n := range used {
		g, known := r.gauges[id]
		if !known {
			g = film.UsualGauge
		}
		gauges, counts = append(gauges, g), append(counts, n)
	}
	return film.Pooled(gauges, counts)
}

// Unreadable says that a row of a panel cannot be read.
type Unreadable struct {
	PanelID, What string
	Err           error
}

func (u *Unreadable) Error() string {
	return fmt.Sprintf("%s of panel %s: %v", u.What, u.PanelID, u.Err)
}

// Unwrap gives why.
func (u *Unreadable) Unwrap() error { return u.Err }

// IsUnreadable says whether an error is that a row cannot be read.
func IsUnreadable(err error) bool {
	var u *Unreadable
	return errors.As(err, &u)
}
