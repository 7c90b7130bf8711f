package proof

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// NewMeter is a reading of a meter as it was taken. After nil says nothing, as of a photo.
type NewMeter struct {
	ID, Person string
	prove.Read
	After *bool
}

// Limits of readings of meters.
const (
	mostMeters     = 500
	mostInstrument = 40
)

var angles = []float64{0, 20, 45, 60, 75, 85}

// AddMeter keeps a reading of a meter.
func (s *Service) AddMeter(ctx context.Context, panelID string, in NewMeter) error {
	if err := house.CheckID(in.ID, house.OfMeter); err != nil {
		return err
	}
	var err error
	if in.Person, err = house.PersonName(in.Person); err != nil {
		return err
	}
	in.Instrument = strings.TrimSpace(in.Instrument)
	switch n := len([]rune(in.Instrument)); {
	case in.Quantity != prove.Gloss && in.Quantity != prove.Clarity:
		return refuse.Because(refuse.BadQuantity, "quantity", in.Quantity)
	case !(in.Value >= 0 && in.Value <= in.Quantity.Most()):
		return refuse.Because(refuse.BadMeter, "value", in.Value, in.Quantity.Most())
	case n < 1 || n > mostInstrument:
		return refuse.Because(refuse.BadInstrument, "instrument", mostInstrument)
	case !slices.Contains(angles, in.Angle):
		return refuse.Because(refuse.BadAngle, "angle_deg", in.Angle)
	}
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return err
	}
	if err := advice.CheckPlace(p.Shape, flatlay.Point{X: in.X, Y: in.Y}); err != nil {
		return err
	}
	rows, err := s.Store.ProofRows(ctx, p.ID)
	if err != nil {
		return err
	}
	if len(rows.Meters) >= mostMeters {
		return refuse.Conflicting(refuse.TooManyMeters, p.Name, mostMeters)
	}
	row := store.MeterReading{ID: in.ID, PanelID: p.ID, Quantity: string(in.Quantity), Instrument: in.Instrument, AngleDeg: in.Angle, XMM: in.X, YMM: in.Y,
		Value: in.Value, After: p.Worked(), Person: in.Person, At: s.Now()}
	if in.After != nil {
		row.After = *in.After
	}
	return s.Store.AddMeterReading(ctx, &row)
}

// StrikeMeter strikes a reading of a meter out.
func (s *Service) StrikeMeter(ctx context.Context, id, reason string) error {
	if _, err := s.Store.MeterReading(ctx, id); err != nil {
		return err
	}
	reason, err := house.StrikeReason(reason)
	if err != nil {
		return err
	}
	return s.Store.StrikeMeterReading(ctx, id, reason, s.Now())
}

// NewProof is what somebody found or decides.
type NewProof struct{ ID, Kind, Section, Note, Person string }

// What is found and decided.
const (
	Wiped     = store.ProofWiped
	Scratched = store.ProofScratched
	Kept      = store.ProofKept
	SentBack  = store.ProofBack
)

// keptFacts are how a panel stood when it was kept or sent back.
type keptFacts struct {
	Reached prove.Reached `json:"reached"`
	Grade   float64       `json:"grade"`
	Source  Source        `json:"source,omitempty"`
	SpentUM float64       `json:"spent_um"`
	ClearUM float64       `json:"clear_um,omitempty"`
	Todos   []prove.Todo  `json:"todos,omitempty"`
}

// AddProof keeps what somebody found or decides. A panel is kept when its steps are done, its
// marks closed, and no scratch stands; one that is not good enough goes back to be planned from
// what is left.
func (s *Service) AddProof(ctx context.Context, panelID string, in NewProof) (*PanelProof, error) {
	if err := house.CheckID(in.ID, house.OfProof); err != nil {
		return nil, err
	}
	var err error
	if in.Person, err = house.PersonName(in.Person); err != nil {
		return nil, err
	}
	in.Note = strings.TrimSpace(in.Note)
	switch {
	case !slices.Contains([]string{Wiped, Scratched, Kept, SentBack}, in.Kind):
		return nil, refuse.Because(refuse.BadProof, "kind", in.Kind)
	case len([]rune(in.Note)) > house.MostReason:
		return nil, refuse.Because(refuse.LongReason, "note", house.MostReason)
	}
	if err := s.AsJudged(func() error { return s.addProof(ctx, panelID, in) }); err != nil {
		return nil, err
	}
	return s.Prove(ctx, panelID)
}

func (s *Service) addProof(ctx context.Context, panelID string, in NewProof) error {
	f, err := s.Prove(ctx, panelID)
	if err != nil {
		return err
	}
	row := store.Proof{ID: in.ID, PanelID: f.ID, Kind: in.Kind, Note: in.Note, Person: in.Person, At: s.Now()}
	known := slices.ContainsFunc(f.Proofs, func(o panel.Proof) bool { return o.ID == in.ID })
	var now *store.PanelNow
	switch in.Kind {
	case Wiped, Scratched:
		if row.Section = in.Section; in.Section != "" {
			if _, err := f.SectionNo(in.Section); err != nil {
				return err
			}
		}
	case Kept:
		if bar, barred := prove.Bars(f.Todos); barred && !known {
			return f.barred(bar)
		}
	case SentBack:
		if !f.MayGoBack() && !known {
			return refuse.Conflicting(refuse.NothingToSendBack, f.Name)
		}
		left := f.left()
		now = &left
	}
	if in.Kind == Kept || in.Kind == SentBack {
		facts := keptFacts{Reached: f.Outcome.Reached, SpentUM: f.Spent.Mean, Todos: f.Todos}
		if f.After != nil {
			facts.Source = f.After.Source
			facts.Grade, _ = f.After.Grade()
		}
		if _, st, ok := f.Decides(); ok {
			facts.ClearUM = st.Clear.Mean
		}
		raw, err := json.Marshal(facts)
		if err != nil {
			return err
		}
		row.Facts = string(raw)
	}
	return s.Store.AddProof(ctx, &row, f.RowsAt, now)
}

// MayGoBack says whether passes were made under the plan of record.
func (f *PanelProof) MayGoBack() bool { return f.Log.Worked() }

// barred says why a panel cannot be kept.
func (f *PanelProof) barred(bar prove.Todo) error {
	code, what := refuse.KeepUnfinished, "section"
	switch bar.Task {
	case prove.TaskScratch:
		code = refuse.KeepScratched
	case prove.TaskMarks:
		code, what = refuse.KeepMarks, "mark"
	}
	return refuse.Conflicting(code, f.Name, refuse.CountOf(bar.Count, what))
}

// Barred is why a panel cannot be kept now; nil where it can.
func (f *PanelProof) Barred() error {
	if bar, barred := prove.Bars(f.Todos); barred {
		return f.barred(bar)
	}
	return nil
}

// left is how a panel is that is sent back: its texture, and the deepest scratch that stands
// under the gloss or on top.
func (f *PanelProof) left() store.PanelNow {
	out := store.PanelNow{}
	if t := f.After; t != nil {
		out.PhotoTexture = store.PhotoTexture{PeelUM: t.Peel.Median, PeelSpread: t.Peel.Spread, PebbleUM: t.Pebble.Median, PebbleSpread: t.Pebble.Spread}
	}
	for _, h := range f.Hidden {
		if h.Likely {
			out.StandingUM = math.Max(out.StandingUM, h.Depth)
		}
	}
	haze := f.Colour().Haze(f.House.Shelf.Law)
	for _, s := range f.Sections {
		if f.Work == nil { // every reading was struck out
			break
		}
		if now := f.Work.Reached(f.Log.Passes(s.Key)); now.Scratch > haze {
			out.StandingUM = math.Max(out.StandingUM, now.Scratch)
		}
	}
	for _, w := range f.Wipes {
		if w.Seen == nil || w.Seen.Kind != Scratched {
			continue
		}
		depth := plan.UsualSwirl
		if w.Hidden != nil {
			depth = w.Hidden.Depth
		}
		out.StandingUM = math.Max(out.StandingUM, depth)
	}
	return out
}

// StrikeProof takes back what was found or decided, but for a panel that was sent back: it goes
// on from there.
func (s *Service) StrikeProof(ctx context.Context, id, reason string) error {
	p, err := s.Store.Proof(ctx, id)
	if err != nil {
		return err
	}
	if p.Kind == SentBack {
		return refuse.Conflicting(refuse.BackStays)
	}
	if reason, err = house.StrikeReason(reason); err != nil {
		return err
	}
	return s.Store.StrikeProof(ctx, id, reason, s.Now())
}
