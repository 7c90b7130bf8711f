package wording

import (
	"fmt"
	"slices"
	"strings"

	"waxplanus/core/care"
	"waxplanus/core/film"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/panel"
)

// FilmRecord is what the next person who works on a car is given: the film of each panel, what
// is left of its clear, what was taken, by what and when, and how all of that is known.
func (w Words) FilmRecord(h *handover.Handing, logo []byte) *files.Record {
	r := &files.Record{Title: "Film record", Sub: fmt.Sprintf("%s, %s%s. For the next person who polishes it.", h.Name, h.Colour, layersOf(h)),
		Shop: h.Settings.Name, Logo: logo, Paper: h.Settings.Paper, Foot: w.foot(h), Kind: "film record", No: fmt.Sprintf("record %04d", h.No), Floor: w.floorOf(h),
		Car: w.clearLeft(h), Panels: w.filmTable(h), MindHead: "Mind", Mind: w.mind(h), ReadHead: "How it was read", Read: w.howRead(h),
		SpentHead: "What was taken, by what, when", Spent: w.spent(h), Seal: w.Seal(h)}
	return r
}

func layersOf(h *handover.Handing) string {
	single := 0
	for _, p := range h.Panels {
		if p.Layers == facts.SingleStage {
			single++
		}
	}
	switch single {
	case 0:
		return ", clear over colour"
	case len(h.Panels):
		return ", single stage"
	}
	return ", clear over colour and single stage"
}

// floorOf is the floor that most panels are held to.
func (w Words) floorOf(h *handover.Handing) string {
	n, most := map[float64]int{}, 0.0
	for _, l := range h.Lines {
		if l.Known {
			if n[l.Study.Policy.Floor]++; n[l.Study.Policy.Floor] > n[most] {
				most = l.Study.Policy.Floor
			}
		}
	}
	if most == 0 {
		return ""
	}
	return w.say("floor %s µm", um(most))
}

// clearLeft is the car with the clear that is left on each panel, and a dot at each reading.
func (w Words) clearLeft(h *handover.Handing) *files.Flat {
	lines := map[string]handover.FilmLine{}
	for _, l := range h.Lines {
		lines[l.ID] = l
	}
	out := w.flat(h, func(p *panel.Panel) files.Shape {
		l, ok := lines[p.ID]
		if !ok || !l.Known {
			return files.Shape{Fill: "#ffffff"}
		}
		i := band(l.Clear.Mean)
		shape := files.Shape{Fill: ramp[i], Label: w.Film(l.Clear.Mean), LabelInk: paperInk}
		if i < rampDark {
			shape.LabelInk = "#ffffff"
		}
		return shape
	})
	for _, p := range h.Panels {
		for _, r := range p.Live() {
			if !r.Placed { // it has a place of its own
				out.Dots = append(out.Dots, files.Spot{Point: p.Shape.OnSheet(r.At), Size: 0.8, Fill: "#ffffff"})
			}
		}
	}
	for i, fill := range ramp {
		text := w.Film(rampFrom + float64(i)*rampStep)
		if i == 0 {
			text = "clear left, " + w.unitName() + ": to " + text
		}
		out.Legend = append(out.Legend, files.Swatch{Fill: fill, Text: text})
	}
	out.Legend = append(out.Legend, files.Swatch{Fill: "#ffffff", Text: "not read; dots: where it was read"})
	return out
}

// filmTable is a line for each panel.
func (w Words) filmTable(h *handover.Handing) *files.PaperTable {
	t := &files.PaperTable{Caption: "Film of each panel, " + w.unitName(), Head: []string{"panel", "film now", "clear before", "taken", "clear left, " + w.unitName(), "finish, and where the clear comes from"},
		Right: []bool{false, true, true, true, true, false}, Wide: []float64{0.2, 0.09, 0.11, 0.08, 0.13, 0.39}}
	var unread []string
	for _, l := range h.Lines {
		if !l.Known {
			unread = append(unread, l.Name)
			continue
		}
		row := files.TableRow{Strong: l.Worked(), Cells: []string{briefName(l.Name), w.Film(l.Film.Mean), w.Film(l.Before.Mean), "0", w.Film(l.Clear.Mean) + " ± " + w.Film(l.Clear.SD), finish(l.Panel)}}
		if l.Spent.Mean > 0 {
			row.Cells[3] = w.Film(l.Spent.Mean)
		}
		t.Rows = append(t.Rows, row)
	}
	if len(unread) > 0 {
		t.Under = "Not read: " + listed(unread) + "."
	}
	return t
}

// briefName is the name of a panel without what is painted with it.
func briefName(name string) string { return strings.TrimSuffix(name, " and roof rail") }

// briefSources say in a few words where the clear comes from.
var briefSources = map[film.SourceKind]string{film.FromBefore: "read before the clear", film.FromUnder: "total less what lies under it", film.FromCoats: "guess from the coats",
	film.FromDirect: "layer gauge", film.FromBare: "total less a place without clear", film.FromNeighbours: "lent by the panels beside it", film.FromSingle: "single stage"}

// finish says what finish a panel has and where its clear comes from.
func finish(p *panel.Panel) string {
	text := map[film.Origin]string{film.AtFactory: "factory", film.Here: "refinished here", film.Elsewhere: "refinished elsewhere"}[p.Origin]
	if text == "" {
		text = "origin not known"
	}
	if slices.Contains(p.Past, "polished") {
		text += ", polished before"
	}
	if p.Study != nil {
		if s, _ := p.Study.Clear.Decides(); s != nil && s.Kind == film.FromShare {
			text += fmt.Sprintf("; %.0f %% of film", 100*p.History().ClearShare().Mean)
		} else if s != nil {
			text += "; " + briefSources[s.Kind]
		}
	}
	return text
}

// mind is what the next person has to know before anything is sanded.
func (w Words) mind(h *handover.Handing) []files.Item {
	var out []files.Item
	for _, l := range h.Lines {
		if !l.Known {
			continue
		}
		switch {
		case l.Polishes == 0:
			out = append(out, files.Item{Bold: capital(l.Name) + ":", Text: "nothing may go any more, wax only."})
		case l.Room < care.SandFrom:
			out = append(out, files.Item{Bold: capital(l.Name) + ":", Text: w.say("no sanding; %s µm may still go, for a fine polish.", um(l.Room))})
		}
		for _, f := range l.Flags {
			out = append(out, files.Item{Bold: capital(l.Name) + ":", Text: w.Flag(f)})
		}
	}
	for _, f := range h.Floors {
		if f.Struck == nil {
			text := w.say("a floor of %s µm was agreed on %s", um(f.Floor), w.day(f.At))
			out = append(out, files.Item{Bold: capital(panelName(h, f.PanelID)) + ":", Text: text + "."})
		}
	}
	if len(out) == 0 {
		out = append(out, files.Item{Text: "Nothing that was read forbids a usual polish, and no floor was agreed."})
	}
	return out
}

func panelName(h *handover.Handing, id string) string {
	for _, p := range h.Panels {
		if p.ID == id {
			return p.Name
		}
	}
	return "the whole car"
}

// howRead says with what the film was read and what the doubts are.
func (w Words) howRead(h *handover.Handing) []files.Item {
	spots := 0
	var with []string
	for _, g := range h.Gauges {
		spots += g.Readings
		text := g.Name
		if g.RepeatUM > 0 {
			text += w.say(" (repeats to ± %s µm)", um(g.RepeatUM))
		}
		with = append(with, text)
	}
	var out []files.Item
	if spots > 0 {
		out = append(out, files.Item{Text: fmt.Sprintf("%s with %s.", capital(count(spots, "reading")), listed(with))})
	} else {
		out = append(out, files.Item{Text: "Nothing was read on this car."})
	}
	out = append(out, files.Item{Text: fmt.Sprintf("Film and clear stand for the thinnest section of each panel; doubt is one standard deviation. Edges within %s are not counted.", w.length(25))})
	if len(h.People) > 0 {
		out = append(out, files.Item{Text: "By " + listed(h.People) + "."})
	}
	return out
}

// spent says what was taken of each panel, with what, how often, by whom and when.
func (w Words) spent(h *handover.Handing) []files.Item {
	var out []files.Item
	for _, f := range h.Proofs {
		steps := handover.StepsDone(f.Panel)
		if len(steps) == 0 {
			continue
		}
		var parts []string
		for _, s := range steps {
			parts = append(parts, fmt.Sprintf("%s, %s (%s, %s)", strings.TrimSpace(s.Title+" "+s.What), count(s.Passes, "pass"), listed(s.People), w.day(s.Last)))
		}
		text := strings.Join(parts, "; ")
		if f.Section != nil {
			text = w.say("%s µm at its thinnest. ", plusMinus(f.Spent)) + text
		}
		out = append(out, files.Item{Bold: capital(f.Name) + ".", Text: text + "."})
	}
	return out
}
