package film

import (
	"math"
	"math/rand/v2"
	"slices"

	"gonum.org/v1/gonum/mat"
)

// outlook is what a section's joint samples tell about readings to come: the share of
// the clear at the thin end of each sample, as film (µm), and the film at the next spots.
type outlook struct {
	least []float64
	spots []float32 // by sample, one for each noise; in short numbers, as most of a study is these
	noise []float64 // µm² of one shot at each spot
	slope float64   // share of the clear by µm of film
}

func newOutlook(part []float64, samples [][]float64, from int, slope float64, noise []float64) outlook {
	o := outlook{slope: slope, noise: noise}
	for i := 0; i < len(samples); i += aheadThin {
		o.least = append(o.least, part[i]/slope)
		for _, film := range samples[i][from:] {
			o.spots = append(o.spots, float32(film))
		}
	}
	o.spots = slices.Clip(o.spots)
	return o
}

// spot is the film of sample j at next spot i, µm.
func (o outlook) spot(j, i int) float64 { return float64(o.spots[j*len(o.noise)+i]) }

// moved is the clear of a section once the film at the thin end of its samples is that.
func (o outlook) moved(l Least, least []float64) Least {
	part, thin := make([]float64, len(least)), make([]float64, len(least))
	for i, film := range least {
		part[i] = math.Max(o.slope*film, leastShare)
		thin[i] = math.Max(l.thin[i*aheadThin]+part[i]-l.part[i*aheadThin], leastShare)
	}
	return LeastOf(l.clear, part, thin).Minus(l.gone)
}

// AheadAsk is how many readings are asked for at a time, at most.
const AheadAsk = 3

// Ahead is what more readings may change of a section.
type Ahead struct {
	Now    State
	Change float64 // chance that the state is another after the readings that are asked for
	To     State   // the likeliest other state; Now where none is likely
	// Settle is how many readings leave no more than a faint chance that further
	// ones change the state; 0 when none does now.
	Settle int
	// Readings is the headroom (µm) that is likely gained by all of them.
	Readings float64
}

const (
	aheadThin   = 2   // of the joint samples, one in so many is looked at
	aheadTruths = 30  // draws of what the readings to come may say
	aheadGains  = 10  // of them, those whose headroom is worked out
	faintChance = 0.1 // of a change that nobody waits for
)

// Ahead looks at what further readings at the study's next spots, in their
// order, would do to the state of a section that is wanted for a spend (µm), of spots only
// or of all of it.
// Each draw takes one of the joint samples as the truth, reads it with the
// gauge's noise, and moves all samples by the linear update that the samples'
// own covariance gives (an ensemble Kalman step).
func (s SectionFilm) Ahead(spend Spend, spots bool) Ahead {
	o, total := s.ahead, s.Film.Mean
	judge := func(l Least) State { return s.Policy.Judge(l, total, spend, spots).State }
	out := Ahead{Now: judge(s.Least)}
	out.To = out.Now
	room := s.Policy.Headroom(s.Least)
	n := min(len(o.noise), AheadAsk)
	if n == 0 || len(o.least) == 0 {
		return out
	}
	after := func(k int) []State {
		var states []State
		for t, m := range o.updates(k) {
			l := o.moved(s.Least, m)
			states = append(states, judge(l))
			if k == n && t%(aheadTruths/aheadGains) == 0 {
				out.Readings += (s.Policy.Headroom(l) - room) / aheadGains
			}
		}
		return states
	}
	last := after(n)
	if out.Change = differ(last, func(int) State { return out.Now }); out.Change <= faintChance {
		return out
	}
	out.Settle = n
	for k := n - 1; k > 0 && differ(after(k), func(i int) State { return last[i] }) <= faintChance; k-- {
		out.Settle = k
	}
	out.To = likeliest(last, out.Now)
	return out
}

func differ(a []State, b func(int) State) float64 {
	n := 0.0
	for i, v := range a {
		if v != b(i) {
			n++
		}
	}
	return n / float64(len(a))
}

// likeliest is the state, other than now, that comes up most.
func likeliest(states []State, now State) State {
	count := map[State]int{}
	for _, s := range states {
		count[s]++
	}
	best := now
	for _, s := range []State{Open, Tight, Shut} {
		if s != now && count[s] > 0 && (best == now || count[s] > count[best]) {
			best = s
		}
	}
	return best
}

// updates gives, for each truth drawn, the least film (µm) of all samples once
// the first k spots have been read.
func (o outlook) updates(k int) [][]float64 {
	n := len(o.least)
	gain := o.gain(k)
	rng := rand.New(rand.NewPCG(uint64(k), 0xa4ead))
	out := make([][]float64, 0, aheadTruths)
	for t := range aheadTruths {
		said := make([]float64, k)
		for i := range said {
			said[i] = o.spot(t*n/aheadTruths, i) + math.Sqrt(o.noise[i])*rng.NormFloat64()
		}
		moved := make([]float64, n)
		for j := range moved {
			moved[j] = o.least[j]
			for i := range said {
				moved[j] += gain[i] * (said[i] - o.spot(j, i) - math.Sqrt(o.noise[i])*rng.NormFloat64())
			}
		}
		out = append(out, moved)
	}
	return out
}

// gain is how far the least film moves with each of the first k readings.
func (o outlook) gain(k int) []float64 {
	n := float64(len(o.least))
	mean, meanLeast := make([]float64, k), 0.0
	for j, l := range o.least {
		meanLeast += l / n
		for i := range mean {
			mean[i] += o.spot(j, i) / n
		}
	}
	cov, cross := mat.NewSymDense(k, nil), mat.NewVecDense(k, nil)
	for j, l := range o.least {
		for a := range k {
			da := o.spot(j, a) - mean[a]
			cross.SetVec(a, cross.AtVec(a)+da*(l-meanLeast)/n)
			for b := a; b < k; b++ {
				cov.SetSym(a, b, cov.At(a, b)+da*(o.spot(j, b)-mean[b])/n)
			}
		}
	}
	for a := range k {
		cov.SetSym(a, a, cov.At(a, a)+o.noise[a])
	}
	var chol mat.Cholesky
	out := mat.NewVecDense(k, nil)
	if !chol.Factorize(cov) || chol.SolveVecTo(out, cross) != nil {
		return make([]float64, k) // spots that cannot be told apart teach nothing
	}
	return out.RawVector().Data
}
