package film

import (
	"math"

	"waxplanus/core/clearcoat"
)

// Source is one way of knowing the clear of a panel: what it is, and its value
// in µm far from edges and creases with its doubt.
type Source struct {
	Kind SourceKind
	Estimate
}

// SourceKind names where a value of the clear comes from.
type SourceKind string

// The sources of the clear.
const (
	FromBefore SourceKind = "before_clear" // read before the clear went on
	FromCoats  SourceKind = "coats"        // coats times the usual film a coat
	FromUnder  SourceKind = "under"        // the total less what lies under the clear
	FromShare  SourceKind = "share"        // a share of the total, factory finish
	FromSingle SourceKind = "single_stage" // the colour coat itself
	// FromDirect is a gauge that resolves layers, FromNeighbours the panels beside
	// it that were sprayed together.
	FromDirect     SourceKind = "direct"
	FromBare       SourceKind = "bare" // the total less a place without clear on the same part
	FromNeighbours SourceKind = "neighbours"
)

// CoatFilm is the dry film of one coat of clear in µm, and CoatSpread its doubt as a
// share from panel to panel (judgement).
const (
	CoatFilm   = clearcoat.UsualCoat
	CoatSpread = clearcoat.PanelSpread
)

// FactoryShare is the share of a factory finish that is clear, and its doubt.
var FactoryShare = Estimate{0.42, 0.06}

// HalfShare is the clear's share of a factory finish where the house counts half of it.
const HalfShare = 0.5

// Coats is the clear of n coats of dry µm each, 0 for the usual film a coat.
func Coats(n int, dry float64) Source {
	if dry <= 0 {
		dry = CoatFilm
	}
	m := dry * float64(n)
	return Source{FromCoats, Estimate{m, CoatSpread * m}}
}

// Direct is the clear as a gauge that resolves layers read it on so many spots,
// their mean in µm. Such a gauge is off by 2 µm or 3 % as a whole, and by as much
// again at each spot (judgement).
func Direct(mean float64, spots int) Source {
	off := math.Max(2, 0.03*mean)
	return Source{FromDirect, Estimate{mean, off * math.Sqrt(1+1/float64(max(spots, 1)))}}
}

// Share is the clear as a share of a factory finish of that total (µm).
func Share(total float64, share Estimate) Source {
	return Source{FromShare, Estimate{share.Mean * total, share.SD * total}}
}

// SingleStage is the colour coat of a single stage finish of that total (µm).
func SingleStage(total float64) Source {
	m := 0.65 * total
	return Source{FromSingle, Estimate{m, 0.15 * m}}
}

// Clear is the clear of a panel from all sources: its value far from edges and creases
// with its doubt, the whole distribution that this is of, and what each source weighs.
type Clear struct {
	Estimate
	Dist    clearcoat.Dist
	Sources []Source
	Shares  []float64 // of each source, sum 1
	Agree   bool      // the sources differ by no more than their doubts allow
}

// Combine weighs sources by inverse variance. Where they disagree by more than
// their doubts (χ² over its degrees of freedom above 1) the doubt grows by the
// root, so that sources which contradict each other do not look sure. It
// returns false without a source.
func Combine(sources ...Source) (Clear, bool) {
	if len(sources) == 0 {
		return Clear{}, false
	}
	c := Clear{Sources: sources, Shares: make([]float64, len(sources)), Agree: true}
	sum := 0.0
	for _, s := range sources {
		sum += 1 / (s.SD * s.SD)
	}
	for i, s := range sources {
		w := 1 / (s.SD * s.SD) / sum
		c.Shares[i] = w
		c.Mean += w * s.Mean
	}
	c.SD = math.Sqrt(1 / sum)
	if n := len(sources); n > 1 {
		chi := 0.0
		for _, s := range sources {
			d := (s.Mean - c.Mean) / s.SD
			chi += d * d
		}
		if r := chi / float64(n-1); r > 1 {
			c.SD *= math.Sqrt(r)
			c.Agree = false
		}
	}
	return c, true
}

// Decides is the source that weighs most, and what it weighs among several: 0 for the
// only one. It is nil where the clear has no source.
func (c Clear) Decides() (*Source, float64) {
	if len(c.Sources) == 0 {
		return nil, 0
	}
	most := 0
	for i, share := range c.Shares {
		if share > c.Shares[most] {
			most = i
		}
	}
	if len(c.Sources) == 1 {
		return &c.Sources[0], 0
	}
	return &c.Sources[most], c.Shares[most]
}
