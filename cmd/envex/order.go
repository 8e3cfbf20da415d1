package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/path"
	"envex/core/signal"
)

func orderCommand() *cobra.Command {
	var at rigFlags
	var asJSON jsonFlag
	var place string
	c := &cobra.Command{
		Use: "order FILE", Short: "What is wrong with the order of a chain, and the best order", Args: cobra.ExactArgs(1),
		Long: "What is wrong with the order of a chain, and the best order. With --place, where a box that does not stand in it\nwould best stand.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			driven, err := signal.Driven(cmd.Context(), there, r.ID, kept)
			if err != nil {
				return err
			}
			if place != "" {
				g, err := pick(p.Gear, "gear", place)
				if err != nil {
					return err
				}
				found, err := path.Place(cmd.Context(), p, r.ID, d.ID, g.ID, driven)
				if err != nil {
					return err
				}
				return asJSON.print(cmd, found, func(w io.Writer) error { return printPlacing(w, found) })
			}
			report, err := path.JudgeDriven(cmd.Context(), p, r.ID, d.ID, driven)
			if err != nil {
				return err
			}
			return asJSON.print(cmd, report, func(w io.Writer) error { return printOrder(w, at.title(r, d), report) })
		},
	}
	at.register(c)
	c.Flags().StringVar(
		&place, "place", "", "name or id of a box that does not stand in the chain: where it would best stand",
	)
	asJSON.register(c, "print the report as JSON")
	return c
}

func printPlacing(w io.Writer, x *path.Placing) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: the order costs %g without it\n", x.Name, x.Now)
	for _, p := range x.Places {
		fmt.Fprintf(&b, "  %s: %g\n", p.Words, p.Cost)
		for _, against := range p.Against {
			fmt.Fprintf(&b, "      %s\n", against)
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printOrder(w io.Writer, rig string, r *path.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: the order costs %g\n", rig, r.Cost)
	printFindings(&b, r.Findings)
	proof := "proven the least"
	if !r.Best.Proven {
		proof = fmt.Sprintf("the best found; none costs less than %g", r.Best.Bound)
	}
	fmt.Fprintf(&b, "best order costs %g, %s\n", r.Best.Cost, proof)
	for i, m := range r.Best.Moves {
		fmt.Fprintf(&b, "  %d. %s: %g\n", i+1, m.Words, m.Cost)
	}
	for _, k := range r.Kept {
		fmt.Fprintf(&b, "kept as %s: %g, %.2f m of cable\n", k.Name, k.Cost, k.Cables)
	}
	for _, e := range r.Estimated {
		fmt.Fprintln(&b, e)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
