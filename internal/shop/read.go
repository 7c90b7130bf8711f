package shop

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"sync"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
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

// Place says what the map expects somewhere on the panel.
func (p *Panel) Place(q flatlay.Point) Place {
	out := Place{At: q, Section: p.sectionAt(q)}
	if p.Study == nil {
		return out
	}
	total := p.Study.At(q.X, q.Y)
	clear := p.Study.ClearAt(q, total)
	out.Total, out.Clear, out.Below = &total, &clear, p.Study.BelowAt(q, total)
	return out
}

// PlaceOf is what the map of a panel expects at a place chosen by hand.
func (s *Shop) PlaceOf(ctx context.Context, panelID string, q flatlay.Point) (Place, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return Place{}, err
	}
	if err := checkPlace(p.Shape, q); err != nil {
		return Place{}, err
	}
	return p.Place(q), nil
}

// checkPlace refuses a place that is not on the paint.
func checkPlace(p flatlay.Panel, q flatlay.Point) error {
	w, h := p.Size()
	switch {
	case math.IsNaN(q.X) || math.IsNaN(q.Y) || math.IsInf(q.X, 0) || math.IsInf(q.Y, 0):
		return Refuse(PlaceNoNumber, "x_mm")
	case p.Inside(q):
		return nil
	case q.X < 0 || q.Y < 0 || q.X > w || q.Y > h:
		return Refuse(PlaceOutside, "x_mm", Length(q.X), Length(q.Y), p.Name, Length(w), Length(h))
	case p.HoleAt(q) != "":
		return Refuse(PlaceInHole, "x_mm", Length(q.X), Length(q.Y), p.HoleAt(q), p.Name)
	}
	return Refuse(PlaceBeside, "x_mm", Length(q.X), Length(q.Y), p.Name)
}

// nextCount is how many places for the probe are proposed at a time.
const nextCount = 3

// next proposes the next places for the probe.
func (p *Panel) next() []Place {
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
	for _, q := range append(p.Disputed(), film.NextSpots(p.ground, p.ground.Cells, known, need, read, nextCount)...) {
		out = append(out, p.Place(q))
	}
	return out
}

// Disputed are places where a third reading is asked for.
func (p *Panel) Disputed() []flatlay.Point {
	if p.Study == nil || p.Worked() {
		return nil
	}
	return p.Study.Disputed
}

// Odd says whether a reading that is kept does not fit the others.
func (p *Panel) Odd(r Reading) (film.Odd, bool) {
	if p.Study == nil || r.Struck != nil || r.Sure != "" || r.Phase != Total || r.worked() {
		return film.Odd{}, false
	}
	return p.Study.OddAt(r.At, r.Film, true)
}

// lastGauge is the gauge of the latest reading, or the shop's.
func (p *Panel) lastGauge() string {
	if n := len(p.Readings); n > 0 {
		return gaugeID(p.Readings[n-1])
	}
	return store.ShopGauge
}

// Ahead is what more readings may change of the section that they change most, by name,
// and what could be found out besides about the one that decides, where that is not open.
type Ahead struct {
	Best    film.Ahead
	Section string
	Rounds  int // of readings that were asked for already
	Helps   []film.Help
	HelpsAt string
	Floor   float64 // µm
}

// ahead is what more readings may change, worked out once.
func (p *Panel) ahead() (Ahead, error) {
	p.asked.ahead.Do(func() { p.asked.readings, p.asked.noAhead = p.lookAhead() })
	return p.asked.readings, p.asked.noAhead
}

// lookAhead looks at all sections, side by side.
func (p *Panel) lookAhead() (Ahead, error) {
	if p.Worked() || p.borrowed != nil {
		return Ahead{}, nil
	}
	sections := p.Study.Sections
	looks := make([]film.Ahead, len(sections))
	spends := make([]float64, len(sections))
	for i, s := range sections {
		spends[i] = p.Standing(s).Spend
	}
	if err := sideBySide(len(sections), func(i int) { looks[i] = sections[i].Ahead(film.SpendDoubt(spends[i]), p.Aim.SpotsOnly()) }); err != nil {
		return Ahead{}, err
	}
	out := Ahead{Rounds: max(len(p.Live())-film.EnoughSpots, 0) / film.AheadAsk}
	for i, s := range sections {
		a := looks[i]
		if a.Settle > 0 && (out.Best.Settle == 0 || a.Settle < out.Best.Settle) {
			out.Best, out.Section = a, s.Name
		}
	}
	if s, st, ok := p.Decides(); ok && st.State != film.Open {
		out.HelpsAt, out.Floor = s.Name, s.Policy.Floor
		for _, h := range p.helps(p.sectionFilm(s), film.SpendDoubt(st.Spend)) {
			if h.Fits >= faintHelp {
				out.Helps = append(out.Helps, h)
			}
		}
	}
	return out, nil
}

// Read is the film of a panel and where to read next.
type Read struct {
	*Panel
	Policy  film.Policy
	Next    []Place
	Gauge   *Gauge // that it was last read with
	Flags   []film.Flag
	Ahead   Ahead
	Factory float64 // level of the car's factory panels, µm; 0 where none was read
	Bands   film.Bands
}

// Read is the film of a panel and where to read next.
func (s *Shop) Read(ctx context.Context, panelID string) (*Read, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	out := &Read{Panel: p, Policy: p.History().Policy()}
	g, err := s.store.Gauge(ctx, p.lastGauge())
	if err != nil && !errors.Is(err, store.ErrMissing) {
		return nil, err
	}
	if err == nil {
		if out.Gauge, err = s.gauge(ctx, g); err != nil {
			return nil, err
		}
	}
	out.Next = p.next()
	if p.Study == nil {
		return out, nil
	}
	if out.Ahead, err = p.ahead(); err != nil {
		return nil, err
	}
	if out.Factory, err = s.factoryLevel(ctx, p); err != nil {
		return nil, err
	}
	out.Bands = film.BandsOf(out.Factory)
	out.Flags = p.flags(out.Factory)
	return out, nil
}

// flags are what the readings show about the past of a panel that was read; factory is the film
// of the car's factory panels, µm.
func (p *Panel) flags(factory float64) []film.Flag {
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

func panicked(cause any) error { return fmt.Errorf("panic: %v", cause) }

// sideBySide does n things side by side. A panic in one of them is an error, so that it
// ends the request and not the program.
func sideBySide(n int, do func(i int)) error {
	errs := make([]error, n)
	var all sync.WaitGroup
	for i := range n {
		all.Go(func() {
			defer func() {
				if cause := recover(); cause != nil {
					errs[i] = panicked(cause)
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
func (p *Panel) helps(sec film.SectionFilm, spend film.Spend) []film.Help {
	return slices.DeleteFunc(p.Study.Helps(sec, spend, p.Aim.SpotsOnly()), func(h film.Help) bool {
		return p.Substrate == Plastic && (h.Code == film.HelpBare || h.Code == film.HelpWitness)
	})
}
