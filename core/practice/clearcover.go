package practice

import (
	"math"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
)

// ClearCoverage is how the clear of panels that were read before it went on fares
// against the truth: of Panels the true clear far from edges lay in the interval of so
// many standard deviations as 90 % of a normal have on Held, was no less than its lower
// end on Above; Off is the root mean square error and Said the mean doubt, µm.
type ClearCoverage struct {
	Panels, Held, Above int
	Off, Said           float64
}

// Share is the share of panels on which the interval held, and AboveShare that on which
// its lower end did.
func (c ClearCoverage) Share() float64      { return float64(c.Held) / float64(c.Panels) }
func (c ClearCoverage) AboveShare() float64 { return float64(c.Above) / float64(c.Panels) }

// Level is the true film (µm) far from edges and creases: its mean there.
func (t *Panel) Level(ground *film.Ground) float64 {
	const far = 90.0 // mm
	sum, n := 0.0, 0.0
	for _, q := range ground.Cells {
		if t.panel.EdgeDistance(q) >= far && t.panel.CreaseDistance(q) >= far {
			sum, n = sum+t.Film(q), n+1
		}
	}
	return sum / n
}

// CoverClear sprays so many panels with a clear over lower layers, reads each on before
// spots before the clear and on total spots after it, on another day, and holds the
// clear's own interval against the truth.
func CoverClear(ground *film.Ground, panels, before, total int) (ClearCoverage, error) {
	spots := film.NextSpots(ground, ground.Cells, nil, 0, nil, max(before, total))
	offs, said := make([]float64, panels), make([]float64, panels)
	errs := make([]error, panels)
	eachPanel(panels, func(i int) {
		seed := uint64(i)
		base := NewPanel(ground.Panel, 80+60*frac(seed), ByHand, seed+7000)
		clear := NewPanel(ground.Panel, 40+50*frac(3*seed), ByHand, seed)
		both := clear.Over(base)
		first, second := NewGauge(seed+9000), NewGauge(seed)
		facts := film.Facts{History: film.History{Finish: film.RefinishedOld}, Before: readWith(first, base, spots[:before])}
		study, err := film.NewStudy(ground, facts, readWith(second, both, spots[:total]), film.UsualGauge)
		if err != nil {
			errs[i] = err
			return
		}
		offs[i], said[i] = clear.Level(ground)-study.Clear.Mean, study.Clear.SD
	})
	out := ClearCoverage{Panels: panels}
	for i, off := range offs {
		if errs[i] != nil {
			return out, errs[i]
		}
		out.Off += off * off / float64(panels)
		out.Said += said[i] / float64(panels)
		if math.Abs(off) <= interval*said[i] {
			out.Held++
		}
		if off >= -interval*said[i] {
			out.Above++
		}
	}
	out.Off = math.Sqrt(out.Off)
	return out, nil
}

// readWith reads places with a gauge, each as it is taken with care; one in fifty is a slip
// all the same. What does not fit those before it is read once more.
func readWith(g *Gauge, t *Panel, at []flatlay.Point) []film.Place {
	var out []film.Place
	var read []film.Reading
	for _, q := range at {
		place := g.Slip(g.Spot(t, q))
		spot := film.SpotOf(t.panel, q.X, q.Y)
		if _, odd := film.OddAmong(read, spot, place.Film); odd {
			place = g.Slip(g.Spot(t, q))
		}
		out = append(out, place)
		read = append(read, film.Reading{Spot: spot, T: place.Film, Shots: 1})
	}
	return out
}
