package wording

import (
	"fmt"
	"math"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
)

// unread is said where passes were made and no reading is left.
const unread = "Waits for Read: every reading was struck out, so nobody knows what is left. What was done stays in the log."

// LevelWait says why no section is in hand; empty when one is.
func (w Words) LevelWait(v *advice.Level) string {
	switch v.Wait {
	case advice.WaitsReading:
		return unread
	case advice.NibsOneByOne:
		return "Nibs are filed one by one, then each place is refined and polished."
	case advice.WaitsForRead:
		return w.Lacks(v.Panel)
	case advice.WaitsStale:
		return "Waits for Plan: what it rests on has changed since it was accepted. Look at it and accept it again."
	case advice.WaitsForRecord:
		return "Waits for Plan: accept a sequence first."
	}
	return ""
}

// Hand is the headline and the reason of what may be done next on a section.
func (w Words) Hand(h *advice.Hand) (headline, reason string) {
	switch {
	case h.Locked:
		return "stop here", w.Alarm(h.Alarm)
	case h.Stand > 0:
		return "marks first", count(h.Stand, "mark") + " here would be cut by block or machine. Work them at their place, or say why they stay, before any pass."
	case !h.Soft.IsZero():
		return "too soft", "From " + w.dayTime(h.Soft) + " the paint is hard enough for this step. Before that it tears, and scratches swell shut and come back. Going on all the same is one pass with a name and a reason (!)."
	}
	return w.advice(h.Advice, h.Of, h.Made, h.Begun, h.Standing.Through)
}

// advice is what may be done at a step of which so many passes were made on a section where
// work has begun or not; through is the chance of going through on the way to the end.
func (w Words) advice(a level.Advice, st plan.Step, made int, begun bool, through float64) (headline, reason string) {
	what := one(st)
	took := w.say("One %s takes %s.", what, plusMinus(a.Takes))
	wanted := count(made, what) + " made, as much as the plan wants."
	if made > st.Passes {
		wanted = fmt.Sprintf("%s made, the plan wants %d.", count(made, what), st.Passes)
	}
	switch {
	case a.Needed == 0 && a.Granted > 0:
		return "step done", fmt.Sprintf("%s Wipe dry and look; if it is not out yet, %s more can go.", wanted, count(a.Granted, what))
	case a.Needed == 0:
		return "step done", wanted + " Wipe dry, look, and take the next step."
	case a.Granted == 0 && !begun && through > film.ThroughRisk:
		return "leave this one", w.say("%s that it goes through. Nothing was cut here: leave it as it is and tell the owner.", sentence(oneIn(through)))
	case a.Granted == 0 && st.Kind != plan.LevelStep:
		return "shut here", w.say("%s that it goes through before the scratch is out. %s Polish over it and it shines with the scratch under it, or it gets new clear.", sentence(oneIn(through)), took)
	case a.Granted == 0 && through > film.ThroughRisk:
		return "no more here", w.say("%s that it goes through before the end. %s Nothing has happened yet: take one of the ways on.", sentence(oneIn(through)), took)
	case a.Granted == 0 && a.Room < a.Ledger.Above():
		return "no more here", w.say("Of what this finish should lose in all %s µm are left. %s Take one of the ways on.", um(math.Max(a.Room, 0)), took)
	case a.Granted == 0:
		return "no more here", w.say("After one more, less than %s µm would stay at the end with more than %s. %s Take one of the ways on.", um(a.Ledger.Floor), line(a.Ledger.Chance), took)
	case a.Read == 0:
		return "read first", fmt.Sprintf("So far the cut is only expected. Read a spot that was read before; then %s more can go if it is as expected.", count(a.Granted, what))
	case a.Granted < a.Needed:
		return "not enough film", fmt.Sprintf("The plan wants %d more, the film allows %d. Read after %s.", a.Needed, a.Granted, count(a.Read, what))
	}
	if a.Granted > a.Needed+plentyPasses {
		return "fits", count(a.Needed, what) + " to the end of this step; the film allows many more."
	}
	return "fits", fmt.Sprintf("%s to the end of this step; the film allows %d.", count(a.Needed, what), a.Granted)
}

// plentyPasses is from how many passes more than needed on their number says nothing.
const plentyPasses = 12

// passLeft says why no pass is left on a section that stands so.
func (w Words) passLeft(st level.Standing) string {
	return w.say("%s that too little stays at the end, %s that it goes through.", sentence(oneIn(st.Under)), oneIn(st.Through))
}

// Alarm says what to do now after something went wrong on a section.
func (w Words) Alarm(a level.Alarm) string {
	switch a {
	case level.AlarmThrough:
		return "Through here. Leave it, keep machine and block off it, and tell the owner: only new paint helps. Strike the entry out if it was a mistake."
	case level.AlarmColour:
		return "Colour in the slurry over clear means it is through. Stop, rinse, wipe dry and look; read the film beside it. Strike the entry out if it was something else."
	case level.AlarmScrape:
		return "Stop, rinse paper and panel, look along the lamp. Take a new sheet: what scraped is in the old one."
	}
	return ""
}

// one is what is tapped of a step: a pass of paper or a cycle of a pad.
func one(s plan.Step) string {
	if s.D50 == 0 {
		return "cycle"
	}
	return "pass"
}

// RateFrom says what the next pass takes, and where that is known from.
func (w Words) RateFrom(h *advice.Hand) string {
	r := h.RateFrom
	from := "by the shop's usual cut, nothing read yet"
	switch {
	case r.Here > 0:
		from = "from " + count(r.Here, "reading") + " after passes on this panel"
		if r.ByPerson+r.ByGrit > 0 {
			from += " and the shop's history"
		}
	case r.ByPerson > 0:
		from = "from " + count(r.ByPerson, "reading") + " after passes of " + r.Person + " on other panels"
	case r.ByGrit > 0:
		from = "from " + count(r.ByGrit, "reading") + " after passes of this grit on other panels"
	}
	return w.say("%s µm the next %s, %s.", plusMinus(h.Advice.Takes), one(h.Of), from)
}

// DryWipe says what a dry wipe should show after the plan's passes of a step.
func (w Words) DryWipe(s plan.Step) string {
	if s.Kind == plan.LevelStep {
		share := 100 * s.After.Shiny(s.Scratch)
		return fmt.Sprintf("After %s a dry wipe should show about %.0f %% still shiny. More means low spots are left.", count(s.Passes, "pass"), share)
	}
	if s.Kind == plan.RefineStep {
		return "No mark in the old direction may show. Turn the stroke and look along the lamp."
	}
	if s.Gone > 0 {
		return fmt.Sprintf("After the %s of the plan about %.0f %% of the swirls should be left: wipe with the oils off and hold the lamp over it.", count(s.Passes, "cycle"), 100*(1-s.Gone))
	}
	return fmt.Sprintf("Wipe with the oils off and look under the lamp: clarity about %.0f of 100.", s.After.Clarity())
}

// SwirlsHere says how far the swirls of a section are gone and how deep they are; empty for
// nil.
func (w Words) SwirlsHere(h *advice.SwirlsHere) string {
	if h == nil {
		return ""
	}
	if h.Removed < h.Dead.Median {
		return w.say("Of the dead layer about %s µm of %s are off here. Gloss comes when all of it is.", um(h.Removed), um(h.Dead.Median))
	}
	if h.Condition.Swirls.Median == 0 {
		return "The dead layer should be off: wipe with water and see whether it still changes."
	}
	out := fmt.Sprintf("About %.0f %% of the swirls are gone here, %.0f %% are wanted.", 100*h.Gone, 100*h.Target)
	if h.Removed == 0 {
		out = fmt.Sprintf("%.0f %% of the swirls shall go here.", 100*h.Target)
	}
	low, high := h.Swirls.Range()
	if h.Looks > 0 {
		return out + w.say(" By %s they are %s µm deep on average, %s to %s.", count(h.Looks, "look"), um(h.Swirls.Median), um(low), um(high))
	}
	return out + w.say(" They may be %s to %s µm deep: tell what is left of them (S) after the first section.", um(low), um(high))
}

// Cooling says why a section has to wait.
func (w Words) Cooling(law shelf.Law) string {
	return fmt.Sprintf("%s in a row: let it cool, take another section meanwhile.", count(int(law.WarmAfter), "cycle"))
}

// Paper says how worn the sheet, disc or pad in hand is.
func (w Words) Paper(h *advice.Hand) string {
	if h.Of.Tool == shelf.Hand {
		return fmt.Sprintf("sheet %s old, cut %.0f %%", count(h.Uses, "pass"), 100*h.CutLeft)
	}
	if h.Of.D50 > 0 {
		return fmt.Sprintf("disc %s old, cut %.0f %%", count(h.Uses, "pass"), 100*h.CutLeft)
	}
	return fmt.Sprintf("%s since it was cleaned", count(h.Uses, "cycle"))
}

// PaperKey is what the key says that a fresh sheet, disc or pad is told with.
func (w Words) PaperKey(s plan.Step) string {
	switch {
	case s.D50 == 0:
		return "Pad cleaned"
	case s.Tool == shelf.Hand:
		return "Paper changed"
	}
	return "Disc changed"
}

// Look says what the last look at the shiny share tells of the passes to flat.
func (w Words) Look(h *advice.Hand) string {
	return fmt.Sprintf("%.0f %% still shone after %s: by that %.1f ± %.1f passes more to flat, peel about %.1f now.",
		100*h.Look.Shiny, count(h.Look.Look.Passes, "pass"), h.LookLeft.Mean, h.LookLeft.SD, h.LookGrade)
}

// ReadHere says what reading would do where the film grants too little.
func (w Words) ReadHere(h *advice.Hand) string {
	return w.say("Read here: passes were made since the last reading; %s µm are kept back for doubt.", um(h.Advice.Ledger.Doubt))
}

// Way says what a way does.
func (w Words) Way(v level.Way, s *shelf.Shelf) string {
	passes := count(v.Passes, "pass")
	switch v.Code {
	case level.WayOn:
		return w.say("Go on with this: %s, %s µm, peel %.1f.", passes, um(v.Film), v.Grade)
	case level.WayFiner:
		return w.say("%s on the same backing: %s, peel %.1f; %s µm to the end. A smaller scratch to take out.", v.Abrasive.Grit, passes, v.Grade, um(v.Film))
	case level.WaySofter:
		return w.say("%s on the %s: %s, peel %.1f; %s µm to the end. It follows the peel more than it flattens.", v.Abrasive.Grit, v.Backing.Name, passes, v.Grade, um(v.Film))
	case level.WayShort:
		return w.say("The shortest end: %s. %s µm, no scratch left, the peel stays at %.1f.", w.Steps(v.Rest, s), um(v.Film), v.Grade)
	}
	if v.Abrasive.Key == "" {
		return "Leave this section as it is."
	}
	return w.say("Enough: the peel stays at %.1f, the finer grits follow.", v.Grade)
}

// Whys are all reasons of the figures of the step in hand.
func (w Words) Whys(p *panel.Panel, h *advice.Hand) []string {
	a, st := h.Advice, h.Of
	l := a.Ledger
	free := um(l.Free) + " are free"
	if l.Free < 0 {
		free = um(-l.Free) + " are missing"
	}
	out := []string{
		w.RateFrom(h),
		w.say("Clear at the thinnest place was %s µm: %s are gone, %s go with %s, %s the finer steps need, %s are kept back for doubt at %s, %s is the floor. %s.",
			plusMinus(l.Opening), um(l.Gone.Mean), um(l.Next), count(a.Left, one(st)), um(l.Reserve), um(l.Doubt), line(l.Chance), um(l.Floor), free),
	}
	if h.Source != nil {
		out = append(out, "Where the clear is known from: "+w.Source(*h.Source, p.History())+w.Share(h.Share, len(p.Study.Clear.Sources))+".")
	}
	out = append(out, fmt.Sprintf("The plan has %s of %s; by the cut as learned that is %s. %s made.", count(st.Passes, "pass"), st.Title, count(h.Wants, "pass"), count(h.Made, "pass")),
		w.say("%s that less than %s µm stay at the end; through: %s.", sentence(oneIn(h.Standing.Under)), um(l.Floor), oneIn(h.Standing.Through)))
	if a.Read > 0 && a.Granted > 0 {
		out = append(out, fmt.Sprintf("Read after %s, so that a cut that was taken for less is found in time.", count(a.Read, "pass")))
	}
	if text := w.Scratch(h.Scratches); text != "" {
		out = append(out, text)
	}
	if st.D50 > 0 && st.Stroke >= 0 {
		out = append(out, "The stroke is turned from grit to grit, so that a mark in the old direction shows what is left.")
	}
	if st.D50 == 0 {
		pad := fmt.Sprintf("Its pad is marked %s: never with another grade.", st.Title)
		if p.House.Rules.Pads == plan.OnePad {
			pad = fmt.Sprintf("The house leads one pad for all: clean it before %s goes on.", st.Title)
		}
		out = append(out, pad)
	}
	return out
}

// Scratch says what of the last scratch is still to be taken out; empty for none.
func (w Words) Scratch(s level.Scratches) string {
	if s.Old <= 0 {
		return ""
	}
	if s.Passes == 0 {
		return fmt.Sprintf("The last scratch is buried: %.1f %% of it still show.", 100*s.Showing)
	}
	return fmt.Sprintf("Of the last scratch, %.1f µm deep, %.0f %% still show: it is buried in %s more.", s.Old, 100*s.Showing, count(s.Passes, "pass"))
}

// MayNot says why somebody may not run a step; empty where they may.
func (w Words) MayNot(title, person, limit string) string {
	if limit == "" {
		return ""
	}
	return fmt.Sprintf("%s is coarser than %s may run, %s and finer. Take a section that is further on, or let somebody else make the passes.", title, person, limit)
}

// Again says what going back to an earlier step takes, and whether it fits.
func (w Words) Again(a advice.Again) string {
	text := w.say("%s of %s and every finer step once more take %s µm; %s can go. ", count(a.Passes, "pass"), a.Title, plusMinus(a.Takes), um(a.Room))
	switch {
	case !a.Fits:
		return text + "It does not fit. Leave it, or polish it."
	case !a.Ready:
		return text + "Read the film here first: nothing was read since the last pass."
	}
	return text + "It fits by the readings as they are."
}

// Learned says what a learned cut rests on.
func (w Words) Learned(l level.Learned) string {
	if l.Readings == 0 {
		return "nothing read yet"
	}
	return fmt.Sprintf("from %s after passes", count(l.Readings, "reading"))
}

// MayRun says what somebody may run.
func (w Words) MayRun(coarsest string) string {
	if coarsest == "" {
		return "any grit"
	}
	return coarsest + " and finer"
}

// Late says how late an entry came, and what would have stopped it in time.
func (w Words) Late(e facts.Entry) string {
	out := "came late"
	if after := e.Kept.Sub(e.At); after >= time.Minute {
		out = minutes(after.Minutes()) + " late"
	}
	switch e.Flag {
	case facts.FlagThrough:
		return out + "; nothing more was to be cut here"
	case facts.FlagLimit:
		return out + "; coarser than " + e.Person + " may run"
	}
	return out
}

// Next says what to do next on a car.
func (w Words) Next(n panel.Next) string {
	if n.Task == "" {
		return "Open the car"
	}
	o := n.Outline
	switch n.Task {
	case level.TaskLevel:
		if !n.From.IsZero() {
			return "Too soft: level from " + w.dayTime(n.From)
		}
		return "Level " + n.Section
	case level.TaskProve:
		return "Prove it: wipe, look, photograph"
	case level.TaskKept:
		return "Found good, ready to hand over"
	case level.TaskSpot:
		return "Spot " + count(o.OpenMarks, "mark")
	case level.TaskPolish:
		return "Plan the polish"
	case level.TaskLookOver:
		return "Look it over"
	case level.TaskRead:
		return "Read " + count(o.Missing(), "spot")
	}
	return "Plan the grits"
}
