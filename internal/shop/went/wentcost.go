package went

import (
	"context"
	"math"
	"time"

	"waxplanus/core/price"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/shop/week"
)

// wentReady says when the car was ready, or will be.
func (s *Service) wentReady(ctx context.Context, w *CarWent) error {
	if w.HandedOverAt != nil {
		w.Ready, w.IsReady = *w.HandedOverAt, true
		return nil
	}
	open := false
	for _, p := range w.Wanted() {
		if p.Outline().Kept && p.Kept != nil {
			if p.Kept.At.After(w.Ready) {
				w.Ready = p.Kept.At
			}
		} else {
			open = true
		}
	}
	if w.IsReady = !open && !w.Ready.IsZero(); w.IsReady {
		return nil
	}
	w.Ready = time.Time{}
	planned, err := s.Week(ctx, false)
	if err != nil {
		return err
	}
	if c := panel.FirstOf(planned.Cars, func(c week.WeekCar) bool { return c.ID == w.ID }); c != nil {
		w.Ready = c.Done
	}
	return nil
}

// wentCost says what the work that is done has cost the shop: hours by the rates of who did
// them, and what was used up.
func (s *Service) wentCost(ctx context.Context, w *CarWent) error {
	workshop, err := s.Workshop(ctx)
	if err != nil {
		return err
	}
	people, err := s.Workers(ctx, workshop)
	if err != nil {
		return err
	}
	w.usual = workshop.Rates.Labour
	rate := func(name string) float64 {
		if p := panel.FirstOf(people, func(p house.Worker) bool { return p.Name == name }); p != nil && p.Rate > 0 {
			return p.Rate
		}
		return workshop.Rates.Labour
	}
	for _, l := range w.Lines {
		of, all := 0.0, 0.0
		for name, minutes := range l.labour {
			of, all = of+minutes*rate(name), all+minutes
		}
		switch {
		case l.Said != nil:
			w.Labour += l.Went.Took.Likely * rate(l.Said.Person)
		case all > 0:
			w.Labour += l.Went.Took.Likely * of / all
		default:
			w.Labour += l.Went.Took.Likely * workshop.Rates.Labour
		}
		if l.Steps != nil {
			w.Used += l.Steps.Used * l.Steps.Price
		}
		if l.Kind == schedule.Mask {
			w.taped = l.Done
		}
	}
	if panels := w.Wanted(); len(panels) > 0 {
		w.tapeFor = w.tape * panels[0].House.Shelf.Law.Tape
	}
	w.Used += w.taped * w.tapeFor
	return nil
}

// Promised are the hours that were promised, with those of what was done before that.
func (w *CarWent) Promised() price.Hours {
	p := w.Promise
	return price.Hours{Low: p.HoursLow + p.DoneH, Likely: p.Hours + p.DoneH, High: p.HoursHigh + p.DoneH}
}

// HoursAgainst holds the hours that the car will have taken against those that were promised;
// false without a promise.
func (w *CarWent) HoursAgainst() (price.Against, bool) {
	if w.Promise == nil {
		return "", false
	}
	return w.Went.End.Against(w.Promised()), true
}

// FilmAgainst holds the most film that went of a section against what was promised, with a
// doubt of one standard deviation; false without a promise, or while it is less and work is
// left.
func (w *CarWent) FilmAgainst() (price.Against, bool) {
	if w.Promise == nil {
		return "", false
	}
	over := w.Film.Mean - w.Promise.FilmUM
	switch {
	case over > 2*w.Film.SD:
		return price.MoreSure, true
	case over > w.Film.SD:
		return price.More, true
	case over > -w.Film.SD:
		return price.Within, true
	case !w.IsReady:
		return "", false
	case over > -2*w.Film.SD:
		return price.Less, true
	}
	return price.LessSure, true
}

// onTime is how much later than promised still counts as kept.
const onTime = time.Hour

// ReadyAgainst holds when the car is ready against what was promised; false where one of them
// is not known.
func (w *CarWent) ReadyAgainst() (price.Against, bool) {
	switch {
	case w.Due == nil || w.Ready.IsZero():
		return "", false
	case !w.Ready.After(w.Due.Add(onTime)):
		return price.Within, true
	case w.IsReady:
		return price.MoreSure, true
	}
	return price.More, true
}

// CostAtEnd is what the work will have cost when all of it is done, in money, without what was
// done before the promise: what is left at the usual rate, and used up as planned.
func (w *CarWent) CostAtEnd() float64 {
	out := w.Labour + w.Used + (1-w.taped)*w.tapeFor + w.Went.Left.Likely*w.usual
	if w.Promise != nil {
		out -= w.Promise.DoneH * w.usual
	}
	for _, l := range w.Lines {
		if l.Steps != nil {
			out += math.Max(0, l.Steps.UsedPlanned*(1-l.Done)) * l.Steps.Price
		}
	}
	return out
}

// CostAgainst holds that against the price; false without a promise.
func (w *CarWent) CostAgainst() (price.Against, bool) {
	switch {
	case w.Promise == nil:
		return "", false
	case w.CostAtEnd() <= w.Promise.Price:
		return price.Within, true
	case w.Labour+w.Used > w.Promise.Price:
		return price.MoreSure, true
	}
	return price.More, true
}

// Most is the line that has taken most more than planned, with by how many hours; nil where
// none was seen to.
func (w *CarWent) Most() (*WentLine, float64) {
	var out *WentLine
	most := 0.1
	for i := range w.Lines {
		l := &w.Lines[i]
		if over := l.Went.Took.Likely - l.Went.Done; l.Seen > 0 && over > most {
			out, most = l, over
		}
	}
	return out, most
}

// longestSaid is the most that some work may have taken, min.
const longestSaid = 6000.0

// SayTime keeps how long some work on a car took, in place of what was said of it before; no
// minutes take that back.
func (s *Service) SayTime(ctx context.Context, carID, what string, minutes float64, person string) (*CarWent, error) {
	person, err := house.PersonName(person)
	if err != nil {
		return nil, err
	}
	if !(minutes >= 0 && minutes <= longestSaid) {
		return nil, refuse.Because(refuse.BadMinutes, "minutes", longestSaid)
	}
	w, err := s.Went(ctx, carID)
	if err != nil {
		return nil, err
	}
	l := panel.FirstOf(w.Lines, func(l WentLine) bool { return l.What == what })
	switch {
	case l == nil:
		return nil, refuse.Because(refuse.NoWork, "what", what)
	case w.HandedOverAt != nil:
		return nil, refuse.Conflicting(refuse.ClosedAlready, w.Name)
	case minutes > 0 && l.Steps != nil && l.Done == 0:
		return nil, refuse.Conflicting(refuse.NotBegun, l.Title)
	}
	if l.Done == 0 {
		l.Done = 1 // who says how long it took has done it
	}
	t := TimeSaid{CarID: carID, What: what, Minutes: minutes, OfMin: l.Planned * l.Done, Paced: string(l.Of), BaseMin: l.base, TookMin: math.Max(0, minutes-l.once), Person: person, At: s.Now()}
	if l.Steps == nil {
		if t.BaseMin, t.TookMin = t.OfMin, minutes; l.Of == offers.PacedAround {
			t.BaseMin /= w.Wanted()[0].House.Shelf.Law.PaceAround
		}
	}
	if err := s.Store.SayTime(ctx, t); err != nil {
		return nil, err
	}
	return s.Went(ctx, carID)
}
