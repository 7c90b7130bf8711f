// Package price says what a job takes in hours and money, what an owner gets for a budget,
// what of the shelf is used up when, and how the hours that were told compare with those that
// it took.
package price

import (
	"fmt"
	"math"
)

// Spreads of hours as logarithms (judgement): what the pace of a person and a car have in
// common over a whole job, and what each piece of it has of its own.
const (
	commonSpread = 0.18
	ownSpread    = 0.30
	middle       = 1.2816 // of the middle 80 %
)

// Hours are a time with the middle 80 % of its doubt, in h.
type Hours struct{ Low, Likely, High float64 }

// HoursOf are the hours of a job of pieces that take so many minutes each: their own doubts
// even out, the common one does not. common is its spread, 0 for the usual.
func HoursOf(minutes []float64, common float64) Hours {
	if common == 0 {
		common = commonSpread
	}
	sum, own := 0.0, 0.0
	for _, m := range minutes {
		sum += m
		own += ownSpread * m * ownSpread * m
	}
	if sum == 0 {
		return Hours{}
	}
	spread := math.Sqrt(common*common + own/(sum*sum))
	return Hours{sum / 60 * math.Exp(-middle*spread), sum / 60, sum / 60 * math.Exp(middle*spread)}
}

// Rates are what a shop asks for.
type Rates struct {
	Labour  float64 `json:"-"`          // money an hour
	Risk    float64 `json:"risk"`       // allowance for what goes wrong, share of labour and material
	Respray float64 `json:"respray"`    // money that a respray of a panel costs the shop
	Tax     float64 `json:"tax"`        // share
	Round   float64 `json:"round"`      // the price is rounded up to whole ones of so much
	Valid   int     `json:"valid_days"` // days that an offer holds
}

// UsualRates are those of a shop that said nothing (judgement), beside its labour.
var UsualRates = Rates{Labour: 55, Risk: 0.08, Respray: 450, Tax: 0, Round: 5, Valid: 14}

// Check says which rate is none.
func (r Rates) Check() error {
	for _, t := range []struct {
		name        string
		value       float64
		least, most float64
		unit        string
	}{
		{"labour", r.Labour, 0, 1000, "money an hour"}, {"risk", r.Risk, 0, 1, ""}, {"respray", r.Respray, 0, 1e5, "money"},
		{"tax", r.Tax, 0, 1, ""}, {"round", r.Round, 0, 1000, "money"}, {"valid_days", float64(r.Valid), 1, 365, "days"},
	} {
		if !(t.value >= t.least && t.value <= t.most) {
			return fmt.Errorf("%s goes from %v to %v %s", t.name, t.least, t.most, t.unit)
		}
	}
	return nil
}

// Price is what is asked for a job, with what it is made of, in the shop's money.
type Price struct {
	Labour, Material float64
	Risk             float64 // allowance, and the resprays that may come of it
	Net, Tax, Total  float64 // the total is rounded up
}

// Of is the price of so many hours and material. through are the chances, panel by panel,
// that its film is cut through.
func (r Rates) Of(hours, material float64, through []float64) Price {
	p := Price{Labour: hours * r.Labour, Material: material}
	p.Risk = r.Risk * (p.Labour + p.Material)
	for _, b := range through {
		p.Risk += b * r.Respray
	}
	p.Net = p.Labour + p.Material + p.Risk
	p.Tax = r.Tax * p.Net
	p.Total = p.Net + p.Tax
	if r.Round > 0 {
		p.Total = r.Round * math.Ceil(p.Total/r.Round-1e-9)
	}
	return p
}
