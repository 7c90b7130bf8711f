package body

import (
	"embed"
	"encoding/json"
	"fmt"
	"math"
	"strings"
)

//go:embed types/*.json
var files embed.FS

// spec is a body type as it is written down: numbers only, in mm. The side is
// drawn in x from the nose and z from the ground, the strip of bonnet, roof and
// boot in u along the car, which is x at the roof, and v from its middle line.
type spec struct {
	Type, Name string
	Length     float64 `json:"length_mm"`
	Width      float64 `json:"width_mm"`
	Height     float64 `json:"height_mm"`
	Fold       float64 `json:"fold_mm"`   // half of the roof's width: where the sides fold away
	Margin     float64 `json:"margin_mm"` // of creases, off a panel's edge
	Strip      strip
	Nodes      map[string]point2
	Curves     []curveSpec
	Panels     []panelSpec
	Creases    []lineSpec
	Scenery    []shapeSpec
	TopPanels  []loopSpec  `json:"top_panels"`
	TopHalves  []halfSpec  `json:"top_halves"`
	TopScenery []shapeSpec `json:"top_scenery"`
	Parts      []partSpec
	Seams      [][2]string
}

type point2 [2]float64

func (p point2) point() point { return point{X: p[0], Y: p[1]} }

// strip says how steep the stretches of the middle strip lie in side view,
// degrees, each to a place on u; the last one has no end.
type strip struct {
	Anchor     float64
	Stretches  []struct{ To, Steep float64 }
	ratioX     float64
	ratioZ     float64
	ratioWidth float64
}

// at carries a place on the strip over to the scaled car: each stretch grows as
// its slope does, and the strip is held at the front of the roof.
func (s strip) at(p point) point {
	lo, hi, sign := s.Anchor, p.X, 1.0
	if hi < lo {
		lo, hi, sign = hi, lo, -1
	}
	grown, from := 0.0, math.Inf(-1)
	for i, st := range s.Stretches {
		to := st.To
		if i == len(s.Stretches)-1 {
			to = math.Inf(1)
		}
		if part := math.Min(hi, to) - math.Max(lo, from); part > 0 {
			a := st.Steep * math.Pi / 180
			grown += part * math.Hypot(math.Cos(a)*s.ratioX, math.Sin(a)*s.ratioZ)
		}
		from = to
	}
	return point{X: s.Anchor*s.ratioX + sign*grown, Y: p.Y * s.ratioWidth}
}

// steep is the slope of the strip at u, degrees.
func (s strip) steep(u float64) float64 {
	for i, st := range s.Stretches {
		if u < st.To || i == len(s.Stretches)-1 {
			return st.Steep
		}
	}
	return 0
}

// ref names a place: a node, the end of a curve ("rail:first"), where two curves
// cross ("shutF*sill"), or the place itself. Nothing stands for a straight edge.
type ref struct {
	name string
	at   point2
}

func (r *ref) UnmarshalJSON(raw []byte) error {
	if string(raw) == "null" {
		return nil
	}
	if strings.HasPrefix(string(raw), "[") {
		return json.Unmarshal(raw, &r.at)
	}
	return json.Unmarshal(raw, &r.name)
}

type curveSpec struct {
	ID, Tag string
	Through []ref
	Arc     *struct {
		Centre           point2
		Radius, From, To float64
	}
	Part, Start, End string // a stretch of another curve, up to or from a node
}

type panelSpec struct {
	Key, Name, Substrate, Only, Mirror string
	Walk                               []ref
	Round                              float64
	Holes                              []shapeSpec
}

type lineSpec struct {
	Name    string
	Soft    bool
	Through []point2
}

// shapeSpec is a closed shape: through points with rounded corners, a circle, or
// a loop of three open curves that is mirrored about the middle line.
type shapeSpec struct {
	Kind    string
	Through []point2
	Round   float64
	Corner  float64
	Centre  point2
	Radius  float64
	Loop    [][]point2
	Both    bool
	Only    string
}

type loopSpec struct {
	Key, Name, Substrate string
	Round                float64
	Front, Side, Rear    []point2
	Holes                []shapeSpec
	Creases              []lineSpec
}

type halfSpec struct {
	Keys, Names [2]string
	Through     []point2
	Round       float64
	Creases     []lineSpec
}

type partSpec struct {
	Key, Name, Substrate string
	Both                 bool
	Lift                 float64 // of both, off the middle line
	Through              []point2
	Holes                []shapeSpec
	Creases              []lineSpec
}

func readSpec(kind string) (spec, error) {
	var s spec
	raw, err := files.ReadFile("types/" + kind + ".json")
	if err != nil {
		return s, fmt.Errorf("body type %s: %w", kind, err)
	}
	if err := json.Unmarshal(raw, &s); err != nil {
		return s, fmt.Errorf("body type %s: %w", kind, err)
	}
	return s, nil
}
