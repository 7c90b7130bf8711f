package level

import (
	"math"
	"math/rand/v2"
	"testing"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
)

// hidden is a section whose true clear and cut nobody sees.
type hidden struct {
	clear float64 // µm at the thinnest place
	cut   float64 // ln(rate/nominal) of the first step
	own   float64 // further ln(rate) of the thinnest place, where no probe stands
	rng   *rand.Rand
}

// pass is the mean removal of one more pass where the probe stands.
func (h *hidden) pass(l plan.Ladder) float64 {
	return l.Steps[0].Rate * math.Exp(h.cut+PassScatter*h.rng.NormFloat64())
}

// left is the true clear at the thinnest place.
func (h *hidden) left(curve surface.Curve, removed float64) float64 {
	return h.clear - curve.At(removed*math.Exp(h.own))
}

// follow takes every pass that the advice grants: half of each grant, a reading
// of two known spots, again. It says how many passes were made and whether the
// clear went under floor and reserve.
func (h *hidden) follow(t testing.TB, l plan.Ladder, least film.Least) (passes int, burnt bool) {
	t.Helper()
	var measures []Measure
	noise := math.Hypot(film.UsualGauge.A, film.UsualGauge.Replace)
	opening := []float64{noise * h.rng.NormFloat64(), noise * h.rng.NormFloat64()}
	curve, removed := l.Steps[0].Curve(), 0.0
	for {
		w, err := NewWork(l, measures, len(opening), film.UsualGauge)
		if err != nil {
			t.Fatal(err)
		}
		a := w.AdviseFor(sectionOf(least), Progress{Own: l.StepsOf(""), Passes: []int{passes, 0, 0, 0, 0}, Need: mostPasses})
		if a.Granted == 0 {
			return passes, h.left(curve, removed) < policy.Floor+l.Reserve(0)
		}
		for range max(a.Read, 1) {
			removed += h.pass(l)
			passes++
		}
		for i, e := range opening {
			measures = append(measures, Measure{Passes: []int{passes, 0, 0, 0, 0}, Spot: i,
				Loss: curve.At(removed) + l.Steps[0].GaugeOffset() + e - noise*h.rng.NormFloat64()})
		}
	}
}

// oracle is how many passes somebody who sees everything could make.
func (h *hidden) oracle(l plan.Ladder) int {
	curve, n, removed := l.Steps[0].Curve(), 0, 0.0
	for h.left(curve, removed) >= policy.Floor+l.Reserve(0) {
		n++
		removed += l.Steps[0].Rate * math.Exp(h.cut)
	}
	return max(n-1, 0)
}

// promise works that many sections of hidden truth to the stop: the share that
// went under floor and reserve, and the share of possible passes not granted.
// bias is what every cut is faster than the prior, as a logarithm.
func promise(t testing.TB, sections int, bias float64) (burnt, given float64) {
	t.Helper()
	l := ladder(t)
	least := clearOf(60, 3)
	spread := math.Sqrt(PersonSpread*PersonSpread + PaintSpread*PaintSpread + AbrasiveSpread*AbrasiveSpread + StepSpread*StepSpread)
	made, could := 0, 0
	for seed := range uint64(sections) {
		rng := rand.New(rand.NewPCG(seed, 77))
		h := &hidden{clear: 60 + 3*rng.NormFloat64(), cut: bias + spread*rng.NormFloat64(), own: film.Unevenness * rng.NormFloat64(), rng: rng}
		n, b := h.follow(t, l, least)
		if b {
			burnt += 1 / float64(sections)
		}
		made += n
		could += h.oracle(l)
	}
	return burnt, 1 - float64(made)/float64(could)
}

var biases = map[string]float64{"as the prior": 0, "28 % faster": math.Log(1.28)}

// TestFollowingTheAdviceKeepsTheFloor holds the accepted chance within three standard
// errors, and that the advice is not so timid that it is of no use.
func TestFollowingTheAdviceKeepsTheFloor(t *testing.T) {
	const sections = 160
	for name, bias := range biases {
		burnt, given := promise(t, sections, bias)
		if limit := policy.Next(); burnt > limit+3*math.Sqrt(limit*(1-limit)/sections) {
			t.Errorf("%s: %.1f %% of the sections went under the floor", name, 100*burnt)
		}
		if given > 0.6 {
			t.Errorf("%s: %.0f %% of the passes were given away", name, 100*given)
		}
	}
}

// BenchmarkPromise prints what following the advice costs on 1200 sections.
func BenchmarkPromise(b *testing.B) {
	for name, bias := range biases {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				burnt, given := promise(b, 1200, bias)
				b.ReportMetric(100*burnt, "%burnt")
				b.ReportMetric(100*given, "%given-away")
			}
		})
	}
}
