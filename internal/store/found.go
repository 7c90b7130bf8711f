package store

import (
	"context"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
)

// What can be found.
const (
	FoundCar     = "car"     // its name, painter, body and colour
	FoundWords   = "words"   // the owner's
	FoundMark    = "mark"    // its kind, panel, note and what became of it
	FoundReading = "reading" // why it was kept or struck out
	FoundFilm    = "film"    // a reading by its film
)

// found is the migration of the index that words are found by: a row for each thing with
// words, which triggers keep. What is deleted from it is gone from the file too.
var found = slices.Concat([]string{
	`CREATE TABLE found_rows (id INTEGER PRIMARY KEY, kind TEXT NOT NULL, ref TEXT NOT NULL, car_id TEXT NOT NULL, UNIQUE (kind, ref))`,
	`CREATE VIRTUAL TABLE found USING fts5(text, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3')`,
	`INSERT INTO found (found, rank) VALUES ('secure-delete', 1)`,
	`CREATE TRIGGER found_gone AFTER DELETE ON found_rows BEGIN DELETE FROM found WHERE rowid = OLD.id; END`,
	`CREATE INDEX readings_by_film ON readings (film_um) WHERE struck_at IS NULL`,
},
	findable(FoundCar, "cars", "name, painter, body, colour", "@name || ' ' || @painter || ' ' || @body || ' ' || @colour", "@id"),
	findable(FoundWords, "cars", "owner_words", "@owner_words", "@id"),
	findable(FoundMark, "marks", "kind, class, note, outcome, outcome_reason, struck_at",
		"CASE WHEN @struck_at IS NULL THEN @kind || ' ' || @class || ' ' || @note || ' ' || @outcome || ' ' || @outcome_reason || ' ' || "+panelOf("name")+" ELSE '' END", panelOf("car_id")),
	findable(FoundReading, "readings", "sure, struck_reason",
		"CASE WHEN @sure || @struck_reason = '' THEN '' ELSE @sure || ' ' || @struck_reason || ' ' || "+panelOf("name")+" END", panelOf("car_id")),
)

// panelOf is a column of the panel of a row.
func panelOf(column string) string { return "(SELECT " + column + " FROM panels WHERE id = @panel_id)" }

// findable has the rows of a table found by a text, unless that is empty; columns are those
// that it is made of, and an @ stands before each of the row's own.
func findable(kind, table, columns, text, car string) []string {
	of := func(row, sql string) string { return strings.ReplaceAll(sql, "@", row+".") }
	keep := `INSERT INTO found_rows (kind, ref, car_id) SELECT '` + kind + `', @id, ` + car + ` WHERE ` + text + ` <> '';
		INSERT INTO found (rowid, text) SELECT id, ` + text + ` FROM found_rows WHERE kind = '` + kind + `' AND ref = @id;`
	return []string{
		`CREATE TRIGGER found_new_` + kind + ` AFTER INSERT ON ` + table + ` WHEN ` + of("NEW", text) + ` <> '' BEGIN ` + of("NEW", keep) + ` END`,
		`CREATE TRIGGER found_other_` + kind + ` AFTER UPDATE OF ` + columns + ` ON ` + table + ` BEGIN
			DELETE FROM found_rows WHERE kind = '` + kind + `' AND ref = NEW.id; ` + of("NEW", keep) + ` END`,
		of("t", `INSERT INTO found_rows (kind, ref, car_id) SELECT '`+kind+`', @id, `+car+` FROM `+table+` t WHERE `+text+` <> '' ORDER BY t.rowid`),
		of("t", `INSERT INTO found (rowid, text) SELECT f.id, `+text+` FROM found_rows f JOIN `+table+` t ON t.id = f.ref WHERE f.kind = '`+kind+`'`),
	}
}

// Found is one thing that words were found in, with its car. Panel is empty for the car itself.
type Found struct {
	Kind, Ref          string
	CarID, CarName     string
	PanelID, PanelName string
	Text               string
	FilmUM             float64 // of a reading
	HandedOverAt       *time.Time
}

// Find lists what all words of a text begin words of, the newest first, at most so many.
func (s *Store) Find(ctx context.Context, text string, most int) ([]Found, error) {
	words := searched(text)
	if words == "" {
		return nil, nil
	}
	var out []Found
	err := s.read(ctx).Raw(`WITH hit AS (SELECT rowid AS id, text FROM found WHERE found MATCH ? ORDER BY rowid DESC LIMIT ?)
		SELECT f.kind, f.ref, f.car_id, c.name AS car_name, c.handed_over_at, hit.text,
			COALESCE(m.panel_id, r.panel_id, '') AS panel_id, COALESCE(p.name, '') AS panel_name, COALESCE(r.film_um, 0) AS film_um
		FROM hit JOIN found_rows f ON f.id = hit.id JOIN cars c ON c.id = f.car_id
		LEFT JOIN marks m ON f.kind = 'mark' AND m.id = f.ref LEFT JOIN readings r ON f.kind = 'reading' AND r.id = f.ref
		LEFT JOIN panels p ON p.id = COALESCE(m.panel_id, r.panel_id)
		ORDER BY hit.id DESC`, words, most).Scan(&out).Error
	return out, err
}

// FindFilm lists readings of a film between two values (µm), at most so many.
func (s *Store) FindFilm(ctx context.Context, from, to float64, most int) ([]Found, error) {
	var out []Found
	err := s.read(ctx).Raw(`WITH hit AS (SELECT id, panel_id, film_um FROM readings WHERE struck_at IS NULL AND film_um BETWEEN ? AND ? ORDER BY film_um LIMIT ?)
		SELECT ? AS kind, hit.id AS ref, c.id AS car_id, c.name AS car_name, c.handed_over_at, p.id AS panel_id, p.name AS panel_name, hit.film_um
		FROM hit JOIN panels p ON p.id = hit.panel_id JOIN cars c ON c.id = p.car_id`, from, to, most, FoundFilm).Scan(&out).Error
	return out, err
}

// SetClosed puts a car among those that were handed over as it is, without anything kept of
// it; it fills shops to try things in.
func (s *Store) SetClosed(ctx context.Context, car string, at time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Model(&Car{}).Where("id = ?", car).Update("handed_over_at", at).Error
	})
}
