package film

import (
	"slices"
	"strconv"

	"waxplanus/core/clearcoat"
)

// HelpCode names something that could be found out about a clear.
type HelpCode string

// What could be found out: answers to questions, and readings of another kind.
const (
	HelpUnder   HelpCode = "under"   // what lies under the new paint
	HelpCoats   HelpCode = "coats"   // how many coats of clear
	HelpCar     HelpCode = "car"     // one of the car's factory panels, read
	HelpBare    HelpCode = "bare"    // a place without clear on the same part, read
	HelpLayers  HelpCode = "layers"  // a gauge that resolves layers
	HelpWitness HelpCode = "witness" // sanded to the colour where trim covers it, and read
)

// Doubts of what is read so (µm, judgement).
const (
	layersDoubt  = 3.0
	witnessDoubt = 2.0
)

// Help is something that could be found out, with what it would likely make of a spend:
// Answers one by one where there are a few, Headroom (µm) on the mean, and the chances that
// the spend were then open, and that it were open or tight.
type Help struct {
	Code        HelpCode
	Answers     []HelpAnswer
	Headroom    float64
	Opens, Fits float64
}

// HelpAnswer is one answer with the verdict that it would bring.
type HelpAnswer struct {
	Answer string
	Verdict
}

// drawn are the equally likely parts that a clear, or a panel's film, is drawn by.
const drawn = 9

// Helps lists what could be found out about the clear under a section, what does most for
// the spend first. What was measured of the clear itself leaves nothing to ask.
func (s *Study) Helps(sec SectionFilm, spend Spend, spots bool) []Help {
	h, clear := s.Facts.History, s.Clear.Dist
	if s.measured || !clear.Known() || sec.Least.place != nil {
		return nil
	}
	total := Estimate{Mean: s.Map.Level().Mean}
	var out []Help
	add := func(code HelpCode, told []clearcoat.Dist, names ...string) {
		help := Help{Code: code}
		for i, d := range told {
			l := sec.Least
			l.clear = d
			v := sec.Policy.Judge(l, sec.Film.Mean, spend, spots)
			if names != nil {
				help.Answers = append(help.Answers, HelpAnswer{names[i], v})
			}
			n := float64(len(told))
			help.Headroom += sec.Policy.Headroom(l) / n
			if v.State == Open {
				help.Opens += 1 / n
			}
			if v.State != Shut {
				help.Fits += 1 / n
			}
		}
		out = append(out, help)
	}
	refinish := h.Finish == Refinished || h.Finish == RefinishedOld
	untold := h.Under != clearcoat.UnderNew && h.Under != clearcoat.UnderOver
	if refinish && untold {
		on, over := h, h
		on.Under, over.Under = clearcoat.UnderNew, clearcoat.UnderOver
		add(HelpUnder, []clearcoat.Dist{on.Dist(total), over.Dist(total)}, string(clearcoat.UnderNew), string(clearcoat.UnderOver))
	}
	if refinish && (h.Finish == RefinishedOld || h.Coats == 0) {
		var told []clearcoat.Dist
		var names []string
		for n := 2; n <= 3; n++ {
			of := h
			of.Finish, of.Coats = Refinished, n
			told, names = append(told, of.Dist(total)), append(names, strconv.Itoa(n))
		}
		add(HelpCoats, told, names...)
	}
	if refinish && h.Car == 0 && h.Under != clearcoat.UnderNew {
		var told []clearcoat.Dist
		for i := range drawn {
			read := h
			read.Car = clearcoat.UsualCar + clearcoat.UsualCarSD*normal.Quantile((float64(i)+0.5)/drawn)
			told = append(told, read.Dist(total))
		}
		add(HelpCar, told)
	}
	if h.Finish == SingleStaged {
		return out
	}
	for _, m := range []struct {
		code  HelpCode
		doubt float64
	}{{HelpBare, bareDoubt}, {HelpLayers, layersDoubt}, {HelpWitness, witnessDoubt}} {
		var told []clearcoat.Dist
		for i := range drawn {
			told = append(told, h.Dist(total, Estimate{clear.Quantile((float64(i) + 0.5) / drawn), m.doubt}))
		}
		add(m.code, told)
	}
	slices.SortStableFunc(out, func(a, b Help) int { return compareHelp(b, a) })
	return out
}

// compareHelp holds two helps against each other: by the chance that the spend then fits,
// that it is open, and by the headroom.
func compareHelp(a, b Help) int {
	for _, d := range []float64{a.Fits - b.Fits, a.Opens - b.Opens, a.Headroom - b.Headroom} {
		const same = 0.01
		if d > same {
			return 1
		} else if d < -same {
			return -1
		}
	}
	return 0
}

// Raised is the clear with one more coat of so many µm (with its doubt) on it.
func (l Least) Raised(coat Estimate) Least {
	l.clear = l.clear.Plus(clearcoat.Value(coat))
	return l
}
