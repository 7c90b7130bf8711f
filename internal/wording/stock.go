package wording

import (
	"fmt"
	"strings"

	"waxplanus/internal/shop/week"
)

// StockLasts says when a thing runs out, or that it lasts.
func (w Words) StockLasts(wk *week.Week, l *week.StockLine) string {
	switch {
	case !l.Counted && l.Planned > 0:
		return "not counted"
	case !l.Counted:
		return "not counted, not planned"
	case !l.Out.IsZero():
		return "runs out " + w.near(l.Out, wk.Now)
	case l.Planned == 0:
		return "not planned"
	case l.IsLow:
		return "lasts, then under the mark"
	}
	return "lasts"
}

// Stock says in a sentence how the shelf stands.
func (w Words) Stock(wk *week.Week) string {
	out, low, counted := 0, 0, 0
	for i := range wk.Stock {
		switch l := &wk.Stock[i]; {
		case !l.Counted:
			continue
		case !l.Out.IsZero():
			out++
		case l.IsLow:
			low++
		}
		counted++
	}
	switch {
	case counted == 0:
		return "Nothing is counted yet: say how much is there of what the plans use."
	case out > 0:
		text := count(out, "thing") + " run out"
		if out == 1 {
			text = "One thing runs out"
		}
		return text + " within the plans of " + count(len(wk.Cars), "car") + "."
	case low > 0:
		return count(low, "thing") + " will be under the mark."
	}
	return "All that is counted lasts for the plans of " + count(len(wk.Cars), "car") + "."
}

// RunsOut says of a thing that it runs out, and what to do.
func (w Words) RunsOut(wk *week.Week, l *week.StockLine) (head, text string) {
	head = l.Title + " " + strings.ToLower(l.What)
	names := CarNames(wk)
	felt := make([]string, len(l.Felt))
	for i, id := range l.Felt {
		felt[i] = names[id]
	}
	return head, capital(fmt.Sprintf("%s, first felt by %s: %s here, %s planned.", w.StockLasts(wk, l), and(felt), muchOf(l.Here, l.Unit), muchOf(l.Planned, l.Unit)))
}

// muchOf is so much of a thing, in its unit.
func muchOf(v float64, unit week.StockUnit) string {
	if unit == week.Ml || unit == week.Metres {
		return fmt.Sprintf("%.0f %s", v, unit)
	}
	if v == float64(int(v)) {
		return count(int(v), string(unit))
	}
	return fmt.Sprintf("%.1f %ss", v, unit)
}
