package shelf

// Law is the constants that hold for all work: how much of a scratch must go,
// what may follow what, how the tools are led, what time and material cost.
type Law struct {
	SpeedHand, SpeedOrbital float64 // factor on the removal of a pass

	DeepLight, DeepMedium, DeepDark    float64 // depth of the scratch that must go, of the usual one
	HazeLight, HazeMedium, HazeDark    float64 // µm of scratch that a colour shows as haze
	GhostLight, GhostMedium, GhostDark float64 // share of old scratch that a colour shows

	StepLeast, StepMost float64 // ratio of d50 from a grit to the next
	ScratchMost         float64 // ratio of the old scratch to the new
	LevelMost           float64 // passes of a levelling step
	Reach, CyclesMost   float64 // of a compound: scratch in units of its own, cycles
	CoarsestClear       float64 // µm of d50 to start with on clear
	CoarsestSingle      float64 // and on an oxidised single stage

	Soft, Hard, Oxidised float64 // hardness of paint, medium is 1
	Lacquer              float64 // and of lacquer and other soft old paint
	DayOld               float64 // hardness of clear a day old, of the same clear weeks later
	DueAt                float64 // share of the cut left at which a piece is due
	NibEach              float64 // s a nib, filed
	NibRest              float64 // µm that a filed nib still stands up
	NibWide              float64 // mm, radius that its finer steps go over

	SetUp, LookHand, LookMachine                    float64 // s
	HandOverlap, HandSpeed, HandTurn, HandCrossings float64 // share, mm/s, s
	DiscOverlap, DiscSpeed, DiscTurn, DiscCrossings float64
	PadOverlap, PadSpeed, RotarySpeed, PadCrossings float64
	TapeSpeed                                       float64 // mm/s of edge
	PadChange                                       float64 // s to clean one pad for the next product
	PadClean                                        float64 // cycles after which a pad is cleaned or blown out
	PadHolds                                        float64 // mm³ of paint after which it is cleaned, if that is sooner
	WarmAfter, Cool                                 float64 // cycles in a row that make a section warm, s until it is cool
	Soak                                            float64 // min that soaked paper lies before

	Handling

	// PaceHand and PaceMachine are how many times as long a pass takes here as it would by all
	// of the above, which the clock in Level learns; PaceAround is the same of what is done
	// around the passes: washing, masking, looking, reading, cleaning.
	PaceHand, PaceMachine, PaceAround float64

	// SeenUp, SeenSide, SeenLow and SeenCovered are how well the light shows what faces it,
	// sides, what lies low, and what a moulding covers, 0 to 1: they weigh where hours and film
	// go first.
	SeenUp, SeenSide, SeenLow, SeenCovered float64

	Labour, Tape float64 // money an hour, and a metre of masking tape
}

var usualLaw = Law{
	SpeedHand: 1, SpeedOrbital: 3,
	DeepLight: 1.1, DeepMedium: 1.3, DeepDark: 1.6,
	HazeLight: 0.25, HazeMedium: 0.15, HazeDark: 0.06,
	GhostLight: 0.04, GhostMedium: 0.02, GhostDark: 0.01,
	StepLeast: 1.15, StepMost: 2.1, ScratchMost: 3.2, LevelMost: 8, Reach: 5.5, CyclesMost: 4,
	CoarsestClear: 15.3, CoarsestSingle: 21.8,
	Soft: 0.7, Hard: 1.5, Oxidised: 0.6, Lacquer: 0.5, DayOld: 0.85, DueAt: 0.5, NibEach: 45, NibRest: 1, NibWide: 75,
	SetUp: 120, LookHand: 20, LookMachine: 15,
	HandOverlap: 0.5, HandSpeed: 500, HandTurn: 0.2, HandCrossings: 4,
	DiscOverlap: 0.5, DiscSpeed: 125, DiscTurn: 0.3, DiscCrossings: 1,
	PadOverlap: 0.5, PadSpeed: 60, RotarySpeed: 120, PadCrossings: 4,
	TapeSpeed: 40, PadChange: 60, PadClean: 2, PadHolds: 150, WarmAfter: 2, Cool: 90, Soak: 120,
	Handling: usualHandling,
	PaceHand: 1, PaceMachine: 1, PaceAround: 1,
	SeenUp: 1, SeenSide: 0.5, SeenLow: 0.25, SeenCovered: 0.05,
	Labour: 55, Tape: 0.06,
}

// Pace of the shop with a tool.
func (l *Law) Pace(t Tool) float64 {
	if t == Hand {
		return l.PaceHand
	}
	return l.PaceMachine
}
