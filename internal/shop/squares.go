package shop

import (
	"context"
	"math"
	"slices"
	"time"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
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
	Struck     *Struck
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
		return Refuse(NothingSeen, "left")
	case in.Left != nil && !(*in.Left >= 0 && *in.Left <= 1):
		return Refuse(BadLeft, "left")
	case meter && !(*in.ClarityBefore <= meterFull):
		return Refuse(ClearAlready, "clarity_before", *in.ClarityBefore)
	case meter && *in.ClarityAfter < *in.ClarityBefore:
		return Refuse(LessClear, "clarity_after", *in.ClarityBefore, *in.ClarityAfter)
	case in.OffAfter != nil && (*in.OffAfter < 1 || *in.OffAfter > mostOff):
		return Refuse(BadOff, "off_after", mostOff)
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
func (s *Shop) Squares(ctx context.Context, p *Panel) ([]Square, error) {
	rows, err := s.store.Squares(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	var out []Square
	for _, q := range rows {
		one := Square{ID: q.ID, Person: q.Person, At: q.At, Removed: q.RemovedUM, Left: q.LeftShare, ByMeter: q.ClarityBefore != nil, Struck: struckOf(q.StruckAt, q.StruckReason)}
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
func (s *Shop) AddSquare(ctx context.Context, panelID string, in NewSquare) (*Panel, error) {
	if err := checkID(in.ID, OfTry); err != nil {
		return nil, err
	}
	var err error
	if in.Person, err = personName(in.Person); err != nil {
		return nil, err
	}
	if err := in.check(); err != nil {
		return nil, err
	}
	if err := s.asJudged(func() error { return s.addSquare(ctx, panelID, in) }); err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

func (s *Shop) addSquare(ctx context.Context, panelID string, in NewSquare) error {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	if !p.Condition.Depths().Said() {
		return conflict(NothingToTeach, p.Name)
	}
	if p.Aim != plan.PolishOnly {
		return conflict(SquareNeedsPolish, p.Name)
	}
	l, choices, err := p.WorkCode(in.Ladder)
	if err != nil {
		return err
	}
	row := store.Square{ID: in.ID, PanelID: p.ID, Person: in.Person, At: s.now()}
	in.seen(&row)
	own, err := s.store.Squares(ctx, p.ID)
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
		dead, err := p.Condition.deadBy(append(own, row))
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
		return Refuse(DeadTooThick, "off_after", Film(dead), Film(sec.Least.Estimate().Mean))
	}
	return s.store.AddSquare(ctx, &row, p.version, teaches)
}

// StrikeSquare takes back what was seen on a square, and what it taught.
func (s *Shop) StrikeSquare(ctx context.Context, id, reason string) error {
	q, err := s.store.Square(ctx, id)
	if err != nil {
		return err
	}
	if reason, err = strikeReason(reason); err != nil {
		return err
	}
	return s.asJudged(func() error {
		p, err := s.Panel(ctx, q.PanelID)
		if err != nil {
			return err
		}
		rest, err := s.store.Squares(ctx, p.ID)
		if err != nil {
			return err
		}
		rest = slices.DeleteFunc(rest, func(o store.Square) bool { return o.ID == id })
		teaches, err := s.teaches(ctx, p, rest)
		if err != nil {
			return err
		}
		return s.store.StrikeSquare(ctx, q, reason, s.now(), p.version, teaches)
	})
}

// teaches is what the squares of a panel teach, by the ids of the panels that it holds for.
func (s *Shop) teaches(ctx context.Context, p *Panel, squares []store.Square) (map[string]store.Learned, error) {
	taught, err := p.Condition.taughtBy(squares)
	if err != nil {
		return nil, err
	}
	out := map[string]store.Learned{p.ID: taught}
	car, err := s.store.Car(ctx, p.Car.ID)
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
		k := knownOf(o)
		if o.ID == p.ID || k.Origin != p.Origin || k.Layers != p.Layers || k.Condition.Swirls != p.Condition.Swirls || k.Condition.Dead != p.Condition.Dead {
			continue
		}
		own, err := s.store.Squares(ctx, o.ID)
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
func (c Condition) deadBy(squares []store.Square) (surface.Depth, error) {
	dead := DeadOf(c.Dead)
	for _, q := range squares {
		if q.StruckAt != nil || q.OffLowUM == nil || q.OffHighUM == nil || dead.Median == 0 {
			continue
		}
		var err error
		if dead, err = dead.Between(*q.OffLowUM, *q.OffHighUM, offSpread); err != nil {
			return dead, Refuse(BadOff, "off_after", mostOff)
		}
	}
	return dead, nil
}

// taughtBy is what squares teach of a condition that was said.
func (c Condition) taughtBy(squares []store.Square) (store.Learned, error) {
	swirls := SwirlsOf(c.Swirls)
	dead, err := c.deadBy(squares)
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
			return out, Refuse(BadLeft, "left")
		}
		out.SwirlsUM, out.SwirlsSpread = l.Median, l.Spread
	}
	if dead != DeadOf(c.Dead) {
		out.DeadUM, out.DeadSpread = dead.Median, dead.Spread
	}
	return out, nil
}
