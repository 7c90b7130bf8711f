package house

import (
	"context"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"slices"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/cure"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/refuse"
)

// House is what a shop works with and by: its shelf and its house rules.
type House struct {
	Shelf shelf.Shelf
	Rules plan.Rules
	// Climate is how warm it is in the shop, by the days of Zone.
	Climate cure.Climate
	// Care is how long fresh paint is kept dry, where its sheet does not say.
	Care care.Rule
	Zone *time.Location
	Key  string // names shelf and rules
}

// House of the shop.
func (s *Service) House(ctx context.Context) (House, error) {
	changes, err := s.Store.Constants(ctx)
	if err != nil {
		return House{}, err
	}
	text, err := s.Store.Setting(ctx, rulesSetting, "{}")
	if err != nil {
		return House{}, err
	}
	h := House{Shelf: shelf.With(changes), Zone: s.Zone}
	work, err := s.LoadWorkshop(ctx)
	if err != nil {
		return House{}, err
	}
	h.Climate = work.Climate
	if h.Care, err = s.CareRule(ctx); err != nil {
		return House{}, err
	}
	if err := json.Unmarshal([]byte(text), &h.Rules); err != nil {
		return h, fmt.Errorf("house rules: %w", err)
	}
	sum := fnv.New64a()
	fmt.Fprintf(sum, "%s|%v", text, changes) // maps print by rising key
	h.Key = fmt.Sprintf("%x", sum.Sum64())
	return h, nil
}

// Under is the house with other rules.
func (h House) Under(rules plan.Rules) House {
	h.Key += fmt.Sprintf("|%v", rules)
	h.Rules = rules
	return h
}

// FollowSchool follows a school on a question, whatever else is changed meanwhile; was is the
// one that was seen before, nil where nobody looked.
func (s *Service) FollowSchool(ctx context.Context, question string, school plan.School, was *plan.School) (plan.Rules, error) {
	var rules plan.Rules
	err := s.Store.ChangeSetting(ctx, rulesSetting, "{}", func(text string) (string, error) {
		if err := json.Unmarshal([]byte(text), &rules); err != nil {
			return "", fmt.Errorf("house rules: %w", err)
		}
		if i := slices.IndexFunc(plan.Questions, func(q plan.Question) bool { return q.Key == question }); i >= 0 && was != nil && rules.Of(plan.Questions[i]) != *was {
			return "", refuse.Conflicting(refuse.OtherSince)
		}
		followed, err := rules.Follow(question, school)
		if err != nil {
			return "", refuse.Because(refuse.BadValue, "school", err)
		}
		rules = followed
		raw, err := json.Marshal(rules)
		return string(raw), err
	})
	return rules, err
}

// AllConstants is the key of every constant of the shelf at once.
const AllConstants = "all"

// ChangeConstant changes a constant of the shelf, or sets it back where value is nil, or
// all of them where the key says so.
func (s *Service) ChangeConstant(ctx context.Context, key string, value *float64) error {
	if value == nil && key == AllConstants {
		return s.Store.ResetConstants(ctx, "")
	}
	if value == nil {
		usual := shelf.Usual()
		if !slices.ContainsFunc(usual.Constants(), func(c shelf.Constant) bool { return c.Key == key }) {
			return refuse.Because(refuse.NoConstant, "key", key)
		}
		return s.Store.ResetConstants(ctx, key)
	}
	try := shelf.Usual()
	if err := try.Set(key, *value); err != nil {
		return refuse.Because(refuse.BadValue, "value", err)
	}
	return s.Store.SetConstant(ctx, key, *value)
}
