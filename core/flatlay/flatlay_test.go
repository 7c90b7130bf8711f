package flatlay

import (
	"math"
	"strings"
	"testing"
)

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
	s := Panel{Outline: []Point{{0, 0}, {900, 0}, {900, 600}, {0, 600}}}.Sections()
	if SectionAt(s, Point{5, 5}) != s[0].Key || SectionAt(nil, Point{5, 5}) != "" {
		t.Error("the nearest section is not found")
	}
}

// A rectangle splits into equal sections near a square, and a crease across it
// bounds them whichever way it runs.
func TestSectionsAreEqualAndBoundedByCreases(t *testing.T) {
	plain := Panel{Outline: []Point{{0, 0}, {1200, 0}, {1200, 900}, {0, 900}}}
	s := plain.Sections()
	if len(s) != 6 {
		t.Fatalf("1200 x 900 splits into %d sections, want 3 x 2", len(s))
	}
	for _, c := range s {
		if ratio := c.W / c.H; ratio < 0.7 || ratio > 1.4 || math.Abs(c.W*c.H-s[0].W*s[0].H) > 0.2*s[0].W*s[0].H {
			t.Errorf("%s is %v x %v mm beside %v x %v", c.Name, c.W, c.H, s[0].W, s[0].H)
		}
	}
	for _, c := range []Crease{
		{"along", true, []Point{{30, 300}, {600, 330}, {1170, 300}}},
		{"across", true, []Point{{500, 30}, {530, 450}, {500, 870}}},
	} {
		p := plain
		p.Creases = []Crease{c}
		names := map[string]bool{}
		for _, sec := range p.Sections() {
			names[sec.Name] = true
			side := 0
			for _, q := range sec.Cells {
				far := q.Y - 300
				if c.Name == "across" {
					far = q.X - 500
				}
				switch {
				case far < -15 && side <= 0:
					side = -1
				case far > 45 && side >= 0:
					side = 1
				case math.Abs(far-15) > 30:
					t.Fatalf("crease %s: section %s lies on both sides", c.Name, sec.Name)
				}
			}
		}
		if len(names) != len(p.Sections()) || len(names) < 5 {
			t.Errorf("crease %s: sections are called %v", c.Name, names)
		}
	}
}

func TestManySectionsKeepTheirNames(t *testing.T) {
	names, keys := map[string]bool{}, map[string]bool{}
	all := Panel{Outline: []Point{{0, 0}, {7000, 0}, {7000, 300}, {0, 300}}}.Sections()
	for _, s := range all {
		names[s.Name], keys[s.Key] = true, true
	}
	if len(all) != 14 || len(names) != 14 || len(keys) != 14 {
		t.Errorf("%d sections have %d names and %d keys", len(all), len(names), len(keys))
	}
}

func TestOutlinesThatAreNone(t *testing.T) {
	square := []Point{{0, 0}, {100, 0}, {100, 100}, {0, 100}}
	for want, p := range map[string]Panel{
		"crosses itself": {Name: "flap", Outline: []Point{{0, 0}, {100, 100}, {100, 0}, {0, 100}}},
		"no area":        {Name: "flap", Outline: []Point{{0, 0}, {100, 0}, {50, 0.01}}},
		"points":         {Name: "flap", Outline: []Point{{0, 0}, {100, 0}}},
		"not a number":   {Name: "flap", Outline: []Point{{0, 0}, {100, 0}, {math.NaN(), 100}}},
		"over its edge":  {Name: "flap", Outline: square, Holes: []Hole{{"hole", []Point{{80, 80}, {150, 80}, {150, 120}}}}},
	} {
		if err := p.Check(); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("want a fault with %q, got %v", want, err)
		}
	}
	if err := (Panel{Outline: square}).Check(); err != nil {
		t.Error(err)
	}
}

func TestEdgesOfAnOutline(t *testing.T) {
	p := Panel{Outline: []Point{{0, 0}, {400, 0}, {400, 300}, {0, 300}}}
	for want, e := range map[float64]Edge{400: {"shut", 0, 1}, 700: {"hem", 3, 1}, 1400: {"free", 0, 0}} {
		if got := p.EdgeLength(e); got != want {
			t.Errorf("edge %v is %v mm long, want %v", e, got, want)
		}
	}
	p.Placement = Placement{X: 10, Y: 20, Turned: true}
	q := Point{30, 40}
	if got := p.OnSheet(q); got != (Point{10 + 370, 20 + 260}) || p.FromSheet(got) != q {
		t.Errorf("a turned panel's place lies at %v on the sheet", got)
	}
	if r := p.Reflect(q, Panel{}); r != (Point{370, 40}) || p.Reflect(q, p) != (Point{30, 260}) {
		t.Error("a place is not carried over to the mirrored panel")
	}
}
