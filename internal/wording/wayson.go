package wording

import (
	"fmt"
	"math"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/panel"
)

// WayOn is a way on as it is said: Head on its key, what it takes, the chance that decides,
// and what to say to the owner; empty where there is nothing of the kind.
type WayOn struct{ Head, Text, Chance, Say string }

// WayOn says what a way on from a refused aim asks and brings.
func (w Words) WayOn(p *panel.Panel, on advice.WaysOn, way advice.WayOn) WayOn {
	floor := on.Section.Policy.Floor
	switch way.Code {
	case advice.OnFloor:
		text := "read between passes, name and day"
		if way.Exact > way.Floor {
			text += w.say("; %s would also do", um(way.Exact))
		}
		return WayOn{w.say("Owner agrees to %s", um(way.Floor)), text, w.lessStays(way.Verdict.Under, way.Floor), w.askOwner(p, on)}
	case advice.OnCoat:
		clear := on.Section.Least.Estimate().Mean + film.CoatFilm
		return WayOn{Head: "One more coat of clear first", Text: w.say("about a day; the clear becomes about %s µm", um(clear)), Chance: w.lessStays(way.Verdict.Under, floor)}
	case advice.OnQuestion:
		text := w.helpsWith(*way.Help, floor)
		if way.With != nil {
			text += "; " + w.helpsWith(*way.With, way.WithFloor)
		}
		return WayOn{Head: helpHeads[way.Help.Code], Text: text}
	case advice.OnAim:
		head, text := w.milder(way.Aim, way.Film, way.Minutes, p.PeelGrade(), way.Grade)
		say := ""
		if way.Floor > 0 {
			head += w.say(", owner agrees to %s", um(way.Floor))
			floor, say = way.Floor, w.askOwner(p, on)
		}
		return WayOn{head, text, w.milderChance(way.Aim, way.Verdict.Under, floor), say}
	case advice.OnSofter:
		return WayOn{Head: "As flat as the film allows", Text: w.say("peel %.1f becomes %.1f; %s µm, %s", p.PeelGrade(), way.Grade, um(way.Film), hours(way.Minutes)), Chance: w.lessStays(way.Verdict.Under, floor)}
	case advice.OnShelf:
		return WayOn{Head: "Put what is missing on the shelf", Text: "or change the house rules"}
	}
	return WayOn{Head: "Leave it and tell the owner", Text: "no film; the sentence goes into the report", Chance: "costs nothing"}
}

// helpHeads ask for what could be found out.
var helpHeads = map[film.HelpCode]string{
	film.HelpUnder: "What lies under it?", film.HelpCoats: "How many coats of clear?", film.HelpCar: "Read a factory panel",
	film.HelpBare: "Read a place without clear", film.HelpLayers: "Read the clear alone", film.HelpWitness: "A hidden witness square",
}

// Wanted says how what could be found out is found.
func (w Words) Wanted(h film.Help) string {
	return map[film.HelpCode]string{
		film.HelpUnder:   "Ask who sprayed it: a new or bare part, or the old finish sanded?",
		film.HelpCoats:   "Ask who sprayed it how many coats of clear went on.",
		film.HelpCar:     "Read a panel of this car that was never sprayed: it tells what the old finish under this one was. 2 minutes.",
		film.HelpBare:    "Read under a moulding or inside a jamb, where this part carries no clear, and keep it as \"no clear\". 10 minutes.",
		film.HelpLayers:  "Read with a gauge that tells layers apart, and keep it as \"clear\".",
		film.HelpWitness: "Where trim covers it, sand a small square through to the colour, read beside it and in it, keep the difference as \"clear\", touch it up. 20 minutes.",
	}[h.Code]
}

// helpsWith says what an answer would likely make of it with a floor.
func (w Words) helpsWith(h film.Help, floor float64) string {
	with := w.say("with %s: ", um(floor))
	const hardly, surely = 0.03, 0.97
	if h.Answers != nil {
		same := true
		for _, a := range h.Answers {
			same = same && a.State == h.Answers[0].State
		}
		if same {
			return with + string(h.Answers[0].State) + " either way"
		}
		for i, a := range h.Answers {
			if i > 0 {
				with += ", "
			}
			with += helpAnswers[h.Code](a.Answer) + " " + string(a.State)
		}
		return with
	}
	switch {
	case h.Fits < hardly:
		return with + "it stays shut"
	case h.Opens > surely:
		return with + "it opens"
	case h.Opens > hardly:
		return with + oneIn(h.Opens) + " that it opens"
	case h.Fits > surely:
		return with + "it is tight"
	}
	return with + oneIn(h.Fits) + " that it is tight"
}

var helpAnswers = map[film.HelpCode]func(string) string{
	film.HelpCoats: func(n string) string { return n + " coats" },
	film.HelpUnder: func(under string) string {
		if clearcoat.Under(under) == clearcoat.UnderNew {
			return "new or bare part"
		}
		return "over the old finish"
	},
}

// askOwner is what to say to an owner who may agree that less stays.
func (w Words) askOwner(p *panel.Panel, on advice.WaysOn) string {
	clear := math.Max(on.Section.Least.Estimate().Mean, 1)
	return w.say("“The %s has about %s µm of clear. Made %s, %s of it go, and what stays is thin. It shines, it will not last as long, and it can hardly be polished again.”",
		p.Name, um(clear), aimDone[p.Aim], um(on.Film))
}

var aimDone = map[plan.Aim]string{plan.Flat: "flat", plan.Match: "like the panel beside it", plan.NibsOnly: "free of nibs", plan.PolishOnly: "glossy"}

func (w Words) lessStays(p, floor float64) string {
	return w.say("%s that less than %s stays", oneIn(p), um(floor))
}

// milder is an aim that asks less: its name, and what it takes and leaves; minutes of 0 are
// not told.
func (w Words) milder(aim plan.Aim, film, minutes, was, ends float64) (head, text string) {
	takes := w.say("%s µm", um(film))
	if minutes > 0 {
		takes += ", " + hours(minutes)
	}
	switch aim {
	case plan.Match:
		if was > 0 {
			takes = fmt.Sprintf("peel %.1f becomes %.1f; %s", was, ends, takes)
		}
		return "Match the panel beside it", takes
	case plan.NibsOnly:
		return "Nibs only", takes + " at each, the peel stays"
	}
	return "Polish only", takes + "; gloss, the peel stays"
}

func (w Words) milderChance(aim plan.Aim, p, floor float64) string {
	switch aim {
	case plan.NibsOnly:
		return "at a nib: " + w.lessStays(p, floor)
	case plan.PolishOnly:
		return "hardly changes what stays"
	}
	return w.lessStays(p, floor)
}

func hours(minutes float64) string { return fmt.Sprintf("%.1f h", minutes/60) }

// Needs says what the aim takes where nothing reaches it.
func (w Words) Needs(on advice.WaysOn) string {
	if on.Film == 0 {
		return "nothing on the shelf leads there"
	}
	return w.say("it takes %s µm in %s", um(on.Film), hours(on.Minutes))
}

// KnownOf says what the clear of a panel is known from, and how wide that leaves it.
func (w Words) KnownOf(p *panel.Panel) string {
	c := p.Study.Clear
	clear := w.say("clear %s to %s µm, most likely %s", um(c.Dist.Quantile(0.05)), um(c.Dist.Quantile(0.95)), um(c.Mean))
	if humps := c.Dist.Humps(); len(humps) > 1 {
		clear = w.say("two stories fit, a clear of about %s or of about %s µm", um(humps[0]), um(humps[1]))
	}
	text := w.say("%s µm in all; %s.", um(p.Study.Mean.Mean), clear)
	if s, share := c.Decides(); s != nil {
		text += " Most of that is " + w.Source(*s, p.History()) + w.Share(share, len(c.Sources)) + "."
	}
	return text
}

// Agreed says what an owner agreed to.
func (w Words) Agreed(f panel.AgreedFloor) string {
	text := w.say("%s agreed on %s to %s µm", f.Person, w.day(f.At), um(f.Floor))
	if f.PanelID == "" {
		text += " on the whole car"
	}
	return text + ": " + f.Reason + "."
}
