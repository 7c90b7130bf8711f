package price

import "math"

// Piece is a piece of work of a job, as it was planned and as it went.
type Piece struct {
	Group   string  // pieces of one group go at one pace
	Planned float64 // min, all of it
	Done    float64 // share of it that is done, 0 to 1
	SeenOf  float64 // min as planned of what a clock or somebody saw
	Seen    float64 // min that this took
}

// Went is how long a job took, in h: what is done of it, what is left at the pace of what was
// seen, and both.
type Went struct {
	Planned         float64 // all of it, as planned
	Done            float64 // of that, what is done
	Known           float64 // share of what is done that was seen, 0 to 1
	Took, Left, End Hours
}

// clockSpread is the spread of the logarithm of a time that was seen (judgement): somebody
// taps later, or says a round number.
const clockSpread = 0.06

// WentOf says how a job of pieces went, and each of them. What nobody saw is taken to have gone
// at the pace of what was seen of its group, with the doubt of that.
func WentOf(pieces []Piece) (all Went, each []Went) {
	took := map[string][]Took{}
	for _, p := range pieces {
		if p.Seen > 0 && p.SeenOf > 0 {
			took[p.Group] = append(took[p.Group], Took{p.SeenOf, p.Seen})
		}
	}
	paces := map[string]Pace{}
	for _, p := range pieces {
		if _, ok := paces[p.Group]; !ok {
			paces[p.Group] = PaceOf(took[p.Group])
		}
	}
	for i := range pieces {
		each = append(each, went(pieces[i:i+1], paces))
	}
	return went(pieces, paces), each
}

func went(pieces []Piece, paces map[string]Pace) Went {
	var out Went
	var done, left, all sum
	for _, p := range pieces {
		now := p.Planned * p.Done
		out.Planned += p.Planned
		out.Done += now
		seen := math.Min(p.SeenOf, now)
		out.Known += seen
		pace := paces[p.Group].Factor
		for _, s := range []*sum{&done, &all} {
			s.add("", p.Seen, clockSpread)
			s.add(p.Group, pace*(now-seen), pieceSpread)
		}
		for _, s := range []*sum{&left, &all} {
			s.add(p.Group, pace*(p.Planned-now), pieceSpread)
		}
	}
	if out.Done > 0 {
		out.Known /= out.Done
	}
	out.Planned, out.Done = out.Planned/60, out.Done/60
	out.Took, out.Left, out.End = done.hours(paces), left.hours(paces), all.hours(paces)
	return out
}

// sum is minutes with the variance of what each piece has of its own, and by group what is
// taken at its pace.
type sum struct {
	minutes, own float64
	paced        map[string]float64
}

func (s *sum) add(group string, minutes, spread float64) {
	s.minutes += minutes
	s.own += minutes * spread * minutes * spread
	if group != "" {
		if s.paced == nil {
			s.paced = map[string]float64{}
		}
		s.paced[group] += minutes
	}
}

func (s *sum) hours(paces map[string]Pace) Hours {
	if s.minutes <= 0 {
		return Hours{}
	}
	v := s.own
	for g, m := range s.paced {
		common := m * paces[g].Spread
		v += common * common
	}
	spread := math.Sqrt(v) / s.minutes
	return Hours{s.minutes / 60 * math.Exp(-middle*spread), s.minutes / 60, s.minutes / 60 * math.Exp(middle*spread)}
}

// Against says how something that was promised within a range compares with what came of it.
type Against string

// How they compare.
const (
	Within   Against = "within"
	More     Against = "more"
	MoreSure Against = "more_sure" // the ranges do not meet
	Less     Against = "less"
	LessSure Against = "less_sure"
)

// Against holds hours against those that were promised.
func (h Hours) Against(promised Hours) Against {
	switch {
	case h.Low > promised.High:
		return MoreSure
	case h.High < promised.Low:
		return LessSure
	case h.Likely > promised.High:
		return More
	case h.Likely < promised.Low:
		return Less
	}
	return Within
}
