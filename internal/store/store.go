package store

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Store is an open shop.
type Store struct {
	db *gorm.DB
}

// FileName is the database's name inside a shop's folder.
const FileName = "waxplanus.db"

// ErrMissing says that there is no row of that id.
var ErrMissing = errors.New("not on record")

// ErrTaken says that the id belongs to something else already.
var ErrTaken = errors.New("this id is on record for something else")

// Open opens the shop in folder dir and brings its tables up to date. Writes are
// on the disk before they are answered.
func Open(dir string) (*Store, error) {
	pragmas := []string{"journal_mode(WAL)", "foreign_keys(1)", "busy_timeout(5000)", "synchronous(FULL)"}
	dsn := "file:" + escape(filepath.Join(dir, FileName)) + "?_pragma=" + strings.Join(pragmas, "&_pragma=") + "&_txlock=immediate&_time_format=sqlite"
	db, err := gorm.Open(dialect{dsn}, &gorm.Config{
		Logger: logger.Default.LogMode(logger.Silent), TranslateError: true,
		NowFunc: func() time.Time { return time.Now().UTC() },
	})
	if err != nil {
		return nil, fmt.Errorf("opening the shop in %s: %w", dir, err)
	}
	if err := migrate(db); err != nil {
		return nil, err
	}
	return &Store{db}, nil
}

// escape keeps a path's special characters out of the query part of a DSN.
func escape(path string) string {
	return strings.NewReplacer("%", "%25", "?", "%3f", "#", "%23", " ", "%20").Replace(path)
}

// Close closes the shop; the write-ahead log is folded into the file.
func (s *Store) Close() error {
	db, err := s.db.DB()
	if err != nil {
		return err
	}
	return db.Close()
}

// TakeIn keeps a new car with its panels.
func (s *Store) TakeIn(ctx context.Context, c *Car) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := next(tx, &Car{}, &c.Seq); err != nil {
			return err
		}
		return tx.Create(c).Error
	})
}

// next is one more than the largest seq of a table among the rows that the
// conditions leave.
func next(tx *gorm.DB, model any, seq *int64, where ...any) error {
	q := tx.Model(model).Select("COALESCE(MAX(seq), 0) + 1")
	if len(where) > 0 {
		q = q.Where(where[0], where[1:]...)
	}
	return q.Scan(seq).Error
}

// Cars lists all cars with their panels in the order they came in.
func (s *Store) Cars(ctx context.Context) ([]Car, error) {
	var out []Car
	err := s.db.WithContext(ctx).Preload("Panels", ordered).Order("seq").Find(&out).Error
	return out, err
}

// Car finds one car with its panels.
func (s *Store) Car(ctx context.Context, id string) (Car, error) {
	var c Car
	err := s.db.WithContext(ctx).Preload("Panels", ordered).First(&c, "id = ?", id).Error
	return c, missing(err)
}

func ordered(db *gorm.DB) *gorm.DB { return db.Order("seq") }

func missing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrMissing
	}
	return err
}

// Panel finds one panel.
func (s *Store) Panel(ctx context.Context, id string) (Panel, error) {
	var p Panel
	err := s.db.WithContext(ctx).First(&p, "id = ?", id).Error
	return p, missing(err)
}

// Readings lists a panel's readings in order, the struck ones too.
func (s *Store) Readings(ctx context.Context, panel string) ([]Reading, error) {
	var out []Reading
	err := s.db.WithContext(ctx).Order("seq").Find(&out, "panel_id = ?", panel).Error
	return out, err
}

// AddReadings keeps readings, all or none, and numbers them. A reading whose id
// or fingerprint is kept already adds nothing; added says how many did. An id
// that belongs to a different reading gives ErrTaken.
func (s *Store) AddReadings(ctx context.Context, rs []Reading) (added int, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		added = 0
		for i := range rs {
			known, err := knownReading(tx, rs[i])
			if err != nil {
				return err
			}
			if known {
				continue
			}
			if err := next(tx, &Reading{}, &rs[i].Seq, "panel_id = ?", rs[i].PanelID); err != nil {
				return err
			}
			if err := tx.Create(&rs[i]).Error; err != nil {
				return err
			}
			added++
		}
		return nil
	})
	return added, err
}

func knownReading(tx *gorm.DB, r Reading) (bool, error) {
	var old Reading
	err := tx.First(&old, "id = ?", r.ID).Error
	if err == nil {
		if old.PanelID != r.PanelID || old.XMM != r.XMM || old.YMM != r.YMM || old.FilmUM != r.FilmUM || old.Phase != r.Phase {
			return false, ErrTaken
		}
		return true, nil
	}
	if !errors.Is(err, gorm.ErrRecordNotFound) || r.Fingerprint == nil {
		return false, ignoreMissing(err)
	}
	err = tx.First(&old, "fingerprint = ?", r.Fingerprint).Error
	return err == nil, ignoreMissing(err)
}

func ignoreMissing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil
	}
	return err
}

// Reading finds one reading.
func (s *Store) Reading(ctx context.Context, id string) (Reading, error) {
	var r Reading
	err := s.db.WithContext(ctx).First(&r, "id = ?", id).Error
	return r, missing(err)
}

// Fingerprints lists the fingerprints of a panel's readings.
func (s *Store) Fingerprints(ctx context.Context, panel string) (map[string]bool, error) {
	var list []string
	err := s.db.WithContext(ctx).Model(&Reading{}).Where("panel_id = ? AND fingerprint IS NOT NULL", panel).Pluck("fingerprint", &list).Error
	out := make(map[string]bool, len(list))
	for _, f := range list {
		out[f] = true
	}
	return out, err
}

// StrikeReading strikes a reading out. A second strike changes nothing.
func (s *Store) StrikeReading(ctx context.Context, id, reason string, at time.Time) error {
	return s.db.WithContext(ctx).Model(&Reading{}).Where("id = ? AND struck_at IS NULL", id).
		Updates(map[string]any{"struck_at": at, "struck_reason": reason}).Error
}

// Plan finds a panel's plan of record, the latest version, with its steps.
func (s *Store) Plan(ctx context.Context, panel string) (Plan, error) {
	var p Plan
	err := s.db.WithContext(ctx).Preload("Steps", func(db *gorm.DB) *gorm.DB { return db.Order("no") }).
		Order("version DESC").First(&p, "panel_id = ?", panel).Error
	return p, missing(err)
}

// PlanByID finds a plan of whatever version, with its steps.
func (s *Store) PlanByID(ctx context.Context, id string) (Plan, error) {
	var p Plan
	err := s.db.WithContext(ctx).Preload("Steps", func(db *gorm.DB) *gorm.DB { return db.Order("no") }).First(&p, "id = ?", id).Error
	return p, missing(err)
}

// ErrWorked says that a plan cannot be replaced because work under it has begun.
var ErrWorked = errors.New("work under the plan of record has begun")

// AcceptPlan keeps a plan as the next version. A plan that has passes under it
// stays; then it returns ErrWorked.
func (s *Store) AcceptPlan(ctx context.Context, p *Plan) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var worked int64
		if err := tx.Model(&Entry{}).Where("panel_id = ? AND kind IN ? AND struck_at IS NULL", p.PanelID, []string{KindPass, KindOver}).Count(&worked).Error; err != nil {
			return err
		}
		if worked > 0 {
			return ErrWorked
		}
		err := tx.Model(&Plan{}).Where("panel_id = ?", p.PanelID).Select("COALESCE(MAX(version), 0) + 1").Scan(&p.Version).Error
		if err != nil {
			return err
		}
		return tx.Create(p).Error
	})
}

// Entries lists a panel's log in order, struck entries too.
func (s *Store) Entries(ctx context.Context, panel string) ([]Entry, error) {
	var out []Entry
	err := s.db.WithContext(ctx).Order("seq").Find(&out, "panel_id = ?", panel).Error
	return out, err
}

// Entry finds one entry of the log.
func (s *Store) Entry(ctx context.Context, id string) (Entry, error) {
	var e Entry
	err := s.db.WithContext(ctx).First(&e, "id = ?", id).Error
	return e, missing(err)
}

// AddEntry logs an entry once allow has no objection, and keeps with it a mark that it
// makes, if any. allow sees the id of the panel's plan of record (empty for none) and its
// log as they are inside the same transaction. An id that is kept already adds nothing
// and gives the entry as it was kept.
func (s *Store) AddEntry(ctx context.Context, e *Entry, mark *Mark, allow func(record string, log []Entry) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var old Entry
		err := tx.First(&old, "id = ?", e.ID).Error
		if err == nil {
			if old.PanelID != e.PanelID || old.Section != e.Section || old.Step != e.Step || old.Kind != e.Kind || old.Mark != e.Mark {
				return ErrTaken
			}
			*e = old
			return nil
		}
		if !errors.Is(err, gorm.ErrRecordNotFound) {
			return err
		}
		var record []string
		if err := tx.Model(&Plan{}).Where("panel_id = ?", e.PanelID).Order("version DESC").Limit(1).Pluck("id", &record).Error; err != nil {
			return err
		}
		var log []Entry
		if err := tx.Order("seq").Find(&log, "panel_id = ?", e.PanelID).Error; err != nil {
			return err
		}
		if err := allow(append(record, "")[0], log); err != nil {
			return err
		}
		if err := next(tx, &Entry{}, &e.Seq, "panel_id = ?", e.PanelID); err != nil {
			return err
		}
		if len(e.Steps) > 0 {
			if err := tx.Create(&e.Steps).Error; err != nil {
				return err
			}
		}
		if err := tx.Create(e).Error; err != nil || mark == nil {
			return err
		}
		return addMark(tx, mark)
	})
}

// StrikeEntry strikes an entry out, and the mark that came with it where mark names
// one. A second strike changes nothing.
func (s *Store) StrikeEntry(ctx context.Context, id, mark, reason string, at time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		strike := map[string]any{"struck_at": at, "struck_reason": reason}
		if err := tx.Model(&Entry{}).Where("id = ? AND struck_at IS NULL", id).Updates(strike).Error; err != nil || mark == "" {
			return err
		}
		return tx.Model(&Mark{}).Where("id = ? AND struck_at IS NULL", mark).Updates(strike).Error
	})
}

// Floors lists what was agreed of a car in order, the struck ones too.
func (s *Store) Floors(ctx context.Context, car string) ([]Floor, error) {
	var out []Floor
	err := s.db.WithContext(ctx).Order("seq").Find(&out, "car_id = ?", car).Error
	return out, err
}

// Floor finds one agreed floor.
func (s *Store) Floor(ctx context.Context, id string) (Floor, error) {
	var f Floor
	err := s.db.WithContext(ctx).First(&f, "id = ?", id).Error
	return f, missing(err)
}

// AddFloor keeps an agreed floor and numbers it. An id that is kept already adds nothing and
// gives the floor as it was kept; one of another car or figure gives ErrTaken.
func (s *Store) AddFloor(ctx context.Context, f *Floor) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var old Floor
		err := tx.First(&old, "id = ?", f.ID).Error
		if err == nil {
			if old.CarID != f.CarID || old.FloorUM != f.FloorUM {
				return ErrTaken
			}
			*f = old
			return nil
		}
		if !errors.Is(err, gorm.ErrRecordNotFound) {
			return err
		}
		if err := next(tx, &Floor{}, &f.Seq, "car_id = ?", f.CarID); err != nil {
			return err
		}
		return tx.Create(f).Error
	})
}

// StrikeFloor strikes an agreed floor out. A second strike changes nothing.
func (s *Store) StrikeFloor(ctx context.Context, id, reason string, at time.Time) error {
	return s.db.WithContext(ctx).Model(&Floor{}).Where("id = ? AND struck_at IS NULL", id).
		Updates(map[string]any{"struck_at": at, "struck_reason": reason}).Error
}
