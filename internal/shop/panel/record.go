package panel

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
)

// Record is a plan of record: what it takes, what it rests on, and why it is as it is.
type Record struct {
	ID         string
	Version    int
	AcceptedAt time.Time
	Film       float64 // µm
	State      film.State
	Risk       float64 // chance of ending under the floor that it was accepted with; 0 in plans of before
	Offer      plan.Offer
	Why        []Why
	PeelGrade  float64
	Readings   int
	basis      string
	made       string // as JSON; empty for plans of the first shop
	facts      string // as JSON
	colour     string
	steps      []store.Step
}

func RecordOf(r store.Plan) *Record {
	return &Record{ID: r.ID, Version: r.Version, AcceptedAt: r.AcceptedAt, Film: r.FilmUM, State: film.State(r.State), Risk: r.Risk, Offer: plan.Offer(r.Offer),
		Why: keptWhys(r.Why), PeelGrade: r.PeelGrade, Readings: r.Readings, basis: r.Basis, made: r.Made, facts: r.Facts, colour: r.Colour, steps: r.Steps}
}

// Why is one reason for a way or against another, with the values that its sentence
// needs. One that a plan of an earlier version kept in words has them as Text.
type Why struct {
	Code    plan.BecauseCode `json:"code"`
	Offer   plan.Offer       `json:"offer,omitempty"`
	Kind    plan.StepKind    `json:"kind,omitempty"`  // of the first step
	Title   string           `json:"title,omitempty"` // and what it is
	What    string           `json:"what,omitempty"`
	D50     float64          `json:"d50,omitempty"`
	Buries  float64          `json:"buries_um,omitempty"`
	Passes  int              `json:"passes,omitempty"`
	First   float64          `json:"first_grade,omitempty"` // peel grade after it
	Grade   float64          `json:"grade,omitempty"`       // and at the end
	Clarity float64          `json:"clarity,omitempty"`
	Most    float64          `json:"most,omitempty"`
	Left    float64          `json:"pebble_left_um,omitempty"`
	Beside  float64          `json:"pebble_beside_um,omitempty"`
	Film    float64          `json:"film_um,omitempty"` // of the other way, or more than this one
	Takes   float64          `json:"takes_um,omitempty"`
	Minutes float64          `json:"minutes,omitempty"`
	Room    float64          `json:"room_um,omitempty"`
	Other   []plan.Choice    `json:"other,omitempty"`
	Text    string           `json:"text,omitempty"`
}

// The reasons beside the core's.
const (
	WhyThis   plan.BecauseCode = "this"
	WhyPebble plan.BecauseCode = "pebble"
	WhyKept   plan.BecauseCode = "kept" // in words
)

// Whys gives the reasons for a way, and what holds it back.
func (p *Panel) Whys(w plan.Way) ([]Why, error) {
	room, first, end := p.PlanHeadroom(), w.Ladder.Steps[0], w.Ladder.End()
	out := []Why{{Code: WhyThis, Offer: w.Offer, Kind: first.Kind, Title: first.Title, What: first.What, D50: first.D50, Buries: first.Buries,
		Passes: first.Passes, First: first.After.Grade(), Grade: end.Grade(), Clarity: end.Clarity(), Most: p.House.Shelf.Law.LevelMost}}
	if left, beside := p.Options.Pebble(w.Ladder); beside > 0 {
		out = append(out, Why{Code: WhyPebble, Left: left, Beside: beside})
	}
	if w.Offer == plan.Yours {
		return out, nil
	}
	limits, err := p.Options.Limits(w, room)
	if err != nil {
		return nil, err
	}
	for _, b := range append(p.Options.Why(w, room), limits...) {
		out = append(out, Why{Code: b.Code, Other: b.Other, Film: b.Film, Takes: w.Ladder.Film, Minutes: b.Minutes, Passes: b.Passes, Most: b.Most, Room: room})
	}
	return out, nil
}

// keptWhys reads the reasons of a plan as they were kept.
func keptWhys(text string) []Why {
	var out []Why
	if text == "" || json.Unmarshal([]byte(text), &out) == nil {
		return out
	}
	for line := range strings.SplitSeq(text, "\n") { // as the first versions kept them
		out = append(out, Why{Code: WhyKept, Text: line})
	}
	return out
}

// recipe is what a plan was made from. Those of the first shop kept their steps only.
func (p *Panel) recipe(r *Record) (plan.Recipe, error) {
	var m plan.Recipe
	if r.made != "" {
		return m, json.Unmarshal([]byte(r.made), &m)
	}
	j := p.Job()
	j.Grade, j.Colour, j.Rules, j.Shelf = r.PeelGrade, plan.Colour(r.colour), plan.Rules{}, shelf.Usual()
	var choices []plan.Choice
	for _, s := range r.steps {
		choices = append(choices, plan.Choice{Item: s.Item, Backing: s.Backing, Passes: s.Passes})
	}
	return plan.RecipeOf(j, choices), nil
}

// Recipe is what the plan of record was made from.
func (p *Panel) Recipe() (plan.Recipe, error) { return p.recipe(p.Record) }

// LadderOf works a plan again, with the figures that were accepted.
func (p *Panel) LadderOf(r *Record) (plan.Ladder, error) {
	m, err := p.recipe(r)
	if err != nil {
		return plan.Ladder{}, fmt.Errorf("plan %s: %w", r.ID, err)
	}
	l, err := m.Ladder()
	if err != nil {
		return l, fmt.Errorf("plan %s: %w", r.ID, err)
	}
	frozen := make([]plan.Frozen, len(r.steps))
	for i, s := range r.steps {
		frozen[i] = plan.Frozen{Passes: s.Passes, Rate: s.RateUM, Film: s.FilmUM}
	}
	l.Freeze(frozen)
	return l, nil
}

// Stale says whether what the plan of record rests on has changed since.
func (p *Panel) Stale() bool { return p.Record.basis != p.Basis() }

// recordFacts are the facts that a plan of record rests on, kept with it so that it
// can say what changed.
type recordFacts struct {
	Peel     float64                `json:"peel"`
	Colour   string                 `json:"colour"`
	Aim      string                 `json:"aim"`
	Finish   string                 `json:"finish"`
	Coats    int                    `json:"coats"`
	Hardness string                 `json:"hardness"`
	Beside   float64                `json:"beside"`
	Floor    float64                `json:"floor,omitempty"` // agreed, µm
	Room     float64                `json:"room"`
	Looks    string                 `json:"looks,omitempty"` // depths and parts, as the basis has them
	Gone     float64                `json:"gone,omitempty"`
	Readings map[string]keptReading `json:"readings"`
}

type keptReading struct {
	No int     `json:"no"`
	UM float64 `json:"um"`
}

func (p *Panel) RecordFacts() recordFacts {
	f := recordFacts{Peel: p.PeelGrade(), Colour: p.Car.Colour, Aim: string(p.Aim), Finish: string(p.Finish()), Coats: p.Coats, Hardness: p.Hardness,
		Beside: p.Grade, Floor: p.agreedUM(), Room: p.PlanHeadroom(), Readings: map[string]keptReading{}}
	if d := p.Condition.Depths(); d.Said() {
		f.Looks, f.Gone = fmt.Sprintf("%.3f %.3f %v", d.Swirls.Median, d.Dead.Median, p.Condition.Parts), p.Condition.Gone
	}
	for _, r := range p.Readings {
		if r.Struck == nil && !r.Worked() {
			f.Readings[r.ID] = keptReading{r.No, r.Film}
		}
	}
	return f
}

// NumberedFilm is the film (µm) of a reading by its number.
type NumberedFilm struct {
	No   int
	Film float64
}

// Changes are what a plan of record rested on and what it would rest on now. Known is
// false for plans of the first shop, which kept less.
type Changes struct {
	Known         bool
	Was, Now      recordFacts
	Matches       bool // the panels beside it matter
	Added, Struck []NumberedFilm
	RoomDiffers   bool
}

// told is the least difference of what may go that is worth telling, µm.
const told = 0.1

// Changes since the plan of record was accepted.
func (p *Panel) Changes() Changes {
	c := Changes{Now: p.RecordFacts(), Matches: p.Aim == plan.Match}
	c.Known = p.Record.facts != "" && json.Unmarshal([]byte(p.Record.facts), &c.Was) == nil
	for _, r := range p.Readings {
		old, known := c.Was.Readings[r.ID]
		_, there := c.Now.Readings[r.ID]
		switch {
		case there && !known:
			c.Added = append(c.Added, NumberedFilm{r.No, r.Film})
		case known && !there && r.Struck != nil:
			c.Struck = append(c.Struck, NumberedFilm{old.No, old.UM})
		}
	}
	c.RoomDiffers = math.Abs(c.Was.Room-c.Now.Room) > told
	return c
}
