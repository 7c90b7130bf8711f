package files

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
)

func svg(inside string) string {
	return `<svg xmlns="http://www.w3.org/2000/svg" data-mm-per-unit="2">` + inside + `</svg>`
}

func read(t *testing.T, text string, scale Scale) Drawing {
	t.Helper()
	d, err := ReadDrawing(text, scale)
	if err != nil {
		t.Fatalf("%v in %s", err, text)
	}
	return d
}

// Every element and every transform of a rect of 100 x 50 units gives the same
// panel of 200 x 100 mm.
func TestShapesOfADrawing(t *testing.T) {
	for name, inside := range map[string]string{
		"rect":      `<rect id="flap" x="10" y="20" width="100" height="50"/>`,
		"polygon":   `<polygon data-panel="flap" points="10,20 110,20 110,70 10,70"/>`,
		"path":      `<path id="flap" d="M10 20h100v50H10z"/>`,
		"relative":  `<path id="flap" d="m10,20l100 0 0 50-100 0z"/>`,
		"pressed":   `<path id="flap" d="M1e1 20L110 20 110 7.e1L10,70 10 20"/>`,
		"translate": `<g transform="translate(5 5)"><rect id="flap" x="5" y="15" width="100" height="50"/></g>`,
		"scale":     `<g transform="scale(2)"><rect id="flap" x="5" y="10" width="50" height="25"/></g>`,
		"rotate":    `<rect id="flap" transform="rotate(90)" x="20" y="-110" width="50" height="100"/>`,
		"matrix":    `<rect id="flap" transform="matrix(1 0 0 1 10 20) scale(1,.5)" width="100" height="100"/>`,
		"group":     `<g data-panel="flap"><path d="M10 20h100v50H10z"/></g>`,
	} {
		d := read(t, svg(inside), Scale{})
		p := d.Body.Panels[0]
		w, h := p.Size()
		if len(d.Body.Panels) != 1 || p.Name != "flap" || p.Key != "flap" || math.Abs(w-200) > 1e-6 || math.Abs(h-100) > 1e-6 || math.Abs(p.Area()-20000) > 1 {
			t.Errorf("%s: %d panels, %q of %v x %v mm", name, len(d.Body.Panels), p.Name, w, h)
		}
	}
}

func TestCurvesOfADrawing(t *testing.T) {
	for name, inside := range map[string]string{
		"circle":  `<circle id="cap" cx="50" cy="50" r="50"/>`,
		"ellipse": `<ellipse id="cap" cx="50" cy="50" rx="50" ry="50"/>`,
		"arcs":    `<path id="cap" d="M0 50A50 50 0 0 1 100 50 50 50 0 01 0 50z"/>`,
		"cubics":  `<path id="cap" d="M50 0C77.614 0 100 22.386 100 50S77.614 100 50 100 0 77.614 0 50 22.386 0 50 0z"/>`,
		"rounded": `<rect id="cap" width="100" height="100" rx="50"/>`,
		"skew":    `<g transform="skewX(20) skewX(-20)"><circle id="cap" r="50"/></g>`,
	} {
		p := read(t, svg(inside), Scale{}).Body.Panels[0]
		if want := math.Pi * 100 * 100; math.Abs(p.Area()-want) > 0.01*want {
			t.Errorf("%s: %v mm², want %v", name, p.Area(), want)
		}
	}
	p := read(t, svg(`<path id="q" d="M0 0Q50 100 100 0T200 0V-50H0z"/>`), Scale{}).Body.Panels[0]
	// Each half of the wave holds two thirds of its triangle; one adds, one takes.
	if want := 200.0 * 50 * 4; math.Abs(p.Area()-want) > 0.01*want {
		t.Errorf("a wave under a bar holds %v mm², want %v", p.Area(), want)
	}
}

func TestCutOutsAndCreases(t *testing.T) {
	d := read(t, svg(`
		<path id="door" d="M0 0H400V300H0Z M50 50H150V100H50Z"/>
		<rect data-role="cutout" x="300" y="50" width="40" height="20"/>
		<polyline data-role="crease" points="10,200 200,210 390,200"/>
		<line data-role="crease" data-panel="door" x1="10" y1="250" x2="390" y2="250"/>
		<rect id="sill" y="320" width="400" height="40" data-substrate="aluminium"/>`), Scale{})
	p := d.Body.Panels[0]
	if len(d.Body.Panels) != 2 || len(p.Holes) != 2 || len(p.Creases) != 2 || len(d.Notes) != 0 {
		t.Fatalf("%d panels, %d cut-outs, %d creases, notes %v", len(d.Body.Panels), len(p.Holes), len(p.Creases), d.Notes)
	}
	if want := 4 * (400*300 - 100*50 - 40*20.0); math.Abs(p.Area()-want) > 1 || d.Body.Panels[1].Substrate != "aluminium" || d.Body.Panels[1].Placement.Y != 640 {
		t.Errorf("the door has %v mm², want %v; the sill is %+v", p.Area(), want, d.Body.Panels[1].Placement)
	}
}

func TestScaleOfADrawing(t *testing.T) {
	text := strings.Replace(svg(`<rect id="a" width="100" height="50"/><rect id="b" x="200" width="50" height="50"/>`), ` data-mm-per-unit="2"`, "", 1)
	if d := read(t, text, Scale{}); d.Scale != 0 || !strings.Contains(d.ScaleFrom, "not known") {
		t.Errorf("a drawing without scale has %v, %s", d.Scale, d.ScaleFrom)
	}
	for want, scale := range map[float64]Scale{3: {PerUnit: 3}, 9: {Known: 900}, 12: {Known: 600, Panel: "b"}} {
		d := read(t, text, scale)
		if w, _ := d.Body.Panels[0].Size(); d.Scale != want || math.Abs(w-100*want) > 1e-6 {
			t.Errorf("%+v: %v mm a unit, a is %v mm wide", scale, d.Scale, w)
		}
	}
}

// What is no outline is left out and said, and never kept.
func TestScriptsAreDropped(t *testing.T) {
	d := read(t, svg(`<script>alert(1)</script><rect id="a" width="100" height="50" onclick="steal()"/><text>hello</text><image href="x.png"/>
		<path id="open" d="M0 100L50 100"/><g data-role="reading"><circle r="4"/><text>120</text></g><style>*{}</style>`), Scale{})
	notes := strings.Join(d.Notes, "\n")
	for _, want := range []string{"a script element", "the onclick attribute", "a text,", "a image,", "an open line of the open"} {
		if !strings.Contains(notes, want) {
			t.Errorf("%q is not noted in %s", want, notes)
		}
	}
	out := string(WriteDrawing(d.Body.Panels[0], "<b>&", nil))
	if len(d.Body.Panels) != 1 || strings.Contains(out, "script") || strings.Contains(out, "onclick") || strings.Contains(out, "<b>") {
		t.Errorf("%d panels in %s", len(d.Body.Panels), out)
	}
}

func TestDrawingsThatAreNone(t *testing.T) {
	deep := strings.Repeat("<g>", 80) + strings.Repeat("</g>", 80)
	for want, text := range map[string]string{
		"crosses itself":      svg(`<path id="a" d="M0 0L100 100L100 0L0 100z"/>`),
		"no area":             svg(`<path id="a" d="M0 0L100 0L50 0z"/>`),
		"no outline":          svg(`<path id="a" d="M0 0L100 0"/>`),
		"no svg element":      `<html></html>`,
		"line 1 is broken":    `<svg`,
		"no SVG drawing":      "\x00\x01\x02 PNG",
		"a number is wanted":  svg(`<path id="a" d="M0 0L1 x z"/>`),
		"no command":          svg(`<path id="a" d="5 5L1 1z"/>`),
		"begin with a move":   svg(`<path id="a" d="L1 1z"/>`),
		"no transform":        svg(`<rect id="a" transform="spin(4)" width="9" height="9"/>`),
		"is not closed":       svg(`<rect id="a" transform="scale(4" width="9" height="9"/>`),
		"data-mm-per-unit":    `<svg data-mm-per-unit="wide"><rect width="9" height="9"/></svg>`,
		"crease or cutout":    svg(`<rect data-role="door" width="90" height="90"/>`),
		"Check the scale":     svg(`<rect id="a" width="2" height="900"/>`),
		"lies on the":         svg(`<rect id="a" width="200" height="200"/><rect id="b" x="50" y="50" width="60" height="60"/>`),
		"over its edge":       svg(`<rect id="a" width="200" height="200"/><rect data-role="cutout" x="150" y="50" width="90" height="60"/>`),
		"steel, aluminium":    svg(`<rect id="a" data-substrate="wood" width="200" height="200"/>`),
		"nested more than":    svg(deep),
		"larger than 2 MB":    svg(strings.Repeat(" ", MostDrawing)),
		"an arc wants a flag": svg(`<path id="a" d="M0 0A5 5 0 7 1 9 9z"/>`),
		"80 are the most":     svg(many(90)),
	} {
		if _, err := ReadDrawing(text, Scale{}); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("want a fault with %q, got %v", want, err)
		}
	}
	for _, s := range []Scale{{PerUnit: math.NaN()}, {Known: -4}, {PerUnit: 1e9}, {Known: 900, Panel: "nobody"}} {
		if _, err := ReadDrawing(svg(`<rect id="a" width="200" height="200"/>`), s); err == nil {
			t.Errorf("scale %+v is taken", s)
		}
	}
}

func many(n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, `<rect width="20" height="20" y="%d"/>`, 30*i)
	}
	return b.String()
}

// A panel that is written comes back as it was.
func TestDrawingsComeBack(t *testing.T) {
	for _, kind := range []string{body.Saloon, body.Motorcycle} {
		b, err := body.Find(kind, body.Size{})
		if err != nil {
			t.Fatal(err)
		}
		for _, p := range b.Panels {
			text := string(WriteDrawing(p, "Pilot car", []Dot{{Role: "reading", X: 40, Y: 40, Text: "168", Data: map[string]string{"film-um": "168"}}, {Role: "mark", X: 50, Y: 50, Text: "nib"}}))
			d := read(t, text, Scale{})
			back := d.Body.Panels[0]
			if len(d.Body.Panels) != 1 || back.Name != p.Name || back.Substrate != p.Substrate || len(back.Holes) != len(p.Holes) || len(back.Creases) != len(p.Creases) || len(d.Notes) != 0 {
				t.Fatalf("%s comes back as %d panels, %d cut-outs, %d creases, %v", p.Name, len(d.Body.Panels), len(back.Holes), len(back.Creases), d.Notes)
			}
			if math.Abs(back.Area()-p.Area()) > 0.002*p.Area() {
				t.Errorf("%s: %v mm² come back as %v", p.Name, p.Area(), back.Area())
			}
			for _, q := range p.Outline {
				if d := flatlay.LineDistance(back.Outline, q, true); d > 2*flatlay.Slack {
					t.Errorf("%s: %v is %v mm off", p.Name, q, d)
				}
			}
		}
	}
}

func FuzzReadDrawing(f *testing.F) {
	f.Add(svg(`<rect id="a" width="200" height="100"/>`), 1.0)
	f.Add(svg(`<path id="a" d="M0 0h90v50H0z m10 10h9v9z" transform="rotate(3)"/>`), 0.0)
	f.Add(svg(`<path d="M0 0A5 9 30 1 0 9 90Q1 1 2 2T9 9S1 2 3 4z"/><line data-role="crease" x1="1" x2="9"/>`), 20.0)
	f.Fuzz(func(t *testing.T, text string, perUnit float64) {
		d, err := ReadDrawing(text, Scale{PerUnit: perUnit})
		if err != nil {
			return
		}
		if len(d.Body.Panels) == 0 {
			t.Fatal("a drawing without panels is taken")
		}
		for _, p := range d.Body.Panels {
			if err := p.Check(); err != nil {
				t.Fatalf("%v is taken", err)
			}
			if d.Scale > 0 {
				p.Sections()
			}
		}
	})
}

// Transforms compose as SVG has it: the one named last acts first.
func TestTransforms(t *testing.T) {
	p := point{X: 3, Y: 5}
	for text, want := range map[string]point{
		"":                                {X: 3, Y: 5},
		"translate(10)":                   {X: 13, Y: 5},
		"translate(10,20) scale(2)":       {X: 16, Y: 30},
		"scale(2) translate(10,20)":       {X: 26, Y: 50},
		"scale(2 3)":                      {X: 6, Y: 15},
		"rotate(90)":                      {X: -5, Y: 3},
		"rotate(180 3 5)":                 {X: 3, Y: 5},
		"matrix(1,2,3,4,5,6)":             {X: 3 + 15 + 5, Y: 6 + 20 + 6},
		"skewX(45)":                       {X: 8, Y: 5},
		"skewY(45), translate(0 0)":       {X: 3, Y: 8},
		" rotate( -90 )\n translate(1,1)": {X: 6, Y: -4},
	} {
		m, err := parseTransform(text)
		if got := m.at(p); err != nil || math.Hypot(got.X-want.X, got.Y-want.Y) > 1e-9 {
			t.Errorf("%q brings %v to %v, want %v (%v)", text, p, got, want, err)
		}
	}
	for _, bad := range []string{"scale()", "matrix(1 2 3)", "rotate(90", "spin(1)", "scale(1 x)"} {
		if _, err := parseTransform(bad); err == nil {
			t.Errorf("%q is a transform", bad)
		}
	}
}

// Numbers of paths need no blanks where a sign or a second point parts them.
func TestNumbersOfPaths(t *testing.T) {
	for text, want := range map[string][]float64{
		"1 2":           {1, 2},
		"1-2":           {1, -2},
		".5.5":          {0.5, 0.5},
		"1e2-3E-1":      {100, -0.3},
		"+4,-.25 ":      {4, -0.25},
		"\t\n7\r\n8 , ": {7, 8},
		"":              nil,
	} {
		got, err := numberList(text)
		if err != nil || len(got) != len(want) {
			t.Errorf("%q is %v, %v", text, got, err)
			continue
		}
		for i := range want {
			if got[i] != want[i] {
				t.Errorf("%q is %v, want %v", text, got, want)
			}
		}
	}
	for _, bad := range []string{"-", "1..2 .", "e5", "--3", "1e", "1e999"} {
		if got, err := numberList(bad); err == nil {
			t.Errorf("%q is %v", bad, got)
		}
	}
}

// Panels keep their places to one another, and names and keys stay apart.
func TestPanelsOfADrawing(t *testing.T) {
	d := read(t, svg(`<rect id="Flap" x="10" y="10" width="50" height="40"/><rect id="Flap" x="80" y="10" width="50" height="40"/>
		<rect x="10" y="80" width="50" height="40"/><rect id="Klappe ÄÖ" x="80" y="80" width="50" height="40"/><rect id="---" x="150" y="80" width="50" height="40"/>`), Scale{})
	var names, keys []string
	for _, p := range d.Body.Panels {
		names, keys = append(names, p.Name), append(keys, p.Key)
	}
	if got := strings.Join(names, "|"); got != "Flap|Flap 2|panel 3|Klappe ÄÖ|---" {
		t.Errorf("the panels are called %s", got)
	}
	if got := strings.Join(keys, "|"); got != "flap|flap-2|panel-3|klappe|panel" {
		t.Errorf("their keys are %s", got)
	}
	second, third := d.Body.Panels[1].Placement, d.Body.Panels[2].Placement
	if second.X != 140 || second.Y != 0 || third.X != 0 || third.Y != 140 || d.Body.Box.W != 380 || d.Body.Box.H != 220 {
		t.Errorf("they lie at %+v and %+v in %+v", second, third, d.Body.Box)
	}
}
