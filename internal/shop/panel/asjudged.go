package panel

import (
	"errors"

	"waxplanus/internal/store"
)

// mostTries is how often something is judged again because its panel changed meanwhile.
const mostTries = 20

// AsJudged does something that is judged first, again where the panel changed in between.
func (s *Service) AsJudged(do func() error) error {
	for range mostTries {
		if err := do(); !errors.Is(err, store.ErrChanged) {
			return err
		}
	}
	return store.ErrBusy
}
