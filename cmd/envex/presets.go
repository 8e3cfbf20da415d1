package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/tempo"
)

func presetsCommand() *cobra.Command {
	var at showFlags
	var gear, out string
	var grid tempo.Grid
	var inOrder bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "presets FILE", Short: "The presets of a delay or reverb by what they mean", Args: cobra.ExactArgs(1),
		Long: "A preset for long, medium and short, and of a delay for each note, made and named in one step: times follow the tempo,\nand each sound goes to the preset it means. Says how many presses lie between any two, and what it takes over the set\nbeside a preset for each song and one page for the night. With -o the plan is written with them.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if d.ID != "" {
				return reason.Errorf("presets are the rig's own, wherever it plugs in: leave --destination out")
			}
			x, err := pick(p.Gear, "gear", gear)
			if err != nil {
				return err
			}
			if inOrder {
				return presetsInOrder(cmd, p, [3]plan.ID{r.ID, l.ID, x.ID}, out, asJSON)
			}
			found, err := tempo.MeaningsOf(p, r.ID, l.ID, x.ID, grid)
			if err != nil {
				return err
			}
			if err := writeWith(cmd, p, found.Rig, out); err != nil {
				return err
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printMeanings(w, found) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&gear, "gear", "", "name or id of the delay or reverb")
	c.Flags().StringSliceVar(&grid.Notes, "notes", nil, "notes of a delay, after commas; 1/8,1/8. when absent")
	c.Flags().IntSliceVar(&grid.Repeats, "repeats", nil, "repeats of a long, a medium and a short one; 6,3,1 when absent")
	c.Flags().StringVarP(&out, "output", "o", "", "write the plan with the presets to this file")
	c.Flags().BoolVar(&inOrder, "set-order", false,
		"instead, the presets of any device in the order in which the set first calls for them")
	asJSON.register(c, "print the answer as JSON")
	return c
}

// writeWith writes a plan with a rig of it changed to a file, where one is named.
func writeWith(cmd *cobra.Command, p *plan.Plan, rig plan.Rig, out string) error {
	if out == "" {
		return nil
	}
	p.Put(rig)
	return writePlan(cmd, p, out)
}

// presetsInOrder puts the presets of a device into the order of a set: of a rig, a set list and a gear.
func presetsInOrder(cmd *cobra.Command, p *plan.Plan, at [3]plan.ID, out string, asJSON jsonFlag) error {
	found, err := tempo.InSetOrder(p, at[0], at[1], at[2])
	if err != nil {
		return err
	}
	if err := writeWith(cmd, p, found.Rig, out); err != nil {
		return err
	}
	if asJSON {
		return printJSON(cmd, found)
	}
	w := cmd.OutOrStdout()
	for _, m := range found.Moves {
		from := "not called for"
		if m.Song != "" {
			from = "first in " + m.Song
		}
		if _, err := fmt.Fprintf(w, "%s to %s, %s\n", m.From, m.To, from); err != nil {
			return err
		}
	}
	_, err = fmt.Fprintln(w, found.Words)
	return err
}

func printMeanings(w io.Writer, m *tempo.Memories) error {
	var b strings.Builder
	for _, x := range m.Meanings {
		fmt.Fprintf(&b, "%s %s: %s", m.Name, x.Preset, x.Name)
		if len(x.Sounds) > 0 {
			fmt.Fprintf(&b, ", for %s", plan.Listed(x.Sounds))
		}
		b.WriteString("\n")
	}
	fmt.Fprintf(&b, "at most %s between two\n", plan.Counted(m.Farthest, "press", "presses"))
	for _, s := range m.Schools {
		fmt.Fprintf(
			&b, "%s: %d presets of %d, %s, %s. %s\n", s.Name, s.Presets, s.Have,
			plan.Counted(s.Presses, "press", "presses"), plan.Counted(s.Taps, "tap", "taps"), s.Words,
		)
	}
	for _, f := range m.Findings {
		fmt.Fprintf(&b, "%s. %s\n", f.Title, f.Words)
	}
	for _, x := range m.Words {
		fmt.Fprintln(&b, x)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
