package shop

import (
	"context"
	"errors"
	"fmt"
	"strconv"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
)

// round is a car as it is loaded for as many of its panels as are asked for: what they have
// in common, and of each what is kept of it. All of it is remembered by its versions, which
// are read first: what is loaded later is no older.
type round struct {
	*carRows
	*quarters
	versions map[string]store.Versions
	rows     map[string]*store.Rows
	logs     map[string]*store.Log
}

// carRows are what the panels of a car have in common.
type carRows struct {
	car      store.Car
	floors   []AgreedFloor
	siblings []sibling
	carFilm  float64 // median of the car's factory panels, µm; 0 where none was read
}

// quarters are what all panels of the shop have in common.
type quarters struct {
	house    House
	gauges   map[string]film.Gauge
	people   []store.Person
	settings Settings
}

// goRound loads what is common to panels of one car, which are of those versions.
func (s *Shop) goRound(ctx context.Context, versions map[string]store.Versions) (*round, error) {
	r := &round{versions: versions, rows: map[string]*store.Rows{}, logs: map[string]*store.Log{}}
	var any store.Versions
	for _, any = range versions {
		break
	}
	var err error
	if r.quarters, err = s.quartersOf(ctx, any.Shop); err != nil {
		return nil, err
	}
	r.carRows, err = s.carRows.get(ctx, fmt.Sprintf("%s|%d", any.CarID, any.Facts), func(ctx context.Context) (*carRows, error) { return s.loadCarRows(ctx, any.CarID) })
	return r, err
}

func (s *Shop) loadCarRows(ctx context.Context, id string) (*carRows, error) {
	out := &carRows{}
	var err error
	if out.car, err = s.store.Car(ctx, id); err != nil {
		return nil, err
	}
	out.siblings = siblingsOf(out.car)
	if out.floors, err = s.floors(ctx, id); err != nil {
		return nil, err
	}
	films, err := s.store.FactoryFilms(ctx, id)
	if len(films) > 0 {
		out.carFilm = film.Median(films)
	}
	return out, err
}

func (s *Shop) quartersOf(ctx context.Context, version int64) (*quarters, error) {
	return s.houses.get(ctx, strconv.FormatInt(version, 10), func(ctx context.Context) (*quarters, error) {
		out := &quarters{gauges: map[string]film.Gauge{}}
		var err error
		if out.house, err = s.House(ctx); err != nil {
			return nil, err
		}
		gauges, err := s.store.Gauges(ctx)
		if err != nil {
			return nil, err
		}
		for _, g := range gauges {
			last, err := s.store.LastCheck(ctx, g.ID)
			if err != nil {
				return nil, err
			}
			known := gaugeKnown(g)
			if last != nil {
				known = film.GaugeCheck{Zero: last.ZeroUM, Foil: last.FoilUM, Read: last.ReadUM}.Widened(known)
			}
			out.gauges[g.ID] = known
		}
		if out.people, err = s.store.People(ctx); err != nil {
			return nil, err
		}
		if out.settings, err = s.loadSettings(ctx); err == nil {
			out.house.Zone = out.settings.Zone
		}
		return out, err
	})
}

// load has the rows of some panels at hand.
func (r *round) load(ctx context.Context, s *Shop, panels ...string) error {
	var logs, rows []string
	for _, id := range panels {
		if r.rows[id] == nil && !s.rows.has(r.rowsKey(id)) {
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
		all, err := s.store.Rows(ctx, rows)
		if err != nil {
			return err
		}
		for id, one := range all {
			r.rows[id], err = s.rows.get(ctx, r.rowsKey(id), func(context.Context) (*store.Rows, error) { return one, nil })
			if err != nil {
				return err
			}
		}
	}
	if logs == nil {
		return nil
	}
	all, err := s.store.Logs(ctx, logs)
	for id, one := range all {
		r.logs[id] = one
		s.logs.put(id, one)
	}
	return err
}

// knownLog is the log of a panel as it is remembered, with what was added since; nil where
// it has to be read whole.
func (s *Shop) knownLog(ctx context.Context, v store.Versions) (*store.Log, error) {
	known, ok := s.logs.known(v.PanelID)
	if !ok || known.Logged >= v.Logged {
		return known, nil
	}
	on, err := s.store.LogAfter(ctx, v.PanelID, known)
	if on != nil {
		s.logs.put(v.PanelID, on)
	}
	return on, err
}

// rowsKey names what is kept of a panel beside its log.
func (r *round) rowsKey(id string) string {
	v := r.versions[id]
	return fmt.Sprintf("%s|%d", id, v.Panel-v.Logged)
}

// rowsOf is what is kept of a panel beside its log.
func (r *round) rowsOf(ctx context.Context, s *Shop, id string) (*store.Rows, error) {
	if one := r.rows[id]; one != nil {
		return one, nil
	}
	return s.rows.get(ctx, r.rowsKey(id), func(ctx context.Context) (*store.Rows, error) {
		all, err := s.store.Rows(ctx, []string{id})
		return all[id], err
	})
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
		r, err := s.goRound(ctx, map[string]store.Versions{id: v})
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
	v, err := s.store.Versions(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.panelAt(ctx, v)
}

// panelAt is panel for versions that were read already.
func (s *Shop) panelAt(ctx context.Context, v store.Versions) (*Panel, error) {
	r, err := s.goRound(ctx, map[string]store.Versions{v.PanelID: v})
	if err != nil {
		return nil, err
	}
	return s.loadPanel(ctx, r, v.PanelID)
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
		House: r.house, Floors: r.floors, carFilm: r.carFilm, version: r.versions[id].Panel, of: r.versions[id].House, people: r.people, asked: &asked{}, now: s.now}
	p.years = p.yearsAt(s.now)
	if err := s.putRows(ctx, p, r, *row); err != nil {
		return nil, fmt.Errorf("%s, %s: %w", r.car.Name, row.Name, err)
	}
	return p, nil
}

func (s *Shop) putRows(ctx context.Context, p *Panel, r *round, row store.Panel) error {
	rows, err := r.rowsOf(ctx, s, row.ID)
	if err != nil {
		return err
	}
	if p.ground, err = s.ground(ctx, row.Shape); err != nil {
		return &Unreadable{PanelID: row.ID, What: "outline", Err: err}
	}
	p.Shape, p.Sections = p.ground.Panel, p.ground.Sections
	if p.Zones, err = zonesOf(row); err != nil {
		return &Unreadable{PanelID: row.ID, What: "zones", Err: err}
	}
	for _, reading := range rows.Readings {
		p.Readings = append(p.Readings, readingOf(reading))
	}
	p.gauge = r.pooled(p.Readings)
	p.Marks = marksOf(rows.Marks)
	p.Grade = plan.ReferenceGrade(p.factoryGrades())
	if p.Origin == film.Here {
		if p.coats, err = s.coatRatio(ctx, r.versions[row.ID].Lessons, row.ID); err != nil {
			return err
		}
	}
	if p.Substrate == Plastic {
		if p.borrowed, err = s.borrow(ctx, r, p); err != nil {
			return err
		}
	}
	if rows.Plan != nil && rows.Plan.EndedAt == nil {
		p.Record = recordOf(*rows.Plan)
	}
	if err := s.applyLog(ctx, p, r.logs[row.ID].Entries); err != nil {
		return err
	}
	if d := rows.Decided; d != nil && d.Kind == store.ProofKept && !p.cutSince("", d.At) {
		kept := proofOf(*d)
		p.Kept = &kept
	}
	return nil
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
