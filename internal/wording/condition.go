package wording

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
)

// most is what most depths of a grade are, one spread to both sides.
func (w Words) most(d surface.Depth) string {
	f := math.Exp(d.Spread)
	return w.say("%s to %s µm", um(math.Round(d.Median/f)), um(math.Round(d.Median*f)))
}

// mostGone is the share that the choices are told by.
const mostGone = 0.8

// Looks says what a choice of swirls is: its title and two lines.
func (w Words) Looks(l facts.Looks) (title string, lines []string) {
	c := l.Depths()
	eight := w.say("8 in 10 gone: %s µm", um(c.Removal(mostGone)))
	switch {
	case l.Swirls == facts.NoneAtAll:
		return "none", []string{"no marks to take out", "gloss is there"}
	case c.Dead.Median > 0:
		return string(l.Swirls) + ", chalked", []string{w.say("%s µm, chalk over it", um(c.Swirls.Median)), eight}
	}
	return string(l.Swirls), []string{w.say("%s µm deep on average", um(c.Swirls.Median)), eight}
}

// DeadLooks says what a choice of the wetted half is.
func (w Words) DeadLooks(g facts.Grade) (title string, lines []string) {
	d := facts.DeadOf(g)
	switch g {
	case facts.Light:
		return "light", []string{"dry milky, wet clear", "chalk " + w.most(d)}
	case facts.Heavy:
		return "heavy", []string{"dry dull, wet clear", "chalk " + w.most(d)}
	}
	return "none", []string{"wet and dry look alike", "nothing dead"}
}

// Condition says what is known of a panel's condition, and what follows from the tests.
func (w Words) Condition(p *panel.Panel) string {
	c := p.Condition
	if !c.Looked() {
		return "Wash it and hold one lamp at arm's length, then press what it looks like."
	}
	d := c.Depths()
	var out []string
	switch {
	case d.Swirls.Median > 0 && c.LearnedSwirls.Median > 0:
		low, high := d.Swirls.Range()
		out = append(out, w.say("Swirls %s µm deep on average by a try square, %s to %s.", um(d.Swirls.Median), um(low), um(high)))
	case d.Swirls.Median > 0:
		out = append(out, w.say("Swirls %s, about %s µm deep on average; a try square says it better.", string(c.Swirls), um(d.Swirls.Median)))
	case c.Swirls == facts.NoneAtAll:
		out = append(out, "No swirls.")
	}
	switch {
	case c.LearnedDead.Median > 0:
		low, high := d.Dead.Range()
		out = append(out, w.say("Dead layer %s µm deep by a try square, %s to %s. What stains lie under it shows only when it is off.", um(d.Dead.Median), um(low), um(high)))
	case d.Dead.Median > 0:
		out = append(out, w.say("Dead layer %s: chalk, mostly %s. How deep it goes and what stains lie under it shows only when it is off.", string(c.Dead), w.most(d.Dead)))
	case c.Dead == facts.NoneAtAll:
		out = append(out, "Nothing dead.")
	}
	if c.WaterSpots {
		out = append(out, "Water spots: what a polish leaves of them is etched.")
	}
	if c.Haze {
		out = append(out, "Haze: a fine polish takes it.")
	}
	if p.Aim.Levels() && d.Said() {
		out = append(out, "The panel is to be levelled, and that takes swirls and dead paint along.")
	}
	if p.Layers == facts.SingleStage && d.Said() {
		out = append(out, "Without clear, colour on pad and cloth is normal.")
	}
	if p.Car.Colour == "light" && d.Swirls.Median > 0 {
		out = append(out, "Pale paint hides half of it: choose by the lamp.")
	}
	return strings.Join(out, " ")
}

// ShareGone names a share of the swirls.
func ShareGone(gone float64) string {
	switch gone {
	case 0.5:
		return "half gone"
	case 0.8:
		return "8 in 10 gone"
	case 0.95:
		return "nearly all, 19 in 20"
	}
	return fmt.Sprintf("%.0f %% gone", 100*gone)
}

// Package names a package and says what it takes and what stays.
func (w Words) Package(name plan.Package, p plan.Point) (title, text string) {
	title = map[plan.Package]string{plan.OneStep: "One step", plan.TwoSteps: "Two steps", plan.Furthest: "As far as the film lets it"}[name]
	stays := fmt.Sprintf("%.0f %% of the swirls stay, the deepest", 100*(1-p.Gone))
	switch {
	case p.Gone > 0.985:
		stays = "hardly a swirl stays"
	case p.Gone >= 0.93:
		stays = "only the deepest stay"
	}
	return title, w.say("%.0f %% gone for %s µm in %s; %s.", 100*p.Gone, um(p.Film), hours(p.Minutes), stays)
}

// BestNext says which panel gains most an hour.
func (w Words) BestNext(p offers.PanelPlan) string {
	l := p.Result.Way.Ladder
	return w.say("The next hour gains most on the %s: %.0f %% of its swirls for %s µm in %s, %.1f m² an hour.", p.Name, 100*l.Gone(), um(l.Film), hours(l.Minutes), p.Gain())
}

// NextFilm says where the next µm shows most, and what is better left; empty where nothing is
// corrected.
func (w Words) NextFilm(best, left []*offers.PanelPlan) string {
	var out []string
	for i, p := range best {
		if i == 2 {
			break
		}
		out = append(out, w.say("%s (%.2f m² of swirls)", p.Name, p.GainFilm()))
	}
	text := ""
	if len(out) > 0 {
		text = w.say("The next %s µm show most on the %s.", um(1), strings.Join(out, ", then on the "))
	}
	var names []string
	for _, p := range left {
		names = append(names, p.Name)
	}
	if len(names) > 0 {
		text += " Better left at what the plan takes: " + strings.Join(names, ", ") + ", where no more may go."
	}
	return strings.TrimSpace(text)
}

// PartShare says what a way comes to in sections that look other than their panel.
func (w Words) PartShare(p advice.PartShare) string {
	out := fmt.Sprintf("%s: %.0f %% gone by the same steps", sentence(strings.Join(p.Names, ", ")), 100*p.Gone)
	if p.Cycles > 0 {
		return out + w.say("; %s more of %s there, %s µm, lead to what is wanted. Level counts them.", count(p.Cycles, "cycle"), p.Title, um(p.Film))
	}
	return out + ", as wanted or more."
}

// Square says what was seen on a square and what it comes to.
func (w Words) Square(q panelwork.Square) string {
	var out []string
	if q.Off != nil {
		out = append(out, w.say("dead layer off after about %s µm", um(*q.Off)))
	}
	if q.Left != nil {
		by := ""
		if q.ByMeter {
			by = ", by meter"
		}
		out = append(out, w.say("%s %% of the swirls left after %s µm%s", fmt.Sprintf("%.0f", 100**q.Left), um(q.Removed), by))
	}
	return sentence(strings.Join(out, "; ")) + "."
}

// ShareChance says how likely a share ends under the floor.
func (w Words) ShareChance(s panel.Share) string {
	return w.say("under floor %s: %s", um(s.Floor), oneIn(s.Standing.Under))
}
