package files

import (
	"bytes"
	"image"
)

func pictureSize(data []byte) (w, h int) {
	c, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return 0, 0
	}
	return c.Width, c.Height
}

// ReportPaper lays the owner's report out.
func ReportPaper(r *Report) (*Paper, error) {
	l, err := newLayout(r.Title, r.Paper, r.Foot, r.Kind)
	if err != nil {
		return nil, err
	}
	l.title(r.Title, r.Sub, r.Shop, r.Logo)
	if p := r.Pair; p != nil {
		const high = 46.0
		half := l.w / 2
		l.Picture(l.x, l.y, half, high, p.Before, p.BeforeAlt)
		l.Picture(l.x+half, l.y, half, high, p.After, p.AfterAlt)
		l.Rect(l.x, l.y, l.w, high, "", ink, 0.3)
		l.Line(l.x+half, l.y, l.x+half, l.y+high, 0.9, tape)
		l.y += high + 4.2
		l.Text(l.x, l.y, Text, usual, ink, p.BeforeText)
		l.TextRight(l.x+l.w, l.y, Text, usual, ink, p.AfterText)
		l.y += 4
	}
	const gap = 9.0
	half := (l.w - gap) / 2
	if r.Before != nil && r.After != nil {
		const high = 36.0
		l.flat(l.x, l.y, half, high, r.Before)
		l.flat(l.x+half+gap, l.y, half, high, r.After)
		l.y += high + 11
	}
	switch sum := itemsHigh(r.Done, half, 0) + itemsHigh(r.Stays, half, 0); {
	case sum < l.bottom()-l.y: // side by side
		l.twoColumns(r.Heads.Done, r.Done, 0, r.Heads.Stays, r.Stays, 0)
	default:
		l.list(r.Heads.Done, r.Done)
		l.list(r.Heads.Stays, r.Stays)
	}
	l.y += 1
	if r.Clear != nil && len(r.Clear.Rows) > 0 {
		l.room(32)
		l.Line(l.x, l.y, l.x+l.w, l.y, 0.3, ink)
		l.y += 2
		l.heading(l.x, r.Heads.Clear)
		l.table(r.Clear)
		l.y += 3
	}
	l.twoColumns(r.Heads.Until, r.Until, 32, r.Heads.Keep, r.Keep, 0)
	l.list(r.Heads.Work, r.Work)
	if r.Note != "" {
		l.list("", []Item{{"", r.Note}})
	}
	var cautions []Item
	for _, c := range r.Cautions {
		cautions = append(cautions, Item{"", c})
	}
	l.list(r.Heads.Cautions, cautions)
	return l.done(), nil
}

// list sets a list over the whole width, under its heading.
func (l *layout) list(head string, all []Item) {
	if len(all) == 0 {
		return
	}
	l.room(9 + itemsHigh(all[:1], l.w, 0))
	if head != "" {
		l.heading(l.x, head)
	}
	l.items(l.x, l.w, all, 0)
	l.y += 2
}

// twoColumns sets two lists side by side.
func (l *layout) twoColumns(headA string, a []Item, firstA float64, headB string, b []Item, firstB float64) {
	if len(a)+len(b) == 0 {
		return
	}
	const gap = 9.0
	wide := (l.w - gap) / 2
	l.room(9 + max(itemsHigh(a, wide, firstA), itemsHigh(b, wide, firstB)))
	top, end := l.y, l.y
	for _, c := range []struct {
		head  string
		all   []Item
		first float64
	}{{headA, a, firstA}, {headB, b, firstB}} {
		if len(c.all) == 0 {
			continue
		}
		x := l.x
		if end > top {
			x += wide + gap
		}
		l.y = top
		l.heading(x, c.head)
		l.items(x, wide, c.all, c.first)
		end = max(end, l.y)
	}
	l.y = end + 2
}

// Record is the film record of a car for the next person who works on it.
type Record struct {
	Title, Sub string
	Shop       string
	Logo       []byte
	Paper      string
	Foot, Kind string
	No, Floor  string // number of the record, the floor of the house
	Car        *Flat
	Panels     *PaperTable
	MindHead   string
	Mind       []Item
	ReadHead   string
	Read       []Item
	SpentHead  string
	Spent      []Item
	Seal       string
}

// RecordPaper lays the film record out.
func RecordPaper(r *Record) (*Paper, error) {
	l, err := newLayout(r.Title, r.Paper, r.Foot, r.Kind)
	if err != nil {
		return nil, err
	}
	l.title(r.Title, r.Sub, r.Shop, r.Logo, r.No, r.Floor)
	if r.Car != nil {
		const high = 66.0
		l.flat(l.x+8, l.y-2, l.w-16, high, r.Car)
		l.y += high + 11
	}
	l.table(r.Panels)
	l.y += 3
	l.twoColumns(r.MindHead, r.Mind, 0, r.ReadHead, r.Read, 0)
	l.list(r.SpentHead, r.Spent)
	if r.Seal != "" {
		l.room(6)
		l.Text(l.x, l.y+3, Text, 7.5, ink2, r.Seal)
	}
	return l.done(), nil
}
