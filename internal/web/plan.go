package web

import (
	"context"
	"fmt"

	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// GetPlan is the ways to what is wanted of a panel, and one of them step by step.
func (s *Server) GetPlan(ctx context.Context, r api.GetPlanRequestObject) (api.GetPlanResponseObject, error) {
	p, err := s.shop.Panel(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	if err := p.Ask(r.Params.Gone); err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.Plan{Panel: v.panel(p), Car: v.summary(p), Sections: v.sections(p), Waits: v.Lacks(p), Basis: p.Basis(), Ready: p.Lacks() == panel.LacksNothing,
		Cautions: []string{}, How: []string{}, Offers: []api.OfferLine{}, Points: []api.PlanPoint{}, Things: thingsOf(p), Squares: []api.PlanPoint{}, SquaresSeen: []api.Square{}}
	if err := s.marksToWork(ctx, p, &out); err != nil {
		return nil, err
	}
	tries, err := s.shop.Tries(ctx, p)
	if err != nil {
		return nil, err
	}
	squares, err := s.shop.Squares(ctx, p)
	if err != nil {
		return nil, err
	}
	out.SquaresSeen = each(squares, v.square)
	out.Floors = each(p.OwnFloors(), v.agreed)
	if f := p.Agreed(); f != nil {
		out.Agreed = ptr(v.agreed(*f))
	}
	out.Tries = each(tries, func(t panelwork.Try) api.Try { return v.try(t, p) })
	if p.Record != nil {
		if out.Record, err = v.record(p); err != nil {
			return nil, err
		}
	}
	if p.Worked() {
		out.Ready, out.Waits = false, wording.Begun
	}
	if p.Options != nil {
		err = v.ways(p, given(r.Params.Ladder), &out)
	}
	return api.GetPlan200JSONResponse(out), err
}

// marksToWork are the marks that the panel's own steps do not take along.
func (s *Server) marksToWork(ctx context.Context, p *panel.Panel, out *api.Plan) error {
	all, err := s.shop.JudgedMarks(p)
	if err != nil {
		return err
	}
	var own []panel.JudgedMark
	for _, m := range all {
		if m.Open() && m.Do != marks.DoPanel {
			own = append(own, m)
		}
	}
	tally, err := panelwork.TallyOf(p, all)
	v := viewOf(ctx)
	out.Marks, out.Tally = v.marks(own, p), v.tally(tally, p)
	return err
}

// ways are what is offered, and the one that is asked for step by step.
func (v view) ways(p *panel.Panel, wish string, out *api.Plan) error {
	out.Target, out.Looked = v.Target(p), p.Options.Looked
	out.RoomUm = estimate(p.PlanHeadroomEstimate())
	out.TightFromUm = p.OpenHeadroom()
	offers, err := p.Offers()
	if err != nil {
		return err
	}
	if offers.Refusal != nil {
		refusal, err := v.refusal(p, *offers.Refusal)
		if err != nil {
			return err
		}
		out.Refusal = &refusal
	}
	toTry, err := p.ToTry()
	if err != nil {
		return err
	}
	out.Correct = v.correct(p)
	at := func(pt plan.Point) api.PlanPoint { return v.point(pt, p) }
	out.Points, out.Squares = each(thinned(offers.Fits), at), each(toTry, at)
	out.Offers = each(offers.Ways, func(w plan.Way) api.OfferLine { return line(w, p) })
	way, err := p.Pick(wish, offers.Ways)
	if err != nil || way == nil {
		return err
	}
	if out.Correct != nil {
		out.Correct.Parts = each(advice.PartsUnder(p, way.Ladder), v.PartShare)
	}
	offered, err := p.Offered(*way)
	if err != nil {
		return err
	}
	out.Offer = ptr(v.offer(offered, p))
	if way.Offer == plan.Yours {
		out.Offers = append(out.Offers, line(*way, p))
	}
	out.How, out.Cautions = v.How(p.House.Rules, way.Ladder, p.KeptDry()), v.Cautions(way.Ladder, p.KeptDry())
	return nil
}

func (v view) refusal(p *panel.Panel, r plan.Refusal) (api.Refusal, error) {
	out := api.Refusal{NeedUm: r.Need, RoomUm: r.Room, Text: v.Refused(p, r), Ways: []api.WayOn{}, Points: each(thinned(p.Options.Fits(shownTimes*r.Need)), func(pt plan.Point) api.PlanPoint { return v.point(pt, p) })}
	if p.Study == nil {
		out.Ways = append(out.Ways, api.WayOn{Code: api.WayOnCodeRead, Group: api.WayOnGroupQuestion, Head: "Read it first", Text: v.Lacks(p)})
		return out, nil
	}
	on, err := advice.FindWaysOn(p)
	if err != nil {
		return out, err
	}
	sec, st := on.Section, on.Standing
	least := sec.Least.Estimate()
	out.Needs, out.FloorUm, out.ThroughUm = v.Needs(on), ptr(sec.Policy.Floor), &on.Locks
	out.ChanceFloor, out.ChanceThrough, out.Known = ptr(v.Chance(st.Under)), ptr(v.Chance(st.Through)), ptr(v.KnownOf(p))
	out.ClearUm = &api.ClearRange{Mean: least.Mean, Low: sec.Least.Quantile(0.05), High: sec.Least.Quantile(0.95), Shape: sec.Least.Shape(shapeStep)}
	out.Bars = ptr(each(on.Bars, func(b advice.FloorBar) api.FloorBar {
		return api.FloorBar{FloorUm: b.Floor, OpenUm: b.Open, TightUm: b.Tight}
	}))
	if on.Offered > 0 {
		out.OfferedUm = &on.Offered
	}
	for _, w := range on.Ways {
		out.Ways = append(out.Ways, v.wayOn(p, on, w))
	}
	return out, nil
}

// shownTimes is how many times the least film the sequences take at most that a refusal's
// picture shows.
const shownTimes = 1.9

// wayGroups are the groups of the ways on.
var wayGroups = map[advice.WayOnCode]api.WayOnGroup{advice.OnFloor: api.WayOnGroupAim, advice.OnCoat: api.WayOnGroupAim, advice.OnShelf: api.WayOnGroupAim,
	advice.OnQuestion: api.WayOnGroupQuestion, advice.OnAim: api.WayOnGroupLess, advice.OnSofter: api.WayOnGroupLess, advice.OnLeave: api.WayOnGroupLess}

func (v view) wayOn(p *panel.Panel, on advice.WaysOn, w advice.WayOn) api.WayOn {
	said := v.Words.WayOn(p, on, w)
	out := api.WayOn{Code: api.WayOnCode(w.Code), Group: wayGroups[w.Code], Head: said.Head, Text: said.Text, Chance: said.Chance}
	if w.Verdict != nil && w.Code != advice.OnLeave {
		out.State = ptr(api.State(w.Verdict.State))
	}
	if w.Code == advice.OnAim {
		out.Aim = ptr(api.Aim(w.Aim))
	}
	if w.Floor > 0 {
		out.FloorUm = &w.Floor
	}
	if w.Help != nil {
		out.Help, out.How = ptr(api.WayOnHelp(w.Help.Code)), ptr(v.Wanted(*w.Help))
	}
	if said.Say != "" {
		out.Say = &said.Say
	}
	if w.Film > 0 {
		out.FilmUm, out.Hours = &w.Film, ptr(w.Minutes/60)
	}
	return out
}

func (v view) agreed(f panel.AgreedFloor) api.AgreedFloor {
	out := api.AgreedFloor{Id: f.ID, FloorUm: f.Floor, Person: f.Person, Reason: f.Reason, At: f.At, Text: v.Agreed(f)}
	if f.PanelID != "" {
		out.Panel = &f.PanelID
	}
	if f.Struck != nil {
		out.StruckAt, out.StruckReason = &f.Struck.At, &f.Struck.Reason
	}
	return out
}

// AgreeFloor keeps a floor that the owner agreed to.
func (s *Server) AgreeFloor(ctx context.Context, r api.AgreeFloorRequestObject) (api.AgreeFloorResponseObject, error) {
	in := r.Body
	p, err := s.shop.AgreeFloor(ctx, r.PanelId, panelwork.NewFloor{ID: in.Id, WholeCar: given(in.WholeCar), Floor: in.FloorUm, Person: in.Person, Reason: in.Reason})
	if err != nil {
		return nil, err
	}
	return api.AgreeFloor201JSONResponse(viewOf(ctx).agreed(*p.Agreed())), nil
}

// StrikeFloor takes back what was agreed.
func (s *Server) StrikeFloor(ctx context.Context, r api.StrikeFloorRequestObject) (api.StrikeFloorResponseObject, error) {
	return api.StrikeFloor204Response{}, s.shop.StrikeFloor(ctx, r.FloorId, r.Body.Reason)
}

// mostPoints is how many sequences a picture is sent.
const mostPoints = 220

// thinned leaves of many sequences the front and as many others as a picture can
// show.
func thinned(fits []plan.Point) []plan.Point {
	if len(fits) <= mostPoints {
		return fits
	}
	var out []plan.Point
	every := float64(len(fits)) / mostPoints
	next := 0.0
	for i, p := range fits {
		if float64(i) >= next || p.Front {
			out = append(out, p)
		}
		if float64(i) >= next {
			next += every
		}
	}
	return out
}

// thingsOf lists what a step may be made with.
func thingsOf(p *panel.Panel) []api.Thing {
	out := []api.Thing{}
	for _, c := range plan.Cutters(&p.House.Shelf) {
		if c.Have {
			out = append(out, api.Thing{Item: c.Item, Backing: c.Backing, Title: c.Title, What: c.What, Tool: string(c.Tool)})
		}
	}
	return out
}

func (v view) point(pt plan.Point, p *panel.Panel) api.PlanPoint {
	return api.PlanPoint{Ladder: plan.Code(pt.Choices), FilmUm: hundredth(pt.Film), Hours: hundredth(pt.Minutes / 60), Money: hundredth(pt.Money),
		Clarity: hundredth(pt.Clarity), Front: pt.Front, Text: v.Steps(pt.Choices, &p.House.Shelf), Gone: share(p, pt.Gone)}
}

// share is the share of the swirls that a sequence takes, where that is what it is for.
func share(p *panel.Panel, gone float64) *float64 {
	if p.Options == nil || !p.Options.Job.Corrects() {
		return nil
	}
	return ptr(hundredth(gone))
}

// correct is what a polish is asked for, and the packages that an owner chooses between.
func (v view) correct(p *panel.Panel) *api.Correct {
	j := p.Options.Job
	if p.Aim != plan.PolishOnly || !j.Condition.Said() {
		return nil
	}
	out := &api.Correct{Gone: j.Gone, Most: plan.MostGone, Text: v.Condition(p), Packages: []api.Package{}, Parts: []string{}}
	packages := p.Options.Packages(p.PlanHeadroom())
	for _, name := range plan.Packages {
		if pt, ok := packages[name]; ok {
			title, text := v.Package(name, pt)
			out.Packages = append(out.Packages, api.Package{Name: api.PackageName(name), Title: title, Text: text, Ladder: plan.Code(pt.Choices), Gone: pt.Gone})
		}
	}
	return out
}

func line(w plan.Way, p *panel.Panel) api.OfferLine {
	hours, late := w.Ladder.Hours()
	return api.OfferLine{Name: api.OfferName(w.Offer), Ladder: plan.Code(w.Point.Choices), FilmUm: api.Estimate{Mean: w.Ladder.Film, Sd: w.Ladder.FilmSD},
		Hours: api.Estimate{Mean: hours, Sd: late}, Money: w.Ladder.Money, PeelLeft: w.Ladder.End().Grade(), Clarity: w.Ladder.End().Clarity(),
		State: api.State(p.State(w.Ladder)), Gone: share(p, w.Ladder.Gone())}
}

func (v view) offer(o panel.OfferedWay, p *panel.Panel) api.Offer {
	l := o.Ladder
	hours, late := l.Hours()
	sheets, discs := l.Paper()
	out := api.Offer{
		Name: api.OfferName(o.Offer), Ladder: plan.Code(o.Point.Choices), FilmUm: api.Estimate{Mean: l.Film, Sd: l.FilmSD},
		Hours: api.Estimate{Mean: hours, Sd: late}, WaitMinutes: l.Wait, Money: l.Money, Sheets: sheets, Discs: discs, State: api.State(o.State),
		Start: texture(l.Start), Steps: v.steps(p, l), Warnings: []string{}, Reason: v.Offered(p, o),
		Whys: each(o.Why, func(y panel.Why) api.PlanWhy { return v.why(y, p) }),
	}
	if now, ok := p.AsItIs(); ok {
		out.Start = texture(now)
	}
	var clear film.Estimate
	if o.Guess != nil {
		clear = o.Guess.Least.Estimate()
		guess := o.Guess.Policy.Judge(o.Guess.Least, film.GateAsk, film.SpendUnmapped(l.Film), p.Aim.SpotsOnly())
		out.ChanceFloor, out.ChanceThrough = v.Chance(guess.Under), v.Chance(guess.Through)
		out.KeepsUm, out.HeadroomUm, out.FloorUm = estimate(clear.Less(l.Film)), o.Room, o.Guess.Policy.Floor
	} else {
		clear = o.Standing.Clear
		out.KeepsUm, out.HeadroomUm, out.FloorUm = estimate(o.Standing.Keeps(l.FilmSD)), o.Standing.Headroom, o.Section.Policy.Floor
		out.ChanceFloor, out.ChanceThrough = v.Chance(o.Standing.Under), v.Chance(o.Standing.Through)
		out.TotalUm, out.Tightest = estimate(o.Standing.Film), o.Section.Name
	}
	out.ClearUm, out.EndsUm = estimate(clear), l.Ends(clear.Mean)
	for _, w := range l.Warnings {
		if w.Step == 0 {
			out.Warnings = append(out.Warnings, v.Warning(w))
		}
	}
	if l.Film > o.Room {
		out.Warnings = append(out.Warnings, v.TooMuch(l.Film, o.Room))
	}
	return out
}

func (v view) why(y panel.Why, p *panel.Panel) api.PlanWhy {
	out := api.PlanWhy{Code: string(y.Code)}
	out.Head, out.Text = v.Why(y, &p.House.Shelf)
	if y.Other != nil && y.Code != plan.WhyFinerSlow {
		out.Ladder = ptr(plan.Code(y.Other))
	}
	return out
}

// profileEvery is how many points of the field lie between two of a profile.
const profileEvery = 2

func texture(t surface.Surface) api.Texture {
	out := api.Texture{PeelGrade: t.Grade(), Clarity: t.Clarity(), Gloss: t.Gloss20(), Profile: []api.Point{}}
	for _, q := range piece().Profile(t, profileEvery) {
		out.Profile = append(out.Profile, api.Point{X: q[0], Y: q[1]})
	}
	return out
}

func (v view) steps(p *panel.Panel, l plan.Ladder) []api.Step {
	out := []api.Step{}
	for i, st := range l.Steps {
		n := api.Step{
			No: i + 1, Kind: api.StepKind(st.Kind), Item: st.Item, Backing: st.Choice.Backing, Title: st.Title, What: st.What, Tool: string(st.Tool), Stroke: st.Stroke,
			Passes: st.Passes, Needs: st.Needs, RateUm: st.Rate, FilmUm: api.Estimate{Mean: st.Film, Sd: st.FilmSD()}, GaugeUm: st.Gauge,
			Minutes: st.Minutes, Pieces: st.Pieces, Money: st.Money, ScratchUm: st.Scratch, Shiny: st.After.Shiny(st.Scratch),
			After: texture(st.After), Why: v.Step(st), Warnings: []string{}, Area: p.SectionName(st.Area), Gone: share(p, st.Gone),
		}
		for _, w := range l.Warnings {
			if w.Step == i+1 {
				n.Warnings = append(n.Warnings, v.Warning(w))
			}
		}
		out = append(out, n)
	}
	return out
}

// paints are the colours of the pictures, linear 0 to 1.
var paints = map[string]surface.Paint{
	string(plan.Dark):   {0.055, 0.06, 0.085},
	string(plan.Medium): {0.16, 0.17, 0.18},
	string(plan.Light):  {0.52, 0.53, 0.50},
}

const picturePxPerMM = 9.2

// GetPicture draws what the panel mirrors of the strip lamps after a step.
func (s *Server) GetPicture(ctx context.Context, r api.GetPictureRequestObject) (api.GetPictureResponseObject, error) {
	at, err := s.shop.Surface(ctx, r.PanelId, given(r.Params.Ladder), r.No)
	if err != nil {
		return nil, err
	}
	pic, err := drawn(at, stepLamp)
	if err != nil {
		return nil, err
	}
	return api.GetPicture200ImagepngResponse{Body: pic, ContentLength: int64(pic.Len())}, nil
}

func (v view) record(p *panel.Panel) (*api.PlanRecord, error) {
	r := p.Record
	out := &api.PlanRecord{Id: r.ID, Version: r.Version, AcceptedAt: r.AcceptedAt, FilmUm: r.Film, State: api.State(r.State), Offer: api.OfferName(r.Offer)}
	out.Why = each(r.Why, func(y panel.Why) string {
		head, text := v.Why(y, &p.House.Shelf)
		if head == "" {
			return text
		}
		return fmt.Sprintf("%s %s", head, text)
	})
	m, err := p.Recipe()
	if err != nil {
		return nil, err
	}
	out.Ladder = plan.Code(m.Choices)
	if p.Stale() {
		out.Stale = v.Stale(p)
	}
	return out, nil
}

// AcceptPlan freezes a sequence as the plan of record.
func (s *Server) AcceptPlan(ctx context.Context, r api.AcceptPlanRequestObject) (api.AcceptPlanResponseObject, error) {
	p, err := s.shop.AcceptPlan(ctx, r.PanelId, r.Body.Ladder, r.Body.Basis)
	if err != nil {
		return nil, err
	}
	out, err := viewOf(ctx).record(p)
	if err != nil {
		return nil, err
	}
	return api.AcceptPlan201JSONResponse(*out), nil
}

func (v view) try(t panelwork.Try, p *panel.Panel) api.Try {
	measured := func(m plan.Measured) api.Estimate { return api.Estimate{Mean: m.Value, Sd: m.SD} }
	g := t.Gain
	out := api.Try{Id: t.ID, No: t.No, Section: t.Section, SectionName: p.SectionName(t.Section), Ladder: t.Ladder, Steps: v.Steps(t.Choices, &p.House.Shelf),
		ExpectsUm: t.Expects, At: t.At, Person: t.Person, FilmUm: measured(g.Film), Clarity: measured(g.Clarity), Looks: api.TryLooks(g.Looks), Text: v.Try(t), Used: t.Used}
	if t.Note != "" {
		out.Note = &t.Note
	}
	if t.Gloss {
		out.Gloss = ptr(measured(g.Gloss))
	}
	if g.PerClarity.Value > 0 {
		out.PerClarityUm = ptr(measured(g.PerClarity))
	}
	return out
}

// AddTry keeps what was read on a try square.
func (s *Server) AddTry(ctx context.Context, r api.AddTryRequestObject) (api.AddTryResponseObject, error) {
	in := r.Body
	p, t, err := s.shop.AddTry(ctx, r.PanelId, panelwork.NewTry{ID: in.Id, Section: in.Section, Ladder: in.Ladder, Person: in.Person, Note: given(in.Note),
		FilmBefore: in.FilmBeforeUm, FilmAfter: in.FilmAfterUm, Spots: in.Spots, GlossBefore: in.GlossBefore, GlossAfter: in.GlossAfter,
		ClarityBefore: in.ClarityBefore, ClarityAfter: in.ClarityAfter})
	if err != nil {
		return nil, err
	}
	return api.AddTry201JSONResponse(viewOf(ctx).try(t, p)), nil
}

// StrikeTry strikes a try square out.
func (s *Server) StrikeTry(ctx context.Context, r api.StrikeTryRequestObject) (api.StrikeTryResponseObject, error) {
	return api.StrikeTry204Response{}, s.shop.StrikeTry(ctx, r.TryId, r.Body.Reason)
}

// UseTry puts the process of a try into the plan of record for its section only.
func (s *Server) UseTry(ctx context.Context, r api.UseTryRequestObject) (api.UseTryResponseObject, error) {
	p, err := s.shop.UseTry(ctx, r.TryId)
	if err != nil {
		return nil, err
	}
	out, err := viewOf(ctx).record(p)
	if err != nil {
		return nil, err
	}
	return api.UseTry200JSONResponse(*out), nil
}
