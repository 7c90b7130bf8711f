package store

import (
	"context"
	"slices"

	"gorm.io/gorm"
)

// Versions say of which state a panel is: its own with how many of its changes are of its
// log, that of its car with all panels and of what these have in common, and those of the
// shop's house and of what its panels teach.
type Versions struct {
	PanelID, CarID string
	Panel, Logged  int64
	Car, Facts     int64
	House
}

// House says of which state a shop is.
type House struct{ Shop, Lessons int64 }

const versions = `SELECT p.panel_id, p.car_id, p.version AS panel, p.logged, c.version AS car, c.facts, s.version AS shop, s.lessons
	FROM panel_states p JOIN car_states c ON c.car_id = p.car_id JOIN shop s ON s.id = 1 `

// Versions of a panel.
func (s *Store) Versions(ctx context.Context, panel string) (Versions, error) {
	var out []Versions
	err := s.read(ctx).Raw(versions+"WHERE p.panel_id = ?", panel).Scan(&out).Error
	if err == nil && len(out) == 0 {
		err = ErrMissing
	}
	if err != nil {
		return Versions{}, err
	}
	return out[0], nil
}

// CarVersions are those of all panels of a car, by their ids.
func (s *Store) CarVersions(ctx context.Context, car string) (map[string]Versions, error) {
	var list []Versions
	err := s.read(ctx).Raw(versions+"WHERE p.car_id = ?", car).Scan(&list).Error
	out := make(map[string]Versions, len(list))
	for _, v := range list {
		out[v.PanelID] = v
	}
	if err == nil && len(out) == 0 {
		err = ErrMissing
	}
	return out, err
}

// HouseVersion of the shop.
func (s *Store) HouseVersion(ctx context.Context) (House, error) {
	var out House
	err := s.read(ctx).Raw("SELECT version AS shop, lessons FROM shop").Scan(&out).Error
	return out, err
}

// Rows are what is kept of a panel beside its log, each list in its order, struck ones too.
// Plan is that of record, nil for none; Decided is the last that was decided of it: that it is
// kept or sent back, nil for neither.
type Rows struct {
	Readings []Reading
	Marks    []Mark
	Plan     *Plan
	Decided  *Proof
}

// Rows of some panels, by their ids.
func (s *Store) Rows(ctx context.Context, panels []string) (map[string]*Rows, error) {
	out := make(map[string]*Rows, len(panels))
	for _, id := range panels {
		out[id] = &Rows{}
	}
	var readings []Reading
	var marks []Mark
	var plans []Plan
	db := s.read(ctx)
	of := func() *gorm.DB { return db.Where("panel_id IN ?", panels).Order("panel_id, seq") }
	for _, list := range []any{&readings, &marks} {
		if err := of().Find(list).Error; err != nil {
			return nil, err
		}
	}
	if err := db.Preload("Steps", func(db *gorm.DB) *gorm.DB { return db.Order("no") }).
		Where("panel_id IN ? AND version = (SELECT MAX(version) FROM plans o WHERE o.panel_id = plans.panel_id)", panels).Find(&plans).Error; err != nil {
		return nil, err
	}
	var decided []Proof
	if err := of().Where("kind IN ? AND struck_at IS NULL", []string{ProofKept, ProofBack}).Find(&decided).Error; err != nil {
		return nil, err
	}
	for i := range decided {
		out[decided[i].PanelID].Decided = &decided[i]
	}
	for _, r := range readings {
		out[r.PanelID].Readings = append(out[r.PanelID].Readings, r)
	}
	for _, m := range marks {
		out[m.PanelID].Marks = append(out[m.PanelID].Marks, m)
	}
	for i := range plans {
		out[plans[i].PanelID].Plan = &plans[i]
	}
	return out, nil
}

// Log is what was logged on a panel, in order, struck entries too, with how many changes
// of the log (Versions.Logged) made it so.
type Log struct {
	Entries []Entry
	Logged  int64
}

// loggedEntry is an entry with how many changes its panel's log has at that moment.
type loggedEntry struct {
	Entry
	Logged int64
}

const logged = `SELECT e.*, p.logged FROM entries e JOIN panel_states p ON p.panel_id = e.panel_id WHERE e.panel_id `

// Logs of some panels, by their ids.
func (s *Store) Logs(ctx context.Context, panels []string) (map[string]*Log, error) {
	var all []loggedEntry
	err := s.read(ctx).Raw(logged+"IN ? ORDER BY e.panel_id, e.seq", panels).Scan(&all).Error
	out := make(map[string]*Log, len(panels))
	for _, id := range panels {
		out[id] = &Log{}
	}
	for _, e := range all {
		l := out[e.PanelID]
		l.Entries, l.Logged = append(l.Entries, e.Entry), e.Logged
	}
	return out, err
}

// LogAfter is a panel's log as it is now, read on from what is known of it; nil where more
// was changed than added.
func (s *Store) LogAfter(ctx context.Context, panel string, known *Log) (*Log, error) {
	var last int64
	if n := len(known.Entries); n > 0 {
		last = known.Entries[n-1].Seq
	}
	var added []loggedEntry
	err := s.read(ctx).Raw(logged+"= ? AND e.seq > ? ORDER BY e.seq", panel, last).Scan(&added).Error
	if err != nil || len(added) == 0 || added[0].Logged-known.Logged != int64(len(added)) {
		return nil, err
	}
	out := &Log{Entries: slices.Clone(known.Entries), Logged: added[0].Logged}
	for _, e := range added {
		out.Entries = append(out.Entries, e.Entry)
	}
	return out, nil
}
