package offers

import (
	"context"
	"time"

	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/price"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/panel"
)

// ToolPace is how long work takes here by hand, with a machine or around the passes, against
// what it would take at a pace of 1; Now is the pace that plans are made with.
type ToolPace struct {
	price.Pace
	Of  Paced
	Now float64
	Key string // of its constant
}

// Paced says whose pace work follows.
type Paced string

// What goes at one pace.
const (
	PacedByHand    Paced = "hand"
	PacedByMachine Paced = "machine"
	PacedAround    Paced = "around" // what is done around the passes
)

func PacedBy(t shelf.Tool) Paced {
	if t == shelf.Hand {
		return PacedByHand
	}
	return PacedByMachine
}

const (
	// mostPaced is how many panels, the last worked first, the pace is learned from.
	mostPaced = 30
	// mostSaid is how many of the times that were said, the last first, it is learned from.
	mostSaid = 100
	// inARow is the longest from one pass to the next that counts as work without a stop.
	inARow = 15 * time.Minute
)

// Paces are learned from the times between passes that somebody made one after the other, all
// those of a step on a panel together, and from times that somebody said.
func (s *Service) Paces(ctx context.Context) ([]ToolPace, error) {
	v, err := s.Store.HouseVersion(ctx)
	if err != nil {
		return nil, err
	}
	teach, err := s.LoadLessons(ctx, v.Lessons)
	if err != nil {
		return nil, err
	}
	h, err := s.House(ctx)
	if err != nil {
		return nil, err
	}
	took := map[Paced][]price.Took{}
	for _, t := range teach.Worked[:min(mostPaced, len(teach.Worked))] {
		p, err := s.Panel(ctx, t.ID)
		if err != nil {
			return nil, err
		}
		if now, ok := PlanAnew(p); ok {
			steps := make([]price.Took, len(now.Steps))
			for _, c := range Clock(p, p.Log, now) {
				steps[c.Step].Planned += c.Planned
				steps[c.Step].Minutes += c.Minutes
			}
			for i, t := range steps {
				of := PacedBy(now.Steps[i].Tool)
				took[of] = append(took[of], t)
			}
		}
	}
	said, err := s.Store.LastTimesSaid(ctx, mostSaid)
	if err != nil {
		return nil, err
	}
	for _, t := range said {
		took[Paced(t.Paced)] = append(took[Paced(t.Paced)], price.Took{Planned: t.BaseMin, Minutes: t.TookMin})
	}
	law := &h.Shelf.Law
	return []ToolPace{
		{price.PaceOf(took[PacedByHand]), PacedByHand, law.PaceHand, "law.pace_hand"},
		{price.PaceOf(took[PacedByMachine]), PacedByMachine, law.PaceMachine, "law.pace_machine"},
		{price.PaceOf(took[PacedAround]), PacedAround, law.PaceAround, "law.pace_around"},
	}, nil
}

// Clocked is a pass with how long it took by the clock: from the one before it, made by the
// same person in the same step without a stop between them.
type Clocked struct {
	Step       int
	price.Took // planned at a pace of 1
}

// Clock of the passes of a panel in a log; now is its sequence as it would be planned today.
func Clock(p *panel.Panel, log level.Log, now plan.Ladder) []Clocked {
	area := 0.0
	for _, s := range p.Sections {
		area += s.W * s.H
	}
	var out []Clocked
	var last *level.Entry
	for i := range log.Entries {
		e := &log.Entries[i]
		if e.Struck || !e.Cuts() {
			continue
		}
		before := last
		last = e
		if before == nil || before.Step != e.Step || before.Person != e.Person || e.Step < 1 || e.Step > len(now.Steps) {
			continue
		}
		sec := panel.FirstOf(p.Sections, func(s flatlay.Section) bool { return s.Key == e.Section })
		gone := e.At.Sub(before.At)
		if sec == nil || gone <= 0 || gone > inARow {
			continue
		}
		pass := PacedMinutes(p, now.Steps[e.Step-1]) / float64(max(now.Steps[e.Step-1].Passes, 1)) * sec.W * sec.H / area
		if t := (price.Took{Planned: pass, Minutes: gone.Minutes()}); !t.Slip() {
			out = append(out, Clocked{e.Step - 1, t})
		}
	}
	return out
}

// PacedMinutes is how many minutes of a step follow the pace, at a pace of 1.
func PacedMinutes(p *panel.Panel, s plan.Step) float64 {
	return (s.Minutes - s.Once) / p.House.Shelf.Law.Pace(s.Tool)
}

// PlanAnew is the sequence of the panel's plan as it would be planned today; false where the
// shelf has lost a thing of it.
func PlanAnew(p *panel.Panel) (plan.Ladder, bool) {
	if p.Ladder() == nil || p.Options == nil {
		return plan.Ladder{}, false
	}
	now, err := p.Options.Job.Work(p.Ladder().Choices())
	return now, err == nil
}
