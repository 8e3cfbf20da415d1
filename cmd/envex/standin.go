package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/standin"
)

func standInCommand() *cobra.Command {
	var at rigFlags
	var box, set, out string
	var kinds []string
	o := standin.Options{Kept: kept}
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "standin FILE", Short: "What stands in for a box that is not there, set for the sounds that use it",
		Args: cobra.ExactArgs(1),
		Long: `Puts each pedal that is owned and could do the job, and each generic kind with the same effect, in the place
of one of a rig, turns its drive and its level to where all sounds that use it come nearest to their targets and
to what they were, and says what else changes: power, room, MIDI, presses over the set. The nearest come first.
With -o it writes the plan with the first of them in its place. Without --box it gives, for every pedal that is heard,
what comes nearest of all that is owned.
Caution: wrong voltage or polarity kills pedals; check the label first. The figures are of models of kinds of circuit.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if set != "" || len(p.SetLists) == 1 {
				l, err := pick(p.SetLists, "setlist", set)
				if err != nil {
					return err
				}
				o.SetList = l.ID
			}
			if cmd.Flags().Changed("kind") {
				o.Kinds = kinds
			}
			o.At = d.ID
			if box == "" {
				if out != "" || cmd.Flags().Changed("kind") {
					return reason.Errorf("--kind and -o are for one pedal: name it with --box")
				}
				list, err := standin.Each(cmd.Context(), p, r.ID, o)
				if err != nil {
					return err
				}
				return asJSON.print(cmd, list, func(w io.Writer) error { return printReady(w, list) })
			}
			g, err := pick(p.Gear, "box", box)
			if err != nil {
				return err
			}
			found, err := standin.For(cmd.Context(), p, r.ID, g.ID, o)
			if err != nil {
				return err
			}
			if out != "" {
				if err := writeStandIn(cmd, p, found, out); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printStandIns(w, found) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&box, "box", "", "name or id of the pedal that is not there; each in turn when absent")
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list over which presses are counted")
	c.Flags().StringSliceVar(
		&kinds, "kind", nil, "a generic kind that may stand in; those with the same effect when absent",
	)
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the first in its place")
	asJSON.register(c, "print it as JSON")
	return c
}

// writeStandIn writes the plan with the first offer taken: on the rig as it stands, destinations and all.
func writeStandIn(cmd *cobra.Command, p *plan.Plan, found *standin.Report, out string) error {
	if len(found.Offers) == 0 {
		return reason.Errorf("nothing stands in for %s", found.Name)
	}
	best := found.Offers[0]
	if best.New != nil {
		p.Put(*best.New)
	}
	p.Put(best.Rig)
	return writePlan(cmd, p, out)
}

func printStandIns(w io.Writer, found *standin.Report) error {
	var b strings.Builder
	if len(found.Sounds) == 0 {
		fmt.Fprintf(&b, "%s is on in no sound\n", found.Name)
	}
	for _, s := range found.Sounds {
		as := ""
		if s.AsItIs {
			as = "; it has no targets and is compared with this"
		}
		fmt.Fprintf(
			&b,
			"%s with %s: %+.1f LU, %.0f %% dirt%s\n",
			s.Name,
			found.Name,
			plan.Tenth(s.OverHome),
			s.Dirt,
			as,
		)
	}
	for i := range found.Offers {
		printOffer(&b, i, &found.Offers[i], len(found.Sounds))
	}
	if len(found.Offers) == 0 {
		fmt.Fprintf(&b, "nothing stands in for %s\n", found.Name)
	}
	for _, x := range found.Left {
		fmt.Fprintf(&b, "not %s: %s\n", x.Name, x.Why)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

// printReady prints what is owned for each pedal.
func printReady(w io.Writer, list []standin.Ready) error {
	var b strings.Builder
	for _, x := range list {
		if x.By == nil {
			fmt.Fprintf(&b, "%s: nothing that is owned and not in the chain does its job\n", x.Name)
			continue
		}
		fmt.Fprintf(&b, "%s\n", x.Name)
		printOffer(&b, 0, x.By, len(x.Sounds))
	}
	if len(list) == 0 {
		fmt.Fprintln(&b, "no sound has a pedal on")
	}
	_, err := io.WriteString(w, b.String())
	return err
}

// printOffer prints what one box comes to.
func printOffer(b *strings.Builder, i int, o *standin.Offer, sounds int) {
	owned := "owned"
	if o.Kind != "" {
		owned = "not owned"
	}
	fmt.Fprintf(
		b,
		"%d. %s, %s: %d of %d sounds within their targets\n",
		i+1,
		o.Name,
		owned,
		o.Within,
		sounds,
	)
	for _, s := range o.Sounds {
		fmt.Fprintf(b, "   %s: %+.1f LU, %.0f %% dirt\n", s.Name, plan.Tenth(s.OverHome), s.Dirt)
		for _, c := range s.Checks {
			if !c.Met {
				fmt.Fprintf(b, "      %s\n", c.Words)
			}
		}
	}
	for _, k := range o.Knobs {
		fmt.Fprintf(b, "   %s at %s\n", k.Name, k.Where())
	}
	for _, h := range o.Held {
		var places []string
		for _, k := range h.Knobs {
			places = append(places, k.Name+" at "+k.Where())
		}
		fmt.Fprintf(b, "   preset %s: %s\n", h.Preset, strings.Join(places, "; "))
	}
	if costs := o.Costs; len(costs) > 0 {
		fmt.Fprintf(b, "   over the set: %s\n", strings.Join(costs, ", "))
	}
	for _, words := range o.Also {
		fmt.Fprintf(b, "   %s\n", words)
	}
}
