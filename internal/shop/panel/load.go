package panel

import (
	"context"
	"errors"
	"fmt"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/store"
)

// batch is a car as it is loaded for as many of its panels as are asked for: what they have
// in common, and of each what is kept of it. All of it is remembered by its versions, which
// are read first: what is loaded later is no older.
type batch struct {
	*carRows
	*house.Common
	versions map[string]store.Versions
	rows     map[string]*store.Rows
	logs     map[string]*store.Log
}

// carRows are what the panels of a car have in common.
type carRows struct {
	Car      store.Car
	floors   []AgreedFloor
	siblings []Sibling
	carFilm  float64 // median of the car's factory panels, µm; 0 where none was read
}

// loadBatch loads what is common to panels of one car, which are of those versions.
func (s *Service) loadBatch(ctx context.Context, versions map[string]store.Versions) (*batch, error) {
	r := &batch{versions: versions, rows: map[string]*store.Rows{}, logs: map[string]*store.Log{}}
	var any store.Versions
	for _, any = range versions {
		break
	}
	var err error
	if r.Common, err = s.CommonOf(ctx, any.Shop); err != nil {
		return nil, err
	}
	r.carRows, err = s.carRows.Get(ctx, fmt.Sprintf("%s|%d", any.CarID, any.Facts), func(ctx context.Context) (*carRows, error) { return s.loadCarRows(ctx, any.CarID) })
	return r, err
}

func (s *Service) loadCarRows(ctx context.Context, id string) (*carRows, error) {
	out := &carRows{}
	var err error
	if out.Car, err = s.Store.Car(ctx, id); err != nil {
		return nil, err
	}
	out.siblings = siblingsOf(out.Car)
	if out.floors, err = s.Floors(ctx, id); err != nil {
		return nil, err
	}
	films, err := s.Store.FactoryFilms(ctx, id)
	if len(films) > 0 {
		out.carFilm = film.Median(films)
	}
	return out, err
}

// load has the rows of some panels at hand.
func (r *batch) load(ctx context.Context, s *Service, panels ...string) error {
	var logs, rows []string
	for _, id := range panels {
		if r.rows[id] == nil && !s.rows.Has(r.rowsKey(id)) {
			rows = append(rows, id)
		}
		if r.logs[id] != nil {
			continue
		}
		known, err := s.knownLog(ctx, r.versions[id])
		if err != nil {
			return err
		}
		if r.logs[id] = known; known == nil {
			logs = append(logs, id)
		}
	}
	if rows != nil {
		all, err := s.Store.Rows(ctx, rows)
		if err != nil {
			return err
		}
		for id, one := range all {
			r.rows[id], err = s.rows.Get(ctx, r.rowsKey(id), func(context.Context) (*store.Rows, error) { return one, nil })
			if err != nil {
				return err
			}
		}
	}
	if logs == nil {
		return nil
	}
	all, err := s.Store.Logs(ctx, logs)
	for id, one := range all {
		r.logs[id] = one
		s.logs.Put(id, one)
	}
	return err
}

// knownLog is the log of a panel as it is remembered, with what was added since; nil where
// it has to be read whole.
func (s *Service) knownLog(ctx context.Context, v store.Versions) (*store.Log, error) {
	known, ok := s.logs.Known(v.PanelID)
	if !ok || known.Logged >= v.Logged {
		return known, nil
	}
	on, err := s.Store.LogAfter(ctx, v.PanelID, known)
	if on != nil {
		s.logs.Put(v.PanelID, on)
	}
	return on, err
}

// rowsKey names what is kept of a panel beside its log.
func (r *batch) rowsKey(id string) string {
	v := r.versions[id]
	return fmt.Sprintf("%s|%d", id, v.Panel-v.Logged)
}

// rowsOf is what is kept of a panel beside its log.
func (r *batch) rowsOf(ctx context.Context, s *Service, id string) (*store.Rows, error) {
	if one := r.rows[id]; one != nil {
		return one, nil
	}
	return s.rows.Get(ctx, r.rowsKey(id), func(ctx context.Context) (*store.Rows, error) {
		all, err := s.Store.Rows(ctx, []string{id})
		return all[id], err
	})
}

// StateKey names a panel in one state: nothing that it is made from differs under one key.
func StateKey(v store.Versions) string {
	return fmt.Sprintf("%s|%d|%d|%d", v.PanelID, v.Car, v.Shop, v.Lessons)
}

// Panel is a panel with its film. It is remembered while nothing of its car and of the
// shop's rules and lessons changes.
func (s *Service) Panel(ctx context.Context, id string) (*Panel, error) {
	v, err := s.Store.Versions(ctx, id)
	if err != nil {
		return nil, err
	}
	p, err := s.Panels.Get(ctx, StateKey(v), func(ctx context.Context) (*Panel, error) {
		r, err := s.loadBatch(ctx, map[string]store.Versions{id: v})
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

// PanelOf is a panel of a car that is loaded, with its film.
func (s *Service) PanelOf(ctx context.Context, r *batch, id string) (*Panel, error) {
	p, err := s.Panels.Get(ctx, StateKey(r.versions[id]), func(ctx context.Context) (*Panel, error) { return s.readPanel(ctx, r, id) })
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

// OpenPanel is a panel with its sequences, without its film.
func (s *Service) OpenPanel(ctx context.Context, id string) (*Panel, error) {
	v, err := s.Store.Versions(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.PanelAt(ctx, v)
}

// PanelAt is panel for versions that were read already.
func (s *Service) PanelAt(ctx context.Context, v store.Versions) (*Panel, error) {
	r, err := s.loadBatch(ctx, map[string]store.Versions{v.PanelID: v})
	if err != nil {
		return nil, err
	}
	return s.LoadPanel(ctx, r, v.PanelID)
}

func (s *Service) readPanel(ctx context.Context, r *batch, id string) (*Panel, error) {
	p, err := s.LoadPanel(ctx, r, id)
	if err != nil {
		return nil, err
	}
	return p, s.ReadFilm(ctx, p)
}

func (s *Service) LoadPanel(ctx context.Context, r *batch, id string) (*Panel, error) {
	row := FirstOf(r.Car.Panels, func(p store.Panel) bool { return p.ID == id })
	if row == nil {
		return nil, store.ErrMissing
	}
	if err := r.load(ctx, s, id); err != nil {
		return nil, err
	}
	p := &Panel{ID: row.ID, Key: row.Key, Name: row.Name, Panel: facts.PanelOf(*row), Car: facts.CarOf(r.Car), Siblings: r.siblings, zonesText: row.Zones,
		House: r.House, Floors: r.floors, carFilm: r.carFilm, RowsAt: r.versions[id].Panel, Of: r.versions[id].House, people: r.People, Answers: &Answers{}, Now: s.Now}
	p.Years = p.YearsAt(s.Now)
	if err := s.putRows(ctx, p, r, *row); err != nil {
		return nil, fmt.Errorf("%s, %s: %w", r.Car.Name, row.Name, err)
	}
	return p, nil
}

func (s *Service) putRows(ctx context.Context, p *Panel, r *batch, row store.Panel) error {
	rows, err := r.rowsOf(ctx, s, row.ID)
	if err != nil {
		return err
	}
	if p.Ground, err = s.Ground(ctx, row.Shape); err != nil {
		return &Unreadable{PanelID: row.ID, What: "outline", Err: err}
	}
	p.Shape, p.Sections = p.Ground.Panel, p.Ground.Sections
	if p.Zones, err = facts.ZonesOf(row); err != nil {
		return &Unreadable{PanelID: row.ID, What: "zones", Err: err}
	}
	for _, reading := range rows.Readings {
		p.Readings = append(p.Readings, facts.ReadingOf(reading))
	}
	p.Gauge = r.pooled(p.Readings)
	p.Marks = facts.MarksOf(rows.Marks)
	p.Grade = plan.ReferenceGrade(p.factoryGrades())
	if p.Origin == film.Here {
		if p.coats, err = s.CoatRatio(ctx, r.versions[row.ID].Lessons, row.ID); err != nil {
			return err
		}
	}
	if p.Substrate == facts.Plastic {
		if p.Borrowed, err = s.borrow(ctx, r, p); err != nil {
			return err
		}
	}
	if rows.Plan != nil && rows.Plan.EndedAt == nil {
		p.Record = RecordOf(*rows.Plan)
	}
	if err := s.applyLog(ctx, p, r.logs[row.ID].Entries); err != nil {
		return err
	}
	if d := rows.Decided; d != nil && d.Kind == store.ProofKept && !p.CutSince("", d.At) {
		kept := ProofOf(*d)
		p.Kept = &kept
	}
	return nil
}

// pooled is the gauge that a panel was read with.
func (r *batch) pooled(readings []facts.Reading) film.Gauge {
	used := map[string]int{}
	for _, one := range readings {
		if one.Struck == nil {
			used[GaugeID(one)]++
		}
	}
	var gauges []film.Gauge
	var counts []int
	for id, n := range used {
		g, known := r.Gauges[id]
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
