package marks

import (
	"math"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
)

// A run is shaved to its rest, then blocked; the shoulders lose no more than they
// may when it is gone, and whoever skips the blade is stopped by them.
func TestARunIsGuidedFromBladeToBlock(t *testing.T) {
	m := Mark{Kind: Run, Length: 60, Width: 15}
	v := Verdict{Do: DoShave, Relief: film.Estimate{Mean: 60}, Rest: ShaveTo(1, 15, RunBlock, RunStroke)}
	const rate = 0.5
	g := v.Guide(m, 0, 0, rate)
	if g.Stage != StageShave || g.Standing != 60 || g.Strokes != int(math.Ceil((60-v.Rest)/3)) || g.Lanes != 2 || g.Shoulder != 0 {
		t.Fatalf("%+v", g)
	}
	if last := v.Guide(m, g.Strokes-1, 0, rate); last.Stage != StageShave || last.Standing >= g.Standing {
		t.Errorf("%+v", last)
	}
	g = v.Guide(m, g.Strokes, 0, rate)
	if g.Stage != StageBlock || g.Standing > v.Rest || g.Passes < 1 || math.Abs(g.ShoulderMost-1) > 1e-9 {
		t.Fatalf("%+v", g)
	}
	stood, lost := g.Standing, 0.0
	for n := 1; n < g.Passes; n++ {
		at := v.Guide(m, g.Strokes, n, rate)
		if at.Stage != StageBlock || at.Standing >= stood || at.Shoulder <= lost {
			t.Errorf("after %d passes %+v", n, at)
		}
		stood, lost = at.Standing, at.Shoulder
	}
	done := v.Guide(m, g.Strokes, g.Passes, rate)
	if done.Stage != StageDone || done.Standing != 0 {
		t.Errorf("%+v", done)
	}
	if on := v.Guide(m, g.Strokes, 3*g.Passes+3, rate); on.Stage != StageStop {
		t.Errorf("blocking goes on beside a crest that is gone: %+v", on)
	}
	n := 1
	for v.Guide(m, 0, n, rate).Stage == StageBlock {
		n++
	}
	if at := v.Guide(m, 0, n, rate); at.Stage != StageStop || at.Standing <= 0 {
		t.Errorf("without the blade the shoulders stop nobody: %+v after %d", at, n)
	}
}

func TestSoftRunsAndNibsAreGuided(t *testing.T) {
	v := Verdict{Do: DoShave, Relief: film.Estimate{Mean: 60}, Rest: 20, Ready: time.Now()}
	if g := v.Guide(Mark{Kind: Run, Length: 60, Width: 15}, 0, 0, 0.5); g.Stage != StageSoft || g.Strokes != 0 {
		t.Errorf("%+v", g)
	}
	v.Ready = time.Time{}
	if g := v.Guide(Mark{Kind: Nib}, 0, 0, 0.5); g.Stage != StageFile || g.Passes != 0 {
		t.Errorf("%+v", g)
	}
	v.Rest = 60 // low enough for the block alone
	if g := v.Guide(Mark{Kind: Run, Length: 60, Width: 15}, 0, 0, 0.5); g.Stage != StageBlock || g.Strokes != 0 {
		t.Errorf("%+v", g)
	}
}

// Around a spot each step reaches further than the one before, most on a dark colour;
// pads reach half a pad at least.
func TestCirclesWidenStepByStep(t *testing.T) {
	l := plan.Ladder{Steps: []plan.Step{{D50: 10.3, Film: 1}, {D50: 6, Film: 1.2}, {D50: 3.5, Film: 0.5}, {Film: 0.4}, {Film: 0.1}}}
	m := Mark{Kind: Nib, Length: 1.5, Width: 1.5}
	dark, light := Circles(m, l, "dark"), Circles(m, l, "light")
	if dark[0] != fileReach || dark[1] != fileReach+Feather(1, 1.5) || dark[2] != dark[1]+Feather(2.2, 1.5) || dark[3] != 70 {
		t.Errorf("%v", dark)
	}
	for i := range dark {
		if i > 0 && (light[i] < light[i-1]+mostShy || dark[i] < light[i]) {
			t.Errorf("light %v, dark %v", light, dark)
		}
	}
	if wide := Circles(Mark{Kind: Run, Length: 80, Width: 15}, l, "dark"); wide[0] != 40 {
		t.Errorf("%v around a run of 80 mm", wide)
	}
}
