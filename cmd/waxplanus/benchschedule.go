package main

import (
	"fmt"
	"io"
	"math"
	"slices"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/core/practice"
	"waxplanus/core/schedule"
)

func benchScheduleCommand(out io.Writer) *cobra.Command {
	var shops, cars, people, tasks int
	var machine float64
	c := &cobra.Command{
		Use: "schedule", Short: "How good and how quick the plan of a full shop is", Args: cobra.NoArgs,
		Long: `Plans made-up shops full of cars, some of them not in yet, with paint that is still soft,
few machines and bays, and people who may not do everything. Prints how long a plan takes to
make, how much longer it is than the bound that no plan ends before, and what one change
moves. No car has a date, so that the end of all work is what is made short.`,
		RunE: func(*cobra.Command, []string) error { return benchSchedule(out, shops, cars, people, tasks, machine) },
	}
	c.Flags().IntVar(&shops, "shops", 12, "made-up shops")
	c.Flags().IntVar(&cars, "cars", 12, "cars in each")
	c.Flags().IntVar(&people, "people", 6, "people in each")
	c.Flags().IntVar(&tasks, "tasks", 600, "tasks in each, about")
	c.Flags().Float64Var(&machine, "machine", 240, "minutes a day that one person runs machines")
	return c
}

func benchSchedule(out io.Writer, shops, cars, people, tasks int, machine float64) error {
	var made, again []time.Duration
	var gaps []float64
	moved, all := 0, 0
	var shifts []float64
	for seed := range shops {
		in := practice.Shopful(uint64(seed+1), cars, people, tasks)
		for i := range in.Cars {
			in.Cars[i].Due = time.Time{}
		}
		for i := range in.People {
			in.People[i].Machine = machine
		}
		at := time.Now()
		first := schedule.Make(in)
		made = append(made, time.Since(at))
		if len(first.Placed) != len(in.Tasks) {
			return fmt.Errorf("shop %d: %d of %d tasks were planned", seed+1, len(first.Placed), len(in.Tasks))
		}
		gaps = append(gaps, first.Gap)
		in.Before = first.Placed
		in.Tasks[len(in.Tasks)/3].Minutes += 45
		at = time.Now()
		second := schedule.Make(in)
		again = append(again, time.Since(at))
		moved, all = moved+len(second.Moved), all+len(in.Tasks)
		for _, m := range second.Moved {
			shifts = append(shifts, m.Start.Sub(m.Was.Start).Abs().Minutes())
		}
	}
	slices.Sort(made)
	slices.Sort(again)
	slices.Sort(gaps)
	mean := 0.0
	for _, g := range gaps {
		mean += g / float64(len(gaps))
	}
	ms := func(all []time.Duration) string {
		return fmt.Sprintf("%d ms median, %d at most", all[len(all)/2].Milliseconds(), all[len(all)-1].Milliseconds())
	}
	line(out, "what", "measured", "wanted")
	line(out, "---", "---", "---")
	line(out, fmt.Sprintf("a plan of %d tasks, %d cars, %d people", all/shops, cars, people), ms(made), "under 1000 ms")
	line(out, "open hours over those of the bound", fmt.Sprintf("%.1f %% mean, %.1f at most", 100*mean, 100*gaps[len(gaps)-1]), "under 15 %")
	line(out, "planned again after one task takes 45 min more", ms(again), "under 300 ms")
	slices.Sort(shifts)
	shift := 0.0
	if len(shifts) > 0 {
		shift = shifts[len(shifts)/2]
	}
	line(out, "tasks that this moves", fmt.Sprintf("%.0f %%, by %.0f min median", math.Round(100*float64(moved)/float64(all)), shift), "few")
	return nil
}
