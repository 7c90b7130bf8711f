package store

import (
	"context"
	"errors"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Gauges lists the shop's gauges.
func (s *Store) Gauges(ctx context.Context) ([]Gauge, error) {
	var out []Gauge
	err := s.read(ctx).Order("id = 'shop' DESC, id").Find(&out).Error
	return out, err
}

// Gauge finds one gauge.
func (s *Store) Gauge(ctx context.Context, id string) (Gauge, error) {
	var g Gauge
	err := s.read(ctx).First(&g, "id = ?", id).Error
	return g, missing(err)
}

// MeetGauge keeps a gauge that was not known, and leaves one that was.
func (s *Store) MeetGauge(ctx context.Context, g Gauge) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&g).Error })
}

// StudyGauge keeps what a study said of a gauge.
func (s *Store) StudyGauge(ctx context.Context, g Gauge) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Save(&g).Error })
}

// AddCheck keeps a check of a gauge.
func (s *Store) AddCheck(ctx context.Context, c GaugeCheck) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Create(&c).Error })
}

// LastCheck is the latest check of a gauge; nil without one.
func (s *Store) LastCheck(ctx context.Context, gauge string) (*GaugeCheck, error) {
	var c GaugeCheck
	err := s.read(ctx).Order("at DESC, id DESC").First(&c, "gauge_id = ?", gauge).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	return &c, err
}

// Setting is a value that holds for the whole shop, or the usual one.
func (s *Store) Setting(ctx context.Context, key, usual string) (string, error) {
	var v Setting
	err := s.read(ctx).First(&v, "key = ?", key).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return usual, nil
	}
	return v.Value, err
}

// SetSetting keeps such a value.
func (s *Store) SetSetting(ctx context.Context, key, value string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Save(&Setting{key, value}).Error })
}

// ChangeSetting changes such a value inside one transaction; usual stands in for one that
// was never set.
func (s *Store) ChangeSetting(ctx context.Context, key, usual string, change func(string) (string, error)) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		v := Setting{key, usual}
		if err := ignoreMissing(tx.First(&v, "key = ?", key).Error); err != nil {
			return err
		}
		value, err := change(v.Value)
		if err != nil {
			return err
		}
		return tx.Save(&Setting{key, value}).Error
	})
}

// SetZones keeps the zones of a panel, as JSON.
func (s *Store) SetZones(ctx context.Context, panel, zones string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Model(&Panel{}).Where("id = ?", panel).Update("zones", zones).Error })
}

// CarReadings lists the readings of all panels of a car, panel by panel.
func (s *Store) CarReadings(ctx context.Context, car string) ([]Reading, error) {
	var out []Reading
	err := s.read(ctx).Joins("JOIN panels ON panels.id = readings.panel_id").Where("panels.car_id = ?", car).
		Order("panels.seq, readings.seq").Find(&out).Error
	return out, err
}

// HasReading says whether a reading of that id is kept.
func (s *Store) HasReading(ctx context.Context, id string) (bool, error) {
	var n int64
	err := s.read(ctx).Model(&Reading{}).Where("id = ?", id).Count(&n).Error
	return n > 0, err
}
