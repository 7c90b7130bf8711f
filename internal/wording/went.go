package wording

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/price"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/shop/went"
)

// Went says in a sentence how a car goes against what was promised.
func (w Words) Went(c *went.CarWent) string {
	switch {
	case c.Went.Done == 0:
		return "No work is done on this car yet: what is planned stands here until passes are logged."
	case c.Promise == nil && c.Due == nil:
		return "Nothing was promised for this car: what happened is held against its plans."
	}
	var over, likely []string
	for _, f := range []struct {
		name string
		of   func() (price.Against, bool)
	}{{"hours", c.HoursAgainst}, {"film", c.FilmAgainst}, {"the day", c.ReadyAgainst}, {"what it costs the shop", c.CostAgainst}} {
		switch a, _ := f.of(); a {
		case price.MoreSure:
			over = append(over, f.name)
		case price.More:
			likely = append(likely, f.name)
		}
	}
	var out []string
	if len(over) > 0 {
		out = append(out, "Over what was promised: "+and(over)+". Tell the owner before they ask.")
	}
	if len(likely) > 0 {
		out = append(out, "Likely over what was promised: "+and(likely)+".")
	}
	if out == nil {
		return "It keeps to what was promised."
	}
	return strings.Join(out, " ")
}

// WentFigure is one thing that was promised against what comes of it.
type WentFigure struct{ Promised, Now, Against, Text string }

// open is said of what cannot be compared yet.
const open = "open"

func against(a price.Against, known bool) string {
	if !known {
		return open
	}
	return string(a)
}

// WentHours is what was promised of hours.
func (w Words) WentHours(c *went.CarWent) WentFigure {
	out := WentFigure{Against: against(c.HoursAgainst()), Now: HourRange(c.Went.End.Low, c.Went.End.High)}
	if c.Promise != nil {
		h := c.Promised()
		out.Promised = HourRange(h.Low, h.High)
	}
	took := fmt.Sprintf("%.1f h", c.Went.Took.Likely)
	switch {
	case c.Went.Done == 0:
		out.Text = fmt.Sprintf("As planned: %.1f h.", c.Went.Planned)
	case c.Went.Left.Likely == 0:
		out.Text = fmt.Sprintf("All is done, in %s; the plans said %.1f h.", took, c.Went.Planned)
	default:
		out.Text = fmt.Sprintf("%s so far, where the plans said %.1f h; %.1f h are left at this pace.", took, c.Went.Done, c.Went.Left.Likely)
	}
	switch {
	case c.Went.Done == 0:
	case c.Went.Known == 0:
		out.Text += " Nothing was timed yet: the hours are those of the plans."
	default:
		out.Text += fmt.Sprintf(" Timed: %.0f %% of what is done; the rest is taken at the pace of that.", 100*c.Went.Known)
	}
	if c.Promise != nil && c.Promise.DoneH >= 0.1 {
		out.Text += fmt.Sprintf(" The owner was promised %s beside %.1f h that were done before.", HourRange(c.Promise.HoursLow, c.Promise.HoursHigh), c.Promise.DoneH)
	}
	if l, over := c.Most(); l != nil {
		out.Text += fmt.Sprintf(" Most over: %s, %.1f h.", lower(WentName(l)), over)
	}
	return out
}

// WentFilm is what was promised of film.
func (w Words) WentFilm(c *went.CarWent) WentFigure {
	out := WentFigure{Against: against(c.FilmAgainst()), Now: w.say("%s µm", um(c.Film.Mean))}
	if c.Promise != nil {
		out.Promised = w.say("%s µm", um(c.Promise.FilmUM))
	}
	if c.FilmOf == "" {
		out.Text = "No film was taken yet."
		return out
	}
	out.Text = w.say("Most went of the %s: %s ± %s µm; the plans take %s at most.", lower(c.FilmOf), um(c.Film.Mean), um(c.Film.SD), um(c.Planned))
	if c.AtMark > 0.05 {
		out.Text += w.say(" At a mark there %s µm more.", um(c.AtMark))
	}
	return out
}

// WentReady is what was promised of the day.
func (w Words) WentReady(c *went.CarWent) WentFigure {
	out := WentFigure{Against: against(c.ReadyAgainst()), Now: "not planned"}
	if c.Due != nil {
		out.Promised = w.near(*c.Due, c.Now)
	}
	switch {
	case c.IsReady:
		out.Now = w.near(c.Ready, c.Now)
		out.Text = "It is ready."
	case c.Ready.IsZero():
		out.Text = "The week's plan has no place for it: see Hands for who works when."
	default:
		out.Now = w.near(c.Ready, c.Now)
		out.Text = "By the week's plan."
	}
	if c.Due != nil && !c.Ready.IsZero() {
		if late := c.Ready.Sub(*c.Due); late.Hours() >= 24 {
			out.Text += fmt.Sprintf(" That is %s late.", count(int(math.Ceil(late.Hours()/24-0.5)), "day"))
		} else if late > 0 {
			out.Text += fmt.Sprintf(" That is %.1f h late.", late.Hours())
		}
	}
	return out
}

// WentPrice is the price against what the work has cost.
func (w Words) WentPrice(c *went.CarWent) WentFigure {
	money := func(v float64) string { return fmt.Sprintf("%.0f %s", v, w.Face.Money) }
	out := WentFigure{Against: against(c.CostAgainst()), Now: "costs " + money(c.CostAtEnd())}
	if c.Promise != nil {
		out.Promised = money(c.Promise.Price)
	}
	since := ""
	if c.Promise != nil && c.Promise.DoneH > 0 {
		since = ", from the promise on"
	}
	out.Text = "What it costs the shop when all is done" + since + "."
	if c.Went.Done > 0 {
		out.Text += fmt.Sprintf(" So far in all: %s of labour by the rates of who did it, %s used up.", money(c.Labour), money(c.Used))
	}
	return out
}

// WentName names a line in a word or two.
func WentName(l *went.WentLine) string {
	name := taskNames[l.Kind]
	if l.Title != "" {
		name += ", " + l.Title
	}
	return name
}

// WentTook says how long what is done of a line took.
func (w Words) WentTook(l *went.WentLine) string {
	t := l.Went.Took
	switch {
	case l.Done == 0:
		return "not begun"
	case l.Said != nil, l.Went.Known > 0.95:
		return minutes(60 * t.Likely)
	}
	return HourRange(t.Low, t.High)
}

// WentHow says where the time of a line is known from.
func (w Words) WentHow(c *went.CarWent, l *went.WentLine) string {
	who := ""
	if len(l.Who) > 0 {
		who = strings.Join(l.Who, ", ") + ". "
	}
	switch {
	case l.Done == 0:
		return ""
	case l.Said != nil:
		return fmt.Sprintf("%sAs %s said %s.", who, l.Said.Person, w.dayTime(l.Said.At))
	case l.Clocked > 0:
		return who + "By the clock of " + count(l.Clocked, "pass") + "."
	}
	if slices.ContainsFunc(c.Lines, func(o went.WentLine) bool { return o.Of == l.Of && o.Seen > 0 }) {
		return who + "Not timed: at the pace of what was."
	}
	return who + "Not timed: as planned."
}

// ToTake says what a car has used that is still counted on the shelf; empty for nothing.
func ToTake(c *went.CarWent) string {
	var all []string
	for _, u := range c.ToTake {
		switch u.Unit {
		case week.Ml:
			all = append(all, fmt.Sprintf("%.0f ml of %s", u.Used, u.What))
			continue
		case week.Metres:
			all = append(all, fmt.Sprintf("%.0f m of %s %s", u.Used, u.Title, u.What))
			continue
		case week.Pads:
			all = append(all, fmt.Sprintf("%.1f of a %s pad", u.Used, u.Title))
			continue
		}
		all = append(all, fmt.Sprintf("%.0f %s %s", u.Used, u.Title, u.Unit))
		if u.Used > 1 {
			all[len(all)-1] += "s"
		}
	}
	return and(all)
}
