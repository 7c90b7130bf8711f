package main

import (
	"fmt"
	"io"
	"math"

	"github.com/spf13/cobra"

	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
	"waxplanus/core/practice"
	"waxplanus/core/shelf"
)

func benchLevelCommand(out io.Writer) *cobra.Command {
	var panels, whole int
	c := &cobra.Command{
		Use: "level", Short: "What following the advice at the car costs and keeps, on hidden panels", Args: cobra.NoArgs,
		Long: `Works so many whole panels of two coats whose film, clear, texture, hardness and hand
nobody knows, with all steps of a sequence as told, on a floor that leaves the plan in
doubt (1 in 100 to 1 in 3), one reading in fifty a slip of -30 to +45 %. Prints how many
sections were finished with no scratch left standing, went through, ended under the floor
beside the chance that was said and accepted, the passes given away against somebody who
sees everything, the readings asked for and how many were as expected to nine in ten.

Then works one section of each of so many panels with the first step until nothing more is
granted: by the advice (grant, half of it, read, repeat) and by rules of thumb. Prints how
many sections went below the floor and what the finer steps need, and how many passes were
given away.`,
		RunE: func(*cobra.Command, []string) error { return benchLevel(out, whole, panels) },
	}
	c.Flags().IntVar(&whole, "whole", 200, "panels worked to the end, for each line")
	c.Flags().IntVar(&panels, "panels", 1000, "panels sanded on to the stop, for each line")
	return c
}

// truths are how the hidden panels are drawn.
var truths = []struct {
	name string
	h    practice.Hidden
}{
	{"clear read before, cut as the prior", practice.Hidden{CutSpread: plan.RateSpread, Before: true}},
	{"the same, every cut 28 % faster", practice.Hidden{CutSpread: plan.RateSpread, CutBias: math.Log(1.28), Before: true}},
	{"the same, cuts spread wider (0.5)", practice.Hidden{CutSpread: 0.5, Before: true}},
	{"clear read before by one spot", practice.Hidden{CutSpread: plan.RateSpread, Before: true, Spots: 1}},
	{"clear by the coats rule", practice.Hidden{CutSpread: plan.RateSpread}},
	{"the same, coats 20 % thinner than said", practice.Hidden{CutSpread: plan.RateSpread, CoatBias: math.Log(0.8)}},
	{"coats rule, 6 other panels read before", practice.Hidden{CutSpread: plan.RateSpread, Known: 6}},
	{"the same, coats 20 % thinner than said", practice.Hidden{CutSpread: plan.RateSpread, CoatBias: math.Log(0.8), Known: 6}},
}

// trials are on a loose panel with a sequence of that code.
func trials(code string) (practice.Trials, error) {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		return practice.Trials{}, err
	}
	things := shelf.Usual()
	choices, err := plan.ParseCode(code, &things)
	if err != nil {
		return practice.Trials{}, err
	}
	ladder, err := plan.Job{Aim: plan.Flat, Grade: 6, Colour: plan.Dark, Hardness: 1, Area: 0.54e6, Sections: []plan.Rect{{W: 300, H: 300}}, Shelf: things}.Work(choices)
	return practice.Trials{Ground: film.NewGround(plate.Panels[0]), Ladder: ladder}, err
}

const (
	partPlan  = "p1500@rubber*3,p2000@rubber*4,3000@foam-disc*4,wool-medium*2,foam-fine*2"
	wholePlan = "p1500@rubber*6,p2000@rubber*5,3000@foam-disc*4,wool-medium*2,foam-fine*2"
	toTheStop = "p1500@rubber*6,3000@foam-disc*6,wool-medium*2,foam-fine*2"
)

func benchLevel(out io.Writer, whole, panels int) error {
	if whole > 0 {
		if err := benchWhole(out, whole); err != nil {
			return err
		}
	}
	if panels > 0 {
		return benchStop(out, panels)
	}
	return nil
}

func benchWhole(out io.Writer, panels int) error {
	b, err := trials(wholePlan)
	if err != nil {
		return err
	}
	part, err := trials(partPlan)
	if err != nil {
		return err
	}
	part.Partly = true
	fmt.Fprintf(out, "%-50s %8s %9s %8s %6s %6s %9s %11s %9s %9s\n", "followed to the end", "sections", "finished", "through", "under", "said", "accepted", "given away", "readings", "expected")
	line := func(name string, b practice.Trials, h practice.Hidden) error {
		f, err := b.Follow(h, panels)
		if err != nil {
			return err
		}
		n := float64(f.Sections)
		fmt.Fprintf(out, "%-50s %8d %8.1f%% %8d %5.1f%% %5.1f%% %8.1f%% %10.1f%% %9.2f %8.0f%%\n", name, f.Sections, 100*float64(f.Finished)/n, f.Through,
			100*float64(f.Under)/n, 100*f.Said/n, 100*f.Accepted/n, 100*(1-float64(f.Passes)/float64(f.Could)), float64(f.Readings)/n, 100*float64(f.Inside)/float64(f.Readings))
		return nil
	}
	for _, c := range truths {
		if err := line(c.name, b, c.h); err != nil {
			return err
		}
	}
	for _, i := range []int{0, 3, 4} {
		if err := line("partly levelled: "+truths[i].name, part, truths[i].h); err != nil {
			return err
		}
	}
	fmt.Fprintf(out, "%d panels a line, all sections whose plan is open or tight; readings a section.\n\n", panels)
	return nil
}

func benchStop(out io.Writer, panels int) error {
	b, err := trials(toTheStop)
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "%-40s %-34s %9s %8s %10s\n", "sanded on to the stop", "manner", "below", "through", "given away")
	for _, c := range truths {
		by, err := b.Run(c.h, panels)
		if err != nil {
			return err
		}
		for i, m := range practice.Manners {
			name := c.name
			if i > 0 {
				name = ""
			}
			fmt.Fprintf(out, "%-40s %-34s %8.1f%% %8d %9.0f%%\n", name, m, 100*by[m].BurntShare(), by[m].Through, 100*by[m].Given())
		}
	}
	fmt.Fprintf(out, "below: sections of which more than a twentieth went under floor and reserve, 1 in 10 accepted; %d panels a line.\n", panels)
	return nil
}
