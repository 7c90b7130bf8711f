package plan

import "math"

// Result is what a job comes to under one set of rules: the balanced way within
// the film, or the furthest where nothing gets there.
type Result struct {
	Way     Way
	Reached bool // it ends with what was asked for
	None    bool // not even a polish fits, or nothing on the shelf serves
}

// Best is the balanced way within room µm, or the furthest. It is remembered.
func (o *Options) Best(room float64) (Result, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if r, ok := o.best[room]; ok {
		return r, nil
	}
	r, err := o.bestWithin(room)
	if err != nil {
		return r, err
	}
	if o.best == nil || len(o.best) > mostRooms {
		o.best = map[float64]Result{}
	}
	o.best[room] = r
	return r, nil
}

// mostRooms is for how many rooms the best way is remembered.
const mostRooms = 64

func (o *Options) bestWithin(room float64) (Result, error) {
	ways, _, err := o.Offers(room)
	if err != nil {
		return Result{}, err
	}
	for _, w := range ways {
		if w.Offer == Balanced {
			return Result{Way: w, Reached: true}, nil
		}
	}
	part, ok, err := o.Partial(room)
	return Result{Way: part, None: !ok}, err
}

// Sum is what several panels come to.
type Sum struct {
	FilmMost, Film float64 // µm: of the panel that gives most, and the mean over their areas
	Minutes, Money float64
	Sheets, Discs  float64
	Clarity        float64 // the least
	Reached        int
	Panels         int
	area           float64
}

// Add counts a panel of area mm² in.
func (s *Sum) Add(r Result, area float64) {
	s.Panels++
	if r.None {
		return
	}
	l := r.Way.Ladder
	s.Film = (s.Film*s.area + l.Film*area) / (s.area + area)
	s.area += area
	s.FilmMost = math.Max(s.FilmMost, l.Film)
	sheets, discs := l.Paper()
	s.Minutes, s.Money, s.Sheets, s.Discs = s.Minutes+l.Minutes, s.Money+l.Money, s.Sheets+sheets, s.Discs+discs
	if c := l.End().Clarity(); s.area == area || c < s.Clarity {
		s.Clarity = c
	}
	if r.Reached {
		s.Reached++
	}
}

// Spread is what lies between the least and the most of several sums that reach what is
// asked for: film in µm, minutes and clarity. Differs says whether that is more than the
// model can tell; without a sum that reaches it there is none.
type Spread struct {
	Film, Minutes, Clarity float64
	Reached, Differs       bool
}

// SpreadOf several sums.
func SpreadOf(sums []Sum) Spread {
	var out Spread
	between := func(of func(Sum) float64) float64 {
		lo, hi := math.Inf(1), math.Inf(-1)
		for _, s := range sums {
			if s.Reached > 0 {
				lo, hi = math.Min(lo, of(s)), math.Max(hi, of(s))
				out.Reached = true
			}
		}
		return hi - lo
	}
	out.Film = between(func(s Sum) float64 { return s.Film })
	out.Minutes = between(func(s Sum) float64 { return s.Minutes })
	out.Clarity = between(func(s Sum) float64 { return s.Clarity })
	out.Differs = out.Film >= 0.05 || out.Minutes >= 1 || out.Clarity >= 0.5
	return out
}
