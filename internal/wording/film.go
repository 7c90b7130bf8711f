package wording

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/gauge"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
)

// State says why a section has its state.
func (w Words) State(st level.Standing, floor float64) string {
	needs := w.say("needs %s µm; ", um(st.Spend))
	less := w.say("%s that less than %s µm stays", oneIn(st.Under), um(floor))
	clear := w.say("clear %s µm at its thin end", plusMinus(film.Estimate{Mean: math.Max(st.Clear.Mean, 0), SD: st.Clear.SD}))
	switch st.Reason {
	case film.WhyGateShut:
		return w.say("Shut here: %s µm of film in all; from %s down nothing but a fine polish.", um(st.Film.Mean), um(film.GateShut))
	case film.WhyThrough:
		return w.say("Shut here: %s%s that it goes through; %s.", needs, oneIn(st.Through), clear)
	case film.WhyCap:
		return w.say("Shut here: %sa factory finish of this clear should lose %s µm at most.", needs, um(math.Max(st.Room, 0)))
	case film.WhyBelow:
		return w.say("Shut here: %s already; %s.", less, clear)
	case film.WhyThin:
		return w.say("Shut here: %s%s; %s.", needs, less, clear)
	case film.WhyFiller:
		return w.say("Tight: %s µm in all is filler, and filler tells nothing of the clear on it: %s by what was said. Read beside it, and keep off its edges; %s.", um(st.Film.Mean), clear, less)
	case film.WhyUnlike:
		return w.say("Tight: %s µm in all and what was said of it do not agree. Read again, and ask what lies under it and how many coats; %s by what was said, %s.", um(st.Film.Mean), clear, less)
	case film.WhyLocked:
		return "Shut here: it is through, or colour showed in the slurry. Nothing more is cut."
	case film.WhyFinish:
		return w.say("Tight: the floor is likely passed (%s); the scratches that stand are taken out first, and no more; %s.", less, clear)
	case film.WhyUnder:
		return w.say("Tight: %s already; only spots are cut; %s.", less, clear)
	case film.WhyGateAsk:
		return w.say("Tight: %s%s µm of film in all, under %s. Read between passes and tell the owner; %s.", needs, um(st.Film.Mean), um(film.GateAsk), less)
	case film.WhyChecks:
		return w.say("Tight: %s%s can go without asking; %s. Read between passes and tell the owner; %s.", needs, um(st.CanGo()), less, clear)
	}
	return w.say("Fits: %s%s can go; %s, through %s; %s.", needs, um(st.CanGo()), less, oneIn(st.Through), clear)
}

// Source says where a value of the clear comes from.
func (w Words) Source(s film.Source, h film.History) string {
	switch s.Kind {
	case film.FromBefore:
		return "read before the clear went on"
	case film.FromUnder:
		return "the total less what lies under the clear: " + underWords(h.Under)
	case film.FromCoats:
		if h.Finish != film.Refinished || h.Coats == 0 {
			return "a guess: one to four coats, two or three most likely"
		}
		n := float64(h.Coats)
		text := w.say("a guess from %s at %s ± %s µm a coat", count(h.Coats, "coat"), um(s.Mean/n), um(s.SD/n))
		if h.Ratio.Panels > 0 {
			text += fmt.Sprintf(", as %s read before clear showed here", count(h.Ratio.Panels, "panel"))
		}
		return text
	case film.FromShare:
		return fmt.Sprintf("a guess: %.0f %% of a factory finish", 100*h.ClearShare().Mean)
	case film.FromDirect:
		return "read by a gauge that resolves layers"
	case film.FromBare:
		return "the total less a place of the same part without clear"
	case film.FromNeighbours:
		return "lent by the panels beside it that were sprayed with it, doubt doubled"
	case film.FromSingle:
		return "a guess: single stage, the colour coat itself"
	}
	return ""
}

// underWords names what lies under a refinish.
func underWords(u clearcoat.Under) string {
	switch u {
	case clearcoat.UnderNew:
		return "a new or bare part"
	case clearcoat.UnderOver:
		return "the old finish, sanded"
	}
	return "nobody said what"
}

// Share says what a source counts among several; empty where it is the only one.
func (w Words) Share(of float64, sources int) string {
	if sources < 2 {
		return ""
	}
	return fmt.Sprintf(" (%.0f %% of what is known)", 100*of)
}

// Flag says what the readings show about a panel's past.
func (w Words) Flag(f film.Flag) string {
	switch f.Code {
	case film.FlagRefinished:
		return fmt.Sprintf("Refinished here: %.1f times the car's factory panels.", f.Value)
	case film.FlagRepair:
		return w.say("Repair likely: one spot reads %s µm, the panel's lower quarter is under %s.", um(f.Value), um(f.Lower))
	case film.FlagOdd:
		return "Read before the clear is as much as the whole film: a wrong panel or unit? It does not count."
	case film.FlagFactoryCoats:
		return "A factory finish and " + count(int(f.Value), "coat") + " of ours do not go together: which one holds? Change it under facts; until then it counts as factory paint."
	case film.FlagUnderCoats:
		return w.say("%s µm in all and coats of clear of %s µm do not go together: another panel, a slip, or fewer coats?", um(f.Limit), um(f.Value))
	case film.FlagFiller:
		return w.say("Filler likely: one spot reads %s µm.", um(f.Value))
	}
	return w.say("Thin spot: one place reads %s µm, cut before.", um(f.Value))
}

// Odd says why a reading does not fit its panel, and what it may have been.
func (w Words) Odd(read float64, o film.Odd) string {
	side := "above"
	if read < o.Expected.Mean {
		side = "below"
	}
	text := w.say("%s µm is far %s what this panel reads (%s µm).", typed(read), side, plusMinus(o.Expected))
	switch o.Code {
	case film.OddMil:
		return text + w.say(" Probe lifted, or mil instead of µm? As mil it is %s µm.", typed(o.Meant))
	case film.OddMicron:
		return text + w.say(" µm instead of mil? Then it is %s µm.", typed(o.Meant))
	case film.OddDigit:
		return text + w.say(" A slip of a digit? %s µm would fit.", typed(o.Meant))
	case film.OddLow:
		return text + " Probe lifted or tilted, or cut before? Read it again here."
	}
	return text + " Filler, a repair, or another panel? Read it again here."
}

// Ahead says what more readings of a panel would settle. After two rounds that settled
// nothing it asks for no more.
func (w Words) Ahead(a panel.Ahead) string {
	best := a.Best
	switch {
	case best.Settle == 0:
		return "More readings change no decision here."
	case a.Rounds >= mostRounds:
		return fmt.Sprintf("%d readings more than usual did not settle the %s: others will hardly do it.", a.Rounds*film.AheadAsk, a.Section)
	}
	text := fmt.Sprintf("%s more would settle the %s", count(best.Settle, "reading"), a.Section)
	if best.To == best.Now {
		return text + "."
	}
	return text + fmt.Sprintf(": %s now, %s that it changes, likely to %s.", best.Now, oneIn(best.Change), best.To)
}

// mostRounds is how many rounds of readings are asked for.
const mostRounds = 2

// Helps says what would help where a section is not open, the two best.
func (w Words) Helps(a panel.Ahead) string {
	const most = 2
	var out []string
	for _, h := range a.Helps[:min(len(a.Helps), most)] {
		out = append(out, fmt.Sprintf("%s %s: %s", helpHeads[h.Code], w.helpsWith(h, a.Floor), w.Wanted(h)))
	}
	switch {
	case a.HelpsAt == "":
		return ""
	case out == nil:
		return "What can be done all the same stands in Plan."
	}
	return "What would help at the " + a.HelpsAt + ". " + strings.Join(out, " ")
}

// NextSpot says why the next spot is the next.
func (w Words) NextSpot(r *advice.Read) string {
	if d := advice.Disputed(r.Panel); len(d) > 0 {
		return fmt.Sprintf("Two readings at %s, %s differ more than the gauge does: read it a third time, and the middle one counts.", w.length(d[0].X), w.length(d[0].Y))
	}
	var expected film.Estimate
	if len(r.Next) > 0 && r.Next[0].Total != nil {
		expected = *r.Next[0].Total
	}
	switch missing := r.Outline().Missing(); {
	case r.Guesses():
		return "Plastic: a magnetic or eddy-current gauge reads nothing here, and nothing was read beside it that was sprayed with it. The clear is only what is said of its coats; an ultrasonic gauge reads it: type that in as the clear alone."
	case r.Borrows():
		return "Plastic: a magnetic or eddy-current gauge reads nothing here. The film is lent by its neighbours, doubt doubled; read those more closely to know more here."
	case r.Substrate == facts.Plastic:
		return "Plastic: a magnetic or eddy-current gauge reads nothing here. It borrows from neighbours of the same spraying, once they are read."
	case r.Study == nil:
		return "No readings on this panel. Zero the gauge on bare steel, then put the probe on cross 1. Five spots are enough to start."
	case len(r.Next) == 0:
		return "Every place that can be read well was read. The plan can be judged; M places one more by hand."
	case missing > 0:
		return w.say("Widest doubt near the floor: expected %s µm. %s more and the plan can be judged.", plusMinus(expected), count(missing, "spot"))
	}
	return w.say("Widest doubt near the floor: expected %s µm. The plan can be judged.", plusMinus(expected))
}

// Lacks says what is missing before a plan of a panel can be judged; empty for nothing.
func (w Words) Lacks(p *panel.Panel) string {
	switch p.Lacks() {
	case panel.LacksSection:
		return "This panel has no place " + w.length(25) + " off its edges: nothing of it is worked by block or disc."
	case panel.LacksNeighbours:
		return "Plastic carries no reading. It borrows from neighbours of the same spraying: read those first."
	case panel.LacksReadings:
		return "Waits for Read: " + count(film.EnoughSpots, "spot") + ". You can plan now; every offer is shown as tight until they are in."
	case panel.LacksMore:
		return "Waits for Read: " + count(p.Outline().Missing(), "spot") + " more. The figures rest on " + count(len(p.Live()), "reading") + "."
	}
	return ""
}

// AimFilm says what the film that an aim asks for is for.
func (w Words) AimFilm(v panel.AimFilm) string {
	if !v.Reachable {
		return "an aim that nothing on the shelf leads to"
	}
	return map[plan.Aim]string{plan.PolishOnly: "the mildest polish", plan.NibsOnly: "spotting a nib, with its finish",
		plan.Match: "the mildest way to the texture beside it", plan.Flat: "the mildest way to flat"}[v.Aim]
}

// Strip names a part of a panel that is kept out of its sections.
func (w Words) Strip(key string) string {
	return map[string]string{film.StripCreases: "along creases", film.StripBorder: "taped edges"}[key]
}

// Guess says what a headroom rests on before any reading.
func (w Words) Guess(g film.Guess, h film.History) string {
	return w.say("Not read yet: clear %s µm at its thin end, %s; floor %s.", plusMinus(g.Least.Estimate()), w.guessedFrom(g, h), um(g.Policy.Floor))
}

// GuessFrom says where the clear of an unread panel is guessed from.
func (w Words) GuessFrom(g cars.Guess) string { return w.guessedFrom(g.Guess, g.History) }

func (w Words) guessedFrom(g film.Guess, h film.History) string {
	s, _ := g.Clear.Decides()
	if s.Kind == film.FromCoats && h.Finish == film.Refinished && h.Coats > 0 {
		return "a guess from " + count(h.Coats, "coat")
	}
	return w.Source(*s, h)
}

// Promise says what may be promised on a guess.
func (w Words) Promise(g cars.Guess) string {
	takes := w.say("%s takes about %s µm and %s must stay", capital(aimWords[g.Aim]), um(g.Need), um(g.Policy.Floor))
	switch g.State {
	case film.Open:
		first := "sanded"
		if g.Aim == plan.PolishOnly {
			first = "polished"
		}
		return takes + ": it should fit. Read it before it is " + first + "."
	case film.Tight:
		return takes + ": tight on a guess. Read it before anything is promised."
	}
	return takes + ": likely too much for it. Read it, or ask what lies under it, before anything is promised."
}

// GaugeCheck says how the last check of a gauge stands.
func (w Words) GaugeCheck(g *house.Gauge) string {
	c := g.Check
	if c == nil {
		return "Zero and foil were never looked at: zero it on bare metal and write down what it shows."
	}
	at := w.dayTime(c.At)
	switch {
	case c.Fault == film.CheckZero:
		return w.say("Off at zero on %s: it shows %s µm on bare metal, %s may be. Zero it and check again.", at, um(c.Off), um(c.May))
	case c.Fault == film.CheckFoil:
		return w.say("Off on the foil of %s µm on %s: %s µm, %s may be. Calibrate it before you read.", um(c.Foil), at, um(c.Off), um(c.May))
	case c.Old:
		return fmt.Sprintf("Last checked %s, over a day ago: zero it on bare metal and check again.", at)
	}
	return fmt.Sprintf("Checked %s, as it should be.", at)
}

// Row says what became of a row of a file.
func (w Words) Row(r keep.ImportRow) string {
	text := ""
	switch r.Fault {
	case keep.RowFine:
		switch {
		case r.Known:
			return "kept before; adds nothing"
		case r.Placed:
			return "new reading, placed on a regular pattern"
		}
		return "new reading"
	case keep.RowUnreadable:
		text = ended(capital(r.Row.Fault))
	case keep.RowNoPanel:
		text = "it names no panel: add a column panel, or import it on the panel that was read."
	case keep.RowOtherPanel:
		text = fmt.Sprintf("no panel of this car is called %q; the nearest is %s.", r.Row.Panel, r.Nearest)
	case keep.RowPlastic:
		text = fmt.Sprintf("the %s is plastic: a magnetic or eddy-current gauge reads nothing there.", r.Panel.Name)
	case keep.RowPlace:
		text = w.Refusal(r.Refusal)
	case keep.RowNoRoom:
		text = "there is no room left for a reading without a place: add x and y in mm."
	case keep.RowAhead:
		text = fmt.Sprintf("Its time, %s, lies ahead. Set the gauge's clock, or leave the time out.", r.Time)
	}
	return fmt.Sprintf("Row %d: %s", r.Line, text)
}

// Held says how a reading that was just kept stands against what the map expected.
func (w Words) Held(r panelwork.KeptReading) string {
	text := w.say("Reading %d kept: %s µm", r.No, typed(r.Film))
	switch {
	case r.Expected == nil:
		return text + "."
	case r.Expected.Covers(r.Film):
		return text + ", as expected."
	}
	return text + w.say(", far from the %s expected: read again here.", plusMinus(*r.Expected))
}

// UsualRules says what the house rules are set to in a new shop.
func (w Words) UsualRules() string {
	return w.say("House rules are set to usual values: floor %s µm on fresh clear, %s on factory paint, risk 1 in 20.",
		um(film.PolicyFor(film.Refinished).Floor), um(film.PolicyFor(film.FactoryFinish).Floor))
}

// Probe says how the gauge that sends stands; the zero status is of none that is looked
// for.
func (w Words) Probe(st gauge.Status) string {
	text := "No gauge found at " + st.Addr + ". Type the number."
	switch {
	case st.Addr == "":
		return "No gauge is looked for. Type the number."
	case st.Connected:
		text = fmt.Sprintf("%s is sending.", st.Gauge)
		if !st.ZeroedAt.IsZero() {
			text += " Last zero " + w.clock(st.ZeroedAt) + "."
		}
	case st.Known:
		text = fmt.Sprintf("Gauge stopped sending at %s. Type the number; it is marked as typed.", w.clock(st.HeardAt))
	}
	if st.Refused > 0 {
		text += fmt.Sprintf(" %s not understood, the last: %s.", count(st.Refused, "line"), st.LastRefused)
	}
	return text
}

// Shot says what a gauge sent.
func (w Words) Shot(m gauge.Line) string {
	if m.Type == gauge.Shot {
		return w.say("%s µm at %s", um(m.FilmUM), w.clock(*m.At))
	}
	return fmt.Sprintf("No reading at %s: %s.", w.clock(*m.At), m.Why)
}
