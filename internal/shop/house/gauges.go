package house

import (
	"context"
	"math"
	"time"

	"waxplanus/core/film"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/refuse"
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

// Gauge is a gauge with how its last check stands.
func (s *Service) Gauge(ctx context.Context, g store.Gauge) (*Gauge, error) {
	known := gaugeKnown(g)
	out := &Gauge{ID: g.ID, Name: g.Name, Repeat: film.Estimate{Mean: known.A, SD: g.DoubtUM}, Shots: g.Shots}
	if g.Shots == 0 {
		out.Repeat = film.StudyGauge(nil).A
	}
	last, err := s.Store.LastCheck(ctx, g.ID)
	if err != nil || last == nil {
		return out, err
	}
	out.Check = &GaugeCheck{At: last.At, Foil: last.FoilUM, Old: s.Now().Sub(last.At) > checkLasts}
	out.Check.Fault, out.Check.Off, out.Check.May = film.GaugeCheck{Zero: last.ZeroUM, Foil: last.FoilUM, Read: last.ReadUM}.Judge(known)
	return out, nil
}

// Gauges lists the shop's gauges.
func (s *Service) Gauges(ctx context.Context) ([]*Gauge, error) {
	rows, err := s.Store.Gauges(ctx)
	if err != nil {
		return nil, err
	}
	var out []*Gauge
	for _, row := range rows {
		g, err := s.Gauge(ctx, row)
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
func (s *Service) CheckGauge(ctx context.Context, id string, unit refuse.Unit, zero, foil, read float64) (*Gauge, error) {
	g, err := s.Store.Gauge(ctx, id)
	if err != nil {
		return nil, err
	}
	if unit != refuse.Micron && unit != refuse.Mil {
		return nil, refuse.Because(refuse.BadUnit, "unit")
	}
	c := store.GaugeCheck{GaugeID: g.ID, At: s.Now(), ZeroUM: unit.Microns(zero), FoilUM: unit.Microns(foil), ReadUM: unit.Microns(read)}
	switch {
	case !(math.Abs(c.ZeroUM) <= mostZero):
		return nil, refuse.Because(refuse.BadZero, "zero", zero)
	case !(c.FoilUM >= 0 && c.FoilUM <= files.FilmMost):
		return nil, refuse.Because(refuse.BadFoil, "foil")
	case c.FoilUM > 0 && !(c.ReadUM > 0 && c.ReadUM <= files.FilmMost):
		return nil, refuse.Because(refuse.BadFoilRead, "read", foil)
	}
	if err := s.Store.AddCheck(ctx, c); err != nil {
		return nil, err
	}
	return s.Gauge(ctx, g)
}

// StudyGauge takes a gauge's repeatability from shots of one place, in unit.
func (s *Service) StudyGauge(ctx context.Context, id string, unit refuse.Unit, shots []float64) (*Gauge, error) {
	g, err := s.Store.Gauge(ctx, id)
	if err != nil {
		return nil, err
	}
	if unit != refuse.Micron && unit != refuse.Mil {
		return nil, refuse.Because(refuse.BadUnit, "unit")
	}
	microns := make([]float64, len(shots))
	for i, v := range shots {
		microns[i] = unit.Microns(v)
		if text := files.FilmFault(microns[i], v, string(unit)); text != "" {
			return nil, refuse.Because(refuse.BadShot, "shots", i+1, text)
		}
	}
	study := film.StudyGauge(microns)
	if !study.Enough {
		return nil, refuse.Because(refuse.FewShots, "shots")
	}
	g.RepeatUM, g.DoubtUM, g.Shots = study.A.Mean, study.A.SD, study.N
	if err := s.Store.StudyGauge(ctx, g); err != nil {
		return nil, err
	}
	return s.Gauge(ctx, g)
}

// What bounds a zone: corners, and the least side of the box around it in mm.
const (
	LeastCorners = 3
	MostCorners  = 60
	LeastZone    = 60.0
	MostCoats    = 12
	FarOff       = 1e5 // mm, that no corner is
)
