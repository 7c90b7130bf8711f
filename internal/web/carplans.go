package web

import (
	"context"
	"fmt"
	"slices"

	"waxplanus/core/plan"
	"waxplanus/internal/web/api"
)

// planned says whether a panel is one that is worked: it was read, or somebody
// said what is wanted of it.
func (b *bench) planned() bool {
	return b.options != nil && (b.record != nil || len(b.live()) > 0 || b.aim().Levels() || b.openMarks() > 0)
}

// GetCarPlans is every panel of a car that is worked, with its plan.
func (s *Server) GetCarPlans(ctx context.Context, r api.GetCarPlansRequestObject) (api.GetCarPlansResponseObject, error) {
	car, err := s.store.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	v, err := s.look(ctx, car)
	if err != nil {
		return nil, err
	}
	out := api.CarPlans{Car: carOf(car, v.next), Panels: []api.PanelPlan{}, Limits: []string{}}
	var sum plan.Sum
	for _, b := range v.all {
		if !b.planned() {
			continue
		}
		p := api.PanelPlan{Panel: panelOf(b)}
		res, err := b.inHandOrBest()
		if err != nil {
			return nil, err
		}
		if b.record != nil {
			p.Record = ptr(b.recordOf())
		}
		if p.Reached = res.Reached; !res.None {
			p.Line = ptr(b.line(res.Way))
			p.Text = b.stepsText(res.Way.Ladder.Choices())
		}
		if !res.Reached {
			p.Text = b.nothingText()
		}
		sum.Add(res, b.shape.Area())
		out.Panels = append(out.Panels, p)
	}
	out.Totals = sumOf(sum)
	if car.HoursLimit > 0 && sum.Minutes > 60*car.HoursLimit {
		out.Limits = append(out.Limits, fmt.Sprintf("%.1f h planned, the owner's limit is %.1f h: leave what is seen least, or take the quicker ways.", sum.Minutes/60, car.HoursLimit))
	}
	if car.CostLimit > 0 && sum.Money > car.CostLimit {
		out.Limits = append(out.Limits, fmt.Sprintf("Levelling and polishing come to %.0f, the owner's limit for all of it is %.0f.", sum.Money, car.CostLimit))
	}
	return api.GetCarPlans200JSONResponse(out), nil
}

// inHandOrBest is the plan of record that holds, or the balanced way.
func (b *bench) inHandOrBest() (plan.Result, error) {
	if b.ladder != nil {
		w := yours(b.ladder.Choices(), *b.ladder)
		w.Offer = plan.Offer(b.record.Offer)
		return plan.Result{Way: w, Reached: w.Offer != plan.Partly}, nil
	}
	return b.bestWay()
}

func sumOf(s plan.Sum) api.PlanSum {
	return api.PlanSum{Panels: s.Panels, Reached: s.Reached, FilmUm: s.Film, FilmMostUm: s.FilmMost, Hours: s.Minutes / 60, Money: s.Money,
		Sheets: s.Sheets, Discs: s.Discs, Clarity: s.Clarity}
}

// CompareSchools works a car under each school of a question.
func (s *Server) CompareSchools(ctx context.Context, r api.CompareSchoolsRequestObject) (api.CompareSchoolsResponseObject, error) {
	at := slices.IndexFunc(plan.Questions, func(q plan.Question) bool { return q.Key == r.Params.Question })
	if at < 0 {
		return nil, refuse("question", "There is no house rule %q.", r.Params.Question)
	}
	car, err := s.store.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	v, err := s.look(ctx, car)
	if err != nil {
		return nil, err
	}
	q := plan.Questions[at]
	house, err := s.houseOf(ctx)
	if err != nil {
		return nil, err
	}
	out := api.Schools{Car: carOf(car, v.next), Rule: ruleOf(q, house.rules)}
	var sums []plan.Sum
	for _, school := range q.Schools {
		rules, err := house.rules.Follow(q.Key, school)
		if err != nil {
			return nil, err
		}
		col, sum, err := s.under(v.all, rules)
		if err != nil {
			return nil, err
		}
		col.School = string(school)
		out.Columns = append(out.Columns, col)
		sums = append(sums, sum)
	}
	out.Text = comparedText(out.Rule, sums)
	return api.CompareSchools200JSONResponse(out), nil
}

// under works the panels of a car under rules: each read again where the rules
// say what film is safe.
func (s *Server) under(all []*bench, rules plan.Rules) (api.SchoolColumn, plan.Sum, error) {
	col := api.SchoolColumn{Panels: []api.SchoolPanel{}}
	var sum plan.Sum
	for _, was := range all {
		if !was.planned() {
			continue
		}
		b := *was
		b.house.rules, b.ladder, b.record = rules, nil, nil
		b.house.key += fmt.Sprintf("|%v", rules)
		var err error
		if b.options, err = s.optionsFor(b.house, b.job()); err != nil {
			return col, sum, err
		}
		if rules.SafeFilm != was.house.rules.SafeFilm {
			if err := s.readFilm(&b); err != nil {
				return col, sum, err
			}
		}
		res, err := b.bestWay()
		if err != nil {
			return col, sum, err
		}
		sum.Add(res, b.shape.Area())
		l := res.Way.Ladder
		text, clarity := b.stepsText(l.Choices()), 0.0
		if res.None {
			text = b.nothingText()
		} else {
			clarity = l.End().Clarity()
		}
		col.Panels = append(col.Panels, api.SchoolPanel{Name: b.row.Name, FilmUm: l.Film, Hours: l.Minutes / 60, Clarity: clarity, Reached: res.Reached, Text: text})
	}
	col.Totals = sumOf(sum)
	return col, sum, nil
}
