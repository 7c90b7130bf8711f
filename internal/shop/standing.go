package shop

import (
	"fmt"
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
)

// Standing of a section now, for what the plan of record, or else the aim, still wants
// there.
func (p *Panel) Standing(s film.SectionFilm) level.Standing {
	if st, ok := p.asked.standing.Load(s.Key); ok {
		return st.(level.Standing)
	}
	var st level.Standing
	if p.Ladder() == nil {
		st = p.StandingFor(s, p.AimFilm().Film)
	} else {
		step := p.log.Step(s.Key)
		need := 0
		if !p.log.Done(s.Key) {
			need = p.needed(s.Key, step)
		}
		st = p.standingAt(s, step, need)
		// Where not all of it fits, what is granted of it is judged.
		if st.State == film.Shut && need > 1 {
			if a := p.advise(s.Key, step, need); a.Left > 0 {
				st = p.standingAt(s, step, a.Left)
			}
		}
		if p.log.Alarm(s.Key).Locks() {
			st.State, st.Reason = film.Shut, film.WhyLocked
		}
	}
	p.asked.standing.Store(s.Key, st)
	return st
}

// standingAt is the standing of a section at a step of which so many passes are wanted.
func (p *Panel) standingAt(s film.SectionFilm, step, need int) level.Standing {
	at, gone := p.progress(s.Key, step, need), p.gone(s.Key)
	key := fmt.Sprintf("%s|%v|%v|%v", s.Key, at, gone, p.Aim.SpotsOnly())
	if st, ok := p.opened.standing.Load(key); ok {
		return st.(level.Standing)
	}
	st := p.film().StandingAt(p.sectionFilm(s), at, p.Aim.SpotsOnly())
	p.opened.standing.Store(key, st)
	return st
}

// StandingFor is the standing of an unworked section for a spend of um µm.
func (p *Panel) StandingFor(s film.SectionFilm, um float64) level.Standing {
	return p.film().Standing(p.sectionFilm(s), film.SpendDoubt(um), p.Aim.SpotsOnly())
}

// Decides is the section that decides for the panel, with its standing; false where
// nothing was read or the panel has no section. Sections that the plan of record leaves do
// not, where it works any.
func (p *Panel) Decides() (film.SectionFilm, level.Standing, bool) {
	if p.Study == nil || len(p.Study.Sections) == 0 {
		return film.SectionFilm{}, level.Standing{}, false
	}
	var all []level.Standing
	var worked []film.SectionFilm
	for _, s := range p.Study.Sections {
		if p.Leaves(s.Key) {
			continue
		}
		all, worked = append(all, p.Standing(s)), append(worked, s)
	}
	i := level.Deciding(all)
	return worked[i], all[i], true
}

// Leaves says whether the plan of record leaves a section as it is.
func (p *Panel) Leaves(section string) bool { return p.Ladder() != nil && p.Ladder().Leaves(section) }

// accepts are, by section of the study, what accepting a ladder comes to. The panel was read.
func (p *Panel) accepts(l plan.Ladder) []level.Acceptance {
	key := fmt.Sprintf("%s|%.4f|%v", plan.Code(l.Choices()), l.Film, l.Rests)
	for _, s := range l.Steps {
		if s.Area != "" {
			key += fmt.Sprintf("|%s %s", s.Area, plan.Code([]plan.Choice{s.Choice}))
		}
	}
	if done, ok := p.asked.accepts.Load(key); ok {
		return done.([]level.Acceptance)
	}
	as := p.film().By(p.crew, l)
	out := make([]level.Acceptance, len(p.Study.Sections))
	for i, s := range p.Study.Sections {
		out[i] = as.Accepts(p.sectionFilm(s), p.Aim.SpotsOnly())
	}
	p.asked.accepts.Store(key, out)
	return out
}

// DecidesFor is the section that decides for a ladder before it is of record: the worst of
// those that accepting it would work, or the roomiest that it wants to work where that is none, with
// its standing for what the ladder takes there. The panel was read.
func (p *Panel) DecidesFor(l plan.Ladder) (film.SectionFilm, level.Acceptance) {
	all := p.accepts(l)
	worst := level.WorstWorked(all)
	if worst < 0 {
		var at []int
		var room, takes []float64
		for i, s := range p.Study.Sections {
			if !l.Leaves(s.Key) {
				at, room, takes = append(at, i), append(room, p.spendable()[i]), append(takes, l.FilmOn(s.Key))
			}
		}
		if worst = 0; len(at) > 0 {
			worst = at[level.DecidingFor(room, takes)]
		}
	}
	return p.Study.Sections[worst], all[worst]
}

// spendable is what a plan may use of each section after what its closed marks and its
// passes took, µm.
func (p *Panel) spendable() []float64 {
	p.asked.rooms.Do(func() {
		for _, s := range p.Study.Sections {
			p.asked.room = append(p.asked.room, p.spendableOf(s))
		}
	})
	return p.asked.room
}

func (p *Panel) spendableOf(s film.SectionFilm) float64 {
	return p.idle(s).Room
}

// idle is the standing of a section as it is now, with nothing to come.
func (p *Panel) idle(s film.SectionFilm) level.Standing {
	if p.Ladder() == nil {
		return p.film().Standing(p.sectionFilm(s), film.Spend{}, p.Aim.SpotsOnly())
	}
	return p.standingAt(s, len(p.Ladder().Steps), 0)
}

// PlanHeadroom is what a plan may take, µm; before any reading what the history alone allows.
func (p *Panel) PlanHeadroom() float64 {
	if p.Study == nil {
		g := film.GuessOf(p.History())
		return g.Policy.TightRoom(g.Least)
	}
	need, reachable := p.Options.Need()
	return level.PlanHeadroom(p.spendable(), need, reachable)
}

// OpenHeadroom is what a plan may take before it is tight, µm; never more than its
// headroom and never below zero.
func (p *Panel) OpenHeadroom() float64 {
	most := p.PlanHeadroom()
	if p.Study == nil {
		g := film.GuessOf(p.History())
		return math.Max(math.Min(g.Policy.Headroom(g.Least), most), 0)
	}
	open := math.Inf(1)
	for i, s := range p.Study.Sections {
		if st := p.idle(s); p.spendable()[i] >= most {
			if p.Aim.SpotsOnly() {
				st.Headroom = st.Room
			}
			open = math.Min(open, st.Headroom)
		}
	}
	return math.Max(math.Min(open, most), 0)
}

// PlanHeadroomEstimate is the plan headroom with the doubt of the clear that it rests on, µm.
func (p *Panel) PlanHeadroomEstimate() film.Estimate {
	out := film.Estimate{Mean: p.PlanHeadroom()}
	if p.Study == nil {
		out.SD = film.GuessOf(p.History()).Least.Estimate().SD
		return out
	}
	for i, um := range p.spendable() {
		if um == out.Mean {
			out.SD = p.Study.Sections[i].Least.Estimate().SD
		}
	}
	return out
}

// AimFilm is the film that the aim of a panel asks for before a plan is of record: the
// least that any sequence takes to it. Reachable says whether anything on the shelf
// leads there.
type AimFilm struct {
	Film      float64 // µm
	Aim       plan.Aim
	Reachable bool
}

// AimFilm of the panel.
func (p *Panel) AimFilm() AimFilm {
	if p.Options == nil {
		return AimFilm{plan.SpotFinish(p.colour()).Film, p.Aim, true}
	}
	need, reachable := p.Options.Need()
	if !reachable {
		return AimFilm{plan.MostFilm, p.Aim, false}
	}
	return AimFilm{need, p.Aim, true}
}

func (p *Panel) colour() plan.Colour { return plan.Colour(p.Car.Colour) }

// needed is how many passes a step still needs on a section.
func (p *Panel) needed(section string, step int) int {
	return p.log.Needed(p.wants(section, step), section, step, p.Look(section, step))
}

// Look is the last look that tells something of a levelling step; nil where nobody
// looked, or where the backing makes a look tell nothing.
func (p *Panel) Look(section string, step int) *level.Looked {
	e, passes, ok := p.log.LastLook(section, step)
	if !ok {
		return nil
	}
	look, tells := p.Work.LookAt(step, passes, e.Value)
	if !tells {
		return nil
	}
	if old, ok := p.asked.looks.Load(e.ID); ok && old.(*level.Looked).Look == look {
		return old.(*level.Looked)
	}
	out := &level.Looked{Look: look, Seen: look.See()}
	p.asked.looks.Store(e.ID, out)
	return out
}

// Strip is a part of a panel that is kept out of its sections, with its standing.
type Strip struct {
	Key string
	level.Standing
	Floor float64
}

// Strips of the panel. Once passes were made their film is not told: nobody counts
// passes there.
func (p *Panel) Strips() []Strip {
	var out []Strip
	if p.Study == nil || p.Worked() {
		return out
	}
	spend := p.AimFilm().Film
	if p.Ladder() != nil {
		spend = p.Ladder().Film
	}
	for _, s := range p.Study.Strips {
		out = append(out, Strip{s.Key, p.film().Standing(s, film.SpendDoubt(spend), p.Aim.SpotsOnly()), s.Policy.Floor})
	}
	return out
}

// Lacks says what is missing before a plan can be judged.
type Lacks string

// What may be missing.
const (
	LacksNothing    Lacks = ""
	LacksSection    Lacks = "section"    // nothing of the panel is worked by block or disc
	LacksNeighbours Lacks = "neighbours" // plastic whose neighbours were not read
	LacksReadings   Lacks = "readings"   // all of them
	LacksMore       Lacks = "more"       // some of them
)

// Lacks is what is missing before a plan of the panel can be judged.
func (p *Panel) Lacks() Lacks {
	switch {
	case len(p.Sections) == 0:
		return LacksSection
	case p.borrowed != nil:
		return LacksNothing
	case p.Substrate == Plastic:
		return LacksNeighbours
	case p.Study == nil:
		return LacksReadings
	case p.Outline().Missing() > 0:
		return LacksMore
	}
	return LacksNothing
}

// Outline is what the next task of the panel follows from.
func (p *Panel) Outline() level.Outline {
	o := level.Outline{Planned: p.Ladder() != nil, Plastic: p.Substrate == Plastic, Aim: p.Aim, Finish: p.Finish(), Readings: len(p.Live())}
	o.Finished = o.Planned && p.NextSection() == ""
	o.Blind = o.Plastic && p.borrowed == nil
	o.Waits = !p.softUntil().IsZero()
	for _, m := range p.Marks {
		if m.Open() {
			o.OpenMarks++
			o.Runs = o.Runs || m.Kind == marks.Run || m.Kind == marks.Sag
		} else if m.Struck == nil {
			o.Spotted = true
		}
	}
	o.Kept = p.Kept != nil && o.OpenMarks == 0 && (!o.Planned || o.Finished)
	return o
}

// NextSection names the first section that is not done; empty when all are. The panel
// has a plan that holds.
func (p *Panel) NextSection() string {
	for _, s := range p.Sections {
		if !p.ended(s.Key) {
			return s.Name
		}
	}
	return ""
}

// ended says whether nothing more is done on a section under the plan of record: its steps are
// done, or it is through and nothing may be cut there. A plan of nibs alone is done with them.
func (p *Panel) ended(section string) bool {
	if p.Ladder().Steps[0].Kind == plan.FileStep {
		return !slices.ContainsFunc(p.Marks, Mark.Open)
	}
	return p.log.Done(section) || p.log.Alarm(section).Locks()
}

// settled says whether enough was read to say what the film does not allow.
func (p *Panel) settled() bool { return len(p.Live()) >= film.EnoughSpots }
