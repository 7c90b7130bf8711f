package store

import (
	"context"
	"slices"
	"strings"
	"unicode"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Listed is a car of a list, with what a list shows of what was said, and with the summary that is kept of it and
// the state that this was made in; empty where none was made.
type Listed struct {
	Car
	Version               int64 // of the car now
	Summary               string
	Work                  string // what is left to do, of lists of those promised or recent
	CarVersion            int64
	ShopVersion, Lessons  int64
	Form                  int
	NowVersion, NowLesson int64 // of the shop
}

// CarsWanted are the cars that a list is of: those that were handed over or those that were
// not, the words of whose names begin with those of Search, at most so many after the one
// with the number After (0 for none).
type CarsWanted struct {
	HandedOver bool
	// Promised has only those of the shop that were promised, the first due first; Recent has
	// those of the shop that came in last first. Neither goes with a search.
	Promised, Recent bool
	Search           string
	After            int64
	Most             int
}

// Counts are how many cars are in the shop and how many were handed over.
type Counts struct{ Here, Gone int }

// ListCars lists cars in the order in which they came in, those that were handed over the
// last first; n is how many there are of both, without the search.
func (s *Store) ListCars(ctx context.Context, w CarsWanted) (list []Listed, n Counts, err error) {
	db := s.read(ctx)
	work := ""
	if w.Promised || w.Recent {
		work = "summaries.work, "
	}
	q := db.Table("cars").Select("cars.id, cars.seq, cars.name, cars.body, cars.colour, cars.painter, cars.due_at, cars.handed_over_at, car_states.version, " + work + "summaries.summary, summaries.car_version, summaries.shop_version, summaries.lessons, summaries.form, " +
		"shop.version AS now_version, shop.lessons AS now_lesson").
		Joins("JOIN shop ON shop.id = 1").Joins("JOIN car_states ON car_states.car_id = cars.id").Joins("LEFT JOIN summaries ON summaries.car_id = cars.id").Limit(w.Most)
	if w.HandedOver {
		q = q.Where("cars.handed_over_at IS NOT NULL").Order("cars.seq DESC")
		if w.After > 0 {
			q = q.Where("cars.seq < ?", w.After)
		}
	} else if w.Promised {
		q = q.Where("cars.handed_over_at IS NULL AND cars.due_at IS NOT NULL").Order("cars.due_at")
	} else if w.Recent {
		q = q.Where("cars.handed_over_at IS NULL").Order("cars.seq DESC")
	} else {
		q = q.Where("cars.handed_over_at IS NULL AND cars.seq > ?", w.After).Order("cars.seq")
	}
	if words := searched(w.Search); words != "" {
		q = q.Where("cars.seq IN (SELECT rowid FROM car_names WHERE car_names MATCH ?)", words)
	}
	if err := q.Scan(&list).Error; err != nil {
		return nil, n, err
	}
	err = db.Table("shop").Select("here, gone").Scan(&n).Error
	return list, n, err
}

// searched is what the words of names have to begin with, as the index wants it.
func searched(text string) string {
	words := strings.FieldsFunc(text, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	for i, w := range words {
		words[i] = `"` + w + `"*`
	}
	return strings.Join(words, " ")
}

// KeptSummary is what a list shows of a car, as it was in one state.
type KeptSummary struct {
	CarID                            string `gorm:"primaryKey"`
	CarVersion, ShopVersion, Lessons int64
	Form                             int // of the text
	Summary                          string
	Work                             string // what is left to do on it
}

// TableName is that of the summaries.
func (KeptSummary) TableName() string { return "summaries" }

// KeepSummary keeps the summary of a car in place of one before it.
func (s *Store) KeepSummary(ctx context.Context, k KeptSummary) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&k).Error })
}

// Recent lists the cars that were last worked, the last first, by so many panels.
func (s *Store) Recent(ctx context.Context, panels int) ([]string, error) {
	var all, out []string
	err := s.read(ctx).Raw("SELECT car_id FROM panel_states WHERE first_pass_at IS NOT NULL ORDER BY last_entry_at DESC LIMIT ?", panels).Scan(&all).Error
	for _, id := range all {
		if !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	return out, err
}
