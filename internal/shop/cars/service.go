// Package cars is cars in the shop: taken in, listed, with what is next and what to tell their
// owners.
package cars

import (
	"runtime"

	"waxplanus/internal/shop/proof"
)

// Service lists and changes cars. Use New.
type Service struct {
	*proof.Service
	slots    chan struct{} // holds as many cars as are gone through at once when nobody waits
	renewals renewals
}

// New stands on the rooms below.
func New(of *proof.Service) *Service {
	return &Service{Service: of, slots: make(chan struct{}, runtime.GOMAXPROCS(0)), renewals: renewals{under: map[string]*renewal{}}}
}
