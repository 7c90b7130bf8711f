package offers

import (
	"cmp"
	"context"
	"slices"

	"waxplanus/core/plan"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
)

// Planned says whether a panel is one that is worked: it was read, or somebody said what
// is wanted of it.
func Planned(p *panel.Panel) bool {
	return p.Options != nil && (p.Record != nil || len(p.Live()) > 0 || p.Aim.Levels() || p.Outline().OpenMarks > 0)
}

// PanelPlan is what a panel comes to.
type PanelPlan struct {
	*panel.Panel
	Result plan.Result
}

// CarPlans are the panels of a car that are worked, with what they come to together.
type CarPlans struct {
	*panel.Car
	Plans []PanelPlan
	Sum   plan.Sum
}

// Gain is what an hour of a panel's plan takes of swirls, in m² that are rid of them; 0 where
// that is not what the plan is for.
func (p PanelPlan) Gain() float64 {
	if p.Options == nil || !p.Options.Job.Corrects() || p.Result.None || p.Result.Way.Ladder.Minutes <= 0 {
		return 0
	}
	return p.Shape.Area() / 1e6 * p.Result.Way.Ladder.Gone() / (p.Result.Way.Ladder.Minutes / 60)
}

// BestNext is the panel that gains most an hour of those on which no work has begun; nil
// where none is corrected.
func (c *CarPlans) BestNext() *PanelPlan {
	var best *PanelPlan
	for i := range c.Plans {
		p := &c.Plans[i]
		if p.Worked() || !p.Result.Reached || p.Gain() <= 0 {
			continue
		}
		if best == nil || p.Gain() > best.Gain() {
			best = p
		}
	}
	return best
}

// Lit is how a panel is seen: as somebody said, or else by where it is on its car.
func Lit(p *panel.Panel) facts.Lit {
	switch rank := cars.Height(p.Shape); {
	case p.Light != facts.LitByPlace:
		return p.Light
	case rank == cars.Lowest:
		return facts.LiesLow
	case rank == cars.Upright:
		return facts.OnSide
	}
	return facts.FacesUp
}

// Shown is how well the light shows a panel, 0 to 1, by the weights of the house.
func Shown(p *panel.Panel) float64 {
	law := &p.House.Shelf.Law
	return map[facts.Lit]float64{facts.FacesUp: law.SeenUp, facts.OnSide: law.SeenSide, facts.LiesLow: law.SeenLow, facts.Covered: law.SeenCovered}[Lit(p)]
}

// GainFilm is what the next µm of a panel takes of swirls beyond its plan, in m² as they show;
// 0 where nothing more may go, or the deepest are all that is left.
func (p PanelPlan) GainFilm() float64 {
	if p.Gain() <= 0 || p.Worked() || p.Result.Way.Ladder.Film+1 > p.PlanHeadroom() {
		return 0
	}
	l := p.Result.Way.Ladder
	end := l.Steps[len(l.Steps)-1].Removed
	return p.Shape.Area() / 1e6 * Shown(p.Panel) * (l.Corrects.Gone(end+1) - l.Corrects.Gone(end))
}

// NextFilm are the panels on which the next µm shows most, the best first, and those that are
// corrected and better left with what they have: film is short there, or hardly shows.
func (c *CarPlans) NextFilm() (best, left []*PanelPlan) {
	for i := range c.Plans {
		p := &c.Plans[i]
		switch gain := p.GainFilm(); {
		case p.Options == nil || !p.Options.Job.Corrects() || p.Worked():
		case gain > 0:
			best = append(best, p)
		default:
			left = append(left, p)
		}
	}
	slices.SortStableFunc(best, func(a, b *PanelPlan) int { return cmp.Compare(b.GainFilm(), a.GainFilm()) })
	return best, left
}

// CarPlans of a car.
func (s *Service) CarPlans(ctx context.Context, id string) (*CarPlans, error) {
	c, err := s.Car(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &CarPlans{Car: c}
	for _, p := range c.Panels {
		if !Planned(p) {
			continue
		}
		r, err := p.InHandOrBest()
		if err != nil {
			return nil, err
		}
		out.Sum.Add(r, p.Shape.Area())
		out.Plans = append(out.Plans, PanelPlan{p, r})
	}
	return out, nil
}

// School is a car worked under one school of a question.
type School struct {
	Name  plan.School
	Plans []PanelPlan
	Sum   plan.Sum
}

// Schools are a car under each school of a question.
type Schools struct {
	*panel.Car
	Question plan.Question
	Rules    plan.Rules // of the house
	Schools  []School
}

// CompareSchools works a car under each school of a question.
func (s *Service) CompareSchools(ctx context.Context, carID, question string) (*Schools, error) {
	at := slices.IndexFunc(plan.Questions, func(q plan.Question) bool { return q.Key == question })
	if at < 0 {
		return nil, refuse.Because(refuse.NoRule, "question", question)
	}
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	house, err := s.House(ctx)
	if err != nil {
		return nil, err
	}
	out := &Schools{Car: c, Question: plan.Questions[at], Rules: house.Rules}
	for _, name := range out.Question.Schools {
		rules, err := house.Rules.Follow(question, name)
		if err != nil {
			return nil, err
		}
		school, err := s.workUnder(ctx, c.Panels, rules)
		if err != nil {
			return nil, err
		}
		school.Name = name
		out.Schools = append(out.Schools, school)
	}
	return out, nil
}

// workUnder works panels under rules: each read again where the rules say what film is
// safe.
func (s *Service) workUnder(ctx context.Context, all []*panel.Panel, rules plan.Rules) (School, error) {
	var out School
	for _, was := range all {
		if !Planned(was) {
			continue
		}
		p := *was
		p.House, p.Log.Ladder, p.Record, p.Answers = was.House.Under(rules), nil, nil, &panel.Answers{}
		var err error
		p.Years = p.YearsAt(s.Now)
		if p.Options, err = s.OptionsFor(ctx, p.House, p.Job()); err != nil {
			return out, err
		}
		if rules.SafeFilm != was.House.Rules.SafeFilm || p.Years != was.Years {
			if err := s.ReadFilm(ctx, &p); err != nil {
				return out, err
			}
		}
		r, err := p.Best()
		if err != nil {
			return out, err
		}
		out.Sum.Add(r, p.Shape.Area())
		out.Plans = append(out.Plans, PanelPlan{&p, r})
	}
	return out, nil
}
