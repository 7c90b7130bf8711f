package panelwork

import (
	"context"

	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/store"
)

// SetPart says how one section of a panel looks where it looks other than the panel; nothing
// said, it looks as the panel does.
func (s *Service) SetPart(ctx context.Context, panelID, section string, looks facts.Looks) (*panel.Panel, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	if _, err := p.SectionNo(section); err != nil {
		return nil, err
	}
	_, err = s.Store.ChangeCar(ctx, p.Car.ID, func(c *store.Car) error {
		row := panel.FirstOf(c.Panels, func(o store.Panel) bool { return o.ID == panelID })
		if row == nil {
			return store.ErrMissing
		}
		k := facts.ConditionOf(*row)
		if k.Parts == nil {
			k.Parts = map[string]facts.Looks{}
		}
		if k.Parts[section] = looks; looks == (facts.Looks{}) {
			delete(k.Parts, section)
		}
		k.Put(row)
		return nil
	})
	if err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

// Comparison is a panel whose condition is compared, with the panels of its car that lie as
// it does, itself too: sponge and sun treat them alike.
type Comparison struct {
	*Look
	Alike []string // keys
}

// Compare is a panel with what its condition is compared with, as if that had been said of it.
func (s *Service) Compare(ctx context.Context, panelID string, said facts.SaidCondition) (*Comparison, error) {
	l, err := s.Look(ctx, panelID)
	if err != nil {
		return nil, err
	}
	if err := said.Put(&l.Condition); err != nil {
		return nil, err
	}
	car, err := s.Store.Car(ctx, l.Car.ID)
	if err != nil {
		return nil, err
	}
	out := &Comparison{Look: l}
	for _, row := range car.Panels {
		g, err := s.Ground(ctx, row.Shape)
		if err != nil {
			return nil, &panel.Unreadable{PanelID: row.ID, What: "outline", Err: err}
		}
		if row.ID == l.ID || g.Panel.Side == l.Shape.Side && row.Substrate != facts.Plastic {
			out.Alike = append(out.Alike, row.Key)
		}
	}
	return out, nil
}
