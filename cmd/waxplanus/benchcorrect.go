package main

import (
	"fmt"
	"io"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/core/plan"
	"waxplanus/core/practice"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

func benchCorrectCommand(out io.Writer) *cobra.Command {
	var panels int
	c := &cobra.Command{
		Use: "correct", Short: "What one try square teaches of swirls and dead paint, on hidden panels", Args: cobra.NoArgs,
		Long: `Draws swirled panels, a third of them with a dead layer, whose depths and whose cut nobody
knows. Each is said light, medium or heavy by an eye, tried on one square that an eye off by
5 points looks at, planned, and planned again after a look at the first section. Prints how
far the share said lay from the share that came, and how often the cycles were right.`,
		RunE: func(*cobra.Command, []string) error { return benchCorrect(out, panels) },
	}
	c.Flags().IntVar(&panels, "panels", 500, "hidden panels")
	return c
}

func benchCorrect(out io.Writer, panels int) error {
	got, err := practice.Correct(panels)
	if err != nil {
		return err
	}
	share := func(n int) string { return fmt.Sprintf("%.0f %%", 100*float64(n)/float64(got.Panels)) }
	line(out, "what", "measured", "wanted")
	line(out, "---", "---", "---")
	line(out, "share of swirls said and share that came, after one square", fmt.Sprintf("%.1f points apart on the mean", 100*got.Off), "8 points")
	wanted := map[practice.Target][2]string{0.8: {"80 %", "90 %"}, 0.95: {"60 %", "85 %"}}
	for _, t := range practice.Targets {
		line(out, fmt.Sprintf("cycles for %.0f %% gone right within one, after one square", 100*t), share(got.Right[t]), wanted[t][0])
		line(out, fmt.Sprintf("cycles for %.0f %% gone right within one, after the first section", 100*t), share(got.Later[t]), wanted[t][1])
	}
	line(out, "film given away against one who knows the depth", fmt.Sprintf("%.1f %%", 100*got.Given()), "15 %")
	line(out, "through", fmt.Sprintf("%d; the thinnest clear left is %.0f µm", got.Through, got.ThinnestOfThem), "0")
	job := benchJob(plan.PolishOnly, 4, plan.Dark, shelf.Usual())
	job.Gone, job.Condition = 0.8, surface.Condition{Swirls: surface.SwirlsHeavy, Dead: surface.DeadLight}
	const panelsOfCar = 14
	start := time.Now()
	for i := range panelsOfCar { // each has another depth
		job.Condition.Swirls.Median = 0.3 + 0.1*float64(i)
		if err := offersOf(job, 12); err != nil {
			return err
		}
	}
	took := time.Since(start)
	line(out, "sequences for a panel, with the share as third dimension", shown(took/panelsOfCar), "50 ms")
	line(out, fmt.Sprintf("and for a car of %d panels, each swirled otherwise, one after the other", panelsOfCar), shown(took), "500 ms")
	return nil
}
