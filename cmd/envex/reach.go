package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/reach"
)

func reachCommand() *cobra.Command {
	var at rigFlags
	var setList string
	var anyOrder bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "reach FILE", Short: "Which changes of a set the player's feet make in time", Args: cobra.ExactArgs(1),
		Long: "Computes for a rig and a set list what has to be pressed at every change, how long that takes and how long there is.\nExits 0 when it could be computed, whatever the verdicts, and 2 with the problems on bad input.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", setList)
			if err != nil {
				return err
			}
			if p, err = p.At(r.ID, d.ID); err != nil {
				return err
			}
			if anyOrder {
				any, err := reach.ComputeAnyOrder(cmd.Context(), p, r.ID, l.ID, nil)
				if err != nil {
					return err
				}
				if asJSON {
					return printJSON(cmd, any)
				}
				words := fmt.Sprintf("songs in any order: %d of %d changes possible", any.Reached, any.Total)
				if any.Total == 0 {
					words = "no two songs to go between"
				}
				_, err = fmt.Fprintf(cmd.OutOrStdout(), "%s, %s: %s\n", r.Name, l.Name, words)
				return err
			}
			report, err := reach.Compute(p, r.ID, l.ID)
			if err != nil {
				return err
			}
			return asJSON.print(cmd, report, func(w io.Writer) error { return printReach(w, report) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&setList, "setlist", "", "name or id of the set list")
	asJSON.register(c, "print the report as JSON")
	c.Flags().BoolVar(&anyOrder, "any-order", false, "count every song after every other instead of the written order")
	return c
}

// printReach writes the report for reading in a terminal.
func printReach(w io.Writer, r *reach.Report) error {
	var b strings.Builder
	t := r.Reach
	fmt.Fprintf(&b, "%s, %s: reach %d of %d\n", r.Rig.Name, r.SetList.Name, t.Reached, t.Total)
	fmt.Fprintf(
		&b, "%d in time, %d tight, %d late, %d by hand, %d impossible\n", t.InTime, t.Tight, t.Late, t.ByHand, t.Impossible,
	)
	if t.NotSet > 0 {
		fmt.Fprintf(&b, "%d not set yet: a sound has no recipe\n", t.NotSet)
	}
	song := ""
	for _, c := range r.Changes {
		if c.Song != song {
			song = c.Song
			fmt.Fprintf(&b, "\n%s\n", song)
		}
		fmt.Fprintf(
			&b, "  %3d  %-12s %-22s %-10s %s\n", c.Position, c.Section, c.From.Name+" > "+c.To.Name,
			strings.ReplaceAll(string(c.Verdict), "_", " "), c.Reason,
		)
		for _, p := range c.Presses {
			fmt.Fprintf(&b, "         %5.2f s  %s %s: %s\n", p.AtS, p.Gesture, p.Label, p.Action)
		}
		for _, l := range c.Leisure {
			fmt.Fprintf(&b, "         early, in %s: %s\n", l.During.Section, l.Action)
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}
