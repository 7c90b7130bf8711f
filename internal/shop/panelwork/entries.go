package panelwork

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
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
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
		return now, false, refuse.Because(refuse.TooLongAgo, "seconds_ago")
	}
	ago := time.Duration(math.Max(*secondsAgo, 0) * float64(time.Second))
	return now.Add(-ago), ago > onItsWay, nil
}

// check says what is wrong with what was sent, whatever the panel.
func (in NewEntry) check() error {
	switch {
	case !slices.Contains(level.Kinds(), in.Kind):
		return refuse.Because(refuse.BadEntryKind, "kind", in.Kind)
	case in.Kind == level.KindShiny && (in.Share == nil || !(*in.Share >= 0 && *in.Share <= 1)):
		return refuse.Because(refuse.BadShare, "share")
	case in.Kind == level.KindOverride && len([]rune(in.Reason)) < house.LeastReason:
		return refuse.Because(refuse.OverrideReason, "reason", house.LeastReason)
	case in.Kind == level.KindBack && len([]rune(in.Reason)) < house.LeastReason:
		return refuse.Because(refuse.BackReason, "reason", house.LeastReason)
	case in.Kind == level.KindRest && in.Rest == "":
		return refuse.Because(refuse.NoSuchRest, "rest")
	case (in.Kind == level.KindShave || in.Kind == level.KindBlock) && in.Mark == "":
		return refuse.Because(refuse.WhichMark, "mark")
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
		e.Value, e.Note = advice.AgainPasses, in.Reason
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
func (s *Service) LogEntry(ctx context.Context, panelID string, in NewEntry) (facts.Entry, error) {
	in.Reason = strings.TrimSpace(in.Reason)
	if err := house.CheckID(in.ID, house.OfEntry); err != nil {
		return facts.Entry{}, err
	}
	var err error
	if in.Person, err = house.PersonName(in.Person); err != nil {
		return facts.Entry{}, err
	}
	if err := in.check(); err != nil {
		return facts.Entry{}, err
	}
	now := s.Now()
	at, late, err := madeAt(in.SecondsAgo, now)
	if err != nil {
		return facts.Entry{}, err
	}
	row := in.row(panelID, at)
	row.KeptAt, row.Late = now, late
	done, err := s.Locks.Take(ctx, panelID)
	if err != nil {
		return facts.Entry{}, err
	}
	defer done()
	if known, err := s.Store.KnownEntry(ctx, &row); known || err != nil {
		return facts.EntryOf(row), err
	}
	err = s.AsJudged(func() error {
		judged, err := s.judgeEntry(ctx, in, &row)
		if err != nil {
			return err
		}
		return s.Store.AddEntry(ctx, &row, judged)
	})
	return facts.EntryOf(row), err
}

// tapped is a panel on which somebody taps. It comes without its film where that has no say
// in the tap, or has said already that there are passes: so nobody waits for the film of a
// panel after a restart.
func (s *Service) tapped(ctx context.Context, in NewEntry, row store.Entry) (*panel.Panel, error) {
	v, err := s.Store.Versions(ctx, row.PanelID)
	if err != nil {
		return nil, err
	}
	switch {
	case s.Panels.Has(panel.StateKey(v)):
	case in.Kind == level.KindOverride || in.Kind == level.KindRest || in.Kind == level.KindBack:
	case in.Kind != level.KindPass || row.Late:
		return s.PanelAt(ctx, v)
	default:
		g, err := s.Store.Grant(ctx, row.PanelID)
		if err != nil {
			return nil, err
		}
		if g != nil && g.Version == v.Panel && g.House == v.House && g.Section == in.Section && g.Step == in.Step && g.Passes > 0 {
			p, err := s.PanelAt(ctx, v)
			if err != nil {
				return nil, err
			}
			p.Granted = g.Passes
			return p, nil
		}
	}
	return s.Panel(ctx, row.PanelID)
}

// judgeEntry says whether an entry may be kept, completes its row, and says what follows
// from it.
func (s *Service) judgeEntry(ctx context.Context, in NewEntry, row *store.Entry) (store.Judged, error) {
	none := store.Judged{}
	p, err := s.tapped(ctx, in, *row)
	if err != nil {
		return none, err
	}
	if p.Record == nil {
		return none, refuse.Conflicting(refuse.NoPlanToWork, p.Name)
	}
	if len(p.Live()) == 0 && p.Borrowed == nil {
		return none, refuse.Conflicting(refuse.NothingRead)
	}
	if _, err := p.SectionNo(in.Section); err != nil {
		return none, err
	}
	if p, err = s.withProud(ctx, p, in); err != nil {
		return none, err
	}
	p.LoadLimits()
	if in.Mark != "" && !slices.ContainsFunc(p.Marks, func(m facts.Mark) bool { return m.ID == in.Mark && m.Open() }) {
		return none, refuse.Because(refuse.NoOpenMark, "mark", p.Name, in.Mark)
	}
	older, err := s.olderPlan(ctx, p, in)
	if err != nil {
		return none, err
	}
	out := store.Judged{Version: p.RowsAt}
	if in.Kind == level.KindThrough {
		out.Mark = throughMark(p, *row)
	}
	switch {
	case older != nil: // the film is gone, whatever is planned now
		row.Late = true
		err = s.latePass(ctx, p, *older, in, row)
	case row.Late && in.Kind == level.KindPass:
		err = s.latePass(ctx, p, *p.Ladder(), in, row)
	default:
		if err = allows(p, in); err == nil && in.Kind == level.KindRest {
			err = takeRest(p, in, row)
		}
		if err == nil && in.Kind == level.KindPass {
			out.Next = &store.Grant{House: p.Of, Section: in.Section, Step: in.Step, Passes: grants(p, in.Section, in.Step-1) - 1}
		}
	}
	return out, err
}

// grants is how many passes of a step the film of a section allows.
func grants(p *panel.Panel, section string, step int) int {
	if p.Granted > 0 {
		return p.Granted
	}
	return p.Advise(section, step, p.Needed(section, step)).Granted
}

// latePass completes the row of a pass that was made already, under a ladder that need not
// be of record any more. It is kept whatever the film says, unless no hand can have made it
// since its device last had an answer.
func (s *Service) latePass(ctx context.Context, p *panel.Panel, l plan.Ladder, in NewEntry, row *store.Entry) error {
	if !slices.Contains(l.StepsOf(in.Section), in.Step-1) {
		return refuse.Because(refuse.NoStep, "step", len(l.Steps), in.Step)
	}
	step := l.Steps[in.Step-1]
	switch {
	case p.Log.Alarm(in.Section).Locks():
		row.Flag = string(facts.FlagThrough)
	case p.MayNot(in.Person, step) != "":
		row.Flag = string(facts.FlagLimit)
	}
	last, late, err := s.Store.Paced(ctx, row.Device)
	if err != nil {
		return err
	}
	since := p.Record.AcceptedAt
	if last != nil {
		since = *last
	}
	sec := panel.FirstOf(p.Sections, func(s flatlay.Section) bool { return s.Key == in.Section })
	most := level.MostPasses(row.KeptAt.Sub(since), plan.PassTime(step.Lane, sec.W, sec.H))
	if late >= most {
		return refuse.Conflicting(refuse.TooFast, refuse.CountOf(late+1, "pass"), row.KeptAt.Sub(since))
	}
	return nil
}

// olderPlan is the ladder of a pass that was made under a plan before the one of record, or
// under that one before the panel's facts left it behind; nil where the plan holds. Anything
// else under such a plan is refused: the screen was behind.
func (s *Service) olderPlan(ctx context.Context, p *panel.Panel, in NewEntry) (*plan.Ladder, error) {
	holds := p.Ladder() != nil
	if holds && in.Plan == p.Record.ID {
		return nil, nil
	}
	row, err := s.Store.PlanByID(ctx, in.Plan)
	if err != nil || row.PanelID != p.ID {
		return nil, refuse.Because(refuse.NoSuchPlan, "plan", p.Name)
	}
	if in.Kind != level.KindPass && in.Kind != level.KindOverride {
		if !holds {
			return nil, refuse.Conflicting(refuse.NoPlanToWork, p.Name)
		}
		return nil, refuse.Conflicting(refuse.OtherPlan)
	}
	l, err := p.LadderOf(panel.RecordOf(row))
	if err != nil {
		return nil, err
	}
	if in.Step < 1 || in.Step > len(l.Steps) {
		return nil, refuse.Because(refuse.NoStep, "step", len(l.Steps), in.Step)
	}
	return &l, nil
}

// allows says whether an entry may be logged as the panel stands.
func allows(p *panel.Panel, in NewEntry) error {
	steps := p.Ladder().Steps
	if in.Step < 1 || in.Step > len(steps) {
		return refuse.Because(refuse.NoStep, "step", len(steps), in.Step)
	}
	if in.Kind == level.KindBack {
		return allowsBack(p, in)
	}
	if p.Log.Done(in.Section) {
		return refuse.Conflicting(refuse.AllDone)
	}
	now := p.Log.Step(in.Section)
	if in.Step != now+1 {
		return refuse.Conflicting(refuse.OtherStep, now+1, steps[now].Title, in.Step)
	}
	locked := p.Log.Alarm(in.Section).Locks()
	cuts := in.Kind == level.KindPass || in.Kind == level.KindOverride
	if limit := p.MayNot(in.Person, steps[now]); cuts && limit != "" {
		return refuse.Conflicting(refuse.PassTooCoarse, steps[now].Title, in.Person, limit)
	}
	soft := p.SoftAt(in.Section, now)
	if cuts && !locked {
		if n, err := marksInTheWay(p, in.Section); err != nil || n > 0 {
			return errors.Join(err, refuse.Conflicting(refuse.MarksStand, refuse.CountOf(n, "mark")))
		}
	}
	switch in.Kind {
	case level.KindDone:
		if a := doneEarly(p, in); a > 0 && len([]rune(in.Reason)) < house.LeastReason {
			return refuse.Because(refuse.DoneEarly, "reason", refuse.CountOf(a, "pass"), house.LeastReason)
		}
	case level.KindPass:
		if locked {
			return refuse.Conflicting(refuse.PassOverThrough)
		}
		if !soft.IsZero() && p.Granted == 0 { // what was granted when it was hard stays so
			return refuse.Conflicting(refuse.PaintSoft, At(soft))
		}
		if grants(p, in.Section, now) == 0 {
			sec, _ := p.Study.Section(in.Section)
			return refuse.Conflicting(refuse.NoPassLeft, p.Standing(sec))
		}
	case level.KindOverride:
		if locked {
			return refuse.Conflicting(refuse.OverrideOverThrough)
		}
		a := p.Advise(in.Section, now, p.Needed(in.Section, now))
		if a.Granted > 0 && soft.IsZero() {
			return refuse.Conflicting(refuse.OverrideNotNeeded, refuse.CountOf(a.Granted, "pass"))
		}
		if a.Granted == 0 && !a.Over {
			sec, _ := p.Study.Section(in.Section)
			return refuse.Conflicting(refuse.OverrideThrough, p.Standing(sec))
		}
	case level.KindRest:
		if locked {
			return refuse.Conflicting(refuse.PassOverThrough)
		}
	case level.KindColour:
		if p.Layers == facts.SingleStage {
			return refuse.Conflicting(refuse.ColourIsUsual)
		}
	case level.KindShiny:
		if p.Log.Passes(in.Section)[in.Step-1] == 0 {
			return refuse.Conflicting(refuse.LookTooEarly)
		}
	}
	return nil
}

// doneEarly is how many passes a step still needs and is granted when somebody ends it; 0 where
// the film is not known at hand.
func doneEarly(p *panel.Panel, in NewEntry) int {
	if p.Study == nil || p.Log.Alarm(in.Section).Locks() {
		return 0
	}
	step := in.Step - 1
	a := p.Advise(in.Section, step, p.Needed(in.Section, step))
	return a.Left
}

// withProud is a panel with its film where a pass would go over a mark that may stand above the
// paint: what is done about that rests on the film.
func (s *Service) withProud(ctx context.Context, p *panel.Panel, in NewEntry) (*panel.Panel, error) {
	asks := in.Kind == level.KindDone
	if in.Kind == level.KindPass || in.Kind == level.KindOverride {
		asks = slices.ContainsFunc(p.Marks, func(m facts.Mark) bool {
			return m.Open() && m.Kind.Proud() && p.SectionAt(flatlay.Point{X: m.X, Y: m.Y}) == in.Section
		})
	}
	if p.Study != nil || !asks {
		return p, nil
	}
	return s.Panel(ctx, p.ID)
}

// marksInTheWay is how many marks stand in a section that are cut at their place, or set aside by
// somebody, before a block or a machine goes over it; soft ones too.
func marksInTheWay(p *panel.Panel, section string) (int, error) {
	if p.Study == nil {
		return 0, nil
	}
	all, err := p.JudgedMarks(p.Now())
	here := slices.DeleteFunc(slices.Clone(all), func(m panel.JudgedMark) bool { return m.Section != section })
	return panel.InTheWay(here), err
}

// At is a moment among the values of a refusal.
type At time.Time

// allowsBack says whether a section may go back to an earlier step.
func allowsBack(p *panel.Panel, in NewEntry) error {
	again := panel.FirstOf(advice.Backs(p, in.Section), func(a advice.Again) bool { return a.Step == in.Step-1 })
	if again == nil {
		return refuse.Conflicting(refuse.NoStepBack, in.Step)
	}
	if !again.Ready {
		return refuse.Conflicting(refuse.NotBack, again.Title, *again)
	}
	return nil
}

// throughMark is the mark of a through spot that was told at the car: in the middle
// of its section, to be moved where it is.
func throughMark(p *panel.Panel, e store.Entry) *store.Mark {
	i := slices.IndexFunc(p.Sections, func(s flatlay.Section) bool { return s.Key == e.Section })
	at := p.Sections[i].Cells[len(p.Sections[i].Cells)/2]
	row := &store.Mark{ID: throughID(e.ID), PanelID: p.ID, Note: NoteToldInLevel, Found: FoundInWorkshop, Person: e.Person, At: e.At, Outcome: store.OutcomeOpen}
	facts.PutMark(marks.Placed(marks.Through, at.X, at.Y, 0), row)
	return row
}

// NoteToldInLevel is the note of a mark that came with an entry of Level.
const NoteToldInLevel = "told in Level; move it where it is"

func throughID(entry string) string { return "through-" + entry }

// StrikeEntry strikes an entry of the log out with a reason, and the mark that came
// with it.
func (s *Service) StrikeEntry(ctx context.Context, id, reason string) (facts.Entry, error) {
	row, err := s.Store.Entry(ctx, id)
	if err != nil {
		return facts.Entry{}, err
	}
	if reason, err = house.StrikeReason(reason); err != nil {
		return facts.Entry{}, err
	}
	mark := ""
	if level.Kind(row.Kind) == level.KindThrough {
		mark = throughID(row.ID)
	}
	err = s.AsJudged(func() error {
		p, err := s.Panel(ctx, row.PanelID)
		if err != nil {
			return err
		}
		if level.Kind(row.Kind) == level.KindRest && p.RestUsed(row) {
			return refuse.Conflicting(refuse.RestUsed)
		}
		return s.Store.StrikeEntry(ctx, row, mark, reason, s.Now(), p.RowsAt)
	})
	if err != nil {
		return facts.Entry{}, err
	}
	row, err = s.Store.Entry(ctx, id)
	return facts.EntryOf(row), err
}
