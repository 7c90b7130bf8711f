package main

import (
	"context"
	"fmt"
	"io"
	"net"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/internal/gauge"
)

func gaugeCommand(in io.Reader, out io.Writer) *cobra.Command {
	var addr, serial string
	var every time.Duration
	var seed uint64
	c := &cobra.Command{
		Use: "gauge", Short: "A stand-in film gauge that sends readings", Args: cobra.NoArgs,
		Long: `Stands in for a film gauge: it waits for the application on --addr, and sends a
reading of the place that is open there, from a hidden truth with noise, each
time Enter is pressed here, or every so often with --every. z zeroes it. It
speaks the protocol of docs/formats/gauge.md, so that a bridge for a real gauge
can be written against the application, and the application tried without one.`,
		RunE: func(c *cobra.Command, _ []string) error {
			listener, err := net.Listen("tcp", addr)
			if err != nil {
				return fmt.Errorf("cannot wait on %s: %w", addr, err)
			}
			g := gauge.NewStandIn(serial, seed, out)
			fmt.Fprintf(out, "Gauge %s waits on %s. Enter shoots, z zeroes, Ctrl-C stops.\n", serial, listener.Addr())
			go g.Obey(in)
			if every > 0 {
				go shootEvery(c.Context(), g, every)
			}
			return g.Serve(c.Context(), listener)
		},
	}
	c.Flags().StringVar(&addr, "addr", fromEnv("GAUGE", gauge.UsualAddr), "address to wait on (WAXPLANUS_GAUGE)")
	c.Flags().StringVar(&serial, "serial", "STAND-IN-1", "what it calls itself")
	c.Flags().DurationVar(&every, "every", 0, "shoot so often, such as 3s; 0 for Enter alone")
	c.Flags().Uint64Var(&seed, "seed", 1, "of its noise")
	return c
}

func shootEvery(ctx context.Context, g *gauge.StandIn, every time.Duration) {
	ticks := time.NewTicker(every)
	defer ticks.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-ticks.C:
			g.Shoot()
		}
	}
}
