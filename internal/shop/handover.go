package shop

import (
	"context"
	"encoding/json"
	"errors"
	"strings"
	"time"

	"waxplanus/core/care"
	"waxplanus/internal/store"
)

// NewHandover is a car that is handed over by Person on Day (zero for now). AsItIs says that
// what is still to do stays undone, for a reason.
type NewHandover struct {
	ID, Person string
	Day        time.Time
	AsItIs     bool
	Reason     string
}

// handedFacts are how a car stood when it was handed over.
type handedFacts struct {
	Todos []HandTodo      `json:"todos,omitempty"`
	Waits []care.Wait     `json:"waits,omitempty"`
	Clear map[string]left `json:"clear,omitempty"` // by the key of the panel
}

type left struct {
	ClearUM float64 `json:"clear_um"`
	SD      float64 `json:"sd_um"`
	SpentUM float64 `json:"spent_um"`
}

// HandOver closes a car: its film record is sealed, and nothing is written to it until it is
// opened again.
func (s *Shop) HandOver(ctx context.Context, carID string, in NewHandover) (*Handing, error) {
	if err := checkID(in.ID, OfHandover); err != nil {
		return nil, err
	}
	var err error
	if in.Person, err = personName(in.Person); err != nil {
		return nil, err
	}
	if in.Reason = strings.TrimSpace(in.Reason); len([]rune(in.Reason)) > mostReason {
		return nil, Refuse(LongReason, "reason", mostReason)
	}
	now := s.now()
	if in.Day.IsZero() {
		in.Day = now
	}
	row, err := s.store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if in.Day.After(now.Add(time.Minute)) || in.Day.Before(row.CreatedAt.Add(-24*time.Hour)) {
		return nil, Refuse(BadDay, "day", Day(in.Day))
	}
	if err := s.asJudged(func() error { return s.handOver(ctx, carID, in) }); err != nil {
		return nil, err
	}
	return s.Handing(ctx, carID)
}

func (s *Shop) handOver(ctx context.Context, carID string, in NewHandover) error {
	h, err := s.Handing(ctx, carID)
	if err != nil {
		return err
	}
	if h.HandedOverAt != nil {
		if h.Sent == in.ID {
			return nil // sent twice
		}
		return conflict(ClosedAlready, h.Name)
	}
	if len(h.Todos) > 0 && (!in.AsItIs || in.Reason == "") {
		return conflict(StillToDo, CountOf(len(h.Todos), "thing"))
	}
	facts := handedFacts{Todos: h.Todos, Waits: h.Waits, Clear: map[string]left{}}
	for _, l := range h.Lines {
		if l.Known {
			facts.Clear[l.Key] = left{l.Clear.Mean, l.Clear.SD, l.Spent.Mean}
		}
	}
	raw, err := json.Marshal(facts)
	if err != nil {
		return err
	}
	doc, err := s.store.Document(ctx, carID)
	if err != nil {
		return err
	}
	seal, err := store.SealOf(doc)
	if err != nil {
		return err
	}
	return s.store.AddHandover(ctx, &store.Handover{ID: in.ID, CarID: carID, Kind: HandedOver, Person: in.Person, Reason: in.Reason, Facts: string(raw), Seal: seal,
		OnDay: in.Day, At: s.now()}, h.Version)
}

// Reopen takes a car back into the shop for a reason; what it was handed over with stays on
// record.
func (s *Shop) Reopen(ctx context.Context, carID, id, person, reason string) (*Handing, error) {
	if err := checkID(id, OfHandover); err != nil {
		return nil, err
	}
	person, err := personName(person)
	if err != nil {
		return nil, err
	}
	reason = strings.TrimSpace(reason)
	if n := len([]rune(reason)); n < 2 || n > mostReason {
		return nil, Refuse(WhyReopen, "reason", mostReason)
	}
	now := s.now()
	err = s.store.AddHandover(ctx, &store.Handover{ID: id, CarID: carID, Kind: Reopened, Person: person, Reason: reason, OnDay: now, At: now}, 0)
	if errors.Is(err, store.ErrOpen) {
		row, failed := s.store.Car(ctx, carID)
		if failed != nil {
			return nil, failed
		}
		return nil, conflict(NotHandedOver, row.Name)
	}
	if err != nil {
		return nil, err
	}
	return s.Handing(ctx, carID)
}

// Forget deletes what is known of the owner of a car that was handed over, on the owner's wish:
// its name, their words, notes, what they were told and who agreed, and the photos too where
// they are to go. The film record stays, under a number.
func (s *Shop) Forget(ctx context.Context, carID, id, person string, photos bool, say func(body string, no int64) (car, owner string)) (*Handing, error) {
	if err := checkID(id, OfHandover); err != nil {
		return nil, err
	}
	person, err := personName(person)
	if err != nil {
		return nil, err
	}
	row, err := s.store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if row.HandedOverAt == nil {
		return nil, conflict(StillInShop, row.Name)
	}
	if row.ForgottenAt == nil {
		now := s.now()
		var as store.Forgotten
		as.Car, as.Owner = say(row.Body, row.Seq)
		gone, err := s.store.Forget(ctx, &store.Handover{ID: id, CarID: carID, Kind: Forgotten, Person: person, OnDay: now, At: now}, as, photos)
		if err != nil {
			return nil, err
		}
		for _, hash := range gone {
			if err := s.store.Pictures().Drop(hash); err != nil {
				return nil, err
			}
		}
	}
	return s.Handing(ctx, carID)
}
