package film

// Origin is where a finish comes from.
type Origin string

// The origins.
const (
	AtFactory Origin = "factory"
	Here      Origin = "here"
	Elsewhere Origin = "elsewhere"
	Nowhere   Origin = "unknown"
)

// FinishOf is the finish of a panel by where it comes from, whether the colour
// is the only layer, and whether its coats of clear are known.
func FinishOf(o Origin, single bool, coats int) Finish {
	switch {
	case single:
		return SingleStaged
	case o == AtFactory:
		return FactoryFinish
	case o == Here || o == Elsewhere && coats > 0:
		return Refinished
	}
	return RefinishedOld
}
