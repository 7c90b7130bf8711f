// Package week is who does what when, and what the shelf has for it.
package week

import (
	"sync"

	"waxplanus/internal/shop/cars"
)

// Service plans the week. Use New.
type Service struct {
	*cars.Service
	planning sync.Mutex // held while the week is planned
}

// New stands on the rooms below.
func New(of *cars.Service) *Service { return &Service{Service: of} }
