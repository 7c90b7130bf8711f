package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Constants are the values of the shelf that are not the usual ones.
func (s *Store) Constants(ctx context.Context) (map[string]float64, error) {
	var rows []Constant
	if err := s.db.WithContext(ctx).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make(map[string]float64, len(rows))
	for _, r := range rows {
		out[r.Key] = r.Value
	}
	return out, nil
}

// SetConstant keeps a value of the shelf.
func (s *Store) SetConstant(ctx context.Context, key string, value float64) error {
	return s.db.WithContext(ctx).Save(&Constant{key, value}).Error
}

// ResetConstants forgets a value of the shelf, or all of them without a key.
func (s *Store) ResetConstants(ctx context.Context, key string) error {
	db := s.db.WithContext(ctx)
	if key == "" {
		return db.Where("1 = 1").Delete(&Constant{}).Error
	}
	return db.Delete(&Constant{}, "key = ?", key).Error
}

// Tries lists the try squares of a panel in order, without the struck ones.
func (s *Store) Tries(ctx context.Context, panel string) ([]Try, error) {
	var out []Try
	err := s.db.WithContext(ctx).Order("seq").Find(&out, "panel_id = ? AND struck_at IS NULL", panel).Error
	return out, err
}

// Try finds one try square.
func (s *Store) Try(ctx context.Context, id string) (Try, error) {
	var t Try
	err := s.db.WithContext(ctx).First(&t, "id = ?", id).Error
	return t, missing(err)
}

// AddTry keeps a try square and numbers it. An id that is kept already adds
// nothing and gives the try as it was kept; one of another panel gives ErrTaken.
func (s *Store) AddTry(ctx context.Context, t *Try) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := next(tx, &Try{}, &t.Seq, "panel_id = ?", t.PanelID); err != nil {
			return err
		}
		done := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}}, DoNothing: true}).Create(t)
		if done.Error != nil || done.RowsAffected == 1 {
			return done.Error
		}
		var old Try
		if err := tx.First(&old, "id = ?", t.ID).Error; err != nil {
			return err
		}
		if old.PanelID != t.PanelID || old.Section != t.Section || old.Ladder != t.Ladder {
			return ErrTaken
		}
		*t = old
		return nil
	})
}

// StrikeTry strikes a try square out. A second strike changes nothing.
func (s *Store) StrikeTry(ctx context.Context, id, reason string, at time.Time) error {
	return s.db.WithContext(ctx).Model(&Try{}).Where("id = ? AND struck_at IS NULL", id).
		Updates(map[string]any{"struck_at": at, "struck_reason": reason}).Error
}

// WorkedPanel is a panel on which passes were made; Entries and Readings change
// with whatever is kept or struck out on it.
type WorkedPanel struct {
	PanelID           string
	Entries, Readings int64
}

// Worked lists the panels on which passes were made and that were read again after
// them, the last worked first.
func (s *Store) Worked(ctx context.Context, most int) ([]WorkedPanel, error) {
	var out []WorkedPanel
	err := s.db.WithContext(ctx).Raw(`SELECT e.panel_id, COUNT(*) + SUM(e.struck_at IS NOT NULL) * 1000000 AS entries,
		(SELECT COUNT(*) + SUM(r.struck_at IS NOT NULL) * 1000000 FROM readings r WHERE r.panel_id = e.panel_id) AS readings
		FROM entries e WHERE EXISTS (SELECT 1 FROM entries p JOIN readings r ON r.panel_id = p.panel_id AND r.taken_at > p.at
			WHERE p.panel_id = e.panel_id AND p.kind IN ('pass', 'override') AND p.struck_at IS NULL AND r.struck_at IS NULL)
		GROUP BY e.panel_id ORDER BY MAX(e.at) DESC LIMIT ?`, most).Scan(&out).Error
	return out, err
}

// CoatedPanel is a panel sprayed here whose coats of clear are known and which was
// read before the clear; Readings and Entries change with whatever is kept or struck
// out on it.
type CoatedPanel struct {
	ID                string
	Coats             int
	DryUM             float64 `gorm:"column:dry_um"`
	WetUM             float64 `gorm:"column:wet_um"`
	Solids            float64
	Readings, Entries int64
}

// Coated lists the panels that tell how thick this shop's coats are, the last read
// first.
func (s *Store) Coated(ctx context.Context, most int) ([]CoatedPanel, error) {
	var out []CoatedPanel
	err := s.db.WithContext(ctx).Raw(`SELECT p.id, p.coats, p.dry_um, p.wet_um, p.solids,
		COUNT(*) + SUM(r.struck_at IS NOT NULL) * 1000000 AS readings,
		(SELECT COUNT(*) FROM entries e WHERE e.panel_id = p.id) AS entries
		FROM panels p JOIN readings r ON r.panel_id = p.id
		WHERE p.origin = 'here' AND p.layers = 'clear' AND p.coats > 0
		GROUP BY p.id HAVING SUM(r.phase = ? AND r.struck_at IS NULL) > 0
		ORDER BY MAX(r.taken_at) DESC LIMIT ?`, PhaseBefore, most).Scan(&out).Error
	return out, err
}

// FactoryFilms are the mean total films (µm) of the panels of a car that carry a factory
// finish and were read.
func (s *Store) FactoryFilms(ctx context.Context, car string) ([]float64, error) {
	var out []float64
	err := s.db.WithContext(ctx).Raw(`SELECT AVG(r.film_um) FROM panels p JOIN readings r ON r.panel_id = p.id
		WHERE p.car_id = ? AND p.origin = 'factory' AND p.layers = 'clear' AND r.phase = ? AND r.struck_at IS NULL
		GROUP BY p.id`, car, PhaseTotal).Scan(&out).Error
	return out, err
}

// People lists who works in the shop, by name: those taken in, painters of cars, and
// whoever made an entry.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	var out []Person
	err := s.db.WithContext(ctx).Raw(`SELECT n.name, COALESCE(p.coarsest, '') AS coarsest FROM
		(SELECT name FROM people UNION SELECT painter FROM cars WHERE painter <> '' UNION SELECT person FROM entries) n
		LEFT JOIN people p ON p.name = n.name ORDER BY n.name`).Scan(&out).Error
	return out, err
}

// ChangePerson changes somebody inside one transaction, and takes in who was not known.
func (s *Store) ChangePerson(ctx context.Context, name string, change func(*Person) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		p := Person{Name: name}
		if err := ignoreMissing(tx.First(&p, "name = ?", name).Error); err != nil {
			return err
		}
		if err := change(&p); err != nil {
			return err
		}
		return tx.Save(&p).Error
	})
}
