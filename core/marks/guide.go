package marks

import "math"

// Stage is where the work on one proud mark stands.
type Stage string

// The stages.
const (
	StageSoft  Stage = "soft"  // not hard enough to be cut
	StageFile  Stage = "file"  // a nib, a few strokes of a small block
	StageShave Stage = "shave" // a blade takes the crest down
	StageBlock Stage = "block" // a narrow stiff block takes the rest
	StageStop  Stage = "stop"  // the shoulders have lost what they may
	StageDone  Stage = "done"  // the block has taken what stood
)

// Guide is how a proud mark is worked, and how far it is: blade strokes over its
// whole length and passes of the block, wanted and done, what it still stands (µm),
// and what its shoulders have lost by now and may lose (µm).
type Guide struct {
	Stage                  Stage
	Lanes                  int // of the blade along the mark
	Strokes, Shaved        int
	Passes, Blocked        int
	Rest, Standing         float64
	Shoulder, ShoulderMost float64
}

// blockWide is the width in mm of the block for runs (judgement).
const blockWide = 70.0

// Guide says how far a mark is after strokes of the blade and passes of a block that
// takes rate µm of mean removal a pass on a flat panel. The block rests on the crest,
// so its passes count on the mark alone; all but its share on the shoulders is cut
// there.
func (v Verdict) Guide(m Mark, shaved, blocked int, rate float64) Guide {
	h := v.Relief.Mean
	g := Guide{Shaved: shaved, Blocked: blocked, Rest: v.Rest, Standing: h}
	switch {
	case !v.Ready.IsZero():
		g.Stage = StageSoft
		return g
	case m.Kind == Nib:
		g.Stage = StageFile
		return g
	}
	g.Lanes = max(int(math.Ceil(m.Length/UsualBlade.Width)), 1)
	g.Strokes = max(int(math.Ceil((h-v.Rest)/UsualBlade.Takes-1e-9)), 0)
	block := math.Max(h-UsualBlade.Takes*float64(shaved), 0) // high when blocking begins
	s := ShoulderOf(block, m.Width, RunBlock, RunStroke)
	volume := block * m.Width * m.Length / 4
	each := rate * RunBlock * blockWide * (1 - s.Share)
	if block > 0 {
		g.Passes = max(int(math.Ceil(volume/each-1e-9)), 1)
	}
	if block > 0 && blocked > 0 {
		worked := float64(blocked) * each / volume // over 1, the block goes on beside a crest that is gone
		g.Standing = block * math.Max(1-worked, 0)
		g.Shoulder = peakOffset + peakFactor*s.PeakRaw*worked
	} else {
		g.Standing = block
	}
	g.ShoulderMost = peakOffset + peakFactor*ShoulderOf(math.Max(v.Rest, 1e-9), m.Width, RunBlock, RunStroke).PeakRaw
	switch {
	case shaved < g.Strokes && blocked == 0:
		g.Stage = StageShave
	case g.Shoulder > g.ShoulderMost*(1+shoulderSlack):
		g.Stage = StageStop
	case blocked >= g.Passes:
		g.Stage = StageDone
	default:
		g.Stage = StageBlock
	}
	return g
}

// shoulderSlack is how far over its budget a shoulder may come before the work
// stops: what the fit of the shoulder is worth (judgement: within 35 %).
const shoulderSlack = 0.35
