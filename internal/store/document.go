package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Row is one row of a document of a car: its columns by name without those that only say what
// it belongs to, and the rows that belong to it by the name of their list. Values are text,
// numbers, booleans, times in UTC as RFC 3339 with what follows of a second, JSON as it is, or
// nil.
type Row = map[string]any

// branch is a list of rows of one table that belong to a row of another.
type branch struct {
	list, table string
	parent      string   // column that names the row that they belong to
	keys        []string // that tell them from each other below it
	order       string
	logged      bool // what came in order stays in order: two that went on apart cannot be made one
	fixed       bool // a row that is kept is never another one
	twigs       []branch
}

// documentTree is what a car is made of. A table of a panel or a car that is new belongs here, in
// the schema of the document, and in the test that says so.
var documentTree = branch{table: "cars", keys: []string{"id"}, order: "seq", twigs: []branch{
	{list: "panels", table: "panels", parent: "car_id", keys: []string{"id"}, order: "seq", twigs: []branch{
		{list: "readings", table: "readings", parent: "panel_id", keys: []string{"id"}, order: "seq"},
		{list: "marks", table: "marks", parent: "panel_id", keys: []string{"id"}, order: "seq", twigs: []branch{
			{list: "photos", table: "photos", parent: "mark_id", order: "at"},
		}},
		{list: "plans", table: "plans", parent: "panel_id", keys: []string{"id"}, order: "version", logged: true, twigs: []branch{
			{list: "steps", table: "steps", parent: "plan_id", keys: []string{"no"}, order: "no", fixed: true},
		}},
		{list: "log", table: "entries", parent: "panel_id", keys: []string{"id"}, order: "seq", logged: true},
		{list: "tries", table: "tries", parent: "panel_id", keys: []string{"id"}, order: "seq"},
		{list: "squares", table: "squares", parent: "panel_id", keys: []string{"id"}, order: "seq"},
		{list: "proof_photos", table: "proof_photos", parent: "panel_id", keys: []string{"id"}, order: "seq"},
		{list: "meter_readings", table: "meter_readings", parent: "panel_id", keys: []string{"id"}, order: "seq"},
		{list: "proofs", table: "proofs", parent: "panel_id", keys: []string{"id"}, order: "seq"},
	}},
	{list: "floors", table: "floors", parent: "car_id", keys: []string{"id"}, order: "seq"},
	{list: "tasks", table: "tasks", parent: "car_id", keys: []string{"task"}, order: "done_at, task"},
	{list: "tellings", table: "tellings", parent: "car_id", keys: []string{"key"}, order: "said_at, key"},
	{list: "times", table: "times", parent: "car_id", keys: []string{"what"}, order: "at, what"},
	{list: "promises", table: "promises", parent: "car_id", keys: []string{"id"}, order: "seq", fixed: true},
	{list: "handovers", table: "handovers", parent: "car_id", keys: []string{"id"}, order: "seq"},
	{list: "reports", table: "reports", parent: "car_id", order: "car_id"},
}}

// left out of documents: what only says what was worked out, and photos in the row itself.
var leftOut = map[string][]string{"photos": {"data"}, "cars": {"seq"}}

// column is one column of a table.
type column struct{ Name, Type string }

func columnsOf(db *gorm.DB, table string) ([]column, error) {
	var out []column
	err := db.Raw("SELECT name, type FROM pragma_table_info(?)", table).Scan(&out).Error
	return out, err
}

// Document is a car with all that is on record of it.
func (s *Store) Document(ctx context.Context, car string) (Row, error) {
	var out Row
	err := s.atOnce(ctx, func(tx *gorm.DB) error {
		rows, err := documentRows(tx, documentTree, "id", car)
		if err == nil && len(rows) == 0 {
			err = ErrMissing
		}
		if err == nil {
			out = rows[0]
		}
		return err
	})
	return out, err
}

// atOnce reads the file as it is at one moment. Beginning and end go on though the one who
// asked leaves: a connection left within a transaction would fail whoever reads with it next.
func (s *Store) atOnce(ctx context.Context, read func(tx *gorm.DB) error) error {
	return s.read(ctx).Connection(func(tx *gorm.DB) error {
		whole := tx.WithContext(context.WithoutCancel(ctx))
		if err := whole.Exec("BEGIN DEFERRED").Error; err != nil {
			return err
		}
		return errors.Join(read(tx), whole.Exec("ROLLBACK").Error)
	})
}

func documentRows(tx *gorm.DB, b branch, by, of string) ([]Row, error) {
	columns, err := columnsOf(tx, b.table)
	if err != nil {
		return nil, err
	}
	var raw []map[string]any
	if err := tx.Raw("SELECT "+strings.Join(selected(b.table, columns), ", ")+" FROM "+b.table+" WHERE "+by+" = ? ORDER BY "+b.order, of).Scan(&raw).Error; err != nil {
		return nil, err
	}
	out := make([]Row, 0, len(raw))
	for _, r := range raw {
		row := Row{}
		for _, c := range columns {
			if c.Name == b.parent || slices.Contains(leftOut[b.table], c.Name) {
				continue
			}
			if row[c.Name], err = outward(b.table, c, r[c.Name]); err != nil {
				return nil, fmt.Errorf("%s: %w", b.table, err)
			}
		}
		for _, t := range b.twigs {
			id, _ := r["id"].(string)
			if row[t.list], err = documentRows(tx, t, t.parent, id); err != nil {
				return nil, err
			}
		}
		out = append(out, row)
	}
	return out, nil
}

// selected are the columns of a table as they are read: photos lie in files.
func selected(table string, columns []column) []string {
	var out []string
	for _, c := range columns {
		if table != "photos" || c.Name != "data" {
			out = append(out, c.Name)
		}
	}
	return out
}

// outward is a value of a column as a document has it.
func outward(table string, c column, v any) (any, error) {
	switch {
	case v == nil:
		return nil, nil
	case c.Type == "DATETIME":
		t, ok := v.(time.Time)
		if text, isText := v.(string); isText {
			var err error
			if t, err = time.Parse(time.RFC3339Nano, text); err != nil {
				return nil, fmt.Errorf("%s: %w", c.Name, err)
			}
		} else if !ok {
			return nil, fmt.Errorf("%s is no time: %v", c.Name, v)
		}
		return t.UTC().Format(time.RFC3339Nano), nil
	case c.Type == "NUMERIC":
		n, _ := v.(int64)
		b, is := v.(bool)
		return n != 0 || is && b, nil
	case slices.Contains(texts[table], c.Name):
		text, _ := v.(string)
		if text == "" {
			return nil, nil
		}
		return json.RawMessage(text), nil
	}
	return v, nil
}

// inward is a value of a document as its column keeps it; JSON that is missing is an empty
// text.
func inward(table string, c column, v any) (any, error) {
	isText := slices.Contains(texts[table], c.Name)
	switch value := v.(type) {
	case nil:
		if isText {
			return "", nil
		}
		return nil, nil
	case bool:
		return value, nil
	case json.Number:
		if n, err := value.Int64(); err == nil && c.Type != "REAL" {
			return n, nil
		}
		return value.Float64()
	case string:
		if c.Type == "DATETIME" {
			t, err := time.Parse(time.RFC3339Nano, value)
			if err != nil {
				return nil, fmt.Errorf("%s: %w", c.Name, err)
			}
			return t.UTC(), nil
		}
	}
	if isText {
		if raw, ok := v.(json.RawMessage); ok {
			return string(raw), nil
		}
		raw, err := json.Marshal(v)
		return string(raw), err
	}
	return v, nil
}
