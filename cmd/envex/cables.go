package main

import (
	"encoding/csv"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"envex/core/exchange"
	"envex/core/path"
	"envex/core/reason"
)

func cablesCommand() *cobra.Command {
	var at rigFlags
	var asCSV bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "cables FILE", Short: "Every cable of a rig, derived from its path", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			cables, err := path.DeriveCables(p, r.ID, d.ID)
			if err != nil {
				return err
			}
			switch {
			case bool(asJSON):
				return printJSON(cmd, cables)
			case asCSV:
				return printCablesCSV(cmd.OutOrStdout(), cables)
			}
			return printCables(cmd.OutOrStdout(), cables)
		},
	}
	at.register(c)
	asJSON.register(c, "print the cables as JSON")
	c.Flags().BoolVar(&asCSV, "csv", false, "print the cables as CSV")
	c.MarkFlagsMutuallyExclusive("json", "csv")
	return c
}

func yesNo(is bool) string {
	if is {
		return "yes"
	}
	return "no"
}

func printCables(w io.Writer, c *path.Cables) error {
	for _, r := range c.Runs {
		note := ""
		if r.Assumed {
			note = " (assumed)"
		}
		if r.YLead {
			note += ", by a Y lead"
		}
		if _, err := fmt.Fprintf(
			w, "%s %s > %s %s: %.2f m%s, %s, %s level\n", r.From.Name, r.From.Jack, r.To.Name, r.To.Jack, r.LengthM, note,
			r.Channels(), r.Level,
		); err != nil {
			return err
		}
	}
	for _, x := range c.Control {
		if _, err := fmt.Fprintf(
			w, "%s %s > %s %s: %.2f m, %s lead\n", x.From.Name, x.From.Jack, x.To.Name, x.To.Jack, x.LengthM, x.Kind,
		); err != nil {
			return err
		}
	}
	if _, err := fmt.Fprintf(w, "%d leads, %.2f m in all\n", c.Leads, c.TotalM); err != nil {
		return err
	}
	for _, a := range c.Assumed {
		if _, err := fmt.Fprintln(w, a); err != nil {
			return err
		}
	}
	return nil
}

// printCablesCSV writes one line a cable. A name that a spreadsheet would take for a formula
// is led by an apostrophe, so that it stays text.
func printCablesCSV(w io.Writer, c *path.Cables) error {
	out := csv.NewWriter(w)
	lines := [][]string{{"from", "jack", "to", "jack", "length m", "plugs", "channels", "level", "y lead"}}
	for _, r := range c.Runs {
		lines = append(
			lines,
			[]string{
				exchange.AsText(r.From.Name), exchange.AsText(r.From.Jack), exchange.AsText(r.To.Name), exchange.AsText(r.To.Jack),
				fmt.Sprintf("%.2f", r.LengthM), r.Plugs, r.Channels(), r.Level, yesNo(r.YLead),
			},
		)
	}
	for _, x := range c.Control {
		lines = append(
			lines,
			[]string{
				exchange.AsText(x.From.Name), exchange.AsText(x.From.Jack), exchange.AsText(x.To.Name), exchange.AsText(x.To.Jack),
				fmt.Sprintf("%.2f", x.LengthM), "", "", x.Kind, yesNo(x.Split),
			},
		)
	}
	if err := out.WriteAll(lines); err != nil {
		return reason.Errorf("write CSV: %w", err)
	}
	return nil
}
