package panel

import (
	"slices"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/store"
)

// ReadingDue is a section of a panel that is to be read before the next pass: some were made
// since its last reading, and more would be.
type ReadingDue struct{ PanelID, Panel, Section string }

// Next is what to do next on a car: a task on one of its panels, and how the section
// that decides there stands, where the panel was read.
type Next struct {
	PanelID, PanelName string
	Task               level.Task
	Outline            level.Outline
	Section            string // the first that is not done, of a plan that holds
	Standing           *level.Standing
	Floor              float64   // µm, of the section that decides
	From               time.Time // when its paint is hard enough; zero for now
}

// Next is what to do next on this panel alone.
func (p *Panel) Next() Next { return nextOf([]*Panel{p}) }

// nextOf is the next task of the most urgent of some panels; of equals the one that was
// read most.
func nextOf(all []*Panel) Next {
	best, of := all[0].Outline(), all[0]
	for _, p := range all[1:] {
		o := p.Outline()
		if n, m := o.Urgency(), best.Urgency(); n > m || n == m && o.Readings > best.Readings {
			best, of = o, p
		}
	}
	next := Next{PanelID: of.ID, PanelName: of.Name, Task: best.Next(), Outline: best}
	if best.Planned {
		next.Section = of.NextSection()
	}
	if best.Waits && next.Task == level.TaskLevel {
		next.From = of.softUntil()
	}
	if _, st, ok := of.Decides(); ok {
		next.Standing, next.Floor = &st, of.Study.Policy.Floor
	}
	return next
}

func (p *Panel) CaredFor() care.Panel {
	return care.Panel{Name: p.Name, Fresh: p.Origin == film.Here, Sprayed: p.SprayedAt, Baked: p.Cure == facts.Baked}
}

// AsItIs is asItIs for who shows a panel before any work; false where it was worked, or has no
// section.
func (p *Panel) AsItIs() (surface.Surface, bool) {
	if p.Options == nil || p.Worked() {
		return surface.Surface{}, false
	}
	return p.SurfaceNow(), true
}

// SurfaceNow is the surface of a panel before any work: paint that is not fresh has swirls from
// washing, and dead paint has no gloss.
func (p *Panel) SurfaceNow() surface.Surface {
	out := p.Options.Job.Surface()
	switch {
	case p.Condition.Depths().Dead.Median > 0:
		out.Scratch = plan.DeadScratch
	case p.Origin != film.Here:
		out.Scratch = plan.UsualSwirl
	}
	return out
}

// Proof is what somebody found or decided at the end of the work on a panel.
type Proof struct {
	ID, Kind, Section, Note, Person string
	At                              time.Time
	Struck                          *facts.Struck
}

func ProofOf(r store.Proof) Proof {
	return Proof{r.ID, r.Kind, r.Section, r.Note, r.Person, r.At, facts.StruckOf(r.StruckAt, r.StruckReason)}
}

// CutSince says whether a pass was made after a moment: on a section, or anywhere without one.
func (p *Panel) CutSince(section string, at time.Time) bool {
	return slices.ContainsFunc(p.Log.Entries, func(e level.Entry) bool {
		return e.Cuts() && (section == "" || e.Section == section) && !e.At.Before(at)
	})
}
