package web

import (
	"bytes"
	"context"
	"image"
	"image/png"

	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func depth(d surface.Depth) *api.Depth {
	if d.Median == 0 {
		return nil
	}
	low, high := d.Range()
	return &api.Depth{MedianUm: d.Median, LowUm: low, HighUm: high}
}

// answer is a choice that was made, nil where none was.
func answer[T, F ~string](v F) *T {
	if v == "" {
		return nil
	}
	return ptr(T(v))
}

func (v view) condition(p *panel.Panel) api.Condition {
	c := p.Condition
	d := c.Depths()
	out := api.Condition{Swirls: answer[api.Swirls](c.Swirls), Dead: answer[api.Dead](c.Dead), SwirlsUm: depth(d.Swirls), DeadUm: depth(d.Dead),
		WaterSpots: c.WaterSpots, Haze: c.Haze, WetTest: answer[api.WetTest](c.WetTest), ClothTest: answer[api.ClothTest](c.ClothTest), Gone: c.Gone,
		Text: v.Condition(p), Shares: []api.ShareGone{}, Parts: []api.Part{}}
	for _, s := range p.Sections {
		if part, ok := c.Parts[s.Key]; ok {
			out.Parts = append(out.Parts, api.Part{Section: s.Key, Swirls: answer[api.Swirls](part.Swirls), Dead: answer[api.Dead](part.Dead)})
		}
	}
	if c.LearnedSwirls.Median > 0 || c.LearnedDead.Median > 0 {
		out.Learned = ptr(true)
	}
	if !d.Said() {
		return out
	}
	out.Shares = each(p.SharesOf(d), func(s panel.Share) api.ShareGone {
		one := api.ShareGone{Gone: s.Gone, Text: wording.ShareGone(s.Gone), RemovalUm: s.Removal}
		if s.Standing != nil {
			one.Chance, one.State = ptr(v.ShareChance(s)), ptr(api.State(s.Standing.State))
		}
		return one
	})
	return out
}

// GetCondition is a panel with what its condition is compared with.
func (s *Server) GetCondition(ctx context.Context, r api.GetConditionRequestObject) (api.GetConditionResponseObject, error) {
	c, err := s.shop.Compare(ctx, r.PanelId, facts.SaidCondition{Swirls: word(r.Params.Swirls), Dead: word(r.Params.Dead)})
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	return api.GetCondition200JSONResponse{
		Panel: v.panel(c.Panel), Car: v.summary(c.Panel), PanelNo: c.PanelNo, Panels: len(c.Panels), Condition: v.condition(c.Panel), Alike: c.Alike, Sections: v.sections(c.Panel),
		Swirls: each(facts.Choices, func(l facts.Looks) api.Looks {
			title, lines := v.Looks(l)
			return api.Looks{Swirls: api.Swirls(l.Swirls), Dead: api.Dead(l.Dead), Title: title, Lines: lines}
		}),
		Dead: each(panel.DeadChoices, func(g facts.Grade) api.Looks {
			title, lines := v.DeadLooks(g)
			return api.Looks{Swirls: api.SwirlsNone, Dead: api.Dead(g), Title: title, Lines: lines}
		}),
	}, nil
}

// SetPart says how one section looks where it looks other than its panel.
func (s *Server) SetPart(ctx context.Context, r api.SetPartRequestObject) (api.SetPartResponseObject, error) {
	p, err := s.shop.SetPart(ctx, r.PanelId, r.Body.Section, facts.Looks{Swirls: facts.Grade(given(r.Body.Swirls)), Dead: facts.Grade(given(r.Body.Dead))})
	if err != nil {
		return nil, err
	}
	return api.SetPart200JSONResponse(viewOf(ctx).condition(p)), nil
}

// comparisonLamp shows as much paint as an arm's length does.
var comparisonLamp = surface.Lamp{Wide: 66, High: 57.75, PxPerMM: 320.0 / 66}

// stepLamp shows what is left after a step.
var stepLamp = surface.Lamp{Wide: 48, High: 17.6, PxPerMM: picturePxPerMM}

// wetStrip is the picture of the wetted half.
var wetStrip = surface.Lamp{Wide: 40, High: 24, PxPerMM: 8}

// GetLampPicture draws a lamp in paint of a condition.
func (s *Server) GetLampPicture(_ context.Context, r api.GetLampPictureRequestObject) (api.GetLampPictureResponseObject, error) {
	c := surface.Condition{Swirls: facts.SwirlsOf(facts.Grade(given(r.Params.Swirls))), Dead: facts.DeadOf(facts.Grade(given(r.Params.Dead)))}
	var img image.Image
	if given(r.Params.Wet) {
		img = wetStrip.Wetted(c, paints[string(api.ColourDark)])
	} else {
		img = comparisonLamp.Swirls(c, 0, paints[string(api.ColourDark)])
	}
	var out bytes.Buffer
	if err := png.Encode(&out, img); err != nil {
		return nil, err
	}
	return api.GetLampPicture200ImagepngResponse{Body: &out, ContentLength: int64(out.Len())}, nil
}

// AddSquare keeps what was seen on a square.
func (s *Server) AddSquare(ctx context.Context, r api.AddSquareRequestObject) (api.AddSquareResponseObject, error) {
	p, err := s.shop.AddSquare(ctx, r.PanelId, panelwork.NewSquare{ID: r.Body.Id, Ladder: r.Body.Ladder, Person: r.Body.Person, Left: r.Body.Left, OffAfter: r.Body.OffAfter,
		ClarityBefore: r.Body.ClarityBefore, ClarityAfter: r.Body.ClarityAfter})
	if err != nil {
		return nil, err
	}
	return api.AddSquare201JSONResponse(viewOf(ctx).condition(p)), nil
}

// StrikeSquare takes back what was seen on a square.
func (s *Server) StrikeSquare(ctx context.Context, r api.StrikeSquareRequestObject) (api.StrikeSquareResponseObject, error) {
	return api.StrikeSquare204Response{}, s.shop.StrikeSquare(ctx, r.SquareId, r.Body.Reason)
}

func (v view) square(q panelwork.Square) api.Square {
	out := api.Square{Id: q.ID, At: q.At, Person: q.Person, Text: v.Square(q)}
	if q.Struck != nil {
		out.StruckAt, out.StruckReason = &q.Struck.At, &q.Struck.Reason
	}
	return out
}
