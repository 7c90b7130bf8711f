package advice

import (
	"math"
	"time"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
)

// softness is how many times as fast as usual a step cuts on a section now.
func softness(p *panel.Panel, section string, st plan.Step) float64 {
	if p.Work.Removed(p.Log.Passes(section)) < st.Dead.Median {
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

func swirlsHere(p *panel.Panel, section string, step int) *SwirlsHere {
	if !p.Work.TakesSwirls(step) {
		return nil
	}
	seen := p.ConditionOn(section)
	out := &SwirlsHere{Condition: seen.Condition, Looks: seen.Looks, Removed: p.Work.Removed(p.Log.Passes(section)), Target: p.Ladder().Target}
	out.Gone = out.Condition.Gone(out.Removed)
	return out
}

// coolAt is when a section that was polished is cool again by the house rule; zero where it
// does not matter.
func coolAt(p *panel.Panel, section string) time.Time {
	law := &p.House.Shelf.Law
	if p.House.Rules.Cool == plan.CoolByHand || law.WarmAfter < 1 {
		return time.Time{}
	}
	return p.Log.Warm(section, int(law.WarmAfter), time.Duration(law.Cool*float64(time.Second)))
}

// PartShare is what a way comes to in sections that look other than the panel: the share of the
// swirls that is gone, and how many cycles more of the first pad lead to what was asked for.
type PartShare struct {
	facts.Looks
	Names  []string
	Gone   float64
	Cycles int
	Title  string  // of the step
	Film   float64 // µm, of those cycles
}

// PartsUnder are the sections that look other than the panel, under a ladder that corrects.
func PartsUnder(p *panel.Panel, l plan.Ladder) []PartShare {
	var out []PartShare
	if !l.Corrects.Said() {
		return nil
	}
	for _, sec := range p.Sections {
		looks, ok := p.Condition.Parts[sec.Key]
		if !ok {
			continue
		}
		if same := panel.FirstOf(out, func(o PartShare) bool { return o.Looks == looks }); same != nil {
			same.Names = append(same.Names, sec.Name)
			continue
		}
		c, pad := looks.DepthsOf(l.Corrects), firstPad(l)
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
