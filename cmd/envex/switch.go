package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/switching"
)

func switchCommand() *cobra.Command {
	var at showFlags
	var controller, school string
	var loops bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "switch FILE", Short: "Which programs a controller needs, and the slot of each", Args: cobra.ExactArgs(1),
		Long: "Lays out the programs of a rig's controller for a set list: one page for the whole night, a bank per song, or\nno programs and a switch for every loop. Says whether the layout is proven the least and what reach it gives.\nThe file is not changed.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			o := switching.Options{School: switching.School(school), ChooseLoops: loops}
			if controller != "" {
				g, err := pick(p.Gear, "controller", controller)
				if err != nil {
					return err
				}
				o.Controller = g.ID
			}
			s, err := switching.Solve(cmd.Context(), there, r.ID, l.ID, o)
			if err != nil {
				return err
			}
			return asJSON.print(cmd, s, func(w io.Writer) error { return printSwitch(w, at.title(r, d), s) })
		},
	}
	at.register(c)
	c.Flags().StringVar(
		&controller, "controller", "", "name or id of the controller, where the rig has several or it is not in the rig yet",
	)
	c.Flags().StringVar(&school, "school", string(switching.Page), "page, song or direct")
	c.Flags().BoolVar(&loops, "loops", false, "choose which blocks get loops too")
	asJSON.register(c, "print the solution as JSON")
	return c
}

func printSwitch(w io.Writer, rig string, s *switching.Solution) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %s\n", rig, s.Words)
	fmt.Fprintf(
		&b, "reach %d of %d; as it stands %d of %d\n", s.Reach.Reached, s.Reach.Total, s.Before.Reached, s.Before.Total,
	)
	for _, l := range s.Loops {
		held := ""
		if l.Held {
			held = ", held on"
		}
		stops := strings.Join(l.Stops, ", ")
		if stops == "" {
			stops = "spare"
		}
		fmt.Fprintf(&b, "  loop %d: %s%s\n", l.Loop, stops, held)
	}
	for _, x := range s.Programs {
		fmt.Fprintf(&b, "  bank %s slot %s: %s\n", x.Bank, x.Slot, x.Sound)
	}
	for _, n := range s.Notes {
		fmt.Fprintln(&b, n)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
