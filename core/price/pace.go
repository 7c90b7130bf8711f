package price

import "math"

// Took is a piece of work with the minutes that were planned and that it took.
type Took struct{ Planned, Minutes float64 }

// Slip says whether its clock tells nothing.
func (t Took) Slip() bool {
	return !(t.Planned > 0 && t.Minutes > 0) || t.Minutes > slip*t.Planned || t.Minutes < t.Planned/slip
}

// Pace is how many times as long work of a kind takes as planned, with the spread of its
// logarithm, and how many pieces taught it.
type Pace struct {
	Factor, Spread float64
	Pieces         int
}

// Spreads of a pace as logarithms before anything is known of it, and of one piece about its
// pace (judgement).
const (
	paceSpread  = 0.35
	pieceSpread = 0.30
	// A piece that took less than a fifth or more than five times what was planned is a slip
	// of the clock: somebody tapped later, or left it running.
	slip = 5.0
)

// PaceOf learns the pace from pieces of work: a normal prior and normal errors of the
// logarithm.
func PaceOf(all []Took) Pace {
	precision, sum, n := 1/(paceSpread*paceSpread), 0.0, 0
	for _, t := range all {
		if t.Slip() {
			continue
		}
		w := 1 / (pieceSpread * pieceSpread)
		precision += w
		sum += w * math.Log(t.Minutes/t.Planned)
		n++
	}
	return Pace{math.Exp(sum / precision), math.Sqrt(1 / precision), n}
}

// Low and High hold the middle 80 % of the doubt of a pace.
func (p Pace) Low() float64 { return p.Factor * math.Exp(-middle*p.Spread) }

// High is its upper end.
func (p Pace) High() float64 { return p.Factor * math.Exp(middle*p.Spread) }
