package panel

import (
	"slices"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/level"
	"waxplanus/core/plan"
)

// softStep is until when paint is too soft for a step; zero where it is not.
func (p *Panel) softStep(s plan.Step) time.Time {
	w := p.Hardens().Sand
	if s.D50 == 0 {
		w = p.Hardens().Polish
	}
	if w.From.IsZero() || !w.Waits(p.Now()) {
		return time.Time{}
	}
	return w.From
}

// KeptDry is until when the paint is kept dry, by its sheet or by the rule of the shop; zero where
// it may get wet.
func (p *Panel) KeptDry() time.Time {
	var sheet care.Sheet
	if p.Paint != nil {
		sheet = p.Paint.Care()
	}
	for _, w := range care.Waits([]care.Panel{p.CaredFor()}, nil, p.House.Care, sheet, p.Now()) {
		if w.Kind == care.Dry {
			return w.Until
		}
	}
	return time.Time{}
}

// SoftAt is until when the step in hand of a section has to wait for its paint; zero where it
// need not, or where somebody has answered for it.
func (p *Panel) SoftAt(section string, step int) time.Time {
	until := p.softStep(p.Ladder().Steps[step])
	if until.IsZero() || slices.ContainsFunc(p.Log.Entries, func(e level.Entry) bool {
		return !e.Struck && e.Kind == level.KindOverride && e.Section == section && e.Step == step+1
	}) {
		return time.Time{}
	}
	return until
}

// softUntil is until when what is next on the panel has to wait for its paint; zero where it
// need not. Reading, planning and looking do not.
func (p *Panel) softUntil() time.Time {
	if p.Ladder() == nil || p.Ladder().Steps[0].Kind == plan.FileStep {
		return time.Time{}
	}
	var first time.Time
	for _, s := range p.Sections {
		if p.Ended(s.Key) {
			continue
		}
		until := p.SoftAt(s.Key, p.Log.Step(s.Key))
		if until.IsZero() {
			return until
		}
		if first.IsZero() || until.Before(first) {
			first = until
		}
	}
	return first
}
