package price

import (
	"math"
	"slices"
)

// Option is one way to work a place: what it takes and what is seen of it.
type Option struct {
	Name    string
	Minutes float64
	Film    float64 // µm
	Gain    float64 // what is seen of it: see Seen
}

// Place is a panel or section with the ways to work it. To leave it is always one of them.
type Place struct {
	Key     string
	Options []Option
}

// Look is how paint looks: its clarity (0 to 100) and peel grade (0 to 10).
type Look struct{ Clarity, Peel float64 }

// Better is how much better paint looks than before, at most 1: half by how clearly it mirrors
// and half by how straight (judgement: fresh peel mirrors clearly and waves).
func (l Look) Better(before Look) float64 {
	return math.Max(0, (l.Clarity-before.Clarity)/200+(before.Peel-l.Peel)/20)
}

// Seen is what an eye has of a panel that becomes better by so much (see Better, or the
// share of swirls gone, 0 to 1), of so many m² and seen so well (0 to 1): m² made as good as
// they can be.
func Seen(better, m2, weight float64) float64 { return math.Max(0, better) * m2 * weight }

// Bought is what so many minutes buy: the chosen option of each place, -1 for none.
type Bought struct {
	Minutes float64
	Gain    float64
	Choice  []int
}

// Step is a point of the curve of gain against hours, with what the last minutes bought.
type Step struct {
	Bought
	Budget float64 // minutes from which on it can be bought
	Place  int     // that became other than at the point before
	Option int
}

// unit is how finely budgets are told apart, in minutes.
const unit = 5.0

// Best chooses an option of every place so that most is gained within so many minutes: the
// multiple-choice knapsack by dynamic programming, exact to whole units of 5 minutes, each
// option rounded up.
func Best(places []Place, minutes float64) Bought {
	table, choice := fill(places, minutes)
	return trace(places, table, choice, len(table)-1)
}

// fill is the most gain by budget, and by place and budget what was chosen for it.
func fill(places []Place, minutes float64) (best []float64, choice [][]int) {
	n := int(math.Max(0, minutes)/unit+1e-9) + 1
	best = make([]float64, n)
	for _, p := range places {
		next, chosen := slices.Clone(best), make([]int, n)
		for b := range chosen {
			chosen[b] = -1
		}
		for o, opt := range p.Options {
			cost := int(math.Ceil(opt.Minutes/unit - 1e-9))
			for b := cost; b < n; b++ {
				if g := best[b-cost] + opt.Gain; g > next[b]+1e-12 {
					next[b], chosen[b] = g, o
				}
			}
		}
		best, choice = next, append(choice, chosen)
	}
	return best, choice
}

func trace(places []Place, best []float64, choice [][]int, b int) Bought {
	out := Bought{Gain: best[b], Choice: make([]int, len(places))}
	for i := len(places) - 1; i >= 0; i-- {
		o := choice[i][b]
		if out.Choice[i] = o; o >= 0 {
			opt := places[i].Options[o]
			out.Minutes += opt.Minutes
			b -= int(math.Ceil(opt.Minutes/unit - 1e-9))
		}
	}
	return out
}

// Curve is the gain against minutes up to all that can be gained: at each point the place is
// named whose option changed most since the one before.
func Curve(places []Place) []Step {
	all := 0.0
	for _, p := range places {
		most := 0.0
		for _, o := range p.Options {
			most = math.Max(most, unit*math.Ceil(o.Minutes/unit-1e-9))
		}
		all += most
	}
	best, choice := fill(places, all)
	var out []Step
	last := make([]int, len(places))
	for i := range last {
		last[i] = -1
	}
	gain := func(place, option int) float64 {
		if option < 0 {
			return 0
		}
		return places[place].Options[option].Gain
	}
	for b := range best {
		if b > 0 && best[b] <= best[b-1]+1e-12 {
			continue
		}
		at := trace(places, best, choice, b)
		s := Step{Bought: at, Budget: unit * float64(b), Place: -1, Option: -1}
		most := 0.0
		for i := range places {
			if d := gain(i, at.Choice[i]) - gain(i, last[i]); d > most {
				most, s.Place, s.Option = d, i, at.Choice[i]
			}
		}
		if s.Place >= 0 {
			out = append(out, s)
		}
		last = at.Choice
	}
	return out
}

// Next is the first point of a curve that gains more than so many minutes buy; false where
// nothing does.
func Next(curve []Step, minutes float64) (Step, bool) {
	for _, s := range curve {
		if s.Budget > minutes+1e-9 {
			return s, true
		}
	}
	return Step{}, false
}
