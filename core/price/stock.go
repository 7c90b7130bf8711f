package price

import (
	"cmp"
	"math"
	"slices"
	"time"
)

// Use is so much of a thing of the shelf that a task uses, at a time, for a car.
type Use struct {
	Item string
	Car  string
	At   time.Time
	Much float64 // pieces, or ml of a compound
}

// Stock is how much of a thing is there: Low is how much should always be, Pack how much is
// bought at once, Price of one piece or ml.
type Stock struct {
	Item  string  `json:"item"`
	Here  float64 `json:"here"`
	Low   float64 `json:"low"`
	Pack  float64 `json:"pack"`
	Price float64 `json:"price"`
}

// Runs is how a thing lasts: what is planned of it, when it runs out (zero where it lasts)
// and on which cars that is felt, and what to buy.
type Runs struct {
	Stock
	Planned float64
	Out     time.Time
	Felt    []string // cars that need it from then on, the first one first
	Buy     float64  // whole packs
	Cost    float64
	IsLow   bool // less is there, or will be after what is planned, than should be
}

// Last says of all things how long they last against what is planned of them, what runs out
// first coming first.
func Last(stock []Stock, uses []Use) []Runs {
	uses = slices.Clone(uses)
	slices.SortStableFunc(uses, func(a, b Use) int { return a.At.Compare(b.At) })
	out := make([]Runs, len(stock))
	for i, s := range stock {
		r := Runs{Stock: s}
		left := s.Here
		for _, u := range uses {
			if u.Item != s.Item {
				continue
			}
			r.Planned += u.Much
			if left -= u.Much; left < -1e-9 {
				if r.Out.IsZero() {
					r.Out = u.At
				}
				if !slices.Contains(r.Felt, u.Car) {
					r.Felt = append(r.Felt, u.Car)
				}
			}
		}
		if r.IsLow = left < s.Low-1e-9; r.IsLow {
			r.Buy = s.Low - left
			if s.Pack > 0 {
				r.Buy = s.Pack * math.Ceil(r.Buy/s.Pack-1e-9)
			}
			r.Cost = r.Buy * s.Price
		}
		out[i] = r
	}
	slices.SortStableFunc(out, func(a, b Runs) int {
		if a.Out.IsZero() != b.Out.IsZero() {
			return map[bool]int{true: 1, false: -1}[a.Out.IsZero()]
		}
		return cmp.Or(a.Out.Compare(b.Out), -cmp.Compare(a.Buy, b.Buy))
	})
	return out
}
