package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/store"
)

// Gauge is a film gauge of the shop with what is known of it, and how its last check
// stands.
type Gauge struct {
	ID, Name string
	Repeat   film.Estimate // µm
	Shots    int           // of its study, 0 for none
	Check    *GaugeCheck   // nil where it was never looked at
}

// GaugeCheck is the last look at zero and foil: what is wrong, by how much (µm) it is
// off and how much it may be. Old says that it was over a day ago.
type GaugeCheck struct {
	At       time.Time
	Foil     float64 // µm
	Fault    film.CheckFault
	Off, May float64
	Old      bool
}

// Fine says whether the gauge was found in order, lately.
func (g Gauge) Fine() bool { return g.Check != nil && g.Check.Fault == film.CheckFine && !g.Check.Old }

// checkLasts is how long a check of a gauge holds: zero and foil once a day.
const checkLasts = 24 * time.Hour

// gaugeKnown is what is known of a gauge: studied, or usual.
func gaugeKnown(g store.Gauge) film.Gauge {
	out := film.UsualGauge
	if g.RepeatUM > 0 {
		out.A = g.RepeatUM
	}
	return out
}

func gaugeID(r Reading) string {
	if r.Gauge == "" {
		return store.ShopGauge
	}
	return r.Gauge
}

// gauge is a gauge with how its last check stands.
func (s *Shop) gauge(ctx context.Context, g store.Gauge) (*Gauge, error) {
	known := gaugeKnown(g)
	out := &Gauge{ID: g.ID, Name: g.Name, Repeat: film.Estimate{Mean: known.A, SD: g.DoubtUM}, Shots: g.Shots}
	if g.Shots == 0 {
		out.Repeat = film.StudyGauge(nil).A
	}
	last, err := s.store.LastCheck(ctx, g.ID)
	if err != nil || last == nil {
		return out, err
	}
	out.Check = &GaugeCheck{At: last.At, Foil: last.FoilUM, Old: s.now().Sub(last.At) > checkLasts}
	out.Check.Fault, out.Check.Off, out.Check.May = film.GaugeCheck{Zero: last.ZeroUM, Foil: last.FoilUM, Read: last.ReadUM}.Judge(known)
	return out, nil
}

// Gauges lists the shop's gauges.
func (s *Shop) Gauges(ctx context.Context) ([]*Gauge, error) {
	rows, err := s.store.Gauges(ctx)
	if err != nil {
		return nil, err
	}
	var out []*Gauge
	for _, row := range rows {
		g, err := s.gauge(ctx, row)
		if err != nil {
			return nil, err
		}
		out = append(out, g)
	}
	return out, nil
}

// mostZero is how far off a gauge may read on bare metal before it is no zero, µm.
const mostZero = 50.0

// CheckGauge keeps a check of zero and foil, in unit; a foil of 0 is none.
func (s *Shop) CheckGauge(ctx context.Context, id string, unit Unit, zero, foil, read float64) (*Gauge, error) {
	g, err := s.store.Gauge(ctx, id)
	if err != nil {
		return nil, err
	}
	if unit != Micron && unit != Mil {
		return nil, Refuse(BadUnit, "unit")
	}
	c := store.GaugeCheck{GaugeID: g.ID, At: s.now(), ZeroUM: unit.Microns(zero), FoilUM: unit.Microns(foil), ReadUM: unit.Microns(read)}
	switch {
	case !(math.Abs(c.ZeroUM) <= mostZero):
		return nil, Refuse(BadZero, "zero", zero)
	case !(c.FoilUM >= 0 && c.FoilUM <= files.FilmMost):
		return nil, Refuse(BadFoil, "foil")
	case c.FoilUM > 0 && !(c.ReadUM > 0 && c.ReadUM <= files.FilmMost):
		return nil, Refuse(BadFoilRead, "read", foil)
	}
	if err := s.store.AddCheck(ctx, c); err != nil {
		return nil, err
	}
	return s.gauge(ctx, g)
}

// StudyGauge takes a gauge's repeatability from shots of one place, in unit.
func (s *Shop) StudyGauge(ctx context.Context, id string, unit Unit, shots []float64) (*Gauge, error) {
	g, err := s.store.Gauge(ctx, id)
	if err != nil {
		return nil, err
	}
	if unit != Micron && unit != Mil {
		return nil, Refuse(BadUnit, "unit")
	}
	microns := make([]float64, len(shots))
	for i, v := range shots {
		microns[i] = unit.Microns(v)
		if text := files.FilmFault(microns[i], v, string(unit)); text != "" {
			return nil, Refuse(BadShot, "shots", i+1, text)
		}
	}
	study := film.StudyGauge(microns)
	if !study.Enough {
		return nil, Refuse(FewShots, "shots")
	}
	g.RepeatUM, g.DoubtUM, g.Shots = study.A.Mean, study.A.SD, study.N
	if err := s.store.StudyGauge(ctx, g); err != nil {
		return nil, err
	}
	return s.gauge(ctx, g)
}

// Target is a place that the probe is put on, with what is known of it: the distance to
// the nearest edge and the panel's size in mm, and the film in µm, 0 where nothing was
// read.
type Target struct {
	*Panel
	At                  flatlay.Point
	Edge, Width, Height float64
	Film                float64
}

// Target is the place of a panel that is open for the probe.
func (s *Shop) Target(ctx context.Context, panelID string, at flatlay.Point) (Target, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return Target{}, err
	}
	out := Target{Panel: p, At: at, Edge: p.Shape.EdgeDistance(at)}
	out.Width, out.Height = p.Shape.Size()
	if p.Study != nil {
		out.Film = math.Round(p.Study.Map.Level().Mean)
	}
	return out, nil
}

// What bounds a zone: corners, and the least side of the box around it in mm.
const (
	leastCorners = 3
	mostCorners  = 60
	leastZone    = 60.0
	mostCoats    = 12
	farOff       = 1e5 // mm, that no corner is
)

func (z Zone) check(no int) error {
	if !slices.Contains(origins, z.Origin) || !slices.Contains(layerKinds, z.Layers) || z.Coats < 0 || z.Coats > mostCoats {
		return Refuse(BadZoneFacts, "zones", no, mostCoats)
	}
	if n := len(z.Outline); n < leastCorners || n > mostCorners {
		return Refuse(ZoneCorners, "zones", no, CountOf(n, "corner"), leastCorners, mostCorners)
	}
	var xs, ys []float64
	for j, q := range z.Outline {
		if !(math.Abs(q.X)+math.Abs(q.Y) <= farOff) {
			return Refuse(ZonePlace, "zones", j+1, no)
		}
		xs, ys = append(xs, q.X), append(ys, q.Y)
	}
	if w, h := slices.Max(xs)-slices.Min(xs), slices.Max(ys)-slices.Min(ys); w < leastZone || h < leastZone {
		return Refuse(SmallZone, "zones", no, Length(w), Length(h), Length(leastZone))
	}
	if err := flatlay.CheckRing(z.Outline, fmt.Sprintf("Zone %d", no)); err != nil {
		return Refuse(BadValue, "zones", err.Error()+".")
	}
	return nil
}

// on says whether any of a zone lies on the paint of a panel.
func (z Zone) on(p *Panel) bool {
	return slices.ContainsFunc(p.ground.Cells, func(q flatlay.Point) bool { return flatlay.Within(z.Outline, q) })
}

// SetZones keeps the parts of a panel that have a history of their own.
func (s *Shop) SetZones(ctx context.Context, panelID string, zones []Zone) ([]Zone, error) {
	p, err := s.panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	if p.Worked() {
		return nil, conflict(ZonesWorked, p.Name)
	}
	for i, z := range zones {
		if err := z.check(i + 1); err != nil {
			return nil, err
		}
		if !z.on(p) {
			return nil, Refuse(ZoneOff, "zones", i+1, p.Name)
		}
	}
	raw, err := json.Marshal(zones)
	if err != nil {
		return nil, err
	}
	return zones, s.store.SetZones(ctx, p.ID, string(raw))
}
