package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/internal/shop"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
	"waxplanus/internal/web"
)

// carCommands answer of a car in a file: its ZIP or its document, or standard input at -.
func carCommands(in io.Reader, out io.Writer) []*cobra.Command {
	make := func(use, short, long string, ask func() web.CarAsk) *cobra.Command {
		return &cobra.Command{
			Use: use + " FILE", Short: short, Args: cobra.ExactArgs(1), Long: long + " FILE is what export writes, a ZIP or the document alone; - is standard input.",
			RunE: func(c *cobra.Command, args []string) error {
				raw, err := given(args[0], in)
				if err != nil {
					return err
				}
				return web.AskCar(c.Context(), raw, ask(), out)
			},
		}
	}
	var film, plan, advise, report web.CarAsk
	film.What, plan.What, advise.What, report.What = "film", "plan", "advise", "report"
	filmCommand := make("film", "Film and clear of each panel of a car in a file", "Says of each panel the film, the clear that is left, what was taken and what may go (µm).", func() web.CarAsk { return film })
	filmCommand.Flags().BoolVar(&film.JSON, "json", false, "the film record as JSON (docs/formats/film-record.md)")
	planCommand := make("plan", "What can be done to the panels of a car in a file", "Says of each panel that was read what may go and the sequences that are offered.", func() web.CarAsk { return plan })
	planCommand.Flags().BoolVar(&plan.JSON, "json", false, "as JSON: a list of the contract's Plan")
	planCommand.Flags().StringVar(&plan.Panel, "panel", "", "key of one panel, read or not")
	adviseCommand := make("advise", "What to do next on a car in a file", "Says what to do next, how each panel stands and why, and what is to do before the car is handed over.", func() web.CarAsk { return advise })
	adviseCommand.Flags().BoolVar(&advise.JSON, "json", false, "as JSON: the contract's Handing")
	reportCommand := make("report", "The papers of a car in a file", "Writes a paper of the car to standard output.", func() web.CarAsk { return report })
	reportCommand.Flags().StringVar(&report.Paper, "paper", "report.pdf", "report.pdf, report.html, report.svg, record.pdf, record.html, record.svg, record.csv or record.json")
	return []*cobra.Command{filmCommand, planCommand, adviseCommand, reportCommand}
}

// given is what is in a file, or comes from standard input.
func given(path string, in io.Reader) ([]byte, error) {
	if path != "-" {
		return os.ReadFile(path)
	}
	raw, err := io.ReadAll(io.LimitReader(in, keep.MostCarFile+1))
	if err == nil && len(raw) > keep.MostCarFile {
		err = fmt.Errorf("standard input has more than %d MB", keep.MostCarFile>>20)
	}
	return raw, err
}

// errFaults says that verify has found some.
var errFaults = errors.New("faults were found")

// inShop opens the shop in a folder for as long as do lasts; it may be served meanwhile.
func inShop(dir string, do func(of *shop.Shop) error) (err error) {
	if dir == "" {
		return errors.New("name the folder of the shop: --data DIR")
	}
	if _, err := os.Stat(dir); err != nil {
		return fmt.Errorf("the folder of the shop: %w", err)
	}
	records, err := store.Open(dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	of := shop.New(records, time.Now, machineZone())
	defer of.Close()
	return do(of)
}

// written has something written to a file, or to standard output where none is named. A file
// that was not written whole is removed.
func written(path string, out io.Writer, write func(io.Writer) error) (err error) {
	if path == "" {
		return write(out)
	}
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o640)
	if err != nil {
		return err
	}
	if err = errors.Join(write(f), f.Close()); err != nil {
		err = errors.Join(err, os.Remove(path))
	}
	return err
}

// shopCommands are of a whole shop, served or not.
func shopCommands(in io.Reader, out io.Writer) []*cobra.Command {
	var dir, file, as string
	var asJSON bool
	all := []*cobra.Command{
		{Use: "export CAR", Short: "Write a car of a shop as a file", Args: cobra.ExactArgs(1),
			Long: "Writes a car with all that is on record of it and its photos as a ZIP (docs/formats/car.md). CAR is its id or its name.",
			RunE: func(c *cobra.Command, args []string) error {
				return inShop(dir, func(of *shop.Shop) error {
					id, err := carOf(c.Context(), of, args[0])
					if err != nil {
						return err
					}
					return written(file, out, func(w io.Writer) error { return of.CarFile(c.Context(), id, "Wax Planus "+version, w) })
				})
			}},
		{Use: "import FILE", Short: "Keep a car of a file in a shop", Args: cobra.ExactArgs(1),
			Long: "Says what is in a file of a car and what keeping it would change; with --as it is kept, as a new car or as the same one. - is standard input.",
			RunE: func(c *cobra.Command, args []string) error {
				return inShop(dir, func(of *shop.Shop) error {
					return web.Import(c.Context(), of, func() (io.ReadCloser, error) { return opened(args[0], in) }, as, asJSON, out)
				})
			}},
		{Use: "backup", Short: "Copy the whole shop into one file", Args: cobra.NoArgs,
			Long: "Copies database and photos as they are at one moment into one file, while the shop is served or not. Without --out it lies in the folder of the shop, under backups.",
			RunE: func(c *cobra.Command, _ []string) error {
				return inShop(dir, func(of *shop.Shop) error {
					if file == "" {
						made, err := of.MakeBackup(c.Context(), "Wax Planus "+version, false)
						if err != nil {
							return web.InWords(err)
						}
						path, err := of.BackupPath(made.Name)
						fmt.Fprintln(out, path)
						return err
					}
					return written(file, out, func(w io.Writer) error {
						_, err := of.WriteBackup(c.Context(), "Wax Planus "+version, w)
						return err
					})
				})
			}},
		{Use: "restore FILE", Short: "Put a backup in the place of a shop", Args: cobra.ExactArgs(1),
			Long: "Looks a backup through, and puts it in the place of the shop in --data, which may not be served meanwhile and is moved aside. Nothing is replaced before all of the backup was checked.",
			RunE: func(_ *cobra.Command, args []string) error {
				if dir == "" {
					return errors.New("name the folder of the shop: --data DIR")
				}
				made, aside, err := keep.Restore(args[0], dir, time.Now())
				if err != nil {
					return web.InWords(keep.BackupFault(err))
				}
				fmt.Fprintf(out, "The shop of %s is in place: %d cars, %d photos.\n", made.At.Format(time.RFC3339), made.Cars, made.Photos)
				if aside != "" {
					fmt.Fprintf(out, "The one that was there is in %s.\n", aside)
				}
				return nil
			}},
		{Use: "verify", Short: "Look a whole shop through", Args: cobra.NoArgs,
			Long: "Looks through the database, the photos, the film ledger worked out anew from what was logged, and the seals of cars that were handed over. Exit code 3 where something is not as it should be.",
			RunE: func(c *cobra.Command, _ []string) error {
				return inShop(dir, func(of *shop.Shop) error {
					fine, err := web.VerifyJSON(c.Context(), of, asJSON, out)
					if err == nil && !fine {
						err = errFaults
					}
					return err
				})
			}},
	}
	for _, c := range all {
		c.Flags().StringVar(&dir, "data", fromEnv("DATA", ""), "folder that keeps the shop (WAXPLANUS_DATA)")
		switch name, _, _ := strings.Cut(c.Use, " "); name {
		case "export", "backup":
			c.Flags().StringVar(&file, "out", "", "file to write, which may not be there yet")
		case "import":
			c.Flags().StringVar(&as, "as", "", "keep it: new or same")
			c.Flags().BoolVar(&asJSON, "json", false, "answer as JSON")
		case "verify":
			c.Flags().BoolVar(&asJSON, "json", false, "answer as JSON")
		}
	}
	return all
}

// opened is a file, or standard input.
func opened(path string, in io.Reader) (io.ReadCloser, error) {
	if path == "-" {
		return io.NopCloser(in), nil
	}
	return os.Open(path)
}

// carOf is the id of a car by its id or its name.
func carOf(ctx context.Context, of *shop.Shop, name string) (string, error) {
	if err := of.HasCar(ctx, name); err == nil || !errors.Is(err, refuse.ErrMissing) {
		return name, err
	}
	var fits []string
	for _, gone := range []bool{false, true} {
		page, err := of.Cars(ctx, cars.CarsWanted{Search: name, Most: cars.MostPage, HandedOver: gone})
		if err != nil {
			return "", err
		}
		for _, c := range page.Cars {
			if strings.EqualFold(c.Name, name) {
				fits = append(fits, c.ID)
			}
		}
	}
	switch len(fits) {
	case 0:
		return "", web.BadInput(fmt.Sprintf("no car of this shop has the id or the name %q", name))
	case 1:
		return fits[0], nil
	}
	return "", web.BadInput(fmt.Sprintf("%d cars are called %q: name one by its id, %s", len(fits), name, strings.Join(fits, ", ")))
}
