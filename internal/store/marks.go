package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Marks lists a panel's marks in order, the struck ones too.
func (s *Store) Marks(ctx context.Context, panel string) ([]Mark, error) {
	var out []Mark
	err := s.read(ctx).Order("seq").Find(&out, "panel_id = ?", panel).Error
	return out, err
}

// Mark finds one mark.
func (s *Store) Mark(ctx context.Context, id string) (Mark, error) {
	var m Mark
	err := s.read(ctx).First(&m, "id = ?", id).Error
	return m, missing(err)
}

// AddMark keeps a mark and numbers it. An id that is kept already adds nothing
// and gives the mark as it is; one that belongs to another panel or kind gives
// ErrTaken.
func (s *Store) AddMark(ctx context.Context, m *Mark) error {
	return s.write(ctx, func(tx *gorm.DB) error { return addMark(tx, m) })
}

func addMark(tx *gorm.DB, m *Mark) error {
	var old Mark
	err := tx.First(&old, "id = ?", m.ID).Error
	if err == nil {
		if old.PanelID != m.PanelID || old.Kind != m.Kind || old.Person != m.Person {
			return ErrTaken
		}
		*m = old
		return nil
	}
	if !errors.Is(err, gorm.ErrRecordNotFound) {
		return err
	}
	if err := next(tx, &Mark{}, &m.Seq, "panel_id = ?", m.PanelID); err != nil {
		return err
	}
	return tx.Create(m).Error
}

// ChangeMark changes a mark inside one transaction: two tablets that change
// different things of one mark both keep theirs.
func (s *Store) ChangeMark(ctx context.Context, id string, change func(*Mark) error) (Mark, error) {
	var m Mark
	err := s.write(ctx, func(tx *gorm.DB) error {
		if err := missing(tx.First(&m, "id = ?", id).Error); err != nil {
			return err
		}
		if err := change(&m); err != nil {
			return err
		}
		return tx.Save(&m).Error
	})
	return m, err
}

// SavePhoto keeps the photo of a mark as a file, in place of one before it.
func (s *Store) SavePhoto(ctx context.Context, p Photo) error {
	var err error
	bytes := int64(len(p.Data))
	if p.Hash, err = s.Pictures().Keep(p.Data); err != nil {
		return err
	}
	p.Data = []byte{}
	var before Photo
	last := false
	err = s.write(ctx, func(tx *gorm.DB) error {
		if err := ignoreMissing(tx.First(&before, "mark_id = ?", p.MarkID).Error); err != nil {
			return err
		}
		if err := tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&p).Error; err != nil {
			return err
		}
		if err := addFile(tx, p.Hash, bytes); err != nil {
			return err
		}
		if before.Hash != "" && before.Hash != p.Hash {
			var err error
			if last, err = freeFile(tx, before.Hash); err != nil {
				return err
			}
		}
		return tx.Model(&Mark{}).Where("id = ?", p.MarkID).Update("has_photo", true).Error
	})
	if err == nil && last {
		err = s.Pictures().Drop(before.Hash)
	}
	return err
}

// Photo finds the photo of a mark, with its file.
func (s *Store) Photo(ctx context.Context, mark string) (Photo, error) {
	var p Photo
	err := missing(s.read(ctx).First(&p, "mark_id = ?", mark).Error)
	if err == nil && p.Hash != "" {
		p.Data, err = s.Pictures().Photo(p.Hash)
	}
	return p, err
}

// movePhotosOut makes files of the photos of marks that shops of before kept in the database.
func (s *Store) movePhotosOut(ctx context.Context) error {
	var inside []string
	if err := s.read(ctx).Model(&Photo{}).Where("hash = ''").Pluck("mark_id", &inside).Error; err != nil {
		return err
	}
	for _, id := range inside {
		p, err := s.Photo(ctx, id)
		if err != nil {
			return err
		}
		if err := s.SavePhoto(ctx, p); err != nil {
			return err
		}
	}
	return nil
}

// Tasks lists the ticked tasks of a car.
func (s *Store) Tasks(ctx context.Context, car string) ([]Task, error) {
	var out []Task
	err := s.read(ctx).Order("done_at").Find(&out, "car_id = ?", car).Error
	return out, err
}

// Tick keeps that a task is done; a second tick changes nothing.
func (s *Store) Tick(ctx context.Context, t Task) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&t).Error })
}

// Untick takes a tick back.
func (s *Store) Untick(ctx context.Context, car, task string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Delete(&Task{CarID: car, Task: task}).Error })
}

// Tellings lists what the owner of a car was told.
func (s *Store) Tellings(ctx context.Context, car string) ([]Telling, error) {
	var out []Telling
	err := s.read(ctx).Order("said_at").Find(&out, "car_id = ?", car).Error
	return out, err
}

// Tell keeps that the owner was told, in these words.
func (s *Store) Tell(ctx context.Context, t Telling) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&t).Error })
}

// Untell takes a telling back.
func (s *Store) Untell(ctx context.Context, car, key string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Delete(&Telling{CarID: car, Key: key}).Error })
}

// ChangeCar changes a car and its panels inside one transaction.
func (s *Store) ChangeCar(ctx context.Context, id string, change func(*Car) error) (Car, error) {
	var c Car
	err := s.write(ctx, func(tx *gorm.DB) error { return changeCar(tx, id, &c, change) })
	return c, err
}

func changeCar(tx *gorm.DB, id string, c *Car, change func(*Car) error) error {
	if err := missing(tx.Preload("Panels", ordered).First(c, "id = ?", id).Error); err != nil {
		return err
	}
	if err := change(c); err != nil {
		return err
	}
	for i := range c.Panels {
		if err := tx.Save(&c.Panels[i]).Error; err != nil {
			return err
		}
	}
	return tx.Omit("Panels").Save(c).Error
}

// Strike strikes a mark out; a second strike changes nothing.
func (m *Mark) Strike(reason string, at time.Time) {
	if m.StruckAt == nil {
		m.StruckAt, m.StruckReason = &at, reason
	}
}
