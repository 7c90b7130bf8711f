package shop

import (
	"math"
	"slices"
	"time"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// looks says whether somebody said of a zone that it looks other than its panel.
func (z Zone) looks() bool { return z.Swirls != "" || z.Dead != "" }

// Depths of a zone that looks other than its panel: as it was said, or else as the panel's.
func (z Zone) Depths(panel surface.Condition) surface.Condition {
	if z.Swirls != "" {
		panel.Swirls = SwirlsOf(z.Swirls)
	}
	if z.Dead != "" {
		panel.Dead = DeadOf(z.Dead)
	}
	return panel
}

// lookOf is the number of the zone that most of a section lies in and that looks other than
// its panel; -1 for none.
func (p *Panel) lookOf(section string) int {
	sec := find(p.Sections, func(s flatlay.Section) bool { return s.Key == section })
	if sec == nil {
		return -1
	}
	for i, z := range slices.Backward(p.Zones) {
		in := 0
		for _, q := range sec.Cells {
			if z.looks() && flatlay.Within(z.Outline, q) {
				in++
			}
		}
		if 2*in > len(sec.Cells) {
			return i
		}
	}
	return -1
}

// seenSwirls is a condition with how many looks taught it.
type seenSwirls struct {
	surface.Condition
	looks int
}

// conditionOn is the condition of a section that is worked: what its plan rests on, or its
// zone's, and what was seen of it on all sections that look like it.
func (p *Panel) conditionOn(section string) seenSwirls {
	zone := p.lookOf(section)
	if known, ok := p.asked.swirls.Load(zone); ok {
		return known.(seenSwirls)
	}
	out := seenSwirls{Condition: p.Ladder().Corrects}
	if zone >= 0 {
		out.Condition = p.Zones[zone].Depths(out.Condition)
	}
	alike := map[string]bool{}
	for _, s := range p.Sections {
		alike[s.Key] = p.lookOf(s.Key) == zone
	}
	seen := p.log.SwirlLooks(p.Work, func(other string) bool { return alike[other] })
	if c, err := p.Work.Swirls(out.Condition, seen); err == nil { // a share that cannot be was refused when it was tapped
		out = seenSwirls{c, len(seen)}
	}
	p.asked.swirls.Store(zone, out)
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
	Zone                  string // that it looks like; empty for the panel
}

func (p *Panel) swirlsHere(section string, step int) *SwirlsHere {
	if !p.Work.TakesSwirls(step) {
		return nil
	}
	seen := p.conditionOn(section)
	out := &SwirlsHere{Condition: seen.Condition, Looks: seen.looks, Removed: p.Work.Removed(p.log.Passes(section)), Target: p.Ladder().Target}
	out.Gone = out.Condition.Gone(out.Removed)
	if z := p.lookOf(section); z >= 0 {
		out.Zone = p.Zones[z].Name
	}
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

// ZoneShare is what a way comes to in a zone that looks other than its panel: the share of the
// swirls that is gone, and how many cycles more of the last step but the polish lead to what
// was asked for.
type ZoneShare struct {
	Name   string
	Gone   float64
	Cycles int
	Title  string // of the step
	Film   float64
}

// ZonesUnder are the zones that look other than the panel, under a ladder that corrects.
func (p *Panel) ZonesUnder(l plan.Ladder) []ZoneShare {
	var out []ZoneShare
	for _, z := range p.Zones {
		if !z.looks() || !l.Corrects.Said() {
			continue
		}
		c, first := z.Depths(l.Corrects), l.Steps[0]
		one := ZoneShare{Name: z.Name, Gone: l.GoneOn(c), Title: first.Title}
		end := l.Steps[len(l.StepsOf(""))-1].Removed
		if lacks := c.Removal(l.Target) - end; lacks > 0 {
			one.Cycles = int(math.Ceil(lacks/first.Rate - 1e-9))
			one.Film = float64(one.Cycles) * first.Rate
		}
		out = append(out, one)
	}
	return out
}
