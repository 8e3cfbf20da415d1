package main

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/midi"
	"envex/core/reason"
)

func midiCommand() *cobra.Command {
	var at rigFlags
	var asCSV bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "midi FILE", Short: "What every program of a rig sends, and to whom", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			report, err := midi.Map(there, r.ID)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, report)
			case asCSV:
				return writeMIDI(cmd.OutOrStdout(), report)
			}
			return printMIDI(cmd.OutOrStdout(), at.title(r, d), report)
		},
	}
	at.register(c)
	asJSON.register(c, "print the map as JSON")
	c.Flags().BoolVar(&asCSV, "csv", false, "print the map as CSV, a message a line")
	c.MarkFlagsMutuallyExclusive("json", "csv")
	return c
}

func writeMIDI(w io.Writer, r *midi.Report) error {
	out := csv.NewWriter(w)
	rows := [][]string{
		{"controller", "bank", "slot", "program", "to", "kind", "channel", "number", "value", "shown", "bytes", "does"},
	}
	for _, p := range r.Programs {
		for _, s := range p.Sends {
			value := ""
			if s.Kind == midi.ControlChange {
				value = strconv.Itoa(s.Value)
			}
			channel := ""
			if s.Channel > 0 {
				channel = strconv.Itoa(s.Channel)
			}
			rows = append(
				rows,
				[]string{
					p.Name, p.Bank, p.Slot, p.Label, s.To, string(s.Kind), channel, strconv.Itoa(s.Number), value,
					strconv.Itoa(s.Shown), s.Bytes, s.Words,
				},
			)
		}
	}
	if err := out.WriteAll(rows); err != nil {
		return reason.Errorf("write the map: %w", err)
	}
	return nil
}

func printMIDI(w io.Writer, rig string, r *midi.Report) error {
	var b strings.Builder
	fmt.Fprintln(&b, rig)
	for _, d := range r.Devices {
		fmt.Fprintf(&b, "  channel %d: %s\n", d.Channel, d.Name)
	}
	for _, p := range r.Programs {
		fmt.Fprintf(&b, "%s %s/%s %s\n", p.Name, p.Bank, p.Slot, p.Label)
		for _, s := range p.Sends {
			fmt.Fprintf(&b, "  %s: %s\n", s.Words, s.Message)
		}
	}
	for _, f := range r.Findings {
		fmt.Fprintf(&b, "%s: %s\n", f.Title, f.Words)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
