package robot

import (
	"bytes"
	"encoding/json"
	"fmt"
	"log/slog"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"sync"
	"time"

	"waxplanus/internal/fresh"
	"waxplanus/internal/shop"
	"waxplanus/internal/store"
	"waxplanus/internal/web"
)

// empty is a shop with nothing in it, migrated once for all jobs.
var empty = fresh.Of(func(dir string) error {
	s, err := store.Open(dir)
	if err != nil {
		return err
	}
	return s.Close()
})

// house is a shop of its own with a clock that the robot moves.
type house struct {
	dir     string
	records *store.Store
	shop    *shop.Shop
	site    *web.Site
	mu      sync.Mutex
	now     time.Time
	slowest time.Duration
	slow    string // what that was
	asked   int
	log     []string // what was asked for, with its status
	seen    map[string]int
	found   func(rule int, what string)
}

// contractEvery is how many answers of a kind go by before one is held against the contract
// again.
const contractEvery = 7

// operationOf is a path without its ids.
func operationOf(path string) string {
	path, _, _ = strings.Cut(path, "?")
	parts := strings.Split(path, "/")
	for i := range parts {
		if i == 3 {
			parts[i] = ""
		}
	}
	return strings.Join(parts, "/")
}

var began = time.Date(2031, 3, 3, 8, 0, 0, 0, time.UTC)

func open(found func(rule int, what string)) (*house, error) {
	dir, err := os.MkdirTemp("", "robot")
	if err != nil {
		return nil, err
	}
	if err := empty.Into(dir); err != nil {
		return nil, err
	}
	h := &house{dir: dir, now: began, found: found, seen: map[string]int{}}
	if h.records, err = store.Open(dir); err != nil {
		return nil, err
	}
	h.shop = shop.New(h.records, h.time, time.UTC)
	h.site = web.New(h.shop, "robot", slog.New(slog.DiscardHandler), web.Devices{}, "example.com")
	return h, nil
}

func (h *house) close() {
	h.site.Close()
	h.shop.Close()
	_ = h.records.Close()
	_ = os.RemoveAll(h.dir)
}

func (h *house) time() time.Time {
	h.mu.Lock()
	defer h.mu.Unlock()
	return h.now
}

// wait lets time go by.
func (h *house) wait(d time.Duration) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.now = h.now.Add(d)
}

// answer is what came back.
type answer struct {
	status int
	body   []byte
}

func (a answer) ok() bool { return a.status < 300 }

// says whether a refusal, or any answer, has that in it.
func (a answer) says(text string) bool { return bytes.Contains(a.body, []byte(text)) }

// ask sends a request and holds what must hold of every answer.
func (h *house) ask(method, path string, body any) answer {
	var raw []byte
	if body != nil {
		raw, _ = json.Marshal(body) // values that this package made
	}
	h.wait(time.Second)
	r := httptest.NewRequest(method, path, bytes.NewReader(raw))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	start := time.Now()
	h.site.ServeHTTP(w, r)
	took := time.Since(start)
	if took > h.slowest {
		h.slowest, h.slow = took, method+" "+path
	}
	h.asked++
	out := answer{w.Code, w.Body.Bytes()}
	if method != http.MethodGet {
		line := fmt.Sprintf("%s %s %s -> %d", method, path, short(raw), w.Code)
		if w.Code >= 400 {
			line += " " + short(out.body)
		}
		h.log = append(h.log, line)
	}
	if w.Code >= 500 {
		h.found(1, fmt.Sprintf("%s %s answers %d: %s", method, path, w.Code, short(out.body)))
		return out
	}
	// Holding an answer against the contract takes longer than many answers do: the first of each
	// kind is, and then one in some.
	h.seen[method+operationOf(path)]++
	if n := h.seen[method+operationOf(path)]; n > 1 && n%contractEvery != 0 {
		return out
	}
	if err := web.Abides(method, r.URL.EscapedPath(), w.Code, w.Header().Get("Content-Type"), out.body); err != nil {
		h.found(1, err.Error())
	}
	if strings.Contains(w.Header().Get("Content-Type"), "json") {
		var value any
		if json.Unmarshal(out.body, &value) == nil {
			if where := implausible("", value); where != "" {
				h.found(1, fmt.Sprintf("%s %s: %s", method, path, where))
			}
		}
	}
	return out
}

func short(raw []byte) string {
	const most = 260
	if len(raw) > most {
		return string(raw[:most]) + "…"
	}
	return string(raw)
}

// bounds are what numbers of a name that ends so lie between.
var bounds = []struct {
	ends       string
	least, top float64
}{{"_um", -4000, 4000}, {"hours", 0, 3000}, {"minutes", 0, 200_000}, {"clarity", 0, 100}, {"passes_left", 0, 200}, {"passes_needed", 0, 200}, {"may_tap", 0, 100}, {"mean", -4000, 5000}, {"sd", 0, 5000}, {"money", 0, 1e6}}

// implausible names a number that is out of any plausible range; empty for none.
func implausible(name string, v any) string {
	switch v := v.(type) {
	case map[string]any:
		for k, one := range v {
			if where := implausible(k, one); where != "" {
				return where
			}
		}
	case []any:
		for _, one := range v {
			if where := implausible(name, one); where != "" {
				return where
			}
		}
	case float64:
		for _, b := range bounds {
			if strings.HasSuffix(name, b.ends) && !(v >= b.least && v <= b.top) {
				return fmt.Sprintf("%s is %v", name, v)
			}
		}
		if math.Abs(v) > 1e9 {
			return fmt.Sprintf("%s is %v", name, v)
		}
	case string:
		if strings.Contains(v, "NaN") || strings.Contains(v, "Inf ") || strings.Contains(v, "e+0") {
			return fmt.Sprintf("%s says %q", name, v)
		}
	}
	return ""
}

// get asks for a view.
func get[T any](h *house, path string) (out T, ok bool) {
	a := h.ask(http.MethodGet, path, nil)
	if !a.ok() {
		h.found(2, fmt.Sprintf("GET %s is refused with %d: %s", path, a.status, short(a.body)))
		return out, false
	}
	if err := json.Unmarshal(a.body, &out); err != nil {
		h.found(1, fmt.Sprintf("GET %s: %v", path, err))
		return out, false
	}
	return out, true
}

type body map[string]any
