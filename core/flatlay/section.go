package flatlay

import (
	"math"
	"slices"
	"strings"
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

// Cells lists the centres of all cells on the paint, row by row.
func (p Panel) Cells() []Point {
	w, h := p.Size()
	var out []Point
	for y := Cell / 2; y < h; y += Cell {
		for x := Cell / 2; x < w; x += Cell {
			if q := (Point{x, y}); p.Inside(q) {
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

// dividers are the hard creases that run across at least six tenths of the
// panel, from top to bottom.
func (p Panel) dividers() []line {
	w, _ := p.Size()
	var out []line
	for _, c := range p.Creases {
		if !c.Hard || len(c.Points) < 2 {
			continue
		}
		l := append(line(nil), c.Points...)
		if l[0].X > l[len(l)-1].X {
			for i, j := 0, len(l)-1; i < j; i, j = i+1, j-1 {
				l[i], l[j] = l[j], l[i]
			}
		}
		rising := true
		for i := 1; i < len(l); i++ {
			rising = rising && l[i].X > l[i-1].X
		}
		if rising && l[len(l)-1].X-l[0].X >= 0.6*w {
			out = append(out, l)
		}
	}
	for i := range out {
		for j := i + 1; j < len(out); j++ {
			if out[j].at(w/2) < out[i].at(w/2) {
				out[i], out[j] = out[j], out[i]
			}
		}
	}
	return out
}

// Sections splits the panel: first along hard creases, then each band into equal
// columns and rows. A part that holds less than 0.4 of the band's largest joins
// the part that it shares the longest side with, so that no sliver is left.
func (p Panel) Sections() []Section {
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
		out = append(out, band{b, top, bottom, cells}.sections()...)
	}
	out = dropStrips(out)
	name(out)
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

type band struct {
	index       int
	top, bottom line
	cells       []Point
}

func (b band) sections() []Section {
	x0, x1, y0, y1 := box(b.cells)
	cols, rows := Split(x1-x0, SectionMost), Split(y1-y0, SectionMost)
	grid := make([][]Point, rows*cols)
	for _, c := range b.cells {
		col := min(int(float64(cols)*(c.X-x0)/(x1-x0)), cols-1)
		row := min(int(float64(rows)*(c.Y-y0)/(y1-y0)), rows-1)
		grid[row*cols+col] = append(grid[row*cols+col], c)
	}
	host := join(grid)
	var out []Section
	for k, cells := range grid {
		if len(cells) == 0 {
			continue
		}
		s := Section{Key: "b" + digit(b.index) + "r" + digit(k/cols) + "c" + digit(k%cols), Cells: cells}
		for guest, h := range host {
			if h != k {
				continue
			}
			row, col := guest/cols, guest%cols
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
			if len(g) > 0 && float64(len(g)) < 0.4*float64(most) && (small < 0 || len(g) < len(grid[small])) && beside(grid, k) >= 0 {
				small = k
			}
		}
		if small < 0 {
			return host
		}
		to := beside(grid, small)
		grid[to] = append(grid[to], grid[small]...)
		grid[small] = nil
		for k, h := range host {
			if h == small {
				host[k] = to
			}
		}
	}
}

// beside is the part with which part k shares the longest side, -1 for none.
func beside(grid [][]Point, k int) int {
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

func digit(i int) string { return string(rune('0' + i%10)) }

// name gives every section its place in words: rows from top to bottom, then
// columns from left to right as seen from outside.
func name(s []Section) {
	rows := levels(s, func(c Section) float64 { return rowOf(c) })
	for i := range s {
		row := position(rows, rowOf(s[i]), [5]string{"top", "upper", "middle", "lower", "bottom"}, "row ")
		var same []Section
		for _, o := range s {
			if rowOf(o) == rowOf(s[i]) {
				same = append(same, o)
			}
		}
		cols := levels(same, centreX)
		col := position(cols, centreX(s[i]), [5]string{"far left", "left", "centre", "right", "far right"}, "column ")
		s[i].Name = strings.TrimSpace(row + " " + col)
		if s[i].Name == "" {
			s[i].Name = "whole panel"
		}
	}
}

func rowOf(s Section) float64 { return float64(s.Key[1]-'0')*10 + float64(s.Key[3]-'0') }

func centreX(s Section) float64 {
	x0, x1, _, _ := box(s.Cells)
	return (x0 + x1) / 2
}

func levels(s []Section, of func(Section) float64) []float64 {
	var out []float64
	for _, c := range s {
		v, i := of(c), 0
		for i < len(out) && out[i] < v {
			i++
		}
		if i == len(out) || out[i] != v {
			out = append(out[:i], append([]float64{v}, out[i:]...)...)
		}
	}
	return out
}

// position says in words which of the levels v is: one needs no word, up to
// five have words, more are counted.
func position(levels []float64, v float64, words [5]string, kind string) string {
	i := 0
	for levels[i] != v {
		i++
	}
	switch len(levels) {
	case 1:
		return ""
	case 2:
		return []string{words[1], words[3]}[i]
	case 3:
		return words[1:4][i]
	case 4:
		return []string{words[0], words[1], words[3], words[4]}[i]
	case 5:
		return words[i]
	}
	return kind + digit(i+1)
}
