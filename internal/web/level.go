package web

import (
	"context"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/web/api"
)

// GetLevel is what may be done next on a section of a panel.
func (s *Server) GetLevel(ctx context.Context, r api.GetLevelRequestObject) (api.GetLevelResponseObject, error) {
	l, err := s.shop.Level(ctx, r.PanelId, given(r.Params.Section), given(r.Params.Person))
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.Level{Panel: v.panel(l.Panel), Car: v.summary(l.Panel), People: each(l.People, func(p string) string { return p }), Waits: v.LevelWait(l),
		Sections: each(advice.Steps(l.Panel), levelSection), Steps: []api.Step{}, Log: each(l.Entries, v.entry), Earlier: each(l.Earlier(), v.entry), Spots: each(l.Spots, placeOf),
		Marks: v.marks(l.Marks, l.Panel), MarksHere: v.marksHere(l), Again: each(l.Again, v.again), Guides: each(l.Guides, v.guide), Circles: each(l.Circles, circleOf)}
	if l.Record != nil {
		out.Plan = l.Record.ID
	}
	if l.Wait == advice.LevelReady || l.Wait == advice.NibsOneByOne {
		out.Steps = v.steps(l.Panel, *l.Ladder())
		if len(l.Sections) > 0 {
			out.Section = l.Sections[l.Section].Key
		}
	}
	if l.Wait == advice.LevelReady {
		out.SectionNo = l.Section + 1
	}
	for i, e := range out.Log {
		if left, ok := l.Left[e.Id]; ok {
			out.Log[i].LeftUm = ptr(estimate(left))
		}
	}
	if l.Hand != nil {
		out.Hand = ptr(v.hand(l))
	}
	return api.GetLevel200JSONResponse(out), nil
}

func levelSection(s advice.SectionStep) api.LevelSection {
	out := api.LevelSection{Key: s.Key, Name: s.Name, Outlines: areas(s.Outlines), Done: s.Done, Step: s.Step}
	if s.Left {
		out.Left = &s.Left
	}
	if s.State != "" {
		out.State = ptr(api.State(s.State))
	}
	return out
}

func (v view) entry(e facts.Entry) api.Entry {
	out := api.Entry{Id: e.ID, Section: e.Section, Step: e.Step, Kind: api.EntryKind(e.Kind), Person: e.Person, At: e.At}
	if e.Kind == level.KindShiny {
		out.Share = &e.Value
	}
	if e.Note != "" {
		out.Reason = &e.Note
	}
	if e.Mark != "" {
		out.Mark = &e.Mark
	}
	if e.Late {
		out.Late = ptr(v.Late(e))
	}
	if e.Struck != nil {
		out.StruckAt, out.StruckReason = &e.Struck.At, &e.Struck.Reason
	}
	return out
}

func (v view) marksHere(l *advice.Level) api.MarksHere {
	out := api.MarksHere{Standing: []string{}}
	here := l.MarksHere()
	for _, m := range here.Standing {
		out.Standing = append(out.Standing, m.ID)
	}
	out.Head, out.Text = v.MarksHere(here)
	out.More = here.More
	return out
}

func (v view) again(a advice.Again) api.Again {
	return api.Again{Step: a.Step + 1, Title: a.Title, Passes: a.Passes, TakesUm: estimate(a.Takes), Fits: a.Fits, Ready: a.Ready, Text: v.Again(a)}
}

func (v view) guide(g advice.Guide) api.Guide {
	out := api.Guide{Mark: g.Mark.ID, Name: g.Mark.Kind.Name(), Stage: api.GuideStage(g.Stage), StrokesLeft: max(g.Strokes-g.Shaved, 0), PassesLeft: max(g.Passes-g.Blocked, 0),
		Shaved: g.Shaved, Blocked: g.Blocked, StandingUm: g.Standing, ShoulderUm: g.Shoulder, ShoulderMostUm: g.ShoulderMost, Caution: v.GuideCaution(g.Stage)}
	out.Headline, out.Text = v.Guide(g)
	return out
}

func circleOf(c advice.Circle) api.Circle {
	return api.Circle{XMm: c.At.X, YMm: c.At.Y, RMm: c.Radius, Title: c.Title}
}

func (v view) ledger(l level.Ledger) api.Ledger {
	return api.Ledger{OpeningUm: estimate(l.Opening), GoneUm: estimate(l.Gone), NextUm: l.Next, FreeUm: l.Free,
		DoubtUm: l.Doubt, DoubtChance: v.Line(l.Chance), ReserveUm: l.Reserve, FloorUm: l.Floor, BalanceUm: estimate(l.Balance)}
}

func (v view) hand(l *advice.Level) api.Hand {
	h := l.Hand
	a := h.Advice
	if h.Locked {
		a.Granted, a.Left, a.Over = 0, 0, false
	}
	if h.Stand > 0 || !h.Soft.IsZero() {
		a.Granted, a.Left, h.Ahead = 0, 0, nil
	}
	out := api.Hand{
		Step: h.Step + 1, PassesDone: h.Made, PassesLeft: a.Left, PassesGranted: a.Granted, PassesNeeded: a.Needed, ReadAfter: a.Read, MayTap: a.Granted,
		RateUm: estimate(a.Rate), TakesUm: estimate(a.Takes), RateFrom: v.RateFrom(h), Look: v.DryWipe(h.Of), Ledger: v.ledger(a.Ledger),
		Caution: v.Caution(h.Of, l.KeptDry()), State: api.State(h.State), LookPays: h.LookPays, Alarm: v.Alarm(h.Alarm), Locked: h.Locked,
		Paper: v.Paper(h), PaperWord: v.PaperKey(h.Of), PaperDue: h.WornOut, Why: v.Whys(l.Panel, h), Scratch: v.Scratch(h.Scratches), PassS: h.PassTime,
		NotFor: v.MayNot(h.Of.Title, l.Person, h.MayNot), Ways: []api.Way{},
		Ahead: each(h.Ahead, func(n level.Advice) api.PassAhead { return api.PassAhead{PassesLeft: n.Left, ReadAfter: n.Read} }),
	}
	if h.MayNot != "" {
		out.MayTap = 0
	}
	if out.MarksFirst, out.MayOverride = h.Stand, a.Over; h.Stand > 0 {
		out.MayOverride = false
	} else if !h.Soft.IsZero() {
		out.SoftUntil, out.MayOverride = &h.Soft, !h.Locked && (h.Advice.Over || h.Advice.Granted > 0)
	}
	out.LookFor, out.Swirls = api.Shine, v.SwirlsHere(h.Swirls)
	if h.Swirls != nil {
		out.LookFor, out.LookPays = api.SwirlsLeft, true
	}
	if h.CoolIn > 0 {
		out.Cooling = &api.Cooling{Seconds: h.CoolIn.Seconds(), Text: v.Cooling(l.House.Shelf.Law)}
	}
	out.Headline, out.Reason = v.Hand(h)
	if h.Look != nil {
		out.ByLook = &api.ByLook{Share: h.Look.Shiny, Passes: estimate(h.LookLeft), Text: v.Look(h)}
	}
	if h.ReadFirst {
		out.Ways = append(out.Ways, api.Way{Code: api.WayCodeRead, Text: v.ReadHere(h)})
	}
	for _, w := range h.Ways {
		way := api.Way{Code: api.WayCode(w.Code), Text: v.Way(w, &l.House.Shelf)}
		if w.Rest != nil {
			way.Rest = ptr(plan.Code(w.Rest))
		}
		out.Ways = append(out.Ways, way)
	}
	return out
}

// AddEntry logs a pass, a paper change or the end of a step.
func (s *Server) AddEntry(ctx context.Context, r api.AddEntryRequestObject) (api.AddEntryResponseObject, error) {
	in := *r.Body
	e, err := s.shop.LogEntry(ctx, r.PanelId, panelwork.NewEntry{ID: in.Id, Plan: in.Plan, Section: in.Section, Step: in.Step, Kind: level.Kind(in.Kind),
		Person: in.Person, Reason: given(in.Reason), Mark: given(in.Mark), Rest: given(in.Rest), Device: given(in.Device), SecondsAgo: in.SecondsAgo, Share: in.Share})
	return api.AddEntry201JSONResponse(viewOf(ctx).entry(e)), err
}

// StrikeEntry strikes an entry of the log out with a reason.
func (s *Server) StrikeEntry(ctx context.Context, r api.StrikeEntryRequestObject) (api.StrikeEntryResponseObject, error) {
	e, err := s.shop.StrikeEntry(ctx, r.EntryId, r.Body.Reason)
	return api.StrikeEntry200JSONResponse(viewOf(ctx).entry(e)), err
}
