package plan

import (
	"math"

	"waxplanus/core/shelf"
)

// Lane is how a pad is led over a section: its width (mm), the overlap of lanes
// (0 to 1), the speed of the arm (mm/s), the time of a turn (s) and how often
// the section is crossed.
type Lane struct {
	Pad, Overlap, Speed, Turn float64
	Crossings                 int
}

// PassTime is the time in seconds of one pass over a section of w x h mm: lanes
// along the longer side, as many as the shorter one needs.
func PassTime(l Lane, w, h float64) float64 {
	long, short := math.Max(w, h), math.Min(w, h)
	lanes := 1.0
	if short > l.Pad {
		lanes = 1 + math.Ceil((short-l.Pad)/(l.Pad*(1-l.Overlap))-1e-9)
	}
	return float64(l.Crossings) * lanes * (math.Max(long-l.Pad, l.Pad/2)/l.Speed + l.Turn)
}

// The lanes of a hand block, a machine disc and a polisher (judgement).
func laneOf(b shelf.Backing, polishing bool) Lane {
	switch {
	case polishing:
		return Lane{Pad: b.Pad, Overlap: 0.5, Speed: 60, Turn: 0, Crossings: 4}
	case b.Tool == shelf.Hand:
		return Lane{Pad: b.Pad, Overlap: 0.5, Speed: 500, Turn: 0.2, Crossings: 4}
	default:
		return Lane{Pad: b.Pad, Overlap: 0.5, Speed: 125, Turn: 0, Crossings: 1}
	}
}

// Times of a step beside its passes, in seconds (judgement).
const (
	setUp       = 120.0
	lookByHand  = 20.0
	lookMachine = 15.0
)

// Rect is the size of a section in mm.
type Rect struct{ W, H float64 }

// minutes is the time of a step over all sections.
func minutes(b shelf.Backing, polishing bool, passes int, sections []Rect) float64 {
	look := lookMachine
	if b.Tool == shelf.Hand {
		look = lookByHand
	}
	one := 0.0
	for _, r := range sections {
		one += PassTime(laneOf(b, polishing), r.W, r.H) + look
	}
	return (setUp + float64(passes)*one) / 60
}
