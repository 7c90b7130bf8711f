package keep

import (
	"context"
	"fmt"

	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/store"
)

// Fault is one thing that is not as it should be, and where.
type Fault = store.Fault

// Looked is what looking a whole shop through has found.
type Looked struct {
	Faults                                []Fault
	Cars, Panels, Readings, Passes, Plans int
	Photos, Seals                         int
}

// Verify looks the whole shop through: the database, the photos, and the film ledger worked out
// anew from what was logged.
func (s *Service) Verify(ctx context.Context) (*Looked, error) {
	out := &Looked{}
	var err error
	if out.Faults, err = s.Store.Verify(ctx); err != nil {
		return nil, err
	}
	var photos []store.Fault
	if out.Photos, photos, err = s.Store.VerifyPhotos(ctx); err != nil {
		return nil, err
	}
	out.Faults = append(out.Faults, photos...)
	ids, err := s.Store.CarIDs(ctx)
	if err != nil {
		return nil, err
	}
	for _, id := range ids {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if err := s.verifyCar(ctx, id, out); err != nil {
			out.Faults = append(out.Faults, store.Fault{Where: "car " + id, What: "cannot be worked out: " + err.Error()})
		}
	}
	return out, nil
}

// verifyCar holds the ledger of a car, as the program works with it, against its events.
func (s *Service) verifyCar(ctx context.Context, id string, out *Looked) error {
	doc, err := s.Store.Document(ctx, id)
	if err != nil {
		return err
	}
	if err := checkCar(doc); err != nil {
		return err
	}
	c, err := s.Car(ctx, id)
	if err != nil {
		return err
	}
	out.Cars++
	fault := func(p *panel.Panel, format string, args ...any) {
		out.Faults = append(out.Faults, store.Fault{Where: fmt.Sprintf("car %s, %s", c.Name, p.Name), What: fmt.Sprintf(format, args...)})
	}
	rows := files.Rows(doc["panels"])
	for i, p := range c.Panels {
		out.Panels++
		out.Readings += len(p.Readings)
		out.Plans += len(files.Rows(rows[i]["plans"]))
		cuts := events(rows[i], p)
		for _, sec := range p.Sections {
			var counted []int
			if p.Ladder() != nil {
				counted = p.Log.Passes(sec.Key)
			}
			for step, n := range counted {
				out.Passes += n
				if made := cuts[cutKey{sec.Key, step + 1}]; made != n {
					fault(p, "the ledger counts %d passes of step %d in the %s, and the log has %d", n, step+1, sec.Name, made)
				}
			}
		}
		marks := map[string]float64{}
		for _, m := range files.Rows(rows[i]["marks"]) {
			if m["struck_at"] == nil {
				x, _ := m["x_mm"].(float64)
				y, _ := m["y_mm"].(float64)
				um, _ := m["spent_um"].(float64)
				marks[p.SectionAt(flatlay.Point{X: x, Y: y})] = max(marks[p.SectionAt(flatlay.Point{X: x, Y: y})], um)
			}
		}
		for _, sec := range p.Sections {
			if spotted := p.Spotted(sec.Key); spotted > marks[sec.Key]+0.005 || marks[sec.Key] > spotted+0.005 {
				fault(p, "the ledger has %.2f µm gone at marks of the %s, and the marks say %.2f", spotted, sec.Name, marks[sec.Key])
			}
		}
	}
	last := ""
	for _, h := range files.Rows(doc["handovers"]) {
		if h["kind"] == handover.HandedOver {
			last = textOf(h, "seal")
		}
	}
	if c.HandedOverAt != nil && last != "" {
		out.Seals++
		if now, err := store.SealOf(doc); err != nil || now != last {
			out.Faults = append(out.Faults, store.Fault{Where: "car " + c.Name, What: "its film record is not what was sealed when it was handed over"})
		}
	}
	return nil
}

type cutKey struct {
	section string
	step    int
}

// events counts the passes of the plan of record from its rows.
func events(row map[string]any, p *panel.Panel) map[cutKey]int {
	out := map[cutKey]int{}
	if p.Record == nil {
		return out
	}
	for _, e := range files.Rows(row["log"]) {
		kind := textOf(e, "kind")
		if e["struck_at"] == nil && textOf(e, "plan_id") == p.Record.ID && (kind == store.KindPass || kind == store.KindOver) {
			step, _ := e["step"].(int64)
			out[cutKey{textOf(e, "section"), int(step)}]++
		}
	}
	return out
}
