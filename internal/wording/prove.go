package wording

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/proof"
)

// grades writes a grade of peel with its doubt.
func grades(t prove.Texture) string {
	grade, sd := t.Grade()
	return fmt.Sprintf("%.1f ± %.1f", grade, sd)
}

// Aim is what is wanted of a panel, with the grade that it is held against.
func Aim(f *proof.PanelProof) string {
	if wanted, _ := f.Outcome.Wanted.Grade(); f.Aim == plan.Match {
		return fmt.Sprintf("%s, %.1f", aimWords[f.Aim], wanted)
	}
	return aimWords[f.Aim]
}

// Peel says which peel grade a panel is taken to have, with its doubt, and what else was said.
func Peel(k facts.Panel) string {
	if k.Photo == nil && !k.Says(facts.FactPeel) {
		return fmt.Sprintf("%.1f as usual, nobody graded it, ± %.1f", k.EyeGrade, prove.EyeGrade)
	}
	if k.Photo == nil {
		return fmt.Sprintf("%.1f by eye, ± %.1f", k.EyeGrade, prove.EyeGrade)
	}
	return fmt.Sprintf("%s by photo (%.1f by eye)", grades(*k.Photo), k.EyeGrade)
}

// Texture says how rough a panel is and where that is known from.
func Texture(t proof.KnownTexture) string {
	if t.Usual {
		return fmt.Sprintf("peel %s as usual, nobody graded it", grades(t.Texture))
	}
	from := map[proof.Source]string{proof.FromEye: "by eye", proof.FromPhoto: "by photo", proof.FromModel: "by the passes made, not seen"}[t.Source]
	return fmt.Sprintf("peel %s %s", grades(t.Texture), from)
}

// ProofTitle says in a few words whether a panel came out as it was wanted.
func (w Words) ProofTitle(f *proof.PanelProof) string {
	switch {
	case f.After == nil && f.Aim == plan.NibsOnly && f.Outline().Spotted:
		return "Spotted only: the texture is as it was"
	case f.After == nil && !f.Worked():
		return "Nothing was levelled here yet"
	}
	if f.After == nil {
		return "Not seen yet"
	}
	now, _ := f.After.Grade()
	wanted, _ := f.Outcome.Wanted.Grade()
	name := capital(shortName(f.Name))
	if f.After.Source == proof.FromModel { // nobody has seen it
		switch reached := f.Outcome.Reached != prove.NotReached; {
		case f.Aim == plan.Match && reached:
			return fmt.Sprintf("By the passes made %s should match: %.1f beside %.1f", shortName(f.Name), now, wanted)
		case f.Aim == plan.Match:
			return fmt.Sprintf("By the passes made %s differs: %.1f beside %.1f", shortName(f.Name), now, wanted)
		case f.Aim == plan.Flat && reached:
			return fmt.Sprintf("By the passes made %s should be flat: peel %.1f", shortName(f.Name), now)
		case f.Aim == plan.Flat:
			return fmt.Sprintf("By the passes made %s is not flat: peel %.1f is left", shortName(f.Name), now)
		}
	}
	switch f.Aim {
	case plan.Match:
		switch {
		case f.Outcome.Reached == prove.NotReached && f.Outcome.Likeness == prove.Flatter:
			return fmt.Sprintf("Flatter than beside it: %.1f, not %.1f", now, wanted)
		case f.Outcome.Reached == prove.NotReached:
			return fmt.Sprintf("Rougher than beside it: %.1f, not %.1f", now, wanted)
		}
		return fmt.Sprintf("%s matches: %.1f beside %.1f", name, now, wanted)
	case plan.Flat:
		if f.Outcome.Reached == prove.NotReached {
			return fmt.Sprintf("Not flat: peel %.1f is left", now)
		}
		return fmt.Sprintf("%s is flat: peel %.1f", name, now)
	}
	switch f.Outcome.Likeness {
	case prove.Flatter:
		return fmt.Sprintf("Flatter than it was: peel %.1f", now)
	case prove.Rougher:
		return fmt.Sprintf("Rougher than it was: peel %.1f", now)
	}
	return fmt.Sprintf("The texture is as it was: peel %.1f", now)
}

// shortName is the part that a panel's name ends with, such as door.
func shortName(name string) string {
	words := strings.Fields(name)
	if len(words) == 0 {
		return name
	}
	return "the " + words[len(words)-1]
}

// ProofText says why, with what stays of the film and whether it was wiped.
func (w Words) ProofText(f *proof.PanelProof) string {
	var out []string
	if f.After != nil {
		_, sd := f.After.Grade()
		switch {
		case f.After.Source == proof.FromModel:
			out = append(out, fmt.Sprintf("By the passes made (± %.1f): a photo of the lamps says it better.", sd))
		case f.Outcome.Reached == prove.WithDoubt:
			out = append(out, fmt.Sprintf("Inside the doubt of what is known (± %.1f).", f.Outcome.SD))
		case f.Outcome.Reached == prove.Yes:
			out = append(out, fmt.Sprintf("The photo is sure to ± %.1f.", sd))
		case f.Outcome.Reached == prove.NotReached:
			out = append(out, fmt.Sprintf("That is %.1f grades off, and both are known to ± %.1f.", math.Abs(f.Outcome.Grades), f.Outcome.SD))
		}
		if f.Aim == plan.Match && f.BesideName == "" {
			out = append(out, "What is beside it was judged by eye only.")
		}
	} else if !f.Worked() {
		out = append(out, "Photograph the lamps now, or there is no before.")
	}
	if f.Swirls > 0 {
		out = append(out, fmt.Sprintf("About %.0f %% of the swirls are gone, by the cut as learned.", 100*f.Swirls))
	}
	if _, st, ok := f.Decides(); ok && f.Section != nil {
		if f.AtMark > 0 {
			out = append(out, w.say("Of the %s µm that went at its thinnest, %s went at a mark.", um(f.Spent.Mean), um(f.AtMark)))
		}
		above := st.Clear.Mean - f.Section.Policy.Floor
		if above >= 0 {
			out = append(out, w.say("It keeps %s ± %s µm above the floor of %s at its thinnest.", um(above), um(st.Clear.SD), um(f.Section.Policy.Floor)))
		} else {
			out = append(out, w.say("At its thinnest it stands %s µm under the floor of %s (± %s): tell the owner.", um(-above), um(f.Section.Policy.Floor), um(st.Clear.SD)))
		}
	}
	if at := wiped(f); at != nil {
		out = append(out, fmt.Sprintf("Wiped at %s, so no oil hides scratches.", w.dayTime(at.At)))
	}
	return strings.Join(out, " ")
}

// wiped is the last look at a panel that was wiped all over and showed nothing; nil where some
// section was not.
func wiped(f *proof.PanelProof) *panel.Proof {
	var last *panel.Proof
	for _, one := range f.Wipes {
		if one.Seen == nil || one.Seen.Kind != proof.Wiped {
			return nil
		}
		if last == nil || one.Seen.At.After(last.At) {
			last = one.Seen
		}
	}
	return last
}

// Todo says what is still to do before a panel is kept.
func (w Words) Todo(t prove.Todo) string {
	switch t.Task {
	case prove.TaskBefore:
		return "Photograph the lamps before any work, or there is no before."
	case prove.TaskFinish:
		return fmt.Sprintf("Steps are left in %s: finish them in Level.", count(t.Count, "section"))
	case prove.TaskWipe:
		return fmt.Sprintf("Wipe the oils off and look, in %s.", count(t.Count, "section"))
	case prove.TaskScratch:
		return fmt.Sprintf("Scratches were seen in %s: take them out.", count(t.Count, "section"))
	case prove.TaskRead:
		return fmt.Sprintf("Read the film after the last pass, in %s.", count(t.Count, "section"))
	case prove.TaskAfter:
		return "Photograph the same lamps again."
	case prove.TaskCompared:
		return "Photograph the panel beside it, or it is held against a grade by eye."
	}
	return fmt.Sprintf("Say what became of %s.", count(t.Count, "mark"))
}

// Wipe says what to look for on a section once it is wiped.
func (w Words) Wipe(one proof.Wipe) string {
	h := one.Hidden
	if h == nil {
		return "By the passes made nothing should show."
	}
	across := "from two sides"
	if one.Direction >= 0 {
		across = fmt.Sprintf("across its strokes, which went %d° to the panel's length", one.Direction)
	}
	if h.Likely {
		return w.say("%s left scratches %s µm deep, and the passes after it took %s µm over them: about %.0f %% still stand under the gloss. Lamp %s.",
			one.Step, um(h.Depth), um(h.Over), math.Max(100*h.Showing, 1), across)
	}
	return w.say("%s left scratches %s µm deep. They are out by the cut as learned; were it slower, by 1 in 10, %.0f %% would stand. Lamp %s.",
		one.Step, um(h.Depth), math.Max(100*h.ShowingSlow, 1), across)
}

// Seen says what somebody saw on a section that was wiped.
func (w Words) Seen(p panel.Proof) string {
	if p.Kind == proof.Scratched {
		return fmt.Sprintf("scratches seen, %s, %s", p.Person, w.dayTime(p.At))
	}
	return fmt.Sprintf("wiped, nothing seen, %s, %s", p.Person, w.dayTime(p.At))
}

// ProofNote says what somebody found or decided.
func (w Words) ProofNote(p panel.Proof) string {
	text := map[string]string{proof.Wiped: "wiped, nothing seen", proof.Scratched: "scratches seen", proof.Kept: "kept", proof.SentBack: "sent back to Plan"}[p.Kind]
	if p.Note != "" {
		text += ": " + p.Note
	}
	return text
}

// quantities are what meters read, with their units.
var quantities = map[prove.Quantity]string{prove.Gloss: "Gloss", prove.Clarity: "Clarity"}

// Change says what one meter makes of a panel.
func Change(c prove.Change) string {
	name := quantities[c.Quantity]
	if c.Angle > 0 {
		name += fmt.Sprintf(" at %.0f°", c.Angle)
	}
	noise := fmt.Sprintf("one reading of it is sure to ± %.1f", c.Noise)
	if c.Repeats > 0 {
		noise += fmt.Sprintf(" by %s", count(c.Repeats, "repeat"))
	}
	switch {
	case c.Before == nil:
		return fmt.Sprintf("%s %.1f ± %.1f now; before any work it was not read. %s; %s.", name, c.After.Value, c.After.SD, c.Instrument, noise)
	case c.After == nil:
		return fmt.Sprintf("%s %.1f ± %.1f before; not read since. %s; %s.", name, c.Before.Value, c.Before.SD, c.Instrument, noise)
	case c.Verdict == plan.NoDifference:
		return fmt.Sprintf("%s %.1f to %.1f: no real difference (± %.1f). %s; %s.", name, c.Before.Value, c.After.Value, c.Change.SD, c.Instrument, noise)
	}
	return fmt.Sprintf("%s %.1f to %.1f: %+.1f ± %.1f. %s; %s.", name, c.Before.Value, c.After.Value, c.Change.Value, c.Change.SD, c.Instrument, noise)
}

// Apart says why gloss and clarity do not say the same of a panel; empty where they do.
func Apart(f *proof.PanelProof) string {
	if f.After == nil {
		return ""
	}
	for _, g := range f.Changes {
		for _, c := range f.Changes {
			if g.Quantity != prove.Gloss || c.Quantity != prove.Clarity {
				continue
			}
			switch why, was, is := prove.Apart(g, c, f.Before.Texture, f.After.Texture); why {
			case prove.ByWaves:
				return fmt.Sprintf("Gloss is the same and clarity is not: gloss asks how much light is scattered, clarity how straight it comes back. The peel alone takes clarity from about %.0f to %.0f.", was, is)
			case prove.ByHaze:
				return "Gloss is the same and clarity is not, and the peel does not explain it: look for haze, fine scratches or oil on the meter's foot."
			}
		}
	}
	return ""
}

// PhotoHead is the figure that a photo gives, in a few words.
func (w Words) PhotoHead(p proof.Photo) string {
	switch {
	case p.Read == nil:
		return "not read"
	case p.Read.Share != nil:
		s := p.Read.Share
		return fmt.Sprintf("%.0f ± %.0f %%", 100*s.Value, math.Max(100*(s.High-s.Low)/4, 1))
	}
	return grades(*p.Texture()) + " peel"
}

// PhotoText says what is drawn into a photo, or why it tells nothing.
func (w Words) PhotoText(p proof.Photo) string {
	switch {
	case p.Refused != nil:
		return Photo(p.Refused)
	case p.Read == nil:
		return ""
	case p.Read.Share != nil:
		if p.Read.LeftOut > 0.005 {
			return fmt.Sprintf("Blue was never touched by the paper; red is streaked and left out, %.0f %%.", 100*p.Read.LeftOut)
		}
		return "Blue was never touched by the paper."
	}
	return "White: as it would be flat; blue: as seen."
}

// PhotoFigures are all figures that a photo gives, with their intervals; empty for none.
func PhotoFigures(p proof.Photo) string {
	switch {
	case p.Read == nil:
		return ""
	case p.Read.Share != nil:
		return fmt.Sprintf("%.1f %% still shines, %.1f to %.1f.", 100*p.Read.Share.Value, 100*p.Read.Share.Low, 100*p.Read.Share.High)
	}
	r := p.Read.Reflection
	peel, bound, haze := "Peel", "", "haze"
	if r.PeelAtMost {
		peel = "Peel hidden under the pebble, at most"
	}
	switch {
	case r.PebbleAtMost:
		bound = "at most "
	case r.PebbleAtLeast:
		bound = "at least "
	}
	if r.HazeAtMost {
		haze = "haze at most"
	}
	return fmt.Sprintf("%s %.2f µm rms (%.2f to %.2f), pebble %s%.3f µm (%.3f to %.3f), %s %.1f mrad.",
		peel, r.Peel.Value, r.Peel.Low, r.Peel.High, bound, r.Pebble.Value, r.Pebble.Low, r.Pebble.High, haze, r.Haze.Value)
}

// LeftMark says why a mark is not gone.
func (w Words) LeftMark(m panel.JudgedMark) (head, text string) {
	head = fmt.Sprintf("%s %d", capital(m.Kind.Name()), m.No)
	if m.Relief != (film.Estimate{}) && m.Kind != marks.Peel {
		head = w.say("%s, %s µm", head, um(m.Relief.Mean))
	}
	text = "Softened: seen from one side only."
	if m.Outcome == facts.Left {
		text = "Left."
	}
	if m.Reason != "" {
		text += " " + ended(capital(m.Reason))
	}
	return head, text
}

// PhotosKept says what photos take and how long they are kept.
func PhotosKept(k proof.PhotosKept) string {
	size := fmt.Sprintf("%.1f MB", float64(k.Bytes)/(1<<20))
	if k.Bytes > 1<<30 {
		size = fmt.Sprintf("%.1f GB", float64(k.Bytes)/(1<<30))
	}
	long := func(days int) string {
		if days == 0 {
			return "for good"
		}
		return count(days, "day")
	}
	return fmt.Sprintf("%s take %s. Those that prove a panel are kept %s after hand over, struck out ones %s; what was read from them stays.", capital(count(k.Photos, "photo")), size, long(k.AfterHandOver), long(k.Struck))
}

// CameraText says whether a camera answers.
func CameraText(name string, err error) string {
	switch {
	case err != nil:
		return "No camera answers. Choose photos, or take them with this device."
	case name == "":
		return "No camera is looked for. Choose photos, or take them with this device."
	}
	return name + " is there."
}

// ReadLast says in which sections the film is to be read after their last pass.
func ReadLast(all []flatlay.Section) string {
	const most = 3
	var names []string
	for _, s := range all[:min(len(all), most)] {
		names = append(names, s.Name)
	}
	text := "Read the film after the last pass: " + strings.Join(names, ", ")
	if more := len(all) - most; more > 0 {
		text += fmt.Sprintf(" and %d more", more)
	}
	return text + "."
}
