package shop

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"slices"
	"strings"
	"sync"
	"time"

	"waxplanus/core/clearcoat"
	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
)

// Panel is one panel with all that is on record of it and what the core makes of it.
type Panel struct {
	ID, Key, Name string
	Known
	Car       CarFacts
	Shape     flatlay.Panel
	Sections  []flatlay.Section
	Zones     []Zone
	Readings  []Reading
	Marks     []Mark
	Entries   []Entry       // of the plan of record, struck ones too
	Floors    []AgreedFloor // of its car, struck ones too
	Record    *Record       // nil without one
	House     House
	Grade     float64       // peel grade that it is held against, of the panels beside it
	Options   *plan.Options // all sequences to what is wanted, for the facts as they are; nil without a section
	Study     *film.Study   // nil without a reading
	Work      *level.Work   // nil without a plan that holds
	Limits    map[string]string
	Kept      *Proof    // that it was found good, where nothing was done after it
	log       level.Log // of the plan of record
	opened    *studied
	version   int64       // of the rows that it was made from
	of        store.House // of the shop, likewise
	granted   int         // passes that the film has allowed before, of a panel without it
	people    []store.Person
	siblings  []sibling // the panels of its car in their order, with itself
	zonesText string    // as they are kept
	ground    *film.Ground
	gauge     film.Gauge     // that it was read with
	borrowed  *film.Borrowed // of a panel that no gauge reads
	coats     film.CoatRatio // of this shop, for a panel sprayed here
	carFilm   float64        // median of the car's factory panels, µm; 0 where none was read
	toFlat    *plan.Options  // where the aim does not level the panel
	late      []Entry
	earlier   []earlierPlan // passes that came late, of plans before the one of record
	hands     level.Hands   // of the shop
	crew      level.Crew    // who works it, or would
	handsKey  string        // names the history that they were learned from
	asked     *asked
	offered   *plan.Result // its way in an offer for its car; nil otherwise
	years     float64      // out of doors, whole ones, where the house has the floor follow them
	judged    []JudgedMark // of marks that were not struck out; nil before it was asked
	now       func() time.Time
}

// sibling is what one panel of a car has to know of another.
type sibling struct {
	ID, Key string
	Origin  film.Origin
	Aim     plan.Aim
	Grade   float64
}

func siblingsOf(c store.Car) []sibling {
	var out []sibling
	for _, p := range c.Panels {
		out = append(out, sibling{p.ID, p.Key, film.Origin(p.Origin), plan.Aim(p.Aim), knownOf(p).PeelGrade()})
	}
	return out
}

// asked is what was worked out of a panel in one state on asking, for all who ask.
type asked struct {
	standing sync.Map // level.Standing by the key of the section
	looks    sync.Map // *level.Looked by the id of its entry
	advice   sync.Map // level.Advice by what it was asked for
	swirls   sync.Map // seenSwirls by what was said of its sections
	accepts  sync.Map // []level.Acceptance by ladder
	rooms    sync.Once
	room     []float64 // what a plan may use of each section, µm
	ahead    sync.Once
	readings Ahead
	noAhead  error
}

// Ladder is the plan of record's; nil without one, or when it is out of date and
// nothing was done yet.
func (p *Panel) Ladder() *plan.Ladder { return p.log.Ladder }

// Version of the rows that the panel was made from.
func (p *Panel) Version() int64 { return p.version }

// PanelVersion is the version that a panel has now.
func (s *Shop) PanelVersion(ctx context.Context, id string) (int64, error) {
	v, err := s.store.Versions(ctx, id)
	return v.Panel, err
}

// CarVersion is the version that a car has now.
func (s *Shop) CarVersion(ctx context.Context, id string) (int64, error) {
	all, err := s.store.CarVersions(ctx, id)
	for _, v := range all {
		return v.Car, err
	}
	return 0, err
}

// Change is what one write has changed.
type Change = store.Change

// OnChange has somebody told of each write.
func (s *Shop) OnChange(tell func(Change)) { s.store.OnChange(tell) }

// applyLog gives a panel its log: the entries of the plan of record, and passes that came
// late under a plan before it. The sequences follow from both.
func (s *Shop) applyLog(ctx context.Context, p *Panel, rows []store.Entry) error {
	p.Entries = nil
	before := map[string][]Entry{}
	for _, row := range rows {
		e := entryOf(row)
		if p.Record != nil && e.PlanID == p.Record.ID {
			p.Entries = append(p.Entries, e)
		} else if e.Cuts() || e.Kind == level.KindRest {
			before[e.PlanID] = append(before[e.PlanID], e)
		}
	}
	if err := s.applyEarlier(ctx, p, before); err != nil {
		return err
	}
	for i := range p.Readings {
		p.Readings[i].earlier, p.Readings[i].restored = nil, p.goneBefore(p.Readings[i])
	}
	if err := s.findSequences(ctx, p); err != nil {
		return err
	}
	for i := range p.Readings {
		r := &p.Readings[i]
		r.earlier, r.Passes = p.passesBefore(*r), 0
		for _, n := range r.earlier {
			r.Passes += n
		}
	}
	return nil
}

// factoryGrades are the peel grades of the factory panels beside a panel.
func (p *Panel) factoryGrades() []float64 {
	var out []float64
	for _, o := range p.siblings {
		if p.adjoins(o.Key) && o.Origin == film.AtFactory {
			out = append(out, o.Grade)
		}
	}
	return out
}

func (p *Panel) adjoins(key string) bool {
	return slices.ContainsFunc(p.Shape.Neighbours, func(n flatlay.Neighbour) bool { return n.Key == key })
}

// borrow takes the film of a panel that no gauge reads from the neighbours that were
// sprayed with it; nil where none was read.
func (s *Shop) borrow(ctx context.Context, r *round, p *Panel) (*film.Borrowed, error) {
	if len(r.versions) == 1 {
		var err error
		if r.versions, err = s.store.CarVersions(ctx, r.car.ID); err != nil {
			return nil, err
		}
	}
	var from []*film.Study
	for _, row := range r.car.Panels {
		if !p.adjoins(row.Key) || row.Substrate == Plastic || !p.spraying().Same(knownOf(row).spraying()) {
			continue
		}
		o, err := s.panelOf(ctx, r, row.ID)
		if err != nil {
			return nil, err
		}
		if o.Study != nil {
			from = append(from, o.Study)
		}
	}
	lent, ok := film.Borrow(from)
	switch {
	case ok:
	case p.Says(FactAim) || p.Says(FactCoats) || p.Origin == film.Here: // something is wanted of it
		lent = film.GuessBorrowed(p.History())
	default:
		return nil, nil
	}
	return &lent, nil
}

// Borrows says whether the panel's film is lent by its neighbours, Guesses whether it is the
// usual one for want of any that was read.
func (p *Panel) Borrows() bool { return p.borrowed != nil }
func (p *Panel) Guesses() bool { return p.borrowed != nil && p.borrowed.Guessed }

// History is the panel's, as the house rule on the safe film reads it.
func (p *Panel) History() film.History {
	h := p.Known.History()
	h.Ratio, h.Car, h.Agreed, h.Years = p.coats, p.carFilm, p.agreedUM(), p.years
	if p.House.Rules.SafeFilm == plan.HalfIsClear {
		h.Share = film.HalfShare
	}
	return h
}

func (p *Panel) facts() film.Facts {
	f := film.Facts{History: p.History(), Borrowed: p.borrowed}
	for _, z := range p.Zones {
		own := z.history()
		own.Agreed, own.Years = f.Agreed, f.Years
		f.Zones = append(f.Zones, film.Zone{Outline: z.Outline, History: own})
	}
	var uses []film.Use
	for _, r := range p.Readings {
		if r.Struck != nil {
			continue
		}
		if r.Phase != ClearAlone {
			uses = append(uses, film.Use{Gauge: gaugeID(r), At: r.TakenAt})
		}
		at := film.Place{X: r.At.X, Y: r.At.Y, Film: r.Film}
		switch r.Phase {
		case BeforeClear:
			f.Before = append(f.Before, at)
		case ClearAlone:
			f.Direct = append(f.Direct, at)
		case NoClear:
			f.Bare = append(f.Bare, at)
		}
	}
	f.OneDay = film.OneDay(uses)
	return f
}

// Live lists the readings of the total that count.
func (p *Panel) Live() []Reading {
	var out []Reading
	for _, r := range p.Readings {
		if r.Struck == nil && r.Phase == Total {
			out = append(out, r)
		}
	}
	return out
}

func (p *Panel) sectionAt(q flatlay.Point) string { return flatlay.SectionAt(p.Sections, q) }

// passesBefore counts the passes of each step on a section up to a reading.
func (p *Panel) passesBefore(r Reading) []int {
	return p.log.PassesBefore(p.sectionAt(r.At), r.moment())
}

// Worked says whether any pass was made on the panel.
func (p *Panel) Worked() bool { return p.log.Worked() || len(p.earlier) > 0 }

// Basis names what a sequence rests on: facts and the readings before any work.
func (p *Panel) Basis() string {
	h := fnv.New64a()
	fmt.Fprintf(h, "%s|%d|%.3f|%s|", p.Finish(), p.Coats, p.PeelGrade(), p.Car.Colour)
	if coat := p.spraying().Coat(); coat > 0 || p.Aim != plan.Flat {
		fmt.Fprintf(h, "%.2f|%s|", coat, p.Aim)
	}
	if p.Under != clearcoat.UnderUnknown {
		fmt.Fprintf(h, "%s|", p.Under)
	}
	if um := p.agreedUM(); um > 0 {
		fmt.Fprintf(h, "floor %.1f|", um)
	}
	if p.years > 0 {
		fmt.Fprintf(h, "%.0f years|", p.years)
	}
	if p.Hardness != shelf.Medium {
		fmt.Fprintf(h, "%s|", p.Hardness)
	}
	if p.Aim == plan.Match {
		fmt.Fprintf(h, "%.2f|", p.Grade)
	}
	if p.Photo != nil {
		fmt.Fprintf(h, "pebble %.4f|", p.Photo.Pebble.Median)
	}
	if p.Scratched > 0 {
		fmt.Fprintf(h, "scratches %.3f|", p.Scratched)
	}
	p.Condition.sum(h)
	if p.zonesText != "" {
		fmt.Fprintf(h, "%s|", p.zonesText)
	}
	for _, r := range p.Readings {
		if r.Struck == nil && (r.Phase != Total || !r.worked()) {
			fmt.Fprintf(h, "%s|", r.ID)
		}
	}
	return fmt.Sprintf("%016x", h.Sum64())
}

// ground is an outline, as it is stored, made ready for film maps.
func (s *Shop) ground(ctx context.Context, shape string) (*film.Ground, error) {
	return s.grounds.get(ctx, shape, func(context.Context) (*film.Ground, error) {
		var p flatlay.Panel
		if err := json.Unmarshal([]byte(shape), &p); err != nil {
			return nil, err
		}
		return film.NewGround(p), nil
	})
}

// levelReadings are the readings that count, as the core wants them.
func (p *Panel) levelReadings() []level.Reading {
	out := []level.Reading{}
	for _, r := range p.Live() {
		out = append(out, level.Reading{X: r.At.X, Y: r.At.Y, Film: r.Film, Passes: r.earlier, Restored: r.restored, Sure: r.Sure != ""})
	}
	return out
}

// readFilm has the core read the film of a panel. Without a reading it has no Study.
func (s *Shop) readFilm(ctx context.Context, p *Panel) error {
	p.asked, p.judged = &asked{}, nil
	p.opened, p.Study, p.Work = &studied{}, nil, nil
	crew, err := s.crew(ctx, p)
	if err != nil {
		return err
	}
	p.crew = crew
	readings, facts := p.levelReadings(), p.facts()
	h := fnv.New64a()
	if p.Ladder() == nil { // what hands have cut changes nothing of a film that nobody works
		crew = level.Crew{}
	} else {
		fmt.Fprintf(h, "%s|%s|%s|", crew.Persons, crew.Paint, p.handsKey)
	}
	fmt.Fprintf(h, "%s|%v|%v|%v|%v|%v|%v|%v|%v|", p.Key, facts.OneDay, facts.History, facts.Before, facts.Direct, facts.Bare, facts.Zones, p.gauge, readings)
	if p.borrowed != nil {
		fmt.Fprintf(h, "%v|", *p.borrowed)
	}
	if p.Ladder() != nil {
		fmt.Fprintf(h, "%s|%v|%d|%v|", p.Record.ID, p.Ladder().Rests, len(p.Ladder().Steps), p.Ladder().Steps[0].Dead)
	}
	opened, err := s.studies.get(ctx, fmt.Sprintf("%s|%x", p.ID, h.Sum64()), func(context.Context) (*studied, error) {
		s.heavy <- struct{}{} // the film of a panel takes much memory while it is worked out
		defer func() { <-s.heavy }()
		opened, err := level.OpenPanelBy(crew, p.ground, facts, readings, p.Ladder(), p.gauge)
		return &studied{Panel: opened}, err
	})
	if errors.Is(err, film.ErrReadings) {
		return nil
	}
	if err != nil {
		return err
	}
	p.opened, p.Study, p.Work = opened, opened.Study, opened.Work
	return nil
}

// film is the panel as the core knows it.
func (p *Panel) film() level.Panel { return p.opened.Panel }

// studied is a panel as the core knows it, with how its sections stand at some points of
// their work: a pass on one changes nothing of the others.
type studied struct {
	level.Panel
	standing sync.Map // level.Standing by what it was asked for
}

// SectionName is the name of a section, or its key where there is none of that key.
func (p *Panel) SectionName(key string) string {
	for _, s := range p.Sections {
		if s.Key == key {
			return s.Name
		}
	}
	return key
}

func (p *Panel) sectionKeys() string {
	var keys []string
	for _, s := range p.Sections {
		keys = append(keys, s.Key)
	}
	return strings.Join(keys, ", ")
}

// sectionNo is the index of a section; an unknown one is refused.
func (p *Panel) sectionNo(key string) (int, error) {
	i := slices.IndexFunc(p.Sections, func(s flatlay.Section) bool { return s.Key == key })
	if i < 0 {
		return 0, Refuse(NoSection, "section", p.Name, key, p.sectionKeys())
	}
	return i, nil
}

// sameAim counts the panels of a side that have the same aim: they are worked together.
func (p *Panel) sameAim() int {
	n := 0
	for _, o := range p.siblings {
		if o.Aim == p.Aim && sideOf(o.Key) == sideOf(p.Key) {
			n++
		}
	}
	return n
}

func sideOf(key string) string {
	side, _, cut := strings.Cut(key, "-")
	if !cut {
		return ""
	}
	return side
}

// paint names what is cut: paint of one finish on one car.
func (p *Panel) paint() string {
	return strings.Join([]string{p.Car.ID, string(p.Finish()), p.Hardness}, " ")
}

// spray is how the panel was sprayed, for how it hardens. Its film is the clear as it was
// sprayed, where that is known.
func (p *Panel) spray() cure.Spray {
	out := cure.Spray{Baked: p.Cure == Baked, Paint: p.Paint}
	if p.SprayedAt != nil {
		out.At = p.SprayedAt.In(p.House.Zone)
	}
	switch h := p.History(); {
	case p.Study != nil:
		out.Film = p.Study.Clear.Mean
	case h.Finish == film.Refinished && h.Coats > 0:
		out.Film = film.Coats(h.Coats, h.Coat).Mean
	}
	return out
}

// Hardens says from when the panel may be sanded and polished, and until when it cuts well;
// zero where nobody knows when it was sprayed, or where a factory did.
func (p *Panel) Hardens() cure.Times {
	if p.Finish() == film.FactoryFinish {
		return cure.Times{}
	}
	return cure.Of(p.spray(), p.House.Climate)
}
