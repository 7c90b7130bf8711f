package panel

import (
	"waxplanus/core/film"
	"waxplanus/internal/shop/facts"
)

// Said says whether anybody said anything of a panel beyond what every new one has, or did
// anything on it.
func (p *Panel) Said() bool {
	return p.Says(facts.FactAim) || p.Record != nil || len(p.Live()) > 0 || p.Outline().OpenMarks > 0 || p.Origin == film.Here || p.Condition.Depths().Said()
}

// Wanted are the panels of a car that work is wanted on: those of which somebody said
// something, or all where nobody did.
func (c *Car) Wanted() []*Panel {
	var said, all []*Panel
	for _, p := range c.Panels {
		if p.Options == nil {
			continue
		}
		all = append(all, p)
		if p.Said() {
			said = append(said, p)
		}
	}
	if said == nil {
		return all
	}
	return said
}
