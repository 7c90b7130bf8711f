package shop

import (
	"context"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
)

// LevelWait says why no section is in hand in Level.
type LevelWait string

// Why no section is in hand.
const (
	LevelReady     LevelWait = ""
	WaitsReading   LevelWait = "reading"   // every reading was struck out
	NibsOneByOne   LevelWait = "nibs"      // only marks are worked
	WaitsForRead   LevelWait = "read"      // see Lacks
	WaitsStale     LevelWait = "stale"     // the plan of record is out of date
	WaitsForRecord LevelWait = "no_record" // none was accepted
)

// Level is a panel as it is worked. Section is the index of the one in hand; Hand is nil
// where its steps are all done.
type Level struct {
	*Panel
	Person  string // who works
	People  []string
	Wait    LevelWait
	Marks   []JudgedMark // of the section in hand, or of the panel without one
	Section int
	Hand    *Hand
	Spots   []Place
	Guides  []Guide
	Again   []Again
	Circles []Circle
	Left    map[string]film.Estimate // clear after each pass of the section, µm, by the id of its entry
}

// SectionStep is how far a section is: the number of its step in hand, and its state
// where its film is known.
type SectionStep struct {
	flatlay.Section
	Step  int        // from 1, 0 without a plan
	Done  bool       // nothing more is done on it under the plan of record
	Left  bool       // the plan of record leaves it as it is
	State film.State // empty where it is not known
}

// Steps says how far each section is.
func (p *Panel) Steps() []SectionStep {
	var out []SectionStep
	for _, sec := range p.Sections {
		n := SectionStep{Section: sec}
		if p.Ladder() != nil && p.Study != nil {
			n.Done, n.Left = p.ended(sec.Key), p.Leaves(sec.Key)
			n.Step = min(p.log.Step(sec.Key)+1, len(p.Ladder().Steps))
			if st, ok := p.Study.Section(sec.Key); ok {
				n.State = p.Standing(st).State
			}
		}
		out = append(out, n)
	}
	return out
}

// Level is what may be done next on a section of a panel, or where section is empty, on
// the first that is not done and that person may work on.
func (s *Shop) Level(ctx context.Context, panelID, section, person string) (*Level, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	out := &Level{Panel: p}
	out.People = p.loadLimits()
	if person == "" {
		person = p.Car.Painter
	}
	out.Person = person
	all, err := p.JudgedMarks(s.now())
	if err != nil {
		return nil, err
	}
	out.Wait = p.levelWait()
	if out.Wait == NibsOneByOne {
		out.Circles, out.Guides = p.circles(all), p.guides(all)
	}
	if out.Wait != LevelReady {
		out.Marks = all
		return out, nil
	}
	if out.Section, err = p.sectionInHand(section, person); err != nil {
		return nil, err
	}
	key := p.Sections[out.Section].Key
	for _, m := range all {
		if m.Section == key {
			out.Marks = append(out.Marks, m)
		}
	}
	out.Spots, out.Guides, out.Again, out.Left = p.spots(key), p.guides(out.Marks), p.backs(key), p.leftAfter(key)
	if !p.log.Done(key) {
		out.Hand, err = p.hand(key, person)
		if err == nil {
			out.Hand.Soft, out.Hand.Stand = p.softAt(key, out.Hand.Step), inTheWay(out.Marks)
		}
		if at := p.coolAt(key); err == nil && !at.IsZero() {
			out.Hand.CoolIn = max(at.Sub(s.now()), 0)
		}
	}
	return out, err
}

func (p *Panel) levelWait() LevelWait {
	switch {
	case p.Ladder() != nil && p.Study == nil:
		return WaitsReading
	case p.Ladder() != nil && p.Ladder().Steps[0].Kind == plan.FileStep:
		return NibsOneByOne
	case p.Ladder() != nil:
		return LevelReady
	case p.Lacks() != LacksNothing:
		return WaitsForRead
	case p.Record != nil:
		return WaitsStale
	}
	return WaitsForRecord
}

// sectionInHand is the index of the section asked for, or else of the first that is not
// done and that somebody may work on.
func (p *Panel) sectionInHand(key, person string) (int, error) {
	if key != "" {
		return p.sectionNo(key)
	}
	if last := p.lastTold(); last != "" && p.log.Alarm(last).Locks() { // it says what to do now
		return p.sectionNo(last)
	}
	first := -1
	for i, s := range p.Sections {
		if p.ended(s.Key) || !p.softAt(s.Key, p.log.Step(s.Key)).IsZero() {
			continue
		}
		if p.MayNot(person, p.Ladder().Steps[p.log.Step(s.Key)]) == "" {
			return i, nil
		}
		if first < 0 {
			first = i
		}
	}
	if first < 0 { // all wait, or are ended
		first = slices.IndexFunc(p.Sections, func(s flatlay.Section) bool { return !p.ended(s.Key) })
	}
	return max(first, 0), nil
}

// lastTold is the section that something was logged of last; empty for none.
func (p *Panel) lastTold() string {
	for _, e := range slices.Backward(p.log.Entries) {
		if !e.Struck {
			return e.Section
		}
	}
	return ""
}

// Hand is the step in hand on the section in hand. Step counts from 0.
type Hand struct {
	Section   string
	Step      int
	Of        plan.Step
	Advice    level.Advice
	Begun     bool // passes were made on the section
	Locked    bool // nothing more may be cut here, override or not
	Alarm     level.Alarm
	Made      int // passes
	State     film.State
	Standing  level.Standing
	RateFrom  RateFrom
	Ahead     []level.Advice // after each of the next passes
	Look      *level.Looked
	LookLeft  film.Estimate // passes to flat by it
	LookGrade float64       // peel reached by it
	LookPays  bool
	Uses      int     // passes of the sheet, disc or pad
	CutLeft   float64 // of its cut, 0 to 1
	WornOut   bool
	Ways      []level.Way
	ReadFirst bool          // reading would narrow the doubt
	Wants     int           // passes by the cut as learned
	Swirls    *SwirlsHere   // nil where that is not what the step is for
	CoolIn    time.Duration // until the section is cool again; 0 where it is
	Scratches level.Scratches
	Soft      time.Time // until when its paint is too soft; zero where it is not
	Stand     int       // marks that are worked or set aside first
	MayNot    string    // the coarsest grit of the person, where the step is coarser
	PassTime  float64
	Source    *film.Source // that the clear hangs on most; nil where it is not known
	Share     float64      // that it counts among several; 0 for the only one
}

// mostAhead is how many passes ahead a tablet is told what follows.
const mostAhead = 20

func (p *Panel) hand(section, person string) (*Hand, error) {
	i := p.log.Step(section)
	st, a, law := p.Ladder().Steps[i], p.advise(section, i, p.needed(section, i)), p.House.Shelf.Law
	h := &Hand{Section: section, Step: i, Of: st, Advice: a, Alarm: p.log.Alarm(section), Made: p.log.Passes(section)[i], RateFrom: p.RateFrom(i),
		Look: p.Look(section, i), LookPays: p.Work.LookPays(i), Wants: p.wants(section, i), MayNot: p.MayNot(person, st)}
	h.Locked = h.Alarm.Locks()
	h.Begun = slices.ContainsFunc(p.log.Passes(section), func(n int) bool { return n > 0 })
	for n := 1; n <= min(a.Left, mostAhead); n++ {
		h.Ahead = append(h.Ahead, a.After(n))
	}
	if h.Look != nil {
		h.LookLeft, h.LookGrade = h.Look.After(p.Work, i, h.Made)
	}
	uses, area := p.log.Wear(i, func(key string) float64 {
		sec, _ := p.Study.Section(key)
		return sec.W * sec.H
	})
	h.Uses, h.CutLeft, h.WornOut = uses, st.CutLeft(area, a.Rate.Mean), st.WornOut(law, uses, area, a.Rate.Mean*p.softness(section, st))
	h.Swirls = p.swirlsHere(section, i)
	h.Scratches = p.Work.Scratches(i, h.Made)
	if sec, ok := p.Study.Section(section); ok {
		h.PassTime, h.Standing = plan.PassTime(st.Lane, sec.W, sec.H), p.Standing(sec)
		h.State = h.Standing.State
	}
	var err error
	if a.Granted < a.Needed && !h.Locked {
		h.ReadFirst = p.unread(section) && !p.Borrows()
		h.Ways, err = p.waysOf(section, i)
	}
	h.Source, h.Share = p.Study.Clear.Decides()
	return h, err
}

// waysOf are the ways on from a step of a section whose film does not allow all passes.
func (p *Panel) waysOf(section string, step int) ([]level.Way, error) {
	sec, _ := p.Study.Section(section)
	sec = p.sectionFilm(sec)
	j, err := p.restJob(p.Record)
	if err != nil {
		return nil, err
	}
	sec.Policy = p.accepted(sec)
	return p.film().Anew(sec, p.progress(section, step, p.needed(section, step)), j, p.Look(section, step))
}

// progress of a section at a step of which so many passes are still wanted.
func (p *Panel) progress(section string, step, need int) level.Progress {
	out := level.Progress{Own: p.Ladder().StepsOf(section), Passes: p.log.Passes(section), Before: p.log.BeforeBack(section), Step: step, Need: need}
	if step < len(out.Passes) {
		out.Since = p.log.Since(section, step, p.lastRead(section))
	}
	return out
}

// advise asks the core what may be done at a step of a section where so many passes
// are needed.
func (p *Panel) advise(section string, step, need int) level.Advice {
	key := advised{section, step, need}
	if a, ok := p.asked.advice.Load(key); ok {
		return a.(level.Advice)
	}
	sec, _ := p.Study.Section(section)
	sec = p.sectionFilm(sec)
	sec.Policy = p.accepted(sec)
	a := p.Work.AdviseFor(sec, p.progress(section, step, need))
	if p.Borrows() { // no gauge reads it between passes
		a.Read = a.Left
	}
	p.asked.advice.Store(key, a)
	return a
}

// readingsDue are the sections in work that want a reading before their next pass.
func (p *Panel) readingsDue() []ReadingDue {
	if p.Work == nil || p.Study == nil || !p.Worked() {
		return nil
	}
	var out []ReadingDue
	for _, s := range p.Sections {
		i := p.log.Step(s.Key)
		if p.log.Done(s.Key) || p.log.Alarm(s.Key).Locks() || p.log.Passes(s.Key)[i] == 0 || !p.unread(s.Key) {
			continue
		}
		if a := p.advise(s.Key, i, p.needed(s.Key, i)); a.Left > 0 && a.Read == 0 {
			out = append(out, ReadingDue{PanelID: p.ID, Panel: p.Name, Section: s.Name})
		}
	}
	return out
}

// advised is what advice was asked for.
type advised struct {
	section    string
	step, need int
}

// accepted is the policy of a section with the chance that the plan of record was accepted
// with: an open plan holds to the usual one, a tight one to that which the owner was told.
func (p *Panel) accepted(s film.SectionFilm) film.Policy {
	switch {
	case p.Record.Risk > 0:
		s.Policy.Risk = min(p.Record.Risk, s.Policy.Tight)
	case p.Record.State == film.Tight: // a plan of before, which kept no chance
		return s.Policy.Accepting(s.Policy.Tight)
	}
	return s.Policy
}

// unread says whether passes of any step came after the last reading of a section.
func (p *Panel) unread(section string) bool { return p.log.SinceAny(section, p.lastRead(section)) }

// spots lists where to read next in a section: spots that were read before any
// work first, since they teach the cut, then a new one.
func (p *Panel) spots(section string) []Place {
	var out []Place
	var read []flatlay.Point
	for _, r := range p.Live() {
		read = append(read, r.At)
		if p.sectionAt(r.At) == section && !r.worked() {
			out = append(out, p.placeNow(r.At, section))
		}
	}
	sec, _ := p.Study.Section(section)
	for _, q := range film.NextSpots(p.ground, sec.Cells, p.Study.FilmOf(sec.Cells), p.Study.Need(), read, 1) {
		out = append(out, p.placeNow(q, section))
	}
	if len(out) == 0 { // a small one, all of which was read between passes: there again
		for _, c := range sec.Cells[:min(len(sec.Cells), 1)] {
			out = append(out, p.placeNow(c, section))
		}
	}
	return out
}

// placeNow is a place of a section with what the gauge should show there after the passes
// made by now.
func (p *Panel) placeNow(q flatlay.Point, section string) Place {
	out := p.Place(q)
	expected := p.film().Expected(q, p.log.Passes(section))
	out.Total = &expected
	return out
}

// againPasses is how many passes of an earlier step are offered (judgement).
const againPasses = 2

// Again is an earlier step of a section that may be gone back to: what so many passes
// of it and every finer step take, what may go, and whether it fits. Ready says that it
// may be done now, without reading first.
type Again struct {
	Step   int // from 0
	Title  string
	Passes int
	Takes  film.Estimate
	Room   float64
	Fits   bool
	Ready  bool
}

func (p *Panel) backs(section string) []Again {
	if p.log.Alarm(section).Locks() {
		return nil
	}
	var out []Again
	own, passes := p.Ladder().StepsOf(section), p.log.Passes(section)
	for _, i := range own {
		st := p.Ladder().Steps[i]
		if i >= p.log.Step(section) || st.D50 == 0 || passes[i] == 0 {
			continue
		}
		a := p.advise(section, i, againPasses)
		v := Again{Step: i, Title: st.Title, Passes: againPasses, Takes: p.Work.Again(passes, own, i, againPasses), Room: a.Reserved(), Fits: a.Granted >= againPasses}
		v.Ready = v.Fits && !p.unread(section)
		out = append(out, v)
	}
	return out
}

// Guide is a proud mark that still stands, as a job of its own, and what it is blocked
// with.
type Guide struct {
	marks.Guide
	Mark        JudgedMark
	Grit, Block string
}

// What a run is blocked with (judgement).
const (
	runPaper = "p1500"
	runBlock = "rigid"
)

func (p *Panel) guides(all []JudgedMark) []Guide {
	var out []Guide
	a, _ := p.House.Shelf.Abrasive(runPaper)
	block, _ := p.House.Shelf.Backing(runBlock)
	rate := p.House.Shelf.Law.Rate(a, block, p.House.Shelf.Law.Hardness(p.Hardness))
	for _, m := range all {
		if m.Open() && m.Do.AtItsPlace() {
			g := m.Verdict.Guide(m.Mark.Mark, p.log.OnMark(m.ID, level.KindShave), p.log.OnMark(m.ID, level.KindBlock), rate)
			out = append(out, Guide{g, m, a.Grit, block.Name})
		}
	}
	return out
}

// Circle is how far a step reaches around a spot that is worked alone, mm.
type Circle struct {
	At     flatlay.Point
	Radius float64
	Title  string
}

// circles are those of all steps, the smallest spot first.
func (p *Panel) circles(all []JudgedMark) []Circle {
	var out []Circle
	small := slices.Clone(all)
	slices.SortStableFunc(small, func(x, y JudgedMark) int { return x.Mark.Compare(y.Mark.Mark) })
	for _, m := range small {
		if !m.Open() || !m.Do.AtItsPlace() {
			continue
		}
		for i, r := range marks.Circles(m.Mark.Mark, *p.Ladder(), p.Car.Colour) {
			out = append(out, Circle{flatlay.Point{X: m.X, Y: m.Y}, r, p.Ladder().Steps[i].Title})
		}
	}
	return out
}

// leftAfter is the clear at the thinnest place of a section after each of its passes,
// by the id of the entry.
func (p *Panel) leftAfter(section string) map[string]film.Estimate {
	out := map[string]film.Estimate{}
	sec, ok := p.Study.Section(section)
	if !ok {
		return out
	}
	least := p.sectionFilm(sec).Least
	passes := make([]int, len(p.Ladder().Steps))
	for _, e := range p.log.Entries {
		if e.Cuts() && e.Section == section {
			passes[e.Step-1]++
			out[e.ID] = level.Left(least, p.Work.Taken(passes))
		}
	}
	return out
}

// MarksHere are the marks of a section, or of a panel without one in hand, as they stand
// before any machine: Standing are proud and can be worked now, Soft is one that cannot
// yet (nil for none), More counts the others that are open, All those that are not struck
// out.
type MarksHere struct {
	Standing  []JudgedMark
	Soft      *JudgedMark
	More, All int
}

// MarksHere of what is in hand.
func (l *Level) MarksHere() MarksHere {
	out := MarksHere{All: len(l.Marks)}
	for i, m := range l.Marks {
		switch {
		case !m.Open():
		case m.Do.AtItsPlace() && m.Ready.IsZero():
			out.Standing = append(out.Standing, m)
		default:
			out.More++
			if m.Do.AtItsPlace() && out.Soft == nil {
				out.Soft = &l.Marks[i]
			}
		}
	}
	return out
}
