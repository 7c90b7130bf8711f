package cars

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"math"
	"strconv"
	"strings"
	"sync"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Summary is what a list shows of a car. It is kept with the car and made anew when
// something that it rests on has changed.
type Summary struct {
	facts.OfCar  `json:"-"`
	HandedOverAt *time.Time `json:"-"`
	Box          body.Box
	Panels       []PanelState
	OpenMarks    int
	Next         panel.Next
	carWork      `json:"-"`
	Renewing     bool  `json:"-"` // it is that of before, or of a car that nobody looked at yet, and being made anew
	Fault        error `json:"-"` // why the car cannot be read; nil where it can
}

// carWork is what is left to do on a car, in the order of work, what must not be touched yet,
// where the gauge is due between passes, and how much of what will not come out the owner was
// not told. Only lists of those that are planned have it at hand.
type carWork struct {
	Tasks []schedule.Task    `json:"tasks,omitempty"`
	Waits []Wait             `json:"waits,omitempty"`
	Due   []panel.ReadingDue `json:"due,omitempty"`
	// Untold is so many things; Begun says that passes were made.
	Untold int  `json:"untold,omitempty"`
	Begun  bool `json:"begun,omitempty"`
}

// PanelState is the outline of a panel on its car, as the path of an SVG in whole mm, and
// the state of the section that decides there; empty where nothing was read.
type PanelState struct {
	Path  string
	State film.State
}

// finest is how far apart the corners of an outline are in a list, mm: a car is as small
// there as a thumb.
const finest = 12.0

func smallPath(p flatlay.Panel) string {
	var out strings.Builder
	var last flatlay.Point
	for i, q := range p.Outline {
		if i > 0 && math.Hypot(q.X-last.X, q.Y-last.Y) < finest {
			continue
		}
		last = q
		at := p.OnSheet(q)
		fmt.Fprintf(&out, "%c%.0f %.0f", "ML"[min(i, 1)], at.X, at.Y)
	}
	return out.String() + "Z"
}

// summaryForm is the form in which summaries are kept: another one makes all of them anew.
const summaryForm = 8

// summary is what a list shows of the car.
func summary(c *panel.Car) Summary {
	out := Summary{OfCar: c.OfCar, Box: c.Sheet.Box, Next: c.Next}
	for _, p := range c.Panels {
		st := PanelState{Path: smallPath(p.Shape)}
		if _, standing, ok := p.Decides(); ok {
			st.State = standing.State
		}
		out.Panels = append(out.Panels, st)
		out.OpenMarks += p.Outline().OpenMarks
	}
	return out
}

// CarsWanted are the cars that a list is asked for: at most so many whose names begin with
// some words, after the one that Cursor names.
type CarsWanted struct {
	HandedOver bool
	Search     string
	Cursor     string
	Most       int
}

// CarPage is one page of a list of cars. Total is how many there are without the search,
// Others how many are in the other list, of those handed over or not, and Cursor names where
// the next page begins; empty for the last.
type CarPage struct {
	Cars          []Summary
	Total, Others int
	Cursor        string
}

// How many cars a page has.
const (
	UsualPage = 50
	MostPage  = 100
)

// renewFor is how long a list waits for cars whose summaries are made anew; the others are
// made behind it.
const renewFor = 400 * time.Millisecond

// renewGone is how long a list of cars that were handed over waits: their names do.
const renewGone = 20 * time.Millisecond

// Cars is a page of the cars in the shop, in the order in which they came in, or of those
// that were handed over, the last first.
func (s *Service) Cars(ctx context.Context, w CarsWanted) (*CarPage, error) {
	if w.Most < 1 || w.Most > MostPage {
		return nil, refuse.Because(refuse.BadPage, "limit", MostPage)
	}
	var after int64
	if w.Cursor != "" {
		var err error
		if after, err = strconv.ParseInt(w.Cursor, 10, 64); err != nil || after < 1 {
			return nil, refuse.Because(refuse.BadCursor, "cursor")
		}
	}
	rows, n, err := s.Store.ListCars(ctx, store.CarsWanted{HandedOver: w.HandedOver, Search: w.Search, After: after, Most: w.Most + 1})
	if err != nil {
		return nil, err
	}
	out := &CarPage{Total: n.Here, Others: n.Gone}
	if w.HandedOver {
		out.Total, out.Others = n.Gone, n.Here
	}
	if len(rows) > w.Most {
		rows = rows[:w.Most]
		out.Cursor = strconv.FormatInt(rows[w.Most-1].Seq, 10)
	}
	out.Cars = make([]Summary, len(rows))
	var stale []int
	for i, row := range rows {
		var fresh bool
		if out.Cars[i], fresh = s.KeptSummary(row); !fresh {
			stale = append(stale, i)
		}
	}
	s.Renew(ctx, rows, out.Cars, stale)
	return out, nil
}

// KeptSummary is the summary of a car as it was kept, and whether that still holds.
func (s *Service) KeptSummary(row store.Listed) (Summary, bool) {
	var out Summary
	known := row.Summary != "" && row.Form == summaryForm && json.Unmarshal([]byte(row.Summary), &out) == nil
	if known && row.Work != "" {
		known = json.Unmarshal([]byte(row.Work), &out.carWork) == nil
	}
	out.OfCar, out.HandedOverAt = facts.CarOf(row.Car), row.HandedOverAt
	if from := out.Next.From; !from.IsZero() && !from.After(s.Now()) {
		known = false // what had to wait need not any more
	}
	closed := row.HandedOverAt != nil // nothing of it changes by what the shop learns or decides
	return out, known && row.CarVersion == row.Version && (closed || row.ShopVersion == row.NowVersion && row.Lessons == row.NowLesson)
}

// Renew makes the summaries of some cars of a list anew. Those that take too long stay as
// they were and are finished behind.
func (s *Service) Renew(ctx context.Context, rows []store.Listed, cars []Summary, stale []int) {
	under := make([]*renewal, len(stale))
	for k, i := range stale {
		cars[i].Renewing = true
		under[k] = s.renewals.begin(s, rows[i])
	}
	wait := renewFor
	if len(rows) > 0 && rows[0].HandedOverAt != nil {
		wait = renewGone
	}
	late := time.NewTimer(wait)
	defer late.Stop()
	for k, i := range stale {
		select {
		case <-under[k].done:
			is := under[k].is
			is.OfCar, is.HandedOverAt, is.Fault = cars[i].OfCar, cars[i].HandedOverAt, under[k].err
			cars[i] = is
		case <-late.C:
			return
		case <-ctx.Done():
			return
		}
	}
}

// renewals are the summaries that are being made anew, by car: one for all who ask.
type renewals struct {
	mu    sync.Mutex
	under map[string]*renewal
}

type renewal struct {
	done chan struct{} // closed once the others are set
	is   Summary
	err  error
}

// begin makes the summary of a car anew behind, unless that is under way.
func (r *renewals) begin(s *Service, row store.Listed) *renewal {
	r.mu.Lock()
	defer r.mu.Unlock()
	if one := r.under[row.ID]; one != nil {
		return one
	}
	one := &renewal{done: make(chan struct{})}
	r.under[row.ID] = one
	of := store.KeptSummary{CarID: row.ID, CarVersion: row.Version, ShopVersion: row.NowVersion, Lessons: row.NowLesson, Form: summaryForm}
	s.Running.Go(func() {
		defer func() {
			r.mu.Lock()
			defer r.mu.Unlock()
			delete(r.under, of.CarID)
			close(one.done)
		}()
		select {
		case s.slots <- struct{}{}:
			defer func() { <-s.slots }()
			one.is, one.err = s.renewed(s.Life, of)
		case <-s.Life.Done():
			one.err = s.Life.Err()
		}
	})
	return one
}

// renewed is the summary of a car as it is now; it is kept with the versions that it was
// asked for with: it is no older.
func (s *Service) renewed(ctx context.Context, of store.KeptSummary) (out Summary, err error) {
	defer func() {
		if cause := recover(); cause != nil {
			err = advice.Panicked(cause)
		}
	}()
	c, err := s.Car(ctx, of.CarID)
	if err != nil {
		return Summary{}, err
	}
	out = summary(c)
	if c.HandedOverAt == nil {
		if out.Tasks, out.Waits, err = s.workOf(ctx, c); err != nil {
			return out, err
		}
		for _, p := range c.Panels {
			out.Begun = out.Begun || p.Worked()
			out.Due = append(out.Due, advice.ReadingsDue(p)...)
		}
		told, err := s.TellingsOf(ctx, c)
		if err != nil {
			return out, err
		}
		out.Untold = Untold(told)
	}
	raw, err := json.Marshal(out)
	if err != nil {
		return out, err
	}
	work, err := json.Marshal(out.carWork)
	if err != nil {
		return out, err
	}
	of.Summary, of.Work = string(raw), string(work)
	if err := s.Store.KeepSummary(ctx, of); err != nil && !errors.Is(err, store.ErrBusy) && !errors.Is(err, store.ErrFull) {
		return out, err
	}
	return out, nil // where it could not be kept, it is made again
}

// warmPanels is how many panels, the last worked first, say which cars are in hand.
const warmPanels = 60

// Learn learns what the history of the shop tells of its coats and hands, which whoever asks
// first would wait for.
func (s *Service) Learn(ctx context.Context) error {
	v, err := s.Store.HouseVersion(ctx)
	if err != nil {
		return err
	}
	if _, err := s.CoatRatio(ctx, v.Lessons, ""); err != nil {
		return err
	}
	_, _, err = s.LearnHands(ctx, v.Lessons, "")
	return err
}

// WarmBehind makes what the first who ask would wait for, until the shop is closed: the cars
// in hand first, then a page of the others. It waits while others ask, and whether they do
// as soon as the shop is open.
func (s *Service) WarmBehind(log *slog.Logger) {
	s.Asked()
	s.Running.Go(func() {
		if err := s.warm(s.Life); err != nil && !errors.Is(err, context.Canceled) {
			log.Warn("computing ahead stopped", "error", err)
		}
	})
}

func (s *Service) warm(ctx context.Context) error {
	ids, err := s.Store.Recent(ctx, warmPanels)
	if err != nil {
		return err
	}
	page, _, err := s.Store.ListCars(ctx, store.CarsWanted{Most: UsualPage})
	if err != nil {
		return err
	}
	for _, row := range page {
		if _, fresh := s.KeptSummary(row); !fresh {
			ids = append(ids, row.ID)
		}
	}
	seen := map[string]bool{}
	for _, id := range ids {
		if seen[id] || ctx.Err() != nil {
			continue
		}
		seen[id] = true
		if err := s.warmCar(ctx, id); err != nil {
			return err
		}
	}
	return ctx.Err()
}

// warmCar reads the panels of a car one by one; one that cannot be read is left to those
// who ask for it.
func (s *Service) warmCar(ctx context.Context, id string) error {
	r, err := s.CarBatch(ctx, id)
	if err != nil {
		return err
	}
	for _, p := range r.Car.Panels {
		if err := s.quiet(ctx); err != nil {
			return err
		}
		if _, err := s.PanelOf(ctx, r, p.ID); err != nil && !panel.IsUnreadable(err) {
			return err
		}
	}
	return nil
}

// What goes on behind begins its next piece once nobody has asked for quietFor, or after
// it has waited for mostPatience.
const (
	quietFor     = 200 * time.Millisecond
	mostPatience = time.Minute
)

// quiet waits for a moment in which nobody asks.
func (s *Service) quiet(ctx context.Context) error {
	for end := time.Now().Add(mostPatience); time.Now().Before(end); {
		since := s.Idle()
		if since >= quietFor {
			break
		}
		select {
		case <-time.After(quietFor - since):
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	return ctx.Err()
}
