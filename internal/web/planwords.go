package web

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/web/api"
)

// rotaryStep asks for the caution of a rotary.
const rotaryStep plan.StepKind = "rotary"

// The sentences of Plan, made from the core's codes and values.

// mayGo is a headroom in words: its film, or none.
func mayGo(room float64) string {
	if room <= 0 {
		return "none"
	}
	return um(room)
}

func minutesText(m float64) string {
	if m < 90 {
		return fmt.Sprintf("%.0f min", m)
	}
	return fmt.Sprintf("%.1f h", m/60)
}

// apart says what another sequence takes more or less, in film and time.
func apart(filmUM, minutes float64) string {
	part := func(v float64, text string) string {
		if v < 0 {
			return text + " less"
		}
		return text + " more"
	}
	const nothing = 0.05 // µm
	switch {
	case math.Abs(filmUM) < nothing && math.Abs(minutes) < 1:
		return "the same film and time"
	case math.Abs(filmUM) < nothing:
		return part(minutes, minutesText(math.Abs(minutes)))
	case math.Abs(minutes) < 1:
		return part(filmUM, um(math.Abs(filmUM))+" µm")
	}
	return part(filmUM, um(math.Abs(filmUM))+" µm") + " and " + part(minutes, minutesText(math.Abs(minutes)))
}

// stepsText is a sequence in words: 1500 rubber block 6, 3000 foam disc 5, fine 2.
func (b *bench) stepsText(choices []plan.Choice) string {
	parts := make([]string, len(choices))
	for i, c := range choices {
		parts[i] = fmt.Sprintf("%s %d×", thingText(c, &b.house.shelf), c.Passes)
	}
	return strings.Join(parts, ", ")
}

// thingText is what a step is made with, shortly.
func thingText(c plan.Choice, s *shelf.Shelf) string {
	if k, ok := s.Compound(c.Item); ok && c.Backing == "" {
		return k.Title + " (" + k.Pad + ", " + string(k.Tool) + ")"
	}
	a, _ := s.Abrasive(c.Item)
	back, _ := s.Backing(c.Backing)
	return a.Grit + " on " + back.Name
}

// stepWhy says why a step is as it is.
func stepWhy(s plan.Step) string {
	v := s.Why.Values
	switch s.Why.Code {
	case plan.WhyFiles:
		return fmt.Sprintf("Files %.0f nibs one by one, about %.0f s each; %s µm of each stays up.", v["nibs"], v["seconds"], um(v["rest"]))
	case plan.WhyLevels:
		return fmt.Sprintf("Takes the peel to grade %.1f in %s: the texture that is wanted.", v["grade"], count(int(v["passes"]), "pass"))
	case plan.WhyPartly:
		return fmt.Sprintf("Takes the peel to grade %.1f; what is left of it goes with the finer steps or stays.", v["grade"])
	case plan.WhyFlat:
		return "The texture is as wanted already: it dulls the gloss evenly."
	case plan.WhyScratch:
		return fmt.Sprintf("Goes %s µm down: as deep as the scratches that shall go.", um(v["film"]))
	case plan.WhyBury:
		return fmt.Sprintf("Takes %s µm to bury the last scratch, %.2f µm deep; leaves %.2f.", um(v["film"]), v["scratch"], v["leaves"])
	case plan.WhyClears:
		return fmt.Sprintf("Clears scratches to %.2f µm; these are %.2f. Leaves %.2f.", v["reach"], v["scratch"], v["leaves"])
	case plan.WhyShort:
		return fmt.Sprintf("Stops early: burying the last scratch, %.2f µm deep, needs %s.", v["scratch"], count(int(v["needs"]), "pass"))
	case plan.WhyTooDeep:
		return fmt.Sprintf("Beyond its reach: it clears scratches to %.2f µm, these are %.2f.", v["reach"], v["scratch"])
	}
	return fmt.Sprintf("Takes the haze: leaves %.2f µm, and this colour shows haze from %.2f.", v["leaves"], v["haze"])
}

// warnText says what is wrong with a ladder that somebody built, and what would
// be right.
func warnText(w plan.Warning) string {
	v := w.Values
	switch w.Code {
	case plan.WarnSkipped:
		return fmt.Sprintf("It cannot clear a scratch %.2f µm deep: it takes %.2f at most. Put a grit between, or %.0f in 100 of the scratch still shows.", v["scratch"], v["most"], 100*v["showing"])
	case plan.WarnEarly:
		return fmt.Sprintf("Burying the last scratch needs %s, here are %.0f: %.0f in 100 of it still shows.", count(int(v["needs"]), "pass"), v["passes"], 100*v["showing"])
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
		return fmt.Sprintf("Too soft a backing to flatten: it rides the peel, grade %.1f after %s µm of film. Take a stiffer one.", v["grade"], um(v["film"]))
	case plan.WarnNotFlat:
		return fmt.Sprintf("Leaves peel of grade %.1f; wanted is %.1f or flatter.", v["grade"], v["high"])
	case plan.WarnTooFlat:
		return fmt.Sprintf("Flatter than the panel beside it: grade %.1f, wanted is %.1f or more.", v["grade"], v["low"])
	case plan.WarnHaze:
		return fmt.Sprintf("Leaves scratches of %.2f µm; this colour shows haze from %.2f. Add a finer polish.", v["leaves"], v["haze"])
	case plan.WarnGhost:
		return fmt.Sprintf("Old scratches show under the gloss: %.1f in 100 of those %.2f µm deep, and this colour shows them from %.1f in 100. One cycle more of the last step takes them.", 100*v["showing"], v["last"], 100*v["ghost"])
	case plan.WarnClarity:
		return fmt.Sprintf("Clarity %.0f; wanted is %.0f.", v["clarity"], v["want"])
	case plan.WarnNibs:
		return fmt.Sprintf("Nibs are open here: %.0f. Spot them before any machine, or the disc makes curls of them.", v["nibs"])
	}
	return string(w.Code)
}

// whyThis says why a way is what it is.
func whyThis(w plan.Way, law shelf.Law) api.PlanWhy {
	head := map[plan.Offer]string{plan.LeastFilm: "Why least film:", plan.Balanced: "Why balanced:", plan.LeastTime: "Why least time:",
		plan.Partly: "Why only so far:", plan.Yours: "Yours:"}[w.Offer]
	first := w.Ladder.Steps[0]
	start := first.Title + ", " + first.What
	text := ""
	switch {
	case first.Kind == plan.FileStep:
		text = "Nibs are filed one by one and only their places are refined and polished; the texture stays."
	case first.D50 == 0:
		text = fmt.Sprintf("%s is the mildest beginning that clears scratches of %.2f µm; nothing is sanded.", capital(start), first.Buries)
	case w.Offer == plan.LeastFilm:
		text = fmt.Sprintf("Of all sequences that serve it takes least. %s begins: %s to grade %.1f.", start, count(first.Passes, "pass"), first.After.Grade())
	case w.Offer == plan.LeastTime:
		text = fmt.Sprintf("Nothing that serves is quicker by more than a tenth without taking far more film. %s begins: %s.", start, count(first.Passes, "pass"))
	case w.Offer == plan.Balanced:
		text = fmt.Sprintf("Between least film and least time it gives up least of both. %s begins: %s of at most %.0f.", start, count(first.Passes, "pass"), law.LevelMost)
	case w.Offer == plan.Partly:
		text = fmt.Sprintf("The film does not allow all of it: this is the furthest it goes, peel grade %.1f.", w.Ladder.End().Grade())
	default:
		text = fmt.Sprintf("Peel grade %.1f, clarity %.0f at the end.", w.Ladder.End().Grade(), w.Ladder.End().Clarity())
	}
	return api.PlanWhy{Code: "this", Head: head, Text: text}
}

// pebbleWhy holds the short waves that are left against those of the panel to
// match.
func pebbleWhy(left, beside float64) api.PlanWhy {
	text := fmt.Sprintf("%.3f µm rms are left, %.3f beside it", left, beside)
	const alike = 0.6
	if left < alike*beside {
		text += ": the edge of a lamp looks sharper here than there, from near. Sanding takes pebble before peel"
	}
	return api.PlanWhy{Code: "pebble", Head: "Pebble:", Text: text + "."}
}

// whyOf says one reason for or against a way.
func (b *bench) whyOf(r plan.Because, w plan.Way) api.PlanWhy {
	out := api.PlanWhy{Code: string(r.Code)}
	if r.Other != nil && r.Code != plan.WhyFinerSlow {
		out.Ladder = ptr(plan.Code(r.Other))
	}
	other := ""
	if r.Other != nil {
		other = thingText(r.Other[0], &b.house.shelf)
	}
	say := func(head, format string, v ...any) {
		out.Head, out.Text = head, fmt.Sprintf(format, v...)
	}
	diff := apart(r.Film, r.Minutes)
	switch r.Code {
	case plan.WhyNotCoarser:
		say("Not coarser:", "%s serves too and takes %s.", other, diff)
	case plan.WhyNoCoarser:
		say("Not coarser:", "nothing on the shelf that may begin here is coarser than %.1f µm of grain.", r.Most)
	case plan.WhyCoarserShuts:
		say("Not coarser:", "%s needs %s µm and %s may go.", other, um(w.Ladder.Film+r.Film), mayGo(b.room()))
	case plan.WhyNotFiner:
		say("Not finer:", "%s serves too and takes %s.", other, diff)
	case plan.WhyFinerSlow:
		say("Not finer:", "%s would need %s to the texture that is wanted; from %.0f on a coarser one is taken.", other, count(r.Passes, "pass"), r.Most)
	case plan.WhyNoFiner:
		say("Not finer:", "nothing finer goes on that backing.")
	case plan.WhyNotFewer:
		say("Not fewer steps:", "with %s it takes %s.", count(len(r.Other), "step"), diff)
	case plan.WhyNoFewer:
		say("Not fewer steps:", "every shorter sequence leaves scratches that the next step cannot clear.")
	case plan.LimitedFilm:
		say("Film limits it:", "with more headroom %s would take %s.", other, diff)
	case plan.LimitedColour:
		say("The colour limits it:", "on a light one it would take %s.", diff)
	case plan.LimitedShelf:
		say("The shelf limits it:", "with %s it would take %s.", b.stepsText(r.Other), diff)
	case plan.LimitedSkill:
		say("The coarsest grit allowed limits it:", "starting with %s it would take %s.", other, diff)
	case plan.LimitedRules:
		say("The house rules limit it:", "left to the computation it would take %s.", diff)
	}
	return out
}

// refusalOf says why nothing reaches the aim, and what would make it possible.
func (b *bench) refusalOf(r plan.Refusal) api.Refusal {
	out := api.Refusal{NeedUm: r.Need, RoomUm: r.Room}
	add := func(code, text string) {
		out.Outs = append(out.Outs, api.WayOut{Code: code, Text: text})
	}
	aim := aimWords[b.aim()]
	if r.Need == 0 {
		out.Text = fmt.Sprintf("Nothing on the shelf leads to %s here under the house rules.", aim)
	} else {
		out.Text = fmt.Sprintf("No sequence to %s fits: the mildest takes %s µm and %s may go.", aim, um(r.Need), mayGo(r.Room))
	}
	if gain := b.gain(); gain > 0 && r.Need > 0 {
		text := fmt.Sprintf("Read more spots: they would likely give %s µm.", um(gain))
		if gain >= r.Need-r.Room {
			text += " That would do."
		}
		add("read", text)
	}
	for _, o := range r.Outs {
		switch o.Code {
		case plan.OutSofter:
			add(string(o.Code), fmt.Sprintf("A softer aim: to peel grade %.1f instead, for %s µm.", o.Grade, um(o.Film)))
		case plan.OutPolish:
			add(string(o.Code), fmt.Sprintf("Polish only: %s µm, the texture stays.", um(o.Film)))
		case plan.OutLeave:
			add(string(o.Code), "Leave it, and tell the owner.")
		case plan.OutRespray:
			add(string(o.Code), fmt.Sprintf("More clear: %s µm are missing, %s on top would do.", um(o.Film), count(o.Coats, "coat")))
		case plan.OutShelf:
			add(string(o.Code), "Put what is missing on the shelf, or change the house rules.")
		}
	}
	return out
}

// gain is the headroom in µm that further readings would likely give, or knowing
// the clear where that gives more.
func (b *bench) gain() float64 {
	if b.opened.Study == nil || b.worked() {
		return 0
	}
	at, _ := b.worst()
	want, _ := b.wants()
	return math.Max(0, at.Ahead(want).Readings)
}

func (b *bench) nothingText() string {
	r, err := b.options.Refuse(b.room())
	if err != nil {
		return err.Error()
	}
	return b.refusalOf(r).Text
}

// target says what a plan has to end with.
func (b *bench) target() string {
	haze := plan.Colour(b.car.Colour).Haze(b.house.shelf.Law)
	end := fmt.Sprintf("no scratch over %.2f µm (%s colour)", haze, b.car.Colour)
	switch b.aim() {
	case plan.Flat:
		return "Flat: peel grade 1.5 or less, " + end + "."
	case plan.Match:
		return fmt.Sprintf("Match: peel as beside it, grade %.1f, %s.", b.beside, end)
	case plan.NibsOnly:
		return fmt.Sprintf("Nibs only: %s filed, their places refined and polished, %s; the texture stays.", count(b.options.Job.Nibs, "nib"), end)
	}
	return fmt.Sprintf("Polish only: swirls of about %.1f µm out, %s; the texture stays.", plan.UsualSwirl, end)
}

// how tells what the house rules say of the manner.
func (b *bench) how(l plan.Ladder) []string {
	out := []string{}
	for _, q := range plan.Questions {
		key := q.Key + "." + string(b.house.rules.Of(q))
		if text := mannerWords[key]; text != "" {
			out = append(out, text)
		}
	}
	if l.Wait > 0 {
		out = append(out, fmt.Sprintf("Paper into the water %s before.", minutesText(l.Wait)))
	}
	if l.Tried > 0 {
		out = append(out, fmt.Sprintf("The finer grits are tried first on one section: %s µm there.", um(l.Tried)))
	}
	return out
}

// cautionsOf are the cautions of a sequence, each once.
func cautionsOf(l plan.Ladder) []string {
	out := []string{}
	for _, s := range l.Steps {
		kind := s.Kind
		if s.Tool == shelf.Rotary {
			kind = rotaryStep
		}
		if c := caution(kind); !slices.Contains(out, c) {
			out = append(out, c)
		}
	}
	return out
}

// guessReason says what a headroom rests on before any reading.
func guessReason(g film.Guess, h film.History) string {
	return fmt.Sprintf("Not read yet: clear %s µm at the thinnest place, %s; floor %s.", plusMinus(g.Least.Estimate()), sourceText(g.Source, h), um(g.Policy.Floor))
}

// thingName names a thing of the shelf by the stem of its constants' keys.
func thingName(s *shelf.Shelf, thing string) string {
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

// beforeText says why something may not come before the thing that is picked.
func beforeText(b plan.Before) string {
	switch {
	case b.Over > 0:
		return fmt.Sprintf("out of reach by %.2f", b.Over)
	case b.Passes == 0:
		return "too near, or too many passes"
	}
	return ""
}

// comparedText says in words what two or more schools come to.
func comparedText(rule api.HouseRule, sums []plan.Sum) string {
	if !rule.Computed {
		return "The model knows no difference in film, time or clarity: it changes how the work is told."
	}
	least := func(of func(plan.Sum) float64) (lo, hi float64) {
		lo, hi = math.Inf(1), math.Inf(-1)
		for _, s := range sums {
			if s.Reached > 0 {
				lo, hi = math.Min(lo, of(s)), math.Max(hi, of(s))
			}
		}
		return lo, hi
	}
	f0, f1 := least(func(s plan.Sum) float64 { return s.Film })
	m0, m1 := least(func(s plan.Sum) float64 { return s.Minutes })
	c0, c1 := least(func(s plan.Sum) float64 { return s.Clarity })
	if math.IsInf(f0, 1) {
		return "No school reaches what was asked for."
	}
	if f1-f0 < 0.05 && m1-m0 < 1 && c1-c0 < 0.5 {
		return "On this car it makes no difference that the model can tell."
	}
	return fmt.Sprintf("Between the schools lie %s µm of film, %s and %.0f of clarity.", um(f1-f0), minutesText(m1-m0), c1-c0)
}
