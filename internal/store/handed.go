package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ErrClosed says that a car was handed over: nothing is written to it before it is opened
// again.
var ErrClosed = errors.New("the car was handed over")

// The kinds of handovers.
const (
	KindHanded    = "handed"
	KindReopened  = "reopened"
	KindForgotten = "forgotten" // what was known of the owner was deleted
)

// Handover is what happened to a car at the end: it was handed over, opened again for a reason,
// or what was known of its owner was deleted. It is never deleted. Facts are what was told and
// in what state, as JSON; Seal is a digest of the film record as it was then.
type Handover struct {
	ID     string `gorm:"primaryKey"`
	CarID  string
	Seq    int64 // order of keeping, from 1 on each car
	Kind   string
	Person string
	Reason string
	Facts  string
	Seal   string
	OnDay  time.Time // when the car left, as somebody said
	At     time.Time
}

// handed is the migration that closes cars: what happened at their end, what goes into their
// reports, and nothing written to one that was handed over.
var handed = append([]string{
	`CREATE TABLE handovers (
		id TEXT PRIMARY KEY, car_id TEXT NOT NULL REFERENCES cars(id), seq INTEGER NOT NULL,
		kind TEXT NOT NULL CHECK (kind IN ('handed','reopened','forgotten')), person TEXT NOT NULL, reason TEXT NOT NULL,
		facts TEXT NOT NULL, seal TEXT NOT NULL, on_day DATETIME NOT NULL, at DATETIME NOT NULL, UNIQUE (car_id, seq))`,
	ofCar("handovers", "INSERT", "NEW"),
	`CREATE TABLE reports (car_id TEXT PRIMARY KEY REFERENCES cars(id), choices TEXT NOT NULL)`,
	ofCar("reports", "INSERT", "NEW"), ofCar("reports", "UPDATE", "NEW"),
	`ALTER TABLE cars ADD COLUMN forgotten_at DATETIME`,
	`INSERT INTO car_names (car_names, rank) VALUES ('secure-delete', 1)`,
}, closings()...)

// closings refuse what would change a car that was handed over. Times and files of photos that
// the shop's rule lets go are not among it.
func closings() []string {
	const ofPanel, ofPlan, ofMark, ofItsCar, itself = "(SELECT car_id FROM panels WHERE id = NEW.panel_id)", "(SELECT car_id FROM panels WHERE id = (SELECT panel_id FROM plans WHERE id = NEW.plan_id))",
		"(SELECT car_id FROM panels WHERE id = (SELECT panel_id FROM marks WHERE id = NEW.mark_id))", "NEW.car_id", "NEW.id"
	var out []string
	for _, c := range []struct{ name, when, car string }{
		{"reading_new", "INSERT ON readings", ofPanel}, {"reading_old", "UPDATE ON readings", ofPanel},
		{"entry_new", "INSERT ON entries", ofPanel}, {"entry_old", "UPDATE ON entries", ofPanel},
		{"mark_new", "INSERT ON marks", ofPanel}, {"mark_old", "UPDATE ON marks", ofPanel},
		{"photo_new", "INSERT ON photos", ofMark}, {"photo_old", "UPDATE ON photos", ofMark},
		{"plan_new", "INSERT ON plans", ofPanel}, {"plan_old", "UPDATE ON plans", ofPanel}, {"step_new", "INSERT ON steps", ofPlan},
		{"try_new", "INSERT ON tries", ofPanel}, {"try_old", "UPDATE ON tries", ofPanel},
		{"square_new", "INSERT ON squares", ofPanel}, {"square_old", "UPDATE ON squares", ofPanel},
		{"proof_photo_new", "INSERT ON proof_photos", ofPanel}, {"proof_photo_old", "UPDATE OF reading, accepted_at, struck_at ON proof_photos", ofPanel},
		{"meter_new", "INSERT ON meter_readings", ofPanel}, {"meter_old", "UPDATE ON meter_readings", ofPanel},
		{"proof_new", "INSERT ON proofs", ofPanel}, {"proof_old", "UPDATE ON proofs", ofPanel},
		{"floor_new", "INSERT ON floors", ofItsCar}, {"floor_old", "UPDATE ON floors", ofItsCar},
		{"task_new", "INSERT ON tasks", ofItsCar}, {"telling_new", "INSERT ON tellings", ofItsCar},
		{"report_new", "INSERT ON reports", ofItsCar}, {"report_old", "UPDATE ON reports", ofItsCar},
		{"panel_new", "INSERT ON panels", ofItsCar}, {"panel_old", "UPDATE ON panels", ofItsCar},
		{"car_old", "UPDATE OF name, body, colour, painter, length_mm, width_mm, height_mm, sheet, owner_words, cost_limit, hours_limit ON cars", itself},
	} {
		out = append(out, closing(c.name, c.when, c.car))
	}
	for _, table := range []string{"tasks", "tellings"} {
		out = append(out, closing(table+"_gone", "DELETE ON "+table, "OLD.car_id"))
	}
	return out
}

// closing refuses a write to what belongs to a car that was handed over.
func closing(name, when, car string) string {
	return `CREATE TRIGGER closed_` + name + ` BEFORE ` + when + ` WHEN (SELECT handed_over_at FROM cars WHERE id = ` + car + `) IS NOT NULL BEGIN
			SELECT RAISE(ABORT, 'the car was handed over'); END`
}

// Handovers lists what happened to a car at its end, in order.
func (s *Store) Handovers(ctx context.Context, car string) ([]Handover, error) {
	var out []Handover
	err := s.read(ctx).Order("seq").Find(&out, "car_id = ?", car).Error
	return out, err
}

// AddHandover keeps that a car was handed over or opened again, while the car is of the version
// that it was judged with (0 for whatever version); else it returns ErrChanged. An id that is
// kept already adds nothing. ErrClosed and ErrOpen say that it is so already.
func (s *Store) AddHandover(ctx context.Context, h *Handover, version int64) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var old []Handover
		if err := tx.Limit(1).Find(&old, "id = ?", h.ID).Error; err != nil {
			return err
		}
		if len(old) > 0 {
			if old[0].CarID != h.CarID || old[0].Kind != h.Kind || old[0].Person != h.Person {
				return ErrTaken
			}
			*h = old[0]
			return nil
		}
		var c Car
		if err := missing(tx.Select("id", "handed_over_at").First(&c, "id = ?", h.CarID).Error); err != nil {
			return err
		}
		switch {
		case h.Kind == KindHanded && c.HandedOverAt != nil:
			return ErrClosed
		case h.Kind == KindReopened && c.HandedOverAt == nil:
			return ErrOpen
		}
		if version > 0 {
			var now int64
			if err := tx.Table("car_states").Where("car_id = ?", h.CarID).Pluck("version", &now).Error; err != nil {
				return err
			}
			if now != version {
				return ErrChanged
			}
		}
		if err := next(tx, &Handover{}, &h.Seq, "car_id = ?", h.CarID); err != nil {
			return err
		}
		if err := tx.Create(h).Error; err != nil {
			return err
		}
		var at *time.Time
		if h.Kind == KindHanded {
			at = &h.OnDay
		}
		for _, table := range []string{"pages", "puts"} {
			if err := tx.Exec("DELETE FROM "+table+" WHERE car_id = ?", h.CarID).Error; err != nil {
				return err
			}
		}
		return tx.Model(&Car{}).Where("id = ?", h.CarID).Update("handed_over_at", at).Error
	})
}

// ErrOpen says that a car was not handed over.
var ErrOpen = errors.New("the car is in the shop")

// ReportChoices are what goes into the report of a car, as JSON; empty for nothing chosen yet.
func (s *Store) ReportChoices(ctx context.Context, car string) (string, error) {
	var out []string
	err := s.read(ctx).Raw("SELECT choices FROM reports WHERE car_id = ?", car).Scan(&out).Error
	if err != nil || len(out) == 0 {
		return "", err
	}
	return out[0], nil
}

// report is what goes into the report of a car.
type report struct {
	CarID   string `gorm:"primaryKey"`
	Choices string
}

// SetReportChoices keeps what goes into the report of a car.
func (s *Store) SetReportChoices(ctx context.Context, car, choices string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&report{car, choices}).Error
	})
}

// Forgotten is what becomes of what was known of an owner: the name that the car has from then
// on, and that of whoever agreed to a floor.
type Forgotten struct{ Car, Owner string }

// Forget deletes what was known of the owner of a car: its name, the owner's words, notes of
// marks, what was told, who agreed. What was read, planned and taken off stays. Files of
// photos are named, whose last use it was, where photos go too.
func (s *Store) Forget(ctx context.Context, h *Handover, as Forgotten, photos bool) (files []string, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		files = nil
		var c Car
		if err := missing(tx.First(&c, "id = ?", h.CarID).Error); err != nil {
			return err
		}
		if err := next(tx, &Handover{}, &h.Seq, "car_id = ?", h.CarID); err != nil {
			return err
		}
		const ofCar = "panel_id IN (SELECT id FROM panels WHERE car_id = ?)"
		for _, sql := range []struct {
			text string
			with []any
		}{
			{"UPDATE cars SET handed_over_at = NULL WHERE id = ?", []any{c.ID}}, // it is open while this is done
			{"UPDATE cars SET name = ?, owner_words = '', forgotten_at = ? WHERE id = ?", []any{as.Car, h.At, c.ID}},
			{"UPDATE marks SET note = '', outcome_reason = CASE outcome_reason WHEN '' THEN '' ELSE '-' END WHERE " + ofCar, []any{c.ID}},
			{"UPDATE tellings SET text = '-', facts = '' WHERE car_id = ?", []any{c.ID}},
			{"UPDATE floors SET person = ?, reason = '-' WHERE car_id = ?", []any{as.Owner, c.ID}},
			{"UPDATE reports SET choices = '' WHERE car_id = ?", []any{c.ID}},
			{"UPDATE handovers SET reason = CASE reason WHEN '' THEN '' ELSE '-' END, facts = '' WHERE car_id = ?", []any{c.ID}},
			{"DELETE FROM summaries WHERE car_id = ?", []any{c.ID}},
			{"DELETE FROM pages WHERE car_id = ?", []any{c.ID}},
		} {
			if err := tx.Exec(sql.text, sql.with...).Error; err != nil {
				return err
			}
		}
		if photos {
			if files, err = dropPhotosOf(tx, c.ID, h.At); err != nil {
				return err
			}
		}
		if err := tx.Create(h).Error; err != nil {
			return err
		}
		return tx.Model(&Car{}).Where("id = ?", c.ID).Update("handed_over_at", c.HandedOverAt).Error
	})
	return files, err
}

// dropPhotosOf forgets the photos of a car and names the files that no other photo is in.
func dropPhotosOf(tx *gorm.DB, car string, at time.Time) (files []string, err error) {
	const panels = "(SELECT id FROM panels WHERE car_id = ?)"
	var hashes []string
	err = tx.Raw("SELECT hash FROM proof_photos WHERE dropped_at IS NULL AND panel_id IN "+panels+
		" UNION SELECT hash FROM photos WHERE mark_id IN (SELECT id FROM marks WHERE panel_id IN "+panels+")", car, car).Scan(&hashes).Error
	if err != nil {
		return nil, err
	}
	for _, sql := range []struct {
		text string
		with []any
	}{
		{"UPDATE proof_photos SET dropped_at = ? WHERE dropped_at IS NULL AND panel_id IN " + panels, []any{at, car}},
		{"DELETE FROM photos WHERE mark_id IN (SELECT id FROM marks WHERE panel_id IN " + panels + ")", []any{car}},
		{"UPDATE marks SET has_photo = 0 WHERE panel_id IN " + panels, []any{car}},
	} {
		if err := tx.Exec(sql.text, sql.with...).Error; err != nil {
			return nil, err
		}
	}
	for _, h := range hashes {
		last, err := freeFile(tx, h)
		if err != nil {
			return nil, err
		}
		if last {
			files = append(files, h)
		}
	}
	return files, nil
}
