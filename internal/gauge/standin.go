package gauge

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"io"
	"math"
	"net"
	"strings"
	"sync"
	"time"

	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/practice"
)

// StandIn is a gauge without hardware: it reads panels whose film it keeps to
// itself, with noise, wild shots, misreads near edges, and nothing on plastic.
type StandIn struct {
	Serial string
	start  time.Time

	say sync.Mutex
	out io.Writer

	mu     sync.Mutex
	probe  *practice.Gauge
	zeroed time.Time
	spot   *Spot
	shots  int
	unkept []Line
	conns  map[net.Conn]bool
}

// NewStandIn makes a stand-in that tells on out what it does; the same seed
// gives the same shots.
func NewStandIn(serial string, seed uint64, out io.Writer) *StandIn {
	now := time.Now()
	return &StandIn{Serial: serial, out: out, start: now, probe: practice.NewGauge(seed), zeroed: now, conns: map[net.Conn]bool{}}
}

const aliveEvery = 2 * time.Second

// Serve answers on the listener until ctx ends.
func (g *StandIn) Serve(ctx context.Context, listener net.Listener) error {
	stop := context.AfterFunc(ctx, func() { _ = listener.Close() })
	defer stop()
	for {
		conn, err := listener.Accept()
		if ctx.Err() != nil {
			return nil
		}
		if err != nil {
			return err
		}
		go g.attend(ctx, conn)
	}
}

func (g *StandIn) attend(ctx context.Context, conn net.Conn) {
	defer conn.Close()
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	g.mu.Lock()
	g.conns[conn] = true
	zeroed, unkept := g.zeroed.UTC(), append([]Line(nil), g.unkept...)
	g.mu.Unlock()
	defer func() {
		g.mu.Lock()
		delete(g.conns, conn)
		g.mu.Unlock()
	}()
	g.tell("the application is there")
	write(conn, Line{Type: Hello, Gauge: g.Serial, Name: "stand-in gauge", ZeroedAt: &zeroed})
	for _, l := range unkept { // not on record as far as the gauge knows
		write(conn, l)
	}
	alive := time.NewTicker(aliveEvery)
	defer alive.Stop()
	ended := make(chan struct{})
	defer close(ended)
	go func() {
		for {
			select {
			case <-ended:
				return
			case <-alive.C:
				write(conn, Line{Type: Alive})
			}
		}
	}()
	in := bufio.NewScanner(conn)
	in.Buffer(make([]byte, MostLine), MostLine)
	for in.Scan() {
		line, err := Parse(in.Bytes())
		if err != nil {
			g.tell("a line is not understood: %v", err)
			continue
		}
		g.hear(line)
	}
	g.tell("the application is gone")
}

func (g *StandIn) hear(line Line) {
	g.mu.Lock()
	defer g.mu.Unlock()
	switch {
	case line.Type == OpenAt && line.Spot != nil:
		g.spot = line.Spot
	case line.Type == Kept:
		for i, l := range g.unkept {
			if l.ID == line.ID {
				g.unkept = append(g.unkept[:i:i], g.unkept[i+1:]...)
				break
			}
		}
	}
}

func write(conn net.Conn, l Line) {
	if raw, err := json.Marshal(l); err == nil {
		_, _ = conn.Write(append(raw, '\n')) // one that is gone is dropped by its reader
	}
}

func (g *StandIn) tell(format string, args ...any) {
	g.say.Lock()
	defer g.say.Unlock()
	fmt.Fprintf(g.out, "%s  %s\n", time.Now().Format("15:04:05"), fmt.Sprintf(format, args...))
}

// Shoot puts the probe down where the application has a place open, and sends
// what it reads.
func (g *StandIn) Shoot() {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.spot == nil {
		g.tell("no place is open in the application: open Read there")
		return
	}
	g.shots++
	now := time.Now().UTC()
	line := Line{Type: Shot, ID: fmt.Sprintf("%s-%x-%d", g.Serial, g.start.UnixNano(), g.shots), At: &now}
	um, err := g.read(*g.spot)
	switch {
	case err != nil:
		line.Type, line.Why = NoShot, err.Error()
		g.tell("no reading: %v", err)
	default:
		line.FilmUM = math.Round(um*10) / 10
		g.tell("%.1f µm", line.FilmUM)
	}
	g.unkept = append(g.unkept, line)
	for c := range g.conns {
		write(c, line)
	}
}

// A hidden panel measures from leastSheet to mostSheet mm each way; closer to an
// edge than misreads the probe tilts.
const (
	leastSheet = 100.0
	mostSheet  = 3000.0
	misreads   = 10.0
)

// read is one shot. The hidden panel is a sheet of the size of the open one,
// drawn from the panel's name, so that the same place reads alike tomorrow.
func (g *StandIn) read(s Spot) (float64, error) {
	if s.Substrate == "plastic" {
		return 0, fmt.Errorf("no metal under the probe")
	}
	b, err := body.LoosePanel(bounded(s.Width), bounded(s.Height))
	if err != nil {
		return 0, err
	}
	h := fnv.New64a()
	_, _ = io.WriteString(h, s.Panel)
	mean := s.Film
	if mean <= 0 {
		mean = 105 + float64(h.Sum64()%80)
	}
	truth := practice.NewPanel(b.Panels[0], mean, practice.ByHand, h.Sum64())
	scale := func(at, mm float64) float64 { return at * bounded(mm) / math.Max(mm, 1) }
	um := g.probe.Shot(truth, flatlay.Point{X: scale(s.X, s.Width), Y: scale(s.Y, s.Height)})
	if s.Edge < misreads {
		um *= 0.7 + 0.03*s.Edge
	}
	return um, nil
}

func bounded(mm float64) float64 { return math.Min(math.Max(mm, leastSheet), mostSheet) }

// Zero zeroes the gauge.
func (g *StandIn) Zero() {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.zeroed = time.Now()
	at := g.zeroed.UTC()
	g.tell("zeroed")
	for c := range g.conns {
		write(c, Line{Type: Zero, ZeroedAt: &at})
	}
}

// Obey takes a word a line: nothing or a blank line shoots, z zeroes. It returns
// when in ends.
func (g *StandIn) Obey(in io.Reader) {
	words := bufio.NewScanner(in)
	for words.Scan() {
		switch strings.TrimSpace(words.Text()) {
		case "":
			g.Shoot()
		case "z":
			g.Zero()
		default:
			g.tell("Enter shoots, z zeroes, Ctrl-C stops")
		}
	}
}
