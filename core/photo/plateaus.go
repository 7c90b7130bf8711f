package photo

import (
	"math"
	"slices"
)

// leastPlateau is how much of a pitch a stripe takes whose middle is not blurred.
const leastPlateau = 0.2

// uneven is by how much a bright stripe differs from the mean of the two beside it (rms), as a
// share of the step from dark to bright. One lamp lights all of its stripes, so that they differ
// by its slow fall alone; planks, pickets and pipes each have a shade of their own.
func (e edges) uneven(p Picture) float64 {
	lit, dark := e.plateaus(p, true), e.plateaus(p, false)
	var steps []float64
	sum, n := 0.0, 0.0
	for k, v := range lit {
		if d, there := dark[k]; there {
			steps = append(steps, v-d)
		}
		before, left := lit[k-1]
		after, right := lit[k+1]
		if left && right {
			off := v - (before+after)/2
			sum, n = sum+off*off, n+1
		}
	}
	if len(steps) == 0 || n == 0 {
		return 0
	}
	slices.Sort(steps)
	return math.Sqrt(sum/n) / math.Max(steps[len(steps)/2], 1.0/255)
}

// plateaus are how bright the middles of the bright or the dark stripes are, by the pitch that
// they lie in.
func (e edges) plateaus(p Picture, bright bool) map[int]float64 {
	sum, n := map[int]float64{}, map[int]float64{}
	for y := range e.rows {
		r := &e.rows[y]
		on := r.bright
		for i := 1; i < len(r.tau); i++ {
			on = !on
			middle := (r.tau[i-1] + r.tau[i]) / 2
			if on != bright || r.tau[i]-r.tau[i-1] < leastPlateau || middle > r.hole[0] && middle < r.hole[1] {
				continue
			}
			k, a, wide := int(math.Floor(middle)), float64(r.x[i-1]), float64(r.x[i]-r.x[i-1])
			for x := int(a + 0.3*wide); x <= int(a+0.7*wide); x++ {
				sum[k] += float64(p.V[y*p.W+x])
				n[k]++
			}
		}
	}
	for k := range sum {
		sum[k] /= n[k]
	}
	return sum
}
