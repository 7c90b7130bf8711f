package store

import "gorm.io/gorm"

// Change is what one write has changed: panels and cars by their ids, with the versions that
// they have now, and whether it was the house: rules, shelf, gauges, people.
type Change struct {
	Panels, Cars map[string]int64
	House        bool
}

// OnChange has somebody told of each write once it is on the disk, one after the other. It
// is set before anything is written.
func (s *Store) OnChange(tell func(Change)) { s.tell = tell }

// touching notes what a write touches while it is under way. It lives with the connection.
var touching = []string{
	`CREATE TEMP TABLE touched (kind TEXT, id TEXT, version INTEGER, PRIMARY KEY (kind, id)) WITHOUT ROWID`,
	`CREATE TEMP TRIGGER touched_panel AFTER UPDATE OF version ON main.panel_states BEGIN
		INSERT OR REPLACE INTO touched VALUES ('panel', NEW.panel_id, NEW.version); END`,
	`CREATE TEMP TRIGGER touched_new_car AFTER INSERT ON main.cars BEGIN INSERT OR REPLACE INTO touched VALUES ('car', NEW.id, 0); END`,
	`CREATE TEMP TRIGGER touched_car AFTER UPDATE OF version ON main.car_states BEGIN INSERT OR REPLACE INTO touched VALUES ('car', NEW.car_id, NEW.version); END`,
	`CREATE TEMP TRIGGER touched_shop AFTER UPDATE OF version ON main.shop BEGIN INSERT OR REPLACE INTO touched VALUES ('house', '', NEW.version); END`,
}

func watchTouches(w *gorm.DB) error {
	for _, sql := range touching {
		if err := w.Exec(sql).Error; err != nil {
			return err
		}
	}
	return nil
}

// touched is what the write under way has touched so far.
func touched(tx *gorm.DB) (Change, error) {
	var rows []struct {
		Kind, ID string
		Version  int64
	}
	c := Change{Panels: map[string]int64{}, Cars: map[string]int64{}}
	if err := tx.Raw("SELECT kind, id, version FROM temp.touched").Scan(&rows).Error; err != nil {
		return c, err
	}
	for _, r := range rows {
		switch r.Kind {
		case "panel":
			c.Panels[r.ID] = r.Version
		case "car":
			c.Cars[r.ID] = r.Version
		default:
			c.House = true
		}
	}
	return c, tx.Exec("DELETE FROM temp.touched").Error
}
