package shop

import (
	"cmp"
	"context"
	"slices"

	"waxplanus/core/plan"
)

// Planned says whether a panel is one that is worked: it was read, or somebody said what
// is wanted of it.
func (p *Panel) Planned() bool {
	return p.Options != nil && (p.Record != nil || len(p.Live()) > 0 || p.Aim.Levels() || p.Outline().OpenMarks > 0)
}

// PanelPlan is what a panel comes to.
type PanelPlan struct {
	*Panel
	Result plan.Result
}

// CarPlans are the panels of a car that are worked, with what they come to together.
type CarPlans struct {
	*Car
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
func (p *Panel) Lit() Lit {
	switch rank := height(p.Shape); {
	case p.Light != LitByPlace:
		return p.Light
	case rank == lowest:
		return LiesLow
	case rank == upright:
		return OnSide
	}
	return FacesUp
}

// Shown is how well the light shows a panel, 0 to 1, by the weights of the house.
func (p *Panel) Shown() float64 {
	law := &p.House.Shelf.Law
	return map[Lit]float64{FacesUp: law.SeenUp, OnSide: law.SeenSide, LiesLow: law.SeenLow, Covered: law.SeenCovered}[p.Lit()]
}

// GainFilm is what the next µm of a panel takes of swirls beyond its plan, in m² as they show;
// 0 where nothing more may go, or the deepest are all that is left.
func (p PanelPlan) GainFilm() float64 {
	if p.Gain() <= 0 || p.Worked() || p.Result.Way.Ladder.Film+1 > p.PlanHeadroom() {
		return 0
	}
	l := p.Result.Way.Ladder
	end := l.Steps[len(l.Steps)-1].Removed
	return p.Shape.Area() / 1e6 * p.Shown() * (l.Corrects.Gone(end+1) - l.Corrects.Gone(end))
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
func (s *Shop) CarPlans(ctx context.Context, id string) (*CarPlans, error) {
	c, err := s.Car(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &CarPlans{Car: c}
	for _, p := range c.Panels {
		if !p.Planned() {
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
	*Car
	Question plan.Question
	Rules    plan.Rules // of the house
	Schools  []School
}

// CompareSchools works a car under each school of a question.
func (s *Shop) CompareSchools(ctx context.Context, carID, question string) (*Schools, error) {
	at := slices.IndexFunc(plan.Questions, func(q plan.Question) bool { return q.Key == question })
	if at < 0 {
		return nil, Refuse(NoRule, "question", question)
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
func (s *Shop) workUnder(ctx context.Context, all []*Panel, rules plan.Rules) (School, error) {
	var out School
	for _, was := range all {
		if !was.Planned() {
			continue
		}
		p := *was
		p.House, p.log.Ladder, p.Record, p.asked = was.House.under(rules), nil, nil, &asked{}
		var err error
		p.years = p.yearsAt(s.now)
		if p.Options, err = s.optionsFor(ctx, p.House, p.job()); err != nil {
			return out, err
		}
		if rules.SafeFilm != was.House.Rules.SafeFilm || p.years != was.years {
			if err := s.readFilm(ctx, &p); err != nil {
				return out, err
			}
		}
		r, err := p.best()
		if err != nil {
			return out, err
		}
		out.Sum.Add(r, p.Shape.Area())
		out.Plans = append(out.Plans, PanelPlan{&p, r})
	}
	return out, nil
}
