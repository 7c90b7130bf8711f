package wording

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/care"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/refuse"
)

// Report is the owner's report of a car; pair are the photos that it shows, nil for none.
func (w Words) Report(h *handover.Handing, pair *files.Pair, logo []byte) *files.Report {
	has := func(p cars.Part) bool { return slices.Contains(h.Choices.Parts, p) }
	shopName := h.Settings.Name
	r := &files.Report{Title: h.Name, Sub: "What was done to the paint, what stays, and how to keep it", Shop: shopName, Logo: logo, Paper: h.Settings.Paper,
		Foot: w.foot(h), Kind: "owner’s report", Note: h.Choices.Note,
		Heads: files.ReportHeads{Done: "What was done", Stays: "What stays, and why", Clear: coat(h) + " that is left, in thousandths of a millimetre",
			Until: "Until when to be careful", Keep: "How to keep it", Work: "Who did it", Cautions: "Mind"}}
	if w.Unit == refuse.Mil {
		r.Heads.Clear = coat(h) + " that is left, in thousandths of an inch"
	}
	if has(cars.PartPictures) {
		r.Pair = pair
		r.Before, r.After = w.marksBefore(h), w.workedOn(h)
	}
	if has(cars.PartDone) {
		r.Done = w.workDone(h)
	}
	if has(cars.PartStays) {
		r.Stays = w.stays(h)
	}
	if has(cars.PartClear) || has(cars.PartCores) {
		r.Clear = w.clearTable(h, has(cars.PartCores))
	}
	if has(cars.PartUntil) {
		r.Until = w.until(h)
	}
	if has(cars.PartKeep) {
		r.Keep = w.keep(h)
	}
	if has(cars.PartWork) && len(h.People) > 0 {
		r.Work = []files.Item{{Bold: listed(h.People) + ".", Text: fmt.Sprintf("%s over the panels.", capital(count(h.Passes, "pass")))}}
	}
	r.Cautions = w.cautions(h)
	return r
}

func (w Words) foot(h *handover.Handing) string {
	parts := []string{h.Name, w.local(h.At).Format("Monday, ") + w.day(h.At) + ", " + w.clock(h.At)}
	if h.Settings.Name != "" {
		parts = append([]string{h.Settings.Name}, parts...)
	}
	return strings.Join(parts, " · ")
}

// goneWords says what is gone of the marks of a panel, in the owner's words.
func goneWords(all []panel.JudgedMark) string {
	n := map[marks.Kind]int{}
	var kinds []marks.Kind
	for _, m := range all {
		if m.Outcome == facts.Gone {
			if n[m.Kind] == 0 {
				kinds = append(kinds, m.Kind)
			}
			n[m.Kind]++
		}
	}
	var out []string
	for _, k := range kinds {
		out = append(out, fmt.Sprintf("%d %s", n[k], plainKinds[k][min(n[k], 2)-1]))
	}
	if len(out) == 0 {
		return ""
	}
	return listed(out) + " gone"
}

// doneWords are what an aim comes to when it was worked.
var doneWords = map[plan.Aim]string{plan.Flat: "Levelled flat", plan.Match: "Levelled to match what is beside it", plan.NibsOnly: "Dust and runs taken out, nothing else touched", plan.PolishOnly: "Polished, not sanded"}

// came says how the work on a panel came out: what Prove has seen, and no more.
func came(f *proof.PanelProof) string {
	switch {
	case !f.Worked():
		return "Spotted"
	case !f.Aim.Levels():
		return doneWords[f.Aim]
	case f.After == nil || f.After.Source == proof.FromModel:
		return map[plan.Aim]string{plan.Flat: "Levelled; how flat it came out was not photographed", plan.Match: "Levelled towards what is beside it; how near it came was not photographed"}[f.Aim]
	case f.Outcome.Reached == prove.NotReached:
		now, _ := f.After.Grade()
		wanted, _ := f.Outcome.Wanted.Grade()
		if f.Aim == plan.Match {
			return fmt.Sprintf("Levelled, and not quite like what is beside it (peel %.1f of 10 beside %.1f)", now, wanted)
		}
		return fmt.Sprintf("Levelled; some of the texture stays (peel %.1f of 10)", now)
	}
	return doneWords[f.Aim]
}

// workDone says what was done, panel by panel.
func (w Words) workDone(h *handover.Handing) []files.Item {
	var out []files.Item
	for _, f := range h.Proofs {
		gone := goneWords(f.Found)
		if !f.Worked() && gone == "" {
			continue
		}
		text := came(f)
		if f.Swirls > 0.005 {
			text += fmt.Sprintf(", about %.0f %% of the swirls gone", 100*f.Swirls)
		}
		if gone != "" {
			text += ": " + gone
		}
		text += "."
		if h.Choices.Trade {
			text += w.tradeDone(f)
		}
		out = append(out, files.Item{Bold: capital(f.Name) + ".", Text: text})
	}
	if len(out) == 0 {
		out = append(out, files.Item{Text: "Nothing was worked on yet."})
	}
	return out
}

// tradeDone adds grits, passes and film.
func (w Words) tradeDone(f *proof.PanelProof) string {
	var steps []string
	for _, s := range handover.StepsDone(f.Panel) {
		steps = append(steps, strings.TrimSpace(s.Title+" "+s.What))
	}
	if len(steps) == 0 {
		return ""
	}
	text := " " + strings.Join(steps, ", ")
	if f.Section != nil {
		text += w.say("; %s µm of clear at its thinnest", plusMinus(f.Spent))
	}
	return text + "."
}

// stays says what stays, in the words in which the owner was told where they were.
func (w Words) stays(h *handover.Handing) []files.Item {
	var out []files.Item
	for _, t := range h.Tellings {
		title, text := w.Telling(t)
		if t.SaidAs == "-" { // deleted with what was known of the owner
			text = ""
		}
		out = append(out, files.Item{Bold: title, Text: text})
	}
	if len(out) == 0 {
		out = append(out, files.Item{Text: "Nothing that was found stays."})
	}
	return out
}

// clearTable is what is left of the clear of the panels that were worked.
func (w Words) clearTable(h *handover.Handing, cores bool) *files.PaperTable {
	t := &files.PaperTable{Caption: "Clear coat of the panels that were worked", Head: []string{"", "before", "taken", "left", "sharpness of a mirrored lamp", "may be polished again"},
		Right: []bool{false, true, true, true, false, false}, Wide: []float64{0.22, 0.09, 0.09, 0.12, 0.26, 0.22}}
	if cores {
		t.Head = append(t.Head, "left, taken, floor")
		t.Right, t.Wide = append(t.Right, false), []float64{0.19, 0.08, 0.08, 0.11, 0.18, 0.16, 0.2}
	}
	for _, l := range workedLines(h) {
		sharp := ""
		for _, f := range h.Proofs {
			if f.ID == l.ID {
				sharp = sharpness(f)
			}
		}
		row := files.TableRow{Strong: true, Cells: []string{capital(l.Name), w.Film(l.Before.Mean), w.Film(l.Spent.Mean), w.Film(l.Clear.Mean) + " ± " + w.Film(l.Clear.SD), sharp, again(l)}}
		if cores {
			row.Bar = filmBar(l)
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

func filmBar(l handover.FilmLine) *files.FilmBar {
	return &files.FilmBar{Clear: max(l.Clear.Mean, 0), Taken: max(l.Spent.Mean, 0), Floor: l.Study.Policy.Floor, Doubt: l.Clear.SD}
}

// sharpness is that of a mirrored lamp before and now, 0 to 100, as far as it was measured: by a
// clarity meter where one read it, or from photos of the lamps. What only follows from the
// passes, or from a grade by eye, is not told as if it had been.
func sharpness(f *proof.PanelProof) string {
	before, after := -1.0, -1.0
	if f.Before.Source == proof.FromPhoto {
		before = f.Before.Clarity()
	}
	if f.After != nil && f.After.Source == proof.FromPhoto {
		after = f.After.Clarity()
	}
	for _, c := range f.Changes {
		if c.Quantity != prove.Clarity {
			continue
		}
		if c.Before != nil {
			before = c.Before.Value
		}
		if c.After != nil {
			after = c.After.Value
		}
		break
	}
	switch {
	case before < 0 && after < 0:
		return "not measured"
	case before < 0:
		return fmt.Sprintf("now %.0f of 100", after)
	case after < 0:
		return fmt.Sprintf("%.0f of 100 before", before)
	}
	return fmt.Sprintf("%.0f of 100, now %.0f", before, after)
}

// coat is what of the paint is counted: clear, or the colour itself where no panel has clear.
func coat(h *handover.Handing) string {
	if len(h.Lines) > 0 && !slices.ContainsFunc(h.Lines, func(l handover.FilmLine) bool { return l.Layers != facts.SingleStage }) {
		return "Paint"
	}
	return "Clear coat"
}

// again says how often a panel may be polished again.
func again(l handover.FilmLine) string {
	switch {
	case l.Polishes == 0:
		return "no: wax only"
	case l.Polishes == 1:
		return "once, lightly"
	case l.Polishes > 20:
		return "more than 20 times, lightly"
	}
	return fmt.Sprintf("about %d times, lightly", l.Polishes)
}

func (w Words) keep(h *handover.Handing) []files.Item {
	out := []files.Item{{Text: "Two buckets, soft mitt, no brush. Dry by laying a cloth on, not by rubbing."}}
	var thin []string
	for _, l := range h.Lines {
		if l.Known && l.Room < care.SandFrom {
			thin = append(thin, l.Name)
		}
	}
	if len(thin) > 0 {
		out = append(out, files.Item{Text: fmt.Sprintf("There is too little %s to sand %s again.", lower(coat(h)), the(thin))})
	}
	return append(out, files.Item{Text: "Give the film record to whoever polishes it next."})
}

// cautions are what the owner agreed to, and what can hurt somebody.
func (w Words) cautions(h *handover.Handing) []string {
	var out []string
	for _, f := range h.Floors {
		if f.Struck == nil && f.Reason != "-" {
			out = append(out, w.Agreed(f))
		}
	}
	fresh := false
	for _, p := range h.Panels {
		fresh = fresh || p.Origin == film.Here && p.Finish() == film.Refinished
	}
	if h.TooSoon {
		out = append(out, "It was sealed before fresh paint may be: the paint maker's sheet decides what to do about that.")
	}
	if fresh {
		out = append(out, "Fresh paint gives off solvents for some weeks: keep the place where it stands aired.")
	}
	return append(out, "Whoever sands or polishes this paint later: dust and mist of paint can harm. Work wet, wear what the safety sheets of paint and compound say, and follow the local rules.")
}

// The inks of flat-lays on paper.
const (
	paperInk   = "#1d1f37"
	paperLine  = "#6f7e7d"
	paperGhost = "#e4e8e6"
	paperGlass = "#bccace"
	paperMark  = "#eade54"
	paperStay  = "#612149"
	paperWork  = "#474c61"
)

// ramp are the bands of clear that is left, from rampFrom µm on in steps of rampStep.
var ramp = []string{"#261156", "#2c3076", "#254e8f", "#086f9c", "#178fa5", "#47aeab", "#7ac9af", "#b1e0b3", "#e7f2c1"}

const (
	rampFrom = 20.0
	rampStep = 4.0
	rampDark = 4 // so many of its bands are dark
)

func band(um float64) int {
	return max(0, min(len(ramp)-1, int((um-rampFrom+rampStep/2)/rampStep)))
}

// flat is a car unfolded, with each panel as it is drawn by fill.
func (w Words) flat(h *handover.Handing, fill func(p *panel.Panel) files.Shape) *files.Flat {
	b := h.Sheet.Box
	out := &files.Flat{X: b.X, Y: b.Y, W: b.W, H: b.H}
	for _, s := range h.Sheet.Scenery {
		if s.Kind == "ghost" {
			out.Shapes = append(out.Shapes, files.Shape{Outlines: [][]flatlay.Point{s.Points}, Fill: paperGhost})
		}
	}
	for _, s := range h.Sheet.Scenery {
		if s.Radius > 0 {
			out.Shapes = append(out.Shapes, files.Shape{Outlines: [][]flatlay.Point{circle(s.Centre, s.Radius), circle(s.Centre, s.Radius*0.66)}, Fill: paperGhost, Ink: paperLine})
		}
	}
	for _, p := range h.Panels {
		shape := fill(p)
		shape.Ink = paperInk
		shape.Outlines = [][]flatlay.Point{onSheet(p.Shape, p.Shape.Outline)}
		for _, o := range p.Shape.Holes {
			shape.Outlines = append(shape.Outlines, onSheet(p.Shape, o.Points))
		}
		if shape.Label != "" {
			shape.At = p.Shape.OnSheet(p.Shape.Middle())
		}
		out.Shapes = append(out.Shapes, shape)
	}
	for _, s := range h.Sheet.Scenery {
		if s.Radius == 0 && s.Kind != "ghost" && len(s.Points) > 2 {
			out.Shapes = append(out.Shapes, scenery(s))
		}
	}
	return out
}

func scenery(s body.Scenery) files.Shape {
	out := files.Shape{Outlines: [][]flatlay.Point{s.Points}, Ink: paperLine}
	if s.Kind != "handle" && s.Kind != "flap" {
		out.Fill = paperGlass
	}
	return out
}

func circle(at flatlay.Point, r float64) []flatlay.Point {
	const corners = 36
	var out []flatlay.Point
	for i := range corners {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / corners)
		out = append(out, flatlay.Point{X: at.X + r*cos, Y: at.Y + r*sin})
	}
	return out
}

func onSheet(p flatlay.Panel, pts []flatlay.Point) []flatlay.Point {
	out := make([]flatlay.Point, len(pts))
	for i, q := range pts {
		out[i] = p.OnSheet(q)
	}
	return out
}

// marksBefore are all marks that were found.
func (w Words) marksBefore(h *handover.Handing) *files.Flat {
	out := w.flat(h, func(*panel.Panel) files.Shape { return files.Shape{Fill: "#ffffff"} })
	w.dot(out, h, func(panel.JudgedMark) string { return paperMark })
	out.Text = "Before: " + count(len(out.Dots), "mark") + " found"
	return out
}

// workedOn are the panels that were worked, and the marks that stay.
func (w Words) workedOn(h *handover.Handing) *files.Flat {
	out := w.flat(h, func(p *panel.Panel) files.Shape {
		if p.Worked() {
			return files.Shape{Fill: paperWork}
		}
		return files.Shape{Fill: "#ffffff"}
	})
	w.dot(out, h, func(m panel.JudgedMark) string {
		if m.Outcome == facts.Gone {
			return ""
		}
		return paperStay
	})
	out.Text = "After: " + count(len(out.Dots), "mark") + " not gone"
	if len(out.Dots) == 0 {
		out.Text = "After: no mark is left"
	}
	out.Legend = []files.Swatch{{Fill: paperWork, Text: "worked on"}, {Fill: paperStay, Text: "a mark that is not gone"}}
	return out
}

// dot marks the marks of a car by their colour; an empty one leaves a mark out.
func (w Words) dot(f *files.Flat, h *handover.Handing, colour func(panel.JudgedMark) string) {
	for _, m := range h.Marks {
		p := slices.IndexFunc(h.Panels, func(p *panel.Panel) bool { return p.ID == m.PanelID })
		if fill := colour(m); fill != "" && p >= 0 {
			f.Dots = append(f.Dots, files.Spot{Point: h.Panels[p].Shape.OnSheet(flatlay.Point{X: m.X, Y: m.Y}), Size: 1.1, Fill: fill})
		}
	}
}
