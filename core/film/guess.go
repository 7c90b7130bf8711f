package film

import "math"

// What nobody has read yet (judgement): the total film of a factory finish and
// of a refinished panel in µm, and how far below its mean the thinnest place of
// a section lies, as a share of the clear with its doubt.
var (
	usualFactory    = Estimate{115, 20}
	usualRefinished = Estimate{190, 45}
	thinnest        = Estimate{0.92, 0.06}
)

// Guess is the clear of a panel by its history alone, before any reading: what
// it is said to be, and at its thinnest place.
type Guess struct {
	Source Source
	Least  Least
	Policy Policy
}

// GuessOf guesses from the history of a panel.
func GuessOf(f History) Guess {
	g := Guess{Policy: PolicyFor(f.Finish)}
	widen := func(s Source, total Estimate) Source {
		s.SD = math.Hypot(s.SD, s.Mean*total.SD/total.Mean)
		return s
	}
	switch {
	case f.Finish == SingleStaged:
		g.Source = widen(SingleStage(usualFactory.Mean), usualFactory)
	case f.Finish == FactoryFinish:
		g.Source = widen(Share(usualFactory.Mean, f.ClearShare()), usualFactory)
	case f.Finish == Refinished && f.Coats > 0:
		g.Source = f.Ratio.Of(Coats(f.Coats, f.Coat))
	default:
		g.Source = Unknown(usualRefinished.Mean)
	}
	g.Least = NormalLeast(Estimate{thinnest.Mean * g.Source.Mean, math.Hypot(thinnest.Mean*g.Source.SD, thinnest.SD*g.Source.Mean)})
	return g
}

// Minus is the least clear once a film (µm, with its doubt) is gone everywhere.
func (l Least) Minus(gone Estimate) Least {
	if gone == (Estimate{}) {
		return l
	}
	out := Least{mu: make([]float64, len(l.mu)), sd: math.Hypot(l.sd, gone.SD)}
	for i, m := range l.mu {
		out.mu[i] = m - gone.Mean
	}
	return out
}
