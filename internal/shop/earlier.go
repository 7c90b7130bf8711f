package shop

import (
	"context"
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/level"
)

// earlierPlan is the log of a plan that is not of record any more: its panel was sent back to
// be planned anew, or its passes came late, when another was of record already. The film that
// they took is gone all the same.
type earlierPlan struct {
	log  level.Log
	work *level.Work
}

// applyEarlier gives a panel the passes of plans before the one of record.
func (s *Shop) applyEarlier(ctx context.Context, p *Panel, entries map[string][]Entry) error {
	p.earlier, p.late = nil, nil
	for id, list := range entries {
		row, err := s.store.PlanByID(ctx, id)
		if err != nil {
			return err
		}
		ladder, err := p.ladderOf(recordOf(row))
		if err != nil {
			return err
		}
		if err := p.replan(&ladder, recordOf(row), list); err != nil {
			return err
		}
		work, err := level.NewWork(ladder, nil, 0, p.gauge)
		if err != nil {
			return err
		}
		p.earlier = append(p.earlier, earlierPlan{logOf(list, &ladder), work})
		if row.EndedAt == nil {
			p.late = append(p.late, cutsOf(list)...)
		}
	}
	return nil
}

func cutsOf(all []Entry) []Entry {
	return slices.DeleteFunc(slices.Clone(all), func(e Entry) bool { return !e.Cuts() })
}

// removed is the least that earlier plans took off any section that they worked, µm of mean
// removal; 0 without one.
func (p *Panel) removed() float64 {
	least := math.Inf(1)
	for _, s := range p.Sections {
		sum := 0.0
		for _, e := range p.earlier {
			sum += e.work.Removed(e.log.Passes(s.Key))
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
	for _, e := range p.earlier {
		gone := e.work.Taken(passes(e.log))
		out.Mean += gone.Mean
		out.SD = math.Hypot(out.SD, gone.SD)
	}
	return out
}

// goneBefore is what they had taken where a reading was taken, by then.
func (p *Panel) goneBefore(r Reading) film.Estimate {
	return p.taken(func(l level.Log) []int { return l.PassesBefore(p.sectionAt(r.At), r.moment()) })
}

// sectionFilm is the film of a section once closed marks and passes of earlier plans
// took theirs.
func (p *Panel) sectionFilm(s film.SectionFilm) film.SectionFilm {
	s.Least = s.Least.Minus(p.gone(s.Key))
	return s
}

// gone is what they took, µm.
func (p *Panel) gone(section string) film.Estimate {
	out := p.taken(func(l level.Log) []int { return l.Passes(section) })
	out.Mean += p.spotted(section)
	return out
}

// lastRead is when a section was last read; the zero moment for never.
func (p *Panel) lastRead(section string) level.Moment {
	var last level.Moment
	for _, r := range p.Live() {
		if p.sectionAt(r.At) == section && r.TakenAt.After(last.At) {
			last = r.moment()
		}
	}
	return last
}

// Earlier are the passes of plans before the one of record, that came late.
func (p *Panel) Earlier() []Entry { return p.late }
