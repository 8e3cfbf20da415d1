package main

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/setorder"
)

func setOrderCommand() *cobra.Command {
	var at showFlags
	var out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "setorder FILE", Short: "The order of a set with the fewest changes of guitar, tuning and capo", Args: cobra.ExactArgs(1),
		Long: "The changes of guitar, tuning and capo between the songs of a set, each with its time, and the order of the songs that\nhas the fewest. What is pinned, goes straight on, or has places that are wished for it, stays so. With -o it writes\nthe plan with that order.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			found, err := setorder.Find(cmd.Context(), there, r.ID, l.ID)
			if err != nil {
				return err
			}
			if out != "" {
				if found.Offered != nil {
					l.Entries = slices.Clone(l.Entries)
					slices.SortStableFunc(l.Entries, func(a, b plan.SetEntry) int {
						return slices.Index(found.Offered.Order, a.ID) - slices.Index(found.Offered.Order, b.ID)
					})
					p.Put(l)
				}
				if err := writePlan(cmd, p, out); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printSetOrder(w, p, &l, found) })
		},
	}
	at.register(c)
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the order that is offered")
	asJSON.register(c, "print it as JSON")
	return c
}

func printSetOrder(w io.Writer, p *plan.Plan, l *plan.SetList, r *setorder.Report) error {
	var b strings.Builder
	say := func(title string, e *setorder.Evening) {
		fmt.Fprintf(
			&b,
			"%s: %d changes, %.0f s, %d without the time; %d of %d changes of sound in time\n",
			title,
			len(e.Changes),
			e.Seconds,
			e.Late,
			e.Reach.Reached,
			e.Reach.Total,
		)
		for _, c := range e.Changes {
			late := ""
			if !c.Fits {
				late = "  no time"
			}
			fmt.Fprintf(&b, "  %-24s %-44s %4.0f s of %.0f s%s\n", c.Title, c.Words, c.Seconds, c.GapS, late)
		}
	}
	say(l.Name+" as it is", &r.Now)
	if r.Offered == nil {
		fmt.Fprintln(&b, "No order has fewer.")
	} else {
		say("Offered", r.Offered)
		for i, id := range r.Offered.Order {
			for _, e := range l.Entries {
				if e.ID == id {
					song, _ := p.FindSong(e.Song)
					fmt.Fprintf(&b, "  %2d  %s\n", i+1, song.Title)
				}
			}
		}
	}
	if !r.Exact {
		fmt.Fprintln(&b, "There are more orders than were looked through: another may be better.")
	}
	_, err := io.WriteString(w, b.String())
	return err
}
