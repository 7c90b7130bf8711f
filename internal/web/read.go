package web

import (
	"context"
	"fmt"
	"math"
	"sync"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// nextCount is how many places for the probe are proposed at a time.
const nextCount = 3

// GetRead is the film of a panel and where to read next.
func (s *Server) GetRead(ctx context.Context, r api.GetReadRequestObject) (api.GetReadResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	policy := film.PolicyFor(b.finish())
	out := api.Read{Panel: panelOf(b), Car: summary(b), Readings: []api.Reading{}, Sections: sectionsOf(b),
		FloorUm: policy.Floor, Risk: policy.Risk, EdgeFactor: film.Thin.Factor(0, math.Inf(1)), Next: []api.Place{}}
	for _, rd := range b.readings {
		view := readingOf(b, rd)
		if odd, is := b.oddOf(rd); is {
			view.Odd = ptr(oddText(rd.FilmUM, odd))
		}
		out.Readings = append(out.Readings, view)
	}
	if g, err := s.store.Gauge(ctx, b.lastGauge()); err == nil {
		v, err := s.gaugeView(ctx, g)
		if err != nil {
			return nil, err
		}
		out.Gauge = &v
	}
	out.Zones = ptr(zoneViews(b.zones))
	next, err := b.next()
	if err != nil {
		return nil, err
	}
	expected := film.Estimate{}
	for i, p := range next {
		out.Next = append(out.Next, placeOf(p))
		if i == 0 && p.total != nil {
			expected = *p.total
		}
	}
	out.Why = nextWhy(b, expected, enoughSpots-len(b.live()))
	if d := b.disputed(); len(d) > 0 {
		out.Why = fmt.Sprintf("Two readings at %.0f, %.0f mm differ more than the gauge does: read it a third time, and the middle one counts.", d[0].X, d[0].Y)
	}
	out.Strips = ptr(b.strips())
	if b.opened.Study != nil {
		if out.Study, err = s.studyOf(ctx, b); err != nil {
			return nil, err
		}
	}
	return api.GetRead200JSONResponse(out), nil
}

func (s *Server) studyOf(ctx context.Context, b *bench) (*api.Study, error) {
	st := b.opened.Study
	out := &api.Study{Map: filmMap(st.Grid), FilmUm: estimate(st.Mean), Flags: []string{}, Ahead: b.ahead(), Borrowed: b.lent != nil,
		Clear: api.Clear{Mean: st.Clear.Mean, Sd: st.Clear.SD, Agree: st.Clear.Agree, Sources: []api.ClearSource{}}}
	for i, src := range st.Clear.Sources {
		out.Clear.Sources = append(out.Clear.Sources, api.ClearSource{Kind: string(src.Kind), Mean: src.Mean, Sd: src.SD,
			Share: st.Clear.Shares[i], Text: sourceText(src, b.history()) + shareText(st.Clear, i)})
	}
	spend, what := b.wants()
	out.SpendFrom, out.SpendUm = what, api.Estimate{Mean: spend, Sd: plan.SharedSpread * spend}
	if b.ladder != nil {
		out.SpendFrom, out.SpendUm = "the plan of record", api.Estimate{Mean: b.ladder.Film, Sd: b.ladder.FilmSD}
	}
	v, err := s.look(ctx, b.car)
	if err != nil {
		return nil, err
	}
	var read []float64
	for _, r := range b.live() {
		read = append(read, r.FilmUM)
	}
	if st.Odd {
		out.Flags = append(out.Flags, flagText(film.Flag{Code: film.FlagOdd}))
	}
	factory := factoryLevel(v.all)
	for _, f := range film.Flags(read, factory) {
		out.Flags = append(out.Flags, flagText(f))
	}
	out.Map.RoomUm = ptr(hundredths(st.Rooms()))
	bands := film.BandsOf(factory)
	out.Bands = api.FilmBands{FactoryUm: factory, RefinishedUm: bands.Refinished, FillerUm: bands.Filler}
	return out, nil
}

// strips are the parts of a panel that are kept out of its sections. Once passes
// were made their film is not told: nobody counts passes there.
func (b *bench) strips() []api.PanelStrip {
	out := []api.PanelStrip{}
	if b.opened.Study == nil || b.worked() {
		return out
	}
	for _, s := range b.opened.Study.Strips {
		um, _ := b.wants()
		if b.ladder != nil {
			um = b.ladder.Film
		}
		st := b.opened.Standing(s, nil, um)
		out = append(out, api.PanelStrip{Key: s.Key, Name: stripNames[s.Key], FilmUm: estimate(st.Film), HeadroomUm: st.Headroom,
			State: api.State(st.State), Reason: stateReason(st, s.Policy.Floor)})
	}
	return out
}

var stripNames = map[string]string{film.StripCreases: "along creases", film.StripBorder: "taped edges"}

// place is somewhere on a panel with what the map expects there; total and
// clear are nil without a map.
type place struct {
	at           flatlay.Point
	section      string
	total, clear *film.Estimate
	below        float64
}

func (b *bench) place(q flatlay.Point) (place, error) {
	p := place{at: q, section: flatlay.SectionAt(b.sections, q)}
	if b.opened.Study == nil {
		return p, nil
	}
	total, err := b.opened.Study.At(q.X, q.Y)
	if err != nil {
		return p, err
	}
	clear := b.opened.Study.ClearAt(q, total)
	p.total, p.clear, p.below = &total, &clear, b.opened.Study.BelowAt(q, total)
	return p, nil
}

func placeOf(p place) api.Place {
	out := api.Place{XMm: p.at.X, YMm: p.at.Y, Section: &p.section}
	if p.total != nil {
		low, high := p.total.Range()
		out.TotalUm, out.ClearUm, out.BelowUm = ptr(estimate(*p.total)), ptr(estimate(*p.clear)), &p.below
		out.LowUm, out.HighUm = &low, &high
	}
	return out
}

// next proposes the next places for the probe on a panel that a gauge can read.
func (b *bench) next() ([]place, error) {
	if b.row.Substrate == "plastic" {
		return nil, nil
	}
	var read []flatlay.Point
	for _, r := range b.live() {
		read = append(read, flatlay.Point{X: r.XMM, Y: r.YMM})
	}
	cells, need := b.ground.Cells, 0.0
	var known []film.Estimate
	if b.opened.Study != nil {
		known, need = b.opened.Study.Film, b.opened.Study.Need()
	}
	var out []place
	for _, q := range append(b.disputed(), film.NextSpots(b.ground, cells, known, need, read, nextCount)...) {
		p, err := b.place(q)
		if err != nil {
			return nil, err
		}
		out = append(out, p)
	}
	return out, nil
}

// GetPlace is what the map expects at a place chosen by hand.
func (s *Server) GetPlace(ctx context.Context, r api.GetPlaceRequestObject) (api.GetPlaceResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	q := flatlay.Point{X: r.Params.XMm, Y: r.Params.YMm}
	if text := placeFault(b.shape, q); text != "" {
		return nil, refuse("x_mm", "%s", text)
	}
	p, err := b.place(q)
	if err != nil {
		return nil, err
	}
	return api.GetPlace200JSONResponse(placeOf(p)), nil
}

// placeFault says why a place cannot be read; "" for nothing.
func placeFault(p flatlay.Panel, q flatlay.Point) string {
	w, h := p.Size()
	switch {
	case math.IsNaN(q.X) || math.IsNaN(q.Y) || math.IsInf(q.X, 0) || math.IsInf(q.Y, 0):
		return "The place is no number: give x and y in mm from the panel's top left."
	case p.Inside(q):
		return ""
	case q.X < 0 || q.Y < 0 || q.X > w || q.Y > h:
		return fmt.Sprintf("%.0f, %.0f mm is outside the %s, which is %.0f mm wide and %.0f mm high.", q.X, q.Y, p.Name, w, h)
	case p.HoleAt(q) != "":
		return fmt.Sprintf("%.0f, %.0f mm is in the %s of the %s, not on its paint.", q.X, q.Y, p.HoleAt(q), p.Name)
	}
	return fmt.Sprintf("%.0f, %.0f mm is beside the %s: its outline does not fill its corner. Pick a place on the paint.", q.X, q.Y, p.Name)
}

// oddOf says whether a reading that is kept does not fit the others.
func (b *bench) oddOf(r store.Reading) (film.Odd, bool) {
	if b.opened.Study == nil || r.StruckAt != nil || r.Sure != "" || r.Phase != store.PhaseTotal || b.after(r) {
		return film.Odd{}, false
	}
	return b.opened.Study.OddAt(flatlay.Point{X: r.XMM, Y: r.YMM}, r.FilmUM, true)
}

// lastGauge is the gauge of the latest reading, or the shop's.
func (b *bench) lastGauge() string {
	if n := len(b.readings); n > 0 {
		return gaugeID(b.readings[n-1])
	}
	return store.ShopGauge
}

// disputed are places where a third reading is asked for.
func (b *bench) disputed() []flatlay.Point {
	if b.opened.Study == nil || b.worked() {
		return nil
	}
	return b.opened.Study.Disputed
}

// ahead says what more readings may change of the section that they change most.
func (b *bench) ahead() api.Ahead {
	if b.worked() || b.lent != nil {
		return api.Ahead{}
	}
	sections := b.opened.Study.Sections
	looks := make([]film.Ahead, len(sections))
	var wg sync.WaitGroup
	for i, s := range sections {
		spend := b.standing(s).Spend
		wg.Go(func() { looks[i] = s.Ahead(spend) })
	}
	wg.Wait()
	best, at, all := film.Ahead{}, "", 0
	helps := film.Ahead{}
	for i, s := range sections {
		a := looks[i]
		if a.Now != film.Open {
			all++
			if i == 0 || a.Clear > helps.Clear {
				helps = a
			}
		}
		if a.Settle > 0 && (best.Settle == 0 || a.Settle < best.Settle) {
			best, at = a, s.Name
		}
	}
	out := api.Ahead{Readings: best.Settle, Text: aheadText(best, at), Helps: helpsText(helps, all)}
	if at != "" {
		out.Section = &at
	}
	return out
}
