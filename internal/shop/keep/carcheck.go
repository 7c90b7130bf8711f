package keep

import (
	"encoding/json"
	"fmt"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panelwork"
)

// What a car of a file may be made of, beyond what the schema of its document says: no drawing
// and no plan needs more.
const (
	mostOfLine = 4000
	mostParts  = 300
	mostReach  = 50_000.0 // mm
	mostWishes = 2000     // passes of a step
)

// checkCar says what of a car's document cannot be worked with: outlines that are none, edges
// that end nowhere, plans that nothing can be made of. Nothing of it is worked out before.
func checkCar(car map[string]any) error {
	var sheet facts.Sheet
	if err := part(car["sheet"], &sheet, "the sheet"); err != nil {
		return err
	}
	if len(sheet.Scenery) > mostParts {
		return fmt.Errorf("the sheet has %d things beside its panels; %d are the most", len(sheet.Scenery), mostParts)
	}
	for _, s := range sheet.Scenery {
		if err := reach(s.Points, "the sheet"); err != nil {
			return err
		}
	}
	keys, ids := map[string]bool{}, map[string]bool{}
	for _, p := range files.Rows(car["panels"]) {
		name := textOf(p, "name")
		ids[textOf(p, "id")] = true
		if key := textOf(p, "key"); keys[key] {
			return fmt.Errorf("two panels have the key %q", key)
		} else {
			keys[key] = true
		}
		if err := checkPanel(p, name); err != nil {
			return err
		}
	}
	for _, f := range files.Rows(car["floors"]) {
		if of := textOf(f, "panel_id"); of != "" && !ids[of] {
			return fmt.Errorf("a floor was agreed for the panel %q, which is none of this car", of)
		}
	}
	return nil
}

// part reads a nested part of a document; nothing where it is missing.
func part(v, to any, what string) error {
	if v == nil {
		return nil
	}
	raw, err := json.Marshal(v)
	if err == nil {
		err = json.Unmarshal(raw, to)
	}
	if err != nil {
		return fmt.Errorf("%s cannot be read: %w", what, err)
	}
	return nil
}

// reach holds the corners of a line to what lies on a workshop's floor.
func reach(points []flatlay.Point, what string) error {
	if len(points) > mostOfLine {
		return fmt.Errorf("a line of %s has %d corners; %d are the most", what, len(points), mostOfLine)
	}
	for _, q := range points {
		if !(q.X > -mostReach && q.X < mostReach && q.Y > -mostReach && q.Y < mostReach) {
			return fmt.Errorf("a line of %s goes beyond %.0f m", what, mostReach/1000)
		}
	}
	return nil
}

func checkPanel(row map[string]any, name string) error {
	var shape flatlay.Panel
	if err := part(row["shape"], &shape, "the outline of the "+name); err != nil {
		return err
	}
	lines := [][]flatlay.Point{shape.Outline}
	if len(shape.Holes)+len(shape.Creases)+len(shape.Neighbours) > mostParts || len(shape.Edges) > mostOfLine {
		return fmt.Errorf("the outline of the %s has more than %d cut-outs, creases and neighbours", name, mostParts)
	}
	for _, h := range shape.Holes {
		lines = append(lines, h.Points)
	}
	for _, c := range shape.Creases {
		lines = append(lines, c.Points)
	}
	var zones []facts.Zone
	if err := part(row["zones"], &zones, "the zones of the "+name); err != nil {
		return err
	}
	for i, z := range zones {
		lines = append(lines, z.Outline)
		if err := panelwork.Check(z, i+1); err != nil {
			return fmt.Errorf("zone %d of the %s cannot be", i+1, name)
		}
	}
	for _, l := range lines {
		if err := reach(l, "the "+name); err != nil {
			return err
		}
	}
	if err := shape.Check(); err != nil {
		return err
	}
	for _, e := range shape.Edges {
		if n := len(shape.Outline); e.From < 0 || e.To < 0 || e.From >= n || e.To >= n {
			return fmt.Errorf("an edge of the %s goes from corner %d to %d, and it has %d", name, e.From, e.To, n)
		}
	}
	plans := map[string]bool{}
	for _, p := range files.Rows(row["plans"]) {
		plans[textOf(p, "id")] = true
		if err := checkPlan(p, name); err != nil {
			return err
		}
	}
	for _, e := range files.Rows(row["log"]) {
		if of := textOf(e, "plan_id"); !plans[of] {
			return fmt.Errorf("an entry of the log of the %s is of the plan %q, which is none of its own", name, of)
		}
	}
	return nil
}

func checkPlan(row map[string]any, name string) error {
	var m plan.Recipe
	if err := part(row["made"], &m, "a plan of the "+name); err != nil {
		return err
	}
	all := [][]plan.Choice{m.Choices}
	for _, c := range m.Areas {
		all = append(all, c)
	}
	for _, choices := range all {
		if len(choices) > 4*plan.MostSteps {
			return fmt.Errorf("a plan of the %s has %d steps", name, len(choices))
		}
		for _, c := range choices {
			if c.Passes < 0 || c.Passes > mostWishes {
				return fmt.Errorf("a plan of the %s has a step of %d passes", name, c.Passes)
			}
		}
	}
	if row["made"] == nil {
		return nil
	}
	if err := recovered(func() error { _, err := m.Ladder(); return err }); err != nil {
		return fmt.Errorf("a plan of the %s leads nowhere: %w", name, err)
	}
	return nil
}
