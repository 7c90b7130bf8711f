package panel

import (
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/refuse"
)

// DeadChoices are the dead layers that a wetted panel is compared with.
var DeadChoices = []facts.Grade{facts.NoneAtAll, facts.Light, facts.Heavy}

// Shares of the swirls that owners choose between.
var Shares = []float64{0.5, 0.8, 0.95}

// Share is a share of the swirls with what it takes: removal (µm), and where the panel was
// read the floor (µm) and how the section that decides would stand after it.
type Share struct {
	Gone, Removal, Floor float64
	Standing             *level.Standing
}

// SharesOf are what Shares take from a panel of some depths.
func (p *Panel) SharesOf(c surface.Condition) []Share {
	out := make([]Share, len(Shares))
	for i, gone := range Shares {
		out[i] = Share{Gone: gone, Removal: c.Removal(gone)}
		if p.Study == nil || len(p.Study.Sections) == 0 {
			continue
		}
		takes := make([]float64, len(p.Study.Sections))
		for k := range takes {
			takes[k] = out[i].Removal
		}
		sec := p.Study.Sections[level.DecidingFor(p.spendable(), takes)]
		st := p.StandingFor(sec, out[i].Removal)
		out[i].Standing, out[i].Floor = &st, sec.Policy.Floor
	}
	return out
}

// Ask has the panel's sequences asked for another share of the swirls; nil asks for nothing.
func (p *Panel) Ask(gone *float64) error {
	if gone == nil || p.Options == nil {
		return nil
	}
	if !(*gone >= 0 && *gone <= plan.MostGone) {
		return refuse.Because(refuse.BadGone, "gone", 100*plan.MostGone)
	}
	if p.Aim == plan.PolishOnly && p.Condition.Depths().Said() {
		p.Options, p.Condition.Gone = p.Options.For(*gone), *gone
	}
	return nil
}
