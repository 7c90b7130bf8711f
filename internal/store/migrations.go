package store

import (
	"fmt"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"
)

type migration = gormigrate.Migration

// migrations are numbered and never changed once released; each is one
// transaction.
var migrations = []*migration{
	{ID: "0001_first_shop", Migrate: statements(
		`CREATE TABLE cars (
			id TEXT PRIMARY KEY, seq INTEGER NOT NULL UNIQUE, name TEXT NOT NULL, body TEXT NOT NULL,
			colour TEXT NOT NULL CHECK (colour IN ('light','medium','dark')), painter TEXT NOT NULL,
			width_mm REAL NOT NULL, height_mm REAL NOT NULL, created_at DATETIME NOT NULL)`,
		`CREATE TABLE panels (
			id TEXT PRIMARY KEY, car_id TEXT NOT NULL REFERENCES cars(id), seq INTEGER NOT NULL,
			key TEXT NOT NULL, name TEXT NOT NULL, substrate TEXT NOT NULL, shape TEXT NOT NULL,
			finish TEXT NOT NULL CHECK (finish IN ('factory','refinished','refinished_unknown','single_stage')),
			coats INTEGER NOT NULL CHECK (coats BETWEEN 0 AND 10),
			peel_grade REAL NOT NULL CHECK (peel_grade BETWEEN 0 AND 10),
			UNIQUE (car_id, key), UNIQUE (car_id, seq))`,
		`CREATE TABLE readings (
			id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL,
			x_mm REAL NOT NULL, y_mm REAL NOT NULL, film_um REAL NOT NULL CHECK (film_um > 0),
			phase TEXT NOT NULL CHECK (phase IN ('total','before_clear')),
			source TEXT NOT NULL, placed NUMERIC NOT NULL, fingerprint TEXT UNIQUE, taken_at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq))`,
		`CREATE TABLE plans (
			id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), version INTEGER NOT NULL,
			accepted_at DATETIME NOT NULL, basis TEXT NOT NULL, peel_grade REAL NOT NULL, colour TEXT NOT NULL,
			start TEXT NOT NULL, film_um REAL NOT NULL, state TEXT NOT NULL, readings INTEGER NOT NULL,
			UNIQUE (panel_id, version))`,
		`CREATE TABLE steps (
			plan_id TEXT NOT NULL REFERENCES plans(id), no INTEGER NOT NULL, kind TEXT NOT NULL, item TEXT NOT NULL,
			title TEXT NOT NULL, what TEXT NOT NULL, passes INTEGER NOT NULL, rate_um REAL NOT NULL,
			film_um REAL NOT NULL, minutes REAL NOT NULL, PRIMARY KEY (plan_id, no))`,
		`CREATE TABLE entries (
			id TEXT PRIMARY KEY, plan_id TEXT NOT NULL, panel_id TEXT NOT NULL REFERENCES panels(id),
			seq INTEGER NOT NULL, section TEXT NOT NULL, step INTEGER NOT NULL,
			kind TEXT NOT NULL CHECK (kind IN ('pass','paper','done')), person TEXT NOT NULL, at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq),
			FOREIGN KEY (plan_id, step) REFERENCES steps(plan_id, no))`,
	)},
	{ID: "0002_marks", Migrate: statements(
		`ALTER TABLE cars ADD COLUMN length_mm REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE cars ADD COLUMN sheet TEXT NOT NULL DEFAULT ''`,
		`ALTER TABLE cars ADD COLUMN owner_words TEXT NOT NULL DEFAULT ''`,
		`ALTER TABLE cars ADD COLUMN cost_limit REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE cars ADD COLUMN hours_limit REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE panels ADD COLUMN origin TEXT NOT NULL DEFAULT 'unknown' CHECK (origin IN ('factory','here','elsewhere','unknown'))`,
		`ALTER TABLE panels ADD COLUMN layers TEXT NOT NULL DEFAULT 'clear' CHECK (layers IN ('clear','single'))`,
		`ALTER TABLE panels ADD COLUMN wet_um REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE panels ADD COLUMN solids REAL NOT NULL DEFAULT 0 CHECK (solids BETWEEN 0 AND 1)`,
		`ALTER TABLE panels ADD COLUMN dry_um REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE panels ADD COLUMN sprayed_at DATETIME`,
		`ALTER TABLE panels ADD COLUMN cure TEXT NOT NULL DEFAULT 'unknown' CHECK (cure IN ('air','baked','unknown'))`,
		`ALTER TABLE panels ADD COLUMN aim TEXT NOT NULL DEFAULT 'flat' CHECK (aim IN ('nibs','match','flat','polish'))`,
		`ALTER TABLE panels ADD COLUMN past TEXT NOT NULL DEFAULT ''`,
		`UPDATE panels SET origin = CASE finish WHEN 'factory' THEN 'factory' WHEN 'refinished' THEN 'here' ELSE 'unknown' END,
			layers = CASE finish WHEN 'single_stage' THEN 'single' ELSE 'clear' END`,
		`ALTER TABLE panels DROP COLUMN finish`,
		`CREATE TABLE marks (
			id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL, kind TEXT NOT NULL,
			x_mm REAL NOT NULL, y_mm REAL NOT NULL, length_mm REAL NOT NULL, width_mm REAL NOT NULL, angle_deg REAL NOT NULL,
			class TEXT NOT NULL, size_um REAL NOT NULL, crest_um REAL NOT NULL, beside_um REAL NOT NULL, grade REAL NOT NULL,
			density_dm2 REAL NOT NULL, note TEXT NOT NULL, found TEXT NOT NULL, person TEXT NOT NULL, at DATETIME NOT NULL,
			outcome TEXT NOT NULL CHECK (outcome IN ('open','gone','softened','left')), outcome_reason TEXT NOT NULL,
			spent_um REAL NOT NULL, closed_at DATETIME, closed_by TEXT NOT NULL, struck_at DATETIME, struck_reason TEXT NOT NULL,
			has_photo NUMERIC NOT NULL DEFAULT 0, UNIQUE (panel_id, seq))`,
		`CREATE TABLE photos (mark_id TEXT PRIMARY KEY REFERENCES marks(id), mime TEXT NOT NULL, data BLOB NOT NULL, at DATETIME NOT NULL)`,
		`CREATE TABLE tasks (car_id TEXT NOT NULL REFERENCES cars(id), task TEXT NOT NULL, done_at DATETIME NOT NULL, person TEXT NOT NULL, PRIMARY KEY (car_id, task))`,
		`CREATE TABLE tellings (car_id TEXT NOT NULL REFERENCES cars(id), key TEXT NOT NULL, text TEXT NOT NULL, said_at DATETIME NOT NULL, person TEXT NOT NULL, PRIMARY KEY (car_id, key))`,
	)},
	{ID: "0003_gauges", Migrate: statements(
		`CREATE TABLE readings_anew (
			id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL,
			x_mm REAL NOT NULL, y_mm REAL NOT NULL, film_um REAL NOT NULL CHECK (film_um > 0),
			phase TEXT NOT NULL CHECK (phase IN ('total','before_clear','clear')),
			source TEXT NOT NULL, placed NUMERIC NOT NULL, fingerprint TEXT UNIQUE, taken_at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, gauge TEXT NOT NULL DEFAULT '', sure TEXT NOT NULL DEFAULT '',
			UNIQUE (panel_id, seq))`,
		`INSERT INTO readings_anew (id, panel_id, seq, x_mm, y_mm, film_um, phase, source, placed, fingerprint, taken_at, struck_at, struck_reason)
			SELECT id, panel_id, seq, x_mm, y_mm, film_um, phase, source, placed, fingerprint, taken_at, struck_at, struck_reason FROM readings`,
		`DROP TABLE readings`,
		`ALTER TABLE readings_anew RENAME TO readings`,
		`ALTER TABLE panels ADD COLUMN zones TEXT NOT NULL DEFAULT ''`,
		`CREATE TABLE gauges (id TEXT PRIMARY KEY, name TEXT NOT NULL, repeat_um REAL NOT NULL, doubt_um REAL NOT NULL, shots INTEGER NOT NULL)`,
		`CREATE TABLE gauge_checks (id INTEGER PRIMARY KEY, gauge_id TEXT NOT NULL REFERENCES gauges(id), at DATETIME NOT NULL,
			zero_um REAL NOT NULL, foil_um REAL NOT NULL, read_um REAL NOT NULL)`,
		`CREATE TABLE settings (key TEXT PRIMARY KEY, value TEXT NOT NULL)`,
		`INSERT INTO gauges VALUES ('shop', 'the shop''s gauge', 0, 0, 0)`,
	)},
	{ID: "0004_plans", Migrate: statements(
		`ALTER TABLE plans ADD COLUMN offer TEXT NOT NULL DEFAULT 'yours'`,
		`ALTER TABLE plans ADD COLUMN made TEXT NOT NULL DEFAULT ''`,
		`ALTER TABLE plans ADD COLUMN facts TEXT NOT NULL DEFAULT ''`,
		`ALTER TABLE plans ADD COLUMN why TEXT NOT NULL DEFAULT ''`,
		`ALTER TABLE steps ADD COLUMN backing TEXT NOT NULL DEFAULT ''`,
		`ALTER TABLE steps ADD COLUMN area TEXT NOT NULL DEFAULT ''`,
		`UPDATE steps SET backing = CASE kind WHEN 'level' THEN 'rubber' WHEN 'refine' THEN 'foam-disc' ELSE '' END`,
		`UPDATE steps SET item = 'p2500-foam' WHERE item = 'p2500' AND kind = 'refine'`,
		`ALTER TABLE panels ADD COLUMN hardness TEXT NOT NULL DEFAULT 'medium' CHECK (hardness IN ('soft','medium','hard','oxidised'))`,
		`CREATE TABLE constants (key TEXT PRIMARY KEY, value REAL NOT NULL)`,
		`CREATE TABLE tries (
			id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL, section TEXT NOT NULL,
			ladder TEXT NOT NULL, made TEXT NOT NULL, film_before_um REAL NOT NULL, film_after_um REAL NOT NULL, spots INTEGER NOT NULL,
			gloss_before REAL, gloss_after REAL, clarity_before REAL NOT NULL, clarity_after REAL NOT NULL, note TEXT NOT NULL,
			person TEXT NOT NULL, at DATETIME NOT NULL, struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq))`,
	)},
	{ID: "0005_looks", Migrate: statements(
		`CREATE TABLE entries_anew (
			id TEXT PRIMARY KEY, plan_id TEXT NOT NULL, panel_id TEXT NOT NULL REFERENCES panels(id),
			seq INTEGER NOT NULL, section TEXT NOT NULL, step INTEGER NOT NULL,
			kind TEXT NOT NULL CHECK (kind IN ('pass','paper','done','shiny','override','scrape','colour','through')),
			value REAL NOT NULL DEFAULT 0, note TEXT NOT NULL DEFAULT '', person TEXT NOT NULL, at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq),
			FOREIGN KEY (plan_id, step) REFERENCES steps(plan_id, no))`,
		`INSERT INTO entries_anew (id, plan_id, panel_id, seq, section, step, kind, person, at, struck_at, struck_reason)
			SELECT id, plan_id, panel_id, seq, section, step, kind, person, at, struck_at, struck_reason FROM entries`,
		`DROP TABLE entries`,
		`ALTER TABLE entries_anew RENAME TO entries`,
	)},
	{ID: "0006_hands", Migrate: statements(
		`CREATE TABLE people (name TEXT PRIMARY KEY, coarsest TEXT NOT NULL)`,
		`CREATE TABLE entries_anew (
			id TEXT PRIMARY KEY, plan_id TEXT NOT NULL, panel_id TEXT NOT NULL REFERENCES panels(id),
			seq INTEGER NOT NULL, section TEXT NOT NULL, step INTEGER NOT NULL,
			kind TEXT NOT NULL CHECK (kind IN ('pass','paper','done','shiny','override','scrape','colour','through','back','shave','block')),
			value REAL NOT NULL DEFAULT 0, note TEXT NOT NULL DEFAULT '', mark TEXT NOT NULL DEFAULT '', person TEXT NOT NULL, at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq),
			FOREIGN KEY (plan_id, step) REFERENCES steps(plan_id, no))`,
		`INSERT INTO entries_anew (id, plan_id, panel_id, seq, section, step, kind, value, note, person, at, struck_at, struck_reason)
			SELECT id, plan_id, panel_id, seq, section, step, kind, value, note, person, at, struck_at, struck_reason FROM entries`,
		`DROP TABLE entries`,
		`ALTER TABLE entries_anew RENAME TO entries`,
	)},
	{ID: "0007_under", Migrate: statements(
		`ALTER TABLE panels ADD COLUMN under TEXT NOT NULL DEFAULT 'unknown' CHECK (under IN ('new','over','unknown'))`,
	)},
	{ID: "0008_floors", Migrate: statements(
		`CREATE TABLE readings_anew (
			id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL,
			x_mm REAL NOT NULL, y_mm REAL NOT NULL, film_um REAL NOT NULL CHECK (film_um > 0),
			phase TEXT NOT NULL CHECK (phase IN ('total','before_clear','clear','bare')),
			source TEXT NOT NULL, placed NUMERIC NOT NULL, fingerprint TEXT UNIQUE, taken_at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, gauge TEXT NOT NULL DEFAULT '', sure TEXT NOT NULL DEFAULT '',
			UNIQUE (panel_id, seq))`,
		`INSERT INTO readings_anew (id, panel_id, seq, x_mm, y_mm, film_um, phase, source, placed, fingerprint, taken_at, struck_at, struck_reason, gauge, sure)
			SELECT id, panel_id, seq, x_mm, y_mm, film_um, phase, source, placed, fingerprint, taken_at, struck_at, struck_reason, gauge, sure FROM readings`,
		`DROP TABLE readings`,
		`ALTER TABLE readings_anew RENAME TO readings`,
		`ALTER TABLE plans ADD COLUMN risk REAL NOT NULL DEFAULT 0`,
		`CREATE TABLE floors (
			id TEXT PRIMARY KEY, car_id TEXT NOT NULL REFERENCES cars(id), panel_id TEXT REFERENCES panels(id), seq INTEGER NOT NULL,
			floor_um REAL NOT NULL CHECK (floor_um >= 15), person TEXT NOT NULL, reason TEXT NOT NULL, at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (car_id, seq))`,
		`CREATE TABLE entries_anew (
			id TEXT PRIMARY KEY, plan_id TEXT NOT NULL, panel_id TEXT NOT NULL REFERENCES panels(id),
			seq INTEGER NOT NULL, section TEXT NOT NULL, step INTEGER NOT NULL,
			kind TEXT NOT NULL CHECK (kind IN ('pass','paper','done','shiny','override','scrape','colour','through','back','shave','block','rest')),
			value REAL NOT NULL DEFAULT 0, note TEXT NOT NULL DEFAULT '', mark TEXT NOT NULL DEFAULT '', person TEXT NOT NULL, at DATETIME NOT NULL,
			struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq),
			FOREIGN KEY (plan_id, step) REFERENCES steps(plan_id, no))`,
		`INSERT INTO entries_anew (id, plan_id, panel_id, seq, section, step, kind, value, note, mark, person, at, struck_at, struck_reason)
			SELECT id, plan_id, panel_id, seq, section, step, kind, value, note, mark, person, at, struck_at, struck_reason FROM entries`,
		`DROP TABLE entries`,
		`ALTER TABLE entries_anew RENAME TO entries`,
	)},
	{ID: "0009_growth", Migrate: statements(growth...)},
	{ID: "0010_condition", Migrate: statements(condition...)},
	{ID: "0011_correct", Migrate: statements(correct...)},
	{ID: "0012_proved", Migrate: statements(proved...)},
	{ID: "0013_handed", Migrate: statements(handed...)},
	{ID: "0014_found", Migrate: statements(found...)},
	{ID: "0015_pages", Migrate: statements(pages...)},
	{ID: "0016_planned", Migrate: statements(planned...)},
	{ID: "0017_promised", Migrate: statements(promised...)},
	{ID: "0018_timed", Migrate: statements(timed...)},
	{ID: "0019_lit", Migrate: statements(lit...)},
	{ID: "0020_told", Migrate: statements(`ALTER TABLE tellings ADD COLUMN facts TEXT NOT NULL DEFAULT ''`)},
	{ID: "0021_said", Migrate: statements(said...)},
}

func statements(sql ...string) gormigrate.MigrateFunc {
	return func(tx *gorm.DB) error {
		for _, s := range sql {
			if err := tx.Exec(s).Error; err != nil {
				return err
			}
		}
		return nil
	}
}

func migrate(db *gorm.DB) error {
	opts := *gormigrate.DefaultOptions
	opts.UseTransaction = true
	opts.ValidateUnknownMigrations = true
	if err := gormigrate.New(db, &opts, migrations).Migrate(); err != nil {
		return fmt.Errorf("bringing the shop's database up to date: %w", err)
	}
	return nil
}
