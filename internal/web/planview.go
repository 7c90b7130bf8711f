package web

import (
	"bytes"
	"context"
	"image/png"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

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

// things lists what a step may be made with.
func (b *bench) things() []api.Thing {
	out := []api.Thing{}
	for _, c := range plan.Cutters(&b.house.shelf) {
		if c.Have {
			out = append(out, api.Thing{Item: c.Item, Backing: c.Backing, Title: c.Title, What: c.What, Tool: string(c.Tool)})
		}
	}
	return out
}

func (b *bench) point(p plan.Point) api.PlanPoint {
	return api.PlanPoint{Ladder: plan.Code(p.Choices), FilmUm: hundredth(p.Film), Hours: hundredth(p.Minutes / 60), Money: hundredth(p.Money),
		Clarity: hundredth(p.Clarity), Front: p.Front, Text: b.stepsText(p.Choices)}
}

func (b *bench) line(w plan.Way) api.OfferLine {
	hours, late := w.Ladder.Hours()
	return api.OfferLine{Name: api.OfferName(w.Offer), Ladder: plan.Code(w.Point.Choices), FilmUm: api.Estimate{Mean: w.Ladder.Film, Sd: w.Ladder.FilmSD},
		Hours: api.Estimate{Mean: hours, Sd: late}, Money: w.Ladder.Money, PeelLeft: w.Ladder.End().Grade(), Clarity: w.Ladder.End().Clarity(),
		State: api.State(b.fits(w.Ladder))}
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

func (s *Server) stepsOf(b *bench, l plan.Ladder) []api.Step {
	out := []api.Step{}
	for i, st := range l.Steps {
		n := api.Step{
			No: i + 1, Kind: api.StepKind(st.Kind), Item: st.Item, Backing: st.Choice.Backing, Title: st.Title, What: st.What, Tool: string(st.Tool), Stroke: st.Stroke,
			Passes: st.Passes, Needs: st.Needs, RateUm: st.Rate, FilmUm: api.Estimate{Mean: st.Film, Sd: st.FilmSD()}, GaugeUm: st.Gauge,
			Minutes: st.Minutes, Pieces: st.Pieces, Money: st.Money, ScratchUm: st.Scratch, Shiny: st.After.Shiny(st.Scratch),
			After: s.texture(st.After), Why: stepWhy(st), Warnings: []string{}, Area: b.sectionName(st.Area),
		}
		for _, w := range l.Warnings {
			if w.Step == i+1 {
				n.Warnings = append(n.Warnings, warnText(w))
			}
		}
		out = append(out, n)
	}
	return out
}

func (b *bench) sectionName(key string) string {
	for _, s := range b.sections {
		if s.Key == key {
			return s.Name
		}
	}
	return key
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
	b, err := s.lay(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	var l plan.Ladder
	switch {
	case r.Params.Ladder != nil && *r.Params.Ladder != "" && *r.Params.Ladder != ofRecord:
		l, _, err = b.workCode(*r.Params.Ladder)
	case b.ladder != nil:
		l = *b.ladder
	default:
		err = store.ErrMissing
	}
	if err != nil {
		return nil, err
	}
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
