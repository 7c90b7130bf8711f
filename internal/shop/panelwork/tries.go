package panelwork

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"time"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// What may be read on a try square.
const (
	mostFilm  = 2000.0 // µm
	mostGloss = 120.0
	mostSpots = 50
)

// NewTry is what was read on a try square: film in µm, gloss at 20 degrees and clarity
// from 0 to 100. Gloss is nil where it was not read.
type NewTry struct {
	ID, Section, Ladder, Person, Note string
	FilmBefore, FilmAfter             float64
	Spots                             int
	GlossBefore, GlossAfter           *float64
	ClarityBefore, ClarityAfter       float64
}

// Try is a try square with what it gained and cost.
type Try struct {
	ID, Section, Ladder, Person, Note string
	No                                int
	At                                time.Time
	Choices                           []plan.Choice
	Expects                           float64 // film in µm that the plan expects of it
	Gain                              plan.Gain
	Gloss                             bool // gloss was read
	Used                              bool // its section's plan is this process
}

// Tries are the try squares of a panel.
func (s *Service) Tries(ctx context.Context, p *panel.Panel) ([]Try, error) {
	rows, err := s.Store.Tries(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	var out []Try
	for _, row := range rows {
		t, err := tryOf(p, row)
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}

func triedWith(row store.Try) (plan.Recipe, plan.Ladder, error) {
	var m plan.Recipe
	if err := json.Unmarshal([]byte(row.Made), &m); err != nil {
		return m, plan.Ladder{}, fmt.Errorf("try %s: %w", row.ID, err)
	}
	l, err := m.Ladder()
	if err != nil {
		err = fmt.Errorf("try %s: %w", row.ID, err)
	}
	return m, l, err
}

func tryOf(p *panel.Panel, row store.Try) (Try, error) {
	m, l, err := triedWith(row)
	if err != nil {
		return Try{}, err
	}
	noise := level.TryNoise(p.Gauge, row.Spots)
	look := plan.Try{
		FilmBefore: plan.Measured{Value: row.FilmBeforeUM, SD: noise}, FilmAfter: plan.Measured{Value: row.FilmAfterUM, SD: noise},
		ClarityBefore: plan.Measured{Value: row.ClarityBefore, SD: plan.ClarityNoise}, ClarityAfter: plan.Measured{Value: row.ClarityAfter, SD: plan.ClarityNoise},
	}
	out := Try{ID: row.ID, Section: row.Section, Ladder: row.Ladder, Person: row.Person, Note: row.Note, No: int(row.Seq), At: row.At, Choices: m.Choices,
		Expects: l.Film, Gloss: row.GlossBefore != nil && row.GlossAfter != nil}
	if out.Gloss {
		look.GlossBefore, look.GlossAfter = plan.Measured{Value: *row.GlossBefore, SD: plan.GlossNoise}, plan.Measured{Value: *row.GlossAfter, SD: plan.GlossNoise}
	}
	out.Gain = look.Gain()
	if p.Record != nil {
		made, err := p.Recipe()
		if err != nil {
			return out, err
		}
		out.Used = plan.Code(made.Areas[row.Section]) == row.Ladder
	}
	return out, nil
}

// AddTry keeps what was read on a try square.
func (s *Service) AddTry(ctx context.Context, panelID string, in NewTry) (*panel.Panel, Try, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, Try{}, err
	}
	if _, err := p.SectionNo(in.Section); err != nil {
		return nil, Try{}, err
	}
	if err := house.CheckID(in.ID, house.OfTry); err != nil {
		return nil, Try{}, err
	}
	person, err := house.PersonName(in.Person)
	if err != nil {
		return nil, Try{}, err
	}
	if err := in.check(); err != nil {
		return nil, Try{}, err
	}
	_, choices, err := p.WorkCode(in.Ladder)
	if err != nil {
		return nil, Try{}, err
	}
	made, err := json.Marshal(plan.RecipeOf(p.Options.Job, choices))
	if err != nil {
		return nil, Try{}, err
	}
	row := store.Try{ID: in.ID, PanelID: p.ID, Section: in.Section, Ladder: plan.Code(choices), Made: string(made), FilmBeforeUM: in.FilmBefore, FilmAfterUM: in.FilmAfter,
		Spots: in.Spots, GlossBefore: in.GlossBefore, GlossAfter: in.GlossAfter, ClarityBefore: in.ClarityBefore, ClarityAfter: in.ClarityAfter,
		Person: person, Note: strings.TrimSpace(in.Note), At: s.Now()}
	if err := s.Store.AddTry(ctx, &row); err != nil {
		return nil, Try{}, err
	}
	t, err := tryOf(p, row)
	return p, t, err
}

// tryNoise is how much more a gauge may read after a try than before it, µm.
const tryNoise = 5.0

func (in NewTry) check() error {
	for _, v := range []struct {
		field string
		value float64
		film  bool
	}{
		{"film_before_um", in.FilmBefore, true}, {"film_after_um", in.FilmAfter, true}, {"clarity_before", in.ClarityBefore, false}, {"clarity_after", in.ClarityAfter, false},
	} {
		if v.film && !(v.value > 0 && v.value <= mostFilm) {
			return refuse.Because(refuse.BadTryFilm, v.field, v.value, mostFilm)
		}
		if !v.film && !(v.value >= 0 && v.value <= 100) {
			return refuse.Because(refuse.BadTryClarity, v.field, v.value)
		}
	}
	if in.FilmAfter > in.FilmBefore+tryNoise {
		return refuse.Because(refuse.TryGrows, "film_after_um", refuse.Film(in.FilmBefore), refuse.Film(in.FilmAfter))
	}
	if in.Spots < 1 || in.Spots > mostSpots {
		return refuse.Because(refuse.BadTrySpots, "spots", mostSpots)
	}
	if (in.GlossBefore == nil) != (in.GlossAfter == nil) {
		return refuse.Because(refuse.HalfTryGloss, "gloss_after")
	}
	for _, g := range []*float64{in.GlossBefore, in.GlossAfter} {
		if g != nil && (math.IsNaN(*g) || *g < 0 || *g > mostGloss) {
			return refuse.Because(refuse.BadTryGloss, "gloss_before", *g)
		}
	}
	return nil
}

// StrikeTry strikes a try square out.
func (s *Service) StrikeTry(ctx context.Context, id, reason string) error {
	t, err := s.Store.Try(ctx, id)
	if err != nil {
		return err
	}
	if reason, err = house.StrikeReason(reason); err != nil {
		return err
	}
	return s.Store.StrikeTry(ctx, t.ID, reason, s.Now())
}

// UseTry puts the process of a try into the plan of record for its section only.
func (s *Service) UseTry(ctx context.Context, id string) (*panel.Panel, error) {
	t, err := s.Store.Try(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := s.AsJudged(func() error { return s.useTry(ctx, t) }); err != nil {
		return nil, err
	}
	return s.Panel(ctx, t.PanelID)
}

func (s *Service) useTry(ctx context.Context, t store.Try) error {
	p, err := s.Panel(ctx, t.PanelID)
	if err != nil {
		return err
	}
	if p.Ladder() == nil {
		return refuse.Conflicting(refuse.NoPlanForTry, p.Name)
	}
	tried, _, err := triedWith(t)
	if err != nil {
		return err
	}
	made, err := p.Recipe()
	if err != nil {
		return err
	}
	made = made.For(t.Section, tried.Job, tried.Choices)
	l, err := made.Ladder()
	if err != nil {
		return err
	}
	if p.Study == nil {
		return refuse.Conflicting(refuse.Waits, p)
	}
	section, known := p.Study.Section(t.Section)
	if !known {
		return refuse.Conflicting(refuse.TrySectionGone, p.Name)
	}
	if film := l.FilmOn(t.Section); film > p.SpendableOf(section) {
		return refuse.Conflicting(refuse.TryTooMuch, SectionState{Standing: p.StandingFor(section, film), Floor: section.Policy.Floor})
	}
	way := panel.Yours(made.Choices, l)
	way.Offer = p.Record.Offer
	return s.accept(ctx, p, *way, made)
}
