package flatlay

import (
	"math"
	"testing"
)

func TestPanelsAreSound(t *testing.T) {
	b, err := Find(Saloon, 0, 0)
	if err != nil {
		t.Fatal(err)
	}
	if len(b.Panels) != 16 {
		t.Fatalf("the saloon has %d panels", len(b.Panels))
	}
	area := 0.0
	for _, p := range b.Panels {
		w, h := p.Size()
		area += p.Area() / 1e6
		if w < 50 || h < 50 || p.Area() > w*h || p.Area() <= 0 {
			t.Errorf("%s: %v x %v mm, %v mm²", p.Name, w, h, p.Area())
		}
		for _, q := range p.Outline {
			if q.X < -1e-9 || q.Y < -1e-9 {
				t.Errorf("%s: corner %v is left of or above its box", p.Name, q)
			}
		}
	}
	if area < 7 || area > 12 {
		t.Errorf("the saloon has %.1f m² of paint", area)
	}
}

func TestMirroredPanelsMatch(t *testing.T) {
	b, _ := Find(Saloon, 0, 0)
	byKey := map[string]Panel{}
	for _, p := range b.Panels {
		byKey[p.Key] = p
	}
	for _, k := range []string{"wing", "fdoor", "rdoor", "quarter", "sill"} {
		l, r := byKey["L-"+k], byKey["R-"+k]
		if math.Abs(l.Area()-r.Area()) > 1e-3*l.Area() || l.Placement.Turned || !r.Placement.Turned {
			t.Errorf("%s: left %v mm², right %v mm²", k, l.Area(), r.Area())
		}
	}
}

func TestSectionsPartThePanel(t *testing.T) {
	b, _ := Find(Saloon, 0, 0)
	big, err := LoosePanel(2400, 1300)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range append(b.Panels, big.Panels...) {
		names, keys, seen := map[string]bool{}, map[string]bool{}, map[Point]string{}
		most, inner := 0, 0
		for _, c := range p.Cells() {
			if p.EdgeDistance(c) >= Border {
				inner++
			}
		}
		for _, s := range p.Sections() {
			if names[s.Name] || keys[s.Key] {
				t.Errorf("%s has two sections called %s, %s", p.Name, s.Name, s.Key)
			}
			names[s.Name], keys[s.Key] = true, true
			most = max(most, len(s.Cells))
			for _, c := range s.Cells {
				if seen[c] != "" {
					t.Errorf("%s: cell %v is in %s and %s", p.Name, c, seen[c], s.Key)
				}
				seen[c] = s.Key
				if !p.Inside(c) || p.EdgeDistance(c) < Border {
					t.Errorf("%s: cell %v of %s is off the paint or in the border", p.Name, c, s.Key)
				}
				if !covers(s, c) {
					t.Errorf("%s: cell %v lies outside the drawn %s", p.Name, c, s.Key)
				}
			}
		}
		if len(seen) < inner*8/10 {
			t.Errorf("%s: sections hold %d of %d cells", p.Name, len(seen), inner)
		}
		for _, s := range p.Sections() {
			if float64(len(s.Cells)) < stripShare*float64(most) {
				t.Errorf("%s: %s is a sliver of %d cells beside %d", p.Name, s.Name, len(s.Cells), most)
			}
		}
	}
}

func covers(s Section, c Point) bool {
	for _, o := range s.Outlines {
		if inside(o, c) {
			return true
		}
	}
	return false
}

func TestDistancesOnARectangle(t *testing.T) {
	p := Panel{Outline: []Point{{0, 0}, {400, 0}, {400, 300}, {0, 300}}, Holes: []Hole{{Kind: "glass", Points: []Point{{300, 200}, {340, 200}, {340, 240}, {300, 240}}}}}
	q := Point{100, 50}
	d := p.SideDistances(q)
	for i, want := range []float64{50, 300, 250, 100, 250} {
		if math.Abs(d[i]-want) > 1e-9 {
			t.Errorf("side %d is %v mm away, want %v", i, d[i], want)
		}
	}
	if p.EdgeDistance(q) != 50 || p.Inside(Point{320, 220}) || p.HoleAt(Point{320, 220}) != "glass" || !p.Inside(q) {
		t.Error("edge, hole or inside is wrong")
	}
	if !math.IsInf(p.CreaseDistance(q), 1) {
		t.Error("a panel without creases has one")
	}
	turned := Panel{Outline: []Point{{0, 300}, {400, 300}, {400, 0}, {0, 0}}}
	if turned.SideDistances(q)[0] != 50 {
		t.Error("the direction of the walk changes which side is up")
	}
}

func TestSectionAt(t *testing.T) {
	b, _ := LoosePanel(900, 600)
	s := b.Panels[0].Sections()
	if SectionAt(s, Point{5, 5}) != s[0].Key || SectionAt(nil, Point{5, 5}) != "" {
		t.Error("the nearest section is not found")
	}
}

func TestBodiesThatAreNone(t *testing.T) {
	for _, size := range [][2]float64{{50, 400}, {400, 4000}, {math.NaN(), 400}, {0, 0}} {
		if _, err := LoosePanel(size[0], size[1]); err == nil {
			t.Errorf("a loose panel of %v is drawn", size)
		}
	}
	if _, err := Find("submarine", 0, 0); err == nil {
		t.Error("a submarine is found")
	}
	if _, err := readSheet([]byte("{")); err == nil {
		t.Error("a broken sheet is read")
	}
}
