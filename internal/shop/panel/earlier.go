package panel

import (
	"context"
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/internal/shop/facts"
)

// earlierPlan is the log of a plan that is not of record any more: its panel was sent back to
// be planned anew, or its passes came late, when another was of record already. The film that
// they took is gone all the same.
type earlierPlan struct {
	Log  level.Log
	Work *level.Work
}

// applyEarlier gives a panel the passes of plans before the one of record.
func (s *Service) applyEarlier(ctx context.Context, p *Panel, entries map[string][]facts.Entry) error {
	p.EarlierPlans, p.late = nil, nil
	for id, list := range entries {
		row, err := s.Store.PlanByID(ctx, id)
		if err != nil {
			return err
		}
		ladder, err := p.LadderOf(RecordOf(row))
		if err != nil {
			return err
		}
		if err := p.replan(&ladder, RecordOf(row), list); err != nil {
			return err
		}
		work, err := level.NewWork(ladder, nil, 0, p.Gauge)
		if err != nil {
			return err
		}
		p.EarlierPlans = append(p.EarlierPlans, earlierPlan{facts.LogOf(list, &ladder), work})
		if row.EndedAt == nil {
			p.late = append(p.late, cutsOf(list)...)
		}
	}
	return nil
}

func cutsOf(all []facts.Entry) []facts.Entry {
	return slices.DeleteFunc(slices.Clone(all), func(e facts.Entry) bool { return !e.Cuts() })
}

// Removed is the least that earlier plans took off any section that they worked, µm of mean
// removal; 0 without one.
func (p *Panel) Removed() float64 {
	least := math.Inf(1)
	for _, s := range p.Sections {
		sum := 0.0
		for _, e := range p.EarlierPlans {
			sum += e.Work.Removed(e.Log.Passes(s.Key))
		}
		least = math.Min(least, sum)
	}
	if math.IsInf(least, 1) {
		return 0
	}
	return least
}

// taken is what the passes that count of earlier plans took on a section, µm.
func (p *Panel) taken(passes func(level.Log) []int) film.Estimate {
	var out film.Estimate
	for _, e := range p.EarlierPlans {
		gone := e.Work.Taken(passes(e.Log))
		out.Mean += gone.Mean
		out.SD = math.Hypot(out.SD, gone.SD)
	}
	return out
}

// goneBefore is what they had taken where a reading was taken, by then.
func (p *Panel) goneBefore(r facts.Reading) film.Estimate {
	return p.taken(func(l level.Log) []int { return l.PassesBefore(p.SectionAt(r.At), r.Moment()) })
}

// SectionFilm is the film of a section once closed marks and passes of earlier plans
// took theirs.
func (p *Panel) SectionFilm(s film.SectionFilm) film.SectionFilm {
	s.Least = s.Least.Minus(p.Gone(s.Key))
	return s
}

// Gone is what they took, µm.
func (p *Panel) Gone(section string) film.Estimate {
	out := p.taken(func(l level.Log) []int { return l.Passes(section) })
	out.Mean += p.Spotted(section)
	return out
}

// LastRead is when a section was last read; the zero moment for never.
func (p *Panel) LastRead(section string) level.Moment {
	var last level.Moment
	for _, r := range p.Live() {
		if p.SectionAt(r.At) == section && r.TakenAt.After(last.At) {
			last = r.Moment()
		}
	}
	return last
}

// Earlier are the passes of plans before the one of record, that came late.
func (p *Panel) Earlier() []facts.Entry { return p.late }
