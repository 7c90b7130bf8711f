package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// ErrMissing says that there is no row of that id.
var ErrMissing = errors.New("not on record")

// ErrTaken says that the id belongs to something else already.
var ErrTaken = errors.New("this id is on record for something else")

// ErrBusy says that the file could not be written in time: another program holds it, or
// too many wait. ErrFull says that the disk has no room.
var (
	ErrBusy = errors.New("the shop's file is held")
	ErrFull = errors.New("the disk is full")
)

// ErrChanged says that what was judged has changed since.
var ErrChanged = errors.New("changed meanwhile")

// TakeIn keeps a new car with its panels.
func (s *Store) TakeIn(ctx context.Context, c *Car) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := next(tx, &Car{}, &c.Seq); err != nil {
			return err
		}
		return tx.Create(c).Error
	})
}

// next is one more than the largest seq of a table among the rows that the
// conditions leave.
func next(tx *gorm.DB, model any, seq *int64, where ...any) error {
	q := tx.Model(model).Select("COALESCE(MAX(seq), 0) + 1")
	if len(where) > 0 {
		q = q.Where(where[0], where[1:]...)
	}
	return q.Scan(seq).Error
}

// Car finds one car with its panels.
func (s *Store) Car(ctx context.Context, id string) (Car, error) {
	var c Car
	err := s.read(ctx).Preload("Panels", ordered).First(&c, "id = ?", id).Error
	return c, missing(err)
}

func ordered(db *gorm.DB) *gorm.DB { return db.Order("seq") }

func missing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrMissing
	}
	return err
}

// Panel finds one panel.
func (s *Store) Panel(ctx context.Context, id string) (Panel, error) {
	var p Panel
	err := s.read(ctx).First(&p, "id = ?", id).Error
	return p, missing(err)
}

// Readings lists a panel's readings in order, the struck ones too.
func (s *Store) Readings(ctx context.Context, panel string) ([]Reading, error) {
	var out []Reading
	err := s.read(ctx).Order("seq").Find(&out, "panel_id = ?", panel).Error
	return out, err
}

// Crowded says that a panel would have more readings of the total than it may.
type Crowded struct {
	PanelID    string
	Kept, More int
}

func (c *Crowded) Error() string { return fmt.Sprintf("%d readings and %d more", c.Kept, c.More) }

// AddReadings keeps readings, all or none, and numbers them. A reading whose id
// or fingerprint is kept already adds nothing; added says how many did. An id
// that belongs to a different reading gives ErrTaken, and more than most that count of
// one panel a *Crowded.
func (s *Store) AddReadings(ctx context.Context, rs []Reading, most int) (added int, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		added = 0
		more := map[string]int{}
		for i := range rs {
			known, err := knownReading(tx, rs[i])
			if err != nil {
				return err
			}
			if known {
				continue
			}
			if rs[i].KeptAt.IsZero() {
				rs[i].KeptAt = rs[i].TakenAt
			}
			if err := next(tx, &Reading{}, &rs[i].Seq, "panel_id = ?", rs[i].PanelID); err != nil {
				return err
			}
			if err := tx.Create(&rs[i]).Error; err != nil {
				return err
			}
			added++
			if rs[i].Phase == PhaseTotal {
				more[rs[i].PanelID]++
			}
		}
		for panel, n := range more {
			var kept int64
			if err := tx.Model(&Reading{}).Where("panel_id = ? AND phase = ? AND struck_at IS NULL", panel, PhaseTotal).Count(&kept).Error; err != nil {
				return err
			}
			if kept > int64(most) {
				return &Crowded{panel, int(kept) - n, n}
			}
		}
		return nil
	})
	return added, err
}

func knownReading(tx *gorm.DB, r Reading) (bool, error) {
	var old Reading
	err := tx.First(&old, "id = ?", r.ID).Error
	if err == nil {
		if old.PanelID != r.PanelID || old.XMM != r.XMM || old.YMM != r.YMM || old.FilmUM != r.FilmUM || old.Phase != r.Phase {
			return false, ErrTaken
		}
		return true, nil
	}
	if !errors.Is(err, gorm.ErrRecordNotFound) || r.Fingerprint == nil {
		return false, ignoreMissing(err)
	}
	err = tx.First(&old, "fingerprint = ?", r.Fingerprint).Error
	return err == nil, ignoreMissing(err)
}

func ignoreMissing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil
	}
	return err
}

// Reading finds one reading.
func (s *Store) Reading(ctx context.Context, id string) (Reading, error) {
	var r Reading
	err := s.read(ctx).First(&r, "id = ?", id).Error
	return r, missing(err)
}

// Fingerprints lists the fingerprints of a panel's readings.
func (s *Store) Fingerprints(ctx context.Context, panel string) (map[string]bool, error) {
	var list []string
	err := s.read(ctx).Model(&Reading{}).Where("panel_id = ? AND fingerprint IS NOT NULL", panel).Pluck("fingerprint", &list).Error
	out := make(map[string]bool, len(list))
	for _, f := range list {
		out[f] = true
	}
	return out, err
}

// StrikeReading strikes a reading out. A second strike changes nothing.
func (s *Store) StrikeReading(ctx context.Context, id, reason string, at time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error { return strike(tx, &Reading{}, id, reason, at) })
}

// strike strikes a row out; a second strike changes nothing.
func strike(tx *gorm.DB, model any, id, reason string, at time.Time) error {
	return tx.Model(model).Where("id = ? AND struck_at IS NULL", id).Updates(map[string]any{"struck_at": at, "struck_reason": reason}).Error
}

// Plan finds a panel's plan of record, the latest version, with its steps.
func (s *Store) Plan(ctx context.Context, panel string) (Plan, error) {
	var p Plan
	err := s.read(ctx).Preload("Steps", func(db *gorm.DB) *gorm.DB { return db.Order("no") }).
		Order("version DESC").First(&p, "panel_id = ?", panel).Error
	return p, missing(err)
}

// PlanByID finds a plan of whatever version, with its steps.
func (s *Store) PlanByID(ctx context.Context, id string) (Plan, error) {
	var p Plan
	err := s.read(ctx).Preload("Steps", func(db *gorm.DB) *gorm.DB { return db.Order("no") }).First(&p, "id = ?", id).Error
	return p, missing(err)
}

// ErrWorked says that a plan cannot be replaced because work under it has begun.
var ErrWorked = errors.New("work under the plan of record has begun")

// AcceptPlan keeps a plan as the next version, while the panel is of the version that it
// was judged with; else it returns ErrChanged. A plan that has passes under it and was not
// ended stays; then it returns ErrWorked.
func (s *Store) AcceptPlan(ctx context.Context, p *Plan, version int64) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var worked int64
		if err := tx.Model(&Entry{}).Where("panel_id = ? AND kind IN ? AND struck_at IS NULL AND plan_id IN (SELECT id FROM plans WHERE panel_id = ? AND ended_at IS NULL)",
			p.PanelID, []string{KindPass, KindOver}, p.PanelID).Count(&worked).Error; err != nil {
			return err
		}
		if worked > 0 {
			return ErrWorked
		}
		if err := still(tx, p.PanelID, version); err != nil {
			return err
		}
		err := tx.Model(&Plan{}).Where("panel_id = ?", p.PanelID).Select("COALESCE(MAX(version), 0) + 1").Scan(&p.Version).Error
		if err != nil {
			return err
		}
		return tx.Create(p).Error
	})
}

// still fails with ErrChanged where a panel is not of that version any more.
func still(tx *gorm.DB, panel string, version int64) error {
	var now int64
	if err := tx.Table("panel_states").Where("panel_id = ?", panel).Pluck("version", &now).Error; err != nil {
		return err
	}
	if now != version {
		return ErrChanged
	}
	return nil
}

// FirstEntry is the first of a panel's log, struck or not; nil for none.
func (s *Store) FirstEntry(ctx context.Context, panel string) (*Entry, error) {
	var out []Entry
	if err := s.read(ctx).Order("seq").Limit(1).Find(&out, "panel_id = ?", panel).Error; err != nil || len(out) == 0 {
		return nil, err
	}
	return &out[0], nil
}

// Entry finds one entry of the log.
func (s *Store) Entry(ctx context.Context, id string) (Entry, error) {
	var e Entry
	err := s.read(ctx).First(&e, "id = ?", id).Error
	return e, missing(err)
}

// Judged is what an entry was judged with, the version of its panel, and what follows from
// it: a mark that it makes, and what its section may do next; nil for none.
type Judged struct {
	Version int64
	Mark    *Mark
	Next    *Grant // its version is that which the entry makes
}

// AddEntry logs an entry with what follows from it, while its panel is as it was judged;
// else it returns ErrChanged. An id that is kept already adds nothing and gives the entry
// as it was kept.
func (s *Store) AddEntry(ctx context.Context, e *Entry, j Judged) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		err := keepEntry(tx, e, j)
		if errors.Is(err, ErrChanged) || errors.Is(err, gorm.ErrDuplicatedKey) {
			if known, failed := knownEntry(tx, e); known || failed != nil {
				return failed
			}
		}
		return err
	})
}

func keepEntry(tx *gorm.DB, e *Entry, j Judged) error {
	var now struct{ Version, Seq int64 }
	err := tx.Raw("SELECT version, (SELECT COALESCE(MAX(seq), 0) + 1 FROM entries WHERE panel_id = @panel) AS seq FROM panel_states WHERE panel_id = @panel",
		sql.Named("panel", e.PanelID)).Scan(&now).Error
	if err != nil {
		return err
	}
	if now.Version != j.Version {
		return ErrChanged
	}
	e.Seq = now.Seq
	if e.KeptAt.IsZero() {
		e.KeptAt = e.At
	}
	if err := tx.Create(e).Error; err != nil {
		return err
	}
	if len(e.Steps) > 0 {
		if err := tx.Create(&e.Steps).Error; err != nil {
			return err
		}
	}
	if j.Mark != nil {
		if err := addMark(tx, j.Mark); err != nil {
			return err
		}
	}
	if g := j.Next; g != nil {
		return tx.Exec(`INSERT OR REPLACE INTO grants (panel_id, version, shop, lessons, section, step, passes)
			SELECT panel_id, version, ?, ?, ?, ?, ? FROM panel_states WHERE panel_id = ?`, g.Shop, g.Lessons, g.Section, g.Step, g.Passes, e.PanelID).Error
	}
	return nil
}

// Grant is the last of a panel; nil for none.
func (s *Store) Grant(ctx context.Context, panel string) (*Grant, error) {
	var out []Grant
	if err := s.read(ctx).Limit(1).Find(&out, "panel_id = ?", panel).Error; err != nil || len(out) == 0 {
		return nil, err
	}
	return &out[0], nil
}

// KnownEntry makes an entry what was kept under its id, if anything was; ErrTaken where
// that was something else.
func (s *Store) KnownEntry(ctx context.Context, e *Entry) (bool, error) {
	return knownEntry(s.read(ctx), e)
}

func knownEntry(db *gorm.DB, e *Entry) (bool, error) {
	var old []Entry
	if err := db.Limit(1).Find(&old, "id = ?", e.ID).Error; err != nil || len(old) == 0 {
		return false, err
	}
	o := old[0]
	same := o.PanelID == e.PanelID && o.PlanID == e.PlanID && o.Section == e.Section && o.Step == e.Step && o.Kind == e.Kind && o.Mark == e.Mark &&
		o.Person == e.Person && (o.Kind == KindRest || o.Note == e.Note && o.Value == e.Value)
	if !same {
		return true, ErrTaken
	}
	*e = o
	return true, nil
}

// Paced says when the last entry of a device came in time, nil for never, and how many
// passes of it came late since.
func (s *Store) Paced(ctx context.Context, device string) (last *time.Time, late int, err error) {
	var rows []Entry
	db := s.read(ctx)
	if err := db.Select("kept_at").Where("device = ? AND late = 0", device).Order("kept_at DESC").Limit(1).Find(&rows).Error; err != nil {
		return nil, 0, err
	}
	q := db.Model(&Entry{}).Where("device = ? AND late = 1 AND kind IN ?", device, []string{KindPass, KindOver})
	if len(rows) > 0 {
		last = &rows[0].KeptAt
		q = q.Where("kept_at > ?", *last)
	}
	var n int64
	err = q.Count(&n).Error
	return last, int(n), err
}

// StrikeEntry strikes an entry out, and the mark that came with it where mark names
// one, while its panel is of the version that it was judged with; else it returns
// ErrChanged. A second strike changes nothing.
func (s *Store) StrikeEntry(ctx context.Context, e Entry, mark, reason string, at time.Time, version int64) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := still(tx, e.PanelID, version); err != nil {
			return err
		}
		if err := strike(tx, &Entry{}, e.ID, reason, at); err != nil || mark == "" {
			return err
		}
		return strike(tx, &Mark{}, mark, reason, at)
	})
}

// Floors lists what was agreed of a car in order, the struck ones too.
func (s *Store) Floors(ctx context.Context, car string) ([]Floor, error) {
	var out []Floor
	err := s.read(ctx).Order("seq").Find(&out, "car_id = ?", car).Error
	return out, err
}

// Floor finds one agreed floor.
func (s *Store) Floor(ctx context.Context, id string) (Floor, error) {
	var f Floor
	err := s.read(ctx).First(&f, "id = ?", id).Error
	return f, missing(err)
}

// AddFloor keeps an agreed floor and numbers it. An id that is kept already adds nothing and
// gives the floor as it was kept; one of another car or figure gives ErrTaken.
func (s *Store) AddFloor(ctx context.Context, f *Floor) error {
	return s.write(ctx, func(tx *gorm.DB) error { return addFloor(tx, f) })
}

// AgreeFloor is AddFloor while the panel that the floor was weighed on is of that version; else it
// returns ErrChanged.
func (s *Store) AgreeFloor(ctx context.Context, f *Floor, panel string, version int64) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := still(tx, panel, version); err != nil {
			return err
		}
		return addFloor(tx, f)
	})
}

func addFloor(tx *gorm.DB, f *Floor) error {
	var old Floor
	err := tx.First(&old, "id = ?", f.ID).Error
	if err == nil {
		if old.CarID != f.CarID || old.FloorUM != f.FloorUM || old.Person != f.Person || old.Reason != f.Reason || (old.PanelID == nil) != (f.PanelID == nil) ||
			f.PanelID != nil && *old.PanelID != *f.PanelID {
			return ErrTaken
		}
		*f = old
		return nil
	}
	if !errors.Is(err, gorm.ErrRecordNotFound) {
		return err
	}
	if err := next(tx, &Floor{}, &f.Seq, "car_id = ?", f.CarID); err != nil {
		return err
	}
	return tx.Create(f).Error
}

// StrikeFloor strikes an agreed floor out. A second strike changes nothing.
func (s *Store) StrikeFloor(ctx context.Context, id, reason string, at time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error { return strike(tx, &Floor{}, id, reason, at) })
}
