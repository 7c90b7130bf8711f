package store

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"slices"
)

// What a seal does not cover: what is said of people and in words, photos, which may be deleted
// by rule or on the owner's wish, and what happens to the car afterwards.
var (
	unsealedLists   = []string{"tasks", "tellings", "promises", "times", "handovers", "reports", "photos", "proof_photos"}
	unsealedColumns = []string{"due_at", "owner_words", "note", "outcome_reason", "has_photo", "forgotten_at", "handed_over_at"}
)

// SealOf is a digest of the film record in a document: what was read, marked, planned, taken
// off and proven of each panel. It stays when what was known of the owner is deleted.
func SealOf(doc Row) (string, error) {
	raw, err := json.Marshal(doc)
	if err != nil {
		return "", err
	}
	var all any
	if err := json.Unmarshal(raw, &all); err != nil {
		return "", err
	}
	car, _ := all.(map[string]any)
	delete(car, "name")
	for _, f := range anyList(car["floors"]) {
		if floor, ok := f.(map[string]any); ok {
			delete(floor, "person")
			delete(floor, "reason")
		}
	}
	strip(car)
	if raw, err = json.Marshal(car); err != nil {
		return "", err
	}
	sum := sha256.Sum256(raw)
	return hex.EncodeToString(sum[:]), nil
}

func anyList(v any) []any {
	list, _ := v.([]any)
	return list
}

// strip takes out what a seal does not cover, and columns without a value: a column that a
// later version adds is empty in what was sealed before.
func strip(row map[string]any) {
	for k, v := range row {
		list, isList := v.([]any)
		switch {
		case isList && slices.Contains(unsealedLists, k), slices.Contains(unsealedColumns, k), v == nil, v == "", v == 0.0, v == false, isList && len(list) == 0:
			delete(row, k)
		case isList:
			for _, one := range list {
				if r, ok := one.(map[string]any); ok {
					strip(r)
				}
			}
		}
	}
}
