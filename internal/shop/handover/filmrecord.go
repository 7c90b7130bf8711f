package handover

import (
	"strings"

	"waxplanus/core/film"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/panel"
)

// FilmRecord is the film record of a car for a program.
func (h *Handing) FilmRecord() files.FilmRecord {
	out := files.FilmRecord{Format: files.RecordFormat, Version: files.RecordVersion, Record: h.No, Car: h.Name, Colour: h.Colour, At: h.At.UTC(), HandedAt: h.HandedOverAt, Seal: h.Seal,
		Panels: []files.RecordedPanel{}, Floors: []files.RecordedFloor{}}
	for _, l := range h.Lines {
		p := files.RecordedPanel{Key: l.Key, Name: l.Name, Substrate: l.Substrate, Origin: string(l.Origin), Layers: l.Layers, Readings: []files.RecordedReading{}, Steps: []files.RecordedStep{}}
		if l.Known {
			floor := l.Study.Policy.Floor
			p.Film, p.ClearBefore, p.Taken, p.ClearLeft = valueOf(l.Film), valueOf(l.Before), valueOf(l.Spent), valueOf(l.Clear)
			p.Room, p.Floor = &l.Room, &floor
			if s, _ := l.Study.Clear.Decides(); s != nil {
				p.Source = string(s.Kind)
			}
		}
		for _, r := range l.Readings {
			one := files.RecordedReading{No: r.No, X: r.At.X, Y: r.At.Y, Film: r.Film, Phase: string(r.Phase), At: r.TakenAt.UTC()}
			if r.Struck != nil {
				one.Struck = r.Struck.Reason
			}
			p.Readings = append(p.Readings, one)
		}
		for _, s := range StepsDone(l.Panel) {
			p.Steps = append(p.Steps, files.RecordedStep{What: strings.TrimSpace(s.Title + " " + s.What), Passes: s.Passes, People: s.People, Last: s.Last.UTC()})
		}
		out.Panels = append(out.Panels, p)
	}
	for _, f := range h.Floors {
		if f.Struck == nil {
			name := ""
			if p := panel.FirstOf(h.Panels, func(p *panel.Panel) bool { return p.ID == f.PanelID }); p != nil {
				name = (*p).Name
			}
			out.Floors = append(out.Floors, files.RecordedFloor{Panel: name, Floor: f.Floor, At: f.At.UTC()})
		}
	}
	return out
}

func valueOf(e film.Estimate) *files.Value { return &files.Value{Mean: e.Mean, SD: e.SD} }

// MarksFile is every mark of the car, struck ones too.
func MarksFile(c *panel.Car) []files.KeptMark {
	var out []files.KeptMark
	for _, p := range c.Panels {
		for _, m := range p.Marks {
			one := files.KeptMark{Panel: p.Name, Key: p.Key, No: m.No, Kind: string(m.Kind), X: m.X, Y: m.Y, Length: m.Length, Width: m.Width, Angle: m.Angle, Class: string(m.Class),
				Size: m.Size, Crest: m.Crest, Beside: m.Beside, Grade: m.Grade, Density: m.Density, Spent: m.Spent, Note: m.Note, Found: m.Found, Person: m.Person, At: m.At,
				Outcome: string(m.Outcome), Reason: m.Reason, ID: m.ID}
			if m.Struck != nil {
				one.Struck = m.Struck.Reason
			}
			out = append(out, one)
		}
	}
	return out
}
