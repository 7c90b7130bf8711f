package level

import (
	"math"
	"time"

	"waxplanus/core/surface"
)

// SwirlLook is one look at a section that was wiped after cycles of a pad: the share of the
// swirls that is left (0 to 1) once each step of the ladder had made so many passes.
type SwirlLook struct {
	Passes []int
	Left   float64
}

// TakesSwirls says whether a step is one whose cycles are counted by the swirls that they
// take: a pad of a ladder that corrects.
func (w *Work) TakesSwirls(step int) bool {
	return w.ladder.Corrects.Said() && w.ladder.Steps[step].D50 == 0
}

// Removed is the mean removal (µm) of passes by the cut as learned.
func (w *Work) Removed(passes []int) float64 {
	sum := 0.0
	for i, n := range passes {
		if n > 0 {
			sum += w.ladder.Steps[i].Removes(n, w.Rate(i).Mean)
		}
	}
	return sum
}

// Swirls is what looks teach of a condition. A look that was taken within the dead layer tells
// nothing of the swirls below it.
func (w *Work) Swirls(c surface.Condition, looks []SwirlLook) (surface.Condition, error) {
	var tried []surface.Tried
	for _, l := range looks {
		if below := w.Removed(l.Passes) - c.Dead.Median; below > 0 && c.Swirls.Median > 0 {
			tried = append(tried, surface.Tried{Removal: below, Left: l.Left, SD: surface.EyeShare})
		}
	}
	if len(tried) == 0 {
		return c, nil
	}
	var err error
	c.Swirls, err = c.Swirls.Learned(tried...)
	return c, err
}

// Cycles is how many passes a step that takes swirls wants on a section of some condition on
// which each step has made so many: as many as take the share that the plan has it take, and
// the scratch of the step before.
func (w *Work) Cycles(c surface.Condition, passes []int, step int) int {
	s, rate := w.ladder.Steps[step], w.Rate(step).Mean
	share := math.Min(s.Gone, w.ladder.Target)
	before := w.Removed(passes[:step])
	n := 1
	if w.finishing(step) {
		n = max(int(math.Ceil(float64(s.Needs)*s.Rate/rate-unworthy)), 1)
	}
	wants := c.Removal(share) - before - unworthy*rate
	for n < mostPasses && s.Removes(n, rate) < wants {
		n++
	}
	return n
}

// SwirlLooks are the looks at what pads have left of the swirls, on sections that count.
func (l Log) SwirlLooks(w *Work, counts func(section string) bool) []SwirlLook {
	var out []SwirlLook
	passes := map[string][]int{}
	for _, e := range l.Entries {
		if e.Struck || !counts(e.Section) {
			continue
		}
		at := passes[e.Section]
		if at == nil {
			at = make([]int, len(l.Ladder.Steps))
			passes[e.Section] = at
		}
		switch {
		case e.Cuts():
			at[e.Step-1]++
		case e.Kind == KindShiny && w.TakesSwirls(e.Step-1):
			out = append(out, SwirlLook{append([]int(nil), at...), e.Value})
		}
	}
	return out
}

// Warm says until when a section has to cool: since it was cool it was polished as many times
// as make it warm, the last time just now. The zero time says that it is cool.
func (l Log) Warm(section string, set int, cool time.Duration) time.Time {
	n, last := 0, time.Time{}
	for _, e := range l.Entries {
		if !e.Cuts() || e.Section != section || l.Ladder.Steps[e.Step-1].D50 > 0 {
			continue
		}
		if e.At.Sub(last) >= cool {
			n = 0
		}
		n, last = n+1, e.At
	}
	if n < set {
		return time.Time{}
	}
	return last.Add(cool)
}
