package panel

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
)

// findSequences has the core look at the sequences for the facts as they are, and work
// the one of the record.
func (s *Service) findSequences(ctx context.Context, p *Panel) error {
	var err error
	if len(p.Sections) > 0 {
		j := p.Job()
		if p.Options, err = s.OptionsFor(ctx, p.House, j); err != nil {
			return err
		}
		if p.ToFlat = p.Options; !j.Aim.Levels() {
			j.Aim = plan.Flat
			if p.ToFlat, err = s.OptionsFor(ctx, p.House, j); err != nil {
				return err
			}
		}
	}
	p.Log = facts.LogOf(p.Entries, nil)
	if p.Record != nil && (p.Log.Worked() || p.Record.basis == p.Basis()) {
		l, err := s.ladders.Get(ctx, fmt.Sprintf("%s|%d", p.Record.ID, len(p.Record.steps)), func(context.Context) (plan.Ladder, error) { return p.LadderOf(p.Record) })
		if err != nil {
			return err
		}
		l.Steps = slices.Clone(l.Steps) // a rest that is planned anew changes them
		if l.Corrects.Said() {
			law, worst := p.House.Shelf.Law, surface.Depth{}
			for _, part := range p.Condition.Parts {
				if d := facts.DeadOf(part.Dead); d.Median > worst.Median {
					worst = d
				}
			}
			l.DeadUpTo(worst, law, law.Hardness(p.Hardness))
		}
		if err := p.replan(&l, p.Record, p.Entries); err != nil {
			return err
		}
		p.Log.Ladder = &l
	}
	return nil
}

// Job is what a sequence for this panel is wanted for.
func (p *Panel) Job() plan.Job {
	j := plan.Job{
		Aim: p.Aim, Grade: p.PeelGrade(), Reference: p.Grade, Colour: p.Colour(), Single: p.Layers == facts.SingleStage, Factory: p.Finish() == film.FactoryFinish,
		Hardness: p.House.Shelf.Law.Hardness(p.Hardness), Scratch: plan.UsualSwirl, Area: p.Shape.Area(), Perimeter: p.Shape.Around(),
		Condition: p.Condition.Depths(), Gone: p.Condition.Gone,
		Panels: p.sameAim(), Shelf: p.House.Shelf, Rules: p.House.Rules,
	}
	if p.Photo != nil {
		j.Pebble = p.Photo.Pebble.Median
	}
	p.goOn(&j)
	for _, m := range p.Marks {
		if m.Open() && m.Kind == marks.Nib {
			j.Nibs++
		}
	}
	for _, s := range p.Sections {
		j.Sections = append(j.Sections, plan.Rect{W: s.W, H: s.H})
	}
	return j.Clear()
}

// goOn has a job of a panel that was worked and sent back begin with what is left: of swirls
// and dead paint what earlier plans have not taken, and where it is as flat as was wanted
// only the scratches.
func (p *Panel) goOn(j *plan.Job) {
	if removed := p.Removed(); removed > 0 {
		j.Condition, j.Gone = j.Condition.After(removed, j.Gone)
	}
	if p.Scratched > 0 && j.Aim.Levels() && j.Reached() {
		j.Aim, j.Condition = plan.PolishOnly, surface.Condition{}
	}
	j.Scratch = math.Max(j.Scratch, p.Scratched)
}

// OptionsFor are all sequences for a job, remembered.
func (s *Service) OptionsFor(ctx context.Context, h house.House, j plan.Job) (*plan.Options, error) {
	k := j
	k.Shelf = shelf.Shelf{}
	return s.options.Get(ctx, fmt.Sprintf("%s|%+v", h.Key, k), func(context.Context) (*plan.Options, error) { return plan.Find(j) })
}

// OfRecord asks for the plan of record among the ways of a panel.
const OfRecord = "record"

// Offers are the ways to what is wanted of a panel. Where nothing reaches it there is
// a Refusal, and one way at most: the furthest.
type Offers struct {
	Ways    []plan.Way
	Fits    []plan.Point // all sequences that reach it within the room
	Refusal *plan.Refusal
}

// Offers of the panel, which has a section.
func (p *Panel) Offers() (Offers, error) {
	room := p.PlanHeadroom()
	ways, fits, err := p.Options.Offers(room)
	ways = slices.DeleteFunc(ways, func(w plan.Way) bool { return !p.Works(w.Ladder) })
	if err != nil || len(ways) > 0 {
		return Offers{Ways: ways, Fits: fits}, err
	}
	refusal := p.Options.Refuse(room)
	furthest, ok, err := p.Options.Partial(room)
	if ok && p.Works(furthest.Ladder) {
		ways = []plan.Way{furthest}
	}
	return Offers{ways, fits, &refusal}, err
}

// Refusal says why nothing reaches what is wanted.
func (p *Panel) Refusal() plan.Refusal { return p.Options.Refuse(p.PlanHeadroom()) }

// ToTry are what is worth trying on a square, in the order of the house.
func (p *Panel) ToTry() ([]plan.Point, error) {
	const most = 6
	if p.Options.Job.Corrects() {
		list := p.Options.Trying(p.PlanHeadroom())
		return list[:min(len(list), most)], nil
	}
	list, err := plan.Mildest(p.Options.Job, p.PlanHeadroom())
	return list[:min(len(list), most)], err
}

// Pick is the way that is asked for: an offer by its name, the plan of record, or a
// sequence by its code. Without a wish it is the plan of record that holds, or the
// balanced way. It is nil where there is none.
func (p *Panel) Pick(wish string, ways []plan.Way) (*plan.Way, error) {
	named := func(name plan.Offer) *plan.Way {
		return FirstOf(ways, func(w plan.Way) bool { return w.Offer == name })
	}
	coded := func(choices []plan.Choice) *plan.Way {
		code := plan.Code(choices)
		return FirstOf(ways, func(w plan.Way) bool { return plan.Code(w.Point.Choices) == code })
	}
	wish = strings.TrimSpace(wish)
	switch {
	case wish == OfRecord || wish == "" && p.Ladder() != nil:
		if p.Ladder() == nil {
			return nil, refuse.Because(refuse.NoRecord, "ladder", p.Name)
		}
		if w := coded(p.Ladder().Choices()); w != nil {
			return &plan.Way{Offer: w.Offer, Point: w.Point, Ladder: p.Planned()}, nil
		}
		return Yours(p.Ladder().Choices(), p.Planned()), nil
	case wish == "":
		if w := named(plan.Balanced); w != nil {
			return w, nil
		}
		return named(plan.Partly), nil
	case named(plan.Offer(wish)) != nil:
		return named(plan.Offer(wish)), nil
	case plan.Offer(wish).Named():
		return named(plan.Partly), nil
	}
	l, choices, err := p.WorkCode(wish)
	if err != nil {
		return nil, err
	}
	if w := coded(choices); w != nil {
		return w, nil
	}
	return Yours(choices, l), nil
}

// Planned is the plan of record's sequence with the time and the paper of the sections that
// work each step.
func (p *Panel) Planned() plan.Ladder {
	areas := map[string]float64{}
	for _, s := range p.Sections {
		areas[s.Key] = s.W * s.H
	}
	return p.Ladder().Spread(areas)
}

// FirstOf is the first of several that serves; nil for none.
func FirstOf[T any](all []T, serves func(T) bool) *T {
	for i := range all {
		if serves(all[i]) {
			return &all[i]
		}
	}
	return nil
}

func Yours(choices []plan.Choice, l plan.Ladder) *plan.Way {
	return &plan.Way{Offer: plan.Yours, Ladder: l, Point: plan.Point{Choices: choices, Film: l.Film, Minutes: l.Minutes, Money: l.Money}}
}

// WorkCode works a sequence that somebody built.
func (p *Panel) WorkCode(code string) (plan.Ladder, []plan.Choice, error) {
	if p.Options == nil {
		return plan.Ladder{}, nil, refuse.Conflicting(refuse.Waits, p)
	}
	choices, err := plan.ParseCode(code, &p.House.Shelf)
	if err != nil {
		return plan.Ladder{}, nil, refuse.Because(refuse.BadValue, "ladder", err)
	}
	l, err := p.Options.Job.Work(choices)
	if err != nil {
		return l, nil, refuse.Because(refuse.BadValue, "ladder", err)
	}
	return l, choices, nil
}

// State of a ladder on the sections that it is for. Before the panel was read enough
// nothing is open.
func (p *Panel) State(l plan.Ladder) film.State {
	if p.Lacks() != LacksNothing {
		return film.Tight
	}
	_, st := p.DecidesFor(l)
	return st.State
}

// Works says whether accepting a ladder would work any section; before any reading nothing
// says that it would not.
func (p *Panel) Works(l plan.Ladder) bool {
	return p.Study == nil || level.WorstWorked(p.accepts(l)) >= 0
}

// LeftBy are the sections that accepting a ladder would leave as they are while it works others.
func (p *Panel) LeftBy(l plan.Ladder) []film.SectionFilm {
	var out []film.SectionFilm
	for i, a := range p.accepts(l) {
		if !a.Worked {
			out = append(out, p.Study.Sections[i])
		}
	}
	if len(out) == len(p.Study.Sections) {
		return nil
	}
	return out
}

// LeftOut names the sections that accepting a ladder would leave as they are while it works
// others.
func (p *Panel) LeftOut(l plan.Ladder) []string {
	var names []string
	for _, s := range p.LeftBy(l) {
		names = append(names, s.Name)
	}
	return names
}

// Best is the balanced way within the film, or the one that goes furthest.
func (p *Panel) Best() (plan.Result, error) { return p.Options.Best(p.PlanHeadroom()) }

// InHandOrBest is the plan of record that holds, or the balanced way; in an offer the way that
// is offered.
func (p *Panel) InHandOrBest() (plan.Result, error) {
	if p.InOffer != nil {
		return *p.InOffer, nil
	}
	if p.Ladder() != nil {
		w := *Yours(p.Ladder().Choices(), p.Planned())
		w.Offer = p.Record.Offer
		return plan.Result{Way: w, Reached: w.Offer != plan.Partly}, nil
	}
	return p.Best()
}

// LadderInHand is the plan of record's sequence, or the best within the film without
// it; empty where nothing fits.
func (p *Panel) LadderInHand() (plan.Ladder, error) {
	r, err := p.InHandOrBest()
	return r.Way.Ladder, err
}

// PanelLadder is the sequence for the whole panel that spotting is held against: the
// one in hand, or where the aim leaves the texture, one to flat.
func (p *Panel) PanelLadder() (plan.Ladder, error) {
	if p.Aim.Levels() {
		return p.LadderInHand()
	}
	r, err := p.ToFlat.Best(math.Inf(1))
	return r.Way.Ladder, err
}

// OfferedWay is a way as it is offered: the state of it, the section that decides and
// how it stands there. Guess is set instead before any reading.
type OfferedWay struct {
	plan.Way
	State    film.State
	Section  film.SectionFilm
	Standing level.Standing
	Guess    *film.Guess
	Room     float64 // µm that may go
	LeftOut  []string
	Why      []Why
}

// Offered is a way of the panel with what there is to say of it.
func (p *Panel) Offered(w plan.Way) (OfferedWay, error) {
	out := OfferedWay{Way: w, State: p.State(w.Ladder), Room: p.PlanHeadroom()}
	if p.Study == nil {
		g := film.GuessOf(p.History())
		out.Guess = &g
	} else {
		var a level.Acceptance
		out.Section, a = p.DecidesFor(w.Ladder)
		out.Standing = a.Standing
		if p.Ladder() != nil && plan.Code(p.Ladder().Choices()) == plan.Code(w.Point.Choices) {
			out.Section, out.Standing, _ = p.Decides()
		}
		out.LeftOut = p.LeftOut(w.Ladder)
	}
	var err error
	out.Why, err = p.Whys(w)
	return out, err
}

// Gain is the headroom in µm that further readings would likely give.
func (p *Panel) Gain() float64 {
	if p.Worked() {
		return 0
	}
	s, _, ok := p.Decides()
	if !ok {
		return 0
	}
	return math.Max(0, s.Ahead(film.SpendDoubt(p.AimFilm().Film), p.Aim.SpotsOnly()).Readings)
}

// ShownAfter is what a picture of a panel shows after so many steps of a sequence.
func ShownAfter(p *Panel, l plan.Ladder, step int) Shown {
	out := Shown{Colour: p.Car.Colour, Surface: l.Start}
	if p.Options != nil && p.Options.Job.Corrects() {
		out.Condition = &p.Options.Job.Condition
	}
	if step > 0 {
		out.Surface, out.Removed = l.Steps[step-1].After, l.Steps[step-1].Removed
	}
	return out
}

// Shown is what a picture of a panel shows: its surface, or what is left of its condition
// after so much removal (µm) where that is what is worked on.
type Shown struct {
	surface.Surface
	Condition *surface.Condition
	Removed   float64
	Colour    string
}
