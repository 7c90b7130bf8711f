package robot

import (
	"math"
	"math/rand/v2"

	"waxplanus/core/flatlay"
	"waxplanus/core/practice"
)

// truth is what nobody at a panel knows: its film layer by layer, how fast it is really cut,
// and how far from its plan a step really needs to go.
type truth struct {
	shape       flatlay.Panel
	base, clear *practice.Panel
	cut, need   float64 // times the shelf's rate, and the film that a step needs
	lost        map[string]float64
	short       map[string]bool        // sections on which a step ended with less than it needed
	by          map[int]map[string]int // passes of a step, by who made them
	rng         *rand.Rand
	calibration float64
	slips       bool
	plastic     bool
}

func (d *dice) truthOf(shape flatlay.Panel, total, clear float64) *truth {
	seed := uint64(d.next())<<8 | uint64(d.next())
	t := &truth{shape: shape, lost: map[string]float64{}, short: map[string]bool{}, by: map[int]map[string]int{}, rng: rand.New(rand.NewPCG(seed, 0x70b07))}
	spray := pick(d, practice.ByHand, practice.ByRobot, practice.Rough)
	t.base = practice.NewPanel(shape, math.Max(total-clear, 20), spray, 2*seed+1)
	t.clear = practice.NewPanel(shape, clear, spray, 2*seed+2)
	t.cut = math.Exp(0.3 * d.off())
	t.need = math.Exp(0.12 * d.off())
	t.calibration = 1 + 0.01*d.off()
	t.slips = d.oneIn(3)
	return t
}

// film is what a gauge shows at a place of a section, µm.
func (t *truth) film(section string, q flatlay.Point) float64 {
	um := (t.base.Film(q)+t.clear.Film(q)-t.lost[section])*t.calibration + 1.2*t.rng.NormFloat64()
	if t.slips && t.rng.IntN(40) == 0 {
		um *= 0.7 + 0.75*t.rng.Float64()
	}
	return math.Round(10*math.Max(um, 12)) / 10
}

// left is the true clear of a section, µm: where a twentieth of it has less, and the least.
func (t *truth) left(s flatlay.Section) (part, least float64) {
	least = math.Inf(1)
	var all []float64
	for _, c := range s.Cells {
		all = append(all, t.clear.Film(c)-t.lost[s.Key])
	}
	for _, um := range all {
		least = math.Min(least, um)
	}
	return quantile(all, 0.05), least
}

// passes is how many passes a step really needs that is planned with so many.
func (t *truth) passes(planned int) int {
	return max(int(math.Ceil(float64(planned)*t.need/t.cut-0.25)), 1)
}

// others says whether somebody else than a person made most passes of a step: their cut is
// what Level goes by until the person has made more.
func (t *truth) others(step int, person, painter string) bool {
	by := t.by[step]
	for name, n := range by {
		if name != person && n >= by[person] {
			return true
		}
	}
	return len(by) == 0 && person != painter
}
