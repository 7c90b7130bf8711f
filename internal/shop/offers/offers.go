package offers

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/price"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/store"
)

// CarOfferName names a way to work a whole car that an owner chooses between: an aim of its
// panels, or how far swirls are corrected.
type CarOfferName string

// The offers of a car that is levelled or polished.
const (
	OfferNibs   = CarOfferName(plan.NibsOnly)
	OfferPolish = CarOfferName(plan.PolishOnly)
	OfferMatch  = CarOfferName(plan.Match)
	OfferFlat   = CarOfferName(plan.Flat)
	// OfferSaid works each panel for the aim that it has, where they have several.
	OfferSaid CarOfferName = "said"
)

var (
	offersByAim  = []CarOfferName{OfferNibs, OfferPolish, OfferMatch, OfferFlat}
	offersByGone = []CarOfferName{CarOfferName(plan.OneStep), CarOfferName(plan.TwoSteps), CarOfferName(plan.Furthest)}
)

// CarOffers is what an owner is offered for a car.
type CarOffers struct {
	*panel.Car
	Settings house.Settings
	Now      time.Time
	Wanted   []*panel.Panel
	Shows    *panel.Panel // whose lamps stand for the car: the largest of the roughest
	Offers   []CarOffer
	Advice   *CarOffer
	Tellings []cars.Telling // as they are now
	Valid    time.Time
	Begins   time.Time // when work could begin
	Taken    *Promise
}

// CarOffer is one of them: the panels as they would be worked, what that takes, and how it
// leaves them.
type CarOffer struct {
	Name    CarOfferName
	Panels  []PanelPlan
	Hours   price.Hours
	Price   price.Price
	Begins  time.Time
	Ready   time.Time  // zero where it cannot be planned
	Film    float64    // µm, of the panel that gives most
	Read    film.State // the worst of its panels that were read
	Unread  int        // panels of which too little was read to say
	Decides *PanelPlan // the panel that decides; nil where nothing was read
	Section film.SectionFilm
	level.Standing
	Reached bool
	Gone    float64 // share of swirls that goes, by area
	Stays   []cars.Telling
	shows   *PanelPlan // the panel that stands for the car; nil where it stays as it is
}

// Shown is how the panel that stands for the car looks after the offer.
func (o *CarOffer) Shown(of *CarOffers) panel.Shown {
	if o == nil || o.shows == nil {
		out := panel.Shown{Colour: of.Car.Colour, Surface: of.Shows.SurfaceNow()}
		if of.Corrects() {
			out.Condition = &of.Shows.Options.Job.Condition
		}
		return out
	}
	return panel.ShownAfter(o.shows.Panel, o.shows.Result.Way.Ladder, len(o.shows.Result.Way.Ladder.Steps))
}

// Named is an offer by its name; nil where it is none of the car's.
func (o *CarOffers) Named(name CarOfferName) *CarOffer {
	return panel.FirstOf(o.Offers, func(o CarOffer) bool { return o.Name == name })
}

// Mixed says whether the panels have several aims.
func (o *CarOffers) Mixed() bool {
	return slices.ContainsFunc(o.Wanted, func(p *panel.Panel) bool {
		return p.Aim != o.Wanted[0].Aim || p.Condition.Gone != o.Wanted[0].Condition.Gone
	})
}

// Corrects says whether the offers are about swirls.
func (o *CarOffers) Corrects() bool { return o.Shows != nil && o.Shows.Options.Job.Corrects() }

// Offers works a car out in every way that an owner may choose.
func (s *Service) Offers(ctx context.Context, carID string) (*CarOffers, error) {
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	settings, err := s.Settings(ctx)
	if err != nil {
		return nil, err
	}
	workshop, err := s.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	out := &CarOffers{Car: c, Settings: settings, Now: s.Now().In(settings.Zone), Wanted: c.Wanted()}
	out.Valid = out.Now.AddDate(0, 0, workshop.Rates.Valid)
	if out.Tellings, err = s.TellingsOf(ctx, c); err != nil {
		return nil, err
	}
	promises, err := s.Store.Promises(ctx, carID)
	if err != nil {
		return nil, err
	}
	if len(promises) > 0 {
		out.Taken = &promises[len(promises)-1]
	}
	out.Shows = roughest(out.Wanted)
	if out.Shows == nil || c.HandedOverAt != nil {
		return out, nil
	}
	week, err := s.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	key, _, err := week.Keys()
	if err != nil {
		return nil, err
	}
	key = fmt.Sprintf("%s|%d|%s|%+v|%d", c.ID, c.Version, key, workshop.Rates, out.Now.Unix()/300)
	if out.Offers, err = s.offers.Get(ctx, key, func(ctx context.Context) ([]CarOffer, error) { return s.workOffers(ctx, out, workshop.Rates, week) }); err != nil {
		return nil, err
	}
	out.advise()
	return out, nil
}

// workOffers works each offer out that there is.
func (s *Service) workOffers(ctx context.Context, of *CarOffers, rates price.Rates, week *week.Week) ([]CarOffer, error) {
	names := offersByAim
	if of.Corrects() {
		names = offersByGone
	}
	if of.Mixed() {
		names = append(slices.Clone(names), OfferSaid)
	}
	var out []CarOffer
	for _, name := range names {
		o, err := s.offer(ctx, of, name, rates, week)
		if err != nil {
			return nil, err
		}
		if o != nil {
			out = append(out, *o)
		}
	}
	return out, nil
}

// roughest is the panel that stands for others: of those with the worst peel, or deepest
// swirls, the largest; nil where none is.
func roughest(all []*panel.Panel) *panel.Panel {
	var out *panel.Panel
	bad := func(p *panel.Panel) float64 { return p.PeelGrade() + p.Condition.Depths().Swirls.Median }
	for _, p := range all {
		if p.Worked() || p.Outline().Kept {
			continue
		}
		if out == nil || bad(p) > bad(out)+0.05 || bad(p) > bad(out)-0.05 && p.Shape.Area() > out.Shape.Area() {
			out = p
		}
	}
	return out
}

// under is a panel as it would be worked under an offer; nil where that leaves it as it is.
// One on which work has begun stays as it is planned.
func (s *Service) under(ctx context.Context, was *panel.Panel, name CarOfferName) (*PanelPlan, error) {
	if was.Worked() || was.Outline().Kept || name == OfferSaid {
		r, err := was.InHandOrBest()
		return &PanelPlan{was, r}, err
	}
	p := *was
	p.Log.Ladder, p.Record, p.Answers, p.Judged = nil, nil, &panel.Answers{}, nil
	if slices.Contains(offersByGone, name) {
		point, there := was.Options.Packages(was.PlanHeadroom())[plan.Package(name)]
		if !there {
			return nil, nil
		}
		p.Condition.Gone = point.Gone
		l, err := was.Options.Job.Work(point.Choices)
		p.InOffer = &plan.Result{Way: plan.Way{Offer: plan.Yours, Point: point, Ladder: l}, Reached: true}
		return &PanelPlan{&p, *p.InOffer}, err
	}
	if p.Aim = plan.Aim(name); p.Aim == plan.NibsOnly && p.Outline().OpenMarks == 0 {
		return nil, nil
	}
	j := p.Job()
	if j.Aim.Levels() && j.Reached() {
		p.Aim = plan.PolishOnly
		j = p.Job()
	}
	var err error
	if p.Options, err = s.OptionsFor(ctx, p.House, j); err != nil {
		return nil, err
	}
	if p.ToFlat = p.Options; !j.Aim.Levels() {
		p.ToFlat = was.ToFlat
	}
	r, err := p.Best()
	return &PanelPlan{&p, r}, err
}

// offer works a car out in one way; nil where that leaves it as it is, or as another way does.
func (s *Service) offer(ctx context.Context, of *CarOffers, name CarOfferName, rates price.Rates, week *week.Week) (*CarOffer, error) {
	out := &CarOffer{Name: name, Reached: true, Read: film.Open}
	car := *of.Car
	car.Panels = nil
	area, gone, material, fresh := 0.0, 0.0, 0.0, false
	var through []float64
	for _, was := range of.Wanted {
		pp, err := s.under(ctx, was, name)
		if err != nil {
			return nil, err
		}
		if pp == nil {
			continue
		}
		fresh = fresh || !pp.Worked() && (pp.Aim == plan.Aim(name) || name == OfferSaid || slices.Contains(offersByGone, name))
		out.Panels = append(out.Panels, *pp)
		car.Panels = append(car.Panels, pp.Panel)
		l := pp.Result.Way.Ladder
		out.Reached = out.Reached && pp.Result.Reached
		if pp.Result.None {
			continue
		}
		out.Film = math.Max(out.Film, l.Film)
		material += (l.Money - pp.House.Shelf.Law.Labour*l.Minutes/60) * pp.Left()
		m2 := pp.Shape.Area() / 1e6
		area, gone = area+m2, gone+m2*l.Gone()
		through = append(through, out.judge(pp))
	}
	if !fresh {
		return nil, nil
	}
	if name != OfferNibs { // that shows on spots only
		out.shows = panel.FirstOf(out.Panels, func(p PanelPlan) bool { return p.ID == of.Shows.ID && !p.Result.None })
	}
	out.Gone = gone / math.Max(area, 1e-9)
	var err error
	if out.Stays, err = s.Tellings(&car); err != nil {
		return nil, err
	}
	ticked, choices, err := s.WorkFacts(ctx, of.Car)
	if err != nil {
		return nil, err
	}
	work, _, err := cars.Work(&car, cars.LeftToDo, car.Panels, ticked, choices.Sealed, s.Now())
	if err != nil {
		return nil, err
	}
	tasks := work.Tasks()
	var minutes []float64
	for _, t := range tasks {
		minutes = append(minutes, t.Minutes)
	}
	out.Hours = price.HoursOf(minutes, 0)
	out.Price = rates.Of(out.Hours.Likely, math.Max(material, 0), through)
	out.Begins, out.Ready = when(week, of.Car.ID, tasks)
	return out, nil
}

// Left is how much of the panel's sequence is still to do, by time.
func (p PanelPlan) Left() float64 {
	switch {
	case p.Outline().Kept:
		return 0
	case p.Ladder() == nil:
		return 1
	}
	left, all := 0.0, 0.0
	for i, s := range p.Planned().Steps {
		all += s.Minutes
		left += s.Minutes * cars.LeftOf(p.Panel, i)
	}
	if all == 0 {
		return 0
	}
	return left / all
}

// judge counts a panel into the verdict on the offer: the section that stands worst decides.
// It is the chance that its film is cut through.
func (o *CarOffer) judge(pp *PanelPlan) float64 {
	if pp.Lacks() != panel.LacksNothing {
		o.Unread++
	}
	if pp.Study == nil {
		return 0
	}
	l := pp.Result.Way.Ladder
	sec, st := pp.DecidesFor(l)
	if o.Decides == nil || rank(st.State) > rank(o.Read) || rank(st.State) == rank(o.Read) && st.Under > o.Under {
		o.Decides, o.Section, o.Standing, o.Read = pp, sec, st.Standing, st.State
	}
	return st.Through
}

// Worst is how the offer stands: nothing is open before all panels were read enough.
func (o *CarOffer) Worst() film.State {
	if o.Read == film.Open && o.Unread > 0 {
		return film.Tight
	}
	return o.Read
}

// rank orders states, the worst last.
func rank(s film.State) int { return slices.Index([]film.State{film.Open, film.Tight, film.Shut}, s) }

// when is when work on a car would begin and be done, had it these tasks: on the plan as it is,
// with all other cars. Both are zero where it cannot be planned.
func when(w *week.Week, carID string, tasks []schedule.Task) (begins, ready time.Time) {
	p := w.Problem
	p.Tasks = slices.DeleteFunc(slices.Clone(p.Tasks), func(t schedule.Task) bool { return t.Car == carID })
	for _, t := range tasks {
		p.Tasks = append(p.Tasks, w.GoesOn(w.Put(t), w.Plan.Placed)) // as the week itself has it
	}
	if !slices.ContainsFunc(p.Cars, func(c schedule.Car) bool { return c.ID == carID }) {
		p.Cars = append(slices.Clone(p.Cars), schedule.Car{ID: carID})
	}
	p.Before = w.Plan.Placed // as the week itself does once these are its tasks: what can stay stays
	own := map[string]bool{}
	for _, t := range tasks {
		own[t.Key] = true
	}
	for _, at := range schedule.Make(p).Placed {
		if !own[at.Key] {
			continue
		}
		delete(own, at.Key)
		if begins.IsZero() || at.Start.Before(begins) {
			begins = at.Start
		}
		if at.End.After(ready) {
			ready = at.End
		}
	}
	if len(own) > 0 {
		return time.Time{}, time.Time{}
	}
	return begins, ready
}

// advise picks the offer that the shop would take: of those with film to spare that do all
// they say, flat where nothing textured lies beside it, else the match, and of swirls the
// most; where all are tight, the one that takes least.
func (o *CarOffers) advise() {
	textured := slices.ContainsFunc(o.Wanted, func(p *panel.Panel) bool {
		return slices.ContainsFunc(o.Panels, func(q *panel.Panel) bool {
			return p.Adjoins(q.Key) && !slices.Contains(o.Wanted, q) && q.PeelGrade() > plan.FactoryGrade/2
		})
	})
	for i := range o.Offers {
		of := &o.Offers[i]
		if of.Begins.IsZero() {
			continue
		}
		if o.Begins.IsZero() || of.Begins.Before(o.Begins) {
			o.Begins = of.Begins
		}
	}
	for i := range o.Offers {
		of := &o.Offers[i]
		if of.Read != film.Open || !of.Reached || of.Name == OfferFlat && textured && o.Advice != nil && o.Advice.Name == OfferMatch {
			continue
		}
		o.Advice = of
	}
	if o.Advice == nil {
		for i := range o.Offers {
			if of := &o.Offers[i]; of.Read != film.Shut && (o.Advice == nil || of.Film < o.Advice.Film) {
				o.Advice = of
			}
		}
	}
}

// EndClarity that the panel that stands for the car ends with; 0 where the offer leaves it.
func (o *CarOffer) EndClarity() float64 {
	if o.shows == nil {
		return 0
	}
	return o.shows.Result.Way.Ladder.End().Clarity()
}

// Clarity that the panel that stands for the car ends with, 0 to 100.
func (o *CarOffer) Clarity(of *CarOffers) float64 {
	if c := o.EndClarity(); c > 0 {
		return c
	}
	return of.NowClarity()
}

// NowClarity is that of the panel that stands for the car as it is.
func (o *CarOffers) NowClarity() float64 {
	if o.Shows == nil {
		return 0
	}
	return o.Shows.SurfaceNow().Clarity()
}

// Grade is the peel that the panel that stands for the car ends with.
func (o *CarOffer) Grade(of *CarOffers) float64 {
	if o.shows == nil {
		return of.Shows.PeelGrade()
	}
	return o.shows.Result.Way.Ladder.End().Grade()
}

// Title says which panels of the car the offers are for.
func (o *CarOffers) Title() (names []string, m2 float64) {
	for _, p := range o.Wanted {
		names, m2 = append(names, strings.ToLower(p.Name)), m2+p.Shape.Area()/1e6
	}
	return names, m2
}

// Promise is an offer that an owner took.
type Promise = store.Promise
