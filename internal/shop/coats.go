package shop

import (
	"context"

	"waxplanus/core/film"
	"waxplanus/internal/store"
)

// mostCoated is how many panels, the last read first, tell of this shop's coats.
const mostCoated = 40

// coatRatio is what all other panels of the shop that were read before clear tell of
// the coats of one that was sprayed here.
func (s *Shop) coatRatio(ctx context.Context, lessons int64, except string) (film.CoatRatio, error) {
	teach, err := s.teachers(ctx, lessons)
	if err != nil {
		return film.CoatRatio{}, err
	}
	var all []film.Coated
	for _, p := range teach.coated {
		if p.ID == except {
			continue
		}
		c, err := s.coated.get(ctx, lessonKey(p), func(ctx context.Context) (film.Coated, error) { return s.coatsOf(ctx, p.ID) })
		if err != nil {
			return film.CoatRatio{}, err
		}
		all = append(all, c)
	}
	return film.LearnCoats(all), nil
}

// coatsOf is what the readings of one panel, from before any work, tell of its coats.
func (s *Shop) coatsOf(ctx context.Context, id string) (film.Coated, error) {
	row, err := s.store.Panel(ctx, id)
	if err != nil {
		return film.Coated{}, err
	}
	ground, err := s.ground(ctx, row.Shape)
	if err != nil {
		return film.Coated{}, err
	}
	readings, err := s.store.Readings(ctx, id)
	if err != nil {
		return film.Coated{}, err
	}
	first, err := s.store.FirstEntry(ctx, id)
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
		case r.Phase == store.PhaseTotal && (first == nil || readingOf(r).moment().Before(entryOf(*first).Moment)):
			total = append(total, at)
		}
	}
	return film.CoatedBy(ground.Panel, knownOf(row).History(), before, total), nil
}
