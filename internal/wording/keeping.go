package wording

import (
	"fmt"
	"slices"
	"strings"

	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/keep"
)

// listNames are the lists of a car's document, one and several.
var listNames = map[string]string{"readings": "reading", "marks": "mark", "plans": "plan", "log": "entry of the log", "tries": "try square", "squares": "polished square", "proof_photos": "photo",
	"photos": "photo of a mark", "meter_readings": "meter reading", "proofs": "finding", "floors": "agreed floor", "tasks": "ticked task", "tellings": "thing told", "promises": "offer taken", "handovers": "hand over",
	"reports": "report", "steps": "step", "panels": "panel", "": "the car itself"}

// columnNames are what of a row may differ, as it is called on screen.
var columnNames = map[string]string{"owner_words": "the owner's words", "painter": "who works on it", "name": "its name", "aim": "the aim", "peel_grade": "peel by eye", "coats": "coats", "origin": "its origin",
	"struck_at": "struck out", "struck_reason": "", "outcome": "what became of it", "closed_at": "", "closed_by": "", "outcome_reason": "", "ended_at": "ended", "photo_peel_um": "peel by photo", "photo_peel_spread": "",
	"photo_pebble_um": "", "photo_pebble_spread": "", "accepted_at": "taken at its word", "accepted_by": "", "note": "its note", "text": "its words"}

// CarChange says what putting a file to a car would change in one list.
func CarChange(c keep.CarChange) (name, text string) {
	name = c.Panel
	if name == "" {
		name = "the car"
	}
	what := listNames[c.List]
	var parts []string
	if c.New > 0 {
		parts = append(parts, counted(c.New, what)+" more")
	}
	if c.Changed > 0 {
		var columns []string
		for k := range c.Columns {
			said, known := columnNames[k]
			if !known {
				said = strings.ReplaceAll(strings.TrimSuffix(k, "_um"), "_", " ")
			}
			if said != "" && !slices.Contains(columns, said) {
				columns = append(columns, said)
			}
		}
		slices.Sort(columns)
		changed := counted(c.Changed, what) + " other than here"
		if c.List == "" || c.List == "panels" {
			changed = "other than here"
		}
		if len(columns) > 0 {
			changed += " (" + strings.Join(columns, ", ") + ")"
		}
		parts = append(parts, changed)
	}
	if c.Own > 0 {
		parts = append(parts, counted(c.Own, what)+" only here, which stays")
	}
	return name, strings.Join(parts, "; ")
}

func counted(n int, what string) string {
	if what == "entry of the log" && n != 1 {
		return fmt.Sprintf("%d entries of the log", n)
	}
	if head, rest, ok := strings.Cut(what, " of "); ok {
		return count(n, head) + " of " + rest
	}
	if head, ok := strings.CutSuffix(what, " told"); ok {
		return count(n, head) + " told"
	}
	return count(n, what)
}

// CarNotes say what has to be known before a file is kept.
func (w Words) CarNotes(c *keep.Waiting) []string {
	out := []string{}
	if c.PhotosMissing > 0 {
		out = append(out, fmt.Sprintf("%s named and not in the file: what was read from them is.", capital(photosAre(c.PhotosMissing))))
	}
	if c.SealBroken {
		out = append(out, "Its film record is not what was sealed when it was handed over: something was changed since.")
	}
	switch {
	case c.Diverged != "":
		out = append(out, fmt.Sprintf("Passes or plans of the %s came in here and in the file after the two parted: it can only be kept as a new car.", c.Diverged))
	case c.Closed:
		out = append(out, "The car that is here was handed over: open it again first, or keep the file as a new car.")
	case c.Known && len(c.Changes) == 0:
		out = append(out, "All of it is here already.")
	case !c.Known:
		out = append(out, "No car of its id is here.")
	}
	return out
}

func photosAre(n int) string {
	if n == 1 {
		return "1 photo is"
	}
	return fmt.Sprintf("%d photos are", n)
}

// Found says what was found, and where it is on the pages.
func (w Words) Found(f cars.Found) (text, link string) {
	switch f.Kind {
	case cars.FoundCar:
		return "a car", "/cars/" + f.CarID
	case cars.FoundWords:
		return "the owner: “" + Short(f.Text) + "”", "/cars/" + f.CarID + "/take-in"
	case cars.FoundMark:
		return "a mark: " + Short(strings.TrimSpace(strings.TrimSuffix(f.Text, f.PanelName))), "/panels/" + f.PanelID + "/look"
	case cars.FoundFilm:
		return w.say("a reading of %s µm", um(f.Film)), "/panels/" + f.PanelID + "/read"
	}
	return w.say("a reading of %s µm: ", um(f.Film)) + Short(strings.TrimSpace(strings.TrimSuffix(f.Text, f.PanelName))), "/panels/" + f.PanelID + "/read"
}

// Backups says how a backup is put back.
func Backups(folder string) string {
	return fmt.Sprintf("Put one back with the server stopped: waxplanus restore --data FOLDER FILE. All of it is checked before anything is replaced, and the shop that was there is moved aside. They lie in %s: have the disk of another machine copy that folder.", folder)
}

// CheckedBackup says what looking a backup through has found.
func (w Words) CheckedBackup(c keep.CheckedBackup) string {
	text := fmt.Sprintf("It is whole and can be put back: %s and %s, as they were on %s.", count(c.Cars, "car"), count(c.Photos, "photo"), w.dayTime(c.At))
	if c.Missing > 0 {
		text += fmt.Sprintf(" %s had no file when it was made.", capital(count(c.Missing, "photo")))
	}
	return text
}

// Verified says what looking the shop through has found.
func Verified(l *keep.Looked) string {
	seen := fmt.Sprintf("%s, %s, %s, %s of the plans of record, %s and %s", count(l.Cars, "car"), count(l.Panels, "panel"), count(l.Readings, "reading"), count(l.Passes, "pass"), count(l.Photos, "photo"), count(l.Seals, "seal"))
	if len(l.Faults) == 0 {
		return "Everything is as it should be: " + seen + " were looked at, and the film ledger comes out the same from what was logged."
	}
	return fmt.Sprintf("%s found; %s were looked at.", capital(count(len(l.Faults), "fault")), seen)
}

// NothingToPlan says why no plan can be made of a file.
func NothingToPlan(panel string) string {
	if panel != "" {
		return fmt.Sprintf("The car has no panel %q: its keys stand in its document.", panel)
	}
	return "No panel of this car was read, so nothing can be planned: name one with --panel to see what is offered all the same."
}

// ImportAs says how a file of a car is kept.
const ImportAs = "A car is kept as new or as same."

// Waiting says in lines what is in a file of a car, and what keeping it changes or has changed.
func (w Words) Waiting(c *keep.Waiting, kept bool) []string {
	out := []string{fmt.Sprintf("%s, %s, %s: %s, %s, %s, %s, %s.", c.Name, c.Body, c.Colour, count(c.Panels, "panel"), count(c.Readings, "reading"), count(c.Marks, "mark"), count(c.Passes, "pass"), count(c.Photos, "photo"))}
	for _, one := range c.Changes {
		name, text := CarChange(one)
		out = append(out, name+": "+text)
	}
	out = append(out, w.CarNotes(c)...)
	if kept {
		return append(out, "Kept.")
	}
	return append(out, "Nothing was kept: say --as same or --as new.")
}

// Contract introduces the contract to whoever writes another program.
const Contract = "Everything that the pages do is done by these requests, so another program can do it too. Bodies are JSON, films in µm and lengths in mm, times as RFC 3339. What is sent may have no field that stands not here. Ids are made by the sender and make a request safe to send again. What is refused comes as a Problem (RFC 9457) with a sentence for people."
