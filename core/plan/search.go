package plan

import (
	"math"
	"slices"
	"sort"

	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// label is one way to come to a node: what it cost so far and what it left of
// both bands. prev is the label before it, -1 for none.
type label struct {
	film, minutes, money float64
	removed              float64 // µm, mean
	long                 surface.Coarse
	sq                   float64 // µm, rms of the long band
	short                float64 // share of the short band's rms where it was touched
	step                 float64 // film of the last step, µm
	bin                  float64 // of texture
	node, prev           int32
	passes, steps        int32
}

// search holds the labels of one job.
type search struct {
	job     Job
	target  target
	sq, sqS float64
	nodes   []node
	labels  []label
	at      [][]int32 // by node
	finals  []int32   // that may be left as they are
	bound   bound
	flat    bool    // all of the texture goes
	around  float64 // minutes before the first step and after the last
}

// bound says how freely labels are held to be alike.
type bound int

const (
	slack      bound = iota // film 1 % + 0.05 µm, time 2 %, money 5 %
	exact                   // no label goes that could end in a better sequence
	exhaustive              // none goes at all
)

// Slack of the dominance, and the width of its bins of texture in ln.
const (
	filmShare, filmSlack = 1.01, 0.05
	timeShare            = 1.02
	moneyShare           = 1.05
	texBin               = 0.2
	// MostFilm is more than any sequence may ever take, µm.
	MostFilm = 80.0
)

// run looks at all sensible sequences of a job.
func run(j Job, how bound) *search {
	s := &search{job: j, target: j.target(), bound: how, flat: j.aim() == Flat}
	s.sq, s.sqS = j.rms()
	before, after, _ := j.around()
	s.around = before + after
	s.nodes = j.nodes(s.sqS)
	s.at = make([][]int32, len(s.nodes))
	s.begin()
	for i := range s.nodes {
		s.prune(i)
		for k := i + 1; k < len(s.nodes); k++ {
			if !s.follows(i, k) {
				continue
			}
			need := s.buries(s.nodes[i].scratch, k)
			if s.nodes[k].compound != nil && need > int(j.Shelf.Law.CyclesMost) {
				continue
			}
			for _, l := range s.at[i] {
				s.extend(l, k, s.double(l, k, need))
			}
		}
	}
	if how == slack {
		s.thin()
	}
	return s
}

// begin makes the first labels: the levelling passes of every start, the filing
// of nibs, or for a polish the compounds.
func (s *search) begin() {
	law := s.job.Shelf.Law
	fresh := label{long: surface.CoarseOf(s.sq), sq: s.sq, short: 1, node: -1, prev: -1, minutes: s.around}
	for i := range s.nodes {
		n := &s.nodes[i]
		if !n.first {
			continue
		}
		switch aim := s.job.aim(); {
		case aim == NibsOnly:
			if n.compound == nil && n.tool == shelf.Hand && n.d50 <= fileCoarsest {
				s.file(i, fresh)
			}
		case s.job.Corrects():
			most := int(law.LevelMost)
			if n.compound != nil {
				most = int(law.CyclesMost)
			}
			for p := 1; p <= most; p++ {
				s.put(s.step(fresh, i, p))
			}
		case n.compound != nil:
			if aim == PolishOnly && s.job.Scratch <= law.Reach*n.scratch*(1+1e-9) {
				if need := s.buries(s.job.Scratch, i); need <= int(law.CyclesMost) {
					s.put(s.step(fresh, i, need))
				}
			}
		case aim != PolishOnly:
			from := fresh
			s.tries(&from, n)
			for p := 1; p <= int(law.LevelMost); p++ {
				l := s.step(from, i, p)
				if aim == Scratches && l.step < s.job.Scratch {
					continue
				}
				if s.job.Rules.Begin == CoarseFirst && aim.Levels() && l.sq > s.target.high {
					continue
				}
				s.put(l)
			}
		}
	}
}

// fileCoarsest is the coarsest grain in µm that nibs are filed with (judgement).
const fileCoarsest = 12.6

// file is nibs filed one by one with a small block: what stays of them stands up,
// and the texture beside them is left.
func (s *search) file(i int, fresh label) {
	law := s.job.Shelf.Law
	l := fresh
	l.film, l.step = law.NibRest, law.NibRest
	l.minutes += s.job.filing()
	l.money = s.nodes[i].price + law.Labour*l.minutes/60
	l.node, l.passes, l.steps = int32(i), 1, 1
	s.put(l)
}

// triedPasses is how often a grit is led over a place to see whether it is
// enough, and triedFinest the grain in µm that such a try begins with.
const (
	triedPasses = 2
	triedFinest = 6.0
)

// tries adds what it costs to have tried every finer grit first, from 3000 on, on
// one section.
func (s *search) tries(l *label, n *node) {
	if s.job.Rules.Begin != FinestFirst {
		return
	}
	seen := map[float64]bool{}
	for i := range s.nodes {
		t := &s.nodes[i]
		if t.compound != nil || t.d50 >= n.d50 || t.d50 < triedFinest || seen[t.d50] {
			continue
		}
		seen[t.d50] = true
		l.film += triedPasses * t.rate
		l.minutes += s.job.setUp() + s.job.Shelf.Law.Move/60 + triedPasses*t.pass/float64(len(s.job.Sections))
	}
}

// follows says whether node k may come after node i.
func (s *search) follows(i, k int) bool {
	a, b, law := &s.nodes[i], &s.nodes[k], &s.job.Shelf.Law
	const near = 1e-9
	switch {
	case !b.later || b.scratch >= a.scratch:
		return false
	case b.compound == nil:
		if a.compound != nil {
			return false
		}
		if !s.job.Rules.keeps(a, b) {
			return false
		}
		r := a.d50 / b.d50
		return r >= law.StepLeast-near && r <= law.StepMost+near && a.scratch/b.scratch <= law.ScratchMost+near
	case a.compound == nil && !s.job.Rules.hands(a, b):
		return false
	}
	return a.scratch <= law.Reach*b.scratch*(1+near)
}

// buries is how many passes of node k it takes to be rid of a scratch.
func (s *search) buries(old float64, k int) int {
	return s.job.buries(old, s.nodes[k].scratch, s.nodes[k].rate)
}

// double is how many passes node k gets after a label by the house rule on time:
// twice the time of the grit before it, or what burying needs.
func (s *search) double(l int32, k, need int) int {
	if s.job.Rules.Time != DoubleEach || s.nodes[k].compound != nil {
		return need
	}
	last := s.labels[l]
	n := 2 * float64(last.passes) * s.nodes[last.node].pass / s.nodes[k].pass
	return max(need, int(math.Ceil(n-1e-9)))
}

// step is a label after passes of node i.
func (s *search) step(from label, i, passes int) label {
	n := &s.nodes[i]
	r := s.job.Takes(from.removed, n.rate, passes)
	short := n.short.At(n.short.Enter(from.short) + r/s.sqS)
	l := label{long: from.long.Cut(r, n.soft), short: math.Min(short, from.short), prev: -1,
		node: int32(i), passes: int32(passes), steps: from.steps + 1}
	l.sq = l.long.Sq()
	l.step = math.Max(r, from.long.Crest()-l.long.Crest())
	minutes := n.once + n.pass*float64(passes)
	if n.compound != nil && from.node >= 0 && s.nodes[from.node].compound != nil && s.job.Rules.Pads == OnePad {
		minutes += s.job.Shelf.Law.PadChange / 60
	}
	l.film, l.minutes, l.removed = from.film+l.step, from.minutes+minutes, from.removed+r
	l.money = from.money + n.material(passes, s.job.Rules) + s.job.Shelf.Law.Labour*minutes/60
	if from.node < 0 {
		l.money += s.job.Shelf.Law.Labour*from.minutes/60 + s.job.Shelf.Law.Tape*s.job.Tape()
	}
	return l
}

func (s *search) extend(from int32, k, passes int) {
	l := s.step(s.labels[from], k, passes)
	l.prev = from
	s.put(l)
}

// put keeps a label, and marks it final where the finish may be left so.
func (s *search) put(l label) {
	if l.film > MostFilm || l.sq < floorSlack*s.target.low {
		return
	}
	l.bin = s.texture(l.sq)
	id := int32(len(s.labels))
	s.labels = append(s.labels, l)
	s.at[l.node] = append(s.at[l.node], id)
	if s.target.fine(l.sq, s.nodes[l.node].scratch) {
		s.finals = append(s.finals, id)
	}
}

// texture is the bin of texture that an rms in µm falls in. Where all of it goes,
// what is flat enough is all one.
func (s *search) texture(sq float64) float64 {
	if s.flat && sq <= s.target.high {
		sq = s.target.high / 2
	}
	return math.Floor(math.Log(math.Max(sq, 1e-6)) / texBin)
}

// shortSq is the rms of the short band of a label, µm.
func (s *search) shortSq(l *label) float64 {
	whole := l.long.Untouched()
	return s.sqS * math.Sqrt(whole+(1-whole)*l.short*l.short)
}

func (s *search) clarity(l *label) float64 {
	last, showing := 0.0, 0.0
	if l.prev >= 0 {
		last = s.nodes[s.labels[l.prev].node].scratch
		showing = surface.StillShowing(l.step+surface.Void*(last-s.nodes[l.node].scratch), last)
	}
	return surface.Clarity(l.sq, s.shortSq(l), surface.Gloss(s.nodes[l.node].scratch, last, showing, 20))
}

// prune drops the labels of a node that another one makes needless.
func (s *search) prune(i int) {
	if s.bound == exhaustive || len(s.at[i]) < 2 {
		return
	}
	s.at[i] = s.undominated(s.at[i])
}

func (s *search) undominated(ids []int32) []int32 {
	sort.Slice(ids, func(a, b int) bool {
		x, y := &s.labels[ids[a]], &s.labels[ids[b]]
		if x.film != y.film {
			return x.film < y.film
		}
		if x.minutes != y.minutes {
			return x.minutes < y.minutes
		}
		return x.steps < y.steps
	})
	kept := ids[:0]
	for _, id := range ids {
		l := &s.labels[id]
		if !slices.ContainsFunc(kept, func(k int32) bool { return s.dominates(&s.labels[k], l) }) {
			kept = append(kept, id)
		}
	}
	return kept
}

// unseenPebble is an rms of the short band, µm, that moves clarity by less than
// a hundredth.
const unseenPebble = 0.003

// dominates says whether a makes b needless at the same node: it costs no more,
// and whatever follows ends no worse. Where all of the texture goes a flatter
// label ends no worse; elsewhere only one of the same texture does.
func (s *search) dominates(a, b *label) bool {
	if a.minutes > b.minutes*timeShare { // most go here
		return false
	}
	if s.job.Corrects() && s.gone(a) < s.gone(b)-s.unseen() {
		return false
	}
	if s.bound == exact {
		if a.film > b.film || a.minutes > b.minutes || a.money > b.money || s.shortSq(a) > math.Max(s.shortSq(b), unseenPebble) {
			return false
		}
		return a.long == b.long || s.flat && a.sq <= b.sq && a.long.Within(&b.long)
	}
	if a.film > b.film*filmShare+filmSlack || a.money > b.money*moneyShare {
		return false
	}
	return a.bin == b.bin || s.flat && a.bin < b.bin
}

// unseenShare is a share of swirls that nobody tells apart.
const unseenShare = 0.01

func (s *search) unseen() float64 {
	if s.bound == exact {
		return 0
	}
	return unseenShare
}

// gone is the share of the swirls that is gone with a label.
func (s *search) gone(l *label) float64 { return s.job.Condition.Gone(l.removed) }

// thin leaves one of the finished sequences that nobody could tell apart on a
// picture: the one that takes least, of those that end with what was asked for
// where there is one.
func (s *search) thin() {
	const filmCell, timeCell = 0.15, 1.0 // µm, minutes
	type cell struct {
		film, minutes, bin, gone float64
		met                      bool
	}
	of := func(l *label) cell {
		c := cell{math.Floor(l.film / filmCell), math.Floor(l.minutes / timeCell), l.bin, 0, s.met(l)}
		if s.job.Corrects() {
			c.gone = math.Floor(s.gone(l) / (2 * unseenShare))
		}
		return c
	}
	best := map[cell]int32{}
	for _, id := range s.finals {
		l := &s.labels[id]
		c := of(l)
		k, taken := best[c]
		if b := &s.labels[k]; !taken || l.film/b.film+l.minutes/b.minutes < 2 {
			best[c] = id
		}
	}
	s.finals = slices.DeleteFunc(s.finals, func(id int32) bool {
		return best[of(&s.labels[id])] != id
	})
}

// met says whether a label ends with what was asked for.
func (s *search) met(l *label) bool {
	return s.job.enough(l.removed) && s.finished(l)
}

// finished says whether a label ends with the texture and the finish that are wanted,
// whatever swirls it leaves.
func (s *search) finished(l *label) bool {
	return s.target.met(l.sq, s.nodes[l.node].scratch, s.clarity(l))
}

// choices is the sequence that led to a label.
func (s *search) choices(id int32) []Choice {
	var out []Choice
	for ; id >= 0; id = s.labels[id].prev {
		l := &s.labels[id]
		out = append(out, s.nodes[l.node].choice(int(l.passes)))
	}
	slices.Reverse(out)
	return out
}
