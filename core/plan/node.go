package plan

import (
	"math"
	"slices"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// node is one way of cutting: an abrasive on a backing, or a compound on its
// pad, with what a pass of it does to this job.
type node struct {
	abrasive *shelf.Abrasive
	backing  *shelf.Backing
	compound *shelf.Compound

	scratch, rate, d50 float64
	tool               shelf.Tool
	soft               float64     // compliance to the long band, µm
	short              surface.Row // of the short band
	once, pass         float64     // minutes
	wear               float64     // pieces due by a pass, or money a cycle for compounds
	price              float64     // of a piece
	first              bool        // may begin a sequence
	later              bool        // may follow another
}

// roughPeel is the peel grade from which fresh clear may begin with P1200 (judgement).
const roughPeel = 8.0

// start is the coarsest grain (µm) to begin with, 0 for what the shelf allows: by house
// rule, or else P2000 on a factory finish and P1500 on fresh clear of a usual peel.
func (j Job) start() float64 {
	switch {
	case j.Rules.Coarsest == From2000:
		return d2000
	case j.Rules.Coarsest == From1500:
		return d1500
	case j.Rules.Coarsest == From1200 || j.Single:
		return 0
	case j.Factory:
		return d2000
	case j.Grade < roughPeel:
		return d1500
	}
	return 0
}

// nodes lists what the shelf and the house rules allow, coarse to fine, the
// compounds last.
func (j Job) nodes(sqS float64) []node {
	law, hard := j.Shelf.Law, j.hardness()
	coarsest := law.CoarsestClear
	if j.Single {
		coarsest = law.CoarsestSingle
	}
	if start := j.start(); start > 0 {
		coarsest = math.Min(coarsest, start)
	}
	m2 := j.worked() / 1e6
	var out []node
	if j.aim() != PolishOnly || j.Corrects() && j.Rules.Sand != NeverForLooks {
		for bi := range j.Shelf.Backings {
			b := &j.Shelf.Backings[bi]
			once, pass, _ := j.times(b, b.Tool)
			for ai := range j.Shelf.Abrasives {
				a := &j.Shelf.Abrasives[ai]
				if !a.Have || !b.Have || !a.Fits(*b) || a.D50 > coarsest || j.Corrects() && a.D50 > fineTo {
					continue
				}
				n := node{abrasive: a, backing: b, scratch: a.Scratch(*b), rate: law.Rate(*a, *b, hard), d50: a.D50, tool: b.Tool,
					once: once, pass: pass, price: a.Price}
				if n.first, n.later = j.Rules.allow(*a, *b); !n.first && !n.later {
					continue
				}
				n.wear = j.worn(a.D50, b.Area, n.rate)
				long, short := b.Compliance(a.D50)
				n.soft, n.short = long+short, surface.RowFor(short, sqS)
				out = append(out, n)
			}
		}
	}
	slices.SortStableFunc(out, rougher)
	return append(out, j.compounds(sqS, m2)...)
}

func (j Job) compounds(sqS, m2 float64) []node {
	var out []node
	long, short := shelf.PolishPad.Compliance(0)
	row := surface.RowFor(short, sqS)
	for i := range j.Shelf.Compounds {
		c := &j.Shelf.Compounds[i]
		if !c.Have || !j.Rules.polishes(*c) {
			continue
		}
		once, pass, _ := j.times(nil, c.Tool)
		n := node{compound: c, scratch: c.Scratch, rate: c.Rate(j.hardness()) * j.dwell(), tool: c.Tool, soft: long + short, short: row,
			once: once, pass: pass, first: true, later: true}
		n.wear = m2 * c.Cycle()
		out = append(out, n)
	}
	slices.SortStableFunc(out, rougher)
	return out
}

// rougher sorts nodes by falling scratch.
func rougher(a, b node) int { return sign(b.scratch - a.scratch) }

// material is what passes of a node cost beside their time, in money.
func (n *node) material(passes int, r Rules) float64 {
	if n.compound != nil {
		return n.wear * float64(passes)
	}
	return r.pieces(n.wear*float64(passes)) * n.price
}

func (n *node) choice(passes int) Choice {
	if n.compound != nil {
		return Choice{Item: n.compound.Key, Passes: passes}
	}
	return Choice{Item: n.abrasive.Key, Backing: n.backing.Key, Passes: passes}
}
