package panel

import (
	"context"

	"waxplanus/core/film"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/store"
)

// mostCoated is how many panels, the last read first, tell of this shop's coats.
const mostCoated = 40

// CoatRatio is what all other panels of the shop that were read before clear tell of
// the coats of one that was sprayed here.
func (s *Service) CoatRatio(ctx context.Context, lessons int64, except string) (film.CoatRatio, error) {
	teach, err := s.LoadLessons(ctx, lessons)
	if err != nil {
		return film.CoatRatio{}, err
	}
	var all []film.Coated
	for _, p := range teach.coated {
		if p.ID == except {
			continue
		}
		c, err := s.coated.Get(ctx, lessonKey(p), func(ctx context.Context) (film.Coated, error) { return s.coatsOf(ctx, p.ID) })
		if err != nil {
			return film.CoatRatio{}, err
		}
		all = append(all, c)
	}
	return film.LearnCoats(all), nil
}

// coatsOf is what the readings of one panel, from before any work, tell of its coats.
func (s *Service) coatsOf(ctx context.Context, id string) (film.Coated, error) {
	row, err := s.Store.Panel(ctx, id)
	if err != nil {
		return film.Coated{}, err
	}
	ground, err := s.Ground(ctx, row.Shape)
	if err != nil {
		return film.Coated{}, err
	}
	readings, err := s.Store.Readings(ctx, id)
	if err != nil {
		return film.Coated{}, err
	}
	first, err := s.Store.FirstEntry(ctx, id)
	if err != nil {
		return film.Coated{}, err
	}
	var before, total []film.Place
	for _, r := range readings {
		at := film.Place{X: r.XMM, Y: r.YMM, Film: r.FilmUM}
		switch {
		case r.StruckAt != nil:
		case r.Phase == store.PhaseBefore:
			before = append(before, at)
		case r.Phase == store.PhaseTotal && (first == nil || facts.ReadingOf(r).Moment().Before(facts.EntryOf(*first).Moment)):
			total = append(total, at)
		}
	}
	return film.CoatedBy(ground.Panel, facts.PanelOf(row).History(), before, total), nil
}
