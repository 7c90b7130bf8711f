package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"

	"github.com/spf13/cobra"

	"waxplanus/internal/camera"
)

func cameraCommand(out io.Writer) *cobra.Command {
	var addr string
	var seed uint64
	var card bool
	c := &cobra.Command{
		Use: "camera", Short: "A stand-in camera with gloss and clarity meters", Args: cobra.NoArgs,
		Long: `Stands in for a camera and two meters: it waits for the application on --addr and
answers with photos of striped lamps in the panel that is asked for, photos of
sanded sections, and readings of gloss and clarity, all from a hidden truth of
each panel as the passes that were made have left it. It speaks the protocol of
docs/formats/camera.md, so that a bridge for a real camera can be written
against the application, and the application tried without one.`,
		RunE: func(c *cobra.Command, _ []string) error {
			listener, err := net.Listen("tcp", addr)
			if err != nil {
				return fmt.Errorf("cannot wait on %s: %w", addr, err)
			}
			server := &http.Server{Handler: camera.NewStandIn(seed, card, out), ReadHeaderTimeout: headWithin}
			stop := context.AfterFunc(c.Context(), func() { _ = server.Close() })
			defer stop()
			fmt.Fprintf(out, "The stand-in camera waits on http://%s. Ctrl-C stops.\n", listener.Addr())
			if err := server.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
				return err
			}
			return nil
		},
	}
	c.Flags().StringVar(&addr, "addr", strings.TrimPrefix(fromEnv("CAMERA", camera.UsualAddr), "http://"), "address to wait on (WAXPLANUS_CAMERA)")
	c.Flags().Uint64Var(&seed, "seed", 1, "of the hidden truths and of the noise")
	c.Flags().BoolVar(&card, "card", false, "a scale card lies on the panel, and the camera does not know its scale")
	return c
}
