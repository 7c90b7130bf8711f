package house

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"waxplanus/core/schedule"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// PersonHours is what is said of when somebody works and what they do; nil says nothing. A
// Week that is not their own is the shop's.
type PersonHours struct {
	Name          string
	Week          *schedule.Week
	OwnWeek       bool
	Off           *[]schedule.Days
	Kinds         *[]string
	Machine, Rate *float64
}

// What bounds it.
const (
	mostMachine = 24 * 60.0
	mostRate    = 1000.0
)

// SetHours changes when somebody works and what they do.
func (s *Service) SetHours(ctx context.Context, in PersonHours) error {
	name, err := PersonName(in.Name)
	if err != nil {
		return err
	}
	if in.Week != nil {
		if err := checkWeek(*in.Week); err != nil {
			return err
		}
	}
	if in.Off != nil {
		if err := checkDays(*in.Off, "off"); err != nil {
			return err
		}
	}
	for _, k := range given(in.Kinds) {
		if !slices.Contains(schedule.Kinds, schedule.Kind(k)) {
			return refuse.Because(refuse.BadValue, "kinds", fmt.Errorf("there is no task %q; they are %s", k, kindList()))
		}
	}
	for _, n := range []struct {
		field string
		value *float64
		most  float64
		unit  string
	}{{"machine_min", in.Machine, mostMachine, "min a day"}, {"rate", in.Rate, mostRate, "money an hour"}} {
		if n.value != nil && !(*n.value >= 0 && *n.value <= n.most) {
			return refuse.Because(refuse.BadValue, n.field, fmt.Errorf("it goes from 0 to %.0f %s", n.most, n.unit))
		}
	}
	return s.Store.ChangePerson(ctx, name, func(p *store.Person) error {
		if in.Week != nil {
			if p.Hours = ""; in.OwnWeek {
				raw, err := json.Marshal(in.Week)
				if err != nil {
					return err
				}
				p.Hours = string(raw)
			}
		}
		if in.Off != nil {
			raw, err := json.Marshal(*in.Off)
			if err != nil {
				return err
			}
			p.Off = string(raw)
		}
		if in.Kinds != nil {
			p.Kinds = strings.Join(*in.Kinds, ",")
		}
		if in.Machine != nil {
			p.MachineMin = *in.Machine
		}
		if in.Rate != nil {
			p.Rate = *in.Rate
		}
		return nil
	})
}

func given[T any](all *[]T) []T {
	if all == nil {
		return nil
	}
	return *all
}

func kindList() string {
	var out []string
	for _, k := range schedule.Kinds {
		out = append(out, string(k))
	}
	return strings.Join(out, ", ")
}
