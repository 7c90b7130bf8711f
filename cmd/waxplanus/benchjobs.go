package main

import (
	"fmt"
	"io"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/internal/robot"
)

func benchJobsCommand(out io.Writer) *cobra.Command {
	var jobs, from int
	var seed uint64
	var minutes, shrink float64
	c := &cobra.Command{
		Use: "jobs", Short: "A robot painter works whole jobs over the contract and holds what must always hold", Args: cobra.NoArgs,
		Long: `Takes in cars of chance in shops of their own, reads them with a hidden truth, follows what
is next until they are handed over, and now and then does what people do: goes back, strikes
out, taps twice or on and on, changes person, sheet, rule or unit, comes late. After every
answer it holds what must always hold. Prints what was broken with its seed and job and the
shortest script of the first, and by kind of job what it came to.`,
		RunE: func(*cobra.Command, []string) error {
			start := time.Now()
			sums, findings, err := robot.Many(out, seed, from, jobs, time.Duration(minutes*float64(time.Minute)), time.Duration(shrink*float64(time.Second)))
			if err != nil {
				return err
			}
			fmt.Fprintf(out, "%-8s %6s %6s %9s %6s %6s %9s %9s %6s %8s %9s %s\n", "aim", "jobs", "done", "readings", "taps", "asked", "sections", "finished", "under", "through", "findings", "slowest answer")
			all, done := 0, 0
			for _, kind := range robot.Kinds(sums) {
				s := sums[kind]
				n := float64(s.Jobs)
				all, done = all+s.Jobs, done+s.Done
				fmt.Fprintf(out, "%-8s %6d %5.1f%% %9.1f %6.1f %6.0f %9d %8.1f%% %6d %8d %9d %s %s\n", kind, s.Jobs, 100*float64(s.Done)/n, float64(s.Readings)/n, float64(s.Taps)/n, float64(s.Asked)/n,
					s.Sections, 100*float64(s.Finished)/float64(max(s.Sections, 1)), s.Under, s.Through, s.Findings, s.Slowest.Round(time.Millisecond), s.Slow)
			}
			fmt.Fprintf(out, "seed %d: %d jobs, %d handed over, %d findings, %.0f s; readings, taps and requests a job; sections that were worked,\nby the truth finished in full, brought under the usual floor, and through.\n",
				seed, all, done, len(findings), time.Since(start).Seconds())
			return nil
		},
	}
	c.Flags().IntVar(&jobs, "jobs", 100, "how many")
	c.Flags().IntVar(&from, "from", 0, "the first of them, as a finding names it")
	c.Flags().Uint64Var(&seed, "seed", 1, "that they are drawn from")
	c.Flags().Float64Var(&minutes, "minutes", 0, "how long at most, 0 for as long as it takes")
	c.Flags().Float64Var(&shrink, "shrink", 30, "seconds for the shortest script")
	return c
}
