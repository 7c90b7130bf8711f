package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"
)

// copied are the tables that a car is copied from, parents first, with how the rows of one
// car are found in each.
var copied = []struct{ table, of string }{
	{"cars", "id = @car"},
	{"panels", "car_id = @car"},
	{"readings", "panel_id IN (SELECT id FROM panels WHERE car_id = @car)"},
	{"marks", "panel_id IN (SELECT id FROM panels WHERE car_id = @car)"},
	{"plans", "panel_id IN (SELECT id FROM panels WHERE car_id = @car)"},
	{"steps", "plan_id IN (SELECT id FROM plans WHERE panel_id IN (SELECT id FROM panels WHERE car_id = @car))"},
	{"entries", "panel_id IN (SELECT id FROM panels WHERE car_id = @car)"},
}

// CopyCar takes a car in once more under a name of its own, with all that was read, marked,
// planned and worked, so much earlier. Each id of the copy is that of the original with
// suffix. It fills shops to try things in.
func (s *Store) CopyCar(ctx context.Context, car, suffix, name string, earlier time.Duration) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var seq int64
		if err := next(tx, &Car{}, &seq); err != nil {
			return err
		}
		with := map[string]any{"car": car, "suffix": suffix, "name": name, "seq": seq, "earlier": fmt.Sprintf("-%d seconds", int(earlier.Seconds()))}
		for _, c := range copied {
			var columns []struct{ Name, Type string }
			if err := tx.Raw("SELECT name, type FROM pragma_table_info(?)", c.table).Scan(&columns).Error; err != nil {
				return err
			}
			names, values := make([]string, len(columns)), make([]string, len(columns))
			for i, col := range columns {
				names[i], values[i] = col.Name, copyOf(c.table, col.Name, col.Type)
			}
			sql := "INSERT INTO " + c.table + " (" + strings.Join(names, ", ") + ") SELECT " + strings.Join(values, ", ") + " FROM " + c.table + " WHERE " + c.of
			if err := tx.Exec(sql, with).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

// copyOf is what a column of a copied row holds.
func copyOf(table, column, kind string) string {
	switch {
	case column == "id" || strings.HasSuffix(column, "_id"):
		return column + " || @suffix"
	case table == "entries" && column == "mark":
		return "CASE mark WHEN '' THEN '' ELSE mark || @suffix END"
	case column == "fingerprint":
		return "NULL"
	case table == "cars" && column == "name":
		return "@name"
	case table == "cars" && column == "seq":
		return "@seq"
	case kind == "DATETIME":
		return "strftime('%Y-%m-%d %H:%M:%f+00:00', " + column + ", @earlier)"
	}
	return column
}
