package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"waxplanus/internal/shop"
	"waxplanus/internal/web/api"
)

// hub tells every screen that watches when something was kept, and who else works
// on the same panel.
type hub struct {
	mu       sync.Mutex
	changes  int
	watchers map[*watcher]bool
	closed   chan struct{}
	once     sync.Once
}

// watcher is one screen that watches a panel.
type watcher struct {
	panel, section, device, person string
	news                           chan struct{} // holds one: that there is something new
}

func newHub() *hub { return &hub{watchers: map[*watcher]bool{}, closed: make(chan struct{})} }

func (h *hub) join(w *watcher) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.watchers[w] = true
	h.nudge()
}

func (h *hub) leave(w *watcher) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.watchers, w)
	h.nudge()
}

// changed says that something was kept.
func (h *hub) changed() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.changes++
	h.nudge()
}

// count is how many changes there were.
func (h *hub) count() int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return h.changes
}

func (h *hub) nudge() {
	for w := range h.watchers {
		select {
		case w.news <- struct{}{}:
		default: // it will look anyway
		}
	}
}

// news is what a watcher is told: how many changes there were, and the other
// devices on its panel.
func (h *hub) news(w *watcher) api.News {
	h.mu.Lock()
	defer h.mu.Unlock()
	n := api.News{Changes: h.changes, Others: []api.Beside{}}
	seen := map[string]bool{w.device: true}
	for o := range h.watchers {
		if o.panel == w.panel && !seen[o.device] {
			seen[o.device] = true
			n.Others = append(n.Others, api.Beside{Person: o.person, Section: o.section})
		}
	}
	return n
}

func (h *hub) close() { h.once.Do(func() { close(h.closed) }) }

// stillThere is how often a silent stream says that it still is.
const stillThere = 20 * time.Second

// events streams news of a panel as server-sent events until the screen leaves.
func (s *Server) events(c *gin.Context) {
	w := &watcher{panel: c.Param("panelId"), section: clipped(c.Query("section")), device: clipped(c.Query("device")), person: clipped(c.Query("person")), news: make(chan struct{}, 1)}
	if err := s.shop.HasPanel(c, w.panel); err != nil {
		s.fail(c, err)
		return
	}
	if len(w.device) < leastDevice {
		s.fail(c, shop.Refuse(shop.ShortDevice, "device", leastDevice, mostDevice))
		return
	}
	c.Header("Content-Type", "text/event-stream")
	c.Header("X-Accel-Buffering", "no")
	c.Status(http.StatusOK)
	s.hub.join(w)
	defer s.hub.leave(w)
	tick := time.NewTicker(stillThere)
	defer tick.Stop()
	for {
		var err error
		select {
		case <-c.Request.Context().Done():
			return
		case <-s.hub.closed:
			return
		case <-tick.C:
			_, err = fmt.Fprint(c.Writer, ": still there\n\n")
		case <-w.news:
			var raw []byte
			if raw, err = json.Marshal(s.hub.news(w)); err == nil {
				_, err = fmt.Fprintf(c.Writer, "data: %s\n\n", raw)
			}
		}
		if err != nil {
			return
		}
		c.Writer.Flush()
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

// announce nudges the screens after each request that kept something.
func (s *Server) announce(c *gin.Context) {
	c.Next()
	if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead && c.Writer.Status() < http.StatusBadRequest {
		s.hub.changed()
	}
}
