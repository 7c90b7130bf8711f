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

	size    Extent
	raster  flatlay.Grid
	nx, ny  int     // nodes of the raster with one ring around it
	spots   []Spot  // row by row
	nodes   []node  // of the spots, and after them cells at their thinnest place
	paint   []int   // the node of each cell
	section [][]int // the nodes of each section's cells, at their thinnest
	shown   [][]int // and at their centres
}

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
	for _, s := range g.Sections {
		at, thin := make([]int, len(s.Cells)), make([]int, len(s.Cells))
		for i, c := range s.Cells {
			at[i] = g.nodeAt(c)
			thin[i] = g.thinnest(at[i])
		}
		g.section, g.shown = append(g.section, thin), append(g.shown, at)
	}
	return g
}

// thinnest is a cell as it is at its thinnest place: nearer to crease and edge
// than its centre by up to half a cell, but not in the taped border.
func (g *Ground) thinnest(k int) int {
	const half, far = flatlay.Cell / 2, 90.0
	s := g.spots[k]
	if s.Edge > far && s.Crease > far {
		return k
	}
	near := func(d, least float64) float64 { return math.Min(d, math.Max(d-half, least)) }
	s.Edge, s.Crease = near(s.Edge, flatlay.Border), near(s.Crease, 0)
	for i, d := range s.Sides {
		s.Sides[i] = near(d, flatlay.Border)
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

// lags is the Matérn correlation of one reach between any two nodes, by how many
// columns and rows they are apart.
func (g *Ground) lags(reach float64) []float64 {
	out := make([]float64, g.nx*g.ny)
	for row := range g.ny {
		for col := range g.nx {
			out[row*g.nx+col] = matern(flatlay.Cell*math.Hypot(float64(col), float64(row)), reach)
		}
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
