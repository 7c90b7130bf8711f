package level

import (
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"

	"waxplanus/core/film"
	"waxplanus/core/surface"
)

// Cut names what the cut of a pass goes with: who leads it, on what paint, and
// with which abrasive on which backing.
type Cut struct{ Person, Paint, Class string }

// WorkedSpot is a spot of some panel that was read before any work and again after
// passes: what the passes were, and by how much less it read (µm).
type WorkedSpot struct {
	Cuts   []Cut // of each step that had passes
	Curves []surface.Curve
	Moved  []float64 // nominal mean removal of each step, µm
	Step   []int     // of its panel's ladder, each
	Offset float64   // what scratches changed in the reading, µm
	Loss   float64
	Panel  string
	Spot   int // the opening reading of the panel, whose error its later readings share
}

// Hands is what the history of a shop tells of the cut of its people, paints and
// abrasives. Its zero value knows nothing.
type Hands struct {
	names []string // of the unknowns: person, paint, class
	post  Posterior
	reads map[string]int // how many readings each had a part in
}

// names of unknowns of the fit.
func (c Cut) unknowns() [3]string {
	return [3]string{"person " + c.Person, "paint " + c.Paint, "class " + c.Class}
}

// LearnHands fits the effects of all people, paints and abrasives to a shop's whole
// history at once: ln(rate/nominal) = person + paint + class + step, with the usual
// spreads. The same history gives the same result in any order; a reading far off
// counts by its distance and not by its square.
//
// What belongs to one panel alone, its steps' own effects and the errors of its opening
// readings, is marginalised panel by panel, so that the work grows with the panels and
// not with their cube.
func LearnHands(history []WorkedSpot, g film.Gauge) (Hands, error) {
	h := Hands{reads: map[string]int{}}
	if len(history) == 0 {
		return h, nil
	}
	f := newHandsFit(history, reread(g))
	h.names, h.reads = f.names, f.reads
	var err error
	h.post, err = f.solve()
	return h, err
}

// Prior is what is known before any reading of one paint that is worked in steps,
// each with its class of abrasive and by its person: persons as they first appear,
// paint, then each class; who says which person a step is by. What the history does
// not know starts wide.
func (h Hands) Prior(persons []string, paint string, classes []string) (p Posterior, who []int) {
	var names []string
	var sds []float64
	for _, person := range persons {
		i := slices.Index(names, "person "+person)
		if i < 0 {
			i = len(names)
			names, sds = append(names, "person "+person), append(sds, PersonSpread)
		}
		who = append(who, i)
	}
	names, sds = append(names, "paint "+paint), append(sds, PaintSpread)
	for _, c := range classes {
		names, sds = append(names, "class "+c), append(sds, AbrasiveSpread)
	}
	n := len(names)
	out := Posterior{make([]float64, n), mat.NewSymDense(n, nil)}
	at := make([]int, n)
	for i, name := range names {
		if at[i] = slices.Index(h.names, name); at[i] >= 0 {
			out.Mean[i] = h.post.Mean[at[i]]
		}
	}
	for i := range n {
		for j := i; j < n; j++ {
			switch {
			case at[i] >= 0 && at[j] >= 0:
				out.Cov.SetSym(i, j, h.post.Cov.At(at[i], at[j]))
			case i == j:
				out.Cov.SetSym(i, i, sds[i]*sds[i])
			case names[i] == names[j]: // the same class twice, both unknown
				out.Cov.SetSym(i, j, sds[i]*sds[j])
			}
		}
	}
	// Two steps of one class are one unknown: a hair keeps the matrix whole.
	for i := range n {
		out.Cov.SetSym(i, i, out.Cov.At(i, i)+1e-8)
	}
	return out, who
}

// Readings is how many readings of the history a person, and a class, had a part in.
func (h Hands) Readings(person, class string) (byPerson, byClass int) {
	return h.reads["person "+person], h.reads["class "+class]
}

// Learned is what the history tells of one unknown: how many times the usual it
// cuts, with its doubt, and how many readings it had a part in.
type Learned struct {
	Name     string
	Times    film.Estimate
	Readings int
}

// learned of an unknown; what the history does not know cuts as usual, give or take.
func (h Hands) learned(kind, name string, sd float64) Learned {
	out := Learned{Name: name, Times: film.Estimate{Mean: 1, SD: sd}}
	if i := slices.Index(h.names, kind+name); i >= 0 {
		out.Times.Mean = math.Exp(h.post.Mean[i])
		out.Times.SD = out.Times.Mean * math.Sqrt(h.post.Cov.At(i, i))
		out.Readings = h.reads[kind+name]
	}
	return out
}

// Person is what the history tells of somebody's hand.
func (h Hands) Person(name string) Learned { return h.learned("person ", name, PersonSpread) }

// Classes is what it tells of each abrasive on its backing, by name.
func (h Hands) Classes() []Learned {
	var out []Learned
	for _, n := range h.names {
		if name, ok := strings.CutPrefix(n, "class "); ok {
			out = append(out, h.learned("class ", name, AbrasiveSpread))
		}
	}
	slices.SortFunc(out, func(a, b Learned) int { return strings.Compare(a.Name, b.Name) })
	return out
}
