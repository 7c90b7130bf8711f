package wording

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/prove"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/proof"
)

// todoWords are what is still to do, one and several.
var todoWords = map[handover.HandTask][2]string{
	handover.HandTask(prove.TaskFinish):  {"%d section has steps to do", "%d sections have steps to do"},
	handover.HandTask(prove.TaskWipe):    {"%d section to wipe and look at", "%d sections to wipe and look at"},
	handover.HandTask(prove.TaskScratch): {"scratches were seen in %d section", "scratches were seen in %d sections"},
	handover.HandTask(prove.TaskRead):    {"%d section not read after the last pass", "%d sections not read after the last pass"},
	handover.HandTask(prove.TaskAfter):   {"no photo of the lamps after the work", ""},
	handover.HandTask(prove.TaskMarks):   {"%d mark is open", "%d marks are open"},
	handover.TaskKeep:                    {"nobody said yet that it is good", ""},
	handover.TaskTell:                    {"%d thing that the owner was not told", "%d things that the owner was not told"},
	handover.TaskPlan:                    {"a plan was accepted, and no pass made", ""},
	handover.TaskUndone:                  {"nothing was done here yet: work it, or keep it as it is", ""},
}

// HandTodo says what is still to do.
func HandTodo(t handover.HandTodo) string {
	said := todoWords[t.Task]
	form := said[0]
	if t.Count > 1 && said[1] != "" {
		form = said[1]
	}
	if strings.Contains(form, "%d") {
		form = fmt.Sprintf(form, t.Count)
	}
	return form
}

// PartName names a part of the owner's report, and says what is in it now.
func (w Words) PartName(p cars.Part, h *handover.Handing) (name, text string) {
	switch p {
	case cars.PartPictures:
		text = "no panel has photos of both yet"
		if f, _, _, ok := h.Pair(); ok {
			text = shortName(f.Name) + ", the same lamps"
		}
		return "Before and after", text
	case cars.PartDone:
		return "What was done", ""
	case cars.PartStays:
		untold := cars.Untold(h.Tellings)
		switch {
		case len(h.Tellings) == 0:
			text = "nothing stays"
		case untold == 0:
			text = fmt.Sprintf("%s, all told", count(len(h.Tellings), "thing"))
		default:
			text = fmt.Sprintf("%s, %d not told yet", count(len(h.Tellings), "thing"), untold)
		}
		return "What stays, and why", text
	case cars.PartClear:
		return "Clear that is left", count(len(workedLines(h)), "panel")
	case cars.PartCores:
		return "Film cores", "left, taken and floor as a bar"
	case cars.PartUntil:
		text = "nothing has to wait"
		if len(h.Waits) > 0 {
			text = count(len(h.Waits), "wait")
		}
		return "Careful until", text
	case cars.PartKeep:
		return "How to keep it", ""
	}
	return "People and passes", fmt.Sprintf("%s, %s", count(h.Passes, "pass"), people(len(h.People)))
}

func people(n int) string {
	if n == 1 {
		return "1 person"
	}
	return fmt.Sprintf("%d people", n)
}

// listed is a list of names in words.
func listed(names []string) string {
	n := len(names)
	if n < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
}

// the names panels, several as such.
func the(names []string) string { return "the " + listed(names) }

// Until says until when something waits: the day, with the hour where it is near.
func (w Words) Until(t care.Wait, now time.Time) string {
	switch {
	case t.Until.IsZero():
		return "ask us"
	case t.Until.Sub(now) < 6*24*time.Hour:
		return w.local(t.Until).Format("Mon ") + w.clock(t.Until)
	}
	return w.day(t.Until)
}

// Wait says what waits and why.
func (w Words) Wait(t care.Wait) string {
	text := map[care.Kind]string{
		care.Dry:     "keep %s dry: no rain, no dew, no hose",
		care.Wash:    "no washing of %s before that",
		care.Breathe: "no wax, coating, film or cover on %s before that: fresh paint has to breathe",
	}[t.Kind]
	text = fmt.Sprintf(text, the(t.Panels))
	switch {
	case t.Until.IsZero():
		text += "; the day it was sprayed is not known here"
	case t.Sealed:
		text += ": it was sealed"
	case t.Sheet:
		text += " (the paint maker's sheet)"
	}
	return text + "."
}

// until are the waits as they stand in the report; those of panels that nobody knows the day of
// spraying of stand there once.
func (w Words) until(h *handover.Handing) []files.Item {
	var out []files.Item
	var unknown []string
	for _, t := range h.Waits {
		if !t.Until.IsZero() {
			out = append(out, files.Item{Bold: capital(w.Until(t, h.At)), Text: w.Wait(t)})
			continue
		}
		for _, name := range t.Panels {
			if !slices.Contains(unknown, name) {
				unknown = append(unknown, name)
			}
		}
	}
	if len(unknown) > 0 {
		out = append(out, files.Item{Bold: "Ask us", Text: fmt.Sprintf("how long to keep %s dry, unwashed and unsealed: the day of spraying is not known here.", the(unknown))})
	}
	return out
}

// WaitTitle names a wait of a car in a calendar: what may be done from then on.
func (w Words) WaitTitle(t care.Wait, car string) string {
	return car + map[care.Kind]string{care.Dry: " may get wet", care.Wash: " may be washed", care.Breathe: " may be waxed or coated"}[t.Kind]
}

// Pair says what two photos of the lamps in a panel show.
func (w Words) Pair(f *proof.PanelProof) *files.Pair {
	out := &files.Pair{BeforeText: "Before. Lamps mirrored in the " + f.Name, AfterText: "After, the same lamps and place"}
	before, _ := f.Before.Grade()
	after, _ := f.After.Grade()
	out.BeforeAlt = fmt.Sprintf("Lamps mirrored in the %s before: peel grade %.1f of 10", f.Name, before)
	out.AfterAlt = fmt.Sprintf("The same lamps afterwards: peel grade %.1f of 10", after)
	return out
}

// HandHistory says what happened to a car at its end.
func (w Words) HandHistory(h handover.Handover) string {
	text := map[string]string{handover.HandedOver: "Handed over on %s by %s", handover.Reopened: "Opened again on %s by %s", handover.Forgotten: "What was known of the owner was deleted on %s by %s"}[h.Kind]
	text = fmt.Sprintf(text, w.day(h.OnDay), h.Person)
	if h.Reason != "" && h.Reason != "-" {
		text += ": " + strings.TrimSuffix(h.Reason, ".")
	}
	return text + "."
}

// Seal says whether the film record is what was sealed.
func (w Words) Seal(h *handover.Handing) string {
	switch {
	case h.Seal == "":
		return ""
	case h.Broken:
		return fmt.Sprintf("Film record no. %d is not what was sealed on %s: something was changed beside this program.", h.No, w.dayTime(h.At))
	}
	return fmt.Sprintf("Film record no. %d, sealed on %s, seal %s.", h.No, w.dayTime(h.At), h.Seal[:16])
}

// HandTitle says in a few words where the car stands.
func (w Words) HandTitle(h *handover.Handing) string {
	switch {
	case h.HandedOverAt != nil:
		return "handed over on " + w.day(*h.HandedOverAt)
	case len(h.Todos) > 0:
		return fmt.Sprintf("2 sheets, %s still to do", count(len(h.Todos), "thing"))
	}
	return "2 sheets, ready to give"
}

// Nameless is what a car is called, and whoever agreed to something, once what was known of the
// owner is deleted.
func Nameless(body string, no int64) (car, owner string) {
	return fmt.Sprintf("%s no. %d", capital(strings.ReplaceAll(body, "-", " ")), no), "the owner"
}

// workedLines are those of panels that were worked.
func workedLines(h *handover.Handing) []handover.FilmLine {
	return slices.DeleteFunc(slices.Clone(h.Lines), func(l handover.FilmLine) bool { return !l.Known || !l.Worked() && l.Kept == nil })
}
