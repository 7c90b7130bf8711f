package main

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"waxplanus/core/practice"
)

func benchVerdictCommand(out io.Writer) *cobra.Command {
	var jobs int
	c := &cobra.Command{
		Use: "verdict", Short: "What the verdict lets go, and whether its chances come true", Args: cobra.NoArgs,
		Long: `Draws jobs as they come, with a truth of their own (other shops' coats differ, some
coats are told wrong, nobody knows the history of many), asks the verdict with one
reading each, and holds it against the truth.`,
		Run: func(*cobra.Command, []string) {
			fmt.Fprintf(out, "%-14s %7s %9s %9s %9s %9s %9s %9s\n", "jobs", "number", "can be", "let go", "allowed", "through", "said", "happened")
			can, let := 0.0, 0.0
			for i, k := range practice.JobKinds {
				v := practice.JudgeJobs(k, jobs, uint64(i+1))
				fmt.Fprintf(out, "%-14s %7d %9d %8.1f%% %9d %9d %8.1f%% %8.1f%%\n", k, v.Jobs, v.Can, 100*float64(v.Let)/float64(max(v.Can, 1)), v.Allowed, v.Through,
					100*v.Said, 100*float64(v.Under)/float64(max(v.Bound, 1)))
				can, let = can+practice.Mix[k]*float64(v.Can), let+practice.Mix[k]*float64(v.Let)
			}
			fmt.Fprintf(out, "%-14s %26.1f%%\n", "as they come", 100*let/can)
			fmt.Fprintln(out, "as they come: 6 refinished, 3 factory, 1 single stage of 10. let go: open or tight, of those that can be done. through: of the allowed. said and happened: the chance of\nending under the floor, of the allowed that it binds.")
		},
	}
	c.Flags().IntVar(&jobs, "jobs", 20000, "jobs of each kind")
	return c
}
