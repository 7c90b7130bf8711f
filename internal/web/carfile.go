package web

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/url"
	"time"

	"waxplanus/internal/files"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// CarAsk is what is asked of a car that is in a file and in no shop.
type CarAsk struct {
	What  string // film, plan, advise or report
	Panel string // key of one panel, empty for all that are worked
	Paper string // of a report
	JSON  bool
}

// AskCar answers of a car in a file, in a shop of its own that lasts as long as the answer: the
// same computation, and as JSON the same answers, as those of the contract. What is wrong with
// the file is a BadInput.
func AskCar(ctx context.Context, in []byte, ask CarAsk, out io.Writer) error {
	car, err := files.ReadCar(bytes.NewReader(in), int64(len(in)))
	if err == nil {
		err = keep.InScratch(ctx, car, ask.What == "report", time.Now, time.UTC, func(of *shop.Shop, id string) error {
			return askOf{of, New(of, "", slog.New(slog.DiscardHandler), Devices{}), out}.answer(ctx, id, ask)
		})
	}
	var bad *files.BadCar
	if errors.As(err, &bad) {
		err = refuse.Because(refuse.BadCarFile, "file", bad)
	}
	return InWords(err)
}

// InWords is an error as a person reads it, a BadInput where it is one of what was sent.
func InWords(err error) error {
	var r *refuse.Refusal
	if !errors.As(err, &r) {
		return err
	}
	p, _ := problemOf(view{}, err)
	return BadInput(p.Detail)
}

// askOf answers of the shop of one car.
type askOf struct {
	shop *shop.Shop
	site http.Handler
	out  io.Writer
}

// get is an answer of the contract.
func (a askOf) get(ctx context.Context, path string) ([]byte, error) {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://localhost/api"+path, nil)
	if err != nil {
		return nil, err
	}
	w := &kept{head: http.Header{}, code: http.StatusOK}
	a.site.ServeHTTP(w, r)
	if w.code == http.StatusOK {
		return w.Bytes(), nil
	}
	var p api.Problem
	if err := json.Unmarshal(w.Bytes(), &p); err != nil {
		return nil, fmt.Errorf("%s: %d", path, w.code)
	}
	return nil, BadInput(p.Detail)
}

// kept is an answer that stays in the program.
type kept struct {
	bytes.Buffer
	head http.Header
	code int
}

// Header of the answer.
func (k *kept) Header() http.Header { return k.head }

// WriteHeader notes the status.
func (k *kept) WriteHeader(code int) { k.code = code }

func (a askOf) answer(ctx context.Context, id string, ask CarAsk) error {
	at := "/cars/" + url.PathEscape(id)
	switch ask.What {
	case "report":
		raw, err := a.get(ctx, at+"/papers/"+url.PathEscape(ask.Paper))
		if err != nil {
			return err
		}
		_, err = a.out.Write(raw)
		return err
	case "film":
		if ask.JSON {
			return a.pass(ctx, at+"/papers/record.json")
		}
		return a.film(ctx, id)
	case "advise":
		if ask.JSON {
			return a.pass(ctx, at+"/handover")
		}
		return a.advise(ctx, at)
	}
	return a.plans(ctx, id, ask)
}

// pass writes an answer as it is.
func (a askOf) pass(ctx context.Context, path string) error {
	raw, err := a.get(ctx, path)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := json.Indent(&out, raw, "", "  "); err != nil {
		return err
	}
	out.WriteByte('\n')
	_, err = a.out.Write(out.Bytes())
	return err
}

func (a askOf) film(ctx context.Context, id string) error {
	h, err := a.shop.Handing(ctx, id)
	if err != nil {
		return err
	}
	for _, l := range h.Lines {
		if !l.Known {
			fmt.Fprintf(a.out, "%-28s not read\n", l.Name)
			continue
		}
		fmt.Fprintf(a.out, "%-28s film %5.1f  clear %5.1f ± %.1f  taken %4.1f  may go %4.1f  (µm)\n", l.Name, l.Film.Mean, l.Clear.Mean, l.Clear.SD, l.Spent.Mean, max(l.Room, 0))
	}
	return nil
}

func (a askOf) advise(ctx context.Context, at string) error {
	var car api.Car
	var hand api.Handing
	for path, to := range map[string]any{at: &car, at + "/handover": &hand} {
		raw, err := a.get(ctx, path)
		if err == nil {
			err = json.Unmarshal(raw, to)
		}
		if err != nil {
			return err
		}
	}
	fmt.Fprintf(a.out, "%s: %s\n", car.Next.PanelName, car.Next.Action)
	for _, p := range car.Panels {
		if p.Reason != nil {
			fmt.Fprintf(a.out, "%-28s %s\n", p.Name, *p.Reason)
		}
	}
	for _, t := range hand.Todos {
		fmt.Fprintf(a.out, "before hand over: %s, %s\n", t.Name, t.Text)
	}
	return nil
}

// plans are the plans of the panels that somebody wants levelled or polished.
func (a askOf) plans(ctx context.Context, id string, ask CarAsk) error {
	car, err := a.shop.Car(ctx, id)
	if err != nil {
		return err
	}
	var all []json.RawMessage
	for _, p := range car.Panels {
		if ask.Panel != "" && p.Key != ask.Panel || ask.Panel == "" && p.Study == nil {
			continue
		}
		raw, err := a.get(ctx, "/panels/"+url.PathEscape(p.ID)+"/plan")
		if err != nil {
			return err
		}
		if all = append(all, raw); ask.JSON {
			continue
		}
		var plan api.Plan
		if err := json.Unmarshal(raw, &plan); err != nil {
			return err
		}
		fmt.Fprintf(a.out, "%s: %s ± %s µm may go\n", p.Name, films(plan.RoomUm.Mean), films(plan.RoomUm.Sd))
		for _, o := range plan.Offers {
			fmt.Fprintf(a.out, "  %-14s %s µm, %.1f h, %s\n", o.Name, films(o.FilmUm.Mean), o.Hours.Mean, o.State)
		}
		if plan.Refusal != nil {
			fmt.Fprintf(a.out, "  %s\n", plan.Refusal.Needs)
		}
	}
	if len(all) == 0 {
		return BadInput(wording.NothingToPlan(ask.Panel))
	}
	if !ask.JSON {
		return nil
	}
	e := json.NewEncoder(a.out)
	e.SetIndent("", "  ")
	return e.Encode(all)
}

func films(um float64) string { return fmt.Sprintf("%.1f", um) }
