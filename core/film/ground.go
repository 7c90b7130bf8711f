package film

import (
	"math"

	"waxplanus/core/flatlay"
)

// Ground is a panel made ready for film maps: all that does not depend on a
// reading, so that it is made once for a panel.
type Ground struct {
	Panel    flatlay.Panel
	Sections []flatlay.Section
	Cells    []flatlay.Point // centres of the cells on the paint, row by row

	size   Extent
	raster flatlay.Grid
	nx, ny int    // nodes of the raster with one ring around it
	spots  []Spot // row by row
	nodes  []node // of the spots, and after them cells at their thinnest place
	paint  []int  // the node of each cell
	parts  []part // the sections, then the strips
}

// CreaseStrip is how far to both sides of a crease, in mm, the film thins there:
// the strip is kept out of sections and has its own bound, as the taped border
// has.
const CreaseStrip = 20.0

// part is a group of cells with a bound of its own: a section without its
// creases, or a strip.
type part struct {
	key   string
	thin  []int // nodes at the thinnest place of each cell
	shown []int // and at their centres
}

// The strips of a panel.
const (
	StripCreases = "creases"
	StripBorder  = "border"
)

// NewGround prepares a panel.
func NewGround(p flatlay.Panel) *Ground {
	w, h := p.Size()
	g := &Ground{Panel: p, Sections: p.Sections(), Cells: p.Cells(), size: Extent{w, h}, raster: p.Grid()}
	g.nx, g.ny = g.raster.NX+2, g.raster.NY+2
	for row := range g.ny {
		for col := range g.nx {
			q := g.raster.At(col-1, row-1)
			spot := SpotOf(p, q.X, q.Y)
			n := newNode(spot, g.size)
			n.col, n.row = col, row
			g.spots, g.nodes = append(g.spots, spot), append(g.nodes, n)
		}
	}
	for _, c := range g.Cells {
		g.paint = append(g.paint, g.nodeAt(c))
	}
	creases, border := part{key: StripCreases}, part{key: StripBorder}
	for _, s := range g.Sections {
		in, all := part{key: s.Key}, part{key: s.Key}
		for _, c := range s.Cells {
			k := g.nodeAt(c)
			all.add(k, g.thinnest(k, flatlay.Border, 0))
			if g.spots[k].Crease < CreaseStrip {
				creases.add(k, g.thinnest(k, flatlay.Border, 0))
			} else {
				in.add(k, g.thinnest(k, flatlay.Border, CreaseStrip))
			}
		}
		if len(in.thin) == 0 { // too narrow to keep off its crease
			in = all
		}
		g.parts = append(g.parts, in)
	}
	for _, k := range g.paint {
		if g.spots[k].Edge < flatlay.Border {
			border.add(k, g.thinnest(k, 0, 0))
		}
	}
	g.parts = append(g.parts, creases, border)
	return g
}

func (p *part) add(at, thin int) { p.shown, p.thin = append(p.shown, at), append(p.thin, thin) }

// thinnest is a cell as it is at its thinnest place: nearer to edge and crease
// than its centre by up to half a cell, but by no more than its part reaches, mm.
func (g *Ground) thinnest(k int, edge, crease float64) int {
	const half, far = flatlay.Cell / 2, 90.0
	s := g.spots[k]
	if s.Edge > far && s.Crease > far {
		return k
	}
	near := func(d, least float64) float64 { return math.Min(d, math.Max(d-half, least)) }
	s.Edge, s.Crease = near(s.Edge, edge), near(s.Crease, crease)
	for i, d := range s.Sides {
		s.Sides[i] = near(d, edge)
	}
	n := newNode(s, g.size)
	n.col, n.row = g.nodes[k].col, g.nodes[k].row
	g.nodes = append(g.nodes, n)
	return len(g.nodes) - 1
}

// nodeAt is the node whose cell holds a place.
func (g *Ground) nodeAt(q flatlay.Point) int {
	col := int(math.Round((q.X-g.raster.First.X)/flatlay.Cell)) + 1
	row := int(math.Round((q.Y-g.raster.First.Y)/flatlay.Cell)) + 1
	return min(max(row, 0), g.ny-1)*g.nx + min(max(col, 0), g.nx-1)
}

// lags are the Matérn correlations between any two nodes of a ground, by how many columns
// and rows they are apart, for the reaches that a map needs.
type lags struct {
	*Ground
	by map[float64][]float64
}

// lags are those of the reaches of a map.
func (g *Ground) lags(m *Map) lags {
	out := lags{g, map[float64][]float64{}}
	for _, reach := range append(reachesOf(m.fields), m.fields[0].prior.StripeReach) {
		if out.by[reach] != nil {
			continue
		}
		table := make([]float64, g.nx*g.ny)
		for row := range g.ny {
			for col := range g.nx {
				table[row*g.nx+col] = matern(flatlay.Cell*math.Hypot(float64(col), float64(row)), reach)
			}
		}
		out.by[reach] = table
	}
	return out
}

// lag is the place in a table of lags for two nodes.
func (g *Ground) lag(a, b *node) int {
	col, row := a.col-b.col, a.row-b.row
	if col < 0 {
		col = -col
	}
	if row < 0 {
		row = -row
	}
	return row*g.nx + col
}
