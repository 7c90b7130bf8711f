package practice

import (
	"fmt"
	"math"
	"runtime"
	"sync"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
)

// Coverage is how the bound of a section's least film fares against the truth:
// of All sections it Held on so many, and lay Under (µm) the true least film on
// the mean. Points says on how many of AllPoints cells the true film lay in the
// map's interval of 90 %.
type Coverage struct {
	All, Held         int
	Under             float64
	AllPoints, Points int
}

// Share is the share of sections on which the bound held.
func (c Coverage) Share() float64 { return float64(c.Held) / float64(c.All) }

// PointShare is the share of cells in the interval.
func (c Coverage) PointShare() float64 { return float64(c.Points) / float64(c.AllPoints) }

// Cover sprays so many panels, reads each on readings spots that spread over it,
// three shots a spot, and holds the study's bounds against the truth.
func Cover(ground *film.Ground, spray Spray, finish film.Finish, panels, readings int) (Coverage, error) {
	spots := film.NextSpots(ground, ground.Cells, nil, 0, nil, readings)
	if len(spots) < readings {
		return Coverage{}, fmt.Errorf("the %s has room for %d spots, not %d", ground.Panel.Name, len(spots), readings)
	}
	parts := make([]Coverage, panels)
	errs := make([]error, panels)
	eachPanel(panels, func(i int) { parts[i], errs[i] = cover(ground, spray, finish, spots, uint64(i)) })
	var out Coverage
	for i, c := range parts {
		if errs[i] != nil {
			return Coverage{}, errs[i]
		}
		out.All, out.Held = out.All+c.All, out.Held+c.Held
		out.AllPoints, out.Points = out.AllPoints+c.AllPoints, out.Points+c.Points
		out.Under += c.Under
	}
	out.Under /= float64(out.All)
	return out, nil
}

// eachPanel does something for so many panels, on all processors.
func eachPanel(panels int, do func(i int)) {
	var all sync.WaitGroup
	slots := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i := range panels {
		slots <- struct{}{}
		all.Go(func() {
			defer func() { <-slots }()
			do(i)
		})
	}
	all.Wait()
}

const (
	lattice  = 10.0 // mm, on which the truth is searched for its least
	interval = 1.645
)

func cover(ground *film.Ground, spray Spray, finish film.Finish, spots []flatlay.Point, seed uint64) (Coverage, error) {
	truth := NewPanel(ground.Panel, 100+120*frac(seed), spray, seed)
	gauge := NewGauge(seed)
	study, err := film.NewStudy(ground, film.Facts{History: film.History{Finish: finish, Coats: 3}}, readWith(gauge, truth, spots), film.UsualGauge)
	if err != nil {
		return Coverage{}, err
	}
	var c Coverage
	for _, s := range study.Sections {
		least := truth.Least(s.Section, lattice)
		if math.IsInf(least, 1) {
			continue
		}
		c.All++
		if least >= s.Bound {
			c.Held++
		}
		c.Under += least - s.Bound
	}
	for i, q := range ground.Cells {
		e := study.Film[i]
		c.AllPoints++
		if math.Abs(truth.Film(q)-e.Mean) <= interval*e.SD {
			c.Points++
		}
	}
	return c, nil
}

// frac spreads whole numbers evenly over 0 to 1.
func frac(i uint64) float64 {
	_, f := math.Modf(float64(i) * 0.6180339887498949)
	return f
}
