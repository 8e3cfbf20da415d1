package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/repair"
	"envex/core/switching"
)

// showFlags choose a rig, where it plugs in, and the set it plays.
type showFlags struct {
	rigFlags
	setList string
}

func (f *showFlags) register(c *cobra.Command) {
	f.rigFlags.register(c)
	c.Flags().StringVar(&f.setList, "setlist", "", "name or id of the set list")
}

// read reads a file, and finds in it what the flags name.
func (f *showFlags) read(cmd *cobra.Command, file string) (*plan.Plan, plan.Rig, plan.Destination, plan.SetList, error) {
	p, r, d, err := f.rigFlags.read(cmd, file)
	if err != nil {
		return nil, r, d, plan.SetList{}, err
	}
	l, err := pick(p.SetLists, "setlist", f.setList)
	return p, r, d, l, err
}

func repairsCommand() *cobra.Command {
	var at showFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "repairs FILE", Short: "The smallest edits that mend each change that fails", Args: cobra.ExactArgs(1),
		Long: "For every change of the set that fails: what would mend it, each verified on the whole show, with the reach it gives\nand what it would break. The file is not changed.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			report, err := repair.Find(cmd.Context(), p, repair.Site{Rig: r.ID, Destination: d.ID}, l.ID, repair.Options{})
			if err != nil {
				return err
			}
			return asJSON.print(cmd, report, func(w io.Writer) error {
				return printRepairs(w, at.title(r, d), report)
			})
		},
	}
	at.register(c)
	asJSON.register(c, "print the report as JSON")
	return c
}

func printRepairs(w io.Writer, rig string, r *repair.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: reach %d of %d\n", rig, r.Before.Reached, r.Before.Total)
	for _, f := range r.Failures {
		hand := ""
		if f.SlowHand {
			hand = " (needs a hand: no switch can do this)"
		}
		fmt.Fprintf(&b, "%s, %s: %s to %s. %s%s\n", f.Place.Song, f.Place.Section, f.From, f.To, f.Reason, hand)
		for _, x := range f.Repairs {
			fmt.Fprintf(&b, "  %s: reach %s\n", x.Words, reachedOf(x.Reach))
			if x.Boxes > 0 {
				fmt.Fprintf(&b, "      takes %d more in the rig\n", x.Boxes)
			}
			for _, y := range x.Breaks {
				fmt.Fprintf(&b, "      breaks %s\n", y)
			}
			for _, y := range x.Minds {
				fmt.Fprintf(&b, "      %s\n", y)
			}
		}
		if len(f.Repairs) == 0 {
			fmt.Fprintf(&b, "  No repair of two edits was found. %s\n", f.Takes)
		}
	}
	if !r.Complete {
		fmt.Fprintln(&b, "Not everything was tried.")
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func reachedOf(o switching.Outcome) string { return fmt.Sprintf("%d of %d", o.Reached, o.Total) }

func compareCommand() *cobra.Command {
	var at showFlags
	var with, withAt string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "compare FILE", Short: "The same set on another rig", Args: cobra.ExactArgs(1),
		Long: "Which sounds survive on the other rig, which changes fail there, and the smallest additions that would bring the rest.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			other := rigFlags{rig: with, destination: withAt}
			r2, d2, err := other.pick(p)
			if err != nil {
				return err
			}
			found, err := repair.Compare(
				cmd.Context(), p, repair.Site{Rig: r.ID, Destination: d.ID}, repair.Site{Rig: r2.ID, Destination: d2.ID}, l.ID,
			)
			if err != nil {
				return err
			}
			return asJSON.print(cmd, found, func(w io.Writer) error {
				return printComparison(w, at.title(r, d), other.title(r2, d2), found)
			})
		},
	}
	at.register(c)
	c.Flags().StringVar(&with, "with", "", "name or id of the other rig")
	c.Flags().StringVar(&withAt, "with-destination", "", "where the other rig plugs in")
	asJSON.register(c, "print the comparison as JSON")
	return c
}

func printComparison(w io.Writer, here, there string, c *repair.Comparison) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: reach %s\n%s: reach %s\n", here, reachedOf(c.Reach), there, reachedOf(c.Other))
	for _, s := range c.Sounds {
		fmt.Fprintf(&b, "  %s: %s\n", s.Name, s.Words)
	}
	for _, x := range c.Changes {
		fmt.Fprintf(&b, "  %s, %s: %s here, %s there. %s\n", x.Place.Song, x.Place.Section, x.Here, x.There, x.Words)
	}
	for _, x := range c.Additions {
		fmt.Fprintf(&b, "  %s: reach %s\n", x.Words, reachedOf(x.Reach))
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func whatIfCommand() *cobra.Command {
	var at showFlags
	var gear, kind string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "whatif FILE", Short: "What adding a pedal would gain", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			box := repair.Box{Gear: "what-if", Kind: kind}
			if kind == "" {
				g, err := pick(p.Gear, "gear", gear)
				if err != nil {
					return err
				}
				box.Gear = g.ID
			}
			found, err := repair.Consider(cmd.Context(), p, repair.Site{Rig: r.ID, Destination: d.ID}, l.ID, box)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, found)
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(),
				"%s %s: reach %s, %s without it. Order costs %g, %g without it.\nIt lets the rig make: %s\nIt brings: %s\n",
				found.Name, found.Where, reachedOf(found.Reach), reachedOf(found.Before), found.Cost, found.Was,
				orNothing(found.Sounds), orNothing(found.Brings))
			return err
		},
	}
	at.register(c)
	c.Flags().StringVar(&gear, "gear", "", "name or id of a box that is owned")
	c.Flags().StringVar(&kind, "kind", "", "or a generic kind, as envex kinds lists them")
	asJSON.register(c, "print the answer as JSON")
	return c
}

func orNothing(list []string) string {
	if len(list) == 0 {
		return "nothing more"
	}
	return strings.Join(list, ", ")
}
