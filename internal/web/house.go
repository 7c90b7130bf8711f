package web

import (
	"context"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"slices"

	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/web/api"
)

// house is what a shop works with and by: its shelf and its house rules. key
// names both.
type house struct {
	shelf shelf.Shelf
	rules plan.Rules
	key   string
}

// halfClear is the share of a film that is clear where the house counts half of it.
const halfClear = 0.5

const rulesSetting = "house_rules"

func (s *Server) houseOf(ctx context.Context) (house, error) {
	changes, err := s.store.Constants(ctx)
	if err != nil {
		return house{}, err
	}
	text, err := s.store.Setting(ctx, rulesSetting, "{}")
	if err != nil {
		return house{}, err
	}
	h := house{}
	if err := json.Unmarshal([]byte(text), &h.rules); err != nil {
		return h, fmt.Errorf("house rules: %w", err)
	}
	sum := fnv.New64a()
	fmt.Fprintf(sum, "%s|%v", text, changes) // maps print by rising key
	h.key = fmt.Sprintf("%x", sum.Sum64())
	h.shelf = shelf.With(changes)
	return h, nil
}

// GetRules lists the questions that practitioners disagree on, with the schools.
func (s *Server) GetRules(ctx context.Context, _ api.GetRulesRequestObject) (api.GetRulesResponseObject, error) {
	h, err := s.houseOf(ctx)
	return api.GetRules200JSONResponse(rulesOf(h.rules)), err
}

// SetRule follows a school on a question.
func (s *Server) SetRule(ctx context.Context, r api.SetRuleRequestObject) (api.SetRuleResponseObject, error) {
	h, err := s.houseOf(ctx)
	if err != nil {
		return nil, err
	}
	rules, err := h.rules.Follow(r.Body.Key, plan.School(r.Body.School))
	if err != nil {
		return nil, refuse("school", "%s.", capital(err.Error()))
	}
	raw, err := json.Marshal(rules)
	if err != nil {
		return nil, err
	}
	return api.SetRule200JSONResponse(rulesOf(rules)), s.store.SetSetting(ctx, rulesSetting, string(raw))
}

func rulesOf(r plan.Rules) []api.HouseRule {
	out := []api.HouseRule{}
	for _, q := range plan.Questions {
		out = append(out, ruleOf(q, r))
	}
	return out
}

func ruleOf(q plan.Question, r plan.Rules) api.HouseRule {
	rule := api.HouseRule{Key: q.Key, Question: questionWords[q.Key], Computed: q.Computed, Chosen: string(r.Of(q))}
	for _, school := range q.Schools {
		w := schoolWords[q.Key+"."+string(school)]
		rule.Schools = append(rule.Schools, api.RuleSchool{Key: string(school), Name: w[0], Says: w[1]})
	}
	return rule
}

// GetShelf is what lies on the shelf, what each thing does, and what may come
// before the one that is picked.
func (s *Server) GetShelf(ctx context.Context, r api.GetShelfRequestObject) (api.GetShelfResponseObject, error) {
	h, err := s.houseOf(ctx)
	if err != nil {
		return nil, err
	}
	usual := shelf.Usual()
	out := api.Shelf{Constants: []api.Constant{}, Cutters: []api.Cutter{}, Befores: []api.Before{}}
	for i, c := range h.shelf.Constants() {
		u := usual.Constants()[i]
		if c.Value != u.Value {
			out.Changed++
		}
		out.Constants = append(out.Constants, api.Constant{Key: c.Key, Thing: c.Thing, ThingName: thingName(&h.shelf, c.Thing), Name: c.Name, Unit: c.Unit,
			Source: api.ConstantSource(c.Source), Value: c.Value, Usual: u.Value, Least: c.Least, Most: c.Most})
	}
	cutters := plan.Cutters(&h.shelf)
	pick := slices.IndexFunc(cutters, func(c plan.Cutter) bool { return r.Params.Pick != nil && c.Key() == *r.Params.Pick })
	may := map[string]bool{}
	if pick >= 0 {
		out.Picked = ptr(cutters[pick].Key())
		for _, b := range plan.Befores(&h.shelf, cutters[pick]) {
			may[b.Cutter.Key()] = b.Passes > 0
			out.Befores = append(out.Befores, api.Before{Key: b.Cutter.Key(), Title: b.Cutter.Title, What: b.Cutter.What, ScratchUm: b.Cutter.Scratch,
				Passes: b.Passes, FilmUm: b.Film, Text: beforeText(b)})
		}
	}
	for _, c := range cutters {
		out.Cutters = append(out.Cutters, api.Cutter{Key: c.Key(), Title: c.Title, What: c.What, Tool: string(c.Tool), Body: api.CutterBody(c.Body),
			CutUm: api.Estimate{Mean: c.Rate, Sd: c.Rate * plan.RateSpread}, ScratchUm: c.Scratch, Have: c.Have, May: may[c.Key()]})
	}
	return api.GetShelf200JSONResponse(out), nil
}

// SetConstant changes a constant of the shelf, or sets it or all of them back.
func (s *Server) SetConstant(ctx context.Context, r api.SetConstantRequestObject) (api.SetConstantResponseObject, error) {
	key := ""
	if r.Body.Key != nil {
		key = *r.Body.Key
	}
	if r.Body.Value == nil {
		return api.SetConstant204Response{}, s.store.ResetConstants(ctx, key)
	}
	try := shelf.Usual()
	if err := try.Set(key, *r.Body.Value); err != nil {
		return nil, refuse("value", "%s.", capital(err.Error()))
	}
	return api.SetConstant204Response{}, s.store.SetConstant(ctx, key, *r.Body.Value)
}
