package web

import (
	"context"

	"waxplanus/core/flatlay"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func gradeOf(t prove.Texture) api.Estimate {
	grade, sd := t.Grade()
	return api.Estimate{Mean: grade, Sd: sd}
}

func (v view) texture(t proof.KnownTexture) api.KnownTexture {
	out := api.KnownTexture{Grade: gradeOf(t.Texture), Source: api.KnownFrom(t.Source), Text: wording.Texture(t), Clarity: t.Clarity()}
	if t.Photo != nil {
		out.Photo = &t.Photo.ID
	}
	return out
}

func (v view) textureOf(t *proof.KnownTexture) *api.KnownTexture {
	if t == nil {
		return nil
	}
	return ptr(v.texture(*t))
}

func measured(m *plan.Measured) *api.Estimate {
	if m == nil {
		return nil
	}
	return &api.Estimate{Mean: m.Value, Sd: m.SD}
}

func changeOf(c prove.Change) api.MeterChange {
	out := api.MeterChange{Quantity: api.Quantity(c.Quantity), Instrument: c.Instrument, AngleDeg: c.Angle, Before: measured(c.Before), After: measured(c.After), Noise: c.Noise, Text: wording.Change(c)}
	if c.Before != nil && c.After != nil {
		out.Differs = ptr(c.Verdict != plan.NoDifference)
	}
	return out
}

// firstOf is what the meter says of a quantity that was read most.
func firstOf(all []prove.Change, q prove.Quantity) *api.MeterChange {
	for _, c := range all {
		if c.Quantity == q {
			return ptr(changeOf(c))
		}
	}
	return nil
}

func markSum(all []panel.JudgedMark) api.MarkSum {
	var out api.MarkSum
	for _, m := range all {
		switch m.Outcome {
		case facts.Gone:
			out.Gone++
		case facts.Softened:
			out.Softened++
		case facts.Left:
			out.Left++
		default:
			out.Open++
		}
	}
	return out
}

// provenFilm is the film of the section that decides: what went, what stays, what was there.
type provenFilm struct {
	spent, clear   *api.Estimate
	opening, floor *float64
	state          *api.State
}

func filmProven(f *proof.PanelProof) provenFilm {
	_, st, ok := f.Decides()
	if !ok || f.Section == nil {
		return provenFilm{}
	}
	return provenFilm{ptr(estimate(f.Spent)), ptr(estimate(st.Clear)), ptr(f.Section.Least.Estimate().Mean), ptr(f.Section.Policy.Floor), ptr(api.State(st.State))}
}

func (v view) proofLine(f *proof.PanelProof) api.ProofLine {
	film := filmProven(f)
	return api.ProofLine{PanelId: f.ID, Name: f.Name, Aim: wording.Aim(f), SpentUm: film.spent, ClearUm: film.clear, OpeningUm: film.opening, FloorUm: film.floor, State: film.state,
		Gloss: firstOf(f.Changes, prove.Gloss), Clarity: firstOf(f.Changes, prove.Clarity), Before: v.texture(f.Before), After: v.textureOf(f.After),
		Reached: api.Reached(f.Outcome.Reached), Marks: markSum(f.Found), Kept: f.Kept != nil, Worked: f.Worked()}
}

// GetCarProof is what work on a car cost and gave.
func (s *Server) GetCarProof(ctx context.Context, r api.GetCarProofRequestObject) (api.GetCarProofResponseObject, error) {
	c, err := s.shop.ProveCar(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	out := api.CarProof{Car: v.carOf(c.OfCar, c.Next), Lines: each(c.Proofs, v.proofLine)}
	var all []panel.JudgedMark
	for _, f := range c.Proofs {
		all = append(all, f.Found...)
		if f.Kept != nil {
			out.Kept++
		}
	}
	out.Marks = markSum(all)
	return api.GetCarProof200JSONResponse(out), nil
}

func (v view) wipe(w proof.Wipe) api.Wipe {
	out := api.Wipe{Section: w.Section, Name: w.Name, Text: v.Wipe(w), Hidden: w.Hidden != nil, Likely: w.Hidden != nil && w.Hidden.Likely}
	if w.Hidden != nil {
		out.DirectionDeg = &w.Direction
	}
	if w.Seen != nil {
		out.Seen, out.SeenText = ptr(api.WipeSeen(w.Seen.Kind)), ptr(v.Seen(*w.Seen))
	}
	return out
}

func (v view) proofNote(p panel.Proof) api.ProofNote {
	out := api.ProofNote{Id: p.ID, Kind: api.ProofKind(p.Kind), Text: v.ProofNote(p), At: p.At, Person: p.Person}
	if p.Struck != nil {
		out.StruckAt, out.StruckReason = &p.Struck.At, &p.Struck.Reason
	}
	return out
}

func meterReadOf(m proof.MeterRead) api.MeterRead {
	out := api.MeterRead{Id: m.ID, No: m.No, Quantity: api.Quantity(m.Quantity), Instrument: m.Instrument, AngleDeg: m.Angle, XMm: m.X, YMm: m.Y, Value: m.Value, After: m.After, Person: m.Person, At: m.At}
	if m.Struck != nil {
		out.StruckAt, out.StruckReason = &m.Struck.At, &m.Struck.Reason
	}
	return out
}

func (v view) proof(f *proof.PanelProof) api.PanelProof {
	film := filmProven(f)
	out := api.PanelProof{Panel: v.panel(f.Panel), Car: v.summary(f.Panel), SpentUm: film.spent, ClearUm: film.clear, OpeningUm: film.opening, FloorUm: film.floor, State: film.state,
		Sections: each(f.Sections, func(s flatlay.Section) api.SectionName { return api.SectionName{Key: s.Key, Name: s.Name} }),
		Before:   v.texture(f.Before), After: v.textureOf(f.After), Beside: v.texture(f.Beside), Reached: api.Reached(f.Outcome.Reached),
		Title: v.ProofTitle(f), Text: v.ProofText(f), Photos: each(f.Photos, v.photo), Meters: each(f.Meters, meterReadOf), Changes: each(f.Changes, changeOf),
		Wipes: each(f.Wipes, v.wipe), Marks: v.marks(f.Found, f.Panel), MarkSum: markSum(f.Found), Left: []api.LeftMark{}, Notes: each(f.Proofs, v.proofNote), MayGoBack: f.MayGoBack(),
		Todos: each(f.Todos, func(t prove.Todo) api.ProofTodo {
			one := api.ProofTodo{Task: api.ProofTask(t.Task), Count: t.Count, Bars: t.Bars, Text: v.Todo(t)}
			if t.Task == prove.TaskRead && len(f.Unread) > 0 {
				one.Section, one.Text = &f.Unread[0].Key, wording.ReadLast(f.Unread)
			}
			return one
		})}
	if f.BesideName != "" {
		out.BesideName = &f.BesideName
	}
	if apart := wording.Apart(f); apart != "" {
		out.Apart = &apart
	}
	for _, m := range f.Found {
		if m.Outcome == facts.Left || m.Outcome == facts.Softened {
			head, text := v.LeftMark(m)
			out.Left = append(out.Left, api.LeftMark{Mark: m.ID, Head: head, Text: text})
		}
	}
	if f.Kept != nil {
		out.Kept = ptr(v.proofNote(*f.Kept))
	}
	if err := f.Barred(); err != nil {
		out.Barred = ptr(v.Refusal(err))
	}
	return out
}

// GetProof is a panel as it is proven.
func (s *Server) GetProof(ctx context.Context, r api.GetProofRequestObject) (api.GetProofResponseObject, error) {
	f, err := s.shop.Prove(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	return api.GetProof200JSONResponse(viewOf(ctx).proof(f)), nil
}

// AddProof keeps what somebody found or decides.
func (s *Server) AddProof(ctx context.Context, r api.AddProofRequestObject) (api.AddProofResponseObject, error) {
	f, err := s.shop.AddProof(ctx, r.PanelId, proof.NewProof{ID: r.Body.Id, Kind: string(r.Body.Kind), Section: given(r.Body.Section), Note: given(r.Body.Note), Person: r.Body.Person})
	if err != nil {
		return nil, err
	}
	return api.AddProof201JSONResponse(viewOf(ctx).proof(f)), nil
}

// StrikeProof takes back what was found or decided.
func (s *Server) StrikeProof(ctx context.Context, r api.StrikeProofRequestObject) (api.StrikeProofResponseObject, error) {
	if err := s.shop.StrikeProof(ctx, r.ProofId, r.Body.Reason); err != nil {
		return nil, err
	}
	return api.StrikeProof204Response{}, nil
}

// CloseMarks says what became of marks of a panel.
func (s *Server) CloseMarks(ctx context.Context, r api.CloseMarksRequestObject) (api.CloseMarksResponseObject, error) {
	all := each(r.Body.Marks, func(m api.MarkOutcome) panelwork.MarkClose {
		return panelwork.MarkClose{ID: m.Id, Outcome: facts.Outcome(m.Outcome), Reason: given(m.Reason)}
	})
	if err := s.shop.CloseMarks(ctx, r.PanelId, all, r.Body.Person); err != nil {
		return nil, err
	}
	return api.CloseMarks204Response{}, nil
}

// AddMeter keeps a reading of a meter.
func (s *Server) AddMeter(ctx context.Context, r api.AddMeterRequestObject) (api.AddMeterResponseObject, error) {
	in := r.Body
	err := s.shop.AddMeter(ctx, r.PanelId, proof.NewMeter{ID: in.Id, Person: in.Person, After: in.After,
		Read: prove.Read{Meter: prove.Meter{Quantity: prove.Quantity(in.Quantity), Instrument: in.Instrument, Angle: in.AngleDeg}, X: in.XMm, Y: in.YMm, Value: in.Value}})
	if err != nil {
		return nil, err
	}
	return api.AddMeter204Response{}, nil
}

// StrikeMeter strikes a reading of a meter out.
func (s *Server) StrikeMeter(ctx context.Context, r api.StrikeMeterRequestObject) (api.StrikeMeterResponseObject, error) {
	if err := s.shop.StrikeMeter(ctx, r.MeterId, r.Body.Reason); err != nil {
		return nil, err
	}
	return api.StrikeMeter204Response{}, nil
}
