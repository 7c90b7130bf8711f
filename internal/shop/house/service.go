// Package house is what holds for the whole shop: its rules, people, gauges, lamps, hours and
// face, and the service that the other rooms of the shop stand on.
package house

import (
	"context"
	"runtime"
	"sync"
	"sync/atomic"
	"time"

	"waxplanus/internal/shop/memo"
	"waxplanus/internal/store"
)

// Service has the records, the clock, and what goes on when nobody waits for it. Each room of
// the shop adds what it does and remembers. Use New.
type Service struct {
	Store *store.Store
	Now   func() time.Time
	Zone  *time.Location // of the machine
	Locks *Locks

	// What goes on when nobody waits for it, until the shop is closed.
	Running sync.WaitGroup
	Life    context.Context
	end     context.CancelFunc

	lastAsk atomic.Int64  // when somebody asked last, ns
	Heavy   chan struct{} // holds as many as may work out films at once

	commons *memo.Memo[*Common] // by the version of the shop's rules
}

// MostOfLessons is how many bytes are remembered of what is learned of the whole shop.
const MostOfLessons = 4 << 20

// New opens a shop on records; now is the clock, and zone the time zone of the machine that it
// runs on.
func New(records *store.Store, now func() time.Time, zone *time.Location) *Service {
	life, end := context.WithCancel(context.Background())
	return &Service{
		Store: records, Now: now, Zone: zone, Locks: newLocks(), Life: life, end: end,
		Heavy:   make(chan struct{}, runtime.GOMAXPROCS(0)),
		commons: memo.New(MostOfLessons, memo.Deep[*Common]),
	}
}
