// Package practice makes panels with a hidden truth and reads them as a gauge
// does, to test film maps against, to learn on, and for the stand-in gauge.
//
// The truth is not drawn from the film map's own model: the gun's lanes are
// waves, the droop is a slope with a bowl in it, and every side thins in its own
// way. Film is in µm, places in mm.
package practice

import (
	"math"
	"math/rand/v2"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
)

// Spray is how unevenly a panel is sprayed: the bounds between which each panel
// draws its own figures. All but Pitch and Reach are shares of the mean film.
type Spray struct {
	Stripe, Pitch [2]float64 // amplitude of the gun's lanes and their distance, mm
	Droop, Bowl   float64    // most slope across and most sag in the middle
	Drift         float64    // spread of what changes slowly
	Edge, Crease  [2]float64 // thinning right at a side or a crease
	Reach         [2]float64 // of the thinning, mm
}

// ByHand is a panel sprayed by hand (judgement).
var ByHand = Spray{Stripe: [2]float64{0.015, 0.045}, Pitch: [2]float64{90, 180}, Droop: 0.08, Bowl: 0.05, Drift: 0.03,
	Edge: [2]float64{0.10, 0.40}, Crease: [2]float64{0.05, 0.25}, Reach: [2]float64{12, 28}}

// Rough is a panel sprayed by hand in a hurry: lanes and droop twice as strong
// (judgement).
var Rough = Spray{Stripe: [2]float64{0.03, 0.09}, Pitch: [2]float64{90, 180}, Droop: 0.14, Bowl: 0.08, Drift: 0.05,
	Edge: [2]float64{0.10, 0.45}, Crease: [2]float64{0.05, 0.30}, Reach: [2]float64{12, 28}}

// ByRobot is a factory finish (judgement).
var ByRobot = Spray{Stripe: [2]float64{0.005, 0.02}, Pitch: [2]float64{90, 180}, Droop: 0.04, Bowl: 0.02, Drift: 0.015,
	Edge: [2]float64{0.05, 0.25}, Crease: [2]float64{0.03, 0.12}, Reach: [2]float64{12, 28}}

// Panel is a panel whose true film is known.
type Panel struct {
	panel                flatlay.Panel
	w, h                 float64
	mean                 float64
	stripe, pitch, phase float64
	lying                bool
	u, v, bowl           float64
	waves                []wave
	edge, edgeReach      [flatlay.NumSides]float64
	crease, creaseReach  float64
	under                *Panel // beneath this coat, nil for none
}

// wave is a part of the slow drift.
type wave struct{ x, y, phase, height float64 }

// NewPanel draws a panel of mean µm of film off its edges; the same seed gives
// the same panel.
func NewPanel(p flatlay.Panel, mean float64, s Spray, seed uint64) *Panel {
	rng := rand.New(rand.NewPCG(seed, 0x9a7e1))
	between := func(b [2]float64) float64 { return b[0] + (b[1]-b[0])*rng.Float64() }
	about := func(most float64) float64 { return most * (2*rng.Float64() - 1) }
	t := &Panel{panel: p, mean: mean}
	t.w, t.h = p.Size()
	t.stripe, t.pitch, t.phase, t.lying = between(s.Stripe), between(s.Pitch), 2*math.Pi*rng.Float64(), rng.Float64() < 0.8
	t.u, t.v, t.bowl = about(s.Droop), about(s.Droop), about(s.Bowl)
	const waves = 6
	for range waves {
		length, turn := 500+900*rng.Float64(), 2*math.Pi*rng.Float64()
		k := 2 * math.Pi / length
		t.waves = append(t.waves, wave{k * math.Cos(turn), k * math.Sin(turn), 2 * math.Pi * rng.Float64(), s.Drift * math.Sqrt(2.0/waves)})
	}
	for i := range t.edge {
		t.edge[i], t.edgeReach[i] = between(s.Edge), between(s.Reach)
	}
	t.crease, t.creaseReach = between(s.Crease), between(s.Reach)
	return t
}

// Film is the true total film (µm) at a place.
func (t *Panel) Film(q flatlay.Point) float64 {
	x, y := 2*q.X/t.w-1, 2*q.Y/t.h-1
	along := q.Y
	if !t.lying {
		along = q.X
	}
	f := 1 + t.stripe*math.Sin(2*math.Pi*along/t.pitch+t.phase) + t.u*x + t.v*y + t.bowl*(1-x*x-y*y)
	for _, w := range t.waves {
		f += w.height * math.Sin(w.x*q.X+w.y*q.Y+w.phase)
	}
	thin := 1 - t.crease*math.Exp(-t.panel.CreaseDistance(q)/t.creaseReach)
	for i, d := range t.panel.SideDistances(q) {
		thin = math.Min(thin, 1-t.edge[i]*math.Exp(-d/t.edgeReach[i]))
	}
	own := t.mean * f * thin
	if t.under != nil {
		own += t.under.Film(q)
	}
	return own
}

// Least is the least true film (µm) of a section, on a lattice of so many mm,
// off the taped border and the strips along creases.
func (t *Panel) Least(s flatlay.Section, step float64) float64 {
	least := math.Inf(1)
	for _, c := range s.Cells {
		for x := c.X - flatlay.Cell/2 + step/2; x < c.X+flatlay.Cell/2; x += step {
			for y := c.Y - flatlay.Cell/2 + step/2; y < c.Y+flatlay.Cell/2; y += step {
				q := flatlay.Point{X: x, Y: y}
				if t.panel.Inside(q) && t.panel.EdgeDistance(q) >= flatlay.Border && t.panel.CreaseDistance(q) >= film.CreaseStrip {
					least = math.Min(least, t.Film(q))
				}
			}
		}
	}
	return least
}

// Gauge is a contact gauge in a hand: what film.Gauge says of it, and the share
// of its shots that are wild, off by up to Wildest of the film.
type Gauge struct {
	film.Gauge
	Wild, Wildest float64
	offset        float64
	rng           *rand.Rand
}

// NewGauge takes a gauge in hand for one day: its calibration is off by one
// share all day.
func NewGauge(seed uint64) *Gauge {
	g := &Gauge{Gauge: film.UsualGauge, Wild: 0.05, Wildest: 0.35, rng: rand.New(rand.NewPCG(seed, 0x6a06e))}
	g.Miss = 12
	g.offset = g.B * g.rng.NormFloat64()
	return g
}

// Shot is one reading (µm) of a panel near a place. The probe lies on the paint
// and, close to an edge, tilts and reads too little.
func (g *Gauge) Shot(t *Panel, at flatlay.Point) float64 {
	q := at
	for range 8 {
		q = flatlay.Point{X: at.X + g.Miss*g.rng.NormFloat64(), Y: at.Y + g.Miss*g.rng.NormFloat64()}
		if t.panel.Inside(q) {
			break
		}
		q = at
	}
	v := t.Film(q)*(1+g.offset) + math.Hypot(g.A, g.Replace)*g.rng.NormFloat64()
	if edge := t.panel.EdgeDistance(q); edge < tilts {
		v *= 1 - 0.3*(1-edge/tilts)*g.rng.Float64()
	}
	if g.rng.Float64() < g.Wild {
		v *= 1 + g.Wildest*(2*g.rng.Float64()-1)
	}
	return math.Max(v, film.GateShut/5)
}

// tilts is how near an edge, in mm, a probe no longer stands flat.
const tilts = 10.0

// Spot is the reading of a place as it is taken with care: the median of three
// shots.
func (g *Gauge) Spot(t *Panel, at flatlay.Point) film.Place {
	shots := []float64{g.Shot(t, at), g.Shot(t, at), g.Shot(t, at)}
	slices.Sort(shots)
	return film.Place{X: at.X, Y: at.Y, Film: shots[1]}
}

// One reading in so many is a slip, and by how much of the film it is off at the least and
// at the most (judgement).
const (
	slips     = 0.02
	slipLeast = -0.30
	slipMost  = 0.45
)

// Slip is a reading as it is kept, which is now and then far off.
func (g *Gauge) Slip(p film.Place) film.Place {
	if g.rng.Float64() < slips {
		p.Film *= 1 + slipLeast + (slipMost-slipLeast)*g.rng.Float64()
	}
	return p
}
