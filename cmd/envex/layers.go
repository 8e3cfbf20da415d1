package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/layers"
	"envex/core/signal"
)

func layersCommand() *cobra.Command {
	var at showFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "layers FILE", Short: "What a looper records and plays over a set, on which bar", Args: cobra.ExactArgs(1),
		Long: "The presses on the bar that record, play and stop the layers of each song, whether they can be, and what a change of\nsound does to a layer that is recorded already: how much louder and dirtier it is.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			report, err := layers.Compute(p, r.ID, d.ID, l.ID)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, report)
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			var laid []signal.Laid
			for _, s := range report.Songs {
				for _, u := range s.Under {
					laid = append(laid, signal.Laid{Sound: u.Recorded, Recipe: u.Recipe, Over: u.Over})
				}
			}
			var heard []signal.Changed
			if len(laid) > 0 {
				o := signal.Options{Kept: kept}
				if heard, err = signal.Overlaid(cmd.Context(), there, r.ID, laid, o); err != nil {
					return err
				}
			}
			return printLayers(cmd.OutOrStdout(), at.title(r, d), report, heard)
		},
	}
	at.register(c)
	asJSON.register(c, "print the layers as JSON")
	return c
}

func printLayers(w io.Writer, rig string, r *layers.Report, heard []signal.Changed) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %d songs with layers\n", rig, len(r.Songs))
	for _, s := range r.Songs {
		fmt.Fprintln(&b, s.Title)
		for _, p := range s.Presses {
			fmt.Fprintf(&b, "  %7.2f s  %s, bar %g: %s\n", p.AtS, p.Label, p.Bar, p.Words)
		}
		for _, u := range s.Under {
			fmt.Fprintf(&b, "  %s: %s %+.1f LU, %+.0f points of dirt.\n", u.Label, u.Words, heard[0].Louder, heard[0].Dirtier)
			heard = heard[1:]
		}
	}
	for _, f := range r.Findings {
		fmt.Fprintf(&b, "%s: %s\n", f.Title, f.Words)
	}
	for _, a := range r.Assumed {
		fmt.Fprintln(&b, a)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
