package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/beside"
	"envex/core/plan"
	"envex/core/reason"
)

func besideCommand() *cobra.Command {
	var at rigFlags
	var set, slot string
	var into []string
	var tempo []float64
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "beside FILE", Short: "One set side by side with the boxes of a swap slot, at several destinations, faster or slower",
		Args: cobra.ExactArgs(1),
		Long: `Works everything out for one set in several ways, side by side: reach and presses, how loud and how dirty each sound is
and whether it is within its targets, the treble it loses, power, leads, weight, and what is wrong in one way and not in
the first. The first is the rig as it stands, or where --destination says.
The figures are of models of kinds of circuit.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", set)
			if err != nil {
				return err
			}
			ways, err := besideWays(p, &r, &d, slot, into, tempo)
			if err != nil {
				return err
			}
			found, err := beside.For(cmd.Context(), p, r.ID, l.ID, ways, beside.Options{Kept: kept})
			if err != nil {
				return err
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printBeside(w, found) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list")
	c.Flags().StringVar(&slot, "slot", "", "name or id of a swap slot: each of its boxes")
	c.Flags().StringArrayVar(&into, "into", nil, "name or id of a destination; can be given again")
	c.Flags().Float64SliceVar(&tempo, "tempo", nil, "how much faster all songs are, in per cent: -4,4")
	asJSON.register(c, "print it as JSON")
	return c
}

func besideWays(
	p *plan.Plan, r *plan.Rig, d *plan.Destination, slot string, into []string, tempo []float64,
) ([]beside.Way, error) {
	var found *plan.Swap
	if slot != "" {
		s, err := findSlot(r, slot)
		if err != nil {
			return nil, err
		}
		found = s
	}
	var places []plan.ID
	for _, name := range into {
		there, err := (&rigFlags{destination: name}).destinationIn(*r)
		if err != nil {
			return nil, err
		}
		places = append(places, there.ID)
	}
	return beside.Ways(p, r, d.ID, beside.Asked{Slot: found, Into: places, TempoPct: tempo})
}

func findSlot(r *plan.Rig, name string) (*plan.Swap, error) {
	var names []string
	for i := range r.Swaps {
		s := &r.Swaps[i]
		names = append(names, s.Name)
		if string(s.ID) == name || strings.EqualFold(s.Name, name) {
			return s, nil
		}
	}
	if len(names) == 0 {
		return nil, reason.Errorf("%s has no swap slots", r.Name)
	}
	return nil, reason.Errorf("%s has no swap slot %q; it has %s", r.Name, name, strings.Join(names, ", "))
}

func printBeside(w io.Writer, found *beside.Report) error {
	var b strings.Builder
	for _, c := range found.Columns {
		o := c.Outcome
		fmt.Fprintf(&b, "%s: reach %d/%d, %s, %d by hand, %d of %d sounds within their targets\n", c.Name,
			o.Reached, o.Total, plan.Counted(o.Presses, "press", "presses"), o.ByHand, c.Within, len(c.Sounds))
		fmt.Fprintf(
			&b,
			"   %.0f mA, %s, %.1f m of cable, %.2f kg on the board\n",
			c.DrawnMA,
			plan.Counted(c.Leads, "lead", "leads"),
			c.CableM,
			c.WeightG/1000,
		)
		for _, s := range c.Sounds {
			if !s.Made {
				fmt.Fprintf(&b, "   %s: not made\n", s.Name)
				continue
			}
			fmt.Fprintf(
				&b,
				"   %s: %+.1f LU, %.0f %% dirt, %+.1f dB at 5 kHz\n",
				s.Name,
				plan.Tenth(s.OverHome),
				s.Dirt,
				plan.Tenth(-s.TrebleDB),
			)
			for _, x := range s.Checks {
				if !x.Met {
					fmt.Fprintf(&b, "      %s\n", x.Words)
				}
			}
		}
		for _, f := range c.Findings {
			fmt.Fprintf(&b, "   %s\n", f.Title)
		}
	}
	for _, a := range found.Assumed {
		fmt.Fprintf(&b, "%s\n", a)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
