package web

import (
	"context"
	"fmt"
	"hash/fnv"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/internal/store"
)

// mostPast is how many panels, the last worked first, the cut is learned from.
const mostPast = 60

// crew is who works a panel, with what all other panels of the shop tell of their
// cut and of the abrasives. Before a plan of record it is nobody.
func (s *Server) crew(b *bench) (level.Crew, error) {
	c := level.Crew{Paint: b.paint()}
	if b.ladder == nil {
		return level.Crew{}, nil
	}
	c.Persons = b.workers()
	var err error
	c.Hands, b.past, err = s.learned(context.Background(), b.row.ID)
	b.hands = c.Hands
	return c, err
}

// learned is what the worked panels of the shop tell, but for one of them, and the
// name of that history.
func (s *Server) learned(ctx context.Context, except string) (level.Hands, string, error) {
	past, err := s.past(ctx, except)
	if err != nil {
		return level.Hands{}, "", err
	}
	sum := fnv.New64a()
	var all []level.Past
	for _, p := range past {
		fmt.Fprintf(sum, "%s|", p.key)
		all = append(all, p.past...)
	}
	key := fmt.Sprintf("%x", sum.Sum64())
	hands, err := s.hands.get(key, func() (level.Hands, error) { return level.LearnHands(all, film.UsualGauge) })
	return hands, key, err
}

// workers are who works each step of a panel: whoever made most passes of it, or who
// the car was given to where none was made.
func (b *bench) workers() []string {
	out := make([]string, len(b.ladder.Steps))
	for i := range out {
		passes, most := map[string]int{}, 0
		out[i] = b.car.Painter
		for _, e := range b.entries {
			if !made(e) || e.Step != i+1 {
				continue
			}
			if passes[e.Person]++; passes[e.Person] > most {
				most, out[i] = passes[e.Person], e.Person
			}
		}
	}
	return out
}

// paint names what is cut: paint of one finish on one car.
func (b *bench) paint() string {
	return strings.Join([]string{b.car.ID, string(b.finish()), b.row.Hardness}, " ")
}

// taught is what one worked panel tells, and the name of it.
type taught struct {
	key  string
	past []level.Past
}

// past gathers what the worked panels of the shop tell, but for one of them.
func (s *Server) past(ctx context.Context, except string) ([]taught, error) {
	worked, err := s.store.Worked(ctx, mostPast)
	if err != nil {
		return nil, err
	}
	var out []taught
	for _, w := range worked {
		if w.PanelID == except {
			continue
		}
		p, err := s.pasts.get(fmt.Sprintf("%s|%d|%d", w.PanelID, w.Entries, w.Readings), func() (taught, error) { return s.tellsOf(ctx, w) })
		if err != nil {
			return nil, err
		}
		if len(p.past) > 0 {
			out = append(out, p)
		}
	}
	return out, nil
}

// tellsOf is what one worked panel tells of the cut.
func (s *Server) tellsOf(ctx context.Context, w store.WorkedPanel) (taught, error) {
	b, err := s.lay(ctx, w.PanelID)
	if err != nil || b.ladder == nil {
		return taught{}, err
	}
	var readings []level.Reading
	for _, r := range b.live() {
		readings = append(readings, level.Reading{X: r.XMM, Y: r.YMM, Film: r.FilmUM, Passes: b.passesBefore(r), Sure: r.Sure != ""})
	}
	return taught{fmt.Sprintf("%s|%d|%d", w.PanelID, w.Entries, w.Readings), level.History(w.PanelID, b.workers(), b.paint(), readings, *b.ladder)}, nil
}
