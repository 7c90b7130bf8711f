package web

import (
	"bytes"
	"fmt"
	"image"
	_ "image/png"
	"math"
	"net/http"
	"slices"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

func (b *bed) offers() (o api.CarOffers) {
	b.t.Helper()
	b.get("/api/cars/"+b.car+"/offers", &o)
	return o
}

func offerOf(t *testing.T, of api.CarOffers, name api.CarOfferName) api.CarOffer {
	t.Helper()
	i := slices.IndexFunc(of.Offers, func(o api.CarOffer) bool { return o.Name == name })
	if i < 0 {
		t.Fatalf("no offer %s among %d", name, len(of.Offers))
	}
	return of.Offers[i]
}

// More film and more hours buy a flatter panel for more money and a later day; what an offer
// says is what its panel's plan says once it is taken.
func TestOffersSideBySideAndTaken(t *testing.T) {
	b := newBed(t)
	if of := b.offers(); len(of.Offers) < 3 || !strings.Contains(of.Offers[len(of.Offers)-1].Reason, "not read yet") || of.Offers[0].Clear != nil {
		t.Errorf("before any reading: %d offers, %+v", len(of.Offers), of.Offers)
	}
	b.readings()
	of := b.offers()
	polish, match, flat := offerOf(t, of, api.CarOfferNamePolish), offerOf(t, of, api.CarOfferNameMatch), offerOf(t, of, api.CarOfferNameFlat)
	for _, two := range [][2]api.CarOffer{{polish, match}, {match, flat}} {
		a, z := two[0], two[1]
		if a.FilmUm >= z.FilmUm || a.Price.Total >= z.Price.Total || a.Hours.Likely >= z.Hours.Likely || a.Clarity > z.Clarity+0.5 || a.ReadyAt.After(*z.ReadyAt) {
			t.Errorf("%s %.1f µm %.0f %v clarity %.1f ready %v; %s %.1f µm %.0f %v clarity %.1f ready %v", a.Name, a.FilmUm, a.Price.Total, a.Hours, a.Clarity, a.ReadyAt, z.Name, z.FilmUm, z.Price.Total, z.Hours, z.Clarity, z.ReadyAt)
		}
	}
	for _, o := range of.Offers {
		p := o.Price
		if sum := p.Labour + p.Material + p.Risk; sum < p.Net-0.02 || sum > p.Net+0.02 || p.Total < p.Net+p.Tax-0.01 || o.Hours.Low >= o.Hours.Likely || o.Hours.High <= o.Hours.Likely {
			t.Errorf("%s costs %+v in %+v", o.Name, p, o.Hours)
		}
		if c := o.Clear; c != nil && (c.StaysUm.Mean > c.BeforeUm.Mean || c.FloorUm <= 0) {
			t.Errorf("%s leaves %+v", o.Name, c)
		}
	}
	if !slices.ContainsFunc(match.Stays, func(s string) bool { return strings.Contains(s, "look like what is beside it") }) || of.Advice == nil || of.AdviceText == nil {
		t.Errorf("a match leaves %v; advice %v", match.Stays, of.Advice)
	}
	pictures := map[string]bool{}
	for _, name := range []string{"now", "polish", "flat"} {
		w := b.send(http.MethodGet, "/api/cars/"+b.car+"/offers/"+name+"/picture", "")
		b.into(w, 200, nil)
		if img, _, err := image.Decode(bytes.NewReader(w.Body.Bytes())); err != nil || img.Bounds().Dx() < 300 {
			t.Errorf("%s: %v", name, err)
		}
		pictures[w.Body.String()] = true
	}
	if len(pictures) != 3 {
		t.Errorf("%d pictures of three", len(pictures))
	}
	b.into(b.send(http.MethodGet, "/api/cars/"+b.car+"/offers/two_steps/picture", ""), 404, nil)

	take := func(id, name string, total float64, status int, out any) {
		t.Helper()
		b.post("/api/cars/"+b.car+"/offers", fmt.Sprintf(`{"id":%q,"name":%q,"person":"Tove","total":%v}`, id, name, total), status, out)
	}
	var no api.Problem
	if take("offer-0001", "match", match.Price.Total-5, 409, &no); !strings.Contains(no.Detail, fmt.Sprintf("%.0f now", match.Price.Total)) {
		t.Errorf("%s", no.Detail)
	}
	take("offer-0001", "one_step", 1, 422, nil)
	take("offer-0001", "match", match.Price.Total, 200, &of)
	take("offer-0001", "match", match.Price.Total, 200, &of)
	if of.Taken == nil || of.Taken.Name != api.CarOfferNameMatch || !strings.Contains(of.Taken.Text, match.HoursText) {
		t.Errorf("taken is %+v", of.Taken)
	}
	if w := b.week(); w.Cars[0].DueAt == nil || !w.Cars[0].DueAt.Equal(*match.ReadyAt) {
		t.Errorf("promised for %v, ready %v", w.Cars[0].DueAt, match.ReadyAt)
	}
	p := b.plan("")
	if p.Panel.Aim != api.AimMatch || p.Offer == nil || p.Offer.FilmUm.Mean != match.FilmUm || p.Offer.State != match.State {
		t.Errorf("planned for %s: %+v, offered %.2f µm %s", p.Panel.Aim, p.Offer, match.FilmUm, match.State)
	}
}

// The sheet carries what the screen says, and in full what will not come out.
func TestTheOfferSheet(t *testing.T) {
	b := newBed(t)
	b.readings()
	of := b.offers()
	w := b.send(http.MethodGet, "/api/cars/"+b.car+"/offersheet/offers.svg?words=Ask+for+Tove", "")
	b.into(w, 200, nil)
	for _, o := range of.Offers {
		for _, text := range []string{o.Head, o.PriceText, o.HoursText} {
			if !strings.Contains(w.Body.String(), text) {
				t.Errorf("the sheet lacks %q", text)
			}
		}
	}
	if !strings.Contains(w.Body.String(), "Ask for Tove") {
		t.Error("the shop's own line is missing")
	}
	w = b.send(http.MethodGet, "/api/cars/"+b.car+"/offersheet/offers.svg?hours=false", "")
	if strings.Contains(w.Body.String(), of.Offers[0].HoursText) {
		t.Error("hours are told though they are hidden")
	}
	w = b.send(http.MethodGet, "/api/cars/"+b.car+"/offersheet/offers.pdf", "")
	if b.into(w, 200, nil); !strings.HasPrefix(w.Body.String(), "%PDF-") {
		t.Error("no PDF")
	}
}

// More hours gain more, never more than all, and are never overspent; the next best addition
// gains what it says.
func TestTheBestUseOfTheHours(t *testing.T) {
	b := newBed(t)
	var car api.Car
	b.post("/api/cars", `{"name":"Saloon","body":"saloon","colour":"dark","painter":"Tove","groups":[{"keys":["bonnet","roof","L-fdoor","L-sill"],"facts":{"origin":"here","coats":4,"aim":"flat"}}]}`, 201, &car)
	at := func(hours string) (out api.Budget) {
		t.Helper()
		b.get("/api/cars/"+car.Id+"/budget"+hours, &out)
		return out
	}
	before := -1.0
	for _, hours := range []float64{0, 1, 2.5, 4, 8, 40} {
		got := at(fmt.Sprintf("?hours=%v", hours))
		spent, gain := 0.0, 0.0
		for _, p := range got.Panels {
			spent, gain = spent+p.Hours, gain+p.Gain
			if (p.Option == nil) != (p.Hours == 0) || p.FilmUm < 0 || p.Option != nil && p.Aim == nil {
				t.Errorf("%+v", p)
			}
		}
		if spent > hours+0.05 || gain < got.Gain-1e-6 || gain > got.Gain+1e-6 || got.Gain < before || got.Gain > 1+1e-9 {
			t.Errorf("%v h buy %.3f in %.2f h, before %.3f", hours, got.Gain, spent, before)
		}
		if next := got.Next; next != nil {
			if then := at(fmt.Sprintf("?hours=%v", next.Hours+0.02)); then.Gain < next.Gain-1e-6 || next.Gain <= got.Gain {
				t.Errorf("next %+v, then %.3f, now %.3f", next, then.Gain, got.Gain)
			}
		}
		before = got.Gain
	}
	if before < 1-1e-9 || !strings.Contains(at("?hours=40").Text, "all there is to gain") || !strings.Contains(at("?hours=1").Text, "The next best") {
		t.Errorf("40 h buy %.3f: %s", before, at("?hours=40").Text)
	}
	if got := at(""); got.Hours <= 0 || got.Gain < 0.4 {
		t.Errorf("half the hours buy %.2f", got.Gain)
	}
	b.into(b.send(http.MethodGet, "/api/cars/"+car.Id+"/budget?hours=-1", ""), 422, nil)
	last := at("?money=0")
	for _, money := range []float64{60, 150, 400, 3000} { // the price is rounded up to whole fives
		got := at(fmt.Sprintf("?money=%v", money))
		if !got.ByMoney || got.Price.Total > money+5 || got.Gain < last.Gain || got.Next != nil && got.Next.Money < money-0.01 {
			t.Errorf("%v buy %.3f for %+v, before %.3f; next %+v", money, got.Gain, got.Price, last.Gain, got.Next)
		}
		if same := at(fmt.Sprintf("?hours=%v", got.Hours)); same.Gain < got.Gain-1e-6 {
			t.Errorf("%v buy %.3f, the hours of it without what is used up %.3f", money, got.Gain, same.Gain)
		}
		last = got
	}
	if last.Gain < 1-1e-9 {
		t.Errorf("3000 buy %.3f", last.Gain)
	}
	b.into(b.send(http.MethodGet, "/api/cars/"+car.Id+"/budget?money=-1", ""), 422, nil)
}

// A moulding takes a panel's weight, and with it its place among those that are worked first;
// by where it is, it has it back.
func TestACoveredPanelGainsLittle(t *testing.T) {
	b := newBed(t)
	var car api.Car
	b.post("/api/cars", `{"name":"Saloon","body":"saloon","colour":"dark","painter":"Tove","groups":[{"keys":["roof","L-fdoor","L-sill"],"facts":{"origin":"here","coats":4,"aim":"flat"}}]}`, 201, &car)
	panel := func(key string) (out api.BudgetPanel) {
		t.Helper()
		var of api.Budget
		b.get("/api/cars/"+car.Id+"/budget?hours=40", &of)
		for _, p := range of.Panels {
			if p.Key == key {
				out = p
			}
		}
		return out
	}
	say := func(key, light string, code int) {
		t.Helper()
		b.into(b.send(http.MethodPatch, "/api/cars/"+car.Id+"/panels", fmt.Sprintf(`{"keys":[%q],"facts":{"light":%q}}`, key, light)), code, nil)
	}
	for key, text := range map[string]string{"roof": "faces up", "L-fdoor": "a side", "L-sill": "lies low"} {
		if p := panel(key); p.Light != api.ByPlace || p.LightText != text {
			t.Errorf("%s: %s, %s", key, p.Light, p.LightText)
		}
	}
	was := panel("L-fdoor")
	say("L-fdoor", "covered", 200)
	if p := panel("L-fdoor"); p.LightText != "covered" || p.Seen >= panel("L-sill").Seen || p.Gain > was.Gain/2 {
		t.Errorf("%+v, before %+v", p, was)
	}
	say("L-fdoor", "faces_up", 200)
	if p := panel("L-fdoor"); math.Abs(p.Seen-panel("roof").Seen) > 1e-9 || p.Gain <= was.Gain {
		t.Errorf("%+v, before %+v", p, was)
	}
	say("L-fdoor", "by_place", 200)
	if p := panel("L-fdoor"); p.Light != api.ByPlace || math.Abs(p.Gain-was.Gain) > 1e-9 {
		t.Errorf("%+v, before %+v", p, was)
	}
	say("L-fdoor", "sideways", 422)
}

// Each offer for swirls takes the time of its own steps, for the car as for the panel: what takes
// out more takes longer and costs more.
func TestOffersForSwirlsTakeTheirOwnTime(t *testing.T) {
	b := swirled(t)
	of := b.offers()
	hours := func(o api.CarOffer) (sum float64) {
		for _, p := range o.Panels {
			sum += p.Hours
		}
		return sum
	}
	for i, o := range of.Offers[1:] {
		before := of.Offers[i]
		if o.Gone == nil || before.Gone == nil {
			t.Fatalf("%s and %s tell no share", before.Name, o.Name)
		}
		more := hours(o) - hours(before)
		if *o.Gone <= *before.Gone || more <= 0 || o.Price.Total < before.Price.Total || o.Hours.Likely-before.Hours.Likely < 0.5*more {
			t.Errorf("%s: %.2f gone, %.2f of %.2f h, %.0f; %s: %.2f gone, %.2f of %.2f h, %.0f", before.Name, *before.Gone, hours(before), before.Hours.Likely, before.Price.Total,
				o.Name, *o.Gone, hours(o), o.Hours.Likely, o.Price.Total)
		}
	}
	if len(of.Offers) < 2 {
		t.Errorf("%d offers", len(of.Offers))
	}
}
