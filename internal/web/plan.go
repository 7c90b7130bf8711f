package web

import (
	"bytes"
	"context"
	"fmt"
	"image/png"

	"github.com/google/uuid"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// GetPlan is the sequence for a panel, and the plan of record beside it.
func (s *Server) GetPlan(ctx context.Context, r api.GetPlanRequestObject) (api.GetPlanResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	all, err := b.liveMarks(s.now())
	if err != nil {
		return nil, err
	}
	other := ""
	if b.ladder == nil && b.aim() != marks.Flat {
		other = b.otherAim()
	}
	out := api.Plan{OtherAim: other, Panel: panelOf(b), Car: summary(b), Sections: sectionsOf(b), Cautions: []string{}, Waits: b.waits(),
		Marks: b.markViews(all, func(j judged) bool { return openMark(j.row) && j.Do != marks.DoPanel }), Tally: b.tally(all)}
	for _, k := range []plan.StepKind{plan.LevelStep, plan.CompoundStep} {
		out.Cautions = append(out.Cautions, caution(k))
	}
	if b.opened.Study != nil && len(b.sections) > 0 {
		out.Offer = ptr(s.offer(b))
	}
	if b.record != nil {
		out.Record = ptr(b.recordOf())
	}
	return api.GetPlan200JSONResponse(out), nil
}

// otherAim says why the one sequence that there is does not serve the aim.
func (b *bench) otherAim() string {
	text := "The aim here is " + aimWords[b.aim()] + ", and the sequence goes all the way to flat. "
	if b.aim() == marks.NibsOnly {
		return text + "Spot the marks in Look, or change the aim in Take in."
	}
	return text + "Change the aim in Take in to use it."
}

// waits says what is missing before a plan can be judged.
func (b *bench) waits() string {
	switch missing := enoughSpots - len(b.live()); {
	case b.row.Substrate == "plastic":
		return "Plastic carries no reading; its film is borrowed from neighbours, which is not built yet."
	case len(b.sections) == 0:
		return "This panel has no place 25 mm off its edges: nothing of it is worked by block or disc."
	case b.opened.Study == nil:
		return "Waits for Read: " + count(enoughSpots, "spot") + "."
	case missing > 0:
		return "Waits for Read: " + count(missing, "spot") + " more. The figures below rest on " + count(len(b.live()), "reading") + "."
	}
	return ""
}

// ladderInHand is the plan of record's sequence, or the fresh one without it.
func (b *bench) ladderInHand() plan.Ladder {
	if b.ladder != nil {
		return *b.ladder
	}
	return b.fresh
}

func (s *Server) offer(b *bench) api.Offer {
	l := b.ladderInHand()
	at, st := b.worst()
	if b.ladder == nil {
		at, st = b.worstBy(func(s film.SectionFilm) level.Standing { return b.standingFor(s, l.Film) })
	}
	keeps := st.Keeps(l.FilmSD)
	hours, late := l.Hours()
	sheets, discs := l.Paper()
	return api.Offer{
		FilmUm: api.Estimate{Mean: l.Film, Sd: l.FilmSD}, KeepsUm: estimate(keeps), HeadroomUm: st.Headroom,
		FloorUm: b.opened.Study.Policy.Floor, ClearUm: estimate(st.Clear), TotalUm: estimate(st.Film),
		Hours: api.Estimate{Mean: hours, Sd: late}, Sheets: sheets, Discs: discs, State: api.State(st.State),
		Reason: stateReason(st, b.opened.Study.Policy.Floor), Why: planWhy(l, keeps), Tightest: at.Name,
		Start: s.texture(l.Start), Steps: s.stepsOf(l), Basis: b.basis(),
	}
}

// profileEvery is how many points of the field lie between two of a profile.
const profileEvery = 2

func (s *Server) texture(t surface.Surface) api.Texture {
	out := api.Texture{PeelGrade: t.Grade(), Clarity: t.Clarity(), Gloss: t.Gloss20(), Profile: []api.Point{}}
	for _, q := range piece().Profile(t, profileEvery) {
		out.Profile = append(out.Profile, api.Point{X: q[0], Y: q[1]})
	}
	return out
}

func (s *Server) stepsOf(l plan.Ladder) []api.Step {
	out := []api.Step{}
	for i, st := range l.Steps {
		out = append(out, api.Step{
			No: i + 1, Kind: api.StepKind(st.Kind), Title: st.Title, What: st.What, Tool: string(st.Tool), Stroke: st.Stroke,
			Passes: st.Passes, RateUm: st.Rate, FilmUm: api.Estimate{Mean: st.Film, Sd: st.FilmSD()}, GaugeUm: st.Gauge,
			Minutes: st.Minutes, Sheets: st.Sheets, ScratchUm: st.Scratch, Shiny: st.After.Shiny(st.Scratch),
			After: s.texture(st.After), Why: stepWhy(st),
		})
	}
	return out
}

func (b *bench) recordOf() api.PlanRecord {
	r := b.record
	out := api.PlanRecord{Id: r.ID, Version: r.Version, AcceptedAt: r.AcceptedAt, FilmUm: r.FilmUM, State: api.State(r.State)}
	if r.Basis != b.basis() {
		out.Stale = "What the plan rests on has changed since it was accepted: it had " + count(r.Readings, "reading") +
			" and peel grade " + fmt.Sprintf("%.1f", r.PeelGrade) + "; look at it again."
	}
	return out
}

// AcceptPlan freezes the sequence as the plan of record.
func (s *Server) AcceptPlan(ctx context.Context, r api.AcceptPlanRequestObject) (api.AcceptPlanResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	if text := b.waits(); text != "" {
		return nil, conflict("%s", text)
	}
	if b.aim() != marks.Flat {
		return nil, conflict("%s", b.otherAim())
	}
	if r.Body.Basis != b.basis() {
		return nil, conflict("Readings or facts changed while you looked. Look at the plan again before it counts.")
	}
	b.ladder, b.stood = nil, map[string]level.Standing{} // judged afresh, not by the record before it
	if n := b.shut(); n == len(b.sections) {
		_, st := b.worst()
		return nil, conflict("No section allows this: %s", stateReason(st, b.opened.Study.Policy.Floor))
	}
	_, st := b.worst()
	row := store.Plan{ID: uuid.NewString(), PanelID: b.row.ID, AcceptedAt: s.now(), Basis: b.basis(), PeelGrade: b.row.PeelGrade,
		Colour: b.car.Colour, Start: b.fresh.Steps[0].Item, FilmUM: b.fresh.Film, State: string(st.State), Readings: len(b.live())}
	for i, step := range b.fresh.Steps {
		row.Steps = append(row.Steps, store.Step{PlanID: row.ID, No: i + 1, Kind: string(step.Kind), Item: step.Item,
			Title: step.Title, What: step.What, Passes: step.Passes, RateUM: step.Rate, FilmUM: step.Film, Minutes: step.Minutes})
	}
	if err := s.store.AcceptPlan(ctx, &row); err != nil {
		return nil, err
	}
	if b, err = s.open(ctx, b.row.ID); err != nil {
		return nil, err
	}
	return api.AcceptPlan201JSONResponse(b.recordOf()), nil
}

// shut counts the sections that what is wanted does not fit.
func (b *bench) shut() int {
	n := 0
	for _, s := range b.opened.Study.Sections {
		if b.standing(s).State == film.Shut {
			n++
		}
	}
	return n
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
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	l := b.ladderInHand()
	if r.No < 0 || r.No > len(l.Steps) {
		return nil, store.ErrMissing
	}
	at := l.Start
	if r.No > 0 {
		at = l.Steps[r.No-1].After
	}
	var buf bytes.Buffer
	if err := png.Encode(&buf, piece().Shape(at).Render(surface.ShopLamps, paints[b.car.Colour], picturePxPerMM)); err != nil {
		return nil, err
	}
	return api.GetPicture200ImagepngResponse{Body: &buf, ContentLength: int64(buf.Len())}, nil
}
