package surface

import (
	"math"
	"sync"
)

// The scale-free table of a Gaussian band: compliance in units of its rms, from
// softFirst in ratios of softRatio, against mean removal in units of its rms, up
// to removalMost with steps that grow from zero.
const (
	softRows    = 25
	softFirst   = 0.05
	softRatio   = 1.35
	rowPoints   = 65
	removalMost = 8.0
)

// Row is how a band of rms 1 wears on one compliance: the share of its rms that
// is left, by mean removal. All lengths are in units of the rms that it began with.
type Row struct {
	soft float64
	left [rowPoints]float64
}

func removalAt(k int) float64 {
	x := float64(k) / (rowPoints - 1)
	return removalMost * x * x
}

var table = sync.OnceValue(func() *[softRows]Row {
	var t [softRows]Row
	for i := range t {
		t[i] = followRow(softFirst * math.Pow(softRatio, float64(i)))
	}
	return &t
})

// followRow runs the quantile model along one compliance.
func followRow(soft float64) Row {
	r := Row{soft: soft}
	b := NewBand(1, 0)
	sq := b.Sq()
	r.left[0] = 1
	for k := 1; k < rowPoints; k++ {
		b = b.Cut(removalAt(k)-removalAt(k-1), soft)
		r.left[k] = math.Min(b.Sq()/sq, r.left[k-1])
	}
	return r
}

// RowFor is the row for a compliance c and a band of rms sq, both in µm,
// interpolated between the table's rows. It agrees with the quantile model
// within 0.02 of the rms left, and takes microseconds where the model takes
// milliseconds.
func RowFor(c, sq float64) Row {
	t := table()
	g := c / sq
	x := math.Log(g/softFirst) / math.Log(softRatio)
	i := min(max(int(math.Floor(x)), 0), softRows-2)
	f := math.Min(math.Max(x-float64(i), 0), 1)
	r := Row{soft: math.Max(g, softFirst)}
	for k := range rowPoints {
		r.left[k] = t[i].left[k] + f*(t[i+1].left[k]-t[i].left[k])
	}
	return r
}

// At is the share of the rms left after a mean removal in units of the first rms.
// Beyond the table the backing rests on all of it and the rms decays by
// exp(-removal/compliance).
func (r *Row) At(removal float64) float64 {
	if removal >= removalMost {
		return r.left[rowPoints-1] * math.Exp(-(removal-removalMost)/r.soft)
	}
	x := math.Sqrt(math.Max(removal, 0)/removalMost) * (rowPoints - 1)
	i := min(int(x), rowPoints-2)
	lo := removalAt(i)
	return r.left[i] + (removal-lo)/(removalAt(i+1)-lo)*(r.left[i+1]-r.left[i])
}

// Enter is the mean removal at which this row leaves a share of the rms: where a
// surface that came from another backing joins it.
func (r *Row) Enter(left float64) float64 {
	if left >= 1 {
		return 0
	}
	last := r.left[rowPoints-1]
	if left <= last {
		if left <= 0 || last <= 0 {
			return removalMost
		}
		return removalMost + r.soft*math.Log(last/left)
	}
	lo, hi := 0, rowPoints-1 // left[lo] > left >= left[hi]
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; r.left[mid] > left {
			lo = mid
		} else {
			hi = mid
		}
	}
	f := (r.left[lo] - left) / (r.left[lo] - r.left[hi])
	return removalAt(lo) + f*(removalAt(hi)-removalAt(lo))
}

// RemovalToFlat is the mean removal in µm that brings peel of rms sq (µm) to flat
// on a backing with a sheet of that d50 (µm).
func RemovalToFlat(sq float64, b Backing, d50 float64) float64 {
	long, short := b.Compliance(d50)
	r := RowFor(long+short, sq)
	return r.Enter(FlatSq/sq) * sq
}
