package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// promised is the migration that keeps what owners took of what they were offered.
var promised = []string{
	`CREATE TABLE promises (id TEXT PRIMARY KEY, car_id TEXT NOT NULL REFERENCES cars(id), seq INTEGER NOT NULL, offer TEXT NOT NULL,
		hours_low REAL NOT NULL, hours REAL NOT NULL, hours_high REAL NOT NULL, price REAL NOT NULL, film_um REAL NOT NULL, clarity REAL NOT NULL, ready_at DATETIME,
		person TEXT NOT NULL, at DATETIME NOT NULL)`,
	`CREATE UNIQUE INDEX promises_of_car ON promises (car_id, seq)`,
	`CREATE TRIGGER promise_made AFTER INSERT ON promises BEGIN UPDATE car_states SET version = version + 1 WHERE car_id = NEW.car_id; END`,
	`CREATE TRIGGER closed_promise_new BEFORE INSERT ON promises WHEN (SELECT handed_over_at FROM cars WHERE id = NEW.car_id) IS NOT NULL BEGIN
		SELECT RAISE(ABORT, 'the car was handed over'); END`,
}

// Promise is an offer that an owner took: hours, price in the shop's money, µm of film of the
// panel that gives most, clarity, and when it was to be ready (nil where that was not known).
type Promise struct {
	ID       string `gorm:"primaryKey"`
	CarID    string
	Seq      int64
	Offer    string
	HoursLow float64
	Hours    float64
	// HoursHigh with HoursLow hold 8 of 10 such jobs.
	HoursHigh float64
	DoneH     float64 // planned hours of what was done before, which are not among them
	Price     float64
	FilmUM    float64 `gorm:"column:film_um"`
	Clarity   float64
	ReadyAt   *time.Time
	Person    string
	At        time.Time
}

// Promises of a car, in order: the last holds.
func (s *Store) Promises(ctx context.Context, car string) ([]Promise, error) {
	var out []Promise
	err := s.read(ctx).Order("seq").Find(&out, "car_id = ?", car).Error
	return out, err
}

// TakeOffer keeps a promise and changes the car's panels with it, together or not at all. An
// id that is kept already changes nothing.
func (s *Store) TakeOffer(ctx context.Context, p *Promise, change func(*Car) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var old []Promise
		if err := tx.Limit(1).Find(&old, "id = ?", p.ID).Error; err != nil {
			return err
		}
		if len(old) > 0 {
			if old[0].CarID != p.CarID || old[0].Offer != p.Offer {
				return ErrTaken
			}
			return nil
		}
		if err := changeCar(tx, p.CarID, &Car{}, change); err != nil {
			return err
		}
		if err := next(tx, &Promise{}, &p.Seq, "car_id = ?", p.CarID); err != nil {
			return err
		}
		return tx.Create(p).Error
	})
}
