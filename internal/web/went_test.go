package web

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"waxplanus/internal/web/api"
)

func (b *bed) went() (w api.CarWent) {
	b.t.Helper()
	b.get("/api/cars/"+b.car+"/went", &w)
	return w
}

func wentLine(t *testing.T, w api.CarWent, fits func(api.WentLine) bool) api.WentLine {
	t.Helper()
	i := slices.IndexFunc(w.Lines, fits)
	if i < 0 {
		t.Fatalf("no such line among %+v", w.Lines)
	}
	return w.Lines[i]
}

func wentFigure(w api.CarWent, name api.WentFigureName) api.WentFigure {
	return w.Figures[slices.IndexFunc(w.Figures, func(f api.WentFigure) bool { return f.Name == name })]
}

// Before any work all that is planned stands there; what was promised is told beside it, and
// passes count with their time, film and paper.
func TestPromisedAgainstHappened(t *testing.T) {
	b := newBed(t)
	b.readings()
	flat := offerOf(t, b.offers(), api.CarOfferNameFlat)
	b.post("/api/cars/"+b.car+"/offers", fmt.Sprintf(`{"id":"offer-0001","name":"flat","person":"Tove","total":%v}`, flat.Price.Total), 200, nil)
	before := b.plan("")
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, before.Basis, before.Offer.Name), 201, nil)
	w := b.went()
	hours := wentFigure(w, api.WentFigureNameHours)
	if hours.Promised == nil || hours.Against != api.WentFigureAgainstWithin || math.Abs(hours.Range.Planned-hours.Range.End.Likely) > 0.02 || hours.Range.Took.Likely <= 0 {
		t.Errorf("before any pass: %+v, %+v, promised %s", hours, hours.Range, flat.HoursText)
	}
	if math.Abs(hours.Range.Planned-hours.Range.Promised.Likely) > 0.3 {
		t.Errorf("planned %.2f h, promised %.2f", hours.Range.Planned, hours.Range.Promised.Likely)
	}
	first := wentLine(t, w, func(l api.WentLine) bool { return l.Step != nil })
	if first.Done != 0 || first.MaySay || first.Step.PassesMade != 0 || first.Step.Used != 0 || first.Step.FilmUm.Mean != 0 {
		t.Errorf("not begun, yet %+v with %+v", first, first.Step)
	}
	step := before.Offer.Steps[0]
	section := b.level().Section
	pass := time.Duration(step.Minutes / float64(step.Passes*len(before.Sections)) * float64(time.Minute))
	for i := range 3 {
		b.into(b.entry(fmt.Sprintf("pass-%d", i), section, "pass", 1), 201, nil)
		b.wait(min(2*pass, 14*time.Minute))
	}
	w = b.went()
	l := wentLine(t, w, func(l api.WentLine) bool { return l.What == first.What })
	share := 3 / float64(step.Passes*len(before.Sections))
	if l.Done < 0.4*share || l.Done > 2*share || l.Times == nil || *l.Times < 1.2 || !strings.Contains(l.How, "2 passes") || !l.MaySay {
		t.Errorf("after three passes, each twice as long: %+v", l)
	}
	if s := l.Step; s.PassesMade <= 0 || s.PassesMade >= s.PassesPlanned || s.FilmUm.Mean <= 0 || s.FilmUm.Sd <= 0 || s.Used < 1 || s.UsedPlanned < 1 || s.Unit == api.StockUnitMl {
		t.Errorf("they took %+v", s)
	}
	if now := wentFigure(w, api.WentFigureNameHours); now.Range.End.Likely <= hours.Range.End.Likely || !strings.Contains(now.Text, "left at this pace") {
		t.Errorf("slow passes end at %+v, before %+v: %s", now.Range.End, hours.Range.End, now.Text)
	}
	if f := wentFigure(w, api.WentFigureNameFilm); f.Promised == nil || f.Against != api.WentFigureAgainstOpen || !strings.Contains(f.Text, "Most went of") {
		t.Errorf("film %+v", f)
	}
	item := strings.TrimPrefix(l.What, "block ")
	here := func() float64 {
		var s api.Stock
		b.get("/api/stock", &s)
		return s.Lines[slices.IndexFunc(s.Lines, func(o api.StockLine) bool { return o.Item == item })].Here
	}
	if w.ToTake != nil {
		t.Errorf("nothing is counted, yet %q is to be taken off the shelf", *w.ToTake)
	}
	b.post("/api/stock", fmt.Sprintf(`{"id":"goods-01","item":%q,"person":"Tove","kind":"count","much":9}`, item), 200, nil)
	if w = b.went(); w.ToTake == nil || !strings.HasPrefix(*w.ToTake, "1 ") {
		t.Errorf("to take off the shelf: %v", w.ToTake)
	}
	for range 2 {
		var after api.CarWent
		if b.post("/api/cars/"+b.car+"/used", `{"id":"used-0001","person":"Tove"}`, 200, &after); after.ToTake != nil || here() != 8 {
			t.Errorf("taken, yet %v is left to take and %v are here", after.ToTake, here())
		}
	}
	b.post("/api/stock", `{"id":"goods-02","item":"tape","person":"Tove","kind":"count","much":50}`, 200, nil)
	if w = b.went(); w.ToTake == nil || !strings.Contains(*w.ToTake, "m of masking tape") {
		t.Errorf("to take off the shelf: %v", w.ToTake)
	}
	b.post("/api/cars/"+b.car+"/used", `{"id":"used-0002","person":"Tove"}`, 200, nil)
	if item = "tape"; here() >= 50 || here() < 30 {
		t.Errorf("%v m of tape are left of 50", here())
	}
	// Tape is part of what the work costs, as it is of the price.
	cost := func() (money float64) {
		t.Helper()
		now := wentFigure(b.went(), api.WentFigureNamePrice).Now
		if _, err := fmt.Sscanf(now, "costs %f", &money); err != nil {
			t.Errorf("%q: %v", now, err)
		}
		return money
	}
	was := cost()
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"law.tape","value":10}`), 204, nil)
	if now := cost(); now < was+50 {
		t.Errorf("it costs %v, and %v with dear tape", was, now)
	}
	b.into(b.send(http.MethodPut, "/api/shelf", `{"key":"law.tape","value":0.06}`), 204, nil)
	if p := wentFigure(w, api.WentFigureNamePrice); p.Promised == nil || *p.Promised != flat.PriceText {
		t.Errorf("price %+v, offered %s", p, flat.PriceText)
	}
}

// What somebody says counts instead of the clock, teaches the pace, and can be taken back.
func TestATimeIsSaidAndTakenBack(t *testing.T) {
	b := newBed(t)
	b.readings()
	b.accept()
	say := func(what string, minutes float64, status int, out any) {
		t.Helper()
		b.into(b.send(http.MethodPut, "/api/cars/"+b.car+"/went", fmt.Sprintf(`{"what":%q,"minutes":%v,"person":"Tove"}`, what, minutes)), status, out)
	}
	wash := func(w api.CarWent) api.WentLine {
		return wentLine(t, w, func(l api.WentLine) bool { return l.What == "wash" })
	}
	around := func() api.ToolPace {
		var h api.Hands
		b.get("/api/people", &h)
		return h.Paces[slices.IndexFunc(h.Paces, func(p api.ToolPace) bool { return p.Of == api.ToolPaceOfAround })]
	}
	before := wash(b.went())
	if before.Done != 0 || before.SaidMin != nil || around().Pieces != 0 {
		t.Errorf("before: %+v", before)
	}
	var w api.CarWent
	say("wash", math.Round(3*before.PlannedMin), 200, &w)
	if l := wash(w); l.Done != 1 || l.SaidMin == nil || *l.SaidMin != math.Round(3*before.PlannedMin) || !strings.Contains(l.How, "Tove said") || *l.Times < 2.9 || *l.Times > 3.1 {
		t.Errorf("said: %+v", l)
	}
	p := around()
	if p.Pieces != 1 || p.Factor < 1.5 || p.Factor > 3 {
		t.Errorf("one time taught %+v", p)
	}
	mask := wentLine(t, w, func(l api.WentLine) bool { return l.What == "mask" })
	b.into(b.send(http.MethodPut, "/api/shelf", fmt.Sprintf(`{"key":%q,"value":%v}`, p.Key, p.Factor)), 204, nil)
	if again := around(); again.Factor < p.Factor-0.01 || again.Factor > p.Factor+0.01 {
		t.Errorf("taken over it is %+v, was %+v", again, p)
	}
	if l := wentLine(t, b.went(), func(l api.WentLine) bool { return l.What == "check" }); l.PlannedMin < p.Factor*2 {
		t.Errorf("with the pace taken over a check is planned with %.1f min", l.PlannedMin)
	}
	w = api.CarWent{}
	say("wash", 0, 200, &w)
	if l := wash(w); l.Done != 0 || l.SaidMin != nil {
		t.Errorf("taken back: %+v", l)
	}
	if around().Pieces != 0 {
		t.Errorf("it still teaches: %+v", around())
	}
	for what, bad := range map[string]struct {
		minutes float64
		status  int
		want    string
	}{
		mask.What: {-3, 422, "0 to 6000 minutes"}, "varnish": {5, 422, "none of the work"},
		wentLine(t, w, func(l api.WentLine) bool { return l.Step != nil }).What: {30, 409, "No pass with"},
	} {
		var no api.Problem
		if say(what, bad.minutes, bad.status, &no); !strings.Contains(no.Detail, bad.want) {
			t.Errorf("%s for %v min: %s", what, bad.minutes, no.Detail)
		}
	}
}

// All of a ladder is done: what it took stands there, nothing is left of it. Sent back, what was
// done stays done and the new plan is left.
func TestAllIsDoneAndSomeOfItAgain(t *testing.T) {
	b := newBed(t)
	b.worked(0)
	w := b.went()
	steps := func() (out []api.WentLine) {
		for _, l := range w.Lines {
			if l.Step != nil {
				out = append(out, l)
			}
		}
		return out
	}
	film := 0.0
	for _, l := range steps() {
		if film += l.Step.FilmUm.Mean; l.Done != 1 || math.Abs(l.Step.PassesMade-l.Step.PassesPlanned) > 0.01 || math.Abs(l.Step.FilmUm.Mean-l.Step.FilmPlannedUm) > 0.3*l.Step.FilmPlannedUm+0.1 || l.Step.Used <= 0 {
			t.Errorf("made in full: %+v, %+v", l, l.Step)
		}
	}
	if spent := b.proof().SpentUm; spent == nil || math.Abs(spent.Mean-film) > 0.15*film {
		t.Errorf("the steps took %.2f µm, the panel gave %+v", film, spent)
	}
	if f := wentFigure(w, api.WentFigureNameFilm); f.Promised != nil || !strings.Contains(f.Text, "Most went of") {
		t.Errorf("%+v", f)
	}
	before := wentFigure(w, api.WentFigureNameHours).Range.Took.Likely
	b.prove("0001", "back", "", 201)
	if w = b.went(); math.Abs(wentFigure(w, api.WentFigureNameHours).Range.Took.Likely-before) > 0.6 {
		t.Errorf("sent back it took %+v, before %.2f h", wentFigure(w, api.WentFigureNameHours).Range, before)
	}
	again := 0.0
	for _, l := range steps() {
		again += l.Step.FilmUm.Mean
	}
	if math.Abs(again-film) > 0.1*film {
		t.Errorf("sent back the steps took %.2f µm, before %.2f", again, film)
	}
}
