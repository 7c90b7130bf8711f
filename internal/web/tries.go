package web

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strings"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// What may be read on a try square.
const (
	mostFilm  = 2000.0 // µm
	mostSpots = 50
)

// triesOf are the try squares of a panel.
func (s *Server) triesOf(ctx context.Context, b *bench) ([]api.Try, error) {
	rows, err := s.store.Tries(ctx, b.row.ID)
	if err != nil {
		return nil, err
	}
	out := []api.Try{}
	for _, row := range rows {
		t, err := s.tryOf(b, row)
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}

func (s *Server) tryOf(b *bench, row store.Try) (api.Try, error) {
	var m plan.Made
	if err := json.Unmarshal([]byte(row.Made), &m); err != nil {
		return api.Try{}, fmt.Errorf("try %s: %w", row.ID, err)
	}
	l, err := m.Ladder()
	if err != nil {
		return api.Try{}, fmt.Errorf("try %s: %w", row.ID, err)
	}
	// Both readings of a spot are taken with one gauge, each as a whole spot.
	noise := level.DifferenceNoise(b.gauge.A, b.gauge.Replace, 1, row.Spots) / math.Sqrt2
	look := plan.Try{
		FilmBefore: plan.Measured{Value: row.FilmBeforeUM, SD: noise}, FilmAfter: plan.Measured{Value: row.FilmAfterUM, SD: noise},
		ClarityBefore: plan.Measured{Value: row.ClarityBefore, SD: plan.ClarityNoise}, ClarityAfter: plan.Measured{Value: row.ClarityAfter, SD: plan.ClarityNoise},
	}
	out := api.Try{Id: row.ID, No: int(row.Seq), Section: row.Section, SectionName: b.sectionName(row.Section), Ladder: row.Ladder,
		Steps: b.stepsText(m.Choices), ExpectsUm: l.Film, At: row.At, Person: row.Person}
	if row.Note != "" {
		out.Note = &row.Note
	}
	if row.GlossBefore != nil && row.GlossAfter != nil {
		look.GlossBefore, look.GlossAfter = plan.Measured{Value: *row.GlossBefore, SD: plan.GlossNoise}, plan.Measured{Value: *row.GlossAfter, SD: plan.GlossNoise}
	}
	g := look.Gain()
	measured := func(v plan.Measured) api.Estimate { return api.Estimate{Mean: v.Value, Sd: v.SD} }
	out.FilmUm, out.Clarity, out.Looks = measured(g.Film), measured(g.Clarity), api.TryLooks(g.Looks)
	if row.GlossBefore != nil {
		out.Gloss = ptr(measured(g.Gloss))
	}
	if g.PerClarity.Value > 0 {
		out.PerClarityUm = ptr(measured(g.PerClarity))
	}
	out.Text = tryText(g, l.Film)
	if b.record != nil {
		if made, err := b.made(); err == nil {
			out.Used = plan.Code(made.Areas[row.Section]) == row.Ladder
		}
	}
	return out, nil
}

// tryText says what a try gained and cost, no more than its instruments can tell.
func tryText(g plan.Gain, expects float64) string {
	looks := map[plan.Verdict]string{plan.NoDifference: "No real difference to the eye", plan.Better: "Better", plan.Worse: "Worse"}[g.Looks]
	text := fmt.Sprintf("%s: clarity %+.0f ± %.0f for %s µm of film", looks, g.Clarity.Value, g.Clarity.SD, plusMinus(film.Estimate{Mean: g.Film.Value, SD: g.Film.SD}))
	if g.PerClarity.Value > 0 {
		text += fmt.Sprintf(", %s µm for ten of clarity", plusMinus(film.Estimate{Mean: g.PerClarity.Value, SD: g.PerClarity.SD}))
	}
	text += "."
	if d, v := plan.Difference(plan.Measured{Value: expects}, g.Film); v != plan.NoDifference {
		side := "more"
		if d.Value < 0 {
			side = "less"
		}
		text += fmt.Sprintf(" It took %s µm %s than the plan expects.", um(math.Abs(d.Value)), side)
	}
	return text
}

// AddTry keeps what was read on a try square.
func (s *Server) AddTry(ctx context.Context, r api.AddTryRequestObject) (api.AddTryResponseObject, error) {
	b, err := s.open(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	in := r.Body
	if _, err := b.inHand(&in.Section, ""); err != nil {
		return nil, err
	}
	if len(in.Id) < 8 || len(in.Id) > 64 {
		return nil, refuse("id", "The id of a try has 8 to 64 signs and is made by the sender.")
	}
	person, err := personOf(in.Person)
	if err != nil {
		return nil, err
	}
	if err := checkTry(in); err != nil {
		return nil, err
	}
	_, choices, err := b.workCode(in.Ladder)
	if err != nil {
		return nil, err
	}
	made, err := json.Marshal(plan.Make(b.options.Job, choices))
	if err != nil {
		return nil, err
	}
	row := store.Try{ID: in.Id, PanelID: b.row.ID, Section: in.Section, Ladder: plan.Code(choices), Made: string(made), FilmBeforeUM: in.FilmBeforeUm, FilmAfterUM: in.FilmAfterUm,
		Spots: in.Spots, GlossBefore: in.GlossBefore, GlossAfter: in.GlossAfter, ClarityBefore: in.ClarityBefore, ClarityAfter: in.ClarityAfter, Person: person, At: s.now()}
	if in.Note != nil {
		row.Note = strings.TrimSpace(*in.Note)
	}
	if err := s.store.AddTry(ctx, &row); err != nil {
		return nil, err
	}
	t, err := s.tryOf(b, row)
	return api.AddTry201JSONResponse(t), err
}

func checkTry(in *api.NewTry) error {
	for _, v := range []struct {
		field, what string
		value       float64
		most        float64
	}{
		{"film_before_um", "Film before", in.FilmBeforeUm, mostFilm}, {"film_after_um", "Film after", in.FilmAfterUm, mostFilm},
		{"clarity_before", "Clarity before", in.ClarityBefore, 100}, {"clarity_after", "Clarity after", in.ClarityAfter, 100},
	} {
		if math.IsNaN(v.value) || v.value < 0 || v.value > v.most || v.most == mostFilm && v.value == 0 {
			unit := ""
			if v.most == mostFilm {
				unit = " µm"
			}
			return refuse(v.field, "%s goes up to %.0f%s; %g does not.", v.what, v.most, unit, v.value)
		}
	}
	if in.Spots < 1 || in.Spots > mostSpots {
		return refuse("spots", "Say on how many spots of the square the film was read, 1 to %d.", mostSpots)
	}
	if (in.GlossBefore == nil) != (in.GlossAfter == nil) {
		return refuse("gloss_after", "Gloss is read before and after, or not at all.")
	}
	for _, g := range []*float64{in.GlossBefore, in.GlossAfter} {
		if g != nil && (math.IsNaN(*g) || *g < 0 || *g > 120) {
			return refuse("gloss_before", "Gloss at 20 degrees goes from 0 to 120; %g does not.", *g)
		}
	}
	return nil
}

// StrikeTry strikes a try square out.
func (s *Server) StrikeTry(ctx context.Context, r api.StrikeTryRequestObject) (api.StrikeTryResponseObject, error) {
	t, err := s.store.Try(ctx, r.TryId)
	if err != nil {
		return nil, err
	}
	reason, err := strikeReason(r.Body.Reason)
	if err != nil {
		return nil, err
	}
	return api.StrikeTry204Response{}, s.store.StrikeTry(ctx, t.ID, reason, s.now())
}

// UseTry puts the process of a try into the plan of record for its section only.
func (s *Server) UseTry(ctx context.Context, r api.UseTryRequestObject) (api.UseTryResponseObject, error) {
	t, err := s.store.Try(ctx, r.TryId)
	if err != nil {
		return nil, err
	}
	b, err := s.open(ctx, t.PanelID)
	if err != nil {
		return nil, err
	}
	if b.ladder == nil {
		return nil, conflict("The process of a try goes into the plan of its section: accept a plan for the %s first.", b.row.Name)
	}
	var tried plan.Made
	if err := json.Unmarshal([]byte(t.Made), &tried); err != nil {
		return nil, fmt.Errorf("try %s: %w", t.ID, err)
	}
	made, err := b.made()
	if err != nil {
		return nil, err
	}
	made = made.For(t.Section, tried.Job, tried.Choices)
	l, err := made.Ladder()
	if err != nil {
		return nil, err
	}
	sec, known := b.opened.Study.Section(t.Section)
	if !known {
		return nil, conflict("The section of this try is not on the %s any more.", b.row.Name)
	}
	if film := l.FilmOn(t.Section); film > b.headroomOf(sec) {
		return nil, conflict("It does not fit there: %s", stateReason(b.standingFor(sec, film), sec.Policy.Floor))
	}
	way := yours(made.Choices, l)
	way.Offer = plan.Offer(b.record.Offer)
	if err := s.accept(ctx, b, way, made); err != nil {
		return nil, err
	}
	if b, err = s.open(ctx, b.row.ID); err != nil {
		return nil, err
	}
	return api.UseTry200JSONResponse(b.recordOf()), nil
}
