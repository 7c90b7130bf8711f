package film

import (
	"math"
	"time"
)

// GaugeStudy is what repeated shots of one place tell of a gauge: its
// repeatability A (µm) with its doubt, from N shots.
type GaugeStudy struct {
	A      Estimate
	N      int
	Enough bool
}

const (
	studyShots = 5 // fewer tell nothing
	studyPrior = 4 // shots that the usual repeatability counts as (judgement)
)

// StudyGauge takes the repeatability from shots (µm) of one place on which the
// probe was lifted and put back: their variance, pooled with the usual one,
// which counts as studyPrior shots. What putting the probe back changes is in
// the shots too, so that variance is taken off them, down to half.
func StudyGauge(shots []float64) GaugeStudy {
	n := float64(len(shots))
	if n < 2 {
		return GaugeStudy{A: Estimate{UsualGauge.A, UsualGauge.A / math.Sqrt(2*studyPrior)}, N: len(shots)}
	}
	m, ss := 0.0, 0.0
	for _, v := range shots {
		m += v / n
	}
	for _, v := range shots {
		ss += (v - m) * (v - m)
	}
	usual := UsualGauge.A * UsualGauge.A
	again := UsualGauge.Replace * UsualGauge.Replace
	own := math.Max(ss/(n-1)-again, ss/(n-1)/2)
	df := studyPrior + n - 1
	a := math.Sqrt((studyPrior*usual + (n-1)*own) / df)
	return GaugeStudy{A: Estimate{a, a / math.Sqrt(2*df)}, N: len(shots), Enough: len(shots) >= studyShots}
}

// GaugeCheck is a look at a gauge before work, in µm: what it shows on bare
// metal after zeroing, and on a foil of known thickness. A Foil of 0 is none.
type GaugeCheck struct{ Zero, Foil, Read float64 }

// CheckFault says what is wrong with a check.
type CheckFault string

// The faults of a check.
const (
	CheckFine CheckFault = ""
	CheckZero CheckFault = "zero"
	CheckFoil CheckFault = "foil"
)

// Judge holds a check against what the gauge should repeat, at three standard
// deviations, and returns by how much (µm) it is off and how much it may be.
func (c GaugeCheck) Judge(g Gauge) (fault CheckFault, off, may float64) {
	may = 3 * g.A
	if off = c.Zero; math.Abs(off) > may {
		return CheckZero, off, may
	}
	if c.Foil > 0 {
		may = 3 * math.Hypot(g.A, g.B*c.Foil)
		if off = c.Read - c.Foil; math.Abs(off) > may {
			return CheckFoil, off, may
		}
	}
	return CheckFine, off, may
}

// Widened is what a check leaves known of a gauge: one that is off on its foil by more than it
// should be carries that, as a share of the film, as the doubt of its calibration until a check
// finds it right again.
func (c GaugeCheck) Widened(g Gauge) Gauge {
	if fault, off, _ := c.Judge(g); fault == CheckFoil {
		g.B = math.Max(g.B, math.Abs(off)/c.Foil)
	}
	return g
}

// Pooled is the gauge that a panel was read with: of several, one that repeats as
// they do on the mean of their readings and is off as the worst of them. Without a reading it is the usual gauge.
func Pooled(gauges []Gauge, readings []int) Gauge {
	out, sum, n := UsualGauge, 0.0, 0.0
	for i, g := range gauges {
		out.B = math.Max(out.B, g.B)
		sum += float64(readings[i]) * g.A * g.A
		n += float64(readings[i])
	}
	if n > 0 {
		out.A = math.Round(math.Sqrt(sum/n)*1e6) / 1e6 // the same in any order
	}
	return out
}

// Use is when a gauge read something.
type Use struct {
	Gauge string
	At    time.Time
}

// calibrated is for how long a gauge stays off by the same (judgement).
const calibrated = 12 * time.Hour

// OneDay says whether readings are of one gauge on one day, so that what it is off by as a
// whole is common to them.
func OneDay(all []Use) bool {
	for _, u := range all {
		if u.Gauge != all[0].Gauge || u.At.Sub(all[0].At).Abs() > calibrated {
			return false
		}
	}
	return len(all) > 0
}
