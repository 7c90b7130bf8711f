// Package keep is what keeps records: backups, files of cars, readings of others, and the check of
// it all.
package keep

import (
	"sync"
	"time"

	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/shop/went"
	"waxplanus/internal/store"
)

// Service is the whole shop: it stands on all other rooms. Use New.
type Service struct {
	*handover.Service
	backing sync.Mutex // held while a backup is made
}

// New opens a shop on records; now is the clock, and zone the time zone of the machine that it
// runs on.
func New(records *store.Store, now func() time.Time, zone *time.Location) *Service {
	work := panelwork.New(advice.New(panel.New(house.New(records, now, zone))))
	planned := week.New(cars.New(proof.New(work)))
	return &Service{Service: handover.New(went.New(offers.New(planned)))}
}
