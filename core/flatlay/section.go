package flatlay

import (
	"cmp"
	"math"
	"slices"
	"strconv"
)

// Cell is the side, in mm, of the cells that maps and sections are made of.
const Cell = 30.0

// Border is the strip along edges, in mm, that is taped and not worked.
const Border = 25.0

// SectionMost is the longest side of a section in mm.
const SectionMost = 500.0

// Section is the small area worked at a time: bounded by hard creases, no
// longer than SectionMost, as near to equal as the panel allows.
type Section struct {
	Key  string // stable while the outline stays: b<band>r<row>c<column>
	Name string // where it is, in words
	// Outlines are the areas that it is made of, in mm, side by side; the
	// panel's own outline cuts them.
	Outlines [][]Point
	Cells    []Point // centres of its cells, none in the border
	W, H     float64 // mm, of its bounding box
}

// SectionAt is the key of the section nearest to a place, "" without sections.
func SectionAt(sections []Section, q Point) string {
	key, near := "", math.Inf(1)
	for _, s := range sections {
		for _, c := range s.Cells {
			if d := math.Hypot(c.X-q.X, c.Y-q.Y); d < near {
				key, near = s.Key, d
			}
		}
	}
	return key
}

// Grid is the raster of cells over the bounding box, centred on it so that a
// mirrored panel has mirrored cells: NX x NY centres from First.
type Grid struct {
	First  Point
	NX, NY int
}

// Grid is the panel's raster of cells.
func (p Panel) Grid() Grid {
	w, h := p.Size()
	nx, ny := max(int(math.Ceil(w/Cell)), 1), max(int(math.Ceil(h/Cell)), 1)
	return Grid{Point{w/2 - Cell*float64(nx-1)/2, h/2 - Cell*float64(ny-1)/2}, nx, ny}
}

// At is the centre of a cell, column i and row j; -1 and NX lie one ring outside.
func (g Grid) At(i, j int) Point {
	return Point{g.First.X + float64(i)*Cell, g.First.Y + float64(j)*Cell}
}

// Cells lists the centres of all cells on the paint, row by row.
func (p Panel) Cells() []Point {
	g := p.Grid()
	var out []Point
	for j := range g.NY {
		for i := range g.NX {
			if q := g.At(i, j); p.Inside(q) {
				out = append(out, q)
			}
		}
	}
	return out
}

// Split returns the number of equal parts of at most most mm.
func Split(length, most float64) int { return max(int(math.Ceil(length/most-1e-9)), 1) }

// line is a hard crease as a height over x.
type line []Point

func (l line) at(x float64) float64 {
	if x <= l[0].X {
		return l[0].Y
	}
	for i := 1; i < len(l); i++ {
		if x <= l[i].X {
			t := (x - l[i-1].X) / (l[i].X - l[i-1].X)
			return l[i-1].Y + t*(l[i].Y-l[i-1].Y)
		}
	}
	return l[len(l)-1].Y
}

// acrossShare is how much of a panel's length or height a hard crease has to run
// over to divide it.
const acrossShare = 0.6

// dividers are the hard creases that run along the panel, from top to bottom.
func (p Panel) dividers() []line {
	w, _ := p.Size()
	var out []line
	for _, c := range p.Creases {
		if !c.Hard || len(c.Points) < 2 {
			continue
		}
		l := slices.Clone(line(c.Points))
		if l[0].X > l[len(l)-1].X {
			slices.Reverse(l)
		}
		rising := true
		for i := 1; i < len(l); i++ {
			rising = rising && l[i].X > l[i-1].X
		}
		if rising && l[len(l)-1].X-l[0].X >= acrossShare*w {
			out = append(out, l)
		}
	}
	slices.SortFunc(out, func(a, b line) int { return cmp.Compare(a.at(w/2), b.at(w/2)) })
	return out
}

// Sections splits the panel: first along the hard creases that run along it, or
// across it where more do, then each band into equal columns and rows. A part
// that holds less than 0.4 of the band's largest joins the part that it shares
// the longest side with, so that no sliver is left.
func (p Panel) Sections() []Section {
	across := p.transposed()
	lying := len(across.dividers()) > len(p.dividers())
	if lying {
		p = across
	}
	w, h := p.Size()
	lines := p.dividers()
	bands := make([][]Point, len(lines)+1)
	for _, c := range p.Cells() {
		if p.EdgeDistance(c) < Border {
			continue
		}
		b := 0
		for b < len(lines) && c.Y > lines[b].at(c.X) {
			b++
		}
		bands[b] = append(bands[b], c)
	}
	var out []Section
	for b, cells := range bands {
		if len(cells) == 0 {
			continue
		}
		top, bottom := line{{0, 0}, {w, 0}}, line{{0, h}, {w, h}}
		if b > 0 {
			top = lines[b-1]
		}
		if b < len(lines) {
			bottom = lines[b]
		}
		out = append(out, band{b, top, bottom, cells, p.Placement.Turned}.sections()...)
	}
	out = dropStrips(out)
	if lying {
		for i := range out {
			out[i] = out[i].transposed()
		}
	}
	name(out, lying)
	return out
}

// Focus is the part of a panel to look at when all of it would be small: the box
// around its sections with a margin (mm), so that glass and narrow frames do not
// push the paint aside. It is the whole panel where that is hardly more.
func (p Panel) Focus(sections []Section) (x, y, w, h float64) {
	const (
		margin = 2 * Border
		hardly = 0.85 // share of the whole box
	)
	pw, ph := p.Size()
	x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, s := range sections {
		a, b, c, d := box(s.Cells)
		x0, x1, y0, y1 = min(x0, a), max(x1, b), min(y0, c), max(y1, d)
	}
	x0, y0, x1, y1 = max(x0-margin, 0), max(y0-margin, 0), min(x1+margin, pw), min(y1+margin, ph)
	if len(sections) == 0 || (x1-x0)*(y1-y0) > hardly*pw*ph {
		return 0, 0, pw, ph
	}
	return x0, y0, x1 - x0, y1 - y0
}

func swap(pts []Point) []Point {
	out := make([]Point, len(pts))
	for i, q := range pts {
		out[i] = Point{q.Y, q.X}
	}
	return out
}

// transposed is the panel with x and y exchanged.
func (p Panel) transposed() Panel {
	out := Panel{Name: p.Name, Outline: swap(p.Outline), Placement: p.Placement}
	for _, h := range p.Holes {
		out.Holes = append(out.Holes, Hole{h.Kind, swap(h.Points)})
	}
	for _, c := range p.Creases {
		out.Creases = append(out.Creases, Crease{c.Name, c.Hard, swap(c.Points)})
	}
	return out
}

func (s Section) transposed() Section {
	out := Section{Key: s.Key, W: s.H, H: s.W, Cells: swap(s.Cells)}
	for _, o := range s.Outlines {
		out.Outlines = append(out.Outlines, swap(o))
	}
	return out
}

// stripShare is how small, against the panel's largest section, a part that
// joins no other may be: a window frame or a tip, too narrow for any block.
const stripShare = 0.15

func dropStrips(s []Section) []Section {
	most := 0
	for _, c := range s {
		most = max(most, len(c.Cells))
	}
	return slices.DeleteFunc(s, func(c Section) bool { return float64(len(c.Cells)) < stripShare*float64(most) })
}

// band is what lies between two creases. On a turned panel its columns are
// counted from the right, so that mirrored panels split alike.
type band struct {
	index       int
	top, bottom line
	cells       []Point
	turned      bool
}

func (b band) sections() []Section {
	x0, x1, y0, y1 := box(b.cells)
	cols, rows := Split(x1-x0, SectionMost), Split(y1-y0, SectionMost)
	grid := make([][]Point, rows*cols)
	for _, c := range b.cells {
		along := c.X - x0
		if b.turned {
			along = x1 - c.X
		}
		col := min(int(float64(cols)*along/(x1-x0)), cols-1)
		row := min(int(float64(rows)*(c.Y-y0)/(y1-y0)), rows-1)
		grid[row*cols+col] = append(grid[row*cols+col], c)
	}
	host := join(grid)
	var out []Section
	for k, cells := range grid {
		if len(cells) == 0 {
			continue
		}
		fromLeft := func(col int) int {
			if b.turned {
				return cols - 1 - col
			}
			return col
		}
		s := Section{Key: "b" + digit(b.index) + "r" + digit(k/cols) + "c" + digit(fromLeft(k%cols)), Cells: cells}
		for guest, h := range host {
			if h != k {
				continue
			}
			row, col := guest/cols, fromLeft(guest%cols)
			s.Outlines = append(s.Outlines, b.outline(
				x0+(x1-x0)*float64(col)/float64(cols), x0+(x1-x0)*float64(col+1)/float64(cols),
				y0+(y1-y0)*float64(row)/float64(rows), y0+(y1-y0)*float64(row+1)/float64(rows),
				row == 0, row == rows-1))
		}
		sx0, sx1, sy0, sy1 := box(cells)
		s.W, s.H = sx1-sx0, sy1-sy0
		out = append(out, s)
	}
	return out
}

// join moves the cells of parts under 0.4 of the largest, the smallest first, to
// the part that they share the longest side with, and says for each part where
// its cells went; -1 for a part without any.
func join(grid [][]Point) []int {
	most := 0
	host := make([]int, len(grid))
	for k, g := range grid {
		most = max(most, len(g))
		host[k] = k
		if len(g) == 0 {
			host[k] = -1
		}
	}
	for {
		small := -1
		for k, g := range grid {
			if len(g) > 0 && float64(len(g)) < 0.4*float64(most) && (small < 0 || len(g) < len(grid[small])) && longestNeighbour(grid, k) >= 0 {
				small = k
			}
		}
		if small < 0 {
			return host
		}
		to := longestNeighbour(grid, small)
		grid[to] = append(grid[to], grid[small]...)
		grid[small] = nil
		for k, h := range host {
			if h == small {
				host[k] = to
			}
		}
	}
}

// longestNeighbour is the part with which part k shares the longest side, -1 for none.
func longestNeighbour(grid [][]Point, k int) int {
	own := make(map[Point]bool, len(grid[k]))
	for _, c := range grid[k] {
		own[c] = true
	}
	best, long := -1, 0
	for j, g := range grid {
		if j == k {
			continue
		}
		n := 0
		for _, c := range g {
			for _, q := range []Point{{c.X - Cell, c.Y}, {c.X + Cell, c.Y}, {c.X, c.Y - Cell}, {c.X, c.Y + Cell}} {
				if own[q] {
					n++
				}
			}
		}
		if n > long {
			best, long = j, n
		}
	}
	return best
}

// outline walks the part between two columns; where it touches the band's top
// or bottom it follows the crease.
func (b band) outline(x0, x1, y0, y1 float64, first, last bool) []Point {
	var out []Point
	edge := func(l line, y float64, follow bool) []Point {
		if !follow {
			return []Point{{x0, y}, {x1, y}}
		}
		pts := []Point{{x0, l.at(x0)}}
		for _, q := range l {
			if q.X > x0 && q.X < x1 {
				pts = append(pts, q)
			}
		}
		return append(pts, Point{x1, l.at(x1)})
	}
	out = append(out, edge(b.top, y0, first)...)
	low := edge(b.bottom, y1, last)
	for i := len(low) - 1; i >= 0; i-- {
		out = append(out, low[i])
	}
	return out
}

// box is the bounding box of cells, not of their centres.
func box(cells []Point) (x0, x1, y0, y1 float64) {
	x0, y0, x1, y1 = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, c := range cells {
		x0, x1 = math.Min(x0, c.X-Cell/2), math.Max(x1, c.X+Cell/2)
		y0, y1 = math.Min(y0, c.Y-Cell/2), math.Max(y1, c.Y+Cell/2)
	}
	return x0, x1, y0, y1
}

// digit is one sign for a number up to 35.
func digit(i int) string { return strconv.FormatInt(int64(i%36), 36) }
