package marks

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"waxplanus/core/film"
)

// Kind is what a mark is.
type Kind string

// The kinds of marks.
const (
	Nib       Kind = "nib"
	Run       Kind = "run"
	Sag       Kind = "sag"
	Peel      Kind = "peel"
	Pit       Kind = "pit"
	Crater    Kind = "crater"
	Scratch   Kind = "scratch"
	Etch      Kind = "etch"
	Overspray Kind = "overspray"
	Dull      Kind = "dull"
	Curl      Kind = "curl"
	ThinEdge  Kind = "thin_edge"
	Through   Kind = "through"
)

// Kinds lists all kinds.
func Kinds() []Kind {
	return []Kind{Nib, Run, Sag, Peel, Pit, Crater, Scratch, Etch, Overspray, Dull, Curl, ThinEdge, Through}
}

// Name is the kind as it is said.
func (k Kind) Name() string {
	switch k {
	case Peel:
		return "peel patch"
	case Dull:
		return "dull patch"
	case ThinEdge:
		return "thin edge"
	case Overspray:
		return "dust, overspray"
	}
	return string(k)
}

// Shape is how a kind lies on the panel.
type Shape string

// The shapes.
const (
	Point Shape = "point"
	Line  Shape = "line"
	Area  Shape = "area"
)

// Shape of a kind. A pit becomes an area when it has a density.
func (k Kind) Shape() Shape {
	switch k {
	case Nib, Pit, Crater, Etch, Through:
		return Point
	case Scratch, ThinEdge:
		return Line
	}
	return Area
}

// Proud says whether a kind stands above the paint; Below whether it lies in it.
func (k Kind) Proud() bool { return k == Nib || k == Run || k == Sag }

// Below says whether a kind lies under the surface.
func (k Kind) Below() bool {
	return k == Pit || k == Crater || k == Scratch || k == Etch || k == Curl
}

// Class is how high or deep a mark is as eye, hand and fingernail tell it.
type Class string

// The classes.
const (
	Seen    Class = "seen"    // in the lamp, not felt
	Felt    Class = "felt"    // a gliding hand or a fingernail feels it
	Catches Class = "catches" // the cloth or the fingernail catches on it
	Colour  Class = "colour"  // down to the colour
)

// What a class stands for in µm (judgement).
var (
	heights = map[Class]film.Estimate{Seen: {Mean: 4, SD: 2}, Felt: {Mean: 12, SD: 5}, Catches: {Mean: 30, SD: 12}}
	depths  = map[Class]film.Estimate{Seen: {Mean: 1.5, SD: 0.7}, Felt: {Mean: 5, SD: 2}, Catches: {Mean: 12, SD: 5}}
	crests  = map[Class]film.Estimate{Seen: {Mean: 12, SD: 6}, Felt: {Mean: 30, SD: 12}, Catches: {Mean: 80, SD: 30}}
)

// measured is the doubt of a height or depth that was read, in µm and as a share
// of it (judgement): foot and place of the gauge.
const (
	measured      = 1.0
	measuredShare = 0.1
)

// Mark is one defect. Place and sizes are in the panel's coordinates; Angle in
// degrees from the panel's length, clockwise.
type Mark struct {
	Kind                 Kind
	X, Y                 float64
	Length, Width, Angle float64
	Class                Class
	Size                 float64 // height or depth that was read, µm; 0 for by its class
	Crest, Beside        float64 // film on the crest of a run and beside it, µm; 0 unread
	Grade                float64 // of a peel patch, 0 to 10
	Density              float64 // of a pit field, pits per dm²; 0 for a single pit
}

// usual are the sizes of a mark that was placed with one tap (judgement).
var usual = map[Kind]Mark{
	Nib:       {Length: 1.5, Width: 1.5, Class: Felt},
	Run:       {Length: 60, Width: 12, Angle: 90, Class: Felt},
	Sag:       {Length: 150, Width: 40, Class: Felt},
	Peel:      {Length: 200, Width: 150},
	Pit:       {Length: 0.8, Width: 0.8, Class: Felt},
	Crater:    {Length: 4, Width: 4, Class: Catches},
	Scratch:   {Length: 80, Width: 0.2, Class: Felt},
	Etch:      {Length: 10, Width: 10, Class: Felt},
	Overspray: {Length: 300, Width: 200},
	Dull:      {Length: 200, Width: 200},
	Curl:      {Length: 60, Width: 60, Class: Seen},
	ThinEdge:  {Length: 200, Width: 25},
	Through:   {Length: 10, Width: 10},
}

// Placed is a mark of a kind at a place in its usual size; how high or deep it is nobody has
// said. A peel patch has the grade of its panel.
func Placed(k Kind, x, y, grade float64) Mark {
	m := usual[k]
	m.Kind, m.X, m.Y, m.Class = k, x, y, ""
	if k == Peel {
		m.Grade = grade
	}
	return m
}

// The largest sizes a mark may have.
const (
	MostLength  = 4000.0 // mm
	MostHeight  = 500.0  // µm
	MostDensity = 5000.0 // pits per dm²
	MostFilm    = 5000.0 // µm, of a reading
)

// Fault says what is wrong with a mark: the field and a sentence.
type Fault struct{ Field, Text string }

func (f Fault) Error() string { return f.Text }

// Check returns a Fault for the first thing that cannot be.
func (m Mark) Check() error {
	number := func(field, what string, v, least, most float64, unit string) error {
		if math.IsNaN(v) || v < least || v > most {
			return Fault{field, fmt.Sprintf("%s of %v %s cannot be: it goes from %v to %v %s.", what, v, unit, least, most, unit)}
		}
		return nil
	}
	if !slices.Contains(Kinds(), m.Kind) {
		return Fault{"kind", fmt.Sprintf("No mark is called %q: it is one of %v.", m.Kind, Kinds())}
	}
	if _, ok := m.classes()[m.Class]; m.Class != "" && !ok && m.Class != Colour || m.Class == Colour && !m.Kind.Below() {
		return Fault{"class", fmt.Sprintf("A %s is not %q: seen, felt or catches say how high or deep it is, colour that it goes down to the colour.", m.Kind.Name(), m.Class)}
	}
	for _, n := range []struct {
		field, what    string
		v, least, most float64
		unit           string
	}{
		{"x_mm", "A place", m.X, -MostLength, 2 * MostLength, "mm"},
		{"y_mm", "A place", m.Y, -MostLength, 2 * MostLength, "mm"},
		{"length_mm", "A length", m.Length, 0.1, MostLength, "mm"},
		{"width_mm", "A width", m.Width, 0.01, MostLength, "mm"},
		{"angle_deg", "A direction", m.Angle, -360, 360, "degrees"},
		{"size_um", "A height or depth", m.Size, 0, MostHeight, "µm"},
		{"crest_um", "A reading on the crest", m.Crest, 0, MostFilm, "µm"},
		{"beside_um", "A reading beside the crest", m.Beside, 0, MostFilm, "µm"},
		{"grade", "A peel grade", m.Grade, 0, 10, "on our scale"},
		{"density_dm2", "A density", m.Density, 0, MostDensity, "pits per dm²"},
	} {
		if err := number(n.field, n.what, n.v, n.least, n.most, n.unit); err != nil {
			return err
		}
	}
	if m.Crest > 0 && m.Beside > 0 && m.Crest <= m.Beside {
		return Fault{"crest_um", fmt.Sprintf("The crest reads %.0f µm and beside it %.0f: a run stands above what is beside it. Read both again.", m.Crest, m.Beside)}
	}
	return nil
}

func (m Mark) classes() map[Class]film.Estimate {
	switch {
	case m.Kind == Nib:
		return heights
	case m.Kind == Run || m.Kind == Sag:
		return crests
	case m.Kind.Below():
		return depths
	}
	return nil
}

// Said says whether anybody said or read how high or deep a mark is.
func (m Mark) Said() bool { return m.Class != "" || m.Size > 0 || m.Crest > 0 && m.Beside > 0 }

// Relief is how far a mark stands above the paint or lies in it, µm: from
// readings where there are any, else from its class, or the usual one. It is zero for marks that
// do neither, and for those that go down to the colour.
func (m Mark) Relief() film.Estimate {
	if m.Crest > 0 && m.Beside > 0 {
		noise := math.Sqrt(2 * (film.UsualGauge.A*film.UsualGauge.A + film.UsualGauge.Replace*film.UsualGauge.Replace))
		return film.Estimate{Mean: m.Crest - m.Beside, SD: noise}
	}
	if m.Size > 0 && m.classes() != nil {
		return film.Estimate{Mean: m.Size, SD: math.Hypot(measured, measuredShare*m.Size)}
	}
	class := m.Class
	if class == "" {
		class = usual[m.Kind].Class
	}
	return m.classes()[class]
}

// Compare orders marks by their longer side, the smaller first.
func (m Mark) Compare(o Mark) int {
	return cmp.Compare(math.Max(m.Length, m.Width), math.Max(o.Length, o.Width))
}
