package wording

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
)

// Mark says what will be done about a mark and why.
func (w Words) Mark(j panel.JudgedMark, aim plan.Aim) string {
	if j.Outcome != facts.Standing {
		return w.outcome(j.Mark)
	}
	text := w.verdict(j, aim)
	if j.Said() || j.Verdict.Relief.Mean <= 0 || j.Verdict.Do == marks.DoRead {
		return text
	}
	if j.Kind.Below() {
		return strings.TrimSuffix(text, ".") + ". The usual depth: nobody said how deep it is."
	}
	return strings.TrimSuffix(text, ".") + ". The usual height: nobody said how high it is."
}

func (w Words) verdict(j panel.JudgedMark, aim plan.Aim) string {
	v := j.Verdict
	relief := plusMinus(v.Relief)
	may := um(math.Max(v.Room, 0)) + " can go"
	if aim.Levels() && j.Place.Known {
		may += " beside the panel's own steps"
	}
	switch v.Do {
	case marks.DoSpot:
		text := w.say("Spot it with the small block before any machine; takes %s µm there", um(v.Film))
		if j.Plastic {
			return text + ". No gauge reads on plastic."
		}
		if !j.Place.Known {
			return text + ". Film not read yet."
		}
		return text + w.say(" more, %s.", may)
	case marks.DoShave:
		how := w.say("Shave %s µm down to %s, then block", relief, um(v.Rest))
		if v.Rest >= v.Relief.Mean {
			how = w.say("Block the %s µm, no blade needed", relief)
		}
		text := how + w.say("; takes %s µm there, up to %s of it beside the crest.", um(v.Film), um(1))
		if v.Why == marks.WhySoft {
			return fmt.Sprintf("Soft inside until about %s. Then: %s%s", w.dayTime(v.Ready), strings.ToLower(text[:1]), text[1:])
		}
		if !j.Place.Known {
			text += " Film not read yet."
		}
		return text
	case marks.DoPanel:
		if v.Why == marks.WhyTexture {
			return "Goes with the levelling of the panel."
		}
		return w.say("Goes with the panel: %s µm deep, the levelling takes more everywhere.", relief)
	case marks.DoClear:
		return w.say("Comes out at its place: %s µm deep, takes %s more there, %s.", relief, um(v.Film), may)
	case marks.DoSoften:
		if v.Why == marks.WhyNoSanding {
			return w.say("Soften and tell: %s µm deep, and polish only takes half a µm.", relief)
		}
		return w.say("Soften and tell: %s µm deep, %s; about %.0f %% of its depth stays.", relief, may, math.Max(100*v.Left, 1))
	case marks.DoPolish:
		return "A fine polish takes it, half a µm at most."
	case marks.DoKeepOff:
		return "Tape it and keep off: tools bite on edges, and the film is thin here."
	case marks.DoRespray:
		return "Leave and tell: down to the colour. Only new clear helps."
	case marks.DoRead:
		if j.Plastic {
			return "No gauge reads on plastic: what can go here is not known. Ask who sprayed it, or leave and tell."
		}
		return "Read the film first: what can go here is not known."
	}
	return w.left(j, relief, may, aim)
}

func (w Words) left(j panel.JudgedMark, relief, may string, aim plan.Aim) string {
	switch j.Verdict.Why {
	case marks.WhyGate:
		return w.say("Leave and tell: %s µm of film in all, and %s is the line for sanding.", um(j.Place.Total.Mean), um(film.GateShut))
	case marks.WhyNoSanding, marks.WhyTextStays:
		return fmt.Sprintf("Stays: the aim here is %s.", aimWords[aim])
	case marks.WhyNoFilm:
		if j.Kind == marks.Peel {
			return "Stays: the film does not allow levelling here."
		}
		return w.say("Leave and tell: its spot takes %s µm and %s.", um(math.Max(j.Need, j.Film)), may)
	}
	return w.say("Leave and tell: %s µm deep, %s. Chasing it thins everything around it.", relief, may)
}

func (w Words) outcome(m facts.Mark) string {
	text := map[facts.Outcome]string{facts.Gone: "Gone", facts.Softened: "Softened", facts.Left: "Left"}[m.Outcome]
	if m.Reason != "" {
		text += ": " + strings.TrimSuffix(m.Reason, ".")
	}
	if m.Spent > 0 {
		text += w.say("; took about %s µm there", um(m.Spent))
	}
	return text + "."
}

var doWords = []struct {
	do   marks.Do
	word string
}{
	{marks.DoSpot, "to spot"}, {marks.DoShave, "to shave and block"}, {marks.DoPanel, "with the panel"}, {marks.DoClear, "to work out"},
	{marks.DoPolish, "to polish"}, {marks.DoSoften, "to soften and tell"}, {marks.DoLeave, "left and told"}, {marks.DoRespray, "for a respray"},
	{marks.DoKeepOff, "to keep off"}, {marks.DoRead, "wait for readings"},
}

// MarkCount says what will be done about the open marks of one kind.
func (w Words) MarkCount(open []panel.JudgedMark) string {
	if len(open) == 0 {
		return "all closed"
	}
	n := map[marks.Do]int{}
	for _, j := range open {
		n[j.Do]++
	}
	var parts []string
	for _, d := range doWords {
		switch {
		case n[d.do] == len(open):
			return d.word
		case n[d.do] > 0:
			parts = append(parts, fmt.Sprintf("%d %s", n[d.do], d.word))
		}
	}
	return strings.Join(parts, ", ")
}

// Tally says what to do about the spots of a panel as a whole.
func (w Words) Tally(t panelwork.Tally, aim plan.Aim) string {
	s := t.Sum
	film := ""
	if s.Panel.Film > 0 && s.Spot.Film > 0 {
		film = w.say(" Film: %s µm at each spot against %s everywhere.", um(s.Spot.Film), um(s.Panel.Film))
	}
	spots, panel := atLeastAMinute(s.Spot.Seconds), atLeastAMinute(s.Panel.Seconds)
	switch {
	case s.Spot.Seconds == 0 && s.Nibs > 0:
		return "The aim or the film leaves them where they are."
	case s.Spot.Seconds == 0:
		return "No marks to spot."
	case s.Panel.Seconds == 0:
		return fmt.Sprintf("Spot each with the small block, about %s.", spots)
	case s.Quicker == "panel":
		return fmt.Sprintf("More than %d nibs: the whole panel is quicker, about %s against %s.%s", s.Even-1, panel, spots, film)
	case aim.Levels():
		return fmt.Sprintf("Spot each before the machine, about %s; the panel takes %s.%s", spots, panel, film)
	case !t.Known:
		return fmt.Sprintf("Spot each with the small block, about %s; from %d nibs the whole panel is quicker.", spots, s.Even)
	}
	return fmt.Sprintf("Spot each with the small block, about %s; the whole panel takes %s, quicker from %d nibs.%s", spots, panel, s.Even, film)
}

// GuideCaution is the caution of a stage of the work on a mark.
func (w Words) GuideCaution(s marks.Stage) string {
	switch s {
	case marks.StageShave:
		return "Cut away from hands, corners of the blade taped; a used blade goes into the sharps box." + sheet
	case marks.StageFile, marks.StageSoft:
		return caution(plan.FileStep)
	}
	return "Block on the crest alone, never rocked over its sides; a gritty feel means stop, rinse, look." + sheet
}

// Guide says what to do now on a proud mark and when to stop.
func (w Words) Guide(g advice.Guide) (headline, text string) {
	stands := w.say("It stands about %s µm.", um(g.Standing))
	beside := w.say("Beside it %s of %s µm are gone.", um(g.Shoulder), um(g.ShoulderMost))
	switch g.Stage {
	case marks.StageSoft:
		return "not ready", "It is soft inside until about " + w.dayTime(g.Mark.Ready) + ": thick film cures slowly. Work elsewhere meanwhile."
	case marks.StageFile:
		return "file", "Two or three light strokes of fine paper on a small block, on the nib alone. Stop when a hand gliding over it feels nothing; a dull ring about it is enough."
	case marks.StageShave:
		lanes := ""
		if g.Lanes > 1 {
			lanes = fmt.Sprintf(", %d lanes a stroke", g.Lanes)
		}
		return "shave", w.say("%s New blade, held upright, the whole length%s: a stroke takes about %s µm. Stop at %s µm.", stands, lanes, um(marks.UsualBlade.Takes), um(g.Rest))
	case marks.StageBlock:
		return "block", fmt.Sprintf("%s %s on the %s, short strokes, wet. Stop when no shiny low spot is left beside the crest. %s", stands, g.Grit, g.Block, beside)
	case marks.StageStop:
		return "stop", beside + " More blocking makes two thin spots of one run. Leave what stands to the levelling of the panel, or shave it again."
	}
	return "wipe and look", "By the count it is gone. Wipe dry: dull all over means gone; a bright line on the crest's sides means low spots. " + beside
}

// MarksHere says what stands above the paint here, and what to know of the others.
func (w Words) MarksHere(h advice.MarksHere) (head, text string) {
	soft := ""
	if h.Soft != nil {
		soft = fmt.Sprintf("The %s is soft inside until about %s.", h.Soft.Kind.Name(), w.dayTime(h.Soft.Ready))
	}
	if len(h.Standing) > 0 {
		var parts []string
		for _, k := range marks.Kinds() {
			n := 0
			for _, m := range h.Standing {
				if m.Kind == k {
					n++
				}
			}
			if n > 0 {
				parts = append(parts, count(n, k.Name()))
			}
		}
		verb := "stand"
		if len(h.Standing) == 1 {
			verb = "stands"
		}
		return fmt.Sprintf("%s still %s here.", strings.Join(parts, ", "), verb), strings.TrimSpace("Before any machine. " + soft)
	}
	switch {
	case h.All == 1 && h.More == 0:
		return "", "The one mark here is closed."
	case h.All > 0 && h.More == 0:
		return "", fmt.Sprintf("All %d marks here are closed.", h.All)
	case soft != "":
		return "", soft
	}
	return "", "Nothing stands above the paint here."
}
