// Package went is what a car took beside what was promised: hours, film, things and money.
package went

import "waxplanus/internal/shop/offers"

// Service weighs what happened against what was said. Use New.
type Service struct{ *offers.Service }

// New stands on the rooms below.
func New(of *offers.Service) *Service { return &Service{of} }
