// Package advice is what to do next at a panel and how it stands: where to read, what may be done
// on a section, and the ways on where nothing may.
package advice

import "waxplanus/internal/shop/panel"

// Service shows a panel as it is read and worked. Use New.
type Service struct{ *panel.Service }

// New stands on the rooms below.
func New(of *panel.Service) *Service { return &Service{of} }
