package files

import (
	"fmt"

	"waxplanus/core/flatlay"
)

// Report is what an owner is given on paper and as a page: all of it in words and figures as
// they print. What is empty is left out.
type Report struct {
	Title, Sub    string
	Shop          string
	Logo          []byte // PNG or JPEG
	Paper         string // a4 or letter
	Foot, Kind    string // along the foot, left and before the page's number
	Pair          *Pair
	Before, After *Flat
	Heads         ReportHeads
	Done, Stays   []Item
	Clear         *PaperTable
	Until         []Item
	Keep          []Item
	Work          []Item
	Cautions      []string
	Note          string
}

// ReportHeads are the headings of its parts.
type ReportHeads struct{ Done, Stays, Clear, Until, Keep, Work, Cautions string }

// Item is a line with what stands out in it first.
type Item struct{ Bold, Text string }

// Pair are two photos of the same lamps.
type Pair struct {
	Before, After         []byte // JPEG or PNG, twice as wide as high or so
	BeforeText, AfterText string
	BeforeAlt, AfterAlt   string
}

// Flat is a car unfolded, in mm of its sheet.
type Flat struct {
	X, Y, W, H float64
	Text       string // under it
	Shapes     []Shape
	Dots       []Spot
	Legend     []Swatch
}

// Shape is a panel, or what lies around it, with its fill and what is written on it.
type Shape struct {
	Outlines [][]flatlay.Point // holes after the outline
	Fill     string
	Ink      string
	Label    string
	LabelInk string
	At       flatlay.Point
}

// Spot is a place that is marked.
type Spot struct {
	flatlay.Point
	Size float64 // mm of the paper
	Fill string
}

// Swatch is a colour with what it stands for.
type Swatch struct{ Fill, Text string }

// PaperTable has a head, and a bar in its last column where Bars are given.
type PaperTable struct {
	Caption string
	Head    []string
	Right   []bool    // columns that end at the right
	Wide    []float64 // shares of the width
	Rows    []TableRow
	Under   string // a line under it
}

// TableRow is one line; Bar is drawn at its end, nil for none.
type TableRow struct {
	Cells  []string
	Strong bool
	Bar    *FilmBar
}

// FilmBar is the film of a panel as a core that lies on its side, µm: what stays of the clear,
// what was taken, where the floor is, and the doubt of what stays.
type FilmBar struct{ Clear, Taken, Floor, Doubt float64 }

// Total of a bar, µm.
func (b FilmBar) Total() float64 { return b.Clear + b.Taken }

// The inks of papers: those of the day theme.
const (
	ink      = "#1d1f37"
	ink2     = "#474c61"
	rule     = "#b6c0bd"
	tape     = "#eade54"
	clearInk = "#47aeab"
	takenInk = "#eade54"
	shutInk  = "#612149"
)

// sheetOf lays a paper out from the top down.
type layout struct {
	*Paper
	x, y, w    float64
	foot, kind string
}

const (
	margin     = 17.0
	footHigh   = 14.0
	small      = 9.0  // points
	usual      = 10.0 // points
	lineHigh   = 4.6  // mm, of usual text
	headPoints = 13.5
	cellHigh   = 3.9 // mm, of a line in a table
)

func newLayout(title, paper, foot, kind string) (*layout, error) {
	p, err := NewPaper(title, paper)
	if err != nil {
		return nil, err
	}
	l := &layout{Paper: p, x: margin, w: p.W - 2*margin, foot: foot, kind: kind}
	l.page()
	return l, nil
}

func (l *layout) page() {
	l.Page()
	l.y = margin
}

// bottom is how far down a page is written.
func (l *layout) bottom() float64 { return l.H - footHigh - 6 }

// room begins a new page where less than high is left.
func (l *layout) room(high float64) {
	if l.y+high > l.bottom() {
		l.page()
	}
}

// done writes the foot of each page.
func (l *layout) done() *Paper {
	for i := range l.pages {
		page := l.pages
		l.pages = page[:i+1] // draw on it
		l.Line(l.x, l.H-footHigh, l.x+l.w, l.H-footHigh, 0.3, ink)
		l.Text(l.x, l.H-footHigh+5, Text, small, ink2, l.foot)
		l.TextRight(l.x+l.w, l.H-footHigh+5, Text, small, ink2, fmt.Sprintf("%s, page %d of %d", l.kind, i+1, len(page)))
		page[i] = l.pages[i]
		l.pages = page
	}
	return l.Paper
}

// title is the head of a sheet, with the shop at its right.
func (l *layout) title(title, sub, shop string, logo []byte, right ...string) {
	aside := 0.0
	if len(logo) > 0 {
		if w, h := pictureSize(logo); w > 0 {
			high := 13.0
			wide := min(high*float64(w)/float64(h), 45)
			l.Picture(l.x+l.w-wide, l.y-4, wide, wide*float64(h)/float64(w), logo, shop)
			aside = wide + 4
		}
	}
	shown := Broken(Bold, 11, 55, shop)
	for i, line := range shown {
		if shop != "" {
			l.TextRight(l.x+l.w-aside, l.y+2+float64(i)*4.8, Bold, 11, ink, line)
		}
	}
	for i, line := range right {
		l.TextRight(l.x+l.w-aside, l.y+2+float64(len(shown))*4.8*min(1, float64(len(shop)))+float64(i)*4.6, Text, usual, ink2, line)
	}
	for _, line := range Broken(Head, 22, l.w-65-aside, title) {
		l.Text(l.x, l.y+4, Head, 22, ink, line)
		l.y += 9
	}
	l.y += 2.5
	for _, line := range Broken(Text, 11.5, l.w-50, sub) {
		l.Text(l.x, l.y, Text, 11.5, ink2, line)
		l.y += 5.2
	}
	l.y += 3
}

// heading at the left of a column.
func (l *layout) heading(x float64, text string) {
	l.Text(x, l.y+4, Head, headPoints, ink, text)
	l.y += 7
}

// items are lines one under the other in a column, each with a rule under it; the high of them
// is given.
func (l *layout) items(x, wide float64, all []Item, firstWide float64) {
	for _, it := range all {
		above, lines := itemLines(it, wide, firstWide)
		l.room(float64(len(above)+len(lines))*lineHigh + 2)
		for _, line := range above {
			l.Text(x, l.y+3.4, Bold, usual, ink, line)
			l.y += lineHigh
		}
		for i, line := range lines {
			at := x
			if firstWide > 0 {
				if i == 0 {
					l.Text(x, l.y+3.4, Bold, usual, ink, it.Bold)
				}
				at += firstWide
			} else if i == 0 && it.Bold != "" && above == nil {
				at += l.Text(x, l.y+3.4, Bold, usual, ink, it.Bold) + Wide(Text, usual, " ")
			}
			l.Text(at, l.y+3.4, Text, usual, ink, line)
			l.y += lineHigh
		}
		l.y += 0.9
		l.Line(x, l.y, x+wide, l.y, 0.15, rule)
		l.y += 1.1
	}
}

// mostLead is how much of a line may stand out at its beginning; more of it stands above.
const mostLead = 0.6

// itemLines breaks an item: what stands out begins the first line, stands above where it is
// long, or has a column of its own.
func itemLines(it Item, wide, firstWide float64) (above, lines []string) {
	if firstWide > 0 {
		return nil, Broken(Text, usual, wide-firstWide, it.Text)
	}
	if it.Bold == "" {
		return nil, Broken(Text, usual, wide, it.Text)
	}
	lead := Wide(Bold, usual, it.Bold) + Wide(Text, usual, " ")
	if lead > mostLead*wide {
		return Broken(Bold, usual, wide, it.Bold), Broken(Text, usual, wide, it.Text)
	}
	whole := Broken(Text, usual, wide-lead, it.Text)
	if len(whole) < 2 {
		return nil, whole
	}
	rest := it.Text[len(whole[0]):]
	return nil, append(whole[:1], Broken(Text, usual, wide, rest)...)
}

func itemsHigh(all []Item, wide, firstWide float64) float64 {
	h := 0.0
	for _, it := range all {
		above, lines := itemLines(it, wide, firstWide)
		h += float64(len(above)+len(lines))*lineHigh + 2
	}
	return h
}

// flat draws a car unfolded into a box, with its text and legend under it, and gives its high.
func (l *layout) flat(x, y, wide, high float64, f *Flat) {
	scale := min(wide/f.W, high/f.H)
	at := func(q flatlay.Point) flatlay.Point {
		return flatlay.Point{X: x + (wide-f.W*scale)/2 + (q.X-f.X)*scale, Y: y + (high-f.H*scale)/2 + (q.Y-f.Y)*scale}
	}
	for _, s := range f.Shapes {
		out := make([][]flatlay.Point, len(s.Outlines))
		for i, o := range s.Outlines {
			for _, q := range o {
				out[i] = append(out[i], at(q))
			}
		}
		l.Area(out, s.Fill, s.Ink, 0.15)
	}
	for _, d := range f.Dots {
		q := at(d.Point)
		l.Rect(q.X-d.Size/2, q.Y-d.Size/2, d.Size, d.Size, d.Fill, ink, 0.1)
	}
	for _, s := range f.Shapes {
		if s.Label != "" {
			q := at(s.At)
			l.Rect(q.X-Wide(Head, 8.5, s.Label)/2-0.5, q.Y-1.5, Wide(Head, 8.5, s.Label)+1, 3, s.Fill, "", 0)
			l.Text(q.X-Wide(Head, 8.5, s.Label)/2, q.Y+1.1, Head, 8.5, s.LabelInk, s.Label)
		}
	}
	down := y + high + 4
	if f.Text != "" {
		l.Text(x, down, Text, small, ink2, f.Text)
		down += 4.4
	}
	right := x
	for _, s := range f.Legend {
		if right+6+Wide(Text, small, s.Text) > x+wide && right > x {
			right, down = x, down+4.4
		}
		l.Rect(right, down-2.6, 4.5, 3, s.Fill, ink, 0.15)
		right += 6 + l.Text(right+6, down, Text, small, ink2, s.Text) + 4
	}
}

// table writes a table with its head on each page.
func (l *layout) table(t *PaperTable) {
	edge := func(i int) (from, to float64) {
		from = l.x
		for _, s := range t.Wide[:i] {
			from += s * l.w
		}
		return from, from + t.Wide[i]*l.w
	}
	// line writes the cells of a line, each on as many lines as it needs, and gives their number.
	line := func(texts []string, face func(int) Face, color string) int {
		most := 1
		for i, text := range texts {
			from, to := edge(i)
			parts := Broken(face(i), small, to-from-2, text)
			most = max(most, len(parts))
			for k, part := range parts {
				y := l.y + 3.4 + float64(k)*cellHigh
				if t.Right[i] {
					l.TextRight(to-2, y, face(i), small, color, part)
				} else {
					l.Text(from, y, face(i), small, color, part)
				}
			}
		}
		return most
	}
	lines := func(texts []string, face func(int) Face) int {
		most := 1
		for i, text := range texts {
			from, to := edge(i)
			most = max(most, len(Broken(face(i), small, to-from-2, text)))
		}
		return most
	}
	plain := func(int) Face { return Text }
	head := func() {
		l.y += float64(line(t.Head, plain, ink2))*cellHigh + 1.2
		l.Line(l.x, l.y, l.x+l.w, l.y, 0.35, ink)
		l.y += 0.8
	}
	l.room(20)
	head()
	most := 1.0
	for _, r := range t.Rows {
		if r.Bar != nil {
			most = max(most, r.Bar.Clear+r.Bar.Taken+r.Bar.Doubt)
		}
	}
	for _, r := range t.Rows {
		face := func(i int) Face {
			if r.Strong && i == 0 || t.Right[i] {
				return Bold
			}
			return Text
		}
		high := float64(lines(r.Cells, face))*cellHigh + 1.7
		if l.y+high > l.bottom() {
			l.page()
			head()
		}
		line(r.Cells, face, ink)
		if b := r.Bar; b != nil {
			from, to := edge(len(r.Cells))
			l.bar(from+1, to, l.y+0.9, b, most)
		}
		l.y += high - 0.6
		l.Line(l.x, l.y, l.x+l.w, l.y, 0.15, rule)
		l.y += 0.6
	}
	for _, part := range Broken(Text, small, l.w, t.Under) {
		if part != "" {
			l.y += cellHigh
			l.Text(l.x, l.y-0.6, Text, small, ink2, part)
		}
	}
}

// bar draws a film core on its side: what stays, what was taken, the floor.
func (l *layout) bar(from, to, y float64, b *FilmBar, most float64) {
	per := (to - from) / most
	fill := clearInk
	if b.Clear < b.Floor {
		fill = shutInk
	}
	l.Rect(from, y, b.Clear*per, 3, fill, ink, 0.15)
	if b.Taken > 0 {
		l.Rect(from+b.Clear*per, y, b.Taken*per, 3, takenInk, ink, 0.15)
	}
	l.Line(from+(b.Clear-b.Doubt)*per, y+1.5, from+(b.Clear+b.Doubt)*per, y+1.5, 0.3, ink)
	l.Line(from+b.Floor*per, y-0.7, from+b.Floor*per, y+3.7, 0.4, shutInk)
}
