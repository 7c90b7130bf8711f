package shop

import (
	"context"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/internal/store"
)

// AgreedFloor is the clear (µm) that the owner of a car agreed to leave at least, on all of
// it or on one panel: who agreed, why and when.
type AgreedFloor struct {
	ID, PanelID    string // PanelID is empty for the whole car
	Floor          float64
	Person, Reason string
	At             time.Time
	Struck         *Struck
}

func agreedOf(f store.Floor) AgreedFloor {
	out := AgreedFloor{ID: f.ID, Floor: f.FloorUM, Person: f.Person, Reason: f.Reason, At: f.At, Struck: struckOf(f.StruckAt, f.StruckReason)}
	if f.PanelID != nil {
		out.PanelID = *f.PanelID
	}
	return out
}

// floors are what was agreed of a car, struck ones too.
func (s *Shop) floors(ctx context.Context, car string) ([]AgreedFloor, error) {
	rows, err := s.store.Floors(ctx, car)
	if err != nil {
		return nil, err
	}
	var out []AgreedFloor
	for _, r := range rows {
		out = append(out, agreedOf(r))
	}
	return out, nil
}

// Agreed is what holds for a panel: the last that was agreed of it, or else of its car; nil
// where nothing was.
func (p *Panel) Agreed() *AgreedFloor { return agreed(p.Floors, p.ID) }

// agreed is what holds for a panel among all that was agreed of its car.
func agreed(floors []AgreedFloor, panel string) *AgreedFloor {
	var own, car *AgreedFloor
	for i, f := range floors {
		switch {
		case f.Struck != nil:
		case f.PanelID == panel:
			own = &floors[i]
		case f.PanelID == "":
			car = &floors[i]
		}
	}
	if own != nil {
		return own
	}
	return car
}

// OwnFloors are those that were agreed of the panel or of its whole car, struck ones too.
func (p *Panel) OwnFloors() []AgreedFloor {
	var out []AgreedFloor
	for _, f := range p.Floors {
		if f.PanelID == p.ID || f.PanelID == "" {
			out = append(out, f)
		}
	}
	return out
}

// agreedUM is that floor in µm; 0 for none.
func (p *Panel) agreedUM() float64 { return agreedOn(p.Floors, p.ID) }

func agreedOn(floors []AgreedFloor, panel string) float64 {
	if f := agreed(floors, panel); f != nil {
		return f.Floor
	}
	return 0
}

// NewFloor is a floor that an owner agrees to, of a panel or, WholeCar, of its car.
type NewFloor struct {
	ID             string
	WholeCar       bool
	Floor          float64
	Person, Reason string
}

// AgreeFloor keeps a floor that the owner agreed to, and gives the panel as it is with it.
func (s *Shop) AgreeFloor(ctx context.Context, panelID string, in NewFloor) (*Panel, error) {
	if err := checkID(in.ID, OfFloor); err != nil {
		return nil, err
	}
	if in.Person = strings.TrimSpace(in.Person); in.Person == "" || len([]rune(in.Person)) > mostName {
		return nil, Refuse(WhoAgreed, "person", mostName)
	}
	if in.Reason = strings.TrimSpace(in.Reason); len([]rune(in.Reason)) < leastReason || len([]rune(in.Reason)) > mostFloorReason {
		return nil, Refuse(WhyAgreed, "reason", leastReason, mostFloorReason)
	}
	if err := s.asJudged(func() error { return s.agreeFloor(ctx, panelID, in) }); err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

func (s *Shop) agreeFloor(ctx context.Context, panelID string, in NewFloor) error {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	usual := film.PolicyFor(p.Finish()).Floor
	switch clear := p.clearMean(); {
	case !(in.Floor >= film.LeastFloor):
		return Refuse(FloorTooLow, "floor_um", Film(film.LeastFloor))
	case in.Floor >= usual:
		return Refuse(FloorNotLower, "floor_um", Film(usual))
	case in.Floor > clear:
		return Refuse(FloorOverClear, "floor_um", Film(clear))
	}
	row := store.Floor{ID: in.ID, CarID: p.Car.ID, FloorUM: in.Floor, Person: in.Person, Reason: in.Reason, At: s.now()}
	if !in.WholeCar {
		row.PanelID = &p.ID
	}
	return s.store.AgreeFloor(ctx, &row, p.ID, p.version)
}

const mostFloorReason = 200 // letters

// clearMean is the clear that the panel likely has at its thin end, µm.
func (p *Panel) clearMean() float64 {
	if s, _, ok := p.Decides(); ok {
		return s.Least.Estimate().Mean
	}
	return film.GuessOf(p.History()).Least.Estimate().Mean
}

// StrikeFloor takes back what was agreed, with a reason; it stays on record.
func (s *Shop) StrikeFloor(ctx context.Context, id, reason string) error {
	f, err := s.store.Floor(ctx, id)
	if err != nil {
		return err
	}
	if reason, err = strikeReason(reason); err != nil {
		return err
	}
	return s.store.StrikeFloor(ctx, f.ID, reason, s.now())
}
