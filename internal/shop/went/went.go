package went

import (
	"context"
	"math"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/price"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/store"
)

// TimeSaid is how long some work took, as somebody said.
type TimeSaid = store.TimeSaid

// CarWent is how the work on a car went against how it was planned and promised.
type CarWent struct {
	*panel.Car
	Now     time.Time
	Promise *offers.Promise
	Due     *time.Time // what was promised on its own
	Lines   []WentLine
	Went    price.Went
	Labour  float64       // money, of what is done, by the rates of who did it
	Used    float64       // money, of what was used up
	Film    film.Estimate // most that passes took of a section, µm
	FilmOf  string        // its panel
	AtMark  float64       // µm that went there at the mark that took most, beside that
	Planned float64       // most that a plan takes, µm
	Ready   time.Time     // when it was ready, or will be by the week's plan; zero where that is not known
	IsReady bool
	ToTake  []UsedUp // off the shelf
	usual   float64  // money an hour
	tape    float64  // m that masking takes
	taped   float64  // share of it that is up
	tapeFor float64  // money of all of it
}

// UsedUp is how much of a thing of the shelf a car has used that was not taken off it yet.
type UsedUp struct {
	week.StockLine
	Used float64
}

// WentLine is work of one kind on a car: around the passes, or a step with one grit or
// compound over all panels.
type WentLine struct {
	What  string // names it
	Kind  schedule.Kind
	Title string // grit or compound; empty around the passes
	Of    offers.Paced
	price.Piece
	Went    price.Went
	Said    *TimeSaid // counts instead of the clock
	Clocked int       // passes that the clock saw
	Who     []string  // who made its passes
	Steps   *WentStep // nil around the passes

	labour map[string]float64 // planned minutes of what is done, by person
	base   float64            // minutes of what is done that follow the pace, at a pace of 1
	once   float64            // and that do not
}

// WentStep is what the passes of a step took, beside time.
type WentStep struct {
	PassesPlanned, PassesMade float64 // over the area of the panels that it is for
	FilmPlanned               float64 // crest film, µm
	Film                      film.Estimate
	Item                      string
	Unit                      week.StockUnit
	UsedPlanned, Used         float64
	Price                     float64 // of one piece, or of an ml with the wear of its pad

	area, made float64  // mm² that it is for, and on which passes were made
	on         []string // those sections
}

// Went of a car: what was promised and planned against what happened.
func (s *Service) Went(ctx context.Context, carID string) (*CarWent, error) {
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	out, err := s.wentOf(ctx, c)
	if err != nil {
		return nil, err
	}
	promises, err := s.Store.Promises(ctx, carID)
	if err != nil {
		return nil, err
	}
	if len(promises) > 0 {
		out.Promise = &promises[len(promises)-1]
	}
	row, err := s.Store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if out.Due = row.DueAt; out.Due == nil && out.Promise != nil {
		out.Due = out.Promise.ReadyAt
	}
	if err := s.wentReady(ctx, out); err != nil {
		return nil, err
	}
	if err := s.wentCost(ctx, out); err != nil {
		return nil, err
	}
	return out, s.wentUsed(ctx, out)
}

// wentOf sets out the work on a car line by line.
func (s *Service) wentOf(ctx context.Context, c *panel.Car) (*CarWent, error) {
	out := &CarWent{Car: c, Now: s.Now()}
	ticked, choices, err := s.WorkFacts(ctx, c)
	if err != nil {
		return nil, err
	}
	panels := c.Wanted()
	whole, _, err := cars.Work(c, cars.FromTheStart, panels, nil, choices.Sealed, out.Now)
	if err != nil {
		return nil, err
	}
	left, _, err := cars.Work(c, cars.LeftToDo, panels, ticked, choices.Sealed, out.Now)
	if err != nil {
		return nil, err
	}
	if choices.SealedAt != nil {
		left.Coat = 0
	}
	if c.HandedOverAt != nil {
		left.HandOver = 0
	}
	for _, p := range whole.Panels {
		out.tape += p.Tape
	}
	if out.Lines, err = wentLines(c, panels, whole, left); err != nil {
		return nil, err
	}
	said, err := s.Store.TimesSaid(ctx, c.ID)
	if err != nil {
		return nil, err
	}
	var pieces []price.Piece
	for i := range out.Lines {
		l := &out.Lines[i]
		if l.Said = panel.FirstOf(said, func(t TimeSaid) bool { return t.What == l.What }); l.Said != nil {
			if l.Steps == nil {
				l.Done = math.Max(l.Done, math.Min(1, l.Said.OfMin/l.Planned))
			}
			l.Seen, l.SeenOf = l.Said.Minutes, math.Min(l.Said.OfMin, l.Planned*l.Done)
		}
		pieces = append(pieces, l.Piece)
	}
	var each []price.Went
	out.Went, each = price.WentOf(pieces)
	for i := range out.Lines {
		out.Lines[i].Went = each[i]
	}
	out.films(panels)
	return out, nil
}

// wentLines are the lines of a car in the order of work: whole is all of it, left what is not
// done yet.
func wentLines(c *panel.Car, panels []*panel.Panel, whole, left schedule.CarWork) ([]WentLine, error) {
	var out []WentLine
	around := func(kind schedule.Kind, all, open float64) {
		if all <= 0 {
			return
		}
		of := offers.PacedAround
		if kind == schedule.Runs || kind == schedule.Nibs {
			of = offers.PacedByHand
		}
		out = append(out, WentLine{What: string(kind), Kind: kind, Of: of, Piece: price.Piece{Group: string(of), Planned: all, Done: 1 - math.Min(open/all, 1)}})
	}
	over := func(w schedule.CarWork, of func(schedule.PanelWork) float64) float64 {
		sum := 0.0
		for _, p := range w.Panels {
			sum += of(p)
		}
		return sum
	}
	both := func(kind schedule.Kind, of func(schedule.PanelWork) float64) {
		around(kind, over(whole, of), over(left, of))
	}
	around(schedule.Wash, whole.Wash, left.Wash)
	around(schedule.Strip, whole.Strip, left.Strip)
	around(schedule.Look, whole.Look, left.Look)
	both(schedule.Read, func(p schedule.PanelWork) float64 { return p.Read })
	around(schedule.Plan, whole.Plan, left.Plan)
	both(schedule.Mask, func(p schedule.PanelWork) float64 { return p.Mask })
	both(schedule.Runs, func(p schedule.PanelWork) float64 { return p.Runs })
	both(schedule.Nibs, func(p schedule.PanelWork) float64 { return p.Nibs })
	var steps []WentLine
	for i, p := range panels {
		if err := wentSteps(p, whole.Panels[i], &steps); err != nil {
			return nil, err
		}
	}
	for i := range steps {
		steps[i].finish()
	}
	slices.SortStableFunc(steps, func(a, b WentLine) int {
		return slices.Index(schedule.Kinds, a.Kind) - slices.Index(schedule.Kinds, b.Kind)
	})
	out = append(out, steps...)
	both(schedule.Clean, func(p schedule.PanelWork) float64 { return p.Clean })
	both(schedule.Wipe, func(p schedule.PanelWork) float64 { return p.Wipe })
	both(schedule.Check, func(p schedule.PanelWork) float64 { return p.Check })
	around(schedule.Coat, float64(whole.Coats)*whole.Coat, float64(left.Coats)*left.Coat)
	around(schedule.HandOver, whole.HandOver, left.HandOver)
	return out, nil
}

// films finds the section that gave most.
func (w *CarWent) films(panels []*panel.Panel) {
	for _, p := range panels {
		if l := p.Ladder(); l != nil {
			w.Planned = math.Max(w.Planned, l.Film)
		}
		for _, sec := range p.Sections {
			e, marks := proof.SpentOn(p, sec.Key), p.Spotted(sec.Key)
			if e.Mean -= marks; e.Mean > w.Film.Mean {
				w.Film, w.FilmOf, w.AtMark = e, p.Name, marks
			}
		}
	}
}
