package panelwork

import (
	"context"
	"errors"
	"math"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// NewReading is a reading as it was typed or sent: Film in Unit, the place in mm.
// SecondsAgo is how long ago it was taken, nil for now; Gauge who sent it, empty for
// typed; Sure why it is kept although it does not fit.
type NewReading struct {
	ID         string
	At         flatlay.Point
	Film       float64
	Unit       refuse.Unit
	Phase      facts.Phase
	Gauge      string
	Sure       string
	SecondsAgo *float64
}

// KeptReading is a reading that was just kept, with what the map expected there before
// it; nil without a map, or where it is not of the total.
type KeptReading struct {
	facts.Reading
	Expected *film.Estimate
}

// AddReading keeps one reading.
func (s *Service) AddReading(ctx context.Context, panelID string, in NewReading) (KeptReading, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return KeptReading{}, err
	}
	row, err := s.newReading(ctx, p, in)
	if err != nil {
		return KeptReading{}, err
	}
	var out KeptReading
	if in.Phase == facts.Total {
		out.Expected = advice.PlaceAt(p, in.At).Total
		if passes := passesAt(p, in.At); passes != nil {
			now := p.Film().Expected(in.At, passes)
			out.Expected = &now
		}
	}
	if _, err := s.Store.AddReadings(ctx, []store.Reading{row}, MostReadings); err != nil {
		return KeptReading{}, s.Crowded(ctx, err, "film")
	}
	out.Reading, err = s.reading(ctx, row.ID)
	return out, err
}

// reading is one reading as it is kept.
func (s *Service) reading(ctx context.Context, id string) (facts.Reading, error) {
	row, err := s.Store.Reading(ctx, id)
	if err != nil {
		return facts.Reading{}, err
	}
	p, err := s.OpenPanel(ctx, row.PanelID)
	if err != nil {
		return facts.Reading{}, err
	}
	if r := panel.FirstOf(p.Readings, func(r facts.Reading) bool { return r.ID == id }); r != nil {
		return *r, nil
	}
	return facts.Reading{}, store.ErrMissing
}

func (s *Service) newReading(ctx context.Context, p *panel.Panel, in NewReading) (store.Reading, error) {
	none := store.Reading{}
	if err := house.CheckID(in.ID, house.OfReading); err != nil {
		return none, err
	}
	if in.Unit != refuse.Micron && in.Unit != refuse.Mil {
		return none, refuse.Because(refuse.BadUnit, "unit")
	}
	if in.Phase != facts.Total && in.Phase != facts.BeforeClear && in.Phase != facts.ClearAlone && in.Phase != facts.NoClear {
		return none, refuse.Because(refuse.BadPhase, "phase")
	}
	film := in.Unit.Microns(in.Film)
	if text := files.FilmFault(film, in.Film, string(in.Unit)); text != "" {
		r := &refuse.Refusal{Code: refuse.BadFilm, Field: "film", Values: []any{text}}
		if as := refuse.Mil.Microns(in.Film); in.Unit == refuse.Micron && files.FilmFault(as, in.Film, string(refuse.Mil)) == "" {
			r.Offers = []refuse.Offer{{Film: in.Film, Unit: refuse.Mil}}
		}
		return none, r
	}
	if p.Substrate == facts.Plastic && in.Phase != facts.ClearAlone { // an ultrasonic gauge resolves layers there
		return none, refuse.Because(refuse.PlasticReads, "film", p.Name)
	}
	if err := advice.CheckPlace(p.Shape, in.At); err != nil {
		return none, err
	}
	if err := CheckCrowd(p, 1, "film"); err != nil {
		return none, err
	}
	row := store.Reading{ID: in.ID, PanelID: p.ID, XMM: in.At.X, YMM: in.At.Y, FilmUM: film, Phase: string(in.Phase), Source: store.SourceTyped, KeptAt: s.Now()}
	var err error
	if row.TakenAt, _, err = madeAt(in.SecondsAgo, s.Now()); err != nil {
		return none, err
	}
	if in.Gauge != "" {
		_, err := s.Store.Gauge(ctx, in.Gauge)
		if errors.Is(err, store.ErrMissing) {
			return none, refuse.Because(refuse.NoGauge, "gauge", in.Gauge)
		}
		if err != nil {
			return none, err
		}
		row.Gauge, row.Source = in.Gauge, store.SourceGauge
	}
	if in.Sure != "" {
		row.Sure, err = house.StrikeReason(in.Sure)
		return row, err
	}
	if known, err := s.Store.HasReading(ctx, in.ID); err != nil || known {
		return row, err // sent again; it was judged when it came first
	}
	return row, s.askBack(ctx, p, row)
}

// passesAt are those of the plan of record that went over a place; nil for none.
func passesAt(p *panel.Panel, q flatlay.Point) []int {
	if section := p.SectionAt(q); p.Study != nil && p.Ladder() != nil && p.Log.SinceAny(section, level.Moment{}) {
		return p.Log.Passes(section)
	}
	return nil
}

// askBack refuses a reading of the total that does not fit its panel, with what it may
// have been.
func (s *Service) askBack(ctx context.Context, p *panel.Panel, r store.Reading) error {
	if facts.Phase(r.Phase) != facts.Total {
		return nil
	}
	at := flatlay.Point{X: r.XMM, Y: r.YMM}
	odd, is := film.OddAlone(r.FilmUM)
	if p.Study != nil && len(p.Live()) >= enoughToTell {
		odd, is = p.Study.OddAt(at, r.FilmUM, false)
	}
	if passes := passesAt(p, at); passes != nil {
		odd, is = film.OddFrom(p.Film().Expected(at, passes), r.FilmUM)
	}
	if !is {
		return nil
	}
	out := &refuse.Refusal{Kind: refuse.Conflict, Code: refuse.OddReading, Field: "film", Values: []any{OddFilm{Film: r.FilmUM, Odd: odd}}}
	if odd.Meant > 0 {
		out.Offers = append(out.Offers, refuse.Offer{Film: math.Round(odd.Meant*10) / 10, Unit: refuse.Micron})
	} else if name, err := s.readsLike(ctx, p, r.FilmUM); err != nil {
		return err
	} else if name != "" {
		out.Code, out.Values = refuse.OddPanel, append(out.Values, name)
	}
	out.Offers = append(out.Offers, refuse.Offer{Film: r.FilmUM, Unit: refuse.Micron, Sure: true})
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
func (s *Service) readsLike(ctx context.Context, p *panel.Panel, um float64) (string, error) {
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

// Crowded is the refusal for readings that do not fit a panel; another error stays.
func (s *Service) Crowded(ctx context.Context, err error, field string) error {
	var c *store.Crowded
	if !errors.As(err, &c) {
		return err
	}
	p, err := s.Store.Panel(ctx, c.PanelID)
	if err != nil {
		return err
	}
	return refuse.Because(refuse.TooManyReadings, field, p.Name, refuse.CountOf(c.Kept, "reading"), c.More, MostReadings)
}

// CheckCrowd refuses so many more readings where they do not fit a panel.
func CheckCrowd(p *panel.Panel, more int, field string) error {
	if n := len(p.Live()); n+more > MostReadings {
		return refuse.Because(refuse.TooManyReadings, field, p.Name, refuse.CountOf(n, "reading"), more, MostReadings)
	}
	return nil
}

// StrikeReading strikes a reading out with a reason.
func (s *Service) StrikeReading(ctx context.Context, id, reason string) (facts.Reading, error) {
	row, err := s.Store.Reading(ctx, id)
	if err != nil {
		return facts.Reading{}, err
	}
	if reason, err = house.StrikeReason(reason); err != nil {
		return facts.Reading{}, err
	}
	if err := s.Store.StrikeReading(ctx, row.ID, reason, s.Now()); err != nil {
		return facts.Reading{}, err
	}
	return s.reading(ctx, row.ID)
}
