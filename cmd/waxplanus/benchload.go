package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"
)

// load is how much is asked of a shop.
type load struct {
	tablets     int
	taps        time.Duration // how long they tap as fast as hands do, and as long again as painters do
	worked, big int           // cars with years of log, and cars in all
}

func benchLoadCommand(out io.Writer) *cobra.Command {
	var l load
	c := &cobra.Command{
		Use: "load", Short: "Taps, pages and memory of a shop with years of log and a room full of tablets", Args: cobra.NoArgs,
		Long: `Starts this program on made-up shops of its own, on this machine only, and asks of it what a
busy shop asks: taps of many tablets at once with their streams open, pages, restarts, a
list of many cars. Times are those that a client waits for; the client works on the same
cores. Needs some minutes and some hundred MB of disk, and leaves nothing behind.`,
		RunE: func(c *cobra.Command, _ []string) error { return benchLoad(c.Context(), out, l) },
	}
	c.Flags().IntVar(&l.tablets, "tablets", 60, "tablets, each on a panel of its own")
	c.Flags().DurationVar(&l.taps, "for", time.Minute, "how long they tap")
	c.Flags().IntVar(&l.worked, "worked", 200, "cars with years of log")
	c.Flags().IntVar(&l.big, "cars", 3000, "cars of the long list")
	return c
}

// line prints one line of the table.
func line(out io.Writer, what, measured, wanted string) {
	fmt.Fprintf(out, "| %-72s | %-58s | %s |\n", what, measured, wanted)
}

func benchLoad(ctx context.Context, out io.Writer, l load) error {
	line(out, "what", "measured", "wanted")
	line(out, "---", "---", "---")
	for _, cars := range []int{1, l.worked / 10, l.worked} {
		if err := benchTaps(ctx, out, max(cars, 1)); err != nil {
			return err
		}
	}
	if err := benchRoom(ctx, out, l); err != nil {
		return err
	}
	return benchList(ctx, out, l.big)
}

// benchTaps taps on one panel of a shop with so many worked cars.
func benchTaps(ctx context.Context, out io.Writer, cars int) error {
	s, err := startShop(ctx, cars)
	if err != nil {
		return err
	}
	defer s.end()
	panels, err := s.freshPanels(1)
	if err != nil {
		return err
	}
	t := &tablet{shop: s, panel: panels[0]}
	if err := t.look(); err != nil {
		return err
	}
	var took []time.Duration
	before := s.cpu()
	for range 40 {
		d, err := t.tap("paper")
		if err != nil {
			return err
		}
		took = append(took, d)
	}
	cpu := "not known here"
	if before >= 0 {
		cpu = fmt.Sprintf("%.1f ms of the processor", float64(s.cpu()-before)*1000/40)
	}
	line(out, fmt.Sprintf("one tap, %d entries in the shop", cars*476), fmt.Sprintf("%s, p50 %s", cpu, shown(quantileOf(took, 0.5))), "10 ms of the processor, flat")
	return nil
}

// benchRoom is a room full of tablets on a shop with years of log.
func benchRoom(ctx context.Context, out io.Writer, l load) error {
	s, err := startShop(ctx, l.worked)
	if err != nil {
		return err
	}
	defer func() { s.end() }()
	panels, err := s.freshPanels(l.tablets)
	if err != nil {
		return err
	}
	room := make([]*tablet, len(panels))
	for i := range room {
		room[i] = &tablet{shop: s, panel: panels[i]}
		if err := room[i].watch(ctx); err != nil {
			return err
		}
		defer room[i].leave()
		if err := room[i].look(); err != nil {
			return err
		}
	}
	fast := s.tapAll(ctx, room, l.taps, 500*time.Millisecond, false)
	line(out, fmt.Sprintf("%d tablets with streams, 2 taps a second each, for %s", l.tablets, l.taps), fast.String(), "0 errors, all kept, p99 100 ms")
	slow := s.tapAll(ctx, room, l.taps, 20*time.Second, true)
	line(out, fmt.Sprintf("%d tablets, a tap each 20 s, their pages asked for again with each news", l.tablets), slow.String(), "0 errors, p99 150 ms")
	for _, p := range []struct{ page, what, wanted string }{{"plan", "plan page, warm", "100 ms"}, {"level", "level page with its sheet of history, warm", "60 ms"}} {
		var took []time.Duration
		for i := range 40 {
			d, err := s.get("/api/panels/"+panels[i%len(panels)]+"/"+p.page, nil)
			if err != nil {
				return err
			}
			if i >= 20 {
				took = append(took, d)
			}
		}
		line(out, p.what, fmt.Sprintf("p50 %s, slowest %s", shown(quantileOf(took, 0.5)), shown(slices.Max(took))), p.wanted)
	}
	if err := s.overload(ctx); err != nil {
		return err
	}
	peak := s.memory()
	time.Sleep(20 * time.Second)
	line(out, "memory right after 64 clients asked for every page they could for 20 s", fmt.Sprintf("%d MB, %d MB 20 s later", peak, s.memory()), "300 MB, given back")
	if err := s.restart(ctx); err != nil {
		return err
	}
	var all sync.WaitGroup
	var mu sync.Mutex
	var took []time.Duration
	var failed error
	for _, t := range room[:min(12, len(room))] {
		all.Go(func() {
			d, err := t.tap("paper")
			mu.Lock()
			defer mu.Unlock()
			took = append(took, d)
			failed = cmpErr(failed, err)
		})
	}
	all.Wait()
	if failed != nil {
		return failed
	}
	line(out, "first taps after a restart, 12 at once", "slowest "+shown(slices.Max(took)), "300 ms")
	return nil
}

func cmpErr(a, b error) error {
	if a != nil {
		return a
	}
	return b
}

// benchList asks for the start page of shops with few and with many cars.
func benchList(ctx context.Context, out io.Writer, many int) error {
	for _, c := range []struct {
		cars         int
		what, wanted string
	}{{20, "start page, 20 worked cars", "50 ms, 1 s cold"}, {many, fmt.Sprintf("start page, %d cars, 50 on a page", many), "50 ms"}} {
		s, err := startShop(ctx, c.cars)
		if err != nil {
			return err
		}
		var page struct {
			Cars []struct {
				Renewing bool `json:"renewing"`
			}
		}
		for range 240 { // until all of the page is worked out
			if _, err := s.get("/api/cars", &page); err != nil {
				s.end()
				return err
			}
			if !slices.ContainsFunc(page.Cars, func(c struct {
				Renewing bool `json:"renewing"`
			}) bool {
				return c.Renewing
			}) {
				break
			}
			time.Sleep(250 * time.Millisecond)
			page.Cars = nil
		}
		if err := s.restart(ctx); err != nil {
			return err
		}
		cold, err := s.get("/api/cars", nil)
		var took []time.Duration
		for i := 0; i < 20 && err == nil; i++ {
			var d time.Duration
			d, err = s.get("/api/cars", nil)
			took = append(took, d)
		}
		s.end()
		if err != nil {
			return err
		}
		line(out, c.what, fmt.Sprintf("p50 %s, first after a restart %s", shown(quantileOf(took, 0.5)), shown(cold)), c.wanted)
	}
	return nil
}

func shown(d time.Duration) string { return fmt.Sprintf("%.0f ms", float64(d.Microseconds())/1000) }

func quantileOf(took []time.Duration, q float64) time.Duration {
	if len(took) == 0 {
		return 0
	}
	s := slices.Sorted(slices.Values(took))
	return s[min(int(q*float64(len(s))), len(s)-1)]
}

// tally is what many taps came to.
type tally struct {
	mu                          sync.Mutex
	sent, kept, refused, failed int
	taps, pages                 []time.Duration
	first                       error
}

func (t *tally) String() string {
	out := fmt.Sprintf("%d sent, %d kept, %d refused, %d errors, p50 %s, p99 %s", t.sent, t.kept, t.refused, t.failed, shown(quantileOf(t.taps, 0.5)), shown(quantileOf(t.taps, 0.99)))
	if len(t.pages) > 0 {
		out += fmt.Sprintf("; pages p99 %s", shown(quantileOf(t.pages, 0.99)))
	}
	if t.first != nil {
		out += fmt.Sprintf(" (%.80s)", t.first)
	}
	return out
}

// tapAll has each tablet tap every so often, spread out; with pages each asks for its page
// again when there is news.
func (s *benchShop) tapAll(ctx context.Context, room []*tablet, long, every time.Duration, pages bool) *tally {
	out := &tally{}
	end := time.Now().Add(long)
	var all sync.WaitGroup
	for i, t := range room {
		all.Go(func() {
			time.Sleep(every * time.Duration(i) / time.Duration(len(room)))
			for at := time.Now(); at.Before(end) && ctx.Err() == nil; at = at.Add(every) {
				t.next(out, pages)
				for time.Until(at.Add(every)) > 0 {
					if !pages || time.Now().After(end) {
						time.Sleep(min(time.Until(at.Add(every)), max(time.Until(end), 0)))
						break
					}
					if time.Sleep(50 * time.Millisecond); t.news.Swap(false) {
						t.refresh(out)
					}
				}
			}
		})
	}
	all.Wait()
	return out
}

// tablet is one tablet on one panel.
type tablet struct {
	shop    *benchShop
	panel   string
	last    string // id of the entry that it tapped last
	level   levelPage
	ahead   int // passes that may be tapped before the page is looked at again
	news    atomic.Bool
	leaving context.CancelFunc
}

type levelPage struct {
	Plan, Section string
	Hand          *struct {
		Step, May_tap, Passes_needed int // as the contract names them
	}
}

func (t *tablet) look() error {
	t.level = levelPage{}
	if _, err := t.shop.get("/api/panels/"+t.panel+"/level", &t.level); err != nil {
		return err
	}
	t.ahead = 0
	if h := t.level.Hand; h != nil {
		t.ahead = min(h.May_tap, h.Passes_needed)
	}
	return nil
}

// refresh looks again, as a page does that has heard of news.
func (t *tablet) refresh(out *tally) {
	start := time.Now()
	err := t.look()
	out.mu.Lock()
	defer out.mu.Unlock()
	out.pages = append(out.pages, time.Since(start))
	if err != nil {
		out.failed, out.first = out.failed+1, cmpErr(out.first, err)
	}
}

// next taps what a painter would: the passes that are wanted, then the end of the step.
func (t *tablet) next(out *tally, pages bool) {
	kind := "pass"
	switch {
	case t.level.Hand == nil: // all is done: the last is taken back, and made once more
		kind = strikeLast
	case t.ahead == 0:
		kind = "done"
	}
	took, err := t.tap(kind)
	t.ahead--
	refused := err != nil && strings.HasPrefix(err.Error(), "409")
	out.mu.Lock()
	out.sent++
	out.taps = append(out.taps, took)
	switch {
	case err == nil:
		out.kept++
	case refused:
		out.refused++
	default:
		out.failed, out.first = out.failed+1, cmpErr(out.first, err)
	}
	out.mu.Unlock()
	if !pages && (kind != "pass" || refused) {
		if err := t.look(); err != nil {
			out.mu.Lock()
			out.failed, out.first = out.failed+1, cmpErr(out.first, err)
			out.mu.Unlock()
		}
	}
}

const strikeLast = "strike"

func (t *tablet) tap(kind string) (time.Duration, error) {
	if kind == strikeLast {
		return t.shop.send(http.MethodPost, "/api/log/"+t.last+"/strike", map[string]any{"reason": "once more"}, nil)
	}
	t.last = uuid.NewString()
	step := 1
	if t.level.Hand != nil {
		step = t.level.Hand.Step
	}
	return t.shop.send(http.MethodPost, "/api/panels/"+t.panel+"/log", map[string]any{"id": t.last, "plan": t.level.Plan, "section": t.level.Section,
		"step": step, "kind": kind, "person": "Tove", "device": "tablet-" + t.panel[:8], "seconds_ago": 0}, nil)
}

// watch opens the tablet's stream.
func (t *tablet) watch(ctx context.Context) error {
	ctx, t.leaving = context.WithCancel(ctx)
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, t.shop.url+"/api/panels/"+t.panel+"/events?device=tablet-"+t.panel[:8]+"&section=b0r0c0&person=Tove", nil)
	if err != nil {
		return err
	}
	answer, err := t.shop.client.Do(r)
	if err != nil {
		return err
	}
	go func() {
		defer func() { _ = answer.Body.Close() }()
		buf := make([]byte, 4096)
		for {
			n, err := answer.Body.Read(buf)
			if bytes.Contains(buf[:n], []byte("data:")) {
				t.news.Store(true)
			}
			if err != nil {
				return
			}
		}
	}()
	return nil
}

func (t *tablet) leave() { t.leaving() }

// overload asks for every page there is, from many clients at once.
func (s *benchShop) overload(ctx context.Context) error {
	var page struct{ Cars []struct{ ID string } }
	if _, err := s.get("/api/cars?limit=100", &page); err != nil {
		return err
	}
	end := time.Now().Add(20 * time.Second)
	var all sync.WaitGroup
	var at atomic.Int64
	for range 64 {
		all.Go(func() {
			for time.Now().Before(end) && ctx.Err() == nil {
				n := int(at.Add(1))
				car := page.Cars[n%len(page.Cars)].ID
				path := []string{"/api/cars/" + car, "/api/cars/" + car + "/plans", "/api/cars?limit=100"}[n%3]
				_, _ = s.get(path, nil) // a slow answer is what is wanted here
			}
		})
	}
	all.Wait()
	return ctx.Err()
}

func (s *benchShop) get(path string, out any) (time.Duration, error) {
	return s.send(http.MethodGet, path, nil, out)
}

// send asks the shop; an answer that is no success is an error that begins with its status.
func (s *benchShop) send(method, path string, body, out any) (time.Duration, error) {
	var in io.Reader
	if body != nil {
		raw, err := json.Marshal(body)
		if err != nil {
			return 0, err
		}
		in = bytes.NewReader(raw)
	}
	r, err := http.NewRequest(method, s.url+path, in)
	if err != nil {
		return 0, err
	}
	r.Header.Set("Content-Type", "application/json")
	start := time.Now()
	answer, err := s.client.Do(r)
	if err != nil {
		return time.Since(start), err
	}
	defer func() { _ = answer.Body.Close() }()
	raw, err := io.ReadAll(answer.Body)
	took := time.Since(start)
	if err == nil && answer.StatusCode >= http.StatusBadRequest {
		err = fmt.Errorf("%d %s %s: %s", answer.StatusCode, method, path, raw)
	}
	if err == nil && out != nil {
		err = json.Unmarshal(raw, out)
	}
	return took, err
}

// freshPanels takes saloons in and gives so many of their panels, read and with a plan.
func (s *benchShop) freshPanels(n int) ([]string, error) {
	var out []string
	keys := []string{"L-fdoor", "L-rdoor", "R-fdoor", "R-rdoor", "bonnet", "boot"}
	for no := 1; len(out) < n; no++ {
		var car struct{ ID string }
		body := map[string]any{"name": fmt.Sprintf("Load %d", no), "body": "saloon", "colour": "dark", "painter": "Tove",
			"groups": []map[string]any{{"keys": keys, "facts": map[string]any{"origin": "here", "coats": 4, "peel_grade": 6.5, "aim": "flat"}}}}
		if _, err := s.send(http.MethodPost, "/api/cars", body, &car); err != nil {
			return nil, err
		}
		for _, key := range keys[:min(len(keys), n-len(out))] {
			panel := car.ID + "." + key
			if err := s.readAndPlan(panel); err != nil {
				return nil, err
			}
			out = append(out, panel)
		}
	}
	return out, nil
}

func (s *benchShop) readAndPlan(panel string) error {
	for film := 188; film < 194; {
		var read struct {
			Next []struct{ X_mm, Y_mm float64 } // as the contract names them
		}
		if _, err := s.get("/api/panels/"+panel+"/read", &read); err != nil {
			return err
		}
		for _, at := range read.Next {
			if _, err := s.send(http.MethodPost, "/api/panels/"+panel+"/readings", map[string]any{"id": uuid.NewString(), "x_mm": at.X_mm, "y_mm": at.Y_mm,
				"film": film, "unit": "um", "phase": "total"}, nil); err != nil {
				return err
			}
			film++
		}
	}
	var plan struct{ Basis string }
	if _, err := s.get("/api/panels/"+panel+"/plan", &plan); err != nil {
		return err
	}
	_, err := s.send(http.MethodPost, "/api/panels/"+panel+"/plan", map[string]any{"basis": plan.Basis, "ladder": "balanced"}, nil)
	return err
}
