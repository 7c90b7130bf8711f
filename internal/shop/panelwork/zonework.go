package panelwork

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"waxplanus/core/flatlay"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
)

// Target is a place that the probe is put on, with what is known of it: the distance to
// the nearest edge and the panel's size in mm, and the film in µm, 0 where nothing was
// read.
type Target struct {
	*panel.Panel
	At                  flatlay.Point
	Edge, Width, Height float64
	Film                float64
}

// Target is the place of a panel that is open for the probe.
func (s *Service) Target(ctx context.Context, panelID string, at flatlay.Point) (Target, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return Target{}, err
	}
	out := Target{Panel: p, At: at, Edge: p.Shape.EdgeDistance(at)}
	out.Width, out.Height = p.Shape.Size()
	if p.Study != nil {
		out.Film = math.Round(p.Study.Map.Level().Mean)
	}
	return out, nil
}

func Check(z facts.Zone, no int) error {
	if !slices.Contains(facts.Origins, z.Origin) || !slices.Contains(facts.LayerKinds, z.Layers) || z.Coats < 0 || z.Coats > house.MostCoats {
		return refuse.Because(refuse.BadZoneFacts, "zones", no, house.MostCoats)
	}
	if n := len(z.Outline); n < house.LeastCorners || n > house.MostCorners {
		return refuse.Because(refuse.ZoneCorners, "zones", no, refuse.CountOf(n, "corner"), house.LeastCorners, house.MostCorners)
	}
	var xs, ys []float64
	for j, q := range z.Outline {
		if !(math.Abs(q.X)+math.Abs(q.Y) <= house.FarOff) {
			return refuse.Because(refuse.ZonePlace, "zones", j+1, no)
		}
		xs, ys = append(xs, q.X), append(ys, q.Y)
	}
	if w, h := slices.Max(xs)-slices.Min(xs), slices.Max(ys)-slices.Min(ys); w < house.LeastZone || h < house.LeastZone {
		return refuse.Because(refuse.SmallZone, "zones", no, refuse.Length(w), refuse.Length(h), refuse.Length(house.LeastZone))
	}
	if err := flatlay.CheckRing(z.Outline, fmt.Sprintf("Zone %d", no)); err != nil {
		return refuse.Because(refuse.BadValue, "zones", err.Error()+".")
	}
	return nil
}

// on says whether any of a zone lies on the paint of a panel.
func on(z facts.Zone, p *panel.Panel) bool {
	return slices.ContainsFunc(p.Ground.Cells, func(q flatlay.Point) bool { return flatlay.Within(z.Outline, q) })
}

// SetZones keeps the parts of a panel that have a history of their own.
func (s *Service) SetZones(ctx context.Context, panelID string, zones []facts.Zone) ([]facts.Zone, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	if p.Worked() {
		return nil, refuse.Conflicting(refuse.ZonesWorked, p.Name)
	}
	for i, z := range zones {
		if err := Check(z, i+1); err != nil {
			return nil, err
		}
		if !on(z, p) {
			return nil, refuse.Because(refuse.ZoneOff, "zones", i+1, p.Name)
		}
	}
	raw, err := json.Marshal(zones)
	if err != nil {
		return nil, err
	}
	return zones, s.Store.SetZones(ctx, p.ID, string(raw))
}
