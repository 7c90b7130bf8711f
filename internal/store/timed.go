package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// timed is the migration that keeps how long work took, as somebody said, and what was done
// before an offer was taken and what of the shelf was used for a car.
var timed = []string{
	`CREATE TABLE times (car_id TEXT NOT NULL REFERENCES cars(id), what TEXT NOT NULL, minutes REAL NOT NULL CHECK (minutes > 0), of_min REAL NOT NULL, paced TEXT NOT NULL,
		base_min REAL NOT NULL, took_min REAL NOT NULL, person TEXT NOT NULL, at DATETIME NOT NULL, PRIMARY KEY (car_id, what))`,
	`ALTER TABLE promises ADD COLUMN done_h REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE stock_moves ADD COLUMN car_id TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE stock_moves ADD COLUMN for_car REAL NOT NULL DEFAULT 0`,
	`CREATE INDEX stock_moves_for ON stock_moves (car_id) WHERE car_id <> ''`,
	`CREATE INDEX times_said ON times (at)`,
	ofCar("times", "INSERT", "NEW"), ofCar("times", "UPDATE", "NEW"), ofCar("times", "DELETE", "OLD"),
	closing("time_new", "INSERT ON times", "NEW.car_id"), closing("time_old", "UPDATE ON times", "NEW.car_id"), closing("time_gone", "DELETE ON times", "OLD.car_id"),
}

// TimeSaid is how many minutes some work on a car took, as somebody said. What names the work;
// Paced whose pace it teaches: TookMin of the minutes follow it, against BaseMin at a pace of 1.
type TimeSaid struct {
	CarID            string `gorm:"primaryKey"`
	What             string `gorm:"primaryKey"`
	Minutes          float64
	OfMin            float64 // minutes as planned of what was done by then
	Paced            string
	BaseMin, TookMin float64
	Person           string
	At               time.Time
}

// TableName is that of the times.
func (TimeSaid) TableName() string { return "times" }

// TimesSaid of a car.
func (s *Store) TimesSaid(ctx context.Context, car string) ([]TimeSaid, error) {
	var out []TimeSaid
	err := s.read(ctx).Order("at, what").Find(&out, "car_id = ?", car).Error
	return out, err
}

// LastTimesSaid of all cars, the last first.
func (s *Store) LastTimesSaid(ctx context.Context, most int) ([]TimeSaid, error) {
	var out []TimeSaid
	err := s.read(ctx).Order("at DESC").Limit(most).Find(&out).Error
	return out, err
}

// SayTime keeps a time in place of what was said before of the same work, or with no minutes
// takes that back.
func (s *Store) SayTime(ctx context.Context, t TimeSaid) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if t.Minutes == 0 {
			return tx.Delete(&TimeSaid{}, "car_id = ? AND what = ?", t.CarID, t.What).Error
		}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&t).Error
	})
}
