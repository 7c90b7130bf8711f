package wording

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/week"
)

// taskNames are the tasks in a word or two.
var taskNames = map[schedule.Kind]string{
	schedule.Wash: "Wash", schedule.Strip: "Strip wax", schedule.Look: "Look", schedule.Read: "Read", schedule.Plan: "Plan", schedule.Mask: "Mask", schedule.Runs: "Runs",
	schedule.Nibs: "Nibs", schedule.Block: "Level", schedule.Refine: "Refine", schedule.Compound: "Compound", schedule.Polish: "Polish", schedule.Clean: "Clean up",
	schedule.Wipe: "Panel wipe", schedule.Check: "Prove", schedule.Coat: "Seal", schedule.Second: "Second coat", schedule.Dry: "Keep dry", schedule.HandOver: "Hand over",
}

// Task is a task in a word or two, and with its panel and what it is done with.
func Task(t schedule.Task) (title, text string) {
	title = taskNames[t.Kind]
	if text = title; t.Name != "" {
		text += ": " + t.Name
	}
	switch t.Kind {
	case schedule.Block, schedule.Refine, schedule.Compound, schedule.Polish:
		if t.What != "" {
			text += ", " + t.What
		}
	}
	return title, text
}

// onCar is a task with its car, for a sentence.
func onCar(t schedule.Task, cars map[string]string) string {
	_, text := Task(t)
	return text + " (" + cars[t.Car] + ")"
}

// Because says what holds a task that begins then, one of a week.
func (w Words) Because(wk *week.Week, t schedule.Task, b schedule.Because) string {
	by := onCar(wk.Tasks[b.Key], CarNames(wk))
	switch b.Why {
	case schedule.WhyAfter:
		return "after " + by
	case schedule.WhyCure:
		return "the paint is soft until " + w.dayTime(b.Until)
	case schedule.WhyPerson:
		return "who does it is busy before: " + by
	case schedule.WhyHours:
		return "nobody who may do it works before"
	case schedule.WhyMachine:
		return "all machines of its kind are in use before"
	case schedule.WhyLimit:
		return "the machine time of the day before is used up"
	case schedule.WhyBay:
		return "all bays are taken before"
	case schedule.WhyCar:
		return "enough people are at the car before"
	case schedule.WhyPut:
		return "somebody put it there"
	case schedule.WhyBegun:
		return "it was begun " + w.dayTime(b.Until)
	case schedule.WhyStays:
		return "it stays where it was"
	}
	return "as soon as somebody can"
}

// CarNames are the names of the cars of a week by their ids.
func CarNames(wk *week.Week) map[string]string {
	out := map[string]string{}
	for _, c := range wk.Cars {
		out[c.ID] = c.Name
	}
	return out
}

// held says why a task cannot be put there.
func (w Words) held(h week.Held) string {
	_, what := Task(h.Task)
	switch h.Why {
	case schedule.WhyNow:
		return what + " cannot begin in the past: give a time from now on."
	case schedule.WhyAfter:
		_, by := Task(h.By)
		return fmt.Sprintf("%s comes after %s, which ends %s: put it there or later, or move that one first.", what, by, w.dayTime(h.Until))
	case schedule.WhyCure:
		return fmt.Sprintf("%s: the paint is soft until %s. Put it there or later; a bake makes it sooner, where the maker's sheet allows one.", what, w.dayTime(h.Until))
	case schedule.WhySkill:
		return what + " is not for them: its grit is coarser than they may run, or they do not do such tasks. Give it to somebody else, or change what they do under Hands."
	case schedule.WhyHours:
		return fmt.Sprintf("Nobody works then: they begin again %s.", w.dayTime(h.Until))
	case schedule.WhyNoHours:
		return "They have no hours: give them some under Hands."
	case schedule.WhyBegun:
		return fmt.Sprintf("%s was begun %s: what is begun is not moved.", what, w.dayTime(h.Until))
	}
	return what + " cannot be put there."
}

// WeekFault names what cannot be planned.
func (w Words) WeekFault(wk *week.Week, f schedule.Fault) string {
	cars := CarNames(wk)
	what := onCar(wk.Tasks[f.Key], cars)
	var others []string
	for _, key := range f.Others {
		_, text := Task(wk.Tasks[key])
		others = append(others, text)
	}
	with := ""
	if len(others) > 0 {
		with = fmt.Sprintf(" With it %s left out.", wait(len(others)))
	}
	switch f.Why {
	case schedule.WhyCycle:
		return fmt.Sprintf("%s comes before itself by way of %s: none of them is planned.", what, strings.Join(others, ", "))
	case schedule.WhySkill:
		return what + ": nobody in the shop may do it. Let somebody run that grit, or take somebody in, under Hands." + with
	case schedule.WhyNoHours:
		if f.Key == "" {
			return f.Person + " works at no time: nothing is planned for them. Give them hours under Hands."
		}
		return what + ": whoever may do it works at no time. Give them hours under Hands." + with
	case schedule.WhyNoRoom:
		return what + " finds no time in the next twelve weeks."
	case schedule.WhyTooLate:
		return what + " should be done before its paint is hard enough to begin: it is planned, and cuts slower then."
	case schedule.WhyUnknown:
		return what + " waits for something that is not there any more."
	}
	return what + " is not planned."
}

func wait(n int) string {
	if n == 1 {
		return "1 task is"
	}
	return fmt.Sprintf("%d tasks are", n)
}

// Moved says where a task went and why.
func (w Words) Moved(wk *week.Week, m schedule.Move) string {
	what := onCar(wk.Tasks[m.Key], CarNames(wk))
	to := w.dayTime(m.Start)
	if m.Person != m.Was.Person {
		to += ", " + m.Person + " in place of " + m.Was.Person
	}
	return fmt.Sprintf("%s: from %s to %s; %s.", what, w.dayTime(m.Was.Start), to, w.Because(wk, wk.Tasks[m.Key], m.Because))
}

// Week says whether all that was promised fits, and how good the plan is.
func (w Words) Week(wk *week.Week) (text, gap string) {
	people := 0
	for _, p := range wk.People {
		if p.Week.Minutes() > 0 {
			people++
		}
	}
	text = fmt.Sprintf("%s, %s.", count(len(wk.Cars), "car"), counted(people, "person"))
	if people != 1 {
		text = fmt.Sprintf("%s, %d people.", count(len(wk.Cars), "car"), people)
	}
	promised := 0
	for _, c := range wk.Cars {
		if c.DueAt != nil {
			promised++
		}
	}
	switch {
	case len(wk.Plan.Placed) == 0:
		text += " Nothing is left to plan."
	case promised == 0:
		text += " No car has a date: give one and its chain is held to it."
	case len(wk.Plan.Late) == 0:
		text += " Everything promised fits."
	case len(wk.Plan.Late) == 1:
		text += fmt.Sprintf(" The %s is late.", CarNames(wk)[wk.Plan.Late[0]])
	default:
		text += fmt.Sprintf(" %d cars are late.", len(wk.Plan.Late))
	}
	if wk.Others > 0 {
		text += fmt.Sprintf(" %s without a date came in before and %s left out: hand over what has left.", count(wk.Others, "car"), map[bool]string{true: "is", false: "are"}[wk.Others == 1])
	}
	if len(wk.Plan.Placed) > 0 {
		gap = "No plan ends before " + w.dayTime(wk.Plan.Bound) + "."
		if pct := math.Round(100 * wk.Plan.Gap); pct >= 1 {
			gap = fmt.Sprintf("All is done %s; no plan ends before %s, %.0f %% of its hours sooner at most.", w.dayTime(wk.Plan.End), w.dayTime(wk.Plan.Bound), pct)
		}
	}
	return text, gap
}

// WeekCar says when a car is done and what sets that.
func (w Words) WeekCar(wk *week.Week, c *week.WeekCar) string {
	if c.Done.IsZero() {
		if c.Fault != nil {
			return "cannot be read"
		}
		return "nothing is left to plan"
	}
	out := "done " + w.soon(c.Done, wk.Now)
	switch {
	case c.Late:
		out += fmt.Sprintf(", %s after what was promised", spanOf(c.Done.Sub(*c.DueAt)))
	case c.DueAt != nil:
		out += fmt.Sprintf(", %s before what was promised", spanOf(c.DueAt.Sub(c.Done)))
	}
	return out + fmt.Sprintf("; %s left", HourRange(c.Hours.Low, c.Hours.High))
}

// soon is a moment by the day of its week where it is one of the next six days.
func (w Words) soon(t, now time.Time) string {
	switch d := t.Sub(now); {
	case d < 0 || d > 6*24*time.Hour:
		return w.dayTime(t)
	case w.local(t).Day() == w.local(now).Day():
		return w.clock(t)
	}
	return w.local(t).Format("Mon ") + w.clock(t)
}

func spanOf(d time.Duration) string {
	switch h := d.Hours(); {
	case h >= 36:
		return fmt.Sprintf("%.0f days", math.Round(h/24))
	case h >= 1:
		return fmt.Sprintf("%.0f h", h)
	}
	return fmt.Sprintf("%.0f min", d.Minutes())
}

// HourRange is a time as an owner hears it.
func HourRange(low, high float64) string {
	if high < 0.75 {
		from, to := math.Max(5, 5*math.Floor(12*low)), 5*math.Ceil(12*high)
		if from == to {
			return fmt.Sprintf("%.0f min", to)
		}
		return fmt.Sprintf("%.0f to %.0f min", from, to)
	}
	half := func(v float64) string {
		if v >= 10 {
			return fmt.Sprintf("%.0f", v)
		}
		return strings.TrimSuffix(fmt.Sprintf("%.1f", math.Round(2*v)/2), ".0")
	}
	if half(low) == half(high) {
		return half(high) + " h"
	}
	return half(low) + " to " + half(high) + " h"
}

// CarWait says what must not be touched until when, and why.
func (w Words) CarWait(x cars.Wait, now time.Time) (text, why string) {
	panels := strings.ToLower(strings.Join(x.Panels, ", "))
	if len(x.Panels) > 2 {
		panels = fmt.Sprintf("%d panels", len(x.Panels))
	}
	switch x.Kind {
	case cars.WaitRun:
		return fmt.Sprintf("%s: run soft inside until %s", panels, w.soon(x.Until, now)), "Thick film hardens slowly: with its thickness squared."
	case cars.WaitDry:
		why = "Rain, dew and the hose mark paint that is fresh, by the shop's rule."
		if x.Sheet {
			why = "Rain, dew and the hose mark paint that is fresh, by the maker's sheet."
		}
		return fmt.Sprintf("keep dry until %s", w.soon(x.Until, now)), why
	}
	why = "By the rule for such paint"
	if x.Sheet {
		why = "By the maker's sheet"
	}
	if x.Thick {
		why += ", longer as the film is thick"
	}
	return fmt.Sprintf("%s soft until %s", panels, w.soon(x.Until, now)), fmt.Sprintf("%s; it may be %s to %s.", why, w.soon(x.Early, now), w.soon(x.Late, now))
}

// Press says what a hand does to cut and flattening.
func Press(b shelf.Backing, p shelf.Press) string {
	wants := fmt.Sprintf("The %s wants %.1f kg", b.Name, p.Wants)
	switch {
	case p.Times > 1+shelf.Alike:
		return fmt.Sprintf("%s; %.1f kg cuts %.0f %% faster and follows the waves by as much instead of flattening them: lean less, or count fewer passes.", wants, p.Puts, 100*(p.Times-1))
	case p.Times < 1-shelf.Alike:
		return fmt.Sprintf("%s; %.1f kg cuts %.0f %% slower and flattens better for each µm: it takes more passes.", wants, p.Puts, 100*(1-p.Times))
	}
	return fmt.Sprintf("%s; %.1f kg is as it should be.", wants, p.Puts)
}

// TaskName is a kind of task in a word or two.
func TaskName(k schedule.Kind) string { return taskNames[k] }

// Hours says when somebody works, what they do, with what, and what an hour of theirs costs.
func (w Words) Hours(p house.Worker) string {
	out := fmt.Sprintf("%.4g h a week", float64(p.Week.Minutes())/60)
	switch {
	case p.Week.Minutes() == 0:
		out = "no hours: nothing is planned for them"
	case !p.Own:
		out += ", as the shop is open"
	}
	if p.Machine > 0 {
		out += fmt.Sprintf("; machines at most %.0f min a day", p.Machine)
	}
	if p.Rate > 0 {
		out += fmt.Sprintf("; %.4g %s an hour", p.Rate, w.Face.Money)
	}
	var not []string
	for _, k := range schedule.UsualKinds {
		if len(p.Kinds) > 0 && !slices.Contains(p.Kinds, k) {
			not = append(not, lower(taskNames[k]))
		}
	}
	switch {
	case len(not) > len(schedule.UsualKinds)/2:
		out += fmt.Sprintf("; %s of %d tasks", count(len(schedule.UsualKinds)-len(not), "kind"), len(schedule.UsualKinds))
	case len(not) > 0:
		out += "; not for " + strings.Join(not, ", ")
	}
	return out
}

// LateCar says of a car that is late when it is done.
func (w Words) LateCar(wk *week.Week, c *week.WeekCar) string { return capital(w.WeekCar(wk, c)) + "." }

// ReadingDue says which sections of a panel of a car want a reading.
func (w Words) ReadingDue(c *week.WeekCar, panel string) (head, text string) {
	var at []string
	for _, d := range c.Due {
		if d.PanelID == panel {
			head = c.Name + ", " + lower(d.Panel)
			at = append(at, d.Section)
		}
	}
	return head, "Read the gauge before the next pass: " + and(at) + "."
}

// TellOwner says that the owner has to be told.
func (w Words) TellOwner(c *week.WeekCar) string {
	when := "Work begins within a day"
	if c.Begun {
		when = "Work has begun"
	}
	return fmt.Sprintf("%s, and the owner was not told of %s that will not come out.", when, count(c.Untold, "thing"))
}

// Pace says how long passes take here against the plans, and whether that is worth taking
// over: enough was timed, and the plans' pace lies outside of what is likely.
func Pace(p offers.ToolPace) (text string, differs bool) {
	of := map[offers.Paced]string{offers.PacedByHand: "Passes by hand take", offers.PacedByMachine: "Passes with a machine take", offers.PacedAround: "Washing, masking, looking and the rest take"}[p.Of]
	if p.Pieces == 0 {
		how := "log passes one after the other, or say on a car's page of how it went how long they took"
		if p.Of == offers.PacedAround {
			how = "say on a car's page of how it went how long they took"
		}
		return fmt.Sprintf("%s what the shelf says: nothing was timed yet; %s.", of, how), false
	}
	differs = p.Now < p.Low() || p.Now > p.High()
	text = fmt.Sprintf("%s %.2f times as long as by the shelf (%.2f to %.2f, %s of work timed); plans are made with %.2f.", of, p.Factor, p.Low(), p.High(), count(p.Pieces, "piece"), p.Now)
	return text, differs
}
