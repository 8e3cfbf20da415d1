package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/path"
)

func orderCommand() *cobra.Command {
	var rig string
	var asJSON bool
	c := &cobra.Command{
		Use: "order FILE", Short: "What is wrong with the order of a chain, and the best order", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			r, err := pick(p.Rigs, "rig", rig)
			if err != nil {
				return err
			}
			report, err := path.Judge(cmd.Context(), p, r.ID)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, report)
			}
			return printOrder(cmd.OutOrStdout(), r.Name, report)
		},
	}
	c.Flags().StringVar(&rig, "rig", "", "name or id of the rig")
	c.Flags().BoolVar(&asJSON, "json", false, "print the report as JSON")
	return c
}

func printOrder(w io.Writer, rig string, r *path.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: the order costs %g\n", rig, r.Cost)
	for _, f := range r.Findings {
		kept := ""
		if f.Settled != "" {
			kept = " (kept: " + f.Settled + ")"
		}
		fmt.Fprintf(&b, "  %g  %s had better come before %s: %s%s\n", f.Weight, f.Names[0], f.Names[1], f.Reason, kept)
	}
	proof := "proven the least"
	if !r.Best.Proven {
		proof = fmt.Sprintf("the best found; none costs less than %g", r.Best.Bound)
	}
	fmt.Fprintf(&b, "best order costs %g, %s\n", r.Best.Cost, proof)
	for i, m := range r.Best.Moves {
		fmt.Fprintf(&b, "  %d. %s: %g\n", i+1, m.Words, m.Cost)
	}
	for _, e := range r.Estimated {
		fmt.Fprintln(&b, e)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
