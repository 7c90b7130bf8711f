package price

import (
	"math"
	"math/rand/v2"
	"testing"
)

func TestWhatWasSeenCountsAndTheRestFollowsItsPace(t *testing.T) {
	all, each := WentOf([]Piece{{"hand", 60, 1, 60, 90}, {"machine", 120, 1, 120, 100}})
	if all.Known != 1 || math.Abs(all.Took.Likely-190.0/60) > 1e-9 || all.Left != (Hours{}) || all.End != all.Took || all.Took.High > 1.1*all.Took.Likely {
		t.Errorf("all was seen: %+v", all)
	}
	if len(each) != 2 || math.Abs(each[0].Took.Likely-1.5) > 1e-9 || math.Abs(each[1].Took.Likely-100.0/60) > 1e-9 {
		t.Errorf("each of it: %+v", each)
	}
	none, _ := WentOf([]Piece{{"hand", 60, 1, 0, 0}})
	if none.Known != 0 || math.Abs(none.Took.Likely-1) > 1e-9 || none.Took.High < 1.4 {
		t.Errorf("nothing was seen: %+v", none)
	}
	var pieces []Piece
	for range 20 {
		pieces = append(pieces, Piece{"hand", 30, 0.5, 15, 22.5})
	}
	half, _ := WentOf(append(pieces, Piece{"around", 60, 0, 0, 0}))
	if math.Abs(half.Took.Likely-7.5) > 1e-9 || math.Abs(half.Left.Likely-(7.5+1)) > 0.4 || math.Abs(half.End.Likely-half.Took.Likely-half.Left.Likely) > 1e-9 {
		t.Errorf("half as long again: %+v", half)
	}
	if math.Abs(half.Planned-11) > 1e-9 || math.Abs(half.Done-5) > 1e-9 || half.Known != 1 {
		t.Errorf("as planned: %+v", half)
	}
	if empty, _ := WentOf(nil); empty != (Went{}) {
		t.Errorf("no work took %+v", empty)
	}
}

// The range holds 8 of 10 jobs whose paces are as widely spread as the prior says.
func TestTheRangeOfWhatIsLeftHoldsEightOfTen(t *testing.T) {
	r := rand.New(rand.NewPCG(31, 7))
	in, n := 0, 3000
	for range n {
		pace := math.Exp(paceSpread * r.NormFloat64())
		var pieces []Piece
		truth := 0.0
		for i := range 12 {
			p := Piece{Group: "hand", Planned: 20 + 40*r.Float64()}
			took := p.Planned * pace * math.Exp(pieceSpread*r.NormFloat64())
			if truth += took; i < 5 {
				p.Done, p.SeenOf, p.Seen = 1, p.Planned, took
			}
			pieces = append(pieces, p)
		}
		all, _ := WentOf(pieces)
		if end := all.End; truth/60 >= end.Low && truth/60 <= end.High {
			in++
		}
	}
	if share := float64(in) / float64(n); share < 0.75 || share > 0.88 {
		t.Errorf("%.3f of the jobs end within their range", share)
	}
}

func TestHoursAreHeldAgainstWhatWasPromised(t *testing.T) {
	promised := Hours{10, 12, 15}
	for want, h := range map[Against]Hours{
		Within: {9, 14, 20}, More: {13, 16, 19}, MoreSure: {15.5, 17, 19}, Less: {8, 9.5, 11}, LessSure: {5, 7, 9.9},
	} {
		if got := h.Against(promised); got != want {
			t.Errorf("%+v is %s, want %s", h, got, want)
		}
	}
}
