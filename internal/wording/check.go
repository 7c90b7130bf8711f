package wording

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/cars"
)

// checkAims are the aims at the start of a sentence.
var checkAims = map[plan.Aim]string{plan.Flat: "Flat", plan.Match: "To match the panel beside it", plan.NibsOnly: "Nibs out", plan.PolishOnly: "A polish"}

// CheckHeadline says in a few words what may be done.
func (w Words) CheckHeadline(c *cars.Checked) string {
	switch c.State {
	case film.Open:
		return checkAims[c.Asked.Aim] + " can be done."
	case film.Tight:
		return checkAims[c.Asked.Aim] + ", with care."
	}
	return checkAims[c.Asked.Aim] + " is too much for this film."
}

// Chance is a chance as a painter says it.
func (w Words) Chance(p float64) string { return oneIn(p) }

// CheckAdvice says what the aim needs, what can go, and what that asks of the painter.
func (w Words) CheckAdvice(c *cars.Checked) string {
	can := w.say("%s µm can go", um(math.Max(c.Headroom, 0)))
	switch {
	case c.Asked.Aim.SpotsOnly():
		can = w.say("%s µm can go at a spot", um(math.Max(c.Room, 0)))
	case c.Headroom <= 0:
		can = "none can go without asking the owner"
	}
	out := w.say("Needs %s µm; %s.", um(c.Need.Mean), can)
	switch {
	case c.Reason == film.WhyGateShut:
		out += w.say(" %s µm of film in all: from %s down nothing but a fine polish.", um(c.Asked.Total), um(film.GateShut))
	case c.Unlike && c.State != film.Open:
		out += w.say(" %s µm in all and what was said of it do not agree: read again, and ask.", um(c.Asked.Total))
	case c.State == film.Tight:
		out += " Read between passes and tell the owner."
	}
	return out
}

// Check says all of a check in a few sentences.
func (w Words) Check(c *cars.Checked) string {
	out := []string{w.CheckHeadline(c), w.CheckAdvice(c),
		w.say("%s that less than %s µm stays; through: %s.", sentence(oneIn(c.Under)), um(c.Floor), oneIn(c.Through))}
	if c.State == film.Shut && len(c.Ways) > 0 {
		out = append(out, w.CheckWay(c, c.Ways[0]))
	}
	return strings.Join(out, " ")
}

// sentence begins a sentence with a phrase.
func sentence(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// CheckWhy says what the clear is known from.
func (w Words) CheckWhy(c *cars.Checked) string {
	clear := w.say("clear %s to %s µm, most likely %s", um(c.Low), um(c.High), um(c.Clear.Mean))
	if humps := c.Clear.Dist.Humps(); len(humps) > 1 {
		clear = w.say("two stories fit, a clear of about %s or of about %s µm; %s to %s in all", um(humps[0]), um(humps[1]), um(c.Low), um(c.High))
	}
	from := ""
	switch {
	case c.Asked.Before > 0:
		from = w.say("Read before the clear went on, %s µm, and %s now", um(c.Asked.Before), um(c.Asked.Total))
	case c.Asked.Finish == film.FactoryFinish:
		from = w.say("A factory finish of %s µm", um(c.Asked.Total))
	case c.Asked.Finish == film.SingleStaged:
		from = w.say("A single stage finish of %s µm, the colour itself", um(c.Asked.Total))
	default:
		coat := c.Asked.Coat
		if coat == 0 {
			coat = film.CoatFilm
		}
		from = "Nobody knows the coats, two or three most likely"
		if c.Asked.Coats > 0 {
			from = w.say("%s at %s µm", sentence(count(c.Asked.Coats, "coat")), um(coat))
		}
		under := "what lies under it not known"
		switch c.Asked.Under {
		case clearcoat.UnderNew:
			under = "on a new or bare part"
		case clearcoat.UnderOver:
			under = "over the old finish"
		}
		from += w.say("; %s µm in all, %s", um(c.Asked.Total), under)
	}
	return from + ": " + clear + "."
}

// CheckWay says what a way asks and brings.
func (w Words) CheckWay(c *cars.Checked, way cars.CheckWay) string {
	switch way.Code {
	case cars.CheckFloor:
		return w.say("The owner agrees to %s µm: %s that less than %s µm stays.", um(way.Floor), oneIn(way.Under), um(way.Floor))
	case cars.CheckMatch, cars.CheckNibs, cars.CheckPolish:
		head, text := w.milder(plan.Aim(way.Code), way.Need, 0, 0, 0)
		return fmt.Sprintf("%s: %s; %s.", head, text, w.milderChance(plan.Aim(way.Code), way.Under, c.Floor))
	}
	return "Leave it and tell the owner: costs no film."
}

// CheckHelp asks what would help, and CheckAnswer says what an answer would bring.
func (w Words) CheckHelp(h cars.CheckHelp) string {
	if h.Code == cars.HelpUnder {
		return "What lies under it?"
	}
	return "How many coats of clear?"
}
func (w Words) CheckAnswer(h cars.CheckHelp, a cars.CheckAnswer) string {
	name := a.Answer + " coats"
	if h.Code == cars.HelpUnder {
		name = map[string]string{string(clearcoat.UnderNew): "new part or bare", string(clearcoat.UnderOver): "over the old finish"}[a.Answer]
	}
	return name + ": " + oneIn(a.Under)
}
