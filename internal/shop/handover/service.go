// Package handover is a car as it leaves: the owner's report, the film record, and its seal.
package handover

import "waxplanus/internal/shop/went"

// Service hands cars over. Use New.
type Service struct{ *went.Service }

// New stands on the rooms below.
func New(of *went.Service) *Service { return &Service{of} }
