package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// bench is one panel on the bench: its rows, and what the core makes of them.
type bench struct {
	row      store.Panel
	gauge    film.Gauge // that it was read with
	zones    []zone
	lent     *film.Borrowed // to a panel that no gauge reads
	car      store.Car
	shape    flatlay.Panel
	ground   *film.Ground
	sections []flatlay.Section
	readings []store.Reading
	entries  []store.Entry
	marks    []store.Mark
	record   *store.Plan
	house    house
	past     string // names the history that its cut was learned from
	hands    level.Hands
	looks    map[string]*looked // by the id of their entries
	limits   map[string]string  // coarsest grit of each person, empty for any; nil before it was asked
	coats    film.CoatRatio     // of this shop, for a panel sprayed here
	beside   float64            // peel grade of the panels that this one is seen beside
	options  *plan.Options      // to what is wanted, for the facts as they are; nil without a section
	ladder   *plan.Ladder       // of the record; nil without one, or when it is out of date and nothing was done yet
	whole    *plan.Options      // to flat, where the aim does not level the panel
	opened   level.Panel        // Study is nil without a reading
	stood    map[string]level.Standing
	verdicts []judged // of liveMarks, nil before it was asked
}

// lay lays a panel on the bench with its rows and sequences, without its film.
func (s *Server) lay(ctx context.Context, panelID string) (*bench, error) {
	row, err := s.store.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	car, err := s.store.Car(ctx, row.CarID)
	if err != nil {
		return nil, err
	}
	return s.layRow(ctx, car, row)
}

// open lays a panel on the bench and has its film read.
func (s *Server) open(ctx context.Context, panelID string) (*bench, error) {
	b, err := s.lay(ctx, panelID)
	if err != nil {
		return nil, err
	}
	return b, s.readFilm(b)
}

func (s *Server) layRow(ctx context.Context, car store.Car, row store.Panel) (*bench, error) {
	b := &bench{row: row, car: car}
	var err error
	if b.ground, err = s.groundOf(row.Shape); err != nil {
		return nil, fmt.Errorf("outline of panel %s: %w", row.ID, err)
	}
	b.shape, b.sections = b.ground.Panel, b.ground.Sections
	if b.readings, err = s.store.Readings(ctx, row.ID); err != nil {
		return nil, err
	}
	if b.gauge, err = s.gaugeOf(ctx, b.readings); err != nil {
		return nil, err
	}
	if b.zones, err = zonesOf(row); err != nil {
		return nil, fmt.Errorf("zones of panel %s: %w", row.ID, err)
	}
	if b.entries, err = s.store.Entries(ctx, row.ID); err != nil {
		return nil, err
	}
	if b.marks, err = s.store.Marks(ctx, row.ID); err != nil {
		return nil, err
	}
	record, err := s.store.Plan(ctx, row.ID)
	switch {
	case err == nil:
		b.record = &record
	case !errors.Is(err, store.ErrMissing):
		return nil, err
	}
	b.entries = b.ofRecord(b.entries)
	b.beside = besideGrade(car, b.shape)
	if b.house, err = s.houseOf(ctx); err != nil {
		return nil, err
	}
	if film.Origin(row.Origin) == film.Here {
		if b.coats, err = s.coatRatio(ctx, row.ID); err != nil {
			return nil, err
		}
	}
	if row.Substrate == "plastic" {
		if b.lent, err = s.lend(ctx, car, row, b.shape); err != nil {
			return nil, err
		}
	}
	return b, s.sequences(b)
}

// lend borrows the film of the neighbours that were sprayed with a panel; nil
// where none was read.
func (s *Server) lend(ctx context.Context, car store.Car, row store.Panel, shape flatlay.Panel) (*film.Borrowed, error) {
	var from []*film.Study
	for _, p := range car.Panels {
		beside := slices.ContainsFunc(shape.Neighbours, func(n flatlay.Neighbour) bool { return n.Key == p.Key })
		if !beside || p.Substrate == "plastic" || !together(row, p) {
			continue
		}
		b, err := s.layRow(ctx, car, p)
		if err != nil {
			return nil, err
		}
		if err := s.readFilm(b); err != nil {
			return nil, err
		}
		if b.opened.Study != nil {
			from = append(from, b.opened.Study)
		}
	}
	if lent, ok := film.Borrow(from); ok {
		return &lent, nil
	}
	return nil, nil
}

// ofRecord leaves the entries of a log that were made under the plan of record:
// what was ended under a plan before it says nothing of this one.
func (b *bench) ofRecord(log []store.Entry) []store.Entry {
	return slices.DeleteFunc(log, func(e store.Entry) bool { return b.record == nil || e.PlanID != b.record.ID })
}

// readFilm has the core read the film of what lies on the bench.
func (s *Server) readFilm(b *bench) error {
	b.stood = map[string]level.Standing{}
	var err error
	b.opened, err = s.study(b)
	if errors.Is(err, film.ErrReadings) {
		return nil
	}
	return err
}

// together counts the panels of a side that have the same aim.
func (b *bench) together() int {
	n := 0
	for _, p := range b.car.Panels {
		if p.Aim == b.row.Aim && sideOf(p.Key) == sideOf(b.row.Key) {
			n++
		}
	}
	return n
}

// history is the panel's, as the house rule on the safe film reads it.
func (b *bench) history() film.History {
	h := historyOf(b.row)
	h.Ratio = b.coats
	if b.house.rules.SafeFilm == plan.HalfIsClear {
		h.Share = halfClear
	}
	return h
}

func (b *bench) facts() film.Facts {
	f := film.Facts{History: b.history(), Borrowed: b.lent}
	for _, z := range b.zones {
		f.Zones = append(f.Zones, film.Zone{Outline: z.Outline, History: film.History{
			Finish: film.FinishOf(film.Origin(z.Origin), z.Layers == string(api.LayersSingle), z.Coats), Coats: z.Coats}})
	}
	for _, r := range b.readings {
		if r.StruckAt != nil {
			continue
		}
		at := film.Place{X: r.XMM, Y: r.YMM, Film: r.FilmUM}
		switch r.Phase {
		case store.PhaseBefore:
			f.Before = append(f.Before, at)
		case store.PhaseClear:
			f.Direct = append(f.Direct, at)
		}
	}
	return f
}

// passesBefore counts the passes of each step on a section up to a reading.
func (b *bench) passesBefore(r store.Reading) []int {
	if b.ladder == nil {
		return nil
	}
	section := flatlay.SectionAt(b.sections, flatlay.Point{X: r.XMM, Y: r.YMM})
	n := make([]int, len(b.ladder.Steps))
	for _, e := range b.entries {
		if counts(e, section) && e.At.Before(r.TakenAt) {
			n[e.Step-1]++
		}
	}
	return n
}

// made says whether an entry is a pass that was made, over the stop or not.
func made(e store.Entry) bool {
	return (e.Kind == store.KindPass || e.Kind == store.KindOver) && e.StruckAt == nil
}

// counts says whether an entry is a pass on a section that was made.
func counts(e store.Entry, section string) bool {
	return made(e) && e.Section == section
}

// passes counts the passes of each step on a section.
func (b *bench) passes(section string) []int {
	n := make([]int, len(b.ladder.Steps))
	for _, e := range b.entries {
		if counts(e, section) {
			n[e.Step-1]++
		}
	}
	return n
}

// worked says whether any pass was made on the panel.
func (b *bench) worked() bool {
	for _, e := range b.entries {
		if made(e) {
			return true
		}
	}
	return false
}

// standing of a section now, for what the plan of record, or else the aim, still
// wants there.
func (b *bench) standing(s film.SectionFilm) level.Standing {
	st, ok := b.stood[s.Key]
	if ok {
		return st
	}
	if b.ladder == nil {
		um, _ := b.wants()
		st = b.standingFor(s, um)
	} else {
		passes := b.passes(s.Key)
		s.Least = s.Least.Less(b.spotted(s.Key))
		st = b.opened.Standing(s, passes, b.remaining(s.Key))
	}
	b.stood[s.Key] = st
	return st
}

// standingFor is the standing of an unworked section for a spend of um µm.
func (b *bench) standingFor(s film.SectionFilm, um float64) level.Standing {
	s.Least = s.Least.Less(b.spotted(s.Key))
	return b.opened.Standing(s, nil, um)
}

// worst is the section that decides: the one with the least headroom over what
// is still wanted.
func (b *bench) worst() (film.SectionFilm, level.Standing) { return b.worstBy(b.standing) }

func (b *bench) worstBy(standing func(film.SectionFilm) level.Standing) (film.SectionFilm, level.Standing) {
	var at film.SectionFilm
	var st level.Standing
	for i, s := range b.opened.Study.Sections {
		n := standing(s)
		if i == 0 || n.Headroom-n.Spend < st.Headroom-st.Spend {
			at, st = s, n
		}
	}
	return at, st
}

// live lists the readings of the total that count.
func (b *bench) live() []store.Reading {
	var out []store.Reading
	for _, r := range b.readings {
		if r.StruckAt == nil && r.Phase == store.PhaseTotal {
			out = append(out, r)
		}
	}
	return out
}

// basis names what a sequence rests on: facts and the readings before any work.
func (b *bench) basis() string {
	h := fnv.New64a()
	fmt.Fprintf(h, "%s|%d|%.3f|%s|", b.finish(), b.row.Coats, b.row.PeelGrade, b.car.Colour)
	if f := historyOf(b.row); f.Coat > 0 || b.aim() != plan.Flat {
		fmt.Fprintf(h, "%.2f|%s|", f.Coat, b.aim())
	}
	if b.row.Hardness != string(api.HardnessMedium) {
		fmt.Fprintf(h, "%s|", b.row.Hardness)
	}
	if b.aim() == plan.Match {
		fmt.Fprintf(h, "%.2f|", b.beside)
	}
	if b.row.Zones != "" {
		fmt.Fprintf(h, "%s|", b.row.Zones)
	}
	for _, r := range b.readings {
		if r.StruckAt == nil && (r.Phase != store.PhaseTotal || !b.after(r)) {
			fmt.Fprintf(h, "%s|", r.ID)
		}
	}
	return fmt.Sprintf("%016x", h.Sum64())
}

// after says whether a reading was taken after passes on its section.
func (b *bench) after(r store.Reading) bool {
	for _, n := range b.passesBefore(r) {
		if n > 0 {
			return true
		}
	}
	return false
}

// Panels are remembered as they were studied and, whatever is read on them, as
// ground for a study, so that nothing is computed again for an untouched one.
const (
	mostStudies = 128
	mostGrounds = 256
	mostFound   = 256
	mostHands   = 16
)

// groundOf is an outline, as it is stored, made ready for film maps.
func (s *Server) groundOf(shape string) (*film.Ground, error) {
	return s.grounds.get(shape, func() (*film.Ground, error) {
		var p flatlay.Panel
		if err := json.Unmarshal([]byte(shape), &p); err != nil {
			return nil, err
		}
		return film.NewGround(p), nil
	})
}

// study has the core read the film of what lies on the bench.
func (s *Server) study(b *bench) (level.Panel, error) {
	readings := []level.Reading{}
	h := fnv.New64a()
	crew, err := s.crew(b)
	if err != nil {
		return level.Panel{}, err
	}
	fmt.Fprintf(h, "%s|%s|%s|", crew.Persons, crew.Paint, b.past)
	facts := b.facts()
	fmt.Fprintf(h, "%s|%v|%v|%v|%v|%v|", b.row.Shape, facts.History, facts.Before, facts.Direct, facts.Zones, b.gauge)
	if b.lent != nil {
		fmt.Fprintf(h, "%v|", *b.lent)
	}
	if b.ladder != nil {
		fmt.Fprintf(h, "%s|", b.record.ID)
	}
	for _, r := range b.live() {
		n := level.Reading{X: r.XMM, Y: r.YMM, Film: r.FilmUM, Passes: b.passesBefore(r), Sure: r.Sure != ""}
		readings = append(readings, n)
		fmt.Fprintf(h, "%v|", n)
	}
	return s.studies.get(fmt.Sprintf("%s|%x", b.row.ID, h.Sum64()), func() (level.Panel, error) {
		return level.OpenPanelBy(crew, b.ground, facts, readings, b.ladder, b.gauge)
	})
}
