package files

import (
	"math"
	"slices"
	"strings"
)

// OfferSheet is one sheet across with what an owner chooses between, in words and figures as
// they print.
type OfferSheet struct {
	Title, Sub   string
	Shop         string
	Logo         []byte // PNG or JPEG
	Paper        string // a4 or letter
	Columns      []OfferColumn
	Advice, Own  string
	Agreed       []string // floors
	Number, Sign string   // under the two places to write in
	StaysHead    string
	OverLeaf     string // says that all of it is on the back
}

// OfferColumn is one offer.
type OfferColumn struct {
	Head      string
	Picture   []byte // PNG
	Alt       string
	Looks     string
	PriceHead string
	Price     string
	ReadyHead string
	Ready     string
	Lines     []OfferLine
	Clear     *OfferClear // nil where nothing was read
	Stays     []string
	Advised   bool
	cut       bool // not all that stays had room
}

// OfferLine is a value with its name.
type OfferLine struct{ Name, Value string }

// OfferClear is a bar of the clear over the floor, µm.
type OfferClear struct {
	Head, State, Must    string
	Before, Stays, Floor float64
	StaysText, FloorText string
}

// Sizes on the sheet, mm and points.
const (
	offerGap   = 8.0
	lampShape  = 0.58 // of the pictures, high by wide
	tapeInk    = "#e9de52"
	priceSize  = 17.0
	readySize  = 10.0
	offerSmall = 8.2
)

// OfferPaper lays the sheet out, across.
func OfferPaper(s *OfferSheet) (*Paper, error) {
	p, err := NewPaper(s.Title, s.Paper)
	if err != nil {
		return nil, err
	}
	p.W, p.H = p.H, p.W
	p.Page()
	x, w := 12.0, p.W-24
	at := x
	if len(s.Logo) > 0 {
		if lw, lh := pictureSize(s.Logo); lw > 0 {
			wide := min(12*float64(lw)/float64(lh), 40)
			p.Picture(x, 8, wide, wide*float64(lh)/float64(lw), s.Logo, s.Shop)
			at += wide + 4
		}
	}
	p.Text(at, 16, Head, 15, ink, s.Shop)
	p.Text(x+w*0.3, 14, Head, 13, ink, s.Title)
	p.Text(x+w*0.3, 19.5, Text, offerSmall, ink2, s.Sub)
	p.Line(x, 25, x+w, 25, 0.3, ink2)
	n := float64(max(len(s.Columns), 1))
	wide := min((w-offerGap*(n-1))/n, 84)
	for i := range s.Columns {
		left := x + float64(i)*(wide+offerGap)
		if i > 0 {
			p.Line(left-offerGap/2, 32, left-offerGap/2, p.H-footFrom-5, 0.2, ink2)
		}
		p.offer(left, 36, wide, &s.Columns[i], s)
	}
	p.foot(x, w, s)
	p.back(x, w, wide, s)
	return p, nil
}

// footFrom is where the foot of the sheet begins, from its lower edge.
const footFrom = 38.0

// back has in full what stays where the front has no room for it: nobody signs for what was
// cut off.
func (p *Paper) back(x, w, wide float64, s *OfferSheet) {
	if !slices.ContainsFunc(s.Columns, func(c OfferColumn) bool { return c.cut }) {
		return
	}
	at := make([]int, len(s.Columns)) // what is told so far
	for more := true; more; {
		more = false
		p.Page()
		p.Text(x, 16, Head, 13, ink, s.Title)
		p.Text(x, 21.5, Text, offerSmall, ink2, s.StaysHead)
		p.Line(x, 25, x+w, 25, 0.3, ink2)
		for i, c := range s.Columns {
			left, y := x+float64(i)*(wide+offerGap), 43.0
			p.Text(left, 36, Head, fitting(Head, 12, wide, c.Head), ink, c.Head)
			for first := at[i]; at[i] < len(c.Stays); at[i]++ {
				text := c.Stays[at[i]]
				if high := 4.2 * float64(len(Broken(Text, 8.2, wide, text))); y+high > p.H-10 && at[i] > first {
					more = true
					break
				}
				y = p.para(left, y, wide, Text, 8.2, ink, text, 40) + 2
			}
		}
	}
}

// fitting is the size in points, at most so many, at which a text fits into so many mm.
func fitting(face Face, points, wide float64, text string) float64 {
	return math.Min(points, points*wide/math.Max(Wide(face, points, text), 1e-9))
}

// offer draws one column from y on.
func (p *Paper) offer(x, y, wide float64, c *OfferColumn, s *OfferSheet) {
	if c.Advised {
		p.Rect(x-2.5, y-5.5, 1.6, 8, tapeInk, "", 0)
	}
	p.Text(x, y, Head, fitting(Head, 12, wide, c.Head), ink, c.Head)
	y += 3.5
	high := wide * lampShape
	p.Picture(x, y, wide, high, c.Picture, c.Alt)
	p.Rect(x, y, wide, high, "", ink, 0.25)
	y = p.para(x, y+high+5, wide, Text, 9, ink, c.Looks, 2)
	p.Line(x, y, x+wide, y, 0.35, ink)
	y += 4.5
	p.Text(x, y, Text, offerSmall, ink2, c.PriceHead)
	p.TextRight(x+wide, y, Text, offerSmall, ink2, c.ReadyHead)
	y += 7
	less := math.Min(1, (wide-3)/(Wide(Head, priceSize, c.Price)+Wide(Head, readySize, c.Ready)))
	p.Text(x, y, Head, less*priceSize, ink, c.Price)
	p.TextRight(x+wide, y, Head, less*readySize, ink, c.Ready)
	y += 2.5
	for _, l := range c.Lines {
		p.Line(x, y, x+wide, y, 0.15, ink2)
		y += 4.8
		p.Text(x, y, Text, 9, ink2, l.Name)
		p.TextRight(x+wide, y, Head, 9, ink, l.Value)
		y += 1.8
	}
	p.Line(x, y, x+wide, y, 0.15, ink2)
	y += 5.5
	if c.Clear != nil {
		y = p.offerClear(x, y, wide, c.Clear)
	}
	text, most := s.StaysHead+" "+strings.Join(c.Stays, " "), int((p.H-footFrom-2-y)/4.2)
	if c.cut = len(Broken(Text, 8.4, wide, text)) > most; c.cut {
		most--
		p.Text(x, y+4.2*float64(most), Head, 8.4, ink, s.OverLeaf)
	}
	p.para(x, y, wide, Text, 8.4, ink, text, most)
}

// para sets a paragraph of so many lines at most, and gives where it ends with the room of
// least two lines.
func (p *Paper) para(x, y, wide float64, face Face, points float64, colour, text string, most int) float64 {
	lines := Broken(face, points, wide, text)
	if len(lines) > most {
		lines = append(lines[:most-1], lines[most-1]+" …")
	}
	for i, line := range lines {
		p.Text(x, y+4.2*float64(i), face, points, colour, line)
	}
	return y + 4.2*float64(max(len(lines), min(most, 2))) - 1
}

// offerClear draws the clear that stays over what must stay.
func (p *Paper) offerClear(x, y, wide float64, c *OfferClear) float64 {
	p.Text(x, y, Text, offerSmall, ink2, c.Head)
	p.TextRight(x+wide, y, Head, 9, ink, c.State)
	y += 2
	per := wide / max(c.Before, c.Floor, 1)
	fill := clearInk
	if c.Stays < c.Floor {
		fill = shutInk
	}
	p.Rect(x, y, c.Before*per, 5.5, "#ffffff", ink, 0.25)
	p.Rect(x, y, max(c.Stays, 0)*per, 5.5, fill, ink, 0.25)
	p.Rect(x, y, min(c.Floor, max(c.Stays, 0))*per, 5.5, ink, ink, 0.25)
	if c.Floor*per > Wide(Head, 8, c.Must)+4 {
		p.Text(x+1.5, y+3.9, Head, 8, "#ffffff", c.Must)
	}
	p.Line(x+c.Floor*per, y-1.2, x+c.Floor*per, y+6.7, 0.5, ink)
	floor := x + c.Floor*per + 1
	p.TextRight(floor, y+10, Head, 8.5, ink, c.FloorText)
	if stays := x + max(c.Stays, 0)*per; c.Stays < c.Floor {
		p.TextRight(min(stays, floor-9), y+10, Head, 8.5, ink, c.StaysText)
	} else {
		p.TextRight(min(max(stays+2, floor+9), x+wide), y+10, Head, 8.5, ink, c.StaysText)
	}
	return y + 16
}

// foot is the advice with what was agreed, and the two places to write in.
func (p *Paper) foot(x, w float64, s *OfferSheet) {
	y := p.H - footFrom
	p.Line(x, y, x+w, y, 0.5, ink)
	y += 6
	half := w * 0.6
	text := s.Advice
	for _, a := range s.Agreed {
		text += " " + a
	}
	y = p.para(x, y, half, Text, 9, ink, text, 4)
	if s.Own != "" {
		p.para(x, y+1.5, half, Head, 9, ink, s.Own, 2)
	}
	left := x + half + 12
	p.Rect(left, p.H-31, 15, 12, "", ink, 0.3)
	p.Text(left, p.H-15, Text, offerSmall, ink2, s.Number)
	p.Line(left+19, p.H-19, x+w, p.H-19, 0.3, ink)
	p.Text(left+19, p.H-15, Text, offerSmall, ink2, s.Sign)
}
