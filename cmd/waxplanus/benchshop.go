package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
)

// benchShop is this program as it serves a made-up shop of its own.
type benchShop struct {
	dir, url string
	client   *http.Client
	program  *exec.Cmd
}

// startShop makes a shop with so many cars and serves it.
func startShop(ctx context.Context, cars int) (*benchShop, error) {
	dir, err := os.MkdirTemp("", "waxplanus-load-")
	if err != nil {
		return nil, err
	}
	s := &benchShop{dir: dir, client: &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 256}}}
	if err := s.serve(ctx, "demo", "--cars", strconv.Itoa(cars), "--data", filepath.Join(dir, "shop")); err != nil {
		return nil, errors.Join(err, os.RemoveAll(dir))
	}
	return s, nil
}

func (s *benchShop) serve(ctx context.Context, args ...string) error {
	self, err := os.Executable()
	if err != nil {
		return err
	}
	s.program = exec.CommandContext(ctx, self, append(args, "--addr", "127.0.0.1:0", "--gauge", "")...)
	s.program.Cancel = func() error { return s.program.Process.Signal(syscall.SIGTERM) }
	said, err := s.program.StdoutPipe()
	if err != nil {
		return err
	}
	if err := s.program.Start(); err != nil {
		return err
	}
	text, err := bufio.NewReader(said).ReadString('\n')
	if err != nil {
		return errors.Join(err, s.program.Wait())
	}
	_, rest, _ := strings.Cut(text, "http://")
	s.url = "http://" + strings.Fields(rest)[0]
	return nil
}

func (s *benchShop) stop() error {
	s.client.CloseIdleConnections()
	if err := s.program.Process.Signal(syscall.SIGTERM); err != nil {
		return err
	}
	return s.program.Wait()
}

// restart stops the program and serves the same shop again.
func (s *benchShop) restart(ctx context.Context) error {
	if err := s.stop(); err != nil {
		return fmt.Errorf("stopping: %w", err)
	}
	return s.serve(ctx, "serve", "--data", filepath.Join(s.dir, "shop"))
}

// end stops the program and removes its shop.
func (s *benchShop) end() {
	_ = s.stop() // it may have ended already
	_ = os.RemoveAll(s.dir)
}

// cpu is what the program has used of the processors, s; below 0 where the machine does
// not say.
func (s *benchShop) cpu() float64 {
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", s.program.Process.Pid))
	if err != nil {
		return -1
	}
	_, rest, _ := strings.Cut(string(raw), ") ")
	f := strings.Fields(rest)
	if len(f) < 13 {
		return -1
	}
	user, _ := strconv.ParseFloat(f[11], 64) // numbers by the kernel's own word
	system, _ := strconv.ParseFloat(f[12], 64)
	return (user + system) / ticks
}

const ticks = 100 // of the kernel's clock in a second

// memory is what the program has in memory, MB; 0 where the machine does not say.
func (s *benchShop) memory() int { return memoryOf(fmt.Sprint(s.program.Process.Pid), "VmRSS:") }

// memoryOf is a figure that the kernel has of a process, MB; 0 where the machine does not say.
func memoryOf(process, figure string) int {
	raw, err := os.ReadFile("/proc/" + process + "/status")
	if err != nil {
		return 0
	}
	_, rest, _ := strings.Cut(string(raw), figure)
	kb, _ := strconv.Atoi(strings.Fields(rest + " 0")[0]) // as above
	return kb / 1024
}
