package web

import (
	"fmt"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// lastLook is the last look at the shiny share of a section in a step, with the
// passes that had been made by then; nil without one.
func (b *bench) lastLook(section string, step int) (*store.Entry, int) {
	var found *store.Entry
	passes, at := 0, 0
	for i, e := range b.entries {
		if e.Kind == store.KindBack && e.StruckAt == nil && e.Section == section {
			found = nil // what it saw has been worked over
		}
		if counts(e, section) && e.Step == step+1 {
			passes++
		}
		if e.Kind == store.KindShiny && e.StruckAt == nil && e.Section == section && e.Step == step+1 {
			found, at = &b.entries[i], passes
		}
	}
	return found, at
}

// looked is a look with what it tells.
type looked struct {
	level.Look
	level.Seen
}

// lookOf is the last look that tells something of a levelling step; nil where nobody
// looked, or where the backing makes a look tell nothing.
func (b *bench) lookOf(section string, step int) *looked {
	st := b.ladder.Steps[step]
	e, passes := b.lastLook(section, step)
	l := level.Look{Backing: st.Backing, D50: st.D50, Scratch: st.Scratch, Rate: b.opened.Work.Rate(step).Mean, Grade: st.Before.Grade(), Passes: passes}
	if e == nil || passes == 0 || st.Kind != plan.LevelStep || !l.Tells() {
		return nil
	}
	l.Shiny = e.Value
	if old := b.looks[e.ID]; old != nil && old.Look == l {
		return old
	}
	out := &looked{l, l.See()}
	if b.looks == nil {
		b.looks = map[string]*looked{}
	}
	b.looks[e.ID] = out
	return out
}

// byLook is what that look says of the passes to flat.
func (b *bench) byLook(section string, step int) *api.ByLook {
	l := b.lookOf(section, step)
	if l == nil {
		return nil
	}
	left := l.Seen.Passes
	since := b.passes(section)[step] - l.Look.Passes
	left.Mean = math.Max(0, left.Mean-float64(since))
	peel := b.opened.Work.CuttingSeen(step, l.Look.Passes+since, l.Seen).Now.Grade()
	return &api.ByLook{Share: l.Shiny, Passes: estimate(left),
		Text: fmt.Sprintf("%.0f in 100 still shone after %s: by that %s to flat, peel about %.1f now.", 100*l.Shiny, count(l.Look.Passes, "pass"), moreText(left), peel)}
}

func moreText(e film.Estimate) string {
	return fmt.Sprintf("%.1f ± %.1f passes more", e.Mean, e.SD)
}

// lookSlack is the part of a pass that is not worth making.
const lookSlack = 0.25

// alarm is the last thing that went wrong on a section and still stands, with what
// to do now; locked where nothing more may be cut.
func (b *bench) alarm(section string) (text string, locked bool) {
	for _, e := range b.entries {
		if e.StruckAt != nil || e.Section != section {
			continue
		}
		switch e.Kind {
		case store.KindThrough:
			text, locked = "Through here. Leave it, keep machine and block off it, and tell the owner: only new paint helps. Strike the entry out if it was a mistake.", true
		case store.KindColour:
			text, locked = "Colour in the slurry over clear means it is through. Stop, rinse, wipe dry and look; read the film beside it. Strike the entry out if it was something else.", true
		case store.KindScrape:
			if !locked {
				text = "Stop, rinse paper and panel, look along the lamp. Take a new sheet: what scraped is in the old one."
			}
		case store.KindPaper:
			if !locked {
				text = ""
			}
		}
	}
	return text, locked
}

// allowsOther says whether an entry that is no pass may be logged.
func (b *bench) allowsOther(e store.Entry) error {
	switch e.Kind {
	case store.KindOver:
		if _, locked := b.alarm(e.Section); locked {
			return conflict("Nothing is cut over a through spot, whoever answers for it.")
		}
		if a := b.advise(e.Section); a.Granted > 0 {
			return conflict("The film allows %s here: nobody has to answer for one.", count(a.Granted, "pass"))
		}
	case store.KindColour:
		if b.row.Layers == string(api.LayersSingle) {
			return conflict("On a single stage the slurry carries the colour: that is how it cuts. Nothing is wrong.")
		}
	case store.KindShiny:
		if b.passes(e.Section)[e.Step-1] == 0 {
			return conflict("The share still shining tells something after the first pass of this step.")
		}
	}
	return nil
}

// checkEntry says what is wrong with what was sent beside the kind of an entry.
func checkEntry(in api.NewEntry) error {
	switch in.Kind {
	case api.EntryKindShiny:
		if in.Share == nil || math.IsNaN(*in.Share) || *in.Share < 0 || *in.Share > 1 {
			return refuse("share", "The share still shining goes from 0 to 1.")
		}
	case api.EntryKindOverride:
		if in.Reason == nil || len([]rune(strings.TrimSpace(*in.Reason))) < 5 {
			return refuse("reason", "One pass over the stop needs a reason of at least 5 letters; it prints in both sheets with the name.")
		}
	case api.EntryKindBack:
		if in.Reason == nil || len([]rune(strings.TrimSpace(*in.Reason))) < 5 {
			return refuse("reason", "Going back to a coarser grit needs a reason of at least 5 letters, by somebody who knows what it takes.")
		}
	case api.EntryKindShave, api.EntryKindBlock:
		if in.Mark == nil || *in.Mark == "" {
			return refuse("mark", "A stroke of the blade or a pass of the block is made on a mark: say which.")
		}
	}
	return nil
}
