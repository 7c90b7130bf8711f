package plan

import (
	"math"
	"slices"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// Because is one reason for a way, or against another, as a code with what its
// sentence needs: the other sequence where there is one, and what it would take
// more of than this way.
type Because struct {
	Code    BecauseCode
	Other   []Choice
	Film    float64 // µm more than this way, less where negative
	Minutes float64
	Passes  int     // that it would need
	Most    float64 // passes or µm of grain that are the limit
}

// BecauseCode names a reason.
type BecauseCode string

// The reasons for a way.
const (
	WhyNotCoarser   BecauseCode = "coarser_costs"   // a coarser start serves and takes this much more
	WhyNoCoarser    BecauseCode = "coarser_barred"  // none may start coarser
	WhyCoarserShuts BecauseCode = "coarser_no_room" // a coarser start takes more than may go
	WhyNotFiner     BecauseCode = "finer_costs"     // a finer start serves and takes this much more
	WhyFinerSlow    BecauseCode = "finer_too_slow"  // a finer start needs too many passes
	WhyNoFiner      BecauseCode = "finest_there_is" // nothing finer begins
	WhyNotFewer     BecauseCode = "fewer_cost"      // with fewer steps it takes this much more
	WhyNoFewer      BecauseCode = "fewer_do_not"    // with fewer steps nothing serves
	LimitedFilm     BecauseCode = "limited_by_film" // more film would save time
	LimitedColour   BecauseCode = "limited_by_colour"
	LimitedShelf    BecauseCode = "limited_by_shelf"
	LimitedSkill    BecauseCode = "limited_by_skill"
	LimitedRules    BecauseCode = "limited_by_rules"
)

// Pebble is the rms of the short waves, µm, that a way leaves, and that of the
// panel to match; beside is 0 where nothing is matched.
func (o *Options) Pebble(l Ladder) (left, beside float64) {
	if o.Job.aim() != Match {
		return l.End().SqShort(), 0
	}
	return l.End().SqShort(), surface.PebbleSq(surface.PeelSq(o.Job.reference()))
}

// better is what a way is preferred by: film, time, or both alike.
func better(name Offer, film, minutes float64) func(p Point) float64 {
	switch name {
	case LeastFilm:
		return func(p Point) float64 { return p.Film/film + 1e-3*p.Minutes/minutes }
	case LeastTime:
		return func(p Point) float64 { return p.Minutes/minutes + 1e-3*p.Film/film }
	}
	return func(p Point) float64 { return p.Film/film + p.Minutes/minutes }
}

func bestOf(points []Point, cost func(Point) float64, among func(Point) bool) (Point, bool) {
	var best Point
	for _, p := range points {
		if among(p) && (best.Choices == nil || cost(p) < cost(best)) {
			best = p
		}
	}
	return best, best.Choices != nil
}

// Why gives the reasons for a way: why it starts with this grit and not with a
// coarser or a finer one, and why it has so many steps.
func (o *Options) Why(w Way, room float64) []Because {
	var out []Because
	cost := better(w.Offer, w.Ladder.Film, w.Ladder.Minutes)
	than := func(code BecauseCode, p Point) {
		out = append(out, Because{Code: code, Other: p.Choices, Film: p.Film - w.Ladder.Film, Minutes: p.Minutes - w.Ladder.Minutes})
	}
	fits := func(p Point) bool { return p.Met && p.Film <= room }
	if first := w.Ladder.Steps[0]; first.Kind == LevelStep {
		coarser := func(p Point) bool { return p.start > first.D50 }
		if p, ok := bestOf(o.points, cost, func(p Point) bool { return fits(p) && coarser(p) }); ok {
			than(WhyNotCoarser, p)
		} else if p, ok := bestOf(o.points, cost, func(p Point) bool { return p.Met && coarser(p) }); ok {
			than(WhyCoarserShuts, p)
		} else {
			out = append(out, Because{Code: WhyNoCoarser, Most: first.D50})
		}
		out = append(out, o.finer(w, cost, fits))
	}
	fewer := func(p Point) bool { return len(p.Choices) < len(w.Ladder.Steps) }
	if p, ok := bestOf(o.points, cost, func(p Point) bool { return fits(p) && fewer(p) }); ok {
		than(WhyNotFewer, p)
	} else {
		out = append(out, Because{Code: WhyNoFewer})
	}
	return out
}

// finer is why a way does not start finer.
func (o *Options) finer(w Way, cost func(Point) float64, fits func(Point) bool) Because {
	first, law := w.Ladder.Steps[0], o.Job.Shelf.Law
	finer := func(p Point) bool { return p.start > 0 && p.start < first.D50 }
	if p, ok := bestOf(o.points, cost, func(p Point) bool { return fits(p) && finer(p) }); ok {
		return Because{Code: WhyNotFiner, Other: p.Choices, Film: p.Film - w.Ladder.Film, Minutes: p.Minutes - w.Ladder.Minutes}
	}
	var next shelf.Abrasive
	for _, a := range o.Job.Shelf.Abrasives {
		if a.Have && a.Fits(first.Piece) && a.D50 < first.D50 && a.D50 > next.D50 {
			next = a
		}
	}
	if next.Key == "" {
		return Because{Code: WhyNoFiner}
	}
	rate := law.Rate(next, first.Piece, o.Job.hardness())
	sq := surface.PeelSq(o.Job.Grade)
	long, short := first.Piece.Compliance(next.D50)
	row := surface.RowFor(long+short, sq)
	n := int(math.Ceil(row.Enter(o.Job.target().high/sq)*sq/rate - 1e-9))
	return Because{Code: WhyFinerSlow, Other: []Choice{{next.Key, first.Piece.Key, n}}, Passes: n, Most: law.LevelMost}
}

// worthSaying is the share of film or time from which a limit is worth saying.
const worthSaying = 0.04

// Limits says what holds a way back: what it would save with more film, another
// colour, the whole usual shelf, or without a house rule.
func (o *Options) Limits(w Way, room float64) ([]Because, error) {
	var out []Because
	cost := better(w.Offer, w.Ladder.Film, w.Ladder.Minutes)
	add := func(code BecauseCode, points []Point, room float64) {
		p, ok := bestOf(points, cost, func(p Point) bool { return p.Met && p.Film <= room })
		if ok && (p.Film < w.Ladder.Film*(1-worthSaying) || p.Minutes < w.Ladder.Minutes*(1-worthSaying)) && cost(p) < cost(w.Point)*(1-worthSaying/2) {
			out = append(out, Because{Code: code, Other: p.Choices, Film: p.Film - w.Ladder.Film, Minutes: p.Minutes - w.Ladder.Minutes})
		}
	}
	add(LimitedFilm, o.points, math.Inf(1))
	relax := func(code BecauseCode, j Job) error {
		other, err := Find(j)
		if err == nil {
			add(code, other.points, room)
		}
		return err
	}
	if o.Job.Colour != Light {
		j := o.Job
		j.Colour = Light
		if err := relax(LimitedColour, j); err != nil {
			return nil, err
		}
	}
	if j, gaps := stocked(o.Job); gaps {
		if err := relax(LimitedShelf, j); err != nil {
			return nil, err
		}
	}
	if o.Job.Rules.Coarsest != "" {
		j := o.Job
		j.Rules.Coarsest = ""
		if err := relax(LimitedSkill, j); err != nil {
			return nil, err
		}
	}
	if r := (Rules{Coarsest: o.Job.Rules.Coarsest, Far: o.Job.Rules.Far, Sand: o.Job.Rules.Sand, SafeFilm: o.Job.Rules.SafeFilm}); r != o.Job.Rules {
		j := o.Job
		j.Rules = r
		if err := relax(LimitedRules, j); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// stocked is a job with everything on its shelf.
func stocked(j Job) (Job, bool) {
	gaps := false
	have := func(v *bool) { gaps = gaps || !*v; *v = true }
	j.Shelf.Abrasives, j.Shelf.Backings, j.Shelf.Compounds = slices.Clone(j.Shelf.Abrasives), slices.Clone(j.Shelf.Backings), slices.Clone(j.Shelf.Compounds)
	for i := range j.Shelf.Abrasives {
		have(&j.Shelf.Abrasives[i].Have)
	}
	for i := range j.Shelf.Backings {
		have(&j.Shelf.Backings[i].Have)
	}
	for i := range j.Shelf.Compounds {
		have(&j.Shelf.Compounds[i].Have)
	}
	return j, gaps
}

// Refusal says that nothing reaches what is asked for: the film that it needs, 0 where
// nothing on the shelf leads there, and the Room there is, µm.
type Refusal struct{ Need, Room float64 }

// Refuse says why nothing fits room µm.
func (o *Options) Refuse(room float64) Refusal {
	need, leads := o.Need()
	if !leads {
		need = 0
	}
	return Refusal{Need: need, Room: room}
}

// Sharper says whether the pebble that is left (µm rms) is so much less than that beside
// it that the edge of a lamp looks sharper there, from near (judgement).
func Sharper(left, beside float64) bool { return left < 0.6*beside }
