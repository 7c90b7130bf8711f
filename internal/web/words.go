package web

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

// The sentences of the screens, made here from codes and values so that every
// screen says the same. Numbers are rounded to what is known.

func plusMinus(e film.Estimate) string { return um(e.Mean) + " ± " + um(e.SD) }

// stateReason says why a section has its state.
func stateReason(st level.Standing, floor float64) string {
	clear := fmt.Sprintf("clear %s µm at the thinnest place, floor %s", plusMinus(st.Clear), um(floor))
	switch st.Reason {
	case film.WhyGateShut:
		return fmt.Sprintf("Shut here: %s µm of film in all, and %s is the line. Fine polish only.", um(st.Film.Mean), um(film.GateShut))
	case film.WhyGateAsk:
		return fmt.Sprintf("Tight: %s µm of film in all, under %s. Somebody has to answer for it; %s.", um(st.Film.Mean), um(film.GateAsk), clear)
	case film.WhyBelow:
		return fmt.Sprintf("Shut here: %s. Polish only, read more spots, or ask the owner about a respray.", clear)
	case film.WhyThin:
		return fmt.Sprintf("Shut here: the aim takes %s µm and %s may go; %s. More readings or a softer aim may open it.", um(st.Spend), um(math.Max(st.Headroom, 0)), clear)
	case film.WhyChecks:
		return fmt.Sprintf("Tight: the aim takes %s µm and %s may go at 1 in 20; fits only with readings between passes.", um(st.Spend), um(math.Max(st.Headroom, 0)))
	}
	return fmt.Sprintf("Fits: the aim takes %s µm and %s may go; %s.", um(st.Spend), um(st.Headroom), clear)
}

// sourceText says in words where a value of the clear comes from.
func sourceText(s film.Source, h film.History) string {
	switch s.Kind {
	case film.FromBefore:
		return "read before the clear went on"
	case film.FromCoats:
		n := float64(h.Coats)
		text := fmt.Sprintf("a guess from %s at %s ± %s µm a coat", count(h.Coats, "coat"), um(s.Mean/n), um(s.SD/n))
		if h.Ratio.Panels > 0 {
			text += fmt.Sprintf(", as %s read before clear showed here", count(h.Ratio.Panels, "panel"))
		}
		return text
	case film.FromShare:
		return fmt.Sprintf("a guess: %.0f of 100 parts of a factory finish", 100*h.ClearShare().Mean)
	case film.FromDirect:
		return "read by a gauge that resolves layers"
	case film.FromNeighbours:
		return "lent by the panels beside it that were sprayed with it, doubt doubled"
	case film.FromSingle:
		return "a guess: single stage, the colour coat itself"
	}
	return "a guess: refinished, nobody knows how; two coats at most"
}

// shareText says what a source counts among several.
func shareText(c film.Clear, i int) string {
	if len(c.Sources) < 2 {
		return ""
	}
	return fmt.Sprintf(" (counts %.0f in 100)", 100*c.Shares[i])
}

func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "s") {
		return fmt.Sprintf("%d %ses", n, what)
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// flagText says what the readings show about a panel's past.
func flagText(f film.Flag) string {
	switch f.Code {
	case film.FlagRefinished:
		return fmt.Sprintf("Refinished here: %.1f times the car's factory panels.", f.Value)
	case film.FlagRepair:
		return fmt.Sprintf("Repair likely: one spot reads %s µm, the panel's lower quarter is under %s.", um(f.Value), um(f.Limit/1.35))
	case film.FlagOdd:
		return "Read before the clear is as much as the whole film: a wrong panel or unit? It does not count."
	case film.FlagFiller:
		return fmt.Sprintf("Filler likely: one spot reads %s µm.", um(f.Value))
	}
	return fmt.Sprintf("Thin spot: one place reads %s µm, cut before.", um(f.Value))
}

// oddText says why a reading does not fit its panel, and what it may have been.
func oddText(read float64, o film.Odd) string {
	side := "above"
	if read < o.Expected.Mean {
		side = "below"
	}
	text := fmt.Sprintf("%s µm is far %s what this panel reads (%s µm).", um(read), side, plusMinus(o.Expected))
	switch o.Code {
	case film.OddMil:
		return text + fmt.Sprintf(" Probe lifted, or mil instead of µm? As mil it is %s µm.", um(o.Meant))
	case film.OddMicron:
		return text + fmt.Sprintf(" µm instead of mil? Then it is %s µm.", um(o.Meant))
	case film.OddDigit:
		return text + fmt.Sprintf(" A slip of a digit? %s µm would fit.", um(o.Meant))
	case film.OddLow:
		return text + " Probe lifted or tilted, or cut before? Read it again here."
	}
	return text + " Filler, a repair, or another panel? Read it again here."
}

// aheadText says what more readings of a panel would settle.
func aheadText(a film.Ahead, section string) string {
	if a.Settle == 0 {
		return "More readings change no decision here."
	}
	text := fmt.Sprintf("%s more would settle the %s", count(a.Settle, "reading"), section)
	if a.To == a.Now {
		return text + "."
	}
	return text + fmt.Sprintf(": %s now, and %.0f in 100 that it changes, likely to %s.", a.Now, 100*a.Change[len(a.Change)-1], a.To)
}

// helpsText says what would help more than readings, where it would.
func helpsText(a film.Ahead, notOpen int) string {
	const worth = 1.0 // µm
	if notOpen == 0 || a.Clear < worth || a.Clear < a.Readings+worth {
		return ""
	}
	return fmt.Sprintf("What would help more: knowing the clear. Read before it went on, or with a gauge that resolves layers, it would likely give %s µm of headroom; more readings give %s µm.",
		um(a.Clear), um(math.Max(a.Readings, 0)))
}

// nextWhy says why the next spot is the next.
func nextWhy(b *bench, next film.Estimate, least int) string {
	switch {
	case b.lent != nil:
		return "Plastic: a magnetic or eddy-current gauge reads nothing here. The film is lent by its neighbours, doubt doubled; read those more closely to know more here."
	case b.row.Substrate == "plastic":
		return "Plastic: a magnetic or eddy-current gauge reads nothing here. It borrows from neighbours of the same spraying, once they are read."
	case b.opened.Study == nil:
		return "No readings on this panel. Zero the gauge on bare steel, then put the probe on cross 1. Five spots are enough to start."
	case least > 0:
		return fmt.Sprintf("Widest doubt near the floor: expected %s µm. %s more and the plan can be judged.", plusMinus(next), count(least, "spot"))
	}
	return fmt.Sprintf("Widest doubt near the floor: expected %s µm. The plan can be judged; more spots narrow the doubt.", plusMinus(next))
}

// cautions of a sequence, each short and at its place.
func caution(k plan.StepKind) string {
	const sheet = " The product's safety sheet and the shop's rules decide."
	switch k {
	case plan.LevelStep:
		return "Keep the slurry out of drains and off the skin; mains tools need a residual-current device near water." + sheet
	case rotaryStep:
		return "Rotary: clamp loose parts, tie back sleeves, eye and ear protection, keep moving off edges: heat burns." + sheet
	case plan.FileStep:
		return "Small block on the nib only; a gritty feel means stop, rinse, look." + sheet
	case plan.RefineStep:
		return "Cords overhead and dry, disc flat and clean; stop at any scraping sound." + sheet
	}
	return "Eye and ear protection, sleeves tied back, pad runs off edges and never onto them. Stop before heat builds." + sheet
}

// rateFrom says where the film of a pass is known from.
func (b *bench) rateFrom(rate film.Estimate, step int) string {
	who := b.workers()[step]
	person, class := b.hands.Readings(who, level.Classes(*b.ladder)[step])
	from := "by the shop's usual cut, nothing read yet"
	switch reads := b.opened.Work.Readings(); {
	case reads > 0:
		from = "from " + count(reads, "reading") + " after passes on this panel"
		if person+class > 0 {
			from += " and the shop's history"
		}
	case person > 0:
		from = "from " + count(person, "reading") + " after passes of " + who + " on other panels"
	case class > 0:
		from = "from " + count(class, "reading") + " after passes of this grit on other panels"
	}
	return fmt.Sprintf("%.2f ± %.2f µm a pass, %s.", rate.Mean, rate.SD, from)
}

// advice gives the headline and the reason of what may be done next.
func advice(a level.Advice, st plan.Step) (headline, reason string) {
	took := fmt.Sprintf("One pass takes %s.", plusMinus(a.Takes))
	switch {
	case a.Granted == 0:
		if a.Room < a.Ledger.Above() {
			return "shut here", fmt.Sprintf("The clear holds, but of what may be spent of this finish in all %s µm are left. %s Nothing is hurt.", um(math.Max(a.Room, 0)), took)
		}
		side, far := "above", a.Ledger.Above()
		if far < 0 {
			side, far = "short of", -far
		}
		return "shut here", fmt.Sprintf("%s µm %s the floor when the doubt and the finer steps are counted. %s Nothing is hurt.", um(far), side, took)
	case a.Needed == 0:
		return "step done", fmt.Sprintf("The plan's %s are made; the film allows %d more. Wipe dry and look before the next grit.", count(st.Passes, "pass"), a.Granted)
	case a.Read == 0:
		return "read first", fmt.Sprintf("Half of what was granted is used. Read a spot that was read before; the film allows %d more.", a.Granted)
	case a.Granted < a.Needed:
		return "not enough film", fmt.Sprintf("The plan wants %d more, the film allows %d. Read after %s.", a.Needed, a.Granted, count(a.Read, "pass"))
	}
	return "fits", fmt.Sprintf("%d finish this step; the film allows %d.", a.Needed, a.Granted)
}

// dryWipe says what a dry wipe should show after the plan's passes.
func dryWipe(s plan.Step) string {
	if s.Kind == plan.LevelStep {
		share := 100 * s.After.Shiny(s.Scratch)
		return fmt.Sprintf("After %s a dry wipe should show about %.0f %% still shiny. More means low spots are left.", count(s.Passes, "pass"), share)
	}
	if s.Kind == plan.RefineStep {
		return "No mark in the old direction may show. Turn the stroke and look along the lamp."
	}
	return fmt.Sprintf("Wipe with the oils off and look under the lamp: clarity about %.0f of 100.", s.After.Clarity())
}

// paperState says how worn the sheet or pad in hand is.
func paperState(s plan.Step, since int, left float64) string {
	if s.Tool == shelf.Hand {
		return fmt.Sprintf("sheet %s old, cut %.0f %%", count(since, "pass"), 100*left)
	}
	if s.D50 > 0 {
		return fmt.Sprintf("disc %s old, cut %.0f %%", count(since, "pass"), 100*left)
	}
	return fmt.Sprintf("%s since it was cleaned", count(since, "cycle"))
}

// paperWord is what the key says that a fresh sheet, disc or pad is told with.
func paperWord(s plan.Step) string {
	switch {
	case s.D50 == 0:
		return "Pad cleaned"
	case s.Tool == shelf.Hand:
		return "Paper changed"
	}
	return "Disc changed"
}
