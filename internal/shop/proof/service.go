// Package proof is what is seen of a panel after the work: photos, meters, wipes, and what is still owed.
package proof

import "waxplanus/internal/shop/panelwork"

// Service takes and shows proofs. Use New.
type Service struct{ *panelwork.Service }

// New stands on the rooms below.
func New(of *panelwork.Service) *Service { return &Service{of} }
