package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/dial"
)

func knobsCommand() *cobra.Command {
	var at rigFlags
	var sound string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "knobs FILE", Short: "What each knob of a sound does over its travel", Args: cobra.ExactArgs(1),
		Long: `Says for each knob that does something in a sound, those of the guitar among them, what loudness, dirt, brightness
and depth are over its travel, where it is steep, and what a tenth of its turn does where it stands: the one that does most
comes first. The figures are of models of kinds of circuit.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, _, err := at.there(cmd, args[0])
			if err != nil {
				return err
			}
			s, err := pick(p.Sounds, "sound", sound)
			if err != nil {
				return err
			}
			found, err := dial.Knobs(cmd.Context(), p, r.ID, s.ID, "", dial.Options{Kept: kept})
			if err != nil {
				return err
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printTravels(w, found) })
		},
	}
	at.register(c)
	at.registerSong(c)
	c.Flags().StringVar(&sound, "sound", "", "name or id of the sound")
	asJSON.register(c, "print it as JSON")
	return c
}

func printTravels(w io.Writer, found *dial.Travels) error {
	var b strings.Builder
	for _, k := range found.Knobs {
		fmt.Fprintf(&b, "%s at %g. %s", k.Name, k.At, k.Words)
		if k.Steep.To > k.Steep.From {
			fmt.Fprintf(&b, " Steepest from %g to %g.", k.Steep.From, k.Steep.To)
		}
		if k.Shares != "" {
			fmt.Fprintf(&b, " Moves %s too.", k.Shares)
		}
		fmt.Fprintln(&b)
		for _, x := range k.Points {
			fmt.Fprintf(
				&b,
				"    %5.2g  %+6.1f LU  %3.0f %% dirt  %+5.1f dB bright  %+5.1f dB deep\n",
				x.At,
				x.Louder,
				x.Dirt,
				x.Bright,
				x.Deep,
			)
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}
