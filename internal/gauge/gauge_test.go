package gauge

import (
	"bytes"
	"context"
	"io"
	"log/slog"
	"net"
	"strings"
	"sync"
	"testing"
	"time"
)

var quiet = slog.New(slog.NewTextHandler(io.Discard, nil))

func TestParse(t *testing.T) {
	for raw, want := range map[string]string{
		`{"type":"hello","gauge":"A-1"}`:                           "",
		`{"type":"reading","id":"A-1-000001","film_um":163.2}`:     "",
		`{"type":"no_reading","id":"A-1-000002","why":"no metal"}`: "",
		`{"type":"what is to come","more":1}`:                      "",
		`{"type":"alive"}`:                                         "",
		``:                                                         "no JSON object",
		`[1,2]`:                                                    "no JSON object",
		`{}`:                                                       "no type",
		`{"type":"hello"}`:                                         "serial",
		`{"type":"reading","id":"A","film_um":163.2}`:                 "id of 8 to 64",
		`{"type":"reading","id":"A-1-000001"}`:                        "above 0",
		`{"type":"reading","id":"A-1-000001","film_um":-4}`:           "above 0",
		`{"type":"reading","id":"` + strings.Repeat("x", 5000) + `"}`: "at most",
	} {
		_, err := Parse([]byte(raw))
		if want == "" && err != nil || want != "" && (err == nil || !strings.Contains(err.Error(), want)) {
			t.Errorf("%.60s: %v, want %q", raw, err, want)
		}
	}
}

func FuzzParse(f *testing.F) {
	f.Add([]byte(`{"type":"reading","id":"A-1-000001","film_um":163.2,"at":"2031-05-04T10:00:00Z"}`))
	f.Add([]byte(`{"type":"spot","spot":{"panel":"p","x_mm":1e309}}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		l, err := Parse(raw)
		if err == nil && l.Type == Shot && (l.FilmUM <= 0 || l.FilmUM > 1e308) {
			t.Errorf("%q gives a film of %v", raw, l.FilmUM)
		}
	})
}

// bench is a link with what it was told.
type bench struct {
	*Link
	mu   sync.Mutex
	kept map[string]bool
}

func newBench(ctx context.Context, addr string) *bench {
	b := &bench{kept: map[string]bool{}}
	b.Link = NewLink(addr, func(_ context.Context, id string) (bool, error) {
		b.mu.Lock()
		defer b.mu.Unlock()
		return b.kept[id], nil
	}, func(context.Context, string, string) error { return nil }, quiet)
	go b.Run(ctx)
	return b
}

// until waits for a status.
func (b *bench) until(t *testing.T, what string, is func(Status) bool) Status {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	seen := -1
	for ctx.Err() == nil {
		s := b.Watch(ctx, seen)
		if is(s) {
			return s
		}
		seen = s.Seq
	}
	t.Fatalf("never %s: %+v", what, b.Watch(context.Background(), -1))
	return Status{}
}

// A gauge that drops while a reading has no place sends it again when it is
// back; it waits once, and once it is on record it is asked for no more.
func TestDropAndComeBack(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	addr := listener.Addr().String()
	var told bytes.Buffer
	stand := NewStandIn("A-1", 1, &told)
	first, drop := context.WithCancel(ctx)
	go func() { _ = stand.Serve(first, listener) }()
	b := newBench(ctx, addr)
	b.until(t, "connected", func(s Status) bool { return s.Connected && s.Gauge == "A-1" && !s.ZeroedAt.IsZero() })
	b.Aim(Spot{Panel: "door", Substrate: "steel", X: 300, Y: 300, Edge: 200, Width: 900, Height: 700})
	for len(b.Watch(ctx, -1).Waiting) == 0 {
		stand.Shoot()
		time.Sleep(10 * time.Millisecond)
	}
	waiting := b.Watch(ctx, -1).Waiting
	drop()
	b.until(t, "lost", func(s Status) bool { return !s.Connected && s.Known })
	var again net.Listener
	for again == nil { // until the first has let the address go
		if again, err = net.Listen("tcp", addr); err != nil {
			if ctx.Err() != nil {
				t.Fatal(err)
			}
			time.Sleep(10 * time.Millisecond)
		}
	}
	go func() { _ = stand.Serve(ctx, again) }()
	s := b.until(t, "back", func(s Status) bool { return s.Connected })
	if len(s.Waiting) != len(waiting) {
		t.Errorf("%d readings wait, %d before the drop", len(s.Waiting), len(waiting))
	}
	id := waiting[0].ID
	b.mu.Lock()
	b.kept[id] = true
	b.mu.Unlock()
	b.Done(id)
	b.until(t, "placed", func(s Status) bool { return len(s.Waiting) == len(waiting)-1 })
	stand.Zero()
	b.until(t, "zeroed", func(s Status) bool { return time.Since(s.ZeroedAt) < time.Minute })
	for range 200 {
		stand.mu.Lock()
		left := len(stand.unkept)
		stand.mu.Unlock()
		if left == len(waiting)-1 {
			return
		}
		time.Sleep(10 * time.Millisecond)
	}
	t.Error("the gauge never heard that its reading is on record")
}

// Nobody who watches holds up the end of the program.
func TestWatchEndsWithTheLink(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	b := newBench(ctx, "127.0.0.1:1")
	told := make(chan Status, 1)
	go func() { told <- b.Watch(context.Background(), b.Watch(context.Background(), -1).Seq) }()
	select {
	case s := <-told:
		t.Fatalf("news of nothing: %+v", s)
	case <-time.After(50 * time.Millisecond):
	}
	stop()
	select {
	case <-told:
	case <-time.After(10 * time.Second):
		t.Error("it still waits")
	}
}

// What is no line of the protocol is counted and told, and does not end the talk.
func TestNoiseOnTheLine(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	b := newBench(ctx, listener.Addr().String())
	conn, err := listener.Accept()
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range []string{"GARBAGE", `{"type":"hello","gauge":"B-2"}`, `{"type":"reading","id":"x"}`, `{"type":"later"}`, `{"type":"no_reading","id":"B-2-000001","why":"no metal"}`,
		`{"type":"reading","id":"B-2-000002","film_um":150}`, `{"type":"reading","id":"B-2-000002","film_um":150}`} {
		if _, err := conn.Write([]byte(l + "\n")); err != nil {
			t.Fatal(err)
		}
	}
	s := b.until(t, "both there", func(s Status) bool { return len(s.Waiting) == 2 })
	if s.Refused != 2 || s.LastRefused == "" || s.Gauge != "B-2" {
		t.Errorf("%+v", s)
	}
}

func TestStandInReads(t *testing.T) {
	g := NewStandIn("A-1", 2, io.Discard)
	at := Spot{Panel: "door", Substrate: "steel", X: 400, Y: 300, Edge: 250, Width: 900, Height: 700, Film: 150}
	sum, edge := 0.0, 0.0
	const n = 60
	for range n {
		um, err := g.read(at)
		if err != nil {
			t.Fatal(err)
		}
		sum += um / n
		near := at
		near.Edge = 2
		um, _ = g.read(near)
		edge += um / n
	}
	if sum < 120 || sum > 180 || edge > 0.85*sum {
		t.Errorf("reads %.0f on the mean, %.0f near an edge", sum, edge)
	}
	at.Substrate = "plastic"
	if _, err := g.read(at); err == nil || !strings.Contains(err.Error(), "no metal") {
		t.Errorf("on plastic: %v", err)
	}
	at.Substrate, at.Width, at.Film = "steel", 1e9, 0
	if _, err := g.read(at); err != nil {
		t.Errorf("a panel as wide as a town: %v", err)
	}
}

func TestStandInObeys(t *testing.T) {
	var told bytes.Buffer
	g := NewStandIn("A-1", 2, &told)
	g.Obey(strings.NewReader("\nz\nwhat\n"))
	for _, want := range []string{"no place is open", "zeroed", "Enter shoots"} {
		if !strings.Contains(told.String(), want) {
			t.Errorf("%q lacks %q", told.String(), want)
		}
	}
	if g.shots != 0 {
		t.Error("it shot at nothing")
	}
}
