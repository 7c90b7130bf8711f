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
	var panels int
	c := &cobra.Command{
		Use: "level", Short: "What following the advice at the car costs and keeps, on hidden panels", Args: cobra.NoArgs,
		Long: `Works one section of each of so many panels whose film, clear, texture, hardness and
hand nobody knows, with the first step of a sequence, until nothing more is granted: by
the advice (grant, half of it, read, repeat) and by rules of thumb. Prints how many
sections went below the floor and what the finer steps need, 5 % allowed, and how many
passes were given away against somebody who sees everything.`,
		RunE: func(*cobra.Command, []string) error { return benchLevel(out, panels) },
	}
	c.Flags().IntVar(&panels, "panels", 1000, "simulated panels for each line")
	return c
}

func benchLevel(out io.Writer, panels int) error {
	plate, err := body.LoosePanel(900, 600)
	if err != nil {
		return err
	}
	things := shelf.Usual()
	choices, err := plan.ParseCode("p1500@rubber*6,3000@foam-disc*6,wool-medium*2,foam-fine*2", &things)
	if err != nil {
		return err
	}
	ladder, err := plan.Job{Aim: plan.Flat, Grade: 6, Colour: plan.Dark, Hardness: 1, Area: 0.54e6, Sections: []plan.Rect{{W: 300, H: 300}}, Shelf: things}.Work(choices)
	if err != nil {
		return err
	}
	b := practice.Trials{Ground: film.NewGround(plate.Panels[0]), Ladder: ladder}
	const spread = 0.34
	fmt.Fprintf(out, "%-40s %-34s %9s %10s\n", "truth", "manner", "below", "given away")
	for _, c := range []struct {
		name string
		h    practice.Hidden
	}{
		{"clear read before, cut as the prior", practice.Hidden{CutSpread: spread, Before: true}},
		{"the same, every cut 28 % faster", practice.Hidden{CutSpread: spread, CutBias: math.Log(1.28), Before: true}},
		{"the same, cuts spread wider (0.5)", practice.Hidden{CutSpread: 0.5, Before: true}},
		{"clear by the coats rule", practice.Hidden{CutSpread: spread}},
		{"the same, coats 20 % thinner than said", practice.Hidden{CutSpread: spread, CoatBias: math.Log(0.8)}},
		{"coats rule, 6 other panels read before", practice.Hidden{CutSpread: spread, Known: 6}},
		{"the same, coats 20 % thinner than said", practice.Hidden{CutSpread: spread, CoatBias: math.Log(0.8), Known: 6}},
	} {
		by, err := b.Run(c.h, panels)
		if err != nil {
			return err
		}
		for i, m := range practice.Manners {
			name := c.name
			if i > 0 {
				name = ""
			}
			fmt.Fprintf(out, "%-40s %-34s %8.1f%% %9.0f%%\n", name, m, 100*by[m].BurntShare(), 100*by[m].Given())
		}
	}
	fmt.Fprintf(out, "below: sections of which more than a twentieth went under floor and reserve, 1 in 10 accepted; %d panels a line.\n", panels)
	return nil
}
