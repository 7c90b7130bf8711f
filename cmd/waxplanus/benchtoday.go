package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/internal/demo"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/store"
	"waxplanus/internal/web"
)

func benchTodayCommand(out io.Writer) *cobra.Command {
	var gone, looks int
	c := &cobra.Command{
		Use: "today", Short: "Today with 20 cars in work, alone and beside thousands that were handed over", Args: cobra.NoArgs,
		Long: `Fills a shop of its own with 20 cars in work, asks for what Today shows (through the handler,
without a network), then has thousands of cars be handed over and asks again: as it is, after a
change of one car, and with the program started anew.`,
		RunE: func(c *cobra.Command, _ []string) (err error) {
			dir, err := os.MkdirTemp("", "waxplanus-today-")
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
			return benchToday(c.Context(), out, dir, gone, looks)
		},
	}
	c.Flags().IntVar(&gone, "gone", 5000, "cars that were handed over")
	c.Flags().IntVar(&looks, "looks", 60, "times that each is asked for")
	return c
}

// demoCars is how many cars the demo shop has.
const demoCars = 7

func benchToday(ctx context.Context, out io.Writer, dir string, gone, looks int) (err error) {
	records, err := store.Open(dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	began := time.Now()
	if err := demo.Fill(ctx, records, began); err != nil {
		return err
	}
	for i := range stillHere - demoCars {
		if _, err := copied(ctx, records, i); err != nil {
			return err
		}
	}
	if err := benchLooks(ctx, out, records, "20 cars in work", looks); err != nil {
		return err
	}
	for i := range gone {
		id, err := copied(ctx, records, stillHere+i)
		if err == nil {
			err = records.SetClosed(ctx, id, began.Add(-time.Duration(i)*2*time.Hour))
		}
		if err != nil {
			return err
		}
	}
	return benchLooks(ctx, out, records, fmt.Sprintf("20 cars in work, %d handed over", gone), looks)
}

// benchLooks starts the program on a shop and asks for what Today shows.
func benchLooks(ctx context.Context, out io.Writer, records *store.Store, what string, looks int) error {
	of := shop.New(records, time.Now, time.UTC)
	defer of.Close()
	site := web.New(of, "bench", slog.New(slog.DiscardHandler), web.Devices{})
	fmt.Fprintln(out, what)
	today := func() (float64, error) {
		cars, err := asked(ctx, site, "/api/cars")
		if err != nil {
			return 0, err
		}
		week, err := asked(ctx, site, "/api/week")
		return cars + week, err
	}
	first, err := today()
	if err != nil {
		return err
	}
	time.Sleep(3 * time.Second) // what is still being worked out, is
	for range 3 {
		if _, err := today(); err != nil {
			return err
		}
	}
	var still, after []float64
	for i := range looks {
		ms, err := today()
		if err != nil {
			return err
		}
		still = append(still, ms)
		words := fmt.Sprintf("Said %d times.", i)
		if _, err := of.ChangeCar(ctx, demo.HireID, cars.CarSaid{OwnerWords: &words}); err != nil {
			return err
		}
		if ms, err = today(); err != nil {
			return err
		}
		after = append(after, ms)
	}
	fmt.Fprintf(out, "  the list of cars and the week: %.1f ms median, %.1f of 95 in 100; after one car changed %.1f median, %.1f; the first look %.0f ms\n",
		quantile(still, 0.5), quantile(still, 0.95), quantile(after, 0.5), quantile(after, 0.95), first)
	return nil
}
