package panel

import (
	"context"
	"time"

	"waxplanus/core/film"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/store"
)

// AgreedFloor is the clear (µm) that the owner of a car agreed to leave at least, on all of
// it or on one panel: who agreed, why and when.
type AgreedFloor struct {
	ID, PanelID    string // PanelID is empty for the whole car
	Floor          float64
	Person, Reason string
	At             time.Time
	Struck         *facts.Struck
}

func agreedOf(f store.Floor) AgreedFloor {
	out := AgreedFloor{ID: f.ID, Floor: f.FloorUM, Person: f.Person, Reason: f.Reason, At: f.At, Struck: facts.StruckOf(f.StruckAt, f.StruckReason)}
	if f.PanelID != nil {
		out.PanelID = *f.PanelID
	}
	return out
}

// Floors are what was agreed of a car, struck ones too.
func (s *Service) Floors(ctx context.Context, car string) ([]AgreedFloor, error) {
	rows, err := s.Store.Floors(ctx, car)
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
func (p *Panel) agreedUM() float64 { return AgreedOn(p.Floors, p.ID) }

func AgreedOn(floors []AgreedFloor, panel string) float64 {
	if f := agreed(floors, panel); f != nil {
		return f.Floor
	}
	return 0
}

const MostFloorReason = 200 // letters

// ClearMean is the clear that the panel likely has at its thin end, µm.
func (p *Panel) ClearMean() float64 {
	if s, _, ok := p.Decides(); ok {
		return s.Least.Estimate().Mean
	}
	return film.GuessOf(p.History()).Least.Estimate().Mean
}
