package web

import (
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	openapi "github.com/oapi-codegen/runtime/types"

	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/schedule"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/shop/week"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// weekDays is how many days of a plan are shown from today on.
const weekDays = 14

func dateOf(day string) openapi.Date {
	t, _ := time.Parse(time.DateOnly, day) // our own
	return openapi.Date{Time: t}
}

func spansOf(all []schedule.Span) []api.Span {
	return each(all, func(s schedule.Span) api.Span { return api.Span{From: s.From, To: s.To} })
}

func (v view) week(w *week.Week) api.Week {
	text, gap := v.Week(w)
	names := wording.CarNames(w)
	out := api.Week{Now: w.Now, Text: text, GapText: &gap, Gap: hundredth(w.Plan.Gap), Renewing: &w.Renewing,
		Late:   each(w.Plan.Late, func(id string) string { return names[id] }),
		Days:   each(w.Workshop.OpenDays(w.Now, weekDays), func(d schedule.OpenDay) api.WeekDay { return api.WeekDay{Day: dateOf(d.Day), Spans: spansOf(d.Spans)} }),
		Faults: each(w.Plan.Faults, func(f schedule.Fault) string { return v.WeekFault(w, f) }),
		Moved:  each(w.Plan.Moved, func(m schedule.Move) string { return v.Moved(w, m) }),
		Cars:   each(w.Cars, func(c week.WeekCar) api.WeekCar { return v.weekCar(w, &c) }), Tasks: []api.WeekTask{}, People: []api.WeekPerson{}, Alerts: v.alerts(w)}
	loads := w.Loads()
	for _, p := range w.People {
		one := api.WeekPerson{Name: p.Name, MachineLimitMin: p.Machine, Days: []api.PersonDay{}}
		for _, d := range out.Days {
			if l := loads[p.Name][d.Day.Format(time.DateOnly)]; l.Minutes > 0 {
				one.Days = append(one.Days, api.PersonDay{Day: d.Day, Minutes: l.Minutes, MachineMin: l.Machine})
			}
		}
		out.People = append(out.People, one)
	}
	for _, p := range w.Plan.Placed {
		t := w.Tasks[p.Key]
		title, text := wording.Task(t)
		one := api.WeekTask{Key: p.Key, CarId: t.Car, Car: names[t.Car], Kind: string(t.Kind), Title: title, Text: text, Person: p.Person, Start: p.Start, End: p.End,
			Minutes: t.Minutes, MachineMin: t.Machine, Begun: p.Because.Why == schedule.WhyBegun, Put: w.IsPut(p.Key), Why: v.Because(w, t, p.Because),
			After: each(t.After, func(a schedule.Arc) string { return a.Key })}
		if t.Panel != "" {
			one.PanelId = &t.Panel
		}
		out.Tasks = append(out.Tasks, one)
	}
	return out
}

func (v view) weekCar(w *week.Week, c *week.WeekCar) api.WeekCar {
	out := api.WeekCar{Id: c.ID, Name: c.Name, Late: c.Late, DueAt: c.DueAt, Text: v.WeekCar(w, c), Chain: append([]string{}, c.Chain...),
		Hours: hourRange(c.Hours), Next: v.next(c.Next),
		Waits: each(c.Waits, func(x cars.Wait) api.WeekWait {
			text, why := v.CarWait(x, w.Now)
			return api.WeekWait{Kind: api.WeekWaitKind(x.Kind), Text: text, Why: why, From: x.Sprayed, Until: x.Until}
		})}
	if !c.Done.IsZero() {
		out.DoneAt = &c.Done
	}
	return out
}

// GetWeek is who does what when.
func (s *Server) GetWeek(ctx context.Context, r api.GetWeekRequestObject) (api.GetWeekResponseObject, error) {
	w, err := s.shop.Week(ctx, given(r.Params.Anew))
	if err != nil {
		return nil, err
	}
	return api.GetWeek200JSONResponse(viewOf(ctx).week(w)), nil
}

// MoveTask gives a task to somebody from a moment on.
func (s *Server) MoveTask(ctx context.Context, r api.MoveTaskRequestObject) (api.MoveTaskResponseObject, error) {
	w, err := s.shop.MoveTask(ctx, r.Body.Task, r.Body.Person, r.Body.By, r.Body.At)
	if err != nil {
		return nil, err
	}
	return api.MoveTask200JSONResponse(viewOf(ctx).week(w)), nil
}

// LetTask has a task be planned as the others again.
func (s *Server) LetTask(ctx context.Context, r api.LetTaskRequestObject) (api.LetTaskResponseObject, error) {
	w, err := s.shop.LetTask(ctx, r.Body.Task)
	if err != nil {
		return nil, err
	}
	return api.LetTask200JSONResponse(viewOf(ctx).week(w)), nil
}

// SetPromise says for when a car was promised.
func (s *Server) SetPromise(ctx context.Context, r api.SetPromiseRequestObject) (api.SetPromiseResponseObject, error) {
	return api.SetPromise204Response{}, s.shop.SetPromise(ctx, r.CarId, r.Body.DueAt)
}

func daysOf(all []schedule.Days) []api.DaysOff {
	return each(all, func(d schedule.Days) api.DaysOff { return api.DaysOff{From: dateOf(d.From), To: dateOf(d.To)} })
}

func daysIn(all []api.DaysOff) []schedule.Days {
	return each(all, func(d api.DaysOff) schedule.Days {
		return schedule.Days{From: d.From.Format(time.DateOnly), To: d.To.Format(time.DateOnly)}
	})
}

func weekOf(w schedule.Week) [][]api.Span {
	return each(w[:], spansOf)
}

func weekIn(all [][]api.Span) schedule.Week {
	var out schedule.Week
	for i := range min(len(all), len(out)) {
		out[i] = each(all[i], func(s api.Span) schedule.Span { return schedule.Span{From: s.From, To: s.To} })
	}
	return out
}

func workshopOf(w house.Workshop) api.Workshop {
	out := api.Workshop{Week: weekOf(w.Week), Holidays: daysOf(w.Holidays), Bays: w.Bays, PerCar: w.PerCar, Machines: []api.MachineCount{},
		Climate: api.Climate{UsualC: w.Climate.Usual, Days: []api.WarmDay{}},
		Rates:   api.Rates{Labour: &w.Rates.Labour, Risk: w.Rates.Risk, Respray: w.Rates.Respray, Tax: w.Rates.Tax, Round: w.Rates.Round, ValidDays: w.Rates.Valid},
		Paints:  each(w.Paints, sheetOf)}
	for _, tool := range []api.MachineCountTool{api.Orbital, api.Rotary} {
		if n, counted := w.Machines[string(tool)]; counted {
			out.Machines = append(out.Machines, api.MachineCount{Tool: tool, Count: n})
		}
	}
	for day, c := range w.Climate.Days {
		out.Climate.Days = append(out.Climate.Days, api.WarmDay{Day: dateOf(day), Celsius: c})
	}
	slices.SortFunc(out.Climate.Days, func(a, b api.WarmDay) int { return a.Day.Compare(b.Day.Time) })
	return out
}

func sheetOf(p cure.Paint) api.PaintSheet {
	out := api.PaintSheet{Name: p.Name, SandAirH: p.SandAir, SandBakedH: p.SandBaked, CutsWellD: p.CutsWell, PolishAirH: p.PolishAir, PolishBakedH: p.PolishBaked, SealD: p.Seal, DryH: p.Dry}
	if p.Colour {
		out.Colour = &p.Colour
	}
	if p.CoatUM > 0 {
		out.CoatUm = &p.CoatUM
	}
	if p.Coats > 0 {
		out.Coats = &p.Coats
	}
	return out
}

func sheetIn(p api.PaintSheet) cure.Paint {
	return cure.Paint{Name: p.Name, Colour: given(p.Colour), CoatUM: given(p.CoatUm), Coats: given(p.Coats), SandAir: p.SandAirH, SandBaked: p.SandBakedH, CutsWell: p.CutsWellD,
		PolishAir: p.PolishAirH, PolishBaked: p.PolishBakedH, Seal: p.SealD, Dry: p.DryH}
}

// GetWorkshop is where and by what the shop works.
func (s *Server) GetWorkshop(ctx context.Context, _ api.GetWorkshopRequestObject) (api.GetWorkshopResponseObject, error) {
	w, err := s.shop.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	return api.GetWorkshop200JSONResponse(workshopOf(w)), nil
}

// SetWorkshop changes it.
func (s *Server) SetWorkshop(ctx context.Context, r api.SetWorkshopRequestObject) (api.SetWorkshopResponseObject, error) {
	err := s.shop.ChangeWorkshop(ctx, func(w *house.Workshop) {
		in := r.Body
		w.Week, w.Holidays, w.Bays, w.PerCar = weekIn(in.Week), daysIn(in.Holidays), in.Bays, in.PerCar
		w.Machines = map[string]int{}
		for _, m := range in.Machines {
			w.Machines[string(m.Tool)] = m.Count
		}
		w.Climate = cure.Climate{Usual: in.Climate.UsualC, Days: map[string]float64{}}
		for _, d := range in.Climate.Days {
			w.Climate.Days[d.Day.Format(time.DateOnly)] = d.Celsius
		}
		w.Rates.Risk, w.Rates.Respray, w.Rates.Tax, w.Rates.Round, w.Rates.Valid = in.Rates.Risk, in.Rates.Respray, in.Rates.Tax, in.Rates.Round, in.Rates.ValidDays
		w.Paints = each(in.Paints, sheetIn)
	})
	if err != nil {
		return nil, err
	}
	w, err := s.shop.Workshop(ctx)
	return api.SetWorkshop200JSONResponse(workshopOf(w)), err
}

// SetHours changes when somebody works and what they do.
func (s *Server) SetHours(ctx context.Context, r api.SetHoursRequestObject) (api.SetHoursResponseObject, error) {
	in := house.PersonHours{Name: r.Body.Name, Machine: r.Body.MachineMin, Rate: r.Body.Rate}
	if r.Body.Week != nil {
		week := weekIn(*r.Body.Week)
		in.Week, in.OwnWeek = &week, len(*r.Body.Week) > 0
	}
	if r.Body.Off != nil {
		off := daysIn(*r.Body.Off)
		in.Off = &off
	}
	in.Kinds = r.Body.Kinds
	if err := s.shop.SetHours(ctx, in); err != nil {
		return nil, err
	}
	out, err := s.hands(ctx)
	return api.SetHours200JSONResponse(out), err
}

// VisitGetCarWeekResponse writes the answer.
func (f *fileAnswer) VisitGetCarWeekResponse(w http.ResponseWriter) error { return f.write(w) }

// VisitGetPersonWeekResponse writes the answer.
func (f *fileAnswer) VisitGetPersonWeekResponse(w http.ResponseWriter) error { return f.write(w) }

// calendarOf is the tasks of a plan that count, as a calendar.
func (v view) calendarOf(w *week.Week, name string, more []files.Event, counts func(schedule.Placed) bool, title func(schedule.Task) string) (*fileAnswer, error) {
	events := more
	for _, p := range w.Plan.Placed {
		if t := w.Tasks[p.Key]; counts(p) {
			events = append(events, files.Event{ID: t.Key + "@waxplanus", Title: title(t), Text: v.Because(w, t, p.Because), From: p.Start, To: p.End})
		}
	}
	out := &fileAnswer{mime: "text/calendar; charset=utf-8"}
	return out, files.WriteCalendar(&out.body, name, w.Now, events)
}

// GetCarWeek is when a car is worked on, as a calendar.
func (s *Server) GetCarWeek(ctx context.Context, r api.GetCarWeekRequestObject) (api.GetCarWeekResponseObject, error) {
	w, err := s.shop.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(w.Cars, func(c week.WeekCar) bool { return c.ID == r.CarId })
	if i < 0 {
		return nil, refuse.ErrMissing
	}
	v := viewOf(ctx)
	var waits []files.Event
	for _, x := range w.Cars[i].Waits {
		text, why := v.CarWait(x, w.Now)
		waits = append(waits, files.Event{ID: string(x.Kind) + "." + r.CarId + x.Until.Format(time.RFC3339) + "@waxplanus", Title: text, Text: why, From: w.Now, To: x.Until})
	}
	return v.calendarOf(w, w.Cars[i].Name, waits, func(p schedule.Placed) bool { return w.Tasks[p.Key].Car == r.CarId }, func(t schedule.Task) string {
		_, text := wording.Task(t)
		return text
	})
}

// GetPersonWeek is what somebody does when, as a calendar.
func (s *Server) GetPersonWeek(ctx context.Context, r api.GetPersonWeekRequestObject) (api.GetPersonWeekResponseObject, error) {
	w, err := s.shop.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(w.People, func(p house.Worker) bool { return p.Name == r.Name }) {
		return nil, refuse.ErrMissing
	}
	names := wording.CarNames(w)
	return viewOf(ctx).calendarOf(w, r.Name, nil, func(p schedule.Placed) bool { return p.Person == r.Name }, func(t schedule.Task) string {
		_, text := wording.Task(t)
		return names[t.Car] + ": " + text
	})
}

// alerts are what to look at first: film that does not allow what is wanted, readings that are
// due before the next pass, owners who were not told, dates that are not kept, goods that run
// out, then film that allows it only with readings between.
func (v view) alerts(w *week.Week) []api.Alert {
	out := []api.Alert{}
	standing := func(state film.State) {
		for _, c := range w.Cars {
			n := c.Next
			if n.Standing == nil || n.Standing.State != state {
				continue
			}
			out = append(out, api.Alert{Kind: api.AlertKindFilm, State: ptr(api.State(state)), Head: c.Name + ", " + strings.ToLower(n.PanelName), Text: v.State(*n.Standing, n.Floor), CarId: &c.ID, PanelId: ptr(n.PanelID)})
		}
	}
	standing(film.Shut)
	for i := range w.Cars {
		c := &w.Cars[i]
		for j, d := range c.Due {
			if j == 0 || c.Due[j-1].PanelID != d.PanelID {
				head, text := v.ReadingDue(c, d.PanelID)
				out = append(out, api.Alert{Kind: api.AlertKindRead, Head: head, Text: text, CarId: &c.ID, PanelId: ptr(d.PanelID)})
			}
		}
	}
	for i := range w.Cars {
		if c := &w.Cars[i]; c.Untold > 0 {
			out = append(out, api.Alert{Kind: api.AlertKindTell, Head: c.Name, Text: v.TellOwner(c), CarId: &c.ID})
		}
	}
	for i := range w.Cars {
		if c := &w.Cars[i]; c.Late {
			out = append(out, api.Alert{Kind: api.AlertKindDate, Head: c.Name, Text: v.LateCar(w, c), CarId: &c.ID})
		}
	}
	for i := range w.Stock {
		if l := &w.Stock[i]; !l.Out.IsZero() {
			head, text := v.RunsOut(w, l)
			out = append(out, api.Alert{Kind: api.AlertKindShelf, Head: head, Text: text, Item: &l.Item})
		}
	}
	standing(film.Tight)
	return out
}
