// Command waxplanus serves the Wax Planus application: one program, one folder
// of data, one page for desk and tablet.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"
	_ "time/tzdata" // a shop may be in a zone that its machine does not know

	"github.com/spf13/cobra"

	"waxplanus/internal/camera"
	"waxplanus/internal/demo"
	"waxplanus/internal/gauge"
	"waxplanus/internal/shop"
	"waxplanus/internal/store"
	"waxplanus/internal/web"
)

// version is set when the program is built.
var version = "dev"

const usualAddr = "127.0.0.1:8080"

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := command(os.Stdout, os.Stderr).ExecuteContext(ctx); err != nil {
		stop()
		fmt.Fprintln(os.Stderr, "waxplanus:", err)
		os.Exit(exitCode(err))
	}
}

// exitCode is 2 where the input does not make sense, 3 where faults were found, and 1 for all
// else.
func exitCode(err error) int {
	var bad web.BadInput
	switch {
	case errors.As(err, &bad):
		return 2
	case errors.Is(err, errFaults):
		return 3
	}
	return 1
}

func command(out, logs io.Writer) *cobra.Command {
	root := &cobra.Command{
		Use:   "waxplanus",
		Short: "Levelling of fresh and repaired paint: film, grits, passes left",
		Long: `Wax Planus maps the film of a car's panels, says how much clear may be spent
and with what doubt, plans the sequence of grits, and keeps count of passes at
the car.

  waxplanus demo                 the made-up shop, on a throw-away copy
  waxplanus serve --data DIR     a shop of your own, kept in DIR
  waxplanus gauge                a stand-in film gauge that sends readings
  waxplanus camera               a stand-in camera with gloss and clarity meters
  waxplanus check                may this be sanded? a verdict from standard input
  waxplanus photo                peel and pebble from a photo of mirrored stripes
  waxplanus film|plan|advise|report FILE
                                 the same of a car in a file, without a shop
  waxplanus export|import        a car of a shop as a file, and back
  waxplanus backup|restore|verify
                                 the whole shop: copied, put back, looked through

Exit codes: 0 done; 1 it could not be done; 2 the input does not make sense; 3 verify has
found faults. Every flag may also be set as WAXPLANUS_<FLAG> in the environment.`,
		Version: version, SilenceUsage: true, SilenceErrors: true,
	}
	root.SetOut(out)
	root.AddCommand(serveCommand(out, logs), demoCommand(out, logs), benchCommand(out), gaugeCommand(os.Stdin, out), cameraCommand(out), checkCommand(os.Stdin, out), photoCommand(out))
	root.AddCommand(carCommands(os.Stdin, out)...)
	root.AddCommand(shopCommands(os.Stdin, out)...)
	return root
}

func fromEnv(name, usual string) string {
	if v := os.Getenv("WAXPLANUS_" + name); v != "" {
		return v
	}
	return usual
}

func serveCommand(out, logs io.Writer) *cobra.Command {
	var at place
	c := &cobra.Command{
		Use: "serve", Short: "Serve a shop of your own", Args: cobra.NoArgs,
		Long: `Serves the shop kept in the folder --data, which is made when it is missing.
Everything acknowledged is on the disk. Ctrl-C or SIGTERM stops it once the
answers under way are given.`,
		RunE: func(c *cobra.Command, _ []string) error {
			if at.dir == "" {
				return errors.New("serve needs the folder to keep the shop in: waxplanus serve --data DIR")
			}
			if err := os.MkdirAll(at.dir, 0o750); err != nil {
				return fmt.Errorf("the folder for the shop: %w", err)
			}
			return run(c.Context(), at, nil, out, logs)
		},
	}
	at.flags(c)
	c.Flags().StringVar(&at.dir, "data", fromEnv("DATA", ""), "folder that keeps the shop (WAXPLANUS_DATA)")
	c.Flags().BoolVar(&at.ahead, "ahead", true, "compute the film of the cars in hand before anybody looks")
	c.Flags().BoolVar(&at.despite, "despite-faults", false, "serve what can be read of a shop with rows that cannot")
	return c
}

func demoCommand(out, logs io.Writer) *cobra.Command {
	at := place{ahead: true}
	var cars int
	c := &cobra.Command{
		Use: "demo", Short: "Serve the made-up shop Saltmarsh Refinish", Args: cobra.NoArgs,
		Long: `Serves a fresh copy of the demo shop from a folder of its own, which is removed
on a graceful stop; with --data from that folder, which has to be new or empty and
stays, to be served again with "waxplanus serve". Other shops are not touched. With
--cars so many saloons with years of log are in it besides, to try a big shop.`,
		RunE: func(c *cobra.Command, _ []string) (err error) {
			if cars < 0 || cars > mostCars {
				return fmt.Errorf("--cars goes from 0 to %d", mostCars)
			}
			if at.dir == "" {
				if at.dir, err = os.MkdirTemp("", "waxplanus-demo-"); err != nil {
					return err
				}
				defer func() { err = errors.Join(err, os.RemoveAll(at.dir)) }()
			} else if err := emptyFolder(at.dir); err != nil {
				return err
			}
			return run(c.Context(), at, demo.Filler(cars), out, logs)
		},
	}
	at.flags(c)
	c.Flags().StringVar(&at.dir, "data", "", "new or empty folder that keeps the demo shop; none: it is thrown away")
	c.Flags().IntVar(&cars, "cars", 0, "so many worked cars besides")
	return c
}

// emptyFolder makes a folder where there is none, and refuses one with something in it.
func emptyFolder(dir string) error {
	if err := os.MkdirAll(dir, 0o750); err != nil {
		return fmt.Errorf("the folder for the demo shop: %w", err)
	}
	if in, err := os.ReadDir(dir); err != nil || len(in) > 0 {
		return errors.Join(fmt.Errorf("the demo shop wants a new or empty folder, and %s has something in it; a shop that is kept there is served with: waxplanus serve --data %s", dir, dir), err)
	}
	return nil
}

type filler func(context.Context, *store.Store, time.Time) error

// mostCars is how many worked cars a demo shop may have besides.
const mostCars = 5000

// What the server waits for: its own end, the head and the whole of a request, and a client
// that reads its answer.
const (
	stopWithin = 4 * time.Second
	headWithin = 10 * time.Second
	bodyWithin = 30 * time.Second
	readWithin = 90 * time.Second
)

// place is where a shop is served, where it is kept, where its gauge and its camera are looked
// for (none at ""), whether films are computed before anybody asks, whether others than this
// machine may call it and by which names, and whether rows may be faulty.
type place struct {
	addr, dir            string
	probe, camera        string
	ahead, open, despite bool
	names                []string
}

func (p *place) flags(c *cobra.Command) {
	c.Flags().StringVar(&p.addr, "addr", fromEnv("ADDR", usualAddr), "address to serve on (WAXPLANUS_ADDR)")
	c.Flags().StringVar(&p.probe, "gauge", fromEnv("GAUGE", gauge.UsualAddr), "address where the film gauge waits; empty for none (WAXPLANUS_GAUGE)")
	c.Flags().StringVar(&p.camera, "camera", fromEnv("CAMERA", camera.UsualAddr), "address where the camera and the meters wait; empty for none (WAXPLANUS_CAMERA)")
	c.Flags().BoolVar(&p.open, "open", fromEnv("OPEN", "") == "true", "let every machine in the network read and write; there is no access control yet (WAXPLANUS_OPEN=true)")
	c.Flags().StringSliceVar(&p.names, "name", nil, "name under which the machine is called, besides its own and its numbers; may be given several times")
}

// mostMemory is what the program's memory is kept to as well as it can be, bytes.
const mostMemory = 240 << 20

// run serves the shop until ctx ends.
func run(ctx context.Context, at place, fill filler, out, logs io.Writer) (err error) {
	log := slog.New(slog.NewTextHandler(logs, nil))
	debug.SetMemoryLimit(mostMemory)
	if !at.open && !web.Loopback(at.addr) {
		return fmt.Errorf("on %s every machine in the network could read and write this shop, and there is no access control yet. "+
			"Serve on %s, or say --open if that is what you want", at.addr, usualAddr)
	}
	var opts []store.Option
	if at.despite {
		opts = append(opts, store.DespiteFaults)
	}
	records, err := store.Open(at.dir, opts...)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	if fill != nil {
		if err := fill(ctx, records, time.Now()); err != nil {
			return err
		}
	}
	listener, err := net.Listen("tcp", at.addr)
	if err != nil {
		return fmt.Errorf("cannot serve on %s: %w. Is another one running? Choose an address with --addr", at.addr, err)
	}
	var devices web.Devices
	if at.camera != "" {
		devices.Camera = camera.NewLink(at.camera)
	}
	if at.probe != "" {
		devices.Gauge = gauge.NewLink(at.probe, records.HasReading, func(ctx context.Context, id, name string) error {
			return records.MeetGauge(ctx, store.Gauge{ID: id, Name: name})
		}, log)
		go devices.Gauge.Run(ctx)
	}
	of := shop.New(records, time.Now, machineZone())
	defer of.Close()
	if at.ahead {
		if err := of.Learn(ctx); err != nil {
			log.Warn("what the shop's history tells will be learned when it is asked for", "error", err)
		}
	}
	go giveBack(ctx, of)
	go tidy(ctx, of, log)
	site := web.New(of, version, log, devices, at.names...)
	server := &http.Server{Handler: site, ReadHeaderTimeout: headWithin, ReadTimeout: bodyWithin, WriteTimeout: readWithin, IdleTimeout: 2 * time.Minute}
	server.RegisterOnShutdown(site.Close)
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(web.Limit(listener)) }()
	if at.ahead {
		of.WarmBehind(log)
	}
	fmt.Fprintf(out, "Wax Planus is ready on http://%s (%s)\n", listener.Addr(), filepath.Join(at.dir, store.FileName))
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	log.Info("stopping")
	end, cancel := context.WithTimeout(context.Background(), stopWithin)
	defer cancel()
	if err := server.Shutdown(end); err != nil {
		log.Info("answers under way were cut off", "after", stopWithin)
		return server.Close()
	}
	return nil
}

// idleFor is how long nobody has to ask for anything before memory is given back.
const idleFor = 5 * time.Second

// giveBack gives memory that answers took back to the machine whenever nobody asks for more.
func giveBack(ctx context.Context, of *shop.Shop) {
	tick := time.NewTicker(idleFor)
	defer tick.Stop()
	for given := false; ; {
		select {
		case <-tick.C:
		case <-ctx.Done():
			return
		}
		if idle := of.Idle() >= idleFor; idle && !given {
			debug.FreeOSMemory()
			given = true
		} else if !idle {
			given = false
		}
	}
}

// tidyEvery is how often somebody looks whether files of photos may go and a backup is due.
const tidyEvery = time.Hour

// tidy deletes the files of photos that the shop's rule lets go, and makes the daily backup.
func tidy(ctx context.Context, of *shop.Shop, log *slog.Logger) {
	tick := time.NewTicker(tidyEvery)
	defer tick.Stop()
	for {
		if due, err := of.BackupDue(ctx); err != nil && ctx.Err() == nil {
			log.Warn("whether a backup is due could not be seen", "error", err)
		} else if due {
			if made, err := of.MakeBackup(ctx, "Wax Planus "+version, true); err != nil && ctx.Err() == nil {
				log.Warn("the daily backup could not be made", "error", err)
			} else if err == nil {
				log.Info("the daily backup was made", "file", made.Name, "bytes", made.Bytes)
			}
		}
		if n, err := of.DropStale(ctx); err != nil && ctx.Err() == nil {
			log.Warn("photos that may go could not be deleted", "error", err)
		} else if n > 0 {
			log.Info("photos were deleted by the shop's rule", "photos", n)
		}
		select {
		case <-tick.C:
		case <-ctx.Done():
			return
		}
	}
}

// machineZone is the time zone of this machine by its name, which the pages need too;
// UTC where the machine does not say.
func machineZone() *time.Location {
	name := os.Getenv("TZ")
	if link, err := os.Readlink("/etc/localtime"); name == "" && err == nil {
		_, name, _ = strings.Cut(link, "zoneinfo/")
	}
	zone, err := time.LoadLocation(strings.TrimPrefix(name, ":"))
	if err != nil {
		return time.UTC
	}
	return zone
}
