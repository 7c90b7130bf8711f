package film

import (
	"cmp"
	"math"
	"slices"
)

// mostNear is how many readings a part of a panel is read from: those that lie nearest to
// it. Farther ones stand behind them and tell next to nothing of it besides the mean film,
// and all of a large panel's would cost several times as much.
const mostNear = 80

// near are some fields of one map as the readings nearest to some nodes have them, with the
// mean film and its doubt from all readings.
func near(to []node, fields []*field) []*field {
	if len(fields[0].at) <= mostNear {
		return fields
	}
	o := fields[0].nearest(to)
	own := o.kernels(o.at, reachesOf(fields))
	out := make([]*field, len(fields))
	for i, f := range fields {
		if i > 0 && f == fields[i-1] {
			out[i] = out[i-1]
			continue
		}
		g := *f
		g.observed = o
		if g.factor(own) != nil { // readings that resolve together do so apart
			return fields
		}
		for j, e := range g.e {
			g.res[j] -= g.beta * e
		}
		out[i] = &g
	}
	return out
}

// nearest are the mostNear readings that lie nearest to any of some nodes.
func (o *observed) nearest(to []node) *observed {
	off := make([]float64, len(o.at))
	order := make([]int, len(o.at))
	for i := range o.at {
		order[i], off[i] = i, math.Inf(1)
		for j := range to {
			dx, dy := o.at[i].x-to[j].x, o.at[i].y-to[j].y
			off[i] = math.Min(off[i], dx*dx+dy*dy)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(off[a], off[b]) })
	out := &observed{prior: o.prior, gauge: o.gauge, scale: o.scale}
	for _, i := range slices.Sorted(slices.Values(order[:mostNear])) {
		out.at, out.film, out.own = append(out.at, o.at[i]), append(out.film, o.film[i]), append(out.own, o.own[i])
	}
	return out
}

// tile is the side, in mm, of the squares by which nodes are sorted, so that those worked
// together lie together.
const tile = 600

// tiled are the places of nodes in their list, square by square.
func tiled(to []node) []int {
	out := make([]int, len(to))
	for i := range out {
		out[i] = i
	}
	row := func(i int) float64 { return math.Floor(to[i].y / tile) }
	col := func(i int) float64 { return math.Floor(to[i].x / tile) }
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Or(cmp.Compare(row(a), row(b)), cmp.Compare(col(a), col(b))) })
	return out
}
