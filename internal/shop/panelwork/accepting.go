package panelwork

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// AcceptPlan freezes a way to what is wanted as the plan of record. basis is what it
// was shown with.
func (s *Service) AcceptPlan(ctx context.Context, panelID, wish, basis string) (*panel.Panel, error) {
	done, err := s.Locks.Take(ctx, panelID)
	if err != nil {
		return nil, err
	}
	defer done()
	if err := s.AsJudged(func() error { return s.acceptPlan(ctx, panelID, wish, basis) }); err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

func (s *Service) acceptPlan(ctx context.Context, panelID, wish, basis string) error {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	if p.Lacks() != panel.LacksNothing {
		return refuse.Conflicting(refuse.Waits, p)
	}
	if basis != p.Basis() {
		return refuse.Conflicting(refuse.PlanMoved)
	}
	offers, err := p.Offers()
	if err != nil {
		return err
	}
	way, err := p.Pick(wish, offers.Ways)
	if err != nil {
		return err
	}
	if way == nil {
		return refuse.Conflicting(refuse.NothingReaches, p)
	}
	if p.Ladder() != nil && !p.Worked() && plan.Code(p.Ladder().Choices()) == plan.Code(way.Ladder.Choices()) &&
		p.Ladder().Film == way.Ladder.Film && p.Record.Offer == way.Offer {
		return nil // somebody accepted the same
	}
	return s.accept(ctx, p, *way, plan.RecipeOf(p.Options.Job, way.Ladder.Choices()))
}

// accept keeps a way as the next version of the plan of record, unless the film
// forbids it.
func (s *Service) accept(ctx context.Context, p *panel.Panel, w plan.Way, m plan.Recipe) error {
	p.Log.Ladder, p.Answers = nil, &panel.Answers{} // judged afresh, not by the record before it
	m.Leaves = nil
	l, err := m.Ladder()
	if err != nil {
		return err
	}
	section, st := p.DecidesFor(l)
	if !p.Works(l) {
		return refuse.Conflicting(refuse.TooMuch, refuse.Film(l.Film), Room(p.PlanHeadroom()), SectionState{Standing: st.Standing, Floor: section.Policy.Floor})
	}
	for _, s := range p.LeftBy(l) {
		m.Leaves = append(m.Leaves, s.Key)
	}
	whys, err := p.Whys(w)
	if err != nil {
		return err
	}
	row := store.Plan{ID: uuid.NewString(), PanelID: p.ID, AcceptedAt: s.Now(), Basis: p.Basis(), PeelGrade: p.PeelGrade(),
		Colour: p.Car.Colour, Start: l.Steps[0].Item, FilmUM: l.Film, State: string(st.State), Risk: st.Risk, Readings: len(p.Live()), Offer: string(w.Offer)}
	for _, part := range []struct {
		from any
		to   *string
	}{{m, &row.Made}, {p.RecordFacts(), &row.Facts}, {whys, &row.Why}} {
		raw, err := json.Marshal(part.from)
		if err != nil {
			return err
		}
		*part.to = string(raw)
	}
	for i, step := range l.Steps {
		row.Steps = append(row.Steps, stepRow(row.ID, i+1, step))
	}
	return s.Store.AcceptPlan(ctx, &row, p.RowsAt)
}

// stepRow is a step of a plan as it is kept.
func stepRow(plan string, no int, s plan.Step) store.Step {
	return store.Step{PlanID: plan, No: no, Kind: string(s.Kind), Item: s.Item, Backing: s.Choice.Backing, Area: s.Area,
		Title: s.Title, What: s.What, Passes: s.Passes, RateUM: s.Rate, FilmUM: s.Film, Minutes: s.Minutes}
}

// Room and SectionState are values of refusals: what may go (µm), and how a section
// stands with its floor (µm).
type (
	Room         float64
	SectionState struct {
		level.Standing
		Floor float64
	}
)
