package plan

import (
	"fmt"
	"slices"

	"waxplanus/core/shelf"
)

// Rules are a shop's house rules: where practitioners disagree, which school it
// follows. The zero value of a rule leaves the choice to the computation, or,
// where there is nothing to choose, is the first school.
type Rules struct {
	Flatten   School `json:"flatten,omitempty"`
	Far       School `json:"far,omitempty"`
	Sand      School `json:"sand,omitempty"`
	Begin     School `json:"begin,omitempty"`
	Refine    School `json:"refine,omitempty"`
	Time      School `json:"time,omitempty"`
	Stroke    School `json:"stroke,omitempty"`
	Water     School `json:"water,omitempty"`
	Lubricant School `json:"lubricant,omitempty"`
	Paper     School `json:"paper,omitempty"`
	Edges     School `json:"edges,omitempty"`
	Polisher  School `json:"polisher,omitempty"`
	Pads      School `json:"pads,omitempty"`
	Overlap   School `json:"overlap,omitempty"`
	Order     School `json:"order,omitempty"`
	When      School `json:"when,omitempty"`
	SafeFilm  School `json:"safe_film,omitempty"`
	Coarsest  School `json:"coarsest,omitempty"`
	Backing   School `json:"backing,omitempty"`
	Squares   School `json:"squares,omitempty"`
	Cool      School `json:"cool,omitempty"`
	Age       School `json:"age,omitempty"`
}

// School is one answer to a question that practitioners disagree on. The empty
// one leaves it to the computation.
type School string

// The schools, by question.
const (
	BlockFirst    School = "block"   // flatten with a stiff block by hand first
	MachineOnly   School = "machine" // or by machine only, from P1500 or finer
	ToGlass       School = "all"     // all of the texture goes
	ToTexture     School = "texture" // down to the factory's texture
	SandToLevel   School = "sand"
	NeverForLooks School = "never" // polish by clarity, keep the film
	CoarseFirst   School = "coarse"
	FinestFirst   School = "finest" // start with 3000, coarser only if it is not enough
	ToCompound    School = "compound"
	ToFine        School = "fine" // 3000 or finer before the pad
	ToAny         School = "any"  // whichever serves, straight from a coarse grit too
	AnyBacking    School = "any_backing"
	ToBury        School = "bury"
	DoubleEach    School = "double" // double the time with each finer grit
	Diagonals     School = "diagonals"
	Crossed       School = "crossed"
	Rounded       School = "rounded"
	Soaked        School = "soaked"
	Sprayed       School = "sprayed"
	Soap          School = "soap"
	CleanWater    School = "water"
	NewEach       School = "new"
	UsedAgain     School = "used"
	Taped         School = "taped"
	Untaped       School = "untaped"
	ByRotary      School = "rotary"
	ByOrbital     School = "orbital"
	ByMicrofibre  School = "microfibre"
	MatchedPads   School = "matched"
	OnePad        School = "one"
	HalfPad       School = "half"
	NineTenths    School = "nine_tenths"
	PanelByPanel  School = "panel"
	StageByStage  School = "stage"
	AfterADay     School = "day"
	AfterWeeks    School = "weeks"
	ReadClear     School = "read"
	HalfIsClear   School = "half_clear"
	From1200      School = "p1200"
	From1500      School = "p1500"
	From2000      School = "p2000"
	MildestFirst  School = "mildest"   // squares begin with the mildest and step up
	FineFirst     School = "fine_grit" // or with 3000 and finer, which shows at once what can go
	CoolInSets    School = "sets"
	CoolByHand    School = "by_hand"
	AnyAge        School = "any_age"
	AgedFloor     School = "aged" // an old finish out of doors keeps a higher floor
)

// Question is one that practitioners disagree on, with the schools that answer
// it. Computed says whether the answer changes film, time, material or clarity
// by the model; else it changes how the work is told.
type Question struct {
	Key      string
	Schools  []School // the first is the usual one; "" leaves it to the computation
	Computed bool
}

const open School = ""

// Grains that rules of the trade name, µm.
const (
	d1500 = 12.6
	d2000 = 10.3
)

// Questions lists what house rules answer.
var Questions = []Question{
	{"flatten", []School{open, BlockFirst, MachineOnly}, true},
	{"far", []School{ToGlass, ToTexture}, true},
	{"sand", []School{SandToLevel, NeverForLooks}, true},
	{"begin", []School{open, CoarseFirst, FinestFirst}, true},
	{"refine", []School{open, ToCompound, ToFine, ToAny}, true},
	{"time", []School{ToBury, DoubleEach}, true},
	{"stroke", []School{Diagonals, Crossed, Rounded}, false},
	{"water", []School{Sprayed, Soaked}, true},
	{"lubricant", []School{Soap, CleanWater}, false},
	{"paper", []School{NewEach, UsedAgain}, true},
	{"edges", []School{Taped, Untaped}, true},
	{"polisher", []School{open, ByRotary, ByOrbital, ByMicrofibre}, true},
	{"pads", []School{MatchedPads, OnePad}, true},
	{"overlap", []School{HalfPad, NineTenths}, true},
	{"order", []School{PanelByPanel, StageByStage}, true},
	{"when", []School{AfterWeeks, AfterADay}, true},
	{"safe_film", []School{ReadClear, HalfIsClear}, true},
	{"coarsest", []School{open, From1200, From1500, From2000}, true},
	{"backing", []School{open, AnyBacking}, true},
	{"squares", []School{MildestFirst, FineFirst}, false},
	{"cool", []School{CoolInSets, CoolByHand}, true},
	{"age", []School{AnyAge, AgedFloor}, true},
}

func (r *Rules) field(key string) *School {
	return map[string]*School{
		"flatten": &r.Flatten, "far": &r.Far, "sand": &r.Sand, "begin": &r.Begin, "refine": &r.Refine, "time": &r.Time,
		"stroke": &r.Stroke, "water": &r.Water, "lubricant": &r.Lubricant, "paper": &r.Paper, "edges": &r.Edges,
		"polisher": &r.Polisher, "pads": &r.Pads, "overlap": &r.Overlap, "order": &r.Order, "when": &r.When,
		"safe_film": &r.SafeFilm, "coarsest": &r.Coarsest, "backing": &r.Backing,
		"squares": &r.Squares, "cool": &r.Cool, "age": &r.Age,
	}[key]
}

// Of is the school that the rules follow on a question: the usual one where
// nothing was chosen.
func (r Rules) Of(q Question) School {
	if s := *r.field(q.Key); s != "" {
		return s
	}
	return q.Schools[0]
}

// Follow returns the rules with a school chosen for a question. It fails on a
// question or a school that there is not.
func (r Rules) Follow(question string, s School) (Rules, error) {
	i := slices.IndexFunc(Questions, func(q Question) bool { return q.Key == question })
	if i < 0 {
		return r, fmt.Errorf("there is no house rule %q", question)
	}
	if !slices.Contains(Questions[i].Schools, s) {
		return r, fmt.Errorf("the house rule %q has no school %q", question, s)
	}
	*r.field(question) = s
	if s == Questions[i].Schools[0] {
		*r.field(question) = ""
	}
	return r, nil
}

// machineFrom is the coarsest grain in µm of the school that levels by machine,
// blockTo the finest that the school of the block begins with.
const (
	machineFrom = 12.6
	blockTo     = 12.6
)

// allow says whether an abrasive on a backing may begin a sequence and whether
// it may follow another.
func (r Rules) allow(a shelf.Abrasive, b shelf.Backing) (first, later bool) {
	switch r.Flatten {
	case BlockFirst:
		return b.Flattens() && a.D50 >= blockTo, b.Tool != shelf.Hand
	case MachineOnly:
		return b.Tool != shelf.Hand && a.D50 <= machineFrom, b.Tool != shelf.Hand
	}
	return true, true
}

// polishes says whether a compound is one that the school of polisher uses.
func (r Rules) polishes(c shelf.Compound) bool {
	switch r.Polisher {
	case ByRotary:
		return c.Tool == shelf.Rotary
	case ByOrbital:
		return c.Tool == shelf.Orbital && c.Fibre != shelf.Microfibre
	case ByMicrofibre:
		return c.Tool == shelf.Orbital
	}
	return true
}

// Grains in µm that the schools of refining end with before the pad.
const (
	compoundFrom = 8.4
	fineTo       = 6.0
	refineFrom   = d1500 // a coarser one wants a finer before the pad
)

// hands says whether an abrasive may be the last before a compound.
func (r Rules) hands(a, c *node) bool {
	switch {
	case r.Polisher == ByMicrofibre && c.compound.Fibre != shelf.Microfibre:
		return false
	case r.Refine == ToCompound:
		return a.d50 >= compoundFrom && (c.compound.Fibre != shelf.FoamFace)
	case r.Refine == ToFine:
		return a.d50 <= fineTo
	case r.Refine == open:
		return a.d50 <= refineFrom
	}
	return true
}

// keeps says whether a piece may follow another: along a ladder the backing gets no
// stiffer again, and work goes from the block to the machine and not back.
func (r Rules) keeps(a, b *node) bool {
	return r.Backing == AnyBacking || b.backing.E <= a.backing.E && (a.tool == shelf.Hand || b.tool != shelf.Hand)
}
