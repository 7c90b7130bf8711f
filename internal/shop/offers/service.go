// Package offers is what an owner can be offered for a car, and what each school would make of it.
package offers

import (
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/memo"
	"waxplanus/internal/shop/week"
)

// Service works out offers. Use New.
type Service struct {
	*week.Service
	offers *memo.Memo[[]CarOffer]
}

// offerBytes are about those of an offer of a car, beside the film of its panels.
const offerBytes = 96 << 10

// New stands on the rooms below.
func New(of *week.Service) *Service {
	return &Service{of, memo.New(house.MostOfLessons, func(all []CarOffer) int { return offerBytes * (1 + len(all)) })}
}
