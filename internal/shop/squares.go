package shop

import (
	"context"
	"math"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/store"
)

// NewSquare is what was seen on a taped square that was polished with a sequence, half of it
// left: the share of the swirls that is still there (0 to 1), and with which pass of the
// first step cloth, water and look stopped changing; nil where nobody said.
type NewSquare struct {
	ID, Ladder, Person string
	Left               *float64
	OffAfter           *int
}

// What a square tells of other panels of the same car is less sure by panelSpread; whoever
// says with which pass the cloth stopped changing is off by offSpread (judgement; both of the
// logarithm).
const (
	panelSpread = 0.3
	offSpread   = 0.15
	mostOff     = 30 // passes
)

func (in NewSquare) check() error {
	switch {
	case in.Left == nil && in.OffAfter == nil:
		return Refuse(NothingSeen, "left")
	case in.Left != nil && !(*in.Left >= 0 && *in.Left <= 1):
		return Refuse(BadLeft, "left")
	case in.OffAfter != nil && (*in.OffAfter < 1 || *in.OffAfter > mostOff):
		return Refuse(BadOff, "off_after", mostOff)
	}
	return nil
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
	row := store.Square{ID: in.ID, PanelID: p.ID, Ladder: plan.Code(choices), RemovedUM: l.Steps[len(l.Steps)-1].Removed, LeftShare: in.Left, Person: in.Person, At: s.now()}
	if in.OffAfter != nil {
		j := p.Options.Job
		j.Condition.Dead.Median = math.Inf(1) // as dead paint cuts
		low, high := j.Takes(0, l.Steps[0].Rate, *in.OffAfter-1), j.Takes(0, l.Steps[0].Rate, *in.OffAfter)
		row.OffLowUM, row.OffHighUM = &low, &high
	}
	own, err := s.store.Squares(ctx, p.ID)
	if err != nil {
		return err
	}
	taught, err := p.Condition.taughtBy(append(own, row))
	if err != nil {
		return err
	}
	if sec, _, ok := p.Decides(); ok && taught.DeadUM > sec.Least.Estimate().Mean {
		return Refuse(DeadTooThick, "off_after", Film(taught.DeadUM), Film(sec.Least.Estimate().Mean))
	}
	teaches := map[string]store.Learned{p.ID: taught}
	car, err := s.store.Car(ctx, p.Car.ID)
	if err != nil {
		return err
	}
	for _, o := range car.Panels {
		k := knownOf(o)
		alike := o.ID != p.ID && k.Origin == p.Origin && k.Layers == p.Layers && k.Condition.Swirls == p.Condition.Swirls && k.Condition.Dead == p.Condition.Dead
		if !alike {
			continue
		}
		if squares, err := s.store.Squares(ctx, o.ID); err != nil {
			return err
		} else if len(squares) > 0 {
			continue
		}
		less := taught
		if less.SwirlsUM > 0 {
			less.SwirlsSpread = math.Hypot(less.SwirlsSpread, panelSpread)
		}
		if less.DeadUM > 0 {
			less.DeadSpread = math.Hypot(less.DeadSpread, panelSpread)
		}
		teaches[o.ID] = less
	}
	return s.store.AddSquare(ctx, &row, p.version, teaches)
}

// taughtBy is what squares teach of a condition that was said.
func (c Condition) taughtBy(squares []store.Square) (store.Learned, error) {
	swirls, dead := SwirlsOf(c.Swirls), DeadOf(c.Dead)
	var learnedDead bool
	for _, q := range squares {
		if q.OffLowUM == nil || q.OffHighUM == nil || dead.Median == 0 {
			continue
		}
		var err error
		if dead, err = dead.Between(*q.OffLowUM, *q.OffHighUM, offSpread); err != nil {
			return store.Learned{}, Refuse(BadOff, "off_after", mostOff)
		}
		learnedDead = true
	}
	var seen []surface.Tried
	for _, q := range squares {
		if below := q.RemovedUM - dead.Median; q.LeftShare != nil && below > 0 {
			seen = append(seen, surface.Tried{Removal: below, Left: *q.LeftShare, SD: surface.EyeShare})
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
	if learnedDead {
		out.DeadUM, out.DeadSpread = dead.Median, dead.Spread
	}
	return out, nil
}
