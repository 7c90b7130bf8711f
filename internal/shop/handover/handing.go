package handover

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
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Parts are all of them.
var Parts = []cars.Part{cars.PartPictures, cars.PartDone, cars.PartStays, cars.PartClear, cars.PartCores, cars.PartUntil, cars.PartKeep, cars.PartWork}

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
	*panel.Panel
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
	*proof.CarProof
	Tellings []cars.Telling
	Marks    []panel.JudgedMark
	Todos    []HandTodo
	Choices  cars.ReportChoices
	Lines    []FilmLine // every panel
	Waits    []care.Wait
	TooSoon  bool // sealed before the paint may be
	Settings house.Settings
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
func (s *Service) Handing(ctx context.Context, carID string) (*Handing, error) {
	proven, err := s.ProveCar(ctx, carID)
	if err != nil {
		return nil, err
	}
	out := &Handing{CarProof: proven, At: s.Now()}
	if out.Settings, err = s.Settings(ctx); err != nil {
		return nil, err
	}
	if out.Tellings, err = s.TellingsOf(ctx, proven.Car); err != nil {
		return nil, err
	}
	if out.Marks, err = s.MarksOf(proven.Car); err != nil {
		return nil, err
	}
	if out.Choices, err = s.ReportChoices(ctx, carID); err != nil {
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
		if line := filmLine(p, factory); line.Known || p.Worked() || p.Substrate != facts.Plastic {
			out.Lines = append(out.Lines, line)
		}
	}
	out.Choices.Sheet = cars.CareSheet(out.CarProof.Car, out.Choices)
	var sealed *time.Time
	if out.Choices.Sealed != cars.Unsealed {
		sealed = out.Choices.SealedAt
		if sealed == nil {
			sealed = &out.At
		}
	}
	out.Waits = care.Waits(cars.CareFor(out.CarProof.Car), sealed, rule, out.Choices.Sheet, out.At)
	out.TooSoon = care.TooSoon(out.Waits, sealed)
	out.Todos = out.todos()
	return out, nil
}

// SetReport chooses what goes into the report of a car.
func (s *Service) SetReport(ctx context.Context, carID string, c cars.ReportChoices) error {
	row, err := s.Store.Car(ctx, carID)
	if err != nil {
		return err
	}
	c.Note = strings.TrimSpace(c.Note)
	for _, p := range c.Parts {
		if !slices.Contains(Parts, p) {
			return refuse.Because(refuse.BadPart, "parts", p)
		}
	}
	switch {
	case c.Sealed != cars.Unsealed && c.Sealed != cars.Waxed && c.Sealed != cars.Coated:
		return refuse.Because(refuse.BadPart, "sealed", c.Sealed)
	case len([]rune(c.Note)) > mostShopNote:
		return refuse.Because(refuse.LongShopNote, "note", mostShopNote)
	case c.Pair != "" && !slices.ContainsFunc(row.Panels, func(p store.Panel) bool { return p.ID == c.Pair }):
		return refuse.ErrMissing
	}
	if err := c.Sheet.Check(); err != nil {
		return refuse.Because(refuse.BadCare, "sheet", err)
	}
	if c.Sealed == cars.Unsealed {
		c.SealedAt = nil
	}
	raw, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return s.Store.SetReportChoices(ctx, row.ID, string(raw))
}

// putHistory tells what happened to the car at its end, and holds its film record against the
// seal.
func (s *Service) putHistory(ctx context.Context, out *Handing) error {
	rows, err := s.Store.Handovers(ctx, out.ID)
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
func (s *Service) broken(ctx context.Context, carID, seal string) (bool, error) {
	doc, err := s.Store.Document(ctx, carID)
	if err != nil {
		return false, err
	}
	now, err := store.SealOf(doc)
	return now != seal, err
}

// putWork says who worked on the car and what read it.
func (h *Handing) putWork(ctx context.Context, s *Service) {
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
			read[panel.GaugeID(r)]++
		}
	}
	if h.Painter != "" && !slices.Contains(h.People, h.Painter) {
		h.People = append(h.People, h.Painter)
	}
	slices.Sort(h.People)
	for id, n := range read {
		use := GaugeUse{Name: id, Readings: n}
		if g, err := s.Store.Gauge(ctx, id); err == nil {
			use.Name, use.RepeatUM = g.Name, g.RepeatUM
		}
		h.Gauges = append(h.Gauges, use)
	}
	slices.SortFunc(h.Gauges, func(a, b GaugeUse) int { return b.Readings - a.Readings })
}

// filmLine is what the film record says of a panel.
func filmLine(p *panel.Panel, factory float64) FilmLine {
	out := FilmLine{Panel: p}
	sec, st, ok := p.Decides()
	if !ok {
		return out
	}
	out.Known, out.Film, out.Before, out.Clear, out.Spent, out.Room = true, st.Film, sec.Least.Estimate(), st.Clear, proof.SpentOn(p, sec.Key), st.Headroom
	if !p.Borrows() {
		out.Flags = advice.Flags(p, factory)
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
		case !f.Worked() && f.Said() && f.Kept == nil && !barred:
			add(TaskUndone, 1)
		}
	}
	if n := cars.Untold(h.Tellings); n > 0 {
		out = append(out, HandTodo{Task: TaskTell, Count: n})
	}
	return out
}

// Paired says whether a panel has photos of the lamps before and after, whose files are there.
func Paired(f *proof.PanelProof) bool {
	return f.Before.Photo != nil && f.After != nil && f.After.Photo != nil && !f.Before.Photo.Dropped && !f.After.Photo.Dropped
}

// Pair are the photos of the lamps before and after that the report shows, of the panel that was
// chosen or else of the one that lost most film; false where no panel has both.
func (h *Handing) Pair() (panel *proof.PanelProof, before, after *proof.Photo, ok bool) {
	most := -1.0
	for _, f := range h.Proofs {
		if !Paired(f) {
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
func StepsDone(p *panel.Panel) []StepDone {
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
