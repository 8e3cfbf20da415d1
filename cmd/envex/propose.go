package main

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/propose"
)

func proposeCommand() *cobra.Command {
	var at rigFlags
	var sound, set, out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "propose FILE", Short: "Which boxes, presets and knobs make sounds that have no recipe yet",
		Args: cobra.ExactArgs(1),
		Long: `Looks for recipes of the sounds that have none, or of one sound: every choice of at most two gain stages, with every
channel, and one block for each effect that is asked; where none is within the targets, one stage is turned too, its drive
in steps of 2 and its level in steps of 1. Up to three ways each, within the targets first, then without a hand, then with
the fewest presses over the set. With -o it writes the plan with the first way of each taken.
The figures are of models of kinds of circuit.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			o := propose.Options{Destination: d.ID, NewID: newID, Kept: kept}
			if sound != "" {
				s, err := pick(p.Sounds, "sound", sound)
				if err != nil {
					return err
				}
				o.Sounds = []plan.ID{s.ID}
			}
			if set != "" || len(p.SetLists) == 1 {
				l, err := pick(p.SetLists, "set list", set)
				if err != nil {
					return err
				}
				o.SetList = l.ID
			}
			found, err := propose.For(cmd.Context(), p, r.ID, o)
			if err != nil {
				return err
			}
			if out != "" {
				p.Put(found.Taken)
				if err := writePlan(cmd, p, out); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printProposal(w, r.Name, found) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&sound, "sound", "", "name or id of one sound; all without a recipe when absent")
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list over which presses are counted")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the first way of each sound taken")
	asJSON.register(c, "print it as JSON")
	return c
}

func printProposal(w io.Writer, rig string, found *propose.Proposal) error {
	if len(found.Sounds) == 0 {
		_, err := fmt.Fprintf(w, "every sound has a recipe on %s\n", rig)
		return err
	}
	for _, s := range found.Sounds {
		if _, err := fmt.Fprintf(w, "%s\n", s.Name); err != nil {
			return err
		}
		if s.Part {
			if _, err := fmt.Fprintln(w, "  there are more settings than were tried: the nearest were"); err != nil {
				return err
			}
		}
		if len(s.Ways) == 0 {
			if _, err := fmt.Fprintf(w, "  %s has not what it asks\n", rig); err != nil {
				return err
			}
		}
		for _, x := range s.Ways {
			word := "within"
			if !x.Within {
				word = "misses"
			}
			if _, err := fmt.Fprintf(
				w, "  %s  %+.1f LU, %.0f %% dirt, %s, %d by hand: %s\n", word,
				plan.Tenth(x.OverHome), x.Dirt, plan.Counted(x.Presses, "press", "presses"), x.ByHand,
				x.Words,
			); err != nil {
				return err
			}
			if x.Near != nil {
				if _, err := fmt.Fprintf(w, "          its spectrum is %s\n", x.Near.Words); err != nil {
					return err
				}
			}
			for _, c := range x.Checks {
				if !c.Met {
					if _, err := fmt.Fprintf(w, "          %s\n", c.Words); err != nil {
						return err
					}
				}
			}
		}
	}
	return nil
}
