package demo

import (
	"context"
	"fmt"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/store"
)

// yearID is the worked car that the others of a big shop are copies of.
const yearID = "year-saloon"

// mostWorked is how many cars of a big shop have years of log; the others were only taken in.
const mostWorked = 200

// worked are the panels of that car, sprayed here and levelled to the end.
var worked = []string{"L-fdoor", "L-rdoor", "R-fdoor", "R-rdoor", "bonnet", "boot"}

// Filler fills a shop with the demo cars and so many saloons besides, each some days older
// than the one before: worked ones first.
func Filler(cars int) func(context.Context, *store.Store, time.Time) error {
	return func(ctx context.Context, s *store.Store, now time.Time) error {
		if err := Fill(ctx, s, now); err != nil || cars == 0 {
			return err
		}
		if err := workedSaloon(ctx, s, now.Add(-24*time.Hour)); err != nil {
			return fmt.Errorf("demo %s: %w", yearID, err)
		}
		for i := 1; i < cars; i++ {
			from := yearID
			if i >= mostWorked {
				from = HireID
			}
			if err := s.CopyCar(ctx, from, fmt.Sprintf("-%d", i+1), fmt.Sprintf("Saloon %d", i+1), time.Duration(i)*53*time.Hour); err != nil {
				return fmt.Errorf("demo saloon %d: %w", i+1, err)
			}
		}
		return nil
	}
}

// workedSaloon takes a saloon in that was read, planned, worked and read again by now.
func workedSaloon(ctx context.Context, s *store.Store, now time.Time) error {
	c := car{yearID, taken("Saloon 1", body.Saloon, plan.Dark, "Tove", ""), map[string]panelFacts{}, nil}
	for _, key := range worked {
		c.panels[key] = panelFacts{film.Here, clear, 4, 6.5, plan.Flat, 190, 6, 3, 105, 50, nil}
	}
	if err := takeIn(ctx, s, c, now); err != nil {
		return err
	}
	of := shop.New(s, func() time.Time { return now }, time.UTC)
	defer of.Close()
	row, err := s.Car(ctx, yearID)
	if err != nil {
		return err
	}
	for _, p := range row.Panels {
		if _, ok := c.panels[p.Key]; !ok {
			continue
		}
		if err := workPanel(ctx, s, of, p.ID, now); err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
	}
	return nil
}

// slower is how many times as long passes take in the made-up shop as by the shelf.
const slower = 1.12

// workPanel accepts the usual plan of a panel, makes its passes and reads each section after.
func workPanel(ctx context.Context, s *store.Store, of *shop.Shop, id string, now time.Time) error {
	p, err := of.Panel(ctx, id)
	if err != nil {
		return err
	}
	if p, err = of.AcceptPlan(ctx, id, "", p.Basis()); err != nil {
		return err
	}
	steps := p.Ladder().Steps
	n, at := 0, now
	area := 0.0
	for _, sec := range p.Sections {
		area += sec.W * sec.H
	}
	log := func(sec flatlay.Section, step int, kind string) error {
		n++
		if s := steps[step]; kind == store.KindPass { // a little slower than the shelf says
			pass := (s.Minutes - s.Once) / float64(max(s.Passes, 1)) * sec.W * sec.H / area
			at = at.Add(time.Duration(slower * pass * float64(time.Minute)))
		}
		v, err := s.Versions(ctx, id)
		if err != nil {
			return err
		}
		return s.AddEntry(ctx, &store.Entry{ID: fmt.Sprintf("demo-%s-%d", id, n), PlanID: p.Record.ID, PanelID: id, Section: sec.Key, Step: step + 1, Kind: kind,
			Person: []string{"Tove", "Runa", "Issa"}[step%3], At: at}, store.Judged{Version: v.Panel})
	}
	var after []store.Reading
	for i, sec := range p.Sections {
		for _, step := range p.Ladder().StepsOf(sec.Key) {
			for range steps[step].Passes {
				if err := log(sec, step, store.KindPass); err != nil {
					return err
				}
			}
			if err := log(sec, step, store.KindDone); err != nil {
				return err
			}
		}
		spot := sec.Cells[len(sec.Cells)/2]
		after = append(after, store.Reading{ID: fmt.Sprintf("demo-%s-after-%d", id, i), PanelID: id, XMM: spot.X, YMM: spot.Y,
			FilmUM: advice.PlaceAt(p, spot).Total.Mean - p.Ladder().FilmOn(sec.Key) + random(sec.Key).NormFloat64(), Phase: store.PhaseTotal, Source: store.SourceTyped, TakenAt: at.Add(time.Minute)})
	}
	_, err = s.AddReadings(ctx, after, panelwork.MostReadings)
	return err
}
