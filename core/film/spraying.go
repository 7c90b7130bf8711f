package film

import "time"

// Spraying is what is said of how a finish was sprayed.
type Spraying struct {
	Origin             Origin
	Layers             string
	Coats              int
	WetUM, Solids, Dry float64 // of a coat: µm wet, volume solids 0 to 1, µm dry; 0 unknown
	At                 *time.Time
}

// oneSpraying is how far apart panels of one spraying are said to be done (judgement).
const oneSpraying = time.Hour

// Same says whether two panels carry a finish of one spraying: the same was said of
// both, within the hour.
func (s Spraying) Same(o Spraying) bool {
	if (s.At == nil) != (o.At == nil) || s.At != nil && s.At.Sub(*o.At).Abs() > oneSpraying {
		return false
	}
	s.At, o.At = nil, nil
	return s == o
}

// Coat is the dry film of a coat in µm, as it was said or from wet film and solids; 0
// where nobody knows.
func (s Spraying) Coat() float64 {
	if s.Dry > 0 {
		return s.Dry
	}
	return s.WetUM * s.Solids
}
