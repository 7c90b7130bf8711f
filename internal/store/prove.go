package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// proved is the migration that keeps what proves a panel: photos of it and what was read from
// them, readings of meters, and what became of it.
var proved = []string{
	`ALTER TABLE plans ADD COLUMN ended_at DATETIME`,
	`ALTER TABLE panels ADD COLUMN photo_peel_um REAL NOT NULL DEFAULT 0 CHECK (photo_peel_um >= 0)`,
	`ALTER TABLE panels ADD COLUMN photo_peel_spread REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN photo_pebble_um REAL NOT NULL DEFAULT 0 CHECK (photo_pebble_um >= 0)`,
	`ALTER TABLE panels ADD COLUMN photo_pebble_spread REAL NOT NULL DEFAULT 0`,
	`ALTER TABLE panels ADD COLUMN standing_um REAL NOT NULL DEFAULT 0`,
	`CREATE TABLE lamps (
		id TEXT PRIMARY KEY, name TEXT NOT NULL, pitch_mm REAL NOT NULL, lamp_mm REAL NOT NULL, camera_mm REAL NOT NULL, aperture_mm REAL NOT NULL,
		mm_per_px REAL NOT NULL, lens_px REAL NOT NULL, gamma REAL NOT NULL, scale NUMERIC NOT NULL, used_at DATETIME NOT NULL)`,
	`CREATE TABLE proof_photos (
		id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL,
		kind TEXT NOT NULL CHECK (kind IN ('reflection','dull')), after NUMERIC NOT NULL, section TEXT NOT NULL,
		hash TEXT NOT NULL, mime TEXT NOT NULL, width_px INTEGER NOT NULL, height_px INTEGER NOT NULL, bytes INTEGER NOT NULL,
		take TEXT NOT NULL, reading TEXT NOT NULL, refused TEXT NOT NULL, person TEXT NOT NULL, at DATETIME NOT NULL,
		accepted_at DATETIME, accepted_by TEXT NOT NULL, dropped_at DATETIME, struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq))`,
	`CREATE INDEX proof_photos_of_hash ON proof_photos (hash)`,
	`CREATE INDEX proof_photos_struck ON proof_photos (struck_at) WHERE struck_at IS NOT NULL AND dropped_at IS NULL`,
	`CREATE INDEX cars_gone_at ON cars (handed_over_at) WHERE handed_over_at IS NOT NULL`,
	`ALTER TABLE photos ADD COLUMN hash TEXT NOT NULL DEFAULT ''`,
	`CREATE INDEX photos_of_hash ON photos (hash)`,
	`CREATE TABLE photo_files (hash TEXT PRIMARY KEY, bytes INTEGER NOT NULL)`,
	`CREATE TABLE photo_space (id INTEGER PRIMARY KEY CHECK (id = 1), photos INTEGER NOT NULL, bytes INTEGER NOT NULL)`,
	`INSERT INTO photo_space VALUES (1, 0, 0)`,
	`CREATE TRIGGER photo_kept AFTER INSERT ON photo_files BEGIN UPDATE photo_space SET photos = photos + 1, bytes = bytes + NEW.bytes; END`,
	`CREATE TRIGGER photo_dropped AFTER DELETE ON photo_files BEGIN UPDATE photo_space SET photos = photos - 1, bytes = bytes - OLD.bytes; END`,
	`CREATE TABLE meter_readings (
		id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL,
		quantity TEXT NOT NULL CHECK (quantity IN ('gloss','clarity')), instrument TEXT NOT NULL, angle_deg REAL NOT NULL,
		x_mm REAL NOT NULL, y_mm REAL NOT NULL, value REAL NOT NULL CHECK (value BETWEEN 0 AND 120), after NUMERIC NOT NULL, person TEXT NOT NULL, at DATETIME NOT NULL,
		struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq))`,
	`CREATE TABLE proofs (
		id TEXT PRIMARY KEY, panel_id TEXT NOT NULL REFERENCES panels(id), seq INTEGER NOT NULL,
		kind TEXT NOT NULL CHECK (kind IN ('wiped','scratched','kept','back')), section TEXT NOT NULL, note TEXT NOT NULL, facts TEXT NOT NULL,
		person TEXT NOT NULL, at DATETIME NOT NULL, struck_at DATETIME, struck_reason TEXT NOT NULL, UNIQUE (panel_id, seq))`,
	`DROP TRIGGER panel_changed`,
	panelChanged(panelFacts + conditionFacts + ", parts" + photoFacts),
	`CREATE TRIGGER plan_ended AFTER UPDATE OF ended_at ON plans BEGIN UPDATE panel_states SET version = version + 1, lesson = lesson + 1 WHERE panel_id = NEW.panel_id; END`,
	ofPanel("proof_photos", "INSERT"), ofPanel("proof_photos", "UPDATE"),
	ofPanel("meter_readings", "INSERT"), ofPanel("meter_readings", "UPDATE"),
	ofPanel("proofs", "INSERT"), ofPanel("proofs", "UPDATE"),
}

// photoFacts are what photos said of a panel.
const photoFacts = ", photo_peel_um, photo_peel_spread, photo_pebble_um, photo_pebble_spread, standing_um"

// ofPanel counts a write to a table of a panel.
func ofPanel(table, how string) string {
	return `CREATE TRIGGER ` + table + `_` + how + ` AFTER ` + how + ` ON ` + table + ` BEGIN
		UPDATE panel_states SET version = version + 1 WHERE panel_id = NEW.panel_id; END`
}

// Lamp is how photos of a lamp are taken in the shop.
type Lamp struct {
	ID         string `gorm:"primaryKey"`
	Name       string
	PitchMM    float64
	LampMM     float64
	CameraMM   float64
	ApertureMM float64
	MMPerPx    float64
	LensPx     float64
	Gamma      float64
	Scale      bool // a scale card lies on the panel
	UsedAt     time.Time
}

// ProofPhoto is a photo of a panel with what was read from it, as JSON; Refused says why
// nothing was, empty where it was. Hash names its file. It is never deleted, only struck out;
// its file may be dropped.
type ProofPhoto struct {
	ID           string `gorm:"primaryKey"`
	PanelID      string
	Seq          int64 // order of keeping, from 1 on each panel
	Kind         string
	After        bool // it shows the panel after work on it
	Section      string
	Hash         string
	Mime         string
	WidthPx      int
	HeightPx     int
	Bytes        int64
	Take         string
	Reading      string
	Refused      string
	Person       string
	At           time.Time
	AcceptedAt   *time.Time
	AcceptedBy   string
	DroppedAt    *time.Time
	StruckAt     *time.Time
	StruckReason string
}

// MeterReading is one reading of a gloss or clarity meter. It is never deleted, only struck
// out.
type MeterReading struct {
	ID           string `gorm:"primaryKey"`
	PanelID      string
	Seq          int64
	Quantity     string
	Instrument   string
	AngleDeg     float64
	XMM          float64 `gorm:"column:x_mm"`
	YMM          float64 `gorm:"column:y_mm"`
	Value        float64
	After        bool
	Person       string
	At           time.Time
	StruckAt     *time.Time
	StruckReason string
}

// Proof is what somebody found or decided at the end of the work on a panel. It is never
// deleted, only struck out.
type Proof struct {
	ID           string `gorm:"primaryKey"`
	PanelID      string
	Seq          int64
	Kind         string
	Section      string // that was wiped, empty for the whole panel
	Note         string
	Facts        string // how the panel stood, as JSON; empty for none
	Person       string
	At           time.Time
	StruckAt     *time.Time
	StruckReason string
}

// The kinds of photos and of proofs.
const (
	PhotoReflection = "reflection"
	PhotoDull       = "dull"
	ProofWiped      = "wiped"     // no scratch was seen
	ProofScratched  = "scratched" // scratches were seen
	ProofKept       = "kept"
	ProofBack       = "back" // not good enough
)

// PhotoTexture is what a photo says of a panel that was not worked: rms in µm with the spread
// of its logarithm; 0 for nothing.
type PhotoTexture struct{ PeelUM, PeelSpread, PebbleUM, PebbleSpread float64 }

// ProofRows are what is kept of a panel to prove it, each list in order, struck ones too.
type ProofRows struct {
	Photos []ProofPhoto
	Meters []MeterReading
	Proofs []Proof
}

// ProofRows of a panel.
func (s *Store) ProofRows(ctx context.Context, panel string) (ProofRows, error) {
	var out ProofRows
	for _, list := range []any{&out.Photos, &out.Meters, &out.Proofs} {
		if err := s.read(ctx).Where("panel_id = ?", panel).Order("seq").Find(list).Error; err != nil {
			return out, err
		}
	}
	return out, nil
}

// Lamps lists how photos are taken, the last used first.
func (s *Store) Lamps(ctx context.Context) ([]Lamp, error) {
	var out []Lamp
	err := s.read(ctx).Order("used_at DESC, id").Find(&out).Error
	return out, err
}

// SaveLamp keeps a lamp in place of one of the same id.
func (s *Store) SaveLamp(ctx context.Context, l Lamp) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Save(&l).Error })
}

// DropLamp forgets a lamp; the photos taken with it keep what it was.
func (s *Store) DropLamp(ctx context.Context, id string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Delete(&Lamp{}, "id = ?", id).Error })
}

// addOnce keeps a row of a panel under the next number, unless one of its id is kept already:
// then same says whether it is the same thing, and ErrTaken is returned where it is not.
func addOnce[T any](tx *gorm.DB, id, panel string, row *T, seq *int64, same func(old T) bool) error {
	var old []T
	if err := tx.Limit(1).Find(&old, "id = ?", id).Error; err != nil {
		return err
	}
	if len(old) > 0 {
		if !same(old[0]) {
			return ErrTaken
		}
		*row = old[0]
		return nil
	}
	if err := next(tx, new(T), seq, "panel_id = ?", panel); err != nil {
		return err
	}
	return tx.Create(row).Error
}

// AddProofPhoto keeps a photo and numbers it. An id that is kept already adds nothing; one of
// another photo or panel gives ErrTaken.
func (s *Store) AddProofPhoto(ctx context.Context, p *ProofPhoto) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := addOnce(tx, p.ID, p.PanelID, p, &p.Seq, func(o ProofPhoto) bool { return o.PanelID == p.PanelID && o.Hash == p.Hash && o.Kind == p.Kind }); err != nil {
			return err
		}
		return addFile(tx, p.Hash, p.Bytes)
	})
}

// AddFile notes a file of the shop's own, such as its logo.
func (s *Store) AddFile(ctx context.Context, hash string, bytes int64) error {
	return s.write(ctx, func(tx *gorm.DB) error { return addFile(tx, hash, bytes) })
}

// addFile notes the file of a photo once.
func addFile(tx *gorm.DB, hash string, bytes int64) error {
	return tx.Exec("INSERT OR IGNORE INTO photo_files (hash, bytes) VALUES (?, ?)", hash, bytes).Error
}

// freeFile forgets the file of a photo that no photo is in any more; last says so.
func freeFile(tx *gorm.DB, hash string) (last bool, err error) {
	done := tx.Exec(`DELETE FROM photo_files WHERE hash = ? AND NOT EXISTS (SELECT 1 FROM proof_photos WHERE hash = ? AND dropped_at IS NULL)
		AND NOT EXISTS (SELECT 1 FROM photos WHERE hash = ?)`, hash, hash, hash)
	return done.RowsAffected > 0, done.Error
}

// ProofPhoto finds one photo.
func (s *Store) ProofPhoto(ctx context.Context, id string) (ProofPhoto, error) {
	var p ProofPhoto
	err := s.read(ctx).First(&p, "id = ?", id).Error
	return p, missing(err)
}

// ChangeProofPhoto changes a photo inside one transaction, and with it what photos say of its
// panel: all that were taken since it was sent back, if it was; nil leaves that as it is.
func (s *Store) ChangeProofPhoto(ctx context.Context, id string, change func(*ProofPhoto) error, says func(since []ProofPhoto, sentBack bool) (*PhotoTexture, error)) (ProofPhoto, error) {
	var p ProofPhoto
	err := s.write(ctx, func(tx *gorm.DB) error {
		if err := missing(tx.First(&p, "id = ?", id).Error); err != nil {
			return err
		}
		if err := change(&p); err != nil {
			return err
		}
		if err := tx.Save(&p).Error; err != nil {
			return err
		}
		var backs []Proof
		if err := tx.Where("panel_id = ? AND kind = ?", p.PanelID, ProofBack).Order("seq DESC").Limit(1).Find(&backs).Error; err != nil {
			return err
		}
		since := tx.Where("panel_id = ?", p.PanelID)
		if len(backs) > 0 {
			since = since.Where("at > ?", backs[0].At)
		}
		var all []ProofPhoto
		if err := since.Order("seq").Find(&all).Error; err != nil {
			return err
		}
		t, err := says(all, len(backs) > 0)
		if err != nil || t == nil {
			return err
		}
		return tx.Model(&Panel{}).Where("id = ?", p.PanelID).Updates(map[string]any{"photo_peel_um": t.PeelUM, "photo_peel_spread": t.PeelSpread,
			"photo_pebble_um": t.PebbleUM, "photo_pebble_spread": t.PebbleSpread}).Error
	})
	return p, err
}

// AddMeterReading keeps a reading of a meter, as AddProofPhoto does a photo.
func (s *Store) AddMeterReading(ctx context.Context, m *MeterReading) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return addOnce(tx, m.ID, m.PanelID, m, &m.Seq, func(o MeterReading) bool {
			return o.PanelID == m.PanelID && o.Quantity == m.Quantity && o.Value == m.Value && o.Person == m.Person
		})
	})
}

// MeterReading finds one reading of a meter.
func (s *Store) MeterReading(ctx context.Context, id string) (MeterReading, error) {
	var m MeterReading
	err := s.read(ctx).First(&m, "id = ?", id).Error
	return m, missing(err)
}

// StrikeMeterReading strikes a reading of a meter out. A second strike changes nothing.
func (s *Store) StrikeMeterReading(ctx context.Context, id, reason string, at time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error { return strike(tx, &MeterReading{}, id, reason, at) })
}

// AddProof keeps what was found or decided on a panel, while it is of the version that it was
// judged with; else it returns ErrChanged. An id that is kept already adds nothing. One that
// sends the panel back ends its plan of record, and says how it is now.
func (s *Store) AddProof(ctx context.Context, p *Proof, version int64, now *PanelNow) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var known int64
		if err := tx.Model(&Proof{}).Where("id = ?", p.ID).Count(&known).Error; err != nil {
			return err
		}
		if known == 0 {
			if err := still(tx, p.PanelID, version); err != nil {
				return err
			}
		}
		if err := addOnce(tx, p.ID, p.PanelID, p, &p.Seq, func(o Proof) bool { return o.PanelID == p.PanelID && o.Kind == p.Kind && o.Person == p.Person }); err != nil {
			return err
		}
		if p.Kind != ProofBack || known > 0 {
			return nil
		}
		if err := tx.Model(&Plan{}).Where("panel_id = ? AND ended_at IS NULL", p.PanelID).Update("ended_at", p.At).Error; err != nil || now == nil {
			return err
		}
		return tx.Model(&Panel{}).Where("id = ?", p.PanelID).Updates(map[string]any{"photo_peel_um": now.PeelUM, "photo_peel_spread": now.PeelSpread,
			"photo_pebble_um": now.PebbleUM, "photo_pebble_spread": now.PebbleSpread, "standing_um": now.StandingUM}).Error
	})
}

// PanelNow is how a panel is that was sent back: its texture, and the depth of the scratches
// that stand (µm).
type PanelNow struct {
	PhotoTexture
	StandingUM float64
}

// Proof finds one proof.
func (s *Store) Proof(ctx context.Context, id string) (Proof, error) {
	var p Proof
	err := s.read(ctx).First(&p, "id = ?", id).Error
	return p, missing(err)
}

// StrikeProof strikes a proof out. A second strike changes nothing.
func (s *Store) StrikeProof(ctx context.Context, id, reason string, at time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error { return strike(tx, &Proof{}, id, reason, at) })
}

// CloseMarks changes several marks of a panel inside one transaction: all of them or none.
func (s *Store) CloseMarks(ctx context.Context, panel string, ids []string, change func(*Mark) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		for _, id := range ids {
			var m Mark
			if err := missing(tx.First(&m, "id = ? AND panel_id = ?", id, panel).Error); err != nil {
				return err
			}
			if err := change(&m); err != nil {
				return err
			}
			if err := tx.Save(&m).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

// PhotoSpace is how many photos are kept as files, and what they take, bytes.
type PhotoSpace struct {
	Photos int
	Bytes  int64
}

// PhotoSpace that the photos take.
func (s *Store) PhotoSpace(ctx context.Context) (PhotoSpace, error) {
	var out PhotoSpace
	err := s.read(ctx).Raw(`SELECT photos, bytes FROM photo_space`).Scan(&out).Error
	return out, err
}

// StalePhotos are photos whose files a rule lets go: of cars handed over before a day, and
// struck out ones before a day; at most so many.
func (s *Store) StalePhotos(ctx context.Context, handedOver, struck time.Time, most int) ([]ProofPhoto, error) {
	var out []ProofPhoto
	err := s.read(ctx).Raw(`SELECT f.* FROM cars c JOIN panels p ON p.car_id = c.id JOIN proof_photos f ON f.panel_id = p.id
		WHERE c.handed_over_at < ? AND c.handed_over_at IS NOT NULL AND f.dropped_at IS NULL
		UNION SELECT f.* FROM proof_photos f WHERE f.struck_at < ? AND f.dropped_at IS NULL LIMIT ?`, handedOver, struck, most).Scan(&out).Error
	return out, err
}

// DropPhoto notes that the file of a photo is deleted; last says whether no other photo is in
// that file.
func (s *Store) DropPhoto(ctx context.Context, p ProofPhoto, at time.Time) (last bool, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Model(&ProofPhoto{}).Where("id = ? AND dropped_at IS NULL", p.ID).Update("dropped_at", at).Error; err != nil {
			return err
		}
		var err error
		last, err = freeFile(tx, p.Hash)
		return err
	})
	return last, err
}
