package cars

import (
	"context"
	"math"
	"slices"
	"strconv"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
)

// Check is what is known of a panel that somebody asks about before it is a job. Films in
// µm, 0 for what nobody knows.
type Check struct {
	Total     float64
	Finish    film.Finish
	Coats     int
	Coat      float64
	Under     clearcoat.Under
	Car       float64 // a factory panel of the same car
	Before    float64 // the film before the clear went on
	Aim       plan.Aim
	PeelGrade float64
	Colour    plan.Colour
	Floor     float64 // that the owner agreed to
	Polished  bool    // a factory finish that was polished before
}

// Checked is the answer: the verdict on the aim, the clear it rests on, the mildest way,
// and what could be done instead.
type Checked struct {
	Asked Check
	film.Verdict
	Clear    film.Clear
	Low      float64 // of the middle nine tenths of the clear, µm
	High     float64
	Floor    float64
	Unlike   bool    // what was said and the film do not agree
	Headroom float64 // that is open, µm; what is tight reaches to Room
	Room     float64
	Need     film.Estimate
	Way      plan.Ladder // empty where nothing on the shelf leads there
	Ways     []CheckWay
	Helps    []CheckHelp
}

// CheckCode names a way to go on from a check.
type CheckCode string

// The ways.
const (
	CheckFloor  CheckCode = "agreed_floor" // the owner agrees to a lower floor
	CheckMatch  CheckCode = "match"
	CheckNibs   CheckCode = "nibs"
	CheckPolish CheckCode = "polish"
	CheckLeave  CheckCode = "leave"
)

// CheckWay is one of them with the verdict that it would bring.
type CheckWay struct {
	Code  CheckCode
	Floor float64 // for an agreed floor, µm
	Need  float64 // µm
	film.Verdict
}

// The questions that would help.
const (
	HelpUnder = "under" // what lies under it
	HelpCoats = "coats"
)

// CheckHelp is a question that would help, with what its answers would make of the aim.
type CheckHelp struct {
	Code    string
	Answers []CheckAnswer
}

// CheckAnswer is one of them.
type CheckAnswer struct {
	Answer string
	film.Verdict
}

// The places of a panel nobody has mapped: shares of the clear at its thin end and at its
// thinnest place (judgement).
const (
	checkThinEnd  = 0.95
	checkThinnest = 0.90
	beforeDoubt   = 2.0 // µm, of a film before the clear by a few spots
)

// Check answers what may be done with a panel of which so much is known.
func (s *Service) Check(ctx context.Context, in Check) (*Checked, error) {
	house, err := s.House(ctx)
	if err != nil {
		return nil, err
	}
	return CheckIn(house, in)
}

// UsualHouse is a house with the usual shelf and rules.
func UsualHouse() house.House { return house.House{Shelf: shelf.Usual()} }

// CheckIn answers a check in a house.
func CheckIn(h house.House, in Check) (*Checked, error) {
	if err := in.check(); err != nil {
		return nil, err
	}
	out := &Checked{Asked: in}
	need, way, reachable, err := in.mildest(h, in.Aim)
	if err != nil {
		return nil, err
	}
	out.Need, out.Way = film.SpendDoubt(need).Estimate, way
	least, policy := in.least(), in.policy()
	out.Clear = film.Clear{Estimate: film.Estimate{Mean: in.clear().Mean(), SD: in.clear().SD()}, Dist: in.clear()}
	out.Low, out.High = in.clear().Quantile(0.05), in.clear().Quantile(0.95)
	out.Floor, out.Unlike = policy.Floor, policy.Unlike
	out.Headroom, out.Room = policy.Rooms(least, in.Total, in.Aim.SpotsOnly())
	out.Verdict = in.judge(in.Aim, need)
	if !reachable {
		out.State, out.Reason = film.Shut, film.WhyThin
	}
	out.Helps = in.helps(need)
	out.Ways, err = in.ways(h, out)
	return out, err
}

// oddTotal is a total that no panel has; nil for one that may be.
func oddTotal(um float64) *panelwork.OddFilm {
	if odd, is := film.OddAlone(um); is {
		return &panelwork.OddFilm{Film: um, Odd: odd}
	}
	return nil
}

// check refuses what does not make sense, and facts that contradict each other.
func (in Check) check() error {
	const mostFilm = 3000.0
	floor := film.PolicyFor(in.Finish).Floor
	switch {
	case !(in.Total > 0 && in.Total <= mostFilm):
		return refuse.Because(refuse.BadTotal, "total_um", mostFilm)
	case oddTotal(in.Total) != nil:
		return refuse.Because(refuse.OddTotal, "total_um", *oddTotal(in.Total))
	case !slices.Contains([]film.Finish{film.FactoryFinish, film.Refinished, film.SingleStaged}, in.Finish):
		return refuse.Because(refuse.BadFinish, "finish", string(in.Finish))
	case in.Coats < 0 || in.Coats > mostCoatsSaid:
		return refuse.Because(refuse.BadCoats, "coats", mostCoatsSaid)
	case !(in.Coat >= 0 && in.Coat <= mostDry):
		return refuse.Because(refuse.BadDry, "coat_um", mostDry)
	case !slices.Contains([]clearcoat.Under{"", clearcoat.UnderNew, clearcoat.UnderOver, clearcoat.UnderUnknown}, in.Under):
		return refuse.Because(refuse.BadUnder, "under", string(in.Under))
	case !slices.Contains(facts.Aims, in.Aim):
		return refuse.Because(refuse.BadAim, "aim", string(in.Aim))
	case !slices.Contains(facts.Colours, in.Colour):
		return refuse.Because(refuse.BadColour, "colour")
	case !(in.PeelGrade >= 0 && in.PeelGrade <= 10):
		return refuse.Because(refuse.BadPeel, "peel_grade", 10.0)
	case !(in.Car >= 0 && in.Car <= mostFilm):
		return refuse.Because(refuse.BadTotal, "car_um", mostFilm)
	case in.Before < 0 || in.Before > 0 && in.Before >= in.Total:
		return refuse.Because(refuse.BeforeOverTotal, "before_um", in.Before, in.Total)
	case in.Finish != film.Refinished && in.Coats > 0:
		return refuse.Because(refuse.CoatsOnFactory, "coats", in.Coats, string(in.Finish))
	case in.Floor != 0 && !(in.Floor >= film.LeastFloor && in.Floor <= floor):
		return refuse.Because(refuse.BadFloor, "floor_um", film.LeastFloor, floor)
	}
	return nil
}

func (in Check) history() film.History {
	h := film.History{Finish: in.Finish, Coats: in.Coats, Coat: in.Coat, Under: in.Under, Car: in.Car, Agreed: in.Floor, Polished: in.Polished && in.Finish == film.FactoryFinish}
	if h.Finish == film.Refinished && h.Coats == 0 {
		h.Finish = film.RefinishedOld
	}
	return h
}

// clear is the clear by all that is known.
func (in Check) clear() clearcoat.Dist {
	var measured []film.Estimate
	if in.Before > 0 {
		measured = append(measured, film.Estimate{Mean: in.Total - in.Before, SD: beforeDoubt})
	}
	return in.history().Dist(film.Estimate{Mean: in.Total}, measured...)
}

func (in Check) least() film.Least {
	return film.LeastOf(in.clear(), []float64{checkThinEnd}, []float64{checkThinnest})
}

func (in Check) policy() film.Policy {
	if in.Before > 0 {
		return in.history().Policy()
	}
	return in.history().PolicyOn(in.Total)
}

func (in Check) judge(aim plan.Aim, need float64) film.Verdict {
	return in.policy().Judge(in.least(), in.Total, film.SpendUnmapped(need), aim.SpotsOnly())
}

// mildest is the way to an aim that takes least film, and whether there is one. A door of
// six sections stands for the panel.
func (in Check) mildest(h house.House, aim plan.Aim) (need float64, l plan.Ladder, reachable bool, err error) {
	door := slices.Repeat([]plan.Rect{{W: 400, H: 300}}, 6)
	o, err := plan.Find(plan.Job{Aim: aim, Grade: in.PeelGrade, Reference: plan.FactoryGrade, Colour: in.Colour, Single: in.Finish == film.SingleStaged, Factory: in.Finish == film.FactoryFinish,
		Hardness: h.Shelf.Law.Hardness(shelf.Medium), Scratch: plan.UsualSwirl, Area: 6 * 400 * 300, Sections: door, Nibs: 10, Shelf: h.Shelf, Rules: h.Rules}.Clear())
	if err != nil {
		return 0, l, false, err
	}
	need, reachable = o.Need()
	if !reachable {
		return plan.MostFilm, l, false, nil
	}
	ways, _, err := o.Offers(math.Inf(1))
	if err != nil || len(ways) == 0 {
		return need, l, true, err
	}
	return ways[0].Ladder.Film, ways[0].Ladder, true, nil
}

// helps are the questions that nobody has answered yet.
func (in Check) helps(need float64) []CheckHelp {
	if in.Finish != film.Refinished || in.Before > 0 {
		return nil
	}
	var out []CheckHelp
	if in.Under != clearcoat.UnderNew && in.Under != clearcoat.UnderOver {
		h := CheckHelp{Code: HelpUnder}
		for _, u := range []clearcoat.Under{clearcoat.UnderNew, clearcoat.UnderOver} {
			told := in
			told.Under = u
			h.Answers = append(h.Answers, CheckAnswer{string(u), told.judge(in.Aim, need)})
		}
		out = append(out, h)
	}
	if in.Coats == 0 {
		h := CheckHelp{Code: HelpCoats}
		for _, n := range []int{2, 3} {
			told := in
			told.Coats = n
			h.Answers = append(h.Answers, CheckAnswer{strconv.Itoa(n), told.judge(in.Aim, need)})
		}
		out = append(out, h)
	}
	return out
}

// ways are what could be done, those that keep the aim first. What would be shut as well
// is left out; leaving it is always possible.
func (in Check) ways(h house.House, c *Checked) ([]CheckWay, error) {
	var out []CheckWay
	if c.State != film.Open && !in.Aim.SpotsOnly() {
		sec := film.SectionFilm{Film: film.Estimate{Mean: in.Total}, Least: in.least(), Policy: in.policy()}
		if exact := agreeableFor(sec, film.SpendUnmapped(c.Need.Mean)); exact > 0 {
			agreed := in
			agreed.Floor = advice.OfferedFloor(exact)
			out = append(out, CheckWay{CheckFloor, agreed.Floor, c.Need.Mean, agreed.judge(in.Aim, c.Need.Mean)})
		}
	}
	for _, milder := range []struct {
		aim  plan.Aim
		code CheckCode
	}{{plan.Match, CheckMatch}, {plan.NibsOnly, CheckNibs}, {plan.PolishOnly, CheckPolish}} {
		if milder.aim == in.Aim || in.Aim == plan.PolishOnly {
			continue
		}
		need, _, reachable, err := in.mildest(h, milder.aim)
		if err != nil {
			return nil, err
		}
		if v := in.judge(milder.aim, need); reachable && v.State != film.Shut {
			out = append(out, CheckWay{milder.code, 0, need, v})
		}
	}
	if c.State != film.Open {
		now := in.judge(in.Aim, 0)
		out = append(out, CheckWay{CheckLeave, 0, 0, film.Verdict{State: film.Open, Reason: film.WhyFits, Under: now.Under, Through: now.Through}})
	}
	return out, nil
}

// agreeableFor is the highest floor (whole µm) with which a spend is tight, below the one that
// holds; 0 where none is.
func agreeableFor(sec film.SectionFilm, spend film.Spend) float64 {
	most := math.Min(math.Ceil(sec.Policy.Floor)-1, math.Floor(sec.Least.Estimate().Mean))
	for um := most; um >= film.LeastFloor; um-- {
		if advice.WithFloor(sec, um).Policy.Judge(sec.Least, sec.Film.Mean, spend, false).State != film.Shut {
			return um
		}
	}
	return 0
}
