package cars

import (
	"context"
	"slices"
	"strings"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/store"
)

// Minutes of the steps around the work on the panels (judgement): what practice takes for a
// whole job has them in it.
const (
	lookOnce, lookPanel   = 5.0, 1.0
	readOnce, readSpot    = 1.0, 0.5
	planPanel             = 1.0
	runOnce               = 6.0 // a run, beside the strokes on it
	checkOnce, checkPerM2 = 2.0, 3.0
	handOverTime          = 20.0
	coatPerM2             = 6.0
	coatsApart            = 2.0 // hours
	// Of the washing of paint that is not fresh, the part that takes wax and old polish off,
	// and of the cleaning after the work the part that wipes compound oils off, so that what is
	// seen is the paint.
	stripPart, wipePart = 0.3, 0.25
)

// Wait is paint of some panels that must not be touched yet: sanded, cut at a run, polished.
type Wait struct {
	Kind         WaitKind
	Panels       []string // names
	Sprayed      time.Time
	Until        time.Time
	Early, Late  time.Time
	Sheet, Thick bool
}

// WaitKind is what has to wait.
type WaitKind string

// What waits.
const (
	WaitSand WaitKind = "sand"
	WaitRun  WaitKind = "run"
	WaitDry  WaitKind = "dry"
)

// How high panels are on their car, the highest first.
const (
	highest = iota
	lying
	Upright
	Lowest
)

// Height ranks a panel by how high it is on its car: hoses and cords do not drag over what
// is below.
func Height(p flatlay.Panel) int {
	switch {
	case p.Key == "roof":
		return highest
	case strings.Contains(p.Key, "sill"), strings.Contains(p.Key, "bumper"):
		return Lowest
	case p.Lie == "upright":
		return Upright
	}
	return lying
}

// StepKinds are the tasks of the steps of a plan.
var StepKinds = map[plan.StepKind]schedule.Kind{plan.FileStep: schedule.Nibs, plan.LevelStep: schedule.Block, plan.RefineStep: schedule.Refine, plan.CompoundStep: schedule.Compound, plan.PolishStep: schedule.Polish}

// extent says how much of the work on a car is asked for.
type extent int

const (
	LeftToDo extent = iota
	FromTheStart
)

// Work is what is left to do on some panels of a car, or all of it, and what of it has to
// wait. ticked are its tasks that are done, sealed what it will be sealed with.
func Work(c *panel.Car, much extent, panels []*panel.Panel, ticked []store.Task, sealed string, now time.Time) (schedule.CarWork, []Wait, error) {
	out := schedule.CarWork{Car: c.ID}
	done := func(kind TaskKind) bool {
		return much == LeftToDo && panel.FirstOf(ticked, func(t store.Task) bool { return t.Task == string(kind) }) != nil
	}
	var waits []Wait
	wash, strip, open, unplanned, looked, begun, pace := 0.0, 0.0, 0, 0, false, false, 1.0
	for _, p := range panels {
		pace = p.House.Shelf.Law.PaceAround
		out.Stagewise = p.House.Rules.Order == plan.StageByStage
		looked = looked || len(p.Marks) > 0 || p.Record != nil || p.Condition.Depths().Said()
		o := p.Outline()
		if o.Kept && much == LeftToDo {
			begun = true
			continue
		}
		open++
		w, washing, err := work(p, much)
		if err != nil {
			return out, nil, err
		}
		begun = begun || p.Worked()
		if done(Mask) {
			w.Mask = 0
		}
		if p.Origin == film.Here {
			wash += washing
		} else {
			wash, strip = wash+(1-stripPart)*washing, strip+stripPart*washing
		}
		if p.Aim != plan.NibsOnly && (p.Record == nil || much == FromTheStart) {
			unplanned++
		}
		if w, ok := wait(p, now); ok {
			waits = join(waits, w)
		}
		judged, err := p.JudgedMarks(now)
		if err != nil {
			return out, nil, err
		}
		for _, m := range judged {
			if m.Struck != nil || !m.Open() && much == LeftToDo {
				continue
			}
			switch m.Do {
			case marks.DoShave:
				w.Runs += runOnce + m.Seconds/60
				if m.Ready.After(now) {
					if w.Soft = m.Ready; p.SprayedAt != nil {
						waits = join(waits, Wait{Kind: WaitRun, Panels: []string{p.Name}, Sprayed: *p.SprayedAt, Until: m.Ready, Thick: true})
					}
				}
			case marks.DoSpot:
				if p.Aim != plan.NibsOnly {
					w.Nibs += m.Seconds / 60
				}
			}
		}
		out.Panels = append(out.Panels, w)
	}
	if !begun || much == FromTheStart {
		if !done(Wash) {
			out.Wash = wash
		}
		if !done(StripWax) {
			out.Strip = strip
		}
		if open > 0 && (!looked || much == FromTheStart) {
			out.Look = pace * (lookOnce + lookPanel*float64(open))
		}
	}
	out.Plan, out.HandOver = pace*planPanel*float64(unplanned), pace*handOverTime
	if sealed == Waxed || sealed == Coated {
		area := 0.0
		for _, p := range panels {
			area += p.Shape.Area() / 1e6
		}
		if out.Coats, out.Coat, out.Between = 1, pace*coatPerM2*area, coatsApart; sealed == Coated {
			out.Coats = 2
		}
	}
	return out, waits, nil
}

// join adds a wait, to one that is alike where there is one.
func join(all []Wait, w Wait) []Wait {
	for i := range all {
		if all[i].Kind == w.Kind && all[i].Until.Equal(w.Until) {
			all[i].Panels = append(all[i].Panels, w.Panels...)
			return all
		}
	}
	return append(all, w)
}

// wait is the paint of the panel while it is too soft to sand; false where it is not.
func wait(p *panel.Panel, now time.Time) (Wait, bool) {
	s := p.Hardens().Sand
	if !s.Waits(now) {
		return Wait{}, false
	}
	return Wait{Kind: WaitSand, Panels: []string{p.Name}, Sprayed: *p.SprayedAt, Until: s.From, Early: s.Early, Late: s.Late, Sheet: s.Sheet, Thick: s.Thick}, true
}

// work is what is left to do on the panel, or all of it, and of that the washing, which is
// done for the whole car.
func work(p *panel.Panel, much extent) (w schedule.PanelWork, wash float64, err error) {
	o := p.Outline()
	if much == FromTheStart {
		asNew := level.Outline{Plastic: o.Plastic}
		if o.Kept && !o.Planned {
			asNew.Kept = true // found good as it was
		}
		o = asNew
	}
	w = schedule.PanelWork{Key: p.Key, ID: p.ID, Name: p.Name, Rank: Height(p.Shape)}
	m2, law := p.Shape.Area()/1e6, &p.House.Shelf.Law
	w.Check = law.PaceAround * (checkOnce + checkPerM2*m2)
	if o.Kept {
		return w, 0, nil
	}
	if n := o.Missing(); n > 0 && !o.Plastic && !o.Planned {
		w.Read = law.PaceAround * (readOnce + readSpot*float64(n))
	}
	hard := p.Hardens()
	w.Sand, w.Polish, w.Well = hard.Sand.From, hard.Polish.From, hard.CutsWell
	l, err := p.LadderInHand()
	if err != nil || len(l.Steps) == 0 || o.Finished {
		if o.Finished {
			w.Clean, w.Wipe = cleaned(law.PaceAround * law.Clean * m2)
		}
		return w, 0, err
	}
	w.Clean, w.Wipe = cleaned(l.Afterwards)
	if !p.Worked() || much == FromTheStart {
		wash = p.Options.Job.Washing()
		w.Mask, w.Tape = l.Before-wash, p.Options.Job.Tape()
	}
	var workers []string
	if p.Ladder() != nil {
		workers = p.Workers()
	}
	for i, s := range l.Steps {
		share := 1.0
		if much == LeftToDo {
			share = LeftOf(p, i)
		}
		if share <= 0 {
			continue
		}
		step := schedule.StepWork{No: i + 1, Kind: StepKinds[s.Kind], Minutes: share * s.Minutes, Machine: share * s.Machine, Grain: s.D50, What: s.Title, Item: s.Item}
		if s.Tool != shelf.Hand {
			step.Tool = string(s.Tool)
		}
		if step.Much = share * s.Pieces; s.D50 == 0 {
			if c, ok := p.House.Shelf.Compound(s.Item); ok {
				step.Much = share * float64(s.Passes) * m2 * c.Use
			}
		}
		if at := firstPass(p, i); at != nil {
			step.Begun, step.Person = *at, workers[i]
		}
		w.Steps = append(w.Steps, step)
	}
	return w, wash, nil
}

// cleaned shares the minutes after the work out: compound out of gaps and jambs, then the wipe.
func cleaned(minutes float64) (clean, wipe float64) {
	return (1 - wipePart) * minutes, wipePart * minutes
}

// LeftOf is the share of a step that is still to do over the sections that it is for.
func LeftOf(p *panel.Panel, step int) float64 {
	l := p.Ladder()
	if l == nil {
		return 1
	}
	left, of := 0.0, 0.0
	for _, s := range p.Sections {
		own := l.StepsOf(s.Key)
		if !slices.Contains(own, step) {
			continue
		}
		area := s.W * s.H
		of += area
		switch now := p.Log.Step(s.Key); {
		case now > step:
		case now == step:
			made, wants := float64(p.Log.Passes(s.Key)[step]), float64(l.Steps[step].Passes)
			left += area * max(0, 1-made/max(wants, 1))
		default:
			left += area
		}
	}
	if of == 0 {
		return 0
	}
	return left / of
}

// firstPass is when the first pass of a step was made; nil for none.
func firstPass(p *panel.Panel, step int) *time.Time {
	if p.Ladder() == nil {
		return nil
	}
	for _, e := range p.Log.Entries {
		if !e.Struck && e.Step == step+1 && e.Cuts() {
			at := e.At
			return &at
		}
	}
	return nil
}

// workOf is the work of a car with what the records say of it.
func (s *Service) workOf(ctx context.Context, c *panel.Car) ([]schedule.Task, []Wait, error) {
	ticked, choices, err := s.WorkFacts(ctx, c)
	if err != nil {
		return nil, nil, err
	}
	now := s.Now()
	w, waits, err := Work(c, LeftToDo, c.Wanted(), ticked, choices.Sealed, now)
	if err != nil {
		return nil, nil, err
	}
	rule, err := s.CareRule(ctx)
	if err != nil {
		return nil, nil, err
	}
	for _, k := range care.Waits(CareFor(c), choices.SealedAt, rule, CareSheet(c, choices), now) {
		if k.Kind == care.Dry && k.Until.After(now) {
			waits = append(waits, Wait{Kind: WaitDry, Sprayed: now, Until: k.Until, Sheet: k.Sheet})
		}
	}
	return w.Tasks(), waits, nil
}

// WorkFacts are the tasks of a car that are done, and what it will be sealed with.
func (s *Service) WorkFacts(ctx context.Context, c *panel.Car) (ticked []store.Task, choices ReportChoices, err error) {
	if ticked, err = s.Store.Tasks(ctx, c.ID); err != nil {
		return nil, choices, err
	}
	choices, err = s.ReportChoices(ctx, c.ID)
	return ticked, choices, err
}
