package main

import (
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/shorthand"
	"envex/examples"
)

func newCommand() *cobra.Command {
	var set, pattern, name, out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "new RIG.txt", Short: "Make a plan of a chain that is typed in a line, and of a set", Args: cobra.ExactArgs(1),
		Long: `Makes a plan of a chain in your own words, and prints it. How it was taken is said beside it; what is not
understood is kept, and said. "-" reads standard input.

  tuner, volume, comp, light drive + mid-hump drive (one box), chorus / tremolo, hall reverb > combo with loop: looper

  a, b          one after the other            amp: a, b     in the loop of the amp
  a + b         one box with two circuits      a | b         lanes, after >
  a / b         one or the other; the first    [1 a][2 b, c] loops of a loop switcher
                is placed                      2 x a         several of a kind
  Amber = a     a box with a name of its own   9V 250mA 120x70x50 400g

A set is a line for each song, a title alone is enough, a spreadsheet can be pasted as it is:

  Ferry Lights 104: clean, verse clean x2 (sing), chorus crunch (sing), solo lead 16, out crunch`,
		RunE: func(cmd *cobra.Command, args []string) error {
			text, err := readFile(cmd, args[0], shorthand.MaxText)
			if err != nil {
				return err
			}
			reading, err := shorthand.ReadChain(string(text), nil)
			if err != nil {
				return reason.Errorf("%s: %w", args[0], err)
			}
			if len(reading.Chips) == 0 {
				return reason.Errorf("%s has no box", args[0])
			}
			p := &plan.Plan{}
			made := reading.Build(p, newID, name)
			for _, g := range made.Gear {
				p.Put(g)
			}
			p.Put(made.Rig)
			said := made.Said
			if set != "" {
				more, err := addSet(cmd, p, set, pattern)
				if err != nil {
					return err
				}
				said = append(said, more...)
			}
			if asJSON {
				return printJSON(cmd, struct {
					Chips []shorthand.Chip `json:"chips"`
					Said  []string         `json:"said"`
					Rig   plan.Rig         `json:"rig"`
					Gear  []plan.Gear      `json:"gear"`
				}{reading.Chips, said, made.Rig, made.Gear})
			}
			for _, words := range said {
				if _, err := fmt.Fprintln(cmd.ErrOrStderr(), words); err != nil {
					return err
				}
			}
			return writePlan(cmd, p, out)
		},
	}
	c.Flags().StringVar(&set, "set", "", "file of a set, a line for each song, or a spreadsheet as text")
	c.Flags().StringVar(&pattern, "pattern", "", `sections of songs that name none, such as "verse clean, chorus crunch"`)
	c.Flags().StringVar(&name, "name", "", "what the rig is called; My rig when absent")
	c.Flags().StringVarP(&out, "out", "o", "", "where the plan is written; printed when absent")
	asJSON.register(c, "print what was understood as JSON in place of the plan")
	return c
}

func examplesCommand() *cobra.Command {
	var out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "examples [ID]", Short: "List the rigs to start from, or print the plan of one", Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if len(args) > 0 {
				p, err := examples.Plan(args[0])
				if err != nil {
					return err
				}
				return writePlan(cmd, p, out)
			}
			if asJSON {
				return printJSON(cmd, examples.All())
			}
			for _, e := range examples.All() {
				if _, err := fmt.Fprintf(cmd.OutOrStdout(), "%-14s %s: %s\n", e.ID, e.Name, e.Line); err != nil {
					return err
				}
			}
			return nil
		},
	}
	c.Flags().StringVarP(&out, "out", "o", "", "where the plan is written; printed when absent")
	asJSON.register(c, "print the list as JSON")
	return c
}

// addSet reads a set and puts its songs, sounds and set list into a plan. What was left out is among the words.
func addSet(cmd *cobra.Command, p *plan.Plan, file, pattern string) ([]string, error) {
	data, err := readFile(cmd, file, exchange.MaxBytes)
	if err != nil {
		return nil, err
	}
	name := strings.TrimSuffix(filepath.Base(file), filepath.Ext(file))
	if file == "-" {
		name = ""
	}
	draft, err := shorthand.ReadSet(string(data), name, pattern)
	if err != nil {
		return nil, reason.Errorf("%s: %w", file, err)
	}
	if len(draft.Songs) == 0 {
		return nil, reason.Errorf("%s has no song", file)
	}
	made, said := shorthand.Songs(draft, p, newID)
	for _, a := range made.All() {
		p.Put(a)
	}
	return append(said, draft.Left...), nil
}
