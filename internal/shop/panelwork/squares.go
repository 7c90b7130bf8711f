package panelwork

import (
	"context"
	"math"
	"slices"
	"time"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// NewSquare is what was seen on a taped square that was polished with a sequence, half of it
// left: the share of the swirls that is still there (0 to 1), by eye or by what a meter reads
// as clarity (0 to 100) on the half that was left and on the polished one, and with which pass
// of the first step cloth, water and look stopped changing; nil where nobody said.
type NewSquare struct {
	ID, Ladder, Person          string
	Left                        *float64
	ClarityBefore, ClarityAfter *float64
	OffAfter                    *int
}

// Square is what was seen on one, with what it comes to.
type Square struct {
	ID, Person string
	At         time.Time
	Removed    float64  // µm, by the model
	Left       *float64 // share of the swirls, nil where nobody looked
	ByMeter    bool
	Off        *float64 // µm, about the depth of the dead layer; nil where nobody said
	Struck     *facts.Struck
}

// What a square tells of other panels of the same car is less sure by panelSpread; whoever
// says with which pass the cloth stopped changing is off by offSpread (judgement; both of the
// logarithm). A meter reads a place again within meterNoise, and reads less than meterFull
// where there are swirls (judgement).
const (
	panelSpread = 0.3
	offSpread   = 0.15
	mostOff     = 30 // passes
	meterNoise  = 1.0
	meterFull   = 97.0
	clearest    = 100.0
)

func (in NewSquare) check() error {
	meter := in.ClarityBefore != nil && in.ClarityAfter != nil
	switch {
	case in.Left == nil && in.OffAfter == nil && !meter:
		return refuse.Because(refuse.NothingSeen, "left")
	case in.Left != nil && !(*in.Left >= 0 && *in.Left <= 1):
		return refuse.Because(refuse.BadLeft, "left")
	case meter && !(*in.ClarityBefore <= meterFull):
		return refuse.Because(refuse.ClearAlready, "clarity_before", *in.ClarityBefore)
	case meter && *in.ClarityAfter < *in.ClarityBefore:
		return refuse.Because(refuse.LessClear, "clarity_after", *in.ClarityBefore, *in.ClarityAfter)
	case in.OffAfter != nil && (*in.OffAfter < 1 || *in.OffAfter > mostOff):
		return refuse.Because(refuse.BadOff, "off_after", mostOff)
	}
	return nil
}

// seen puts the share that is left, by eye or by meter, into the row of a square.
func (in NewSquare) seen(row *store.Square) {
	row.LeftShare = in.Left
	if in.ClarityBefore != nil && in.ClarityAfter != nil {
		left := (clearest - *in.ClarityAfter) / (clearest - *in.ClarityBefore)
		row.LeftShare, row.ClarityBefore, row.ClarityAfter = &left, in.ClarityBefore, in.ClarityAfter
	}
}

// sureness is the standard deviation of the share that a square shows.
func sureness(q store.Square) float64 {
	if q.ClarityBefore == nil {
		return surface.EyeShare
	}
	return math.Max(meterNoise*math.Sqrt2/(clearest-*q.ClarityBefore), surface.EyeShare)
}

// Squares of a panel, struck ones too.
func (s *Service) Squares(ctx context.Context, p *panel.Panel) ([]Square, error) {
	rows, err := s.Store.Squares(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	var out []Square
	for _, q := range rows {
		one := Square{ID: q.ID, Person: q.Person, At: q.At, Removed: q.RemovedUM, Left: q.LeftShare, ByMeter: q.ClarityBefore != nil, Struck: facts.StruckOf(q.StruckAt, q.StruckReason)}
		if q.OffLowUM != nil && q.OffHighUM != nil {
			mid := (*q.OffLowUM + *q.OffHighUM) / 2
			one.Off = &mid
		}
		out = append(out, one)
	}
	return out, nil
}

// AddSquare keeps what was seen on a square. It teaches its panel, and those of the car that
// were said to look alike and have the same paint as long as they have no square of their
// own.
func (s *Service) AddSquare(ctx context.Context, panelID string, in NewSquare) (*panel.Panel, error) {
	if err := house.CheckID(in.ID, house.OfTry); err != nil {
		return nil, err
	}
	var err error
	if in.Person, err = house.PersonName(in.Person); err != nil {
		return nil, err
	}
	if err := in.check(); err != nil {
		return nil, err
	}
	if err := s.AsJudged(func() error { return s.addSquare(ctx, panelID, in) }); err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

func (s *Service) addSquare(ctx context.Context, panelID string, in NewSquare) error {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	if !p.Condition.Depths().Said() {
		return refuse.Conflicting(refuse.NothingToTeach, p.Name)
	}
	if p.Aim != plan.PolishOnly {
		return refuse.Conflicting(refuse.SquareNeedsPolish, p.Name)
	}
	l, choices, err := p.WorkCode(in.Ladder)
	if err != nil {
		return err
	}
	row := store.Square{ID: in.ID, PanelID: p.ID, Person: in.Person, At: s.Now()}
	in.seen(&row)
	own, err := s.Store.Squares(ctx, p.ID)
	if err != nil {
		return err
	}
	if in.OffAfter != nil {
		j := p.Options.Job
		j.Condition.Dead.Median = math.Inf(1) // as dead paint cuts
		low, high := j.Takes(0, l.Steps[0].Rate, *in.OffAfter-1), j.Takes(0, l.Steps[0].Rate, *in.OffAfter)
		row.OffLowUM, row.OffHighUM = &low, &high
		// Whoever says so went on with the first step until then.
		choices[0].Passes = max(choices[0].Passes, *in.OffAfter)
		dead, err := deadBy(p.Condition, append(own, row))
		if err != nil {
			return err
		}
		if j.Condition.Dead.Median = 0; dead.Median > 0 {
			j.Condition.Dead = dead
		}
		if l, err = j.Work(choices); err != nil {
			return err
		}
	}
	row.Ladder, row.RemovedUM = plan.Code(choices), l.Steps[len(l.Steps)-1].Removed
	teaches, err := s.teaches(ctx, p, append(own, row))
	if err != nil {
		return err
	}
	dead := teaches[p.ID].DeadUM
	if sec, _, ok := p.Decides(); ok && dead > sec.Least.Estimate().Mean {
		return refuse.Because(refuse.DeadTooThick, "off_after", refuse.Film(dead), refuse.Film(sec.Least.Estimate().Mean))
	}
	return s.Store.AddSquare(ctx, &row, p.RowsAt, teaches)
}

// StrikeSquare takes back what was seen on a square, and what it taught.
func (s *Service) StrikeSquare(ctx context.Context, id, reason string) error {
	q, err := s.Store.Square(ctx, id)
	if err != nil {
		return err
	}
	if reason, err = house.StrikeReason(reason); err != nil {
		return err
	}
	return s.AsJudged(func() error {
		p, err := s.Panel(ctx, q.PanelID)
		if err != nil {
			return err
		}
		rest, err := s.Store.Squares(ctx, p.ID)
		if err != nil {
			return err
		}
		rest = slices.DeleteFunc(rest, func(o store.Square) bool { return o.ID == id })
		teaches, err := s.teaches(ctx, p, rest)
		if err != nil {
			return err
		}
		return s.Store.StrikeSquare(ctx, q, reason, s.Now(), p.RowsAt, teaches)
	})
}

// teaches is what the squares of a panel teach, by the ids of the panels that it holds for.
func (s *Service) teaches(ctx context.Context, p *panel.Panel, squares []store.Square) (map[string]store.Learned, error) {
	taught, err := taughtBy(p.Condition, squares)
	if err != nil {
		return nil, err
	}
	out := map[string]store.Learned{p.ID: taught}
	car, err := s.Store.Car(ctx, p.Car.ID)
	if err != nil {
		return nil, err
	}
	less := taught
	if less.SwirlsUM > 0 {
		less.SwirlsSpread = math.Hypot(less.SwirlsSpread, panelSpread)
	}
	if less.DeadUM > 0 {
		less.DeadSpread = math.Hypot(less.DeadSpread, panelSpread)
	}
	for _, o := range car.Panels {
		k := facts.PanelOf(o)
		if o.ID == p.ID || k.Origin != p.Origin || k.Layers != p.Layers || k.Condition.Swirls != p.Condition.Swirls || k.Condition.Dead != p.Condition.Dead {
			continue
		}
		own, err := s.Store.Squares(ctx, o.ID)
		if err != nil {
			return nil, err
		}
		if !slices.ContainsFunc(own, func(q store.Square) bool { return q.StruckAt == nil }) {
			out[o.ID] = less
		}
	}
	return out, nil
}

// deadBy is the dead layer of a condition that was said, as squares teach it; struck ones
// teach nothing.
func deadBy(c facts.Condition, squares []store.Square) (surface.Depth, error) {
	dead := facts.DeadOf(c.Dead)
	for _, q := range squares {
		if q.StruckAt != nil || q.OffLowUM == nil || q.OffHighUM == nil || dead.Median == 0 {
			continue
		}
		var err error
		if dead, err = dead.Between(*q.OffLowUM, *q.OffHighUM, offSpread); err != nil {
			return dead, refuse.Because(refuse.BadOff, "off_after", mostOff)
		}
	}
	return dead, nil
}

// taughtBy is what squares teach of a condition that was said.
func taughtBy(c facts.Condition, squares []store.Square) (store.Learned, error) {
	swirls := facts.SwirlsOf(c.Swirls)
	dead, err := deadBy(c, squares)
	if err != nil {
		return store.Learned{}, err
	}
	var seen []surface.Tried
	for _, q := range squares {
		if below := q.RemovedUM - dead.Median; q.StruckAt == nil && q.LeftShare != nil && below > 0 {
			seen = append(seen, surface.Tried{Removal: below, Left: *q.LeftShare, SD: sureness(q)})
		}
	}
	out := store.Learned{}
	if len(seen) > 0 && swirls.Median > 0 {
		l, err := swirls.Learned(seen...)
		if err != nil {
			return out, refuse.Because(refuse.BadLeft, "left")
		}
		out.SwirlsUM, out.SwirlsSpread = l.Median, l.Spread
	}
	if dead != facts.DeadOf(c.Dead) {
		out.DeadUM, out.DeadSpread = dead.Median, dead.Spread
	}
	return out, nil
}
