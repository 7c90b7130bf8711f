package web

import (
	"math"
	"slices"

	"waxplanus/internal/store"
)

// step is the index of the step in hand on a section; past the ladder's last when
// all of the section's are done.
func (b *bench) step(section string) int {
	steps, n := b.ladder.StepsOf(section), 0
	for _, e := range b.entries {
		if e.StruckAt != nil || e.Section != section {
			continue
		}
		switch e.Kind {
		case store.KindDone:
			n++
		case store.KindBack:
			n = max(slices.Index(steps, e.Step-1), 0)
		}
	}
	if n >= len(steps) {
		return len(b.ladder.Steps)
	}
	return steps[n]
}

// needed is how many passes a step still needs on a section: by the last look, by
// what was wanted when somebody went back, or by the cut as learned.
func (b *bench) needed(section string, step int) int {
	if l := b.lookOf(section, step); l != nil {
		since := b.passes(section)[step] - l.Look.Passes
		return max(int(math.Ceil(l.Seen.Passes.Mean-lookSlack))-since, 0)
	}
	want, n := b.opened.Work.Passes(step), 0
	for _, e := range b.entries {
		switch {
		case counts(e, section) && e.Step == step+1:
			n++
		case e.Kind == store.KindBack && e.StruckAt == nil && e.Section == section:
			want, n = b.opened.Work.Passes(step), 0
			if e.Step == step+1 {
				want = int(e.Value)
			}
		}
	}
	return max(want-n, 0)
}

// remaining is the film in µm that a section's steps still want.
func (b *bench) remaining(section string) float64 {
	step := b.step(section)
	if step >= len(b.ladder.Steps) {
		return 0
	}
	return b.opened.Work.Remaining(b.passes(section), step, b.needed(section, step))
}

// onMark counts what was done on one mark.
func (b *bench) onMark(id, kind string) int {
	n := 0
	for _, e := range b.entries {
		if e.Mark == id && e.Kind == kind && e.StruckAt == nil {
			n++
		}
	}
	return n
}
