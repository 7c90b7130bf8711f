package film

// What nobody has read yet (judgement): the total film of a factory finish and
// of a refinished panel in µm, and how far below its mean the thinnest place of
// a section lies, as a share of the clear with its doubt.
var (
	usualFactory = Estimate{115, 20}
	thinnest     = Estimate{0.95, 0.03}
	usualUnder   = Estimate{80, 20} // layers under a clear on a new part
)

// thinner is by how much less of the clear the thinnest place has than the thin end.
const thinner = 0.05

// Guess is the clear of a panel by its history alone, before any reading: what
// it is said to be, and at its thin end.
type Guess struct {
	Clear  Clear
	Least  Least
	Policy Policy
}

// GuessOf guesses from the history of a panel.
func GuessOf(h History) Guess {
	total := Estimate{}
	if h.Finish == FactoryFinish || h.Finish == SingleStaged {
		total = usualFactory
	}
	g := Guess{Clear: h.clear(total, nil), Policy: h.Policy()}
	part, thin := thinnest.spread(), thinnest.spread()
	for i := range thin {
		thin[i] -= thinner
	}
	g.Least = LeastOf(g.Clear.Dist, part, thin)
	return g
}
