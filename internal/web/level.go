package web

import (
	"context"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// GetLevel is what may be done next on a section of a panel.
func (s *Server) GetLevel(ctx context.Context, r api.GetLevelRequestObject) (api.GetLevelResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	out := api.Level{Panel: panelOf(b), Car: summary(b), Sections: []api.LevelSection{}, Steps: []api.Step{}, Log: []api.Entry{}, Spots: []api.Place{},
		Again: []api.Again{}, Guides: []api.Guide{}, Circles: []api.Circle{}}
	if out.People, err = s.knowsPeople(ctx, b); err != nil {
		return nil, err
	}
	who := b.car.Painter
	if r.Params.Person != nil && *r.Params.Person != "" {
		who = *r.Params.Person
	}
	all, err := b.liveMarks(s.now())
	if err != nil {
		return nil, err
	}
	for _, e := range b.entries {
		out.Log = append(out.Log, entryOf(e))
	}
	for _, sec := range b.sections {
		n := api.LevelSection{Key: sec.Key, Name: sec.Name, Outlines: areas(sec.Outlines)}
		if b.ladder != nil && b.opened.Study != nil {
			n.Done = b.step(sec.Key) >= len(b.ladder.Steps)
			n.Step = min(b.step(sec.Key)+1, len(b.ladder.Steps))
			if st, ok := b.opened.Study.Section(sec.Key); ok {
				n.State = ptr(api.State(b.standing(st).State))
			}
		}
		out.Sections = append(out.Sections, n)
	}
	switch {
	case b.ladder != nil && b.opened.Study == nil:
		out.Waits = unreadText
	case b.ladder != nil && b.ladder.Steps[0].Kind == plan.FileStep:
		out.Waits = "Nibs are filed one by one, then each place is refined and polished."
		out.Steps, out.Circles = s.stepsOf(b, *b.ladder), b.circles(all)
		out.Guides = b.guides(all, func(judged) bool { return true })
		if len(b.sections) > 0 {
			out.Section = b.sections[0].Key
		}
	case b.ladder != nil:
	case b.waits() != "":
		out.Waits = b.waits()
	case b.record != nil:
		out.Waits = "Waits for Plan: what it rests on has changed since it was accepted. Look at it and accept it again."
	default:
		out.Waits = "Waits for Plan: accept a sequence first."
	}
	if out.Waits != "" {
		out.Marks = b.markViews(all, func(judged) bool { return true })
		return api.GetLevel200JSONResponse(out), nil
	}
	out.Steps = s.stepsOf(b, *b.ladder)
	at, err := b.inHand(r.Params.Section, who)
	if err != nil {
		return nil, err
	}
	out.Section, out.SectionNo = b.sections[at].Key, at+1
	out.Marks = b.markViews(all, func(j judged) bool { return j.section == out.Section })
	if out.Spots, err = b.spots(out.Section); err != nil {
		return nil, err
	}
	out.Guides = b.guides(all, func(j judged) bool { return j.section == out.Section })
	out.Again = b.agains(out.Section)
	left := b.leftAfter(out.Section)
	for i, e := range out.Log {
		if um, ok := left[e.Id]; ok {
			out.Log[i].LeftUm = &um
		}
	}
	if b.step(out.Section) < len(b.ladder.Steps) {
		out.Hand = ptr(b.hand(out.Section, who))
	}
	return api.GetLevel200JSONResponse(out), nil
}

// inHand is the index of the section asked for, or else of the first that is not
// done and that somebody may work on.
func (b *bench) inHand(key *string, who string) (int, error) {
	if key != nil && *key != "" {
		i := slices.IndexFunc(b.sections, func(s flatlay.Section) bool { return s.Key == *key })
		if i < 0 {
			return 0, refuse("section", "The %s has no section %q: it has %s.", b.row.Name, *key, b.sectionKeys())
		}
		return i, nil
	}
	first := -1
	for i, s := range b.sections {
		step := b.step(s.Key)
		if step >= len(b.ladder.Steps) {
			continue
		}
		if b.notFor(who, b.ladder.Steps[step]) == "" {
			return i, nil
		}
		if first < 0 {
			first = i
		}
	}
	return max(first, 0), nil
}

func (b *bench) sectionKeys() string {
	var keys []string
	for _, s := range b.sections {
		keys = append(keys, s.Key)
	}
	return strings.Join(keys, ", ")
}

// advise asks the core what may be done next on a section.
func (b *bench) advise(section string) level.Advice {
	step := b.step(section)
	return b.adviseAt(section, step, b.needed(section, step))
}

// adviseAt asks for a step where so many passes are needed.
func (b *bench) adviseAt(section string, step, need int) level.Advice {
	sec, _ := b.opened.Study.Section(section)
	return b.opened.Work.AdviseFor(sec.Least.Less(b.spotted(section)), sec.Policy, b.passes(section), step, b.sinceRead(section, step), need)
}

// sinceRead counts the passes of a step on a section that came after the last
// reading of it.
func (b *bench) sinceRead(section string, step int) int {
	var last store.Reading
	for _, r := range b.live() {
		if flatlay.SectionAt(b.sections, flatlay.Point{X: r.XMM, Y: r.YMM}) == section && r.TakenAt.After(last.TakenAt) {
			last = r
		}
	}
	n := 0
	for _, e := range b.entries {
		if counts(e, section) && e.Step == step+1 && e.At.After(last.TakenAt) {
			n++
		}
	}
	return n
}

func (b *bench) hand(section, who string) api.Hand {
	a, i := b.advise(section), b.step(section)
	st := b.ladder.Steps[i]
	passes := b.passes(section)
	h := api.Hand{
		Step: i + 1, PassesDone: passes[i], PassesLeft: a.Left, PassesGranted: a.Granted, PassesNeeded: a.Needed, ReadAfter: a.Read,
		RateUm: estimate(a.Rate), TakesUm: estimate(a.Takes), RateFrom: b.rateFrom(a.Rate, i),
		Look: dryWipe(st), Ledger: ledgerOf(a.Ledger), Caution: caution(st.Kind), State: api.StateOpen,
	}
	h.Headline, h.Reason = advice(a, st)
	h.Ahead = []api.PassAhead{}
	for n := 1; n <= min(a.Left, mostAhead); n++ {
		next := a.After(n)
		h.Ahead = append(h.Ahead, api.PassAhead{PassesLeft: next.Left, ReadAfter: next.Read})
	}
	h.ByLook, h.LookPays = b.byLook(section, i), st.Kind == plan.LevelStep && (level.Look{Backing: st.Backing}).Tells()
	if h.Alarm, h.Locked = b.alarm(section); h.Locked {
		h.PassesGranted, h.PassesLeft, h.Headline, h.Reason = 0, 0, "stop here", h.Alarm
	}
	switch {
	case a.Granted == 0 || h.Locked:
		h.State = api.StateShut
	case a.Granted < a.Needed:
		h.State = api.StateTight
	}
	since, area := 0, 0.0
	for _, e := range b.entries {
		if e.StruckAt != nil || e.Step != i+1 {
			continue
		}
		if e.Kind == store.KindPaper {
			since, area = 0, 0
		} else if made(e) {
			sec, _ := b.opened.Study.Section(e.Section)
			since++
			area += sec.W * sec.H
		}
	}
	left := st.CutLeft(area, a.Rate.Mean)
	h.Paper, h.PaperWord, h.PaperDue = paperState(st, since, left), paperWord(st), left <= b.house.shelf.Law.DueAt
	if st.D50 == 0 {
		h.PaperDue = float64(since) >= b.house.shelf.Law.PadClean
	}
	h.Ways, h.Why, h.Scratch, h.NotFor = b.waysOf(section, i, a), b.handWhys(section, i, a), b.scratchText(section, i), b.notFor(who, st)
	if sec, ok := b.opened.Study.Section(section); ok {
		h.PassS = plan.PassTime(st.Lane, sec.W, sec.H)
	}
	return h
}

// mostAhead is how many passes ahead a tablet is told what follows.
const mostAhead = 20

func ledgerOf(l level.Ledger) api.Ledger {
	return api.Ledger{OpeningUm: estimate(l.Opening), GoneUm: estimate(l.Gone), NextUm: l.Next, FreeUm: l.Free,
		DoubtUm: l.Doubt, ReserveUm: l.Reserve, FloorUm: l.Floor, BalanceUm: estimate(l.Balance)}
}

// spots lists where to read next in a section: spots that were read before any
// work first, since they teach the cut, then a new one.
func (b *bench) spots(section string) ([]api.Place, error) {
	out := []api.Place{}
	var read []flatlay.Point
	for _, r := range b.live() {
		q := flatlay.Point{X: r.XMM, Y: r.YMM}
		read = append(read, q)
		if flatlay.SectionAt(b.sections, q) == section && !b.after(r) {
			p, err := b.place(q)
			if err != nil {
				return nil, err
			}
			out = append(out, placeOf(p))
		}
	}
	sec, _ := b.opened.Study.Section(section)
	for _, q := range film.NextSpots(b.ground, sec.Cells, b.opened.Study.FilmOf(sec.Cells), b.opened.Study.Need(), read, 1) {
		p, err := b.place(q)
		if err != nil {
			return nil, err
		}
		out = append(out, placeOf(p))
	}
	return out, nil
}

// AddEntry logs a pass, a paper change or the end of a step. The film has the
// last word on a pass.
func (s *Server) AddEntry(ctx context.Context, r api.AddEntryRequestObject) (api.AddEntryResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	in := *r.Body
	if b.ladder == nil {
		return nil, conflict("There is no plan of record for the %s that still holds: accept a sequence in Plan first.", b.row.Name)
	}
	if b.opened.Study == nil {
		return nil, conflict("%s", unreadText)
	}
	if _, err := b.inHand(&in.Section, ""); err != nil {
		return nil, err
	}
	if _, err := s.knowsPeople(ctx, b); err != nil {
		return nil, err
	}
	person := strings.TrimSpace(in.Person)
	switch {
	case len(in.Id) < 8 || len(in.Id) > 64:
		return nil, refuse("id", "The id of an entry has 8 to 64 signs and is made by the sender.")
	case !in.Kind.Valid():
		return nil, refuse("kind", "An entry is a pass, paper, done, shiny, override, scrape, colour, through, back, shave or block; %q is none of these.", in.Kind)
	case in.Step < 1 || in.Step > len(b.ladder.Steps):
		return nil, refuse("step", "The plan has steps 1 to %d; there is no step %d.", len(b.ladder.Steps), in.Step)
	case person == "" || len([]rune(person)) > 40:
		return nil, refuse("person", "Say who does it, in 1 to 40 letters.")
	}
	if err := checkEntry(in); err != nil {
		return nil, err
	}
	e := store.Entry{ID: in.Id, PlanID: b.record.ID, PanelID: b.row.ID, Section: in.Section, Step: in.Step, Kind: string(in.Kind), Person: person, At: s.now()}
	if in.Share != nil && in.Kind == api.EntryKindShiny {
		e.Value = *in.Share
	}
	if in.Reason != nil && (in.Kind == api.EntryKindOverride || in.Kind == api.EntryKindBack) {
		e.Note = strings.TrimSpace(*in.Reason)
	}
	switch in.Kind {
	case api.EntryKindBack:
		e.Value = againPasses
	case api.EntryKindShave, api.EntryKindBlock:
		if e.Mark = *in.Mark; !slices.ContainsFunc(b.marks, func(m store.Mark) bool { return m.ID == e.Mark && openMark(m) }) {
			return nil, refuse("mark", "The %s has no open mark %q: look again.", b.row.Name, e.Mark)
		}
	}
	late := false
	if in.SecondsAgo != nil {
		if e.At, late, err = madeAgo(*in.SecondsAgo, e.At); err != nil {
			return nil, err
		}
	}
	err = s.store.AddEntry(ctx, &e, func(log []store.Entry) error {
		b.entries = b.ofRecord(log)
		if err := errors.Join(s.sequences(b), s.readFilm(b)); err != nil {
			return err
		}
		if late && e.Kind == store.KindPass {
			return nil // it was made, whatever may be made now
		}
		return b.allows(e)
	})
	if err != nil {
		return nil, err
	}
	if e.Kind == store.KindThrough {
		m := b.throughMark(e)
		if err := s.store.AddMark(ctx, &m); err != nil {
			return nil, err
		}
	}
	return api.AddEntry201JSONResponse(entryOf(e)), nil
}

// unreadText is said where passes were made and no reading is left.
const unreadText = "Waits for Read: every reading was struck out, so nobody knows what is left. What was done stays in the log."

// A tap that took longer than onItsWay to arrive is late; one of longer ago than
// longAgo is a slip.
const (
	onItsWay = 10 * time.Second
	longAgo  = 14 * 24 * time.Hour
)

// madeAgo is when a tap was made and whether it comes late. The device says how
// long ago, not when: its clock may show anything.
func madeAgo(seconds float64, now time.Time) (time.Time, bool, error) {
	if math.IsNaN(seconds) || seconds > longAgo.Seconds() {
		return now, false, refuse("seconds_ago", "It is of more than two weeks ago. Log it, or read it, as it stands now.")
	}
	ago := time.Duration(math.Max(seconds, 0) * float64(time.Second))
	return now.Add(-ago), ago > onItsWay, nil
}

// allows says whether an entry may be logged as the panel stands.
func (b *bench) allows(e store.Entry) error {
	now := b.step(e.Section)
	if e.Kind == store.KindBack {
		return b.allowsBack(e)
	}
	if now >= len(b.ladder.Steps) {
		return conflict("All steps of this section are done. Strike the last one out to work on it again.")
	}
	if e.Step != now+1 {
		return conflict("This section is at step %d, %s, not at step %d. The screen was behind; look again.", now+1, b.ladder.Steps[now].Title, e.Step)
	}
	if _, locked := b.alarm(e.Section); locked && e.Kind == store.KindPass {
		return conflict("0 passes left: the pass was not counted. This section is through; strike that entry out if it was a mistake.")
	}
	if why := b.notFor(e.Person, b.ladder.Steps[now]); why != "" && made(e) {
		return conflict("The pass was not counted. %s", why)
	}
	if err := b.allowsOther(e); err != nil {
		return err
	}
	if e.Kind == store.KindPass {
		if a := b.advise(e.Section); a.Granted == 0 {
			_, why := advice(a, b.ladder.Steps[now])
			return conflict("0 passes left: the pass was not counted. %s Read more spots, or end the step as it is.", why)
		}
	}
	return nil
}

// StrikeEntry strikes an entry of the log out with a reason.
func (s *Server) StrikeEntry(ctx context.Context, r api.StrikeEntryRequestObject) (api.StrikeEntryResponseObject, error) {
	e, err := s.store.Entry(ctx, r.EntryId)
	if err != nil {
		return nil, err
	}
	reason, err := strikeReason(r.Body.Reason)
	if err != nil {
		return nil, err
	}
	if err := s.store.StrikeEntry(ctx, e.ID, reason, s.now()); err != nil {
		return nil, err
	}
	if e.Kind == store.KindThrough {
		_, err := s.store.ChangeMark(ctx, throughID(e), func(m *store.Mark) error {
			m.StruckAt, m.StruckReason = ptr(s.now()), reason
			return nil
		})
		if err != nil && !errors.Is(err, store.ErrMissing) { // told before Level placed a mark
			return nil, err
		}
	}
	if e, err = s.store.Entry(ctx, e.ID); err != nil {
		return nil, err
	}
	return api.StrikeEntry200JSONResponse(entryOf(e)), nil
}
