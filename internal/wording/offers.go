package wording

import (
	"fmt"
	"math"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
)

// offerHeads are the offers as an owner hears them.
var offerHeads = map[offers.CarOfferName]string{
	offers.OfferNibs: "Only the nibs", offers.OfferPolish: "Polished, not sanded", offers.OfferMatch: "Like its neighbours", offers.OfferFlat: "Flat as glass", offers.OfferSaid: "Each panel as wanted",
	offers.CarOfferName(plan.OneStep): "One polish", offers.CarOfferName(plan.TwoSteps): "Two polishes", offers.CarOfferName(plan.Furthest): "As far as it goes",
}

// OfferHead names an offer.
func OfferHead(name offers.CarOfferName) string { return offerHeads[name] }

// OfferLooks says how a car looks after an offer.
func (w Words) OfferLooks(of *offers.CarOffers, o *offers.CarOffer) string {
	grade := o.Grade(of)
	switch o.Name {
	case offers.OfferNibs:
		return "Dust and runs gone. The lamps wave as they do now."
	case offers.OfferPolish:
		if o.Clarity(of) < of.NowClarity()-3 {
			return "Gains nothing here: the paint is clearer as it is."
		}
		return fmt.Sprintf("Deep colour, no haze. The lamps still wave: peel %.1f of 10.", grade)
	case offers.OfferMatch:
		if !o.Reached {
			return fmt.Sprintf("As near to the panels beside it as the film allows: peel %.1f of 10.", grade)
		}
		return fmt.Sprintf("Looks like the panels beside it: peel %.1f of 10.", grade)
	case offers.OfferSaid:
		return capital(and(aimCounts(o))) + "."
	case offers.OfferFlat:
		if !o.Reached {
			return fmt.Sprintf("Not glass everywhere: peel %.1f of 10 is as flat as the film allows.", grade)
		}
		return "The lamps stand straight."
	}
	return fmt.Sprintf("%.0f of 100 swirls gone, no haze.", 100*o.Gone)
}

// aimCounts says how many panels of an offer are worked for which aim.
func aimCounts(o *offers.CarOffer) []string {
	words := map[plan.Aim]string{plan.NibsOnly: "freed of nibs", plan.PolishOnly: "polished", plan.Match: "like its neighbours", plan.Flat: "flat"}
	var out []string
	for _, aim := range []plan.Aim{plan.Flat, plan.Match, plan.PolishOnly, plan.NibsOnly} {
		n := 0
		for _, p := range o.Panels {
			if p.Panel.Aim == aim {
				n++
			}
		}
		if n > 0 {
			out = append(out, panelCount(n)+" "+words[aim])
		}
	}
	return out
}

// PriceText is a price as it is asked for, and as one may ask what it is made of.
func (w Words) PriceText(o *offers.CarOffer) (text, why string) {
	p := o.Price
	why = fmt.Sprintf("%.0f for %.1f h of work, %.0f for what is used up, %.0f for what may go wrong", p.Labour, o.Hours.Likely, p.Material, p.Risk)
	if p.Tax > 0 {
		why += fmt.Sprintf(", %.0f tax", p.Tax)
	}
	// What is told adds up to the price: so much of it only rounds.
	if rest := p.Total - math.Round(p.Labour) - math.Round(p.Material) - math.Round(p.Risk) - math.Round(p.Tax); math.Abs(rest) >= 0.5 {
		why += fmt.Sprintf(", %.0f to round it", rest)
	}
	return fmt.Sprintf("%.0f %s", p.Total, w.Face.Money), why + "."
}

// OfferReady says when a car is ready under an offer.
func (w Words) OfferReady(of *offers.CarOffers, o *offers.CarOffer) string {
	if o.Ready.IsZero() {
		return "cannot be planned"
	}
	return w.near(o.Ready, of.Now)
}

// near is a time in the days that come, as one says it.
func (w Words) near(t, now time.Time) string {
	days := int(math.Round(midnight(w.local(t)).Sub(midnight(w.local(now))).Hours() / 24))
	switch {
	case days == 0:
		return "today " + w.clock(t)
	case days == 1:
		return "tomorrow " + w.clock(t)
	case days > 1 && days < 7:
		return w.local(t).Format("Mon") + " " + w.clock(t)
	}
	return w.dayTime(t)
}

func midnight(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, t.Location())
}

// OfferReason says why the film is open, tight or shut for an offer, at the panel that decides.
func (w Words) OfferReason(o *offers.CarOffer) string {
	if o.Decides == nil {
		return "The film is not read yet: the price stands, what of the film stays does not."
	}
	if o.Unread > 0 && o.Read == film.Open {
		return fmt.Sprintf("Tight until %s more %s read; of those that are read it fits everywhere.", panelCount(o.Unread), isAre(o.Unread))
	}
	return capital(o.Decides.Name) + ": " + lower(w.State(o.Standing, o.Section.Policy.Floor))
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// OfferStays are what will not come out under an offer, in a line each.
func (w Words) OfferStays(o *offers.CarOffer) []string {
	var out []string
	for _, t := range o.Stays {
		title, text := w.Telling(t)
		out = append(out, title+" "+text)
	}
	return out
}

// OfferPanel says what a panel gets under an offer.
func (w Words) OfferPanel(pp offers.PanelPlan) string {
	l := pp.Result.Way.Ladder
	if pp.Result.None || len(l.Steps) == 0 {
		return "is left as it is: " + lower(w.Refused(pp.Panel, pp.Refusal()))
	}
	return w.Steps(l.Choices(), &pp.House.Shelf)
}

// OfferTitle says of which panels the offers are.
func (w Words) OfferTitle(of *offers.CarOffers) string {
	names, m2 := of.Title()
	area := fmt.Sprintf("%.1f m²", m2)
	switch {
	case len(names) == len(of.Panels) && len(names) > 1:
		return "whole car, " + area
	case len(names) > 3:
		return fmt.Sprintf("%d panels, %s", len(names), area)
	}
	return and(names) + ", " + area
}

func and(names []string) string {
	if n := len(names); n > 1 {
		return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
	}
	return strings.Join(names, "")
}

// NoOffers says why there is nothing to offer; empty where there is something.
func (w Words) NoOffers(of *offers.CarOffers) string {
	switch {
	case len(of.Offers) > 0:
		return ""
	case of.HandedOverAt != nil:
		return fmt.Sprintf("The %s is handed over. Open it again to offer more.", of.Name)
	case of.Shows == nil:
		return "On every panel work has begun or is done: there is nothing left to choose between."
	}
	return "Nothing that the shelf leads to makes these panels better than they are."
}

// OfferAdvice says which offer the shop would take, and of those that are tight what that
// means; empty without one.
func (w Words) OfferAdvice(of *offers.CarOffers) string {
	a := of.Advice
	if a == nil {
		return ""
	}
	text := fmt.Sprintf("Our advice is %s.", quoted(a.Name))
	switch {
	case a.Name == offers.OfferSaid && a.Read == film.Open && a.Reached:
		text += " It does on each panel what was wanted, and leaves film to spare."
	case a.Name == offers.OfferMatch:
		text += " Flat beside texture looks patched."
	case a.Read == film.Open && a.Reached:
		text += " It goes furthest of those that leave film to spare."
	case a.Decides == nil:
		text += " Read the film before you promise more."
	default:
		text += " Of those that the film allows it takes least."
	}
	if a.Decides != nil {
		text += w.say(" It leaves %s µm of clear where it is thinnest.", plusMinus(a.Keeps(a.Decides.Result.Way.Ladder.FilmSD)))
	}
	var tight, shut []string
	for i := range of.Offers {
		switch o := &of.Offers[i]; {
		case o.Decides == nil:
		case o.Read == film.Tight:
			tight = append(tight, quoted(o.Name))
		case o.Read == film.Shut:
			shut = append(shut, quoted(o.Name))
		}
	}
	if a.Unread > 0 && a.Decides != nil {
		text += fmt.Sprintf(" %s %s not read yet: that may change it.", panelCount(a.Unread), isAre(a.Unread))
	}
	if len(tight) > 0 {
		text += fmt.Sprintf(" %s %s tight: it is read between passes and may end early.", and(tight), isAre(len(tight)))
	}
	if len(shut) > 0 {
		text += fmt.Sprintf(" %s %s shut: too little clear.", and(shut), isAre(len(shut)))
	}
	return text
}

func panelCount(n int) string { return count(n, "panel") }

func quoted(name offers.CarOfferName) string { return "“" + offerHeads[name] + "”" }

func isAre(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}

// OfferValid says until when the offers hold, and OfferBegins when work could begin.
func (w Words) OfferValid(of *offers.CarOffers) string {
	return "These offers hold until " + w.day(of.Valid) + "."
}

// OfferBegins says when work could begin.
func (w Words) OfferBegins(of *offers.CarOffers) string {
	if of.Begins.IsZero() {
		return "Nobody has hours for it: see Hands."
	}
	return "Work could begin " + w.near(of.Begins, of.Now) + "."
}

// OfferTaken says what an owner took.
func (w Words) OfferTaken(p *offers.Promise, now time.Time) string {
	text := fmt.Sprintf("Taken on %s: %s, %s, %.0f %s", w.day(p.At), quoted(offers.CarOfferName(p.Offer)), HourRange(p.HoursLow, p.HoursHigh), p.Price, w.Face.Money)
	if p.ReadyAt != nil {
		text += ", ready " + w.near(*p.ReadyAt, now)
	}
	return text + "."
}

// OfferSheet is the one sheet with all offers of a car for its owner. pictures are those of the
// offers, hours says whether they are told, own a line of the shop's own.
func (w Words) OfferSheet(of *offers.CarOffers, pictures [][]byte, logo []byte, hours bool, own string) *files.OfferSheet {
	out := &files.OfferSheet{Shop: of.Settings.Name, Logo: logo, Paper: of.Settings.Paper, Title: of.Name + ": " + w.OfferTitle(of),
		Sub: fmt.Sprintf("%s %s. %s", w.day(of.Now), w.clock(of.Now), w.OfferValid(of)), Advice: w.OfferAdvice(of), Own: own,
		StaysHead: "Will not come out:", OverLeaf: "All of it is on the back.", Number: "number", Sign: "name and date. I know what will not come out."}
	for _, f := range of.Floors {
		if f.Struck == nil {
			out.Agreed = append(out.Agreed, w.Agreed(f))
		}
	}
	for i := range of.Offers {
		o := &of.Offers[i]
		price, _ := w.PriceText(o)
		col := files.OfferColumn{Head: fmt.Sprintf("%d  %s", i+1, OfferHead(o.Name)), Picture: pictures[i], Alt: "the lamps mirrored in the " + strings.ToLower(of.Shows.Name), Looks: w.OfferLooks(of, o),
			PriceHead: "price", Price: price, ReadyHead: "ready", Ready: w.sheetDay(o), Stays: stayText(w.OfferStays(o)), Advised: o == of.Advice}
		if of.Offers[i].Price.Tax > 0 {
			col.PriceHead = "price with tax"
		}
		if hours {
			col.Lines = append(col.Lines, files.OfferLine{Name: "hours of work", Value: HourRange(o.Hours.Low, o.Hours.High)})
		}
		col.Lines = append(col.Lines, files.OfferLine{Name: "paint taken, " + w.unitName(), Value: w.Film(o.Film)},
			files.OfferLine{Name: fmt.Sprintf("clarity of 100, now %.0f", of.NowClarity()), Value: fmt.Sprintf("%.0f", o.Clarity(of))})
		if o.Decides != nil {
			keeps := o.Keeps(o.Decides.Result.Way.Ladder.FilmSD)
			col.Clear = &files.OfferClear{Head: "clear that stays, " + w.unitName(), State: string(o.Worst()), Must: "must stay", Before: o.Clear.Mean, Stays: keeps.Mean, Floor: o.Section.Policy.Floor,
				StaysText: w.Film(keeps.Mean), FloorText: w.Film(o.Section.Policy.Floor)}
		}
		out.Columns = append(out.Columns, col)
	}
	return out
}

func stayText(all []string) []string {
	if len(all) == 0 {
		return []string{"nothing that we know of."}
	}
	return all
}

// sheetDay is when a car is ready as a paper says it, which is read on another day.
func (w Words) sheetDay(o *offers.CarOffer) string {
	if o.Ready.IsZero() {
		return "to be agreed"
	}
	return w.local(o.Ready).Format("Mon") + " " + w.dayTime(o.Ready)
}

// BudgetStep says what the last hours of a budget bought: the panel and how it is worked.
func (w Words) BudgetStep(b *offers.Budget, place, option int) string {
	p := &b.Places[place]
	return fmt.Sprintf("%s: %s", capital(p.Panel.Name), lower(offerHeads[p.Ways[option].Name]))
}

// Budget says what so many hours buy, and what would be next.
func (w Words) Budget(b *offers.Budget) string {
	switch {
	case len(b.Places) == 0:
		return "Work has begun on every panel: nothing is left to choose."
	case b.Most == 0:
		return "Nothing that the film and the shelf allow makes these panels better than they are."
	case b.NextStep == nil:
		return "That buys all there is to gain."
	}
	from := fmt.Sprintf("%.1f h", b.NextStep.Budget/60)
	if b.ByMoney {
		from = fmt.Sprintf("%.0f %s", b.NextStep.Budget*b.Money, w.Face.Money)
	}
	return fmt.Sprintf("That buys %.0f of 100 of all there is to gain. The next best: %s, from %s on.", 100*b.Bought.Gain/b.Most, lower(w.BudgetStep(b, b.NextStep.Place, b.NextStep.Option)), from)
}

var lights = map[facts.Lit]string{facts.FacesUp: "faces up", facts.OnSide: "a side", facts.LiesLow: "lies low", facts.Covered: "covered"}

// Lit is how a panel is seen.
func Lit(p *panel.Panel) string { return lights[offers.Lit(p)] }
