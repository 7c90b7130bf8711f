package panel

import (
	"context"
	"fmt"
	"hash/fnv"
	"strconv"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/store"
)

// mostWorked is how many panels, the last worked first, the cut is learned from.
const mostWorked = 200

// history is what one worked panel tells of the cut, and the name of it.
type history struct {
	key   string
	spots []level.WorkedSpot
}

// crew is who works a panel, with what all other panels of the shop tell of their cut
// and of the abrasives. Before a plan of record it is the painter of the car.
func (s *Service) crew(ctx context.Context, p *Panel) (level.Crew, error) {
	c := level.Crew{Paint: p.paint(), Persons: []string{p.Car.Painter}}
	if p.Ladder() != nil {
		c.Persons = p.Workers()
	}
	var err error
	c.Hands, p.handsKey, err = s.LearnHands(ctx, p.Of.Lessons, p.ID)
	p.hands = c.Hands
	return c, err
}

func (p *Panel) Workers() []string { return p.Log.Workers(p.Car.Painter) }

// teaching are the panels that teach how hands cut and how thick coats are, as they were
// with that many lessons.
type teaching struct{ Worked, coated []store.Teacher }

func (s *Service) LoadLessons(ctx context.Context, lessons int64) (*teaching, error) {
	return s.lessons.Get(ctx, strconv.FormatInt(lessons, 10), func(ctx context.Context) (*teaching, error) {
		out := &teaching{}
		var err error
		if out.Worked, err = s.Store.Worked(ctx, mostWorked); err != nil {
			return nil, err
		}
		out.coated, err = s.Store.Coated(ctx, mostCoated)
		return out, err
	})
}

// LearnHands is what the worked panels of the shop tell, but for one of them, and the
// name of that history.
func (s *Service) LearnHands(ctx context.Context, lessons int64, except string) (level.Hands, string, error) {
	teach, err := s.LoadLessons(ctx, lessons)
	if err != nil {
		return level.Hands{}, "", err
	}
	sum := fnv.New64a()
	var all []level.WorkedSpot
	for _, w := range teach.Worked {
		if w.ID == except {
			continue
		}
		h, err := s.history.Get(ctx, lessonKey(w), func(ctx context.Context) (history, error) { return s.historyOf(ctx, w.ID) })
		if err != nil {
			return level.Hands{}, "", err
		}
		if len(h.spots) > 0 {
			fmt.Fprintf(sum, "%s|", h.key)
			all = append(all, h.spots...)
		}
	}
	key := fmt.Sprintf("%x", sum.Sum64())
	hands, err := s.hands.Get(ctx, key, func(context.Context) (level.Hands, error) { return level.LearnHands(all, film.UsualGauge) })
	return hands, key, err
}

// lessonKey names what a panel teaches.
func lessonKey(t store.Teacher) string { return fmt.Sprintf("%s|%d", t.ID, t.Lesson) }

// historyOf is what one worked panel tells of the cut. It is named by what was
// measured, so that a pass that nothing was read after changes nothing of it.
func (s *Service) historyOf(ctx context.Context, id string) (history, error) {
	p, err := s.OpenPanel(ctx, id)
	if err != nil || p.Ladder() == nil {
		return history{}, err
	}
	spots := level.History(p.ID, p.Workers(), p.paint(), p.levelReadings(), *p.Ladder())
	sum := fnv.New64a()
	for _, h := range spots {
		fmt.Fprintf(sum, "%v|%v|%v|%v|%v|%v|", h.Cuts, h.Moved, h.Offset, h.Loss, h.Spot, h.Step)
	}
	return history{fmt.Sprintf("%s %x", p.ID, sum.Sum64()), spots}, nil
}

// RateFrom says where the film of a pass of a step is known from: how many readings
// after passes on this panel, and of the shop's history by the person and by the grit.
type RateFrom struct {
	Person                 string
	Here, ByPerson, ByGrit int
}

// RateFrom of a step.
func (p *Panel) RateFrom(step int) RateFrom {
	out := RateFrom{Person: p.Workers()[step], Here: p.Work.Readings()}
	out.ByPerson, out.ByGrit = p.hands.Readings(out.Person, level.Classes(*p.Ladder())[step])
	return out
}

// Person is somebody of the shop, with the coarsest grit that they may run (empty for
// any) and what the history tells of their hand.
type Person struct {
	house.Worker
	Name, Coarsest string
	Cut            level.Learned
}

// Hands are the people of a shop and what its history tells of its abrasives.
type Hands struct {
	People    []Person
	Abrasives []level.Learned // by class, see level.Classes
	Shelf     shelf.Shelf
}

// Hands of the shop.
func (s *Service) Hands(ctx context.Context) (Hands, error) {
	h, err := s.House(ctx)
	if err != nil {
		return Hands{}, err
	}
	work, err := s.Workshop(ctx)
	if err != nil {
		return Hands{}, err
	}
	people, err := s.Workers(ctx, work)
	if err != nil {
		return Hands{}, err
	}
	v, err := s.Store.HouseVersion(ctx)
	if err != nil {
		return Hands{}, err
	}
	learned, _, err := s.LearnHands(ctx, v.Lessons, "")
	if err != nil {
		return Hands{}, err
	}
	out := Hands{Shelf: h.Shelf, Abrasives: learned.Classes()}
	for _, p := range people {
		out.People = append(out.People, Person{p, p.Name, p.Grit, learned.Person(p.Name)})
	}
	return out, nil
}

// LoadLimits has the panel know what each person may run, and lists the people.
func (p *Panel) LoadLimits() []string {
	p.Limits = map[string]string{}
	var names []string
	for _, o := range p.people {
		names, p.Limits[o.Name] = append(names, o.Name), o.Coarsest
	}
	return names
}

// MayNot is the coarsest grit that somebody may run where a step is coarser; empty
// where they may run it.
func (p *Panel) MayNot(person string, st plan.Step) string {
	limit := p.Limits[person]
	if limit == "" || p.House.Shelf.MayRun(limit, st.D50) {
		return ""
	}
	return limit
}
