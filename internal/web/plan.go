package web

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/web/api"
)

// ofRecord asks for the plan of record among the ways of a panel.
const ofRecord = "record"

// GetPlan is the ways to what is wanted of a panel, and one of them step by step.
func (s *Server) GetPlan(ctx context.Context, r api.GetPlanRequestObject) (api.GetPlanResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	all, err := b.liveMarks(s.now())
	if err != nil {
		return nil, err
	}
	out := api.Plan{Panel: panelOf(b), Car: summary(b), Sections: sectionsOf(b), Waits: b.waits(), Basis: b.basis(), Ready: b.waits() == "",
		Marks: b.markViews(all, func(j judged) bool { return openMark(j.row) && j.Do != marks.DoPanel }), Tally: b.tally(all),
		Cautions: []string{}, How: []string{}, Offers: []api.OfferLine{}, Points: []api.PlanPoint{}, Things: b.things(), Squares: []api.PlanPoint{}}
	if out.Tries, err = s.triesOf(ctx, b); err != nil {
		return nil, err
	}
	if b.record != nil {
		out.Record = ptr(b.recordOf())
	}
	if b.worked() {
		out.Ready, out.Waits = false, "Work under the plan of record has begun: it stays. What is shown beside it starts from the peel as it was, with the film that is left."
	}
	if b.options == nil {
		return api.GetPlan200JSONResponse(out), nil
	}
	out.Target, out.Looked = b.target(), b.options.Looked
	out.RoomUm = estimate(b.roomDoubt())
	out.TightFromUm = out.RoomUm.Mean
	ways, fits, err := b.options.Offers(b.room())
	if err != nil {
		return nil, err
	}
	if ways == nil {
		if err := b.refusal(&out, &ways); err != nil {
			return nil, err
		}
	}
	for _, p := range thinned(fits) {
		out.Points = append(out.Points, b.point(p))
	}
	if err := b.squares(&out); err != nil {
		return nil, err
	}
	for _, w := range ways {
		out.Offers = append(out.Offers, b.line(w))
	}
	way, err := b.pick(r.Params.Ladder, ways)
	if err != nil {
		return nil, err
	}
	if way != nil {
		out.TightFromUm = way.Ladder.TightFrom(out.RoomUm.Mean)
		o, err := s.offer(b, *way)
		if err != nil {
			return nil, err
		}
		out.Offer = &o
		if way.Offer == plan.Yours {
			out.Offers = append(out.Offers, b.line(*way))
		}
		out.How = b.how(way.Ladder)
		out.Cautions = cautionsOf(way.Ladder)
	}
	return api.GetPlan200JSONResponse(out), nil
}

// pick is the way that is asked for: an offer by its name, the plan of record, or
// a sequence. Without a wish it is the plan of record that holds, or the balanced
// way. nil where there is none.
func (b *bench) pick(wish *string, ways []plan.Way) (*plan.Way, error) {
	want := ""
	if wish != nil {
		want = strings.TrimSpace(*wish)
	}
	named := func(name plan.Offer) *plan.Way {
		if i := slices.IndexFunc(ways, func(w plan.Way) bool { return w.Offer == name }); i >= 0 {
			return &ways[i]
		}
		return nil
	}
	switch {
	case want == ofRecord || want == "" && b.ladder != nil:
		if b.ladder == nil {
			return nil, refuse("ladder", "There is no plan of record for the %s that still holds.", b.row.Name)
		}
		code := plan.Code(b.ladder.Choices())
		for i := range ways {
			if plan.Code(ways[i].Point.Choices) == code {
				return &plan.Way{Offer: ways[i].Offer, Point: ways[i].Point, Ladder: *b.ladder}, nil
			}
		}
		return ptr(yours(b.ladder.Choices(), *b.ladder)), nil
	case want == "":
		if w := named(plan.Balanced); w != nil {
			return w, nil
		}
		return named(plan.Partly), nil
	case named(plan.Offer(want)) != nil:
		return named(plan.Offer(want)), nil
	case want == string(plan.Partly) || slices.Contains(plan.OfferNames, plan.Offer(want)):
		return named(plan.Partly), nil
	}
	l, choices, err := b.workCode(want)
	if err != nil {
		return nil, err
	}
	for i := range ways {
		if plan.Code(ways[i].Point.Choices) == plan.Code(choices) {
			return &ways[i], nil
		}
	}
	return ptr(yours(choices, l)), nil
}

func yours(choices []plan.Choice, l plan.Ladder) plan.Way {
	return plan.Way{Offer: plan.Yours, Ladder: l, Point: plan.Point{Choices: choices, Film: l.Film, Minutes: l.Minutes, Money: l.Money}}
}

// workCode works a sequence that somebody built.
func (b *bench) workCode(code string) (plan.Ladder, []plan.Choice, error) {
	if b.options == nil {
		return plan.Ladder{}, nil, conflict("%s", b.waits())
	}
	choices, err := plan.ParseCode(code, &b.house.shelf)
	if err != nil {
		return plan.Ladder{}, nil, refuse("ladder", "%s.", capital(err.Error()))
	}
	l, err := b.options.Job.Work(choices)
	if err != nil {
		return l, nil, refuse("ladder", "%s.", capital(err.Error()))
	}
	return l, choices, nil
}

// refusal says why nothing is offered, and offers the way that goes furthest.
func (b *bench) refusal(out *api.Plan, ways *[]plan.Way) error {
	room := b.room()
	r, err := b.options.Refuse(room)
	if err != nil {
		return err
	}
	part, ok, err := b.options.Partial(room)
	if err != nil {
		return err
	}
	if ok {
		*ways = []plan.Way{part}
	}
	out.Refusal = ptr(b.refusalOf(r))
	return nil
}

// squares lists what is worth trying on a square, the mildest first.
func (b *bench) squares(out *api.Plan) error {
	list, err := plan.Mildest(b.options.Job, b.room())
	if err != nil {
		return err
	}
	const most = 6
	for _, p := range list[:min(len(list), most)] {
		out.Squares = append(out.Squares, b.point(p))
	}
	return nil
}

// fits is the state of a way on the sections that it is for. Before the panel was
// read enough nothing is open.
func (b *bench) fits(l plan.Ladder) film.State {
	if b.waits() != "" {
		return film.Tight
	}
	if state := l.Fits(b.room()); state != film.Open {
		return state
	}
	_, st := b.worstFor(l)
	return st.State
}

// worstFor is the section that decides for a ladder before it is of record: the
// tightest of those whose headroom it fits, or the roomiest where it fits none.
func (b *bench) worstFor(l plan.Ladder) (film.SectionFilm, level.Standing) {
	var at film.SectionFilm
	var room float64
	for i, s := range b.opened.Study.Sections {
		h := b.headroomOf(s)
		fits, fit := h >= l.FilmOn(s.Key), room >= l.FilmOn(at.Key)
		if i == 0 || fits && (!fit || h < room) || !fits && !fit && h > room {
			at, room = s, h
		}
	}
	return at, b.standingFor(at, l.FilmOn(at.Key))
}

// leftOut says which sections a ladder does not fit while it fits others.
func (b *bench) leftOut(l plan.Ladder) string {
	var names []string
	for _, s := range b.opened.Study.Sections {
		if b.headroomOf(s) < l.FilmOn(s.Key) {
			names = append(names, s.Name)
		}
	}
	if len(names) == 0 || len(names) == len(b.opened.Study.Sections) {
		return ""
	}
	return " Not on " + strings.Join(names, ", ") + ": less may go there. Level stops in time, or read more."
}

// waits says what is missing before a plan can be judged.
func (b *bench) waits() string {
	switch missing := enoughSpots - len(b.live()); {
	case len(b.sections) == 0:
		return "This panel has no place 25 mm off its edges: nothing of it is worked by block or disc."
	case b.lent != nil:
		return ""
	case b.row.Substrate == string(api.Plastic):
		return "Plastic carries no reading. It borrows from neighbours of the same spraying: read those first."
	case b.opened.Study == nil:
		return "Waits for Read: " + count(enoughSpots, "spot") + ". You can plan now; every offer is shown as tight until they are in."
	case missing > 0:
		return "Waits for Read: " + count(missing, "spot") + " more. The figures rest on " + count(len(b.live()), "reading") + "."
	}
	return ""
}

// ladderInHand is the plan of record's sequence, or the best within the film
// without it; empty where nothing fits.
func (b *bench) ladderInHand() plan.Ladder {
	if b.ladder != nil {
		return *b.ladder
	}
	r, err := b.bestWay()
	if err != nil {
		panic(err) // the search found it on this very shelf
	}
	return r.Way.Ladder
}

// panelLadder is the sequence for the whole panel that spotting is held against:
// the one in hand, or where the aim leaves the texture, one to flat.
func (b *bench) panelLadder() plan.Ladder {
	if b.aim().Levels() {
		return b.ladderInHand()
	}
	r, err := b.whole.Best(math.Inf(1))
	if err != nil {
		panic(err) // as above
	}
	return r.Way.Ladder
}

func (s *Server) offer(b *bench, w plan.Way) (api.Offer, error) {
	l := w.Ladder
	hours, late := l.Hours()
	sheets, discs := l.Paper()
	out := api.Offer{
		Name: api.OfferName(w.Offer), Ladder: plan.Code(w.Point.Choices), FilmUm: api.Estimate{Mean: l.Film, Sd: l.FilmSD},
		Hours: api.Estimate{Mean: hours, Sd: late}, WaitMinutes: l.Wait, Money: l.Money, Sheets: sheets, Discs: discs, State: api.State(b.fits(l)),
		Start: s.texture(l.Start), Steps: s.stepsOf(b, l), Whys: []api.PlanWhy{}, Warnings: []string{},
	}
	if st := b.opened.Study; st != nil {
		at, standing := b.worstFor(l)
		if b.ladder != nil && plan.Code(b.ladder.Choices()) == out.Ladder {
			at, standing = b.worst()
		}
		keeps := standing.Keeps(l.FilmSD)
		out.KeepsUm, out.HeadroomUm, out.FloorUm, out.ClearUm, out.TotalUm = estimate(keeps), standing.Headroom, at.Policy.Floor, estimate(standing.Clear), estimate(standing.Film)
		out.Reason, out.Tightest = stateReason(standing, at.Policy.Floor)+b.leftOut(l), at.Name
	} else {
		g := film.GuessOf(b.history())
		e := g.Least.Estimate()
		out.KeepsUm, out.HeadroomUm, out.FloorUm, out.ClearUm = estimate(film.Estimate{Mean: e.Mean - l.Film, SD: e.SD}), b.room(), g.Policy.Floor, estimate(e)
		out.Reason = guessReason(g, b.history())
	}
	for _, warning := range l.Warnings {
		if warning.Step == 0 {
			out.Warnings = append(out.Warnings, warnText(warning))
		}
	}
	if room := b.room(); l.Film > room {
		out.Warnings = append(out.Warnings, fmt.Sprintf("Takes %s µm and %s may go: no headroom for it. It cannot be accepted as it is.", um(l.Film), mayGo(room)))
	}
	var err error
	out.Whys, err = b.whys(w)
	return out, err
}

// whys gives the reasons for a way, and what holds it back.
func (b *bench) whys(w plan.Way) ([]api.PlanWhy, error) {
	room := b.room()
	out := []api.PlanWhy{whyThis(w, b.options.Job.Shelf.Law)}
	if left, beside := b.options.Pebble(w.Ladder); beside > 0 {
		out = append(out, pebbleWhy(left, beside))
	}
	if w.Offer == plan.Yours {
		return out, nil
	}
	for _, because := range b.options.Why(w, room) {
		out = append(out, b.whyOf(because, w))
	}
	limits, err := b.options.Limits(w, room)
	if err != nil {
		return nil, err
	}
	for _, because := range limits {
		out = append(out, b.whyOf(because, w))
	}
	return out, nil
}
