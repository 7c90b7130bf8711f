package panel

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
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Panel is one panel with all that is on record of it and what the core makes of it.
type Panel struct {
	ID, Key, Name string
	facts.Panel
	Car          facts.OfCar
	Shape        flatlay.Panel
	Sections     []flatlay.Section
	Zones        []facts.Zone
	Readings     []facts.Reading
	Marks        []facts.Mark
	Entries      []facts.Entry // of the plan of record, struck ones too
	Floors       []AgreedFloor // of its car, struck ones too
	Record       *Record       // nil without one
	House        house.House
	Grade        float64       // peel grade that it is held against, of the panels beside it
	Options      *plan.Options // all sequences to what is wanted, for the facts as they are; nil without a section
	Study        *film.Study   // nil without a reading
	Work         *level.Work   // nil without a plan that holds
	Limits       map[string]string
	Kept         *Proof    // that it was found good, where nothing was done after it
	Log          level.Log // of the plan of record
	Opened       *Studied
	RowsAt       int64       // of the rows that it was made from
	Of           store.House // of the shop, likewise
	Granted      int         // passes that the film has allowed before, of a panel without it
	people       []store.Person
	Siblings     []Sibling // the panels of its car in their order, with itself
	zonesText    string    // as they are kept
	Ground       *film.Ground
	Gauge        film.Gauge     // that it was read with
	Borrowed     *film.Borrowed // of a panel that no gauge reads
	coats        film.CoatRatio // of this shop, for a panel sprayed here
	carFilm      float64        // median of the car's factory panels, µm; 0 where none was read
	ToFlat       *plan.Options  // where the aim does not level the panel
	late         []facts.Entry
	EarlierPlans []earlierPlan // passes that came late, of plans before the one of record
	hands        level.Hands   // of the shop
	crew         level.Crew    // who works it, or would
	handsKey     string        // names the history that they were learned from
	Answers      *Answers
	InOffer      *plan.Result // its way in an offer for its car; nil otherwise
	Years        float64      // out of doors, whole ones, where the house has the floor follow them
	Judged       []JudgedMark // of marks that were not struck out; nil before it was asked
	Now          func() time.Time
}

// Sibling is what one panel of a car has to know of another.
type Sibling struct {
	ID, Key string
	Origin  film.Origin
	Aim     plan.Aim
	Grade   float64
}

func siblingsOf(c store.Car) []Sibling {
	var out []Sibling
	for _, p := range c.Panels {
		out = append(out, Sibling{p.ID, p.Key, film.Origin(p.Origin), plan.Aim(p.Aim), facts.PanelOf(p).PeelGrade()})
	}
	return out
}

// Answers is what was worked out of a panel in one state on asking, for all who ask.
type Answers struct {
	standing sync.Map // level.Standing by the key of the section
	looks    sync.Map // *level.Looked by the id of its entry
	advice   sync.Map // level.Advice by what it was asked for
	swirls   sync.Map // seenSwirls by what was said of its sections
	accepts  sync.Map // []level.Acceptance by ladder
	rooms    sync.Once
	room     []float64 // what a plan may use of each section, µm
	Ahead    sync.Once
	Readings Ahead
	NoAhead  error
}

// Ladder is the plan of record's; nil without one, or when it is out of date and
// nothing was done yet.
func (p *Panel) Ladder() *plan.Ladder { return p.Log.Ladder }

// Version of the rows that the panel was made from.
func (p *Panel) Version() int64 { return p.RowsAt }

// PanelVersion is the version that a panel has now.
func (s *Service) PanelVersion(ctx context.Context, id string) (int64, error) {
	v, err := s.Store.Versions(ctx, id)
	return v.Panel, err
}

// CarVersion is the version that a car has now.
func (s *Service) CarVersion(ctx context.Context, id string) (int64, error) {
	all, err := s.Store.CarVersions(ctx, id)
	for _, v := range all {
		return v.Car, err
	}
	return 0, err
}

// Change is what one write has changed.
type Change = store.Change

// OnChange has somebody told of each write.
func (s *Service) OnChange(tell func(Change)) { s.Store.OnChange(tell) }

// applyLog gives a panel its log: the entries of the plan of record, and passes that came
// late under a plan before it. The sequences follow from both.
func (s *Service) applyLog(ctx context.Context, p *Panel, rows []store.Entry) error {
	p.Entries = nil
	before := map[string][]facts.Entry{}
	for _, row := range rows {
		e := facts.EntryOf(row)
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
		p.Readings[i].Earlier, p.Readings[i].Restored = nil, p.goneBefore(p.Readings[i])
	}
	if err := s.findSequences(ctx, p); err != nil {
		return err
	}
	for i := range p.Readings {
		r := &p.Readings[i]
		r.Earlier, r.Passes = p.passesBefore(*r), 0
		for _, n := range r.Earlier {
			r.Passes += n
		}
	}
	return nil
}

// factoryGrades are the peel grades of the factory panels beside a panel.
func (p *Panel) factoryGrades() []float64 {
	var out []float64
	for _, o := range p.Siblings {
		if p.Adjoins(o.Key) && o.Origin == film.AtFactory {
			out = append(out, o.Grade)
		}
	}
	return out
}

func (p *Panel) Adjoins(key string) bool {
	return slices.ContainsFunc(p.Shape.Neighbours, func(n flatlay.Neighbour) bool { return n.Key == key })
}

// borrow takes the film of a panel that no gauge reads from the neighbours that were
// sprayed with it; nil where none was read.
func (s *Service) borrow(ctx context.Context, r *batch, p *Panel) (*film.Borrowed, error) {
	if len(r.versions) == 1 {
		var err error
		if r.versions, err = s.Store.CarVersions(ctx, r.Car.ID); err != nil {
			return nil, err
		}
	}
	var from []*film.Study
	for _, row := range r.Car.Panels {
		if !p.Adjoins(row.Key) || row.Substrate == facts.Plastic || !p.Spraying().Same(facts.PanelOf(row).Spraying()) {
			continue
		}
		o, err := s.PanelOf(ctx, r, row.ID)
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
	case p.Says(facts.FactAim) || p.Says(facts.FactCoats) || p.Origin == film.Here: // something is wanted of it
		lent = film.GuessBorrowed(p.History())
	default:
		return nil, nil
	}
	return &lent, nil
}

// Borrows says whether the panel's film is lent by its neighbours, Guesses whether it is the
// usual one for want of any that was read.
func (p *Panel) Borrows() bool { return p.Borrowed != nil }

func (p *Panel) Guesses() bool { return p.Borrowed != nil && p.Borrowed.Guessed }

// History is the panel's, as the house rule on the safe film reads it.
func (p *Panel) History() film.History {
	h := p.Panel.History()
	h.Ratio, h.Car, h.Agreed, h.Years = p.coats, p.carFilm, p.agreedUM(), p.Years
	if p.House.Rules.SafeFilm == plan.HalfIsClear {
		h.Share = film.HalfShare
	}
	return h
}

func (p *Panel) facts() film.Facts {
	f := film.Facts{History: p.History(), Borrowed: p.Borrowed}
	for _, z := range p.Zones {
		own := z.History()
		own.Agreed, own.Years = f.Agreed, f.Years
		f.Zones = append(f.Zones, film.Zone{Outline: z.Outline, History: own})
	}
	var uses []film.Use
	for _, r := range p.Readings {
		if r.Struck != nil {
			continue
		}
		if r.Phase != facts.ClearAlone {
			uses = append(uses, film.Use{Gauge: GaugeID(r), At: r.TakenAt})
		}
		at := film.Place{X: r.At.X, Y: r.At.Y, Film: r.Film}
		switch r.Phase {
		case facts.BeforeClear:
			f.Before = append(f.Before, at)
		case facts.ClearAlone:
			f.Direct = append(f.Direct, at)
		case facts.NoClear:
			f.Bare = append(f.Bare, at)
		}
	}
	f.OneDay = film.OneDay(uses)
	return f
}

// Live lists the readings of the total that count.
func (p *Panel) Live() []facts.Reading {
	var out []facts.Reading
	for _, r := range p.Readings {
		if r.Struck == nil && r.Phase == facts.Total {
			out = append(out, r)
		}
	}
	return out
}

func (p *Panel) SectionAt(q flatlay.Point) string { return flatlay.SectionAt(p.Sections, q) }

// passesBefore counts the passes of each step on a section up to a reading.
func (p *Panel) passesBefore(r facts.Reading) []int {
	return p.Log.PassesBefore(p.SectionAt(r.At), r.Moment())
}

// Worked says whether any pass was made on the panel.
func (p *Panel) Worked() bool { return p.Log.Worked() || len(p.EarlierPlans) > 0 }

// Basis names what a sequence rests on: facts and the readings before any work.
func (p *Panel) Basis() string {
	h := fnv.New64a()
	fmt.Fprintf(h, "%s|%d|%.3f|%s|", p.Finish(), p.Coats, p.PeelGrade(), p.Car.Colour)
	if coat := p.Spraying().Coat(); coat > 0 || p.Aim != plan.Flat {
		fmt.Fprintf(h, "%.2f|%s|", coat, p.Aim)
	}
	if p.Under != clearcoat.UnderUnknown {
		fmt.Fprintf(h, "%s|", p.Under)
	}
	if um := p.agreedUM(); um > 0 {
		fmt.Fprintf(h, "floor %.1f|", um)
	}
	if p.Years > 0 {
		fmt.Fprintf(h, "%.0f years|", p.Years)
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
	p.Condition.Sum(h)
	if p.zonesText != "" {
		fmt.Fprintf(h, "%s|", p.zonesText)
	}
	for _, r := range p.Readings {
		if r.Struck == nil && (r.Phase != facts.Total || !r.Worked()) {
			fmt.Fprintf(h, "%s|", r.ID)
		}
	}
	return fmt.Sprintf("%016x", h.Sum64())
}

// Ground is an outline, as it is stored, made ready for film maps.
func (s *Service) Ground(ctx context.Context, shape string) (*film.Ground, error) {
	return s.grounds.Get(ctx, shape, func(context.Context) (*film.Ground, error) {
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
		out = append(out, level.Reading{X: r.At.X, Y: r.At.Y, Film: r.Film, Passes: r.Earlier, Restored: r.Restored, Sure: r.Sure != ""})
	}
	return out
}

// ReadFilm has the core read the film of a panel. Without a reading it has no Study.
func (s *Service) ReadFilm(ctx context.Context, p *Panel) error {
	p.Answers, p.Judged = &Answers{}, nil
	p.Opened, p.Study, p.Work = &Studied{}, nil, nil
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
	fmt.Fprintf(h, "%s|%v|%v|%v|%v|%v|%v|%v|%v|", p.Key, facts.OneDay, facts.History, facts.Before, facts.Direct, facts.Bare, facts.Zones, p.Gauge, readings)
	if p.Borrowed != nil {
		fmt.Fprintf(h, "%v|", *p.Borrowed)
	}
	if p.Ladder() != nil {
		fmt.Fprintf(h, "%s|%v|%d|%v|", p.Record.ID, p.Ladder().Rests, len(p.Ladder().Steps), p.Ladder().Steps[0].Dead)
	}
	opened, err := s.studies.Get(ctx, fmt.Sprintf("%s|%x", p.ID, h.Sum64()), func(context.Context) (*Studied, error) {
		s.Heavy <- struct{}{} // the film of a panel takes much memory while it is worked out
		defer func() { <-s.Heavy }()
		opened, err := level.OpenPanelBy(crew, p.Ground, facts, readings, p.Ladder(), p.Gauge)
		return &Studied{Panel: opened}, err
	})
	if errors.Is(err, film.ErrReadings) {
		return nil
	}
	if err != nil {
		return err
	}
	p.Opened, p.Study, p.Work = opened, opened.Study, opened.Work
	return nil
}

// Film is the panel as the core knows it.
func (p *Panel) Film() level.Panel { return p.Opened.Panel }

// Studied is a panel as the core knows it, with how its sections stand at some points of
// their work: a pass on one changes nothing of the others.
type Studied struct {
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

// SectionNo is the index of a section; an unknown one is refused.
func (p *Panel) SectionNo(key string) (int, error) {
	i := slices.IndexFunc(p.Sections, func(s flatlay.Section) bool { return s.Key == key })
	if i < 0 {
		return 0, refuse.Because(refuse.NoSection, "section", p.Name, key, p.sectionKeys())
	}
	return i, nil
}

// sameAim counts the panels of a side that have the same aim: they are worked together.
func (p *Panel) sameAim() int {
	n := 0
	for _, o := range p.Siblings {
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
	out := cure.Spray{Baked: p.Cure == facts.Baked, Paint: p.Paint}
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
