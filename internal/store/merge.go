package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Misfit says that a document does not fit together or into the shop, and where.
type Misfit struct{ What string }

func (m *Misfit) Error() string { return m.What }

// Diverged says that the log of a panel went on here and in the document after they parted.
type Diverged struct{ Panel string }

func (d *Diverged) Error() string { return "the log of " + d.Panel + " went on in both" }

// Change of one list of a document against what is kept: how many rows are new, changed, or
// only here, and which columns changed how often.
type ListChange struct {
	Panel             string // by name; empty for the car
	List              string
	New, Changed, Own int
	Columns           map[string]int
}

// Compare says what adding a document to the car of its id would change; nothing is written.
func (s *Store) Compare(ctx context.Context, doc Row) (known bool, out []ListChange, err error) {
	id, _ := doc["id"].(string)
	now, err := s.Document(ctx, id)
	if errors.Is(err, ErrMissing) {
		return false, nil, nil
	}
	if err != nil {
		return false, nil, err
	}
	m := merge{dry: true}
	err = m.rows(documentTree, "", []Row{now}, []Row{doc}, "")
	return true, m.changes, err
}

// AddDocument keeps a document: as a new car, or together with the car of its id that is kept.
// What the document has is taken; what only the shop has stays, and what was struck out in
// either stays struck. Files are the bytes of its photos by their hashes, gauges those that its
// readings name. All of it is kept or nothing.
func (s *Store) AddDocument(ctx context.Context, doc Row, files map[string]int64, gauges []Gauge) error {
	id, _ := doc["id"].(string)
	return s.write(ctx, func(tx *gorm.DB) error {
		m := merge{tx: tx, files: files}
		for _, g := range gauges {
			if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&g).Error; err != nil {
				return err
			}
		}
		now, err := documentRows(tx, documentTree, "id", id)
		if err != nil {
			return err
		}
		if len(now) > 0 && now[0]["handed_over_at"] != nil {
			return ErrClosed
		}
		if err := m.rows(documentTree, "", now, []Row{doc}, ""); err != nil {
			var known *Misfit
			var parted *Diverged
			switch {
			case errors.As(err, &known), errors.As(err, &parted), errors.Is(err, ErrClosed), errors.Is(err, ErrFull), errors.Is(err, ErrBusy):
				return err
			}
			return &Misfit{err.Error()}
		}
		if at, err := inward("cars", column{"handed_over_at", "DATETIME"}, doc["handed_over_at"]); err != nil || at == nil {
			return err
		} else { // the last, as nothing is written after it
			return tx.Model(&Car{}).Where("id = ?", id).Update("handed_over_at", at).Error
		}
	})
}

// merge puts rows of a document to those that are kept.
type merge struct {
	tx      *gorm.DB
	dry     bool
	changes []ListChange
	files   map[string]int64
}

func keyOf(b branch, r Row) string {
	var out strings.Builder
	for _, k := range b.keys {
		fmt.Fprintf(&out, "%v|", r[k])
	}
	return out.String()
}

func (m *merge) rows(b branch, owner string, kept, given []Row, panel string) error {
	here := make(map[string]Row, len(kept))
	var last int64
	for _, r := range kept {
		here[keyOf(b, r)] = r
		last = max(last, number(r["seq"]), number(r["version"]))
	}
	change := ListChange{Panel: panel, List: b.list, Columns: map[string]int{}}
	seen := map[string]bool{}
	var fresh []Row
	for _, g := range given {
		key := keyOf(b, g)
		if seen[key] {
			return &Misfit{fmt.Sprintf("%s: %s is in it twice", b.nameOf(), strings.TrimSuffix(key, "|"))}
		}
		seen[key] = true
		name := panel
		if b.table == "panels" {
			name, _ = g["name"].(string)
		}
		old, known := here[key]
		if !known {
			change.New++
			fresh = append(fresh, g)
			continue
		}
		set := differing(old, g)
		if len(set) > 0 && b.fixed {
			return &Misfit{fmt.Sprintf("%s: %s is another one here", b.nameOf(), strings.TrimSuffix(key, "|"))}
		}
		if len(set) > 0 {
			change.Changed++
			for c := range set {
				change.Columns[c]++
			}
			if err := m.update(b, owner, g, set); err != nil {
				return err
			}
		}
		for _, t := range b.twigs {
			id, _ := g["id"].(string)
			if err := m.rows(t, id, listOf(old, t.list), listOf(g, t.list), name); err != nil {
				return err
			}
		}
	}
	for key := range here {
		if !seen[key] {
			change.Own++
		}
	}
	if b.logged && change.New > 0 && change.Own > 0 {
		return &Diverged{panel}
	}
	if change.New+change.Changed+change.Own > 0 && (b.table != "cars" || len(kept) > 0) {
		m.changes = append(m.changes, change)
	}
	for _, g := range fresh {
		if err := m.insert(b, owner, g, len(kept) > 0, &last); err != nil {
			return err
		}
	}
	return nil
}

func (b branch) nameOf() string {
	if b.list == "" {
		return "the car"
	}
	return b.list
}

func listOf(r Row, list string) []Row {
	switch all := r[list].(type) {
	case []Row:
		return all
	case []any:
		out := make([]Row, 0, len(all))
		for _, one := range all {
			if row, ok := one.(Row); ok {
				out = append(out, row)
			}
		}
		return out
	}
	return nil
}

func number(v any) int64 {
	switch n := v.(type) {
	case int64:
		return n
	case float64:
		return int64(n)
	case json.Number:
		i, _ := n.Int64()
		return i
	}
	return 0
}

// differing are the columns in which a given row is another than the kept one, with their new
// values. What was struck out stays struck, and places in an order stay.
func differing(kept, given Row) Row {
	out := Row{}
	for c, was := range kept {
		now, said := given[c]
		_, isList := was.([]Row)
		if !said || isList || c == "seq" || c == "handed_over_at" || same(was, now) {
			continue
		}
		if (c == "struck_at" || c == "struck_reason") && kept["struck_at"] != nil {
			continue
		}
		out[c] = now
	}
	return out
}

// same says whether two values of a document are the same thing.
func same(a, b any) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	if errX != nil || errY != nil || string(x) == string(y) {
		return errX == nil && errY == nil
	}
	var u, v any
	if json.Unmarshal(x, &u) != nil || json.Unmarshal(y, &v) != nil {
		return false
	}
	x, _ = json.Marshal(u)
	y, _ = json.Marshal(v)
	return string(x) == string(y)
}

func (m *merge) update(b branch, owner string, g, set Row) error {
	if m.dry {
		return nil
	}
	columns, err := columnsOf(m.tx, b.table)
	if err != nil {
		return err
	}
	var names []string
	var values []any
	for _, c := range columns {
		v, given := set[c.Name]
		if !given {
			continue
		}
		kept, err := inward(b.table, c, v)
		if err != nil {
			return err
		}
		names, values = append(names, `"`+c.Name+`" = ?`), append(values, kept)
	}
	if len(names) == 0 {
		return nil
	}
	where := []string{}
	for _, k := range b.keys {
		where, values = append(where, `"`+k+`" = ?`), append(values, g[k])
	}
	if b.parent != "" {
		where, values = append(where, b.parent+" = ?"), append(values, owner)
	}
	return m.tx.Exec("UPDATE "+b.table+" SET "+strings.Join(names, ", ")+" WHERE "+strings.Join(where, " AND "), values...).Error
}

// insert keeps a new row with all that belongs to it; behind others it gets the next place in
// their order.
func (m *merge) insert(b branch, owner string, g Row, behind bool, last *int64) error {
	if m.dry {
		return nil
	}
	columns, err := columnsOf(m.tx, b.table)
	if err != nil {
		return err
	}
	var names, marks []string
	var values []any
	add := func(name string, v any) {
		names, marks, values = append(names, `"`+name+`"`), append(marks, "?"), append(values, v)
	}
	if b.parent != "" {
		add(b.parent, owner)
	}
	for _, c := range columns {
		v, given := g[c.Name]
		switch {
		case b.table == "cars" && c.Name == "seq":
			var seq int64
			if err := next(m.tx, &Car{}, &seq); err != nil {
				return err
			}
			v, given = seq, true
		case b.table == "cars" && c.Name == "handed_over_at":
			continue
		case b.table == "photos" && c.Name == "data":
			v, given = []byte{}, true
		case behind && (c.Name == "seq" || b.table == "plans" && c.Name == "version"):
			*last++
			v, given = *last, true
		case c.Name == "fingerprint" && v != nil: // of a row of a file, which a copy of the car has too
			var taken int64
			if err := m.tx.Table("readings").Where("fingerprint = ?", v).Count(&taken).Error; err != nil {
				return err
			}
			if taken > 0 {
				v = nil
			}
		}
		if !given || c.Name == b.parent {
			continue
		}
		kept, err := inward(b.table, c, v)
		if err != nil {
			return err
		}
		add(c.Name, kept)
	}
	err = m.tx.Exec("INSERT INTO "+b.table+" ("+strings.Join(names, ", ")+") VALUES ("+strings.Join(marks, ", ")+")", values...).Error
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return &Misfit{fmt.Sprintf("%s: %s is on record for something else, or its place in the order is", b.nameOf(), strings.TrimSuffix(keyOf(b, g), "|"))}
	}
	if err != nil {
		return fmt.Errorf("%s %s: %w", b.nameOf(), strings.TrimSuffix(keyOf(b, g), "|"), err)
	}
	if b.table == "photos" || b.table == "proof_photos" && g["dropped_at"] == nil {
		hash, _ := g["hash"].(string)
		if err := addFile(m.tx, hash, m.files[hash]); err != nil {
			return err
		}
	}
	id, _ := g["id"].(string)
	for _, t := range b.twigs {
		seen := map[string]bool{}
		var none int64
		for _, row := range listOf(g, t.list) {
			if key := keyOf(t, row); len(t.keys) > 0 && seen[key] {
				return &Misfit{fmt.Sprintf("%s: %s is in it twice", t.list, strings.TrimSuffix(key, "|"))}
			} else {
				seen[key] = true
			}
			if err := m.insert(t, id, row, false, &none); err != nil {
				return err
			}
		}
	}
	return nil
}
