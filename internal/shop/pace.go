package shop

import (
	"context"
	"time"

	"waxplanus/core/level"
	"waxplanus/core/price"
	"waxplanus/core/shelf"
)

// ToolPace is how long passes take here with the hand or a machine, against what they would
// take at a pace of 1; Now is the pace that plans are made with.
type ToolPace struct {
	price.Pace
	Machine bool
	Now     float64
	Key     string // of its constant
}

const (
	// mostPaced is how many panels, the last worked first, the pace is learned from.
	mostPaced = 30
	// inARow is the longest from one pass to the next that counts as work without a stop.
	inARow = 15 * time.Minute
)

// Paces are learned from the times between passes that somebody made one after the other.
func (s *Shop) Paces(ctx context.Context) ([]ToolPace, error) {
	v, err := s.store.HouseVersion(ctx)
	if err != nil {
		return nil, err
	}
	teach, err := s.teachers(ctx, v.Lessons)
	if err != nil {
		return nil, err
	}
	h, err := s.House(ctx)
	if err != nil {
		return nil, err
	}
	took := map[bool][]price.Took{}
	for _, t := range teach.worked[:min(mostPaced, len(teach.worked))] {
		p, err := s.Panel(ctx, t.ID)
		if err != nil {
			return nil, err
		}
		if err := p.took(took); err != nil {
			return nil, err
		}
	}
	law := &h.Shelf.Law
	return []ToolPace{{price.PaceOf(took[false]), false, law.PaceHand, "law.pace_hand"}, {price.PaceOf(took[true]), true, law.PaceMachine, "law.pace_machine"}}, nil
}

// took adds the pieces of work of a panel, by hand and with a machine.
func (p *Panel) took(to map[bool][]price.Took) error {
	if p.Ladder() == nil || p.Options == nil {
		return nil
	}
	now, err := p.Options.Job.Work(p.Ladder().Choices())
	if err != nil {
		return nil // the shelf has lost a thing of that plan
	}
	area := 0.0
	for _, s := range p.Sections {
		area += s.W * s.H
	}
	var last *level.Entry
	for i := range p.log.Entries {
		e := &p.log.Entries[i]
		if e.Struck || !e.Cuts() {
			continue
		}
		before := last
		last = e
		if before == nil || before.Step != e.Step || before.Person != e.Person || e.Step < 1 || e.Step > len(now.Steps) {
			continue
		}
		sec := find(p.sectionsWorked(), func(s worked) bool { return s.key == e.Section })
		gone := e.At.Sub(before.At)
		if sec == nil || gone <= 0 || gone > inARow {
			continue
		}
		step := now.Steps[e.Step-1]
		machine := step.Tool != shelf.Hand
		pass := (step.Minutes - step.Once) / float64(max(step.Passes, 1)) * sec.area / area / p.House.Shelf.Law.Pace(step.Tool)
		to[machine] = append(to[machine], price.Took{Planned: pass, Minutes: gone.Minutes()})
	}
	return nil
}

// worked is a section with its area, mm².
type worked struct {
	key  string
	area float64
}

func (p *Panel) sectionsWorked() []worked {
	out := make([]worked, len(p.Sections))
	for i, s := range p.Sections {
		out[i] = worked{s.Key, s.W * s.H}
	}
	return out
}
