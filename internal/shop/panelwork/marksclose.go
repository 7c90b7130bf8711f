package panelwork

import (
	"context"
	"slices"
	"strings"
	"time"

	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// MarkClose is what became of a mark, with the reason where one is left.
type MarkClose struct {
	ID      string
	Outcome facts.Outcome
	Reason  string
}

func (in *MarkClose) check() error {
	in.Reason = strings.TrimSpace(in.Reason)
	switch n := len([]rune(in.Reason)); {
	case !slices.Contains([]facts.Outcome{facts.Standing, facts.Gone, facts.Softened, facts.Left}, in.Outcome):
		return refuse.Because(refuse.BadOutcome, "outcome", in.Outcome)
	case in.Outcome == facts.Left && n < 2:
		return refuse.Because(refuse.WhyLeft, "reason")
	case n > house.MostReason:
		return refuse.Because(refuse.LongReason, "reason", house.MostReason)
	}
	return nil
}

// put closes a mark, which by what was judged to be done about it took film at its place.
func (in MarkClose) put(row *store.Mark, judged panel.JudgedMark, person string, now time.Time) error {
	if row.StruckAt != nil {
		return refuse.Conflicting(refuse.MarkStruck)
	}
	row.Outcome, row.OutcomeReason, row.SpentUM = string(in.Outcome), in.Reason, 0
	row.ClosedAt, row.ClosedBy = &now, person
	switch in.Outcome {
	case facts.Standing:
		row.ClosedAt, row.ClosedBy, row.OutcomeReason = nil, "", ""
	case facts.Gone, facts.Softened:
		row.SpentUM = judged.Took(in.Outcome == facts.Gone)
	}
	return nil
}

// CloseMark says what became of a mark. What it took at its place counts against
// its section from then on.
func (s *Service) CloseMark(ctx context.Context, in MarkClose, person string) (PanelMark, error) {
	row, err := s.Store.Mark(ctx, in.ID)
	if err != nil {
		return PanelMark{}, err
	}
	if err := s.CloseMarks(ctx, row.PanelID, []MarkClose{in}, person); err != nil {
		return PanelMark{}, err
	}
	if row, err = s.Store.Mark(ctx, in.ID); err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// CloseMarks says what became of marks of a panel, all of them or none.
func (s *Service) CloseMarks(ctx context.Context, panelID string, all []MarkClose, person string) error {
	person, err := house.PersonName(person)
	if err != nil {
		return err
	}
	if len(all) == 0 {
		return refuse.Because(refuse.NoMarksToClose, "marks")
	}
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return err
	}
	by, ids, plain := map[string]int{}, make([]string, len(all)), make([]facts.Mark, len(all))
	for i := range all {
		if err := all[i].check(); err != nil {
			return err
		}
		m := panel.FirstOf(p.Marks, func(m facts.Mark) bool { return m.ID == all[i].ID })
		if m == nil {
			return refuse.ErrMissing
		}
		by[m.ID], ids[i], plain[i] = i, m.ID, *m
		plain[i].Outcome = facts.Standing // judged as the work it was
	}
	judged, err := p.Judge(plain, s.Now())
	if err != nil {
		return err
	}
	return s.Store.CloseMarks(ctx, p.ID, ids, func(row *store.Mark) error {
		i := by[row.ID]
		return all[i].put(row, judged[i], person, s.Now())
	})
}
