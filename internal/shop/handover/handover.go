package handover

import (
	"context"
	"encoding/json"
	"errors"
	"strings"
	"time"

	"waxplanus/core/care"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
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
func (s *Service) HandOver(ctx context.Context, carID string, in NewHandover) (*Handing, error) {
	if err := house.CheckID(in.ID, house.OfHandover); err != nil {
		return nil, err
	}
	var err error
	if in.Person, err = house.PersonName(in.Person); err != nil {
		return nil, err
	}
	if in.Reason = strings.TrimSpace(in.Reason); len([]rune(in.Reason)) > house.MostReason {
		return nil, refuse.Because(refuse.LongReason, "reason", house.MostReason)
	}
	now := s.Now()
	if in.Day.IsZero() {
		in.Day = now
	}
	row, err := s.Store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if in.Day.After(now.Add(time.Minute)) || in.Day.Before(row.CreatedAt.Add(-24*time.Hour)) {
		return nil, refuse.Because(refuse.BadDay, "day", cars.Day(in.Day))
	}
	if err := s.AsJudged(func() error { return s.handOver(ctx, carID, in) }); err != nil {
		return nil, err
	}
	return s.Handing(ctx, carID)
}

func (s *Service) handOver(ctx context.Context, carID string, in NewHandover) error {
	h, err := s.Handing(ctx, carID)
	if err != nil {
		return err
	}
	if h.HandedOverAt != nil {
		if h.Sent == in.ID {
			return nil // sent twice
		}
		return refuse.Conflicting(refuse.ClosedAlready, h.Name)
	}
	if len(h.Todos) > 0 && (!in.AsItIs || in.Reason == "") {
		return refuse.Conflicting(refuse.StillToDo, refuse.CountOf(len(h.Todos), "thing"))
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
	doc, err := s.Store.Document(ctx, carID)
	if err != nil {
		return err
	}
	seal, err := store.SealOf(doc)
	if err != nil {
		return err
	}
	return s.Store.AddHandover(ctx, &store.Handover{ID: in.ID, CarID: carID, Kind: HandedOver, Person: in.Person, Reason: in.Reason, Facts: string(raw), Seal: seal,
		OnDay: in.Day, At: s.Now()}, h.Version)
}

// Reopen takes a car back into the shop for a reason; what it was handed over with stays on
// record.
func (s *Service) Reopen(ctx context.Context, carID, id, person, reason string) (*Handing, error) {
	if err := house.CheckID(id, house.OfHandover); err != nil {
		return nil, err
	}
	person, err := house.PersonName(person)
	if err != nil {
		return nil, err
	}
	reason = strings.TrimSpace(reason)
	if n := len([]rune(reason)); n < 2 || n > house.MostReason {
		return nil, refuse.Because(refuse.WhyReopen, "reason", house.MostReason)
	}
	now := s.Now()
	err = s.Store.AddHandover(ctx, &store.Handover{ID: id, CarID: carID, Kind: Reopened, Person: person, Reason: reason, OnDay: now, At: now}, 0)
	if errors.Is(err, store.ErrOpen) {
		row, failed := s.Store.Car(ctx, carID)
		if failed != nil {
			return nil, failed
		}
		return nil, refuse.Conflicting(refuse.NotHandedOver, row.Name)
	}
	if err != nil {
		return nil, err
	}
	return s.Handing(ctx, carID)
}

// Forget deletes what is known of the owner of a car that was handed over, on the owner's wish:
// its name, their words, notes, what they were told and who agreed, and the photos too where
// they are to go. The film record stays, under a number.
func (s *Service) Forget(ctx context.Context, carID, id, person string, photos bool, say func(body string, no int64) (car, owner string)) (*Handing, error) {
	if err := house.CheckID(id, house.OfHandover); err != nil {
		return nil, err
	}
	person, err := house.PersonName(person)
	if err != nil {
		return nil, err
	}
	row, err := s.Store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	if row.HandedOverAt == nil {
		return nil, refuse.Conflicting(refuse.StillInShop, row.Name)
	}
	if row.ForgottenAt == nil {
		now := s.Now()
		var as store.Forgotten
		as.Car, as.Owner = say(row.Body, row.Seq)
		gone, err := s.Store.Forget(ctx, &store.Handover{ID: id, CarID: carID, Kind: Forgotten, Person: person, OnDay: now, At: now}, as, photos)
		if err != nil {
			return nil, err
		}
		for _, hash := range gone {
			if err := s.Store.Pictures().Drop(hash); err != nil {
				return nil, err
			}
		}
	}
	return s.Handing(ctx, carID)
}
