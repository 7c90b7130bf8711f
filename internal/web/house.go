package web

import (
	"context"
	"slices"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func (v view) rule(q plan.Question, r plan.Rules) api.HouseRule {
	out := api.HouseRule{Key: q.Key, Question: v.Question(q.Key), Computed: q.Computed, Chosen: string(r.Of(q))}
	out.Schools = each(q.Schools, func(school plan.School) api.RuleSchool {
		name, says := v.School(q.Key, school)
		return api.RuleSchool{Key: string(school), Name: name, Says: says}
	})
	return out
}

func (v view) rules(r plan.Rules) []api.HouseRule {
	return each(plan.Questions, func(q plan.Question) api.HouseRule { return v.rule(q, r) })
}

// GetRules lists the questions that practitioners disagree on, with the schools.
func (s *Server) GetRules(ctx context.Context, _ api.GetRulesRequestObject) (api.GetRulesResponseObject, error) {
	h, err := s.shop.House(ctx)
	return api.GetRules200JSONResponse(viewOf(ctx).rules(h.Rules)), err
}

// SetRule follows a school on a question.
func (s *Server) SetRule(ctx context.Context, r api.SetRuleRequestObject) (api.SetRuleResponseObject, error) {
	rules, err := s.shop.FollowSchool(ctx, r.Body.Key, plan.School(r.Body.School), (*plan.School)(r.Body.Was))
	return api.SetRule200JSONResponse(viewOf(ctx).rules(rules)), err
}

// GetShelf is what lies on the shelf, what each thing does, and what may come
// before the one that is picked.
func (s *Server) GetShelf(ctx context.Context, r api.GetShelfRequestObject) (api.GetShelfResponseObject, error) {
	h, err := s.shop.House(ctx)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	usual := shelf.Usual()
	out := api.Shelf{Constants: []api.Constant{}, Cutters: []api.Cutter{}, Befores: []api.Before{}}
	for i, c := range h.Shelf.Constants() {
		u := usual.Constants()[i]
		if c.Value != u.Value {
			out.Changed++
		}
		out.Constants = append(out.Constants, api.Constant{Key: c.Key, Thing: c.Thing, ThingName: v.Thing(&h.Shelf, c.Thing), Name: c.Name, Unit: c.Unit,
			Source: api.ConstantSource(c.Source), Value: c.Value, Usual: u.Value, Least: c.Least, Most: c.Most})
	}
	cutters := plan.Cutters(&h.Shelf)
	may := map[string]bool{}
	if pick := slices.IndexFunc(cutters, func(c plan.Cutter) bool { return c.Key() == given(r.Params.Pick) }); pick >= 0 {
		out.Picked = ptr(cutters[pick].Key())
		for _, b := range plan.Befores(&h.Shelf, cutters[pick]) {
			may[b.Cutter.Key()] = b.Passes > 0
			out.Befores = append(out.Befores, api.Before{Key: b.Cutter.Key(), Title: b.Cutter.Title, What: b.Cutter.What, ScratchUm: b.Cutter.Scratch,
				Passes: b.Passes, FilmUm: b.Film, Text: v.Before(b)})
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
	return api.SetConstant204Response{}, s.shop.ChangeConstant(ctx, r.Body.Key, r.Body.Value)
}

func (v view) learned(l level.Learned, name string) api.Learned {
	return api.Learned{Name: name, Times: estimate(l.Times), Readings: l.Readings, Text: v.Learned(l)}
}

func (s *Server) hands(ctx context.Context) (api.Hands, error) {
	h, err := s.shop.Hands(ctx)
	if err != nil {
		return api.Hands{}, err
	}
	paces, err := s.shop.Paces(ctx)
	if err != nil {
		return api.Hands{}, err
	}
	v := viewOf(ctx)
	return api.Hands{Paces: each(paces, v.pace), Grits: h.Shelf.Grits(), Backings: each(h.Shelf.Backings, func(b shelf.Backing) api.BackingName { return api.BackingName{Key: b.Key, Name: b.Name} }),
		People: each(h.People, func(p panel.Person) api.Person {
			return api.Person{Name: p.Name, Coarsest: p.Coarsest, May: v.MayRun(p.Coarsest), Cut: v.learned(p.Cut, p.Name), Week: weekOf(p.Week), OwnHours: p.Own, Off: daysOf(p.Off),
				Kinds: each(p.Kinds, func(k schedule.Kind) string { return string(k) }), MachineMin: p.Machine, Rate: p.Rate, HoursText: v.Hours(p.Worker)}
		}),
		Tasks: each(schedule.UsualKinds, func(k schedule.Kind) api.TaskKindName {
			return api.TaskKindName{Kind: string(k), Name: wording.TaskName(k)}
		}),
		Abrasives: each(h.Abrasives, func(l level.Learned) api.Learned { return v.learned(l, v.Class(&h.Shelf, l.Name)) }),
	}, nil
}

// GetPeople lists the hands of the shop.
func (s *Server) GetPeople(ctx context.Context, _ api.GetPeopleRequestObject) (api.GetPeopleResponseObject, error) {
	out, err := s.hands(ctx)
	return api.GetPeople200JSONResponse(out), err
}

// SetPerson takes somebody in, or changes what they may run.
func (s *Server) SetPerson(ctx context.Context, r api.SetPersonRequestObject) (api.SetPersonResponseObject, error) {
	if err := s.shop.TakeOn(ctx, r.Body.Name, r.Body.Coarsest, r.Body.Was); err != nil {
		return nil, err
	}
	out, err := s.hands(ctx)
	return api.SetPerson200JSONResponse(out), err
}

// GetPress holds what a hand puts on a scale against what a backing wants.
func (s *Server) GetPress(ctx context.Context, r api.GetPressRequestObject) (api.GetPressResponseObject, error) {
	b, p, err := s.shop.Press(ctx, r.Params.Backing, r.Params.Kg)
	if err != nil {
		return nil, err
	}
	return api.GetPress200JSONResponse{WantsKg: hundredth(p.Wants), PutsKg: p.Puts, Times: hundredth(p.Times), Text: wording.Press(b, p)}, nil
}

func (v view) pace(p offers.ToolPace) api.ToolPace {
	text, differs := wording.Pace(p)
	return api.ToolPace{Of: api.ToolPaceOf(p.Of), Factor: hundredth(p.Factor), Low: hundredth(p.Low()), High: hundredth(p.High()), Pieces: p.Pieces, Now: p.Now, Key: p.Key, Text: text, Differs: differs}
}
