package film

import (
	"math"
	"testing"
	"time"

	"gonum.org/v1/gonum/stat"

	"waxplanus/core/flatlay"
)

// What a reading may still change follows from how far the section is from a
// decision: nothing where film is ample or hopeless, something in between.
func TestAheadSaysWhereReadingDecides(t *testing.T) {
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 4}}, grid(0, 2)[:4])
	changes := map[string]float64{}
	for name, spend := range map[string]float64{"nothing to spend": 0.3, "more than there is": 90} {
		for _, sec := range s.Sections {
			a := sec.Ahead(Spend{Estimate: Estimate{Mean: spend}}, false)
			if a.Settle != 0 || a.Change > faintChance {
				t.Errorf("%s, %s: %+v, want nothing to settle", name, sec.Name, a)
			}
		}
	}
	sec := s.Sections[0]
	for spend := 0.5; spend < 40; spend += 0.5 {
		a := sec.Ahead(Spend{Estimate: Estimate{Mean: spend}}, false)
		changes[string(a.Now)] = math.Max(changes[string(a.Now)], a.Change)
		if a.Settle > 0 && a.To == a.Now {
			t.Errorf("spend %v: %+v settles into the state it is in", spend, a)
		}
	}
	if changes[string(Tight)] < 0.2 {
		t.Errorf("no spend leaves a tight section that a reading may change: %v", changes)
	}
}

// A draw's update must be what a real reading does: after reading the next spots
// the spread of the least film shrinks as the outlook said on the mean.
func TestAheadExpectsWhatReadingDoes(t *testing.T) {
	places := grid(0, 3)[:3]
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 4}}, places)
	sec := s.Sections[0]
	said := 0.0
	for _, m := range sec.ahead.updates(3) {
		said += spreadOf(m) / aheadTruths
	}
	before := spreadOf(sec.ahead.least)
	for _, q := range s.Next[:3] {
		e := s.At(q.X, q.Y)
		places = append(places, Place{X: q.X, Y: q.Y, Film: e.Mean})
	}
	after := spreadOf(study(t, s.Facts, places).Sections[0].ahead.least)
	if said >= before || math.Abs(said-after) > 0.25*before {
		t.Errorf("spread of the least film %.2f, after three readings %.2f; said to become %.2f", before, after, said)
	}
}

func spreadOf(v []float64) float64 { return math.Sqrt(stat.PopVariance(v, nil)) }

func TestZoneHasItsOwnClear(t *testing.T) {
	blend := Zone{Outline: []flatlay.Point{{X: 0, Y: 0}, {X: 450, Y: 0}, {X: 450, Y: 600}, {X: 0, Y: 600}}, History: History{Finish: Refinished, Coats: 2}}
	var places []Place
	for i, q := range []flatlay.Point{{X: 150, Y: 150}, {X: 150, Y: 450}, {X: 350, Y: 300}, {X: 550, Y: 300}, {X: 750, Y: 150}, {X: 750, Y: 450}} {
		um := 110.0
		if q.X < 450 {
			um = 165
		}
		places = append(places, Place{X: q.X, Y: q.Y, Film: um + float64(i%2)})
	}
	facts := Facts{History: History{Finish: FactoryFinish}, Zones: []Zone{blend}}
	s := study(t, facts, places)
	in, out := flatlay.Point{X: 225, Y: 300}, flatlay.Point{X: 675, Y: 300}
	for _, c := range []struct {
		at    flatlay.Point
		film  float64
		floor float64
		clear float64
	}{{in, 165, 40, 55}, {out, 110, 25, 0.42 * 110}} {
		e := s.At(c.at.X, c.at.Y)
		if math.Abs(e.Mean-c.film) > 8 || s.PolicyAt(c.at).Floor != c.floor || math.Abs(s.ClearAt(c.at, e).Mean-c.clear) > 4 {
			t.Errorf("at %v film %v, floor %v, clear %v; want about %v, %v, %v", c.at, e, s.PolicyAt(c.at).Floor, s.ClearAt(c.at, e), c.film, c.floor, c.clear)
		}
	}
	alone := study(t, Facts{History: facts.History}, places)
	for i, sec := range s.Sections {
		if mid := sec.Cells[0].X; mid > 460 && sec.Policy.Floor != 25 || mid < 400 && sec.Policy.Floor != 40 {
			t.Errorf("%s has floor %v", sec.Name, sec.Policy.Floor)
		}
		if sec.Cells[0].X > 460 && math.Abs(sec.Least.Estimate().Mean-alone.Sections[i].Least.Estimate().Mean) > 8 {
			t.Errorf("%s beside the zone: clear %v, %v without the zone", sec.Name, sec.Least.Estimate(), alone.Sections[i].Least.Estimate())
		}
	}
}

func TestPlasticBorrowsWithDoubleDoubt(t *testing.T) {
	from := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 5))
	b, ok := Borrow([]*Study{from})
	if !ok || b.Clear.SD != 2*from.Clear.SD || b.Clear.Mean != from.Clear.Mean {
		t.Fatalf("borrowed %+v of clear %+v", b, from.Clear)
	}
	s := study(t, Facts{History: from.Facts.History, Borrowed: &b}, nil)
	if len(s.Next) != 0 {
		t.Error("it asks for a reading where no gauge reads")
	}
	if math.Abs(s.Mean.Mean-from.Mean.Mean) > 3 || s.Mean.SD < 1.5*from.Mean.SD {
		t.Errorf("film %v borrowed from %v", s.Mean, from.Mean)
	}
	for i, sec := range s.Sections {
		if a, b := s.Policy.Headroom(sec.Least), from.Policy.Headroom(from.Sections[i].Least); a >= b {
			t.Errorf("%s: borrowed headroom %.1f, the read panel has %.1f", sec.Name, a, b)
		}
	}
	if _, ok := Borrow(nil); ok {
		t.Error("borrowed from nobody")
	}
	apart, _ := Borrow([]*Study{from, study(t, from.Facts, grid(40, 5))})
	if apart.Total.SD < 40 || apart.Total.SD <= b.Total.SD {
		t.Errorf("neighbours 40 µm apart give %v", apart.Total)
	}
}

func TestOddReadings(t *testing.T) {
	s := study(t, Facts{History: History{Finish: Refinished, Coats: 3}}, grid(0, 1))
	at := flatlay.Point{X: 300, Y: 300}
	for _, c := range []struct {
		um    float64
		code  OddCode
		meant float64
	}{
		{140, "", 0}, {118, "", 0}, {165, "", 0},
		{5.5, OddMil, 139.7}, {141 * 25.4, OddMicron, 141}, {1410, OddDigit, 141}, {14, OddDigit, 140},
		{410, OddDigit, 140}, {260, OddHigh, 0}, {60, OddLow, 0},
	} {
		odd, is := s.OddAt(at, c.um, false)
		if is != (c.code != "") || odd.Code != c.code || math.Abs(odd.Meant-c.meant) > 0.5 {
			if c.um != 410 { // 140 and 401 are both a swap away; either is told
				t.Errorf("%v µm among 140: %v %+v, want %v %v", c.um, is, odd, c.code, c.meant)
			}
		}
	}
	if _, is := OddAmong(s.readings[:1], s.readings[0].Spot, 900); is {
		t.Error("one reading tells what is odd")
	}
}

// A slip upwards promises film that is not there; it must not open anything.
// One far too low counts in full.
func TestSlipUpwardsOpensNothing(t *testing.T) {
	facts := Facts{History: History{Finish: RefinishedOld}}
	places := grid(0, 1)
	clean := study(t, facts, places)
	with := func(um float64, shots int) *Study {
		more := append([]Place{}, places...)
		for range shots {
			more = append(more, Place{X: 300, Y: 300, Film: um})
		}
		return study(t, facts, more)
	}
	high, sure, low := with(1410, 1), with(300, 2), with(60, 1)
	for i, sec := range clean.Sections {
		room := clean.Policy.Headroom(sec.Least)
		if got := high.Policy.Headroom(high.Sections[i].Least); got > room+1 {
			t.Errorf("%s: headroom %.1f becomes %.1f with a slip to 1410", sec.Name, room, got)
		}
	}
	if a, b := clean.Sections[0], low.Sections[0]; b.Bound > a.Bound-10 {
		t.Errorf("%s: bound %.1f becomes %.1f with a reading of 60 in it", a.Name, a.Bound, b.Bound)
	}
	if got := sure.Mean.Mean; got < clean.Mean.Mean+5 {
		t.Errorf("film %.1f becomes %.1f with 300 read twice", clean.Mean.Mean, got)
	}
}

// No single slip opens what the other readings would not, however small it is, among the
// readings of the whole film or among those from before the clear.
func TestNoSingleReadingOpensAPanel(t *testing.T) {
	facts := Facts{History: History{Finish: Refinished, Coats: 2}, Before: []Place{{X: 200, Y: 200, Film: 101}, {X: 600, Y: 200, Film: 100}, {X: 400, Y: 400, Film: 102}, {X: 700, Y: 450, Film: 101}}}
	at := func(fifth float64) []Place {
		var out []Place
		for i, q := range []flatlay.Point{{X: 150, Y: 150}, {X: 450, Y: 150}, {X: 750, Y: 150}, {X: 300, Y: 450}, {X: 600, Y: 450}} {
			out = append(out, Place{X: q.X, Y: q.Y, Film: []float64{152, 151, 153, 152, fifth}[i]})
		}
		return out
	}
	room := func(s *Study) float64 {
		most := 0.0
		for _, sec := range s.Sections {
			most = math.Max(most, sec.Policy.Headroom(sec.Least))
		}
		return most
	}
	fair := room(study(t, facts, at(152)))
	for fifth := 155.0; fifth <= 400; fifth += 15 {
		if got := room(study(t, facts, at(fifth))); got > fair+2.5 {
			t.Errorf("a fifth reading of %.0f makes the headroom %.1f, without it %.1f", fifth, got, fair)
		}
	}
	for slip := 60.0; slip < 100; slip += 10 {
		with := facts
		with.Before = append([]Place{}, facts.Before...)
		with.Before[3].Film = slip
		if got := room(study(t, with, at(152))); got > fair+2.5 {
			t.Errorf("%.0f before the clear makes the headroom %.1f, without it %.1f", slip, got, fair)
		}
	}
}

func TestTwoReadingsThatDifferAskForAThird(t *testing.T) {
	facts := Facts{History: History{Finish: Refinished, Coats: 3}}
	at := Place{X: 300, Y: 300, Film: 150}
	for _, c := range []struct {
		films    []float64
		disputed int
	}{{[]float64{150}, 0}, {[]float64{150, 153}, 0}, {[]float64{150, 162}, 1}, {[]float64{150, 162, 151}, 0}} {
		places := grid(0, 1)
		for _, um := range c.films {
			at.Film = um
			places = append(places, at)
		}
		if s := study(t, facts, places); len(s.Disputed) != c.disputed {
			t.Errorf("%v at one place: disputed %v", c.films, s.Disputed)
		}
	}
}

func TestGaugeStudy(t *testing.T) {
	steady := StudyGauge([]float64{150, 150.2, 149.9, 150.1, 150, 150.1, 149.9, 150})
	loose := StudyGauge([]float64{150, 156, 147, 152, 145, 155, 149, 151})
	if !steady.Enough || steady.A.Mean >= UsualGauge.A || loose.A.Mean <= 2*UsualGauge.A {
		t.Errorf("a steady gauge %+v, a loose one %+v", steady, loose)
	}
	if few := StudyGauge([]float64{150, 151}); few.Enough || few.A.SD <= steady.A.SD*few.A.Mean/steady.A.Mean {
		t.Errorf("two shots %+v", few)
	}
	if none := StudyGauge(nil); none.A.Mean != UsualGauge.A || none.Enough {
		t.Errorf("no shot %+v", none)
	}
	for _, c := range []struct {
		check GaugeCheck
		want  CheckFault
	}{
		{GaugeCheck{Zero: 0.4}, CheckFine}, {GaugeCheck{Zero: -4}, CheckZero},
		{GaugeCheck{Foil: 125, Read: 127}, CheckFine}, {GaugeCheck{Foil: 125, Read: 140}, CheckFoil}, {GaugeCheck{Zero: 5, Foil: 125, Read: 125}, CheckZero},
	} {
		if got, off, may := c.check.Judge(UsualGauge); got != c.want || (math.Abs(off) > may) != (c.want != CheckFine) {
			t.Errorf("%+v: %q, off %v of %v, want %q", c.check, got, off, may, c.want)
		}
	}
}

func TestGaugeThatResolvesLayersIsASource(t *testing.T) {
	direct := []Place{{X: 200, Y: 200, Film: 51}, {X: 600, Y: 400, Film: 53}}
	s := study(t, Facts{History: History{Finish: RefinishedOld}, Direct: direct}, grid(0, 1))
	if s.Clear.Sources[0].Kind != FromDirect || s.Clear.Shares[0] < 0.9 || math.Abs(s.Clear.Mean-52) > 1 {
		t.Errorf("clear %+v", s.Clear)
	}
	both := study(t, Facts{History: History{Finish: Refinished, Coats: 3}, Direct: direct}, grid(0, 1))
	if len(both.Clear.Sources) != 3 || both.Clear.Shares[0] < 0.8 {
		t.Errorf("clear of both %+v", both.Clear)
	}
}

// A gauge that is off is off alike on one day, and anew on another: then the clear that
// was read before is known less well.
func TestAnotherDayIsAnotherCalibration(t *testing.T) {
	at := time.Date(2031, 5, 4, 8, 0, 0, 0, time.UTC)
	for name, c := range map[string]struct {
		uses []Use
		one  bool
	}{
		"a morning":     {[]Use{{"a", at}, {"a", at.Add(4 * time.Hour)}}, true},
		"the next day":  {[]Use{{"a", at}, {"a", at.Add(25 * time.Hour)}}, false},
		"another gauge": {[]Use{{"a", at}, {"b", at}}, false},
		"nothing":       {nil, false},
	} {
		if OneDay(c.uses) != c.one {
			t.Errorf("%s is one day: %v", name, !c.one)
		}
	}
	before := []Place{{X: 200, Y: 200, Film: 80}, {X: 600, Y: 200, Film: 81}, {X: 400, Y: 400, Film: 79}}
	same := study(t, Facts{History: History{Finish: Refinished}, Before: before, OneDay: true}, grid(0, 1))
	other := study(t, Facts{History: History{Finish: Refinished}, Before: before}, grid(0, 1))
	if other.Clear.SD < same.Clear.SD+0.1 || math.Abs(other.Clear.Mean-same.Clear.Mean) > 0.5 {
		t.Errorf("another day %v, the same %v", other.Clear.Estimate, same.Clear.Estimate)
	}
}

// A gauge that is 5 % off on its foil makes the doubt of all it reads wider until it is right.
func TestAGaugeOffOnItsFoilIsDoubted(t *testing.T) {
	off := GaugeCheck{Foil: 120, Read: 126}.Widened(UsualGauge)
	if math.Abs(off.B-0.05) > 1e-9 || off.A != UsualGauge.A {
		t.Errorf("5 %% off on the foil leaves %+v", off)
	}
	if fine := (GaugeCheck{Foil: 120, Read: 120.6}).Widened(UsualGauge); fine != UsualGauge {
		t.Errorf("a gauge that is right becomes %+v", fine)
	}
	if p := Pooled([]Gauge{UsualGauge, off}, []int{3, 2}); p.B != off.B {
		t.Errorf("of two gauges the worse counts: %+v", p)
	}
}
