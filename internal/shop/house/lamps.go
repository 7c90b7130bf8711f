package house

import (
	"context"
	"slices"
	"strings"

	"waxplanus/core/photo"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Lamp is how photos of a lamp are taken in the shop; Scale says that a card lies on the panel
// which tells the scale and the blur of the lens.
type Lamp struct {
	ID, Name string
	photo.Lamp
	Scale bool
}

// UsualLamp is what a shop is asked to change that has not said how its photos are taken
// (judgement): printed stripes at arm's length, a card on the panel.
var UsualLamp = Lamp{ID: "usual-lamp", Name: "printed stripes", Lamp: photo.Lamp{Pitch: 20, Lamp: 500, Camera: 600, Aperture: 4, Gamma: 2.2}, Scale: true}

func lampOf(l store.Lamp) Lamp {
	return Lamp{ID: l.ID, Name: l.Name, Scale: l.Scale, Lamp: photo.Lamp{Pitch: l.PitchMM, Lamp: l.LampMM, Camera: l.CameraMM, Aperture: l.ApertureMM,
		MMPerPx: l.MMPerPx, Lens: l.LensPx, Gamma: l.Gamma}}
}

// Lamps of the shop, the last used first.
func (s *Service) Lamps(ctx context.Context) ([]Lamp, error) {
	rows, err := s.Store.Lamps(ctx)
	out := make([]Lamp, len(rows))
	for i, l := range rows {
		out[i] = lampOf(l)
	}
	return out, err
}

// Limits of a lamp: letters of its name, how many a shop has, and those of its figures.
const (
	mostLampName = 60
	mostLamps    = 50
	mostPitch    = 500.0
	leastAway    = 50.0
	mostAway     = 20000.0
	mostAperture = 100.0
	mostScale    = 5.0
	mostLens     = 20.0
	leastGamma   = 0.5
	mostGamma    = 4.0
)

func (l Lamp) check() error {
	in := func(field string, v, least, most float64) error {
		if !(v >= least && v <= most) {
			return refuse.Because(refuse.BadLamp, field, v, least, most)
		}
		return nil
	}
	if n := len([]rune(l.Name)); n < 1 || n > mostLampName {
		return refuse.Because(refuse.BadLampName, "name", mostLampName)
	}
	for _, f := range []struct {
		field          string
		v, least, most float64
	}{
		{"pitch_mm", l.Pitch, 1, mostPitch}, {"lamp_mm", l.Lamp.Lamp, leastAway, mostAway}, {"camera_mm", l.Camera, leastAway, mostAway},
		{"aperture_mm", l.Aperture, 0, mostAperture}, {"mm_per_px", l.MMPerPx, 0, mostScale}, {"lens_px", l.Lens, 0, mostLens}, {"gamma", l.Gamma, leastGamma, mostGamma},
	} {
		if err := in(f.field, f.v, f.least, f.most); err != nil {
			return err
		}
	}
	if !l.Scale && l.MMPerPx == 0 {
		return refuse.Because(refuse.NoLampScale, "mm_per_px")
	}
	return nil
}

// SetLamp keeps a lamp in place of one of the same id, as the last used.
func (s *Service) SetLamp(ctx context.Context, l Lamp) error {
	if err := CheckID(l.ID, OfLamp); err != nil {
		return err
	}
	l.Name = strings.TrimSpace(l.Name)
	if err := l.check(); err != nil {
		return err
	}
	all, err := s.Store.Lamps(ctx)
	if err != nil {
		return err
	}
	if len(all) >= mostLamps && !slices.ContainsFunc(all, func(o store.Lamp) bool { return o.ID == l.ID }) {
		return refuse.Conflicting(refuse.TooManyLamps, mostLamps)
	}
	return s.Store.SaveLamp(ctx, store.Lamp{ID: l.ID, Name: l.Name, PitchMM: l.Pitch, LampMM: l.Lamp.Lamp, CameraMM: l.Camera, ApertureMM: l.Aperture,
		MMPerPx: l.MMPerPx, LensPx: l.Lens, Gamma: l.Gamma, Scale: l.Scale, UsedAt: s.Now()})
}

// DropLamp forgets a lamp.
func (s *Service) DropLamp(ctx context.Context, id string) error { return s.Store.DropLamp(ctx, id) }
