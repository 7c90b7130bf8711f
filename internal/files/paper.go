package files

import (
	"embed"
	"errors"
	"fmt"
	"strings"
	"sync"

	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"

	"waxplanus/core/flatlay"
)

//go:embed fonts/*.ttf
var fontFiles embed.FS

// Face is a font that papers are printed in.
type Face string

// The fonts: of running text, of what stands out in it, and of headings and figures.
const (
	Text Face = "text"
	Bold Face = "bold"
	Head Face = "head"
)

// stretch is by how much headings are drawn wider than their font is.
const stretch = 1.1

// cut is one file of a font: its letters, and those beyond western Europe in another.
type cut struct {
	name string
	font *sfnt.Font
	raw  []byte
}

var cuts = sync.OnceValue(func() map[Face][]cut {
	out := map[Face][]cut{}
	for _, face := range []Face{Text, Bold, Head} {
		for _, end := range []string{"", "-ext"} {
			name := string(face) + end
			raw, err := fontFiles.ReadFile("fonts/" + name + ".ttf")
			if err != nil {
				panic(err) // it is part of the program
			}
			f, err := sfnt.Parse(raw)
			if err != nil {
				panic(fmt.Sprintf("font %s: %v", name, err))
			}
			out[face] = append(out[face], cut{name, f, raw})
		}
	}
	return out
})

// run is a piece of text that one file of a font has all letters of.
type run struct {
	cut  cut
	text string
	wide float64 // in units of the size
}

const unitsPerEm = 1000

// runs parts a text by the files that its letters are in; a letter that none has is a question
// mark.
func runs(face Face, text string) []run {
	var out []run
	var buf sfnt.Buffer
	for _, r := range text {
		c, index := cut{}, sfnt.GlyphIndex(0)
		for _, c = range cuts()[face] {
			if i, err := c.font.GlyphIndex(&buf, r); err == nil && i != 0 {
				index = i
				break
			}
		}
		if index == 0 {
			c, r = cuts()[face][0], '?'
			index, _ = c.font.GlyphIndex(&buf, r)
		}
		wide, err := c.font.GlyphAdvance(&buf, index, fixed.I(unitsPerEm), font.HintingNone)
		if err != nil {
			wide = fixed.I(unitsPerEm / 2)
		}
		em := float64(wide) / 64 / unitsPerEm
		if face == Head {
			em *= stretch
		}
		if n := len(out); n > 0 && out[n-1].cut.name == c.name {
			out[n-1].text += string(r)
			out[n-1].wide += em
			continue
		}
		out = append(out, run{c, string(r), em})
	}
	return out
}

// mmPerPoint is the size of a point.
const mmPerPoint = 25.4 / 72

// Wide is how wide a text of a size in points is, mm.
func Wide(face Face, points float64, text string) float64 {
	sum := 0.0
	for _, r := range runs(face, text) {
		sum += r.wide
	}
	return sum * points * mmPerPoint
}

// Broken parts a text into lines no wider than so many mm; a word that is wider is cut.
func Broken(face Face, points, wide float64, text string) []string {
	var out []string
	for line := range strings.SplitSeq(text, "\n") {
		now := ""
		for _, word := range strings.Fields(line) {
			for word != "" && Wide(face, points, word) > wide {
				n := len([]rune(word))
				for n > 1 && Wide(face, points, string([]rune(word)[:n])) > wide {
					n--
				}
				if now != "" {
					out, now = append(out, now), ""
				}
				out, word = append(out, string([]rune(word)[:n])), string([]rune(word)[n:])
			}
			longer := strings.TrimSpace(now + " " + word)
			if Wide(face, points, longer) > wide {
				out, longer = append(out, now), word
			}
			now = longer
		}
		out = append(out, now)
	}
	return out
}

// Paper is what is drawn on pages of a size in mm, from their top left, for a printer and for a
// screen alike.
type Paper struct {
	Title string
	W, H  float64
	pages [][]drawing
}

// Sizes of paper by their names, mm.
var sizes = map[string][2]float64{"a4": {210, 297}, "letter": {215.9, 279.4}}

// ErrPaper says that there is no paper of that name.
var ErrPaper = errors.New("paper is a4 or letter")

// NewPaper is paper of a size by its name, without a page.
func NewPaper(title, size string) (*Paper, error) {
	s, ok := sizes[size]
	if !ok {
		return nil, ErrPaper
	}
	return &Paper{Title: title, W: s[0], H: s[1]}, nil
}

// Page begins a new page.
func (p *Paper) Page() { p.pages = append(p.pages, nil) }

// Pages is how many there are.
func (p *Paper) Pages() int { return len(p.pages) }

// drawing is one thing on a page.
type drawing struct {
	x, y, w, h float64
	face       Face
	points     float64
	text       string
	ink, fill  string // #rrggbb, empty for none
	line       float64
	paths      [][]flatlay.Point
	closed     bool
	picture    []byte
	alt        string
}

func (p *Paper) draw(d drawing) {
	last := len(p.pages) - 1
	p.pages[last] = append(p.pages[last], d)
}

// Text draws a line of text from the left of its baseline, and gives its width.
func (p *Paper) Text(x, y float64, face Face, points float64, ink, text string) float64 {
	w := Wide(face, points, text)
	p.draw(drawing{x: x, y: y, w: w, face: face, points: points, ink: ink, text: text})
	return w
}

// TextRight draws a line of text that ends at x.
func (p *Paper) TextRight(x, y float64, face Face, points float64, ink, text string) {
	p.Text(x-Wide(face, points, text), y, face, points, ink, text)
}

// Line draws a straight line of a width.
func (p *Paper) Line(x1, y1, x2, y2, wide float64, ink string) {
	p.draw(drawing{paths: [][]flatlay.Point{{{X: x1, Y: y1}, {X: x2, Y: y2}}}, line: wide, ink: ink})
}

// Rect draws a rectangle; an empty fill or ink leaves it out.
func (p *Paper) Rect(x, y, w, h float64, fill, ink string, wide float64) {
	p.Area([][]flatlay.Point{{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}}, fill, ink, wide)
}

// Area draws closed outlines; where one lies in another it is a hole.
func (p *Paper) Area(outlines [][]flatlay.Point, fill, ink string, wide float64) {
	p.draw(drawing{paths: outlines, closed: true, fill: fill, ink: ink, line: wide})
}

// Picture draws a JPEG or PNG into a rectangle; alt says what it shows.
func (p *Paper) Picture(x, y, w, h float64, data []byte, alt string) {
	p.draw(drawing{x: x, y: y, w: w, h: h, picture: data, alt: alt})
}
