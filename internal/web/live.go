package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
)

// hub tells the screens that watch a panel, a car or the list of cars when something of
// that was kept, and who else works on the same panel.
type hub struct {
	mu       sync.Mutex
	watchers map[topic]map[*watcher]bool
	closed   chan struct{}
	once     sync.Once
}

// topic is what a screen watches: one panel, one car, or with neither the list of cars.
type topic struct{ panel, car string }

// watcher is one screen that watches.
type watcher struct {
	topic
	section, device, person string
	wake                    chan struct{} // holds one: that there is something new
	news                    api.News      // that it was not told yet
	besides                 bool          // others came or left since
}

func newHub() *hub { return &hub{watchers: map[topic]map[*watcher]bool{}, closed: make(chan struct{})} }

func (h *hub) join(w *watcher) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.watchers[w.topic] == nil {
		h.watchers[w.topic] = map[*watcher]bool{}
	}
	h.watchers[w.topic][w] = true
	h.besides(w)
	nudge(w)
}

func (h *hub) leave(w *watcher) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if delete(h.watchers[w.topic], w); len(h.watchers[w.topic]) == 0 {
		delete(h.watchers, w.topic)
	}
	h.besides(w)
}

// besides notes for the others on a panel that somebody came or left; they are told of it
// with their next news, or soon.
func (h *hub) besides(w *watcher) {
	if w.panel == "" {
		return
	}
	for o := range h.watchers[w.topic] {
		o.besides = true
	}
}

// changed tells those whom it concerns what was kept.
func (h *hub) changed(c panel.Change) {
	h.mu.Lock()
	defer h.mu.Unlock()
	tell := func(t topic, put func(*api.News)) {
		for w := range h.watchers[t] {
			put(&w.news)
			nudge(w)
		}
	}
	for id, version := range c.Panels {
		tell(topic{panel: id}, func(n *api.News) { n.Version = version })
	}
	for id, version := range c.Cars {
		tell(topic{car: id}, func(n *api.News) { n.Version = version })
		tell(topic{}, func(n *api.News) {
			if !slices.Contains(n.Cars, id) {
				n.Cars = append(n.Cars, id)
			}
		})
	}
	if c.House {
		for t := range h.watchers {
			tell(t, func(n *api.News) { n.House = true })
		}
	}
}

func nudge(w *watcher) {
	select {
	case w.wake <- struct{}{}:
	default: // it will look anyway
	}
}

// take is what a watcher was not told yet, with the other devices on its panel.
func (h *hub) take(w *watcher) api.News {
	h.mu.Lock()
	defer h.mu.Unlock()
	n := w.news
	w.news, w.besides = api.News{Version: n.Version}, false
	if n.Cars == nil {
		n.Cars = []string{}
	}
	n.Others = []api.Beside{}
	if w.panel == "" {
		return n
	}
	seen := map[string]bool{w.device: true}
	for o := range h.watchers[w.topic] {
		if !seen[o.device] {
			seen[o.device] = true
			n.Others = append(n.Others, api.Beside{Person: o.person, Section: o.section})
		}
	}
	return n
}

// others says whether somebody came or left whom a watcher was not told of.
func (h *hub) others(w *watcher) bool {
	h.mu.Lock()
	defer h.mu.Unlock()
	return w.besides
}

func (h *hub) close() { h.once.Do(func() { close(h.closed) }) }

const (
	stillThere = 20 * time.Second       // how often a silent stream says that it still is
	between    = 300 * time.Millisecond // that a screen is left alone after news
	lookBeside = 2 * time.Second        // after which who came or left is told
	slowest    = 10 * time.Second       // that a screen may take to read its news
)

// watchPanel streams news of a panel as server-sent events until the screen leaves.
func (s *Server) watchPanel(c *gin.Context) {
	w := &watcher{topic: topic{panel: c.Param("panelId")}, section: clipped(c.Query("section")), device: clipped(c.Query("device")), person: clipped(c.Query("person"))}
	if len(w.device) < leastDevice {
		s.fail(c, refuse.Because(refuse.ShortDevice, "device", leastDevice, mostDevice))
		return
	}
	v, err := s.shop.PanelVersion(c, w.panel)
	if err != nil {
		s.fail(c, err)
		return
	}
	w.news.Version = v
	s.stream(c, w)
}

// watchCar streams news of a car.
func (s *Server) watchCar(c *gin.Context) {
	w := &watcher{topic: topic{car: c.Param("carId")}}
	v, err := s.shop.CarVersion(c, w.car)
	if err != nil {
		s.fail(c, err)
		return
	}
	w.news.Version = v
	s.stream(c, w)
}

// watchCars streams which cars of the list have changed.
func (s *Server) watchCars(c *gin.Context) { s.stream(c, &watcher{}) }

// stream sends a watcher its news, at most some times a second, until its screen leaves.
func (s *Server) stream(c *gin.Context, w *watcher) {
	done, ok := s.streams.take(c.Request.RemoteAddr)
	if !ok {
		s.fail(c, refuse.Because(refuse.TooManyStreams, "", mostStreams))
		return
	}
	defer done()
	w.wake = make(chan struct{}, 1)
	c.Header("Content-Type", "text/event-stream")
	c.Header("X-Accel-Buffering", "no")
	c.Status(http.StatusOK)
	line := http.NewResponseController(c.Writer)
	_ = line.SetReadDeadline(time.Time{}) // nothing more is read; where it cannot be set, the stream ends and is opened again
	s.hub.join(w)
	defer s.hub.leave(w)
	still, beside := time.NewTicker(stillThere), time.NewTicker(lookBeside)
	defer still.Stop()
	defer beside.Stop()
	var quiet <-chan time.Time // nil while news may be sent
	waits := false
	for {
		text := ""
		select {
		case <-c.Request.Context().Done():
			return
		case <-s.hub.closed:
			return
		case <-still.C:
			text = ": still there\n\n"
		case <-w.wake:
			waits = true
		case <-beside.C:
			waits = waits || s.hub.others(w)
		case <-quiet:
			quiet = nil
		}
		if waits && quiet == nil {
			raw, err := json.Marshal(s.hub.take(w))
			if err != nil {
				return
			}
			text, waits, quiet = fmt.Sprintf("data: %s\n\n", raw), false, time.After(between)
		}
		if text == "" {
			continue
		}
		_ = line.SetWriteDeadline(time.Now().Add(slowest)) // as above
		if _, err := c.Writer.WriteString(text); err != nil {
			return
		}
		if err := line.Flush(); err != nil {
			return
		}
	}
}

// The signs that a device is named with.
const (
	leastDevice = 8
	mostDevice  = 64
)

// clipped is a word of a query, no longer than it needs to be.
func clipped(v string) string {
	if r := []rune(v); len(r) > mostDevice {
		return string(r[:mostDevice])
	}
	return v
}
