package main

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"
)

// console collects what the program prints while it runs.
type console struct {
	mu  sync.Mutex
	buf bytes.Buffer
}

func (c *console) Write(p []byte) (int, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.buf.Write(p)
}

func (c *console) String() string {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.buf.String()
}

// running starts the program with args and gives its address, what it printed,
// and a stop that waits for its end.
func running(t *testing.T, args ...string) (url string, out *console, stop func() error) {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	out = &console{}
	c := command(out, io.Discard)
	c.SetArgs(args)
	ended := make(chan error, 1)
	go func() { ended <- c.ExecuteContext(ctx) }()
	stop = func() error {
		cancel()
		return <-ended
	}
	t.Cleanup(cancel)
	address := regexp.MustCompile(`http://[\d.:]+`)
	// The demo's photographs take seconds of an idle processor and minutes of a busy one.
	for range 12000 {
		if url = address.FindString(out.String()); url != "" {
			return url, out, stop
		}
		select {
		case err := <-ended:
			t.Fatalf("%v ended: %v", args, err)
		case <-time.After(25 * time.Millisecond):
		}
	}
	t.Fatalf("%v is not ready: %s", args, out)
	return "", nil, nil
}

// listed is a page of the list of cars.
type listed struct{ Cars []struct{ Name string } }

func fetch(t *testing.T, url string, out any) {
	t.Helper()
	r, err := http.Get(url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = r.Body.Close() }()
	if err := json.NewDecoder(r.Body).Decode(out); err != nil || r.StatusCode != http.StatusOK {
		t.Fatalf("%s: %d, %v", url, r.StatusCode, err)
	}
}

func TestServeKeepsAShop(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "my shop", "data")
	url, _, stop := running(t, "serve", "--data", dir, "--addr", "127.0.0.1:0")
	var health struct{ Status, Version string }
	fetch(t, url+"/api/health", &health)
	if health.Status != "ok" || health.Version == "" {
		t.Errorf("health %+v", health)
	}
	body := `{"name":"Flap","body":"loose","colour":"light","painter":"Issa","width_mm":800,"height_mm":500}`
	r, err := http.Post(url+"/api/cars", "application/json", strings.NewReader(body))
	if err != nil || r.StatusCode != http.StatusCreated {
		t.Fatalf("%v, %v", r, err)
	}
	_ = r.Body.Close()
	if err := stop(); err != nil {
		t.Fatal(err)
	}
	if _, err := http.Get(url + "/api/health"); err == nil {
		t.Error("it answers after its end")
	}
	url, _, stop = running(t, "serve", "--data", dir, "--addr", "127.0.0.1:0")
	var page listed
	fetch(t, url+"/api/cars", &page)
	if len(page.Cars) != 1 || page.Cars[0].Name != "Flap" {
		t.Errorf("after a restart there are %+v", page)
	}
	if err := stop(); err != nil {
		t.Error(err)
	}
}

func TestDemoIsThrownAway(t *testing.T) {
	url, out, stop := running(t, "demo", "--addr", "127.0.0.1:0")
	var page listed
	fetch(t, url+"/api/cars", &page)
	if len(page.Cars) == 0 || page.Cars[0].Name != "Pilot car" {
		t.Errorf("the demo has %+v", page)
	}
	file := regexp.MustCompile(`\((.+)\)`).FindStringSubmatch(out.String())[1]
	if _, err := os.Stat(file); err != nil {
		t.Error(err)
	}
	if err := stop(); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(filepath.Dir(file)); !os.IsNotExist(err) {
		t.Errorf("%s is left behind", filepath.Dir(file))
	}
}

func TestADemoThatIsKeptIsServedAgain(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "a demo")
	_, _, stop := running(t, "demo", "--addr", "127.0.0.1:0", "--data", dir)
	if err := stop(); err != nil {
		t.Fatal(err)
	}
	url, _, stop := running(t, "serve", "--addr", "127.0.0.1:0", "--data", dir, "--ahead=false")
	var page listed
	fetch(t, url+"/api/cars", &page)
	if len(page.Cars) == 0 || page.Cars[0].Name != "Pilot car" {
		t.Errorf("the kept demo has %+v", page)
	}
	if err := stop(); err != nil {
		t.Fatal(err)
	}
}

func TestWhatCannotBeServedSaysWhy(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = taken.Close() }()
	blocked := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(blocked, []byte("x"), 0o600); err != nil {
		t.Fatal(err)
	}
	t.Setenv("WAXPLANUS_DATA", "")
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"serve"}, "--data DIR"},
		{[]string{"serve", "--data", blocked}, "folder for the shop"},
		{[]string{"serve", "--data", t.TempDir(), "--addr", taken.Addr().String()}, "Is another one running?"},
		{[]string{"demo", "--data", filepath.Dir(blocked)}, "new or empty folder"},
		{[]string{"serve", "extra"}, "extra"},
		{[]string{"polish"}, "polish"},
	} {
		cmd := command(io.Discard, io.Discard)
		cmd.SetArgs(c.args)
		cmd.SetErr(io.Discard)
		if err := cmd.ExecuteContext(context.Background()); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%v: %v, want %q", c.args, err, c.want)
		}
	}
}

func TestHelpTellsBothWays(t *testing.T) {
	var out bytes.Buffer
	c := command(&out, io.Discard)
	c.SetArgs([]string{"--help"})
	if err := c.Execute(); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"waxplanus demo", "waxplanus serve --data DIR", "WAXPLANUS_"} {
		if !strings.Contains(out.String(), want) {
			t.Errorf("help does not tell %q", want)
		}
	}
}

func TestEnvironmentSetsFlags(t *testing.T) {
	t.Setenv("WAXPLANUS_DATA", t.TempDir())
	t.Setenv("WAXPLANUS_ADDR", "127.0.0.1:0")
	_, _, stop := running(t, "serve")
	if err := stop(); err != nil {
		t.Error(err)
	}
}

func TestGaugeWaitsAndStops(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	out := &console{}
	c := command(out, io.Discard)
	c.SetArgs([]string{"gauge", "--addr", "127.0.0.1:0", "--every", "5ms"})
	ended := make(chan error, 1)
	go func() { ended <- c.ExecuteContext(ctx) }()
	for range 400 {
		if strings.Contains(out.String(), "no place is open") {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	cancel()
	if err := <-ended; err != nil {
		t.Fatal(err)
	}
	if said := out.String(); !strings.Contains(said, "STAND-IN-1 waits on 127.0.0.1") || !strings.Contains(said, "no place is open") {
		t.Errorf("it said %q", said)
	}
	busy, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer busy.Close()
	c = command(io.Discard, io.Discard)
	c.SetArgs([]string{"gauge", "--addr", busy.Addr().String()})
	if err := c.Execute(); err == nil || !strings.Contains(err.Error(), "cannot wait on") {
		t.Errorf("on an address in use: %v", err)
	}
}

// TestBenchFilmPrintsItsTable on a single panel a line; the figures themselves
// are for the full run.
func TestBenchFilmPrintsItsTable(t *testing.T) {
	out := &console{}
	c := command(out, io.Discard)
	c.SetArgs([]string{"bench", "film", "--panels", "1", "--readings", "4", "--rounds", "1"})
	if err := c.Execute(); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"loose panel", "bonnet", "left front door", "by a robot", "14 panels, 16 readings each", "one reading more"} {
		if !strings.Contains(out.String(), want) {
			t.Errorf("%q is not in %s", want, out)
		}
	}
	if lines := strings.Count(out.String(), "%"); lines < 18 {
		t.Errorf("%d percentages in the table", lines)
	}
}

func TestBenchClearPrintsItsTable(t *testing.T) {
	out := &console{}
	c := command(out, io.Discard)
	c.SetArgs([]string{"bench", "clear", "--panels", "1"})
	if err := c.Execute(); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"bonnet", "left front door", " 3 spots     9 spots", "not less"} {
		if !strings.Contains(out.String(), want) {
			t.Errorf("%q is not in %s", want, out)
		}
	}
}

func TestBenchVerdictPrintsItsTable(t *testing.T) {
	out := &console{}
	c := command(out, io.Discard)
	c.SetArgs([]string{"bench", "verdict", "--jobs", "50"})
	if err := c.Execute(); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"refinished", "factory", "single stage", "let go", "happened"} {
		if !strings.Contains(out.String(), want) {
			t.Errorf("%q is not in %s", want, out)
		}
	}
}

func TestBenchPlanHoldsThePlannerAgainstEverySequence(t *testing.T) {
	out := &console{}
	c := command(out, io.Discard)
	c.SetArgs([]string{"bench", "plan", "--rounds", "1"})
	if err := c.Execute(); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"all offers of a panel, 10 abrasives", "a car of 14 panels", "the same front", "times as fast"} {
		if !strings.Contains(out.String(), want) {
			t.Errorf("%q is not in %s", want, out)
		}
	}
}
