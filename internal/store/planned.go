package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// lit is the migration that lets somebody say how well a panel is seen.
var lit = []string{
	`ALTER TABLE panels ADD COLUMN light TEXT NOT NULL DEFAULT '' CHECK (light IN ('','faces_up','on_side','lies_low','covered'))`,
	`DROP TRIGGER panel_changed`,
	panelChanged(panelFacts + conditionFacts + ", parts, paint, light" + photoFacts),
}

// said is the migration that keeps which facts of a panel somebody said, so that a usual answer
// is not taken for one. Of the panels that were there it is known where it differs from the usual.
var said = []string{
	`ALTER TABLE panels ADD COLUMN said TEXT NOT NULL DEFAULT ''`,
	`UPDATE panels SET said = trim(CASE WHEN origin <> 'unknown' THEN 'origin,' ELSE '' END || CASE WHEN aim <> 'flat' OR origin IN ('here','elsewhere') THEN 'aim,' ELSE '' END ||
		CASE WHEN peel_grade <> 6 THEN 'peel_grade,' ELSE '' END, ',') WHERE id NOT IN (SELECT p.id FROM panels p JOIN cars c ON c.id = p.car_id WHERE c.handed_over_at IS NOT NULL)`,
	`DROP TRIGGER panel_changed`,
	panelChanged(panelFacts + conditionFacts + ", parts, paint, light, said" + photoFacts),
}

// planned is the migration that keeps when, who and with what: what cars were promised for,
// the hours and skills of people, the maker's sheet of a panel's paint, what was put somewhere
// by hand, the last plan of the week, and what lies on the shelf.
var planned = []string{
	`ALTER TABLE cars ADD COLUMN due_at DATETIME`,
	`CREATE TRIGGER car_promised AFTER UPDATE OF due_at ON cars WHEN OLD.due_at IS NOT NEW.due_at BEGIN
		UPDATE car_states SET version = version + 1 WHERE car_id = NEW.id; END`,
	`CREATE INDEX cars_promised ON cars (due_at) WHERE handed_over_at IS NULL AND due_at IS NOT NULL`,
	`ALTER TABLE panels ADD COLUMN paint TEXT NOT NULL DEFAULT ''`,
	`DROP TRIGGER panel_changed`,
	panelChanged(panelFacts + conditionFacts + ", parts, paint" + photoFacts),
	`ALTER TABLE people ADD COLUMN hours TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE people ADD COLUMN off TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE people ADD COLUMN kinds TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE people ADD COLUMN rate REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE people ADD COLUMN machine_min REAL NOT NULL DEFAULT 240`,
	`ALTER TABLE summaries ADD COLUMN work TEXT NOT NULL DEFAULT ''`,
	`CREATE TABLE puts (task TEXT PRIMARY KEY, car_id TEXT NOT NULL REFERENCES cars(id), person TEXT NOT NULL, start DATETIME, by TEXT NOT NULL, at DATETIME NOT NULL)`,
	`CREATE INDEX puts_of_car ON puts (car_id)`,
	`CREATE TABLE weeks (id INTEGER PRIMARY KEY CHECK (id = 1), key TEXT NOT NULL, plan TEXT NOT NULL, made_at DATETIME NOT NULL)`,
	`CREATE TABLE stock (item TEXT PRIMARY KEY, here REAL NOT NULL CHECK (here >= 0), low REAL NOT NULL CHECK (low >= 0), pack REAL NOT NULL CHECK (pack > 0))`,
	`CREATE TABLE stock_moves (id TEXT PRIMARY KEY, item TEXT NOT NULL REFERENCES stock(item), much REAL NOT NULL, kind TEXT NOT NULL CHECK (kind IN ('in','used','count')),
		person TEXT NOT NULL, note TEXT NOT NULL, at DATETIME NOT NULL)`,
	`CREATE INDEX stock_moves_of ON stock_moves (item, at)`,
}

// Put is where somebody put a task of the week by hand: to whom (empty for whoever can), and
// from when on (nil for whenever it can).
type Put struct {
	Task   string `gorm:"primaryKey"`
	CarID  string
	Person string
	Start  *time.Time
	By     string
	At     time.Time
}

// Puts lists them; those of a car go when it is handed over.
func (s *Store) Puts(ctx context.Context) ([]Put, error) {
	var out []Put
	err := s.read(ctx).Order("at, task").Find(&out).Error
	return out, err
}

// PutTask keeps where a task was put, in place of what was before.
func (s *Store) PutTask(ctx context.Context, p Put) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&p).Error })
}

// LetTask has a task be planned as the others again.
func (s *Store) LetTask(ctx context.Context, task string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Delete(&Put{}, "task = ?", task).Error })
}

// Week is the last plan of the week, as JSON, with what names the state that it was made from.
type Week struct {
	ID     int `gorm:"primaryKey"`
	Key    string
	Plan   string
	MadeAt time.Time
}

// LastWeek is the last plan; empty where none was made.
func (s *Store) LastWeek(ctx context.Context) (Week, error) {
	var out Week
	err := ignoreMissing(s.read(ctx).First(&out, "id = 1").Error)
	return out, err
}

// KeepWeek keeps a plan in place of the one before.
func (s *Store) KeepWeek(ctx context.Context, w Week) error {
	w.ID = 1
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&w).Error })
}

// StockItem is how much of a thing is on the shelf: in pieces, or ml of a compound. Low is how
// much should always be there, Pack how much is bought at once.
type StockItem struct {
	Item            string `gorm:"primaryKey"`
	Here, Low, Pack float64
}

// TableName is that of the stock.
func (StockItem) TableName() string { return "stock" }

// StockMove is how much of a thing came in, was used, or was found other than was thought.
type StockMove struct {
	ID     string `gorm:"primaryKey"`
	Item   string
	Much   float64
	Kind   string
	Person string
	Note   string
	At     time.Time
	CarID  string  // that it was used for; empty for none
	ForCar float64 // how much of it, though the shelf held less
}

// UsedFor is how much of each item was taken off the shelf for a car.
func (s *Store) UsedFor(ctx context.Context, car string) (map[string]float64, error) {
	var rows []StockMove
	if err := s.read(ctx).Where("car_id <> ''").Find(&rows, "car_id = ?", car).Error; err != nil {
		return nil, err
	}
	out := map[string]float64{}
	for _, r := range rows {
		out[r.Item] += r.ForCar
	}
	return out, nil
}

// The kinds of moves of the stock.
const (
	StockIn    = "in"
	StockUsed  = "used"
	StockCount = "count"
)

// Stock lists what lies on the shelf, by item.
func (s *Store) Stock(ctx context.Context) ([]StockItem, error) {
	var out []StockItem
	err := s.read(ctx).Order("item").Find(&out).Error
	return out, err
}

// MoveStock changes what is there of a thing inside one transaction; change gets it as it is,
// zero where it was never counted, and says by how much. A move with an id that is kept
// already changes nothing.
func (s *Store) MoveStock(ctx context.Context, m StockMove, change func(*StockItem) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var old StockMove
		if err := ignoreMissing(tx.First(&old, "id = ?", m.ID).Error); err != nil || old.ID != "" {
			return err
		}
		item := StockItem{Item: m.Item, Pack: 1}
		if err := ignoreMissing(tx.First(&item, "item = ?", m.Item).Error); err != nil {
			return err
		}
		was := item.Here
		if err := change(&item); err != nil {
			return err
		}
		if err := tx.Save(&item).Error; err != nil {
			return err
		}
		if m.Much = item.Here - was; m.Kind == "" {
			return nil // only its marks have changed
		}
		return tx.Create(&m).Error
	})
}
