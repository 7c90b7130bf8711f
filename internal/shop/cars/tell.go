package cars

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// TellReason says why something will not come out.
type TellReason string

// Why texture stays, and then why marks do.
const (
	StaysByMatch  TellReason = "match"  // it shall look like what is beside it
	StaysByNibs   TellReason = "nibs"   // only dust and runs come out
	StaysUnsure   TellReason = "unsure" // too little was read
	StaysThin     TellReason = "thin"   // the film does not allow it
	StaysLittle   TellReason = "little" // it comes out, and little clear stays
	StaysAsSaid   TellReason = "said"   // for the reason that somebody gave
	StaysToColour TellReason = "colour" // they go down to the colour
	StaysUnread   TellReason = "unread" // they may stay: too little was read
	StaysSofter   TellReason = "softer"
	StaysUnsanded TellReason = "unsanded" // the panel is polished and not sanded
	StaysDeep     TellReason = "deep"     // for want of clear
)

// WhyMarksStay says it of marks that are alike. settled says that enough was read to know what
// the film does not allow.
func WhyMarksStay(all []panel.JudgedMark, settled bool) TellReason {
	j := all[0]
	why := j.Verdict.Why
	switch {
	case j.Outcome == facts.Left && j.Reason != "":
		return StaysAsSaid
	case j.Do == marks.DoRespray:
		return StaysToColour
	case j.Outcome == facts.Standing && !settled && (why == marks.WhyNoFilm || why == marks.WhyDeep || why == marks.WhyPartly):
		return StaysUnread
	case j.Do == marks.DoSoften || j.Outcome == facts.Softened:
		return StaysSofter
	case why == marks.WhyNoSanding:
		return StaysUnsanded
	}
	return StaysDeep
}

// Telling is one thing that will not come out: marks of one kind on a panel, or the
// texture of panels, for one reason. SaidAs are the words in which the owner was told,
// empty for not yet.
type Telling struct {
	Key, PanelID   string
	Panels         []string // by name
	Marks          []panel.JudgedMark
	Reason         TellReason
	SaidAs, Person string
	SaidAt         time.Time
	saidOf         string // facts that the owner was told
}

// facts are what the owner is told, without its words: how much of what stays where, and why.
func (t *Telling) facts() string {
	of := fmt.Sprintf("%s|%s|%d", strings.Join(t.Panels, ","), t.Reason, len(t.Marks))
	if t.Reason == StaysAsSaid {
		of += "|" + t.Marks[0].Reason
	}
	return of
}

// Told says whether the owner was told of it as it is now. What was told before facts were kept
// beside the words (saidOf is empty) counts.
func (t *Telling) Told() bool {
	return t.SaidAs != "" && (t.saidOf == "" || t.saidOf == t.facts())
}

// Untold is how many of the things that will not come out the owner was not told of as they are.
func Untold(all []Telling) int {
	n := 0
	for i := range all {
		if !all[i].Told() {
			n++
		}
	}
	return n
}

// Tellings lists what will not come out of a car: marks that are left or softened, then
// texture that stays by the aim or for want of film.
func (s *Service) Tellings(c *panel.Car) ([]Telling, error) {
	var out []Telling
	for _, p := range c.Panels {
		all, err := p.JudgedMarks(s.Now())
		if err != nil {
			return nil, err
		}
		byKey := map[string]int{}
		for _, m := range all {
			told := m.Open() && m.Do.Tell() || m.Outcome == facts.Left || m.Outcome == facts.Softened
			if !told || m.Verdict.Why == marks.WhyTextStays {
				continue
			}
			key := fmt.Sprintf("%s|%s|%s", p.ID, m.Kind, m.Do)
			i, known := byKey[key]
			if !known {
				i = len(out)
				byKey[key] = i
				out = append(out, Telling{Key: key, PanelID: p.ID, Panels: []string{p.Name}})
			}
			out[i].Marks = append(out[i].Marks, m)
		}
		for i := range out {
			if t := &out[i]; t.PanelID == p.ID {
				t.Reason = WhyMarksStay(t.Marks, p.Settled())
			}
		}
	}
	return append(out, textureStays(c.Panels)...), nil
}

// textureStays are the panels whose texture will not come out, together by reason.
func textureStays(all []*panel.Panel) []Telling {
	var out []Telling
	for _, p := range all {
		var reason TellReason
		switch {
		case p.Aim == plan.Match:
			reason = StaysByMatch
		case p.Aim == plan.NibsOnly:
			reason = StaysByNibs
		case p.Aim == plan.Flat:
			if _, st, ok := p.Decides(); ok && st.State == film.Shut {
				reason = StaysThin
				if !p.Settled() {
					reason = StaysUnsure
				}
			} else if ok && st.State == film.Tight && p.Settled() {
				reason = StaysLittle
			}
		}
		if reason == "" {
			continue
		}
		t := panel.FirstOf(out, func(t Telling) bool { return t.Reason == reason })
		if t == nil {
			out = append(out, Telling{Key: "aim|" + string(reason), PanelID: p.ID, Reason: reason})
			t = &out[len(out)-1]
		}
		t.Panels = append(t.Panels, p.Name)
	}
	return out
}

// TellingsOf are the tellings of a car with what was said of each.
func (s *Service) TellingsOf(ctx context.Context, c *panel.Car) ([]Telling, error) {
	said, err := s.Store.Tellings(ctx, c.ID)
	if err != nil {
		return nil, err
	}
	out, err := s.Tellings(c)
	if err != nil {
		return nil, err
	}
	for i := range out {
		if k := panel.FirstOf(said, func(k store.Telling) bool { return k.Key == out[i].Key }); k != nil {
			out[i].SaidAs, out[i].SaidAt, out[i].Person, out[i].saidOf = k.Text, k.SaidAt, k.Person, k.Facts
		}
	}
	return out, nil
}

// TellOwner keeps that the owner was told something in the words that say gives it, or
// takes that back.
func (s *Service) TellOwner(ctx context.Context, carID, key, person string, said bool, say func(Telling) string) ([]Telling, error) {
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if person, err = house.PersonName(person); err != nil {
		return nil, err
	}
	if !said {
		if err := s.Store.Untell(ctx, c.ID, key); err != nil {
			return nil, err
		}
		return s.TellingsOf(ctx, c)
	}
	list, err := s.Tellings(c)
	if err != nil {
		return nil, err
	}
	t := panel.FirstOf(list, func(t Telling) bool { return t.Key == key })
	if t == nil {
		return nil, refuse.Conflicting(refuse.NothingToTell)
	}
	if err := s.Store.Tell(ctx, store.Telling{CarID: c.ID, Key: t.Key, Text: say(*t), Facts: t.facts(), SaidAt: s.Now(), Person: person}); err != nil {
		return nil, err
	}
	return s.TellingsOf(ctx, c)
}

// TaskKind names a task of the checklist.
type TaskKind string

// The tasks that are done to a car before it is looked over, in their order.
const (
	Wash          TaskKind = "wash"
	Decontaminate TaskKind = "decontaminate"
	StripWax      TaskKind = "strip"
	TakeOff       TaskKind = "take_off"
	Mask          TaskKind = "mask"
)

var tasks = []TaskKind{Wash, Decontaminate, StripWax, TakeOff, Mask}

// Task is one of them; DoneAt is nil until it is ticked.
type Task struct {
	Kind   TaskKind
	DoneAt *time.Time
	Person string
}

func (s *Service) checklistOf(ctx context.Context, carID string) ([]Task, error) {
	done, err := s.Store.Tasks(ctx, carID)
	if err != nil {
		return nil, err
	}
	var out []Task
	for _, kind := range tasks {
		t := Task{Kind: kind}
		if d := panel.FirstOf(done, func(d store.Task) bool { return d.Task == string(kind) }); d != nil {
			t.DoneAt, t.Person = &d.DoneAt, d.Person
		}
		out = append(out, t)
	}
	return out, nil
}

// TickTask ticks a task or takes the tick back.
func (s *Service) TickTask(ctx context.Context, carID string, kind TaskKind, person string, done bool) ([]Task, error) {
	c, err := s.Store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if !slices.Contains(tasks, kind) {
		return nil, refuse.Because(refuse.BadTask, "task", kind)
	}
	if person, err = house.PersonName(person); err != nil {
		return nil, err
	}
	if done {
		err = s.Store.Tick(ctx, store.Task{CarID: c.ID, Task: string(kind), DoneAt: s.Now(), Person: person})
	} else {
		err = s.Store.Untick(ctx, c.ID, string(kind))
	}
	if err != nil {
		return nil, err
	}
	return s.checklistOf(ctx, c.ID)
}
