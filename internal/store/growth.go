package store

import "strings"

// growth is the migration that keeps beside each panel and car what a tap, a list or the
// learning would else have to count anew over a log that grows with the years: in tables of
// their own, as a row of a panel or car is long and would be written whole. Triggers keep
// it, so that no way of writing can forget it.
//
//   - version of a panel counts all that changes what it is; of a car, all of its panels too
//   - logged of a panel counts those of its changes that are of its log
//   - facts of a car counts what its panels have in common: what was said, floors, films
//   - lesson of a panel counts what changes what its film teaches of hands and coats: a pass
//     after its readings teaches nothing yet
//   - version and lessons of the shop count house rules, shelf, gauges and people, and the
//     lessons of all panels that teach
//
// A later migration that makes one of these tables anew has to make its triggers anew too.
var growth = []string{
	utc("readings", "taken_at"), utc("entries", "at"),
	`ALTER TABLE cars ADD COLUMN handed_over_at DATETIME`,
	`CREATE TABLE car_states (car_id TEXT PRIMARY KEY REFERENCES cars(id), version INTEGER NOT NULL DEFAULT 0, facts INTEGER NOT NULL DEFAULT 0)`,
	`CREATE TABLE panel_states (panel_id TEXT PRIMARY KEY REFERENCES panels(id), car_id TEXT NOT NULL REFERENCES cars(id),
		version INTEGER NOT NULL DEFAULT 0, logged INTEGER NOT NULL DEFAULT 0, lesson INTEGER NOT NULL DEFAULT 0,
		first_pass_at DATETIME, last_entry_at DATETIME, last_read_at DATETIME, before_at DATETIME)`,
	`INSERT INTO car_states (car_id) SELECT id FROM cars`,
	`INSERT INTO panel_states (panel_id, car_id, first_pass_at, last_entry_at, last_read_at, before_at) SELECT id, car_id, ` + firstPass("panels.id") + `,
		(SELECT MAX(at) FROM entries WHERE panel_id = panels.id), ` + lastRead("panels.id") + `, ` + lastBefore("panels.id") + ` FROM panels`,
	`CREATE TRIGGER car_state_made AFTER INSERT ON cars BEGIN INSERT INTO car_states (car_id) VALUES (NEW.id); END`,
	`CREATE TRIGGER panel_state_made AFTER INSERT ON panels BEGIN INSERT INTO panel_states (panel_id, car_id) VALUES (NEW.id, NEW.car_id); END`,
	`CREATE INDEX panel_states_of_car ON panel_states (car_id)`,
	`ALTER TABLE readings ADD COLUMN kept_at DATETIME`,
	`UPDATE readings SET kept_at = taken_at`,
	`ALTER TABLE entries ADD COLUMN kept_at DATETIME`,
	`UPDATE entries SET kept_at = at`,
	`ALTER TABLE entries ADD COLUMN device TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE entries ADD COLUMN late NUMERIC NOT NULL DEFAULT 0`,
	`ALTER TABLE entries ADD COLUMN flag TEXT NOT NULL DEFAULT ''`,
	`CREATE INDEX entries_of_device ON entries (device, late, kept_at)`,
	`CREATE INDEX panels_worked ON panel_states (last_entry_at DESC) WHERE first_pass_at IS NOT NULL`,
	`CREATE INDEX panels_coated ON panel_states (last_read_at DESC) WHERE before_at IS NOT NULL`,
	`CREATE INDEX cars_here ON cars (seq DESC) WHERE handed_over_at IS NULL`,
	`CREATE INDEX cars_gone ON cars (seq DESC) WHERE handed_over_at IS NOT NULL`,
	`CREATE VIRTUAL TABLE car_names USING fts5(name, tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3')`,
	`INSERT INTO car_names (rowid, name) SELECT seq, name FROM cars`,
	`CREATE TRIGGER car_named AFTER INSERT ON cars BEGIN INSERT INTO car_names (rowid, name) VALUES (NEW.seq, NEW.name); END`,
	`CREATE TRIGGER car_renamed AFTER UPDATE OF name ON cars BEGIN UPDATE car_names SET name = NEW.name WHERE rowid = NEW.seq; END`,
	`CREATE INDEX gauge_checks_of ON gauge_checks (gauge_id, at DESC, id DESC)`,
	`CREATE TABLE shop (id INTEGER PRIMARY KEY CHECK (id = 1), version INTEGER NOT NULL, lessons INTEGER NOT NULL,
		here INTEGER NOT NULL, gone INTEGER NOT NULL)`,
	`INSERT INTO shop SELECT 1, 1, 1, COUNT(*), 0 FROM cars`,
	`CREATE TRIGGER car_counted AFTER INSERT ON cars BEGIN
		UPDATE shop SET here = here + (NEW.handed_over_at IS NULL), gone = gone + (NEW.handed_over_at IS NOT NULL); END`,
	`CREATE TRIGGER car_handed_over AFTER UPDATE OF handed_over_at ON cars WHEN (OLD.handed_over_at IS NULL) <> (NEW.handed_over_at IS NULL) BEGIN
		UPDATE shop SET here = here + (NEW.handed_over_at IS NULL) - (OLD.handed_over_at IS NULL),
			gone = gone + (NEW.handed_over_at IS NOT NULL) - (OLD.handed_over_at IS NOT NULL); END`,
	`CREATE TABLE grants (
		panel_id TEXT PRIMARY KEY REFERENCES panels(id), version INTEGER NOT NULL, shop INTEGER NOT NULL, lessons INTEGER NOT NULL,
		section TEXT NOT NULL, step INTEGER NOT NULL, passes INTEGER NOT NULL)`,
	`CREATE TABLE summaries (
		car_id TEXT PRIMARY KEY REFERENCES cars(id), car_version INTEGER NOT NULL, shop_version INTEGER NOT NULL, lessons INTEGER NOT NULL,
		form INTEGER NOT NULL, summary TEXT NOT NULL)`,

	`INSERT OR IGNORE INTO people (name, coarsest) SELECT DISTINCT person, '' FROM entries`,
	`INSERT OR IGNORE INTO people (name, coarsest) SELECT DISTINCT painter, '' FROM cars WHERE painter <> ''`,
	`CREATE TRIGGER person_entered AFTER INSERT ON entries BEGIN
		INSERT OR IGNORE INTO people (name, coarsest) VALUES (NEW.person, ''); END`,
	`CREATE TRIGGER painter_taken AFTER INSERT ON cars WHEN NEW.painter <> '' BEGIN
		INSERT OR IGNORE INTO people (name, coarsest) VALUES (NEW.painter, ''); END`,
	`CREATE TRIGGER painter_changed AFTER UPDATE OF painter ON cars WHEN NEW.painter <> '' BEGIN
		INSERT OR IGNORE INTO people (name, coarsest) VALUES (NEW.painter, ''); END`,

	`CREATE TRIGGER reading_added AFTER INSERT ON readings BEGIN
		UPDATE panel_states SET version = version + 1, lesson = lesson + 1,
			last_read_at = MAX(COALESCE(last_read_at, NEW.taken_at), NEW.taken_at),
			before_at = CASE WHEN NEW.phase = 'before_clear' THEN MAX(COALESCE(before_at, NEW.taken_at), NEW.taken_at) ELSE before_at END
		WHERE panel_id = NEW.panel_id;
		` + newFacts + ` END`,
	`CREATE TRIGGER reading_struck AFTER UPDATE OF struck_at ON readings BEGIN
		UPDATE panel_states SET version = version + 1, lesson = lesson + 1, last_read_at = ` + lastRead("NEW.panel_id") + `, before_at = ` + lastBefore("NEW.panel_id") + `
		WHERE panel_id = NEW.panel_id;
		` + newFacts + ` END`,
	`CREATE TRIGGER entry_added AFTER INSERT ON entries BEGIN
		UPDATE panel_states SET version = version + 1, logged = logged + 1,
			first_pass_at = CASE WHEN NEW.kind IN ('pass','override') THEN MIN(COALESCE(first_pass_at, NEW.at), NEW.at) ELSE first_pass_at END,
			last_entry_at = MAX(COALESCE(last_entry_at, NEW.at), NEW.at)
		WHERE panel_id = NEW.panel_id; END`,
	`CREATE TRIGGER entry_struck AFTER UPDATE OF struck_at ON entries BEGIN
		UPDATE panel_states SET version = version + 1, logged = logged + 1, lesson = lesson + 1, first_pass_at = ` + firstPass("NEW.panel_id") + ` WHERE panel_id = NEW.panel_id; END`,
	`CREATE TRIGGER mark_added AFTER INSERT ON marks BEGIN UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`,
	`CREATE TRIGGER mark_changed AFTER UPDATE ON marks BEGIN UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`,
	`CREATE TRIGGER try_added AFTER INSERT ON tries BEGIN UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`,
	`CREATE TRIGGER try_struck AFTER UPDATE ON tries BEGIN UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`,
	ofCar("tasks", "INSERT", "NEW"), ofCar("tasks", "DELETE", "OLD"),
	ofCar("tellings", "INSERT", "NEW"), ofCar("tellings", "UPDATE", "NEW"), ofCar("tellings", "DELETE", "OLD"),
	`CREATE TRIGGER plan_accepted AFTER INSERT ON plans BEGIN UPDATE panel_states SET version = version + 1, lesson = lesson + 1 WHERE panel_id = NEW.panel_id; END`,
	`CREATE TRIGGER floor_added AFTER INSERT ON floors BEGIN
		UPDATE panel_states SET version = version + 1 WHERE car_id = NEW.car_id AND (NEW.panel_id IS NULL OR panel_id = NEW.panel_id);
		UPDATE car_states SET facts = facts + 1 WHERE car_id = NEW.car_id; END`,
	`CREATE TRIGGER floor_struck AFTER UPDATE ON floors BEGIN
		UPDATE panel_states SET version = version + 1 WHERE car_id = NEW.car_id AND (NEW.panel_id IS NULL OR panel_id = NEW.panel_id);
		UPDATE car_states SET facts = facts + 1 WHERE car_id = NEW.car_id; END`,
	panelChanged(panelFacts),
	`CREATE TRIGGER car_changed AFTER UPDATE OF ` + carFacts + ` ON cars WHEN ` + differ(carFacts) + ` BEGIN
		UPDATE panel_states SET version = version + 1, lesson = lesson + (OLD.painter <> NEW.painter) WHERE car_id = NEW.id;
		UPDATE car_states SET version = version + 1, facts = facts + 1 WHERE car_id = NEW.id; END`,
	`CREATE TRIGGER panel_newer AFTER UPDATE OF version ON panel_states BEGIN UPDATE car_states SET version = version + 1 WHERE car_id = NEW.car_id; END`,
	`CREATE TRIGGER panel_teaches AFTER UPDATE OF lesson ON panel_states
		WHEN OLD.lesson <> NEW.lesson AND (COALESCE(NEW.first_pass_at < NEW.last_read_at, 0) OR COALESCE(OLD.first_pass_at < OLD.last_read_at, 0)
			OR NEW.before_at IS NOT NULL OR OLD.before_at IS NOT NULL) BEGIN
		UPDATE shop SET lessons = lessons + 1; END`,
	`CREATE TRIGGER constant_added AFTER INSERT ON constants BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER constant_changed AFTER UPDATE ON constants BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER constant_reset AFTER DELETE ON constants BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER setting_added AFTER INSERT ON settings BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER setting_changed AFTER UPDATE ON settings BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER person_added AFTER INSERT ON people BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER person_changed AFTER UPDATE ON people BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER gauge_met AFTER INSERT ON gauges BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER gauge_changed AFTER UPDATE ON gauges BEGIN UPDATE shop SET version = version + 1; END`,
	`CREATE TRIGGER gauge_checked AFTER INSERT ON gauge_checks BEGIN UPDATE shop SET version = version + 1; END`,
}

// condition is the migration that keeps what washing and sun left on a panel.
var condition = []string{
	`ALTER TABLE panels ADD COLUMN swirls TEXT NOT NULL DEFAULT '' CHECK (swirls IN ('','none','light','medium','heavy'))`,
	`ALTER TABLE panels ADD COLUMN swirls_um REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN swirls_spread REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN dead TEXT NOT NULL DEFAULT '' CHECK (dead IN ('','none','light','heavy'))`,
	`ALTER TABLE panels ADD COLUMN dead_um REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN dead_spread REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN water_spots NUMERIC NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN haze NUMERIC NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN wet_test TEXT NOT NULL DEFAULT '' CHECK (wet_test IN ('','gloss','dull'))`,
	`ALTER TABLE panels ADD COLUMN cloth_test TEXT NOT NULL DEFAULT '' CHECK (cloth_test IN ('','colour','clean'))`,
	`ALTER TABLE panels ADD COLUMN gone REAL NOT NULL DEFAULT 0 CHECK (gone BETWEEN 0 AND 0.99)`,
	`CREATE TABLE squares (
		id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL, ladder TEXT NOT NULL,
		removed_um REAL NOT NULL, left_share REAL CHECK (left_share BETWEEN 0 AND 1), off_low_um REAL, off_high_um REAL,
		person TEXT NOT NULL, at DATETIME NOT NULL, UNIQUE (panel_id, seq))`,
	`CREATE TRIGGER square_added AFTER INSERT ON squares BEGIN UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`,
	`DROP TRIGGER panel_changed`,
	panelChanged(panelFacts + conditionFacts),
}

// correct is the migration that lets squares be read by a meter and struck out, sections look
// other than their panel, and paint be lacquer.
var correct = []string{
	`ALTER TABLE squares ADD COLUMN clarity_before REAL CHECK (clarity_before BETWEEN 0 AND 100)`,
	`ALTER TABLE squares ADD COLUMN clarity_after REAL CHECK (clarity_after BETWEEN 0 AND 100)`,
	`ALTER TABLE squares ADD COLUMN struck_at DATETIME`,
	`ALTER TABLE squares ADD COLUMN struck_reason TEXT NOT NULL DEFAULT ''`,
	`CREATE TRIGGER square_struck AFTER UPDATE OF struck_at ON squares BEGIN UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`,
	`DROP TRIGGER panel_changed`,
	`ALTER TABLE panels ADD COLUMN parts TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE panels ADD COLUMN paint TEXT NOT NULL DEFAULT 'medium' CHECK (paint IN ('soft','medium','hard','oxidised','lacquer'))`,
	`UPDATE panels SET paint = hardness`,
	`ALTER TABLE panels DROP COLUMN hardness`,
	`ALTER TABLE panels RENAME COLUMN paint TO hardness`,
	panelChanged(panelFacts + conditionFacts + ", parts"),
}

// panelChanged counts a change of what is said of a panel.
func panelChanged(columns string) string {
	return `CREATE TRIGGER panel_changed AFTER UPDATE OF ` + columns + ` ON panels WHEN ` + differ(columns) + ` BEGIN
		UPDATE panel_states SET version = version + 1, lesson = lesson + (panel_id = NEW.id) WHERE car_id = NEW.car_id;
		UPDATE car_states SET facts = facts + 1 WHERE car_id = NEW.car_id; END`
}

// What is said of a panel and of a car, as growth watches it.
const (
	conditionFacts = ", swirls, swirls_um, swirls_spread, dead, dead_um, dead_spread, water_spots, haze, wet_test, cloth_test, gone"
	panelFacts     = "key, name, substrate, shape, origin, layers, coats, wet_um, solids, dry_um, sprayed_at, cure, aim, past, peel_grade, hardness, under, zones"
	carFacts       = "name, body, colour, painter, length_mm, width_mm, height_mm, sheet, owner_words, cost_limit, hours_limit, handed_over_at"
)

// differ says whether a row has changed in any of some columns.
func differ(columns string) string {
	list := strings.Split(columns, ", ")
	return "(OLD." + strings.Join(list, ", OLD.") + ") IS NOT (NEW." + strings.Join(list, ", NEW.") + ")"
}

// newFacts counts a film that was read.
const newFacts = "UPDATE car_states SET facts = facts + 1 WHERE car_id = (SELECT car_id FROM panels WHERE id = NEW.panel_id);"

// utc brings the times of a column, which are compared as text, to one zone.
func utc(table, column string) string {
	return `UPDATE ` + table + ` SET ` + column + ` = COALESCE(strftime('%Y-%m-%d %H:%M:%f+00:00', ` + column + `), ` + column + `)
		WHERE ` + column + ` NOT LIKE '%+00:00'`
}

// ofCar counts a write to a table of a car.
func ofCar(table, how, row string) string {
	return `CREATE TRIGGER ` + table + `_` + strings.ToLower(how) + ` AFTER ` + how + ` ON ` + table + ` BEGIN
		UPDATE car_states SET version = version + 1 WHERE car_id = ` + row + `.car_id; END`
}

func firstPass(panel string) string {
	return `(SELECT MIN(at) FROM entries WHERE panel_id = ` + panel + ` AND kind IN ('pass','override') AND struck_at IS NULL)`
}

func lastRead(panel string) string {
	return `(SELECT MAX(taken_at) FROM readings WHERE panel_id = ` + panel + ` AND struck_at IS NULL)`
}

func lastBefore(panel string) string {
	return `(SELECT MAX(taken_at) FROM readings WHERE panel_id = ` + panel + ` AND phase = 'before_clear' AND struck_at IS NULL)`
}
