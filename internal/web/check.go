package web

import (
	"context"
	"encoding/json"
	"fmt"
	"io"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// Check says whether a panel that is no job yet may be sanded.
func (s *Server) Check(ctx context.Context, r api.CheckRequestObject) (api.CheckResponseObject, error) {
	c, err := s.shop.Check(ctx, checkOf(*r.Body))
	if err != nil {
		return nil, err
	}
	return api.Check200JSONResponse(viewOf(ctx).check(c)), nil
}

// CheckJSON answers a check that comes as JSON by the usual shelf and house rules, as JSON
// or in words. What cannot be read or does not go together is an error in words.
func CheckJSON(in io.Reader, out io.Writer, asJSON bool) error {
	v := view{wording.Words{Unit: refuse.Micron}}
	var ask api.CheckFor
	d := json.NewDecoder(in)
	d.DisallowUnknownFields()
	if err := d.Decode(&ask); err != nil {
		p, _ := problemOf(v, badRequest(err))
		return BadInput(p.Detail)
	}
	c, err := cars.CheckIn(cars.UsualHouse(), checkOf(ask))
	if err != nil {
		p, _ := problemOf(v, err)
		return BadInput(p.Detail)
	}
	if !asJSON {
		_, err = fmt.Fprintln(out, v.Words.Check(c), v.CheckWhy(c))
		return err
	}
	e := json.NewEncoder(out)
	e.SetIndent("", "  ")
	return e.Encode(v.check(c))
}

// BadInput says in words what of an input does not make sense, and what would.
type BadInput string

func (b BadInput) Error() string { return string(b) }

// checkOf is what is asked, with the usual for what was left out.
func checkOf(f api.CheckFor) cars.Check {
	c := cars.Check{Total: f.TotalUm, Finish: film.Refinished, Coats: given(f.Coats), Coat: given(f.CoatUm), Car: given(f.CarUm), Before: given(f.BeforeUm),
		Aim: plan.Flat, PeelGrade: cars.UsualPeel, Colour: plan.Medium, Floor: given(f.FloorUm)}
	c.Polished = given(f.Polished)
	if f.Finish != nil {
		c.Finish = film.Finish(*f.Finish)
	}
	if f.Under != nil {
		c.Under = clearcoat.Under(*f.Under)
	}
	if f.Aim != nil {
		c.Aim = plan.Aim(*f.Aim)
	}
	if f.PeelGrade != nil {
		c.PeelGrade = *f.PeelGrade
	}
	if f.Colour != nil {
		c.Colour = plan.Colour(*f.Colour)
	}
	return c
}

// shapeStep is the step of a clear's shape, µm.
const shapeStep = 2.0

func (v view) check(c *cars.Checked) api.Check {
	out := api.Check{
		State: api.State(c.State), Headline: v.CheckHeadline(c), Advice: v.CheckAdvice(c), UnderFloor: c.Under, Through: c.Through, ChanceFloor: v.Chance(c.Under), ChanceThrough: v.Chance(c.Through),
		ClearUm: api.ClearRange{Mean: c.Clear.Mean, Low: c.Low, High: c.High, Shape: c.Clear.Dist.Shape(shapeStep)},
		SpendUm: c.Need.Mean, HeadroomUm: max(c.Headroom, 0), RoomUm: c.Room, FloorUm: c.Floor, Unlike: c.Unlike, Why: v.CheckWhy(c), Text: v.Words.Check(c),
		Steps: []api.CheckStep{}, Ways: []api.CheckWay{}, Helps: []api.CheckHelp{},
	}
	for _, st := range c.Way.Steps {
		out.Steps = append(out.Steps, api.CheckStep{Title: st.Title, What: st.What, FilmUm: st.Film, Passes: st.Passes, Minutes: st.Minutes})
	}
	for _, w := range c.Ways {
		out.Ways = append(out.Ways, api.CheckWay{Code: api.CheckWayCode(w.Code), Text: v.CheckWay(c, w), State: api.State(w.State), FilmUm: w.Need, ChanceFloor: v.Chance(w.Under), FloorUm: w.Floor})
	}
	for _, h := range c.Helps {
		q := api.CheckHelp{Code: api.CheckHelpCode(h.Code), Text: v.CheckHelp(h)}
		for _, a := range h.Answers {
			q.Answers = append(q.Answers, api.CheckHelpAnswer{Answer: a.Answer, Text: v.CheckAnswer(h, a), State: api.State(a.State), ChanceFloor: v.Chance(a.Under)})
		}
		out.Helps = append(out.Helps, q)
	}
	return out
}
