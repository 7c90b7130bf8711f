package panel

import (
	"fmt"
	"math"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
)

// Standing of a section now, for what the plan of record, or else the aim, still wants
// there.
func (p *Panel) Standing(s film.SectionFilm) level.Standing {
	if st, ok := p.Answers.standing.Load(s.Key); ok {
		return st.(level.Standing)
	}
	var st level.Standing
	if p.Ladder() == nil {
		st = p.StandingFor(s, p.AimFilm().Film)
	} else {
		step := p.Log.Step(s.Key)
		need := 0
		if !p.Log.Done(s.Key) {
			need = p.Needed(s.Key, step)
		}
		st = p.standingAt(s, step, need)
		// Where not all of it fits, what is granted of it is judged.
		if st.State == film.Shut && need > 1 {
			if a := p.Advise(s.Key, step, need); a.Left > 0 {
				st = p.standingAt(s, step, a.Left)
			}
		}
		if p.Log.Alarm(s.Key).Locks() {
			st.State, st.Reason = film.Shut, film.WhyLocked
		}
	}
	p.Answers.standing.Store(s.Key, st)
	return st
}

// standingAt is the standing of a section at a step of which so many passes are wanted.
func (p *Panel) standingAt(s film.SectionFilm, step, need int) level.Standing {
	at, gone := p.Progress(s.Key, step, need), p.Gone(s.Key)
	key := fmt.Sprintf("%s|%v|%v|%v", s.Key, at, gone, p.Aim.SpotsOnly())
	if st, ok := p.Opened.standing.Load(key); ok {
		return st.(level.Standing)
	}
	st := p.Film().StandingAt(p.SectionFilm(s), at, p.Aim.SpotsOnly())
	p.Opened.standing.Store(key, st)
	return st
}

// StandingFor is the standing of an unworked section for a spend of um µm.
func (p *Panel) StandingFor(s film.SectionFilm, um float64) level.Standing {
	return p.Film().Standing(p.SectionFilm(s), film.SpendDoubt(um), p.Aim.SpotsOnly())
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
	if done, ok := p.Answers.accepts.Load(key); ok {
		return done.([]level.Acceptance)
	}
	as := p.Film().By(p.crew, l)
	out := make([]level.Acceptance, len(p.Study.Sections))
	for i, s := range p.Study.Sections {
		out[i] = as.Accepts(p.SectionFilm(s), p.Aim.SpotsOnly())
	}
	p.Answers.accepts.Store(key, out)
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
	p.Answers.rooms.Do(func() {
		for _, s := range p.Study.Sections {
			p.Answers.room = append(p.Answers.room, p.SpendableOf(s))
		}
	})
	return p.Answers.room
}

func (p *Panel) SpendableOf(s film.SectionFilm) float64 {
	return p.idle(s).Room
}

// idle is the standing of a section as it is now, with nothing to come.
func (p *Panel) idle(s film.SectionFilm) level.Standing {
	if p.Ladder() == nil {
		return p.Film().Standing(p.SectionFilm(s), film.Spend{}, p.Aim.SpotsOnly())
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
		return AimFilm{plan.SpotFinish(p.Colour()).Film, p.Aim, true}
	}
	need, reachable := p.Options.Need()
	if !reachable {
		return AimFilm{plan.MostFilm, p.Aim, false}
	}
	return AimFilm{need, p.Aim, true}
}

func (p *Panel) Colour() plan.Colour { return plan.Colour(p.Car.Colour) }

// Needed is how many passes a step still needs on a section.
func (p *Panel) Needed(section string, step int) int {
	return p.Log.Needed(p.Wants(section, step), section, step, p.Look(section, step))
}

// Look is the last look that tells something of a levelling step; nil where nobody
// looked, or where the backing makes a look tell nothing.
func (p *Panel) Look(section string, step int) *level.Looked {
	e, passes, ok := p.Log.LastLook(section, step)
	if !ok {
		return nil
	}
	look, tells := p.Work.LookAt(step, passes, e.Value)
	if !tells {
		return nil
	}
	if old, ok := p.Answers.looks.Load(e.ID); ok && old.(*level.Looked).Look == look {
		return old.(*level.Looked)
	}
	out := &level.Looked{Look: look, Seen: look.See()}
	p.Answers.looks.Store(e.ID, out)
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
		out = append(out, Strip{s.Key, p.Film().Standing(s, film.SpendDoubt(spend), p.Aim.SpotsOnly()), s.Policy.Floor})
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
	case p.Borrowed != nil:
		return LacksNothing
	case p.Substrate == facts.Plastic:
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
	o := level.Outline{Planned: p.Ladder() != nil, Plastic: p.Substrate == facts.Plastic, Aim: p.Aim, Finish: p.Finish(), Readings: len(p.Live())}
	o.Finished = o.Planned && p.NextSection() == ""
	o.Blind = o.Plastic && p.Borrowed == nil
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
		if !p.Ended(s.Key) {
			return s.Name
		}
	}
	return ""
}

// Ended says whether nothing more is done on a section under the plan of record: its steps are
// done, or it is through and nothing may be cut there. A plan of nibs alone is done with them.
func (p *Panel) Ended(section string) bool {
	if p.Ladder().Steps[0].Kind == plan.FileStep {
		return !slices.ContainsFunc(p.Marks, facts.Mark.Open)
	}
	return p.Log.Done(section) || p.Log.Alarm(section).Locks()
}

// Settled says whether enough was read to say what the film does not allow.
func (p *Panel) Settled() bool { return len(p.Live()) >= film.EnoughSpots }

// seenSwirls is a condition with how many looks taught it.
type seenSwirls struct {
	surface.Condition
	Looks int
}

// ConditionOn is the condition of a section that is worked: what its plan rests on, or what
// was said of the section, and what was seen of it on all sections that look like it.
func (p *Panel) ConditionOn(section string) seenSwirls {
	part := p.Condition.Parts[section]
	if known, ok := p.Answers.swirls.Load(part); ok {
		return known.(seenSwirls)
	}
	out := seenSwirls{Condition: part.DepthsOf(p.Ladder().Corrects)}
	seen := p.Log.SwirlLooks(p.Work, func(other string) bool { return p.Condition.Parts[other] == part })
	if c, err := p.Work.Swirls(out.Condition, seen); err == nil { // a share that cannot be was refused when it was tapped
		out = seenSwirls{c, len(seen)}
	}
	p.Answers.swirls.Store(part, out)
	return out
}

// Wants is how many passes a step wants on a section by the cut as learned, and by the swirls
// as they were seen where it takes them.
func (p *Panel) Wants(section string, step int) int {
	if !p.Work.TakesSwirls(step) {
		return p.Work.Passes(step)
	}
	return p.Work.Cycles(p.ConditionOn(section).Condition, p.Log.Passes(section), step)
}

// YearsAt is how many whole years a panel's finish has stood out of doors where the house has
// the floor follow them; 0 where nobody knows.
func (p *Panel) YearsAt(now func() time.Time) float64 {
	if p.House.Rules.Age != plan.AgedFloor || p.SprayedAt == nil {
		return 0
	}
	years, at := 0, now()
	for !p.SprayedAt.AddDate(years+1, 0, 0).After(at) {
		years++
	}
	return float64(years)
}

// Progress of a section at a step of which so many passes are still wanted.
func (p *Panel) Progress(section string, step, need int) level.Progress {
	out := level.Progress{Own: p.Ladder().StepsOf(section), Passes: p.Log.Passes(section), Before: p.Log.BeforeBack(section), Step: step, Need: need}
	if step < len(out.Passes) {
		out.Since = p.Log.Since(section, step, p.LastRead(section))
	}
	return out
}

// Advise asks the core what may be done at a step of a section where so many passes
// are needed.
func (p *Panel) Advise(section string, step, need int) level.Advice {
	key := advised{section, step, need}
	if a, ok := p.Answers.advice.Load(key); ok {
		return a.(level.Advice)
	}
	sec, _ := p.Study.Section(section)
	sec = p.SectionFilm(sec)
	sec.Policy = p.Accepted(sec)
	a := p.Work.AdviseFor(sec, p.Progress(section, step, need))
	if p.Borrows() { // no gauge reads it between passes
		a.Read = a.Left
	}
	p.Answers.advice.Store(key, a)
	return a
}

// advised is what advice was asked for.
type advised struct {
	section    string
	step, need int
}

// Accepted is the policy of a section with the chance that the plan of record was accepted
// with: an open plan holds to the usual one, a tight one to that which the owner was told.
func (p *Panel) Accepted(s film.SectionFilm) film.Policy {
	switch {
	case p.Record.Risk > 0:
		s.Policy.Risk = min(p.Record.Risk, s.Policy.Tight)
	case p.Record.State == film.Tight: // a plan of before, which kept no chance
		return s.Policy.Accepting(s.Policy.Tight)
	}
	return s.Policy
}

// Ahead is what more readings may change of the section that they change most, by name,
// and what could be found out besides about the one that decides, where that is not open.
type Ahead struct {
	Best    film.Ahead
	Section string
	Rounds  int // of readings that were asked for already
	Helps   []film.Help
	HelpsAt string
	Floor   float64 // µm
}
