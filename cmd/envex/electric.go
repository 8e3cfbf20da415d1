package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/electric"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reason"
)

func electricCommand() *cobra.Command {
	var at rigFlags
	var sound, set, buffer string
	var volume float64
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "electric FILE", Short: "The treble that cables, pots and switched-off pedals take, and whether levels fit",
		Args: cobra.ExactArgs(1),
		Long: "Solves the circuit from the pickup to each active input, for every sound of a rig. Jumps are looked for in a set\nlist; where none is named, in that of the rig's first show, else in the first there is.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			o := electric.Options{Buffer: plan.Key(buffer)}
			if cmd.Flags().Changed("volume") {
				if !(volume >= 0 && volume <= 10) {
					return reason.Errorf("--volume goes from 0 to 10: %g is outside", volume)
				}
				o.Volume = &volume
			}
			if sound != "" {
				one, err := pick(p.Sounds, "sound", sound)
				if err != nil {
					return err
				}
				o.Only = one.ID
			}
			if o.SetList, err = setFor(p, r, set); err != nil {
				return err
			}
			report, err := electric.Solve(p, r.ID, d.ID, o)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, report)
			}
			return printElectric(cmd.OutOrStdout(), at.title(r, d), report)
		},
	}
	at.register(c)
	c.Flags().StringVar(&sound, "sound", "", "name or id of one sound; all when absent")
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list that jumps are looked for in")
	c.Flags().StringVar(
		&buffer, "buffer-before", "", "try a buffer before this stop (gear/block), or before the split of this id",
	)
	c.Flags().Float64Var(&volume, "volume", 10, "the guitar's volume, 0 to 10, in place of what recipes say")
	asJSON.register(c, "print the report as JSON")
	return c
}

// setFor is the set list of that name; without one that of the rig's first show, else the first there
// is, else none.
func setFor(p *plan.Plan, r plan.Rig, name string) (plan.ID, error) {
	if name != "" {
		l, err := pick(p.SetLists, "setlist", name)
		return l.ID, err
	}
	for _, s := range p.Shows {
		if s.Rig == r.ID {
			return s.SetList, nil
		}
	}
	if len(p.SetLists) > 0 {
		return p.SetLists[0].ID, nil
	}
	return "", nil
}

func printElectric(w io.Writer, rig string, r *electric.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: treble at 5 kHz, under the guitar on full through 3 m\n", rig)
	for _, s := range r.Sounds {
		first := "no live buffer"
		if s.FirstBuffer != nil {
			first = "to " + s.BufferName
		}
		peak := "no peak"
		if s.PeakHz != nil {
			peak = fmt.Sprintf("peak %+.1f dB at %.2f kHz", *s.PeakDB, *s.PeakHz/1000)
		}
		fmt.Fprintf(
			&b, "  %-24s %5.1f dB of treble lost, level %.1f dB, %s, %.0f pF %s\n", s.Name, s.Tone5k, s.LevelDB, peak,
			s.BeforePF, first,
		)
	}
	if j := r.Jump; j != nil {
		where := ""
		if j.Position >= 0 {
			where = fmt.Sprintf(" (%s, %s)", j.Song, j.Section)
		}
		fmt.Fprintf(
			&b, "biggest jump: %s to %s%s, %+.1f dB of treble, %+.1f dB of level, %+.1f dB most at %.2f kHz\n", j.FromName,
			j.ToName, where, j.JumpDB, j.LevelDB, j.MostDB, j.MostHz/1000,
		)
	}
	if x := r.Buffer; x != nil {
		fmt.Fprintf(
			&b,
			"%s: the worst sound then loses %.1f dB of treble instead of %.1f, the biggest jump is %.1f dB instead of %.1f\n",
			x.Words, x.WorstDB, x.WorstWas, x.JumpDB, x.JumpWas,
		)
	} else {
		b.WriteString("no buffer anywhere would gain half a decibel\n")
	}
	printFindings(&b, r.Findings)
	for _, a := range r.Assumed {
		fmt.Fprintln(&b, a)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printFindings(b *strings.Builder, list []path.Finding) {
	for _, f := range list {
		kept := ""
		if f.Settled != "" {
			kept = " (kept: " + f.Settled + ")"
		}
		mark := string(f.Gravity)
		if f.Gravity == path.Preference {
			mark = fmt.Sprintf("%g", f.Weight)
		}
		fmt.Fprintf(b, "  %-6s  %s: %s%s\n", mark, f.Title, f.Reason, kept)
		for _, x := range f.Figures {
			fmt.Fprintf(b, "          %s: %g %s\n", x.Name, x.Value, x.Unit)
		}
		for _, m := range f.Repairs {
			fmt.Fprintf(b, "          repair: %s, then %g\n", m.Words, m.Cost)
		}
		for _, w := range f.Ways {
			fmt.Fprintf(b, "          or: %s: %s\n", w.Words, w.Why)
		}
		if f.Caution != "" {
			fmt.Fprintf(b, "          Caution: %s\n", f.Caution)
		}
	}
}
