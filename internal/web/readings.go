package web

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"strings"

	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// AddReading keeps one reading.
func (s *Server) AddReading(ctx context.Context, r api.AddReadingRequestObject) (api.AddReadingResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	row, err := s.newReading(ctx, b, *r.Body)
	if err != nil {
		return nil, err
	}
	if _, err := s.store.AddReadings(ctx, []store.Reading{row}); err != nil {
		return nil, err
	}
	kept, err := s.store.Reading(ctx, row.ID)
	if err != nil {
		return nil, err
	}
	if s.link != nil && row.Gauge != "" {
		s.link.Done(row.ID)
	}
	return api.AddReading201JSONResponse(readingOf(b, kept)), nil
}

func (s *Server) newReading(ctx context.Context, b *bench, in api.NewReading) (store.Reading, error) {
	if len(in.Id) < leastID || len(in.Id) > mostID {
		return store.Reading{}, refuse("id", "The id of a reading has 8 to 64 signs and is made by the sender.")
	}
	if !in.Unit.Valid() {
		return store.Reading{}, refuse("unit", "The unit is um or mil.")
	}
	if !in.Phase.Valid() {
		return store.Reading{}, refuse("phase", "The phase is total, before_clear or clear.")
	}
	film := microns(in.Film, in.Unit)
	if text := files.FilmFault(film, in.Film, string(in.Unit)); text != "" {
		f := fault{http.StatusUnprocessableEntity, "not taken", ended(sentence(text)), "film", nil}
		if as := microns(in.Film, api.Mil); in.Unit == api.Um && files.FilmFault(as, in.Film, string(api.Mil)) == "" {
			f.offers = []api.ReadingOffer{{Text: fmt.Sprintf("keep as mil (%s µm)", um(as)), Film: in.Film, Unit: api.Mil}}
		}
		return store.Reading{}, &f
	}
	if b.row.Substrate == "plastic" {
		return store.Reading{}, refuse("film", "The %s is plastic: a magnetic or eddy-current gauge reads nothing there.", b.row.Name)
	}
	if text := placeFault(b.shape, flatlay.Point{X: in.XMm, Y: in.YMm}); text != "" {
		return store.Reading{}, refuse("x_mm", "%s", text)
	}
	if text := b.crowded(1); text != "" {
		return store.Reading{}, refuse("film", "%s", text)
	}
	row := store.Reading{ID: in.Id, PanelID: b.row.ID, XMM: in.XMm, YMM: in.YMm, FilmUM: film,
		Phase: string(in.Phase), Source: store.SourceTyped, TakenAt: s.now()}
	if in.SecondsAgo != nil {
		var err error
		if row.TakenAt, _, err = madeAgo(*in.SecondsAgo, row.TakenAt); err != nil {
			return row, err
		}
	}
	if in.Gauge != nil && *in.Gauge != "" {
		if _, err := s.store.Gauge(ctx, *in.Gauge); err != nil {
			return row, refuse("gauge", "Gauge %q has not said hello to this shop: leave it out, and the reading is marked as typed.", *in.Gauge)
		}
		row.Gauge, row.Source = *in.Gauge, store.SourceGauge
	}
	if in.Sure != nil && *in.Sure != "" {
		reason, err := strikeReason(*in.Sure)
		row.Sure = reason
		return row, err
	}
	if known, err := s.store.HasReading(ctx, in.Id); err != nil || known {
		return row, err // sent again; it was judged when it came first
	}
	return row, s.oddFault(ctx, b, row)
}

// oddFault asks back for a reading of the total that does not fit its panel.
func (s *Server) oddFault(ctx context.Context, b *bench, r store.Reading) error {
	if b.opened.Study == nil || r.Phase != store.PhaseTotal {
		return nil
	}
	odd, is := b.opened.Study.OddAt(flatlay.Point{X: r.XMM, Y: r.YMM}, r.FilmUM, false)
	if !is {
		return nil
	}
	f := fault{http.StatusConflict, "does not fit", oddText(r.FilmUM, odd), "film", nil}
	if odd.Meant > 0 {
		f.offers = append(f.offers, api.ReadingOffer{Text: "keep as " + um(odd.Meant) + " µm", Film: math.Round(odd.Meant*10) / 10, Unit: api.Um})
	} else if name, err := s.readsLike(ctx, b, r.FilmUM); err != nil {
		return err
	} else if name != "" {
		f.detail += fmt.Sprintf(" The %s reads like that: is the right panel open?", name)
	}
	f.offers = append(f.offers, api.ReadingOffer{Text: "keep " + um(r.FilmUM) + " µm anyway", Film: r.FilmUM, Unit: api.Um, Sure: true})
	return &f
}

// readsLike names another panel of the car whose film is like that; "" for none.
func (s *Server) readsLike(ctx context.Context, b *bench, um float64) (string, error) {
	const like = 0.06
	v, err := s.look(ctx, b.car)
	if err != nil {
		return "", err
	}
	for _, o := range v.all {
		if o.row.ID != b.row.ID && o.opened.Study != nil && math.Abs(o.opened.Study.Mean.Mean/um-1) < like {
			return o.row.Name, nil
		}
	}
	return "", nil
}

// mostReadings is how many readings of one panel the film map takes: 25 spots
// settle any panel, and its work grows with the cube.
const mostReadings = 200

// crowded says why so many more readings do not fit a panel; "" when they do.
func (b *bench) crowded(more int) string {
	n := len(b.live())
	if n+more <= mostReadings {
		return ""
	}
	return fmt.Sprintf("The %s has %s and would get %d more; %d is the most for one panel, and 25 spots settle any. Wrong panel, or a file of another kind?",
		b.row.Name, count(n, "reading"), more, mostReadings)
}

// ended puts a stop behind a sentence that has none.
func ended(s string) string {
	if strings.HasSuffix(s, "?") {
		return s
	}
	return s + "."
}

// sentence writes the first letter large.
func sentence(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// StrikeReading strikes a reading out with a reason.
func (s *Server) StrikeReading(ctx context.Context, r api.StrikeReadingRequestObject) (api.StrikeReadingResponseObject, error) {
	row, err := s.store.Reading(ctx, r.ReadingId)
	if err != nil {
		return nil, err
	}
	reason, err := strikeReason(r.Body.Reason)
	if err != nil {
		return nil, err
	}
	if err := s.store.StrikeReading(ctx, row.ID, reason, s.now()); err != nil {
		return nil, err
	}
	b, err := s.lay(ctx, row.PanelID)
	if err != nil {
		return nil, err
	}
	if row, err = s.store.Reading(ctx, row.ID); err != nil {
		return nil, err
	}
	return api.StrikeReading200JSONResponse(readingOf(b, row)), nil
}

func strikeReason(raw string) (string, error) {
	reason := strings.TrimSpace(raw)
	if n := len([]rune(reason)); n < 2 || n > 200 {
		return "", refuse("reason", "Say in 2 to 200 letters why it is struck out; it stays on record with that.")
	}
	return reason, nil
}
