package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/film"
	"waxplanus/core/prove"
	"waxplanus/internal/store"
)

// Part is a part of the owner's report.
type Part string

// The parts, in their order on the sheet.
const (
	PartPictures Part = "pictures" // before and after, the same lamps
	PartDone     Part = "done"
	PartStays    Part = "stays"
	PartClear    Part = "clear"
	PartCores    Part = "cores" // film cores
	PartUntil    Part = "until"
	PartKeep     Part = "keep"
	PartWork     Part = "work" // people and passes
)

// Parts are all of them.
var Parts = []Part{PartPictures, PartDone, PartStays, PartClear, PartCores, PartUntil, PartKeep, PartWork}

// What a car may be sealed with.
const (
	Unsealed = ""
	Waxed    = "wax"
	Coated   = "coating"
)

// ReportChoices are what goes into the report of a car. Trade has it in the words of the trade,
// Pair names the panel whose photos are shown (empty for the one that was worked most), Sealed
// says what it was sealed with and SealedAt when, Note is a line of the shop's own.
type ReportChoices struct {
	Parts    []Part     `json:"parts"`
	Trade    bool       `json:"trade,omitempty"`
	Pair     string     `json:"pair,omitempty"`
	Sealed   string     `json:"sealed,omitempty"`
	SealedAt *time.Time `json:"sealed_at,omitempty"`
	Sheet    care.Sheet `json:"sheet,omitzero"`
	Note     string     `json:"note,omitempty"`
}

// usualParts are those of a report that nobody chose anything for.
var usualParts = []Part{PartPictures, PartDone, PartStays, PartClear, PartCores, PartUntil, PartKeep}

const mostShopNote = 400

// HandTask is something that is still to do before a car is handed over.
type HandTask string

// What is to do beside what proving a panel wants.
const (
	TaskKeep HandTask = "keep" // nobody said that the panel is good
	TaskTell HandTask = "tell" // the owner was not told
	TaskPlan HandTask = "plan" // a plan was accepted, and no pass made
	// TaskUndone is a panel that something was wanted of, on which nothing was done.
	TaskUndone HandTask = "undone"
)

// HandTodo is one of them, on a panel or on the car.
type HandTodo struct {
	Task          HandTask
	PanelID, Name string
	Count         int
}

// FilmLine is what the film record says of a panel: film and clear at its thinnest now, clear
// before and what went; Known is false of a panel that was not read. Polishes is how often it
// may be polished again lightly.
type FilmLine struct {
	*Panel
	Known                      bool
	Film, Before, Clear, Spent film.Estimate
	Room                       float64 // µm that may go without asking anybody
	Polishes                   int
	Flags                      []film.Flag // what the readings show of its past
}

// Handover is what happened to a car at its end.
type Handover struct {
	Kind, Person, Reason string
	OnDay, At            time.Time
}

// The kinds of handovers.
const (
	HandedOver = store.KindHanded
	Reopened   = store.KindReopened
	Forgotten  = store.KindForgotten
)

// Handing is a car as it is handed over.
type Handing struct {
	*CarProof
	Tellings []Telling
	Marks    []JudgedMark
	Todos    []HandTodo
	Choices  ReportChoices
	Lines    []FilmLine // every panel
	Waits    []care.Wait
	TooSoon  bool // sealed before the paint may be
	Settings Settings
	Gauges   []GaugeUse
	People   []string
	Passes   int
	History  []Handover
	Seal     string // empty of a car that is in the shop
	Broken   bool   // its film record is not what was sealed
	At       time.Time
	Sent     string // id of the hand over that closed it
}

// GaugeUse is a gauge with how many of the readings are its own.
type GaugeUse struct {
	Name     string
	Readings int
	RepeatUM float64
}

// Handing is a car as it is handed over: what is still to do, and what its two sheets say.
func (s *Shop) Handing(ctx context.Context, carID string) (*Handing, error) {
	proven, err := s.ProveCar(ctx, carID)
	if err != nil {
		return nil, err
	}
	out := &Handing{CarProof: proven, At: s.now()}
	if out.Settings, err = s.Settings(ctx); err != nil {
		return nil, err
	}
	if out.Tellings, err = s.tellingsOf(ctx, proven.Car); err != nil {
		return nil, err
	}
	if out.Marks, err = s.marksOf(proven.Car); err != nil {
		return nil, err
	}
	if out.Choices, err = s.reportChoices(ctx, carID); err != nil {
		return nil, err
	}
	rule, err := s.CareRule(ctx)
	if err != nil {
		return nil, err
	}
	if err := s.putHistory(ctx, out); err != nil {
		return nil, err
	}
	out.putWork(ctx, s)
	factory := out.FactoryLevel()
	for _, p := range out.Panels {
		if line := filmLine(p, factory); line.Known || p.Worked() || p.Substrate != Plastic {
			out.Lines = append(out.Lines, line)
		}
	}
	out.Choices.Sheet = out.careSheet(out.Choices)
	var sealed *time.Time
	if out.Choices.Sealed != Unsealed {
		sealed = out.Choices.SealedAt
		if sealed == nil {
			sealed = &out.At
		}
	}
	out.Waits = care.Waits(out.careFor(), sealed, rule, out.Choices.Sheet, out.At)
	out.TooSoon = care.TooSoon(out.Waits, sealed)
	out.Todos = out.todos()
	return out, nil
}

// careSheet is the maker's sheet that was chosen, else that of the car's fresh paint.
func (c *Car) careSheet(chosen ReportChoices) care.Sheet {
	if chosen.Sheet != (care.Sheet{}) {
		return chosen.Sheet
	}
	if p := find(c.Panels, func(p *Panel) bool { return p.Origin == film.Here && p.Paint != nil }); p != nil {
		return (*p).Paint.Care()
	}
	return care.Sheet{}
}

// careFor are the panels that want care: fresh ones, and those that were worked.
func (c *Car) careFor() []care.Panel {
	var out []care.Panel
	for _, p := range c.Panels {
		if p.Origin == film.Here || p.Worked() {
			out = append(out, p.caredFor())
		}
	}
	return out
}

func (p *Panel) caredFor() care.Panel {
	return care.Panel{Name: p.Name, Fresh: p.Origin == film.Here, Sprayed: p.SprayedAt, Baked: p.Cure == Baked}
}

func (s *Shop) reportChoices(ctx context.Context, carID string) (ReportChoices, error) {
	out := ReportChoices{Parts: usualParts}
	text, err := s.store.ReportChoices(ctx, carID)
	if err == nil && text != "" {
		out.Parts = nil
		err = json.Unmarshal([]byte(text), &out)
	}
	return out, err
}

// SetReport chooses what goes into the report of a car.
func (s *Shop) SetReport(ctx context.Context, carID string, c ReportChoices) error {
	row, err := s.store.Car(ctx, carID)
	if err != nil {
		return err
	}
	c.Note = strings.TrimSpace(c.Note)
	for _, p := range c.Parts {
		if !slices.Contains(Parts, p) {
			return Refuse(BadPart, "parts", p)
		}
	}
	switch {
	case c.Sealed != Unsealed && c.Sealed != Waxed && c.Sealed != Coated:
		return Refuse(BadPart, "sealed", c.Sealed)
	case len([]rune(c.Note)) > mostShopNote:
		return Refuse(LongShopNote, "note", mostShopNote)
	case c.Pair != "" && !slices.ContainsFunc(row.Panels, func(p store.Panel) bool { return p.ID == c.Pair }):
		return ErrMissing
	}
	if err := c.Sheet.Check(); err != nil {
		return Refuse(BadCare, "sheet", err)
	}
	if c.Sealed == Unsealed {
		c.SealedAt = nil
	}
	raw, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return s.store.SetReportChoices(ctx, row.ID, string(raw))
}

// putHistory tells what happened to the car at its end, and holds its film record against the
// seal.
func (s *Shop) putHistory(ctx context.Context, out *Handing) error {
	rows, err := s.store.Handovers(ctx, out.ID)
	if err != nil {
		return err
	}
	for _, h := range rows {
		out.History = append(out.History, Handover{h.Kind, h.Person, h.Reason, h.OnDay, h.At})
		if h.Kind == HandedOver && out.HandedOverAt != nil {
			out.Seal, out.At, out.Sent = h.Seal, h.At, h.ID
		}
	}
	if out.Seal != "" {
		out.Broken, err = s.broken(ctx, out.ID, out.Seal)
	}
	return err
}

// broken says whether the film record of a car is not what was sealed.
func (s *Shop) broken(ctx context.Context, carID, seal string) (bool, error) {
	doc, err := s.store.Document(ctx, carID)
	if err != nil {
		return false, err
	}
	now, err := store.SealOf(doc)
	return now != seal, err
}

// putWork says who worked on the car and what read it.
func (h *Handing) putWork(ctx context.Context, s *Shop) {
	read := map[string]int{}
	for _, p := range h.Panels {
		for _, e := range p.Entries {
			if e.Struck == nil && e.Cuts() {
				h.Passes++
				if !slices.Contains(h.People, e.Person) {
					h.People = append(h.People, e.Person)
				}
			}
		}
		for _, r := range p.Live() {
			read[gaugeID(r)]++
		}
	}
	if h.Painter != "" && !slices.Contains(h.People, h.Painter) {
		h.People = append(h.People, h.Painter)
	}
	slices.Sort(h.People)
	for id, n := range read {
		use := GaugeUse{Name: id, Readings: n}
		if g, err := s.store.Gauge(ctx, id); err == nil {
			use.Name, use.RepeatUM = g.Name, g.RepeatUM
		}
		h.Gauges = append(h.Gauges, use)
	}
	slices.SortFunc(h.Gauges, func(a, b GaugeUse) int { return b.Readings - a.Readings })
}

// filmLine is what the film record says of a panel.
func filmLine(p *Panel, factory float64) FilmLine {
	out := FilmLine{Panel: p}
	sec, st, ok := p.Decides()
	if !ok {
		return out
	}
	out.Known, out.Film, out.Before, out.Clear, out.Spent, out.Room = true, st.Film, sec.Least.Estimate(), st.Clear, p.SpentOn(sec.Key), st.Headroom
	if !p.Borrows() {
		out.Flags = p.flags(factory)
	}
	out.Polishes = care.Polishes(out.Room, p.House.Shelf.LightPolish(p.House.Shelf.Law.Hardness(p.Hardness)))
	return out
}

// todos are what is still to do, panel by panel, and what the owner was not told.
func (h *Handing) todos() []HandTodo {
	var out []HandTodo
	for _, f := range h.Proofs {
		add := func(t HandTask, n int) { out = append(out, HandTodo{t, f.ID, f.Name, n}) }
		for _, t := range f.Todos {
			if t.Task != prove.TaskBefore && t.Task != prove.TaskCompared {
				add(HandTask(t.Task), t.Count)
			}
		}
		switch _, barred := prove.Bars(f.Todos); {
		case f.Worked() && f.Kept == nil && !barred:
			add(TaskKeep, 1)
		case !f.Worked() && f.Ladder() != nil && f.Kept == nil:
			add(TaskPlan, 1)
		case !f.Worked() && f.said() && f.Kept == nil && !barred:
			add(TaskUndone, 1)
		}
	}
	if n := Untold(h.Tellings); n > 0 {
		out = append(out, HandTodo{Task: TaskTell, Count: n})
	}
	return out
}

// Paired says whether a panel has photos of the lamps before and after, whose files are there.
func (f *PanelProof) Paired() bool {
	return f.Before.Photo != nil && f.After != nil && f.After.Photo != nil && !f.Before.Photo.Dropped && !f.After.Photo.Dropped
}

// Pair are the photos of the lamps before and after that the report shows, of the panel that was
// chosen or else of the one that lost most film; false where no panel has both.
func (h *Handing) Pair() (panel *PanelProof, before, after *Photo, ok bool) {
	most := -1.0
	for _, f := range h.Proofs {
		if !f.Paired() {
			continue
		}
		if h.Choices.Pair == f.ID {
			return f, f.Before.Photo, f.After.Photo, true
		}
		if f.Spent.Mean > most {
			most = f.Spent.Mean
			panel, before, after, ok = f, f.Before.Photo, f.After.Photo, true
		}
	}
	return panel, before, after, ok
}

// StepDone is how many passes of a step of a panel's plan were made, by whom, and when the last.
// Passes are the most that any section saw: those of sections beside each other are never added.
type StepDone struct {
	Title, What string
	Passes      int
	People      []string
	Last        time.Time
}

// StepsDone of the plan of record.
func (p *Panel) StepsDone() []StepDone {
	if p.Ladder() == nil {
		return nil
	}
	out := make([]StepDone, len(p.Ladder().Steps))
	on := map[string]int{}
	for i, st := range p.Ladder().Steps {
		out[i].Title, out[i].What = st.Title, st.What
	}
	for _, e := range p.Entries {
		if e.Struck != nil || !e.Cuts() || e.Step < 1 || e.Step > len(out) {
			continue
		}
		d := &out[e.Step-1]
		at := fmt.Sprint(e.Step, e.Section)
		on[at]++
		d.Passes = max(d.Passes, on[at])
		if !slices.Contains(d.People, e.Person) {
			d.People = append(d.People, e.Person)
		}
		if e.At.After(d.Last) {
			d.Last = e.At
		}
	}
	return slices.DeleteFunc(out, func(d StepDone) bool { return d.Passes == 0 })
}
