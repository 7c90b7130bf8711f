// Package panelwork is what is done at a panel: readings, marks, taps, and tries of paper and compound.
package panelwork

import "waxplanus/internal/shop/advice"

// Service takes what is read and done at a panel. Use New.
type Service struct{ *advice.Service }

// New stands on the rooms below.
func New(of *advice.Service) *Service { return &Service{of} }
