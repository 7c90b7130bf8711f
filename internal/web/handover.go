package web

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"slices"
	"strconv"
	"time"

	"waxplanus/core/care"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// todoStage is where something that is still to do is done.
func todoStage(t handover.HandTask) api.HandTodoStage {
	switch t {
	case handover.TaskTell:
		return api.HandTodoStageTakeIn
	case handover.TaskPlan, "finish", "scratch":
		return api.HandTodoStageLevel
	case "read":
		return api.HandTodoStageRead
	}
	return api.HandTodoStageProve
}

func (v view) handing(h *handover.Handing, papers [2]*files.Paper) api.Handing {
	out := api.Handing{Car: v.carOf(h.OfCar, h.Next), Title: v.HandTitle(h), TooSoon: h.TooSoon, RecordNo: int(h.No), Forgotten: h.ForgottenAt != nil, HandedOverAt: h.HandedOverAt,
		ReportPages: papers[0].Pages(), RecordPages: papers[1].Pages(), Choices: choicesOf(h.Choices), Pairs: []api.SectionName{},
		Todos: each(h.Todos, func(t handover.HandTodo) api.HandTodo {
			one := api.HandTodo{Task: api.HandTask(t.Task), Name: t.Name, Text: wording.HandTodo(t), Stage: todoStage(t.Task)}
			if t.PanelID != "" {
				one.PanelId = &t.PanelID
			} else {
				one.Name = h.Name
			}
			return one
		}),
		Parts: each(handover.Parts, func(p cars.Part) api.PartLine {
			name, text := v.PartName(p, h)
			return api.PartLine{Part: api.ReportPart(p), Name: name, Text: text}
		}),
		Waits: each(h.Waits, func(t care.Wait) api.CareWait {
			one := api.CareWait{Kind: api.CareWaitKind(t.Kind), When: v.Until(t, h.At), Text: v.Wait(t), BySheet: t.Sheet}
			if !t.Until.IsZero() {
				one.Until = &t.Until
			}
			return one
		}),
		History: each(h.History, func(e handover.Handover) api.HandEvent {
			return api.HandEvent{Kind: api.HandEventKind(e.Kind), Text: v.HandHistory(e), Person: e.Person, OnDay: e.OnDay, At: e.At}
		})}
	for _, f := range h.Proofs {
		if handover.Paired(f) {
			out.Pairs = append(out.Pairs, api.SectionName{Key: f.ID, Name: f.Name})
		}
	}
	if h.Seal != "" {
		out.Seal, out.SealText, out.SealBroken = &h.Seal, ptr(v.Seal(h)), &h.Broken
	}
	return out
}

// unsealed is what a car is not sealed with, in the contract's word.
const unsealed = "none"

func choicesOf(c cars.ReportChoices) api.ReportChoices {
	out := api.ReportChoices{Parts: each(c.Parts, func(p cars.Part) api.ReportPart { return api.ReportPart(p) }), Trade: &c.Trade, SealedAt: c.SealedAt}
	sealed := api.ReportChoicesSealed(c.Sealed)
	if c.Sealed == cars.Unsealed {
		sealed = unsealed
	}
	out.Sealed = &sealed
	if c.Pair != "" {
		out.Pair = &c.Pair
	}
	if c.Note != "" {
		out.Note = &c.Note
	}
	sheet := api.CareSheet{DryH: c.Sheet.Dry, WashD: c.Sheet.Wash, BreatheD: c.Sheet.Breathe}
	if c.Sheet.Name != "" {
		sheet.Name = &c.Sheet.Name
	}
	out.Sheet = &sheet
	return out
}

func choicesFrom(c *api.ReportChoices) cars.ReportChoices {
	out := cars.ReportChoices{Trade: given(c.Trade), Pair: given(c.Pair), Sealed: string(given(c.Sealed)), SealedAt: c.SealedAt, Note: given(c.Note)}
	if out.Sealed == unsealed {
		out.Sealed = cars.Unsealed
	}
	for _, p := range c.Parts {
		out.Parts = append(out.Parts, cars.Part(p))
	}
	if c.Sheet != nil {
		out.Sheet = care.Sheet{Name: given(c.Sheet.Name), Dry: c.Sheet.DryH, Wash: c.Sheet.WashD, Breathe: c.Sheet.BreatheD}
	}
	return out
}

// handed is a car as it is handed over, with its papers laid out.
func (s *Server) handed(ctx context.Context, h *handover.Handing) (api.Handing, error) {
	v := viewOf(ctx)
	report, record, err := s.papers(ctx, h)
	if err != nil {
		return api.Handing{}, err
	}
	return v.handing(h, [2]*files.Paper{report.paper, record.paper}), nil
}

// GetHandover is a car as it is handed over.
func (s *Server) GetHandover(ctx context.Context, r api.GetHandoverRequestObject) (api.GetHandoverResponseObject, error) {
	h, err := s.shop.Handing(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	out, err := s.handed(ctx, h)
	return api.GetHandover200JSONResponse(out), err
}

// HandOver closes a car.
func (s *Server) HandOver(ctx context.Context, r api.HandOverRequestObject) (api.HandOverResponseObject, error) {
	in := r.Body
	h, err := s.shop.HandOver(ctx, r.CarId, handover.NewHandover{ID: in.Id, Person: in.Person, Day: given(in.Day), AsItIs: given(in.AsItIs), Reason: given(in.Reason)})
	if err != nil {
		return nil, err
	}
	s.makePages(r.CarId)
	out, err := s.handed(ctx, h)
	return api.HandOver200JSONResponse(out), err
}

// ReopenCar opens a car again.
func (s *Server) ReopenCar(ctx context.Context, r api.ReopenCarRequestObject) (api.ReopenCarResponseObject, error) {
	h, err := s.shop.Reopen(ctx, r.CarId, r.Body.Id, r.Body.Person, r.Body.Reason)
	if err != nil {
		return nil, err
	}
	out, err := s.handed(ctx, h)
	return api.ReopenCar200JSONResponse(out), err
}

// ForgetOwner deletes what is known of the owner of a car.
func (s *Server) ForgetOwner(ctx context.Context, r api.ForgetOwnerRequestObject) (api.ForgetOwnerResponseObject, error) {
	h, err := s.shop.Forget(ctx, r.CarId, r.Body.Id, r.Body.Person, r.Body.Photos, wording.Nameless)
	if err != nil {
		return nil, err
	}
	out, err := s.handed(ctx, h)
	return api.ForgetOwner200JSONResponse(out), err
}

// SetReport chooses what goes into the report.
func (s *Server) SetReport(ctx context.Context, r api.SetReportRequestObject) (api.SetReportResponseObject, error) {
	if err := s.shop.SetReport(ctx, r.CarId, choicesFrom(r.Body)); err != nil {
		return nil, err
	}
	h, err := s.shop.Handing(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	out, err := s.handed(ctx, h)
	return api.SetReport200JSONResponse(out), err
}

// The two papers of a car, as values and laid out.
type (
	ownerReport struct {
		*files.Report
		paper *files.Paper
	}
	filmRecord struct {
		*files.Record
		paper *files.Paper
	}
)

// How the photos of a report are cut: twice as wide as high or so, and fine enough to print.
const (
	pairShape = 88.0 / 46
	pairWide  = 900
)

// papers are the owner's report and the film record of a car.
func (s *Server) papers(ctx context.Context, h *handover.Handing) (report ownerReport, record filmRecord, err error) {
	v := viewOf(ctx)
	logo, err := s.shop.Logo(ctx)
	if err != nil && !errors.Is(err, refuse.ErrMissing) {
		return report, record, err
	}
	pair, err := s.pair(ctx, v, h)
	if err != nil {
		return report, record, err
	}
	report.Report, record.Record = v.Report(h, pair, logo), v.FilmRecord(h, logo)
	if report.paper, err = files.ReportPaper(report.Report); err != nil {
		return report, record, err
	}
	record.paper, err = files.RecordPaper(record.Record)
	return report, record, err
}

// pair are the photos of the lamps that the report shows; nil for none.
func (s *Server) pair(ctx context.Context, v view, h *handover.Handing) (*files.Pair, error) {
	f, before, after, ok := h.Pair()
	if !ok || !slices.Contains(h.Choices.Parts, cars.PartPictures) {
		return nil, nil
	}
	out := v.Pair(f)
	for _, one := range []struct {
		of *proof.Photo
		to *[]byte
	}{{before, &out.Before}, {after, &out.After}} {
		_, data, err := s.shop.PhotoFile(ctx, one.of.ID, proof.SmallOne)
		if errors.Is(err, refuse.ErrMissing) {
			return nil, nil // its file is gone
		}
		if err != nil {
			return nil, err
		}
		if *one.to, err = files.Cropped(data, pairShape, pairWide); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// fileAnswer is a file among the answers of the contract.
type fileAnswer struct {
	mime, name string
	body       bytes.Buffer
}

func (f *fileAnswer) write(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", f.mime)
	w.Header().Set("Content-Length", strconv.Itoa(f.body.Len()))
	if f.name != "" {
		w.Header().Set("Content-Disposition", `inline; filename="`+f.name+`"`)
	}
	w.WriteHeader(http.StatusOK)
	_, err := w.Write(f.body.Bytes())
	return err
}

// VisitGetPaperResponse writes the answer.
func (f *fileAnswer) VisitGetPaperResponse(w http.ResponseWriter) error { return f.write(w) }

// VisitGetMarksFileResponse writes the answer.
func (f *fileAnswer) VisitGetMarksFileResponse(w http.ResponseWriter) error { return f.write(w) }

// VisitGetCalendarResponse writes the answer.
func (f *fileAnswer) VisitGetCalendarResponse(w http.ResponseWriter) error { return f.write(w) }

// VisitGetLogoResponse writes the answer.
func (f *fileAnswer) VisitGetLogoResponse(w http.ResponseWriter) error { return f.write(w) }

// GetPaper is a paper in one of its forms.
func (s *Server) GetPaper(ctx context.Context, r api.GetPaperRequestObject) (api.GetPaperResponseObject, error) {
	h, err := s.shop.Handing(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	if r.Params.Size != nil {
		h.Settings.Paper = string(*r.Params.Size)
	}
	out := &fileAnswer{}
	if r.Paper == api.RecordCsv || r.Paper == api.RecordJson {
		record := h.FilmRecord()
		if out.mime = "application/json"; r.Paper == api.RecordJson {
			return out, record.JSON(&out.body)
		}
		out.mime = "text/csv; charset=utf-8"
		return out, record.CSV(&out.body)
	}
	report, record, err := s.papers(ctx, h)
	if err != nil {
		return nil, err
	}
	page := 1
	if r.Params.Page != nil {
		page = *r.Params.Page
	}
	paper := report.paper
	if r.Paper == api.RecordPdf || r.Paper == api.RecordSvg {
		paper = record.paper
	}
	switch r.Paper {
	case api.ReportHtml:
		out.mime = "text/html; charset=utf-8"
		return out, files.ReportHTML(&out.body, report.Report)
	case api.RecordHtml:
		out.mime = "text/html; charset=utf-8"
		return out, files.RecordHTML(&out.body, record.Record)
	case api.ReportPdf, api.RecordPdf:
		out.mime, out.name = "application/pdf", string(r.Paper)
		return out, paper.PDF(&out.body)
	}
	if page > paper.Pages() {
		return nil, refuse.ErrMissing
	}
	out.mime = "image/svg+xml"
	out.body.Write(paper.SVG(page - 1))
	return out, nil
}

// GetMarksFile is every mark of a car.
func (s *Server) GetMarksFile(ctx context.Context, r api.GetMarksFileRequestObject) (api.GetMarksFileResponseObject, error) {
	h, err := s.shop.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	out := &fileAnswer{mime: "text/csv; charset=utf-8"}
	return out, files.WriteMarks(&out.body, handover.MarksFile(h))
}

// GetCalendar is until when the owner has to be careful.
func (s *Server) GetCalendar(ctx context.Context, r api.GetCalendarRequestObject) (api.GetCalendarResponseObject, error) {
	h, err := s.shop.Handing(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	var events []files.Event
	for _, t := range h.Waits {
		if !t.Until.IsZero() {
			events = append(events, files.Event{ID: string(t.Kind) + "." + strconv.FormatInt(t.Until.Unix(), 10) + "." + h.ID + "@waxplanus", Title: v.WaitTitle(t, h.Name), Text: v.Wait(t), From: t.Until, To: t.Until.Add(time.Hour)})
		}
	}
	out := &fileAnswer{mime: "text/calendar; charset=utf-8"}
	return out, files.WriteCalendar(&out.body, h.Name, h.At, events)
}

func careRuleOf(r care.Rule) api.CareRule {
	return api.CareRule{SealedDryH: r.SealedDry, AirDryH: r.AirDry, BakedDryH: r.BakedDry, FirstWashD: r.FirstWash, AirBreatheD: r.AirBreathe, BakedBreatheD: r.BakedBreathe}
}

// GetCare is how long the shop has its owners be careful.
func (s *Server) GetCare(ctx context.Context, _ api.GetCareRequestObject) (api.GetCareResponseObject, error) {
	r, err := s.shop.CareRule(ctx)
	return api.GetCare200JSONResponse(careRuleOf(r)), err
}

// SetCare changes it.
func (s *Server) SetCare(ctx context.Context, r api.SetCareRequestObject) (api.SetCareResponseObject, error) {
	in := r.Body
	err := s.shop.SetCareRule(ctx, care.Rule{SealedDry: in.SealedDryH, AirDry: in.AirDryH, BakedDry: in.BakedDryH, FirstWash: in.FirstWashD, AirBreathe: in.AirBreatheD, BakedBreathe: in.BakedBreatheD})
	return api.SetCare200JSONResponse(*in), err
}

// GetLogo is the shop's logo.
func (s *Server) GetLogo(ctx context.Context, _ api.GetLogoRequestObject) (api.GetLogoResponseObject, error) {
	data, err := s.shop.Logo(ctx)
	if err != nil {
		return nil, err
	}
	out := &fileAnswer{mime: http.DetectContentType(data)}
	out.body.Write(data)
	return out, nil
}

// SetLogo keeps the shop's logo.
func (s *Server) SetLogo(ctx context.Context, r api.SetLogoRequestObject) (api.SetLogoResponseObject, error) {
	var data bytes.Buffer
	if _, err := data.ReadFrom(r.Body); err != nil {
		return nil, badRequest(err)
	}
	if data.Len() == 0 {
		return nil, refuse.Because(refuse.NoPhoto, "logo")
	}
	return api.SetLogo204Response{}, s.shop.SetLogo(ctx, data.Bytes())
}

// DropLogo takes the logo off the shop's papers.
func (s *Server) DropLogo(ctx context.Context, _ api.DropLogoRequestObject) (api.DropLogoResponseObject, error) {
	return api.DropLogo204Response{}, s.shop.SetLogo(ctx, nil)
}
