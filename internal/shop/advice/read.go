package advice

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"sync"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Place is somewhere on a panel with what the map expects there, µm; Total and Clear are
// nil without a map.
type Place struct {
	At           flatlay.Point
	Section      string
	Total, Clear *film.Estimate
	Below        float64 // lower layers, µm
}

// PlaceAt says what the map expects somewhere on the panel.
func PlaceAt(p *panel.Panel, q flatlay.Point) Place {
	out := Place{At: q, Section: p.SectionAt(q)}
	if p.Study == nil {
		return out
	}
	total := p.Study.At(q.X, q.Y)
	clear := p.Study.ClearAt(q, total)
	out.Total, out.Clear, out.Below = &total, &clear, p.Study.BelowAt(q, total)
	return out
}

// PlaceOf is what the map of a panel expects at a place chosen by hand.
func (s *Service) PlaceOf(ctx context.Context, panelID string, q flatlay.Point) (Place, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return Place{}, err
	}
	if err := CheckPlace(p.Shape, q); err != nil {
		return Place{}, err
	}
	return PlaceAt(p, q), nil
}

// CheckPlace refuses a place that is not on the paint.
func CheckPlace(p flatlay.Panel, q flatlay.Point) error {
	w, h := p.Size()
	switch {
	case math.IsNaN(q.X) || math.IsNaN(q.Y) || math.IsInf(q.X, 0) || math.IsInf(q.Y, 0):
		return refuse.Because(refuse.PlaceNoNumber, "x_mm")
	case p.Inside(q):
		return nil
	case q.X < 0 || q.Y < 0 || q.X > w || q.Y > h:
		return refuse.Because(refuse.PlaceOutside, "x_mm", refuse.Length(q.X), refuse.Length(q.Y), p.Name, refuse.Length(w), refuse.Length(h))
	case p.HoleAt(q) != "":
		return refuse.Because(refuse.PlaceInHole, "x_mm", refuse.Length(q.X), refuse.Length(q.Y), p.HoleAt(q), p.Name)
	}
	return refuse.Because(refuse.PlaceBeside, "x_mm", refuse.Length(q.X), refuse.Length(q.Y), p.Name)
}

// nextCount is how many places for the probe are proposed at a time.
const nextCount = 3

// next proposes the next places for the probe.
func next(p *panel.Panel) []Place {
	var read []flatlay.Point
	for _, r := range p.Live() {
		read = append(read, r.At)
	}
	need := 0.0
	var known []film.Estimate
	if p.Study != nil {
		known, need = p.Study.Film, p.Study.Need()
	}
	var out []Place
	for _, q := range append(Disputed(p), film.NextSpots(p.Ground, p.Ground.Cells, known, need, read, nextCount)...) {
		out = append(out, PlaceAt(p, q))
	}
	return out
}

// Disputed are places where a third reading is asked for.
func Disputed(p *panel.Panel) []flatlay.Point {
	if p.Study == nil || p.Worked() {
		return nil
	}
	return p.Study.Disputed
}

// Odd says whether a reading that is kept does not fit the others.
func Odd(p *panel.Panel, r facts.Reading) (film.Odd, bool) {
	if p.Study == nil || r.Struck != nil || r.Sure != "" || r.Phase != facts.Total || r.Worked() {
		return film.Odd{}, false
	}
	return p.Study.OddAt(r.At, r.Film, true)
}

// lastGauge is the gauge of the latest reading, or the shop's.
func lastGauge(p *panel.Panel) string {
	if n := len(p.Readings); n > 0 {
		return panel.GaugeID(p.Readings[n-1])
	}
	return store.ShopGauge
}

// ahead is what more readings may change, worked out once.
func ahead(p *panel.Panel) (panel.Ahead, error) {
	p.Answers.Ahead.Do(func() { p.Answers.Readings, p.Answers.NoAhead = lookAhead(p) })
	return p.Answers.Readings, p.Answers.NoAhead
}

// lookAhead looks at all sections, side by side.
func lookAhead(p *panel.Panel) (panel.Ahead, error) {
	if p.Worked() || p.Borrowed != nil {
		return panel.Ahead{}, nil
	}
	sections := p.Study.Sections
	looks := make([]film.Ahead, len(sections))
	spends := make([]float64, len(sections))
	for i, s := range sections {
		spends[i] = p.Standing(s).Spend
	}
	if err := sideBySide(len(sections), func(i int) { looks[i] = sections[i].Ahead(film.SpendDoubt(spends[i]), p.Aim.SpotsOnly()) }); err != nil {
		return panel.Ahead{}, err
	}
	out := panel.Ahead{Rounds: max(len(p.Live())-film.EnoughSpots, 0) / film.AheadAsk}
	for i, s := range sections {
		a := looks[i]
		if a.Settle > 0 && (out.Best.Settle == 0 || a.Settle < out.Best.Settle) {
			out.Best, out.Section = a, s.Name
		}
	}
	if s, st, ok := p.Decides(); ok && st.State != film.Open {
		out.HelpsAt, out.Floor = s.Name, s.Policy.Floor
		for _, h := range helps(p, p.SectionFilm(s), film.SpendDoubt(st.Spend)) {
			if h.Fits >= faintHelp {
				out.Helps = append(out.Helps, h)
			}
		}
	}
	return out, nil
}

// Read is the film of a panel and where to read next.
type Read struct {
	*panel.Panel
	Policy  film.Policy
	Next    []Place
	Gauge   *house.Gauge // that it was last read with
	Flags   []film.Flag
	Ahead   panel.Ahead
	Factory float64 // level of the car's factory panels, µm; 0 where none was read
	Bands   film.Bands
}

// Read is the film of a panel and where to read next.
func (s *Service) Read(ctx context.Context, panelID string) (*Read, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	out := &Read{Panel: p, Policy: p.History().Policy()}
	g, err := s.Store.Gauge(ctx, lastGauge(p))
	if err != nil && !errors.Is(err, store.ErrMissing) {
		return nil, err
	}
	if err == nil {
		if out.Gauge, err = s.Gauge(ctx, g); err != nil {
			return nil, err
		}
	}
	out.Next = next(p)
	if p.Study == nil {
		return out, nil
	}
	if out.Ahead, err = ahead(p); err != nil {
		return nil, err
	}
	if out.Factory, err = s.FactoryLevel(ctx, p); err != nil {
		return nil, err
	}
	out.Bands = film.BandsOf(out.Factory)
	out.Flags = Flags(p, out.Factory)
	return out, nil
}

// Flags are what the readings show about the past of a panel that was read; factory is the film
// of the car's factory panels, µm.
func Flags(p *panel.Panel, factory float64) []film.Flag {
	var out []film.Flag
	var read []float64
	for _, r := range p.Live() {
		read = append(read, r.Film)
	}
	if p.Study.Odd {
		out = append(out, film.Flag{Code: film.FlagOdd})
	}
	out = append(out, p.History().Contradictions(p.Coats, p.Study.Map.Level().Mean)...)
	return append(out, film.Flags(read, factory)...)
}

func Panicked(cause any) error { return fmt.Errorf("panic: %v", cause) }

// sideBySide does n things side by side. A panic in one of them is an error, so that it
// ends the request and not the program.
func sideBySide(n int, do func(i int)) error {
	errs := make([]error, n)
	var all sync.WaitGroup
	for i := range n {
		all.Go(func() {
			defer func() {
				if cause := recover(); cause != nil {
					errs[i] = Panicked(cause)
				}
			}()
			do(i)
		})
	}
	all.Wait()
	return errors.Join(errs...)
}

// helps are what could be found out about the clear under a section: on plastic nothing that a
// magnetic or eddy-current gauge would have to read.
func helps(p *panel.Panel, sec film.SectionFilm, spend film.Spend) []film.Help {
	return slices.DeleteFunc(p.Study.Helps(sec, spend, p.Aim.SpotsOnly()), func(h film.Help) bool {
		return p.Substrate == facts.Plastic && (h.Code == film.HelpBare || h.Code == film.HelpWitness)
	})
}
