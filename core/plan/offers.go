package plan

import (
	"math"
	"slices"
	"sync"

	"waxplanus/core/surface"
)

// Point is one finished sequence as the search finds it: what it takes and what
// it ends with.
type Point struct {
	Choices []Choice
	Film    float64 // µm
	Minutes float64
	Money   float64
	SqLong  float64 // µm, rms of the long band left
	Clarity float64
	Removed float64 // µm, mean
	Gone    float64 // share of the swirls gone, 0 to 1; 1 where there are none
	Met     bool    // it ends with what was asked for
	Front   bool    // no other takes less film and less time

	start    float64 // d50 in µm of its first step, 0 for a compound
	finished bool    // it ends with the texture and finish that are wanted, whatever swirls are left
}

// Options are all finished sequences that are worth showing for a job, whatever
// its film allows.
type Options struct {
	Job    Job
	Looked int // sequences that were looked at
	points []Point

	mu   sync.Mutex
	best map[float64]Result // by room
}

// Find looks at all sensible sequences for a job. It fails on a job that is not
// one; a job that nothing on the shelf serves gives no points.
func Find(j Job) (*Options, error) { return find(j, slack) }

// FindExact is Find with nothing dropped that could end in a better sequence, and
// FindAll with nothing dropped at all: for holding Find against, on small shelves.
func FindExact(j Job) (*Options, error) { return find(j, exact) }

// FindAll looks at every sequence; see FindExact.
func FindAll(j Job) (*Options, error) { return find(j, exhaustive) }

func find(j Job, how bound) (*Options, error) {
	if err := j.check(); err != nil {
		return nil, err
	}
	s := run(j, how)
	o := &Options{Job: j, Looked: len(s.labels)}
	for _, id := range s.finals {
		l := &s.labels[id]
		p := Point{Choices: s.choices(id), Film: l.film, Minutes: l.minutes, Money: l.money, SqLong: l.sq, Clarity: s.clarity(l), Removed: l.removed, Gone: s.gone(l), Met: s.met(l), finished: s.finished(l)}
		for first := id; first >= 0; first = s.labels[first].prev {
			p.start = s.nodes[s.labels[first].node].d50
		}
		o.points = append(o.points, p)
	}
	slices.SortFunc(o.points, func(a, b Point) int {
		switch {
		case a.Film != b.Film:
			return sign(a.Film - b.Film)
		case a.Minutes != b.Minutes:
			return sign(a.Minutes - b.Minutes)
		}
		return len(a.Choices) - len(b.Choices)
	})
	if j.Rules.Begin == FinestFirst {
		o.finestStart()
	}
	return o, nil
}

func sign(d float64) int {
	switch {
	case d < 0:
		return -1
	case d > 0:
		return 1
	}
	return 0
}

// finestStart leaves the sequences that begin with the finest grain that serves.
func (o *Options) finestStart() {
	finest := math.Inf(1)
	for _, p := range o.points {
		if p.Met && p.start > 0 {
			finest = math.Min(finest, p.start)
		}
	}
	o.points = slices.DeleteFunc(o.points, func(p Point) bool { return p.Met && p.start > finest })
}

// Need is the least film in µm that any sequence takes to what is asked for;
// false where nothing on the shelf leads there.
func (o *Options) Need() (float64, bool) {
	for _, p := range o.points {
		if p.Met {
			return p.Film, true
		}
	}
	return 0, false
}

// For are the options with another share of the swirls (0 for gloss alone up to MostGone)
// asked for: nothing is looked for anew.
func (o *Options) For(gone float64) *Options {
	out := &Options{Job: o.Job, Looked: o.Looked, points: slices.Clone(o.points)}
	out.Job.Gone = gone
	for i := range out.points {
		p := &out.points[i]
		p.Met = p.finished && out.Job.enough(p.Removed)
	}
	return out
}

// Package names an offer in the words that an owner knows.
type Package string

// The packages.
const (
	OneStep  Package = "one_step"
	TwoSteps Package = "two_steps"
	Furthest Package = "furthest" // as far as the film lets it
)

// Packages lists the packages.
var Packages = []Package{OneStep, TwoSteps, Furthest}

// Packages are what an owner chooses between within room µm: about half with one product,
// nearly all with two, and as far as the film lets it. Of those that take as much, as an eye
// sees it, the quickest. One that takes out no more than the one before is left out, and one
// that takes as long as a later one.
func (o *Options) Packages(room float64) map[Package]Point {
	out, so := map[Package]Point{}, 0.0
	for _, k := range []struct {
		name        Package
		least, most int // steps
		wants       float64
	}{{OneStep, 1, 1, half}, {TwoSteps, 2, 2, nearlyAll}, {Furthest, 1, MostSteps, MostGone}} {
		most := 0.0
		fits := func(p Point) bool {
			return p.finished && p.Film <= room && len(p.Choices) >= k.least && len(p.Choices) <= k.most
		}
		for _, p := range o.points {
			if fits(p) {
				most = math.Max(most, math.Min(p.Gone, k.wants))
			}
		}
		var best Point
		for _, p := range o.points {
			if fits(p) && p.Gone >= most-unseenShare && (best.Choices == nil || p.Minutes < best.Minutes) {
				best = p
			}
		}
		if best.Choices != nil && best.Gone > so+surface.EyeShare {
			out[k.name], so = best, best.Gone
		}
	}
	// Each takes out more than those before it: where it is no longer either, they are none.
	quickest := math.Inf(1)
	for _, name := range slices.Backward(Packages) {
		if p, there := out[name]; there && p.Minutes >= quickest {
			delete(out, name)
		} else if there {
			quickest = p.Minutes
		}
	}
	return out
}

// Shares of swirls gone that owners call half of them, and nearly all.
const (
	half      = 0.5
	nearlyAll = 0.95
)

// Fits lists the sequences that reach what is asked for and take no more than
// room µm, by rising film, with the front of film against time marked.
func (o *Options) Fits(room float64) []Point {
	var out []Point
	for _, p := range o.points {
		if p.Met && p.Film <= room {
			out = append(out, p)
		}
	}
	return mark(out)
}

// mark marks the front of points that come by rising film.
func mark(points []Point) []Point {
	best := math.Inf(1)
	for i := range points {
		points[i].Front = points[i].Minutes < best
		best = math.Min(best, points[i].Minutes)
	}
	return points
}

// Offer names one of the three ways that are offered.
type Offer string

// The offers.
const (
	LeastFilm Offer = "least_film"
	Balanced  Offer = "balanced"
	LeastTime Offer = "least_time"
	// Partly is the one way where the film does not allow all of it, Yours a
	// ladder that somebody built or picked.
	Partly Offer = "partial"
	Yours  Offer = "yours"
)

// OfferNames are the offers in their order.
var OfferNames = []Offer{LeastFilm, Balanced, LeastTime}

// quickShare is how near to the quickest time a sequence counts as quick as it:
// of those the one that takes most film is not worth it.
const quickShare = 1.1

// littleFilm is the share of the least film of a correction that is not worth going out of
// the way for: how deep swirls and dead paint go is known far less well (judgement).
const littleFilm = 0.1

// choose picks the named offers of sequences that fit: the least film, the least
// time, and between them the one that gives up least of both; a share of the least film up
// to little is next to nothing. Several names may pick one sequence.
func choose(fits []Point, little float64) map[Offer]Point {
	var front []Point
	for _, p := range fits {
		if p.Front {
			front = append(front, p)
		}
	}
	if len(front) == 0 {
		return nil
	}
	if n := len(front); n > 2 && front[n-2].Minutes <= quickShare*front[n-1].Minutes {
		front = front[:n-1]
	}
	first, last := front[0], front[len(front)-1]
	out := map[Offer]Point{LeastFilm: first, LeastTime: last, Balanced: first}
	film, minutes := math.Max(last.Film-first.Film, little*first.Film+1e-9), math.Max(first.Minutes-last.Minutes, 1e-9)
	gives := func(p Point) float64 { return (p.Film-first.Film)/film + (p.Minutes-last.Minutes)/minutes }
	for _, p := range front {
		d := gives(p) - gives(out[Balanced])
		if d < -1e-6 || d < 1e-6 && len(p.Choices) < len(out[Balanced].Choices) {
			out[Balanced] = p
		}
	}
	return out
}

// Way is a sequence that is offered, worked through the model.
type Way struct {
	Offer  Offer
	Point  Point
	Ladder Ladder
}

// Offers are the three named ways to what is asked for that take no more than
// room µm, and all sequences that fit. Each way is worked through the model; one
// that the model finds short of what the search promised is left out. None is
// returned where nothing fits.
func (o *Options) Offers(room float64) (ways []Way, fits []Point, err error) {
	fits = o.Fits(room)
	worked, little := map[string]Ladder{}, 0.0
	if o.Job.Corrects() {
		little = littleFilm
	}
	for {
		picks := choose(fits, little)
		if picks == nil {
			return nil, nil, nil
		}
		ways = ways[:0]
		short := ""
		for _, name := range OfferNames {
			code := Code(picks[name].Choices)
			l, done := worked[code]
			if !done {
				if l, err = o.Job.Work(picks[name].Choices); err != nil {
					return nil, nil, err
				}
				worked[code] = l
			}
			if l.Film > room || l.fails() {
				short = code
				break
			}
			ways = append(ways, Way{name, picks[name], l})
		}
		if short == "" {
			return unbeaten(ways, o.Job.aim() == Match), fits, nil
		}
		fits = mark(slices.DeleteFunc(fits, func(p Point) bool { return Code(p.Choices) == short }))
	}
}

// unbeaten has a way give way to another one that is as good in film, hours and finish as they are
// shown, and better in one: nobody wants the worse of two. Where the texture of another panel is
// matched, flatter is no better.
func unbeaten(ways []Way, match bool) []Way {
	shown := func(w Way) [3]float64 {
		tenth := func(v float64) float64 { return math.Round(10*v) / 10 }
		grade := tenth(w.Ladder.End().Grade())
		if match {
			grade = 0
		}
		return [3]float64{tenth(w.Ladder.Film), tenth(w.Ladder.Minutes / 60), grade}
	}
	out := slices.Clone(ways)
	for i := range out {
		for _, o := range ways {
			a, b := shown(out[i]), shown(o)
			if a != b && b[0] <= a[0] && b[1] <= a[1] && b[2] <= a[2] {
				out[i] = Way{out[i].Offer, o.Point, o.Ladder}
			}
		}
	}
	return out
}

// fails says whether a ladder does not end with what was asked for.
func (l Ladder) fails() bool {
	return slices.ContainsFunc(l.Warnings, func(w Warning) bool {
		return w.Code == WarnNotFlat || w.Code == WarnTooFlat || w.Code == WarnHaze || w.Code == WarnClarity
	})
}

// Partial is the way that brings the texture furthest within room µm, where none
// reaches what is asked for: of the nearly flattest the one with least time.
// False where not even a polish fits.
func (o *Options) Partial(room float64) (Way, bool, error) {
	const alike = 1.05 // of the rms, which nobody sees
	lowest := math.Inf(1)
	for _, p := range o.points {
		if p.Film <= room {
			lowest = math.Min(lowest, p.SqLong)
		}
	}
	var best Point
	for _, p := range o.points {
		if p.Film <= room && p.SqLong <= alike*lowest && (best.Choices == nil || p.Minutes < best.Minutes) {
			best = p
		}
	}
	if best.Choices == nil {
		return Way{}, false, nil
	}
	l, err := o.Job.Work(best.Choices)
	return Way{Partly, best, l}, err == nil, err
}

// Named says whether it is one of the offers that the search makes by itself.
func (o Offer) Named() bool { return o == Partly || slices.Contains(OfferNames, o) }
