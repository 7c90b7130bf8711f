package marks

import (
	"time"

	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
)

// Panel is what the marks of one panel are judged by.
type Panel struct {
	Shape   flatlay.Panel
	History film.History
	Study   *film.Study  // nil before any reading
	Ladder  *plan.Ladder // the sequence that works the whole panel; nil where none does
	Aim     plan.Aim
	Colour  plan.Colour
	Spray   cure.Spray
	Climate cure.Climate
	Now     time.Time
}

// Site is the section that a mark lies in as it stands: Gone is the film that passes
// took there, Wanted what the ladder still wants (both µm), Begun whether passes were
// counted there, and Fits whether what is wanted fits. Key is empty off all sections.
type Site struct {
	Key    string
	Begun  bool
	Gone   film.Estimate
	Wanted float64
	Fits   bool
}

// Judge judges marks at their sites, all at once, and says what is known of the film
// at each.
func (p Panel) Judge(all []Mark, sites []Site) []Judged {
	places := p.places(all, sites)
	out := make([]Judged, len(all))
	for i, m := range all {
		out[i] = Judged{Mark: m, Place: places[i], Verdict: Judge(m, places[i], p.work(sites[i]))}
	}
	return out
}

func (p Panel) places(all []Mark, sites []Site) []Place {
	out := make([]Place, len(all))
	if p.Study == nil || len(all) == 0 {
		return out
	}
	spots := make([]film.Spot, len(all))
	for i, m := range all {
		spots[i] = film.SpotOf(p.Shape, m.X, m.Y)
	}
	totals := p.Study.Map.At(spots)
	for i, m := range all {
		at := flatlay.Point{X: m.X, Y: m.Y}
		out[i] = At(p.Study.PolicyAt(at), totals[i], p.Study.ClearAt(at, totals[i]), sites[i].Gone)
	}
	return out
}

// work is what is planned where a mark of a site lies.
func (p Panel) work(s Site) Work {
	w := Work{Aim: p.Aim, Colour: p.Colour, Spot: plan.SpotFinish(p.Colour), Spray: p.Spray, Climate: p.Climate, Now: p.Now}
	if p.Ladder != nil && p.Aim.Levels() {
		w.Levelled, w.PanelFilm = p.Ladder.Levelled(), p.Ladder.FilmOn(s.Key)
		if s.Begun { // what passes took is off the headroom already
			w.PanelFilm = s.Wanted
		}
	}
	switch {
	case p.Study != nil:
		w.Clear, w.Fits = p.Study.Clear.Mean, s.Fits
	case p.History.Finish == film.Refinished && p.History.Coats > 0:
		w.Clear = p.History.Ratio.Of(film.Coats(p.History.Coats, p.History.Coat)).Mean
	}
	return w
}
