package shop

import (
	"context"
	"errors"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/internal/files"
	"waxplanus/internal/store"
)

// NewReading is a reading as it was typed or sent: Film in Unit, the place in mm.
// SecondsAgo is how long ago it was taken, nil for now; Gauge who sent it, empty for
// typed; Sure why it is kept although it does not fit.
type NewReading struct {
	ID         string
	At         flatlay.Point
	Film       float64
	Unit       Unit
	Phase      Phase
	Gauge      string
	Sure       string
	SecondsAgo *float64
}

// The signs that an id has which a device makes.
const (
	leastID = 8
	mostID  = 64
)

// Thing names what an id is of.
type Thing string

// The things that devices make ids for.
const (
	OfReading  Thing = "reading"
	OfMark     Thing = "mark"
	OfEntry    Thing = "entry"
	OfFloor    Thing = "agreed floor"
	OfTry      Thing = "try"
	OfPhoto    Thing = "photo"
	OfLamp     Thing = "lamp"
	OfMeter    Thing = "reading of a meter"
	OfProof    Thing = "proof"
	OfHandover Thing = "hand over"
	OfOffer    Thing = "offer"
	OfStock    Thing = "goods"
)

func checkID(id string, of Thing) error {
	plain := func(r rune) bool {
		return r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || strings.ContainsRune("-_.:", r)
	}
	if len(id) < leastID || len(id) > mostID || strings.ContainsFunc(id, func(r rune) bool { return !plain(r) }) || strings.ContainsRune("-.:_", rune(id[0])) {
		return Refuse(BadID, "id", of, leastID, mostID)
	}
	return nil
}

// mostName is how many letters the name of a person has, and mostReason a reason.
const (
	mostName   = 40
	mostReason = 200
)

// personName is a person's name as it was typed.
func personName(name string) (string, error) {
	name = strings.TrimSpace(name)
	if name == "" || len([]rune(name)) > mostName {
		return "", Refuse(BadPerson, "person", mostName)
	}
	return name, nil
}

// strikeReason is a reason as it was typed.
func strikeReason(text string) (string, error) {
	reason := strings.TrimSpace(text)
	if n := len([]rune(reason)); n < 2 || n > mostReason {
		return "", Refuse(BadReason, "reason", mostReason)
	}
	return reason, nil
}

// KeptReading is a reading that was just kept, with what the map expected there before
// it; nil without a map, or where it is not of the total.
type KeptReading struct {
	Reading
	Expected *film.Estimate
}

// AddReading keeps one reading.
func (s *Shop) AddReading(ctx context.Context, panelID string, in NewReading) (KeptReading, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return KeptReading{}, err
	}
	row, err := s.newReading(ctx, p, in)
	if err != nil {
		return KeptReading{}, err
	}
	var out KeptReading
	if in.Phase == Total {
		out.Expected = p.Place(in.At).Total
		if passes := p.passesAt(in.At); passes != nil {
			now := p.film().Expected(in.At, passes)
			out.Expected = &now
		}
	}
	if _, err := s.store.AddReadings(ctx, []store.Reading{row}, MostReadings); err != nil {
		return KeptReading{}, s.crowded(ctx, err, "film")
	}
	out.Reading, err = s.reading(ctx, row.ID)
	return out, err
}

// reading is one reading as it is kept.
func (s *Shop) reading(ctx context.Context, id string) (Reading, error) {
	row, err := s.store.Reading(ctx, id)
	if err != nil {
		return Reading{}, err
	}
	p, err := s.panel(ctx, row.PanelID)
	if err != nil {
		return Reading{}, err
	}
	if r := find(p.Readings, func(r Reading) bool { return r.ID == id }); r != nil {
		return *r, nil
	}
	return Reading{}, store.ErrMissing
}

func (s *Shop) newReading(ctx context.Context, p *Panel, in NewReading) (store.Reading, error) {
	none := store.Reading{}
	if err := checkID(in.ID, OfReading); err != nil {
		return none, err
	}
	if in.Unit != Micron && in.Unit != Mil {
		return none, Refuse(BadUnit, "unit")
	}
	if in.Phase != Total && in.Phase != BeforeClear && in.Phase != ClearAlone && in.Phase != NoClear {
		return none, Refuse(BadPhase, "phase")
	}
	film := in.Unit.Microns(in.Film)
	if text := files.FilmFault(film, in.Film, string(in.Unit)); text != "" {
		r := &Refusal{Code: BadFilm, Field: "film", Values: []any{text}}
		if as := Mil.Microns(in.Film); in.Unit == Micron && files.FilmFault(as, in.Film, string(Mil)) == "" {
			r.Offers = []Offer{{Film: in.Film, Unit: Mil}}
		}
		return none, r
	}
	if p.Substrate == Plastic && in.Phase != ClearAlone { // an ultrasonic gauge resolves layers there
		return none, Refuse(PlasticReads, "film", p.Name)
	}
	if err := checkPlace(p.Shape, in.At); err != nil {
		return none, err
	}
	if err := p.checkCrowd(1, "film"); err != nil {
		return none, err
	}
	row := store.Reading{ID: in.ID, PanelID: p.ID, XMM: in.At.X, YMM: in.At.Y, FilmUM: film, Phase: string(in.Phase), Source: store.SourceTyped, KeptAt: s.now()}
	var err error
	if row.TakenAt, _, err = madeAt(in.SecondsAgo, s.now()); err != nil {
		return none, err
	}
	if in.Gauge != "" {
		_, err := s.store.Gauge(ctx, in.Gauge)
		if errors.Is(err, store.ErrMissing) {
			return none, Refuse(NoGauge, "gauge", in.Gauge)
		}
		if err != nil {
			return none, err
		}
		row.Gauge, row.Source = in.Gauge, store.SourceGauge
	}
	if in.Sure != "" {
		row.Sure, err = strikeReason(in.Sure)
		return row, err
	}
	if known, err := s.store.HasReading(ctx, in.ID); err != nil || known {
		return row, err // sent again; it was judged when it came first
	}
	return row, s.askBack(ctx, p, row)
}

// passesAt are those of the plan of record that went over a place; nil for none.
func (p *Panel) passesAt(q flatlay.Point) []int {
	if section := p.sectionAt(q); p.Study != nil && p.Ladder() != nil && p.log.SinceAny(section, level.Moment{}) {
		return p.log.Passes(section)
	}
	return nil
}

// askBack refuses a reading of the total that does not fit its panel, with what it may
// have been.
func (s *Shop) askBack(ctx context.Context, p *Panel, r store.Reading) error {
	if Phase(r.Phase) != Total {
		return nil
	}
	at := flatlay.Point{X: r.XMM, Y: r.YMM}
	odd, is := film.OddAlone(r.FilmUM)
	if p.Study != nil && len(p.Live()) >= enoughToTell {
		odd, is = p.Study.OddAt(at, r.FilmUM, false)
	}
	if passes := p.passesAt(at); passes != nil {
		odd, is = film.OddFrom(p.film().Expected(at, passes), r.FilmUM)
	}
	if !is {
		return nil
	}
	out := &Refusal{Kind: Conflict, Code: OddReading, Field: "film", Values: []any{OddFilm{Film: r.FilmUM, Odd: odd}}}
	if odd.Meant > 0 {
		out.Offers = append(out.Offers, Offer{Film: math.Round(odd.Meant*10) / 10, Unit: Micron})
	} else if name, err := s.readsLike(ctx, p, r.FilmUM); err != nil {
		return err
	} else if name != "" {
		out.Code, out.Values = OddPanel, append(out.Values, name)
	}
	out.Offers = append(out.Offers, Offer{Film: r.FilmUM, Unit: Micron, Sure: true})
	return out
}

// enoughToTell is how many readings say what another of their panel is expected to be.
const enoughToTell = 2

// OddFilm is a film (µm) that does not fit, among the values of a refusal.
type OddFilm struct {
	Film float64
	Odd  film.Odd
}

// readsLike names another panel of the car whose film is like that; "" for none.
func (s *Shop) readsLike(ctx context.Context, p *Panel, um float64) (string, error) {
	car, err := s.Car(ctx, p.Car.ID)
	if err != nil {
		return "", err
	}
	for _, o := range car.Panels {
		if o.ID != p.ID && o.Study != nil && film.Alike(o.Study.Mean.Mean, um) {
			return o.Name, nil
		}
	}
	return "", nil
}

// MostReadings is how many readings of one panel the film map takes: 25 spots
// settle any panel.
const MostReadings = 200

// crowded is the refusal for readings that do not fit a panel; another error stays.
func (s *Shop) crowded(ctx context.Context, err error, field string) error {
	var c *store.Crowded
	if !errors.As(err, &c) {
		return err
	}
	p, err := s.store.Panel(ctx, c.PanelID)
	if err != nil {
		return err
	}
	return Refuse(TooManyReadings, field, p.Name, CountOf(c.Kept, "reading"), c.More, MostReadings)
}

// checkCrowd refuses so many more readings where they do not fit a panel.
func (p *Panel) checkCrowd(more int, field string) error {
	if n := len(p.Live()); n+more > MostReadings {
		return Refuse(TooManyReadings, field, p.Name, CountOf(n, "reading"), more, MostReadings)
	}
	return nil
}

// StrikeReading strikes a reading out with a reason.
func (s *Shop) StrikeReading(ctx context.Context, id, reason string) (Reading, error) {
	row, err := s.store.Reading(ctx, id)
	if err != nil {
		return Reading{}, err
	}
	if reason, err = strikeReason(reason); err != nil {
		return Reading{}, err
	}
	if err := s.store.StrikeReading(ctx, row.ID, reason, s.now()); err != nil {
		return Reading{}, err
	}
	return s.reading(ctx, row.ID)
}
