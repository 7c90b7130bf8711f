package house

import (
	"context"
	"strconv"
	"time"

	"waxplanus/core/film"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Common are what all panels of the shop have in common.
type Common struct {
	House    House
	Gauges   map[string]film.Gauge
	People   []store.Person
	Settings Settings
}

func (s *Service) CommonOf(ctx context.Context, version int64) (*Common, error) {
	return s.commons.Get(ctx, strconv.FormatInt(version, 10), func(ctx context.Context) (*Common, error) {
		out := &Common{Gauges: map[string]film.Gauge{}}
		var err error
		if out.House, err = s.House(ctx); err != nil {
			return nil, err
		}
		gauges, err := s.Store.Gauges(ctx)
		if err != nil {
			return nil, err
		}
		for _, g := range gauges {
			last, err := s.Store.LastCheck(ctx, g.ID)
			if err != nil {
				return nil, err
			}
			known := gaugeKnown(g)
			if last != nil {
				known = film.GaugeCheck{Zero: last.ZeroUM, Foil: last.FoilUM, Read: last.ReadUM}.Widened(known)
			}
			out.Gauges[g.ID] = known
		}
		if out.People, err = s.Store.People(ctx); err != nil {
			return nil, err
		}
		if out.Settings, err = s.loadSettings(ctx); err == nil {
			out.House.Zone = out.Settings.Zone
		}
		return out, err
	})
}

// The keys of settings that hold for the whole shop.
const (
	unitSetting  = "unit"
	zoneSetting  = "time_zone"
	rulesSetting = "house_rules"
)

// Settings are what holds for the whole shop: how it shows itself, the unit of films, and the
// time zone that times are shown in. ZoneSet says that it was chosen; else it is that of the
// machine.
type Settings struct {
	Face
	Unit    refuse.Unit
	Zone    *time.Location
	ZoneSet bool
}

// Settings of the shop.
func (s *Service) Settings(ctx context.Context) (Settings, error) {
	v, err := s.Store.HouseVersion(ctx)
	if err != nil {
		return Settings{}, err
	}
	q, err := s.CommonOf(ctx, v.Shop)
	if err != nil {
		return Settings{}, err
	}
	return q.Settings, nil
}

func (s *Service) loadSettings(ctx context.Context) (Settings, error) {
	unit, err := s.Store.Setting(ctx, unitSetting, string(refuse.Micron))
	if err != nil {
		return Settings{}, err
	}
	name, err := s.Store.Setting(ctx, zoneSetting, "")
	if err != nil {
		return Settings{}, err
	}
	out := Settings{Unit: refuse.Unit(unit), Zone: s.Zone, ZoneSet: name != ""}
	if out.ZoneSet {
		if out.Zone, err = time.LoadLocation(name); err != nil {
			return out, err
		}
	}
	out.Face, err = s.loadFace(ctx)
	return out, err
}

// ChangeSettings changes what is given; an empty Unit and a nil zone stay.
func (s *Service) ChangeSettings(ctx context.Context, unit refuse.Unit, zone *string) (Settings, error) {
	if unit != "" && unit != refuse.Micron && unit != refuse.Mil {
		return Settings{}, refuse.Because(refuse.BadUnit, "unit")
	}
	if zone != nil && *zone != "" {
		if _, err := time.LoadLocation(*zone); err != nil {
			return Settings{}, refuse.Because(refuse.BadZone, "time_zone", *zone)
		}
	}
	if unit != "" {
		if err := s.Store.SetSetting(ctx, unitSetting, string(unit)); err != nil {
			return Settings{}, err
		}
	}
	if zone != nil {
		if err := s.Store.SetSetting(ctx, zoneSetting, *zone); err != nil {
			return Settings{}, err
		}
	}
	return s.Settings(ctx)
}
