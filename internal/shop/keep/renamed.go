package keep

import (
	"encoding/json"
	"strings"

	"github.com/google/uuid"

	"waxplanus/internal/files"
)

// renamed gives a car and all that belongs to it ids of their own, so that it can be kept beside
// the one that it was copied from.
func renamed(car *files.CarFile) error {
	other := map[string]string{}
	old := textOf(car.Car, "id")
	fresh := uuid.NewString()
	other[old] = fresh
	var collect func(v any)
	collect = func(v any) {
		for _, row := range files.Rows(v) {
			if id := textOf(row, "id"); id != "" {
				other[id] = uuid.NewString()
			}
			for _, below := range row {
				collect(below)
			}
		}
	}
	for list, v := range car.Car {
		if list != "panels" {
			collect(v)
		}
	}
	for _, p := range files.Rows(car.Car["panels"]) {
		other[textOf(p, "id")] = fresh + "." + textOf(p, "key") // its mirror is found by that
		for _, v := range p {
			collect(v)
		}
	}
	raw, err := json.Marshal(car.Car)
	if err != nil {
		return err
	}
	dec := json.NewDecoder(strings.NewReader(string(raw)))
	dec.UseNumber()
	var all map[string]any
	if err := dec.Decode(&all); err != nil {
		return err
	}
	car.Car, _ = exchanged(all, other).(map[string]any)
	for _, p := range files.Rows(car.Car["panels"]) {
		for _, r := range files.Rows(p["readings"]) {
			r["fingerprint"] = nil // the row of the file is kept once
		}
	}
	return nil
}

// refs are the columns that name something by its id.
var refs = map[string]bool{"id": true, "plan_id": true, "panel_id": true, "mark": true, "pair": true}

// exchanged is a value of a document with other ids: in the columns that have one, and as keys
// of what a plan rests on.
func exchanged(v any, other map[string]string) any {
	switch value := v.(type) {
	case map[string]any:
		out := make(map[string]any, len(value))
		for k, one := range value {
			if to, ok := other[k]; ok {
				k = to
			}
			if text, ok := one.(string); ok && refs[k] {
				if to, known := other[text]; known {
					one = to
				}
			}
			out[k] = exchanged(one, other)
		}
		return out
	case []any:
		for i := range value {
			value[i] = exchanged(value[i], other)
		}
	}
	return v
}
