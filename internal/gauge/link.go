package gauge

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net"
	"slices"
	"sync"
	"time"
)

// Status is how the gauge stands and what waits for a place. Seq grows with
// every change.
type Status struct {
	Seq               int
	Connected, Known  bool // Known says that one was connected since the start
	Gauge, Name       string
	ZeroedAt, HeardAt time.Time
	Waiting           []Line // readings, and places without one, oldest first
	Refused           int    // lines that were not understood
	LastRefused, Addr string
}

const (
	dialWithin  = 2 * time.Second
	tryEvery    = 1500 * time.Millisecond
	silentAfter = 8 * time.Second // a gauge sends "alive" every 2 s
	mostWaiting = 200
)

// Link is the application's end. It dials, listens, dials again after a drop,
// and holds readings until somebody says where they were taken.
type Link struct {
	addr  string
	known func(ctx context.Context, id string) (bool, error)
	met   func(ctx context.Context, gauge, name string) error
	log   *slog.Logger

	mu      sync.Mutex
	status  Status
	changed chan struct{} // closed and made anew with every change
	ended   chan struct{} // closed when Run returns
	done    map[string]bool
	conn    net.Conn
	spot    *Spot
}

// NewLink makes a link to the gauge at addr. known says whether a reading is on
// record already, met keeps a gauge that says hello.
func NewLink(addr string, known func(context.Context, string) (bool, error), met func(ctx context.Context, gauge, name string) error, log *slog.Logger) *Link {
	return &Link{addr: addr, known: known, met: met, log: log, changed: make(chan struct{}), ended: make(chan struct{}), done: map[string]bool{}, status: Status{Addr: addr}}
}

// Run keeps the link up until ctx ends. It is called once.
func (l *Link) Run(ctx context.Context) {
	defer close(l.ended)
	for ctx.Err() == nil {
		dialer := net.Dialer{Timeout: dialWithin}
		conn, err := dialer.DialContext(ctx, "tcp", l.addr)
		if err == nil {
			err = l.listen(ctx, conn)
			l.log.Info("gauge is gone", "addr", l.addr, "error", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(tryEvery):
		}
	}
}

func (l *Link) change(f func(*Status)) {
	l.mu.Lock()
	defer l.mu.Unlock()
	f(&l.status)
	l.status.Seq++
	close(l.changed)
	l.changed = make(chan struct{})
}

// listen reads lines until the connection drops or falls silent.
func (l *Link) listen(ctx context.Context, conn net.Conn) error {
	defer conn.Close()
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	l.mu.Lock()
	l.conn = conn
	spot := l.spot
	l.mu.Unlock()
	defer l.change(func(s *Status) { s.Connected = false; l.conn = nil })
	if spot != nil {
		l.send(Line{Type: OpenAt, Spot: spot})
	}
	in := bufio.NewScanner(conn)
	in.Buffer(make([]byte, MostLine), MostLine)
	for {
		if err := conn.SetReadDeadline(time.Now().Add(silentAfter)); err != nil {
			return err
		}
		if !in.Scan() {
			return in.Err()
		}
		line, err := Parse(in.Bytes())
		if err != nil {
			l.change(func(s *Status) { s.Refused++; s.LastRefused = err.Error() })
			continue
		}
		if err := l.take(ctx, line); err != nil {
			return err
		}
	}
}

func (l *Link) take(ctx context.Context, line Line) error {
	now := time.Now().UTC()
	switch line.Type {
	case Hello:
		if err := l.met(ctx, line.Gauge, line.Name); err != nil {
			return err
		}
		l.change(func(s *Status) {
			s.Connected, s.Known, s.Gauge, s.Name, s.HeardAt = true, true, line.Gauge, line.Name, now
			if line.ZeroedAt != nil {
				s.ZeroedAt = *line.ZeroedAt
			}
		})
	case Zero:
		l.change(func(s *Status) {
			s.HeardAt, s.ZeroedAt = now, now
			if line.ZeroedAt != nil {
				s.ZeroedAt = *line.ZeroedAt
			}
		})
	case Shot, NoShot:
		kept, err := l.known(ctx, line.ID)
		if err != nil {
			return err
		}
		l.mu.Lock()
		kept = kept || l.done[line.ID]
		l.mu.Unlock()
		if kept { // the gauge did not hear that it is on record
			l.send(Line{Type: Kept, ID: line.ID})
			return nil
		}
		if line.At == nil {
			line.At = &now
		}
		l.change(func(s *Status) {
			s.HeardAt = now
			if !slices.ContainsFunc(s.Waiting, func(w Line) bool { return w.ID == line.ID }) && len(s.Waiting) < mostWaiting {
				s.Waiting = append(s.Waiting, line)
			}
		})
	default:
		l.mu.Lock()
		l.status.HeardAt = now
		l.mu.Unlock()
	}
	return nil
}

func (l *Link) send(line Line) {
	l.mu.Lock()
	conn := l.conn
	l.mu.Unlock()
	if conn == nil {
		return
	}
	raw, err := json.Marshal(line)
	if err == nil {
		_, err = conn.Write(append(raw, '\n'))
	}
	if err != nil && !errors.Is(err, net.ErrClosed) {
		l.log.Info("gauge did not take a line", "error", err)
	}
}

// Done says that a reading has its place on record, or belongs nowhere. The
// gauge is told, so that it does not send it again.
func (l *Link) Done(id string) {
	l.mu.Lock()
	l.done[id] = true
	l.mu.Unlock()
	l.change(func(s *Status) {
		s.Waiting = slices.DeleteFunc(s.Waiting, func(w Line) bool { return w.ID == id })
	})
	l.send(Line{Type: Kept, ID: id})
}

// Aim tells the gauge which place is open.
func (l *Link) Aim(spot Spot) {
	l.mu.Lock()
	same := l.spot != nil && *l.spot == spot
	l.spot = &spot
	l.mu.Unlock()
	if !same {
		l.send(Line{Type: OpenAt, Spot: &spot})
	}
}

// Watch returns the status once its Seq is not seen, or when ctx or the link
// ends.
func (l *Link) Watch(ctx context.Context, seen int) Status {
	for {
		l.mu.Lock()
		s, changed := l.status, l.changed
		s.Waiting = slices.Clone(s.Waiting)
		l.mu.Unlock()
		if s.Seq != seen {
			return s
		}
		select {
		case <-ctx.Done():
			return s
		case <-l.ended:
			return s
		case <-changed:
		}
	}
}
