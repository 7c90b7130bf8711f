package panelwork

import (
	"context"
	"errors"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
	"waxplanus/core/marks"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Tally holds spotting the open marks of a panel against working all of it.
type Tally struct {
	marks.Sum
	All   []panel.JudgedMark
	Known bool // the film was read
}

// TallyOf of the panel's marks.
func TallyOf(p *panel.Panel, all []panel.JudgedMark) (Tally, error) {
	var open []marks.Judged
	for _, m := range all {
		if m.Open() {
			open = append(open, marks.Judged{Mark: m.Mark.Mark, Place: m.Place, Verdict: m.Verdict})
		}
	}
	whole := marks.Way{}
	if p.Options != nil {
		l, err := p.PanelLadder()
		if err != nil {
			return Tally{}, err
		}
		whole = marks.Way{Seconds: 60 * l.Minutes, Film: l.Film}
	}
	return Tally{marks.SumUp(open, p.Shape.Area()/1e6, whole, p.Car.Colour), all, p.Study != nil}, nil
}

// MarkCount is how many marks of a kind there are, with those that are open.
type MarkCount struct {
	Kind  marks.Kind
	Count int
	Open  []panel.JudgedMark
}

// CountMarks counts marks by kind, in the order of the kinds.
func CountMarks(all []panel.JudgedMark) []MarkCount {
	var out []MarkCount
	for _, k := range marks.Kinds() {
		c := MarkCount{Kind: k}
		for _, m := range all {
			if m.Kind != k {
				continue
			}
			c.Count++
			if m.Open() {
				c.Open = append(c.Open, m)
			}
		}
		if c.Count > 0 {
			out = append(out, c)
		}
	}
	return out
}

// Sizes of a mark that were given; nil says nothing. Film in µm, lengths in mm.
type Sizes struct {
	Length, Width, Angle, Size, Crest, Beside, Grade, Density *float64
	Class                                                     *marks.Class
	Note                                                      *string
}

func (in Sizes) put(m *marks.Mark, row *store.Mark) {
	for _, n := range []struct{ from, to *float64 }{
		{in.Length, &m.Length}, {in.Width, &m.Width}, {in.Angle, &m.Angle}, {in.Size, &m.Size},
		{in.Crest, &m.Crest}, {in.Beside, &m.Beside}, {in.Grade, &m.Grade}, {in.Density, &m.Density},
	} {
		if n.from != nil {
			*n.to = *n.from
		}
	}
	if in.Class != nil {
		m.Class = *in.Class
	}
	if in.Note != nil {
		row.Note = strings.TrimSpace(*in.Note)
	}
}

// Where a mark is found.
const (
	FoundInBooth    = "booth"
	FoundInWorkshop = "workshop"
)

var places = []string{FoundInBooth, FoundInWorkshop, "sun", "hand"}

// NewMark is a mark as it was placed. Empty Person and Found are the car's painter and
// the workshop.
type NewMark struct {
	ID, Person, Found string
	Kind              marks.Kind
	X, Y              float64
	Sizes             Sizes
}

// mostMarks is how many marks a panel may have, and mostNote how many letters a note.
const (
	mostMarks = 2000
	mostNote  = 500
)

// checkMark says what is wrong with a mark on a panel.
func checkMark(row store.Mark, shape flatlay.Panel) error {
	m := facts.CoreMark(row)
	var f marks.Fault
	if err := m.Check(); errors.As(err, &f) {
		return refuse.Because(refuse.BadValue, f.Field, f)
	}
	if err := advice.CheckPlace(shape, flatlay.Point{X: m.X, Y: m.Y}); err != nil {
		return err
	}
	if n := len([]rune(row.Note)); n > mostNote {
		return refuse.Because(refuse.LongNote, "note", mostNote, n)
	}
	if !slices.Contains(places, row.Found) {
		return refuse.Because(refuse.BadFound, "found", row.Found)
	}
	return nil
}

// PanelMark is a mark as it is now, with the tally of its panel.
type PanelMark struct {
	*panel.Panel
	Mark  panel.JudgedMark
	Tally Tally
}

func (s *Service) panelMark(ctx context.Context, row store.Mark) (PanelMark, error) {
	p, err := s.Panel(ctx, row.PanelID)
	if err != nil {
		return PanelMark{}, err
	}
	all, err := p.JudgedMarks(s.Now())
	if err != nil {
		return PanelMark{}, err
	}
	out := PanelMark{Panel: p}
	if j := panel.FirstOf(all, func(j panel.JudgedMark) bool { return j.ID == row.ID }); j != nil {
		out.Mark = *j
	} else if m := panel.FirstOf(p.Marks, func(m facts.Mark) bool { return m.ID == row.ID }); m != nil { // struck out
		one, err := p.Judge([]facts.Mark{*m}, s.Now())
		if err != nil {
			return out, err
		}
		out.Mark = one[0]
	}
	out.Tally, err = TallyOf(p, all)
	return out, err
}

// AddMark keeps one mark.
func (s *Service) AddMark(ctx context.Context, panelID string, in NewMark) (PanelMark, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return PanelMark{}, err
	}
	if err := house.CheckID(in.ID, house.OfMark); err != nil {
		return PanelMark{}, err
	}
	if len(p.Marks) >= mostMarks {
		return PanelMark{}, refuse.Conflicting(refuse.TooManyMarks, p.Name, len(p.Marks))
	}
	row := store.Mark{ID: in.ID, PanelID: p.ID, Found: in.Found, Person: p.Car.Painter, At: s.Now(), Outcome: store.OutcomeOpen}
	if row.Found == "" {
		row.Found = FoundInWorkshop
	}
	if strings.TrimSpace(in.Person) != "" {
		if row.Person, err = house.PersonName(in.Person); err != nil {
			return PanelMark{}, err
		}
	}
	m := marks.Placed(in.Kind, in.X, in.Y, p.PeelGrade())
	in.Sizes.put(&m, &row)
	facts.PutMark(m, &row)
	if err := checkMark(row, p.Shape); err != nil {
		return PanelMark{}, err
	}
	if err := s.Store.AddMark(ctx, &row); err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// MarkChange moves or sizes a mark; nil says nothing.
type MarkChange struct {
	X, Y  *float64
	Found *string
	Sizes Sizes
}

// ChangeMark moves or sizes a mark.
func (s *Service) ChangeMark(ctx context.Context, id string, in MarkChange) (PanelMark, error) {
	old, err := s.Store.Mark(ctx, id)
	if err != nil {
		return PanelMark{}, err
	}
	p, err := s.OpenPanel(ctx, old.PanelID)
	if err != nil {
		return PanelMark{}, err
	}
	return s.changeMark(ctx, id, func(row *store.Mark) error {
		m := facts.CoreMark(*row)
		if in.X != nil {
			m.X = *in.X
		}
		if in.Y != nil {
			m.Y = *in.Y
		}
		if in.Found != nil {
			row.Found = *in.Found
		}
		in.Sizes.put(&m, row)
		facts.PutMark(m, row)
		return checkMark(*row, p.Shape)
	})
}

func (s *Service) changeMark(ctx context.Context, id string, change func(*store.Mark) error) (PanelMark, error) {
	row, err := s.Store.ChangeMark(ctx, id, change)
	if err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// StrikeMark strikes a mark out.
func (s *Service) StrikeMark(ctx context.Context, id, reason string) (PanelMark, error) {
	reason, err := house.StrikeReason(reason)
	if err != nil {
		return PanelMark{}, err
	}
	return s.changeMark(ctx, id, func(m *store.Mark) error {
		m.Strike(reason, s.Now())
		return nil
	})
}

// RestoreMark takes a strike back.
func (s *Service) RestoreMark(ctx context.Context, id string) (PanelMark, error) {
	return s.changeMark(ctx, id, func(m *store.Mark) error {
		m.StruckAt, m.StruckReason = nil, ""
		return nil
	})
}

// MirrorMark copies a mark to the other side of the car, under an id of its own.
func (s *Service) MirrorMark(ctx context.Context, id, newID string) (PanelMark, error) {
	m, err := s.Store.Mark(ctx, id)
	if err != nil {
		return PanelMark{}, err
	}
	p, err := s.OpenPanel(ctx, m.PanelID)
	if err != nil {
		return PanelMark{}, err
	}
	to := p
	if key := p.Shape.Mirror; key != "" {
		row := panel.FirstOf(p.Siblings, func(o panel.Sibling) bool { return o.Key == key })
		if row == nil {
			return PanelMark{}, refuse.Conflicting(refuse.NoMirror, p.Name)
		}
		if to, err = s.OpenPanel(ctx, row.ID); err != nil {
			return PanelMark{}, err
		}
	} else if p.Shape.Side != "middle" {
		return PanelMark{}, refuse.Conflicting(refuse.OwnPart, p.Name)
	}
	if err := house.CheckID(newID, house.OfMark); err != nil {
		return PanelMark{}, err
	}
	at := p.Shape.Reflect(flatlay.Point{X: m.XMM, Y: m.YMM}, to.Shape)
	m.ID, m.PanelID, m.XMM, m.YMM, m.AngleDeg = newID, to.ID, at.X, at.Y, -m.AngleDeg
	m.At, m.Outcome, m.OutcomeReason, m.SpentUM = s.Now(), store.OutcomeOpen, "", 0
	m.ClosedAt, m.ClosedBy, m.StruckAt, m.StruckReason, m.HasPhoto = nil, "", nil, "", false
	if err := checkMark(m, to.Shape); err != nil {
		return PanelMark{}, err
	}
	if err := s.Store.AddMark(ctx, &m); err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, m)
}
