package store

import (
	"context"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// pages is the migration that keeps what was shown of cars that were handed over: nothing is
// written to them any more, so it stays as it is.
var pages = []string{
	`CREATE TABLE pages (car_id TEXT NOT NULL REFERENCES cars(id), name TEXT NOT NULL, made TEXT NOT NULL, page BLOB NOT NULL, PRIMARY KEY (car_id, name))`,
}

// KeptPage is a page of a car as it was made; Made names what it was made of.
type KeptPage struct {
	CarID string `gorm:"primaryKey"`
	Name  string `gorm:"primaryKey"`
	Made  string
	Page  []byte
}

// TableName is that of the pages.
func (KeptPage) TableName() string { return "pages" }

// ClosedAs is the version of a car that was handed over; 0 of another one.
func (s *Store) ClosedAs(ctx context.Context, car string) (int64, error) {
	var out []int64
	err := s.read(ctx).Raw("SELECT v.version FROM cars c JOIN car_states v ON v.car_id = c.id WHERE c.id = ? AND c.handed_over_at IS NOT NULL", car).Scan(&out).Error
	if err != nil || len(out) == 0 {
		return 0, err
	}
	return out[0], nil
}

// Page of a car that was kept; nil for none.
func (s *Store) Page(ctx context.Context, car, name string) (*KeptPage, error) {
	var out []KeptPage
	if err := s.read(ctx).Limit(1).Find(&out, "car_id = ? AND name = ?", car, name).Error; err != nil || len(out) == 0 {
		return nil, err
	}
	return &out[0], nil
}

// KeepPage keeps a page of a car in place of one before it.
func (s *Store) KeepPage(ctx context.Context, p KeptPage) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&p).Error })
}
