package main

import (
	"io"

	"github.com/spf13/cobra"

	"waxplanus/internal/web"
)

func checkCommand(in io.Reader, out io.Writer) *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use: "check", Short: "May this be sanded? A verdict from standard input", Args: cobra.NoArgs,
		Long: `Reads what is known of a panel from standard input as JSON, films in µm, and answers
whether the aim fits, what it would take and what could be done instead:

  echo '{"total_um":130,"coats":3,"aim":"flat","peel_grade":6}' | waxplanus check --json

finish: factory, refinished or single_stage. coats, coat_um, under (new, over or
unknown), car_um (a factory panel of the same car), before_um (the film before the
clear) and floor_um (agreed with the owner) may be left out. aim: flat, match, nibs or
polish. colour: light, medium or dark. The exit code is 0 whenever it could answer.`,
		RunE: func(*cobra.Command, []string) error { return web.CheckJSON(in, out, asJSON) },
	}
	c.Flags().BoolVar(&asJSON, "json", false, "answer as JSON rather than in words")
	return c
}
