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
	if err := s.read(ctx).Find(&rows).Error; err != nil {
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
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Save(&Constant{key, value}).Error })
}

// ResetConstants forgets a value of the shelf, or all of them without a key.
func (s *Store) ResetConstants(ctx context.Context, key string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if key == "" {
			return tx.Where("1 = 1").Delete(&Constant{}).Error
		}
		return tx.Delete(&Constant{}, "key = ?", key).Error
	})
}

// Tries lists the try squares of a panel in order, without the struck ones.
func (s *Store) Tries(ctx context.Context, panel string) ([]Try, error) {
	var out []Try
	err := s.read(ctx).Order("seq").Find(&out, "panel_id = ? AND struck_at IS NULL", panel).Error
	return out, err
}

// Try finds one try square.
func (s *Store) Try(ctx context.Context, id string) (Try, error) {
	var t Try
	err := s.read(ctx).First(&t, "id = ?", id).Error
	return t, missing(err)
}

// AddTry keeps a try square and numbers it. An id that is kept already adds
// nothing and gives the try as it was kept; one of another panel gives ErrTaken.
func (s *Store) AddTry(ctx context.Context, t *Try) error {
	return s.write(ctx, func(tx *gorm.DB) error {
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
		if old.PanelID != t.PanelID || old.Section != t.Section || old.Ladder != t.Ladder || old.FilmBeforeUM != t.FilmBeforeUM || old.FilmAfterUM != t.FilmAfterUM ||
			old.ClarityBefore != t.ClarityBefore || old.ClarityAfter != t.ClarityAfter || old.Person != t.Person {
			return ErrTaken
		}
		*t = old
		return nil
	})
}

// Squares lists what was seen on the squares of a panel, struck ones too.
func (s *Store) Squares(ctx context.Context, panel string) ([]Square, error) {
	var out []Square
	err := s.read(ctx).Order("seq").Find(&out, "panel_id = ?", panel).Error
	return out, err
}

// AddSquare keeps what was seen on a square with what it teaches of panels, by their ids,
// while its own panel is of the version that it was judged with; else it returns ErrChanged.
// An id that is kept already adds nothing.
func (s *Store) AddSquare(ctx context.Context, q *Square, version int64, teaches map[string]Learned) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var old []Square
		if err := tx.Limit(1).Find(&old, "id = ?", q.ID).Error; err != nil {
			return err
		}
		if len(old) > 0 {
			if old[0].PanelID != q.PanelID || old[0].Ladder != q.Ladder || old[0].Person != q.Person {
				return ErrTaken
			}
			return nil
		}
		if err := still(tx, q.PanelID, version); err != nil {
			return err
		}
		if err := next(tx, &Square{}, &q.Seq, "panel_id = ?", q.PanelID); err != nil {
			return err
		}
		if err := tx.Create(q).Error; err != nil {
			return err
		}
		return teach(tx, teaches)
	})
}

// teach keeps what squares have taught of panels, by their ids.
func teach(tx *gorm.DB, teaches map[string]Learned) error {
	for id, l := range teaches {
		if err := tx.Model(&Panel{}).Where("id = ?", id).Updates(map[string]any{"swirls_um": l.SwirlsUM, "swirls_spread": l.SwirlsSpread,
			"dead_um": l.DeadUM, "dead_spread": l.DeadSpread}).Error; err != nil {
			return err
		}
	}
	return nil
}

// Square finds what was seen on one square.
func (s *Store) Square(ctx context.Context, id string) (Square, error) {
	var q Square
	err := s.read(ctx).First(&q, "id = ?", id).Error
	return q, missing(err)
}

// StrikeSquare strikes a square out with what the others still teach, as AddSquare keeps one.
// A second strike changes nothing.
func (s *Store) StrikeSquare(ctx context.Context, q Square, reason string, at time.Time, version int64, teaches map[string]Learned) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := still(tx, q.PanelID, version); err != nil {
			return err
		}
		if err := strike(tx, &Square{}, q.ID, reason, at); err != nil {
			return err
		}
		return teach(tx, teaches)
	})
}

// StrikeTry strikes a try square out. A second strike changes nothing.
func (s *Store) StrikeTry(ctx context.Context, id, reason string, at time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error { return strike(tx, &Try{}, id, reason, at) })
}

// Teacher is a panel whose film teaches something; Lesson changes with what it teaches.
type Teacher struct {
	ID     string
	Lesson int64
}

// Worked lists the panels on which passes were made and that were read again after them,
// the last worked first.
func (s *Store) Worked(ctx context.Context, most int) ([]Teacher, error) {
	var out []Teacher
	err := s.read(ctx).Raw(`SELECT panel_id AS id, lesson FROM panel_states WHERE first_pass_at IS NOT NULL AND first_pass_at < last_read_at
		ORDER BY last_entry_at DESC LIMIT ?`, most).Scan(&out).Error
	return out, err
}

// Coated lists the panels sprayed here whose coats of clear are known and that were read
// before the clear, the last read first: they tell how thick this shop's coats are.
func (s *Store) Coated(ctx context.Context, most int) ([]Teacher, error) {
	var out []Teacher
	err := s.read(ctx).Raw(`SELECT s.panel_id AS id, s.lesson FROM panel_states s JOIN panels p ON p.id = s.panel_id
		WHERE s.before_at IS NOT NULL AND p.origin = 'here' AND p.layers = 'clear' AND p.coats > 0 ORDER BY s.last_read_at DESC LIMIT ?`, most).Scan(&out).Error
	return out, err
}

// FactoryFilms are the mean total films (µm) of the panels of a car that carry a factory
// finish and were read.
func (s *Store) FactoryFilms(ctx context.Context, car string) ([]float64, error) {
	var out []float64
	err := s.read(ctx).Raw(`SELECT AVG(r.film_um) FROM panels p JOIN readings r ON r.panel_id = p.id
		WHERE p.car_id = ? AND p.origin = 'factory' AND p.layers = 'clear' AND r.phase = ? AND r.struck_at IS NULL
		GROUP BY p.id`, car, PhaseTotal).Scan(&out).Error
	return out, err
}

// People lists who works in the shop, by name: those taken in, painters of cars, and
// whoever made an entry.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	var out []Person
	err := s.read(ctx).Order("name").Find(&out).Error
	return out, err
}

// ChangePerson changes somebody inside one transaction, and takes in who was not known.
func (s *Store) ChangePerson(ctx context.Context, name string, change func(*Person) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p := Person{Name: name, MachineMin: UsualMachine}
		if err := ignoreMissing(tx.First(&p, "name = ?", name).Error); err != nil {
			return err
		}
		if err := change(&p); err != nil {
			return err
		}
		return tx.Save(&p).Error
	})
}
