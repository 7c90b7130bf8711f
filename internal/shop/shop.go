// Package shop is the application: it loads rows, makes core values of them, and carries out
// what a person does. It answers with core values and its own, and refuses with a refuse.Refusal.
// It knows neither the web nor any sentence. Its rooms stand on each other in this order: memo,
// refuse, house, facts, panel, advice, panelwork, proof, cars, week, offers, went, handover, keep.
package shop

import (
	"time"

	"waxplanus/internal/shop/keep"
	"waxplanus/internal/store"
)

// Shop is one shop's records with what has been computed of them. Use New.
type Shop = keep.Service

// New opens a shop on records; now is the clock, and zone the time zone of the machine that it
// runs on.
func New(records *store.Store, now func() time.Time, zone *time.Location) *Shop {
	return keep.New(records, now, zone)
}
