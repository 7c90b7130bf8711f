package shop

import (
	"context"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
)

// NewEntry is a tap in Level. Plan is the plan that it was made under. SecondsAgo is how
// long ago it was made, nil for now: a device's clock may show anything. Share is what
// still shone, of a look; Mark what a stroke of the blade or a pass of the block was
// made on.
type NewEntry struct {
	ID, Plan, Section string
	Device            string // that it was tapped on
	Step              int    // from 1
	Kind              level.Kind
	Person, Reason    string
	Mark              string
	Rest              string // the steps, as their code, that the rest of the section's give way to
	SecondsAgo, Share *float64
}

// A tap that took longer than onItsWay to arrive is late; one of longer ago than
// longAgo is a slip.
const (
	onItsWay = 10 * time.Second
	longAgo  = 14 * 24 * time.Hour
)

// madeAt is when a tap was made and whether it comes late.
func madeAt(secondsAgo *float64, now time.Time) (at time.Time, late bool, err error) {
	if secondsAgo == nil {
		return now, false, nil
	}
	if math.IsNaN(*secondsAgo) || *secondsAgo > longAgo.Seconds() {
		return now, false, Refuse(TooLongAgo, "seconds_ago")
	}
	ago := time.Duration(math.Max(*secondsAgo, 0) * float64(time.Second))
	return now.Add(-ago), ago > onItsWay, nil
}

// leastReason is how many letters a reason has that somebody has to answer for.
const leastReason = 5

// check says what is wrong with what was sent, whatever the panel.
func (in NewEntry) check() error {
	switch {
	case !slices.Contains(level.Kinds(), in.Kind):
		return Refuse(BadEntryKind, "kind", in.Kind)
	case in.Kind == level.KindShiny && (in.Share == nil || !(*in.Share >= 0 && *in.Share <= 1)):
		return Refuse(BadShare, "share")
	case in.Kind == level.KindOverride && len([]rune(in.Reason)) < leastReason:
		return Refuse(OverrideReason, "reason", leastReason)
	case in.Kind == level.KindBack && len([]rune(in.Reason)) < leastReason:
		return Refuse(BackReason, "reason", leastReason)
	case in.Kind == level.KindRest && in.Rest == "":
		return Refuse(NoSuchRest, "rest")
	case (in.Kind == level.KindShave || in.Kind == level.KindBlock) && in.Mark == "":
		return Refuse(WhichMark, "mark")
	}
	return nil
}

// row is the entry as it will be kept.
func (in NewEntry) row(panelID string, at time.Time) store.Entry {
	e := store.Entry{ID: in.ID, PlanID: in.Plan, PanelID: panelID, Section: in.Section, Step: in.Step, Kind: string(in.Kind), Person: in.Person, At: at, Device: in.Device}
	if in.Device == "" {
		e.Device = in.Person
	}
	switch in.Kind {
	case level.KindShiny:
		e.Value = *in.Share
	case level.KindOverride, level.KindDone:
		e.Note = in.Reason
	case level.KindBack:
		e.Value, e.Note = againPasses, in.Reason
	case level.KindShave, level.KindBlock:
		e.Mark = in.Mark
	}
	return e
}

// LogEntry logs a pass, a change of paper or whatever else happened. The film has the
// last word on a pass, but not on one that was made already: a late pass counts, and
// one made under a plan that another has replaced counts as film that is gone. What may be
// done is worked out before anything is written, and again where the panel has changed
// meanwhile.
func (s *Shop) LogEntry(ctx context.Context, panelID string, in NewEntry) (Entry, error) {
	in.Reason = strings.TrimSpace(in.Reason)
	if err := checkID(in.ID, OfEntry); err != nil {
		return Entry{}, err
	}
	var err error
	if in.Person, err = personName(in.Person); err != nil {
		return Entry{}, err
	}
	if err := in.check(); err != nil {
		return Entry{}, err
	}
	now := s.now()
	at, late, err := madeAt(in.SecondsAgo, now)
	if err != nil {
		return Entry{}, err
	}
	row := in.row(panelID, at)
	row.KeptAt, row.Late = now, late
	done, err := s.turns.take(ctx, panelID)
	if err != nil {
		return Entry{}, err
	}
	defer done()
	if known, err := s.store.KnownEntry(ctx, &row); known || err != nil {
		return entryOf(row), err
	}
	err = s.asJudged(func() error {
		judged, err := s.judgeEntry(ctx, in, &row)
		if err != nil {
			return err
		}
		return s.store.AddEntry(ctx, &row, judged)
	})
	return entryOf(row), err
}

// mostTries is how often something is judged again because its panel changed meanwhile.
const mostTries = 20

// asJudged does something that is judged first, again where the panel changed in between.
func (s *Shop) asJudged(do func() error) error {
	for range mostTries {
		if err := do(); !errors.Is(err, store.ErrChanged) {
			return err
		}
	}
	return store.ErrBusy
}

// tapped is a panel on which somebody taps. It comes without its film where that has no say
// in the tap, or has said already that there are passes: so nobody waits for the film of a
// panel after a restart.
func (s *Shop) tapped(ctx context.Context, in NewEntry, row store.Entry) (*Panel, error) {
	v, err := s.store.Versions(ctx, row.PanelID)
	if err != nil {
		return nil, err
	}
	switch {
	case s.panels.has(stateKey(v)):
	case in.Kind == level.KindOverride || in.Kind == level.KindRest || in.Kind == level.KindBack:
	case in.Kind != level.KindPass || row.Late:
		return s.panelAt(ctx, v)
	default:
		g, err := s.store.Grant(ctx, row.PanelID)
		if err != nil {
			return nil, err
		}
		if g != nil && g.Version == v.Panel && g.House == v.House && g.Section == in.Section && g.Step == in.Step && g.Passes > 0 {
			p, err := s.panelAt(ctx, v)
			if err != nil {
				return nil, err
			}
			p.granted = g.Passes
			return p, nil
		}
	}
	return s.Panel(ctx, row.PanelID)
}

// judgeEntry says whether an entry may be kept, completes its row, and says what follows
// from it.
func (s *Shop) judgeEntry(ctx context.Context, in NewEntry, row *store.Entry) (store.Judged, error) {
	none := store.Judged{}
	p, err := s.tapped(ctx, in, *row)
	if err != nil {
		return none, err
	}
	if p.Record == nil {
		return none, conflict(NoPlanToWork, p.Name)
	}
	if len(p.Live()) == 0 && p.borrowed == nil {
		return none, conflict(NothingRead)
	}
	if _, err := p.sectionNo(in.Section); err != nil {
		return none, err
	}
	if p, err = s.withProud(ctx, p, in); err != nil {
		return none, err
	}
	p.loadLimits()
	if in.Mark != "" && !slices.ContainsFunc(p.Marks, func(m Mark) bool { return m.ID == in.Mark && m.Open() }) {
		return none, Refuse(NoOpenMark, "mark", p.Name, in.Mark)
	}
	older, err := s.olderPlan(ctx, p, in)
	if err != nil {
		return none, err
	}
	out := store.Judged{Version: p.version}
	if in.Kind == level.KindThrough {
		out.Mark = p.throughMark(*row)
	}
	switch {
	case older != nil: // the film is gone, whatever is planned now
		row.Late = true
		err = s.latePass(ctx, p, *older, in, row)
	case row.Late && in.Kind == level.KindPass:
		err = s.latePass(ctx, p, *p.Ladder(), in, row)
	default:
		if err = p.allows(in); err == nil && in.Kind == level.KindRest {
			err = p.takeRest(in, row)
		}
		if err == nil && in.Kind == level.KindPass {
			out.Next = &store.Grant{House: p.of, Section: in.Section, Step: in.Step, Passes: p.grants(in.Section, in.Step-1) - 1}
		}
	}
	return out, err
}

// grants is how many passes of a step the film of a section allows.
func (p *Panel) grants(section string, step int) int {
	if p.granted > 0 {
		return p.granted
	}
	return p.advise(section, step, p.needed(section, step)).Granted
}

// latePass completes the row of a pass that was made already, under a ladder that need not
// be of record any more. It is kept whatever the film says, unless no hand can have made it
// since its device last had an answer.
func (s *Shop) latePass(ctx context.Context, p *Panel, l plan.Ladder, in NewEntry, row *store.Entry) error {
	if !slices.Contains(l.StepsOf(in.Section), in.Step-1) {
		return Refuse(NoStep, "step", len(l.Steps), in.Step)
	}
	step := l.Steps[in.Step-1]
	switch {
	case p.log.Alarm(in.Section).Locks():
		row.Flag = string(FlagThrough)
	case p.MayNot(in.Person, step) != "":
		row.Flag = string(FlagLimit)
	}
	last, late, err := s.store.Paced(ctx, row.Device)
	if err != nil {
		return err
	}
	since := p.Record.AcceptedAt
	if last != nil {
		since = *last
	}
	sec := find(p.Sections, func(s flatlay.Section) bool { return s.Key == in.Section })
	most := level.MostPasses(row.KeptAt.Sub(since), plan.PassTime(step.Lane, sec.W, sec.H))
	if late >= most {
		return conflict(TooFast, CountOf(late + 1, "pass"), row.KeptAt.Sub(since))
	}
	return nil
}

// olderPlan is the ladder of a pass that was made under a plan before the one of record, or
// under that one before the panel's facts left it behind; nil where the plan holds. Anything
// else under such a plan is refused: the screen was behind.
func (s *Shop) olderPlan(ctx context.Context, p *Panel, in NewEntry) (*plan.Ladder, error) {
	holds := p.Ladder() != nil
	if holds && in.Plan == p.Record.ID {
		return nil, nil
	}
	row, err := s.store.PlanByID(ctx, in.Plan)
	if err != nil || row.PanelID != p.ID {
		return nil, Refuse(NoSuchPlan, "plan", p.Name)
	}
	if in.Kind != level.KindPass && in.Kind != level.KindOverride {
		if !holds {
			return nil, conflict(NoPlanToWork, p.Name)
		}
		return nil, conflict(OtherPlan)
	}
	l, err := p.ladderOf(recordOf(row))
	if err != nil {
		return nil, err
	}
	if in.Step < 1 || in.Step > len(l.Steps) {
		return nil, Refuse(NoStep, "step", len(l.Steps), in.Step)
	}
	return &l, nil
}

// allows says whether an entry may be logged as the panel stands.
func (p *Panel) allows(in NewEntry) error {
	steps := p.Ladder().Steps
	if in.Step < 1 || in.Step > len(steps) {
		return Refuse(NoStep, "step", len(steps), in.Step)
	}
	if in.Kind == level.KindBack {
		return p.allowsBack(in)
	}
	if p.log.Done(in.Section) {
		return conflict(AllDone)
	}
	now := p.log.Step(in.Section)
	if in.Step != now+1 {
		return conflict(OtherStep, now+1, steps[now].Title, in.Step)
	}
	locked := p.log.Alarm(in.Section).Locks()
	cuts := in.Kind == level.KindPass || in.Kind == level.KindOverride
	if limit := p.MayNot(in.Person, steps[now]); cuts && limit != "" {
		return conflict(PassTooCoarse, steps[now].Title, in.Person, limit)
	}
	soft := p.softAt(in.Section, now)
	if cuts && !locked {
		if n, err := p.marksInTheWay(in.Section); err != nil || n > 0 {
			return errors.Join(err, conflict(MarksStand, CountOf(n, "mark")))
		}
	}
	switch in.Kind {
	case level.KindDone:
		if a := p.doneEarly(in); a > 0 && len([]rune(in.Reason)) < leastReason {
			return Refuse(DoneEarly, "reason", CountOf(a, "pass"), leastReason)
		}
	case level.KindPass:
		if locked {
			return conflict(PassOverThrough)
		}
		if !soft.IsZero() && p.granted == 0 { // what was granted when it was hard stays so
			return conflict(PaintSoft, At(soft))
		}
		if p.grants(in.Section, now) == 0 {
			sec, _ := p.Study.Section(in.Section)
			return conflict(NoPassLeft, p.Standing(sec))
		}
	case level.KindOverride:
		if locked {
			return conflict(OverrideOverThrough)
		}
		a := p.advise(in.Section, now, p.needed(in.Section, now))
		if a.Granted > 0 && soft.IsZero() {
			return conflict(OverrideNotNeeded, CountOf(a.Granted, "pass"))
		}
		if a.Granted == 0 && !a.Over {
			sec, _ := p.Study.Section(in.Section)
			return conflict(OverrideThrough, p.Standing(sec))
		}
	case level.KindRest:
		if locked {
			return conflict(PassOverThrough)
		}
	case level.KindColour:
		if p.Layers == SingleStage {
			return conflict(ColourIsUsual)
		}
	case level.KindShiny:
		if p.log.Passes(in.Section)[in.Step-1] == 0 {
			return conflict(LookTooEarly)
		}
	}
	return nil
}

// doneEarly is how many passes a step still needs and is granted when somebody ends it; 0 where
// the film is not known at hand.
func (p *Panel) doneEarly(in NewEntry) int {
	if p.Study == nil || p.log.Alarm(in.Section).Locks() {
		return 0
	}
	step := in.Step - 1
	a := p.advise(in.Section, step, p.needed(in.Section, step))
	return a.Left
}

// withProud is a panel with its film where a pass would go over a mark that may stand above the
// paint: what is done about that rests on the film.
func (s *Shop) withProud(ctx context.Context, p *Panel, in NewEntry) (*Panel, error) {
	asks := in.Kind == level.KindDone
	if in.Kind == level.KindPass || in.Kind == level.KindOverride {
		asks = slices.ContainsFunc(p.Marks, func(m Mark) bool {
			return m.Open() && m.Kind.Proud() && p.sectionAt(flatlay.Point{X: m.X, Y: m.Y}) == in.Section
		})
	}
	if p.Study != nil || !asks {
		return p, nil
	}
	return s.Panel(ctx, p.ID)
}

// marksInTheWay is how many marks stand in a section that are cut at their place, or set aside by
// somebody, before a block or a machine goes over it; soft ones too.
func (p *Panel) marksInTheWay(section string) (int, error) {
	if p.Study == nil {
		return 0, nil
	}
	all, err := p.JudgedMarks(p.now())
	here := slices.DeleteFunc(slices.Clone(all), func(m JudgedMark) bool { return m.Section != section })
	return inTheWay(here), err
}

// inTheWay counts the marks that are cut at their place before anything goes over them.
func inTheWay(all []JudgedMark) int {
	n := 0
	for _, m := range all {
		if m.Open() && m.Do.AtItsPlace() {
			n++
		}
	}
	return n
}

// At is a moment among the values of a refusal.
type At time.Time

// allowsBack says whether a section may go back to an earlier step.
func (p *Panel) allowsBack(in NewEntry) error {
	again := find(p.backs(in.Section), func(a Again) bool { return a.Step == in.Step-1 })
	if again == nil {
		return conflict(NoStepBack, in.Step)
	}
	if !again.Ready {
		return conflict(NotBack, again.Title, *again)
	}
	return nil
}

// throughMark is the mark of a through spot that was told at the car: in the middle
// of its section, to be moved where it is.
func (p *Panel) throughMark(e store.Entry) *store.Mark {
	i := slices.IndexFunc(p.Sections, func(s flatlay.Section) bool { return s.Key == e.Section })
	at := p.Sections[i].Cells[len(p.Sections[i].Cells)/2]
	row := &store.Mark{ID: throughID(e.ID), PanelID: p.ID, Note: NoteToldInLevel, Found: FoundInWorkshop, Person: e.Person, At: e.At, Outcome: store.OutcomeOpen}
	putMark(marks.Placed(marks.Through, at.X, at.Y, 0), row)
	return row
}

// NoteToldInLevel is the note of a mark that came with an entry of Level.
const NoteToldInLevel = "told in Level; move it where it is"

func throughID(entry string) string { return "through-" + entry }

// StrikeEntry strikes an entry of the log out with a reason, and the mark that came
// with it.
func (s *Shop) StrikeEntry(ctx context.Context, id, reason string) (Entry, error) {
	row, err := s.store.Entry(ctx, id)
	if err != nil {
		return Entry{}, err
	}
	if reason, err = strikeReason(reason); err != nil {
		return Entry{}, err
	}
	mark := ""
	if level.Kind(row.Kind) == level.KindThrough {
		mark = throughID(row.ID)
	}
	err = s.asJudged(func() error {
		p, err := s.Panel(ctx, row.PanelID)
		if err != nil {
			return err
		}
		if level.Kind(row.Kind) == level.KindRest && p.restUsed(row) {
			return conflict(RestUsed)
		}
		return s.store.StrikeEntry(ctx, row, mark, reason, s.now(), p.version)
	})
	if err != nil {
		return Entry{}, err
	}
	row, err = s.store.Entry(ctx, id)
	return entryOf(row), err
}
