package wording

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
)

// partlyOut says which sections a ladder is not for; empty where it fits all, or none.
func partlyOut(names []string) string {
	if len(names) == 0 {
		return ""
	}
	return " Not on " + strings.Join(names, ", ") + ": less can go there. Level stops in time, or read more."
}

// Offered says why a way has its state.
func (w Words) Offered(p *panel.Panel, o panel.OfferedWay) string {
	if o.Guess != nil {
		return w.Guess(*o.Guess, p.History())
	}
	return w.State(o.Standing, o.Section.Policy.Floor) + partlyOut(o.LeftOut)
}

// TooMuch says that a way takes more than can go.
func (w Words) TooMuch(film, room float64) string {
	return w.say("Takes %s µm and %s can go: no headroom for it. It cannot be accepted as it is.", um(film), mayGo(room))
}

// apart says what another sequence takes more or less, in film and time.
func apart(filmUM, mins float64) string {
	part := func(v float64, text string) string {
		if v < 0 {
			return text + " less"
		}
		return text + " more"
	}
	const nothing = 0.05 // µm
	switch {
	case math.Abs(filmUM) < nothing && math.Abs(mins) < 1:
		return "the same film and time"
	case math.Abs(filmUM) < nothing:
		return part(mins, minutes(math.Abs(mins)))
	case math.Abs(mins) < 1:
		return part(filmUM, um(math.Abs(filmUM))+" µm")
	}
	return part(filmUM, um(math.Abs(filmUM))+" µm") + " and " + part(mins, minutes(math.Abs(mins)))
}

// Steps is a sequence in words: 1500 on rubber block 6×, 3000 on foam disc 5×.
func (w Words) Steps(choices []plan.Choice, s *shelf.Shelf) string {
	parts := make([]string, len(choices))
	for i, c := range choices {
		parts[i] = fmt.Sprintf("%s %d×", choiceText(c, s), c.Passes)
	}
	return strings.Join(parts, ", ")
}

// choiceText is what a step is made with.
func choiceText(c plan.Choice, s *shelf.Shelf) string {
	if k, ok := s.Compound(c.Item); ok && c.Backing == "" {
		return k.Title + " (" + k.Pad + ", " + string(k.Tool) + ")"
	}
	a, _ := s.Abrasive(c.Item)
	back, _ := s.Backing(c.Backing)
	return a.Grit + " on " + back.Name
}

// Step says why a step is as it is.
func (w Words) Step(s plan.Step) string {
	v := s.Why.Values
	switch s.Why.Code {
	case plan.WhyFiles:
		return w.say("Files %.0f nibs one by one, about %.0f s each; %s µm of each stays up.", v["nibs"], v["seconds"], um(v["rest"]))
	case plan.WhyLevels:
		return fmt.Sprintf("Takes the peel to grade %.1f in %s: the texture that is wanted.", v["grade"], count(int(v["passes"]), "pass"))
	case plan.WhyPartly:
		return fmt.Sprintf("Takes the peel to grade %.1f; what is left of it goes with the finer steps or stays.", v["grade"])
	case plan.WhyFlat:
		return "The texture is as wanted already: it dulls the gloss evenly."
	case plan.WhyScratch:
		return w.say("Goes %s µm down: as deep as the scratches that shall go.", um(v["film"]))
	case plan.WhySwirls:
		return w.say("Takes %s µm, and with it %.0f %% of the swirls; leaves %.2f µm of its own.", um(v["film"]), 100*v["gone"], v["leaves"])
	case plan.WhyDead:
		return w.say("Takes the dead layer off, about %s µm of %s; then %.0f %% of the swirls are gone.", um(v["dead"]), um(v["film"]), 100*v["gone"])
	case plan.WhyBury:
		return w.say("Takes %s µm to bury the last scratch, %.2f µm deep; leaves %.2f.", um(v["film"]), v["scratch"], v["leaves"])
	case plan.WhyClears:
		return fmt.Sprintf("Clears scratches to %.2f µm; these are %.2f. Leaves %.2f.", v["reach"], v["scratch"], v["leaves"])
	case plan.WhyShort:
		return fmt.Sprintf("Stops early: burying the last scratch, %.2f µm deep, needs %s.", v["scratch"], count(int(v["needs"]), "pass"))
	case plan.WhyTooDeep:
		return fmt.Sprintf("Beyond its reach: it clears scratches to %.2f µm, these are %.2f.", v["reach"], v["scratch"])
	}
	return fmt.Sprintf("Takes the haze: leaves %.2f µm, and this colour shows haze from %.2f.", v["leaves"], v["haze"])
}

// Warning says what is wrong with a ladder that somebody built, and what would be right.
func (w Words) Warning(of plan.Warning) string {
	v := of.Values
	switch of.Code {
	case plan.WarnSkipped:
		return fmt.Sprintf("It cannot clear a scratch %.2f µm deep: it takes %.2f at most. Put a grit between, or %.0f %% of the scratch still shows.", v["scratch"], v["most"], 100*v["showing"])
	case plan.WarnEarly:
		return fmt.Sprintf("Burying the last scratch needs %s, here are %.0f: %.0f %% of it still shows.", count(int(v["needs"]), "pass"), v["passes"], 100*v["showing"])
	case plan.WarnReach:
		return fmt.Sprintf("Beyond its reach: it clears scratches to %.2f µm, these are %.2f. Refine further before the pad.", v["reach"], v["scratch"])
	case plan.WarnCycles:
		return fmt.Sprintf("More than %.0f cycles on one place heat the paint and gain nothing. Refine further before the pad.", v["most"])
	case plan.WarnCoarser:
		return fmt.Sprintf("Back to a coarser grit: it leaves %.2f µm where %.2f was reached, and all finer steps have to be done again.", v["leaves"], v["scratch"])
	case plan.WarnStart:
		return fmt.Sprintf("Coarser than may be started with here: grain %.1f µm, %.1f at most. It leaves scratches of %.2f µm.", v["d50"], v["most"], v["leaves"])
	case plan.WarnLong:
		return fmt.Sprintf("%.0f passes of one grit, more than %.0f: take a coarser start.", v["passes"], v["most"])
	case plan.WarnSoft:
		return w.say("Too soft a backing to flatten: it rides the peel, grade %.1f after %s µm of film. Take a stiffer one.", v["grade"], um(v["film"]))
	case plan.WarnNotFlat:
		return fmt.Sprintf("Leaves peel of grade %.1f; wanted is %.1f or flatter.", v["grade"], v["high"])
	case plan.WarnTooFlat:
		return fmt.Sprintf("Flatter than the panel beside it: grade %.1f, wanted is %.1f or more.", v["grade"], v["low"])
	case plan.WarnHaze:
		return fmt.Sprintf("Leaves scratches of %.2f µm; this colour shows haze from %.2f. Add a finer polish.", v["leaves"], v["haze"])
	case plan.WarnGhost:
		return fmt.Sprintf("Old scratches show under the gloss: %.1f %% of those %.2f µm deep, and this colour shows them from %.1f %%. One cycle more of the last step takes them.", 100*v["showing"], v["last"], 100*v["ghost"])
	case plan.WarnClarity:
		return fmt.Sprintf("Clarity %.0f; wanted is %.0f.", v["clarity"], v["want"])
	case plan.WarnNibs:
		return fmt.Sprintf("Nibs are open here: %.0f. Spot them before any machine, or the disc makes curls of them.", v["nibs"])
	}
	return string(of.Code)
}

// Why says one reason for or against a way: its head, and what follows it.
func (w Words) Why(y panel.Why, s *shelf.Shelf) (head, text string) {
	other := ""
	if len(y.Other) > 0 {
		other = choiceText(y.Other[0], s)
	}
	diff := apart(y.Film, y.Minutes)
	say := func(head, format string, v ...any) (string, string) { return head, w.say(format, v...) }
	switch y.Code {
	case panel.WhyThis:
		return w.whyThis(y)
	case panel.WhyKept:
		return "", w.done(y.Text)
	case panel.WhyPebble:
		text := fmt.Sprintf("%.3f µm rms are left, %.3f beside it", y.Left, y.Beside)
		if plan.Sharper(y.Left, y.Beside) {
			text += ": the edge of a lamp looks sharper here than there, from near. Sanding takes pebble before peel"
		}
		return "Pebble:", text + "."
	case plan.WhyNotCoarser:
		return say("Not coarser:", "%s serves too and takes %s.", other, diff)
	case plan.WhyNoCoarser:
		return say("Not coarser:", "nothing on the shelf that may begin here is coarser than %.1f µm of grain.", y.Most)
	case plan.WhyCoarserShuts:
		return say("Not coarser:", "%s needs %s µm and %s can go.", other, um(y.Takes+y.Film), mayGo(y.Room))
	case plan.WhyNotFiner:
		return say("Not finer:", "%s serves too and takes %s.", other, diff)
	case plan.WhyFinerSlow:
		return say("Not finer:", "%s would need %s to the texture that is wanted; from %.0f on a coarser one is taken.", other, count(y.Passes, "pass"), y.Most)
	case plan.WhyNoFiner:
		return say("Not finer:", "nothing finer goes on that backing.")
	case plan.WhyNotFewer:
		return say("Not fewer steps:", "with %s it takes %s.", count(len(y.Other), "step"), diff)
	case plan.WhyNoFewer:
		return say("Not fewer steps:", "every shorter sequence leaves scratches that the next step cannot clear.")
	case plan.LimitedFilm:
		return say("Film limits it:", "with more headroom %s would take %s.", other, diff)
	case plan.LimitedColour:
		return say("The colour limits it:", "on a light one it would take %s.", diff)
	case plan.LimitedShelf:
		return say("The shelf limits it:", "with %s it would take %s.", w.Steps(y.Other, s), diff)
	case plan.LimitedSkill:
		return say("The coarsest grit allowed limits it:", "starting with %s it would take %s.", other, diff)
	case plan.LimitedRules:
		return say("The house rules limit it:", "left to the computation it would take %s.", diff)
	}
	return "", string(y.Code)
}

// whyThis says why a way is what it is.
func (w Words) whyThis(y panel.Why) (head, text string) {
	head = map[plan.Offer]string{plan.LeastFilm: "Why least film:", plan.Balanced: "Why balanced:", plan.LeastTime: "Why least time:",
		plan.Partly: "Why only so far:", plan.Yours: "Yours:"}[y.Offer]
	start := y.Title + ", " + y.What
	switch {
	case y.Kind == plan.FileStep:
		return head, "Nibs are filed one by one and only their places are refined and polished; the texture stays."
	case y.D50 == 0 && y.Buries == 0 && y.Offer == plan.LeastFilm:
		return head, fmt.Sprintf("Of all sequences that take so much it takes least film. %s begins: %s.", capital(start), count(y.Passes, "cycle"))
	case y.D50 == 0 && y.Buries == 0 && y.Offer == plan.LeastTime:
		return head, fmt.Sprintf("Nothing that takes so much is quicker by more than a tenth without taking far more film. %s begins: %s.", capital(start), count(y.Passes, "cycle"))
	case y.D50 == 0 && y.Buries == 0:
		return head, fmt.Sprintf("Between least film and least time it gives up least of both. %s begins: %s.", capital(start), count(y.Passes, "cycle"))
	case y.D50 == 0:
		return head, fmt.Sprintf("%s is the mildest beginning that clears scratches of %.2f µm; nothing is sanded.", capital(start), y.Buries)
	case y.Offer == plan.LeastFilm:
		return head, fmt.Sprintf("Of all sequences that serve it takes least. %s begins: %s to grade %.1f.", start, count(y.Passes, "pass"), y.First)
	case y.Offer == plan.LeastTime:
		return head, fmt.Sprintf("Nothing that serves is quicker by more than a tenth without taking far more film. %s begins: %s.", start, count(y.Passes, "pass"))
	case y.Offer == plan.Balanced:
		return head, fmt.Sprintf("Between least film and least time it gives up least of both. %s begins: %s; a grit that needs over %.0f is not begun with.", start, count(y.Passes, "pass"), y.Most)
	case y.Offer == plan.Partly:
		return head, fmt.Sprintf("The film does not allow all of it: this is the furthest it goes, peel grade %.1f.", y.Grade)
	}
	return head, fmt.Sprintf("Peel grade %.1f, clarity %.0f at the end.", y.Grade, y.Clarity)
}

// Refused says why nothing reaches the aim of a panel.
func (w Words) Refused(p *panel.Panel, r plan.Refusal) string {
	aim := aimWords[p.Aim]
	if r.Need == 0 {
		return fmt.Sprintf("Nothing on the shelf leads to %s here under the house rules.", aim)
	}
	return w.say("No sequence to %s fits: the mildest takes %s µm and %s can go.", aim, um(r.Need), mayGo(r.Room))
}

// Target says what a plan of a panel has to end with.
func (w Words) Target(p *panel.Panel) string {
	haze := plan.Colour(p.Car.Colour).Haze(p.House.Shelf.Law)
	end := fmt.Sprintf("no scratch over %.2f µm (%s colour)", haze, p.Car.Colour)
	switch p.Aim {
	case plan.Flat:
		return "Flat: peel grade 1.5 or less, " + end + "."
	case plan.Match:
		return fmt.Sprintf("Match: peel as beside it, grade %.1f, %s.", p.Grade, end)
	case plan.NibsOnly:
		return fmt.Sprintf("Nibs only: %s filed, their places refined and polished, %s; the texture stays.", count(p.Options.Job.Nibs, "nib"), end)
	}
	if j := p.Options.Job; j.Corrects() {
		dead := ""
		if j.Condition.Dead.Median > 0 {
			dead = "the dead layer off, "
		}
		if j.Gone > 0 {
			return fmt.Sprintf("Polish only: %s%.0f %% of the swirls gone, %s; the texture stays.", dead, 100*j.Gone, end)
		}
		return fmt.Sprintf("Polish only: %s%s; the texture stays.", dead, end)
	}
	return fmt.Sprintf("Polish only: swirls of about %.1f µm out, %s; the texture stays.", plan.UsualSwirl, end)
}

// Begun says that work under the plan of record has begun.
const Begun = "Work under the plan of record has begun: it stays. What is shown beside it starts from the peel as it was, with the film that is left."

// Stale says what a plan of record rests on that is no longer so.
func (w Words) Stale(p *panel.Panel) string {
	c, r := p.Changes(), p.Record
	if !c.Known {
		return "What the plan rests on has changed since it was accepted: it had " + count(r.Readings, "reading") +
			" and peel grade " + fmt.Sprintf("%.1f", r.PeelGrade) + "; look at it again."
	}
	was, now := c.Was, c.Now
	var parts []string
	say := func(differs bool, format string, v ...any) {
		if differs {
			parts = append(parts, w.say(format, v...))
		}
	}
	say(was.Peel != now.Peel, "peel grade %.1f, was %.1f", now.Peel, was.Peel)
	say(was.Aim != now.Aim, "aim %s, was %s", aimWords[plan.Aim(now.Aim)], aimWords[plan.Aim(was.Aim)])
	say(was.Finish != now.Finish || was.Coats != now.Coats, "what is known of the finish")
	say(was.Floor != now.Floor && now.Floor > 0, "the owner agreed to %s µm", um(now.Floor))
	say(was.Floor != now.Floor && now.Floor == 0, "the agreed floor was taken back")
	say(was.Colour != now.Colour, "colour %s, was %s", now.Colour, was.Colour)
	say(was.Hardness != now.Hardness, "%s paint, was %s", now.Hardness, was.Hardness)
	say(was.Looks != now.Looks, "what is known of swirls and dead paint")
	say(was.Gone != now.Gone, "%.0f %% of the swirls shall go, was %.0f", 100*now.Gone, 100*was.Gone)
	say(was.Beside != now.Beside && c.Matches, "the panel beside has peel grade %.1f, was %.1f", now.Beside, was.Beside)
	say(len(c.Added) > 0, "new reading %s", w.numbered(c.Added))
	say(len(c.Struck) > 0, "struck out %s", w.numbered(c.Struck))
	if len(parts) == 0 {
		parts = append(parts, "a zone or the film of a neighbour")
	}
	text := "Out of date since it was accepted: " + strings.Join(parts, "; ") + "."
	if c.RoomDiffers {
		text += w.say(" %s µm can go, were %s.", mayGo(now.Room), mayGo(was.Room))
	}
	return text + " Look at it again."
}

func (w Words) numbered(all []panel.NumberedFilm) string {
	parts := make([]string, len(all))
	for i, n := range all {
		parts[i] = w.say("%d (%s µm)", n.No, um(n.Film))
	}
	return strings.Join(parts, ", ")
}

// Try says what a try gained and cost, no more than its instruments can tell.
func (w Words) Try(t panelwork.Try) string {
	g := t.Gain
	looks := map[plan.Verdict]string{plan.NoDifference: "No real difference to the eye", plan.Better: "Better", plan.Worse: "Worse"}[g.Looks]
	text := w.say("%s: clarity %+.0f ± %.0f for %s µm of film", looks, g.Clarity.Value, g.Clarity.SD, plusMinus(measured(g.Film)))
	if g.PerClarity.Value > 0 {
		text += w.say(", %s µm for ten of clarity", plusMinus(measured(g.PerClarity)))
	}
	text += "."
	if d, v := plan.Difference(plan.Measured{Value: t.Expects}, g.Film); v != plan.NoDifference {
		side := "more"
		if d.Value < 0 {
			side = "less"
		}
		text += w.say(" It took %s µm %s than the plan expects.", um(math.Abs(d.Value)), side)
	}
	return text
}

func measured(v plan.Measured) film.Estimate { return film.Estimate{Mean: v.Value, SD: v.SD} }

// Thing names a thing of the shelf by the stem of its constants' keys.
func (w Words) Thing(s *shelf.Shelf, thing string) string {
	kind, key, _ := strings.Cut(thing, ".")
	switch kind {
	case "abrasive":
		if a, ok := s.Abrasive(key); ok {
			return a.Grit + " " + map[shelf.Body]string{shelf.Paper: "wet paper", shelf.Film: "film disc", shelf.Foam: "foam disc"}[a.Body]
		}
	case "backing":
		if b, ok := s.Backing(key); ok {
			return b.Name
		}
	case "compound":
		if c, ok := s.Compound(key); ok {
			return c.Title + " " + c.Name + ", " + c.Pad + ", " + string(c.Tool)
		}
	}
	return "rules of the work"
}

// Class names an abrasive on its backing, or a compound, by its keys.
func (w Words) Class(s *shelf.Shelf, class string) string {
	item, backing, on := strings.Cut(class, "@")
	if !on {
		return w.Thing(s, "compound."+item)
	}
	return w.Thing(s, "abrasive."+item) + ", " + w.Thing(s, "backing."+backing)
}

// Before says why something may not come before the thing that is picked.
func (w Words) Before(b plan.Before) string {
	switch {
	case b.Over > 0:
		return fmt.Sprintf("out of reach by %.2f", b.Over)
	case b.Passes == 0:
		return "too near, or too many passes"
	}
	return ""
}

// Compared says what two or more schools come to.
func (w Words) Compared(s *offers.Schools) string {
	if !s.Question.Computed {
		return "The model knows no difference in film, time or clarity: it changes how the work is told."
	}
	var sums []plan.Sum
	for _, school := range s.Schools {
		sums = append(sums, school.Sum)
	}
	between := plan.SpreadOf(sums)
	switch {
	case !between.Reached:
		return "No school reaches what was asked for."
	case !between.Differs:
		return "On this car it makes no difference that the model can tell."
	}
	return w.say("Between the schools lie %s µm of film, %s and %.0f of clarity.", um(between.Film), minutes(between.Minutes), between.Clarity)
}

// OverLimits says where the plans of a car go beyond what the owner allows.
func (w Words) OverLimits(c *offers.CarPlans) []string {
	out := []string{}
	if c.HoursLimit > 0 && c.Sum.Minutes > 60*c.HoursLimit {
		out = append(out, fmt.Sprintf("%.1f h planned, the owner's limit is %.1f h: leave what is seen least, or take the quicker ways.", c.Sum.Minutes/60, c.HoursLimit))
	}
	if c.CostLimit > 0 && c.Sum.Money > c.CostLimit {
		out = append(out, fmt.Sprintf("Levelling and polishing come to %.0f, the owner's limit for all of it is %.0f.", c.Sum.Money, c.CostLimit))
	}
	return out
}

// Question names a house rule.
func (w Words) Question(key string) string { return questionWords[key] }

// School names a school and says what it holds.
func (w Words) School(question string, school plan.School) (name, says string) {
	words := schoolWords[question+"."+string(school)]
	return words[0], words[1]
}
