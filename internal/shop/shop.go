// Package shop is the application: it loads rows, makes core values of them, and
// carries out what a person does. It answers with core values and its own, and refuses
// with a Refusal. It knows neither the web nor any sentence.
package shop

import (
	"context"
	"reflect"
	"runtime"
	"sync"
	"sync/atomic"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
)

// Shop is one shop's records with what has been computed of them. Use New.
type Shop struct {
	store *store.Store
	now   func() time.Time
	zone  *time.Location // of the machine
	turns *turns

	// What goes on when nobody waits for it: until the shop is closed, and on so many at once.
	behind   sync.WaitGroup
	life     context.Context
	end      context.CancelFunc
	slots    chan struct{}
	renewals renewals
	cars     chan struct{} // holds as many whole cars as are loaded at once

	backing  sync.Mutex // held while a backup is made
	planning sync.Mutex // held while the week is planned

	asked atomic.Int64  // when somebody asked last, ns
	heavy chan struct{} // holds as many as may work out films at once

	// What was computed is remembered by what it was computed from, so that nothing
	// is computed again for what did not change.
	panels  *memo[*Panel]
	carRows *memo[*carRows]
	rows    *memo[*store.Rows]
	logs    *memo[*store.Log]
	ladders *memo[plan.Ladder]
	houses  *memo[*quarters]
	teach   *memo[*teachers]
	studies *memo[*studied]
	grounds *memo[*film.Ground]
	options *memo[*plan.Options]
	hands   *memo[level.Hands]
	history *memo[panelHistory]
	coated  *memo[film.Coated]
	offers  *memo[[]CarOffer]
}

// How many bytes of each kind are remembered.
const (
	mostOfPanels  = 12 << 20
	mostOfStudies = 64 << 20
	mostOfGrounds = 28 << 20
	mostOfOptions = 16 << 20
	mostOfRows    = 6 << 20
	mostOfLogs    = 12 << 20
	mostOfLessons = 4 << 20
)

// carsAtOnce is how many whole cars are loaded at once; others wait.
const carsAtOnce = 4

// New opens the application on records; now is the clock, and zone the time zone of the
// machine that it runs on.
func New(records *store.Store, now func() time.Time, zone *time.Location) *Shop {
	life, end := context.WithCancel(context.Background())
	cores := runtime.GOMAXPROCS(0)
	return &Shop{
		store: records, now: now, zone: zone, turns: newTurns(),
		life: life, end: end, slots: make(chan struct{}, cores), heavy: make(chan struct{}, cores), cars: make(chan struct{}, carsAtOnce),
		renewals: renewals{under: map[string]*renewal{}},
		panels:   newMemo(mostOfPanels, panelBytes),
		carRows:  newMemo(mostOfRows, deep[*carRows]),
		rows:     newMemo(mostOfRows, deep[*store.Rows]),
		logs:     newMemo(mostOfLogs, func(l *store.Log) int { return entryBytes * (1 + len(l.Entries)) }),
		ladders:  newMemo(mostOfRows, deep[plan.Ladder]),
		houses:   newMemo(mostOfLessons, deep[*quarters]),
		teach:    newMemo(mostOfLessons, deep[*teachers]),
		studies:  newMemo(mostOfStudies, studyBytes),
		grounds:  newMemo(mostOfGrounds, deep[*film.Ground]),
		options:  newMemo(mostOfOptions, deep[*plan.Options]),
		hands:    newMemo(mostOfLessons, deep[level.Hands]),
		history:  newMemo(mostOfLessons, deep[panelHistory]),
		coated:   newMemo(mostOfLessons, deep[film.Coated]),
		offers:   newMemo(mostOfLessons, func(all []CarOffer) int { return offerBytes * (1 + len(all)) }),
	}
}

// studyBytes are those of the film of a panel, without the ground, which is remembered by
// itself.
func studyBytes(p *studied) int {
	seen := map[uintptr]bool{}
	if p.Study != nil {
		sizeOf(reflect.ValueOf(p.Study.Ground), seen)
	}
	return sizeOf(reflect.ValueOf(p.Panel), seen)
}

// offerBytes are about those of an offer of a car, beside the film of its panels.
const offerBytes = 96 << 10

// entryBytes are about those of an entry of the log.
const entryBytes = 512

// panelBytes are about those of a panel beside what is remembered by itself. It is asked
// with each tap and only counts.
func panelBytes(p *Panel) int {
	const whole = 24 << 10
	return whole + entryBytes*(len(p.Entries)+len(p.Readings)+len(p.Marks))
}

// Asked says that somebody asks for something now: what goes on behind waits for a moment.
func (s *Shop) Asked() { s.asked.Store(time.Now().UnixNano()) }

// Idle is how long nobody has asked for anything.
func (s *Shop) Idle() time.Duration { return time.Since(time.Unix(0, s.asked.Load())) }

// Behind has something done while nobody waits for it; Close waits for its end.
func (s *Shop) Behind(do func(ctx context.Context)) { s.behind.Go(func() { do(s.life) }) }

// Close ends what goes on behind.
func (s *Shop) Close() {
	s.end()
	s.behind.Wait()
}

// The keys of settings that hold for the whole shop.
const (
	unitSetting  = "unit"
	zoneSetting  = "time_zone"
	rulesSetting = "house_rules"
)

// Unit is what films are shown in.
type Unit string

// The units.
const (
	Micron Unit = "um"
	Mil    Unit = "mil"
)

// MicronsPerMil is one thousandth of an inch.
const MicronsPerMil = 25.4

// Microns is a value of that unit in µm.
func (u Unit) Microns(v float64) float64 {
	if u == Mil {
		return v * MicronsPerMil
	}
	return v
}

// PerMicron is how much of the unit a µm is.
func (u Unit) PerMicron() float64 { return 1 / u.Microns(1) }

// Settings are what holds for the whole shop: how it shows itself, the unit of films, and the
// time zone that times are shown in. ZoneSet says that it was chosen; else it is that of the
// machine.
type Settings struct {
	Face
	Unit    Unit
	Zone    *time.Location
	ZoneSet bool
}

// Settings of the shop.
func (s *Shop) Settings(ctx context.Context) (Settings, error) {
	v, err := s.store.HouseVersion(ctx)
	if err != nil {
		return Settings{}, err
	}
	q, err := s.quartersOf(ctx, v.Shop)
	if err != nil {
		return Settings{}, err
	}
	return q.settings, nil
}

func (s *Shop) loadSettings(ctx context.Context) (Settings, error) {
	unit, err := s.store.Setting(ctx, unitSetting, string(Micron))
	if err != nil {
		return Settings{}, err
	}
	name, err := s.store.Setting(ctx, zoneSetting, "")
	if err != nil {
		return Settings{}, err
	}
	out := Settings{Unit: Unit(unit), Zone: s.zone, ZoneSet: name != ""}
	if out.ZoneSet {
		if out.Zone, err = time.LoadLocation(name); err != nil {
			return out, err
		}
	}
	out.Face, err = s.loadFace(ctx)
	return out, err
}

// ChangeSettings changes what is given; an empty Unit and a nil zone stay.
func (s *Shop) ChangeSettings(ctx context.Context, unit Unit, zone *string) (Settings, error) {
	if unit != "" && unit != Micron && unit != Mil {
		return Settings{}, Refuse(BadUnit, "unit")
	}
	if zone != nil && *zone != "" {
		if _, err := time.LoadLocation(*zone); err != nil {
			return Settings{}, Refuse(BadZone, "time_zone", *zone)
		}
	}
	if unit != "" {
		if err := s.store.SetSetting(ctx, unitSetting, string(unit)); err != nil {
			return Settings{}, err
		}
	}
	if zone != nil {
		if err := s.store.SetSetting(ctx, zoneSetting, *zone); err != nil {
			return Settings{}, err
		}
	}
	return s.Settings(ctx)
}
