package shop

import (
	"math"
	"time"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// seenSwirls is a condition with how many looks taught it.
type seenSwirls struct {
	surface.Condition
	looks int
}

// conditionOn is the condition of a section that is worked: what its plan rests on, or what
// was said of the section, and what was seen of it on all sections that look like it.
func (p *Panel) conditionOn(section string) seenSwirls {
	part := p.Condition.Parts[section]
	if known, ok := p.asked.swirls.Load(part); ok {
		return known.(seenSwirls)
	}
	out := seenSwirls{Condition: part.depthsOf(p.Ladder().Corrects)}
	seen := p.log.SwirlLooks(p.Work, func(other string) bool { return p.Condition.Parts[other] == part })
	if c, err := p.Work.Swirls(out.Condition, seen); err == nil { // a share that cannot be was refused when it was tapped
		out = seenSwirls{c, len(seen)}
	}
	p.asked.swirls.Store(part, out)
	return out
}

// wants is how many passes a step wants on a section by the cut as learned, and by the swirls
// as they were seen where it takes them.
func (p *Panel) wants(section string, step int) int {
	if !p.Work.TakesSwirls(step) {
		return p.Work.Passes(step)
	}
	return p.Work.Cycles(p.conditionOn(section).Condition, p.log.Passes(section), step)
}

// softness is how many times as fast as usual a step cuts on a section now.
func (p *Panel) softness(section string, st plan.Step) float64 {
	if p.Work.Removed(p.log.Passes(section)) < st.Dead.Median {
		return st.Soft
	}
	return 1
}

// SwirlsHere is how far the swirls of a section are gone: Gone is the share by the model, of
// Target; Looks counts what taught their depth here.
type SwirlsHere struct {
	surface.Condition
	Removed, Gone, Target float64
	Looks                 int
}

func (p *Panel) swirlsHere(section string, step int) *SwirlsHere {
	if !p.Work.TakesSwirls(step) {
		return nil
	}
	seen := p.conditionOn(section)
	out := &SwirlsHere{Condition: seen.Condition, Looks: seen.looks, Removed: p.Work.Removed(p.log.Passes(section)), Target: p.Ladder().Target}
	out.Gone = out.Condition.Gone(out.Removed)
	return out
}

// coolAt is when a section that was polished is cool again by the house rule; zero where it
// does not matter.
func (p *Panel) coolAt(section string) time.Time {
	law := &p.House.Shelf.Law
	if p.House.Rules.Cool == plan.CoolByHand || law.WarmAfter < 1 {
		return time.Time{}
	}
	return p.log.Warm(section, int(law.WarmAfter), time.Duration(law.Cool*float64(time.Second)))
}

// yearsAt is how many whole years a panel's finish has stood out of doors where the house has
// the floor follow them; 0 where nobody knows.
func (p *Panel) yearsAt(now func() time.Time) float64 {
	if p.House.Rules.Age != plan.AgedFloor || p.SprayedAt == nil {
		return 0
	}
	years, at := 0, now()
	for !p.SprayedAt.AddDate(years+1, 0, 0).After(at) {
		years++
	}
	return float64(years)
}

// PartShare is what a way comes to in sections that look other than the panel: the share of the
// swirls that is gone, and how many cycles more of the first pad lead to what was asked for.
type PartShare struct {
	Looks
	Names  []string
	Gone   float64
	Cycles int
	Title  string  // of the step
	Film   float64 // µm, of those cycles
}

// PartsUnder are the sections that look other than the panel, under a ladder that corrects.
func (p *Panel) PartsUnder(l plan.Ladder) []PartShare {
	var out []PartShare
	if !l.Corrects.Said() {
		return nil
	}
	for _, sec := range p.Sections {
		looks, ok := p.Condition.Parts[sec.Key]
		if !ok {
			continue
		}
		if same := find(out, func(o PartShare) bool { return o.Looks == looks }); same != nil {
			same.Names = append(same.Names, sec.Name)
			continue
		}
		c, pad := looks.depthsOf(l.Corrects), firstPad(l)
		one := PartShare{Looks: looks, Names: []string{sec.Name}, Gone: l.GoneOn(c), Title: pad.Title}
		end := l.Steps[len(l.StepsOf(""))-1].Removed
		if lacks := c.Removal(l.Target) - end; lacks > 0 {
			one.Cycles = int(math.Ceil(lacks/pad.Rate - 1e-9))
			one.Film = float64(one.Cycles) * pad.Rate
		}
		out = append(out, one)
	}
	return out
}

// firstPad is the first step of a ladder that is done with a pad, or its last step.
func firstPad(l plan.Ladder) plan.Step {
	for _, s := range l.Steps {
		if s.D50 == 0 {
			return s
		}
	}
	return l.Steps[len(l.Steps)-1]
}
