package shelf

import (
	"math"
	"strings"
	"testing"
)

func TestAbrasivesOfABodyRunFromCoarseToFine(t *testing.T) {
	s := Usual()
	last := map[Body]Abrasive{}
	for _, a := range s.Abrasives {
		if b, ok := last[a.Body]; ok && a.D50 >= b.D50 {
			t.Errorf("%s %s is not finer than %s", a.Body, a.Grit, b.Grit)
		}
		last[a.Body] = a
		for _, b := range s.Backings {
			if !a.Fits(b) {
				continue
			}
			if a.Scratch(b) <= 0 || s.Law.Rate(a, b, 1) <= 0 || s.Law.Rate(a, b, 0.7) <= s.Law.Rate(a, b, 1) {
				t.Errorf("%s on %s: scratch %v, rate %v", a.Key, b.Key, a.Scratch(b), s.Law.Rate(a, b, 1))
			}
		}
	}
}

// Everything on the shelf goes with something, and keys say one thing each.
func TestTheUsualShelfIsWhole(t *testing.T) {
	s := Usual()
	keys := map[string]bool{}
	fits := 0
	for _, a := range s.Abrasives {
		n := 0
		for _, b := range s.Backings {
			if a.Fits(b) {
				n++
			}
		}
		if fits += n; n == 0 || keys[a.Key] {
			t.Errorf("%s fits %d backings", a.Key, n)
		}
		keys[a.Key] = true
	}
	if fits != 48 {
		t.Errorf("%d pairs of sheet and backing, want 48", fits)
	}
	for _, b := range s.Backings {
		if keys[b.Key] || b.Name == "" || b.E <= 0 || b.P0 <= 0 || b.Area <= 0 || b.Tool == Hand && b.Area > 10000 {
			t.Errorf("%+v", b)
		}
		keys[b.Key] = true
	}
	for i, c := range s.Compounds {
		if keys[c.Key] || c.Removal <= 0 || c.Scratch <= 0 || i > 0 && c.Removal > s.Compounds[i-1].Removal {
			t.Errorf("%+v", c)
		}
		keys[c.Key] = true
	}
	if b, _ := s.Backing("rubber"); !b.Flattens() {
		t.Error("a rubber block does not flatten")
	}
	if b, _ := s.Backing("da-hard"); b.Flattens() {
		t.Error("a disc pad flattens like a block")
	}
}

func TestEveryConstantCanBeChangedAndSetBack(t *testing.T) {
	s, usual := Usual(), Usual()
	keys := map[string]bool{}
	for _, c := range s.Constants() {
		if keys[c.Key] || c.Name == "" || c.Source == "" || c.Value < c.Least || c.Value > c.Most || c.Least >= c.Most {
			t.Errorf("%+v", c)
		}
		keys[c.Key] = true
		other := c.Least
		if other == c.Value {
			other = c.Most
		}
		if err := s.Set(c.Key, other); err != nil {
			t.Errorf("%s: %v", c.Key, err)
		}
	}
	for i, c := range s.Constants() {
		if was := usual.Constants()[i]; c.Value == was.Value {
			t.Errorf("%s stayed %v", c.Key, c.Value)
		} else if err := s.Set(c.Key, was.Value); err != nil {
			t.Errorf("%s back: %v", c.Key, err)
		}
	}
	for i, c := range s.Constants() {
		if c != usual.Constants()[i] {
			t.Errorf("%s is %v, was %v", c.Key, c, usual.Constants()[i])
		}
	}
}

func TestChangesThatMakeNoSense(t *testing.T) {
	for key, c := range map[string]struct {
		value float64
		want  string
	}{
		"abrasive.p1500.d50":  {-1, "from 1 to 60 µm"},
		"backing.rubber.e":    {math.NaN(), "does not make sense"},
		"abrasive.p1500.have": {0.5, "does not make sense"},
		"abrasive.brick.d50":  {5, "nothing on the shelf"},
		"":                    {5, "keys look like"},
	} {
		s := Usual()
		if err := s.Set(key, c.value); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%q = %v gives %v, want %q", key, c.value, err, c.want)
		}
	}
	s := With(map[string]float64{"abrasive.p1500.price": 2.5, "compound.foam-fine.have": 0, "gone": 3, "law.labour": -4})
	a, _ := s.Abrasive("p1500")
	c, _ := s.Compound("foam-fine")
	if a.Price != 2.5 || c.Have || s.Law.Labour != usualLaw.Labour {
		t.Errorf("price %v, have %v, labour %v", a.Price, c.Have, s.Law.Labour)
	}
}

// Pads wear with area and cycles, as the compound is used; the money of a cycle is that of both.
func TestPadsWearWithTheirCompound(t *testing.T) {
	s := Usual()
	c, _ := s.Compound("foam-fine")
	ml := 3 * c.Use * c.PadLifetime // three lives of a pad
	if n := c.Pads(ml); math.Abs(n-3) > 1e-9 {
		t.Errorf("%v pads", n)
	}
	if money := c.Pads(ml)*c.PadPrice + ml*c.Price/1000; math.Abs(money-3*c.PadLifetime*c.Cycle()) > 1e-9 {
		t.Errorf("%v money", money)
	}
	if c.Use = 0; c.Pads(ml) != 0 {
		t.Error("nothing is used, yet pads wear")
	}
}

// What is wanted is the mean pressure over the sheet in contact: 26 N on a hand block, 35 N on
// a disc.
func TestAHandOnTheScale(t *testing.T) {
	s := Usual()
	for key, newton := range map[string]float64{"rigid": 26.25, "da-hard": 35.34} {
		b, _ := s.Backing(key)
		p, err := b.Press(2 * newton / 9.81)
		if err != nil || math.Abs(p.Wants*9.81-newton) > 0.1 || math.Abs(p.Times-2) > 0.01 {
			t.Errorf("%s: %+v, %v", key, p, err)
		}
	}
	b, _ := s.Backing("rubber")
	for _, kg := range []float64{0, -1, 61, math.NaN()} {
		if _, err := b.Press(kg); err == nil {
			t.Errorf("%v kg is taken", kg)
		}
	}
}
