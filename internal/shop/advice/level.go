package advice

import (
	"context"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/panel"
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
	*panel.Panel
	Person  string // who works
	People  []string
	Wait    LevelWait
	Marks   []panel.JudgedMark // of the section in hand, or of the panel without one
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
func Steps(p *panel.Panel) []SectionStep {
	var out []SectionStep
	for _, sec := range p.Sections {
		n := SectionStep{Section: sec}
		if p.Ladder() != nil && p.Study != nil {
			n.Done, n.Left = p.Ended(sec.Key), p.Leaves(sec.Key)
			n.Step = min(p.Log.Step(sec.Key)+1, len(p.Ladder().Steps))
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
func (s *Service) Level(ctx context.Context, panelID, section, person string) (*Level, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	out := &Level{Panel: p}
	out.People = p.LoadLimits()
	if person == "" {
		person = p.Car.Painter
	}
	out.Person = person
	all, err := p.JudgedMarks(s.Now())
	if err != nil {
		return nil, err
	}
	out.Wait = levelWait(p)
	if out.Wait == NibsOneByOne {
		out.Circles, out.Guides = circles(p, all), guides(p, all)
	}
	if out.Wait != LevelReady {
		out.Marks = all
		return out, nil
	}
	if out.Section, err = sectionInHand(p, section, person); err != nil {
		return nil, err
	}
	key := p.Sections[out.Section].Key
	for _, m := range all {
		if m.Section == key {
			out.Marks = append(out.Marks, m)
		}
	}
	out.Spots, out.Guides, out.Again, out.Left = spots(p, key), guides(p, out.Marks), Backs(p, key), leftAfter(p, key)
	if !p.Log.Done(key) {
		out.Hand, err = hand(p, key, person)
		if err == nil {
			out.Hand.Soft, out.Hand.Stand = p.SoftAt(key, out.Hand.Step), panel.InTheWay(out.Marks)
		}
		if at := coolAt(p, key); err == nil && !at.IsZero() {
			out.Hand.CoolIn = max(at.Sub(s.Now()), 0)
		}
	}
	return out, err
}

func levelWait(p *panel.Panel) LevelWait {
	switch {
	case p.Ladder() != nil && p.Study == nil:
		return WaitsReading
	case p.Ladder() != nil && p.Ladder().Steps[0].Kind == plan.FileStep:
		return NibsOneByOne
	case p.Ladder() != nil:
		return LevelReady
	case p.Lacks() != panel.LacksNothing:
		return WaitsForRead
	case p.Record != nil:
		return WaitsStale
	}
	return WaitsForRecord
}

// sectionInHand is the index of the section asked for, or else of the first that is not
// done and that somebody may work on.
func sectionInHand(p *panel.Panel, key, person string) (int, error) {
	if key != "" {
		return p.SectionNo(key)
	}
	if last := lastTold(p); last != "" && p.Log.Alarm(last).Locks() { // it says what to do now
		return p.SectionNo(last)
	}
	first := -1
	for i, s := range p.Sections {
		if p.Ended(s.Key) || !p.SoftAt(s.Key, p.Log.Step(s.Key)).IsZero() {
			continue
		}
		if p.MayNot(person, p.Ladder().Steps[p.Log.Step(s.Key)]) == "" {
			return i, nil
		}
		if first < 0 {
			first = i
		}
	}
	if first < 0 { // all wait, or are ended
		first = slices.IndexFunc(p.Sections, func(s flatlay.Section) bool { return !p.Ended(s.Key) })
	}
	return max(first, 0), nil
}

// lastTold is the section that something was logged of last; empty for none.
func lastTold(p *panel.Panel) string {
	for _, e := range slices.Backward(p.Log.Entries) {
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
	RateFrom  panel.RateFrom
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

func hand(p *panel.Panel, section, person string) (*Hand, error) {
	i := p.Log.Step(section)
	st, a, law := p.Ladder().Steps[i], p.Advise(section, i, p.Needed(section, i)), p.House.Shelf.Law
	h := &Hand{Section: section, Step: i, Of: st, Advice: a, Alarm: p.Log.Alarm(section), Made: p.Log.Passes(section)[i], RateFrom: p.RateFrom(i),
		Look: p.Look(section, i), LookPays: p.Work.LookPays(i), Wants: p.Wants(section, i), MayNot: p.MayNot(person, st)}
	h.Locked = h.Alarm.Locks()
	h.Begun = slices.ContainsFunc(p.Log.Passes(section), func(n int) bool { return n > 0 })
	for n := 1; n <= min(a.Left, mostAhead); n++ {
		h.Ahead = append(h.Ahead, a.After(n))
	}
	if h.Look != nil {
		h.LookLeft, h.LookGrade = h.Look.After(p.Work, i, h.Made)
	}
	uses, area := p.Log.Wear(i, func(key string) float64 {
		sec, _ := p.Study.Section(key)
		return sec.W * sec.H
	})
	h.Uses, h.CutLeft, h.WornOut = uses, st.CutLeft(area, a.Rate.Mean), st.WornOut(law, uses, area, a.Rate.Mean*softness(p, section, st))
	h.Swirls = swirlsHere(p, section, i)
	h.Scratches = p.Work.Scratches(i, h.Made)
	if sec, ok := p.Study.Section(section); ok {
		h.PassTime, h.Standing = plan.PassTime(st.Lane, sec.W, sec.H), p.Standing(sec)
		h.State = h.Standing.State
	}
	var err error
	if a.Granted < a.Needed && !h.Locked {
		h.ReadFirst = unread(p, section) && !p.Borrows()
		h.Ways, err = WaysOf(p, section, i)
	}
	h.Source, h.Share = p.Study.Clear.Decides()
	return h, err
}

// WaysOf are the ways on from a step of a section whose film does not allow all passes.
func WaysOf(p *panel.Panel, section string, step int) ([]level.Way, error) {
	sec, _ := p.Study.Section(section)
	sec = p.SectionFilm(sec)
	j, err := p.RestJob(p.Record)
	if err != nil {
		return nil, err
	}
	sec.Policy = p.Accepted(sec)
	return p.Film().Anew(sec, p.Progress(section, step, p.Needed(section, step)), j, p.Look(section, step))
}

// ReadingsDue are the sections in work that want a reading before their next pass.
func ReadingsDue(p *panel.Panel) []panel.ReadingDue {
	if p.Work == nil || p.Study == nil || !p.Worked() {
		return nil
	}
	var out []panel.ReadingDue
	for _, s := range p.Sections {
		i := p.Log.Step(s.Key)
		if p.Log.Done(s.Key) || p.Log.Alarm(s.Key).Locks() || p.Log.Passes(s.Key)[i] == 0 || !unread(p, s.Key) {
			continue
		}
		if a := p.Advise(s.Key, i, p.Needed(s.Key, i)); a.Left > 0 && a.Read == 0 {
			out = append(out, panel.ReadingDue{PanelID: p.ID, Panel: p.Name, Section: s.Name})
		}
	}
	return out
}

// unread says whether passes of any step came after the last reading of a section.
func unread(p *panel.Panel, section string) bool { return p.Log.SinceAny(section, p.LastRead(section)) }

// spots lists where to read next in a section: spots that were read before any
// work first, since they teach the cut, then a new one.
func spots(p *panel.Panel, section string) []Place {
	var out []Place
	var read []flatlay.Point
	for _, r := range p.Live() {
		read = append(read, r.At)
		if p.SectionAt(r.At) == section && !r.Worked() {
			out = append(out, placeNow(p, r.At, section))
		}
	}
	sec, _ := p.Study.Section(section)
	for _, q := range film.NextSpots(p.Ground, sec.Cells, p.Study.FilmOf(sec.Cells), p.Study.Need(), read, 1) {
		out = append(out, placeNow(p, q, section))
	}
	if len(out) == 0 { // a small one, all of which was read between passes: there again
		for _, c := range sec.Cells[:min(len(sec.Cells), 1)] {
			out = append(out, placeNow(p, c, section))
		}
	}
	return out
}

// placeNow is a place of a section with what the gauge should show there after the passes
// made by now.
func placeNow(p *panel.Panel, q flatlay.Point, section string) Place {
	out := PlaceAt(p, q)
	expected := p.Film().Expected(q, p.Log.Passes(section))
	out.Total = &expected
	return out
}

// AgainPasses is how many passes of an earlier step are offered (judgement).
const AgainPasses = 2

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

func Backs(p *panel.Panel, section string) []Again {
	if p.Log.Alarm(section).Locks() {
		return nil
	}
	var out []Again
	own, passes := p.Ladder().StepsOf(section), p.Log.Passes(section)
	for _, i := range own {
		st := p.Ladder().Steps[i]
		if i >= p.Log.Step(section) || st.D50 == 0 || passes[i] == 0 {
			continue
		}
		a := p.Advise(section, i, AgainPasses)
		v := Again{Step: i, Title: st.Title, Passes: AgainPasses, Takes: p.Work.Again(passes, own, i, AgainPasses), Room: a.Reserved(), Fits: a.Granted >= AgainPasses}
		v.Ready = v.Fits && !unread(p, section)
		out = append(out, v)
	}
	return out
}

// Guide is a proud mark that still stands, as a job of its own, and what it is blocked
// with.
type Guide struct {
	marks.Guide
	Mark        panel.JudgedMark
	Grit, Block string
}

// What a run is blocked with (judgement).
const (
	runPaper = "p1500"
	runBlock = "rigid"
)

func guides(p *panel.Panel, all []panel.JudgedMark) []Guide {
	var out []Guide
	a, _ := p.House.Shelf.Abrasive(runPaper)
	block, _ := p.House.Shelf.Backing(runBlock)
	rate := p.House.Shelf.Law.Rate(a, block, p.House.Shelf.Law.Hardness(p.Hardness))
	for _, m := range all {
		if m.Open() && m.Do.AtItsPlace() {
			g := m.Verdict.Guide(m.Mark.Mark, p.Log.OnMark(m.ID, level.KindShave), p.Log.OnMark(m.ID, level.KindBlock), rate)
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
func circles(p *panel.Panel, all []panel.JudgedMark) []Circle {
	var out []Circle
	small := slices.Clone(all)
	slices.SortStableFunc(small, func(x, y panel.JudgedMark) int { return x.Mark.Compare(y.Mark.Mark) })
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
func leftAfter(p *panel.Panel, section string) map[string]film.Estimate {
	out := map[string]film.Estimate{}
	sec, ok := p.Study.Section(section)
	if !ok {
		return out
	}
	least := p.SectionFilm(sec).Least
	passes := make([]int, len(p.Ladder().Steps))
	for _, e := range p.Log.Entries {
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
	Standing  []panel.JudgedMark
	Soft      *panel.JudgedMark
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
