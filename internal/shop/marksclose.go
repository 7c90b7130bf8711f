package shop

import (
	"context"
	"slices"
	"strings"
	"time"

	"waxplanus/internal/store"
)

// MarkClose is what became of a mark, with the reason where one is left.
type MarkClose struct {
	ID      string
	Outcome Outcome
	Reason  string
}

func (in *MarkClose) check() error {
	in.Reason = strings.TrimSpace(in.Reason)
	switch n := len([]rune(in.Reason)); {
	case !slices.Contains([]Outcome{Standing, Gone, Softened, Left}, in.Outcome):
		return Refuse(BadOutcome, "outcome", in.Outcome)
	case in.Outcome == Left && n < 2:
		return Refuse(WhyLeft, "reason")
	case n > mostReason:
		return Refuse(LongReason, "reason", mostReason)
	}
	return nil
}

// put closes a mark, which by what was judged to be done about it took film at its place.
func (in MarkClose) put(row *store.Mark, judged JudgedMark, person string, now time.Time) error {
	if row.StruckAt != nil {
		return conflict(MarkStruck)
	}
	row.Outcome, row.OutcomeReason, row.SpentUM = string(in.Outcome), in.Reason, 0
	row.ClosedAt, row.ClosedBy = &now, person
	switch in.Outcome {
	case Standing:
		row.ClosedAt, row.ClosedBy, row.OutcomeReason = nil, "", ""
	case Gone, Softened:
		row.SpentUM = judged.Took(in.Outcome == Gone)
	}
	return nil
}

// CloseMark says what became of a mark. What it took at its place counts against
// its section from then on.
func (s *Shop) CloseMark(ctx context.Context, in MarkClose, person string) (PanelMark, error) {
	row, err := s.store.Mark(ctx, in.ID)
	if err != nil {
		return PanelMark{}, err
	}
	if err := s.CloseMarks(ctx, row.PanelID, []MarkClose{in}, person); err != nil {
		return PanelMark{}, err
	}
	if row, err = s.store.Mark(ctx, in.ID); err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// CloseMarks says what became of marks of a panel, all of them or none.
func (s *Shop) CloseMarks(ctx context.Context, panelID string, all []MarkClose, person string) error {
	person, err := personName(person)
	if err != nil {
		return err
	}
	if len(all) == 0 {
		return Refuse(NoMarksToClose, "marks")
	}
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	by, ids, plain := map[string]int{}, make([]string, len(all)), make([]Mark, len(all))
	for i := range all {
		if err := all[i].check(); err != nil {
			return err
		}
		m := find(p.Marks, func(m Mark) bool { return m.ID == all[i].ID })
		if m == nil {
			return ErrMissing
		}
		by[m.ID], ids[i], plain[i] = i, m.ID, *m
		plain[i].Outcome = Standing // judged as the work it was
	}
	judged, err := p.judge(plain, s.now())
	if err != nil {
		return err
	}
	return s.store.CloseMarks(ctx, p.ID, ids, func(row *store.Mark) error {
		i := by[row.ID]
		return all[i].put(row, judged[i], person, s.now())
	})
}
