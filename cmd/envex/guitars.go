package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/guitars"
	"envex/core/plan"
	"envex/core/reason"
)

func guitarsCommand() *cobra.Command {
	var at rigFlags
	var reference, out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "guitars FILE", Short: "The setting that makes each guitar of a rig meet the level of another", Args: cobra.ExactArgs(1),
		Long: `Looks, for each guitar of a rig, for the setting of one knob ahead of the first stage that clips that brings every sound
nearest to what it is on another guitar: its own volume, or a boost, a volume or a compressor in front. With -o it writes
the plan with the nearest for each, as a setting for that guitar alone. The figures are of models of kinds of circuit.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if d.ID != "" {
				return reason.Errorf("guitars are levelled on the rig as it stands: leave --destination out")
			}
			o := guitars.Options{Kept: kept}
			if reference != "" {
				g, err := pick(p.Gear, "reference", reference)
				if err != nil {
					return err
				}
				o.Reference = g.ID
			}
			found, err := guitars.Level(cmd.Context(), p, r.ID, o)
			if err != nil {
				return err
			}
			if out != "" {
				p.Put(found.Levelled(r))
				if err := writePlan(cmd, p, out); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printGuitars(w, found) })
		},
	}
	at.register(c)
	c.Flags().
		StringVar(&reference, "reference", "", "name or id of the guitar to level the others with; the first when absent")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the nearest setting for each guitar")
	asJSON.register(c, "print it as JSON")
	return c
}

func printGuitars(w io.Writer, found *guitars.Report) error {
	var b strings.Builder
	sounds := func(list []guitars.Sound) {
		for _, s := range list {
			fmt.Fprintf(
				&b,
				"      %s: %+.1f LU, %.0f %% dirt, %.0f %% on %s\n",
				s.Name,
				plan.Tenth(s.Loudness),
				s.Dirt,
				s.Reference,
				found.Name,
			)
		}
	}
	for _, g := range found.Guitars {
		fmt.Fprintf(&b, "%s against %s: %+.1f LU at the first stage that clips\n", g.Name, found.Name, g.Input)
		sounds(g.Sounds)
		for i, x := range g.Ways {
			fmt.Fprintf(&b, "   %d. %s: %.1f apart instead of %.1f\n", i+1, x.Words, x.Off, g.Off)
			sounds(x.Sounds)
		}
		if g.Words != "" {
			fmt.Fprintf(&b, "   %s\n", g.Words)
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}
