package body

import (
	"math"
	"strings"
	"testing"

	"waxplanus/core/flatlay"
)

func everyBody(t *testing.T) []Body {
	t.Helper()
	var out []Body
	for _, kind := range Types() {
		size := Size{}
		if kind == Loose {
			size = Size{0, 1200, 800}
		}
		b, err := Find(kind, size)
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, b)
	}
	return out
}

// The paint of a body type: how many panels it has and how many m² they are, as
// worked out by hand from the numbers of the type.
func TestBodiesAreWhole(t *testing.T) {
	want := map[string]struct {
		panels int
		area   float64
	}{Saloon: {16, 9.38}, Hatchback: {15, 9.2}, Estate: {15, 10.6}, Coupe: {14, 8.8}, PeopleCarrier: {15, 12.3},
		Pickup: {18, 10.1}, PanelVan: {16, 24.8}, Motorcycle: {9, 0.7}, Loose: {1, 0.96}}
	for _, b := range everyBody(t) {
		area, keys := 0.0, map[string]bool{}
		for _, p := range b.Panels {
			area += p.Area() / 1e6
			if keys[p.Key] || p.Name == "" || p.Lie == "" || p.Side == "" || p.Neighbours == nil {
				t.Errorf("%s: panel %+v lacks something", b.Type, p.Key)
			}
			keys[p.Key] = true
			for _, q := range p.Outline {
				if q.X < 0 || q.Y < 0 {
					t.Errorf("%s %s: corner %v is left of or above its box", b.Type, p.Name, q)
				}
			}
		}
		if w := want[b.Type]; len(b.Panels) != w.panels || math.Abs(area-w.area) > 0.06+0.01*w.area {
			t.Errorf("the %s has %d panels with %.2f m², want %d with %.2f", b.Type, len(b.Panels), area, w.panels, w.area)
		}
	}
}

// Left and right match: areas, edges, creases, sections, neighbours.
func TestMirroredPanelsMatch(t *testing.T) {
	for _, b := range everyBody(t) {
		byKey := map[string]flatlay.Panel{}
		for _, p := range b.Panels {
			byKey[p.Key] = p
		}
		for _, p := range b.Panels {
			for _, n := range p.Neighbours {
				back := false
				for _, m := range byKey[n.Key].Neighbours {
					back = back || m.Key == p.Key
				}
				if !back {
					t.Errorf("%s: the %s knows the %s beside it, not the other way round", b.Type, p.Name, n.Key)
				}
			}
			if p.Side == "middle" {
				continue
			}
			m, ok := byKey[p.Mirror]
			if !ok || byKey[m.Mirror].Key != p.Key || m.Side == p.Side {
				t.Fatalf("%s: %s has the mirror %q", b.Type, p.Key, p.Mirror)
			}
			if strings.HasSuffix(p.Key, "quarter") || p.Key == "L-slide" || p.Key == "R-mid" || strings.HasSuffix(p.Key, "bed") {
				continue // the flap is on one side, the sliding door too
			}
			if math.Abs(p.Area()-m.Area()) > 1e-4*p.Area() || len(p.Sections()) != len(m.Sections()) {
				t.Errorf("%s %s: %v mm² in %d sections, mirrored %v in %d", b.Type, p.Name, p.Area(), len(p.Sections()), m.Area(), len(m.Sections()))
			}
			for _, q := range p.Cells() {
				if r := p.Reflect(q, m); !m.Inside(r) && m.EdgeDistance(r) > 0.2 {
					t.Errorf("%s %s: %v mirrored is off the paint", b.Type, p.Name, q)
					break
				}
			}
		}
	}
}

// A body can be drawn over its whole range of sizes, and what is drawn has the
// size that was asked for.
func TestSizesOfAVehicle(t *testing.T) {
	for _, b := range everyBody(t) {
		if b.Type == Loose {
			continue
		}
		usual := b.Size
		for _, r := range [][3]float64{{0.86, 1, 1.17}, {1.17, 0.86, 0.86}, {1.05, 1.17, 1}} {
			s := Size{usual.Length * r[0], usual.Width * r[1], usual.Height * r[2]}
			big, err := Find(b.Type, s)
			if err != nil {
				t.Errorf("%v of the usual %s: %v", r, b.Type, err)
				continue
			}
			for i, p := range big.Panels {
				w0, h0 := b.Panels[i].Size()
				w1, h1 := p.Size()
				long := r[0]
				if p.Lie == "upright" && p.Side == "middle" || strings.HasSuffix(p.Key, "-rear") {
					continue // its length on the sheet is its height on the car
				}
				// Gaps and roundings do not grow with the car.
				if b.Type != Motorcycle && math.Abs(w1-long*w0) > 0.06*w0+20 || h1 <= 0 || h0 <= 0 {
					t.Errorf("%v of the usual %s: the %s is %v mm long, was %v", r, b.Type, p.Name, w1, w0)
				}
			}
		}
		for _, s := range []Size{{usual.Length / 2, 0, 0}, {usual.Length * 2, 0, 0}, {math.NaN(), 0, 0}, {-usual.Length, 0, 0}} {
			if _, err := Find(b.Type, s); err == nil || !strings.Contains(err.Error(), "has to be") {
				t.Errorf("a %s of %v is drawn: %v", b.Type, s, err)
			}
		}
	}
}

func TestFlatlayIsLaidOut(t *testing.T) {
	for _, b := range everyBody(t) {
		for _, p := range b.Panels {
			for _, q := range p.Outline {
				s := p.OnSheet(q)
				if s.X < b.Box.X || s.Y < b.Box.Y || s.X > b.Box.X+b.Box.W || s.Y > b.Box.Y+b.Box.H {
					t.Fatalf("%s: the %s lies outside the box at %v", b.Type, p.Name, s)
				}
				side := map[string]float64{"left": 1, "right": -1}[p.Side]
				if side*s.Y < 0 {
					t.Fatalf("%s: the %s lies on the wrong side of the roof", b.Type, p.Name)
				}
			}
		}
	}
}

func TestEdgesGoRoundThePanel(t *testing.T) {
	tags := map[string]bool{}
	for _, b := range everyBody(t) {
		for _, p := range b.Panels {
			round, whole := 0.0, p.EdgeLength(flatlay.Edge{})
			for _, e := range p.Edges {
				round += p.EdgeLength(e)
				tags[e.Tag] = true
			}
			if math.Abs(round-whole) > 1e-6*whole {
				t.Errorf("%s: the edges of the %s add up to %v of %v mm", b.Type, p.Name, round, whole)
			}
		}
	}
	for _, tag := range []string{"shut", "fold", "glass", "lamp", "arch", "hem", "free"} {
		if !tags[tag] {
			t.Errorf("no edge is a %s", tag)
		}
	}
}

func TestCutOutsLieOnPanels(t *testing.T) {
	b, _ := Find(Saloon, Size{})
	kinds := map[string]int{}
	for _, p := range b.Panels {
		for _, h := range p.Holes {
			kinds[h.Kind]++
		}
	}
	if kinds["handle"] != 4 || kinds["flap"] != 1 || kinds["glass"] != 6 || kinds["grille"] != 2 {
		t.Errorf("the saloon has the cut-outs %v", kinds)
	}
}

func TestSectionsPartThePanel(t *testing.T) {
	big, err := LoosePanel(2400, 1300)
	if err != nil {
		t.Fatal(err)
	}
	for _, b := range append(everyBody(t), big) {
		for _, p := range b.Panels {
			names, keys, seen := map[string]bool{}, map[string]bool{}, map[point]string{}
			most, inner := 0, 0
			for _, c := range p.Cells() {
				if p.EdgeDistance(c) >= flatlay.Border {
					inner++
				}
			}
			sections := p.Sections()
			for _, s := range sections {
				if names[s.Name] || keys[s.Key] {
					t.Errorf("%s %s has two sections called %s, %s", b.Type, p.Name, s.Name, s.Key)
				}
				names[s.Name], keys[s.Key] = true, true
				most = max(most, len(s.Cells))
				for _, c := range s.Cells {
					if seen[c] != "" {
						t.Errorf("%s: cell %v is in %s and %s", p.Name, c, seen[c], s.Key)
					}
					seen[c] = s.Key
					if !p.Inside(c) || p.EdgeDistance(c) < flatlay.Border {
						t.Errorf("%s: cell %v of %s is off the paint or in the border", p.Name, c, s.Key)
					}
					if !covers(s, c) {
						t.Errorf("%s %s: cell %v lies outside the drawn %s", b.Type, p.Name, c, s.Key)
					}
				}
			}
			if len(seen) < inner*8/10 {
				t.Errorf("%s %s: sections hold %d of %d cells", b.Type, p.Name, len(seen), inner)
			}
			for _, s := range sections {
				if float64(len(s.Cells)) < 0.15*float64(most) {
					t.Errorf("%s %s: %s is a sliver of %d cells beside %d", b.Type, p.Name, s.Name, len(s.Cells), most)
				}
			}
		}
	}
}

func covers(s flatlay.Section, c point) bool {
	for _, o := range s.Outlines {
		if flatlay.Within(o, c) || flatlay.LineDistance(o, c, true) < 0.5 {
			return true
		}
	}
	return false
}

// What is looked at holds every section and lies in the panel.
func TestFocusHoldsTheSections(t *testing.T) {
	smaller := 0
	for _, b := range everyBody(t) {
		for _, p := range b.Panels {
			sections := p.Sections()
			x, y, w, h := p.Focus(sections)
			pw, ph := p.Size()
			if x < 0 || y < 0 || x+w > pw+1e-9 || y+h > ph+1e-9 || w <= 0 || h <= 0 {
				t.Errorf("%s %s: looks at %v, %v, %v x %v of %v x %v", b.Type, p.Name, x, y, w, h, pw, ph)
			}
			if w*h < pw*ph {
				smaller++
			}
			for _, s := range sections {
				for _, c := range s.Cells {
					if c.X < x || c.Y < y || c.X > x+w || c.Y > y+h {
						t.Fatalf("%s %s: %v of %s is out of sight", b.Type, p.Name, c, s.Name)
					}
				}
			}
		}
	}
	if smaller < 10 {
		t.Errorf("only %d panels are looked at in part", smaller)
	}
}

func TestBodiesThatAreNone(t *testing.T) {
	for _, size := range [][2]float64{{50, 400}, {400, 4000}, {math.NaN(), 400}, {0, 0}} {
		if _, err := LoosePanel(size[0], size[1]); err == nil {
			t.Errorf("a loose panel of %v is drawn", size)
		}
	}
	if _, err := Find("submarine", Size{}); err == nil {
		t.Error("a submarine is found")
	}
}

// BenchmarkBody is a body of its own size, drawn from its numbers.
func BenchmarkBody(b *testing.B) {
	for b.Loop() {
		if _, err := build(Saloon, Size{4500, 1850, 1460}); err != nil {
			b.Fatal(err)
		}
	}
}
