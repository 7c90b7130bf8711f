package shop

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"strings"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
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
func (s *Shop) AddMeter(ctx context.Context, panelID string, in NewMeter) error {
	if err := checkID(in.ID, OfMeter); err != nil {
		return err
	}
	var err error
	if in.Person, err = personName(in.Person); err != nil {
		return err
	}
	in.Instrument = strings.TrimSpace(in.Instrument)
	switch n := len([]rune(in.Instrument)); {
	case in.Quantity != prove.Gloss && in.Quantity != prove.Clarity:
		return Refuse(BadQuantity, "quantity", in.Quantity)
	case !(in.Value >= 0 && in.Value <= in.Quantity.Most()):
		return Refuse(BadMeter, "value", in.Value, in.Quantity.Most())
	case n < 1 || n > mostInstrument:
		return Refuse(BadInstrument, "instrument", mostInstrument)
	case !slices.Contains(angles, in.Angle):
		return Refuse(BadAngle, "angle_deg", in.Angle)
	}
	p, err := s.panel(ctx, panelID)
	if err != nil {
		return err
	}
	if err := checkPlace(p.Shape, flatlay.Point{X: in.X, Y: in.Y}); err != nil {
		return err
	}
	rows, err := s.store.ProofRows(ctx, p.ID)
	if err != nil {
		return err
	}
	if len(rows.Meters) >= mostMeters {
		return conflict(TooManyMeters, p.Name, mostMeters)
	}
	row := store.MeterReading{ID: in.ID, PanelID: p.ID, Quantity: string(in.Quantity), Instrument: in.Instrument, AngleDeg: in.Angle, XMM: in.X, YMM: in.Y,
		Value: in.Value, After: p.Worked(), Person: in.Person, At: s.now()}
	if in.After != nil {
		row.After = *in.After
	}
	return s.store.AddMeterReading(ctx, &row)
}

// StrikeMeter strikes a reading of a meter out.
func (s *Shop) StrikeMeter(ctx context.Context, id, reason string) error {
	if _, err := s.store.MeterReading(ctx, id); err != nil {
		return err
	}
	reason, err := strikeReason(reason)
	if err != nil {
		return err
	}
	return s.store.StrikeMeterReading(ctx, id, reason, s.now())
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
func (s *Shop) AddProof(ctx context.Context, panelID string, in NewProof) (*PanelProof, error) {
	if err := checkID(in.ID, OfProof); err != nil {
		return nil, err
	}
	var err error
	if in.Person, err = personName(in.Person); err != nil {
		return nil, err
	}
	in.Note = strings.TrimSpace(in.Note)
	switch {
	case !slices.Contains([]string{Wiped, Scratched, Kept, SentBack}, in.Kind):
		return nil, Refuse(BadProof, "kind", in.Kind)
	case len([]rune(in.Note)) > mostReason:
		return nil, Refuse(LongReason, "note", mostReason)
	}
	if err := s.asJudged(func() error { return s.addProof(ctx, panelID, in) }); err != nil {
		return nil, err
	}
	return s.Prove(ctx, panelID)
}

func (s *Shop) addProof(ctx context.Context, panelID string, in NewProof) error {
	f, err := s.Prove(ctx, panelID)
	if err != nil {
		return err
	}
	row := store.Proof{ID: in.ID, PanelID: f.ID, Kind: in.Kind, Note: in.Note, Person: in.Person, At: s.now()}
	known := slices.ContainsFunc(f.Proofs, func(o Proof) bool { return o.ID == in.ID })
	var now *store.PanelNow
	switch in.Kind {
	case Wiped, Scratched:
		if row.Section = in.Section; in.Section != "" {
			if _, err := f.sectionNo(in.Section); err != nil {
				return err
			}
		}
	case Kept:
		if bar, barred := prove.Bars(f.Todos); barred && !known {
			return f.barred(bar)
		}
	case SentBack:
		if !f.MayGoBack() && !known {
			return conflict(NothingToSendBack, f.Name)
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
	return s.store.AddProof(ctx, &row, f.version, now)
}

// MayGoBack says whether passes were made under the plan of record.
func (f *PanelProof) MayGoBack() bool { return f.log.Worked() }

// barred says why a panel cannot be kept.
func (f *PanelProof) barred(bar prove.Todo) error {
	code, what := KeepUnfinished, "section"
	switch bar.Task {
	case prove.TaskScratch:
		code = KeepScratched
	case prove.TaskMarks:
		code, what = KeepMarks, "mark"
	}
	return conflict(code, f.Name, CountOf(bar.Count, what))
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
	haze := f.colour().Haze(f.House.Shelf.Law)
	for _, s := range f.Sections {
		if f.Work == nil { // every reading was struck out
			break
		}
		if now := f.Work.Reached(f.log.Passes(s.Key)); now.Scratch > haze {
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
func (s *Shop) StrikeProof(ctx context.Context, id, reason string) error {
	p, err := s.store.Proof(ctx, id)
	if err != nil {
		return err
	}
	if p.Kind == SentBack {
		return conflict(BackStays)
	}
	if reason, err = strikeReason(reason); err != nil {
		return err
	}
	return s.store.StrikeProof(ctx, id, reason, s.now())
}
