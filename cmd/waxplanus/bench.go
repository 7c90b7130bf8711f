package main

import (
	"fmt"
	"io"
	"math"
	"runtime"
	"slices"
	"sync"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/practice"
)

func benchCommand(out io.Writer) *cobra.Command {
	c := &cobra.Command{Use: "bench", Short: "Measure what the core promises, on simulated panels and on this machine"}
	var panels, clearPanels, rounds int
	var readings []int
	filmBench := &cobra.Command{
		Use: "film", Short: "Coverage of the film map's bound on hidden panels, and its speed", Args: cobra.NoArgs,
		Long: `Sprays panels whose true film is known, reads them as a gauge in a hand does
(12 mm beside the cross, 1 shot in 20 wild, calibration off, median of 3), and
prints on how many sections the bound of 95 % on the least film held, and how far
below the true least film it lay. Then it times a whole car.`,
		RunE: func(*cobra.Command, []string) error { return benchFilm(out, panels, readings, rounds) },
	}
	filmBench.Flags().IntVar(&panels, "panels", 150, "simulated panels for each line")
	filmBench.Flags().IntSliceVar(&readings, "readings", []int{4, 6, 9, 16, 25}, "readings a panel")
	filmBench.Flags().IntVar(&rounds, "rounds", 7, "how often the whole car is timed")
	clearBench := &cobra.Command{
		Use: "clear", Short: "Coverage of the interval of a clear that was read before it went on", Args: cobra.NoArgs,
		Long: `Sprays hidden panels with a clear over lower layers, reads each before and after by
another day's gauge, and prints on how many the true clear lay within what is said.`,
		RunE: func(*cobra.Command, []string) error {
			_, grounds, err := benchGrounds()
			if err != nil {
				return err
			}
			return benchClear(out, grounds, clearPanels)
		},
	}
	clearBench.Flags().IntVar(&clearPanels, "panels", 300, "simulated panels for each line")
	c.AddCommand(filmBench, clearBench, benchPlanCommand(out), benchLevelCommand(out), benchVerdictCommand(out), benchCorrectCommand(out), benchPhotoCommand(out), benchLoadCommand(out), benchKeepCommand(out), benchScheduleCommand(out), benchTodayCommand(out), benchJobsCommand(out))
	return c
}

// benchGrounds are a saloon, and the panels that coverage is measured on: a plate, its
// bonnet and its left front door.
func benchGrounds() (body.Body, []*film.Ground, error) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		return body.Body{}, nil, err
	}
	saloon, err := body.Find(body.Saloon, body.Size{})
	if err != nil {
		return body.Body{}, nil, err
	}
	grounds := []*film.Ground{film.NewGround(plate.Panels[0])}
	for _, p := range saloon.Panels {
		if p.Key == "bonnet" || p.Key == "L-fdoor" {
			grounds = append(grounds, film.NewGround(p))
		}
	}
	return saloon, grounds, nil
}

func benchFilm(out io.Writer, panels int, readings []int, rounds int) error {
	saloon, grounds, err := benchGrounds()
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "%-22s %-16s %8s %9s %6s %9s %7s\n", "panel", "sprayed", "readings", "sections", "held", "under, µm", "points")
	for _, g := range grounds {
		for _, k := range []struct {
			name   string
			spray  practice.Spray
			finish film.Finish
		}{{"by hand", practice.ByHand, film.Refinished}, {"by a robot", practice.ByRobot, film.FactoryFinish}, {"roughly by hand", practice.Rough, film.Refinished}} {
			for _, n := range readings {
				c, err := practice.Cover(g, k.spray, k.finish, panels, n)
				if err != nil {
					return err
				}
				fmt.Fprintf(out, "%-22s %-16s %8d %9d %5.1f%% %9.1f %6.0f%%\n", g.Panel.Name, k.name, n, c.All, 100*c.Share(), c.Under, 100*c.PointShare())
			}
		}
	}
	fmt.Fprintln(out, "held: sections whose true least film is above the bound, 95 % promised. under: how far the bound\nlies below it on the mean. points: places in the map's interval of 90 %.")
	return benchCar(out, saloon, rounds)
}

// benchClear holds the clear of panels that were read before it went on against the truth.
func benchClear(out io.Writer, grounds []*film.Ground, panels int) error {
	fmt.Fprintf(out, "%-22s %14s %11s %8s %9s %8s %9s\n", "clear read before", "before", "total", "held", "not less", "off, µm", "said, µm")
	for _, g := range grounds {
		for _, n := range [][2]int{{1, 5}, {3, 5}, {3, 9}, {5, 9}, {9, 9}} {
			c, err := practice.CoverClear(g, panels, n[0], n[1])
			if err != nil {
				return err
			}
			fmt.Fprintf(out, "%-22s %8d spots %5d spots %7.1f%% %8.1f%% %8.1f %9.1f\n", g.Panel.Name, n[0], n[1], 100*c.Share(), 100*c.AboveShare(), c.Off, c.Said)
		}
	}
	fmt.Fprintln(out, "held: the true clear lies within 1.645 of what is said; not less: it is not under that. Another day's gauge before.")
	return nil
}

const (
	carPanels   = 14
	carReadings = 16
)

// benchCar times the film of a whole car, and of one panel with a reading more.
func benchCar(out io.Writer, b body.Body, rounds int) error {
	type panel struct {
		ground *film.Ground
		places []film.Place
	}
	var car []panel
	for i, p := range b.Panels {
		g := film.NewGround(p)
		if spots := film.NextSpots(g, g.Cells, nil, 0, nil, carReadings+1); len(spots) > carReadings && len(car) < carPanels {
			truth, gauge := practice.NewPanel(p, 150, practice.ByHand, uint64(i)), practice.NewGauge(uint64(i))
			n := panel{ground: g}
			for _, q := range spots {
				n.places = append(n.places, gauge.Spot(truth, q))
			}
			car = append(car, n)
		}
	}
	facts := film.Facts{History: film.History{Finish: film.Refinished, Coats: 3}}
	var whole, one []time.Duration
	for range max(rounds, 1) {
		start := time.Now()
		errs := make([]error, len(car))
		var wg sync.WaitGroup
		for i, p := range car {
			wg.Go(func() { _, errs[i] = film.NewStudy(p.ground, facts, p.places[:carReadings], film.UsualGauge) })
		}
		wg.Wait()
		whole = append(whole, time.Since(start))
		for _, err := range errs {
			if err != nil {
				return err
			}
		}
		for _, p := range car {
			start = time.Now()
			if _, err := film.NewStudy(p.ground, facts, p.places, film.UsualGauge); err != nil {
				return err
			}
			one = append(one, time.Since(start))
		}
	}
	ms := func(d time.Duration) float64 { return math.Round(10*d.Seconds()*1000) / 10 }
	slices.Sort(whole)
	slices.Sort(one)
	fmt.Fprintf(out, "\n%d panels, %d readings each, cells of 30 mm, %d cores: middle %v ms, least %v, most %v\n", len(car), carReadings, runtime.GOMAXPROCS(0), ms(whole[len(whole)/2]), ms(whole[0]), ms(whole[len(whole)-1]))
	fmt.Fprintf(out, "one reading more, its panel again: middle %v ms, most %v\n", ms(one[len(one)/2]), ms(one[len(one)-1]))
	return nil
}
