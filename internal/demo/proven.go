package demo

import (
	"bytes"
	"context"
	"fmt"
	"image/jpeg"
	"io"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/marks"
	"waxplanus/core/photo"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
	"waxplanus/core/schedule"
	"waxplanus/internal/camera"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/store"
)

// FerryID is the ferry's coupé: its door was levelled to match and waits to be proven.
const FerryID = "ferry-coupe"

const ferryDoor, ferryWing = "L-fdoor", "L-wing"

// provenCoupe takes it in, photographs and reads its door before and after, and levels it in
// between.
func provenCoupe(ctx context.Context, s *store.Store, now time.Time) error {
	c := car{FerryID, taken("Ferry coupé", body.Coupe, plan.Dark, "Runa", "The door met the gangway. It should look like the rest, no better."), map[string]panelFacts{
		ferryDoor: {film.Here, clear, 3, 7.0, plan.Match, 166, 6, 3, 100, 60, []seen{
			{marks.Nib, 6, 0, 0, nil},
			{marks.Scratch, 1, 620, 520, func(m *marks.Mark) { m.Size, m.Angle = 13, 20 }},
		}},
		ferryWing: {factory, clear, 0, 4.0, plan.PolishOnly, 119, 5, 0, 0, 0, nil},
	}, nil}
	then := now.Add(-3 * time.Hour)
	if err := takeIn(ctx, s, c, then); err != nil {
		return err
	}
	of := shop.New(s, func() time.Time { return then }, time.UTC)
	defer of.Close()
	eye := camera.NewStandIn(4, false, io.Discard)
	eye.Coarse = true
	door := FerryID + "." + ferryDoor
	if err := look(ctx, of, eye, door, "before"); err != nil {
		return err
	}
	if err := look(ctx, of, eye, FerryID+"."+ferryWing, "before"); err != nil {
		return err
	}
	if _, err := of.TakeOffer(ctx, FerryID, "demo-offer-ferry", offers.OfferSaid, "Runa", nil); err != nil {
		return err
	}
	if err := workPanel(ctx, s, of, door, then); err != nil {
		return err
	}
	for what, minutes := range map[schedule.Kind]float64{schedule.Wash: 90, schedule.Strip: 30, schedule.Look: 30} {
		if _, err := of.SayTime(ctx, FerryID, string(what), minutes, "Issa"); err != nil {
			return err
		}
	}
	then = now.Add(-20 * time.Minute)
	if err := look(ctx, of, eye, door, "after"); err != nil {
		return err
	}
	return closeNibs(ctx, of, door)
}

// look photographs the lamps in a panel and reads its gloss and clarity, with the stand-in.
func look(ctx context.Context, of *shop.Shop, eye *camera.StandIn, panel, when string) error {
	const person = "Runa"
	about := eye.About()
	subject, err := of.Subject(ctx, panel, "")
	if err != nil {
		return err
	}
	var data bytes.Buffer
	if err := jpeg.Encode(&data, eye.Reflection(camera.Of(subject)).Gray(), &jpeg.Options{Quality: 92}); err != nil {
		return err
	}
	how := proof.Taken{LampName: about.Name, Shiny: photo.Looks(about.Shiny), Take: photo.Take{Lamp: photo.Lamp{Pitch: about.PitchMM, Lamp: about.LampMM, Camera: about.CameraMM,
		Aperture: about.ApertureMM, MMPerPx: about.MMPerPx, Lens: about.LensPx, Gamma: about.Gamma}}}
	id := fmt.Sprintf("demo-photo-%s-%s", panel, when)
	if _, err := of.AddPhoto(ctx, panel, proof.NewPhoto{ID: id, Person: person, Kind: proof.Reflection, How: &how, Data: data.Bytes()}); err != nil {
		return err
	}
	if _, err := of.AcceptPhoto(ctx, id, person, true); err != nil {
		return err
	}
	p, err := of.Panel(ctx, panel)
	if err != nil {
		return err
	}
	for i, r := range p.Live()[:2] {
		at, err := of.SubjectAt(ctx, panel, r.At.X, r.At.Y)
		if err != nil {
			return err
		}
		what := camera.Of(at)
		what.XMM, what.YMM = r.At.X, r.At.Y
		for _, m := range about.Meters {
			value, _ := eye.Meter(m.Instrument, what)
			err := of.AddMeter(ctx, panel, proof.NewMeter{ID: fmt.Sprintf("demo-%s-%s-%s-%d", m.Quantity, panel, when, i), Person: person,
				Read: prove.Read{Meter: prove.Meter{Quantity: prove.Quantity(m.Quantity), Instrument: m.Instrument, Angle: m.AngleDeg}, X: r.At.X, Y: r.At.Y, Value: value}})
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// closeNibs says that the nibs of a panel are gone and that its scratch was left.
func closeNibs(ctx context.Context, of *shop.Shop, id string) error {
	p, err := of.Panel(ctx, id)
	if err != nil {
		return err
	}
	var all []panelwork.MarkClose
	for _, m := range p.Marks {
		out := panelwork.MarkClose{ID: m.ID, Outcome: facts.Gone}
		if m.Kind == marks.Scratch {
			out.Outcome, out.Reason = facts.Left, "too deep to chase; the owner knows"
		}
		all = append(all, out)
	}
	return of.CloseMarks(ctx, id, all, "Runa")
}
