package photo

import (
	"errors"
	"math"
	"math/cmplx"
	"slices"
)

// Interval is a figure with the ends of its 95 % interval.
type Interval struct{ Value, Low, High float64 }

// Reading is what a reflection tells of a panel.
type Reading struct {
	Peel, Pebble   Interval // rms, µm, of waves longer and shorter than 1.8 mm
	PeelAtMost     bool     // hidden under the short waves: an upper bound
	PebbleAtMost   bool     // hidden under the long waves: an upper bound
	PebbleAtLeast  bool     // the lens may have blurred it
	Haze           Interval // mrad
	HazeAtMost     bool
	M, Pitch, Duty float64 // stretch of lamp places, pitch of the stripes in pixels, bright share
	Fold           float64 // how far the waves fold the stripes
	Edges          Edges   // what was found, to draw
}

// Edges are where the stripes turn bright or dark, on one row of pixels in so many: places in
// pixels along it, found ones and those of a smooth panel. Lying says that stripes lie, and
// rows are columns.
type Edges struct {
	Every    int
	Lying    bool
	X        [][]float32
	Straight [][]float32
}

// splitAt parts peel from pebble, mm.
const splitAt = 1.8

// What is still read, and how (judgement, tried on photos of our own making).
const (
	leastW, leastH   = 300, 200
	mostClipped      = 0.15
	leastContrast    = 16.0 / 255
	leastPitches     = 4.5
	leastPitchPx     = 12.0
	leastM           = 0.7
	mostM            = 2.0  // times that of a flat panel
	mostBroken       = 0.02 // share of pitches in which no stripe turns
	mostUneven       = 0.03 // of the step from dark to bright, between bright stripes side by side
	leastFold        = 0.05 // of stripes that any paint mirrors
	mostWander       = 0.93 // of the ceiling
	leastDuty        = 0.2
	mostTurn         = 0.6
	leastCarrier     = 0.10
	leastCoherence   = 0.35
	mostTrendOff     = 1.3 // rad
	fewestPitches    = 2.2
	mostTransition   = 0.10 // of the pitch
	coarseSide       = 512
	thresholdAcross  = 1.5 // pitches
	thresholdAlong   = 2.0
	jackknifeBands   = 10
	longestLag       = 14.0 // mm
	lags             = 40
	rowsALag         = 240
	bandFrom, bandTo = 0.28, 10.0 // mm
	bandRatio        = 1.13
	bandWide         = 0.1 // of the logarithm
	ridge            = 1e-3
	apertureSD       = 0.30
	mostBlurred      = 2.5 // k² sigma² of waves that are still counted
	pebbleFrom       = 0.5 // mm, the shortest pebble that there usually is
	usualLens        = 0.8 // px
)

func (l Lamp) check() error {
	switch {
	case !(l.MMPerPx > 0):
		return refuse(ScaleMissing, l.MMPerPx, 0)
	case !(l.Pitch > 0) || !(l.Lamp > 0):
		return refuse(GeometryMissing, l.Pitch, l.Lamp)
	case l.Pitch > 500 || l.Lamp < 50 || l.Lamp > 20000 || l.MMPerPx > 5 || l.Lens > 20:
		return refuse(GeometryRange, l.Pitch, l.Lamp)
	}
	return nil
}

// Reflect reads a reflection. It returns a Refusal where the photo tells nothing.
func Reflect(p Picture, l Lamp) (Reading, error) {
	var out Reading
	if err := l.check(); err != nil {
		return out, err
	}
	if p.W < leastW || p.H < leastH {
		return out, refuse(TooSmall, float64(p.W), leastW)
	}
	if err := exposed(p); err != nil {
		return out, err
	}
	known, across := l.Lens > 0, true
	if !known {
		l.Lens = usualLens
	}
	switch blur := l.blur(); {
	case !seenThrough(splitAt, blur):
		return out, refuse(OutOfFocus, l.Lens, math.Sqrt(mostBlurred)*splitAt/(2*math.Pi)/l.MMPerPx)
	case !known || !seenThrough(pebbleFrom, blur):
		out.PebbleAtLeast = true
	}
	t, err := findTrend(p, l.Card)
	if errors.Is(err, errLying) { // the stripes run across
		p, across = transposed(p), false
		t, err = findTrend(p, l.Card.transposed())
	}
	if err != nil {
		return out, err
	}
	e := findEdges(p, t)
	out.Duty = e.duty
	out.Pitch = t.pitchPx
	out.M = l.Pitch / (t.pitchPx * l.MMPerPx)
	switch {
	case out.M < leastM:
		return out, refuse(GeometryMismatch, out.M, leastM)
	case l.Camera > 0 && out.M > mostM*(1+l.Lamp/l.Camera):
		return out, refuse(StripesNarrow, out.M, mostM*(1+l.Lamp/l.Camera))
	case e.duty < leastDuty || e.duty > 1-leastDuty:
		return out, refuse(StripesNotFound, e.duty, leastDuty)
	}
	if broken := e.broken(); broken > mostBroken {
		return out, refuse(StripesBroken, broken, mostBroken)
	}
	if uneven := e.uneven(p); uneven > mostUneven {
		return out, refuse(StripesUneven, uneven*100, mostUneven*100)
	}
	v := e.variogram(l.MMPerPx)
	if top := 2 * e.duty * (1 - e.duty); v.most() > mostWander*top {
		return out, refuse(WanderTooLarge, v.most()/top, mostWander)
	}
	all := v.explain(l, e.duty)
	fit := all.fit(-1)
	out.Peel, out.Pebble = fit.sq(splitAt, math.Inf(1)), fit.sq(0, splitAt)
	if out.Fold = fit.fold(l, out.M); out.Fold < leastFold {
		return out, refuse(StripesStraight, out.Fold, leastFold)
	}
	out.doubt(all, fit, float64(p.W)*float64(p.H)*l.MMPerPx*l.MMPerPx)
	haze := sharpness(p, t, l, fit, out.M)
	if haze.transition > mostTransition {
		return out, refuse(TooBlurred, haze.transition, mostTransition)
	}
	if x := haze.excess / l.MMPerPx; x > 2.5 && out.Pebble.Value < 0.02*out.Peel.Value || x > 5 && out.Pebble.Value < 0.04*out.Peel.Value {
		return out, refuse(OutOfFocus, x, 2.5)
	}
	out.Haze, out.HazeAtMost = haze.of, out.Fold >= 2.5 || !known
	out.Edges = e.drawn(t, !across)
	return out, nil
}

// exposed refuses what is too bright, or shows nothing.
func exposed(p Picture) error {
	clipped := 0
	hist := [257]int{}
	for _, v := range p.V {
		if v >= 254.0/255 {
			clipped++
		}
		hist[int(v*256)]++
	}
	if share := float64(clipped) / float64(len(p.V)); share > mostClipped {
		return refuse(Saturated, share, mostClipped)
	}
	at := func(q float64) float64 {
		left := int(q * float64(len(p.V)))
		for i, n := range hist {
			if left -= n; left < 0 {
				return float64(i) / 256
			}
		}
		return 1
	}
	if c := at(0.95) - at(0.05); c < leastContrast {
		return refuse(LowContrast, c, leastContrast)
	}
	return nil
}

func transposed(p Picture) Picture {
	out := Picture{p.H, p.W, make([]float32, len(p.V))}
	for y := range p.H {
		for x := range p.W {
			out.V[x*p.H+y] = p.V[y*p.W+x]
		}
	}
	return out
}

// doubt makes the intervals: the jackknife over bands of rows, the number of long waves, and
// what is not known of the lens.
func (r *Reading) doubt(e explained, all bands, area float64) {
	var long, short []float64
	for b := range jackknifeBands {
		one := e.fit(b)
		long, short = append(long, one.sq(splitAt, math.Inf(1)).Value), append(short, one.sq(0, splitAt).Value)
	}
	sd := func(of []float64) float64 {
		mean, sum := 0.0, 0.0
		for _, x := range of {
			mean += x / float64(len(of))
		}
		for _, x := range of {
			sum += (x - mean) * (x - mean)
		}
		n := float64(len(of))
		return math.Sqrt(sum * (n - 1) / n)
	}
	const sure = 1.96
	wide := func(of *Interval, rel float64) {
		half := sure * rel * of.Value
		of.Low, of.High = math.Max(of.Value-half, 0), of.Value+half
	}
	waves := math.Max(area/(all.length(splitAt, math.Inf(1))*all.length(splitAt, math.Inf(1))), 1)
	jack := sd(long) / math.Max(r.Peel.Value, 1e-9)
	wide(&r.Peel, math.Hypot(math.Hypot(math.Max(jack, 1.8/math.Sqrt(waves)), 0.03), drawnOut))
	k := 2 * math.Pi / math.Max(all.length(0, splitAt), bandFrom)
	blur := e.lamp.blur()
	jackS := sd(short) / math.Max(r.Pebble.Value, 1e-9)
	wide(&r.Pebble, math.Hypot(jackS, math.Hypot(0.04, 0.13*k*k*blur*blur)))
	if sure*jackS > 0.5 || area < smallField {
		r.PebbleAtMost = true
		r.Pebble.Low = 0
	}
	if r.Peel.Value < hiddenUnder*r.Pebble.Value {
		r.PeelAtMost = true
		r.Peel.Low, r.Peel.High = 0, math.Max(r.Peel.High, hiddenMost*r.Pebble.Value)
	}
}

// What the doubt of peel adds up from (judgement, tried on photos of our own making).
const (
	drawnOut    = 0.12 // waves that are drawn out one way, by a fifth: slopes are seen across the stripes alone
	smallField  = 5000 // mm², of which short waves read up to three times too high
	hiddenUnder = 0.4  // of the pebble: less peel than that is hidden under it
	hiddenMost  = 0.6  // of the pebble, that may be hidden so
)

// drawn are the edges as they lie in the photo, with those that a smooth panel would show.
func (e edges) drawn(t *trend, lying bool) Edges {
	const every = 4
	out := Edges{Every: every, Lying: lying}
	up, down := e.phases()
	for y := 0; y < len(e.rows); y += every {
		r := &e.rows[y]
		out.X = append(out.X, slices.Clone(r.x))
		out.Straight = append(out.Straight, t.crossings(float64(y)+0.5, up, down))
	}
	return out
}

// phases are those at which the stripes turn bright and dark, 0 to 1: the mean of what was
// found, round the pitch.
func (e edges) phases() (up, down float64) {
	var sum [2]complex128
	for i := range e.rows {
		on := e.rows[i].bright
		for _, ph := range e.rows[i].tau {
			k := 0
			if on {
				k = 1
			}
			sum[k] += cmplx.Rect(1, 2*math.Pi*ph)
			on = !on
		}
	}
	turn := func(c complex128) float64 { return cmplx.Phase(c) / (2 * math.Pi) }
	return turn(sum[0]), turn(sum[1])
}

// crossings are the places in pixels along a row at which the smooth phase passes those of the
// stripes' edges.
func (t *trend) crossings(y float64, phases ...float64) []float32 {
	const stride = 4
	c := t.row(y)
	tau := func(x float64) float64 { return along(c, 2*x/float64(t.w)-1) }
	var out []float32
	last := tau(0)
	for x := stride; x < t.w; x += stride {
		now := tau(float64(x))
		for _, ph := range phases {
			if k := math.Floor(now - ph); k > math.Floor(last-ph) && now > last {
				out = append(out, float32(float64(x)-stride*(now-ph-k)/(now-last)))
			}
		}
		last = now
	}
	slices.Sort(out)
	return out
}
