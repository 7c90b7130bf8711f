package web

import (
	"fmt"
	"math"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
)

// The sentences about marks, for the painter with numbers, for the owner without.

var aimWords = map[plan.Aim]string{
	plan.NibsOnly: "nibs only", plan.Match: "match", plan.Flat: "flat", plan.PolishOnly: "polish only",
}

// markText says what will be done about a mark and why.
func markText(j judged, aim plan.Aim) string {
	if j.row.Outcome != store.OutcomeOpen {
		return outcomeText(j.row)
	}
	v := j.Verdict
	relief := plusMinus(v.Relief)
	may := um(math.Max(v.Room, 0)) + " may go"
	if aim.Levels() && j.place.Known {
		may += " beside the panel's own steps"
	}
	switch v.Do {
	case marks.DoSpot:
		text := fmt.Sprintf("Spot it with the small block before any machine; takes %s µm there", um(v.Film))
		if j.plastic {
			return text + ". No gauge reads on plastic."
		}
		if !j.place.Known {
			return text + ". Film not read yet."
		}
		return text + fmt.Sprintf(" more, %s.", may)
	case marks.DoShave:
		how := fmt.Sprintf("Shave %s µm down to %s, then block", relief, um(v.Rest))
		if v.Rest >= v.Relief.Mean {
			how = fmt.Sprintf("Block the %s µm, no blade needed", relief)
		}
		text := how + fmt.Sprintf("; takes %s µm there, up to %s of it beside the crest.", um(v.Film), um(1))
		if v.Why == marks.WhySoft {
			return fmt.Sprintf("Soft inside until about %s. Then: %s%s", dayTime(v.Ready), strings.ToLower(text[:1]), text[1:])
		}
		if !j.place.Known {
			text += " Film not read yet."
		}
		return text
	case marks.DoPanel:
		if v.Why == marks.WhyTexture {
			return "Goes with the levelling of the panel."
		}
		return fmt.Sprintf("Goes with the panel: %s µm deep, the levelling takes more everywhere.", relief)
	case marks.DoClear:
		return fmt.Sprintf("Comes out at its place: %s µm deep, takes %s more there, %s.", relief, um(v.Film), may)
	case marks.DoSoften:
		return softenText(v, relief, may)
	case marks.DoPolish:
		return "A fine polish takes it, half a µm at most."
	case marks.DoKeepOff:
		return "Tape it and keep off: tools bite on edges, and the film is thin here."
	case marks.DoRespray:
		return "Leave and tell: down to the colour. Only new clear helps."
	case marks.DoRead:
		if j.plastic {
			return "No gauge reads on plastic: what may go here is not known. Ask who sprayed it, or leave and tell."
		}
		return "Read the film first: what may go here is not known."
	}
	return leaveText(j, relief, may, aim)
}

func softenText(v marks.Verdict, relief, may string) string {
	if v.Why == marks.WhyNoSanding {
		return fmt.Sprintf("Soften and tell: %s µm deep, and polish only takes half a µm.", relief)
	}
	return fmt.Sprintf("Soften and tell: %s µm deep, %s; about %.0f %% of its depth stays.", relief, may, math.Max(100*v.Left, 1))
}

func leaveText(j judged, relief, may string, aim plan.Aim) string {
	switch j.Verdict.Why {
	case marks.WhyGate:
		return fmt.Sprintf("Leave and tell: %s µm of film in all, and %s is the line for sanding.", um(j.place.Total.Mean), um(film.GateShut))
	case marks.WhyNoSanding, marks.WhyTextStays:
		return fmt.Sprintf("Stays: the aim here is %s.", aimWords[aim])
	case marks.WhyNoFilm:
		if j.Kind == marks.Peel {
			return "Stays: the film does not allow levelling here."
		}
		return fmt.Sprintf("Leave and tell: its spot takes %s µm and %s.", um(math.Max(j.Need, j.Film)), may)
	}
	return fmt.Sprintf("Leave and tell: %s µm deep, %s. Chasing it thins everything around it.", relief, may)
}

func outcomeText(r store.Mark) string {
	text := map[string]string{store.OutcomeGone: "Gone", store.OutcomeSoft: "Softened", store.OutcomeLeft: "Left"}[r.Outcome]
	if r.OutcomeReason != "" {
		text += ": " + strings.TrimSuffix(r.OutcomeReason, ".")
	}
	if r.SpentUM > 0 {
		text += fmt.Sprintf("; took about %s µm there", um(r.SpentUM))
	}
	return text + "."
}

func dayTime(t time.Time) string { return t.Local().Format("2 Jan 15:04") }

var doWords = []struct {
	do   marks.Do
	word string
}{
	{marks.DoSpot, "to spot"}, {marks.DoShave, "to shave and block"}, {marks.DoPanel, "with the panel"}, {marks.DoClear, "to work out"},
	{marks.DoPolish, "to polish"}, {marks.DoSoften, "to soften and tell"}, {marks.DoLeave, "left and told"}, {marks.DoRespray, "for a respray"},
	{marks.DoKeepOff, "to keep off"}, {marks.DoRead, "wait for readings"},
}

// countText says what will be done about the open marks of one kind.
func countText(open []judged) string {
	if len(open) == 0 {
		return "all closed"
	}
	n := map[marks.Do]int{}
	for _, j := range open {
		n[j.Do]++
	}
	var parts []string
	for _, w := range doWords {
		switch {
		case n[w.do] == len(open):
			return w.word
		case n[w.do] > 0:
			parts = append(parts, fmt.Sprintf("%d %s", n[w.do], w.word))
		}
	}
	return strings.Join(parts, ", ")
}

func minutes(seconds float64) string {
	m := seconds / 60
	if m < 90 {
		return fmt.Sprintf("%.0f min", math.Max(m, 1))
	}
	return fmt.Sprintf("%.1f h", m/60)
}

// tallyText says what to do about the spots of a panel as a whole.
func tallyText(s marks.Sum, aim plan.Aim, known bool) string {
	film := ""
	if s.Panel.Film > 0 && s.Spot.Film > 0 {
		film = fmt.Sprintf(" Film: %s µm at each spot against %s everywhere.", um(s.Spot.Film), um(s.Panel.Film))
	}
	switch {
	case s.Spot.Seconds == 0 && s.Nibs > 0:
		return "The aim or the film leaves them where they are."
	case s.Spot.Seconds == 0:
		return "No marks to spot."
	case s.Panel.Seconds == 0:
		return fmt.Sprintf("Spot each with the small block, about %s.", minutes(s.Spot.Seconds))
	case s.Quicker == "panel":
		return fmt.Sprintf("More than %d nibs: the whole panel is quicker, about %s against %s.%s", s.Even-1, minutes(s.Panel.Seconds), minutes(s.Spot.Seconds), film)
	case aim.Levels():
		return fmt.Sprintf("Spot each before the machine, about %s; the panel takes %s.%s", minutes(s.Spot.Seconds), minutes(s.Panel.Seconds), film)
	case !known:
		return fmt.Sprintf("Spot each with the small block, about %s; from %d nibs the whole panel is quicker.", minutes(s.Spot.Seconds), s.Even)
	}
	return fmt.Sprintf("Spot each with the small block, about %s; the whole panel takes %s, quicker from %d nibs.%s", minutes(s.Spot.Seconds), minutes(s.Panel.Seconds), s.Even, film)
}

// guessText says what may be promised on a guess.
func guessText(need, floor float64, state film.State, aim plan.Aim) string {
	takes := fmt.Sprintf("%s takes about %s µm and %s must stay", capital(aimWords[aim]), um(need), um(floor))
	switch state {
	case film.Open:
		return takes + ": it should fit. Read it before it is sanded."
	case film.Tight:
		return takes + ": tight on a guess. Read it before anything is promised."
	}
	return takes + ": shut on a guess that wide. Readings decide it; promise nothing before."
}

func capital(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// guessFrom says where the clear of an unread panel is guessed from.
func guessFrom(src film.Source, h film.History) string {
	if src.Kind == film.FromCoats {
		return "a guess from " + count(h.Coats, "coat")
	}
	return sourceText(src, h)
}
