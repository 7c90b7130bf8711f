package web

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strings"

	"github.com/google/uuid"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// planFacts are the facts that a plan of record rests on, kept with it so that it
// can say what changed.
type planFacts struct {
	Peel     float64            `json:"peel"`
	Colour   string             `json:"colour"`
	Aim      string             `json:"aim"`
	Finish   string             `json:"finish"`
	Coats    int                `json:"coats"`
	Hardness string             `json:"hardness"`
	Beside   float64            `json:"beside"`
	Room     float64            `json:"room"`
	Readings map[string]reading `json:"readings"`
}

type reading struct {
	No int     `json:"no"`
	UM float64 `json:"um"`
}

// AcceptPlan freezes a sequence as the plan of record.
func (s *Server) AcceptPlan(ctx context.Context, r api.AcceptPlanRequestObject) (api.AcceptPlanResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	if text := b.waits(); text != "" {
		return nil, conflict("%s", text)
	}
	if r.Body.Basis != b.basis() {
		return nil, conflict("Readings or facts changed while you looked. Look at the plan again before it counts.")
	}
	ways, _, err := b.options.Offers(b.room())
	if err != nil {
		return nil, err
	}
	if ways == nil {
		if err := b.refusal(&api.Plan{}, &ways); err != nil {
			return nil, err
		}
	}
	way, err := b.pick(&r.Body.Ladder, ways)
	if err != nil {
		return nil, err
	}
	if way == nil {
		return nil, conflict("Nothing reaches that here: %s", b.nothingText())
	}
	if err := s.accept(ctx, b, *way, plan.Make(b.options.Job, way.Ladder.Choices())); err != nil {
		return nil, err
	}
	if b, err = s.open(ctx, b.row.ID); err != nil {
		return nil, err
	}
	return api.AcceptPlan201JSONResponse(b.recordOf()), nil
}

// accept keeps a way as the next version of the plan of record, unless the film
// forbids it.
func (s *Server) accept(ctx context.Context, b *bench, w plan.Way, m plan.Made) error {
	b.ladder, b.stood = nil, map[string]level.Standing{} // judged afresh, not by the record before it
	l, err := m.Ladder()
	if err != nil {
		return err
	}
	if room := b.room(); l.Film > room {
		_, st := b.worstFor(l)
		return conflict("It takes %s µm and %s may go: %s", um(l.Film), mayGo(room), stateReason(st, b.opened.Study.Policy.Floor))
	}
	_, st := b.worstFor(l)
	whys, err := b.whys(w)
	if err != nil {
		return err
	}
	var why []string
	for _, y := range whys {
		why = append(why, y.Head+" "+y.Text)
	}
	made, err := json.Marshal(m)
	if err != nil {
		return err
	}
	facts, err := json.Marshal(b.planFacts())
	if err != nil {
		return err
	}
	row := store.Plan{ID: uuid.NewString(), PanelID: b.row.ID, AcceptedAt: s.now(), Basis: b.basis(), PeelGrade: b.row.PeelGrade,
		Colour: b.car.Colour, Start: l.Steps[0].Item, FilmUM: l.Film, State: string(st.State), Readings: len(b.live()),
		Offer: string(w.Offer), Made: string(made), Facts: string(facts), Why: strings.Join(why, "\n")}
	for i, step := range l.Steps {
		row.Steps = append(row.Steps, store.Step{PlanID: row.ID, No: i + 1, Kind: string(step.Kind), Item: step.Item, Backing: step.Choice.Backing, Area: step.Area,
			Title: step.Title, What: step.What, Passes: step.Passes, RateUM: step.Rate, FilmUM: step.Film, Minutes: step.Minutes})
	}
	return s.store.AcceptPlan(ctx, &row)
}

func (b *bench) recordOf() api.PlanRecord {
	r := b.record
	out := api.PlanRecord{Id: r.ID, Version: r.Version, AcceptedAt: r.AcceptedAt, FilmUm: r.FilmUM, State: api.State(r.State), Offer: api.OfferName(r.Offer), Why: []string{}}
	if r.Why != "" {
		out.Why = strings.Split(r.Why, "\n")
	}
	if m, err := b.made(); err == nil {
		out.Ladder = plan.Code(m.Choices)
	}
	if r.Basis != b.basis() {
		out.Stale = b.changed()
	}
	return out
}

func (b *bench) planFacts() planFacts {
	f := planFacts{Peel: b.row.PeelGrade, Colour: b.car.Colour, Aim: b.row.Aim, Finish: string(b.finish()), Coats: b.row.Coats, Hardness: b.row.Hardness,
		Beside: b.beside, Room: b.room(), Readings: map[string]reading{}}
	for _, r := range b.readings {
		if r.StruckAt == nil && !b.after(r) {
			f.Readings[r.ID] = reading{int(r.Seq), r.FilmUM}
		}
	}
	return f
}

// changed says what the plan of record rests on that is no longer so.
func (b *bench) changed() string {
	var was planFacts
	if b.record.Facts == "" || json.Unmarshal([]byte(b.record.Facts), &was) != nil {
		return "What the plan rests on has changed since it was accepted: it had " + count(b.record.Readings, "reading") +
			" and peel grade " + fmt.Sprintf("%.1f", b.record.PeelGrade) + "; look at it again."
	}
	now := b.planFacts()
	var parts []string
	say := func(differs bool, format string, v ...any) {
		if differs {
			parts = append(parts, fmt.Sprintf(format, v...))
		}
	}
	say(was.Peel != now.Peel, "peel grade %.1f, was %.1f", now.Peel, was.Peel)
	say(was.Aim != now.Aim, "aim %s, was %s", aimWords[plan.Aim(now.Aim)], aimWords[plan.Aim(was.Aim)])
	say(was.Finish != now.Finish || was.Coats != now.Coats, "what is known of the finish")
	say(was.Colour != now.Colour, "colour %s, was %s", now.Colour, was.Colour)
	say(was.Hardness != now.Hardness, "%s paint, was %s", now.Hardness, was.Hardness)
	say(was.Beside != now.Beside && b.aim() == plan.Match, "the panel beside has peel grade %.1f, was %.1f", now.Beside, was.Beside)
	var added, struck []string
	for _, r := range b.readings {
		old, known := was.Readings[r.ID]
		_, there := now.Readings[r.ID]
		switch {
		case there && !known:
			added = append(added, fmt.Sprintf("%d (%s µm)", r.Seq, um(r.FilmUM)))
		case known && !there && r.StruckAt != nil:
			struck = append(struck, fmt.Sprintf("%d (%s µm)", old.No, um(old.UM)))
		}
	}
	say(len(added) > 0, "new reading %s", strings.Join(added, ", "))
	say(len(struck) > 0, "struck out %s", strings.Join(struck, ", "))
	if len(parts) == 0 {
		parts = append(parts, "a zone or the film of a neighbour")
	}
	text := "Out of date since it was accepted: " + strings.Join(parts, "; ") + "."
	const told = 0.1 // µm
	if math.Abs(was.Room-now.Room) > told {
		text += fmt.Sprintf(" %s µm may go, were %s.", mayGo(now.Room), mayGo(was.Room))
	}
	return text + " Look at it again."
}
