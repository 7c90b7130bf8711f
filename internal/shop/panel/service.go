// Package panel is one panel with all that is on record of it and what the core makes of it,
// and its car with its panels.
package panel

import (
	"reflect"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/memo"
	"waxplanus/internal/store"
)

// Service loads panels. What was computed is remembered by what it was computed from, so that
// nothing is computed again for what did not change. Use New.
type Service struct {
	*house.Service
	cars    chan struct{} // holds as many whole cars as are loaded at once
	Panels  *memo.Memo[*Panel]
	carRows *memo.Memo[*carRows]
	rows    *memo.Memo[*store.Rows]
	logs    *memo.Memo[*store.Log]
	ladders *memo.Memo[plan.Ladder]
	lessons *memo.Memo[*teaching]
	studies *memo.Memo[*Studied]
	grounds *memo.Memo[*film.Ground]
	options *memo.Memo[*plan.Options]
	hands   *memo.Memo[level.Hands]
	history *memo.Memo[history]
	coated  *memo.Memo[film.Coated]
}

// How many bytes of each kind are remembered.
const (
	mostOfPanels  = 12 << 20
	mostOfStudies = 64 << 20
	mostOfGrounds = 28 << 20
	mostOfOptions = 16 << 20
	mostOfRows    = 6 << 20
	mostOfLogs    = 12 << 20
)

// carsAtOnce is how many whole cars are loaded at once; others wait.
const carsAtOnce = 4

// New loads the panels of a shop.
func New(of *house.Service) *Service {
	return &Service{
		Service: of, cars: make(chan struct{}, carsAtOnce),
		Panels:  memo.New(mostOfPanels, panelBytes),
		carRows: memo.New(mostOfRows, memo.Deep[*carRows]),
		rows:    memo.New(mostOfRows, memo.Deep[*store.Rows]),
		logs:    memo.New(mostOfLogs, func(l *store.Log) int { return entryBytes * (1 + len(l.Entries)) }),
		ladders: memo.New(mostOfRows, memo.Deep[plan.Ladder]),
		lessons: memo.New(house.MostOfLessons, memo.Deep[*teaching]),
		studies: memo.New(mostOfStudies, studyBytes),
		grounds: memo.New(mostOfGrounds, memo.Deep[*film.Ground]),
		options: memo.New(mostOfOptions, memo.Deep[*plan.Options]),
		hands:   memo.New(house.MostOfLessons, memo.Deep[level.Hands]),
		history: memo.New(house.MostOfLessons, memo.Deep[history]),
		coated:  memo.New(house.MostOfLessons, memo.Deep[film.Coated]),
	}
}

// studyBytes are those of the film of a panel, without the ground, which is remembered by
// itself.
func studyBytes(p *Studied) int {
	seen := map[uintptr]bool{}
	if p.Study != nil {
		memo.SizeOf(reflect.ValueOf(p.Study.Ground), seen)
	}
	return memo.SizeOf(reflect.ValueOf(p.Panel), seen)
}

// entryBytes are about those of an entry of the log.
const entryBytes = 512

// panelBytes are about those of a panel beside what is remembered by itself. It is asked
// with each tap and only counts.
func panelBytes(p *Panel) int {
	const whole = 24 << 10
	return whole + entryBytes*(len(p.Entries)+len(p.Readings)+len(p.Marks))
}
