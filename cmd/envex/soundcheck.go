package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/signal"
	"envex/core/soundcheck"
)

func soundcheckCommand() *cobra.Command {
	var show, rig string
	var minutes float64
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "soundcheck FILE", Short: "What is checked before a show in the minutes there are", Args: cobra.ExactArgs(1),
		Long: "The checks that fit into the minutes there are: every line to the house, the loudest and the quietest sound, the steepest\njumps, a mono sum, the fastest change, a change of guitar, the riskiest box. What would be missed most comes in first.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, s, err := readShow(cmd, args[0], show)
			if err != nil {
				return err
			}
			id := plan.ID("")
			if rig != "" {
				r, err := pick(p.Rigs, "rig", rig)
				if err != nil {
					return err
				}
				id = r.ID
			}
			r, err := soundcheck.For(cmd.Context(), p, s.ID, id, minutes, signal.Options{Kept: kept})
			if err != nil {
				return err
			}
			return asJSON.print(cmd, r, func(w io.Writer) error { return printSoundcheck(w, &s, r) })
		},
	}
	c.Flags().StringVar(&show, "show", "", "name or id of the show")
	c.Flags().StringVar(&rig, "rig", "", "name or id of the rig; that of the show when absent")
	c.Flags().Float64Var(&minutes, "minutes", 10, "how many minutes there are")
	asJSON.register(c, "print it as JSON")
	return c
}

func printSoundcheck(w io.Writer, s *plan.Show, r *soundcheck.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %g of %g minutes\n", s.Name, r.Takes, r.Minutes)
	for _, c := range r.Checks {
		fmt.Fprintf(&b, "  [ ] %g min  %s\n      %s\n      %s\n", c.Minutes, c.Title, c.Do, c.Why)
	}
	if len(r.Left) > 0 {
		fmt.Fprintln(&b, "No time for:")
	}
	for _, c := range r.Left {
		fmt.Fprintf(&b, "  %g min  %s\n", c.Minutes, c.Title)
	}
	fmt.Fprintln(&b, r.Assumed)
	_, err := io.WriteString(w, b.String())
	return err
}
